/** Float paths (scheduling rules, section 6): the longest path to an end, then the next ones by slack. */
import type { Computed } from './compute.ts';
import { drivingChain } from './compute.ts';
import { NONE, State, Type } from './network.ts';

export interface FloatPath {
  /** Nodes in topological order (path 1) or from its beginning to where it joins an earlier path. */
  nodes: number[];
  /** Slack of the joining link in days of its successor's calendar; 0 for path 1. */
  slackDays: number;
  /** The node of an earlier path that it leads to; -1 for path 1. */
  joins: number;
}

interface Edge {
  from: number;
  to: number;
  days: number;
  tie: number;
}

/** The first `count` float paths to a node, or to the project finish. */
export function floatPaths(r: Computed, count: number, to?: number): FloatPath[] {
  const net = r.network;
  const first = drivingChain(net, r.slack, to === undefined ? (k) => r.early.finish[k] === r.projectFinish : (k) => k === to);
  const into: Edge[][] = Array.from({ length: net.size }, () => []);
  const minutes = net.calendars.map((c) => c.minutesPerDay);
  for (let l = 0; l < net.links; l++) {
    const slack = r.slack.link[l]!;
    const s = net.to[l]!;
    if (slack === NONE || net.type[net.from[l]!] === Type.levelOfEffort) continue;
    into[s]!.push({ from: net.from[l]!, to: s, days: slack / minutes[net.calendar[s]!]!, tie: net.linkRank[l]! });
  }
  r.slack.carried.forEach((c, i) => into[c.to]!.push({ from: c.from, to: c.to, days: c.slack / minutes[net.calendar[c.to]!]!, tie: net.links + i }));
  const less = (a: Edge, b: Edge | undefined): boolean => b === undefined || a.days < b.days || (a.days === b.days && a.tie < b.tie);
  const on = new Uint8Array(net.size);
  const paths: FloatPath[] = [{ nodes: [], slackDays: 0, joins: -1 }];
  const heap: Edge[] = [];
  const add = (k: number): void => {
    on[k] = 1;
    for (const e of into[k]!) if (on[e.from] === 0 && net.state[e.from] !== State.finished) pushEdge(heap, e, less);
  };
  for (let k = 0; k < net.size; k++) if (first[k] === 1) paths[0]!.nodes.push(k);
  for (const k of paths[0]!.nodes) add(k);
  while (paths.length < count && heap.length > 0) {
    const start = popEdge(heap, less);
    if (on[start.from] === 1) continue;
    const nodes: number[] = [];
    let at = start.from;
    for (;;) {
      nodes.unshift(at);
      on[at] = 1;
      let best: Edge | undefined;
      for (const e of into[at]!) if (less(e, best)) best = e;
      if (!best || on[best.from] === 1 || net.state[best.from] === State.finished) break;
      at = best.from;
    }
    for (const k of nodes) add(k);
    paths.push({ nodes, slackDays: start.days, joins: start.to });
  }
  return paths;
}

type Less = (a: Edge, b: Edge) => boolean;

function pushEdge(heap: Edge[], e: Edge, less: Less): void {
  let i = heap.push(e) - 1;
  for (let up = (i - 1) >> 1; i > 0 && less(heap[i]!, heap[up]!); i = up, up = (i - 1) >> 1) [heap[i], heap[up]] = [heap[up]!, heap[i]!];
}

function popEdge(heap: Edge[], less: Less): Edge {
  const top = heap[0]!;
  const last = heap.pop() as Edge;
  if (heap.length === 0) return top;
  heap[0] = last;
  for (let i = 0; ;) {
    let best = i;
    for (const child of [2 * i + 1, 2 * i + 2]) if (child < heap.length && less(heap[child]!, heap[best]!)) best = child;
    if (best === i) return top;
    [heap[i], heap[best]] = [heap[best]!, heap[i]!];
    i = best;
  }
}
