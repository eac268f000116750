/** Activities on the days of a month, or on whole weeks: which bar lies on which days, and in which line of its week. */
import { NONE } from '../schedule/network.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import { civilOf, type Day, dayOf, daysInMonth, MINUTES_PER_DAY, weekdayOf } from '../time/instant.ts';

export interface MonthBar {
  id: string;
  /** Days of the week that it lies on, 0 (Monday) to 6, both included. */
  from: number;
  to: number;
  /** Line within the week, 0 at the top. */
  line: number;
  /** True where it goes on before or after this week. */
  before: boolean;
  after: boolean;
}

export interface Week {
  /** Its Monday. */
  monday: Day;
  bars: MonthBar[];
  lines: number;
}

/** First and last day of an activity's dates; a finish at midnight belongs to the day that ends. Undefined where it has none. */
export function daysOf(view: ScheduleView, id: string): { from: Day; to: Day } | undefined {
  const i = placeOf(view, id);
  if (i === undefined || view.start[i] === NONE) return undefined;
  const from = Math.floor(view.start[i]! / MINUTES_PER_DAY);
  const to = Math.floor((view.finish[i]! - 1) / MINUTES_PER_DAY);
  // A milestone lies on the day of its instant; one that ends work at midnight on the day before.
  return view.finish[i] === view.start[i] ? { from, to: from } : { from, to };
}

/** The weeks that a month touches, as their Mondays. */
export function weeksOfMonth(day: Day): Day[] {
  const c = civilOf(day);
  const first = dayOf(c.year, c.month, 1);
  const last = dayOf(c.year, c.month, daysInMonth(c.year, c.month));
  const out: Day[] = [];
  for (let monday = first - weekdayOf(first); monday <= last; monday += 7) out.push(monday);
  return out;
}

/** Weeks with the bars that lie on them, each in the first line that is free; longer ones first, so that they stand at the top. */
export function layWeeks(mondays: readonly Day[], list: readonly { id: string; from: Day; to: Day }[]): Week[] {
  return mondays.map((monday) => {
    const sunday = monday + 6;
    const here = list.filter((x) => x.from <= sunday && x.to >= monday).sort((a, b) => a.from - b.from || b.to - a.to || (a.id < b.id ? -1 : 1));
    const ends: number[] = [];
    const bars = here.map(({ id, from, to }): MonthBar => {
      const a = Math.max(0, from - monday);
      const b = Math.min(6, to - monday);
      let line = ends.findIndex((end) => end < a);
      if (line < 0) line = ends.length;
      ends[line] = b;
      return { id, from: a, to: b, line, before: from < monday, after: to > sunday };
    });
    return { monday, bars, lines: ends.length };
  });
}

/** A day so many months on, at the first of that month. */
export function monthOn(day: Day, by: number): Day {
  const c = civilOf(day);
  const n = c.year * 12 + c.month - 1 + by;
  return dayOf(Math.floor(n / 12), (n % 12) + 1, 1);
}
