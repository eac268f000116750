/** One full computation: both passes, floats, slack, driving, critical, and the instants that are shown. */
import type { Instant } from '../time/instant.ts';
import { backwardPass, type Late, newLate } from './backward.ts';
import { type Early, forwardPass, newEarly, spanLevelsOfEffort } from './forward.ts';
import { type Network, NONE, State, Type } from './network.ts';
import { computeSlack, type Slack } from './slack.ts';

/** All by node of the network; instants NONE where there is none. */
export interface Computed {
  network: Network;
  early: Early;
  late: Late;
  slack: Slack;
  projectFinish: Instant;
  /** Late dates as shown. */
  lateStart: Int32Array;
  lateFinish: Int32Array;
  critical: Uint8Array;
  nearCritical: Uint8Array;
  onLongestPath: Uint8Array;
}

/** Runs the passes over a prepared network. */
export function computeNetwork(net: Network): Computed {
  const early = newEarly(net);
  const late = newLate(net);
  forwardPass(net, early);
  backwardPass(net, early, late);
  const slack = computeSlack(net, early, late.moved);
  spanLevelsOfEffort(net, early);
  const onLongestPath = longestPath(net, early, slack);
  const computed: Computed = {
    network: net,
    early,
    late,
    slack,
    projectFinish: early.projectFinish,
    lateStart: new Int32Array(net.size).fill(NONE),
    lateFinish: new Int32Array(net.size).fill(NONE),
    critical: new Uint8Array(net.size),
    nearCritical: new Uint8Array(net.size),
    onLongestPath,
  };
  showLate(computed);
  judgeCritical(computed);
  return computed;
}

/** Late dates as shown (rules, section 6): finish and start instants, but never apart from the early ones without float. */
function showLate({ network: net, early, late, lateStart, lateFinish }: Computed): void {
  for (let k = 0; k < net.size; k++) {
    if (late.finishPos[k] === NONE) continue;
    const c = net.calendars[net.calendar[k]!]!;
    if (early.length[k]! > 0) {
      lateFinish[k] = late.totalFloat[k]! === 0 ? early.finish[k]! : c.finishInstant(late.finishPos[k]!);
      lateStart[k] = late.startInstant[k]!;
      continue;
    }
    const isStart = net.type[k] === Type.startMilestone;
    let lf = isStart ? c.startInstant(late.finishPos[k]!) : c.finishInstant(late.finishPos[k]!);
    if (late.totalFloat[k] === 0 && (isStart ? lf : late.instant[k]!) >= early.finish[k]!) lf = early.finish[k]!;
    lateStart[k] = lateFinish[k] = lf;
  }
}

function judgeCritical(r: Computed): void {
  const net = r.network;
  const limits = (days: number): number[] => net.calendars.map((c) => Math.round(days * c.minutesPerDay));
  const critical = limits(net.criticalThreshold);
  const near = limits(net.nearCriticalThreshold);
  const byPath = net.criticalBy === 'longestPath';
  for (let k = 0; k < net.size; k++) {
    const tf = r.late.totalFloat[k]!;
    if (tf === NONE) continue;
    const c = net.calendar[k]!;
    if (byPath ? r.onLongestPath[k] === 1 : tf <= critical[c]!) r.critical[k] = 1;
    else if (tf <= near[c]!) r.nearCritical[k] = 1;
  }
}

/** Unfinished activities from which a chain of driving links and driving carried logic leads to the given ends. */
export function drivingChain(net: Network, slack: Slack, ends: (k: number) => boolean): Uint8Array {
  const on = new Uint8Array(net.size);
  const carriedInto = new Map<number, number[]>();
  for (const c of slack.carried) if (c.driving) carriedInto.set(c.to, [...(carriedInto.get(c.to) ?? []), c.from]);
  for (let k = net.size - 1; k >= 0; k--) {
    if (net.state[k] === State.finished || net.type[k] === Type.levelOfEffort) continue;
    if (on[k] === 0 && !ends(k)) continue;
    on[k] = 1;
    for (let l = net.inFirst[k]!; l < net.inFirst[k + 1]!; l++) if (slack.driving[l] === 1 && net.state[net.from[l]!] !== State.finished) on[net.from[l]!] = 1;
    for (const p of carriedInto.get(k) ?? []) on[p] = 1;
  }
  return on;
}

const longestPath = (net: Network, early: Early, slack: Slack): Uint8Array => drivingChain(net, slack, (k) => early.finish[k] === early.projectFinish);
