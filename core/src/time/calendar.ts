/**
 * Calendars compiled to tables, so that a position on a calendar's axis and its inverses cost a table look-up
 * and a short search (scheduling rules, sections 1 and 10).
 */
import type { Exception, Interval } from '../model/schema.ts';
import type { WorkCalendar } from './work-calendar.ts';
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
export const AXIS_FIRST_DAY: Day = dayOf(1980, 1, 1);
const AXIS_END_DAY: Day = dayOf(2260, 1, 1);
export const AXIS_START: Instant = AXIS_FIRST_DAY * MINUTES_PER_DAY;
export const AXIS_END: Instant = AXIS_END_DAY * MINUTES_PER_DAY;
const DAYS = AXIS_END_DAY - AXIS_FIRST_DAY;
/** Most buckets of the inverse table: about one a day, so that a bucket seldom holds more than a few days. */
const MOST_BUCKETS = 1 << 17;
/** Places in a piece's three numbers; its beginning is the first. Minutes of the day. */
const END = 1;
const CUM = 2;
/** Of the two numbers of a day: where its pieces begin. */
const AT = 1;
/** Days looked through one by one before halving begins. */
const FEW_DAYS = 8;

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
  const { from, to } = digest(e);
  if (from === undefined || to === undefined) return false;
  if (!e.yearly) return day >= from && day <= to;
  const at = monthDay(day);
  return yearlyRanges(from, to).some(([lo, hi]) => at >= lo && at <= hi);
}

/** What is worked out of an exception once, however many calendars take it over from a parent. */
interface Digest {
  from: Day | undefined;
  to: Day | undefined;
  work: Interval[];
}
const digests = new WeakMap<Exception, Digest>();
const NO_WORK: Interval[] = [];

function digest(e: Exception): Digest {
  let d = digests.get(e);
  if (!d) digests.set(e, (d = { from: parseDay(e.from), to: parseDay(e.to), work: e.work.length ? mergeIntervals(e.work) : NO_WORK }));
  return d;
}

const monthDay = (day: Day): number => {
  const c = civilOf(day);
  return c.month * 100 + c.day;
};

/** Month and day (1231 is 31 December) as ranges, both ends included, for an exception that repeats every year. */
function yearlyRanges(from: Day, to: Day): [number, number][] {
  const a = civilOf(from);
  // A range of a year or more covers every day: its second end reaches the first one a year later.
  if (to >= dayOf(a.year + 1, a.month, a.day) - 1) return [[101, 1231]];
  const lo = monthDay(from);
  const hi = monthDay(to);
  const withinYear = a.year === civilOf(to).year && lo <= hi;
  return withinYear
    ? [[lo, hi]]
    : [
        [lo, 1231],
        [101, hi],
      ];
}

let noExceptions: Int32Array | undefined;
let monthDays: Int16Array | undefined;
/** Month and day of every day of the axis, made once for all calendars. */
function monthDayTable(): Int16Array {
  monthDays ??= Int16Array.from({ length: DAYS }, (_, i) => monthDay(AXIS_FIRST_DAY + i));
  return monthDays;
}

/** Places that are painted once: the first to paint one keeps it. */
class Once {
  readonly table: Int32Array;
  private readonly free: Int32Array;
  constructor(size: number) {
    this.table = new Int32Array(size).fill(-1);
    this.free = new Int32Array(size + 1);
    for (let i = 0; i <= size; i++) this.free[i] = i;
  }

  private next(i: number): number {
    const free = this.free;
    let root = i;
    while (free[root] !== root) root = free[root]!;
    for (let at = i; free[at] !== root;) {
      const up = free[at]!;
      free[at] = root;
      at = up;
    }
    return root;
  }

  /** Paints what is still free from `a` to `b`, both included. */
  paint(a: number, b: number, value: number): void {
    for (let i = this.next(a); i <= b; i = this.next(i)) {
      this.table[i] = value;
      this.free[i] = i + 1;
    }
  }
}

/**
 * Which exception holds on each day of the axis (the last in the list wins), as an index; -1 for none. From the last
 * back every day is painted once, the yearly ones on a single year, so that no exception costs more than the days it holds.
 */
export function exceptionTable(exceptions: readonly Exception[]): Int32Array {
  if (exceptions.length === 0) return (noExceptions ??= new Int32Array(DAYS).fill(-1));
  const dated = new Once(DAYS);
  const yearly = new Once(1232);
  let anyYearly = false;
  for (let n = exceptions.length - 1; n >= 0; n--) {
    const { from, to } = digest(exceptions[n]!);
    if (from === undefined || to === undefined) continue;
    if (exceptions[n]!.yearly) {
      anyYearly = true;
      for (const [lo, hi] of yearlyRanges(from, to)) yearly.paint(lo, hi, n);
    } else dated.paint(Math.max(from - AXIS_FIRST_DAY, 0), Math.min(to - AXIS_FIRST_DAY, DAYS - 1), n);
  }
  const { table } = dated;
  if (anyYearly) {
    const at = monthDayTable();
    for (let i = 0; i < DAYS; i++) if (yearly.table[at[i]!]! > table[i]!) table[i] = yearly.table[at[i]!]!;
  }
  return table;
}

