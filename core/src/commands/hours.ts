/** Working hours as people type them: `08:00-12:00, 13:00-17:00`, `20-4` for a night, empty for no work. */
import type { Interval } from '../model/schema.ts';
import { MINUTES_PER_DAY, formatMinute } from '../time/instant.ts';
import { mergeIntervals } from '../time/calendar.ts';

const PART = /^(\d{1,2})(?::?(\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?::?(\d{2}))?$/;

/** Intervals of typed hours; an end at or before its beginning lies on the next day. Undefined where they cannot be read. */
export function parseHours(text: string): Interval[] | undefined {
  const t = text.trim().toLowerCase();
  if (t === '' || t === '-' || t === 'none' || t === 'no work') return [];
  const out: Interval[] = [];
  for (const part of t.split(/[,;]/).map((p) => p.trim())) {
    const m = PART.exec(part);
    if (!m) return undefined;
    const a = Number(m[1]) * 60 + Number(m[2] ?? 0);
    let b = Number(m[3]) * 60 + Number(m[4] ?? 0);
    // `8-5` in bare hours is a working day, `20-4` a night: an end that is no later is read as of the afternoon where that fits.
    if (b <= a && m[2] === undefined && m[4] === undefined && !m[3]!.startsWith('0') && b < 720 && b + 720 > a) b += 720;
    if (b <= a) b += MINUTES_PER_DAY;
    if (a > 1439 || b > 2879 || b > a + MINUTES_PER_DAY || Number(m[2] ?? 0) > 59 || Number(m[4] ?? 0) > 59) return undefined;
    out.push([a, b]);
  }
  return mergeIntervals(out);
}

/** The hours of a day as they can be typed again; a night's end is shown as the next day's time. */
export function formatHours(work: readonly Interval[]): string {
  return work.map(([a, b]) => `${formatMinute(a)}-${formatMinute(b > MINUTES_PER_DAY ? b - MINUTES_PER_DAY : b)}`).join(', ');
}

/**
 * Hours of a day with a stretch painted on or off, in minutes of the day. Work begins on its own day, so nothing is
 * painted that would begin after midnight; a stretch that begins before it may run on into the next day.
 */
export function paintHours(work: readonly Interval[], from: number, to: number, on: boolean): Interval[] {
  const [a, b] = from <= to ? [from, to] : [to, from];
  if (on) return mergeIntervals([...work, [Math.min(a, 1439), Math.min(b, a + MINUTES_PER_DAY)] as Interval].filter(([x]) => x < MINUTES_PER_DAY && x >= 0));
  const rest = work.flatMap(([x, y]): Interval[] => [
    [x, Math.min(y, a)],
    [Math.max(x, b), y],
  ]);
  return mergeIntervals(rest.filter(([x, y]) => y > x && x < MINUTES_PER_DAY));
}
