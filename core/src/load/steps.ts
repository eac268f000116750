/** Step functions of time: a value from each instant to the next, 0 before the first and after the last. */
export interface Steps {
  /** Instants, rising. */
  at: number[];
  /** The value from each on; the last is 0. */
  value: number[];
}

export const noSteps: Steps = { at: [], value: [] };

/** Makes a step function of stretches in order that do not overlap. */
export class StepList implements Steps {
  readonly at: number[] = [];
  readonly value: number[] = [];

  add(from: number, to: number, value: number): void {
    const n = this.at.length;
    if (n > 0 && this.at[n - 1] === from) {
      // It begins where the last one ends.
      if (n > 1 && this.value[n - 2] === value) this.at[n - 1] = to;
      else {
        this.value[n - 1] = value;
        this.at.push(to);
        this.value.push(0);
      }
      return;
    }
    this.at.push(from, to);
    this.value.push(value, 0);
  }
}

/** What steps add up to between boundaries that follow each other: units over time, as unit-minutes. */
export function sumsBetween(s: Steps, edges: readonly number[]): number[] {
  let n = 0;
  return edges.slice(1).map((to, i) => {
    const from = edges[i]!;
    while (n + 1 < s.at.length && s.at[n + 1]! <= from) n++;
    let sum = 0;
    for (let k = n; k < s.at.length && s.at[k]! < to; k++) sum += Math.max(0, Math.min(to, s.at[k + 1] ?? to) - Math.max(from, s.at[k]!)) * s.value[k]!;
    return sum;
  });
}

/** The sum of two step functions. Linear. */
export function sumOf(a: Steps, b: Steps): Steps {
  if (a.at.length === 0) return b;
  if (b.at.length === 0) return a;
  const [n, m] = [a.at.length, b.at.length];
  const at = new Array<number>(n + m);
  const value = new Array<number>(n + m);
  let [i, j, x, y, count, last] = [0, 0, 0, 0, 0, NaN];
  while (i < n || j < m) {
    const [p, q] = [i < n ? a.at[i]! : Infinity, j < m ? b.at[j]! : Infinity];
    if (p <= q) x = a.value[i++]!;
    if (q <= p) y = b.value[j++]!;
    if (x + y === last) continue;
    last = x + y;
    at[count] = p < q ? p : q;
    value[count++] = last;
  }
  at.length = count;
  value.length = count;
  return { at, value };
}

/** The sum of many step functions, in pairs. */
export function sumOfAll(list: readonly Steps[]): Steps {
  if (list.length === 0) return noSteps;
  if (list.length === 1) return list[0]!;
  const half = list.length >> 1;
  return sumOf(sumOfAll(list.slice(0, half)), sumOfAll(list.slice(half)));
}
