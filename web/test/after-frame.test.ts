/** What follows when a frame has been drawn: not in the frame itself, and not while newer values come. */
import { afterFrame, drawn } from '../src/project/frames';

let asked: Map<number, () => void>;
let ids = 0;
/** A frame of the browser: what was asked for before it, unless called off, also by one that came before in the same frame. */
const frame = (): void => {
  for (const id of [...asked.keys()]) {
    const f = asked.get(id);
    asked.delete(id);
    f?.();
  }
};
beforeEach(() => {
  asked = new Map();
  Object.assign(globalThis, {
    requestAnimationFrame: (f: () => void): number => (asked.set(++ids, f), ids),
    cancelAnimationFrame: (id: number): void => void asked.delete(id),
  });
});

test('it comes with the second frame, once', () => {
  const heard = jest.fn();
  afterFrame(heard);
  frame();
  expect(heard).not.toHaveBeenCalled();
  frame();
  frame();
  expect(heard).toHaveBeenCalledTimes(1);
});

test.each([0, 1])('called off after %s frames it does not come', (frames) => {
  const heard = jest.fn();
  const callOff = afterFrame(heard);
  for (let i = 0; i < frames; i++) frame();
  callOff();
  frame();
  frame();
  expect([heard.mock.calls.length, asked.size]).toEqual([0, 0]);
});

test('while each frame brings a newer one only the last comes, when it is over', () => {
  const heard: number[] = [];
  let callOff: (() => void) | undefined;
  for (let i = 0; i < 10; i++) {
    callOff?.();
    callOff = afterFrame(() => heard.push(i));
    frame();
  }
  expect(heard).toEqual([]);
  frame();
  expect(heard).toEqual([9]);
});

test.each<[string, boolean, number, number, boolean]>([
  ['in view, its first frame still being made', false, 0, 1900, false],
  ['in view, one frame', false, 1, 1900, false],
  ['in view, the second frame', false, 2, 0, true],
  ['in view, and nothing is ever drawn', false, 0, 2000, true],
  ['behind another page, just now', true, 0, 149, false],
  ['behind another page, a moment later', true, 0, 150, true],
])('drawn: %s', async (_, hidden, frames, milliseconds, told) => {
  jest.useFakeTimers();
  Object.assign(globalThis, { document: { hidden } });
  const heard = jest.fn();
  void drawn().then(heard);
  for (let i = 0; i < frames; i++) frame();
  await jest.advanceTimersByTimeAsync(milliseconds);
  expect(heard).toHaveBeenCalledTimes(told ? 1 : 0);
  jest.useRealTimers();
});
