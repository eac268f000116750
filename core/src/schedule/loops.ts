/**
 * Loops in the logic. An order of the activities is kept while links are taken in file order
 * (D. J. Pearce and P. H. J. Kelly, "A dynamic topological sort algorithm", 2006), so that the first link in file
 * order that closes a loop is found without a search of the whole network for each link.
 */

/** Links as index pairs. Returns the indices of those that close a loop with the ones before them (self-links too). */
export function loopClosers(n: number, from: Int32Array | number[], to: Int32Array | number[]): number[] {
  const closers: number[] = [];
  const inLoop = loopMembers(n, from, to);
  const ord = Int32Array.from({ length: n }, (_, i) => i);
  const out: number[][] = [];
  const into: number[][] = [];
  for (let l = 0; l < from.length; l++) {
    const x = from[l];
    const y = to[l];
    // A link with an end outside every strongly connected part can close no loop.
    if (x !== y && (inLoop[x] === 0 || inLoop[x] !== inLoop[y])) continue;
    if (x === y || !insert(x, y)) closers.push(l);
  }
  return closers;

  function insert(x: number, y: number): boolean {
    const lo = ord[y];
    const hi = ord[x];
    if (lo < hi) {
      const forward = reach(y, out, (v) => ord[v] <= hi);
      if (forward.includes(x)) return false;
      const backward = reach(x, into, (v) => ord[v] >= lo);
      const byOrd = (a: number, b: number): number => ord[a] - ord[b];
      const moved = [...backward.sort(byOrd), ...forward.sort(byOrd)];
      const places = moved.map((v) => ord[v]).sort((a, b) => a - b);
      moved.forEach((v, i) => (ord[v] = places[i]));
    }
    (out[x] ??= []).push(y);
    (into[y] ??= []).push(x);
    return true;
  }
}

function reach(start: number, edges: number[][], within: (v: number) => boolean): number[] {
  const seen = new Set([start]);
  const stack = [start];
  while (stack.length) {
    for (const w of edges[stack.pop() as number] ?? [])
      if (!seen.has(w) && within(w)) {
        seen.add(w);
        stack.push(w);
      }
  }
  return [...seen];
}

/** Which strongly connected part of two or more each node is in (1, 2, ...); 0 for none. (Tarjan, without recursion.) */
function loopMembers(n: number, from: Int32Array | number[], to: Int32Array | number[]): Int32Array {
  const first = new Int32Array(n + 1);
  for (let l = 0; l < from.length; l++) first[from[l] + 1]++;
  for (let i = 0; i < n; i++) first[i + 1] += first[i];
  const next = first.slice();
  const heads = new Int32Array(from.length);
  for (let l = 0; l < from.length; l++) heads[next[from[l]]++] = to[l];
  const index = new Int32Array(n).fill(-1);
  const low = new Int32Array(n);
  const onStack = new Uint8Array(n);
  const part = new Int32Array(n);
  const stack: number[] = [];
  const call: number[] = [];
  const edge = first.slice(0, n);
  let counter = 0;
  let parts = 0;
  for (let root = 0; root < n; root++) {
    if (index[root] !== -1) continue;
    call.push(root);
    while (call.length) {
      const v = call[call.length - 1];
      if (index[v] === -1) {
        index[v] = low[v] = counter++;
        stack.push(v);
        onStack[v] = 1;
      }
      let deeper = false;
      while (edge[v] < first[v + 1]) {
        const w = heads[edge[v]++];
        if (index[w] === -1) {
          call.push(w);
          deeper = true;
          break;
        }
        if (onStack[w]) low[v] = Math.min(low[v], index[w]);
      }
      if (deeper) continue;
      call.pop();
      const parent = call[call.length - 1];
      if (parent !== undefined) low[parent] = Math.min(low[parent], low[v]);
      if (low[v] === index[v]) {
        const members: number[] = [];
        let w: number;
        do {
          w = stack.pop() as number;
          onStack[w] = 0;
          members.push(w);
        } while (w !== v);
        if (members.length > 1) {
          parts++;
          for (const m of members) part[m] = parts;
        }
      }
    }
  }
  return part;
}

/** Topological order of nodes, earlier file order first among those that are ready at once; shorter than n in a loop. */
export function topologicalOrder(n: number, from: Int32Array, to: Int32Array): Int32Array {
  const degree = new Int32Array(n);
  const first = new Int32Array(n + 1);
  for (let l = 0; l < from.length; l++) {
    degree[to[l]]++;
    first[from[l] + 1]++;
  }
  for (let i = 0; i < n; i++) first[i + 1] += first[i];
  const next = first.slice();
  const heads = new Int32Array(from.length);
  for (let l = 0; l < from.length; l++) heads[next[from[l]]++] = to[l];
  const order = new Int32Array(n);
  let tail = 0;
  for (let i = 0; i < n; i++) if (degree[i] === 0) order[tail++] = i;
  for (let at = 0; at < tail; at++) {
    const v = order[at];
    for (let e = first[v]; e < first[v + 1]; e++) if (--degree[heads[e]] === 0) order[tail++] = heads[e];
  }
  return order.subarray(0, tail);
}
