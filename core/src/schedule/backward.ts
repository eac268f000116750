/** The backward pass: late dates, total and free float, and moves of "as late as possible" (rules, sections 5 and 6). */
import type { Instant } from '../time/instant.ts';
import { type Early, moveLater } from './forward.ts';
import { counts, lagBack, LinkKind, type Network, NONE, Pin, State, Type } from './network.ts';

/** Stands for "no upper bound". */
const FREE = 0x3fffffff;

export interface Late {
  startPos: Int32Array;
  finishPos: Int32Array;
  /** Late instant of work of zero length (NONE elsewhere). */
  instant: Int32Array;
  totalFloat: Int32Array;
  freeFloat: Int32Array;
  /** Late start instants (NONE where not asked for yet, or for zero length): several links ask for the same one. */
  startInstant: Int32Array;
  /** True where an activity was moved as late as possible. */
  moved: boolean;
}

export function newLate(net: Network): Late {
  return {
    startPos: new Int32Array(net.size).fill(NONE),
    finishPos: new Int32Array(net.size).fill(NONE),
    instant: new Int32Array(net.size).fill(NONE),
    totalFloat: new Int32Array(net.size).fill(NONE),
    freeFloat: new Int32Array(net.size).fill(NONE),
    startInstant: new Int32Array(net.size).fill(NONE),
    moved: false,
  };
}

/** What finished carriers hand back: in late dates and in early dates (for free float). FREE where nothing bounds. */
interface CarriedBack {
  late: Int32Array;
  free: Int32Array;
}

/**
 * One loop from last to first. Of each activity the latest position (or instant, for zero length) is found at which
 * nothing that it hands on asks more of a successor than the successor's late date; the same against the successors'
 * early dates gives free float.
 */
export function backwardPass(net: Network, early: Early, late: Late): void {
  const end = net.requiredEnd !== NONE ? net.requiredEnd : early.projectFinish;
  const carried: CarriedBack | undefined = early.carries ? { late: new Int32Array(net.size).fill(FREE), free: new Int32Array(net.size).fill(FREE) } : undefined;
  for (let k = net.size - 1; k >= 0; k--) {
    const type = net.type[k];
    if (type === Type.levelOfEffort) continue;
    if (net.state[k] === State.finished) {
      if (carried && early.carry[k] !== NONE) handBackCarried(net, early, late, carried, k);
      continue;
    }
    if (early.length[k] === 0) lateOfZero(net, early, late, carried, k, end);
    else lateOfWork(net, early, late, carried, k, end);
    late.totalFloat[k] = late.finishPos[k] - early.finishPos[k];
    if (net.late[k] === 1) {
      const move = Math.min(late.freeFloat[k], late.totalFloat[k]);
      if (move > 0) {
        moveLater(net, early, k, move);
        late.freeFloat[k] -= move;
        late.totalFloat[k] -= move;
        late.moved = true;
      }
    }
  }
}

/** The largest instant of a successor's late start or finish, as it is handed back. */
function lateInstant(net: Network, early: Early, late: Late, s: number, atStart: boolean): Instant {
  const c = net.calendars[net.calendar[s]];
  if (early.length[s] === 0) {
    const isStart = net.type[s] === Type.startMilestone;
    let y = late.instant[s];
    if (net.delay[s] > 0) y = c.startInstant(late.finishPos[s] - net.delay[s]);
    else if (isStart) y = c.startInstant(late.finishPos[s]);
    return net.pin[s] !== Pin.none ? Math.min(y, early.start[s]) : y;
  }
  if (atStart && net.pin[s] === Pin.none && net.delay[s] === 0) return lateStartInstant(net, late, s);
  return c.startInstant(latePosition(net, early, late, s, atStart));
}

/** Start instant of the late start of work with a length; found once. */
export function lateStartInstant(net: Network, late: Late, k: number): Instant {
  let t = late.startInstant[k];
  if (t === NONE) t = late.startInstant[k] = net.calendars[net.calendar[k]].startInstant(late.startPos[k]);
  return t;
}

/** Position that a successor with a length hands back: less its delay; a pinned one the earlier of late and early. */
function latePosition(net: Network, early: Early, late: Late, s: number, atStart: boolean): number {
  if (net.pin[s] !== Pin.none) return atStart ? Math.min(late.startPos[s], early.startPos[s]) : Math.min(late.finishPos[s], early.finishPos[s]);
  return (atStart ? late.startPos[s] : late.finishPos[s]) - net.delay[s];
}

/** The largest instant that a bound may ask of a successor without moving its early dates (before its delay). */
function earlyLimit(net: Network, early: Early, s: number, atStart: boolean): Instant {
  const c = net.calendars[net.calendar[s]];
  if (early.length[s] === 0) {
    if (net.delay[s] > 0) return c.startInstant(early.startPos[s] - net.delay[s]);
    return early.finish[s];
  }
  // The early start of unstarted work is handed on as just this instant.
  if (atStart && net.delay[s] === 0 && net.state[s] === State.unstarted) return early.start[s];
  return c.startInstant((atStart ? early.startPos[s] : early.finishPos[s]) - net.delay[s]);
}

const atSuccessorStart = (kind: number): boolean => kind === LinkKind.FS || kind === LinkKind.SS;
const fromPredecessorFinish = (kind: number): boolean => kind === LinkKind.FS || kind === LinkKind.FF;

