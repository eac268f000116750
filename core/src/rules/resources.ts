/** Rules of resources, roles, crews and assignments beyond the shapes of their fields. */
import { takesAssignments } from '../model/assigned.ts';
import type { Assignment, Resource, ResourceGroup } from '../model/resource-schema.ts';
import type { Objection } from './activity.ts';
import type { RowsOf, TableName } from '../model/tables.ts';

/** Finds a row as it stands after the changes. */
type Find = <T extends TableName>(table: T, id: string) => ReturnType<RowsOf[T]['get']>;

/** What is wrong with an assignment among the rows that are there. */
export function assignmentObjections(x: Assignment, row: Find): Objection[] {
  const out: Objection[] = [];
  const say = (field: string, text: string): void => void out.push({ code: 'ASSIGNMENT_SET_ASIDE', field, text });
  if ((x.resourceId === null) === (x.roleId === null)) say('resourceId', 'an assignment joins one resource or one role.');
  const a = row('activities', x.activityId);
  if (a && !takesAssignments(a)) say('activityId', `${a.code} takes no assignments, since it is no task and no level of effort.`);
  return out;
}

/** A group that would lie in itself. */
export function groupObjections(g: ResourceGroup, row: Find): Objection[] {
  const seen = new Set([g.id]);
  for (let at = g.parentId; at !== null; at = row('resourceGroups', at)?.parentId ?? null) {
    if (seen.has(at)) return [{ code: 'INTO_ITSELF', field: 'parentId', text: 'a group cannot lie in itself. Put it elsewhere.' }];
    seen.add(at);
  }
  return [];
}

/** A resource whose availability says two things of one date is no fault (the last counts); its own role is no other role. */
export function resourceObjections(r: Resource): Objection[] {
  return r.roleId !== null && r.otherRoles.includes(r.roleId) ? [{ code: 'WRONG_VALUE', field: 'otherRoles', text: 'its own role need not be told again among the others.' }] : [];
}
