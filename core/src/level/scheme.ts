/** The serial scheme: one activity after the other at the earliest place where all that it asks for is free (resource rules, section 8). */
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
/** How often work that cannot move is told where it will lie. */
const MOST_ROUNDS = 6;

export interface Setting {
  doc: Document;
  net: Network;
  base: Computed;
  movable: Uint8Array;
  there: Map<string, Steps>;
  floors: Int32Array;
  /** What work that cannot move leaves at the dates from before; made once. */
  left: Map<string, Free> | null;
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
  return { doc, net, base, movable, there, floors: floorsOf(net), left: null, options };
}

/** What is left of a chosen resource. */
export const freeOf = (free: ReadonlyMap<string, Free>, id: string): Free => free.get(id) as Free;

/** What a node asks of a resource. */
interface Ask {
  resourceId: string;
  piece: Piece;
}

/** Pieces of work of a node on the chosen resources, at the dates that it has. */
export function asksOf(s: Setting, early: Early, k: number): Ask[] {
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
    const found = earliest(s, s.base.early, k, alone, s.base.early.start[k]! + FAR);
    if ('resourceId' in found) out.push({ node: k, resourceId: found.resourceId });
  }
  return out;
}

/** The least delay at which all that a node asks for is free, with what stood in the way last; or the resource that is short up to the limit. */
function earliest(
  s: Setting,
  early: Early,
  k: number,
  free: ReadonlyMap<string, Free>,
  limit: Instant,
): { delay: number; reason: Omit<Reason, 'first'> | null } | { resourceId: string } {
  const asks = asksOf(s, early, k);
  let delay = 0;
  let reason: Omit<Reason, 'first'> | null = null;
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

/** Takes what a node asks for out of what is free. */
function take(s: Setting, early: Early, k: number, free: ReadonlyMap<string, Free>): void {
  for (const { resourceId, piece } of asksOf(s, early, k)) {
    const c = piece.calendar;
    const units = intensityOf(piece);
    for (const [a, b] of c.stretches(c.startInstant(piece.from), c.finishInstant(piece.to))) freeOf(free, resourceId).take(a, b, units);
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

/** The serial scheme in one order, until work that cannot move lies where it was thought to lie. */
export function place(s: Setting, order: Float64Array): Trial {
  const fixed = (k: number): boolean => s.net.type[k] !== Type.levelOfEffort && s.movable[k] === 0;
  let left = (s.left ??= leftBy(s, s.base.early, fixed));
  let trial: Trial | undefined;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    trial = placeOnce(s, order, left);
    if (trial.valid) break;
    left = leftBy(s, trial.early, fixed);
  }
  return trial as Trial;
}

/** One pass: eligible work in the order, each at its earliest place in what work that cannot move leaves. */
function placeOnce(s: Setting, order: Float64Array, leaves: ReadonlyMap<string, Free>): Trial {
  const { net, movable, floors, options, base } = s;
  const early = newEarly(net);
  const delays = new Int32Array(net.size);
  const reasons = new Array<Omit<Reason, 'first'> | null>(net.size).fill(null);
  const left: number[] = [];
  const free = new Map([...leaves].map(([id, f]) => [id, f.copy()]));
  // A node is eligible once all that leads to it is placed.
  const waits = new Int32Array(net.size);
  for (let l = 0; l < net.links; l++) waits[net.to[l]!]!++;
  const ready: number[] = [];
  const kept = net.delay.slice();
  const finished = (k: number): void => {
    for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) if (--waits[net.to[net.outLinks[e]!]!]! === 0) arrive(net.to[net.outLinks[e]!]!);
  };
  const arrive = (start: number): void => {
    const stack = [start];
    for (let k = stack.pop(); k !== undefined; k = stack.pop()) {
      if (movable[k] === 1) {
        ready.push(k);
        continue;
      }
      passNodes(net, early, k, k + 1, floors);
      for (let e = net.outFirst[k]!; e < net.outFirst[k + 1]!; e++) if (--waits[net.to[net.outLinks[e]!]!]! === 0) stack.push(net.to[net.outLinks[e]!]!);
    }
  };
  // All that waits for nothing, in the order of the network, so that fixed work is placed before what moves.
  const first = [...waits.keys()].filter((k) => waits[k] === 0);
  for (const k of first) arrive(k);
  while (ready.length > 0) {
    let at = 0;
    for (let n = 1; n < ready.length; n++) if (order[ready[n]!]! < order[ready[at]!]!) at = n;
    const k = ready[at]!;
    ready.splice(at, 1);
    passNodes(net, early, k, k + 1, floors);
    const found = earliest(s, early, k, free, early.start[k]! + 10 * FAR);
    let delay = 'delay' in found ? found.delay : 0;
    const tooLate = 'delay' in found && options.withinFloat && delay > 0 && early.finishPos[k]! + delay > base.late.finishPos[k]!;
    if (tooLate || 'resourceId' in found) {
      left.push(k);
      delay = 0;
    } else if (delay > 0) reasons[k] = found.reason;
    delays[k] = delay;
    net.delay[k] = delay;
    if (delay > 0) passNodes(net, early, k, k + 1, floors);
    take(s, early, k, free);
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
  return { early, delays, reasons, left, finish, weight, sum, valid: sound(s, early, left) };
}

/** Whether no movable work asks where more is asked than is there; what was left over does not count. */
function sound(s: Setting, early: Early, left: readonly number[]): boolean {
  const { net } = s;
  const free = leftBy(s, early, (k) => net.type[k] !== Type.levelOfEffort);
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
