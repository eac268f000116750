/** What a stamp does: one value put on many activities as one change. */
import { setActivities } from '../commands/cells.ts';
import { done, type Outcome } from '../commands/result.ts';
import { type Document, labelOf } from '../model/document.ts';
import { indexOf } from '../model/doc-index.ts';

/** Activities of rows. A WBS node alone stands for all that is in it; swept over on the way between activities it does not count. */
function activitiesOf(doc: Document, ids: readonly string[]): string[] {
  const own = ids.filter((id) => doc.activities.has(id));
  if (own.length) return own;
  const out = new Set<string>();
  const index = indexOf(doc);
  const take = (id: string): void => {
    if (doc.activities.has(id)) out.add(id);
    else for (const c of index.childrenOf(id)) take(c.id);
  };
  for (const id of ids) take(id);
  return [...out];
}

/** What a stamp does to rows: activities that have the value already are left as they are. */
export function stampOutcome(doc: Document, ids: readonly string[], calendarId: string | null): Outcome {
  const targets = activitiesOf(doc, ids).filter((id) => doc.activities.get(id)?.calendarId !== calendarId);
  if (targets.length === 0) return done('Stamp nothing', []);
  const outcome = setActivities(doc, targets, { calendarId });
  const name = calendarId === null ? "the project's calendar" : (doc.calendars.get(calendarId)?.name ?? '');
  const one = targets.length === 1 ? doc.activities.get(targets[0]!) : undefined;
  return outcome.ok ? done(`Stamp ${name} on ${one ? labelOf(one) : `${targets.length} activities`}`, outcome.changes) : outcome;
}
