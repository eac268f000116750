/** Commands on fields that people make: adding, changing with what would be lost, deleting, and what new activities have. */
import { Draft } from '../change/change.ts';
import { compileExpression, namesIn, renamedIn } from '../expr/compile.ts';
import { identifierOf, MAX_KEY, reserved } from '../expr/types.ts';
import { unusedName } from '../model/unused-name.ts';
import { loopOf, nameInExpressions, namesOf } from '../fields/own.ts';
import { calendared, type OwnedRow, ownEditText, ownValue, readOwn, rowsOfOwn } from '../fields/own-values.ts';
import { ownKey, withValue } from '../model/values.ts';
import type { Field } from '../fields/field.ts';
import { builtIn, fieldOf } from '../fields/list.ts';
import { type Document, ordered } from '../model/document.ts';
import type { OwnField, OwnKind, OwnOf, StoredValue } from '../model/schema.ts';
import { labelOfRow, tables } from '../model/tables.ts';
import { nameObjection } from './codes.ts';
import { type NewId, type Outcome, refused, settled } from './result.ts';

export const ownKindNames: Record<OwnKind, string> = {
  text: 'text',
  number: 'number',
  money: 'money',
  date: 'date',
  duration: 'duration',
  yesNo: 'yes or no',
  choice: 'choice',
  address: 'web address',
  computed: 'computed',
};

/** How a field sums up, in words. */
export const sumNames: Record<OwnField['sum'], string> = {
  sum: 'sum',
  least: 'the least, or earliest',
  greatest: 'the greatest, or latest',
  mean: 'mean, weighted by duration',
  same: 'the value where all have the same',
  count: 'how many have one',
  none: 'nothing',
  again: 'computed again from the sums',
};
/** How fields of a kind sum up where nobody says otherwise. */
const usualSum = (kind: OwnKind): OwnField['sum'] => (kind === 'number' || kind === 'money' || kind === 'duration' ? 'sum' : 'same');

const gone = refused('UNKNOWN_FIELD', 'That field is not in the project any more.');

/** Rows of the table that a field belongs to, in words: "3 activities". */
export const ownedCount = (of: OwnOf, n: number): string => `${n} ${n === 1 ? tables[of].word : tables[of].words}`;

/** What has a field, in words: "WBS nodes". */
export const ownersOf = (of: OwnOf): string => (of === 'project' ? 'the project' : tables[of].words);
/** True of fields that are columns of the plan. */
export const inSheet = (of: OwnOf): boolean => of === 'activities' || of === 'wbs';

/** Adds a field of a kind, behind the others. */
export function addOwnField(doc: Document, name: string, kind: OwnKind, newId: NewId, of: OwnOf = 'activities'): Outcome {
  const id = newId();
  const no = nameObjection(doc.ownFields.values(), id, name, 'field');
  if (no) return no;
  const rank = ordered(doc, 'ownFields').reduce((n, f) => Math.max(n, f.rank), -1) + 1;
  const draft = new Draft(doc);
  const field: OwnField = {
    id,
    rank,
    name: name.trim(),
    key: freeName([...doc.ownFields.values()], name.trim()),
    about: '',
    of,
    kind,
    unit: '',
    choices: [],
    standard: null,
    required: false,
    sum: usualSum(kind),
    expression: '',
  };
  draft.set('ownFields', id, field);
  return settled(doc, `Add field ${name.trim()}`, draft.changes, [id]);
}

/** A name for expressions that nothing has yet, from a name: `Risk class` is `riskClass`. */
export function freeName(fields: readonly OwnField[], name: string): string {
  return unusedName(identifierOf(name), [...fields.map(nameInExpressions), ...builtIn.map((f) => f.key), ...reserved], MAX_KEY, '');
}

/** Why a field cannot be called so in expressions; undefined where it can. */
function keyObjection(doc: Document, f: OwnField): Outcome | undefined {
  const where = { table: 'ownFields', id: f.id, label: f.name, field: 'key' };
  if (!/^[A-Za-z][A-Za-z0-9]{0,59}$/.test(f.key)) return refused('WRONG_VALUE', 'A name in expressions has letters and digits only, a letter first.', where);
  const low = f.key.toLowerCase();
  const twin = [...doc.ownFields.values()].find((x) => x.id !== f.id && nameInExpressions(x).toLowerCase() === low);
  const other = twin?.name ?? builtIn.find((x) => x.key.toLowerCase() === low)?.title ?? ([...reserved].some((r) => r.toLowerCase() === low) ? 'a word of expressions' : undefined);
  return other === undefined ? undefined : refused('NAME_TAKEN', `${f.key} means ${other} in expressions already. Choose another name.`, where);
}

