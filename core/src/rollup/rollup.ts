/** Roll-ups of activities to WBS nodes: dates, working duration, percent complete, cost. */
import { costAt, costsOf } from '../cost/costs.ts';
import { percentOf } from '../progress/percent.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { NONE } from '../schedule/network.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import type { Instant } from '../time/instant.ts';
import { percentTenth } from '../time/tenths.ts';

export interface Rollup {
  /** Earliest start and latest finish below; NONE where there are no activities. */
  start: Instant;
  finish: Instant;
  /** Working minutes of the project's calendar between them. */
  duration: number;
  /** 0 to 100, weighted by duration or by cost as the project says. */
  percent: number;
  cost: number;
  activities: number;
  /** True where an activity below is critical. */
  critical: boolean;
  /** Least total float below, in working minutes of that activity's calendar; NONE where none has any. */
  float: number;
}

/** What an activity weighs in a percentage; `cost`: its whole cost. Spans (level of effort, margin) weigh nothing by duration. */
export function weightOf(a: Activity, by: 'duration' | 'cost', cost: number): number {
  if (by === 'cost') return Math.max(0, cost);
  return a.type === 'task' ? a.duration : 0;
}

/** A roll-up that is being added up. */
export class Sum implements Rollup {
  start: Instant = NONE;
  finish: Instant = NONE;
  duration = 0;
  percent = 0;
  cost = 0;
  activities = 0;
  critical = false;
  float = NONE;
  weight = 0;
  /** Weight that is done. */
  done = 0;

  /** Adds an activity with its whole cost, its dates and float (NONE where it has none). */
  take(cost: number, start: Instant, finish: Instant, float: number, critical: boolean, weight: number, percent: number): void {
    if (start !== NONE && (this.start === NONE || start < this.start)) this.start = start;
    if (finish > this.finish) this.finish = finish;
    this.cost += cost;
    this.activities++;
    this.weight += weight;
    this.done += (weight * percent) / 100;
    if (critical) this.critical = true;
    if (float !== NONE && (this.float === NONE || float < this.float)) this.float = float;
  }

  /** Adds what another one holds. */
  add(child: Sum): void {
    if (child.activities === 0) return;
    if (child.start !== NONE && (this.start === NONE || child.start < this.start)) this.start = child.start;
    if (child.finish > this.finish) this.finish = child.finish;
    this.cost += child.cost;
    this.activities += child.activities;
    this.weight += child.weight;
    this.done += child.done;
    this.critical ||= child.critical;
    if (child.float !== NONE && (this.float === NONE || child.float < this.float)) this.float = child.float;
  }
}

/** WBS nodes, each before what is in it. Nodes that no way from the top leads to (a loop of parents) are left out. */
function fromTheTop(doc: Document): { id: string; parent: string }[] {
  const index = indexOf(doc);
  const out: { id: string; parent: string }[] = [];
  const take = (parent: string | null): void => {
    for (const c of index.childrenOf(parent)) if (c.kind === 'wbs') out.push({ id: c.id, parent: parent ?? '' });
  };
  take(null);
  for (let i = 0; i < out.length; i++) take(out[i]!.id);
  return out;
}

/** Roll-ups of every WBS node, and of the whole project under ''. */
export function rollUp(doc: Document, r: Computed): Map<string, Rollup> {
  const by = projectOf(doc).options.percentWeight;
  const whole = new Sum();
  const out = new Map<string, Sum>([['', whole]]);
  const order = fromTheTop(doc);
  for (const { id } of order) out.set(id, new Sum());
  const net = r.network;
  const costs = costsOf(doc, r);
  // Rows of a node mostly stand together, so the last sum is mostly the next one.
  let [lastId, last]: [string | null, Sum] = [null, whole];
  for (let i = 0; i < net.size; i++) {
    const a = net.rows[i]!;
    if (a.wbsId !== lastId) {
      lastId = a.wbsId;
      last = (lastId === null ? undefined : out.get(lastId)) ?? whole;
    }
    const k = net.nodeOf[i]!;
    const cost = costAt(costs, i, a);
    last.take(cost, r.early.start[k]!, r.early.finish[k]!, r.late.totalFloat[k]!, r.critical[k] === 1, weightOf(a, by, cost), percentOf(a));
  }
  for (let i = order.length - 1; i >= 0; i--) (out.get(order[i]!.parent) as Sum).add(out.get(order[i]!.id) as Sum);
  const calendar = projectCalendar(doc, r);
  for (const n of out.values()) {
    if (n.start !== NONE) n.duration = calendar.position(n.finish) - calendar.position(n.start);
    // Sums of hundredths are hundredths.
    n.cost = Math.round(n.cost * 100) / 100;
    n.percent = n.weight > 0 ? percentTenth(n.done / n.weight) : 0;
  }
  return out;
}

/** The project's calendar as it was computed with. */
export function projectCalendar(doc: Document, r: Computed): WorkCalendar {
  return r.network.calendars.find((c) => c.id === projectOf(doc).calendarId) ?? r.network.calendars[0]!;
}
