/** Demand and capacity of one subject over time: cumulative figures, peaks and runs (resource rules, section 6). */
import type { Instant } from '../time/instant.ts';
import type { Capacity } from './capacity.ts';
import { lastNotAbove } from '../time/patched.ts';
import { halfUp } from './spread.ts';
import { type Steps, sumOfAll } from './steps.ts';

/** Demand is over capacity by more than a millionth of a unit; in thousandths of units. */
const OVER_BY = 0.001;

/** A maximal stretch in which demand is over capacity. Units in thousandths. */
export interface Run {
  from: Instant;
  to: Instant;
  /** Greatest demand above capacity, and both where it is greatest. */
  excess: number;
  demand: number;
  there: number;
  /** Unit-minutes above capacity, in thousandths. */
  over: number;
}

/** What a bucket says. Work in thousandths of unit-minutes, units in thousandths. */
export interface Bucketed {
  demand: number;
  /** Null: there is no limit. */
  capacity: number | null;
  over: number;
  peak: number;
  overByMean: boolean;
  overByPeak: boolean;
  hiddenPeak: boolean;
  state: 'free' | 'room' | 'full' | 'over' | 'away';
}

/** What buckets that follow each other say, as lists of figures: they go from the worker to the window as they are. */
export interface Buckets {
  /** Demand before it is rounded, by which flags are told; and rounded so that it adds up. */
  exact: Float64Array;
  demand: Float64Array;
  /** Null: there is no limit. */
  capacity: Float64Array | null;
  over: Float64Array;
  peak: Float64Array;
  /** 1 where the peak is above capacity. */
  byPeak: Uint8Array;
}

/** Whether one of them is over by its mean. */
export const meanIsOver = (b: Buckets, n: number): boolean => b.capacity !== null && b.exact[n]! > b.capacity[n]! + 1;

/** One of them. */
export const bucketAt = (b: Buckets, n: number): Bucketed => ({
  ...told({ demand: b.exact[n]!, capacity: b.capacity && b.capacity[n]!, peak: b.peak[n]!, overByPeak: b.byPeak[n] === 1 }),
  demand: b.demand[n]!,
  over: b.over[n]!,
});

/** What a bucket says before it is rounded. */
interface Raw {
  demand: number;
  capacity: number | null;
  peak: number;
  overByPeak: boolean;
}

export class Curve {
  /** Instants at which demand or capacity (within the span of the demand) changes, and both from there on. */
  readonly at: readonly number[];
  readonly demand: readonly number[];
  readonly there: readonly number[];
  readonly span: { from: Instant; to: Instant } | undefined;
  /** Cumulative demand and overload before each of these instants. */
  private readonly asked: Float64Array;
  private readonly above: Float64Array;
  private readonly jumps: readonly { at: Instant; work: number }[];
  private readonly jumped: number[] = [0];
  private readonly capacity: readonly Capacity[] | null;

  constructor(demand: Steps, there: Steps, jumps: readonly { at: Instant; work: number }[], capacity: readonly Capacity[] | null) {
    const at: number[] = [];
    const d: number[] = [];
    const c: number[] = [];
    let [i, j, x, y] = [0, 0, 0, 0];
    while (i < demand.at.length || j < there.at.length) {
      const t = j >= there.at.length || (i < demand.at.length && demand.at[i]! <= there.at[j]!) ? demand.at[i]! : there.at[j]!;
      if (demand.at[i] === t) x = demand.value[i++]!;
      if (there.at[j] === t) y = there.value[j++]!;
      at.push(t);
      d.push(x);
      c.push(y);
    }
    [this.at, this.demand, this.there, this.jumps, this.capacity] = [at, d, c, jumps, capacity];
    this.asked = new Float64Array(at.length);
    this.above = new Float64Array(at.length);
    for (let n = 1; n < at.length; n++) {
      const long = at[n]! - at[n - 1]!;
      this.asked[n] = this.asked[n - 1]! + d[n - 1]! * long;
      this.above[n] = this.above[n - 1]! + (capacity ? Math.max(0, d[n - 1]! - c[n - 1]!) * long : 0);
    }
    for (const jump of jumps) this.jumped.push(this.jumped[this.jumped.length - 1]! + jump.work);
    const ends = [...(at.length ? [at[0]!, at[at.length - 1]!] : []), ...(jumps.length ? [jumps[0]!.at, jumps[jumps.length - 1]!.at + 1] : [])];
    this.span = ends.length ? { from: Math.min(...ends), to: Math.max(...ends) } : undefined;
  }

  get limited(): boolean {
    return this.capacity !== null;
  }

