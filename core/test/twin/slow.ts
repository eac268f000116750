/**
 * A slow and obvious second implementation of the scheduling rules, for comparing with the fast one. It shares no
 * code with it: calendars are marked minute by minute, late dates and free float are found by trying one minute
 * after another, and carried logic by walking every path.
 */
import type { People, PlanActivity, PlanCalendar, SmallPlan } from './plans.ts';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';

const ORIGIN = Date.UTC(2025, 0, 1) / 60000;
const DAYS = 300;
export const MINUTES = DAYS * 1440;
export const minuteOf = (text: string): number => Date.parse(`${text}:00Z`) / 60000 - ORIGIN;

/** Working time of a calendar as plain tables over the window. */
export class Axis {
  readonly before: Int32Array;
  readonly smallest = new Int32Array(MINUTES + 1);
  readonly largest = new Int32Array(MINUTES + 1);
  readonly perDay: number;
  private readonly calendar: PlanCalendar;

  readonly works = new Uint8Array(MINUTES);

  /** `cutters`: only their working minutes count. */
  constructor(calendar: PlanCalendar, cutters: readonly Axis[] = []) {
    this.calendar = calendar;
    const { works } = this;
    for (let day = -2; day < DAYS; day++)
      for (const [a, b] of this.intervals(day)) for (let m = a; m < b; m++) if (day * 1440 + m >= 0 && day * 1440 + m < MINUTES) works[day * 1440 + m] = 1;
    for (const c of cutters) for (let m = 0; m < MINUTES; m++) if (!c.works[m]) works[m] = 0;
    this.before = new Int32Array(MINUTES + 1);
    for (let t = 0; t < MINUTES; t++) this.before[t + 1] = this.before[t]! + works[t]!;
    for (let t = MINUTES; t >= 0; t--) this.smallest[this.before[t]!] = t;
    for (let t = 0; t <= MINUTES; t++) this.largest[this.before[t]!] = t;
    const worked = calendar.week.map((d) => d.reduce((n, [a, b]) => n + b - a, 0)).filter((n) => n > 0);
    const count = (n: number): number => worked.filter((x) => x === n).length;
    this.perDay = [...worked].sort((a, b) => count(b) - count(a) || b - a)[0]!;
  }

  intervals(day: number): [number, number][] {
    const date = new Date((ORIGIN + day * 1440) * 60000);
    let list = this.calendar.week[(date.getUTCDay() + 6) % 7];
    for (const e of this.calendar.exceptions) {
      const from = new Date(`${e.from}T00:00Z`);
      const to = new Date(`${e.to}T00:00Z`);
      let hit = date >= from && date <= to;
      for (let year = 2020; e.yearly && year < 2030; year++) {
        const shift = year - from.getUTCFullYear();
        const a = Date.UTC(year, from.getUTCMonth(), from.getUTCDate());
        const b = Date.UTC(to.getUTCFullYear() + shift, to.getUTCMonth(), to.getUTCDate());
        if (+date >= a && +date <= b) hit = true;
      }
      if (hit) list = e.work;
    }
    return list ?? [];
  }

  W = (t: number): number => this.before[Math.min(Math.max(t, 0), MINUTES)]!;
  fin = (p: number): number => this.smallest[p]!;
  start = (p: number): number => this.largest[p]!;
  dated(text: string, end: 'start' | 'finish'): number {
    if (text.length > 10) return minuteOf(text);
    const day = minuteOf(`${text}T00:00`) / 1440;
    const list = this.intervals(day);
    if (end === 'start') return day * 1440 + (list.length ? Math.min(...list.map((i) => i[0])) : 0);
    return day * 1440 + (list.length ? Math.max(...list.map((i) => i[1])) : 1440);
  }
}

