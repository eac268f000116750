/** Taking a status update over: its entries with a new data date. */
import { Draft } from '../change/change.ts';
import { type Document, labelOf, ordered, projectOf } from '../model/document.ts';
import type { Problem } from '../model/problem.ts';
import { type Entry, withEntry } from '../progress/due.ts';
import { progressError } from '../progress/rules.ts';
import { parseInstant } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';

import { snapshotChange } from './project.ts';
import { count, done, type NewId, type Outcome, refused } from './result.ts';

/** Problems of entries before they are taken over. */
export function entryProblems(doc: Document, newDataDate: string, entries: ReadonlyMap<string, Entry>): Problem[] {
  const out: Problem[] = [];
  for (const [id, entry] of entries) {
    const a = doc.activities.get(id);
    if (!a) continue;
    const error = progressError(withEntry(a, entry), newDataDate);
    if (error) out.push({ code: 'WRONG_ENTRY', severity: 'error', message: `${labelOf(a)}: ${error}`, where: { table: 'activities', id, label: labelOf(a) } });
  }
  return out;
}

/** The changes of entries and the new data date, without copies: what a preview computes. */
export function entryChanges(doc: Document, newDataDate: string, entries: ReadonlyMap<string, Entry>): Draft {
  const draft = new Draft(doc);
  draft.patch('project', 'project', { dataDate: newDataDate });
  for (const [id, entry] of entries) {
    const a = doc.activities.get(id);
    if (a) draft.set('activities', id, withEntry(a, entry));
  }
  return draft;
}

/** Takes a status update over: a restore point of what was, the new data date, the entries, and a copy of the result. */
export function takeOver(doc: Document, args: { dataDate: string; entries: ReadonlyMap<string, Entry>; at: string }, newId: NewId): Outcome {
  const project = projectOf(doc);
  if (parseInstant(args.dataDate) === undefined) return refused('WRONG_DATE', 'The new data date cannot be read.', { field: 'dataDate' });
  if (project.dataDate !== null && (parseInstant(args.dataDate) as number) < (parseInstant(project.dataDate) as number))
    return refused('DATA_DATE_BACK', `The new data date lies before the present one, ${showTypedDate(project.dataDate)}. Go back to a restore point instead.`, {
      table: 'project',
      field: 'dataDate',
    });
  const problems = entryProblems(doc, args.dataDate, args.entries);
  for (const a of doc.activities.values()) {
    if (args.entries.has(a.id)) continue;
    const error = progressError(a, args.dataDate);
    if (error) problems.push({ code: 'WRONG_ENTRY', severity: 'error', message: `${labelOf(a)}: ${error}`, where: { table: 'activities', id: a.id } });
  }
  if (problems.length) return { ok: false, problems };
  const number = ordered(doc, 'snapshots').filter((s) => s.kind === 'statusUpdate').length + 1;
  const draft = entryChanges(doc, args.dataDate, args.entries);
  const before = snapshotChange(doc, { id: newId(), kind: 'restorePoint', name: `Before status update ${number}`, at: args.at });
  draft.set('snapshots', before.id, before.after);
  const after = snapshotChange(doc, {
    id: newId(),
    kind: 'statusUpdate',
    name: `Status update ${number}`,
    description: `${count(args.entries.size, 'entry', 'entries')}`,
    at: args.at,
    dataDate: args.dataDate,
  });
  draft.set('snapshots', after.id, { ...after.after, rank: (before.after?.rank ?? 0) + 1 } as typeof after.after);
  return done(`Status update ${number}, data date ${showTypedDate(args.dataDate)}`, draft.changes, [before.id, after.id]);
}
