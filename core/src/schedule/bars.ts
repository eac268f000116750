/** Bars as plain spans of time, for the timeline and for paper alike. */
import type { Document } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { calendarFor } from './calendars.ts';
import { NONE } from './network.ts';
import { placeOf, type ScheduleView } from './view.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import { type Instant, MINUTES_PER_DAY } from '../time/instant.ts';

export interface Piece {
  from: Instant;
  to: Instant;
  done: boolean;
}

export interface BarShape {
  start: Instant;
  finish: Instant;
  pieces: Piece[];
  critical: boolean;
  near: boolean;
  /** End of the dotted tail; NONE without float. */
  floatTo: Instant;
  left: number;
  planned: number;
  state: number;
}

/** Stops shorter than this do not break a bar. */
const LONG_STOP = 9 * MINUTES_PER_DAY;

const stops = new WeakMap<WorkCalendar, Map<string, [Instant, Instant][]>>();

/** Long stretches without work between two instants; kept, since they are asked for at every drawing. */
export function longStops(c: WorkCalendar, from: Instant, to: Instant): readonly [Instant, Instant][] {
  if (to - from <= LONG_STOP) return [];
  let known = stops.get(c);
  if (!known) stops.set(c, (known = new Map()));
  const key = `${from} ${to}`;
  let list = known.get(key);
  if (list) return list;
  list = [];
  let last = from;
  for (const [a, b] of c.stretches(from, to)) {
    if (a - last > LONG_STOP) list.push([last, a]);
    last = b;
  }
  if (to - last > LONG_STOP) list.push([last, to]);
  if (known.size > 5000) known.clear();
  known.set(key, list);
  return list;
}

/** A bar parted where work stops for long. */
export const parted = (c: WorkCalendar, from: Instant, to: Instant, done: boolean): Piece[] => split(from, to, done, longStops(c, from, to));

function split(from: Instant, to: Instant, done: boolean, gaps: readonly [Instant, Instant][]): Piece[] {
  const out: Piece[] = [];
  let at = from;
  for (const [a, b] of gaps) {
    if (a >= to) break;
    if (a > at) out.push({ from: at, to: a, done });
    at = Math.max(at, b);
  }
  if (at < to) out.push({ from: at, to, done });
  return out;
}

/** The bar of an activity; undefined where it is not computed. */
export function barOf(doc: Document, view: ScheduleView, a: Activity): BarShape | undefined {
  const i = placeOf(view, a.id);
  if (i === undefined) return undefined;
  const start = view.start[i]!;
  const finish = view.finish[i]!;
  const c = calendarFor(doc, a);
  const ahead = view.aheadFrom[i]!;
  const gaps = c && a.type === 'task' ? longStops(c, start, finish) : [];
  let pieces: Piece[];
  if (view.state[i] === 2) pieces = split(start, finish, true, gaps);
  else if (view.state[i] === 1) pieces = [...split(start, Math.min(ahead, finish), true, gaps), ...split(Math.min(ahead, finish), finish, false, gaps)];
  else pieces = split(start, finish, false, gaps);
  const tf = view.totalFloat[i]!;
  return {
    start,
    finish,
    pieces,
    critical: view.critical[i] === 1,
    near: view.nearCritical[i] === 1,
    floatTo: tf > 0 ? view.lateFinish[i]! : NONE,
    left: view.length[i]!,
    planned: view.planned[i]!,
    state: view.state[i]!,
  };
}
