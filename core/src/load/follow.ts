/**
 * What follows what: duration, units and work of one activity and its assignments agree after each edit (resource
 * rules, section 3, its table row by row). Works on copies; what changed is read from them afterwards.
 */
import { assignedTo, assigneeOf, drives, isMaterial } from '../model/assigned.ts';
import { type Document, labelOf } from '../model/document.ts';
import { assignmentDefaults, type Assignment } from '../model/resource-schema.ts';
import { type Activity, MAX_DURATION } from '../model/schema.ts';
import { parseInstant } from '../time/instant.ts';
import { figuresOf, lengthOf, type Standing, thousandths } from './figures.ts';
import { durationByRate, rateOf } from './rate.ts';

/** An edit that cannot be taken, with the sentence that says why. */
export class Refusal extends Error {}

const MOST_WORK = 9e15;

/** Units in whole thousandths as they are stored. */
const asUnits = (milli: number): number => milli / 1000;

export class Work {
  a: Activity;
  /** The assignments that count, in order. */
  list: Assignment[];
  /** Length and units of each before the edit. */
  private readonly was: ReadonlyMap<string, { length: number; units: number }>;
  private readonly doc: Document;
  private readonly minutesPerDay: number;
  private touched = false;

  /** `minutesPerDay`: of the activity's own calendar. */
  constructor(doc: Document, a: Activity, minutesPerDay: number) {
    this.doc = doc;
    this.a = a;
    this.minutesPerDay = minutesPerDay;
    this.list = [...assignedTo(doc, a)];
    this.was = new Map(this.list.map((x) => [x.id, { length: lengthOf(x, a.duration, false), units: x.units }]));
  }

  private get started(): boolean {
    return this.a.type === 'task' && this.a.actualStart !== null && this.a.actualFinish === null && parseInstant(this.a.actualStart) !== undefined;
  }

  private get byWork(): boolean {
    return this.a.type === 'task' && this.a.basis === 'fixedWork';
  }

  private drives(x: Assignment): boolean {
    return drives(this.doc, x);
  }

  private material(x: Assignment): boolean {
    return isMaterial(this.doc, x);
  }

  /** Roles are work of people, as labour is. */
  private labour(x: Assignment): boolean {
    const who = assigneeOf(this.doc, x);
    return x.roleId !== null || (who !== undefined && 'kind' in who && who.kind === 'labour');
  }

  private name(x: Assignment): string {
    return assigneeOf(this.doc, x)?.name ?? '';
  }

  private refuse(text: string): never {
    throw new Refusal(`${labelOf(this.a)}: ${text}`);
  }

  private put(x: Assignment, fields: Partial<Assignment>): Assignment {
    const next = { ...x, ...fields };
    const at = this.list.findIndex((y) => y.id === x.id);
    this.list[at] = next;
    return next;
  }

  /** Before the first edit of started work: what is done is written down as it follows before the edit. */
  private begin(): void {
    if (this.touched) return;
    this.touched = true;
    if (!this.started) return;
    const standing: Standing = { state: 'started', d: this.a.duration, r: this.a.remaining ?? this.a.duration };
    for (const x of [...this.list]) {
      const { actual } = figuresOf(this.doc, this.a, x, standing);
      if (this.material(x)) {
        if (x.actualQuantity === null) this.put(x, { actualQuantity: asUnits(actual) });
      } else if (x.actualWork === null) this.put(x, { actualWork: actual });
    }
  }

  /** A new duration; what is done of started work stays. */
  private moveDuration(d: number): void {
    if (d > MAX_DURATION) this.refuse('it would be longer than a plan can be.');
    const { a } = this;
    if (d === a.duration) return;
    if (this.started && a.remaining !== null) {
      const done = a.duration - a.remaining;
      const next = done > 0 ? Math.max(d, done) : d;
      this.a = { ...a, duration: next, remaining: Math.max(0, a.remaining + next - a.duration) };
    } else this.a = { ...a, duration: d };
  }

