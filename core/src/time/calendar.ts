/**
 * Calendars compiled to tables, so that a position on a calendar's axis and its inverses cost a table look-up
 * and a short search (scheduling rules, sections 1 and 10).
 */
import type { Exception, Interval } from '../model/schema.ts';
import { civilOf, dayOf, type Day, type Instant, MINUTES_PER_DAY, parseDay, weekdayOf } from './instant.ts';

/** What a calendar is after its chain of parents has been followed. Intervals in minutes of the day they begin on. */
export interface CalendarDefinition {
  id: string;
  name: string;
  /** Monday to Sunday; null where there is no weekly pattern at all. */
  week: Interval[][] | null;
  exceptions: Exception[];
  hoursPerDay: number | null;
  daysPerWeek: number | null;
}

/** Axis of every calendar: far enough around 1990 to 2199 for floats and overruns. */
const AXIS_FIRST_DAY: Day = dayOf(1980, 1, 1);
const AXIS_END_DAY: Day = dayOf(2260, 1, 1);
const AXIS_START: Instant = AXIS_FIRST_DAY * MINUTES_PER_DAY;
export const AXIS_END: Instant = AXIS_END_DAY * MINUTES_PER_DAY;
const DAYS = AXIS_END_DAY - AXIS_FIRST_DAY;
/** Width of a bucket of the inverse table, as a power of two of working minutes. */
const BUCKET_BITS = 8;
/** Places in a segment's four numbers; its beginning is the first. */
const END = 1;
const CUM = 2;

/** Joins overlapping and touching intervals; empty and reversed ones are dropped. Sorted by beginning. */
export function mergeIntervals(intervals: readonly Interval[]): Interval[] {
  const sorted = intervals.filter(([a, b]) => b > a).sort((x, y) => x[0] - y[0] || x[1] - y[1]);
  const out: Interval[] = [];
  for (const [a, b] of sorted) {
    const last = out[out.length - 1];
    if (last && a <= last[1]) last[1] = Math.max(last[1], b);
    else out.push([a, b]);
  }
  return out;
}

export const minutesOf = (intervals: readonly Interval[]): number => mergeIntervals(intervals).reduce((n, [a, b]) => n + b - a, 0);

/** True where an exception covers a date. Yearly ones repeat by month and day, also over the new year. */
export function exceptionCovers(e: Exception, day: Day): boolean {
  const from = parseDay(e.from);
  const to = parseDay(e.to);
  if (from === undefined || to === undefined) return false;
  return e.yearly ? yearlyTest(from, to)(monthDay(day)) : day >= from && day <= to;
}

const monthDay = (day: Day): number => {
  const c = civilOf(day);
  return c.month * 100 + c.day;
};

/** A test by month and day (1231 is 31 December) for a range that repeats every year. */
function yearlyTest(from: Day, to: Day): (at: number) => boolean {
  const a = civilOf(from);
  const b = civilOf(to);
  // A range of a year or more covers every day: its second end reaches the first one a year later.
  if (to >= dayOf(a.year + 1, a.month, a.day) - 1) return () => true;
  const lo = monthDay(from);
  const hi = monthDay(to);
  const withinYear = a.year === b.year && lo <= hi;
  return withinYear ? (at) => at >= lo && at <= hi : (at) => at >= lo || at <= hi;
}

let monthDays: Int16Array | undefined;
/** Month and day of every day of the axis, made once for all calendars. */
function monthDayTable(): Int16Array {
  monthDays ??= Int16Array.from({ length: DAYS }, (_, i) => monthDay(AXIS_FIRST_DAY + i));
  return monthDays;
}

/** Which exception holds on each day of the axis (the last in the list wins), as an index; -1 for none. */
function exceptionTable(exceptions: readonly Exception[]): Int16Array {
  const table = new Int16Array(DAYS).fill(-1);
  exceptions.forEach((e, n) => {
    const from = parseDay(e.from);
    const to = parseDay(e.to);
    if (from === undefined || to === undefined) return;
    if (!e.yearly) {
      const a = Math.max(from - AXIS_FIRST_DAY, 0);
      const b = Math.min(to - AXIS_FIRST_DAY, DAYS - 1);
      for (let i = a; i <= b; i++) table[i] = n;
      return;
    }
    const covers = yearlyTest(from, to);
    const at = monthDayTable();
    for (let i = 0; i < DAYS; i++) if (covers(at[i])) table[i] = n;
  });
  return table;
}

