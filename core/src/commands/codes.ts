/** Commands on code sets: making them, their values in a tree and an order, giving one in the place of another. */
import { Draft } from '../change/change.ts';
import { renamedIn } from '../expr/compile.ts';
import { identifierOf } from '../expr/types.ts';
import { codeKey, withValue } from '../model/values.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Activity, CodeSet, CodeValue } from '../model/schema.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

const gone = refused('UNKNOWN_CODE_SET', 'That code set is not in the project any more.');
const nextRank = (rows: readonly { rank: number }[]): number => rows.reduce((n, r) => Math.max(n, r.rank), -1) + 1;

/** Why a name cannot be given among others of its kind; undefined where it can. */
export function nameObjection(others: Iterable<{ id: string; name: string }>, id: string, name: string, word: string): Outcome | undefined {
  const wish = name.trim();
  if (wish === '') return refused('NAME_NEEDED', `A ${word} needs a name.`, { field: 'name' });
  if (wish.length > 100) return refused('WRONG_VALUE', 'The name is longer than 100 characters.', { field: 'name' });
  const twin = [...others].find((o) => o.id !== id && o.name.toLowerCase() === wish.toLowerCase());
  return twin && refused('NAME_TAKEN', `There is a ${word} ${twin.name} already. Choose another name.`, { field: 'name' });
}

/** Adds a code set without values, behind the others. */
export function addCodeSet(doc: Document, name: string, newId: NewId): Outcome {
  const id = newId();
  const no = nameObjection(doc.codeSets.values(), id, name, 'code set');
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('codeSets', id, { id, rank: nextRank(ordered(doc, 'codeSets')), name: name.trim(), about: '', values: [], sharedId: null });
  return settled(doc, `Add code set ${name.trim()}`, draft.changes, [id]);
}

/** Gives a code set another name or another description. */
export function editCodeSet(doc: Document, id: string, fields: Partial<Pick<CodeSet, 'name' | 'about'>>): Outcome {
  const set = doc.codeSets.get(id);
  if (!set) return gone;
  const no = fields.name === undefined ? undefined : nameObjection(doc.codeSets.values(), id, fields.name, 'code set');
  if (no) return no;
  const draft = new Draft(doc);
  draft.patch('codeSets', id, { ...fields, ...(fields.name === undefined ? {} : { name: fields.name.trim() }) });
  if (fields.name !== undefined) renameSetIn(draft, set.name, fields.name.trim());
  return settled(doc, `Change code set ${fields.name?.trim() ?? set.name}`, draft.changes);
}

/** Expressions that ask for a code set follow its new name. */
export function renameSetIn(draft: Draft, from: string, to: string): void {
  if (from === to) return;
  for (const f of draft.doc.ownFields.values()) {
    const byName = renamedIn(renamedIn(f.expression, from, to, 'set'), identifierOf(from), to, 'set');
    if (byName !== f.expression) draft.patch('ownFields', f.id, { expression: byName });
  }
}

/** Activities by the value that they have of a set. */
export function codeUses(doc: Document, setId: string): Map<string, Activity[]> {
  const key = codeKey(setId);
  const out = new Map<string, Activity[]>();
  for (const a of doc.activities.values()) {
    const v = a.values[key];
    if (typeof v === 'string') out.set(v, [...(out.get(v) ?? []), a]);
  }
  return out;
}

/** Deletes a code set with all its values; activities lose what they had of it. */
export function deleteCodeSet(doc: Document, id: string): Outcome {
  const set = doc.codeSets.get(id);
  if (!set) return gone;
  const draft = new Draft(doc);
  for (const list of codeUses(doc, id).values()) for (const a of list) draft.patch('activities', a.id, withValue(a, codeKey(id), null));
  draft.set('codeSets', id, null);
  return settled(doc, `Delete code set ${set.name}`, draft.changes);
}

/** Why a value cannot be so among the others of its set. */
function valueObjection(set: CodeSet, v: CodeValue): Outcome | undefined {
  const where = { table: 'codeSets', id: set.id, label: set.name, field: 'values' };
  const short = v.short.trim();
  if (short === '') return refused('NAME_NEEDED', 'A code value needs a short name.', where);
  if (short.length > 40) return refused('WRONG_VALUE', 'A short name has at most 40 characters; the name takes more.', where);
  const twin = set.values.find((o) => o.id !== v.id && o.short.toLowerCase() === short.toLowerCase());
  if (twin) return refused('NAME_TAKEN', `${set.name} has a value ${twin.short} already. Choose another short name.`, where);
  for (let at = v.parentId, n = 0; at !== null && n <= set.values.length; n++) {
    if (at === v.id) return refused('INTO_ITSELF', `${short} cannot lie in itself.`, where);
    const parent = set.values.find((o) => o.id === at);
    if (!parent) return refused('WRONG_VALUE', 'The value that it lies in is not there any more.', where);
    at = parent.parentId;
  }
  return undefined;
}

