/** What the Load workspace shows: a table of subjects and buckets, and a stretch of one of them opened up. */
import { type Document, labelOf, ordered, projectOf } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { NONE } from '../schedule/network.ts';
import type { Instant } from '../time/instant.ts';
import { type Bucketing, edgesOf } from './buckets.ts';
import { type Bucketed, type Buckets, meanIsOver, type Run } from './curve.ts';
import type { Loads, Subject, SubjectKind } from './load.ts';
import { demandOf } from './demand.ts';
import { type ElsewhereAsk, type OtherProject, workElsewhere } from './elsewhere.ts';
import type { Loaded } from './pieces.ts';
import { lastNotAbove } from '../time/patched.ts';
import { asksIn } from './load-json.ts';
import { sumOfAll } from './steps.ts';

/** A row of the table. */
export interface LoadRow {
  kind: SubjectKind;
  id: string;
  name: string;
  /** Level in the tree of groups. */
  depth: number;
  /** Measure of a material. */
  unit: string | null;
  /** Labour, equipment or material of a resource. */
  sort: string;
  /** Greatest capacity in thousandths of units in the span of the table; null: no limit. */
  there: number | null;
  cells: Buckets;
  /** All work, in thousandths of unit-minutes. */
  total: number;
  runs: number;
  hidden: number;
}

/** A run with whose it is. */
export interface RunRow extends Run {
  kind: SubjectKind;
  id: string;
  name: string;
  /** No bucket of the table shows it by its mean. */
  hidden: boolean;
}

export interface LoadTable {
  edges: Instant[];
  rows: LoadRow[];
  /** The first of them by time. */
  runs: RunRow[];
  /** How many there are in all: seen by their mean, and hidden by it. */
  counts: { over: number; hidden: number };
}

/** Runs that are listed. */
const MOST_RUNS = 500;

const byTime = (a: Run, b: Run): number => a.from - b.from || b.excess - a.excess;

/** Subjects in the order of the tree: groups with their resources, then resources without a group, then roles and crews. */
function inTree(doc: Document, loads: Loads): { subject: Subject; depth: number }[] {
  const bySubject = new Map(loads.subjects.map((s) => [`${s.kind} ${s.id}`, s]));
  const out: { subject: Subject; depth: number }[] = [];
  const put = (kind: SubjectKind, id: string, depth: number): void => {
    const subject = bySubject.get(`${kind} ${id}`);
    if (subject) out.push({ subject, depth });
  };
  const resources = ordered(doc, 'resources');
  const groups = ordered(doc, 'resourceGroups');
  const walk = (parent: string | null, depth: number): void => {
    for (const g of groups) {
      if (g.parentId !== parent) continue;
      put('group', g.id, depth);
      walk(g.id, depth + 1);
      for (const r of resources) if (r.groupId === g.id) put('resource', r.id, depth + 1);
    }
  };
  walk(null, 0);
  for (const r of resources) if (r.groupId === null) put('resource', r.id, 0);
  for (const r of ordered(doc, 'roles')) put('role', r.id, 0);
  for (const c of ordered(doc, 'crews')) put('crew', c.id, 0);
  return out;
}

interface RunOf extends Pick<RunRow, 'kind' | 'id' | 'name'> {
  run: Run;
}
const first = new WeakMap<Loads, RunOf[]>();

/** The first runs of all by time, the worst first where they begin together: the same for every bucket, so they are put in order once. Groups say again what their members say, and so does a role that nobody asks for by itself. */
function firstRuns(loads: Loads, asked: ReadonlySet<string>): RunOf[] {
  let list = first.get(loads);
  if (list) return list;
  list = loads.subjects.flatMap(({ kind, id, name, curve }) =>
    kind === 'resource' || (kind === 'role' && asked.has(id))
      ? curve
          .runs()
          .slice(0, MOST_RUNS)
          .map((run): RunOf => ({ kind, id, name, run }))
      : [],
  );
  list.sort((a, b) => byTime(a.run, b.run));
  list.length = Math.min(list.length, MOST_RUNS);
  first.set(loads, list);
  return list;
}

