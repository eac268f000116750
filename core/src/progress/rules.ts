/** Rules of progress: how actual dates stand to each other and to the data date (scheduling rules, section 4). */
import type { Activity } from '../model/schema.ts';
import { parseInstant } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';

/** 24:00 and 00:00 of the next day are one instant, so texts are not compared. */
const instantAt = (text: string): number => parseInstant(text) ?? NaN;

/** Why progress fields cannot stand as they are; undefined where they can (rules, section 4). */
export function progressError(a: Activity, dataDate: string | null): string | undefined {
  for (const [field, word] of [
    ['actualStart', 'actual start'],
    ['actualFinish', 'actual finish'],
  ] as const) {
    const t = a[field];
    if (t === null) continue;
    if (dataDate === null) return 'the project has no data date yet. Set the data date before entering actual dates.';
    if (instantAt(t) > instantAt(dataDate))
      return `the ${word} ${showTypedDate(t)} lies after the data date ${showTypedDate(dataDate)}. Enter a date up to the data date, or move the data date in Update.`;
  }
  if (a.type === 'task') {
    if (a.actualFinish !== null && a.actualStart === null) return 'an actual finish needs an actual start. Enter the actual start first.';
    if (a.actualFinish !== null && a.actualStart !== null && instantAt(a.actualFinish) < instantAt(a.actualStart)) return 'the actual finish lies before the actual start.';
  }
  return undefined;
}
