/**
 * Schemes that place work (resource rules, section 8): each activity at the earliest place where all that it asks for is free.
 * Serial: the first in the order is placed next. Parallel: whoever can begin first is, the order parting those that can begin at once.
 */
import { canHoldBack } from '../commands/level.ts';
import { Capacity } from '../load/capacity.ts';
import { demandOf } from '../load/demand.ts';
import { intensityOf, type Loaded, loadOne, type Piece, standingAt } from '../load/pieces.ts';
import { type Steps, sumOf } from '../load/steps.ts';
import { assignedTo, resourceOf } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { type Computed, computeNetwork } from '../schedule/compute.ts';
import { type Early, floorsOf, newEarly, passNodes } from '../schedule/forward.ts';
import { type Network, NONE, Pin, State, Type } from '../schedule/network.ts';
import { prepare } from '../schedule/prepare.ts';
import { resourceTime } from '../schedule/working.ts';
import { type Instant, MINUTES_PER_DAY } from '../time/instant.ts';
import { Free } from './free.ts';

export interface LevelOptions {
  resources: readonly string[];
  /** Activities that may move; null: all. */
  scope: ReadonlySet<string> | null;
  /** No activity ends later than its late finish from before. */
  withinFloat: boolean;
  /** How many schedules are tried beyond the serial ones. */
  steps: number;
  /** Who is served first, by id, as a person wants it: that order is kept, and no better one is looked for. Those without a rank come last. */
  served?: ReadonlyMap<string, number> | null;
}

/** Why an activity is held back: what was short, when, and who was served first. */
export interface Reason {
  resourceId: string;
  from: Instant;
  until: Instant;
  first: string[];
}
/** Days within which an activity must find a place of its own. */
const FAR = 400 * MINUTES_PER_DAY;
/** Pieces of work that are exchanged one by one. */
const FEW = 200;
/** How often work that cannot move is told where it will lie; and how often once it has been seen not to settle. */
const MOST_ROUNDS = 6;
const UNSETTLED_ROUNDS = 2;

/** What a node asks for at some dates. */
interface Dated {
  asks: Ask[];
  startPos: number;
  finishPos: number;
  start: Instant;
  finish: Instant;
}

export interface Setting {
  doc: Document;
  net: Network;
  base: Computed;
  movable: Uint8Array;
  there: Map<string, Steps>;
  floors: Int32Array;
  /** What work that cannot move leaves at the dates from before; made once. */
  left: Map<string, Free> | null;
  /** How often work that cannot move is told where it will lie, at most. */
  rounds: number;
  /** What each node asks for at the dates from before, as far as somebody wanted to know; and at the dates that it had last. */
  asked: (Ask[] | undefined)[];
  last: (Dated | undefined)[];
  options: LevelOptions;
}

/** One schedule: early dates with delays, and what is told of them. */
export interface Trial {
  early: Early;
  delays: Int32Array;
  reasons: (Omit<Reason, 'first'> | null)[];
  left: number[];
  finish: Instant;
  weight: number;
  sum: number;
  valid: boolean;
}

/** The activity of a node. */
export const idOf = (net: Network, k: number): string => net.ids[net.fileIndex[k]!]!;

/** The plan before levelling: movable work without delays, which as late as possible does not move. */
export function settingOf(doc: Document, options: LevelOptions): Setting | undefined {
  const chosen = new Set(options.resources);
  const mayMove = (a: Activity): boolean =>
    canHoldBack(a) &&
    (!options.scope || options.scope.has(a.id)) &&
    assignedTo(doc, a).some((x) => x.resourceId !== null && chosen.has(x.resourceId) && resourceOf(doc, x)?.kind !== 'material');
  const { network: net } = prepare(doc);
  if (!net) return undefined;
  const movable = new Uint8Array(net.size);
  net.rows.forEach((a, i) => {
    const k = net.nodeOf[i]!;
    if (net.type[k] !== Type.task || net.state[k] !== State.unstarted || net.pin[k] !== Pin.none || !mayMove(a)) return;
    movable[k] = 1;
    net.delay[k] = 0;
    net.late[k] = 0;
  });
  const base = computeNetwork(net);
  const there = new Map<string, Steps>();
  const end = Math.max(base.projectFinish, net.projectFloor) + Math.max(base.projectFinish - net.projectFloor, 0) * 2 + 2 * FAR;
  for (const id of chosen) {
    const r = doc.resources.get(id);
    const time = r && r.kind !== 'material' ? resourceTime(doc, r) : undefined;
    if (r && time) there.set(id, new Capacity(time, r.availability).steps(Math.min(net.plannedStart, net.projectFloor), end));
  }
  return {
    doc,
    net,
    base,
    movable,
    there,
    floors: floorsOf(net),
    left: null,
    rounds: MOST_ROUNDS,
    asked: new Array<Ask[] | undefined>(net.size),
    last: new Array<Dated | undefined>(net.size),
    options,
  };
}

