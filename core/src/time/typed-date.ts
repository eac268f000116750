/** Dates as people type them: `today`, `12 mar`, `12 mar 27`, `2027-03-12`, `12.3.27`, `+2w`, with or without `14:30`. */
import { civilOf, type Day, dayOf, daysInMonth, formatDay, formatMinute, type Instant, MINUTES_PER_DAY, parseDay, parseInstant } from './instant.ts';

const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
export const monthNames = months.map((m) => m[0]!.toUpperCase() + m.slice(1));
export const weekdayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Reads a typed date; `near` gives the year where none is typed and the origin of `+2w`. Returns file text. */
export function parseTypedDate(text: string, near: Day, today: () => Day = dayOfToday): string | undefined {
  let t = text.trim().toLowerCase();
  let clock = '';
  const time = /\s*[t ,]\s*(\d{1,2}):(\d{2})$/.exec(t);
  if (time) {
    const minute = Number(time[1]) * 60 + Number(time[2]);
    if (minute > MINUTES_PER_DAY || Number(time[2]) > 59) return undefined;
    clock = `T${formatMinute(minute)}`;
    t = t.slice(0, time.index);
  }
  const word = { today: 0, tomorrow: 1, yesterday: -1 }[t];
  const day = word === undefined ? readDay(t, near) : inRange(today() + word);
  return day === undefined ? undefined : formatDay(day) + clock;
}

/** The date that it is where the person sits. */
export function dayOfToday(): Day {
  const now = new Date();
  return dayOf(now.getFullYear(), now.getMonth() + 1, now.getDate());
}

function readDay(t: string, near: Day): Day | undefined {
  const step = /^([+-]\d+)\s*([dwm]?)$/.exec(t);
  if (step) {
    const n = Number(step[1]);
    if (step[2] !== 'm') return inRange(near + n * (step[2] === 'w' ? 7 : 1));
    const c = civilOf(near);
    const months = c.year * 12 + c.month - 1 + n;
    return check(Math.floor(months / 12), (months % 12) + 1, Math.min(c.day, daysInMonth(Math.floor(months / 12), (months % 12) + 1)));
  }
  const iso = parseDay(t);
  if (iso !== undefined) return iso;
  const words = /^(?:(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*\.?,?\s+)?(\d{1,2})\.?\s*([a-z]{3})[a-z]*\.?(?:\s+(\d{4}|\d{2}))?$/.exec(t);
  if (words) return check(yearOf(words[3], near, months.indexOf(words[2]!) + 1, Number(words[1])), months.indexOf(words[2]!) + 1, Number(words[1]));
  const numbers = /^(\d{1,2})[./](\d{1,2})(?:[./](\d{4}|\d{2}))?[.]?$/.exec(t);
  if (numbers) return check(yearOf(numbers[3], near, Number(numbers[2]), Number(numbers[1])), Number(numbers[2]), Number(numbers[1]));
  return undefined;
}

/** Without a year the one is taken that brings the date nearest. */
function yearOf(text: string | undefined, near: Day, month: number, day: number): number {
  if (text !== undefined) return text.length === 2 ? 2000 + Number(text) : Number(text);
  const year = civilOf(near).year;
  const distance = (y: number): number => Math.abs(dayOf(y, month || 1, day) - near);
  return [year - 1, year, year + 1].sort((a, b) => distance(a) - distance(b))[0]!;
}

const inRange = (day: Day): Day | undefined => parseDay(formatDay(day));
const check = (year: number, month: number, day: number): Day | undefined =>
  month < 1 || month > 12 || day < 1 || day > daysInMonth(year, month) ? undefined : inRange(dayOf(year, month, day));

/** `12 Mar 27`. */
export function showDay(day: Day): string {
  const c = civilOf(day);
  // Two digits only where they cannot be misread.
  const year = c.year >= 2000 && c.year < 2100 ? String(c.year % 100).padStart(2, '0') : String(c.year);
  return `${c.day} ${monthNames[c.month - 1]} ${year}`;
}

/** An instant shown as a date; a finish at midnight belongs to the date that ends. */
export function showInstant(t: Instant, end: 'start' | 'finish', clock = false): string {
  const day = Math.floor((end === 'finish' ? t - 1 : t) / MINUTES_PER_DAY);
  return clock ? `${showDay(day)}, ${formatMinute(t - day * MINUTES_PER_DAY)}` : showDay(day);
}

/** A date of the file form as people read it. */
export function showTypedDate(text: string): string {
  const day = parseDay(text);
  return day !== undefined ? showDay(day) : showInstant(parseInstant(text) ?? 0, 'start', true);
}
