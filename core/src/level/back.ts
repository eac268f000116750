/**
 * The backward pass of forward-backward improvement: all that moves is put as late as it can be without the project ending
 * later, the last one first; whoever begins first then is served first in the next forward pass.
 */
import { intensityOf } from '../load/pieces.ts';
import { lagBack, Type, Use } from '../schedule/network.ts';
import type { Instant } from '../time/instant.ts';
import type { Free } from './free.ts';
import { type Ask, asksOf, freeOf, leftByFixed, type Setting, take, type Trial } from './scheme.ts';

/** Starts of all movable work once it is as late as it can be (instants); what does not move stays where the trial has it. */
export function latestStarts(s: Setting, trial: Trial): Float64Array<ArrayBuffer> {
  const { net, movable, options, base } = s;
  const { early } = trial;
  const start = Float64Array.from(early.start);
  const finish = Float64Array.from(early.finish);
  const free = leftByFixed(s, early);
  const waits = new Int32Array(net.size);
  for (let l = 0; l < net.links; l++) waits[net.from[l]!]!++;
  const ready: number[] = [];
  const arrive = (first: number): void => {
    const stack = [first];
    for (let k = stack.pop(); k !== undefined; k = stack.pop()) {
      if (movable[k] === 1) ready.push(k);
      else leave(k, stack);
    }
  };
  const leave = (k: number, to: number[]): void => {
    for (let e = net.inFirst[k]!; e < net.inFirst[k + 1]!; e++) {
      const p = net.from[e]!;
      if (--waits[p]! === 0) to.push(p);
    }
  };
  for (const k of [...waits.keys()].filter((x) => waits[x] === 0)) arrive(k);
  while (ready.length > 0) {
    let at = 0;
    for (let n = 1; n < ready.length; n++) if (early.finish[ready[n]!]! > early.finish[ready[at]!]!) at = n;
    const k = ready[at]!;
    ready.splice(at, 1);
    const c = net.calendars[net.calendar[k]!]!;
    let limit = latestFinish(s, k, start, finish, trial.finish);
    if (options.withinFloat) limit = Math.min(limit, base.late.finishPos[k]!);
    const asks = asksOf(s, early, k);
    const later = latest(asks, free, Math.max(limit - early.finishPos[k]!, 0));
    take(asks, later, free);
    start[k] = c.startInstant(early.startPos[k]! + later);
    finish[k] = c.finishInstant(early.finishPos[k]! + later);
    const freed: number[] = [];
    leave(k, freed);
    for (const p of freed) arrive(p);
  }
  return start;
}

/** The last position at which a node may end: by the project's end, and by where its successors lie. */
function latestFinish(s: Setting, k: number, start: Float64Array, finish: Float64Array, end: Instant): number {
  const { net } = s;
  const c = net.calendars[net.calendar[k]!]!;
  let position = c.position(end);
  for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) {
    const l = net.outLinks[e]!;
    const use = net.use[l]!;
    const to = net.to[l]!;
    if ((use & Use.bounds) === 0 || net.type[to] === Type.levelOfEffort) continue;
    const by = lagBack(net, l, use & Use.toFinish ? finish[to]! : start[to]!);
    position = Math.min(position, use & Use.fromFinish ? c.position(by) : c.position(by + 1) - 1 + net.length[k]!);
  }
  return position;
}

/** The greatest delay beyond where a node lies, not above a most, at which all that it asks for is free; 0 where there is none. */
function latest(asks: readonly Ask[], free: ReadonlyMap<string, Free>, most: number): number {
  let later = most;
  for (let again = true; again && later > 0;) {
    again = false;
    for (const { resourceId, piece } of asks) {
      const c = piece.calendar;
      const units = intensityOf(piece);
      const stretches = [...c.stretches(c.startInstant(piece.from + later), c.finishInstant(piece.to + later))];
      for (let n = stretches.length - 1; n >= 0 && !again; n--) {
        const since = freeOf(free, resourceId).blockedSince(stretches[n]![0], stretches[n]![1], units);
        if (since === undefined) continue;
        // It must end where what is short begins.
        later = Math.min(later - 1, c.position(since) - piece.to);
        again = true;
      }
      if (again) break;
    }
  }
  return Math.max(later, 0);
}
