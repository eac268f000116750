/** The computed schedule as plain JSON: what `npm run -s calc` prints and exports hold. Format: docs/file-format.md. */
import type { Document } from '../model/document.ts';
import type { Problem } from '../model/problem.ts';
import { formatInstant, type Instant } from '../time/instant.ts';
import { wbsCodes } from '../outline/outline.ts';
import type { Computed } from './compute.ts';
import { percentOf } from '../progress/percent.ts';
import { plannedPercent, progressPoint } from '../rollup/progress-line.ts';
import { schedule } from './schedule.ts';
import { explain } from './explain.ts';
import { LinkKind, NONE, Pin, State, Type } from './network.ts';
import { floatPaths } from './paths.ts';

const stamp = (t: Instant): string | null => (t === NONE ? null : formatInstant(t));

/** Minutes with the days that they are in a calendar. */
export interface Span {
  minutes: number;
  days: number;
}

const span = (minutes: number, perDay: number): Span | null => (minutes === NONE ? null : { minutes, days: Math.round((minutes / perDay) * 1e6) / 1e6 });

const stateNames = ['notStarted', 'started', 'finished'] as const;
const linkNames = Object.keys(LinkKind) as (keyof typeof LinkKind)[];

export interface JsonOptions {
  /** How many float paths to list, and to which activity (id or code). */
  paths?: number;
  to?: string;
  /** Activity to explain (id or code). */
  why?: string;
  /** The baseline to measure progress against, as its copy holds it. */
  baseline?: Document;
}

const find = (doc: Document, text: string): string | undefined => (doc.activities.has(text) ? text : [...doc.activities.values()].find((a) => a.code === text)?.id);

/** One activity of the schedule as JSON. */
function activityJson(doc: Document, r: Computed, index: number, codes: ReadonlyMap<string, string>, drivingLinks: string[]): Record<string, unknown> {
  const net = r.network;
  const k = net.nodeOf[index]!;
  const a = doc.activities.get(net.ids[index]!);
  const perDay = net.calendars[net.calendar[k]!]!.minutesPerDay;
  const finished = net.state[k] === State.finished;
  const started = net.state[k] === State.started;
  const missed = net.deadline[k] !== NONE && r.early.finish[k]! > net.deadline[k]!;
  const deadlineMinutes = missed ? r.early.finishPos[k]! - net.calendars[net.calendar[k]!]!.position(net.deadline[k]!) : 0;
  return {
    id: net.ids[index],
    code: a?.code,
    name: a?.name,
    wbs: a?.wbsId ? (codes.get(a.wbsId) ?? '') : '',
    type: a?.type,
    calendarId: net.calendars[net.calendar[k]!]!.id,
    state: stateNames[net.state[k]!],
    earlyStart: stamp(r.early.start[k]!),
    earlyFinish: stamp(r.early.finish[k]!),
    lateStart: stamp(r.lateStart[k]!),
    lateFinish: stamp(r.lateFinish[k]!),
    remainingStart: started ? formatInstant(r.early.length[k]! === 0 ? r.early.finish[k]! : net.calendars[net.calendar[k]!]!.startInstant(r.early.startPos[k]!)) : null,
    length: r.early.length[k],
    totalFloat: span(r.late.totalFloat[k]!, perDay),
    freeFloat: span(r.late.freeFloat[k]!, perDay),
    critical: r.critical[k] === 1,
    nearCritical: r.nearCritical[k] === 1,
    onLongestPath: r.onLongestPath[k] === 1,
    ...(net.deadline[k] === NONE ? {} : { deadlineMissed: missed, deadlineMissedBy: span(deadlineMinutes, perDay) }),
    ...(net.type[k] === Type.margin && !finished ? { marginLeft: span(r.early.length[k]!, perDay), marginPlanned: span(net.duration[k]!, perDay) } : {}),
    drivingLinks,
  };
}

