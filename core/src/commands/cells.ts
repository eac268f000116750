/** Commands on cells: typed text into one field of one row or of many, filling down, clearing. */
import { Draft } from '../change/change.ts';
import { foldChanges, trying } from '../change/trial.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf } from '../model/document.ts';
import type { Activity, WbsNode } from '../model/schema.ts';
import { editField, type Field, type FieldContext, type NodeCell, type Read, showField } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
import { typedDate } from '../fields/typed.ts';
import type { ScheduleView } from '../schedule/view.ts';
import { codeWbs, renameWbs, type RowRef } from './outline.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';
import { titleOf } from '../model/tables.ts';

const contextOf = (doc: Document, view: ScheduleView | null | undefined): FieldContext => ({ doc, view: view ?? null, baseline: null, clock: false });

/** The text of a field of an activity as it can be typed back. */
export function cellText(doc: Document, a: Activity, key: string, view: ScheduleView | null = null): string {
  const f = fieldOf(doc, key);
  return f ? editField(f, activityCell(contextOf(doc, view), a)) : '';
}

/** Sets one field of one activity from typed text. Empty text clears what can be empty. */
export function setCell(doc: Document, id: string, key: string, text: string, newId: NewId, view?: ScheduleView | null): Outcome {
  const a = doc.activities.get(id);
  if (!a) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  const f = fieldOf(doc, key);
  const where = { table: 'activities', id, label: labelOf(a), field: key };
  if (!f?.read)
    return refused(
      'WRONG_VALUE',
      `${labelOf(a)}: ${f ? (f.readNode ? `${f.title} belongs to WBS nodes` : `${f.title} is computed`) : `there is no field ${key}`}; nothing can be typed there.`,
      where,
    );
  const read: Read = f.read(text.trim(), activityCell(contextOf(doc, view), a), newId);
  if ('outcome' in read) return read.outcome;
  if ('ask' in read)
    return {
      ...refused('ASK', `${labelOf(a)}: ${read.ask}`, where),
      choices: read.choices.map((c) => ({ label: c.label, outcome: 'outcome' in c ? c.outcome : setActivities(doc, [id], c.fields) })),
    };
  if ('error' in read) return refused('WRONG_VALUE', `${labelOf(a)}: ${read.error}`, where);
  const set = setActivities(doc, [id], read.fields);
  // What lies in the store of values is told by its own name.
  return set.ok && f.stored === 'values' ? { ...set, label: `Set ${f.title} of ${labelOf(a)}` } : set;
}

/** Sets one field of several activities from the same text: read for each by itself, since it may mean other minutes on another calendar. All or nothing. */
export function setCells(doc: Document, ids: readonly string[], key: string, text: string, newId: NewId, view?: ScheduleView | null): Outcome {
  const f = fieldOf(doc, key);
  if (ids.length === 1) return setCell(doc, ids[0]!, key, text, newId, view);
  return trying(doc, (put) => {
    const all = [];
    for (const [i, id] of ids.entries()) {
      const outcome = setCell(doc, id, key, text, newId, view);
      if (!outcome.ok && outcome.choices && i === 0)
        return { ...outcome, choices: outcome.choices.map((c) => ({ label: c.label, outcome: andRest(doc, c.outcome, ids, key, text, newId, view) })) };
      if (!outcome.ok) return outcome;
      put(outcome.changes);
      all.push(...outcome.changes);
    }
    if (ids.length === 0) return refused('NOTHING_SELECTED', 'Select activities first.');
    const what = `${f?.title.toLowerCase() ?? key} of ${count(ids.length, 'activity')}`;
    return done(text.trim() === '' ? `Clear ${what}` : `Set ${what}`, foldChanges(all));
  });
}

/** An answer that was given for the first of some activities, and what it makes possible for the others. */
function andRest(doc: Document, first: Outcome, ids: readonly string[], key: string, text: string, newId: NewId, view?: ScheduleView | null): Outcome {
  if (!first.ok) return first;
  return trying(doc, (put) => {
    put(first.changes);
    const rest = setCells(doc, ids.slice(1), key, text, newId, view);
    return rest.ok ? done(rest.label, foldChanges([...first.changes, ...rest.changes])) : { ok: false, problems: rest.problems };
  });
}

/** Gives the rows below the first one what the first one has in a field. */
export function fillDown(doc: Document, refs: readonly RowRef[], key: string, newId: NewId, view?: ScheduleView | null): Outcome {
  const f = fieldOf(doc, key);
  if (!f?.read && !f?.readNode) return refused('WRONG_VALUE', `${f?.title ?? key} is computed; it cannot be filled down. Choose a column that can be typed.`);
  const rows = refs.filter((r) => holds(doc, f, r));
  const [first, ...rest] = rows;
  if (!first || rest.length === 0) return refused('SELECT_TWO', `Select two or more ${f.readNode ? 'WBS nodes' : 'activities'}: what the first one has goes down to the others.`);
  const outcome = setRows(doc, rest, key, rowText(doc, first, f, view ?? null), newId, view);
  return outcome.ok ? { ...outcome, label: `Fill ${f.title.toLowerCase()} down over ${countOf(f, rows.length)}` } : outcome;
}

/** True where rows of a kind hold a field by themselves: a name is theirs alone. */
const holds = (doc: Document, f: Field, r: RowRef): boolean =>
  r.kind === 'wbs' ? f.readNode !== undefined && doc.wbs.has(r.id) : f.read !== undefined && doc.activities.has(r.id);