/** The table over a span; undefined where it would have too many buckets. */
export function loadTable(doc: Document, loads: Loads, bucketing: Bucketing, from: Instant, to: Instant): LoadTable | undefined {
  const edges = edgesOf(bucketing, from, to);
  if (!edges) return undefined;
  const rows: LoadRow[] = [];
  const hiddenBy = new Map<string, (run: Run) => boolean>();
  const counts = { over: 0, hidden: 0 };
  const asked = new Set([...doc.assignments.values()].flatMap((x) => x.roleId ?? []));
  for (const { subject } of inTree(doc, loads)) if (subject.kind === 'role' && subject.elsewhere.some((a) => a.table === 'roles')) asked.add(subject.id);
  for (const { subject, depth } of inTree(doc, loads)) {
    const { kind, id, name, curve } = subject;
    const cells = curve.bucketed(edges);
    const count = cells.demand.length;
    const own = curve.runs();
    // How many buckets up to each are over by their mean: a run with none of them is hidden by all.
    const means = new Int32Array(count + 1);
    if (own.length) for (let n = 0; n < count; n++) means[n + 1] = means[n]! + (meanIsOver(cells, n) ? 1 : 0);
    const place = (t: Instant): number => Math.min(Math.max(lastNotAbove(edges, t), 0), count - 1);
    const hiddenRun = (run: Run): boolean => run.to <= edges[0]! || run.from >= edges[edges.length - 1]! || means[place(run.to - 1) + 1] === means[place(run.from)];
    hiddenBy.set(`${kind} ${id}`, hiddenRun);
    let hidden = 0;
    for (const run of own) if (hiddenRun(run)) hidden++;
    // Groups say again what their members say, and so does a role that nobody asks for by itself.
    if (kind === 'resource' || (kind === 'role' && asked.has(id))) {
      counts.over += own.length - hidden;
      counts.hidden += hidden;
    }
    rows.push({
      kind,
      id,
      name,
      depth,
      unit: subject.unit ?? null,
      sort: kind === 'resource' ? (doc.resources.get(id)?.kind ?? '') : kind,
      there: curve.limited ? curve.greatestCapacity(edges[0]!, edges[edges.length - 1]!) : null,
      cells,
      total: curve.total,
      runs: own.length,
      hidden,
    });
  }
  const runs = firstRuns(loads, asked).map(({ run, ...of }): RunRow => ({ ...run, ...of, hidden: hiddenBy.get(`${of.kind} ${of.id}`)?.(run) ?? false }));
  return { edges, rows, runs, counts };
}

/** What those who ask are put together by. */
export const askedBys = ['activity', 'project', 'role'] as const;
export type AskedBy = (typeof askedBys)[number];

/** Who asks for a subject in a stretch, with steps of its own. */
export interface Ask {
  key: string;
  /** The one activity of this project that it is; null: several, or of another project. */
  activityId: string | null;
  /** The other project that it is of. */
  project: OtherProject | null;
  label: string;
  /** Thousandths of unit-minutes in the stretch. */
  work: number;
  /** Working minutes, and what a day is in them; null: it has none. */
  float: number | null;
  minutesPerDay: number;
  at: number[];
  value: number[];
}
export interface Stretch {
  kind: SubjectKind;
  id: string;
  name: string;
  unit: string | null;
  from: Instant;
  to: Instant;
  /** Demand and capacity as steps over the stretch. */
  at: number[];
  demand: number[];
  there: number[];
  limited: boolean;
  runs: readonly Run[];
  cell: Bucketed;
  asks: Ask[];
  /** Those beyond the ones that are drawn apart. */
  more: number;
}

/** Asks that are drawn apart. */
const MOST_ASKS = 12;

/** One who asks, before steps are made of it. */
interface Asking extends Omit<Ask, 'at' | 'value'> {
  own: Loaded[];
  others: ElsewhereAsk[];
}

