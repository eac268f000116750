/** Where a plan stands: its data date, and before the first one its planned start. */
import { type Instant, MINUTES_PER_DAY, parseInstant } from '../time/instant.ts';
import { type Document, projectOf } from './document.ts';

/** The instant at which the plan stands. Both dates are kept valid by the rules of rows. */
export function statusInstant(doc: Document): Instant {
  const p = projectOf(doc);
  return parseInstant(p.dataDate ?? p.plannedStart) ?? 0;
}

/** Its day: a date that is typed without a year is meant near it. */
export const statusDay = (doc: Document): number => Math.floor(statusInstant(doc) / MINUTES_PER_DAY);
