/** When something has been drawn. */

/** Calls `f` when a frame has been drawn and another one is on its way; what it returns calls that off. */
export function afterFrame(f: () => void): () => void {
  let frame = requestAnimationFrame(() => (frame = requestAnimationFrame(f)));
  return () => cancelAnimationFrame(frame);
}

/** Calls `f` as soon as the frame has been drawn that is being made, or that comes next. */
function behindFrame(f: () => void): void {
  requestAnimationFrame(() => {
    // A message is heard when the frame is done.
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = f;
    port2.postMessage(null);
  });
}

/** Milliseconds after which a page that is not in view goes on: it draws nothing. */
const UNSEEN = 150;

/** Fulfilled by what calls back, or a moment later where nothing is drawn. */
const orLate = (begin: (done: () => void) => void): Promise<void> =>
  new Promise((done) => {
    const late = setTimeout(done, UNSEEN);
    begin(() => {
      clearTimeout(late);
      done();
    });
  });

/** Fulfilled when what is there now has been drawn, and the next frame begins. */
export const drawn = (): Promise<void> => orLate(afterFrame);

/** Fulfilled as soon as what is there now has been drawn: before anything that waits for the next frame. */
export const painted = (): Promise<void> => orLate(behindFrame);
