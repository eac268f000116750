/** Commands that make one activity of several and several of one, with the logic kept right. */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf, projectOf } from '../model/document.ts';
import { type Activity, type Constraint, type Link, MAX_NAME, noProgress, wbsDefaults, type WbsNode } from '../model/schema.ts';
import { numbersOf } from '../model/numbers.ts';
import { drivesWork, lengthOf } from '../load/figures.ts';
import { assignedTo } from '../model/assigned.ts';
import type { Assignment } from '../model/resource-schema.ts';
import { calendarFor, dayLengths } from '../schedule/calendars.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import { formatDuration } from '../time/duration.ts';
import { formatInstant, parseInstant } from '../time/instant.ts';
import { LinkPlan } from './link-plan.ts';
import { moveTo, type RowRef, siblings, spacedRanks } from './outline.ts';
import { takeOut } from './attached.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

const ofFinish = (c: Constraint): boolean => c.kind.startsWith('finish') || c.kind === 'pinnedFinish';
const ofStart = (c: Constraint): boolean => !ofFinish(c);

/** A name with more behind it, cut where it would be too long. */
const named = (name: string, more: string): string => `${name.slice(0, MAX_NAME - more.length)}${more}`;

/**
 * Splits a task in two, the second following the first. What leads to the start stays with the first part, what leads to
 * the finish and out of it goes to the second. `first`: working minutes of the first part. The cost is parted by duration.
 */
export function splitActivity(doc: Document, id: string, first: number, newId: NewId): Outcome {
  const a = doc.activities.get(id);
  if (!a) return refused('UNKNOWN_ACTIVITY', 'That activity is not in the plan any more.');
  const where = { table: 'activities', id, label: labelOf(a) };
  if (a.type !== 'task') return refused('WRONG_TYPE', `${labelOf(a)} is not a task. Only a task can be split.`, where);
  if (a.actualFinish !== null) return refused('WRONG_ENTRY', `${labelOf(a)} is finished. Only work that is left can be split.`, where);
  const text = (minutes: number): string => formatDuration(minutes, dayLengths(doc, a));
  if (!(first > 0 && first < a.duration))
    return refused('WRONG_VALUE', `The first part of ${labelOf(a)} must be longer than nothing and shorter than all of it, which is ${text(a.duration)}.`, where);
  const left = a.actualStart === null ? a.duration : (a.remaining ?? a.duration);
  const worked = a.duration - left;
  if (a.actualStart !== null && first < worked)
    return refused('WRONG_ENTRY', `Of ${labelOf(a)} ${text(worked)} are done. Split it at or after that.`, { ...where, field: 'duration' });
  const draft = new Draft(doc);
  const cost = Math.round(((a.cost * first) / a.duration) * 100) / 100;
  const remaining = a.actualStart === null || a.remaining === null ? a.remaining : first - worked;
  draft.patch('activities', id, { duration: first, remaining, cost, constraints: a.constraints.filter(ofStart), deadline: null });
  const [rank] = spacedRanks(draft, siblings(doc, a.wbsId), id, 1);
  const second: Activity = {
    ...a,
    id: newId(),
    rank: rank ?? a.rank,
    code: numbersOf(doc).next(),
    name: named(a.name, ', part 2'),
    duration: a.duration - first,
    cost: Math.round((a.cost - cost) * 100) / 100,
    constraints: a.constraints.filter((c) => ofFinish(c) || c.kind === 'asLateAsPossible'),
    ...noProgress,
    notes: '',
  };
  draft.set('activities', second.id, second);
  splitWork(draft, a, second.id, first, newId);
  const index = indexOf(doc);
  for (const l of index.linksInto(id)) if (l.type[1] === 'F') draft.patch('links', l.id, { to: second.id });
  for (const l of index.linksOutOf(id)) if (l.type[0] === 'F') draft.patch('links', l.id, { from: second.id });
  const between: Link = { id: newId(), rank: index.nextLinkRank(), from: id, to: second.id, type: 'FS', lag: 0, lagCalendar: null };
  draft.set('links', between.id, between);
  return settled(doc, `Split ${labelOf(a)}`, draft.changes, [second.id]);
}

