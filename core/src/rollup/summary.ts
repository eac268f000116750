/** A project in a few figures: what the header, the list of projects and reports show. */
import { type Document, projectOf } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { State, Type } from '../schedule/network.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { formatInstant, type Instant, parseInstant } from '../time/instant.ts';
import { projectCalendar, type Rollup, rollUp } from './rollup.ts';
import { tenth } from '../time/tenths.ts';

export interface Summary {
  start: string | null;
  /** Forecast finish; null where nothing could be computed. */
  finish: string | null;
  dataDate: string | null;
  requiredFinish: string | null;
  /** Working days of the project's calendar by which the finish is later than the baseline's; null without one. */
  againstBaseline: number | null;
  baselineName: string | null;
  /** Working days between forecast and required finish; negative when it is missed. */
  toRequired: number | null;
  activities: number;
  links: number;
  percent: number;
  cost: number;
  nextMilestone: { name: string; finish: string } | null;
}

/** Working days from one instant to another in a calendar, with one decimal; negative backwards. */
export function daysBetween(c: WorkCalendar, from: Instant, to: Instant): number {
  return tenth((c.position(to) - c.position(from)) / c.minutesPerDay);
}

/** The figures of a project. `baselineFinish` is the computed finish of the chosen baseline; `rollups` those of the same result, if they are there. */
export function summarise(doc: Document, r: Computed | undefined, baselineFinish: Instant | undefined, rollups?: ReadonlyMap<string, Rollup>): Summary {
  const project = projectOf(doc);
  const baseline = project.baselineId === null ? undefined : doc.snapshots.get(project.baselineId);
  const base = {
    dataDate: project.dataDate,
    requiredFinish: project.requiredFinish,
    baselineName: baseline?.name ?? null,
    activities: doc.activities.size,
    links: doc.links.size,
  };
  if (!r) return { ...base, start: null, finish: null, againstBaseline: null, toRequired: null, percent: 0, cost: 0, nextMilestone: null };
  const c = projectCalendar(doc, r);
  const whole = (rollups ?? rollUp(doc, r)).get('');
  return {
    ...base,
    start: doc.activities.size && whole ? formatInstant(whole.start) : null,
    finish: doc.activities.size ? formatInstant(r.projectFinish) : null,
    againstBaseline: baselineFinish === undefined ? null : daysBetween(c, baselineFinish, r.projectFinish),
    toRequired: project.requiredFinish === null || doc.activities.size === 0 ? null : daysBetween(c, r.projectFinish, parseInstant(project.requiredFinish) as number),
    percent: whole?.percent ?? 0,
    cost: whole?.cost ?? 0,
    nextMilestone: nextMilestone(doc, r),
  };
}

function nextMilestone(doc: Document, r: Computed): Summary['nextMilestone'] {
  const net = r.network;
  let best = -1;
  for (let i = 0; i < net.size; i++) {
    const k = net.nodeOf[i]!;
    if ((net.type[k] !== Type.startMilestone && net.type[k] !== Type.finishMilestone) || net.state[k] === State.finished) continue;
    if (best < 0 || r.early.finish[k]! < r.early.finish[net.nodeOf[best]!]!) best = i;
  }
  if (best < 0) return null;
  return { name: doc.activities.get(net.ids[best]!)?.name ?? '', finish: formatInstant(r.early.finish[net.nodeOf[best]!]!) };
}
