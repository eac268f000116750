/** The forward pass: early dates (scheduling rules, sections 3, 4, 5 and 7). */
import type { Instant } from '../time/instant.ts';
import { applyLag, LinkKind, type Network, NONE, Pin, State, Type, Use } from './network.ts';

export interface Early {
  /** Early start position; of the remaining work where started. */
  startPos: Int32Array;
  finishPos: Int32Array;
  /** What is handed on: start and finish as instants. */
  start: Int32Array;
  finish: Int32Array;
  /** Latest instant that a bound asks of work of zero length, before rounding and delay. */
  asked: Int32Array;
  /** Length of each node as computed (differs from the network's for margins). */
  length: Int32Array;
  /** carry(b) of finished activities as an instant; NONE where nothing is carried. */
  carry: Int32Array;
  /** Position that each link alone asks of its successor's start; NONE where it does not count. */
  ask: Int32Array;
  /** True where some finished activity carries a bound on. */
  carries: boolean;
  projectFinish: Instant;
}

export function newEarly(net: Network): Early {
  return {
    startPos: new Int32Array(net.size),
    finishPos: new Int32Array(net.size),
    start: new Int32Array(net.size),
    finish: new Int32Array(net.size),
    asked: new Int32Array(net.size).fill(NONE),
    length: net.length.slice(),
    carry: new Int32Array(net.size).fill(NONE),
    ask: new Int32Array(net.links).fill(NONE),
    carries: false,
    projectFinish: NONE,
  };
}

/** The instant that a link asks for, from what its predecessor hands on. */
export function linkInstant(net: Network, early: Early, l: number): Instant {
  const p = net.from[l]!;
  const use = net.use[l]!;
  if (use & Use.ownLag) {
    // The position of what is handed on is known, so that only the way back to an instant is looked up.
    const c = net.calendars[net.calendar[p]!]!;
    const q = use & Use.fromFinish ? early.finishPos[p]! : early.startPos[p]!;
    const at = (q < 0 ? 0 : q > c.total ? c.total : q) + net.lag[l]!;
    return use & Use.fromFinish ? c.finishInstant(at) : c.startInstant(at);
  }
  return applyLag(net, l, use & Use.fromFinish ? early.finish[p]! : early.start[p]!);
}

/** Position of the successor's start that a link asks for. */
export function askedPosition(net: Network, early: Early, l: number): number {
  const p = net.from[l]!;
  const s = net.to[l]!;
  const use = net.use[l]!;
  let pos: number;
  if (use & Use.direct) {
    // Within one calendar the position itself is handed on; clamped to the axis as an instant would be.
    pos = (use & Use.fromFinish ? early.finishPos[p]! : early.startPos[p]!) + net.lag[l]!;
    if (pos < 0) pos = 0;
  } else pos = net.calendars[net.calendar[s]!]!.position(linkInstant(net, early, l));
  return use & Use.toFinish ? pos - early.length[s]! : pos;
}

/** carry(b) of a finished activity from its predecessors; NONE where it carries nothing. */
function carryOf(net: Network, early: Early, b: number): Instant {
  let carry = NONE;
  for (let l = net.inFirst[b]!; l < net.inFirst[b + 1]!; l++) {
    const x = carriedInto(net, early, l);
    if (x > carry) carry = x;
  }
  return carry;
}

/** What one link into a finished activity gives to carry on; NONE for nothing. */
export function carriedInto(net: Network, early: Early, l: number): Instant {
  const p = net.from[l]!;
  const kind = net.kind[l];
  if (net.type[p] === Type.levelOfEffort) return NONE;
  const atFinish = kind === LinkKind.FS || kind === LinkKind.FF;
  if (net.state[p] === State.finished) return atFinish && early.carry[p] !== NONE ? applyLag(net, l, early.carry[p]!) : NONE;
  if (atFinish) return applyLag(net, l, early.finish[p]!);
  return net.state[p] === State.unstarted ? applyLag(net, l, early.start[p]!) : NONE;
}