/** What is wrong with a computed field's expression; undefined where it can be computed. */
export function expressionError(doc: Document, f: OwnField): string | undefined {
  const others = [...doc.ownFields.values()].filter((x) => x.id !== f.id);
  const loop = loopOf([...others, f], f);
  if (loop) return `Fields cannot ask for each other in a ring: ${[...loop, loop[0]].join(' asks for ')}.`;
  const compiled = compileExpression(
    f.expression,
    namesOf(doc, (name) => (name === nameInExpressions(f) ? undefined : fieldNamed(doc, name))),
  );
  return 'error' in compiled ? compiled.error : undefined;
}

/** The field that a name means in expressions: a name that people gave is theirs. Undefined where none is called so. */
export function fieldNamed(doc: Document, name: string): Field | undefined {
  const own = [...doc.ownFields.values()].find((x) => nameInExpressions(x) === name);
  return own ? fieldOf(doc, ownKey(own.id)) : builtIn.find((x) => x.key === name);
}

/** Computed fields that ask for a field, or for a code set. */
export const askers = (doc: Document, what: 'fields' | 'sets', names: readonly string[]): OwnField[] =>
  [...doc.ownFields.values()].filter((f) => f.kind === 'computed' && namesIn(f.expression)[what].some((n) => names.some((x) => x.toLowerCase() === n.toLowerCase())));

/** Rows that have something in a field. */
export function ownUses(doc: Document, id: string): OwnedRow[] {
  const f = doc.ownFields.get(id);
  return f ? rowsOfOwn(doc, f.of).filter((r) => r.values[ownKey(id)] !== undefined) : [];
}

/** What becomes of the values of a field when it changes: each read anew from its text; `lost`: those that cannot be. */
export function convertOwn(doc: Document, id: string, next: OwnField): { values: Map<string, StoredValue | null>; lost: OwnedRow[] } {
  const old = doc.ownFields.get(id);
  const values = new Map<string, StoredValue | null>();
  const lost: OwnedRow[] = [];
  for (const row of ownUses(doc, id)) {
    const stored = row.values[ownKey(id)];
    const stays = old?.of === next.of;
    if (stays && old.kind === next.kind && ownValue(next, stored) !== null) continue;
    const r = stays ? readOwn(next, ownEditText(old, stored, doc, calendared(row)), doc, calendared(row)) : { value: null };
    const value = 'error' in r ? null : r.value;
    if (value === null) lost.push(row);
    values.set(row.id, value);
  }
  return { values, lost };
}

function lossText(doc: Document, f: OwnField, lost: readonly OwnedRow[]): string {
  const first = labelOfRow(f.of, lost[0]!, doc);
  return lost.length === 1 ? `${first} would lose what it has in ${f.name}.` : `${ownedCount(f.of, lost.length)} would lose what they have in ${f.name}, ${first} among them.`;
}

