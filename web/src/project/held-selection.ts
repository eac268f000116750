/** Which selection is shown by what waits for the dates of an edit. */
export interface HeldSelection<T> {
  /** What is selected, and how many edits there had been when it was drawn last. */
  now: T;
  edits: number;
  /** Whether an edit moved the selection, as Enter in a cell does. */
  moved: boolean;
  shown: T;
}

/** The next of them: the selection before is shown while dates come `soon` after an edit that moved it, and only then. */
export function heldSelection<T>(last: HeldSelection<T>, selected: T, edits: number, soon: boolean): HeldSelection<T> {
  const moved = selected === last.now ? last.moved : edits !== last.edits;
  return { now: selected, edits, moved, shown: moved && soon ? last.shown : selected };
}
