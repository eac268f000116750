/** Where the work of each assignment lies (resource rules, section 4): pieces of even work on a calendar, in elapsed time, or at one instant. */
import { assignedTo } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import type { Assignment } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { elapsedCalendar } from '../schedule/calendars.ts';
import { type Network, State, Type } from '../schedule/network.ts';
import { type Instant, parseInstant } from '../time/instant.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { drivesWork, type Figures, figuresOf, type Standing, thousandths } from './figures.ts';
import { type Part, partsLeft, partsOf, weightsOf } from './spread.ts';

/** Even work between two positions of a calendar; where they are equal, work at the instant `from`. */
export interface Piece {
  calendar: WorkCalendar;
  /** Positions; an instant where they are equal. */
  from: number;
  to: number;
  /** Thousandths of unit-minutes (or of a material's measure). */
  work: number;
  actual: boolean;
}

/** An assignment that counts, with its figures and where its work lies. */
export interface Loaded {
  assignment: Assignment;
  activity: Activity;
  /** Node of the activity in the network. */
  node: number;
  figures: Figures;
  pieces: Piece[];
  /** The instant at which it begins: where a use is paid. */
  start: Instant;
  /** Its activity has begun; then where actual work lies, whether there is any or not. */
  began: boolean;
  actualSpan: Omit<Piece, 'work'> | null;
}

const stateNames = { [State.unstarted]: 'unstarted', [State.started]: 'started', [State.finished]: 'finished' } as const;

/** How the activity of a node stands, for its assignments. */
export function standingAt(r: Computed, k: number): Standing {
  const net = r.network;
  if (net.type[k] === Type.levelOfEffort) {
    const d = r.early.length[k]!;
    const c = net.calendars[net.calendar[k]!]!;
    const done = net.dataDate === null ? 0 : Math.min(Math.max(c.position(net.dataDate) - r.early.startPos[k]!, 0), d);
    // Without length it is done once its instant lies behind.
    const over = d > 0 ? done >= d : net.dataDate !== null && r.early.start[k]! < net.dataDate;
    return { state: over ? 'finished' : done > 0 ? 'started' : 'unstarted', d, r: d - done };
  }
  const state = net.state[k] as 0 | 1 | 2;
  return { state: stateNames[state], d: net.duration[k]!, r: state === State.finished ? 0 : net.length[k]! };
}

/** Whether the activity of a node stands as it did. Asked of every activity after each edit, so that nothing is made for it. */
export function standsAs(r: Computed, k: number, then: Standing): boolean {
  const net = r.network;
  if (net.type[k] === Type.levelOfEffort) {
    const now = standingAt(r, k);
    return then.state === now.state && then.d === now.d && then.r === now.r;
  }
  const state = net.state[k] as 0 | 1 | 2;
  return then.state === stateNames[state] && then.d === net.duration[k] && then.r === (state === State.finished ? 0 : net.length[k]);
}

/** Every assignment that counts, in file order of the activities, with early or late dates. Linear. */
export function loadedOf(doc: Document, r: Computed, late = false): Loaded[] {
  const out: Loaded[] = [];
  if (doc.assignments.size === 0) return out;
  const { network: net } = r;
  net.rows.forEach((a, i) => {
    const list = assignedTo(doc, a);
    if (list.length === 0) return;
    const node = net.nodeOf[i]!;
    const standing = standingAt(r, node);
    for (const assignment of list) out.push(loadOne(doc, r, a, assignment, node, standing, late));
  });
  return out;
}

