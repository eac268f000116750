/** Assigning: who and what does the work of activities (resource rules, sections 2 and 3). */
import type { Change } from '../change/change.ts';
import { plainAssignment, type Work } from '../load/follow.ts';
import { assignedTo, assigneeOf, takesAssignments } from '../model/assigned.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf, ordered } from '../model/document.ts';
import { typedNumber } from '../model/number-text.ts';
import { type Assignment, type CrewLine, threeDecimals } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import { isMilestone } from '../model/activity-kinds.ts';
import { standardValues } from '../fields/own-values.ts';
import { assignmentChanges, tryWork, workOf } from './work.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

/** Whom an assignment joins: one of the two. */
export type Assignee = Pick<CrewLine, 'resourceId' | 'roleId'>;
export const sameAssignee = (a: Assignee, b: Assignee): boolean => a.resourceId === b.resourceId && a.roleId === b.roleId;

/** How new assignments are made, where not as usual. */
export interface Assigning {
  delay?: number;
  drives?: boolean;
  spread?: Assignment['spread'];
  /** On fixed work it brings its own work, instead of taking a part of what is there. */
  ownWork?: boolean;
}

const gone = refused('UNKNOWN_ASSIGNMENT', 'That assignment is not there any more.');

/** Edits the work of activities one by one; all or nothing. */
function onWork(doc: Document, ids: readonly string[], label: (n: number, first: Activity) => string, edit: (work: Work, a: Activity) => void, made?: string[]): Outcome {
  const all = [...new Set(ids)].flatMap((id) => doc.activities.get(id) ?? []);
  const [first] = all;
  if (!first) return refused('NOTHING_SELECTED', 'Select activities first.');
  const changes: Change[] = [];
  for (const a of all) {
    if (!takesAssignments(a))
      return refused('WRONG_TYPE', `${labelOf(a)} is a ${isMilestone(a) ? 'milestone' : 'margin'}, and takes no assignments. Select tasks or levels of effort.`, {
        table: 'activities',
        id: a.id,
        label: labelOf(a),
      });
    const work = workOf(doc, a);
    const tried = tryWork(a, () => edit(work, a));
    if ('refusal' in tried) return { ok: false, problems: [tried.refusal] };
    if (work.a !== a) changes.push({ table: 'activities', id: a.id, before: a, after: work.a });
    const kept = new Set(work.list.map((x) => x.id));
    for (const x of assignedTo(doc, a)) if (!kept.has(x.id)) changes.push({ table: 'assignments', id: x.id, before: x, after: null });
    changes.push(...assignmentChanges(doc, a.id, work.list));
  }
  return settled(doc, label(all.length, first), changes, made);
}

const on = (n: number, first: Activity): string => (n === 1 ? labelOf(first) : count(n, 'activity'));
const nextRank = (work: Work): number => work.list.reduce((n, x) => Math.max(n, x.rank), -1) + 1;

/** Assigns resources and roles to activities, with units each. */
export function assign(doc: Document, ids: readonly string[], lines: readonly CrewLine[], newId: NewId, how: Assigning = {}): Outcome {
  const missing = lines.find((l) => !assigneeOf(doc, l));
  if (missing || lines.length === 0) return refused('UNKNOWN_RESOURCE', 'Whom to assign is not in the project. Add the resource or role first.');
  const names = lines.map((l) => assigneeOf(doc, l)?.name ?? '').join(', ');
  return onWork(
    doc,
    ids,
    (n, first) => `Assign ${names} to ${on(n, first)}`,
    (work, a) => {
      for (const l of lines) {
        const row = plainAssignment(newId(), a.id, { resourceId: l.resourceId, roleId: l.roleId }, l.units, nextRank(work));
        work.add({ ...row, values: standardValues(doc, 'assignments'), delay: how.delay ?? 0, drives: how.drives ?? true, spread: how.spread ?? 'even' }, how.ownWork);
      }
    },
  );
}

/** Assigns a crew, so many times. On fixed work its lines are added one by one. */
export function assignCrew(doc: Document, ids: readonly string[], crewId: string, times: number, newId: NewId): Outcome {
  const crew = doc.crews.get(crewId);
  if (!crew) return refused('UNKNOWN_CREW', 'That crew is not in the project any more.');
  const lines = crew.lines.filter((l) => assigneeOf(doc, l)).map((l) => ({ ...l, units: Math.round(l.units * times * 1000) / 1000 }));
  if (lines.length === 0) return refused('UNKNOWN_RESOURCE', `Crew ${crew.name} has nobody in it. Add resources or roles to it first.`);
  const outcome = assign(doc, ids, lines, newId);
  return outcome.ok ? { ...outcome, label: `Assign crew ${crew.name} to ${count(ids.length, 'activity')}` } : outcome;
}

