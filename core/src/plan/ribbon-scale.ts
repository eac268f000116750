/**
 * A scale of its own for the path ribbon: what is done and what is stopped is pressed together, so that each piece of
 * work ahead has room for its number. Order and direction stay; lengths compare within what is ahead.
 */
import type { Instant } from '../time/instant.ts';
import { MINUTES_PER_DAY } from '../time/instant.ts';

export interface RibbonPiece {
  /** Which activity of the path it is of. */
  part: number;
  from: Instant;
  to: Instant;
  done: boolean;
}

/** Instants in order, and where each stands in pixels; between them it is linear. */
export interface RibbonScale {
  at: readonly Instant[];
  x: readonly number[];
}

/** Pixels that a number needs, that a long stop keeps, and that all that is done keeps at most. */
const NUMBER = 31;
const STOP = 34;
const DONE = 40;
/** A stop up to this long (nights, a weekend) is as it is. */
const SHORT_STOP = 3 * MINUTES_PER_DAY;
/** Share of the width that smallest sizes take at most: the rest tells lengths. */
const MOST_FIXED = 0.8;

/** The scale for the pieces of a path in a width of pixels. */
export function ribbonScale(pieces: readonly RibbonPiece[], width: number): RibbonScale {
  const at = [...new Set(pieces.flatMap((p) => [p.from, p.to]))].sort((a, b) => a - b);
  const n = Math.max(0, at.length - 1);
  const [ahead, done] = [new Uint8Array(n), new Uint8Array(n)];
  const index = new Map(at.map((t, i) => [t, i]));
  const span = (p: RibbonPiece): [number, number] => [index.get(p.from) ?? 0, index.get(p.to) ?? 0];
  for (const p of pieces) for (let [i, end] = span(p); i < end; i++) (p.done ? done : ahead)[i] = 1;
  // What stands whatever the lengths are, and what is shared out by length.
  const fixed = new Float64Array(n);
  const shared = new Float64Array(n);
  let doneLength = 0;
  for (let i = 0; i < n; i++) {
    const length = at[i + 1]! - at[i]!;
    if (ahead[i]) shared[i] = length;
    else if (done[i]) doneLength += length;
    else if (length > SHORT_STOP) fixed[i] = STOP;
    else shared[i] = length;
  }
  for (let i = 0; i < n; i++) if (!ahead[i] && done[i]) fixed[i] = (DONE * (at[i + 1]! - at[i]!)) / doneLength;
  // The longest stretch of each activity ahead gets the room for its number.
  const longest = new Map<number, number>();
  for (const p of pieces) {
    if (p.done) continue;
    for (let [i, end] = span(p); i < end; i++) {
      const best = longest.get(p.part);
      if (best === undefined || at[i + 1]! - at[i]! > at[best + 1]! - at[best]!) longest.set(p.part, i);
    }
  }
  const numbered = new Set(longest.values());
  const stands = fixed.reduce((a, b) => a + b, 0);
  const press = Math.min(1, (width * MOST_FIXED) / Math.max(1, stands + numbered.size * NUMBER));
  for (let i = 0; i < n; i++) fixed[i]! *= press;
  for (const i of numbered) fixed[i]! += NUMBER * press;
  const rest = width - fixed.reduce((a, b) => a + b, 0);
  const total = shared.reduce((a, b) => a + b, 0);
  const x = [0];
  for (let i = 0; i < n; i++) x.push(x[i]! + fixed[i]! + (total > 0 ? (rest * shared[i]!) / total : 0));
  return { at, x: at.length ? x : [] };
}

/** Where an instant stands; before the first and after the last at the ends. */
export function onRibbon({ at, x }: RibbonScale, t: Instant): number {
  const last = at.length - 1;
  if (last < 0 || t <= at[0]!) return 0;
  if (t >= at[last]!) return x[last]!;
  let [low, high] = [0, last];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (at[middle]! <= t) low = middle;
    else high = middle;
  }
  return x[low]! + ((t - at[low]!) / (at[high]! - at[low]!)) * (x[high]! - x[low]!);
}