/** A calendar ready for computing. All functions clamp to the axis instead of failing. */
export class CompiledCalendar {
  readonly id: string;
  readonly name: string;
  readonly minutesPerDay: number;
  readonly daysPerWeek: number;
  /** Working minutes on the whole axis; 0 where the calendar is empty. */
  readonly total: number;
  private readonly definition: CalendarDefinition;
  private readonly exceptionOn: Int16Array;
  private readonly weekIntervals: Interval[][];
  private readonly exceptionIntervals: Interval[][];
  /**
   * Segments of working time in order, four numbers each: beginning, end, working minutes before it, and nothing. Side by
   * side, since they are read together. The last one is a sentinel beyond the axis.
   */
  private readonly seg: Int32Array;
  private readonly segments: number;
  /** First segment that ends after the day's first minute. */
  private readonly dayFirst: Int32Array;
  /** First segment whose end position is at or after the bucket's first position. */
  private readonly posFirst: Int32Array;

  constructor(definition: CalendarDefinition) {
    this.definition = definition;
    this.id = definition.id;
    this.name = definition.name;
    this.weekIntervals = (definition.week ?? [[], [], [], [], [], [], []]).map(mergeIntervals);
    this.exceptionIntervals = definition.exceptions.map((e) => mergeIntervals(e.work));
    this.exceptionOn = exceptionTable(definition.exceptions);
    // Work of a day may reach into the next one, so segments are joined as they come, in order of their beginnings.
    // Merged intervals of a day hold at most one that runs past midnight.
    const starts: number[] = [];
    const ends: number[] = [];
    let end = -1;
    let overnight = 0;
    for (let i = 0, base = AXIS_START; i < DAYS; i++, base += MINUTES_PER_DAY) {
      const own = this.intervalsOnIndex(i);
      if (overnight > 0) {
        // What runs on from the day before begins at midnight, where that day's segment ended: it is the same segment.
        if (overnight > end) ends[ends.length - 1] = end = overnight;
        overnight = 0;
      }
      for (let j = 0; j < own.length; j++) {
        const from = base + own[j][0];
        let to = base + own[j][1];
        if (own[j][1] > MINUTES_PER_DAY) {
          overnight = to;
          to = base + MINUTES_PER_DAY;
        }
        if (from > end || ends.length === 0) {
          starts.push(from);
          ends.push(to);
          end = to;
        } else if (to > end) ends[ends.length - 1] = end = to;
      }
    }
    const n = starts.length;
    this.segments = n;
    const seg = new Int32Array((n + 1) << 2);
    this.seg = seg;
    let cum = 0;
    for (let k = 0; k < n; k++) {
      const end = Math.min(ends[k], AXIS_END);
      seg[k << 2] = starts[k];
      seg[(k << 2) + END] = end;
      seg[(k << 2) + CUM] = cum;
      cum += end - starts[k];
    }
    seg[n << 2] = seg[(n << 2) + END] = 0x7fffffff;
    seg[(n << 2) + CUM] = cum;
    this.total = cum;
    this.dayFirst = new Int32Array(DAYS + 1);
    for (let i = 0, k = 0; i <= DAYS; i++) {
      const at = (AXIS_FIRST_DAY + i) * MINUTES_PER_DAY;
      while (k < n && seg[(k << 2) + END] <= at) k++;
      this.dayFirst[i] = k;
    }
    const buckets = (cum >> BUCKET_BITS) + 2;
    this.posFirst = new Int32Array(buckets);
    for (let b = 0, k = 0; b < buckets; b++) {
      const p = b << BUCKET_BITS;
      while (k < n - 1 && seg[((k + 1) << 2) + CUM] < p) k++;
      this.posFirst[b] = k;
    }
    const usual = usualWeek(definition);
    this.minutesPerDay = definition.hoursPerDay !== null ? Math.round(definition.hoursPerDay * 60) : usual.minutesPerDay;
    this.daysPerWeek = definition.daysPerWeek ?? usual.daysPerWeek;
  }

  /** W(t): working minutes before instant t. */
  position(t: Instant): number {
    // Rounding towards zero is as good as down here, since the axis begins after 1970; and it divides as integers.
    const day = ((t / MINUTES_PER_DAY) | 0) - AXIS_FIRST_DAY;
    if (day < 0) return 0;
    if (day >= DAYS) return this.total;
    const seg = this.seg;
    let k = this.dayFirst[day] << 2;
    while (seg[k + END] <= t) k += 4;
    const s = seg[k];
    return t > s ? seg[k + CUM] + t - s : seg[k + CUM];
  }