  /** Work of all but the driving ones on fixed work is units x length; work that was typed stays where nothing of it moved. */
  private workFollows(): void {
    for (const x of [...this.list]) {
      if (this.material(x)) continue;
      if (this.a.type === 'levelOfEffort') {
        this.put(x, { work: 0 });
        continue;
      }
      const was = this.was.get(x.id);
      const length = lengthOf(x, this.a.duration, false);
      if (was?.length === length && was.units === x.units && length > 0 && Math.floor(x.work / length) === thousandths(x.units)) continue;
      if (!(this.byWork && this.drives(x))) this.put(x, { work: this.workFor(x) });
    }
  }

  private workFor(x: Assignment): number {
    const work = thousandths(x.units) * lengthOf(x, this.a.duration, false);
    if (work > MOST_WORK) this.refuse(`${this.name(x)} would have more work than can be counted.`);
    return work;
  }

  /** Duration of fixed work: the greatest of delay and length of the driving ones. Where none drives it stays. */
  private durationFollows(): void {
    if (!this.byWork) return;
    let longest: number | undefined;
    for (const x of this.list) if (this.drives(x) && !this.material(x)) longest = Math.max(longest ?? 0, x.delay + Math.ceil(x.work / thousandths(x.units)));
    if (longest !== undefined) this.moveDuration(longest);
  }

  /** Units that follow from work over a length, rounded down. */
  private unitsFollow(x: Assignment, length: number): void {
    if (x.work === 0) return;
    if (length <= 0) this.refuse(`${this.name(x)} would have work without any length. Give the activity a duration first.`);
    const milli = Math.floor(x.work / length);
    if (milli < 1) this.refuse(`${this.name(x)} would be less than 0.001 units. Give more work, or a shorter time.`);
    if (milli > 1_000_000_000) this.refuse(`${this.name(x)} would be more than 1,000,000 units. Give less work, or a longer time.`);
    this.put(x, { units: asUnits(milli) });
  }

  setDuration(d: number): this {
    this.begin();
    const before = this.a.duration;
    this.moveDuration(d);
    const now = this.a.duration;
    if (this.byWork) {
      for (const x of [...this.list]) {
        if (!this.drives(x) || this.material(x) || x.work === 0) continue;
        const [old, next] = [before - x.delay, now - x.delay];
        const length = old > 0 ? Math.ceil((lengthOf(x, before, true) * next) / old) : next;
        this.unitsFollow(x, length);
      }
    } else if (this.a.basis === 'productionRate' && this.a.type === 'task' && this.a.quantity !== null && this.a.quantity > 0) {
      const rate = rateOf(this.a, now, this.minutesPerDay);
      if (rate === undefined || rate > 1e9) this.refuse('a quantity cannot be done in no time. Take the quantity away first, or give a duration.');
      this.a = { ...this.a, rate };
    }
    this.workFollows();
    return this;
  }

  setUnits(id: string, units: number): this {
    this.begin();
    this.put(this.of(id), { units });
    this.settle();
    return this;
  }

  setWork(id: string, work: number): this {
    this.begin();
    const row = this.of(id);
    if (this.material(row)) this.refuse(`${this.name(row)} is a material; it has a quantity instead of work.`);
    if (this.a.type === 'levelOfEffort') this.refuse('the work of a level of effort follows from its span. Type the units instead.');
    const x = this.put(row, { work });
    if (this.byWork && this.drives(x)) {
      this.settle();
      return this;
    }
    this.unitsFollow(x, lengthOf(x, this.a.duration, false));
    return this;
  }

  setDelay(id: string, delay: number): this {
    this.begin();
    this.put(this.of(id), { delay });
    this.settle();
    return this;
  }

  setDrives(id: string, drives: boolean): this {
    this.begin();
    const row = this.of(id);
    // No rule of rows: what a file or an older program says of a material counts for nothing, and can be brought back as it was.
    if (drives && this.material(row)) this.refuse(`${this.name(row)} is a material; it has no working time that the work could wait for.`);
    this.put(row, { drives });
    // What no longer sets the duration is units x length of what the others make of it.
    this.durationFollows();
    this.workFollows();
    return this;
  }