/** Adds a value behind the others of its parent (null: the top). */
export function addCodeValue(doc: Document, setId: string, value: Pick<CodeValue, 'short'> & Partial<CodeValue>, newId: NewId): Outcome {
  const set = doc.codeSets.get(setId);
  if (!set) return gone;
  const v: CodeValue = { parentId: null, name: '', colour: null, about: '', ...value, short: value.short.trim(), id: newId() };
  const no = valueObjection(set, v);
  if (no) return no;
  const draft = new Draft(doc);
  draft.patch('codeSets', setId, { values: [...set.values, v] });
  return settled(doc, `Add ${v.short} to ${set.name}`, draft.changes, [v.id]);
}

/** Changes a value of a set. */
export function editCodeValue(doc: Document, setId: string, id: string, fields: Partial<Omit<CodeValue, 'id'>>): Outcome {
  const set = doc.codeSets.get(setId);
  const old = set?.values.find((v) => v.id === id);
  if (!set || !old) return refused('UNKNOWN_CODE_SET', 'That code value is not there any more.');
  const next = { ...old, ...fields, ...(fields.short === undefined ? {} : { short: fields.short.trim() }) };
  const no = valueObjection(set, next);
  if (no) return no;
  const draft = new Draft(doc);
  draft.patch('codeSets', setId, { values: set.values.map((v) => (v.id === id ? next : v)) });
  return settled(doc, `Change ${next.short} of ${set.name}`, draft.changes);
}

/** Moves a value one place up or down among those of its parent. */
export function moveCodeValue(doc: Document, setId: string, id: string, by: -1 | 1): Outcome {
  const set = doc.codeSets.get(setId);
  const at = set?.values.findIndex((v) => v.id === id) ?? -1;
  const v = set?.values[at];
  if (!set || !v) return refused('UNKNOWN_CODE_SET', 'That code value is not there any more.');
  let other = at + by;
  while (set.values[other] && set.values[other]!.parentId !== v.parentId) other += by;
  const to = set.values[other];
  if (!to) return refused('AT_THE_END', `There is nothing further ${by < 0 ? 'up' : 'down'}.`);
  const draft = new Draft(doc);
  draft.patch('codeSets', setId, { values: set.values.map((x, i) => (i === at ? to : i === other ? v : x)) });
  return settled(doc, `Move ${v.short} ${by < 0 ? 'up' : 'down'}`, draft.changes);
}

/**
 * Deletes a value. What lies in it goes to its parent. Where activities have it, another must be named that they get in its
 * place (null: none); without that it is refused, with the number of them.
 */
export function deleteCodeValue(doc: Document, setId: string, id: string, instead?: string | null): Outcome {
  const set = doc.codeSets.get(setId);
  const v = set?.values.find((x) => x.id === id);
  if (!set || !v) return refused('UNKNOWN_CODE_SET', 'That code value is not there any more.');
  const users = codeUses(doc, setId).get(id) ?? [];
  if (users.length > 0 && instead === undefined)
    return refused('IN_USE', `${count(users.length, 'activity')} ${users.length === 1 ? 'has' : 'have'} ${v.short}. Choose what they get in its place.`, {
      table: 'codeSets',
      id: setId,
      label: set.name,
    });
  if (instead === id || (instead && !set.values.some((x) => x.id === instead))) return refused('WRONG_VALUE', 'Choose another value of the same set.');
  const draft = new Draft(doc);
  for (const a of users) draft.patch('activities', a.id, withValue(a, codeKey(setId), instead ?? null));
  draft.patch('codeSets', setId, { values: set.values.flatMap((x) => (x.id === id ? [] : [x.parentId === id ? { ...x, parentId: v.parentId } : x])) });
  return settled(doc, `Delete ${v.short} of ${set.name}`, draft.changes);
}

/** Values of a set as a tree from top to bottom, each with its depth. A value that lies in itself stands at the top. */
export function codeTree(set: CodeSet): { value: CodeValue; depth: number }[] {
  const below = new Map<string | null, CodeValue[]>();
  const ids = new Set(set.values.map((v) => v.id));
  for (const v of set.values) {
    const parent = v.parentId !== null && ids.has(v.parentId) ? v.parentId : null;
    below.set(parent, [...(below.get(parent) ?? []), v]);
  }
  const out: { value: CodeValue; depth: number }[] = [];
  const seen = new Set<string>();
  const walk = (parent: string | null, depth: number): void => {
    for (const value of below.get(parent) ?? []) {
      if (seen.has(value.id)) continue;
      seen.add(value.id);
      out.push({ value, depth });
      walk(value.id, depth + 1);
    }
  };
  walk(null, 0);
  for (const value of set.values) if (!seen.has(value.id)) out.push({ value, depth: 0 });
  return out;
}