/** What is left of a chosen resource. */
export const freeOf = (free: ReadonlyMap<string, Free>, id: string): Free => free.get(id) as Free;

/** What a node asks of a resource. */
export interface Ask {
  resourceId: string;
  piece: Piece;
}

/** True where a node lies at the same dates in both. */
const same = (a: Early, b: Early, k: number): boolean =>
  a === b || (a.startPos[k] === b.startPos[k] && a.finishPos[k] === b.finishPos[k] && a.start[k] === b.start[k] && a.finish[k] === b.finish[k]);

/** Pieces of work of a node on the chosen resources, at the dates that it has. */
export function asksOf(s: Setting, early: Early, k: number): Ask[] {
  if (same(early, s.base.early, k)) return (s.asked[k] ??= asksAt(s, s.base.early, k));
  const [startPos, finishPos, start, finish] = [early.startPos[k]!, early.finishPos[k]!, early.start[k]!, early.finish[k]!];
  const last = s.last[k];
  if (last && last.startPos === startPos && last.finishPos === finishPos && last.start === start && last.finish === finish) return last.asks;
  const asks = shifted(s, early, k) ?? asksAt(s, early, k);
  s.last[k] = { startPos, finishPos, start, finish, asks };
  return asks;
}

/**
 * What work that has not begun asks for as it lies later by so many minutes of its calendar: the same pieces, so much later.
 * Undefined where that is not so, since something begins, ends or is counted on other time.
 */
export function shifted(s: Setting, early: Early, k: number): Ask[] | undefined {
  const { net, base } = s;
  const later = early.startPos[k]! - base.early.startPos[k]!;
  if (net.type[k] !== Type.task || net.state[k] !== State.unstarted || early.finishPos[k]! - base.early.finishPos[k]! !== later) return undefined;
  const before = (s.asked[k] ??= asksAt(s, base.early, k));
  const own = net.calendars[net.calendar[k]!];
  if (before.some((x) => x.piece.calendar !== own)) return undefined;
  return before.map(({ resourceId, piece }) => ({ resourceId, piece: { ...piece, from: piece.from + later, to: piece.to + later } }));
}

/** What a node asks for at some dates, reckoned anew. */
export function asksAt(s: Setting, early: Early, k: number): Ask[] {
  const a = s.net.rows[s.net.fileIndex[k]!]!;
  const list = assignedTo(s.doc, a);
  if (list.length === 0) return [];
  const r = { ...s.base, early };
  const standing = standingAt(r, k);
  const asks = list.flatMap((x): Ask[] => {
    if (x.resourceId === null || !s.there.has(x.resourceId)) return [];
    const loaded: Loaded = loadOne(s.doc, r, a, x, k, standing, false);
    return loaded.pieces.flatMap((piece) => (piece.to > piece.from && !piece.actual ? [{ resourceId: x.resourceId as string, piece }] : []));
  });
  return asks.length > 1 ? together(asks) : asks;
}

/** Pieces of one resource that lie over each other on the same calendar, as pieces one after the other with their sums. */
function together(asks: Ask[]): Ask[] {
  const groups = new Map<string, Ask[]>();
  for (const ask of asks) groups.set(ask.resourceId, [...(groups.get(ask.resourceId) ?? []), ask]);
  return [...groups.values()].flatMap((group) => {
    const [first] = group;
    if (!first || group.length === 1 || group.some((x) => x.piece.calendar !== first.piece.calendar)) return group;
    const edges = [...new Set(group.flatMap(({ piece }) => [piece.from, piece.to]))].sort((a, b) => a - b);
    return edges.slice(1).flatMap((to, n): Ask[] => {
      const from = edges[n]!;
      const units = group.reduce((sum, { piece }) => (piece.from <= from && piece.to >= to ? sum + intensityOf(piece) : sum), 0);
      return units > 0 ? [{ resourceId: first.resourceId, piece: { ...first.piece, from, to, work: units * (to - from) } }] : [];
    });
  });
}

/** What alone is over at every start within 400 days of its early start. */
export function whatCantFit(s: Setting): { node: number; resourceId: string }[] {
  const out: { node: number; resourceId: string }[] = [];
  const alone = new Map([...s.there].map(([id, steps]) => [id, new Free(steps)]));
  for (let k = 0; k < s.net.size; k++) {
    if (s.movable[k] !== 1) continue;
    const found = earliest(s.base.early, k, asksOf(s, s.base.early, k), alone, s.base.early.start[k]! + FAR);
    if ('resourceId' in found) out.push({ node: k, resourceId: found.resourceId });
  }
  return out;
}

/** A place that was found: the delay, and what stood in the way last. */
interface Place {
  delay: number;
  reason: Omit<Reason, 'first'> | null;
}

