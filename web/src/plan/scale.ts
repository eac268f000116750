/** The time scale of the timeline: minutes to pixels, and the ticks of its ruler. */
import { civilOf, dayOf, type Instant, MINUTES_PER_DAY, weekdayOf } from '@yellowhammer/core/time/instant';
import { monthNames } from '@yellowhammer/core/time/typed-date';

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

/** Ticks for what the zoom has room for: years, quarters, months, weeks or days. */
export function ticks(s: Scale): Tick[] {
  const day = s.ppm * MINUTES_PER_DAY;
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
    const name = room >= 76 ? longMonths[month - 1] : monthNames[month - 1];
    out.push({
      t: d * MINUTES_PER_DAY,
      label:
        step >= 12 || (month === 1 && room < 60) ? String(year) : month === 1 || (out.length === 0 && room > 90) ? `${room >= 100 ? name : monthNames[month - 1]} ${year}` : name,
      major: true,
    });
  }
  if (day >= 3.2)
    for (let d = Math.floor(s.from / MINUTES_PER_DAY); d <= last; d++) {
      const monday = weekdayOf(d) === 0;
      if (day < 16 && !monday) continue;
      out.push({ t: d * MINUTES_PER_DAY, label: day >= 16 || (monday && day >= 5) ? String(civilOf(d).day) : '', major: false });
    }
  return out;
}
