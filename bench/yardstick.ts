/** The yardstick: bare forward and backward longest-path passes over the same typed arrays. No calendars, no lags. */
import { LinkKind, type Network } from '@yellowhammer/core/schedule/network';

export function barePasses(net: Network, es: Int32Array, lf: Int32Array): number {
  const { size, from, to, kind, inFirst, outFirst, outLinks, length } = net;
  let end = 0;
  for (let k = 0; k < size; k++) {
    let start = 0;
    for (let l = inFirst[k]!; l < inFirst[k + 1]!; l++) {
      const p = from[l]!;
      const t = kind[l]!;
      let x = es[p]! + (t === LinkKind.FS || t === LinkKind.FF ? length[p]! : 0);
      if (t >= LinkKind.FF) x -= length[k]!;
      if (x > start) start = x;
    }
    es[k] = start;
    if (start + length[k]! > end) end = start + length[k]!;
  }
  for (let k = size - 1; k >= 0; k--) {
    let finish = end;
    for (let e = outFirst[k]!; e < outFirst[k + 1]!; e++) {
      const l = outLinks[e]!;
      const s = to[l]!;
      const t = kind[l];
      let x = lf[s]! - (t === LinkKind.FS || t === LinkKind.SS ? length[s]! : 0);
      if (t === LinkKind.SS || t === LinkKind.SF) x += length[k]!;
      if (x < finish) finish = x;
    }
    lf[k] = finish;
  }
  return end;
}

/** Median of several timings of a function, in milliseconds, after warming up. */
export function median(f: () => void, runs: number, warm = 3): number {
  for (let i = 0; i < warm; i++) f();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const from = performance.now();
    f();
    times.push(performance.now() - from);
  }
  return times.sort((a, b) => a - b)[runs >> 1]!;
}

/** Medians of two functions timed in turn, and the median of their ratios: a slow moment of the machine hits both. */
export function inTurn(f: () => void, g: () => void, runs: number, warm: number): { f: number; g: number; ratio: number } {
  const pairs: [number, number][] = [];
  for (let i = -warm; i < runs; i++) {
    const a = performance.now();
    f();
    const b = performance.now();
    g();
    if (i >= 0) pairs.push([b - a, performance.now() - b]);
  }
  const middle = (list: number[]): number => list.sort((x, y) => x - y)[list.length >> 1]!;
  return { f: middle(pairs.map(([x]) => x)), g: middle(pairs.map(([, y]) => y)), ratio: middle(pairs.map(([x, y]) => y / x)) };
}
