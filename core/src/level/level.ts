/**
 * Levelling and smoothing (resource rules, section 8): work that has not begun is moved later, so that what is asked of
 * the chosen resources is there. The serial and the parallel scheme in several orders, then forward-backward passes and a
 * local search within a budget of steps.
 */
import type { Document } from '../model/document.ts';
import { computeNetwork } from '../schedule/compute.ts';
import { type Network, Type } from '../schedule/network.ts';
import type { Instant } from '../time/instant.ts';
import { latestStarts } from './back.ts';
import { asksOf, freeOf, idOf, leftBy, type LevelOptions, place, type Reason, type Scheme, type Setting, settingOf, type Trial, whatCantFit } from './scheme.ts';
import { MINUTES_PER_DAY } from '../time/instant.ts';

export interface LevelMove {
  id: string;
  /** Working minutes of its calendar. */
  delay: number;
  before: { start: Instant; finish: Instant };
  after: { start: Instant; finish: Instant };
  /** Null: it only follows what was held back before it. */
  reason: Reason | null;
}
export interface Levelled {
  /** Delays of all movable activities, 0 too. */
  delays: Map<string, number>;
  moves: LevelMove[];
  /** What alone is over at every start, with what is missing. */
  cantFit: { id: string; resourceId: string }[];
  /** Within float: what could not be solved. */
  leftOver: string[];
  finish: { before: Instant; after: Instant };
  /** Chosen resources that are still over somewhere after it: by work that cannot move. */
  stillOver: string[];
  tried: number;
}

/** Activities beyond which fewer schedules are tried: each lays all their work anew. */
const LARGE = 2_000;

/** Schedules that are tried beyond the serial ones: the same for the same plan, whatever the machine. */
export const stepsFor = (activities: number): number => Math.max(4, Math.min(300, Math.round(30_000 / Math.max(activities, 1))));

/** The proposal, step by step: yields how far it is, and returns it at the end. The document is left as it is. */
export function* levelSteps(doc: Document, options: LevelOptions): Generator<{ done: number; of: number }, Levelled | undefined> {
  const setting = settingOf(doc, options);
  if (!setting) return undefined;
  const { net, base, movable } = setting;
  const cantFit = whatCantFit(setting);
  for (const { node } of cantFit) {
    movable[node] = 0;
    net.delay[node] = doc.activities.get(idOf(net, node))?.levellingDelay ?? 0;
  }
  const movers = [...movable.keys()].filter((k) => movable[k] === 1);
  const tf = base.late.totalFloat;
  const es = base.early.start;
  const by = (...of: ((k: number) => number)[]): Float64Array => rankBy(net, movers, of);
  const file = (k: number): number => net.fileIndex[k]!;
  const length = (k: number): number => base.early.length[k]!;
  const served = options.served ?? null;
  const asked = (k: number): number => served?.get(idOf(net, k)) ?? Infinity;
  const plain = [
    by(
      (k) => tf[k]!,
      (k) => es[k]!,
      file,
    ),
    by((k) => base.lateFinish[k]!, file),
    by((k) => base.lateStart[k]!, file),
    by(
      (k) => es[k]!,
      (k) => tf[k]!,
      file,
    ),
    by(
      (k) => -length(k),
      (k) => tf[k]!,
      file,
    ),
  ];
  const orders = served
    ? [
        by(
          asked,
          (k) => tf[k]!,
          (k) => es[k]!,
          file,
        ),
      ]
    : plain;
  const steps = served ? 0 : options.steps;
  // Who is served first by a person's wish is never passed by one who could begin sooner.
  const schemes: readonly Scheme[] = served || movers.length < 2 ? ['serial'] : ['serial', 'parallel'];
  const tries = schemes.flatMap((scheme) => orders.slice(0, scheme === 'parallel' && net.size > LARGE ? 2 : orders.length).map((order) => ({ scheme, order })));
  const of = tries.length + (movers.length > 1 ? steps : 0);
  let best: { trial: Trial; order: Float64Array; scheme: Scheme } | undefined;
  let tried = 0;
  const consider = (order: Float64Array, scheme: Scheme): boolean => {
    const trial = place(setting, order, scheme);
    tried++;
    if (best && !(Number(trial.valid) > Number(best.trial.valid) || (trial.valid === best.trial.valid && better(trial, best.trial)))) return false;
    best = { trial, order, scheme };
    return true;
  };
  /** Where nobody had to wait nothing can be better. */
  const nobodyWaits = (): boolean => {
    const { valid, delays } = best?.trial ?? { valid: false, delays: [] };
    return valid && !movers.some((k) => delays[k]! > 0);
  };
  for (const { scheme, order } of tries) {
    if (nobodyWaits()) break;
    consider(order, scheme);
    yield { done: tried, of };
  }
  // What is held back most is moved up the order, or two neighbours change places; the same numbers on every machine.
  let seed = 1;
  const random = (n: number): number => {
    seed = (Math.imul(seed, 1103515245) + 12345) & 0x7fffffff;
    return seed % n;
  };
  /** The best as it was when it was last put as late as it can be: from the same one the same would come. */
  let justified: Trial | undefined;
  for (let n = 0; n < steps && movers.length > 1 && best; n++) {
    const { trial }: { trial: Trial } = best;
    const held: number[] = movers.filter((k) => trial.delays[k]! > 0);
    if (held.length === 0) break;
    let order = best.order.slice();
    let { scheme }: { scheme: Scheme } = best;
    if (justified !== trial) {
      order = latestStarts(setting, trial);
      justified = trial;
      scheme = 'serial';
    } else if (n % 3 === 0) {
      // Who begins first in the best schedule is served first, a little out of step.
      for (const k of movers) order[k] = trial.early.start[k]! + random(1 + (n % 5) * MINUTES_PER_DAY);
      scheme = 'serial';
    } else {
      const k = held[random(held.length)]!;
      const other = movers[random(movers.length)]!;
      [order[k], order[other]] = order[k]! > order[other]! ? [order[other]!, order[k]!] : [order[k]! - random(movers.length) - 1, order[other]!];
    }
    consider(order, scheme);
    yield { done: tried, of };
  }
  if (!best) return undefined;
  return told(setting, best.trial, cantFit, tried);
}

