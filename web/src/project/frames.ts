/** When something has been drawn. */

/** Calls `f` when a frame has been drawn and another one is on its way; what it returns calls that off. */
export function afterFrame(f: () => void): () => void {
  let frame = requestAnimationFrame(() => (frame = requestAnimationFrame(f)));
  return () => cancelAnimationFrame(frame);
}

/** Milliseconds after which a page goes on that draws nothing: behind another it never does, and in view a frame of a large plan can take long. */
const [BEHIND, IN_VIEW] = [150, 2000];

/** Fulfilled when what is there now has been drawn. */
export const drawn = (): Promise<void> =>
  new Promise((done) => {
    const late = setTimeout(done, document.hidden ? BEHIND : IN_VIEW);
    afterFrame(() => {
      clearTimeout(late);
      done();
    });
  });
