/** Comparing two states of a project: what differs for each activity and WBS node. One way for anything against anything. */
import { percentOf } from '../progress/percent.ts';
import type { Document } from '../model/document.ts';
import { outlineRows } from '../outline/outline.ts';
import { projectCalendar, rollUp } from '../rollup/rollup.ts';
import { daysBetween } from '../rollup/summary.ts';
import type { Computed } from '../schedule/compute.ts';
import { NONE } from '../schedule/network.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import type { Instant } from '../time/instant.ts';
import { isSpanning } from '../model/activity-kinds.ts';
import { tenth } from '../time/tenths.ts';

export interface Side {
  start: Instant;
  finish: Instant;
  /** Working minutes, and how many are a day there. */
  duration: number;
  perDay: number;
  /** Total float in working minutes; null where there is none. */
  float: number | null;
  percent: number;
}

export interface CompareRow {
  kind: 'wbs' | 'activity';
  id: string;
  code: string;
  name: string;
  depth: number;
  change: 'same' | 'changed' | 'added' | 'removed';
  /** Null: not there on that side. */
  before: Side | null;
  after: Side | null;
  /** Working days, later and longer positive; 0 where a side is missing. Starts and finishes by the later side's calendar. */
  start: number;
  finish: number;
  duration: number;
  float: number;
  percent: number;
  critical: boolean;
}

export interface Comparison {
  rows: CompareRow[];
  /** Working days of the project's calendar by which the project finish moved. */
  finishMoved: number;
  before: Instant;
  after: Instant;
  changed: number;
  added: number;
  removed: number;
  total: number;
}

export interface State {
  doc: Document;
  computed: Computed;
}

function sides({ doc, computed: r }: State): { sides: Map<string, Side>; nodeOf: Map<string, number> } {
  const net = r.network;
  const out = new Map<string, Side>();
  const nodeOf = new Map<string, number>();
  net.ids.forEach((id, i) => {
    const k = net.nodeOf[i]!;
    const a = doc.activities.get(id);
    if (!a) return;
    nodeOf.set(id, k);
    const float = r.late.totalFloat[k]!;
    const spanning = isSpanning(a);
    out.set(id, {
      start: r.early.start[k]!,
      finish: r.early.finish[k]!,
      duration: spanning ? r.early.length[k]! : net.duration[k]!,
      perDay: net.calendars[net.calendar[k]!]!.minutesPerDay,
      float: float === NONE ? null : float,
      percent: percentOf(a),
    });
  });
  const perDay = projectCalendar(doc, r).minutesPerDay;
  for (const [id, n] of rollUp(doc, r))
    if (n.start !== NONE && id !== '')
      out.set(`wbs ${id}`, { start: n.start, finish: n.finish, duration: n.duration, perDay, float: n.float === NONE ? null : n.float, percent: n.percent });
  return { sides: out, nodeOf };
}

/** Compares two states. Rows come in the outline of the later one, then what is only in the earlier one. */
export function compareStates(before: State, after: State): Comparison {
  const a = sides(before);
  const b = sides(after);
  const net = after.computed.network;
  const calendar = projectCalendar(after.doc, after.computed);
  const rows: CompareRow[] = [];
  const seen = new Set<string>();
  for (const row of [...outlineRows(after.doc), ...outlineRows(before.doc)]) {
    const key = row.kind === 'wbs' ? `wbs ${row.id}` : row.id;
    if (seen.has(key)) continue;
    seen.add(key);
    const node = row.kind === 'activity' ? b.nodeOf.get(row.id) : undefined;
    const c = node === undefined ? calendar : net.calendars[net.calendar[node]!]!;
    const [code, name] = row.kind === 'wbs' ? [row.code, row.node.name] : [row.activity.code, row.activity.name];
    rows.push(rowOf(row.kind, row.id, code, name, row.depth, a.sides.get(key) ?? null, b.sides.get(key) ?? null, c, node !== undefined && after.computed.critical[node] === 1));
  }
  const activities = rows.filter((r) => r.kind === 'activity');
  return {
    rows,
    finishMoved: daysBetween(calendar, before.computed.projectFinish, after.computed.projectFinish),
    before: before.computed.projectFinish,
    after: after.computed.projectFinish,
    changed: activities.filter((r) => r.change === 'changed').length,
    added: activities.filter((r) => r.change === 'added').length,
    removed: activities.filter((r) => r.change === 'removed').length,
    total: activities.length,
  };
}

function rowOf(
  kind: CompareRow['kind'],
  id: string,
  code: string,
  name: string,
  depth: number,
  before: Side | null,
  after: Side | null,
  c: WorkCalendar,
  critical: boolean,
): CompareRow {
  const both = before !== null && after !== null;
  const d = {
    start: both ? daysBetween(c, before.start, after.start) : 0,
    finish: both ? daysBetween(c, before.finish, after.finish) : 0,
    duration: both ? tenth(after.duration / after.perDay - before.duration / before.perDay) : 0,
    float: both && before.float !== null && after.float !== null ? tenth(after.float / after.perDay - before.float / before.perDay) : 0,
    percent: both ? tenth(after.percent - before.percent) : 0,
  };
  const differs =
    both &&
    (before.start !== after.start || before.finish !== after.finish || before.duration !== after.duration || before.float !== after.float || before.percent !== after.percent);
  const change = both ? (differs ? 'changed' : 'same') : before ? 'removed' : after ? 'added' : 'same';
  return { kind, id, code, name, depth, change, before, after, ...d, critical };
}
