/** Commands on fields that people make: adding, changing with what would be lost, deleting, and what new activities have. */
import { Draft } from '../change/change.ts';
import { compileExpression, namesIn, renamedIn } from '../expr/compile.ts';
import { identifierOf, reserved } from '../expr/types.ts';
import { loopOf, nameInExpressions, namesOf, ownValue, readOwn } from '../fields/own.ts';
import { ownKey, withValue } from '../model/values.ts';
import { editField, type Field } from '../fields/field.ts';
import { activityCell, builtIn, fieldOf } from '../fields/list.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Activity, OwnField, OwnKind } from '../model/schema.ts';
import { nameObjection } from './codes.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

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

/** Adds a field of a kind, behind the others. */
export function addOwnField(doc: Document, name: string, kind: OwnKind, newId: NewId): Outcome {
  const id = newId();
  const no = nameObjection(doc.ownFields.values(), id, name, 'field');
  if (no) return no;
  const rank = ordered(doc, 'ownFields').reduce((n, f) => Math.max(n, f.rank), -1) + 1;
  const draft = new Draft(doc);
  const field: OwnField = {
    id,
    rank,
    name: name.trim(),
    key: freeName(doc, name.trim()),
    about: '',
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
export function freeName(doc: Document, name: string): string {
  const taken = new Set([...[...doc.ownFields.values()].map(nameInExpressions), ...builtIn.map((f) => f.key), ...reserved].map((k) => k.toLowerCase()));
  const wish = identifierOf(name);
  let key = wish;
  for (let n = 2; taken.has(key.toLowerCase()); n++) key = `${wish}${n}`;
  return key;
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

/** Activities that have something in a field. */
export const ownUses = (doc: Document, id: string): Activity[] => [...doc.activities.values()].filter((a) => a.values[ownKey(id)] !== undefined);

/** What becomes of the values of a field when it changes: each read anew from its text; `lost`: those that cannot be. */
export function convertOwn(doc: Document, id: string, next: OwnField): { values: Map<string, string | number | boolean | null>; lost: Activity[] } {
  const f = fieldOf(doc, ownKey(id));
  const old = doc.ownFields.get(id);
  const values = new Map<string, string | number | boolean | null>();
  const lost: Activity[] = [];
  for (const a of ownUses(doc, id)) {
    const stored = a.values[ownKey(id)];
    if (old?.kind === next.kind && ownValue(next, stored) !== null) continue;
    const text = f ? editField(f, activityCell({ doc, view: null, baseline: null, clock: false }, a)) : '';
    const r = readOwn(next, text, { doc, a });
    const value = 'error' in r ? null : r.value;
    if (value === null) lost.push(a);
    values.set(a.id, value);
  }
  return { values, lost };
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
  // What new activities have is of the field's kind, too.
  if (next.standard !== null && ownValue(next, next.standard) === null) next.standard = null;
  const { values, lost } = convertOwn(doc, id, next);
  if (lost.length > 0 && !dropping)
    return refused('IN_USE', `${count(lost.length, 'activity')} would lose what they have in ${old.name}, ${lost[0]!.code} ${lost[0]!.name} among them.`, {
      table: 'ownFields',
      id,
      label: old.name,
    });
  const draft = new Draft(doc);
  draft.set('ownFields', id, next);
  // Expressions that ask for it follow its new name.
  if (fields.key !== undefined && fields.key !== nameInExpressions(old))
    for (const f of askers(doc, 'fields', [nameInExpressions(old)]))
      draft.patch('ownFields', f.id, { expression: renamedIn(f.expression, nameInExpressions(old), fields.key, 'field') });
  for (const [a, value] of values) draft.patch('activities', a, withValue(doc.activities.get(a) as Activity, ownKey(id), value));
  return settled(doc, `Change field ${next.name}`, draft.changes);
}

/** Deletes a field with what activities have in it. */
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
  for (const a of ownUses(doc, id)) draft.patch('activities', a.id, withValue(a, ownKey(id), null));
  draft.set('ownFields', id, null);
  return settled(doc, `Delete field ${f.name}`, draft.changes);
}

/** Gives the value of new activities to those that are there and have none. */
export function fillStandard(doc: Document, id: string): Outcome {
  const f = doc.ownFields.get(id);
  if (!f) return gone;
  if (f.standard === null) return refused('NOTHING_CHANGED', `${f.name} has no value for new activities.`);
  const draft = new Draft(doc);
  for (const a of doc.activities.values()) if (a.values[ownKey(id)] === undefined) draft.patch('activities', a.id, withValue(a, ownKey(id), f.standard));
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'All activities have a value already.');
  return settled(doc, `Give ${count(draft.changes.length, 'activity')} the usual ${f.name}`, draft.changes);
}
