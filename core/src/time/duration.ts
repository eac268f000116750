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

/** Plain form that reads back to the same minutes: `10d`, `2.5d`, `1d 4h`, `30m`. */
export function formatDuration(minutes: number, c: Pick<DayLengths, 'minutesPerDay'>): string {
  if (minutes === 0) return '0d';
  const days = minutes / c.minutesPerDay;
  if (Number.isInteger(days * 4)) return `${days}d`;
  const whole = Math.trunc(Math.abs(days));
  const rest = Math.abs(minutes) - whole * c.minutesPerDay;
  const hours = rest >= 60 && rest % 30 === 0 ? rest / 60 : Math.floor(rest / 60);
  const left = Math.round(rest - hours * 60);
  const parts = [whole ? `${whole}d` : '', hours ? `${hours}h` : '', left ? `${left}m` : ''].filter(Boolean);
  return `${minutes < 0 ? '-' : ''}${parts.join(' ')}`;
}
