/** Dated notes and files of rows: adding, changing, deleting; and what becomes of them when their row goes. */
import { Draft } from '../change/change.ts';
import { type AttachedTable, attachedTables, indexOf, type OutlineRef } from '../model/doc-index.ts';
import { type Document, labelOf } from '../model/document.ts';
import type { Expense } from '../model/money-schema.ts';
import type { Assignment } from '../model/resource-schema.ts';
import { type AttachedFile, type DatedNote, MAX_FILE, MAX_FILES } from '../model/schema.ts';
import { type Booked, bookedHere } from './bring-money.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

/** Who does something, and when: UTC, ISO 8601. */
export interface MadeBy {
  who: string;
  at: string;
}

const ownerFields = (row: OutlineRef | null): Pick<DatedNote, 'activityId' | 'wbsId'> => ({
  activityId: row?.kind === 'activity' ? row.id : null,
  wbsId: row?.kind === 'wbs' ? row.id : null,
});

/** What a row is called; undefined where it is not in the plan (any more). */
function calledIn(doc: Document, row: OutlineRef | null): string | undefined {
  if (row === null) return 'the project';
  const a = row.kind === 'activity' ? doc.activities.get(row.id) : undefined;
  return a ? labelOf(a) : row.kind === 'wbs' ? doc.wbs.get(row.id)?.name : undefined;
}

const nextRank = (doc: Document, table: AttachedTable, row: OutlineRef | null): number => (indexOf(doc).attachedTo(table, row).at(-1)?.rank ?? -1) + 1;
const gone = refused('NOTHING_SELECTED', 'That row is not in the plan any more.');

/** Adds a dated note to a row (null: to the project). */
export function addNote(doc: Document, row: OutlineRef | null, text: string, by: MadeBy, newId: NewId): Outcome {
  const called = calledIn(doc, row);
  if (called === undefined) return gone;
  if (text.trim() === '') return refused('WRONG_VALUE', 'The note is empty. Type what is to be remembered.');
  if (text.length > 20_000) return refused('WRONG_VALUE', 'The note is longer than 20,000 characters. Shorten it, or attach it as a file.');
  const note: DatedNote = { id: newId(), rank: nextRank(doc, 'datedNotes', row), ...ownerFields(row), at: by.at, who: by.who, text: text.trim() };
  const draft = new Draft(doc);
  draft.set('datedNotes', note.id, note);
  return settled(doc, `Note on ${called}`, draft.changes);
}

/** Changes the text of a dated note; its day and author stay. Empty text deletes it. */
export function changeNote(doc: Document, id: string, text: string): Outcome {
  const note = doc.datedNotes.get(id);
  if (!note) return refused('UNKNOWN_NOTE', 'That note is not there any more.');
  if (text.length > 20_000) return refused('WRONG_VALUE', 'The note is longer than 20,000 characters. Shorten it, or attach it as a file.');
  const draft = new Draft(doc);
  draft.set('datedNotes', id, text.trim() === '' ? null : { ...note, text: text.trim() });
  return settled(doc, `${text.trim() === '' ? 'Delete' : 'Change'} a note`, draft.changes);
}

const megabytes = (bytes: number): string => `${Math.round(bytes / 1024 / 102.4) / 10} MB`;

/** Attaches files, whose contents are kept already, to a row (null: to the project). */
export function attachFiles(doc: Document, row: OutlineRef | null, files: readonly Pick<AttachedFile, 'name' | 'size' | 'hash'>[], by: MadeBy, newId: NewId): Outcome {
  const called = calledIn(doc, row);
  if (called === undefined) return gone;
  const large = files.find((f) => f.size > MAX_FILE);
  if (large) return refused('TOO_LARGE', `${large.name} has ${megabytes(large.size)}; a file may have ${megabytes(MAX_FILE)}. Keep it elsewhere, and give its web address.`);
  const total = [...doc.files.values(), ...doc.pictures.values(), ...files].reduce((n, f) => n + f.size, 0);
  if (total > MAX_FILES)
    return refused('TOO_LARGE', `With that the files of the project would have ${megabytes(total)}; together they may have ${megabytes(MAX_FILES)}. Delete some first.`);
  const draft = new Draft(doc);
  let rank = nextRank(doc, 'files', row);
  for (const f of files) {
    const file: AttachedFile = { id: newId(), rank: rank++, ...ownerFields(row), at: by.at, who: by.who, name: f.name.slice(0, 255) || 'file', size: f.size, hash: f.hash };
    draft.set('files', file.id, file);
  }
  return settled(doc, `Attach ${count(files.length, 'file')} to ${called}`, draft.changes);
}

