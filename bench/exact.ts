/**
 * The shortest schedule under limited resources, found by trying everything that could be shorter: a depth-first search
 * over what is delayed wherever too much is asked for at once, with bounds and what was seen before. Whole days, one calendar.
 */
export interface Instance {
  /** Days of each activity. */
  days: number[];
  /** Activities that must end before each begins. */
  preds: number[][];
  /** Units that each asks of each resource, and units that are there. */
  asks: number[][];
  there: number[];
}

/** Random instances like those that a planner meets: layers of work, a few links to later ones, gangs of different size. */
export function instanceOf(seed: number, size: number): Instance {
  let state = seed * 2654435761;
  const next = (n: number): number => {
    state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff;
    return Math.floor((state / 0x80000000) * n);
  };
  const days = Array.from({ length: size }, () => 1 + next(10));
  const preds = days.map((_, i) => {
    const of = new Set<number>();
    if (i > 0) for (let k = 0; k < 1 + next(2); k++) of.add(Math.max(0, i - 1 - next(Math.max(3, Math.floor(size / 5)))));
    return i < 3 ? [] : [...of];
  });
  const resources = 4;
  const asks = days.map(() => Array.from({ length: resources }, () => (next(100) < 45 ? 1 + next(5) : 0)));
  const there = Array.from({ length: resources }, (_, r) => Math.max(...asks.map((a) => a[r]!), 6 + next(4)));
  return { days, preds, asks, there };
}

/** No schedule can be shorter: the longest chain, and what each resource has to do. */
export function lowerBound(p: Instance): number {
  const finish: number[] = [];
  p.days.forEach((d, i) => finish.push(d + Math.max(0, ...p.preds[i]!.map((k) => finish[k]!))));
  const loads = p.there.map((there, r) => Math.ceil(p.days.reduce((sum, d, i) => sum + d * p.asks[i]![r]!, 0) / there));
  return Math.max(...finish, ...loads);
}

/** The least days, given a schedule of `known` days; `proven`: nothing shorter is possible, found within so many steps. At most 31 activities. */
export function shortest(p: Instance, known: number, most: number): { days: number; proven: boolean; steps: number } {
  const n = p.days.length;
  // The longest chain behind each activity, itself included.
  const tail = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    tail[i] = Math.max(tail[i]!, p.days[i]!);
    for (const k of p.preds[i]!) tail[k] = Math.max(tail[k]!, p.days[k]! + tail[i]!);
  }
  let best = known;
  let steps = 0;
  const bound = lowerBound(p);
  const before = p.preds.map((list) => list.reduce((mask, k) => mask | (1 << k), 0));
  const seen = new Map<number, Int16Array[]>();
  const all = n === 31 ? 0x7fffffff : (1 << n) - 1;

  /** `done` and `running` as sets, `finish` of those that run, the day. */
  const search = (done: number, running: number, finish: Int16Array, day: number): void => {
    if (best === bound || ++steps > most) return;
    if (done === all) {
      best = Math.min(best, day);
      return;
    }
    // All that can begin does, unless too much is asked for then.
    let set = running;
    const now = finish.slice();
    for (let i = 0; i < n; i++)
      if (!((done | running) & (1 << i)) && (before[i]! & done) === before[i]) {
        set |= 1 << i;
        now[i] = day + p.days[i]!;
      }
    const members: number[] = [];
    for (let i = 0; i < n; i++) if (set & (1 << i)) members.push(i);
    const over = p.there.map((there, r) => members.reduce((sum, i) => sum + p.asks[i]![r]!, 0) - there);
    const choices: number[] = over.some((x) => x > 0) ? delays(members, over) : [0];
    const options = choices.flatMap((away) => {
      const stay = set & ~away;
      if (stay === 0) return [];
      let next = 32767;
      for (const i of members) if (stay & (1 << i)) next = Math.min(next, now[i]!);
      let least = 0;
      for (const i of members) least = Math.max(least, stay & (1 << i) ? now[i]! + tail[i]! - p.days[i]! : next + tail[i]!);
      return least < best ? [{ stay, next, least }] : [];
    });
    options.sort((a, b) => a.least - b.least);
    for (const { stay, next, least } of options) {
      if (least >= best) continue;
      const after = new Int16Array(n);
      let ended = done;
      let going = 0;
      for (let i = 0; i < n; i++)
        if (stay & (1 << i)) {
          if (now[i]! <= next) ended |= 1 << i;
          else {
            going |= 1 << i;
            after[i] = now[i]!;
          }
        }
      if (wasBetter(ended, going, after, next)) continue;
      search(ended, going, after, next);
      close(ended, going, after, next);
    }
  };

  const vector = (finish: Int16Array, day: number): Int16Array => finish.map((f) => Math.max(f, day));
  /** Whether the same work was begun before, with nothing of it ending later, and all that can follow has been looked at. */
  const wasBetter = (ended: number, going: number, finish: Int16Array, day: number): boolean => {
    const mine = vector(finish, day);
    return (seen.get(ended | going) ?? []).some((old) => old.every((f, i) => f <= mine[i]!));
  };
  const close = (ended: number, going: number, finish: Int16Array, day: number): void => {
    const mine = vector(finish, day);
    const list = seen.get(ended | going) ?? [];
    seen.set(ended | going, [...list.filter((old) => !old.every((f, i) => f >= mine[i]!)), mine]);
  };

  /** The least sets whose going leaves enough of every resource. */
  const delays = (members: readonly number[], over: readonly number[]): number[] => {
    const out: number[] = [];
    const pick = (at: number, left: readonly number[], set: number): void => {
      if (left.every((x) => x <= 0)) {
        if (!out.some((o) => (o & set) === o)) out.push(set);
        return;
      }
      if (at === members.length) return;
      const i = members[at]!;
      if (p.asks[i]!.some((x, r) => x > 0 && left[r]! > 0))
        pick(
          at + 1,
          left.map((x, r) => x - p.asks[i]![r]!),
          set | (1 << i),
        );
      pick(at + 1, left, set);
    };
    pick(0, over, 0);
    return out.filter((set) => !out.some((o) => o !== set && (o & set) === o));
  };

  search(0, 0, new Int16Array(n), 0);
  return { days: best, proven: steps <= most, steps };
}