  /** Demand from its beginning to an instant, not rounded. What lies at that instant comes after it. `n`: the last step that begins no later. */
  askedUntil(t: Instant, n = lastNotAbove(this.at, t)): number {
    const steps = n < 0 ? 0 : this.asked[n]! + this.demand[n]! * (t - this.at[n]!);
    let low = 0;
    let high = this.jumps.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.jumps[middle]!.at < t) low = middle + 1;
      else high = middle;
    }
    return steps + this.jumped[low]!;
  }

  /** Demand above capacity from its beginning to an instant, not rounded. */
  overUntil(t: Instant, n = lastNotAbove(this.at, t)): number {
    if (n < 0 || !this.capacity) return 0;
    return this.above[n]! + Math.max(0, this.demand[n]! - this.there[n]!) * (t - this.at[n]!);
  }

  /** Capacity from ever to an instant; 0 where there is no limit. */
  capacityUntil(t: Instant): number {
    let sum = 0;
    for (const c of this.capacity ?? []) sum += c.until(t);
    return sum;
  }

  /** All that is asked for, in thousandths of unit-minutes. */
  get total(): number {
    return this.span ? halfUp(this.askedUntil(this.span.to)) : 0;
  }

  /** Demand and capacity as steps, clipped to a stretch. */
  within(from: Instant, to: Instant): { at: number[]; demand: number[]; there: number[] } {
    const there = sumOfAll((this.capacity ?? []).map((c) => c.steps(from, to)));
    const asked: Steps = { at: [...this.at], value: [...this.demand] };
    const edges = [...new Set([from, ...asked.at.filter((t) => t > from && t < to), ...there.at.filter((t) => t > from && t < to)])].sort((a, b) => a - b);
    const valueAt = (s: Steps, t: Instant): number => {
      const n = lastNotAbove(s.at, t);
      return n < 0 ? 0 : s.value[n]!;
    };
    return { at: [...edges, to], demand: [...edges.map((t) => valueAt(asked, t)), 0], there: [...edges.map((t) => valueAt(there, t)), 0] };
  }

  /** Most units in force between two instants, of all together. */
  greatestCapacity(from: Instant, to: Instant): number {
    return (this.capacity ?? []).reduce((n, c) => n + c.greatest(from, to), 0);
  }

  /** Greatest demand in [a, b), and whether it is above capacity anywhere there. */
  private peakInto(out: Buckets, place: number, a: Instant, b: Instant, from: number): void {
    let peak = 0;
    let overByPeak = false;
    for (let n = Math.max(from, 0); n < this.at.length && this.at[n]! < b; n++) {
      if (n + 1 < this.at.length && this.at[n + 1]! <= a) continue;
      const d = this.demand[n]!;
      if (d > peak) peak = d;
      if (this.capacity && d > this.there[n]! + OVER_BY) overByPeak = true;
    }
    out.peak[place] = peak;
    out.byPeak[place] = overByPeak ? 1 : 0;
  }

  /** The figures of buckets that follow each other: `edges` are their boundaries. Rounded so that they add up. */
  buckets(edges: readonly Instant[]): Bucketed[] {
    const all = this.bucketed(edges);
    return Array.from(all.demand, (_, n) => bucketAt(all, n));
  }

  /** The same as lists. */
  bucketed(edges: readonly Instant[]): Buckets {
    const count = Math.max(0, edges.length - 1);
    const list = (): Float64Array => new Float64Array(count);
    const out: Buckets = { exact: list(), demand: list(), capacity: this.capacity ? list() : null, over: list(), peak: list(), byPeak: new Uint8Array(count) };
    let asked = this.askedUntil(edges[0]!);
    let over = this.overUntil(edges[0]!);
    let capacity = this.capacityUntil(edges[0]!);
    // Edges rise, and so does the place among the steps: it is walked, not looked for.
    let n = lastNotAbove(this.at, edges[0]!);
    for (let i = 0; i < count; i++) {
      const b = edges[i + 1]!;
      this.peakInto(out, i, edges[i]!, b, n);
      while (n + 1 < this.at.length && this.at[n + 1]! <= b) n++;
      const [askedThen, overThen, capacityThen] = [this.askedUntil(b, n), this.overUntil(b, n), this.capacityUntil(b)];
      out.exact[i] = askedThen - asked;
      out.demand[i] = halfUp(askedThen) - halfUp(asked);
      out.over[i] = halfUp(overThen) - halfUp(over);
      if (out.capacity) out.capacity[i] = capacityThen - capacity;
      [asked, over, capacity] = [askedThen, overThen, capacityThen];
    }
    return out;
  }

  /** All runs, found once. Time without capacity and without demand does not end one. */
  runs(): readonly Run[] {
    return (this.found ??= this.findRuns());
  }
  private found: Run[] | undefined;

  private findRuns(): Run[] {
    const out: Run[] = [];
    if (!this.capacity) return out;
    let run: Run | undefined;
    for (let n = 0; n + 1 < this.at.length; n++) {
      const [d, c] = [this.demand[n]!, this.there[n]!];
      const long = this.at[n + 1]! - this.at[n]!;
      if (d > c + OVER_BY) {
        if (!run) out.push((run = { from: this.at[n]!, to: 0, excess: 0, demand: 0, there: 0, over: 0 }));
        run.to = this.at[n + 1]!;
        if (d - c > run.excess) Object.assign(run, { excess: d - c, demand: d, there: c });
        run.over += (d - c) * long;
      } else if (d > 0 || c > 0) run = undefined;
    }
    return out;
  }
}

/** What the figures of a bucket amount to, in flags and one word. */
function told({ demand, capacity, peak, overByPeak }: Raw): Bucketed {
  const overByMean = capacity !== null && demand > capacity + 1;
  const asked = demand > 1e-6;
  const over = overByMean || overByPeak;
  const full = capacity !== null && capacity > 0 && Math.abs(demand - capacity) <= 0.005 * capacity;
  return {
    demand,
    capacity,
    over: 0,
    peak,
    overByMean,
    overByPeak,
    hiddenPeak: overByPeak && !overByMean,
    state: over ? (capacity === 0 ? 'away' : 'over') : !asked ? 'free' : full ? 'full' : 'room',
  };
}