  /** The smallest instant t with W(t) = p: the end of work. */
  finishInstant(p: number): Instant {
    if (p <= 0) return AXIS_START;
    if (p > this.total) return AXIS_END;
    const seg = this.seg;
    let k = this.posFirst[p >> BUCKET_BITS] << 2;
    while (seg[k + 4 + CUM] < p) k += 4;
    return seg[k] + p - seg[k + CUM];
  }

  /** The largest instant t with W(t) = p: the beginning of the next work. */
  startInstant(p: number): Instant {
    if (p >= this.total) return AXIS_END;
    if (p < 0) return AXIS_START;
    const seg = this.seg;
    let k = this.posFirst[p >> BUCKET_BITS] << 2;
    while (seg[k + 4 + CUM] <= p) k += 4;
    return seg[k] + p - seg[k + CUM];
  }

  private intervalsOnIndex(i: number): Interval[] {
    const e = this.exceptionOn[i];
    return (e >= 0 ? this.exceptionIntervals[e] : this.weekIntervals[weekdayOf(AXIS_FIRST_DAY + i)]) as Interval[];
  }

  /** The intervals that begin on a date (they may run past midnight). Empty outside the axis. */
  intervalsOn(day: Day): readonly Interval[] {
    const i = day - AXIS_FIRST_DAY;
    return i < 0 || i >= DAYS ? [] : this.intervalsOnIndex(i);
  }

  /** The exception that holds on a date, if any. */
  exceptionOnDay(day: Day): Exception | undefined {
    const i = day - AXIS_FIRST_DAY;
    const e = i < 0 || i >= DAYS ? -1 : this.exceptionOn[i];
    return e < 0 ? undefined : this.definition.exceptions[e];
  }

  /** Beginning of the first work that begins on the date; its first minute where none does. */
  beginningOf(day: Day): Instant {
    const first = this.intervalsOn(day)[0];
    return day * MINUTES_PER_DAY + (first ? first[0] : 0);
  }

  /** End of the last work that begins on the date (perhaps after midnight); the end of the date where none does. */
  endOf(day: Day): Instant {
    const all = this.intervalsOn(day);
    const last = all[all.length - 1];
    return day * MINUTES_PER_DAY + (last ? last[1] : MINUTES_PER_DAY);
  }

  /** True where the instant lies inside working time (its minute is worked). */
  isWorking(t: Instant): boolean {
    return this.position(t + 1) > this.position(t);
  }

  /** First stretch of `days` days or more without work between two instants, if there is one. */
  longStop(from: Instant, to: Instant, days: number): { from: Instant; to: Instant } | undefined {
    let t = from;
    while (t < to) {
      const next = Math.min(this.startInstant(this.position(t)), to);
      if (next - t >= days * MINUTES_PER_DAY) return { from: t, to: next };
      const k = this.segmentAt(next);
      if (k >= this.segments) return undefined;
      t = Math.max(this.seg[(k << 2) + END], next + 1);
    }
    return undefined;
  }

  private segmentAt(t: Instant): number {
    const day = Math.floor(t / MINUTES_PER_DAY) - AXIS_FIRST_DAY;
    if (day < 0) return 0;
    if (day >= DAYS) return this.segments;
    let k = this.dayFirst[day];
    while (this.seg[(k << 2) + END] <= t) k++;
    return k;
  }

  /** Working stretches that touch [from, to), clipped to it, in order. */
  stretches(from: Instant, to: Instant): Interval[] {
    const out: Interval[] = [];
    for (let k = this.segmentAt(from); k < this.segments && this.seg[k << 2] < to; k++) out.push([Math.max(this.seg[k << 2], from), Math.min(this.seg[(k << 2) + END], to)]);
    return out;
  }
}

/**
 * Minutes of the commonest working weekday (the longer in a tie) and the number of working weekdays;
 * 8 hours and 5 days where there is no pattern.
 */
function usualWeek(c: Pick<CalendarDefinition, 'week'>): { minutesPerDay: number; daysPerWeek: number } {
  const worked = (c.week ?? []).map(minutesOf).filter((n) => n > 0);
  if (worked.length === 0) return { minutesPerDay: 480, daysPerWeek: 5 };
  let best = 0;
  let count = 0;
  for (const n of worked) {
    const same = worked.filter((m) => m === n).length;
    if (same > count || (same === count && n > best)) [best, count] = [n, same];
  }
  return { minutesPerDay: best, daysPerWeek: worked.length };
}

/** Working time around the clock, for elapsed lags. */
export const elapsedDefinition: CalendarDefinition = {
  id: '',
  name: 'Elapsed time',
  week: Array.from({ length: 7 }, () => [[0, 1440] as Interval]),
  exceptions: [],
  hoursPerDay: 24,
  daysPerWeek: 7,
};
