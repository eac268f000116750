/**
 * Loops in the logic. An order of the activities is kept while links are taken in file order
 * (D. J. Pearce and P. H. J. Kelly, "A dynamic topological sort algorithm", 2006), so that the first link in file
 * order that closes a loop is found without a search of the whole network for each link.
 */

/** Steps that all searches for loops may take together: about a second. Beyond it, see `loopClosers`. */
const MOST_STEPS = 300_000_000;
/** Loops that are named; finding the others costs nothing more, but nobody reads a thousand. */
const MOST_NAMED = 200;

export interface Closers {
  /** Indices of the links that close a loop with the ones before them (self-links too). */
  closers: number[];
  /** For the first of them the loop that each would close: the activities from its `to` along links to its `from`. */
  loops: Map<number, number[]>;
}

/**
 * Finds the links that close loops, links given as index pairs. Where all searches together would take more than
 * `mostSteps`, every further link that runs against the order found so far counts as closing one, so that no file
 * holds the computation up.
 */
export function loopClosers(n: number, from: Int32Array | number[], to: Int32Array | number[], mostSteps = MOST_STEPS): Closers {
  const closers: number[] = [];
  const loops = new Map<number, number[]>();
  const inLoop = loopMembers(n, from, to);
  const ord = Int32Array.from({ length: n }, (_, i) => i);
  // Links that are kept, as chains out of and into each activity.
  const firstOut = new Int32Array(n).fill(-1);
  const firstIn = new Int32Array(n).fill(-1);
  const nextOut = new Int32Array(from.length);
  const nextIn = new Int32Array(from.length);
  const seen = new Int32Array(n);
  const parent = new Int32Array(n);
  let searches = 0;
  let steps = 0;
  for (let l = 0; l < from.length; l++) {
    const x = from[l]!;
    const y = to[l]!;
    // A link with an end outside every strongly connected part can close no loop.
    if (x !== y && (inLoop[x] === 0 || inLoop[x] !== inLoop[y])) continue;
    const loop = x === y ? [x] : ord[y]! < ord[x]! ? (steps > mostSteps ? [] : reorder(x, y)) : undefined;
    if (loop) {
      closers.push(l);
      if (loop.length && loops.size < MOST_NAMED) loops.set(l, loop);
      continue;
    }
    nextOut[l] = firstOut[x]!;
    firstOut[x] = l;
    nextIn[l] = firstIn[y]!;
    firstIn[y] = l;
  }
  return { closers, loops };

  /** Makes room for a link against the order; the activities from y to x where there is a way already. */
  function reorder(x: number, y: number): number[] | undefined {
    const lo = ord[y]!;
    const hi = ord[x]!;
    const forward = [y];
    seen[y] = ++searches;
    for (let i = 0; i < forward.length; i++)
      for (let l = firstOut[forward[i]!]!; l !== -1; l = nextOut[l]!) {
        const w = to[l]!;
        steps++;
        if (seen[w] === searches || ord[w]! > hi) continue;
        seen[w] = searches;
        parent[w] = forward[i]!;
        if (w !== x) {
          forward.push(w);
          continue;
        }
        const way = [x];
        if (loops.size < MOST_NAMED) for (let at = x; at !== y;) way.push((at = parent[at]!));
        return way.reverse();
      }
    const backward = [x];
    seen[x] = ++searches;
    for (let i = 0; i < backward.length; i++)
      for (let l = firstIn[backward[i]!]!; l !== -1; l = nextIn[l]!) {
        const w = from[l]!;
        steps++;
        if (seen[w] === searches || ord[w]! < lo) continue;
        seen[w] = searches;
        backward.push(w);
      }
    const byOrd = (a: number, b: number): number => ord[a]! - ord[b]!;
    const moved = [...backward.sort(byOrd), ...forward.sort(byOrd)];
    const places = moved.map((v) => ord[v]!).sort((a, b) => a - b);
    moved.forEach((v, i) => (ord[v] = places[i]!));
    return undefined;
  }
}

/** Which strongly connected part of two or more each node is in (1, 2, ...); 0 for none. (Tarjan, without recursion.) */
function loopMembers(n: number, from: Int32Array | number[], to: Int32Array | number[]): Int32Array {
  const first = new Int32Array(n + 1);
  for (let l = 0; l < from.length; l++) first[from[l]! + 1]!++;
  for (let i = 0; i < n; i++) first[i + 1]! += first[i]!;
  const next = first.slice();
  const heads = new Int32Array(from.length);
  for (let l = 0; l < from.length; l++) heads[next[from[l]!]!++] = to[l]!;
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
      const v = call[call.length - 1]!;
      if (index[v] === -1) {
        index[v] = low[v] = counter++;
        stack.push(v);
        onStack[v] = 1;
      }
      let deeper = false;
      while (edge[v]! < first[v + 1]!) {
        const w = heads[edge[v]!++]!;
        if (index[w] === -1) {
          call.push(w);
          deeper = true;
          break;
        }
        if (onStack[w]) low[v] = Math.min(low[v]!, index[w]!);
      }
      if (deeper) continue;
      call.pop();
      const parent = call[call.length - 1];
      if (parent !== undefined) low[parent] = Math.min(low[parent]!, low[v]!);
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
    degree[to[l]!]!++;
    first[from[l]! + 1]!++;
  }
  for (let i = 0; i < n; i++) first[i + 1]! += first[i]!;
  const next = first.slice();
  const heads = new Int32Array(from.length);
  for (let l = 0; l < from.length; l++) heads[next[from[l]!]!++] = to[l]!;
  const order = new Int32Array(n);
  let tail = 0;
  for (let i = 0; i < n; i++) if (degree[i] === 0) order[tail++] = i;
  for (let at = 0; at < tail; at++) {
    const v = order[at]!;
    for (let e = first[v]!; e < first[v + 1]!; e++) if (--degree[heads[e]!]! === 0) order[tail++] = heads[e]!;
  }
  return order.subarray(0, tail);
}