/** Takes assignments away. On fixed work the others take over what there is to do, unless it goes with them. */
export function unassign(doc: Document, assignmentIds: readonly string[], ownWork = false): Outcome {
  const rows = assignmentIds.flatMap((id) => doc.assignments.get(id) ?? []);
  const [first] = rows;
  if (!first) return gone;
  const byActivity = new Map<string, string[]>();
  for (const x of rows) byActivity.set(x.activityId, [...(byActivity.get(x.activityId) ?? []), x.id]);
  const who = rows.length === 1 ? (assigneeOf(doc, first)?.name ?? 'an assignment') : count(rows.length, 'assignment');
  return onWork(
    doc,
    [...byActivity.keys()],
    (n, a) => `Take ${who} off ${on(n, a)}`,
    (work, a) => {
      for (const id of byActivity.get(a.id) ?? []) if (work.list.some((x) => x.id === id)) work.remove(id, ownWork);
    },
  );
}

/** What can be edited of an assignment. */
export type AssignmentEdit = Partial<Omit<Assignment, 'id' | 'rank' | 'activityId' | 'resourceId' | 'roleId'>>;

/** Edits one assignment: what follows from it follows. */
export function setAssignment(doc: Document, id: string, edit: AssignmentEdit): Outcome {
  const row = doc.assignments.get(id);
  if (!row) return gone;
  const who = assigneeOf(doc, row)?.name ?? '';
  const { units, work: hours, delay, drives, ...plain } = edit;
  return onWork(
    doc,
    [row.activityId],
    (_, a) => `Set ${Object.keys(edit).map(editWord).join(', ')} of ${who} on ${labelOf(a)}`,
    (work) => {
      if (delay !== undefined && delay !== row.delay) work.setDelay(id, delay);
      if (drives !== undefined && drives !== row.drives) work.setDrives(id, drives);
      if (units !== undefined && units !== row.units) work.setUnits(id, units);
      if (hours !== undefined && hours !== row.work) work.setWork(id, hours);
      if (Object.keys(plain).length) work.list = work.list.map((x) => (x.id === id ? { ...x, ...plain } : x));
    },
  );
}
const editWord = (key: string): string => key.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);

/** Gives assignments to somebody else: a role to the one who fills it, or one person's work to another's. Units, work and dates of the assignment stay. */
export function reassign(doc: Document, assignmentIds: readonly string[], to: Assignee): Outcome {
  const who = assigneeOf(doc, to);
  const rows = assignmentIds.flatMap((id) => doc.assignments.get(id) ?? []);
  const [first] = rows;
  if (!who || !first) return who ? gone : refused('UNKNOWN_RESOURCE', 'Whom to assign is not in the project any more.');
  const changes: Change[] = [];
  for (const x of rows) {
    const taken = indexOf(doc)
      .assignmentsOf(x.activityId)
      .some((y) => y.id !== x.id && sameAssignee(y, to) && y.delay === x.delay);
    const a = doc.activities.get(x.activityId);
    if (taken && a) return refused('ASSIGNMENT_SET_ASIDE', `${labelOf(a)}: ${who.name} is assigned there already. Change the units instead.`, { table: 'activities', id: a.id });
    if (('kind' in who && who.kind === 'material') !== (x.resourceId !== null && doc.resources.get(x.resourceId)?.kind === 'material'))
      return refused('WRONG_TYPE', `${who.name} cannot take that over: a material has a quantity, all else units and work.`);
    if (!sameAssignee(x, to)) changes.push({ table: 'assignments', id: x.id, before: x, after: { ...x, resourceId: to.resourceId, roleId: to.roleId } });
  }
  if (changes.length === 0) return refused('NOTHING_CHANGED', `${who.name} has them already.`);
  return settled(doc, `Give ${count(changes.length, 'assignment')} to ${who.name}`, changes);
}

/** An assignment as it is typed: `mason 3`; a delay behind it as `mason 3 +2d` is not typed here. */
export const assignmentText = (doc: Document, x: Assignment): string => {
  const name = assigneeOf(doc, x)?.name ?? '';
  const material = x.resourceId !== null && doc.resources.get(x.resourceId)?.kind === 'material';
  const n = material ? (x.quantityPer ?? x.quantity) : x.units;
  return n === 1 && !material ? name : `${name} ${n}`;
};