/** Where the pieces of a kind of day are, its working minutes, and how many minutes run on into the next day. */
interface DayKind {
  place: number;
  minutes: number;
  overnight: number;
}

/** Adds the pieces of a kind of day. Merged intervals of a day hold at most one that runs past midnight: the last. */
function addKind(pieces: number[], own: readonly Interval[], overnight: number): DayKind {
  const place = pieces.length;
  let minutes = 0;
  for (const [a, b] of mergeIntervals([[0, overnight], ...own.map(([a, b]): Interval => [a, Math.min(b, MINUTES_PER_DAY)])])) {
    pieces.push(a, b, minutes);
    minutes += b - a;
  }
  pieces.push(0x7fffffff, 0x7fffffff, minutes);
  return { place, minutes, overnight: own.length > 0 ? Math.max(0, own[own.length - 1]![1] - MINUTES_PER_DAY) : 0 };
}

/** A calendar ready for computing. All functions clamp to the axis instead of failing. */
export class CompiledCalendar implements WorkCalendar {
  readonly id: string;
  readonly name: string;
  /** At least one, whatever is stated. */
  readonly minutesPerDay: number;
  readonly daysPerWeek: number;
  /** Working minutes on the whole axis; 0 where the calendar is empty. */
  readonly total: number;
  private readonly definition: CalendarDefinition;
  private readonly exceptionOn: Int32Array;
  private readonly weekIntervals: Interval[][];
  private readonly exceptionIntervals: Interval[][];
  /**
   * Two numbers for each day of the axis, and for its end: working minutes before it, and where its pieces begin in
   * `pieces`. Side by side, since both are looked up together. Days alike share their pieces, so that many a day cost no more.
   */
  private readonly days: Int32Array;
  /** Working time of each kind of day, three numbers a piece: beginning, end, minutes before it; closed by a sentinel. */
  private readonly pieces: Int32Array;
  /** First day that ends at or after each bucket's first position. */
  private readonly dayOfBucket: Int32Array;
  private readonly bucketBits: number;

  constructor(definition: CalendarDefinition) {
    this.definition = definition;
    this.id = definition.id;
    this.name = definition.name;
    this.weekIntervals = (definition.week ?? [[], [], [], [], [], [], []]).map(mergeIntervals);
    this.exceptionIntervals = definition.exceptions.map((e) => digest(e).work);
    this.exceptionOn = exceptionTable(definition.exceptions);
    const days = new Int32Array(2 * (DAYS + 1));
    const pieces: number[] = [];
    // A kind of day is its own list of intervals with what runs on from the day before.
    const kinds = new Map<number, DayKind>();
    // Without such a run-on, kinds are found by number; that is nearly every day.
    const plain: (DayKind | undefined)[] = new Array<undefined>(7 + definition.exceptions.length).fill(undefined);
    const exceptionOn = this.exceptionOn;
    let weekday = weekdayOf(AXIS_FIRST_DAY);
    let overnight = 0;
    let total = 0;
    for (let i = 0; i < DAYS; i++) {
      const e = exceptionOn[i]!;
      const kind = e >= 0 ? 7 + e : weekday;
      if (++weekday === 7) weekday = 0;
      let known = overnight === 0 ? plain[kind] : kinds.get(kind * MINUTES_PER_DAY + overnight);
      if (known === undefined) {
        known = addKind(pieces, e >= 0 ? this.exceptionIntervals[e]! : this.weekIntervals[kind]!, overnight);
        if (overnight === 0) plain[kind] = known;
        else kinds.set(kind * MINUTES_PER_DAY + overnight, known);
      }
      days[2 * i] = total;
      days[2 * i + AT] = known.place;
      total += known.minutes;
      overnight = known.overnight;
    }
    days[2 * DAYS] = total;
    this.days = days;
    this.pieces = Int32Array.from(pieces);
    this.total = total;
    let bits = 6;
    while (total >> bits >= MOST_BUCKETS) bits++;
    this.bucketBits = bits;
    const buckets = (total >> bits) + 2;
    this.dayOfBucket = new Int32Array(buckets + 1);
    for (let b = 0, day = 0; b <= buckets; b++) {
      const p = b << bits;
      while (day < DAYS - 1 && days[2 * day + 2]! < p) day++;
      this.dayOfBucket[b] = day;
    }
    const usual = usualWeek(definition);
    this.minutesPerDay = definition.hoursPerDay !== null ? Math.max(1, Math.round(definition.hoursPerDay * 60)) : usual.minutesPerDay;
    this.daysPerWeek = definition.daysPerWeek ?? usual.daysPerWeek;
  }

