/** Who does the work of rows that come from another project: found by name, and brought along where they are not there. */
import type { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Assignment, Resource, Role } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import type { Booked } from './bring-money.ts';
import type { NewId } from './result.ts';

/** Resources and roles that activities are assigned, with the roles of the resources. */
export function whoIn(doc: Document, activities: readonly Pick<Activity, 'id'>[]): { resources: Resource[]; roles: Role[] } {
  const resources = new Set<Resource>();
  const roles = new Set<Role>();
  const role = (id: string | null): void => {
    const r = id === null ? undefined : doc.roles.get(id);
    if (r) roles.add(r);
  };
  for (const a of activities)
    for (const x of indexOf(doc).assignmentsOf(a.id)) {
      const r = x.resourceId === null ? undefined : doc.resources.get(x.resourceId);
      if (r) resources.add(r);
      role(x.roleId);
      role(r?.roleId ?? null);
    }
  return { resources: [...resources], roles: [...roles] };
}

const alike = (a: { name: string; sharedId: string | null }, b: { name: string; sharedId: string | null }): boolean =>
  a.name.toLowerCase() === b.name.toLowerCase() || (a.sharedId !== null && a.sharedId === b.sharedId);

/** Who stands here for the assignee of an assignment of another project. `calendar`: the calendar here for one of there. */
export function bringPeople(
  draft: Draft,
  theirs: { resources: readonly Resource[]; roles: readonly Role[] },
  calendar: (id: string) => string | null,
  newId: NewId,
  account: Booked['account'] = () => null,
): (x: Assignment) => Pick<Assignment, 'resourceId' | 'roleId'> | null {
  const { doc } = draft;
  const known = new Map<string, string>();
  const put = <R extends Resource | Role>(table: 'resources' | 'roles', row: R, fields: (id: string, rank: number) => R): string => {
    const had = known.get(row.id);
    if (had !== undefined) return had;
    const rows = ordered(doc, table) as (Resource | Role)[];
    const same = rows.find((r) => alike(r, row));
    const id = same?.id ?? newId();
    if (!same) draft.set(table, id, fields(id, (rows[rows.length - 1]?.rank ?? -1) + 1 + known.size));
    known.set(row.id, id);
    return id;
  };
  const role = (id: string | null): string | null => {
    const row = theirs.roles.find((r) => r.id === id);
    return row
      ? put('roles', row, (own, rank) => ({ ...row, id: own, rank, accountId: account(row.accountId), rates: row.rates.map((e) => ({ ...e, accountId: account(e.accountId) })) }))
      : null;
  };
  return (x) => {
    if (x.roleId !== null) return ((roleId) => (roleId === null ? null : { resourceId: null, roleId }))(role(x.roleId));
    const row = theirs.resources.find((r) => r.id === x.resourceId);
    if (!row) return null;
    const resourceId = put('resources', row, (own, rank) => ({
      ...row,
      id: own,
      rank,
      groupId: null,
      roleId: role(row.roleId),
      otherRoles: [],
      calendarId: row.calendarId === null ? null : calendar(row.calendarId),
      accountId: account(row.accountId),
      rates: row.rates.map((e) => ({ ...e, accountId: account(e.accountId) })),
      prices: row.prices.map((e) => ({ ...e, accountId: account(e.accountId) })),
    }));
    return { resourceId, roleId: null };
  };
}
