/** Link slack, driving links and carried logic (scheduling rules, sections 4 and 6). */
import type { Instant } from '../time/instant.ts';
import { applyLag, counts, LinkKind, type Network, NONE, Pin, State, Type } from './network.ts';
import { askAgain, askedPosition, type Early, linkInstant } from './forward.ts';

/** Carried logic: from an unfinished activity through finished ones to the activity that it holds. */
export interface Carried {
  from: number;
  to: number;
  /** The instant it asks of its successor (start, or finish where it arrives over FF). */
  instant: Instant;
  slack: number;
  driving: boolean;
  /** The finished activity over which it arrives by its tightest way. */
  through: number;
}

export interface Slack {
  /** Working minutes of the successor's calendar; NONE where a link has none. */
  link: Int32Array;
  driving: Uint8Array;
  carried: Carried[];
  /** How many of carried logic were not kept, by the finished activity or the held one where that was; only the latest are. */
  dropped: Map<number, number>;
}

/** Kept of carried logic for each finished activity and each one held (rules, section 4). */
const MOST_CARRIED = 20;

/** Computes slack and driving for every link. After a move as late as possible what is asked is found anew. */
export function computeSlack(net: Network, early: Early, moved: boolean): Slack {
  const slack: Slack = { link: new Int32Array(net.links).fill(NONE), driving: new Uint8Array(net.links), carried: [], dropped: new Map() };
  if (moved) {
    for (let l = 0; l < net.links; l++) if (net.state[net.to[l]!] !== State.finished) early.ask[l] = counts(net, l) ? askedPosition(net, early, l) : NONE;
    askAgain(net, early);
  }
  for (let l = 0; l < net.links; l++) {
    const s = net.to[l]!;
    if (net.state[s] === State.finished) continue;
    // A margin's finish-to-start asks do not depend on its length, so those of the forward pass hold for all.
    const ask = early.ask[l]!;
    if (ask === NONE) continue;
    const value = early.startPos[s]! - net.delay[s]! - ask;
    slack.link[l] = value;
    if (value !== 0 || net.pin[s] !== Pin.none) continue;
    slack.driving[l] = early.length[s] === 0 && linkInstant(net, early, l) !== early.asked[s] ? 0 : 1;
  }
  if (early.carries) carriedLogic(net, early, slack);
  return slack;
}

/** What reaches a finished activity from an unfinished one. */
interface Arrival {
  from: number;
  instant: Instant;
}

const leadsFromFinish = (kind: number): boolean => kind === LinkKind.FS || kind === LinkKind.FF;

/** Arrivals at a finished activity: the latest of each unfinished activity, the twenty latest of all. */
function arrivalsAt(net: Network, early: Early, b: number, known: ReadonlyMap<number, Arrival[]>, dropped: Map<number, number>): Arrival[] {
  const best = new Map<number, Arrival>();
  const take = (from: number, instant: Instant): void => {
    const had = best.get(from);
    if (!had) best.set(from, { from, instant });
    else if (instant > had.instant) had.instant = instant;
  };
  for (let l = net.inFirst[b]!; l < net.inFirst[b + 1]!; l++) {
    const p = net.from[l]!;
    if (net.type[p] === Type.levelOfEffort) continue;
    const atFinish = leadsFromFinish(net.kind[l]!);
    if (net.state[p] === State.finished) {
      if (atFinish) for (const x of known.get(p) ?? []) take(x.from, applyLag(net, l, x.instant));
    } else if (atFinish || net.state[p] === State.unstarted) take(p, linkInstant(net, early, l));
  }
  return latest(net, [...best.values()], (x) => x.instant, b, dropped);
}

/** The twenty greatest of a list; ties in the order of the file. What falls away is counted at its place. */
function latest<T extends { from: number }>(net: Network, list: T[], value: (x: T) => number, place: number, dropped: Map<number, number>): T[] {
  if (list.length <= MOST_CARRIED) return list;
  list.sort((a, b) => value(b) - value(a) || net.fileIndex[a.from]! - net.fileIndex[b.from]!);
  dropped.set(place, list.length - MOST_CARRIED);
  return list.slice(0, MOST_CARRIED);
}

/** Pairs of an unfinished activity and one that it holds through finished ones, each with the least slack over its ways. */
function carriedLogic(net: Network, early: Early, slack: Slack): void {
  const arrivals = new Map<number, Arrival[]>();
  const out = slack.carried;
  // Nodes are in topological order, so what arrives at the finished ones before is complete.
  for (let k = 0; k < net.size; k++) {
    if (net.type[k] === Type.levelOfEffort) continue;
    if (net.state[k] === State.finished) {
      if (early.carry[k] !== NONE) arrivals.set(k, arrivalsAt(net, early, k, arrivals, slack.dropped));
      continue;
    }
    const held = new Map<number, Carried>();
    for (let l = net.inFirst[k]!; l < net.inFirst[k + 1]!; l++) {
      const b = net.from[l]!;
      const kind = net.kind[l]!;
      if (net.state[b] !== State.finished || !leadsFromFinish(kind)) continue;
      for (const { from, instant } of arrivals.get(b) ?? []) {
        const x = applyLag(net, l, instant);
        const ask = net.calendars[net.calendar[k]!]!.position(x) - (kind === LinkKind.FF ? early.length[k]! : 0);
        const value = early.startPos[k]! - net.delay[k]! - ask;
        const driving = value === 0 && net.pin[k] === Pin.none && (early.length[k]! > 0 || x === early.asked[k]);
        const known = held.get(from);
        if (!known) held.set(from, { from, to: k, instant: x, slack: value, driving, through: b });
        else {
          if (value < known.slack) Object.assign(known, { slack: value, instant: x, through: b });
          known.driving ||= driving;
        }
      }
    }
    if (held.size > 0) out.push(...latest(net, [...held.values()], (c) => -c.slack, k, slack.dropped));
  }
  out.sort((a, b) => net.fileIndex[a.from]! - net.fileIndex[b.from]! || net.fileIndex[a.to]! - net.fileIndex[b.to]!);
}
