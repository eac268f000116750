/** Commands on resources, roles, groups and crews: adding, changing, deleting, and lists that are pasted in. */
import { Draft } from '../change/change.ts';
import { type Document, ordered } from '../model/document.ts';
import { type Assignment, type Crew, type Resource, resourceDefaults, type ResourceGroup, type ResourceKind, resourceKinds, type Role } from '../model/resource-schema.ts';
import { labelOfRow, type Row, type Rows, tables } from '../model/tables.ts';
import { ownFieldsFor, readOwn, standardValues } from '../fields/own-values.ts';
import { withValue, ownKey } from '../model/values.ts';
import { unassign } from './assign.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';
import { typedNumber } from '../model/number-text.ts';

/** Tables of the Library's page of resources. */
export type PeopleTable = 'resourceGroups' | 'roles' | 'resources' | 'crews';

const nextRank = (doc: Document, table: PeopleTable): number => ordered(doc, table).reduce((n, r) => Math.max(n, r.rank), -1) + 1;

function nameTaken(doc: Document, table: PeopleTable, id: string | null, name: string): Outcome | undefined {
  const wanted = name.trim().toLowerCase();
  if (wanted === '') return refused('WRONG_VALUE', `A ${tables[table].word} needs a name.`);
  const other = [...doc[table].values()].find((r) => r.id !== id && r.name.toLowerCase() === wanted);
  return other && refused('NAME_TAKEN', `There is a ${tables[table].word} ${other.name} already. Type another name.`, { table, id: other.id });
}

const plain: { [T in PeopleTable]: Omit<Rows[T], 'id' | 'rank' | 'name'> } = {
  resourceGroups: { parentId: null },
  roles: { about: '', colour: null, availability: [], rates: [], perUse: 0, accountId: null, sharedId: null },
  resources: resourceDefaults as Omit<Resource, 'id' | 'rank' | 'name'>,
  crews: { about: '', lines: [], sharedId: null },
};

/** Adds a resource, role, crew or group. */
export function addPeople<T extends PeopleTable>(doc: Document, table: T, name: string, fields: Partial<Rows[T]>, newId: NewId): Outcome {
  const no = nameTaken(doc, table, null, name);
  if (no) return no;
  const draft = new Draft(doc);
  const id = newId();
  draft.set(table, id, {
    ...plain[table],
    ...(table === 'resources' ? { values: standardValues(doc, 'resources') } : {}),
    ...fields,
    id,
    rank: nextRank(doc, table),
    name: name.trim(),
  } as unknown as Row);
  return settled(doc, `Add ${tables[table].word} ${name.trim()}`, draft.changes, [id]);
}

/** Changes one of them. A resource that becomes material, or is none any more, must not be assigned: work is no quantity. */
export function setPeople<T extends PeopleTable>(doc: Document, table: T, id: string, fields: Partial<Rows[T]>): Outcome {
  const row = doc[table].get(id) as Rows[PeopleTable] | undefined;
  if (!row) return refused(tables[table].unknown, `That ${tables[table].word} is not there any more.`);
  if (fields.name !== undefined) {
    const no = nameTaken(doc, table, id, fields.name);
    if (no) return no;
  }
  const kind = (fields as Partial<Resource>).kind;
  if (table === 'resources' && kind !== undefined && (kind === 'material') !== ((row as Resource).kind === 'material') && usesOf(doc, 'resources', id).length > 0)
    return refused('IN_USE', `${row.name} is assigned. A material has a quantity, all else work: take its assignments away first.`, { table, id });
  const draft = new Draft(doc);
  draft.set(table, id, { ...row, ...fields } as Row);
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'It is so already.');
  return settled(doc, `Change ${tables[table].word} ${fields.name ?? row.name}`, draft.changes, [id]);
}

/** Assignments of a resource or role, in the order of the activities. */
export function usesOf(doc: Document, table: 'resources' | 'roles', id: string): Assignment[] {
  const key = table === 'resources' ? 'resourceId' : 'roleId';
  const out = [...doc.assignments.values()].filter((x) => x[key] === id);
  const rank = (x: Assignment): number => doc.activities.get(x.activityId)?.rank ?? 0;
  return out.sort((a, b) => rank(a) - rank(b));
}

