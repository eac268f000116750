/** Load figures in words, once for the screen, tips, lists and CSV. */
import type { Instant } from '../time/instant.ts';
import { showInstant } from '../time/typed-date.ts';
import type { Bucketed, Run } from './curve.ts';
import { hoursOf } from './hours.ts';
import type { LoadRow } from './table.ts';
import { numberText } from '../model/number-text.ts';

/** Hours of thousandths of unit-minutes: `162`. */
export const hoursText = (work: number): string => numberText(hoursOf(work), 1);
/** Units of thousandths: `2.7`; three decimals where they are needed. */
export const unitsText = (milli: number): string => String(Math.round(milli) / 1000);
const oneDecimal = (milli: number): string => String(Math.round(milli / 100) / 10);

/** Mean units of a bucket: its share of what is there, on the units that are there. Null where nothing is. */
const meanUnits = (cell: Bucketed, there: number | null): number | null =>
  cell.capacity === null || cell.capacity === 0 || there === null ? null : (cell.demand / cell.capacity) * there;

/** What a cell shows: mean units, greatest units, or both; a quantity of a material. */
export function cellText(cell: Bucketed, row: Pick<LoadRow, 'there' | 'unit'>, show: 'mean' | 'peak' | 'both'): string {
  if (cell.demand === 0 && cell.peak === 0) return '';
  if (row.unit !== null) return oneDecimal(cell.demand);
  const mean = meanUnits(cell, row.there);
  const peak = oneDecimal(cell.peak);
  if (show === 'peak' || mean === null) return peak;
  return show === 'mean' ? oneDecimal(mean) : `${oneDecimal(mean)}/${peak}`;
}

/** The share by which a cell is shaded, 0 to 1. */
export function shareOf(cell: Bucketed, row: Pick<LoadRow, 'there'>, show: 'mean' | 'peak' | 'both'): number {
  if (cell.capacity === null) return cell.demand > 0 ? 0.4 : 0;
  const share = show === 'peak' ? cell.peak / (row.there || 1) : cell.capacity > 0 ? cell.demand / cell.capacity : cell.demand > 0 ? 1 : 0;
  return Math.min(Math.max(share, 0), 1);
}

const stamp = (t: Instant, end: 'start' | 'finish'): string => showInstant(t, end, true);

/** `4 of 3, 4 Mar 26, 13:00 to 5 Mar 26, 12:00`: a run where it is greatest. */
export const runText = (run: Pick<Run, 'from' | 'to' | 'demand' | 'there'>): string =>
  `${hundredth(run.demand)} of ${hundredth(run.there)}, ${stamp(run.from, 'start')} to ${stamp(run.to, 'finish')}`;
const hundredth = (milli: number): string => unitsText(Math.round(milli / 10) * 10);

/** Per cent of the full shade for a share: light enough for dark letters, or dark enough for light ones. */
export const shadeFor = (share: number): { percent: number; dark: boolean } =>
  share > 0.62 ? { percent: Math.round(92 + (share - 0.62) * 21), dark: true } : { percent: Math.round(share * 85), dark: false };

/** What a bucket says in a sentence: `162 of 180 h: 90 %, yet over the limit inside it`. */
export function cellSentence(cell: Bucketed, unit: string | null): string {
  if (unit !== null) return `${oneDecimal(cell.demand)} ${unit}`.trim();
  if (cell.state === 'free') return cell.capacity ? `free: ${hoursText(cell.capacity)} h are there` : 'nobody is there, and nobody is asked for';
  if (cell.state === 'away') return `${hoursText(cell.demand)} h are asked for while nobody works`;
  const share = cell.capacity ? ` (${Math.round((cell.demand / cell.capacity) * 100)} %)` : '';
  const of = `${hoursText(cell.demand)} of ${hoursText(cell.capacity ?? 0)} h${share}`;
  if (cell.hiddenPeak) return `${of}, yet ${unitsText(cell.peak)} at once: over the limit inside it`;
  if (cell.state === 'over') return `${of}: ${hoursText(cell.over)} h over the limit, ${unitsText(cell.peak)} at once`;
  return cell.state === 'full' ? `${of}: full` : `${of}: room for ${hoursText((cell.capacity ?? 0) - cell.demand)} h`;
}