/** All at once, for tests and the command line. */
export function level(doc: Document, options: LevelOptions): Levelled | undefined {
  const steps = levelSteps(doc, options);
  for (;;) {
    const next = steps.next();
    if (next.done) return next.value;
  }
}

/** Ranks of nodes by several keys, the first that differs counts. */
function rankBy(net: Network, nodes: readonly number[], keys: readonly ((k: number) => number)[]): Float64Array {
  const out = new Float64Array(net.size);
  [...nodes]
    .sort((a, b) => {
      for (const key of keys) if (key(a) !== key(b)) return key(a) - key(b);
      return a - b;
    })
    .forEach((k, n) => (out[k] = n * 10));
  return out;
}

/** Better: an earlier finish, then less delay by priority, then earlier early finishes. */
const better = (a: Trial, b: Trial): boolean => a.finish < b.finish || (a.finish === b.finish && (a.weight < b.weight || (a.weight === b.weight && a.sum < b.sum)));

const withFirst = (r: Omit<Reason, 'first'> | null): Reason | null => r && { ...r, first: [] };

function told(s: Setting, trial: Trial, cantFit: readonly { node: number; resourceId: string }[], tried: number): Levelled {
  const { net, base, movable } = s;
  // The plan as it will be: what moves as late as possible does so after it.
  for (let k = 0; k < net.size; k++) if (movable[k] === 1) net.delay[k] = trial.delays[k]!;
  const after = computeNetwork(net);
  const delays = new Map<string, number>();
  const moves: LevelMove[] = [];
  net.rows.forEach((a, i) => {
    const k = net.nodeOf[i]!;
    if (movable[k] === 1) delays.set(a.id, trial.delays[k]!);
    if (net.type[k] === Type.levelOfEffort || (after.early.start[k] === base.early.start[k] && after.early.finish[k] === base.early.finish[k])) return;
    moves.push({
      id: a.id,
      delay: trial.delays[k]!,
      before: { start: base.early.start[k]!, finish: base.early.finish[k]! },
      after: { start: after.early.start[k]!, finish: after.early.finish[k]! },
      reason: withFirst(trial.reasons[k] ?? null),
    });
  });
  const free = leftBy(s, after.early, (k) => net.type[k] !== Type.levelOfEffort);
  const over = new Set<string>();
  // Who asks for what, and when: for what is still over, and for who was served first.
  const wanted = new Map<string, [Instant, Instant, string][]>();
  for (let k = 0; k < net.size; k++)
    for (const { resourceId, piece } of asksOf(s, after.early, k)) {
      const c = piece.calendar;
      const [from, to] = [c.startInstant(piece.from), c.finishInstant(piece.to)];
      const list = wanted.get(resourceId) ?? [];
      wanted.set(resourceId, list);
      list.push([from, to, idOf(net, k)]);
      if (!over.has(resourceId)) for (const [a, b] of c.stretches(from, to)) if (freeOf(free, resourceId).blockedUntil(a, b, 0)) over.add(resourceId);
    }
  for (const m of moves)
    if (m.reason) {
      const { resourceId, from, until } = m.reason;
      const others = (wanted.get(resourceId) ?? []).flatMap(([a, b, id]) => (id !== m.id && a < until && b > from ? [id] : []));
      m.reason.first = [...new Set(others)].slice(0, 5);
    }
  return {
    delays,
    moves,
    cantFit: cantFit.map(({ node, resourceId }) => ({ id: idOf(net, node), resourceId })),
    leftOver: trial.left.map((k) => idOf(net, k)),
    finish: { before: base.projectFinish, after: after.projectFinish },
    stillOver: [...over],
    tried,
  };
}
