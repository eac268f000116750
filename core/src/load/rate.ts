/** Production rate: what a quantity takes (resource rules, section 3). */
import type { Activity } from '../model/schema.ts';

/** Working minutes that an activity's quantity takes at its rate; undefined where one of them is not known. Half a thousandth of a minute is forgiven. */
export function durationByRate(a: Pick<Activity, 'quantity' | 'rate' | 'crews'>, minutesPerDay: number): number | undefined {
  if (a.quantity === null || a.rate === null) return undefined;
  return Math.max(0, Math.ceil((a.quantity / (a.rate * a.crews)) * minutesPerDay - 0.001));
}

/** The rate that makes a quantity take so many working minutes; undefined where there is none. */
export function rateOf(a: Pick<Activity, 'quantity' | 'crews'>, duration: number, minutesPerDay: number): number | undefined {
  if (a.quantity === null || a.quantity === 0 || duration <= 0) return undefined;
  return (a.quantity * minutesPerDay) / (duration * a.crews);
}