  /** `own`: on fixed work it brings its own work, instead of taking a part of what is there. */
  add(row: Assignment, own = false): this {
    this.begin();
    const x: Assignment = { ...row, drives: row.drives && !this.material(row) };
    if (this.list.some((y) => y.resourceId === x.resourceId && y.roleId === x.roleId && y.delay === x.delay))
      this.refuse(`${this.name(x)} is assigned with the same delay already. Change its units instead.`);
    this.list.push(x);
    if (this.material(x)) return this;
    const others = this.list.filter((y) => y.id !== x.id && this.drives(y) && this.labour(y));
    if (this.byWork && this.drives(x) && this.labour(x) && others.length > 0 && !own) {
      this.put(x, { work: 0 });
      this.part(others.reduce((n, y) => n + y.work, 0));
    } else this.put(x, { work: this.a.type === 'levelOfEffort' ? 0 : this.workFor(x) });
    this.settle();
    return this;
  }

  /** `own`: on fixed work it takes its own work with it, instead of leaving it to the others. */
  remove(id: string, own = false): this {
    this.begin();
    const x = this.of(id);
    this.list = this.list.filter((y) => y.id !== id);
    const others = this.list.filter((y) => this.drives(y) && this.labour(y));
    if (this.byWork && this.drives(x) && this.labour(x) && others.length > 0 && !own) this.part(x.work + others.reduce((n, y) => n + y.work, 0));
    this.settle();
    return this;
  }

  /** Parts a sum of work among the driving labour by units; what is left over goes to the first. */
  private part(sum: number): void {
    const all = this.list.filter((y) => this.drives(y) && this.labour(y));
    const units = all.reduce((n, y) => n + thousandths(y.units), 0);
    let left = sum;
    const shares = all.map((y) => {
      const share = Number((BigInt(sum) * BigInt(thousandths(y.units))) / BigInt(units));
      left -= share;
      return share;
    });
    all.forEach((y, i) => this.put(y, { work: shares[i]! + (i === 0 ? left : 0) }));
  }

  setQuantity(fields: Partial<Pick<Activity, 'quantity' | 'rate' | 'quantityUnit'>>): this {
    this.begin();
    this.a = { ...this.a, ...fields };
    this.rateFollows();
    return this;
  }

  setCrews(crews: number): this {
    this.begin();
    const before = this.a.crews;
    this.a = { ...this.a, crews };
    if (this.a.basis !== 'productionRate' || this.a.type !== 'task') return this;
    for (const x of [...this.list]) {
      if (!this.drives(x) || this.material(x)) continue;
      const milli = Math.floor((thousandths(x.units) * crews) / before + 1e-9);
      if (milli < 1) this.refuse(`${this.name(x)} would be less than 0.001 units.`);
      this.put(x, { units: asUnits(milli) });
    }
    this.rateFollows();
    return this;
  }

  private rateFollows(): void {
    const d = this.a.basis === 'productionRate' && this.a.type === 'task' ? durationByRate(this.a, this.minutesPerDay) : undefined;
    if (d !== undefined) this.moveDuration(d);
    this.workFollows();
  }

  /** Another basis: duration and works stay, units and rate follow from them. */
  setBasis(basis: Activity['basis']): this {
    this.begin();
    this.a = { ...this.a, basis };
    if (this.a.type !== 'task') return this;
    for (const x of [...this.list]) {
      if (this.material(x) || (this.byWork && this.drives(x))) continue;
      if (x.work !== thousandths(x.units) * lengthOf(x, this.a.duration, false)) this.unitsFollow(x, lengthOf(x, this.a.duration, false));
    }
    const rate = basis === 'productionRate' ? rateOf(this.a, this.a.duration, this.minutesPerDay) : undefined;
    if (rate !== undefined && durationByRate(this.a, this.minutesPerDay) !== this.a.duration) this.a = { ...this.a, rate: Math.min(rate, 1e9) };
    return this;
  }

  /** Another type of activity: a level of effort stores no work. */
  setType(type: Activity['type']): this {
    this.begin();
    this.a = { ...this.a, type };
    this.settle();
    return this;
  }

  private settle(): void {
    this.durationFollows();
    this.workFollows();
  }

  private of(id: string): Assignment {
    const x = this.list.find((y) => y.id === id);
    if (!x) return this.refuse('that assignment is not there any more.');
    return x;
  }
}

/** A new assignment of so many units. */
export const plainAssignment = (id: string, activityId: string, to: { resourceId: string | null; roleId: string | null }, units: number, rank: number): Assignment => ({
  ...assignmentDefaults,
  id,
  rank,
  activityId,
  ...to,
  units,
});