const countOf = (f: Field, n: number): string => (f.readNode ? `${n} ${n === 1 ? 'WBS node' : 'WBS nodes'}` : count(n, 'activity'));
function rowText(doc: Document, r: RowRef, f: Field, view: ScheduleView | null): string {
  const [a, node] = [doc.activities.get(r.id), doc.wbs.get(r.id)];
  return a ? cellText(doc, a, f.key, view) : node ? (f.editNode?.(nodeCell(doc, node)) ?? '') : '';
}

/**
 * True where a cell says a text already, as it is shown or as it would be typed: then the text is no change of it. A date of
 * linked work that comes back from a spreadsheet as it went would be taken as a constraint, and what a milestone does not
 * have could not be read.
 */
export function saysAlready(doc: Document, r: RowRef, f: Field, text: string, view: ScheduleView | null): boolean {
  const t = text.trim();
  const a = doc.activities.get(r.id);
  if (!a) return f.editNode !== undefined && rowText(doc, r, f, view).trim() === t;
  const cell = activityCell(contextOf(doc, view), a);
  // A spreadsheet may write a date otherwise than it got it.
  const date = f.kind === 'date' ? typedDate(doc, t) : undefined;
  return [editField(f, cell), showField(f, cell)].some((said) => said.trim() === t || (date !== undefined && date === typedDate(doc, said)));
}

const nodeCell = (doc: Document, node: WbsNode): NodeCell => ({ ...contextOf(doc, null), kind: 'wbs', node, code: '', rollup: undefined });

/** Sets one field of those of some rows that hold it from the same text. All or nothing. */
export function setRows(doc: Document, refs: readonly RowRef[], key: string, text: string, newId: NewId, view?: ScheduleView | null): Outcome {
  const f = fieldOf(doc, key);
  if (!f?.readNode)
    return setCells(
      doc,
      refs.flatMap((r) => (r.kind === 'activity' ? [r.id] : [])),
      key,
      text,
      newId,
      view,
    );
  const nodes = refs.filter((r) => r.kind === 'wbs');
  if (nodes.length === 0) return refused('NOTHING_SELECTED', `${f.title} belongs to WBS nodes. Select some first.`);
  return trying(doc, (put) => {
    const all = [];
    for (const r of nodes) {
      const outcome = setNodeCell(doc, r.id, key, text);
      if (!outcome.ok) return outcome;
      put(outcome.changes);
      all.push(...outcome.changes);
    }
    return done(`${text.trim() === '' ? 'Clear' : 'Set'} ${f.title.toLowerCase()} of ${countOf(f, nodes.length)}`, foldChanges(all));
  });
}

/** Sets the field of a row of either kind: of a WBS node its name, its own part of the WBS code, or a field of nodes. */
export function setRow(doc: Document, ref: RowRef, key: string, text: string, newId: NewId, view?: ScheduleView | null): Outcome {
  if (ref.kind === 'activity') return setCell(doc, ref.id, key, text, newId, view);
  return key === 'code' ? codeWbs(doc, ref.id, text) : key === 'name' ? renameWbs(doc, ref.id, text) : setNodeCell(doc, ref.id, key, text);
}

/** Sets one field of a WBS node from typed text, where it can be typed there. */
function setNodeCell(doc: Document, id: string, key: string, text: string): Outcome {
  const node = doc.wbs.get(id);
  const f = fieldOf(doc, key);
  if (!node) return refused('UNKNOWN_WBS', 'That WBS node is not in the plan any more.');
  const where = { table: 'wbs', id, label: node.name, field: key };
  if (!f?.readNode) return refused('WRONG_VALUE', `${node.name}: ${f?.title ?? key} cannot be typed in a WBS node.`, where);
  const read = f.readNode(text, nodeCell(doc, node));
  if ('error' in read) return refused('WRONG_VALUE', `${node.name}: ${read.error}`, where);
  const draft = new Draft(doc);
  draft.patch('wbs', id, read.fields);
  return settled(doc, `Set ${f.title} of ${node.name}`, draft.changes);
}

/** True where something can be typed into a field of a row of this kind. */
export const isTypable = (f: Field | undefined, kind: 'activity' | 'wbs'): boolean =>
  kind === 'activity' ? f?.read !== undefined : f?.readNode !== undefined || (f?.read !== undefined && f.naming === true);

/** Sets fields of activities after checking that they hold together. */
export function setActivities(doc: Document, ids: readonly string[], fields: Partial<Activity>): Outcome {
  const draft = new Draft(doc);
  const there = ids.filter((id) => doc.activities.has(id));
  if (there.length === 0) return refused('UNKNOWN_ACTIVITY', ids.length === 1 ? 'That activity is not in the plan any more.' : 'Select activities first.');
  const index = indexOf(doc);
  for (const id of there) {
    const a = doc.activities.get(id) as Activity;
    const next = { ...a, ...fields };
    if (next.type === 'margin' && a.type !== 'margin' && [...index.linksInto(id), ...index.linksOutOf(id)].some((l) => l.type !== 'FS'))
      return refused('MARGIN_LINK', `${labelOf(a)} has links other than finish-to-start. Change those first; a margin takes only FS.`, { table: 'activities', id });
    draft.set('activities', id, next);
  }
  const one = there.length === 1 ? doc.activities.get(there[0]!) : undefined;
  const what = Object.keys(fields)
    .filter((f) => f !== 'rank' || !('wbsId' in fields))
    .map((f) => titleOf('activities', f).toLowerCase())
    .join(', ');
  return settled(doc, `Set ${what} of ${one ? labelOf(one) : count(there.length, 'activity')}`, draft.changes);
}
