/** How figures are shown, in one place. */
import { formatDuration } from '@yellowhammer/core/time/duration';
import { MINUTES_PER_DAY, civilOf, formatMinute, type Instant, parseInstant, weekdayOf } from '@yellowhammer/core/time/instant';
import { monthNames, showDay, showInstant, weekdayNames } from '@yellowhammer/core/time/typed-date';
import { tenth } from '@yellowhammer/core/time/tenths';
import { numberText } from '@yellowhammer/core/model/number-text';

const minus = (text: string): string => text.replace('-', '−');
/** A figure with at most one decimal. */
export const tenths = (n: number): string => String(tenth(n));

export const startText = (t: Instant, clock = false): string => showInstant(t, 'start', clock);
export const finishText = (t: Instant, clock = false): string => showInstant(t, 'finish', clock);

/** `Thu 7 Oct 2027` of a finish. */
export function longFinish(t: Instant): string {
  const day = Math.floor((t - 1) / MINUTES_PER_DAY);
  const c = civilOf(day);
  return `${weekdayNames[weekdayOf(day)]} ${c.day} ${monthNames[c.month - 1]} ${c.year}`;
}

/** `2 Nov 2026` of a file instant. */
export function longDate(text: string | null): string {
  const t = text === null ? undefined : parseInstant(text);
  if (t === undefined) return '';
  const c = civilOf(Math.floor(t / MINUTES_PER_DAY));
  return `${c.day} ${monthNames[c.month - 1]} ${c.year}`;
}

/** `Mon 2 Nov, 07:00`. */
export function stationText(text: string): string {
  const t = parseInstant(text);
  if (t === undefined) return text;
  const day = Math.floor(t / MINUTES_PER_DAY);
  return `${weekdayNames[weekdayOf(day)]} ${showDay(day)}, ${formatMinute(t - day * MINUTES_PER_DAY)}`;
}

export const durationText = (minutes: number, minutesPerDay: number): string => minus(formatDuration(minutes, { minutesPerDay }));
export { inDays as floatText, signedDays } from '@yellowhammer/core/fields/field';
export const money = (n: number, currency: string): string => `${numberText(n, 0)}${currency ? ` ${currency}` : ''}`;
