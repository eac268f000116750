/** Codes and own fields of rows that come from another project: found by name, and brought along where they are not there. */
import { freeName } from './own-fields.ts';
import type { Draft } from '../change/change.ts';
import { unusedName } from '../model/unused-name.ts';
import { codeKey, ownKey } from '../model/values.ts';
import type { Document } from '../model/document.ts';
import type { CodeSet, OwnField, StoredValues } from '../model/schema.ts';
import type { NewId } from './result.ts';

/** What rows bring: the code sets and own fields that they have values of. */
export function usedOf(doc: Document, rows: readonly { values: StoredValues }[]): { codeSets: CodeSet[]; ownFields: OwnField[] } {
  const keys = new Set(rows.flatMap((r) => Object.keys(r.values)));
  return {
    codeSets: [...doc.codeSets.values()].filter((s) => keys.has(codeKey(s.id))),
    ownFields: [...doc.ownFields.values()].filter((f) => keys.has(ownKey(f.id))),
  };
}

/** An id that nothing has here: its own, or a new one. */
const freeId = (draft: Draft, table: 'codeSets' | 'ownFields', id: string, newId: NewId): string => (draft.get(table, id) ? newId() : id);
const alike = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** The set here that stands for one of another project, with all values that it lacked; and its values by those of the other. */
function bringSet(draft: Draft, theirs: CodeSet, newId: NewId): { id: string; values: Map<string, string> } {
  const here = [...draft.doc.codeSets.values()].find((s) => alike(s.name, theirs.name));
  if (!here) {
    const id = freeId(draft, 'codeSets', theirs.id, newId);
    draft.set('codeSets', id, { ...theirs, id });
    return { id, values: new Map(theirs.values.map((v) => [v.id, v.id])) };
  }
  const values = new Map<string, string>();
  const added = [...here.values];
  for (const v of theirs.values) {
    const known = added.find((x) => alike(x.short, v.short));
    values.set(v.id, known?.id ?? v.id);
    if (!known) added.push({ ...v, parentId: v.parentId === null ? null : (values.get(v.parentId) ?? null) });
  }
  if (added.length > here.values.length) draft.patch('codeSets', here.id, { values: added });
  return { id: here.id, values };
}

function bringField(draft: Draft, theirs: OwnField, newId: NewId): string {
  const named = [...draft.doc.ownFields.values()].find((f) => alike(f.name, theirs.name));
  if (named && named.kind === theirs.kind && named.of === theirs.of) {
    const choices = [...named.choices, ...theirs.choices.filter((c) => !named.choices.some((x) => alike(x, c)))];
    if (choices.length > named.choices.length) draft.patch('ownFields', named.id, { choices });
    return named.id;
  }
  const id = freeId(draft, 'ownFields', theirs.id, newId);
  const there = draft.rows('ownFields');
  // Of another kind, or of other rows, is another field.
  const name = unusedName(
    theirs.name,
    there.map((f) => f.name),
    100,
  );
  draft.set('ownFields', id, { ...theirs, id, name, key: freeName(there, name), standard: null, required: false });
  return id;
}

/** Puts what is used into a draft, and gives for the values of a row those that stand for them here. */
export function bringValues(draft: Draft, used: { codeSets: readonly CodeSet[]; ownFields: readonly OwnField[] }, newId: NewId): (values: StoredValues) => StoredValues {
  const sets = new Map(used.codeSets.map((s) => [codeKey(s.id), bringSet(draft, s, newId)]));
  const fields = new Map(used.ownFields.map((f) => [ownKey(f.id), ownKey(bringField(draft, f, newId))]));
  return (values) =>
    Object.fromEntries(
      Object.entries(values).flatMap(([key, v]) => {
        const set = sets.get(key);
        if (set) {
          const value = set.values.get(String(v));
          return value === undefined ? [] : [[codeKey(set.id), value]];
        }
        const own = fields.get(key);
        return own === undefined ? [] : [[own, v]];
      }),
    );
}
