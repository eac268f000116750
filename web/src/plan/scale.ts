/** The time scale of the timeline: minutes to pixels, and the ticks of its ruler. */
import { civilOf, dayOf, formatMinute, type Instant, MINUTES_PER_DAY, weekdayOf } from '@yellowhammer/core/time/instant';
import { monthNames, weekdayNames } from '@yellowhammer/core/time/typed-date';

export interface Scale {
  from: Instant;
  /** Pixels per minute. */
  ppm: number;
  width: number;
}

export const xOf = (s: Scale, t: Instant): number => (t - s.from) * s.ppm;
export const tOf = (s: Scale, x: number): Instant => Math.round(s.from + x / s.ppm);
export const endOf = (s: Scale): Instant => s.from + s.width / s.ppm;

export interface Tick {
  t: Instant;
  label: string;
  major: boolean;
}

const longMonths = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** Width of a day from which hours are told, from which the beginnings of shifts are, and from which every day is. */
const HOURS_FROM = 96;
const SHIFTS_FROM = 64;
const DAYS_FROM = 16;

/** True where the beginnings of shifts are told between the days. */
export const tellsShifts = (s: Scale): boolean => s.ppm * MINUTES_PER_DAY >= SHIFTS_FROM && s.ppm * MINUTES_PER_DAY < HOURS_FROM;

/**
 * Ticks for what the zoom has room for: years, quarters, months, weeks, days, shifts or hours. The major ones say where
 * one is. `shifts`: when work begins, in order, where shifts are told.
 */
export function ticks(s: Scale, shifts: readonly Instant[] = []): Tick[] {
  const day = s.ppm * MINUTES_PER_DAY;
  if (tellsShifts(s) && shifts.length > 0) return shiftTicks(s, shifts);
  return day >= HOURS_FROM ? hourTicks(s, day) : monthTicks(s, day);
}

const dayTick = (d: number, long: boolean): Tick => {
  const c = civilOf(d);
  return { t: d * MINUTES_PER_DAY, label: `${weekdayNames[weekdayOf(d)]} ${c.day} ${monthNames[c.month - 1]}${long ? ` ${c.year}` : ''}`, major: true };
};

/** Days, and the beginnings of shifts between them where they are not too near each other. */
function shiftTicks(s: Scale, shifts: readonly Instant[]): Tick[] {
  const out: Tick[] = [];
  for (let d = Math.floor(s.from / MINUTES_PER_DAY); d <= Math.ceil(endOf(s) / MINUTES_PER_DAY); d++) out.push(dayTick(d, false));
  let told = -Infinity;
  for (const t of shifts) {
    const room = (t - told) * s.ppm >= 30;
    if (room) told = t;
    out.push({ t, label: room ? formatMinute(((t % MINUTES_PER_DAY) + MINUTES_PER_DAY) % MINUTES_PER_DAY) : '', major: false });
  }
  return out;
}

function hourTicks(s: Scale, day: number): Tick[] {
  const out: Tick[] = [];
  const first = Math.floor(s.from / MINUTES_PER_DAY);
  const last = Math.ceil(endOf(s) / MINUTES_PER_DAY);
  const step = [1, 2, 3, 6, 12].find((hours) => (day * hours) / 24 >= 34) ?? 24;
  for (let d = first; d <= last; d++) {
    out.push(dayTick(d, day >= 130));
    for (let h = step; h < 24; h += step) out.push({ t: d * MINUTES_PER_DAY + h * 60, label: formatMinute(h * 60), major: false });
  }
  return out;
}

function monthTicks(s: Scale, day: number): Tick[] {
  const out: Tick[] = [];
  const first = civilOf(Math.floor(s.from / MINUTES_PER_DAY));
  const last = Math.ceil(endOf(s) / MINUTES_PER_DAY);
  const step = [1, 3, 12, 24, 60, 120, 240].find((months) => day * 30 * months >= 36) ?? 480;
  for (let m = first.year * 12 + Math.floor((first.month - 1) / step) * step; ; m += step) {
    const year = Math.floor(m / 12);
    const month = (m % 12) + 1;
    const d = dayOf(year, month, 1);
    if (d > last) break;
    const room = day * 30 * step;
    const name = room >= 76 ? longMonths[month - 1]! : monthNames[month - 1]!;
    // Where days are told, each month says its year: nothing else in view would.
    const withYear = month === 1 || day >= DAYS_FROM || (out.length === 0 && room > 90);
    out.push({
      t: d * MINUTES_PER_DAY,
      label: step >= 12 || (month === 1 && room < 60) ? String(year) : withYear ? `${room >= 100 ? name : monthNames[month - 1]!} ${year}` : name,
      major: true,
    });
  }
  if (day >= 3.2)
    for (let d = Math.floor(s.from / MINUTES_PER_DAY); d <= last; d++) {
      const monday = weekdayOf(d) === 0;
      if (day < DAYS_FROM && !monday) continue;
      const label = day >= 48 ? `${weekdayNames[weekdayOf(d)]} ${civilOf(d).day}` : day >= DAYS_FROM || (monday && day >= 5) ? String(civilOf(d).day) : '';
      out.push({ t: d * MINUTES_PER_DAY, label, major: false });
    }
  return out;
}