/** Parts the assignments of a task at a place on its duration: each half has its part of the work, at the same units. */
function splitWork(draft: Draft, a: Activity, second: string, first: number, newId: NewId): void {
  const { doc } = draft;
  for (const x of assignedTo(doc, a)) {
    const length = lengthOf(x, a.duration, drivesWork(doc, a, x));
    const before = Math.min(Math.max(first - x.delay, 0), length);
    const share = length > 0 ? before / length : x.delay < first ? 1 : 0;
    const work = Math.round(x.work * share);
    const quantity = Math.round(x.quantity * share * 1000) / 1000;
    const rest = { work: x.work - work, quantity: Math.round((x.quantity - quantity) * 1000) / 1000, delay: Math.max(0, x.delay - first) };
    const fresh = { actualWork: null, remainingWork: null, actualQuantity: null, remainingQuantity: null, actualCost: null };
    if (share < 1) {
      const id = share === 0 ? x.id : newId();
      draft.set('assignments', id, { ...x, ...fresh, ...rest, id, activityId: second });
    }
    if (share > 0) draft.patch('assignments', x.id, { work, quantity });
  }
}

/** Gives one activity the assignments of several: the works of each resource or role added up, over the whole duration. */
function mergeWork(draft: Draft, all: readonly Activity[], into: string, duration: number): void {
  const { doc } = draft;
  const kept = new Map<string, Assignment>();
  for (const a of all)
    for (const x of assignedTo(doc, a)) {
      const key = x.resourceId ?? x.roleId ?? '';
      const known = kept.get(key);
      const sum = { work: (known?.work ?? 0) + x.work, quantity: Math.round(((known?.quantity ?? 0) + x.quantity) * 1000) / 1000 };
      const row = { ...(known ?? x), ...sum, activityId: into, delay: 0 };
      const milli = duration > 0 ? Math.floor(row.work / duration) : 0;
      kept.set(key, milli > 0 ? { ...row, units: milli / 1000 } : row);
      draft.set('assignments', x.id, null);
    }
  for (const x of kept.values()) draft.set('assignments', x.id, x);
}

/**
 * Makes one activity of several: the first of them, from the earliest start to the latest finish, in working time of its
 * calendar. Links among them go; those to others stay, each at its end; of two alike the one with the longer lag. Costs
 * are added, notes are joined. Refused where a way between two of them leads through another activity.
 */
