/**
 * Code sets, values and own fields that look alike over projects but differ, and making them one: every project gets the same
 * names, values and colours, keeping what its activities have.
 */
import { z } from 'zod';
import { Draft } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import { type CodeSet, codeSetSchema, type CodeValue, type OwnField, ownFieldSchema } from '../model/schema.ts';
import { rowsOfOwn } from '../fields/own-values.ts';
import { tables } from '../model/tables.ts';
import { codeKey, withValue } from '../model/values.ts';
import { unusedName } from '../model/unused-name.ts';
import { codeUses } from './codes.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

/** What of a project is looked at. */
export interface Lookalikes {
  projectId: string;
  code: string;
  name: string;
  codeSets: readonly CodeSet[];
  ownFields: readonly OwnField[];
}

export interface Member {
  projectId: string;
  project: string;
  id: string;
  name: string;
  /** What is in it, in short. */
  detail: string;
}

export interface Finding {
  kind: 'set' | 'field' | 'value';
  /** What is alike, and how it differs. */
  words: string[];
  members: Member[];
}

/** A name without case, accents, spaces, signs and plural: what looks alike is the same. */
export const lookOf = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '')
    .replace(/(?<=[a-z]{3})s$/, '')
    .replace(/(?<=[a-z]{3})e$/, '');

const memberOf = (p: Lookalikes, row: CodeSet | OwnField): Member => ({
  projectId: p.projectId,
  project: p.code,
  id: row.id,
  name: row.name,
  detail: 'values' in row ? row.values.map((v) => v.short).join(', ') : `${row.kind}${row.unit ? ` in ${row.unit}` : ''}${row.choices.length ? `: ${row.choices.join(', ')}` : ''}`,
});

const valueLooks = (s: CodeSet): Set<string> => new Set(s.values.map((v) => lookOf(v.name || v.short)));
/** The value of a set that looks like another: by its short name, else by its name. */
export const likeValue = (values: readonly CodeValue[], like: CodeValue): CodeValue | undefined =>
  values.find((v) => lookOf(v.short) === lookOf(like.short)) ?? (like.name ? values.find((v) => v.name !== '' && lookOf(v.name) === lookOf(like.name)) : undefined);

/** How a set differs from another that looks like it; empty where nothing does. */
function differences(a: CodeSet, b: CodeSet): string[] {
  const words: string[] = [];
  if (a.name !== b.name) words.push(`${a.name} and ${b.name}`);
  for (const v of a.values) {
    const twin = likeValue(b.values, v);
    if (!twin) words.push(`${v.short} is in one only`);
    else if (twin.short !== v.short || twin.name !== v.name) words.push(`${[v.short, v.name].filter(Boolean).join(' ')} and ${[twin.short, twin.name].filter(Boolean).join(' ')}`);
    else if (twin.colour !== v.colour) words.push(`${v.short} has another colour`);
  }
  for (const v of b.values) if (!likeValue(a.values, v)) words.push(`${v.short} is in one only`);
  return words;
}

/** Whether two sets have mostly the same values under different names. */
function sameValues(a: CodeSet, b: CodeSet): boolean {
  const [x, y] = [valueLooks(a), valueLooks(b)];
  const common = [...x].filter((v) => y.has(v)).length;
  return common >= 2 && common * 2 > Math.max(x.size, y.size);
}

