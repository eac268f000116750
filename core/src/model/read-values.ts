/** Reading single values of a project file. */
import { parseDay } from '../time/instant.ts';

const CLOCK = /^(\d{1,2}):(\d{2})$/;

/** Minutes of `HH:MM`, hours 0 to 47 (past 24 for work that runs over midnight); undefined where it is none. */
function minuteOfFile(v: unknown): number | undefined {
  const m = typeof v === 'string' ? CLOCK.exec(v) : null;
  return m && Number(m[2]) < 60 ? Number(m[1]) * 60 + Number(m[2]) : undefined;
}

/** `["20:00","28:00"]` as minutes; undefined where it is not such a pair. */
export function intervalOfFile(v: unknown): [number, number] | undefined {
  if (!Array.isArray(v) || v.length !== 2) return undefined;
  const [a, b] = v.map(minuteOfFile);
  return a === undefined || b === undefined ? undefined : [a, b];
}

export const dayOfText = (text: string): number | undefined => parseDay(text.slice(0, 10));
