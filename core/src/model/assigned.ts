/** Which assignments of an activity count, and why others do not (resource rules, section 2). */
import { isMilestone } from './activity-kinds.ts';
import { indexOf } from './doc-index.ts';
import type { Document } from './document.ts';
import type { Assignment, Resource, Role } from './resource-schema.ts';
import type { Activity } from './schema.ts';

/** Whether an activity takes assignments at all: tasks and levels of effort do. */
export const takesAssignments = (a: Pick<Activity, 'type'>): boolean => !isMilestone(a) && a.type !== 'margin';

/** What an assignment joins to the activity; undefined where it is not there. */
export const assigneeOf = (doc: Document, x: Pick<Assignment, 'resourceId' | 'roleId'>): Resource | Role | undefined =>
  x.resourceId !== null ? doc.resources.get(x.resourceId) : doc.roles.get(x.roleId ?? '');

/** The resource of an assignment, where it has one. */
export const resourceOf = (doc: Document, x: Pick<Assignment, 'resourceId'>): Resource | undefined => (x.resourceId === null ? undefined : doc.resources.get(x.resourceId));
export const isMaterial = (doc: Document, x: Pick<Assignment, 'resourceId'>): boolean => resourceOf(doc, x)?.kind === 'material';

/** The assignments of an activity that count, in order; `aside` is told of each other one, with the reason. */
export function assignedTo(doc: Document, a: Pick<Activity, 'id' | 'type'>, aside?: (x: Assignment, why: string) => void): readonly Assignment[] {
  const all = indexOf(doc).assignmentsOf(a.id);
  if (all.length === 0) return all;
  if (!takesAssignments(a)) {
    if (aside) for (const x of all) aside(x, 'milestones and margins take none');
    return none;
  }
  const first = all[0]!;
  // Mostly there are one or two, and nothing is left out: then the list itself will do.
  if (all.length === 1 && assigneeOf(doc, first)) return all;
  const out: Assignment[] = [];
  // A few are compared with each other; keys are made for many.
  const seen = all.length > FEW ? new Set<string>() : null;
  for (const x of all) {
    const key = seen && `${x.resourceId ?? ''} ${x.roleId ?? ''} ${x.delay}`;
    const twice = key === null ? out.some((y) => sameAs(x, y)) : seen?.has(key);
    if (!assigneeOf(doc, x)) aside?.(x, 'whom it assigns is not there');
    else if (twice) aside?.(x, 'it is there twice with the same delay');
    else {
      out.push(x);
      if (key !== null) seen?.add(key);
    }
  }
  return out;
}
const FEW = 12;
const sameAs = (x: Assignment, y: Assignment): boolean => x.resourceId === y.resourceId && x.delay === y.delay && x.roleId === y.roleId;
const none: readonly Assignment[] = [];

/** Whether an assignment drives: material never does. */
export const drives = (doc: Document, x: Assignment): boolean => x.drives && !isMaterial(doc, x);
