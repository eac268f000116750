/** Edits of activities, followed to their assignments: what every command that sets fields ends with. */
import type { Change } from '../change/change.ts';
import { Refusal, Work } from '../load/follow.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import type { Assignment } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { type Place, type Problem, problem } from '../model/problem.ts';

/** An activity with what its assignments follow. */
export const workOf = (doc: Document, a: Activity): Work => new Work(doc, a, dayLengths(doc, a).minutesPerDay);

/** The changes between assignments of an activity as they are and as they follow. */
export function assignmentChanges(doc: Document, activityId: string, after: readonly Assignment[]): Change[] {
  const before = new Map(
    indexOf(doc)
      .assignmentsOf(activityId)
      .map((x) => [x.id, x]),
  );
  return after.flatMap((x): Change[] => {
    const was = before.get(x.id);
    return was === x ? [] : [{ table: 'assignments', id: x.id, before: was ?? null, after: x }];
  });
}

const place = (a: Activity): Place => ({ table: 'activities', id: a.id, label: a.code, field: 'assignments' });

/** Runs an edit of work: what it gives, or why it is refused. */
export function tryWork<T>(a: Activity, f: () => T): { done: T } | { refusal: Problem } {
  try {
    return { done: f() };
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    return { refusal: problem('WORK_WITHOUT_LENGTH', e.message, place(a)) };
  }
}

const watched = ['duration', 'quantity', 'rate', 'crews', 'basis', 'type'] as const;

/** What an edit of an activity does to its assignments and to what else of it follows. Undefined where nothing follows. */
function followed(doc: Document, before: Activity, after: Activity): { activity: Activity; changes: Change[] } | undefined {
  if (watched.every((f) => before[f] === after[f])) return undefined;
  const assigned = indexOf(doc).assignmentsOf(before.id).length > 0;
  const rated = before.basis === 'productionRate' || after.basis === 'productionRate';
  if (!assigned && !rated) return undefined;
  const work = workOf(doc, before);
  if (after.basis !== before.basis) work.setBasis(after.basis);
  if (after.quantity !== before.quantity || after.rate !== before.rate) work.setQuantity({ quantity: after.quantity, rate: after.rate });
  if (after.crews !== before.crews) work.setCrews(after.crews);
  if (after.duration !== before.duration) work.setDuration(after.duration);
  if (after.type !== before.type) work.setType(after.type);
  const { duration, rate, remaining } = work.a;
  const activity = { ...after, duration, rate, remaining: after.remaining === before.remaining ? remaining : after.remaining };
  return { activity, changes: assignmentChanges(doc, before.id, work.list) };
}

/** Changes with all that follows from them. Activities whose assignments change in the same act are as that act says. */
export function workFollows(doc: Document, changes: readonly Change[]): { changes: Change[] } | { refusal: Problem } {
  const handled = new Set(changes.flatMap((c) => (c.table === 'assignments' ? [((c.after ?? c.before) as Assignment).activityId] : [])));
  const out: Change[] = [];
  for (const c of changes) {
    if (c.table !== 'activities' || !c.before || !c.after || handled.has(c.id)) {
      out.push(c);
      continue;
    }
    const [before, after] = [c.before as Activity, c.after as Activity];
    const tried = tryWork(before, () => followed(doc, before, after));
    if ('refusal' in tried) return tried;
    const follows = tried.done;
    out.push(follows ? { ...c, after: follows.activity } : c, ...(follows?.changes ?? []));
  }
  return { changes: out };
}