export function mergeActivities(doc: Document, view: ScheduleView | null, ids: readonly string[], name: string | null): Outcome {
  const all = [...new Set(ids)].flatMap((id) => doc.activities.get(id) ?? []);
  const [first] = all;
  if (!first || all.length < 2) return refused('SELECT_TWO', 'Select two or more activities to make one of them.');
  const wrong = all.find((a) => a.type !== 'task');
  if (wrong) return refused('WRONG_TYPE', `${labelOf(wrong)} is not a task. Only tasks can be made one.`, { table: 'activities', id: wrong.id, label: labelOf(wrong) });
  const places = all.map((a) => (view ? placeOf(view, a.id) : undefined));
  const calendar = calendarFor(doc, first);
  if (!view || !calendar || places.some((i) => i === undefined)) return refused('NOT_COMPUTED', 'The plan has no dates yet, and how long the whole lasts follows from them.');
  const begun = all.filter((a) => a.actualStart !== null);
  const finished = all.every((a) => a.actualFinish !== null);
  const [start, finish] = [Math.min(...places.map((i) => view.start[i as number]!)), Math.max(...places.map((i) => view.finish[i as number]!))];
  const work = (a: number, b: number): number => Math.max(0, calendar.position(b) - calendar.position(a));
  const duration = work(start, finish);
  const { dataDate } = projectOf(doc);
  const from = Math.max(start, (dataDate === null ? undefined : parseInstant(dataDate)) ?? start);
  const draft = new Draft(doc);
  const notes = [...new Set(all.map((a) => a.notes.trim()).filter(Boolean))].join('\n\n');
  const deadlines = all.flatMap((a) => a.deadline ?? []).sort();
  draft.patch('activities', first.id, {
    name: (name ?? first.name).slice(0, MAX_NAME),
    duration,
    cost: Math.round(all.reduce((n, a) => n + a.cost, 0) * 100) / 100,
    notes: notes.slice(0, 20_000),
    constraints: [...first.constraints.filter(ofStart), ...(all[all.length - 1] as Activity).constraints.filter(ofFinish)].slice(0, 10),
    deadline: deadlines[deadlines.length - 1] ?? null,
    actualStart: begun.length ? formatInstant(start) : null,
    actualFinish: finished ? formatInstant(finish) : null,
    remaining: begun.length && !finished ? Math.min(duration, work(from, finish)) : null,
    suspend: null,
    resume: null,
    levellingDelay: null,
  });
  const among = new Set(all.map((a) => a.id));
  const index = indexOf(doc);
  const links = all.flatMap((a) => [...index.linksInto(a.id), ...index.linksOutOf(a.id)]);
  const gone = new Set(links.map((l) => l.id));
  for (const l of gone) draft.set('links', l, null);
  const plan = new LinkPlan(doc, gone);
  const kept = new Map<string, Link>();
  for (const l of links) {
    if (among.has(l.from) && among.has(l.to)) continue;
    const next = { ...l, from: among.has(l.from) ? first.id : l.from, to: among.has(l.to) ? first.id : l.to };
    const key = `${next.from} ${next.type} ${next.to}`;
    const twin = kept.get(key);
    if (!twin || twin.lag < next.lag) kept.set(key, next);
  }
  for (const l of kept.values()) {
    const no = plan.refusal(l);
    if (no) return no;
    plan.add(l);
    draft.set('links', l.id, l);
  }
  mergeWork(draft, all, first.id, duration);
  for (const a of all.slice(1)) takeOut(draft, { kind: 'activity', id: a.id }, { kind: 'activity', id: first.id });
  return settled(doc, `Make one activity of ${count(all.length, 'activity')}`, draft.changes, [first.id]);
}

/** Puts WBS nodes in the place of activities, each with its name and with the activity in it: work that is to be parted further. */
export function activitiesToNodes(doc: Document, ids: readonly string[], newId: NewId): Outcome {
  const all = [...new Set(ids)].flatMap((id) => doc.activities.get(id) ?? []);
  if (all.length === 0) return refused('NOTHING_SELECTED', 'Select activities first.');
  const draft = new Draft(doc);
  const made = all.map((a) => {
    const node: WbsNode = { ...wbsDefaults, id: newId(), rank: a.rank, parentId: a.wbsId, name: a.name };
    draft.set('wbs', node.id, node);
    draft.patch('activities', a.id, { wbsId: node.id, rank: 0 });
    return node.id;
  });
  return settled(doc, `Make ${count(all.length, 'WBS node')} of ${count(all.length, 'activity')}`, draft.changes, made);
}

/** Makes one activity of a WBS node: its only one, or all of them made one, under the node's name and in its place. */
export function nodeToActivity(doc: Document, view: ScheduleView | null, id: string): Outcome {
  const node = doc.wbs.get(id);
  if (!node) return refused('UNKNOWN_WBS', 'That WBS node is not in the plan any more.');
  const index = indexOf(doc);
  const [nodes, activities]: [string[], string[]] = [[], []];
  const walk = (parent: string): void => {
    for (const c of index.childrenOf(parent))
      if (c.kind === 'wbs') {
        nodes.push(c.id);
        walk(c.id);
      } else activities.push(c.id);
  };
  walk(id);
  const only = activities[0];
  if (only === undefined) return refused('NOTHING_SELECTED', `${node.name} has no activities. Delete it instead.`, { table: 'wbs', id, label: node.name });
  const merged: Outcome = activities.length === 1 ? settled(doc, '', []) : mergeActivities(doc, view, activities, node.name);
  if (!merged.ok) return merged;
  const draft = new Draft(doc);
  for (const c of merged.changes) draft.set(c.table, c.id, c.after);
  draft.patch('activities', only, { name: node.name, wbsId: node.parentId, rank: node.rank });
  for (const n of [id, ...nodes].reverse()) takeOut(draft, { kind: 'wbs', id: n }, { kind: 'activity', id: only });
  return settled(doc, `Make ${node.name} an activity`, draft.changes, [only]);
}

