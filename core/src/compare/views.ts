/** What differs between two computed views of one document: for previews, and for what an edit moved. */
import { type Document, projectOf } from '../model/document.ts';
import { daysBetween } from '../rollup/summary.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';
import { calendarFor } from '../schedule/calendars.ts';

export interface Move {
  id: string;
  /** Finishes before and after. */
  from: Instant;
  to: Instant;
  /** Working days of the activity's calendar; later is positive. */
  days: number;
}

export interface ViewDifference {
  before: Instant;
  after: Instant;
  /** Working days of the project's calendar by which the project finish moves. */
  finishDays: number;
  /** Activities whose start or finish moves, the largest move of a finish first. */
  moved: Move[];
  /** How many move, and whether a finish goes later. */
  count: number;
  later: boolean;
  criticalBefore: number;
  criticalAfter: number;
  /** Days of the project's calendar, before and after; null where there is nothing to count to. */
  againstBaseline: [number | null, number | null];
  toRequired: [number | null, number | null];
}

const count = (flags: Uint8Array): number => flags.reduce((n, f) => n + f, 0);

/** Working days of the project's calendar by which the finish of a plan moves from one view to another. */
export function finishDays(doc: Document, before: ScheduleView, after: ScheduleView): number {
  const c = calendarFor(doc, { calendarId: projectOf(doc).calendarId });
  return c ? daysBetween(c, before.projectFinish, after.projectFinish) : 0;
}

/**
 * Compares two views. Days are counted in the calendars of the document as it is. `most`: so many of the largest moves
 * are listed; `count` tells how many there are.
 */
export function differencesOf(doc: Document, before: ScheduleView, after: ScheduleView, most = Infinity): ViewDifference {
  const same = before.ids === after.ids;
  const places: number[] = [];
  const olds: number[] = [];
  let later = false;
  for (let i = 0; i < after.ids.length; i++) {
    const j = same ? i : placeOf(before, after.ids[i]!);
    if (j === undefined || (before.start[j] === after.start[i] && before.finish[j] === after.finish[i])) continue;
    if (after.finish[i]! > before.finish[j]!) later = true;
    olds.push(j);
    places.push(i);
  }
  const order = Uint32Array.from(places.keys()).sort((x, y) => {
    const [a, b] = [Math.abs(after.finish[places[x]!]! - before.finish[olds[x]!]!), Math.abs(after.finish[places[y]!]! - before.finish[olds[y]!]!)];
    return b - a || x - y;
  });
  const moved = [...order.subarray(0, Math.min(most, order.length))].map((n): Move => {
    const [i, j] = [places[n]!, olds[n]!];
    const id = after.ids[i]!;
    const c = calendarFor(doc, doc.activities.get(id) ?? { calendarId: null });
    return { id, from: before.finish[j]!, to: after.finish[i]!, days: c ? daysBetween(c, before.finish[j]!, after.finish[i]!) : 0 };
  });
  return {
    before: before.projectFinish,
    after: after.projectFinish,
    finishDays: finishDays(doc, before, after),
    moved,
    count: places.length,
    later,
    criticalBefore: count(before.critical),
    criticalAfter: count(after.critical),
    againstBaseline: [before.summary.againstBaseline, after.summary.againstBaseline],
    toRequired: [before.summary.toRequired, after.summary.toRequired],
  };
}
