/** Buckets of time: their boundaries, and what each is called (resource rules, section 6). */
import type { CompiledCalendar } from '../time/calendar.ts';
import { civilOf, type Day, dayOf, formatDay, type Instant, MINUTES_PER_DAY, weekdayOf } from '../time/instant.ts';

export const bucketKinds = ['hour', 'shift', 'day', 'week', 'month', 'quarter', 'year', 'period'] as const;
export type BucketKind = (typeof bucketKinds)[number];

/** What buckets are wanted, and what their boundaries depend on. */
export interface Bucketing {
  kind: BucketKind;
  /** 0 for Monday to 6 for Sunday: the first day of weeks. */
  weekStart: number;
  /** Of shifts. */
  calendar?: CompiledCalendar;
  /** Data dates, of periods between them. */
  dataDates?: readonly Instant[];
}

const floorDay = (t: Instant): Day => Math.floor(t / MINUTES_PER_DAY);
/** Intervals that are less apart belong to one shift. */
const SHIFT_GAP = 120;

/** Beginnings of the shifts of a date. */
export function shiftsOn(calendar: CompiledCalendar, day: Day): { from: Instant; to: Instant }[] {
  const out: { from: Instant; to: Instant }[] = [];
  for (const [a, b] of calendar.intervalsOn(day)) {
    const last = out[out.length - 1];
    const from = day * MINUTES_PER_DAY + a;
    if (last && from - last.to < SHIFT_GAP) last.to = Math.max(last.to, day * MINUTES_PER_DAY + b);
    else out.push({ from, to: day * MINUTES_PER_DAY + b });
  }
  return out;
}

/** Days that are searched for a shift. */
const FAR = 800;

function shiftEdges(calendar: CompiledCalendar, from: Instant, to: Instant): Instant[] {
  const edges: Instant[] = [];
  // The shift that holds the beginning may have begun long before.
  let day = floorDay(from);
  let before: Instant | undefined;
  for (let n = 0; n < FAR && before === undefined; n++, day--) before = shiftsOn(calendar, day).findLast((s) => s.from <= from)?.from;
  edges.push(before ?? from);
  for (day = floorDay(from); day <= floorDay(to) + FAR; day++)
    for (const s of shiftsOn(calendar, day)) {
      if (s.from <= edges[edges.length - 1]!) continue;
      edges.push(s.from);
      if (s.from >= to) return edges;
    }
  edges.push(Math.max(to, edges[edges.length - 1]! + 1));
  return edges;
}

/** The beginning of the bucket that holds an instant, and the next one, for buckets that follow the dates. */
function startOf({ kind, weekStart }: Bucketing, t: Instant): Instant {
  const day = floorDay(t);
  if (kind === 'hour') return Math.floor(t / 60) * 60;
  if (kind === 'day') return day * MINUTES_PER_DAY;
  if (kind === 'week') return (day - ((weekdayOf(day) - weekStart + 7) % 7)) * MINUTES_PER_DAY;
  const { year, month } = civilOf(day);
  const first = kind === 'month' ? month : kind === 'quarter' ? month - ((month - 1) % 3) : 1;
  return dayOf(year, first, 1) * MINUTES_PER_DAY;
}

function nextOf({ kind }: Bucketing, start: Instant): Instant {
  if (kind === 'hour') return start + 60;
  if (kind === 'day') return start + MINUTES_PER_DAY;
  if (kind === 'week') return start + 7 * MINUTES_PER_DAY;
  const { year, month } = civilOf(floorDay(start));
  const months = month - 1 + (kind === 'month' ? 1 : kind === 'quarter' ? 3 : 12);
  return dayOf(year + Math.floor(months / 12), (months % 12) + 1, 1) * MINUTES_PER_DAY;
}

/** Most buckets that are made at once. */
export const MOST_BUCKETS = 200_000;

/** Boundaries of the whole buckets that touch [from, to): one more than there are buckets. Undefined where they would be too many. */
export function edgesOf(b: Bucketing, from: Instant, to: Instant): Instant[] | undefined {
  if (b.kind === 'shift') return b.calendar ? shiftEdges(b.calendar, from, to) : [from, to];
  if (b.kind === 'period') {
    const inner = [...new Set(b.dataDates ?? [])].filter((t) => t > from && t < to).sort((x, y) => x - y);
    return [from, ...inner, to];
  }
  const edges = [startOf(b, from)];
  while (edges[edges.length - 1]! < to) {
    if (edges.length > MOST_BUCKETS) return undefined;
    edges.push(nextOf(b, edges[edges.length - 1]!));
  }
  if (edges.length === 1) edges.push(nextOf(b, edges[0]!));
  return edges;
}

const two = (n: number): string => String(n).padStart(2, '0');
const monthNames = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const weekdayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** What a bucket is called in a sentence: `Wed 4 Mar 2026`, `week of 2 Mar 2026`, `March 2026`, `Q1 2026`. */
export function bucketName(kind: BucketKind, from: Instant): string {
  const day = floorDay(from);
  const c = civilOf(day);
  const date = `${c.day} ${monthNames[c.month - 1]} ${c.year}`;
  const time = `${two(Math.floor((from - day * MINUTES_PER_DAY) / 60))}:${two((from - day * MINUTES_PER_DAY) % 60)}`;
  if (kind === 'hour' || kind === 'shift') return `${weekdayNames[weekdayOf(day)]} ${date}, ${time}`;
  if (kind === 'day') return `${weekdayNames[weekdayOf(day)]} ${date}`;
  if (kind === 'week') return `week of ${date}`;
  if (kind === 'month') return `${monthNames[c.month - 1]} ${c.year}`;
  if (kind === 'quarter') return `Q${Math.floor((c.month - 1) / 3) + 1} ${c.year}`;
  return kind === 'year' ? String(c.year) : `from ${formatDay(day)}`;
}