/** True where a link out of an unfinished activity bounds it: by its successor, or through a finished one that carries. */
function bounds(net: Network, early: Early, carried: CarriedBack | undefined, l: number, k: number): boolean {
  const s = net.to[l];
  if (net.state[s] === State.finished) {
    if (carried === undefined || early.carry[s] === NONE || net.type[s] === Type.levelOfEffort) return false;
  } else if (!counts(net, l)) return false;
  // Started work hands on its actual start, so nothing bounds it through SS and SF.
  return fromPredecessorFinish(net.kind[l]) || net.state[k] === State.unstarted;
}

function lateOfWork(net: Network, early: Early, late: Late, carried: CarriedBack | undefined, k: number, end: Instant): void {
  const c = net.calendars[net.calendar[k]];
  const d = early.length[k];
  let lf = c.position(end);
  let free = end === early.projectFinish ? lf : c.position(early.projectFinish);
  for (let e = net.outFirst[k]; e < net.outFirst[k + 1]; e++) {
    const l = net.outLinks[e];
    if (!bounds(net, early, carried, l, k)) continue;
    const s = net.to[l];
    const kind = net.kind[l];
    const byFinish = fromPredecessorFinish(kind);
    const atStart = atSuccessorStart(kind);
    let a: number;
    let b: number;
    if (net.sameCalendar[l] === 1 && net.state[s] !== State.finished && early.length[s] !== 0) {
      // Within one calendar largest instants are beginnings of work, so positions convert to themselves.
      const lag = net.lag[l];
      a = latePosition(net, early, late, s, atStart) - lag;
      b = (atStart ? early.startPos[s] : early.finishPos[s]) - net.delay[s] - lag;
    } else {
      const done = net.state[s] === State.finished;
      const x = done ? (carried as CarriedBack).late[s] : lateInstant(net, early, late, s, atStart);
      const y = done ? (carried as CarriedBack).free[s] : earlyLimit(net, early, s, atStart);
      a = x === FREE ? FREE : byFinish ? c.position(lagBack(net, l, x)) : c.position(lagBack(net, l, x) + 1) - 1;
      b = y === FREE ? FREE : byFinish ? c.position(lagBack(net, l, y)) : c.position(lagBack(net, l, y) + 1) - 1;
    }
    if (!byFinish) {
      if (a !== FREE) a += d;
      if (b !== FREE) b += d;
    }
    if (a < lf) lf = a;
    if (b < free) free = b;
  }
  if (net.startHigh[k] !== NONE) lf = Math.min(lf, c.position(net.startHigh[k]) + d);
  if (net.finishHigh[k] !== NONE) lf = Math.min(lf, c.position(net.finishHigh[k]));
  late.finishPos[k] = lf;
  late.startPos[k] = lf - d;
  late.freeFloat[k] = free - early.finishPos[k];
}

function lateOfZero(net: Network, early: Early, late: Late, carried: CarriedBack | undefined, k: number, end: Instant): void {
  const c = net.calendars[net.calendar[k]];
  const isStart = net.type[k] === Type.startMilestone;
  let y = end;
  let free = early.projectFinish;
  for (let e = net.outFirst[k]; e < net.outFirst[k + 1]; e++) {
    const l = net.outLinks[e];
    if (!bounds(net, early, carried, l, k)) continue;
    const s = net.to[l];
    const atStart = atSuccessorStart(net.kind[l]);
    const done = net.state[s] === State.finished;
    const a = done ? (carried as CarriedBack).late[s] : lateInstant(net, early, late, s, atStart);
    const b = done ? (carried as CarriedBack).free[s] : earlyLimit(net, early, s, atStart);
    if (a !== FREE) y = Math.min(y, lagBack(net, l, a));
    if (b !== FREE) free = Math.min(free, lagBack(net, l, b));
  }
  for (const t of [net.startHigh[k], net.finishHigh[k]]) if (t !== NONE) y = Math.min(y, isStart ? c.startInstant(c.position(t)) : t);
  const pos = isStart ? c.position(y + 1) - 1 : c.position(y);
  late.instant[k] = y;
  late.finishPos[k] = late.startPos[k] = pos;
  late.freeFloat[k] = (isStart ? c.position(free + 1) - 1 : c.position(free)) - early.finishPos[k];
}

/** What a finished activity that carries hands back to what it carries. */
function handBackCarried(net: Network, early: Early, late: Late, carried: CarriedBack, b: number): void {
  let x = FREE;
  let y = FREE;
  for (let e = net.outFirst[b]; e < net.outFirst[b + 1]; e++) {
    const l = net.outLinks[e];
    const s = net.to[l];
    const kind = net.kind[l];
    if (!fromPredecessorFinish(kind) || net.type[s] === Type.levelOfEffort) continue;
    if (net.state[s] === State.finished) {
      if (carried.late[s] !== FREE) x = Math.min(x, lagBack(net, l, carried.late[s]));
      if (carried.free[s] !== FREE) y = Math.min(y, lagBack(net, l, carried.free[s]));
    } else {
      const atStart = kind === LinkKind.FS;
      x = Math.min(x, lagBack(net, l, lateInstant(net, early, late, s, atStart)));
      y = Math.min(y, lagBack(net, l, earlyLimit(net, early, s, atStart)));
    }
  }
  carried.late[b] = x;
  carried.free[b] = y;
}