export interface SlowActivity {
  start: number;
  finish: number;
  lateStart: number | null;
  lateFinish: number | null;
  totalFloat: number | null;
  freeFloat: number | null;
  length: number;
}
export interface SlowResult {
  projectFinish: number;
  activities: SlowActivity[];
  slack: (number | null)[];
  driving: boolean[];
  longest: boolean[];
  carried: { from: number; to: number; slack: number; driving: boolean }[];
  /** What loads need: the axis of each activity, its early position (of what lies ahead) and what lies ahead of it. */
  inner: { axis: Axis; pos: number; d: number; state: 'no' | 'started' | 'finished'; AS: number; AF: number }[];
}

interface Node {
  a: PlanActivity;
  axis: Axis;
  state: 'no' | 'started' | 'finished';
  AS: number;
  AF: number;
  d: number;
  isStart: boolean;
  loe: boolean;
  lower: { t: number; finish: boolean; what: string }[];
  upper: { t: number; finish: boolean }[];
  pin: { t: number; finish: boolean } | null;
  delay: number;
  alap: boolean;
  // early
  pos: number;
  S: number;
  F: number;
  asked: number;
  baseAsked: number;
  // late
  latePos: number;
  y: number;
  tf: number;
  ff: number;
}

/** Who does the work of a plan that has people. */
export function peopleOf(plan: SmallPlan): People {
  if (!plan.people) throw new Error('The plan has no people.');
  return plan.people;
}

const axesOf = new WeakMap<SmallPlan, Map<number, Axis>>();
/** The working time of a resource of a plan; made once. */
export function resourceAxis(plan: SmallPlan, n: number): Axis {
  const known = axesOf.get(plan) ?? new Map<number, Axis>();
  axesOf.set(plan, known);
  const had = known.get(n);
  if (had) return had;
  const x = peopleOf(plan).resources[n]!;
  const calendar = plan.calendars[Math.max(x.calendar, 0)]!;
  const axis = new Axis({ ...calendar, exceptions: [...calendar.exceptions, ...x.daysOff] });
  known.set(n, axis);
  return axis;
}

/** Said where a search goes back beyond the twin's window of time, in which it would not end: it knows no minutes there. */
export class OutsideWindow extends Error {}
const EARLIEST = -100_000;
function within(at: number): number {
  if (at < EARLIEST) throw new OutsideWindow();
  return at;
}

/** The working time of those who drive an activity. */
function drivingAxes(plan: SmallPlan, activity: number): Axis[] {
  if (!plan.people || plan.people.keepsDays[activity]) return [];
  return plan.people.assignments.flatMap((x) =>
    x.activity === activity && x.drives && x.resource >= 0 && peopleOf(plan).resources[x.resource]!.kind !== 'material' ? [resourceAxis(plan, x.resource)] : [],
  );
}