/** Deletes one of them, with its assignments; what named it names nothing any more. */
export function deletePeople(doc: Document, table: PeopleTable, id: string): Outcome {
  const row = doc[table].get(id) as Rows[PeopleTable] | undefined;
  if (!row) return refused(tables[table].unknown, `That ${tables[table].word} is not there any more.`);
  const draft = new Draft(doc);
  const label = `Delete ${tables[table].word} ${labelOfRow(table, row, doc)}`;
  if (table === 'resources' || table === 'roles') {
    const uses = usesOf(doc, table, id);
    if (uses.length) {
      const off = unassign(
        doc,
        uses.map((x) => x.id),
      );
      if (!off.ok) return off;
      for (const c of off.changes) draft.set(c.table, c.id, c.after);
      // Assignments that were set aside count for nothing, and go as well.
      for (const x of uses) draft.set('assignments', x.id, null);
    }
    for (const crew of doc.crews.values()) {
      const lines = crew.lines.filter((l) => l.resourceId !== id && l.roleId !== id);
      if (lines.length < crew.lines.length) draft.patch('crews', crew.id, { lines });
    }
  }
  if (table === 'roles')
    for (const r of doc.resources.values()) {
      if (r.roleId === id) draft.patch('resources', r.id, { roleId: null });
      if (r.otherRoles.includes(id)) draft.patch('resources', r.id, { otherRoles: r.otherRoles.filter((x) => x !== id) });
    }
  if (table === 'resourceGroups') {
    const above = (row as ResourceGroup).parentId;
    for (const r of doc.resources.values()) if (r.groupId === id) draft.patch('resources', r.id, { groupId: above });
    for (const g of doc.resourceGroups.values()) if (g.parentId === id) draft.patch('resourceGroups', g.id, { parentId: above });
  }
  draft.set(table, id, null);
  return done(label, draft.changes);
}

/** Roles of a trade, to begin from. */
export interface RoleList {
  trade: string;
  roles: readonly string[];
}
/** Two lists that come with the product. */
export const roleLists: readonly RoleList[] = [
  {
    trade: 'Building',
    roles: [
      'bricklayer',
      'carpenter',
      'electrician',
      'glazier',
      'joiner',
      'labourer',
      'mason',
      'painter',
      'plasterer',
      'plumber',
      'rigger',
      'roofer',
      'scaffolder',
      'steel fixer',
      'surveyor',
      'welder',
    ],
  },
  {
    trade: 'Plant and instruments',
    roles: [
      'commissioning engineer',
      'crane driver',
      'designer',
      'electrical fitter',
      'instrument fitter',
      'mechanical fitter',
      'optics engineer',
      'pipe fitter',
      'quality inspector',
      'rigger',
      'safety officer',
      'software engineer',
      'test engineer',
    ],
  },
];

/** Adds the roles of a list that are not there yet. */
export function addRoles(doc: Document, list: RoleList, newId: NewId): Outcome {
  const there = new Set([...doc.roles.values()].map((r) => r.name.toLowerCase()));
  const names = list.roles.filter((n) => !there.has(n));
  if (names.length === 0) return refused('NOTHING_CHANGED', 'All of these roles are there already.');
  const draft = new Draft(doc);
  let rank = nextRank(doc, 'roles');
  const made = names.map((name) => {
    const id = newId();
    draft.set('roles', id, { ...plain.roles, id, rank: rank++, name });
    return id;
  });
  return settled(doc, `Add ${count(made.length, 'role')}`, draft.changes, made);
}

/** A line of a pasted list: name, kind, role, group, units, price of an hour (or of a measure), unit, mail, phone; in any order under heads, or in this order. Under heads fields of resources are read, too. */
const heads = ['name', 'kind', 'role', 'group', 'units', 'rate', 'unit', 'mail', 'phone'] as const;
type Head = (typeof heads)[number];

