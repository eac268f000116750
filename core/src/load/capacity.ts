/** What is there: units in force, on working time (resource rules, section 1). All in thousandths of units. */
import type { Availability } from '../model/resource-schema.ts';
import { type Instant, MINUTES_PER_DAY, parseDay, type Day } from '../time/instant.ts';
import { lastNotAbove, type ResourceTime } from '../time/patched.ts';
import { thousandths } from './figures.ts';
import { noSteps, type Steps, StepList } from './steps.ts';

/** Entries by date: sorted, of one date the last; the first holds before its date as well. */
export function inForce<E extends { from: string }>(entries: readonly E[]): { day: Day; entry: E }[] {
  const byDay = new Map<Day, E>();
  for (const e of entries) byDay.set(parseDay(e.from) ?? 0, e);
  return [...byDay].sort((a, b) => a[0] - b[0]).map(([day, entry]) => ({ day, entry }));
}

/** The instant at which a date's entry takes over: the work that began on the day before is done on the old one. */
export function takesOver(time: Pick<ResourceTime, 'intervalsOn'>, day: Day): Instant {
  let at = day * MINUTES_PER_DAY;
  for (const [, to] of time.intervalsOn(day - 1)) at = Math.max(at, (day - 1) * MINUTES_PER_DAY + to);
  return at;
}

export class Capacity {
  private readonly time: ResourceTime;
  /** Where each number of units begins (the first: from ever), how many, and capacity before it. */
  private readonly from: number[] = [-Infinity];
  private readonly units: number[] = [];
  private readonly before: number[] = [0];
  private readonly start: number[] = [0];

  constructor(time: ResourceTime, availability: readonly Availability[]) {
    this.time = time;
    const entries = inForce(availability);
    if (entries.length === 0) this.units.push(1000);
    entries.forEach(({ day, entry }, i) => {
      if (i > 0) {
        const at = takesOver(time, day);
        const p = time.position(at);
        this.before.push(this.before[i - 1]! + this.units[i - 1]! * (p - this.start[i - 1]!));
        this.start.push(p);
        this.from.push(at);
      }
      this.units.push(thousandths(entry.units));
    });
  }

  /** Capacity from ever to an instant, in thousandths of unit-minutes. */
  until(t: Instant): number {
    const i = lastNotAbove(this.from, t);
    return this.before[i]! + this.units[i]! * (this.time.position(t) - this.start[i]!);
  }

  /** Most units in force between two instants. */
  greatest(from: Instant, to: Instant): number {
    let most = 0;
    for (let i = Math.max(lastNotAbove(this.from, from), 0); i < this.from.length && this.from[i]! < to; i++) most = Math.max(most, this.units[i]!);
    return most;
  }

  /** Units over the working time of a span. */
  steps(from: Instant, to: Instant): Steps {
    if (to <= from) return noSteps;
    const out = new StepList();
    for (let i = Math.max(lastNotAbove(this.from, from), 0); i < this.from.length && this.from[i]! < to; i++) {
      if (this.units[i] === 0) continue;
      for (const [a, b] of this.time.stretches(Math.max(from, this.from[i]!), Math.min(to, this.from[i + 1] ?? to))) out.add(a, b, this.units[i]!);
    }
    return out;
  }
}
