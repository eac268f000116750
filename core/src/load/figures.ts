/** Length, actual and remaining of an assignment (resource rules, sections 3 and 4). */
import { assignedTo, drives, isMaterial } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import type { Assignment } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import { halfUp, shareDone, weightsOf } from './spread.ts';

/** Whole thousandths of units, quantities and the like. */
export const thousandths = (n: number): number => Math.round(n * 1000);

/** How an activity stands, as far as its assignments ask for it. Minutes of its working calendar. */
export interface Standing {
  state: 'unstarted' | 'started' | 'finished';
  /** Duration; of a level of effort its span. */
  d: number;
  /** What remains of it. */
  r: number;
}

/** True for work that is counted by itself and can set the duration of its activity. */
export const drivesWork = (doc: Document, a: Pick<Activity, 'basis' | 'type'>, x: Assignment): boolean => a.type === 'task' && a.basis === 'fixedWork' && drives(doc, x);

/** Working minutes over which an assignment lies in an activity of duration `d`. */
export function lengthOf(x: Pick<Assignment, 'delay' | 'work' | 'units'>, d: number, byWork: boolean): number {
  const room = Math.max(0, d - x.delay);
  return byWork ? Math.min(room, Math.ceil(x.work / thousandths(x.units))) : room;
}

/** What there is to do: thousandths of unit-minutes, or of a material's measure. */
export function wholeOf(doc: Document, a: Pick<Activity, 'type' | 'quantity'>, x: Assignment, d: number): number {
  if (isMaterial(doc, x)) return x.quantityPer === null ? thousandths(x.quantity) : halfUp(x.quantityPer * (a.quantity ?? 0) * 1000);
  return a.type === 'levelOfEffort' ? thousandths(x.units) * Math.max(0, d - x.delay) : x.work;
}

/** The figures of one assignment, all in thousandths. */
export interface Figures {
  length: number;
  whole: number;
  actual: number;
  remaining: number;
  /** Place on its length that is reached. */
  place: number;
}

/** What is entered of an assignment's actual and remaining, in thousandths; null where nothing is. */
function entered(x: Assignment, material: boolean): { actual: number | null; remaining: number | null } {
  if (!material) return { actual: x.actualWork, remaining: x.remainingWork };
  return { actual: x.actualQuantity === null ? null : thousandths(x.actualQuantity), remaining: x.remainingQuantity === null ? null : thousandths(x.remainingQuantity) };
}

/** Actual and remaining of an assignment, as they are entered or follow from the progress of its activity. */
export function figuresOf(doc: Document, a: Activity, x: Assignment, { state, d, r }: Standing): Figures {
  const material = isMaterial(doc, x);
  const byWork = drivesWork(doc, a, x);
  const length = lengthOf(x, d, byWork);
  const whole = wholeOf(doc, a, x, d);
  const put = entered(x, material);
  if (a.type === 'levelOfEffort') {
    const place = Math.min(Math.max(d - r - x.delay, 0), length);
    const actual = length === 0 ? (state === 'finished' ? whole : 0) : halfUp(whole * shareDone(length, weightsOf(x), d - r - x.delay));
    return { length, whole, actual, remaining: whole - actual, place };
  }
  if (state === 'unstarted') return { length, whole, actual: 0, remaining: put.remaining ?? whole, place: 0 };
  if (state === 'finished') return { length, whole, actual: put.actual ?? whole, remaining: 0, place: length };
  if (r > d) {
    const grown = material || byWork || d === 0 ? whole : halfUp((whole * r) / d);
    return { length, whole, actual: put.actual ?? 0, remaining: put.remaining ?? grown, place: 0 };
  }
  const at = d - r - x.delay;
  const actual = put.actual ?? halfUp(whole * shareDone(length, weightsOf(x), at));
  return { length, whole, actual, remaining: put.remaining ?? Math.max(0, whole - actual), place: Math.min(Math.max(at, 0), length) };
}

/** What of an assignment is set aside when it is computed, in words; undefined where nothing is. */
export function asideOf(a: Activity, x: Assignment, state: Standing['state']): string | undefined {
  const actual = x.actualWork !== null || x.actualQuantity !== null || x.actualCost !== null;
  const remaining = x.remainingWork !== null || x.remainingQuantity !== null;
  if (a.type === 'levelOfEffort') return actual || remaining ? 'what is entered of a level of effort counts for nothing; it follows from its span' : undefined;
  if (state === 'unstarted' && actual) return 'its actual counts for nothing, since the activity has not started';
  return state === 'finished' && remaining ? 'what is entered as remaining counts for nothing, since the activity is finished' : undefined;
}

/** Duration that the driving assignments of fixed work make: the greatest of delay and length. Undefined where none drives. */
export function durationByWork(doc: Document, a: Pick<Activity, 'id' | 'type'>, of: (x: Assignment) => Assignment = (x) => x): number | undefined {
  let longest: number | undefined;
  for (const row of assignedTo(doc, a)) {
    const x = of(row);
    if (drives(doc, x)) longest = Math.max(longest ?? 0, x.delay + Math.ceil(x.work / thousandths(x.units)));
  }
  return longest;
}
