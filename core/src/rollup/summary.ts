/** A project in a few figures: what the header, the list of projects and reports show. */
import { type Document, ordered, projectOf } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { State } from '../schedule/network.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { formatInstant, type Instant, parseInstant } from '../time/instant.ts';
import { rollUp } from './rollup.ts';

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
export function daysBetween(c: CompiledCalendar, from: Instant, to: Instant): number {
  return Math.round(((c.position(to) - c.position(from)) / c.minutesPerDay) * 10) / 10 || 0;
}

export function projectCalendar(doc: Document, r: Computed): CompiledCalendar {
  return r.network.calendars.find((c) => c.id === projectOf(doc).calendarId) ?? r.network.calendars[0];
}

/** The figures of a project. `baselineFinish` is the computed finish of the chosen baseline. */
export function summarise(doc: Document, r: Computed | undefined, baselineFinish: Instant | undefined): Summary {
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
  const whole = rollUp(doc, r).get('');
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
  let best: { name: string; at: Instant } | undefined;
  for (const a of ordered(doc, 'activities')) {
    if (a.type !== 'startMilestone' && a.type !== 'finishMilestone') continue;
    const i = net.ids.indexOf(a.id);
    const k = net.nodeOf[i];
    if (i < 0 || net.state[k] === State.finished) continue;
    const at = r.early.finish[k];
    if (!best || at < best.at) best = { name: a.name, at };
  }
  return best ? { name: best.name, finish: formatInstant(best.at) } : null;
}
