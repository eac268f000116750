/** When something has been drawn. */

/** Calls `f` when a frame has been drawn and another one is on its way; what it returns calls that off. */
export function afterFrame(f: () => void): () => void {
  let frame = requestAnimationFrame(() => (frame = requestAnimationFrame(f)));
  return () => cancelAnimationFrame(frame);
}

/** Milliseconds after which a page that is not in view goes on: it draws nothing. */
const UNSEEN = 150;

/** Fulfilled when what is there now has been drawn. */
export const drawn = (): Promise<void> =>
  new Promise((done) => {
    const late = setTimeout(done, UNSEEN);
    afterFrame(() => {
      clearTimeout(late);
      done();
    });
  });
