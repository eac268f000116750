/** How work lies along a length: weights over equal parts, and the boundaries of the parts (resource rules, section 5). */
import type { Assignment, Spread } from '../model/resource-schema.ts';

const early = [19, 17, 15, 13, 11, 9, 7, 5, 3, 1];
const named: Record<Exclude<Spread, 'own'>, readonly number[]> = { even: [1], early, late: [...early].reverse(), middle: [3, 6, 11, 14, 16, 16, 14, 11, 6, 3] };

/** Weights of the equal parts of an assignment's length. */
export const weightsOf = (x: Pick<Assignment, 'spread' | 'ownSpread'>): readonly number[] => (x.spread !== 'own' ? named[x.spread] : x.ownSpread.length ? x.ownSpread : named.even);

/** Half up, to a whole number; what floating point has lost just below a half is not lost. */
export const halfUp = (n: number): number => Math.floor(n + 0.5 + 1e-9);

/** A part of a length: from one position to another, and its share of the work. */
export interface Part {
  from: number;
  to: number;
  share: number;
}

/** Parts with length, of parts whose boundaries and weights are given; what has none gives its weight to the next that has (at the end: to the last). */
function parted(boundaries: readonly number[], weights: readonly number[]): Part[] {
  const total = weights.reduce((a, b) => a + b, 0);
  const out: Part[] = [];
  let carried = 0;
  let from = 0;
  boundaries.forEach((to, k) => {
    carried += weights[k]!;
    if (to <= from) return;
    out.push({ from, to, share: carried / total });
    carried = 0;
    from = to;
  });
  const last = out[out.length - 1];
  if (last && carried > 0) last.share += carried / total;
  return out;
}

/** The parts of a length. Boundary k of n lies at `round(len x k / n)`. Empty without length. */
export function partsOf(length: number, weights: readonly number[]): Part[] {
  const n = weights.length;
  return parted(
    weights.map((_, k) => halfUp((length * (k + 1)) / n)),
    weights,
  );
}

/** F: the share that is done at a place on a length (both whole positions); without length all once the place is reached. */
export function shareDone(length: number, weights: readonly number[], place: number): number {
  if (length <= 0) return place >= 0 ? 1 : 0;
  if (place >= length) return 1;
  let done = 0;
  for (const p of partsOf(length, weights)) {
    if (place >= p.to) done += p.share;
    else if (place > p.from) done += (p.share * (place - p.from)) / (p.to - p.from);
  }
  return Math.min(done, 1);
}

/**
 * The parts of what is left (`rest` positions) of work that has reached a place on its length: boundary k at
 * `round(rest x (k/n - x)/(1 - x))`; where nothing of the spread is left, even.
 */
export function partsLeft(rest: number, length: number, weights: readonly number[], place: number): Part[] {
  if (rest <= 0) return [];
  if (place <= 0 && length > 0) return partsOf(rest, weights);
  const even: Part[] = [{ from: 0, to: rest, share: 1 }];
  if (place >= length) return even;
  const n = weights.length;
  const total = weights.reduce((a, b) => a + b, 0);
  const done = shareDone(length, weights, place) * total;
  const boundaries: number[] = [];
  const left: number[] = [];
  let cumulative = 0;
  let from = done;
  weights.forEach((w, k) => {
    cumulative += w;
    if ((k + 1) * length <= n * place) return;
    boundaries.push(halfUp((rest * ((k + 1) * length - n * place)) / (n * (length - place))));
    left.push(Math.max(0, cumulative - from));
    from = Math.max(from, cumulative);
  });
  return left.some((w) => w > 1e-9) ? parted(boundaries, left) : even;
}
