/** Link slack, driving links and carried logic (scheduling rules, sections 4 and 6). */
import type { Instant } from '../time/instant.ts';
import { applyLag, counts, LinkKind, type Network, NONE, Pin, State, Type } from './network.ts';
import { askedPosition, type Early, linkInstant } from './forward.ts';

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
}

/** Slack of a bound at a position, and whether it drives. Zero length: only the latest instant drives. */
function judge(net: Network, early: Early, s: number, ask: number, instant: () => Instant): { slack: number; driving: boolean } {
  const slack = early.startPos[s] - net.delay[s] - ask;
  let driving = slack === 0 && net.pin[s] === Pin.none;
  if (driving && early.length[s] === 0) driving = instant() === early.asked[s];
  return { slack, driving };
}

/** Computes slack and driving for every link. After a move as late as possible the asked positions are found anew. */
export function computeSlack(net: Network, early: Early, moved: boolean): Slack {
  const slack: Slack = { link: new Int32Array(net.links).fill(NONE), driving: new Uint8Array(net.links), carried: [] };
  for (let l = 0; l < net.links; l++) {
    const s = net.to[l];
    if (net.state[s] === State.finished) continue;
    if (moved) early.ask[l] = counts(net, l) ? askedPosition(net, early, l) : NONE;
    // A margin's finish-to-start asks do not depend on its length, so those of the forward pass hold for all.
    const ask = early.ask[l];
    if (ask === NONE) continue;
    const value = early.startPos[s] - net.delay[s] - ask;
    slack.link[l] = value;
    if (value !== 0 || net.pin[s] !== Pin.none) continue;
    slack.driving[l] = early.length[s] === 0 && linkInstant(net, early, l) !== early.asked[s] ? 0 : 1;
  }
  if (early.carries) slack.carried = carriedLogic(net, early);
  return slack;
}

/** Every pair of an unfinished activity and one that it holds through finished ones, with the least slack over all ways. */
function carriedLogic(net: Network, early: Early): Carried[] {
  const out: Carried[] = [];
  const reach = new Int32Array(net.size).fill(NONE);
  for (let p = 0; p < net.size; p++) {
    if (net.state[p] === State.finished || net.type[p] === Type.levelOfEffort) continue;
    const touched: number[] = [];
    const push = (b: number, x: Instant): void => {
      if (reach[b] === NONE) touched.push(b);
      if (x > reach[b]) reach[b] = x;
    };
    for (let e = net.outFirst[p]; e < net.outFirst[p + 1]; e++) {
      const l = net.outLinks[e];
      const b = net.to[l];
      if (net.state[b] !== State.finished) continue;
      const kind = net.kind[l];
      const atFinish = kind === LinkKind.FS || kind === LinkKind.FF;
      if (!atFinish && net.state[p] !== State.unstarted) continue;
      push(b, linkInstant(net, early, l));
    }
    if (touched.length === 0) continue;
    const held = new Map<number, Carried>();
    // Nodes are in topological order, so the smallest touched one is complete.
    const queue = [...touched];
    const open = new Set(queue);
    while (open.size) {
      const b = Math.min(...open);
      open.delete(b);
      for (let e = net.outFirst[b]; e < net.outFirst[b + 1]; e++) {
        const l = net.outLinks[e];
        const s = net.to[l];
        const kind = net.kind[l];
        if ((kind !== LinkKind.FS && kind !== LinkKind.FF) || net.type[s] === Type.levelOfEffort) continue;
        const x = applyLag(net, l, reach[b]);
        if (net.state[s] === State.finished) {
          push(s, x);
          open.add(s);
          continue;
        }
        const ask = net.calendars[net.calendar[s]].position(x) - (kind === LinkKind.FF ? early.length[s] : 0);
        const { slack, driving } = judge(net, early, s, ask, () => x);
        const known = held.get(s);
        if (!known) held.set(s, { from: p, to: s, instant: x, slack, driving, through: b });
        else {
          if (slack < known.slack) Object.assign(known, { slack, instant: x, through: b });
          known.driving ||= driving;
        }
      }
    }
    for (const b of touched) reach[b] = NONE;
    out.push(...held.values());
  }
  return out.sort((a, b) => net.fileIndex[a.from] - net.fileIndex[b.from] || net.fileIndex[a.to] - net.fileIndex[b.to]);
}
