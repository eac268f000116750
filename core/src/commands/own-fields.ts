/** Commands on fields that people make: adding, changing with what would be lost, deleting, and what new activities have. */
import { Draft } from '../change/change.ts';
import { ownValue, readOwn } from '../fields/own.ts';
import { ownKey, withValue } from '../model/values.ts';
import { editField } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
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
};
const gone = refused('UNKNOWN_FIELD', 'That field is not in the project any more.');

/** Adds a field of a kind, behind the others. */
export function addOwnField(doc: Document, name: string, kind: OwnKind, newId: NewId): Outcome {
  const id = newId();
  const no = nameObjection(doc.ownFields.values(), id, name, 'field');
  if (no) return no;
  const rank = ordered(doc, 'ownFields').reduce((n, f) => Math.max(n, f.rank), -1) + 1;
  const draft = new Draft(doc);
  draft.set('ownFields', id, { id, rank, name: name.trim(), about: '', kind, unit: '', choices: [], standard: null, required: false });
  return settled(doc, `Add field ${name.trim()}`, draft.changes, [id]);
}

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
    ...(fields.choices ? { choices: [...new Set(fields.choices.map((c) => c.trim()).filter(Boolean))] } : {}),
  };
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
  for (const [a, value] of values) draft.patch('activities', a, withValue(doc.activities.get(a) as Activity, ownKey(id), value));
  return settled(doc, `Change field ${next.name}`, draft.changes);
}

/** Deletes a field with what activities have in it. */
export function deleteOwnField(doc: Document, id: string): Outcome {
  const f = doc.ownFields.get(id);
  if (!f) return gone;
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