/** The least delay, not less than what is known, at which all that a node asks for is free; or the resource that is short up to the limit. */
function earliest(
  early: Early,
  k: number,
  asks: readonly Ask[],
  free: ReadonlyMap<string, Free>,
  limit: Instant,
  known: Place = { delay: 0, reason: null },
): Place | { resourceId: string } {
  let { delay, reason } = known;
  for (let again = true; again;) {
    again = false;
    for (const { resourceId, piece } of asks) {
      const units = intensityOf(piece);
      const c = piece.calendar;
      const [from, to] = [piece.from + delay, piece.to + delay];
      for (const [a, b] of c.stretches(c.startInstant(from), c.finishInstant(to))) {
        const blocked = freeOf(free, resourceId).blockedUntil(a, b, units);
        if (!blocked) continue;
        const until = Math.min(blocked.until, limit + 1);
        const more = c.position(until) - from;
        reason = { resourceId, from: blocked.from, until };
        delay += Math.max(more, 1);
        if (c.startInstant(early.startPos[k]! + delay) > limit) return { resourceId };
        again = true;
        break;
      }
      if (again) break;
    }
  }
  return { delay, reason };
}

/** Takes what is asked for, so much later, out of what is free; or gives it back. */
export function take(asks: readonly Ask[], delay: number, free: ReadonlyMap<string, Free>, back = false): void {
  for (const { resourceId, piece } of asks) {
    const c = piece.calendar;
    const units = back ? -intensityOf(piece) : intensityOf(piece);
    for (const [a, b] of c.stretches(c.startInstant(piece.from + delay), c.finishInstant(piece.to + delay))) freeOf(free, resourceId).take(a, b, units);
  }
}

/** What is left of each chosen resource once some nodes lie at their dates. */
export function leftBy(s: Setting, early: Early, of: (k: number) => boolean): Map<string, Free> {
  const pieces = new Map([...s.there.keys()].map((id): [string, Piece[]] => [id, []]));
  for (let k = 0; k < s.net.size; k++) if (of(k)) for (const { resourceId, piece } of asksOf(s, early, k)) pieces.get(resourceId)?.push(piece);
  return new Map(
    [...s.there].map(([id, there]): [string, Free] => {
      const { at, value } = demandOf([{ pieces: pieces.get(id) ?? [] }]).steps;
      return [id, new Free(sumOf(there, { at, value: value.map((v) => -v) }))];
    }),
  );
}

const isFixed = (s: Setting, k: number): boolean => s.net.type[k] !== Type.levelOfEffort && s.movable[k] === 0;

/** What work that cannot move leaves at some dates: as before levelling, but for what lies elsewhere now. */
export function leftByFixed(s: Setting, early: Early): Map<string, Free> {
  const fixed = (k: number): boolean => isFixed(s, k);
  const moved: number[] = [];
  for (let k = 0; k < s.net.size; k++) if (fixed(k) && !same(early, s.base.early, k)) moved.push(k);
  // Many are added up anew sooner than they are exchanged one by one.
  if (moved.length > FEW) return leftBy(s, early, fixed);
  s.left ??= leftBy(s, s.base.early, fixed);
  const out = new Map([...s.left].map(([id, f]) => [id, f.copy()]));
  for (const k of moved) {
    take(asksOf(s, s.base.early, k), 0, out, true);
    take(asksOf(s, early, k), 0, out);
  }
  return out;
}

export type Scheme = 'serial' | 'parallel';

/** A scheme in one order, until work that cannot move lies where it was thought to lie. */
export function place(s: Setting, order: Float64Array, scheme: Scheme = 'serial'): Trial {
  let thought = s.base.early;
  let left = leftByFixed(s, thought);
  let trial: Trial | undefined;
  let last = Infinity;
  for (let round = 0; round < s.rounds; round++) {
    trial = placeOnce(s, order, scheme, left);
    // Where fixed work lies where it was thought to lie, and all found a place, nothing can be over.
    if (trial.left.length === 0 && elsewhere(s, thought, trial.early) === 0) return { ...trial, valid: true };
    left = leftByFixed(s, trial.early);
    if (sound(s, trial, left)) return { ...trial, valid: true };
    const away = elsewhere(s, thought, trial.early);
    // Many that lie elsewhere again, hardly fewer than before: they will not come to rest.
    if (away > FEW && away > 0.9 * last) break;
    last = away;
    thought = trial.early;
  }
  s.rounds = UNSETTLED_ROUNDS;
  return trial as Trial;
}

/** Work all of whose predecessors are placed, with the place that it had when it was last looked for. */
interface Waiting {
  k: number;
  asks: Ask[];
  found: Place | { resourceId: string };
  start: Instant;
}

