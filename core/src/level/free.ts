/** What is left of a resource while work is placed on it: capacity less what is placed, as one step function in parts that say their least and greatest. */
import type { Steps } from '../load/steps.ts';
import { lastNotAbove } from '../time/patched.ts';
import type { Instant } from '../time/instant.ts';

/** Thousandths of units that may be missing without being so. */
const FORGIVEN = 0.001;
/** Steps of a part: few enough to be moved up for one more, many enough that most of a full year is passed over at once. */
const PART = 128;

interface Part {
  at: number[];
  value: number[];
  least: number;
  most: number;
}
const partOf = (at: number[], value: number[]): Part => {
  const p = { at, value, least: 0, most: 0 };
  measure(p);
  return p;
};
function measure(p: Part): void {
  let least = Infinity;
  let most = -Infinity;
  for (const v of p.value) {
    if (v < least) least = v;
    if (v > most) most = v;
  }
  p.least = least;
  p.most = most;
}

export class Free {
  private parts: Part[] = [];
  /** Where each part begins. */
  private begins: number[] = [];

  /** `there`: what is there over a horizon; outside of it nothing is. */
  constructor(there: Steps) {
    for (let n = 0; n < there.at.length; n += PART) this.parts.push(partOf(there.at.slice(n, n + PART), there.value.slice(n, n + PART)));
    this.begins = this.parts.map((p) => p.at[0]!);
  }

  copy(): Free {
    const out = new Free({ at: [], value: [] });
    out.parts = this.parts.map((p) => ({ ...p, at: p.at.slice(), value: p.value.slice() }));
    out.begins = this.begins.slice();
    return out;
  }

  /**
   * The first stretch in [from, to) in which less than `units` is free, up to where so much is free again; undefined where
   * all of it fits.
   */
  blockedUntil(from: Instant, to: Instant, units: number): { from: Instant; until: Instant } | undefined {
    const least = units - FORGIVEN;
    let i = lastNotAbove(this.begins, from);
    if (i < 0) return least > 0 ? { from, until: Math.max(this.begins[0] ?? to, from + 1) } : undefined;
    let n = lastNotAbove(this.parts[i]!.at, from);
    for (; i < this.parts.length; i++, n = 0) {
      const p = this.parts[i]!;
      if (p.at[n]! >= to) return undefined;
      if (p.least >= least) continue;
      for (; n < p.at.length; n++) {
        if (p.at[n]! >= to) return undefined;
        if (p.value[n]! < least) return { from: Math.max(p.at[n]!, from), until: this.freeFrom(i, n, least) };
      }
    }
    return undefined;
  }

  /** The first instant behind a step at which so much is free. */
  private freeFrom(part: number, step: number, least: number): Instant {
    for (let i = part, n = step + 1; i < this.parts.length; i++, n = 0) {
      const p = this.parts[i]!;
      if (p.most < least) continue;
      for (; n < p.at.length; n++) if (p.value[n]! >= least) return p.at[n]!;
    }
    return Infinity;
  }

  /** The last stretch in [from, to) in which less than `units` is free: from where on it is so, without a break. Undefined where all of it fits. */
  blockedSince(from: Instant, to: Instant, units: number): Instant | undefined {
    const least = units - FORGIVEN;
    let since: Instant | undefined;
    for (let i = lastNotAbove(this.begins, to - 1); i >= 0; i--) {
      const p = this.parts[i]!;
      // Before any blocked step is seen, free parts are passed over; afterwards blocked ones.
      if (since === undefined ? p.least >= least : p.most < least) {
        if (since !== undefined) since = p.at[0]!;
        else if (p.at[0]! <= from) return undefined;
        continue;
      }
      for (let n = since === undefined ? lastNotAbove(p.at, to - 1) : p.at.length - 1; n >= 0; n--) {
        if (p.value[n]! < least) since = p.at[n]!;
        else if (since !== undefined) return since;
        if (since === undefined && p.at[n]! <= from) return undefined;
      }
    }
    return since;
  }

  /** Takes units out of [from, to). */
  take(from: Instant, to: Instant, units: number): void {
    this.cut(from);
    this.cut(to);
    let i = lastNotAbove(this.begins, from);
    if (i < 0) return;
    let n = lastNotAbove(this.parts[i]!.at, from);
    for (; i < this.parts.length; i++, n = 0) {
      const p = this.parts[i]!;
      if (p.at[n]! >= to) return;
      for (; n < p.at.length && p.at[n]! < to; n++) p.value[n]! -= units;
      measure(p);
    }
  }

  /** Sees to a step at an instant. */
  private cut(t: Instant): void {
    const i = Math.max(lastNotAbove(this.begins, t), 0);
    const p = this.parts[i];
    if (!p) {
      this.parts.push(partOf([t], [0]));
      this.begins.push(t);
      return;
    }
    const n = lastNotAbove(p.at, t);
    if (n >= 0 && p.at[n] === t) return;
    p.at.splice(n + 1, 0, t);
    p.value.splice(n + 1, 0, n < 0 ? 0 : p.value[n]!);
    if (n < 0) {
      this.begins[i] = t;
      measure(p);
    }
    if (p.at.length < 2 * PART) return;
    const rest = partOf(p.at.splice(PART), p.value.splice(PART));
    measure(p);
    this.parts.splice(i + 1, 0, rest);
    this.begins.splice(i + 1, 0, rest.at[0]!);
  }
}