/** A stretch of one subject opened up; undefined where it is not there. */
export function stretchOf(doc: Document, r: Computed, loads: Loads, kind: SubjectKind, id: string, from: Instant, to: Instant, by: AskedBy = 'activity'): Stretch | undefined {
  const subject = loads.subjects.find((s) => s.kind === kind && s.id === id);
  if (!subject) return undefined;
  const asking = new Map<string, Asking>();
  const one = (key: string, make: () => Pick<Asking, 'label'> & Partial<Asking>, work: number): Asking => {
    const a: Asking = asking.get(key) ?? { key, activityId: null, project: null, work: 0, float: null, minutesPerDay: 480, own: [], others: [], ...make() };
    a.work += work;
    asking.set(key, a);
    return a;
  };
  const roleName = (roleId: string | null | undefined): string => (roleId ? doc.roles.get(roleId)?.name : undefined) ?? 'no role';
  const work = new Map(asksIn(subject, from, to).map((x) => [x.assignmentId, x.work]));
  for (const l of subject.asks) {
    const here = work.get(l.assignment.id);
    if (here === undefined) continue;
    const { activity, assignment } = l;
    const role = roleName(assignment.roleId ?? doc.resources.get(assignment.resourceId ?? '')?.roleId);
    const key = by === 'activity' ? activity.id : by === 'project' ? 'here' : `role ${role}`;
    one(
      key,
      () => (by === 'activity' ? { activityId: activity.id, ...floatAt(r, l.node), label: labelOf(activity) } : { label: by === 'project' ? projectOf(doc).code : role }),
      here,
    ).own.push(l);
  }
  const roleOf = new Map([...doc.roles.values()].flatMap((x) => (x.sharedId === null ? [] : [[x.sharedId, x.name] as const])));
  const roleOfResource = new Map([...doc.resources.values()].flatMap((x) => (x.sharedId === null ? [] : [[x.sharedId, roleName(x.roleId)] as const])));
  for (const a of subject.elsewhere) {
    const project = loads.projects[a.project];
    const there = workElsewhere(a, from, to);
    if (!project || there <= 1e-6) continue;
    const role = (a.table === 'roles' ? roleOf.get(a.sharedId) : roleOfResource.get(a.sharedId)) ?? 'no role';
    const key = by === 'activity' ? `${project.id} ${a.activityId}` : by === 'project' ? project.id : `role ${role}`;
    const make = (): Pick<Asking, 'label'> & Partial<Asking> =>
      by === 'activity'
        ? { label: `${project.code}: ${a.label}`, project, float: a.float, minutesPerDay: a.minutesPerDay }
        : by === 'project'
          ? { label: project.code, project }
          : { label: role };
    one(key, make, Math.round(there)).others.push(a);
  }
  const asks = [...asking.values()].sort((a, b) => b.work - a.work);
  const { curve } = subject;
  return {
    kind,
    id,
    name: subject.name,
    unit: subject.unit ?? null,
    from,
    to,
    ...curve.within(from, to),
    limited: curve.limited,
    runs: curve.runs().filter((run) => run.to > from && run.from < to),
    cell: curve.buckets([from, to])[0]!,
    asks: asks.slice(0, MOST_ASKS).map(({ own, others, ...a }): Ask => {
      const steps = sumOfAll([...own.map((l) => demandOf([l]).steps), ...others.map((o) => o.steps)]);
      return { ...a, at: steps.at, value: steps.value };
    }),
    more: Math.max(0, asks.length - MOST_ASKS),
  };
}

/** Float of a node, and what a day of it is. */
function floatAt(r: Computed, node: number): Pick<Ask, 'float' | 'minutesPerDay'> {
  const float = r.late.totalFloat[node]!;
  const c = r.network.calendars[r.network.calendar[node]!];
  return { float: float === NONE ? null : float, minutesPerDay: c?.minutesPerDay ?? 480 };
}
