/**
 * What can be shared between projects beside calendars: accounts, code sets, roles, resources and crews. As with calendars a
 * project holds a complete copy that names the shared one by `sharedId`. A shared row is a row whose `sharedId` is its own id,
 * and which names others by their shared ids.
 */
import { z } from 'zod';
import { type Change, sameValue } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import type { CrewLine } from '../model/resource-schema.ts';
import { type Rows, type TableName, tables } from '../model/tables.ts';

export const sharedTables = ['accounts', 'codeSets', 'roles', 'resources', 'crews'] as const;
export type SharedTable = (typeof sharedTables)[number];
export type SharedRow = Rows[SharedTable];

export interface SharedThing {
  table: SharedTable;
  row: SharedRow;
}
/** By `thingKey`. */
export type SharedThings = ReadonlyMap<string, SharedThing>;
export const thingKey = (table: SharedTable, id: string): string => `${table} ${id}`;
const isSharedTable = (table: string): table is SharedTable => (sharedTables as readonly string[]).includes(table);

/** A shared row as it comes from outside. */
export const sharedThingSchema = z.object({ table: z.enum(sharedTables), row: z.unknown() }).transform((t, ctx): SharedThing => {
  const read = tables[t.table].schema.safeParse(t.row);
  if (read.success) return { table: t.table, row: read.data as SharedRow };
  for (const issue of read.error.issues) ctx.addIssue({ code: 'custom', message: issue.message, path: ['row', ...issue.path] });
  return z.NEVER;
});

/** What a row is called among those of its table. */
export const thingName = (t: SharedThing): string => ('code' in t.row && t.row.code ? `${t.row.code} ${t.row.name}` : t.row.name);

/** What two rows may not have in common in a project: number or name. */
export const sameThing = (a: SharedRow, b: SharedRow): boolean => {
  const text = (r: SharedRow): string => ('code' in r && r.code ? r.code : r.name).toLowerCase();
  return text(a) === text(b);
};

/** Tables that a shared row may name rows of. */
export type NamedTable = 'accounts' | 'calendars' | 'roles' | 'resources';
/** What is put for an id that a row names; null: nothing. */
type Naming = (table: NamedTable, id: string) => string | null;

/** A row with other ids for what it names. */
export function renamed(table: SharedTable, row: SharedRow, at: Naming): SharedRow {
  const one = (of: NamedTable, id: string | null | undefined): string | null => (id ? at(of, id) : null);
  const booked = <E extends { accountId?: string | null }>(list: readonly E[]): E[] => list.map((e) => ({ ...e, accountId: one('accounts', e.accountId) }));
  if (table === 'accounts' && 'parentId' in row) return { ...row, parentId: one('accounts', row.parentId) };
  if (table === 'crews' && 'lines' in row) {
    const lines = row.lines.map((l): CrewLine => ({ ...l, resourceId: one('resources', l.resourceId), roleId: one('roles', l.roleId) }));
    return { ...row, lines: lines.filter((l) => l.resourceId !== null || l.roleId !== null) };
  }
  if (table === 'resources' && 'otherRoles' in row)
    return {
      ...row,
      roleId: one('roles', row.roleId),
      otherRoles: row.otherRoles.flatMap((id) => at('roles', id) ?? []),
      calendarId: one('calendars', row.calendarId),
      accountId: one('accounts', row.accountId),
      rates: booked(row.rates),
      prices: booked(row.prices),
    };
  if (table === 'roles' && 'rates' in row) return { ...row, accountId: one('accounts', row.accountId), rates: booked(row.rates) };
  return row;
}

/** What rows name, in the order of their fields. */
export function namedBy(table: SharedTable, row: SharedRow): { table: NamedTable; id: string }[] {
  const out: { table: NamedTable; id: string }[] = [];
  renamed(table, row, (of, id) => {
    out.push({ table: of, id });
    return id;
  });
  return out;
}

/** What of a row is the project's own business: where it stands, and values of own fields. */
const ofTheProject: readonly string[] = ['id', 'rank', 'sharedId', 'groupId', 'values'];
const isOwn = (table: SharedTable, field: string): boolean => ofTheProject.includes(field) && !(table === 'codeSets' && field === 'values');

/** The fields that a copy has in common with the shared row. */
export function contentOf(table: SharedTable, row: SharedRow): Record<string, unknown> {
  return Object.fromEntries(Object.entries(row).filter(([field]) => !isOwn(table, field)));
}

/** Fields that stay the project's own in a copy; `there`: the copy so far. */
export const ownPart = (table: SharedTable, there: SharedRow | undefined): object =>
  table === 'resources' ? { groupId: there && 'groupId' in there ? there.groupId : null, values: there && 'groupId' in there ? there.values : {} } : {};

/** Marks what a copy names that is not shared. */
const OWN = 'of the project ';
export const isOfProject = (id: string): boolean => id.startsWith(OWN);

/** A project's copy as the shared row would be: it names others by their shared ids, or says that they are the project's. */
export function imageOf(doc: Document, table: SharedTable, row: SharedRow): SharedRow {
  const image = renamed(table, row, (of, id) => doc[of].get(id)?.sharedId ?? `${OWN}${id}`);
  return { ...image, ...ownPart(table, undefined), id: row.sharedId ?? row.id } as SharedRow;
}

export const sameAs = (table: SharedTable, a: SharedRow, b: SharedRow): boolean => sameValue(contentOf(table, a), contentOf(table, b));

/** A copy that has a number behind its name, since another row had that already, says nothing else by it. */
export const underItsName = (image: SharedRow, shared: SharedRow): SharedRow =>
  image.name.startsWith(`${shared.name} `) && /^\d+$/.test(image.name.slice(shared.name.length + 1)) ? { ...image, name: shared.name } : image;

/** How a project's row stands to the shared one that it is a copy of. */
export function thingState(doc: Document, shared: SharedThings, table: SharedTable, row: SharedRow): 'own' | 'same' | 'differs' | 'gone' {
  if (row.sharedId === null) return 'own';
  const there = shared.get(thingKey(table, row.sharedId));
  if (!there) return 'gone';
  return sameAs(table, underItsName(imageOf(doc, table, row), there.row), there.row) ? 'same' : 'differs';
}

/** The copy of a shared row in a project. */
export function copyOf(doc: Pick<Document, SharedTable>, table: SharedTable, sharedId: string): SharedRow | undefined {
  for (const row of doc[table].values() as Iterable<SharedRow>) if (row.sharedId === sharedId) return row;
  return undefined;
}

/** Copies of shared rows whose content changes would alter: what must be asked before. */
export function sharedTouched(changes: readonly Change[]): { table: SharedTable; before: SharedRow; after: SharedRow }[] {
  return changes.flatMap((c) => {
    if (!isSharedTable(c.table) || !c.before || !c.after) return [];
    const [before, after] = [c.before as SharedRow, c.after as SharedRow];
    return before.sharedId !== null && before.sharedId === after.sharedId && !sameAs(c.table, before, after) ? [{ table: c.table, before, after }] : [];
  });
}

/** Tables whose rows no two of which may have one name. */
export const nameIsUnique = (table: TableName): boolean => tables[table].unique?.includes('name' as never) ?? false;