  /** W(t): working minutes before instant t. */
  position(t: Instant): number {
    // Rounding towards zero is as good as down here, since the axis begins after 1970; and it divides as integers.
    const day = ((t / MINUTES_PER_DAY) | 0) - AXIS_FIRST_DAY;
    if (day < 0) return 0;
    if (day >= DAYS) return this.total;
    const m = t - (day + AXIS_FIRST_DAY) * MINUTES_PER_DAY;
    const pieces = this.pieces;
    const days = this.days;
    let k = days[2 * day + AT]!;
    while (pieces[k + END]! <= m) k += 3;
    const s = pieces[k]!;
    return days[2 * day]! + (m > s ? pieces[k + CUM]! + m - s : pieces[k + CUM]!);
  }

  /** First day whose end lies at or after a position (of 1 to the total). */
  private dayOfPosition(p: number): number {
    const days = this.days;
    const b = p >> this.bucketBits;
    let day = this.dayOfBucket[b]!;
    let last = this.dayOfBucket[b + 1]!;
    if (last - day > FEW_DAYS) {
      while (day < last) {
        const middle = (day + last) >> 1;
        if (days[2 * middle + 2]! >= p) last = middle;
        else day = middle + 1;
      }
      return day;
    }
    while (days[2 * day + 2]! < p) day++;
    return day;
  }

  /** The smallest instant t with W(t) = p: the end of work. */
  finishInstant(p: number): Instant {
    if (p <= 0) return AXIS_START;
    if (p > this.total) return AXIS_END;
    const day = this.dayOfPosition(p);
    const pieces = this.pieces;
    const r = p - this.days[2 * day]!;
    let k = this.days[2 * day + AT]!;
    while (pieces[k + 3 + CUM]! < r) k += 3;
    return (day + AXIS_FIRST_DAY) * MINUTES_PER_DAY + pieces[k]! + r - pieces[k + CUM]!;
  }

  /** The largest instant t with W(t) = p: the beginning of the next work. */
  startInstant(p: number): Instant {
    if (p >= this.total) return AXIS_END;
    if (p < 0) return AXIS_START;
    const day = this.dayOfPosition(p + 1);
    const pieces = this.pieces;
    const r = p - this.days[2 * day]!;
    let k = this.days[2 * day + AT]!;
    while (pieces[k + 3 + CUM]! <= r) k += 3;
    return (day + AXIS_FIRST_DAY) * MINUTES_PER_DAY + pieces[k]! + r - pieces[k + CUM]!;
  }

  private intervalsOnIndex(i: number): Interval[] {
    const e = this.exceptionOn[i]!;
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
    const e = i < 0 || i >= DAYS ? -1 : this.exceptionOn[i]!;
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
    for (let t = from; t < to;) {
      // The end of the work before t, or t itself where it lies within work.
      const next = Math.min(this.startInstant(this.position(t)), to);
      if (next - t >= days * MINUTES_PER_DAY) return { from: t, to: next };
      // From the end of each day's work on: a stop that long begins at one of them.
      const day = Math.floor(next / MINUTES_PER_DAY) - AXIS_FIRST_DAY;
      if (day < 0 || day >= DAYS) return undefined;
      t = Math.max(this.finishInstant(this.days[2 * day + 2]!), next + 1);
    }
    return undefined;
  }

  /** Working stretches that touch [from, to), clipped to it, in order; work over midnight is one stretch. */
  stretches(from: Instant, to: Instant): Interval[] {
    const out: Interval[] = [];
    const first = Math.max(Math.floor(from / MINUTES_PER_DAY) - AXIS_FIRST_DAY, 0);
    const end = Math.min(Math.ceil(to / MINUTES_PER_DAY) - AXIS_FIRST_DAY, DAYS);
    let last: Interval | undefined;
    for (let day = first; day < end; day++) {
      const base = (day + AXIS_FIRST_DAY) * MINUTES_PER_DAY;
      for (let k = this.days[2 * day + AT]!; this.pieces[k] !== 0x7fffffff; k += 3) {
        const a = Math.max(base + this.pieces[k]!, from);
        const b = Math.min(base + this.pieces[k + END]!, to);
        if (b <= a) continue;
        if (last && last[1] === a) last[1] = b;
        else out.push((last = [a, b]));
      }
    }
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
  week: Array.from({ length: 7 }, () => [[0, MINUTES_PER_DAY] as Interval]),
  exceptions: [],
  hoursPerDay: 24,
  daysPerWeek: 7,
};
