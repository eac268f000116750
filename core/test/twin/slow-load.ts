/**
 * A slow and obvious second implementation of the loads (resource rules, sections 1 and 4 to 6), minute by minute. It
 * shares no code with the fast one: each assignment's work is laid on minutes, and everything is a sum over minutes.
 */
import type { PlanAssignment, SmallPlan } from './plans';
import { type Axis, minuteOf, MINUTES, peopleOf, resourceAxis, OutsideWindow, type SlowResult, slowSchedule } from './slow';

export interface SlowSubject {
  /** Thousandths of units asked for and there, in each minute. */
  demand: Float64Array;
  /** Null: no limit. */
  capacity: Float64Array | null;
  /** Work at single instants. */
  jumps: { at: number; work: number }[];
}
/** Work of one assignment in a minute, or at that instant. */
export interface Laid {
  at: number;
  work: number;
  actual: boolean;
}
export interface SlowLoads {
  /** By assignment; and where a use of it is paid. */
  laid: Laid[][];
  begins: number[];
  assignments: { length: number; work: number; actual: number; remaining: number }[];
  resources: SlowSubject[];
  roles: SlowSubject[];
  groups: SlowSubject[];
}

const round = (x: number): number => Math.floor(x + 0.5 + 1e-9);
const shapes = {
  even: [1],
  early: [19, 17, 15, 13, 11, 9, 7, 5, 3, 1],
  late: [1, 3, 5, 7, 9, 11, 13, 15, 17, 19],
  middle: [3, 6, 11, 14, 16, 16, 14, 11, 6, 3],
};
const weights = (x: PlanAssignment): number[] => (x.spread === 'own' ? x.ownSpread : shapes[x.spread]);

/** Share of each minute of so many, given where the parts end and what they weigh. */
function perMinute(minutes: number, ends: number[], w: number[]): number[] {
  const out = new Array<number>(minutes).fill(0);
  const total = w.reduce((a, b) => a + b, 0);
  let from = 0;
  let waiting = 0;
  let last: [number, number] | undefined;
  for (let k = 0; k < ends.length; k++) {
    waiting += w[k]!;
    if (ends[k]! === from) continue;
    for (let m = from; m < ends[k]!; m++) out[m] = waiting / total / (ends[k]! - from);
    last = [from, ends[k]!];
    [from, waiting] = [ends[k]!, 0];
  }
  if (last && waiting > 0) for (let m = last[0]; m < last[1]; m++) out[m]! += waiting / total / (last[1] - last[0]);
  return out;
}

const shareOf = (len: number, w: number[]): number[] =>
  perMinute(
    len,
    w.map((_, k) => round((len * (k + 1)) / w.length)),
    w,
  );

/** Days without common work that a plan may have: the slow twin's window is short. */
const LONGEST = 25 * 1440;
/** Whether a plan lies within it. */
const dense = (s: SlowResult): boolean =>
  s.inner.every(({ axis }) => {
    let last = 0;
    for (let m = 0; m < MINUTES; m++)
      if (axis.works[m]) {
        if (m - last > LONGEST) return false;
        last = m;
      }
    return MINUTES - last < LONGEST && Math.max(...s.activities.map((a) => a.finish)) < MINUTES - 40 * 1440;
  });

/** The slow schedule of a plan that lies within the window; nothing of another one. */
export function denseSchedule(plan: SmallPlan): SlowResult | undefined {
  try {
    const s = slowSchedule(plan);
    return dense(s) ? s : undefined;
  } catch (e) {
    if (e instanceof OutsideWindow) return undefined;
    throw e;
  }
}