/** Changes a field. Values that the new kind or the new choices cannot hold are dropped only where that is agreed to (`dropping`). */
export function editOwnField(doc: Document, id: string, fields: Partial<Omit<OwnField, 'id' | 'rank'>>, dropping = false): Outcome {
  const old = doc.ownFields.get(id);
  if (!old) return gone;
  const no = fields.name === undefined ? undefined : nameObjection(doc.ownFields.values(), id, fields.name, 'field');
  if (no) return no;
  const next: OwnField = {
    ...old,
    ...fields,
    ...(fields.name === undefined ? {} : { name: fields.name.trim() }),
    ...(fields.kind !== undefined && fields.kind !== old.kind && fields.sum === undefined ? { sum: usualSum(fields.kind) } : {}),
    ...(fields.choices ? { choices: [...new Set(fields.choices.map((c) => c.trim()).filter(Boolean))] } : {}),
  };
  if (next.key !== nameInExpressions(old)) {
    const bad = fields.key === undefined ? undefined : keyObjection(doc, next);
    if (bad) return bad;
  }
  if (next.kind === 'computed' && (fields.expression !== undefined || old.kind !== 'computed')) {
    const wrong = fields.expression === undefined || fields.expression.trim() === '' ? undefined : expressionError(doc, next);
    if (wrong) return refused('BAD_EXPRESSION', wrong, { table: 'ownFields', id, label: old.name, field: 'expression' });
  }
  if (next.kind === 'computed' && next.of !== 'activities')
    return refused('WRONG_VALUE', `Computed fields belong to activities; ${old.name} belongs to ${ownersOf(next.of)}.`, {
      table: 'ownFields',
      id,
      label: old.name,
      field: 'kind',
    });
  const asking = next.of === old.of || inSheet(next.of) ? [] : askers(doc, 'fields', [nameInExpressions(old)]);
  if (asking.length > 0)
    return refused('IN_USE', `${asking.map((x) => x.name).join(', ')} ${asking.length === 1 ? 'is' : 'are'} computed from ${old.name}, for rows of the plan. Change that first.`, {
      table: 'ownFields',
      id,
      label: old.name,
    });
  // What new rows have is of the field's kind, too; the project is never new.
  if (next.standard !== null && (next.of === 'project' || ownValue(next, next.standard) === null)) next.standard = null;
  const { values, lost } = convertOwn(doc, id, next);
  if (lost.length > 0 && !dropping) return refused('IN_USE', lossText(doc, old, lost), { table: 'ownFields', id, label: old.name });
  const draft = new Draft(doc);
  draft.set('ownFields', id, next);
  // Expressions that ask for it follow its new name.
  if (fields.key !== undefined && fields.key !== nameInExpressions(old))
    for (const f of askers(doc, 'fields', [nameInExpressions(old)]))
      draft.patch('ownFields', f.id, { expression: renamedIn(f.expression, nameInExpressions(old), fields.key, 'field') });
  for (const [row, value] of values) draft.patch(old.of, row, withValue(doc[old.of].get(row) as OwnedRow, ownKey(id), value));
  return settled(doc, `Change field ${next.name}`, draft.changes);
}

/** Deletes a field with what rows have in it. */
export function deleteOwnField(doc: Document, id: string): Outcome {
  const f = doc.ownFields.get(id);
  if (!f) return gone;
  const asking = askers(doc, 'fields', [nameInExpressions(f)]).filter((x) => x.id !== id);
  if (asking.length > 0)
    return refused('IN_USE', `${asking.map((x) => x.name).join(', ')} ${asking.length === 1 ? 'is' : 'are'} computed from ${f.name}. Change that first.`, {
      table: 'ownFields',
      id,
      label: f.name,
    });
  const draft = new Draft(doc);
  for (const row of ownUses(doc, id)) draft.patch(f.of, row.id, withValue(row, ownKey(id), null));
  draft.set('ownFields', id, null);
  return settled(doc, `Delete field ${f.name}`, draft.changes);
}

/** Gives the value of new rows to those that are there and have none. */
export function fillStandard(doc: Document, id: string): Outcome {
  const f = doc.ownFields.get(id);
  if (!f) return gone;
  if (f.standard === null) return refused('NOTHING_CHANGED', `${f.name} has no value for new ${tables[f.of].words}.`);
  const draft = new Draft(doc);
  for (const row of rowsOfOwn(doc, f.of)) if (row.values[ownKey(id)] === undefined) draft.patch(f.of, row.id, withValue(row, ownKey(id), f.standard));
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', `All ${tables[f.of].words} have a value already.`);
  return settled(doc, `Give ${ownedCount(f.of, draft.changes.length)} the usual ${f.name}`, draft.changes);
}

/** Sets what a row has in a field of its table from typed text; empty text takes it out. */
export function setOwn(doc: Document, id: string, rowId: string, text: string): Outcome {
  const f = doc.ownFields.get(id);
  if (!f) return gone;
  const row = doc[f.of].get(rowId) as OwnedRow | undefined;
  if (!row) return refused(tables[f.of].unknown, `That ${tables[f.of].word} is not there any more.`);
  const label = labelOfRow(f.of, row, doc);
  const read = readOwn(f, text, doc, calendared(row));
  if ('error' in read) return refused('WRONG_VALUE', `${label}: ${read.error}`, { table: f.of, id: rowId, label, field: ownKey(id) });
  const draft = new Draft(doc);
  draft.patch(f.of, rowId, withValue(row, ownKey(id), read.value));
  return settled(doc, `Set ${f.name} of ${label}`, draft.changes);
}
