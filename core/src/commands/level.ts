/** Holding work back: the levelling delay of activities (scheduling rules, section 3; resource rules, section 8). */
import { Draft } from '../change/change.ts';
import { type Document, labelOf } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { formatDuration } from '../time/duration.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { State } from '../schedule/network.ts';
import { workingCalendarFor } from '../schedule/working.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';
import { count, type Outcome, refused, settled } from './result.ts';

/** Whether an activity can be held back at all: unstarted tasks without a pinned date. */
export const canHoldBack = (a: Activity): boolean =>
  a.type === 'task' && a.actualStart === null && !a.constraints.some((c) => c.kind === 'pinnedStart' || c.kind === 'pinnedFinish');

/** Holds an activity back so that it begins at an instant at the earliest. Refused where it begins later already. */
export function holdBack(doc: Document, view: ScheduleView | null, id: string, until: Instant): Outcome {
  const a = doc.activities.get(id);
  const i = view ? placeOf(view, id) : undefined;
  const c = a && workingCalendarFor(doc, a);
  if (!a || !view || i === undefined || !c) return refused('NOT_COMPUTED', 'The activity has no dates yet.');
  const where = { table: 'activities', id, label: labelOf(a) };
  if (!canHoldBack(a) || view.state[i] !== State.unstarted) return refused('WRONG_TYPE', `${labelOf(a)} cannot be held back: it has begun, is pinned, or is no task.`, where);
  const more = c.position(until) - c.position(view.start[i]!);
  if (more <= 0) return refused('NOTHING_CHANGED', `${labelOf(a)} begins later already.`, where);
  const draft = new Draft(doc);
  draft.patch('activities', id, { levellingDelay: (a.levellingDelay ?? 0) + more });
  return settled(doc, `Hold ${labelOf(a)} back by ${formatDuration(more, dayLengths(doc, a))}`, draft.changes);
}

/** Sets the levelling delays of a proposal; what is null is taken away. */
export function takeDelays(doc: Document, delays: ReadonlyMap<string, number | null>): Outcome {
  const draft = new Draft(doc);
  for (const [id, levellingDelay] of delays) if (doc.activities.has(id)) draft.patch('activities', id, { levellingDelay });
  const held = [...delays.values()].filter((d) => d !== null && d > 0).length;
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'These delays are there already.');
  return settled(doc, held ? `Level: hold ${count(held, 'activity')} back` : 'Clear the delays of levelling', draft.changes);
}

/** Takes all levelling delays away (of some activities, or of all). */
export function clearDelays(doc: Document, ids: Iterable<string> = doc.activities.keys()): Outcome {
  const held = [...ids].filter((id) => (doc.activities.get(id)?.levellingDelay ?? null) !== null);
  return takeDelays(doc, new Map(held.map((id) => [id, null])));
}
