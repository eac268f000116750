/** What the passes ask of a calendar, whether it is one of the project or one that is cut with those who do the work. */
import type { Exception, Interval } from '../model/schema.ts';
import type { Day, Instant } from './instant.ts';

export interface WorkCalendar {
  readonly id: string;
  readonly name: string;
  readonly minutesPerDay: number;
  readonly daysPerWeek: number;
  /** Working minutes on the whole axis. */
  readonly total: number;
  /** W(t): working minutes before instant t. */
  position(t: Instant): number;
  /** The smallest instant t with W(t) = p. */
  finishInstant(p: number): Instant;
  /** The largest instant t with W(t) = p. */
  startInstant(p: number): Instant;
  isWorking(t: Instant): boolean;
  /** Working stretches that touch [from, to), clipped to it, in order. */
  stretches(from: Instant, to: Instant): Interval[];
  /** First stretch of `days` days or more without work between two instants, if there is one. */
  longStop(from: Instant, to: Instant, days: number): { from: Instant; to: Instant } | undefined;
  /** The intervals that begin on a date, before anybody's absence is taken off. */
  intervalsOn(day: Day): readonly Interval[];
  exceptionOnDay(day: Day): Exception | undefined;
}
