/** What is left of a resource while work is placed on it: capacity less what is placed, as one step function. */
import type { Steps } from '../load/steps.ts';
import { lastNotAbove } from '../time/patched.ts';
import type { Instant } from '../time/instant.ts';

/** Thousandths of units that may be missing without being so. */
const FORGIVEN = 0.001;

export class Free {
  private at: number[];
  private value: number[];

  /** `there`: what is there over a horizon; outside of it nothing is. */
  constructor(there: Steps) {
    this.at = [...there.at];
    this.value = [...there.value];
  }

  copy(): Free {
    return new Free({ at: this.at, value: this.value });
  }

  /** The end of the first stretch in [from, to) in which less than `units` is free; undefined where all of it fits. */
  blockedUntil(from: Instant, to: Instant, units: number): { from: Instant; until: Instant } | undefined {
    const { at, value } = this;
    let n = lastNotAbove(at, from);
    if (n < 0) return units > FORGIVEN ? { from, until: Math.max(at[0] ?? to, from + 1) } : undefined;
    for (; n < at.length && at[n]! < to; n++) if (value[n]! < units - FORGIVEN) return { from: Math.max(at[n]!, from), until: at[n + 1] ?? Infinity };
    return undefined;
  }

  /** Takes units out of [from, to). */
  take(from: Instant, to: Instant, units: number): void {
    this.cut(from);
    this.cut(to);
    for (let n = lastNotAbove(this.at, from); n < this.at.length && this.at[n]! < to; n++) this.value[n]! -= units;
  }

  private cut(t: Instant): void {
    const n = lastNotAbove(this.at, t);
    if (n >= 0 && this.at[n] === t) return;
    this.at.splice(n + 1, 0, t);
    this.value.splice(n + 1, 0, n < 0 ? 0 : this.value[n]!);
  }
}
