/**
 * The working time of a resource: a calendar with days off as its last exceptions. Kept as what differs from the
 * compiled calendar, so that hundreds of people with a holiday each cost little.
 */
import type { Exception, Interval } from '../model/schema.ts';
import { AXIS_FIRST_DAY, type CompiledCalendar, exceptionTable, mergeIntervals } from './calendar.ts';
import { type Day, type Instant, MINUTES_PER_DAY } from './instant.ts';

/** What capacity and cuts ask of a resource's time. */
export interface ResourceTime {
  /** The calendar without days off. */
  readonly base: CompiledCalendar;
  /** Ranges of instants in which it is not as in the calendar. */
  readonly windows: readonly Interval[];
  position(t: Instant): number;
  stretches(from: Instant, to: Instant): Interval[];
  intervalsOn(day: Day): readonly Interval[];
  /** The day off that covers a date. */
  dayOff(day: Day): Exception | undefined;
}

/** A resource without days off: its calendar. */
export const plainTime = (base: CompiledCalendar): ResourceTime => ({
  base,
  windows: [],
  position: (t) => base.position(t),
  stretches: (from, to) => base.stretches(from, to),
  intervalsOn: (day) => base.intervalsOn(day),
  dayOff: () => undefined,
});

/** Index of the last of sorted numbers that is not above a value; -1 for none. */
export function lastNotAbove(sorted: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! <= value) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

export class PatchedTime implements ResourceTime {
  readonly base: CompiledCalendar;
  readonly windows: Interval[] = [];
  /** Working stretches inside each window. */
  private readonly work: Interval[][] = [];
  private readonly begins: number[] = [];
  /** Position at the beginning of each window, and by how much positions behind it differ from the calendar's. */
  private readonly before: number[] = [];
  private readonly shift: number[] = [];
  private readonly byDay = new Map<Day, number>();
  private readonly daysOff: readonly Exception[];
  private readonly intervals: Interval[][];

  constructor(base: CompiledCalendar, daysOff: readonly Exception[]) {
    this.base = base;
    this.daysOff = daysOff;
    this.intervals = daysOff.map((e) => mergeIntervals(e.work));
    const on = exceptionTable(daysOff);
    for (let i = 0; i < on.length; i++) if (on[i]! >= 0) this.byDay.set(AXIS_FIRST_DAY + i, on[i]!);
    // Runs of covered days, each with the two days behind it into which nights reach; runs that touch are one.
    let run: { from: Day; to: Day } | undefined;
    for (const day of this.byDay.keys()) {
      if (run && day <= run.to + 2) run.to = day;
      else {
        if (run) this.addWindow(run.from, run.to);
        run = { from: day, to: day };
      }
    }
    if (run) this.addWindow(run.from, run.to);
  }

  private addWindow(first: Day, last: Day): void {
    const from = first * MINUTES_PER_DAY;
    const to = (last + 2) * MINUTES_PER_DAY;
    const all: Interval[] = [];
    for (let day = first - 1; day <= last + 1; day++)
      for (const [a, b] of this.intervalsOn(day)) all.push([Math.max(day * MINUTES_PER_DAY + a, from), Math.min(day * MINUTES_PER_DAY + b, to)]);
    const work = mergeIntervals(all);
    const lastShift = this.shift.at(-1) ?? 0;
    const before = this.base.position(from) + lastShift;
    this.windows.push([from, to]);
    this.begins.push(from);
    this.work.push(work);
    this.before.push(before);
    this.shift.push(before + work.reduce((n, [a, b]) => n + b - a, 0) - this.base.position(to));
  }

  position(t: Instant): number {
    const i = lastNotAbove(this.begins, t);
    if (i < 0) return this.base.position(t);
    if (t >= this.windows[i]![1]) return this.base.position(t) + this.shift[i]!;
    let p = this.before[i]!;
    for (const [a, b] of this.work[i]!) {
      if (t <= a) break;
      p += Math.min(t, b) - a;
    }
    return p;
  }

  stretches(from: Instant, to: Instant): Interval[] {
    const out: Interval[] = [];
    const put = (list: readonly Interval[]): void => {
      for (const [a, b] of list) {
        const [x, y] = [Math.max(a, from), Math.min(b, to)];
        const last = out[out.length - 1];
        if (y <= x) continue;
        if (last && last[1] === x) last[1] = y;
        else out.push([x, y]);
      }
    };
    let at = from;
    for (let i = Math.max(lastNotAbove(this.begins, from), 0); i < this.windows.length && this.windows[i]![0] < to; i++) {
      const [a, b] = this.windows[i]!;
      if (b <= at) continue;
      if (a > at) put(this.base.stretches(at, a));
      put(this.work[i]!);
      at = b;
    }
    if (at < to) put(this.base.stretches(at, to));
    return out;
  }

  intervalsOn(day: Day): readonly Interval[] {
    const e = this.byDay.get(day);
    return e === undefined ? this.base.intervalsOn(day) : this.intervals[e]!;
  }

  dayOff(day: Day): Exception | undefined {
    const e = this.byDay.get(day);
    return e === undefined ? undefined : this.daysOff[e];
  }
}