/** Computes early dates in topological order. Constant work for each activity and link; nothing is allocated. */
export function forwardPass(net: Network, early: Early): void {
  const last = passNodes(net, early, 0, net.size, floorsOf(net));
  early.projectFinish = last === NONE ? net.projectFloor : last;
}

/** Position of the project's floor on each calendar. */
export const floorsOf = (net: Network): Int32Array => Int32Array.from(net.calendars, (c) => c.position(net.projectFloor));

/** Early dates of the nodes from one place up to another, whose predecessors have theirs; the latest finish among them, NONE for none. */
export function passNodes(net: Network, early: Early, first: number, end: number, floorPos: Int32Array): Instant {
  // Fields are taken out once: the loops below are the hottest of all.
  const { startPos, finishPos, start, finish, length, ask, carry } = early;
  const { type, state, calendars, calendar, floor, inFirst, from, use, lag, startLow, finishLow, pin, delay } = net;
  let last = NONE;
  for (let k = first; k < end; k++) {
    const t = type[k];
    if (t === Type.levelOfEffort) continue;
    const c = calendars[calendar[k]!]!;
    if (state[k] === State.finished) {
      passFinished(net, early, k);
      if (finish[k]! > last) last = finish[k]!;
      continue;
    }
    let d = length[k]!;
    let pos = floor[k]! === net.projectFloor ? floorPos[calendar[k]!]! : c.position(floor[k]!);
    let asked = floor[k]!;
    // A margin may shrink to nothing, so its instants are followed as well.
    const instants = d === 0 || t === Type.margin;
    const stop = inFirst[k + 1]!;
    for (let l = inFirst[k]!; l < stop; l++) {
      const u = use[l]!;
      if ((u & Use.counts) === 0) continue;
      const p = from[l]!;
      let q: number;
      if (u & Use.direct) {
        q = (u & Use.fromFinish ? finishPos[p]! : startPos[p]!) + lag[l]!;
        if (q < 0) q = 0;
      } else q = c.position(lag[l] === 0 ? (u & Use.fromFinish ? finish[p]! : start[p]!) : linkInstant(net, early, l));
      if (u & Use.toFinish) q -= d;
      ask[l] = q;
      if (q > pos) pos = q;
      if (instants) {
        const x = linkInstant(net, early, l);
        if (x > asked) asked = x;
      }
      if (carry[p] !== NONE && u & Use.fromFinish) {
        const x = applyLag(net, l, carry[p]!);
        const carried = c.position(x) - (u & Use.toFinish ? d : 0);
        if (carried > pos) pos = carried;
        if (x > asked) asked = x;
      }
    }
    if (startLow[k] !== NONE) {
      const q = c.position(startLow[k]!);
      if (q > pos) pos = q;
      if (startLow[k]! > asked) asked = startLow[k]!;
    }
    if (finishLow[k] !== NONE) {
      const q = c.position(finishLow[k]!) - d;
      if (q > pos) pos = q;
      if (finishLow[k]! > asked) asked = finishLow[k]!;
    }
    if (t === Type.margin && net.marginLimit[k] !== NONE) {
      const room = c.position(net.marginLimit[k]!) - pos;
      d = room < 0 ? 0 : room < d ? room : d;
      length[k] = d;
    }
    if (pin[k] !== Pin.none) {
      asked = net.pinned[k]!;
      pos = c.position(asked) - (pin[k]! === Pin.finish ? d : 0);
    }
    if (d === 0) {
      early.asked[k] = asked;
      pos = c.position(asked) + delay[k]!;
      const at = t === Type.startMilestone ? c.startInstant(pos) : delay[k]! > 0 ? c.finishInstant(pos) : asked;
      startPos[k] = finishPos[k] = pos;
      finish[k] = at;
      start[k] = state[k]! === State.started ? net.actualStart[k]! : at;
    } else {
      pos += delay[k]!;
      startPos[k] = pos;
      finishPos[k] = pos + d;
      finish[k] = c.finishInstant(pos + d);
      start[k] = state[k]! === State.started ? net.actualStart[k]! : c.startInstant(pos);
    }
    if (finish[k]! > last) last = finish[k]!;
  }
  return last;
}

