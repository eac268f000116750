/**
 * Instants: whole minutes of project wall-clock time since 1970-01-01T00:00, with no time zone and no
 * daylight saving. Days are whole days since 1970-01-01 (a Thursday).
 */
export type Instant = number;
export type Day = number;

export const MINUTES_PER_DAY = 1440;

/** Days since 1970-01-01 of a calendar date. Any year; month 1 to 12. (H. Hinnant, days_from_civil.) */
export function dayOf(year: number, month: number, day: number): Day {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yoe = y - era * 400;
  const doy = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const doe = yoe * 365 + Math.floor(yoe / 4) - Math.floor(yoe / 100) + doy;
  return era * 146097 + doe - 719468;
}

export interface CivilDate {
  year: number;
  month: number;
  day: number;
}

/** The inverse of `dayOf`. (H. Hinnant, civil_from_days.) */
export function civilOf(day: Day): CivilDate {
  const z = day + 719468;
  const era = Math.floor(z / 146097);
  const doe = z - era * 146097;
  const yoe = Math.floor((doe - Math.floor(doe / 1460) + Math.floor(doe / 36524) - Math.floor(doe / 146096)) / 365);
  const doy = doe - (365 * yoe + Math.floor(yoe / 4) - Math.floor(yoe / 100));
  const mp = Math.floor((5 * doy + 2) / 153);
  const month = mp < 10 ? mp + 3 : mp - 9;
  return { year: yoe + era * 400 + (month <= 2 ? 1 : 0), month, day: doy - Math.floor((153 * mp + 2) / 5) + 1 };
}

/** 0 for Monday to 6 for Sunday. */
export function weekdayOf(day: Day): number {
  return (((day + 3) % 7) + 7) % 7;
}

const isLeapYear = (year: number): boolean => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

export function daysInMonth(year: number, month: number): number {
  return [31, isLeapYear(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1] as number;
}

const FIRST_YEAR = 1990;
const LAST_YEAR = 2199;
export const FIRST_DAY: Day = dayOf(FIRST_YEAR, 1, 1);
export const LAST_DAY: Day = dayOf(LAST_YEAR, 12, 31);

const DATE = /^(\d{4})-(\d{2})-(\d{2})$/;
const STAMP = /^(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})$/;

/** Reads `YYYY-MM-DD`. Undefined where it is not a date of the calendar in 1990 to 2199. */
export function parseDay(text: string): Day | undefined {
  const m = DATE.exec(text);
  if (!m) return undefined;
  const [year, month, day] = [Number(m[1]), Number(m[2]), Number(m[3])];
  if (year < FIRST_YEAR || year > LAST_YEAR || month < 1 || month > 12) return undefined;
  if (day < 1 || day > daysInMonth(year, month)) return undefined;
  return dayOf(year, month, day);
}

/** Reads `YYYY-MM-DDTHH:MM`, hours 00 to 23 and `24:00` for the end of the day. Undefined where it is none. */
export function parseInstant(text: string): Instant | undefined {
  const m = STAMP.exec(text);
  if (!m) return undefined;
  const day = parseDay(m[1] as string);
  const minute = Number(m[2]) * 60 + Number(m[3]);
  if (day === undefined || Number(m[3]) > 59 || minute > MINUTES_PER_DAY) return undefined;
  return day * MINUTES_PER_DAY + minute;
}

const two = (n: number): string => (n < 10 ? `0${n}` : String(n));

/** `YYYY-MM-DD`. */
export function formatDay(day: Day): string {
  const c = civilOf(day);
  return `${String(c.year).padStart(4, '0')}-${two(c.month)}-${two(c.day)}`;
}

/** `HH:MM` of a minute of the day; 1440 and more are written on (`28:00`). */
export function formatMinute(minute: number): string {
  return `${two(Math.floor(minute / 60))}:${two(minute % 60)}`;
}

/** `YYYY-MM-DDTHH:MM`. */
export function formatInstant(t: Instant): string {
  const day = Math.floor(t / MINUTES_PER_DAY);
  return `${formatDay(day)}T${formatMinute(t - day * MINUTES_PER_DAY)}`;
}
