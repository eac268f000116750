/** Exceptions for picked days: lists of days as people type them, and the hours that each day gets. */
import type { Exception, Interval } from '../model/schema.ts';
import type { CalendarDefinition } from '../time/calendar.ts';
import { mergeIntervals, minutesOf } from '../time/calendar.ts';
import { sameHours } from '../time/calendar-days.ts';
import { MINUTES_PER_DAY, type Day, formatDay, parseDay, weekdayOf } from '../time/instant.ts';
import { parseTypedDate, showDay } from '../time/typed-date.ts';

const MOST_DAYS = 3700;

/** Runs of days that follow each other, from days in any order. */
export function runsOf(days: Iterable<Day>): [Day, Day][] {
  const runs: [Day, Day][] = [];
  for (const day of [...new Set(days)].sort((a, b) => a - b)) {
    const last = runs[runs.length - 1];
    if (last && last[1] === day - 1) last[1] = day;
    else runs.push([day, day]);
  }
  return runs;
}

/** `24 Dec 26 to 27 Dec 26, 3 Jan 27`: can be typed again. */
export const formatDayList = (days: Iterable<Day>): string =>
  runsOf(days)
    .map(([a, b]) => (a === b ? showDay(a) : `${showDay(a)} to ${showDay(b)}`))
    .join(', ');

/** Reads a list of days and runs of days; a message where a part cannot be read. Dates without a year lie near `near`. */
export function parseDayList(text: string, near: Day): { days: Day[] } | { error: string } {
  const days = new Set<Day>();
  const read = (part: string, at: Day): Day | undefined => parseDay(parseTypedDate(part, at)?.slice(0, 10) ?? '');
  for (const part of text
    .split(/[,;]/)
    .map((p) => p.trim())
    .filter(Boolean)) {
    const [first = '', second, more] = part.split(/\s+(?:to|until|–|-)\s+|\s*–\s*/);
    const from = read(first, near);
    const to = second === undefined ? from : read(second, from ?? near);
    if (from === undefined || to === undefined || more !== undefined) return { error: `${part} cannot be read. Type days as 24 dec 2026, or a run as 24 dec 2026 to 27 dec 2026.` };
    if (to < from) return { error: `${part} ends before it begins.` };
    if (to - from > MOST_DAYS) return { error: `${part} is longer than ten years.` };
    for (let d = from; d <= to; d++) days.add(d);
  }
  return days.size ? { days: [...days].sort((a, b) => a - b) } : { error: 'Type days as 24 dec 2026, or pick them in the year.' };
}

/** What a day becomes: nothing, half of its hours, hours of its own, its hours and more, or those of the plain week again. */
export const exceptionKinds = ['none', 'morning', 'afternoon', 'hours', 'extra', 'plain'] as const;
export type ExceptionKind = (typeof exceptionKinds)[number];

/**
 * The first or the second half of a day's hours: parted at the longest break; hours without a break at noon, or in the
 * middle of the working minutes where noon is not inside.
 */
export function halfOf(work: readonly Interval[], half: 'morning' | 'afternoon'): Interval[] {
  const all = mergeIntervals(work);
  if (all.length === 0) return [];
  let cut = -1;
  let longest = 0;
  for (let i = 1; i < all.length; i++)
    if (all[i]![0] - all[i - 1]![1] > longest) {
      longest = all[i]![0] - all[i - 1]![1];
      cut = all[i]![0];
    }
  if (cut < 0) {
    const [a, b] = all[0]!;
    cut = a < 720 && b > 720 ? 720 : Math.round((a + b) / 2);
  }
  const clip = ([a, b]: Interval): Interval => (half === 'morning' ? [a, Math.min(b, cut)] : [Math.max(a, cut), b]);
  return mergeIntervals(all.map(clip).filter(([a, b]) => b > a && a < MINUTES_PER_DAY));
}

export interface ExceptionWish {
  days: readonly Day[];
  kind: ExceptionKind;
  /** For `hours` and `extra`. */
  hours: readonly Interval[];
  name: string;
  yearly: boolean;
}

/** The exceptions that give picked days what is wished: one for each run of days that get the same hours. */
export function exceptionsFor(calendar: CalendarDefinition, wish: ExceptionWish): { exceptions: Exception[] } | { error: string } {
  const out: Exception[] = [];
  const usual = (calendar.week ?? []).map(mergeIntervals).reduce<Interval[]>((best, day) => (minutesOf(day) > minutesOf(best) ? day : best), []);
  for (const day of [...new Set(wish.days)].sort((a, b) => a - b)) {
    const plain = calendar.week ? mergeIntervals(calendar.week[weekdayOf(day)]!) : [];
    // A half of a day without work is half of the fullest day.
    const base = plain.length ? plain : usual;
    const work =
      wish.kind === 'none'
        ? []
        : wish.kind === 'hours'
          ? mergeIntervals(wish.hours)
          : wish.kind === 'extra'
            ? mergeIntervals([...plain, ...wish.hours])
            : wish.kind === 'plain'
              ? plain
              : halfOf(base, wish.kind);
    if (wish.kind === 'afternoon' && work.length === 0 && base.length)
      return { error: `The second half of the hours of ${showDay(day)} begins after midnight, on the next day. Give that day hours of its own instead.` };
    const last = out[out.length - 1];
    if (last && parseDay(last.to) === day - 1 && sameHours(last.work, work)) last.to = formatDay(day);
    else out.push({ name: wish.name, from: formatDay(day), to: formatDay(day), yearly: wish.yearly, work });
  }
  return { exceptions: out };
}
