/** Roll-ups of activities to WBS nodes: dates, working duration, percent complete, cost. */
import { percentOf } from '../commands/cells.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { NONE } from '../schedule/network.ts';
import type { Instant } from '../time/instant.ts';

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

/** What an activity weighs in a percentage. Spans (level of effort, margin) weigh nothing by duration. */
function weightOf(a: Activity, by: 'duration' | 'cost'): number {
  if (by === 'cost') return Math.max(0, a.cost);
  return a.type === 'task' ? a.duration : 0;
}

/** Roll-ups of every WBS node, and of the whole project under ''. */
export function rollUp(doc: Document, r: Computed): Map<string, Rollup> {
  const by = projectOf(doc).options.percentWeight;
  const out = new Map<string, Rollup & { weight: number; done: number }>();
  const blank = (): Rollup & { weight: number; done: number } => ({
    start: NONE,
    finish: NONE,
    duration: 0,
    percent: 0,
    cost: 0,
    activities: 0,
    critical: false,
    float: NONE,
    weight: 0,
    done: 0,
  });
  out.set('', blank());
  for (const id of doc.wbs.keys()) out.set(id, blank());
  const net = r.network;
  const chains = new Map<string | null, Rollup[]>();
  const chainOf = (wbsId: string | null): Rollup[] => {
    const known = chains.get(wbsId);
    if (known) return known;
    const node = wbsId === null ? undefined : doc.wbs.get(wbsId);
    const chain = node ? [out.get(node.id) as Rollup, ...chainOf(node.parentId)] : [out.get('') as Rollup];
    chains.set(wbsId, chain);
    return chain;
  };
  net.ids.forEach((id, i) => {
    const a = doc.activities.get(id);
    if (!a) return;
    const k = net.nodeOf[i];
    const weight = weightOf(a, by);
    const done = (weight * percentOf(a)) / 100;
    for (const n of chainOf(a.wbsId) as (Rollup & { weight: number; done: number })[]) {
      if (n.start === NONE || r.early.start[k] < n.start) n.start = r.early.start[k];
      if (r.early.finish[k] > n.finish) n.finish = r.early.finish[k];
      n.cost += a.cost;
      n.activities++;
      n.weight += weight;
      n.done += done;
      if (r.critical[k] === 1) n.critical = true;
      const tf = r.late.totalFloat[k];
      if (tf !== NONE && (n.float === NONE || tf < n.float)) n.float = tf;
    }
  });
  const calendar = net.calendars.find((c) => c.id === projectOf(doc).calendarId) ?? net.calendars[0];
  for (const n of out.values()) {
    if (n.start !== NONE) n.duration = calendar.position(n.finish) - calendar.position(n.start);
    n.percent = n.weight > 0 ? Math.round((n.done / n.weight) * 1000) / 10 : 0;
  }
  return out;
}