export function slowLoads(plan: SmallPlan, s: SlowResult): SlowLoads {
  const people = peopleOf(plan);
  const dataDate = plan.dataDate === null ? null : minuteOf(plan.dataDate);
  const blank = (): SlowSubject => ({ demand: new Float64Array(MINUTES), capacity: null, jumps: [] });
  const resources = people.resources.map((x, n): SlowSubject => ({ ...blank(), capacity: x.kind === 'material' ? null : capacityOf(resourceAxis(plan, n), x.availability) }));
  const roles = people.roles.map(blank);
  const out: SlowLoads = { laid: [], begins: [], assignments: [], resources, roles, groups: [blank(), blank()] };

  for (const x of people.assignments) {
    const target = x.resource >= 0 ? resources[x.resource]! : roles[x.role]!;
    const a = plan.activities[x.activity]!;
    const { axis, state, AS, AF } = s.inner[x.activity]!;
    let { pos } = s.inner[x.activity]!;
    const material = x.resource >= 0 && people.resources[x.resource]!.kind === 'material';
    const loe = a.type === 'levelOfEffort';
    const { start, finish } = s.activities[x.activity]!;
    if (loe) pos = axis.W(start);
    const d = loe ? axis.W(finish) - axis.W(start) : a.duration;
    const byWork = !loe && people.basis[x.activity] === 'fixedWork' && x.drives && !material;
    const milli = Math.round(x.units * 1000);
    const room = Math.max(0, d - x.delay);
    const len = byWork ? Math.min(room, Math.ceil(x.work / milli)) : room;
    const whole = material ? Math.round(x.quantity * 1000) : loe ? milli * room : x.work;
    const w = weights(x);
    // Working minutes of the axis from a position on.
    const laid: Laid[] = [];
    out.laid.push(laid);
    const past = (at: number): boolean => loe && dataDate !== null && at < dataDate;
    const lay = (from: number, shares: number[], work: number, otherwise: number): void => {
      if (work === 0) return;
      if (shares.length === 0) {
        target.jumps.push({ at: otherwise, work });
        laid.push({ at: otherwise, work, actual: past(otherwise) });
        return;
      }
      shares.forEach((share, m) => {
        const at = axis.start(from + m);
        target.demand[at]! += share * work;
        laid.push({ at, work: share * work, actual: past(at) });
      });
    };
    if (loe) {
      out.begins.push(x.delay > 0 ? axis.start(pos + x.delay) : start);
      lay(pos + x.delay, shareOf(len, w), whole, start);
      const done = dataDate === null ? 0 : Math.min(Math.max(axis.W(dataDate) - pos, 0), d);
      const share = shareOf(len, w).reduce((n, v, m) => n + (m < done - x.delay ? v : 0), 0);
      const over = d > 0 ? done >= d : dataDate !== null && start < dataDate;
      const actual = len === 0 ? (over ? whole : 0) : round(whole * share);
      out.assignments.push({ length: len, work: whole, actual, remaining: whole - actual });
      continue;
    }
    if (state === 'no') {
      out.begins.push(x.delay > 0 ? axis.start(pos + x.delay) : start);
      const remaining = (material ? null : x.remainingWork) ?? whole;
      lay(pos + x.delay, shareOf(len, w), remaining, x.delay > 0 ? axis.fin(pos + x.delay) : start);
      out.assignments.push({ length: len, work: whole, actual: 0, remaining });
      continue;
    }
    const r = state === 'finished' ? 0 : s.inner[x.activity]!.d;
    const place = d - r - x.delay;
    let F = 0;
    if (len === 0) F = place >= 0 ? 1 : 0;
    else shareOf(len, w).forEach((v, m) => (F += m < place ? v : 0));
    let actual = material ? null : x.actualWork;
    let remaining = material ? null : x.remainingWork;
    if (state === 'finished') [actual, remaining] = [actual ?? whole, 0];
    else if (r <= d) {
      actual ??= round(whole * F);
      remaining ??= Math.max(0, whole - actual);
    } else {
      actual ??= 0;
      remaining ??= material || byWork || d === 0 ? whole : round((whole * r) / d);
    }
    out.assignments.push({ length: len, work: whole, actual, remaining });
    // What is done.
    let end = state === 'finished' ? AF : (dataDate as number);
    const suspend = people.suspend[x.activity];
    if (state === 'started' && suspend !== null && suspend !== undefined && (a.resume === null || minuteOf(a.resume) > (dataDate as number)))
      end = Math.min(end, minuteOf(suspend));
    const began = Math.min(x.delay > 0 ? axis.start(axis.W(AS) + x.delay) : AS, end);
    out.begins.push(began);
    const minutes: number[] = [];
    for (let m = began; m < end; m++) if (axis.works[m]) minutes.push(m);
    if (minutes.length === 0) for (let m = began; m < end; m++) minutes.push(m);
    if (actual > 0 && minutes.length === 0) {
      target.jumps.push({ at: end, work: actual });
      laid.push({ at: end, work: actual, actual: true });
    }
    for (const m of minutes) {
      target.demand[m]! += actual / minutes.length;
      laid.push({ at: m, work: actual / minutes.length, actual: true });
    }
    if (state === 'finished') continue;
    // What is left.
    const offset = Math.max(0, x.delay - Math.max(0, d - r));
    let rest = Math.max(0, r - offset);
    if (byWork) rest = Math.min(rest, Math.ceil(remaining / milli));
    const at = Math.min(Math.max(place, 0), len);
    let shares: number[];
    if (at >= len) shares = new Array<number>(rest).fill(1 / rest);
    else {
      const n = w.length;
      const total = w.reduce((p, q) => p + q, 0);
      const ends: number[] = [];
      const left: number[] = [];
      let cumulative = 0;
      let told = (at > 0 ? F : 0) * total;
      w.forEach((v, k) => {
        cumulative += v;
        if ((k + 1) / n <= at / len + 1e-12) return;
        ends.push(round((rest * ((k + 1) / n - at / len)) / (1 - at / len)));
        left.push(Math.max(0, cumulative - told));
        told = Math.max(told, cumulative);
      });
      shares = left.some((v) => v > 1e-9) ? perMinute(rest, ends, left) : new Array<number>(rest).fill(1 / rest);
    }
    lay(pos + offset, rest === 0 ? [] : shares, remaining, r === 0 ? finish : axis.fin(pos + Math.min(offset, r)));
  }
  people.roles.forEach((availability, n) => {
    const members = resources.filter((_, i) => people.resources[i]!.role === n && people.resources[i]!.kind !== 'material');
    addUp(roles[n]!, members);
    if (availability.length) roles[n]!.capacity = capacityOf(projectAxis(plan), availability);
  });
  out.groups.forEach((group, n) =>
    addUp(
      group,
      resources.filter((_, i) => people.resources[i]!.group >= n && people.resources[i]!.kind !== 'material'),
    ),
  );
  return out;
}