/** One pass: eligible work, each at its earliest place in what work that cannot move leaves (`free`, of which it takes). */
function placeOnce(s: Setting, order: Float64Array, scheme: Scheme, free: ReadonlyMap<string, Free>): Trial {
  const { net, movable, floors, options, base } = s;
  const early = newEarly(net);
  const delays = new Int32Array(net.size);
  const reasons = new Array<Omit<Reason, 'first'> | null>(net.size).fill(null);
  const left: number[] = [];
  // A node is eligible once all that leads to it is placed.
  const waits = new Int32Array(net.size);
  for (let l = 0; l < net.links; l++) waits[net.to[l]!]!++;
  const ready: Waiting[] = [];
  const kept = net.delay.slice();
  const finished = (k: number): void => {
    for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) if (--waits[net.to[net.outLinks[e]!]!]! === 0) arrive(net.to[net.outLinks[e]!]!);
  };
  const arrive = (start: number): void => {
    const stack = [start];
    for (let k = stack.pop(); k !== undefined; k = stack.pop()) {
      passNodes(net, early, k, k + 1, floors);
      if (movable[k] === 1) {
        ready.push({ k, asks: asksOf(s, early, k), found: { delay: 0, reason: null }, start: early.start[k]! });
        continue;
      }
      for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) if (--waits[net.to[net.outLinks[e]!]!]! === 0) stack.push(net.to[net.outLinks[e]!]!);
    }
  };
  // All that waits for nothing, in the order of the network, so that fixed work is placed before what moves.
  const first = [...waits.keys()].filter((k) => waits[k] === 0);
  for (const k of first) arrive(k);
  const parallel = scheme === 'parallel';
  const before = (a: Waiting, b: Waiting): boolean => (parallel && a.start !== b.start ? a.start < b.start : order[a.k]! < order[b.k]!);
  const look = (w: Waiting): void => {
    w.found = earliest(early, w.k, w.asks, free, early.start[w.k]! + 10 * FAR, 'delay' in w.found ? w.found : undefined);
    // What finds no place is set aside at its early start, so that it waits for nothing.
    if ('delay' in w.found && w.found.delay > 0) w.start = (w.asks[0] as Ask).piece.calendar.startInstant(early.startPos[w.k]! + w.found.delay);
  };
  while (ready.length > 0) {
    let at = 0;
    for (let n = 1; n < ready.length; n++) if (before(ready[n]!, ready[at]!)) at = n;
    const next = ready[at]!;
    const thought = next.start;
    look(next);
    // Others may be able to begin before it by now.
    if (parallel && next.start !== thought) continue;
    ready.splice(at, 1);
    const { k, found } = next;
    let delay = 'delay' in found ? found.delay : 0;
    const tooLate = 'delay' in found && options.withinFloat && delay > 0 && early.finishPos[k]! + delay > base.late.finishPos[k]!;
    if (tooLate || 'resourceId' in found) {
      left.push(k);
      delay = 0;
    } else if (delay > 0) reasons[k] = found.reason;
    delays[k] = delay;
    net.delay[k] = delay;
    if (delay > 0) passNodes(net, early, k, k + 1, floors);
    take(next.asks, delay, free);
    finished(k);
  }
  net.delay.set(kept);
  let [finish, weight, sum] = [NONE, 0, 0];
  for (let k = 0; k < net.size; k++) {
    if (net.type[k] === Type.levelOfEffort) continue;
    finish = Math.max(finish, early.finish[k]!);
    sum += early.finish[k]!;
    if (delays[k]! > 0) weight += delays[k]! * (net.rows[net.fileIndex[k]!]?.priority ?? 5);
  }
  return { early, delays, reasons, left, finish, weight, sum, valid: false };
}

/** How many of those that cannot move lie at other dates than was thought. */
function elsewhere(s: Setting, thought: Early, early: Early): number {
  let n = 0;
  for (let k = 0; k < s.net.size; k++) if (isFixed(s, k) && !same(thought, early, k)) n++;
  return n;
}

/** Whether no movable work asks where more is asked than is there; what was left over does not count. `fixed`: what work that cannot move leaves. */
function sound(s: Setting, { early, left }: Trial, fixed: ReadonlyMap<string, Free>): boolean {
  const { net } = s;
  const free = new Map([...fixed].map(([id, f]) => [id, f.copy()]));
  for (let k = 0; k < net.size; k++) if (s.movable[k] === 1) take(asksOf(s, early, k), 0, free);
  const aside = new Set(left);
  for (let k = 0; k < net.size; k++) {
    if (s.movable[k] !== 1 || aside.has(k)) continue;
    for (const { resourceId, piece } of asksOf(s, early, k)) {
      const c = piece.calendar;
      for (const [a, b] of c.stretches(c.startInstant(piece.from), c.finishInstant(piece.to))) if (freeOf(free, resourceId).blockedUntil(a, b, 0)) return false;
    }
  }
  return true;
}