/** Takes a file away. Its content stays, so that undo brings it back whole. */
export function removeFile(doc: Document, id: string): Outcome {
  const file = doc.files.get(id);
  if (!file) return refused('UNKNOWN_FILE', 'That file is not there any more.');
  const draft = new Draft(doc);
  draft.set('files', id, null);
  return settled(doc, `Remove ${file.name}`, draft.changes);
}

/** Takes a row out of a draft. What is attached to it goes to its heir, where there is one, else with it. */
export function takeOut(draft: Draft, row: OutlineRef, heir: OutlineRef | null = null): void {
  for (const table of attachedTables) for (const r of indexOf(draft.doc).attachedTo(table, row)) draft.set(table, r.id, heir === null ? null : { ...r, ...ownerFields(heir) });
  if (row.kind === 'activity')
    for (const x of indexOf(draft.doc).assignmentsOf(row.id)) if (draft.get('assignments', x.id)?.activityId === row.id) draft.set('assignments', x.id, null);
  if (row.kind === 'activity') for (const e of indexOf(draft.doc).expensesOf(row.id)) draft.set('expenses', e.id, heir?.kind === 'activity' ? { ...e, activityId: heir.id } : null);
  draft.set(row.kind === 'wbs' ? 'wbs' : 'activities', row.id, null);
}

/** What is attached to rows, row by row. */
export const attachedTo = (doc: Document, rows: readonly OutlineRef[]): { datedNotes: DatedNote[]; files: AttachedFile[]; assignments: Assignment[]; expenses: Expense[] } => ({
  expenses: rows.flatMap((r) => (r.kind === 'activity' ? indexOf(doc).expensesOf(r.id) : [])),
  assignments: rows.flatMap((r) => (r.kind === 'activity' ? indexOf(doc).assignmentsOf(r.id) : [])),
  datedNotes: rows.flatMap((r) => indexOf(doc).attachedTo('datedNotes', r)),
  files: rows.flatMap((r) => indexOf(doc).attachedTo('files', r)),
});

/** Puts copies of what is attached to rows on other rows. `idOf`: the copy of a row. */
export function putAttached(
  draft: Draft,
  attached: { datedNotes: readonly DatedNote[]; files: readonly AttachedFile[]; assignments: readonly Assignment[]; expenses: readonly Expense[] },
  idOf: (id: string) => string | undefined,
  newId: NewId,
  whom: (x: Assignment) => Pick<Assignment, 'resourceId' | 'roleId'> | null = (x) => x,
  booked: Booked = bookedHere(draft),
): void {
  // Of a copy nothing has been done yet.
  const untouched = { actualWork: null, remainingWork: null, actualQuantity: null, remainingQuantity: null, actualCost: null };
  for (const x of attached.assignments) {
    const activityId = idOf(x.activityId);
    const to = whom(x);
    if (activityId === undefined || !to) continue;
    const id = newId();
    draft.set('assignments', id, { ...x, ...untouched, id, activityId, resourceId: to.resourceId, roleId: to.roleId, accountId: booked.account(x.accountId) });
  }
  for (const e of attached.expenses) {
    const activityId = idOf(e.activityId);
    const id = newId();
    if (activityId !== undefined) draft.set('expenses', id, { ...booked.expense(e), id, activityId, actual: null, remaining: null });
  }
  for (const table of attachedTables)
    for (const r of attached[table]) {
      const owner = { activityId: r.activityId === null ? null : idOf(r.activityId), wbsId: r.wbsId === null ? null : idOf(r.wbsId) };
      if (owner.activityId === undefined || owner.wbsId === undefined) continue;
      const id = newId();
      draft.set(table, id, { ...r, id, ...owner } as DatedNote | AttachedFile);
    }
}