export function slowSchedule(plan: SmallPlan): SlowResult {
  const axes = plan.calendars.map((c) => new Axis(c));
  const elapsed = new Axis({ id: 'e', week: Array.from({ length: 7 }, () => [[0, 1440]]), exceptions: [] });
  const DD = plan.dataDate === null ? null : minuteOf(plan.dataDate);
  const PS = minuteOf(plan.plannedStart);
  const floor = Math.max(PS, DD ?? PS);
  const nodes = plan.activities.map(toNode);
  const links = plan.links;
  const order = topological();
  const last = [...order].reverse();

  function toNode(a: PlanActivity, i: number): Node {
    const drivers = drivingAxes(plan, i);
    const axis = drivers.length ? new Axis(plan.calendars[a.calendar]!, drivers) : axes[a.calendar]!;
    const milestone = isMilestone(a);
    const n: Node = {
      a,
      axis,
      state: 'no',
      AS: NaN,
      AF: NaN,
      d: milestone ? 0 : a.duration,
      isStart: a.type === 'startMilestone',
      loe: a.type === 'levelOfEffort',
      lower: [],
      upper: [],
      pin: null,
      delay: 0,
      alap: false,
      pos: 0,
      S: 0,
      F: 0,
      asked: 0,
      baseAsked: 0,
      latePos: 0,
      y: 0,
      tf: 0,
      ff: 0,
    };
    if (n.loe || a.type === 'margin') return n;
    if (milestone && (a.actualStart ?? a.actualFinish) !== null) {
      const own = n.isStart ? (a.actualStart ?? a.actualFinish) : (a.actualFinish ?? a.actualStart);
      n.state = 'finished';
      n.AS = n.AF = minuteOf(own as string);
    } else if (a.actualStart !== null) {
      n.AS = minuteOf(a.actualStart);
      n.state = a.actualFinish === null ? 'started' : 'finished';
      if (a.actualFinish !== null) n.AF = minuteOf(a.actualFinish);
      else n.d = a.remaining ?? n.d;
    }
    if (n.state === 'finished') return n;
    const zero = n.state === 'no' && n.d === 0;
    const pins = a.constraints.filter((c) => c.kind.startsWith('pinned'));
    for (const c of a.constraints) {
      if (pins.length > 0 && !pins.includes(c)) continue;
      if (c.kind === 'asLateAsPossible') {
        n.alap = n.state === 'no' && a.delay === null;
        continue;
      }
      const finish = /inish/.test(c.kind);
      const t = axis.dated(c.date as string, zero ? (n.isStart ? 'start' : 'finish') : finish ? 'finish' : 'start');
      if (c.kind === 'pinnedStart' && n.state === 'no') n.pin = { t, finish: false };
      else if (c.kind === 'pinnedFinish' && n.state === 'no') n.pin ??= { t, finish: true };
      else if (c.kind === 'pinnedFinish') {
        n.lower.push({ t, finish: true, what: c.kind });
        n.upper.push({ t, finish: true });
      } else if (n.state === 'no' || finish) {
        if (/NotBefore|On$/.test(c.kind) && c.kind !== 'pinnedStart') n.lower.push({ t, finish, what: c.kind });
        if (/NotAfter|On$/.test(c.kind) && c.kind !== 'pinnedStart') n.upper.push({ t, finish });
      }
    }
    if (n.state === 'no' && !n.pin) n.delay = a.delay ?? 0;
    return n;
  }

  function topological(): number[] {
    const left = new Set(nodes.keys());
    const out: number[] = [];
    while (left.size)
      for (const i of left)
        if (!links.some((l) => l.to === i && left.has(l.from))) {
          out.push(i);
          left.delete(i);
        }
    return out;
  }

  function lag(l: (typeof links)[number], x: number): number {
    if (l.lag === 0) return x;
    const choice = l.lagCalendar ?? plan.lagCalendar;
    const L =
      choice === 'predecessor'
        ? axes[nodes[l.from]!.a.calendar]!
        : choice === 'successor'
          ? axes[nodes[l.to]!.a.calendar]!
          : choice === 'project'
            ? axes[0]!
            : choice === 'elapsed'
              ? elapsed
              : axes[Number(choice.slice(9))]!;
    const p = L.W(x) + l.lag;
    return l.type === 'SS' || l.type === 'SF' || nodes[l.from]!.isStart ? L.start(p) : L.fin(p);
  }

  const atFinish = (l: (typeof links)[number]): boolean => l.type === 'FS' || l.type === 'FF';
  const intoFinish = (l: (typeof links)[number]): boolean => l.type === 'FF' || l.type === 'SF';
  const live = (l: (typeof links)[number]): boolean =>
    !nodes[l.from]!.loe && !nodes[l.to]!.loe && nodes[l.to]!.state !== 'finished' && !(plan.override && nodes[l.to]!.state === 'started');

  // A margin whose successors have all started counts as finished at the earliest of their starts.
  for (const i of last) {
    const n = nodes[i]!;
    if (n.a.type !== 'margin') continue;
    const after = links.filter((l) => l.from === i && !nodes[l.to]!.loe).map((l) => nodes[l.to]!);
    if (after.length > 0 && after.every((s) => s.state !== 'no')) {
      n.state = 'finished';
      n.AS = n.AF = Math.min(...after.map((s) => s.AS));
      n.d = 0;
    }
  }

  /** Latest x with lag(x) <= y, by trying. */
  function back(l: (typeof links)[number], y: number): number {
    for (let x = Math.min(y + 50 * 1440, MINUTES - 1); ; x--) if (lag(l, x) <= y) return x;
  }

  function limitOf(i: number): number | null {
    const all: number[] = [];
    for (const l of links) {
      if (l.from !== i || !live(l)) continue;
      const s = nodes[l.to]!;
      if (s.a.type === 'margin') {
        const t = limitOf(l.to);
        if (t !== null) all.push(back(l, t));
        continue;
      }
      const uppers = s.pin ? [s.pin] : s.upper;
      for (const u of uppers) {
        if (s.d === 0) all.push(back(l, s.delay > 0 ? s.axis.start(s.axis.W(u.t) - s.delay) : s.isStart ? s.axis.start(s.axis.W(u.t)) : u.t));
        else all.push(back(l, s.axis.start(s.axis.W(u.t) - (u.finish ? s.d : 0) - s.delay)));
      }
    }
    return all.length ? Math.min(...all) : null;
  }

  /** Every way on from what an unfinished activity hands on: the links it reaches directly or through finished ones. */
  function ways(i: number, S: number, F: number): { l: number; x: number; carried: boolean }[] {
    const out: { l: number; x: number; carried: boolean }[] = [];
    const n = nodes[i]!;
    links.forEach((l, li) => {
      if (l.from !== i || n.loe || nodes[l.to]!.loe) return;
      const x = lag(l, atFinish(l) ? F : S);
      if (nodes[l.to]!.state !== 'finished') {
        if (live(l)) out.push({ l: li, x, carried: false });
      } else if (!plan.override && (atFinish(l) || n.state === 'no')) walk(l.to, x);
    });
    return out;
    function walk(b: number, x: number): void {
      links.forEach((l, li) => {
        if (l.from !== b || !atFinish(l) || nodes[l.to]!.loe) return;
        const y = lag(l, x);
        if (nodes[l.to]!.state === 'finished') walk(l.to, y);
        else if (live(l)) out.push({ l: li, x: y, carried: true });
      });
    }
  }

  const asks = (l: (typeof links)[number], x: number): number => nodes[l.to]!.axis.W(x) - (intoFinish(l) ? nodes[l.to]!.d : 0);

  // Forward, in order. Bounds of each activity are gathered as (instant, position).
  const bounds: { x: number; pos: number }[][] = nodes.map(() => []);
  for (const i of order) {
    const n = nodes[i]!;
    if (n.loe) continue;
    const { axis } = n;
    if (n.state === 'finished') {
      n.S = n.AS;
      n.F = n.AF;
      links.forEach((l) => {
        if (l.from === i && live(l)) bounds[l.to]!.push({ x: lag(l, atFinish(l) ? n.F : n.S), pos: asks(l, lag(l, atFinish(l) ? n.F : n.S)) });
      });
      continue;
    }
    const base = n.state === 'started' ? Math.max(DD as number, n.a.resume === null ? -1 : minuteOf(n.a.resume)) : floor;
    const all = [{ x: base, pos: axis.W(base) }, ...bounds[i]!.map((b) => ({ ...b }))];
    for (const c of n.lower) all.push({ x: c.t, pos: axis.W(c.t) - (c.finish ? n.d : 0) });
    let pos = Math.max(...all.map((b) => b.pos));
    n.asked = Math.max(...all.map((b) => b.x));
    if (n.a.type === 'margin') {
      const limit = limitOf(i);
      if (limit !== null) n.d = Math.min(Math.max(axis.W(limit) - pos, 0), n.d);
    }
    if (n.pin) {
      n.asked = n.pin.t;
      pos = axis.W(n.pin.t) - (n.pin.finish ? n.d : 0);
    }
    if (n.d === 0) pos = axis.W(n.asked);
    n.pos = pos;
    n.baseAsked = n.asked;
    place(n, n.delay);
    for (const w of ways(i, n.S, n.F)) bounds[links[w.l]!.to]!.push({ x: w.x, pos: asks(links[w.l]!, w.x) });
  }

  /** Puts an activity some working minutes later than its bounds ask. */
  function place(n: Node, more: number): void {
    const { axis } = n;
    n.pos += more;
    if (n.d === 0) {
      if (more > 0) n.asked = axis.fin(n.pos);
      n.F = n.isStart ? axis.start(n.pos) : n.asked;
      n.S = n.F;
    } else {
      n.S = axis.start(n.pos);
      n.F = axis.fin(n.pos + n.d);
    }
    if (n.state === 'started') n.S = n.AS;
  }

  const real = nodes.filter((n) => !n.loe);
  const projectFinish = real.length ? Math.max(...real.map((n) => n.F)) : floor;
  const end = plan.floatTo === 'requiredFinish' && plan.requiredFinish !== null ? minuteOf(plan.requiredFinish) : projectFinish;

  /** Whether a successor's late (or early) dates allow an instant that a link asks for. */
  function allowed(l: (typeof links)[number], x: number, by: 'late' | 'early'): boolean {
    const s = nodes[l.to]!;
    if (s.d === 0) {
      if (by === 'early') return x <= (s.delay > 0 ? s.axis.start(s.pos - s.delay) : s.F);
      let y = s.delay > 0 ? s.axis.start(s.latePos - s.delay) : s.isStart ? s.axis.start(s.latePos) : s.y;
      if (s.pin) y = Math.min(y, s.F);
      return x <= y;
    }
    let p = by === 'late' ? s.latePos : s.pos;
    if (by === 'late' && s.pin) p = Math.min(p, s.pos);
    return asks(l, x) <= p - s.delay;
  }

  for (const i of last) {
    const n = nodes[i]!;
    if (n.loe || n.state === 'finished') continue;
    const { axis } = n;
    const fits = (S: number, F: number, by: 'late' | 'early'): boolean =>
      ways(i, S, F).every((w) => (n.state === 'started' && !atFinish(links[w.l]!) && !w.carried) || allowed(links[w.l]!, w.x, by));
    if (n.d === 0) {
      const ends = n.upper.map((u) => (n.isStart ? axis.start(axis.W(u.t)) : u.t));
      const search = (from: number, by: 'late' | 'early'): number => {
        for (let y = from; ; y--) if (fits(n.state === 'started' ? n.S : within(y), y, by)) return y;
      };
      n.y = search(Math.min(end, ...ends), 'late');
      const lie = (y: number): number => {
        if (!n.isStart) return axis.W(y);
        for (let p = axis.W(y); ; p--) if (axis.start(within(p)) <= y) return p;
      };
      n.latePos = lie(n.y);
      n.ff = lie(search(projectFinish, 'early')) - n.pos;
    } else {
      const hand = (q: number): [number, number] => [n.state === 'started' ? n.S : axis.start(q), axis.fin(q + n.d)];
      let q = axis.W(end) - n.d;
      for (const u of n.upper) q = Math.min(q, axis.W(u.t) - (u.finish ? n.d : 0));
      while (!fits(...hand(q), 'late')) q = within(q - 1);
      n.latePos = q;
      let f = axis.W(projectFinish) - n.d;
      while (!fits(...hand(f), 'early')) f = within(f - 1);
      n.ff = f - n.pos;
    }
    n.tf = n.latePos - n.pos;
    const move = Math.min(n.ff, n.tf);
    if (n.alap && move > 0) {
      place(n, move);
      n.ff -= move;
      n.tf -= move;
    }
  }

  // What drives work of zero length is judged by the moved dates.
  nodes.forEach((s, i) => {
    if (s.loe || s.state === 'finished' || s.d > 0 || s.pin) return;
    const base = s.state === 'started' ? Math.max(DD as number, s.a.resume === null ? -1 : minuteOf(s.a.resume)) : floor;
    const all = [base, ...s.lower.map((c) => c.t)];
    nodes.forEach((p, j) => {
      if (p.loe) return;
      if (p.state === 'finished') links.forEach((l) => l.from === j && l.to === i && live(l) && all.push(lag(l, atFinish(l) ? p.F : p.S)));
      else for (const w of ways(j, p.S, p.F)) if (links[w.l]!.to === i) all.push(w.x);
    });
    s.baseAsked = Math.max(...all);
  });

  const slack = links.map((l) => {
    if (!live(l)) return null;
    const p = nodes[l.from]!;
    return nodes[l.to]!.pos - nodes[l.to]!.delay - asks(l, lag(l, atFinish(l) ? p.F : p.S));
  });
  const drives = (l: (typeof links)[number], x: number, s: number): boolean => s === 0 && !nodes[l.to]!.pin && (nodes[l.to]!.d > 0 || x === nodes[l.to]!.baseAsked);
  const driving = links.map((l, li) => slack[li] !== null && drives(l, lag(l, atFinish(l) ? nodes[l.from]!.F : nodes[l.from]!.S), slack[li] as number));
  const carried: SlowResult['carried'] = [];
  nodes.forEach((n, i) => {
    if (n.state === 'finished' || n.loe) return;
    const to = new Map<number, { from: number; to: number; slack: number; driving: boolean }>();
    for (const w of ways(i, n.S, n.F)) {
      if (!w.carried) continue;
      const l = links[w.l]!;
      const s = nodes[l.to]!.pos - nodes[l.to]!.delay - asks(l, w.x);
      const known = to.get(l.to) ?? { from: i, to: l.to, slack: Infinity, driving: false };
      to.set(l.to, { from: i, to: l.to, slack: Math.min(s, known.slack), driving: known.driving || drives(l, w.x, s) });
    }
    carried.push(...to.values());
  });

  // Levels of effort span the final early dates.
  for (const i of order) {
    const n = nodes[i]!;
    if (!n.loe) continue;
    const into = links.filter((l) => l.to === i);
    const x = (l: (typeof links)[number]): number => lag(l, atFinish(l) ? nodes[l.from]!.F : nodes[l.from]!.S);
    const starts = into.filter((l) => l.type === 'SS' || l.type === 'FS').map(x);
    const finishes = into.filter((l) => l.type === 'FF' || l.type === 'SF').map(x);
    n.S = starts.length ? Math.min(...starts) : PS;
    n.F = Math.max(n.S, finishes.length ? Math.max(...finishes) : projectFinish);
  }

  const longest = nodes.map(() => false);
  const mark = (i: number): void => {
    if (longest[i] || nodes[i]!.state === 'finished' || nodes[i]!.loe) return;
    longest[i] = true;
    links.forEach((l, li) => l.to === i && driving[li] && mark(l.from));
    for (const c of carried) if (c.to === i && c.driving) mark(c.from);
  };
  nodes.forEach((n, i) => n.F === projectFinish && mark(i));

  return {
    inner: nodes.map(({ axis, pos, d, state, AS, AF }) => ({ axis, pos, d, state, AS, AF })),
    projectFinish,
    slack,
    driving,
    longest,
    carried: carried.sort((a, b) => a.from - b.from || a.to - b.to),
    activities: nodes.map((n) => {
      if (n.loe || n.state === 'finished')
        return { start: n.S, finish: n.F, lateStart: null, lateFinish: null, totalFloat: null, freeFloat: null, length: n.loe ? n.axis.W(n.F) - n.axis.W(n.S) : 0 };
      let lateFinish = n.d === 0 && n.isStart ? n.axis.start(n.latePos) : n.axis.fin(n.latePos + n.d);
      const instant = n.d === 0 && !n.isStart ? n.y : lateFinish;
      if (n.tf === 0 && instant >= n.F) lateFinish = n.F;
      return { start: n.S, finish: n.F, lateStart: n.d === 0 ? lateFinish : n.axis.start(n.latePos), lateFinish, totalFloat: n.tf, freeFloat: n.ff, length: n.d };
    }),
  };
}

export const slowStamp = (t: number | null): string | null => (t === null ? null : new Date((t + ORIGIN) * 60000).toISOString().slice(0, 16));
