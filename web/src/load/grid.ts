/** What tables of buckets have in common: how their heads are called, and how they are walked. */
import type { BucketKind } from '@yellowhammer/core/load/buckets';
import { civilOf, MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { monthNames } from '@yellowhammer/core/time/typed-date';

/** What the kinds of buckets are called where one is chosen. */
export const bucketTitles: Record<BucketKind, string> = {
  hour: 'Hour',
  shift: 'Shift',
  day: 'Day',
  week: 'Week',
  month: 'Month',
  quarter: 'Quarter',
  year: 'Year',
  period: 'Updates',
};

export interface Place {
  row: number;
  column: number;
}

/** Small label of a bucket under its month. */
export function shortName(kind: BucketKind, from: number): string {
  const day = Math.floor(from / MINUTES_PER_DAY);
  const c = civilOf(day);
  const minute = from - day * MINUTES_PER_DAY;
  if (kind === 'hour' || kind === 'shift') return `${c.day}. ${String(Math.floor(minute / 60)).padStart(2, '0')}h`;
  if (kind === 'month') return monthNames[c.month - 1] ?? '';
  if (kind === 'quarter') return `Q${Math.floor((c.month - 1) / 3) + 1}`;
  return kind === 'year' ? String(c.year) : String(c.day);
}

/** What stands over the small labels where it begins: the month, or the year. */
export function overName(kind: BucketKind, from: number, before: number | undefined): string {
  const of = (t: number): string => {
    const c = civilOf(Math.floor(t / MINUTES_PER_DAY));
    return kind === 'month' || kind === 'quarter' ? String(c.year) : kind === 'year' ? '' : `${monthNames[c.month - 1] ?? ''} ${String(c.year).slice(2)}`;
  };
  return before === undefined || of(before) !== of(from) ? of(from) : '';
}

/** The cell that a key leads to; undefined where it leads nowhere. */
export function walked(key: string, from: Place | null, rows: number, columns: number): Place | undefined {
  const step: Record<string, [number, number]> = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0], PageDown: [10, 0], PageUp: [-10, 0] };
  const by = step[key];
  const at = from ?? { row: 0, column: 0 };
  if (by) return { row: Math.min(Math.max(at.row + by[0], 0), rows - 1), column: Math.min(Math.max(at.column + by[1], 0), columns - 1) };
  return key === 'Home' ? { ...at, column: 0 } : key === 'End' ? { ...at, column: columns - 1 } : undefined;
}