/** Puts a new WBS node where the first of some rows is, with all of them in it, in the order of the outline. */
export function wrapRows(doc: Document, rows: readonly RowRef[], name: string, newId: NewId, lane = false): Outcome {
  const [first] = rows;
  if (!first) return refused('NOTHING_SELECTED', 'Select rows first.');
  const draft = new Draft(doc);
  const at = first.kind === 'wbs' ? doc.wbs.get(first.id) : doc.activities.get(first.id);
  if (!at) return refused('NOTHING_SELECTED', 'Those rows are not in the plan any more.');
  const parentId = 'parentId' in at ? at.parentId : at.wbsId;
  const node: WbsNode = { ...wbsDefaults, id: newId(), rank: at.rank, parentId, name: name.slice(0, MAX_NAME), lane };
  draft.set('wbs', node.id, node);
  rows.forEach((r, i) => moveTo(draft, r, node.id, i));
  return settled(doc, `Put ${count(rows.length, 'row')} into a ${lane ? 'lane' : 'WBS node'}`, draft.changes, [node.id]);
}

/** Makes WBS nodes lanes; where all of them are, makes them nodes again. */
export function setLanes(doc: Document, ids: readonly string[]): Outcome {
  const nodes = ids.flatMap((id) => doc.wbs.get(id) ?? []);
  if (nodes.length === 0) return refused('NOTHING_SELECTED', 'Select WBS nodes first.');
  const lane = nodes.some((n) => !n.lane);
  const draft = new Draft(doc);
  for (const n of nodes) draft.patch('wbs', n.id, { lane });
  return settled(doc, `Show ${count(nodes.length, 'WBS node')} as ${lane ? (nodes.length === 1 ? 'a lane' : 'lanes') : nodes.length === 1 ? 'a node' : 'nodes'}`, draft.changes);
}

/** Takes WBS nodes away and leaves what is in them in their place. */
export function dissolveNodes(doc: Document, ids: readonly string[]): Outcome {
  const index = indexOf(doc);
  const gone = new Set(ids.filter((id) => doc.wbs.has(id)));
  if (gone.size === 0) return refused('NOTHING_SELECTED', 'Select WBS nodes first.');
  const draft = new Draft(doc);
  /** What stands in the place of a row: itself, or what is in it. */
  const flat = (ref: RowRef): RowRef[] => (ref.kind === 'wbs' && gone.has(ref.id) ? index.childrenOf(ref.id).flatMap(flat) : [ref]);
  const parents = new Set<string | null>();
  for (const id of gone) {
    let parent = doc.wbs.get(id)?.parentId ?? null;
    while (parent !== null && gone.has(parent)) parent = doc.wbs.get(parent)?.parentId ?? null;
    parents.add(parent);
  }
  for (const parent of parents)
    index
      .childrenOf(parent)
      .flatMap(flat)
      .forEach((r, i) => moveTo(draft, r, parent, i));
  for (const id of gone) {
    const parent = doc.wbs.get(id)?.parentId ?? null;
    takeOut(draft, { kind: 'wbs', id }, parent === null || gone.has(parent) ? null : { kind: 'wbs', id: parent });
  }
  // Nodes last, so that nothing refers to them any more, and children before parents.
  const nodes = draft.changes.filter((c) => c.after === null).sort((a, b) => depthOf(doc, b.id) - depthOf(doc, a.id));
  return settled(doc, `Dissolve ${count(gone.size, 'WBS node')}`, [...draft.changes.filter((c) => c.after !== null), ...nodes]);
}

function depthOf(doc: Document, id: string): number {
  let n = 0;
  for (let at = doc.wbs.get(id)?.parentId ?? null; at !== null && n < 1000; n++) at = doc.wbs.get(at)?.parentId ?? null;
  return n;
}
