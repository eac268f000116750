/** Two calendars day by day: what is worked on one and not on the other. */
import type { Interval } from '../model/schema.ts';
import type { CompiledCalendar } from './calendar.ts';
import type { Day } from './instant.ts';

export interface DayDifference {
  day: Day;
  ours: readonly Interval[];
  theirs: readonly Interval[];
  /** Name of the exception that holds on the day; empty for the plain week. */
  oursName: string;
  theirsName: string;
}

export const sameHours = (a: readonly Interval[], b: readonly Interval[]): boolean => a.length === b.length && a.every(([x, y], i) => x === b[i]![0] && y === b[i]![1]);

/** Days from `from` to `to` (both included) on which the hours differ. Names alone make no difference. */
export function differingDays(ours: CompiledCalendar, theirs: CompiledCalendar, from: Day, to: Day): DayDifference[] {
  const out: DayDifference[] = [];
  for (let day = from; day <= to; day++) {
    const a = ours.intervalsOn(day);
    const b = theirs.intervalsOn(day);
    if (!sameHours(a, b)) out.push({ day, ours: a, theirs: b, oursName: ours.exceptionOnDay(day)?.name ?? '', theirsName: theirs.exceptionOnDay(day)?.name ?? '' });
  }
  return out;
}