/** All that is alike but differs. What is the same everywhere is not told. */
export function alikeIn(projects: readonly Lookalikes[]): Finding[] {
  const out: Finding[] = [];
  const sets = projects.flatMap((p) => p.codeSets.map((set) => ({ p, set })));
  const told = new Set<CodeSet>();
  for (const one of sets) {
    if (told.has(one.set)) continue;
    const group = sets.filter((o) => lookOf(o.set.name) === lookOf(one.set.name) || sameValues(o.set, one.set));
    if (group.length < 2) continue;
    for (const g of group) told.add(g.set);
    const words = [...new Set(group.slice(1).flatMap((g) => differences(one.set, g.set)))];
    if (words.length) out.push({ kind: 'set', words, members: group.map((g) => memberOf(g.p, g.set)) });
  }
  for (const { p, set } of sets)
    for (const [i, v] of set.values.entries()) {
      const twins = set.values.slice(i + 1).filter((w) => (v.name && w.name && lookOf(v.name) === lookOf(w.name)) || lookOf(v.short) === lookOf(w.short));
      for (const w of twins)
        out.push({
          kind: 'value',
          words: [`${set.name} of ${p.code} has both ${v.short} and ${w.short}`],
          members: [v, w].map((x) => ({ projectId: p.projectId, project: p.code, id: `${set.id} ${x.id}`, name: x.short, detail: x.name })),
        });
    }
  const fields = projects.flatMap((p) => p.ownFields.map((field) => ({ p, field })));
  const seen = new Set<string>();
  for (const one of fields) {
    const look = lookOfField(one.field);
    if (seen.has(look)) continue;
    seen.add(look);
    const group = fields.filter((o) => lookOfField(o.field) === look);
    if (group.length < 2) continue;
    const words = group
      .slice(1)
      .flatMap(({ field: f }) => [
        ...(f.name !== one.field.name ? [`${one.field.name} and ${f.name}`] : []),
        ...(f.kind !== one.field.kind ? [`${one.field.kind} and ${f.kind}`] : []),
        ...(f.unit !== one.field.unit ? [`unit ${one.field.unit || 'none'} and ${f.unit || 'none'}`] : []),
        ...(f.choices.join() !== one.field.choices.join() ? ['other choices'] : []),
      ]);
    if (words.length) out.push({ kind: 'field', words: [...new Set(words)], members: group.map((g) => memberOf(g.p, g.field)) });
  }
  return out;
}

/** Fields of different rows are different things, whatever their names. */
const lookOfField = (f: OwnField): string => `${f.of} ${lookOf(f.name)}`;

/** What every one of some projects gets: its set or field becomes like the one that is given. */
export const adoptSchema = z.object({
  targets: z
    .array(z.object({ projectId: z.string().max(100), id: z.string().max(100) }))
    .min(1)
    .max(500),
  set: codeSetSchema.nullable(),
  field: ownFieldSchema.nullable(),
});
export type Adopt = z.infer<typeof adoptSchema>;

/**
 * Makes a set like another: values that look alike get its names and colours, those that are missing come along in their
 * tree, those that the other does not have stay behind the others. No activity loses what it has.
 */
export function adoptSet(doc: Document, id: string, like: CodeSet, newId: NewId): Outcome {
  const set = doc.codeSets.get(id);
  if (!set) return refused('UNKNOWN_CODE_SET', 'That code set is not in the project any more.');
  const twin = [...doc.codeSets.values()].find((o) => o.id !== id && o.name.toLowerCase() === like.name.toLowerCase());
  if (twin) return refused('NAME_TAKEN', `There is another code set ${twin.name} here. Merge the two first.`, { table: 'codeSets', id: twin.id, label: twin.name });
  const left = [...set.values];
  const idOf = new Map<string, string>();
  const matched = new Map<string, CodeValue>();
  for (const v of like.values) {
    const at = left.findIndex((x) => x === likeValue(left, v));
    const mine = at < 0 ? undefined : left.splice(at, 1)[0];
    if (mine) matched.set(v.id, mine);
    idOf.set(v.id, mine?.id ?? newId());
  }
  const values: CodeValue[] = like.values.map((v) => ({
    ...v,
    id: idOf.get(v.id) as string,
    parentId: v.parentId === null ? null : (idOf.get(v.parentId) ?? null),
    about: v.about || (matched.get(v.id)?.about ?? ''),
  }));
  // Short names stay apart: what only this project has gives way where the other has its name, to one that nothing has.
  const theirs = new Set(values.map((v) => v.short.toLowerCase()));
  const taken = new Set([...values, ...left].map((v) => v.short));
  for (const v of left) {
    let { short } = v;
    if (theirs.has(short.toLowerCase())) {
      short = unusedName(v.short, taken, 40);
      taken.add(short);
    }
    values.push({ ...v, short });
  }
  // What lay in a value that was renamed goes on lying in it; a ring that would come of it is cut.
  for (const v of values) {
    const up = new Set<string>([v.id]);
    for (let at = v.parentId; at !== null; at = values.find((x) => x.id === at)?.parentId ?? null) {
      if (up.has(at)) {
        v.parentId = null;
        break;
      }
      up.add(at);
    }
  }
  const draft = new Draft(doc);
  draft.patch('codeSets', id, { name: like.name, about: set.about || like.about, values });
  return draft.changes.length ? settled(doc, `Make code set ${set.name} like ${like.name}`, draft.changes) : refused('NOTHING_CHANGED', 'It is so already.');
}