/** A finished activity lies at its actual dates; in retained logic it may carry bounds on. */
function passFinished(net: Network, early: Early, k: number): void {
  const c = net.calendars[net.calendar[k]!]!;
  early.start[k] = net.actualStart[k]!;
  early.finish[k] = net.actualFinish[k]!;
  early.startPos[k] = c.position(early.start[k]!);
  early.finishPos[k] = c.position(early.finish[k]!);
  if (net.override) return;
  early.carry[k] = carryOf(net, early, k);
  if (early.carry[k] !== NONE) early.carries = true;
}

/**
 * After moves as late as possible: what finished activities carry, and the latest instant that is asked of work of zero
 * length, from the moved dates. The early dates themselves stay.
 */
export function askAgain(net: Network, early: Early): void {
  for (let k = 0; k < net.size; k++) {
    if (net.type[k] === Type.levelOfEffort) continue;
    if (net.state[k] === State.finished) {
      if (early.carry[k] !== NONE) early.carry[k] = carryOf(net, early, k);
      continue;
    }
    if (early.length[k] !== 0 || net.pin[k] !== Pin.none) continue;
    let asked = Math.max(net.floor[k]!, net.startLow[k]!, net.finishLow[k]!);
    for (let l = net.inFirst[k]!; l < net.inFirst[k + 1]!; l++) {
      if ((net.use[l]! & Use.counts) === 0) continue;
      asked = Math.max(asked, linkInstant(net, early, l));
      const carry = early.carry[net.from[l]!]!;
      if (carry !== NONE && net.use[l]! & Use.fromFinish) asked = Math.max(asked, applyLag(net, l, carry));
    }
    early.asked[k] = asked;
  }
}

/** Early dates of unstarted work after a move of so many working minutes (levelled or as late as possible). */
export function moveLater(net: Network, early: Early, k: number, minutes: number): void {
  const c = net.calendars[net.calendar[k]!]!;
  early.startPos[k]! += minutes;
  early.finishPos[k]! += minutes;
  if (early.length[k] === 0) {
    const t = net.type[k] === Type.startMilestone ? c.startInstant(early.startPos[k]!) : c.finishInstant(early.startPos[k]!);
    early.start[k] = early.finish[k] = t;
  } else {
    early.start[k] = c.startInstant(early.startPos[k]!);
    early.finish[k] = c.finishInstant(early.finishPos[k]!);
  }
}

/** Spans of levels of effort, from the final early dates, in topological order (rules, section 7). */
export function spanLevelsOfEffort(net: Network, early: Early): void {
  for (let k = 0; k < net.size; k++) {
    if (net.type[k] !== Type.levelOfEffort) continue;
    let start = NONE;
    let finish = NONE;
    for (let l = net.inFirst[k]!; l < net.inFirst[k + 1]!; l++) {
      const p = net.from[l]!;
      const kind = net.kind[l]!;
      const x = applyLag(net, l, fromFinish(kind) ? early.finish[p]! : early.start[p]!);
      if (kind === LinkKind.SS || kind === LinkKind.FS) {
        if (start === NONE || x < start) start = x;
      } else if (x > finish) finish = x;
    }
    if (start === NONE) start = net.plannedStart;
    if (finish === NONE) finish = early.projectFinish;
    if (finish < start) finish = start;
    const c = net.calendars[net.calendar[k]!]!;
    early.start[k] = start;
    early.finish[k] = finish;
    early.startPos[k] = c.position(start);
    early.finishPos[k] = c.position(finish);
    early.length[k] = early.finishPos[k]! - early.startPos[k]!;
  }
}

const fromFinish = (kind: number): boolean => kind === LinkKind.FS || kind === LinkKind.FF;
