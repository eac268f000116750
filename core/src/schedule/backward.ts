/** The backward pass: late dates, total and free float, and moves of "as late as possible" (rules, sections 5 and 6). */
import type { Instant } from '../time/instant.ts';
import { type Early, moveLater } from './forward.ts';
import { lagBack, LinkKind, type Network, NONE, Pin, State, Type, Use } from './network.ts';

/** Stands for "no upper bound". */
const FREE = 0x3fffffff;

export interface Late {
  startPos: Int32Array;
  finishPos: Int32Array;
  /** Late instant of work of zero length (NONE elsewhere). */
  instant: Int32Array;
  totalFloat: Int32Array;
  freeFloat: Int32Array;
  /** Late start as the largest instant of its position (NONE for zero length). */
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
 * early dates gives free float. Positions grow with instants, so the least instant is found first and converted once.
 */
export function backwardPass(net: Network, early: Early, late: Late): void {
  const end = net.requiredEnd !== NONE ? net.requiredEnd : early.projectFinish;
  const carried: CarriedBack | undefined = early.carries ? { late: new Int32Array(net.size).fill(FREE), free: new Int32Array(net.size).fill(FREE) } : undefined;
  const endPos = Int32Array.from(net.calendars, (c) => c.position(end));
  const freePos = Int32Array.from(net.calendars, (c) => c.position(early.projectFinish));
  // Fields are taken out once: the loops below are the hottest of all.
  const { type, state, calendars, calendar, outFirst, outLinks, use, to, lag } = net;
  const { length } = early;
  const { startPos, finishPos, startInstant, totalFloat } = late;
  for (let k = net.size - 1; k >= 0; k--) {
    if (type[k] === Type.levelOfEffort) continue;
    if (state[k] === State.finished) {
      if (carried && early.carry[k] !== NONE) handBackCarried(net, early, late, carried, k);
      continue;
    }
    const d = length[k]!;
    if (d === 0) lateOfZero(net, early, late, carried, k, end);
    else {
      const c = calendars[calendar[k]!]!;
      let lf = endPos[calendar[k]!]!;
      let free = freePos[calendar[k]!]!;
      // Least instants that its finish and its start may hand on: for late dates and for free float.
      let x1 = FREE;
      let y1 = FREE;
      let x2 = FREE;
      let y2 = FREE;
      const last = outFirst[k + 1]!;
      for (let e = outFirst[k]!; e < last; e++) {
        const l = outLinks[e]!;
        const u = use[l]!;
        if ((u & (Use.bounds | Use.mayCarry)) === 0) continue;
        const s = to[l]!;
        if (u & Use.directBack) {
          // Within one calendar largest instants are beginnings of work, so positions convert to themselves.
          const shift = u & Use.fromFinish ? -lag[l]! : d - lag[l]!;
          const a = (u & Use.toFinish ? finishPos[s]! : startPos[s]!) + shift;
          const b = (u & Use.toFinish ? early.finishPos[s]! : early.startPos[s]!) + shift;
          if (a < lf) lf = a;
          if (b < free) free = b;
          continue;
        }
        let x: Instant;
        let y: Instant;
        if (u & Use.mayCarry) {
          if (carried === undefined || early.carry[s] === NONE) continue;
          x = carried.late[s]!;
          y = carried.free[s]!;
        } else if (u & Use.plain && (u & Use.toFinish) === 0) {
          x = startInstant[s]!;
          // The early start of unstarted work is handed on as just this instant.
          y = state[s]! === State.unstarted ? early.start[s]! : calendars[calendar[s]!]!.startInstant(early.startPos[s]!);
        } else {
          x = lateInstant(net, early, late, s, (u & Use.toFinish) === 0);
          y = earlyLimit(net, early, s, (u & Use.toFinish) === 0);
        }
        if (u & Use.ownLag && (u & Use.mayCarry) === 0) {
          // Taken back on its own calendar, the instant in between converts to itself.
          const fromFinish = (u & Use.fromFinish) !== 0;
          const a = (fromFinish ? c.position(x) : c.position(x + 1) - 1) - lag[l]!;
          const b = x === y ? a : (fromFinish ? c.position(y) : c.position(y + 1) - 1) - lag[l]!;
          if (a >= 0 && b >= 0 && a < c.total && b < c.total) {
            const shift = fromFinish ? 0 : d;
            if (a + shift < lf) lf = a + shift;
            if (b + shift < free) free = b + shift;
            continue;
          }
        }
        if (lag[l] !== 0) {
          if (x !== FREE) x = lagBack(net, l, x);
          if (y !== FREE) y = lagBack(net, l, y);
        }
        if (u & Use.fromFinish) {
          if (x < x1) x1 = x;
          if (y < y1) y1 = y;
        } else {
          if (x < x2) x2 = x;
          if (y < y2) y2 = y;
        }
      }
      if (x1 !== FREE) lf = Math.min(lf, c.position(x1));
      if (y1 !== FREE) free = Math.min(free, c.position(y1));
      if (x2 !== FREE) lf = Math.min(lf, c.position(x2 + 1) - 1 + d);
      if (y2 !== FREE) free = Math.min(free, c.position(y2 + 1) - 1 + d);
      if (net.startHigh[k] !== NONE) lf = Math.min(lf, c.position(net.startHigh[k]!) + d);
      if (net.finishHigh[k] !== NONE) lf = Math.min(lf, c.position(net.finishHigh[k]!));
      finishPos[k] = lf;
      startPos[k] = lf - d;
      startInstant[k] = c.startInstant(lf - d);
      late.freeFloat[k] = free - early.finishPos[k]!;
    }
    totalFloat[k] = finishPos[k]! - early.finishPos[k]!;
    if (net.late[k] === 1) {
      const move = Math.min(late.freeFloat[k]!, totalFloat[k]!);
      if (move > 0) {
        moveLater(net, early, k, move);
        late.freeFloat[k]! -= move;
        totalFloat[k]! -= move;
        late.moved = true;
      }
    }
  }
}

/** The largest instant of a successor's late start or finish, as it is handed back. */
function lateInstant(net: Network, early: Early, late: Late, s: number, atStart: boolean): Instant {
  const c = net.calendars[net.calendar[s]!]!;
  if (early.length[s] === 0) {
    const isStart = net.type[s] === Type.startMilestone;
    let y = late.instant[s]!;
    if (net.delay[s]! > 0) y = c.startInstant(late.finishPos[s]! - net.delay[s]!);
    else if (isStart) y = c.startInstant(late.finishPos[s]!);
    return net.pin[s] !== Pin.none ? Math.min(y, early.start[s]!) : y;
  }
  if (atStart && net.pin[s] === Pin.none && net.delay[s] === 0) return late.startInstant[s]!;
  return c.startInstant(latePosition(net, early, late, s, atStart));
}

/** Position that a successor with a length hands back: less its delay; a pinned one the earlier of late and early. */
function latePosition(net: Network, early: Early, late: Late, s: number, atStart: boolean): number {
  if (net.pin[s] !== Pin.none) return atStart ? Math.min(late.startPos[s]!, early.startPos[s]!) : Math.min(late.finishPos[s]!, early.finishPos[s]!);
  return (atStart ? late.startPos[s]! : late.finishPos[s]!) - net.delay[s]!;
}

/** The largest instant that a bound may ask of a successor without moving its early dates (before its delay). */
function earlyLimit(net: Network, early: Early, s: number, atStart: boolean): Instant {
  const c = net.calendars[net.calendar[s]!]!;
  if (early.length[s] === 0) {
    if (net.delay[s]! > 0) return c.startInstant(early.startPos[s]! - net.delay[s]!);
    return early.finish[s]!;
  }
  // The early start of unstarted work is handed on as just this instant.
  if (atStart && net.delay[s] === 0 && net.state[s] === State.unstarted) return early.start[s]!;
  return c.startInstant((atStart ? early.startPos[s]! : early.finishPos[s]!) - net.delay[s]!);
}

function lateOfZero(net: Network, early: Early, late: Late, carried: CarriedBack | undefined, k: number, end: Instant): void {
  const c = net.calendars[net.calendar[k]!]!;
  const isStart = net.type[k]! === Type.startMilestone;
  let y = end;
  let free = early.projectFinish;
  for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) {
    const l = net.outLinks[e]!;
    const u = net.use[l]!;
    if ((u & (Use.bounds | Use.mayCarry)) === 0) continue;
    const s = net.to[l]!;
    const atStart = (u & Use.toFinish) === 0;
    const through = (u & Use.mayCarry) !== 0;
    if (through && (carried === undefined || early.carry[s] === NONE)) continue;
    const a = through ? (carried as CarriedBack).late[s]! : lateInstant(net, early, late, s, atStart);
    const b = through ? (carried as CarriedBack).free[s]! : earlyLimit(net, early, s, atStart);
    if (a !== FREE) y = Math.min(y, lagBack(net, l, a));
    if (b !== FREE) free = Math.min(free, lagBack(net, l, b));
  }
  for (const t of [net.startHigh[k]!, net.finishHigh[k]!]) if (t !== NONE) y = Math.min(y, isStart ? c.startInstant(c.position(t)) : t);
  const pos = isStart ? c.position(y + 1) - 1 : c.position(y);
  late.instant[k] = y;
  late.finishPos[k] = late.startPos[k] = pos;
  late.freeFloat[k] = (isStart ? c.position(free + 1) - 1 : c.position(free)) - early.finishPos[k]!;
}

/** What a finished activity that carries hands back to what it carries. */
function handBackCarried(net: Network, early: Early, late: Late, carried: CarriedBack, b: number): void {
  let x = FREE;
  let y = FREE;
  for (let e = net.outFirst[b]!; e < net.outFirst[b + 1]!; e++) {
    const l = net.outLinks[e]!;
    const s = net.to[l]!;
    const kind = net.kind[l];
    if ((kind !== LinkKind.FS && kind !== LinkKind.FF) || net.type[s] === Type.levelOfEffort) continue;
    if (net.state[s] === State.finished) {
      if (carried.late[s] !== FREE) x = Math.min(x, lagBack(net, l, carried.late[s]!));
      if (carried.free[s] !== FREE) y = Math.min(y, lagBack(net, l, carried.free[s]!));
    } else {
      const atStart = kind === LinkKind.FS;
      x = Math.min(x, lagBack(net, l, lateInstant(net, early, late, s, atStart)));
      y = Math.min(y, lagBack(net, l, earlyLimit(net, early, s, atStart)));
    }
  }
  carried.late[b] = x;
  carried.free[b] = y;
}