/** Makes a field like another of the same kind: name, unit, choices (what only this one has stays), how it sums up. */
export function adoptField(doc: Document, id: string, like: OwnField): Outcome {
  const f = doc.ownFields.get(id);
  if (!f) return refused('UNKNOWN_FIELD', 'That field is not in the project any more.');
  if (f.of !== like.of)
    return refused('WRONG_VALUE', `${f.name} belongs to ${tables[f.of].words} here, the other to ${tables[like.of].words}. Change that first.`, {
      table: 'ownFields',
      id,
      label: f.name,
    });
  if (f.kind !== like.kind)
    return refused('WRONG_VALUE', `${f.name} is of another kind here. Change its kind first, which says what would be lost.`, { table: 'ownFields', id, label: f.name });
  const twin = [...doc.ownFields.values()].find((o) => o.id !== id && o.name.toLowerCase() === like.name.toLowerCase());
  if (twin) return refused('NAME_TAKEN', `There is another field ${twin.name} here.`, { table: 'ownFields', id: twin.id, label: twin.name });
  const same = (a: string, b: string): boolean => lookOf(a) === lookOf(b);
  const renamed = new Map(f.choices.flatMap((c) => ((to) => (to !== undefined && to !== c ? [[c, to] as const] : []))(like.choices.find((x) => same(x, c)))));
  const draft = new Draft(doc);
  draft.patch('ownFields', id, { name: like.name, unit: like.unit, sum: like.sum, choices: [...like.choices, ...f.choices.filter((c) => !like.choices.some((x) => same(x, c)))] });
  const key = `own:${id}`;
  if (f.kind === 'choice')
    for (const row of rowsOfOwn(doc, f.of)) {
      const to = renamed.get(String(row.values[key] ?? ''));
      if (to !== undefined) draft.patch(f.of, row.id, withValue(row, key, to));
    }
  return draft.changes.length ? settled(doc, `Make field ${f.name} like ${like.name}`, draft.changes) : refused('NOTHING_CHANGED', 'It is so already.');
}

/** What is made like another in one project. */
export const adopt = (doc: Document, id: string, { set, field }: Pick<Adopt, 'set' | 'field'>, newId: NewId): Outcome =>
  set ? adoptSet(doc, id, set, newId) : field ? adoptField(doc, id, field) : refused('WRONG_VALUE', 'A code set or a field is wanted.');

/** Merges one set of a project into another: values that look alike become one, the others come along; who has values of both keeps that of the second. */
export function mergeSets(doc: Document, from: string, into: string, newId: NewId): Outcome {
  const [a, b] = [doc.codeSets.get(from), doc.codeSets.get(into)];
  if (!a || !b || a === b) return refused('UNKNOWN_CODE_SET', 'Two code sets of the project are wanted.');
  const values = [...b.values];
  const idOf = new Map<string, string>();
  for (const v of a.values) {
    const mine = likeValue(b.values, v);
    if (mine) idOf.set(v.id, mine.id);
    else {
      const id = newId();
      idOf.set(v.id, id);
      values.push({ ...v, id, parentId: null });
    }
  }
  const draft = new Draft(doc);
  draft.patch('codeSets', into, { values });
  for (const [value, list] of codeUses(doc, from))
    for (const x of list) {
      const to = idOf.get(value);
      const without = withValue(x, codeKey(from), null);
      draft.patch('activities', x.id, to !== undefined && x.values[codeKey(into)] === undefined ? withValue(without, codeKey(into), to) : without);
    }
  draft.set('codeSets', from, null);
  return settled(doc, `Merge code set ${a.name} into ${b.name}, ${count(a.values.length, 'value')}`, draft.changes);
}
