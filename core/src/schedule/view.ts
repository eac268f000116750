/**
 * The results by activity in file order, as typed arrays without the network: what a worker hands to the interface.
 * Every figure on a screen is read from here, so a date has one source.
 */
import { costAt, type Costs, costsOf } from '../cost/costs.ts';
import type { Document } from '../model/document.ts';
import { type Places, PlacesOf } from '../model/places.ts';
import type { Problem } from '../model/problem.ts';
import { percentOf } from '../progress/percent.ts';
import { rollUp, type Rollup } from '../rollup/rollup.ts';
import { summarise, type Summary } from '../rollup/summary.ts';
import type { Instant } from '../time/instant.ts';
import type { Computed } from './compute.ts';
import { NONE } from './network.ts';

export interface ScheduleView {
  /** Activities in file order; placeOf() finds one. */
  ids: string[];
  start: Int32Array;
  finish: Int32Array;
  lateStart: Int32Array;
  lateFinish: Int32Array;
  /** Where the work ahead begins (data date side of started work); NONE where finished. */
  aheadFrom: Int32Array;
  totalFloat: Int32Array;
  freeFloat: Int32Array;
  length: Int32Array;
  planned: Int32Array;
  state: Uint8Array;
  critical: Uint8Array;
  nearCritical: Uint8Array;
  onLongestPath: Uint8Array;
  deadline: Int32Array;
  minutesPerDay: Int32Array;
  costs: Costs;
  /** Slack of the links that are computed (NONE where one has none), and whether each drives. */
  linkIds: string[];
  slack: Int32Array;
  driving: Uint8Array;
  carried: { from: string; to: string; through: string; slack: number; driving: boolean }[];
  rollups: Map<string, Rollup>;
  projectFinish: Instant;
  projectStart: Instant;
  summary: Summary;
  problems: Problem[];
}

const places = new WeakMap<readonly string[], Places>();
/** The lists of late (activities and links of the plan, of a copy): the next one differs little from one of them. */
const late: PlacesOf[] = [];
const MOST_LATE = 6;

/** Place of each id in a list, made once for a list. A worker can send lists without their maps, and only when they change. */
function placesIn(ids: readonly string[]): Places {
  const there = places.get(ids);
  if (there) return there;
  const at = late.findIndex((p) => p.fits(ids));
  const near = late.splice(at, at < 0 ? 0 : 1)[0] ?? new PlacesOf();
  late.push(near);
  if (late.length > MOST_LATE) late.shift();
  const made = near.in(ids);
  places.set(ids, made);
  return made;
}

/** Place of an activity in the arrays of a view. */
export const placeOf = (view: Pick<ScheduleView, 'ids'>, id: string): number | undefined => placesIn(view.ids).get(id);

/** Slack and driving of a link; undefined where it is not computed. */
export function linkState(view: ScheduleView, id: string): { slack: number; driving: boolean } | undefined {
  const l = placesIn(view.linkIds).get(id);
  return l === undefined ? undefined : { slack: view.slack[l]!, driving: view.driving[l] === 1 };
}

/** Flattens results for the interface. */
export function viewOf(doc: Document, r: Computed, problems: Problem[], baselineFinish: Instant | undefined): ScheduleView {
  const net = r.network;
  const n = net.size;
  const { nodeOf } = net;
  const at = (source: Int32Array): Int32Array => {
    const out = new Int32Array(n);
    for (let i = 0; i < n; i++) out[i] = source[nodeOf[i]!]!;
    return out;
  };
  const flags = (source: Uint8Array): Uint8Array => {
    const out = new Uint8Array(n);
    for (let i = 0; i < n; i++) out[i] = source[nodeOf[i]!]!;
    return out;
  };
  const aheadFrom = new Int32Array(n).fill(NONE);
  const minutesPerDay = new Int32Array(n);
  for (let i = 0; i < n; i++) {
    const k = net.nodeOf[i]!;
    const c = net.calendars[net.calendar[k]!]!;
    minutesPerDay[i] = c.minutesPerDay;
    if (net.state[k] === 1) aheadFrom[i] = r.early.length[k]! === 0 ? r.early.finish[k]! : c.startInstant(r.early.startPos[k]!);
    else if (net.state[k] === 0) aheadFrom[i] = r.early.start[k]!;
  }
  const idOf = (k: number): string => net.ids[net.fileIndex[k]!]!;
  const rollups = rollUp(doc, r);
  return {
    ids: net.ids,
    start: at(r.early.start),
    finish: at(r.early.finish),
    lateStart: at(r.lateStart),
    lateFinish: at(r.lateFinish),
    aheadFrom,
    totalFloat: at(r.late.totalFloat),
    freeFloat: at(r.late.freeFloat),
    length: at(r.early.length),
    planned: at(net.duration),
    state: flags(net.state),
    critical: flags(r.critical),
    nearCritical: flags(r.nearCritical),
    onLongestPath: flags(r.onLongestPath),
    deadline: at(net.deadline),
    minutesPerDay,
    costs: costsOf(doc, r),
    linkIds: net.linkIds,
    slack: r.slack.link,
    driving: r.slack.driving,
    carried: r.slack.carried.map((c) => ({ from: idOf(c.from), to: idOf(c.to), through: idOf(c.through), slack: c.slack, driving: c.driving })),
    rollups,
    projectFinish: r.projectFinish,
    projectStart: Math.min(net.plannedStart, rollups.get('')?.start === NONE ? net.plannedStart : (rollups.get('')?.start ?? net.plannedStart)),
    summary: summarise(doc, r, baselineFinish, rollups),
    problems,
  };
}

/** The instants that a snapshot's bars need: dates of each activity as they were computed then. */
export interface BaselineView {
  id: string;
  name: string;
  projectFinish: Instant;
  dates: Map<string, BaselineRow>;
  /** Roll-ups of nodes, and of the whole project under ''. */
  nodes: Map<string, BaselineRow>;
}

/** What a row was in the baseline: dates, working minutes, money, percent, and total float (NONE where it had none). */
export interface BaselineRow {
  start: Instant;
  finish: Instant;
  duration: number;
  cost: number;
  percent: number;
  float: number;
}

export function baselineViewOf(id: string, name: string, doc: Document, r: Computed): BaselineView {
  const net = r.network;
  const costs = costsOf(doc, r);
  const dates = new Map(
    net.rows.map((a, i): [string, BaselineRow] => {
      const k = net.nodeOf[i]!;
      return [
        a.id,
        { start: r.early.start[k]!, finish: r.early.finish[k]!, duration: net.duration[k]!, cost: costAt(costs, i, a), percent: percentOf(a), float: r.late.totalFloat[k]! },
      ];
    }),
  );
  const nodes = new Map(
    [...rollUp(doc, r)].flatMap(([node, { start, finish, duration, cost, percent, float }]): [string, BaselineRow][] =>
      start === NONE ? [] : [[node, { start, finish, duration, cost, percent, float }]],
    ),
  );
  return { id, name, projectFinish: r.projectFinish, dates, nodes };
}