/** Progress of each activity against a baseline at the data date: planned percent, percent, working days ahead. */
function progressJson(doc: Document, r: Computed, baseline: Document): Record<string, unknown>[] {
  const net = r.network;
  const then = schedule(baseline).computed;
  const { dataDate } = net;
  if (!then || dataDate === null) return [];
  const place = new Map(then.network.ids.map((id, i) => [id, then.network.nodeOf[i]]));
  return net.ids.flatMap((id, i) => {
    const a = doc.activities.get(id);
    const k = place.get(id);
    if (!a || k === undefined) return [];
    const c = net.calendars[net.calendar[net.nodeOf[i]!]!]!;
    const dates = { start: then.early.start[k]!, finish: then.early.finish[k]! };
    return [{ id, plannedPercent: plannedPercent(c, dates, dataDate), percent: percentOf(a), aheadDays: progressPoint(a, c, dates, dataDate).days }];
  });
}

/** The whole schedule of a document. `problems` holds those of reading first. */
export function scheduleJson(doc: Document, readProblems: readonly Problem[], options: JsonOptions = {}): { json: Record<string, unknown>; computed?: Computed } {
  const { computed: r, problems } = schedule(doc);
  const all = [...readProblems, ...problems];
  if (!r) return { json: { problems: all } };
  const net = r.network;
  const codes = wbsCodes(doc);
  const driving: string[][] = Array.from({ length: net.size }, () => []);
  const links = new Array<Record<string, unknown>>(net.links);
  for (let l = 0; l < net.links; l++) {
    const s = net.to[l]!;
    if (r.slack.driving[l] === 1) driving[s]!.push(net.linkIds[l]!);
    links[net.linkRank[l]!] = {
      id: net.linkIds[l],
      from: net.ids[net.fileIndex[net.from[l]!]!],
      to: net.ids[net.fileIndex[s]!],
      type: linkNames[net.kind[l]!],
      slack: span(r.slack.link[l]!, net.calendars[net.calendar[s]!]!.minutesPerDay),
      driving: r.slack.driving[l] === 1,
      binding: r.slack.link[l] !== NONE && net.pin[s] === Pin.none,
    };
  }
  const idOf = (k: number): string => net.ids[net.fileIndex[k]!]!;
  const json: Record<string, unknown> = {
    format: 'yellowhammer-schedule',
    version: 1,
    projectFinish: formatInstant(r.projectFinish),
    dataDate: net.dataDate === null ? null : formatInstant(net.dataDate),
    activities: net.ids.map((_, i) => activityJson(doc, r, i, codes, driving[net.nodeOf[i]!]!)),
    ...(options.baseline ? { progress: progressJson(doc, r, options.baseline) } : {}),
    links,
    carriedLogic: r.slack.carried.map((c) => ({
      from: idOf(c.from),
      to: idOf(c.to),
      through: idOf(c.through),
      instant: formatInstant(c.instant),
      slack: span(c.slack, net.calendars[net.calendar[c.to]!]!.minutesPerDay),
      driving: c.driving,
    })),
  };
  if (r.slack.dropped.size > 0) json['carriedLogicDropped'] = [...r.slack.dropped.values()].reduce((a, b) => a + b, 0);
  if (options.paths !== undefined) {
    const id = options.to === undefined ? undefined : find(doc, options.to);
    const to = id === undefined ? undefined : net.nodeOf[net.ids.indexOf(id)];
    if (options.to !== undefined && id === undefined)
      all.push({ code: 'UNKNOWN_ACTIVITY', severity: 'error', message: `No activity ${options.to} to find paths to.`, where: { table: 'activities', id: options.to } });
    else
      json['paths'] = floatPaths(r, options.paths, to).map((p) => ({
        slackDays: Math.round(p.slackDays * 1e6) / 1e6,
        joins: p.joins < 0 ? null : idOf(p.joins),
        activities: p.nodes.map(idOf),
      }));
  }
  if (options.why !== undefined) {
    const id = find(doc, options.why);
    if (id === undefined)
      all.push({ code: 'UNKNOWN_ACTIVITY', severity: 'error', message: `No activity ${options.why} to explain.`, where: { table: 'activities', id: options.why } });
    else json['why'] = explain(doc, r, id);
  }
  json['problems'] = all;
  return { json, computed: r };
}