/** What was typed of one assignment. */
interface Typed {
  to: Assignee;
  name: string;
  amount: number | null;
  material: boolean;
}

/** Everybody who can be named: resources, then roles. */
export const assignees = (doc: Document): { name: string; to: Assignee; material: boolean }[] => [
  ...ordered(doc, 'resources').map((r) => ({ name: r.name, to: { resourceId: r.id, roleId: null }, material: r.kind === 'material' })),
  ...ordered(doc, 'roles').map((r) => ({ name: r.name, to: { resourceId: null, roleId: r.id }, material: false })),
];

/** A comma parts people, but for one inside of a number: `mason 0,5, crane` is half a mason and a crane. */
const PARTS = /;|(?<!\d),|,(?!\d+\s*%?\s*(?:[,;]|$))/;

/** Reads `mason 3, crane 0.5`: names in whole or their unmistakable beginning, units behind them. A sentence where it cannot be read. */
export function readAssignments(doc: Document, text: string): Typed[] | string {
  const all = assignees(doc);
  const out: Typed[] = [];
  for (const part of text.split(PARTS)) {
    const typed = part.trim();
    if (typed === '') continue;
    const lower = typed.toLowerCase();
    // A name may end in a number itself: all of it first.
    let found = all.filter((x) => x.name.toLowerCase() === lower);
    let amount: number | null = null;
    if (found.length === 0) {
      const m = /^(.*?)\s+(\d[\d.,]*)%?$/.exec(typed);
      const number = m ? typedNumber(m[2] ?? '') : undefined;
      const read = number !== undefined && threeDecimals(number) ? m : null;
      const name = (read?.[1] ?? typed).trim().toLowerCase();
      if (read && number !== undefined) amount = typed.endsWith('%') ? number / 100 : number;
      found = all.filter((x) => x.name.toLowerCase() === name);
      if (found.length === 0) found = all.filter((x) => x.name.toLowerCase().startsWith(name));
      if (found.length === 0) return `${read?.[1] ?? typed} is no resource or role of the project. Add it in the Library, or type another name.`;
      if (found.length > 1)
        return `${read?.[1] ?? typed} may be ${found
          .slice(0, 3)
          .map((x) => x.name)
          .join(' or ')}. Type more of the name.`;
    }
    const one = found[0] as (typeof all)[number];
    if (amount !== null && !(amount > 0 && amount <= 1_000_000)) return `${one.name}: units are above 0 and at most 1,000,000.`;
    if (out.some((x) => sameAssignee(x.to, one.to))) return `${one.name} is there twice. Add the units up.`;
    out.push({ to: one.to, name: one.name, amount, material: one.material });
  }
  return out;
}

/** Makes the assignments of an activity what was typed: a name alone is one unit; others go. */
export function typeAssignments(doc: Document, id: string, text: string, newId: NewId): Outcome {
  const a = doc.activities.get(id);
  if (!a) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  const read = readAssignments(doc, text);
  const where = { table: 'activities', id, label: labelOf(a), field: 'assignments' };
  if (typeof read === 'string') return refused('UNKNOWN_RESOURCE', `${labelOf(a)}: ${read}`, where);
  return onWork(
    doc,
    [id],
    () => (read.length ? `Assign ${read.map((x) => x.name).join(', ')} to ${labelOf(a)}` : `Take all assignments off ${labelOf(a)}`),
    (work) => {
      const wanted = (x: Assignment): Typed | undefined => read.find((t) => sameAssignee(t.to, x));
      for (const t of read) {
        const known = work.list.find((x) => sameAssignee(t.to, x));
        if (!known) {
          const row = { ...plainAssignment(newId(), id, t.to, t.material ? 1 : (t.amount ?? 1), nextRank(work)), values: standardValues(doc, 'assignments') };
          work.add(t.material ? { ...row, quantity: t.amount ?? 1 } : row);
        } else if (t.material) {
          if (t.amount !== null && t.amount !== (known.quantityPer ?? known.quantity))
            work.list = work.list.map((x) => (x.id === known.id ? { ...x, ...(x.quantityPer === null ? { quantity: t.amount ?? 1 } : { quantityPer: t.amount }) } : x));
        } else if ((t.amount ?? 1) !== known.units) work.setUnits(known.id, t.amount ?? 1);
      }
      for (const x of [...work.list]) if (!wanted(x)) work.remove(x.id);
    },
  );
}