/** One assignment of the activity of a node, at the dates that it has. */
export function loadOne(doc: Document, r: Computed, activity: Activity, assignment: Assignment, node: number, standing: Standing, late: boolean): Loaded {
  const { network: net, early } = r;
  const calendar = net.calendars[net.calendar[node]!]!;
  const figures = figuresOf(doc, activity, assignment, standing);
  const loaded: Loaded = { assignment, activity, node, figures, pieces: [], start: early.start[node]!, began: standing.state !== 'unstarted', actualSpan: null };
  const put = (parts: readonly Part[], origin: number, work: number, actual: boolean, otherwise: Instant): void => {
    if (work === 0) return;
    if (parts.length === 0) loaded.pieces.push({ calendar, from: otherwise, to: otherwise, work, actual });
    for (const p of parts) if (p.share > 0) loaded.pieces.push({ calendar, from: origin + p.from, to: origin + p.to, work: work * p.share, actual });
  };
  const weights = weightsOf(assignment);
  const { delay } = assignment;
  if (activity.type === 'levelOfEffort') {
    spanned(loaded, early.startPos[node]! + delay, partsOf(figures.length, weights), net, calendar, early.start[node]!);
    return loaded;
  }
  const ahead = late && net.state[node] !== State.finished ? r.late.finishPos[node]! - early.length[node]! : early.startPos[node]!;
  if (standing.state === 'unstarted') {
    const origin = ahead + delay;
    loaded.start = delay === 0 ? (late ? r.lateStart[node]! : early.start[node]!) : calendar.startInstant(origin);
    put(partsOf(figures.length, weights), origin, figures.remaining, false, delay > 0 ? calendar.finishInstant(origin) : early.start[node]!);
    return loaded;
  }
  putActual(loaded, net, calendar);
  if (standing.state === 'finished') return loaded;
  const { d, r: left } = standing;
  const offset = Math.max(0, delay - Math.max(0, d - left));
  let rest = Math.max(0, left - offset);
  if (drivesWork(doc, activity, assignment)) rest = Math.min(rest, Math.ceil(figures.remaining / thousandths(assignment.units)));
  const origin = ahead + offset;
  const at = left === 0 ? early.finish[node]! : calendar.finishInstant(ahead + Math.min(offset, left));
  put(partsLeft(rest, figures.length, weights, figures.place), origin, figures.remaining, false, at);
  return loaded;
}

/** The actual work: even over the working time from the actual start to where it is known, else over elapsed time, else at one instant. */
function putActual(loaded: Loaded, net: Network, calendar: WorkCalendar): void {
  const { activity, assignment, figures, node, pieces } = loaded;
  const began = net.actualStart[node]!;
  const done = net.state[node] === State.finished;
  let end = done ? net.actualFinish[node]! : (net.dataDate as number);
  const suspend = activity.suspend === null || done ? undefined : parseInstant(activity.suspend);
  if (suspend !== undefined) {
    const resume = activity.resume === null ? undefined : parseInstant(activity.resume);
    if (resume === undefined || resume > (net.dataDate as number)) end = Math.min(end, suspend);
  }
  const start = Math.min(assignment.delay > 0 ? calendar.startInstant(calendar.position(began) + assignment.delay) : began, end);
  loaded.start = start;
  const [from, to] = [calendar.position(start), calendar.position(end)];
  const clock = elapsedCalendar();
  const span =
    to > from
      ? { calendar, from, to, actual: true }
      : end > start
        ? { calendar: clock, from: clock.position(start), to: clock.position(end), actual: true }
        : { calendar, from: end, to: end, actual: true };
  loaded.actualSpan = span;
  if (figures.actual > 0) pieces.push({ ...span, work: figures.actual });
}

/** A level of effort: what lies before the data date is actual. */
function spanned(loaded: Loaded, origin: number, parts: readonly Part[], net: Network, calendar: WorkCalendar, start: Instant): void {
  const { whole } = loaded.figures;
  loaded.start = loaded.assignment.delay > 0 ? calendar.startInstant(origin) : start;
  if (parts.length === 0 && whole > 0) {
    loaded.pieces.push({ calendar, from: start, to: start, work: whole, actual: loaded.figures.actual > 0 });
  }
  const now = net.dataDate === null ? -Infinity : calendar.position(net.dataDate);
  for (const p of parts) {
    if (p.share === 0 || whole === 0) continue;
    const [from, to] = [origin + p.from, origin + p.to];
    const middle = Math.min(Math.max(now, from), to);
    const each = (whole * p.share) / (to - from);
    if (middle > from) loaded.pieces.push({ calendar, from, to: middle, work: each * (middle - from), actual: true });
    if (middle < to) loaded.pieces.push({ calendar, from: middle, to, work: each * (to - middle), actual: false });
  }
}

/** Thousandths of units that a piece asks for; 0 for work at one instant. */
export const intensityOf = (p: Piece): number => (p.to > p.from ? p.work / (p.to - p.from) : 0);

/** Work of a piece before an instant, in its thousandths. */
export function workBefore(p: Piece, t: Instant): number {
  if (p.to === p.from) return p.from < t ? p.work : 0;
  if (!Number.isFinite(t)) return t > 0 ? p.work : 0;
  const q = p.calendar.position(t);
  return q <= p.from ? 0 : q >= p.to ? p.work : (p.work * (q - p.from)) / (p.to - p.from);
}

/** First and last instant at which a piece works. */
export const spanOf = (p: Piece): [Instant, Instant] => (p.to > p.from ? [p.calendar.startInstant(p.from), p.calendar.finishInstant(p.to)] : [p.from, p.from]);
