/** The progress line: how far ahead or behind each activity is at the data date, against a baseline (rules, section 4). */
import { percentOf } from '../progress/percent.ts';
import type { Activity } from '../model/schema.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import type { Instant } from '../time/instant.ts';
import { percentTenth, tenth } from '../time/tenths.ts';

export interface ProgressPoint {
  /** Where on the baseline bar the progress reached lies; the data date where it is as planned. */
  at: Instant;
  /** Working days of the activity's calendar; negative is behind. */
  days: number;
}

/** The point up to which a baseline bar is done. Work that was neither due nor reported lies on the data date. */
export function progressPoint(a: Activity, c: WorkCalendar, baseline: { start: Instant; finish: Instant }, dataDate: Instant): ProgressPoint {
  const finished = a.actualFinish !== null || (a.type !== 'task' && a.actualStart !== null);
  const started = a.actualStart !== null;
  let at: Instant;
  if (finished) at = Math.max(baseline.finish, dataDate);
  else if (!started) at = Math.min(baseline.start, dataDate);
  else {
    const from = c.position(baseline.start);
    at = c.finishInstant(from + Math.round(((c.position(baseline.finish) - from) * percentOf(a)) / 100));
    if (at < baseline.start) at = baseline.start;
  }
  return { at, days: tenth((c.position(at) - c.position(dataDate)) / c.minutesPerDay) };
}

/**
 * Planned percent at the data date: the share of the baseline duration, in the activity's calendar, that lies before it
 * (rules, section 4). Work of zero length is planned to be done at its instant. From 0 to 100, with one decimal.
 */
export function plannedPercent(c: WorkCalendar, baseline: { start: Instant; finish: Instant }, dataDate: Instant): number {
  const from = c.position(baseline.start);
  const length = c.position(baseline.finish) - from;
  if (length <= 0) return baseline.finish <= dataDate ? 100 : 0;
  const share = (c.position(dataDate) - from) / length;
  return percentTenth(Math.min(1, Math.max(0, share)));
}
