/**
 * Working calendars: an activity's own calendar cut with the working time of those who drive it (resource rules,
 * section 2). Kept as the positions of the own calendar that are taken out, so that each set of resources costs what it
 * takes out and not an axis.
 */
import type { Exception, Interval } from '../model/schema.ts';
import { AXIS_END, AXIS_START, type CompiledCalendar } from './calendar.ts';
import { type Day, type Instant, MINUTES_PER_DAY } from './instant.ts';
import { lastNotAbove, type ResourceTime } from './patched.ts';
import type { WorkCalendar } from './work-calendar.ts';

/** A cut that leaves no work for so long does not count there. */
const LONGEST_AWAY = 400 * MINUTES_PER_DAY;

/** Who cuts a calendar. */
export interface Cutter {
  id: string;
  name: string;
  time: ResourceTime;
}

/** What is left of sorted stretches when others are taken off. */
function without(stretches: readonly Interval[], off: readonly Interval[]): Interval[] {
  const out: Interval[] = [];
  let i = 0;
  for (const [a, b] of stretches) {
    let at = a;
    while (i < off.length && off[i]![1] <= a) i++;
    for (let j = i; j < off.length && off[j]![0] < b; j++) {
      if (off[j]![0] > at) out.push([at, off[j]![0]]);
      at = Math.max(at, off[j]![1]);
    }
    if (at < b) out.push([at, b]);
  }
  return out;
}

const differences = new WeakMap<CompiledCalendar, WeakMap<CompiledCalendar, readonly Interval[]>>();

/** When one calendar works and another does not, on the whole axis. Found once for each pair. */
function difference(own: CompiledCalendar, other: CompiledCalendar): readonly Interval[] {
  if (own === other) return [];
  let known = differences.get(own);
  if (!known) differences.set(own, (known = new WeakMap()));
  let list = known.get(other);
  if (!list) known.set(other, (list = without(own.stretches(AXIS_START, AXIS_END), other.stretches(AXIS_START, AXIS_END))));
  return list;
}

/** Positions of a calendar that a resource's time takes out of it, in order. */
export function lossOf(own: CompiledCalendar, time: ResourceTime): Interval[] {
  const plain = difference(own, time.base);
  const lost: Interval[] = time.windows.length ? without(plain, time.windows) : [...plain];
  for (const [from, to] of time.windows) lost.push(...without(own.stretches(from, to), time.stretches(from, to)));
  if (time.windows.length) lost.sort((a, b) => a[0] - b[0]);
  return lost.map(([a, b]) => [own.position(a), own.position(b)]);
}

export class CutCalendar implements WorkCalendar {
  readonly id: string;
  readonly name: string;
  readonly minutesPerDay: number;
  readonly daysPerWeek: number;
  readonly total: number;
  readonly own: CompiledCalendar;
  readonly cutters: readonly Cutter[];
  /** Stretches of 400 days or more in which the cut would leave nothing, and the own calendar holds. */
  readonly blanks: Interval[] = [];
  /** Where each piece that is taken out begins and ends on the own axis, how much goes before it, and where it lies on this one. */
  private readonly from: Int32Array;
  private readonly to: Int32Array;
  private readonly gone: Int32Array;
  private readonly at: Int32Array;

  constructor(own: CompiledCalendar, cutters: readonly Cutter[], losses: readonly (readonly Interval[])[]) {
    this.own = own;
    this.cutters = cutters;
    this.id = own.id;
    this.name = own.name;
    this.minutesPerDay = own.minutesPerDay;
    this.daysPerWeek = own.daysPerWeek;
    const all = losses.length === 1 ? losses[0]! : losses.flat().sort((a, b) => a[0] - b[0]);
    const [from, to]: [number[], number[]] = [[], []];
    for (const [a, b] of all) {
      if (b <= a) continue;
      const last = to.length - 1;
      if (last >= 0 && a <= to[last]!) to[last] = Math.max(to[last]!, b);
      else {
        from.push(a);
        to.push(b);
      }
    }
    const kept = from.flatMap((a, i) => {
      const away: Interval = [own.finishInstant(a), own.startInstant(to[i]!)];
      if (away[1] - away[0] < LONGEST_AWAY) return [i];
      this.blanks.push(away);
      return [];
    });
    this.from = Int32Array.from(kept, (i) => from[i]!);
    this.to = Int32Array.from(kept, (i) => to[i]!);
    this.gone = new Int32Array(kept.length + 1);
    this.at = new Int32Array(kept.length);
    for (let i = 0; i < kept.length; i++) {
      this.at[i] = this.from[i]! - this.gone[i]!;
      this.gone[i + 1] = this.gone[i]! + this.to[i]! - this.from[i]!;
    }
    this.total = own.total - this.gone[kept.length]!;
  }

  position(t: Instant): number {
    const p = this.own.position(t);
    const i = lastNotAbove(this.from, p - 1);
    return i < 0 ? p : p < this.to[i]! ? this.at[i]! : p - this.gone[i + 1]!;
  }

  finishInstant(q: number): Instant {
    return this.own.finishInstant(q <= 0 ? 0 : q + this.gone[lastNotAbove(this.at, q - 1) + 1]!);
  }

  startInstant(q: number): Instant {
    return q < 0 ? AXIS_START : this.own.startInstant(q + this.gone[lastNotAbove(this.at, q) + 1]!);
  }

  isWorking(t: Instant): boolean {
    return this.position(t + 1) > this.position(t);
  }

  stretches(from: Instant, to: Instant): Interval[] {
    const out: Interval[] = [];
    for (const [a, b] of this.own.stretches(from, to)) {
      const [p, q] = [this.own.position(a), this.own.position(b)];
      let at = p;
      for (let i = Math.max(lastNotAbove(this.from, p), 0); i < this.from.length && this.from[i]! < q; i++) {
        if (this.to[i]! <= at) continue;
        if (this.from[i]! > at) out.push([a + at - p, a + this.from[i]! - p]);
        at = Math.max(at, this.to[i]!);
      }
      if (at < q) out.push([a + at - p, b]);
    }
    return out;
  }

  longStop(from: Instant, to: Instant, days: number): { from: Instant; to: Instant } | undefined {
    let at = from;
    for (const [a, b] of this.stretches(from, to)) {
      if (a - at >= days * MINUTES_PER_DAY) return { from: at, to: a };
      at = b;
    }
    return to - at >= days * MINUTES_PER_DAY ? { from: at, to } : undefined;
  }

  intervalsOn(day: Day): readonly Interval[] {
    return this.own.intervalsOn(day);
  }

  exceptionOnDay(day: Day): Exception | undefined {
    return this.own.exceptionOnDay(day);
  }

  /** Who takes work out of a day on which the own calendar works, with the name of the day off where it is one. */
  awayOn(day: Day): { name: string; dayOff: string }[] {
    const [from, to] = [day * MINUTES_PER_DAY, (day + 1) * MINUTES_PER_DAY];
    const worked = this.own.stretches(from, to);
    return this.cutters.flatMap(({ name, time }) => (without(worked, time.stretches(from, to)).length > 0 ? [{ name, dayOff: time.dayOff(day)?.name ?? '' }] : []));
  }
}
