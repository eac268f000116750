/** Durations as people type them: `10d`, `4h`, `2w`, `30m`, `1d 4h`, `-2d`. */

export interface DayLengths {
  minutesPerDay: number;
  daysPerWeek: number;
}

/** Working minutes of a typed duration (a bare number is days); undefined where it cannot be read. */
export function parseDuration(text: string, c: DayLengths): number | undefined {
  const t = text.trim().toLowerCase().replace(/,/g, '.').replace(/−/g, '-');
  const sign = t.startsWith('-') ? -1 : 1;
  const body = t.replace(/^[+-]\s*/, '');
  if (!/^(\d+(\.\d+)?\s*[wdhm]?\s*)+$/.test(body)) return undefined;
  let minutes = 0;
  for (const [, number, unit] of body.matchAll(/(\d+(?:\.\d+)?)\s*([wdhm]?)/g)) {
    const n = Number(number);
    minutes += unit === 'w' ? n * c.minutesPerDay * c.daysPerWeek : unit === 'h' ? n * 60 : unit === 'm' ? n : n * c.minutesPerDay;
  }
  return sign * Math.round(minutes);
}

const trim = (n: number): string => String(Math.round(n * 100) / 100);

/** Shortest plain form in days: `10d`, `2.5d`; hours where days come out crooked. */
export function formatDuration(minutes: number, c: Pick<DayLengths, 'minutesPerDay'>): string {
  const days = minutes / c.minutesPerDay;
  if (minutes === 0) return '0d';
  if (Number.isInteger(days * 4)) return `${trim(days)}d`;
  const hours = minutes / 60;
  if (Math.abs(minutes) < c.minutesPerDay) return Number.isInteger(hours * 4) ? `${trim(hours)}h` : `${minutes}m`;
  const whole = Math.trunc(days);
  const rest = Math.abs(minutes - whole * c.minutesPerDay);
  return rest % 60 === 0 ? `${whole}d ${rest / 60}h` : `${Math.round(days * 10) / 10}d`;
}