/** Adds resources of the cells of a spreadsheet; those of a name that is there are changed. Units and rates hold from a date on. Nothing where a line cannot be read: it says which. */
export function importResources(doc: Document, rows: readonly (readonly string[])[], from: string, newId: NewId): Outcome {
  const first = (rows[0] ?? []).map((c) => c.trim().toLowerCase());
  const named = first.includes('name');
  const order = named ? first : [...heads];
  const lines = named ? rows.slice(1) : rows;
  if (lines.length === 0) return refused('WRONG_VALUE', 'The list is empty. Paste rows with a name each, and perhaps kind, role, group, units and rate.');
  const draft = new Draft(doc);
  const ids = { roles: namesOf(doc, 'roles'), resourceGroups: namesOf(doc, 'resourceGroups'), resources: namesOf(doc, 'resources') };
  const ranks = { roles: nextRank(doc, 'roles'), resourceGroups: nextRank(doc, 'resourceGroups'), resources: nextRank(doc, 'resources') };
  const idOf = (table: 'roles' | 'resourceGroups', name: string): string | null => {
    if (name === '') return null;
    const known = ids[table].get(name.toLowerCase());
    if (known !== undefined) return known;
    const id = newId();
    draft.set(table, id, { ...plain[table], id, rank: ranks[table]++, name } as unknown as Row);
    ids[table].set(name.toLowerCase(), id);
    return id;
  };
  const made: string[] = [];
  for (const [n, cells] of lines.entries()) {
    const at = (head: Head): string | undefined => (order.indexOf(head) < 0 ? undefined : (cells[order.indexOf(head)] ?? '').trim());
    const no = (why: string): Outcome => refused('WRONG_VALUE', `Line ${n + (named ? 2 : 1)} (${at('name') ?? ''}): ${why} Nothing was taken.`);
    const name = at('name') ?? '';
    if (name === '') return no('it has no name.');
    const kind = (at('kind') || 'labour').toLowerCase();
    if (!(resourceKinds as readonly string[]).includes(kind)) return no(`${kind} is no kind; labour, equipment or material is wanted.`);
    const numbers: Partial<Record<'units' | 'rate', number>> = {};
    for (const head of ['units', 'rate'] as const) {
      const typed = at(head);
      if (!typed) continue;
      const value = typedNumber(typed);
      if (value === undefined || value < 0 || value > 1_000_000) return no(`${typed} cannot be read as ${head}.`);
      numbers[head] = Math.round(value * 1000) / 1000;
    }
    const known = ids.resources.get(name.toLowerCase());
    const id = known ?? newId();
    const was: Resource = draft.get('resources', id) ?? {
      ...(plain.resources as Resource),
      values: standardValues(doc, 'resources'),
      id,
      rank: ranks.resources++,
      name,
      kind: kind as ResourceKind,
    };
    if (known !== undefined && (was.kind === 'material') !== (kind === 'material') && usesOf(doc, 'resources', id).length > 0)
      return no('it is assigned, and cannot become or stop being a material.');
    let { values } = was;
    for (const own of named ? ownFieldsFor(doc, 'resources') : []) {
      const cell = cells[order.indexOf(own.name.toLowerCase())];
      if (cell === undefined) continue;
      const read = readOwn(own, cell, doc, was);
      if ('error' in read) return no(read.error);
      ({ values } = withValue({ values }, ownKey(own.id), read.value));
    }
    const role = at('role');
    const group = at('group');
    const fields: Partial<Resource> = {
      kind: kind as ResourceKind,
      ...(role === undefined ? {} : { roleId: idOf('roles', role) }),
      ...(group === undefined ? {} : { groupId: idOf('resourceGroups', group) }),
      ...(numbers.units === undefined ? {} : { availability: [{ from, units: numbers.units }] }),
      ...(numbers.rate === undefined
        ? {}
        : kind === 'material'
          ? { prices: [{ from, price: numbers.rate, accountId: null }] }
          : { rates: [{ from, perHour: numbers.rate, accountId: null }] }),
      ...Object.fromEntries((['unit', 'mail', 'phone'] as const).flatMap((h) => (at(h) === undefined ? [] : [[h, at(h)]]))),
    };
    draft.set('resources', id, { ...was, ...fields, values });
    ids.resources.set(name.toLowerCase(), id);
    made.push(id);
  }
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'All of them are there just so.');
  return settled(doc, `Take over ${count(made.length, 'resource')}`, draft.changes, made);
}

const namesOf = (doc: Document, table: PeopleTable): Map<string, string> => new Map([...doc[table].values()].map((r) => [r.name.toLowerCase(), r.id]));

/** Whom a crew's line means, by name. */
export const crewText = (doc: Document, crew: Pick<Crew, 'lines'>): string =>
  crew.lines.map((l) => `${(l.resourceId !== null ? doc.resources.get(l.resourceId)?.name : doc.roles.get(l.roleId ?? '')?.name) ?? '?'} ${l.units}`).join(', ');

/** Whether a resource can fill a role: its own, or one of the others. */
export const canFill = (r: Resource, role: Pick<Role, 'id'>): boolean => r.roleId === role.id || r.otherRoles.includes(role.id);