const projectAxis = (plan: SmallPlan): Axis =>
  resourceAxis({ ...plan, people: { ...peopleOf(plan), resources: [{ ...peopleOf(plan).resources[0]!, calendar: 0, daysOff: [] }] } }, 0);

function addUp(to: SlowSubject, members: readonly SlowSubject[]): void {
  to.capacity = new Float64Array(MINUTES);
  for (const x of members) {
    const [demand, capacity, from, there] = [to.demand, to.capacity, x.demand, x.capacity as Float64Array];
    for (let m = 0; m < MINUTES; m++) {
      demand[m]! += from[m]!;
      capacity[m]! += there[m]!;
    }
    to.jumps.push(...x.jumps);
  }
}

/** Units in each working minute: those in force on the date of the interval that holds it, of two the one that began first. */
function capacityOf(axis: Axis, availability: { from: string; units: number }[]): Float64Array {
  const out = new Float64Array(MINUTES);
  const held = new Uint8Array(MINUTES);
  for (let day = 0; day < MINUTES / 1440; day++) {
    let units = 1;
    if (availability.length) {
      let best: { from: string; units: number } | undefined;
      const first = [...availability].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0))[0]!;
      for (const e of availability) if (minuteOf(`${e.from}T00:00`) <= day * 1440 && (!best || e.from >= best.from)) best = e;
      if (!best) for (const e of availability) if (e.from === first.from) best = e;
      units = best?.units ?? 1;
    }
    for (const [a, b] of axis.intervals(day))
      for (let m = day * 1440 + a; m < day * 1440 + b && m < MINUTES; m++) {
        if (!held[m]) out[m] = Math.round(units * 1000);
        held[m] = 1;
      }
  }
  return out;
}
