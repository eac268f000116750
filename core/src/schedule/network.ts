/**
 * The network as typed arrays: activities in topological order, links grouped by successor and by predecessor.
 * Everything that does not need a pass is settled here, so that the passes only compute.
 */
import type { Activity } from '../model/schema.ts';
import type { WorkCalendar } from '../time/work-calendar.ts';
import type { Instant } from '../time/instant.ts';

/** Stands for "no instant" and "no position" in the typed arrays. */
export const NONE = -0x40000000;

export const Type = { task: 0, startMilestone: 1, finishMilestone: 2, levelOfEffort: 3, margin: 4 } as const;
export const State = { unstarted: 0, started: 1, finished: 2 } as const;
export const LinkKind = { FS: 0, SS: 1, FF: 2, SF: 3 } as const;
/** Bits of `Network.use`. */
export const Use = {
  /** The link counts in the forward pass. */
  counts: 1,
  /** FS and FF: it leads from the finish of its predecessor. */
  fromFinish: 2,
  /** FF and SF: it leads to the finish of its successor. */
  toFinish: 4,
  /** Both ends and the lag are on one calendar, and the predecessor hands on a position. */
  direct: 8,
  /** It bounds the late dates of its unfinished predecessor. */
  bounds: 16,
  /** It leads into a finished activity that may carry the bound on. */
  mayCarry: 32,
  /** Into work that surely has a length, neither pinned nor delayed. */
  plain: 64,
  /** As `plain`, and both ends and the lag are on one calendar. */
  directBack: 128,
  /** Its lag is counted on the calendar of its predecessor, whose positions are known. */
  ownLag: 256,
} as const;
export const Pin = { none: 0, start: 1, finish: 2 } as const;

/** Most arrays are indexed by node: the place of an activity in topological order. */
export interface Network {
  size: number;
  /** Activities in file order as they were computed, their ids, and the node of each. */
  rows: readonly Activity[];
  ids: string[];
  nodeOf: Int32Array;
  /** Index in file order of each node. */
  fileIndex: Int32Array;
  calendars: WorkCalendar[];
  /** Working calendar of each activity, and its own calendar, on which dates without a time and lags are read. */
  calendar: Int32Array;
  own: Int32Array;
  type: Uint8Array;
  state: Uint8Array;
  /** Working minutes that lie ahead: duration, or what remains of it; planned length for a margin. */
  length: Int32Array;
  /** Duration as typed, 0 for milestones. */
  duration: Int32Array;
  actualStart: Int32Array;
  actualFinish: Int32Array;
  /** Later of data date (or planned start) and resume: no work before it. */
  floor: Int32Array;
  /** 1 where a resume date later than the data date makes that floor. */
  resumed: Uint8Array;
  /** Constraints as instants, NONE where there is none. */
  startLow: Int32Array;
  finishLow: Int32Array;
  startHigh: Int32Array;
  finishHigh: Int32Array;
  pin: Uint8Array;
  pinned: Int32Array;
  deadline: Int32Array;
  delay: Int32Array;
  late: Uint8Array;
  /** Latest instant at which a margin may end; NONE without a limit. */
  marginLimit: Int32Array;
  /** Links, by successor in topological order; file order among those into one activity. */
  links: number;
  linkIds: string[];
  /** Index in file order (of the links that are computed). */
  linkRank: Int32Array;
  from: Int32Array;
  to: Int32Array;
  kind: Uint8Array;
  lag: Int32Array;
  lagCalendar: Int32Array;
  /** What is settled about each link before any pass: bits of `Use`. */
  use: Uint16Array;
  /** Links into node k are inFirst[k] up to inFirst[k + 1]; out of it outLinks[outFirst[k]] up to outFirst[k + 1]. */
  inFirst: Int32Array;
  outFirst: Int32Array;
  outLinks: Int32Array;
  /** The project's floor: the later of data date and planned start. */
  projectFloor: Instant;
  plannedStart: Instant;
  dataDate: Instant | null;
  /** End that bounds late dates when it is the required finish; NONE for the computed finish. */
  requiredEnd: Instant;
  requiredFinish: Instant | null;
  override: boolean;
  criticalBy: 'float' | 'longestPath';
  criticalThreshold: number;
  nearCriticalThreshold: number;
}

/** True where a link counts in a pass: not into or out of a level of effort, nor into started work under override. */
export const counts = (net: Network, link: number): boolean => (net.use[link]! & Use.counts) !== 0;

/** Settles `use`, once the states of all activities are known. */
export function settleLinks(net: Network): void {
  for (let l = 0; l < net.links; l++) {
    const p = net.from[l]!;
    const s = net.to[l]!;
    const kind = net.kind[l]!;
    const fromFinish = kind === LinkKind.FS || kind === LinkKind.FF;
    let use = (fromFinish ? Use.fromFinish : 0) | (kind >= LinkKind.FF ? Use.toFinish : 0);
    net.use[l] = use;
    if (net.type[s] === Type.levelOfEffort || net.type[p] === Type.levelOfEffort) continue;
    const c = net.calendar[s];
    const sameCalendar = net.calendar[p] === c && (net.lag[l] === 0 || net.lagCalendar[l] === c);
    // A started activity hands on its actual start: nothing bounds it through SS and SF.
    const held = net.state[p] === State.unstarted || (fromFinish && net.state[p] === State.started);
    if (!(net.override && net.state[s] === State.started)) {
      use |= Use.counts;
      if (sameCalendar && held) use |= Use.direct;
      if (held && net.state[s] !== State.finished) use |= Use.bounds;
    }
    if (held && net.lag[l] !== 0 && net.lagCalendar[l] === net.calendar[p] && net.type[p] !== Type.startMilestone) use |= Use.ownLag;
    if (held && net.state[s] === State.finished) use |= Use.mayCarry;
    if (net.state[s] !== State.finished && net.length[s]! > 0 && net.type[s] !== Type.margin && net.pin[s] === Pin.none && net.delay[s] === 0)
      use |= Use.plain | (sameCalendar ? Use.directBack : 0);
    net.use[l] = use;
  }
}

/** True where the lag of a link is counted from a start: SS, SF, and every link out of a start milestone. */
export function fromStart(net: Network, link: number): boolean {
  const kind = net.kind[link];
  return kind === LinkKind.SS || kind === LinkKind.SF || net.type[net.from[link]!] === Type.startMilestone;
}

/** lag(x): the instant that a link makes of the instant handed on by its predecessor (rules, section 2). */
export function applyLag(net: Network, link: number, x: Instant): Instant {
  const lag = net.lag[link]!;
  if (lag === 0) return x;
  const c = net.calendars[net.lagCalendar[link]!]!;
  const p = c.position(x) + lag;
  return fromStart(net, link) ? c.startInstant(p) : c.finishInstant(p);
}

/** lagBack(y): the latest instant x with lag(x) <= y. */
export function lagBack(net: Network, link: number, y: Instant): Instant {
  const lag = net.lag[link]!;
  if (lag === 0) return y;
  const c = net.calendars[net.lagCalendar[link]!]!;
  return fromStart(net, link) ? c.startInstant(c.position(y + 1) - 1 - lag) : c.startInstant(c.position(y) - lag);
}
