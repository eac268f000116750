/** Dates and constraints as they are typed into fields. */
import { type Document } from '../model/document.ts';
import { type Activity, type Constraint, constraintKinds } from '../model/schema.ts';
import { constraintObjection } from '../rules/activity.ts';
import { calendarFor } from '../schedule/calendars.ts';
import { constraintNames } from '../schedule/constraints.ts';
import { formatInstant, parseDay } from '../time/instant.ts';
import { parseTypedDate, showTypedDate } from '../time/typed-date.ts';
import { statusDay } from '../model/status-day.ts';

/** A typed date in file form, with a clock time where one was typed. */
export const typedDate = (doc: Document, text: string): string | undefined => parseTypedDate(text, statusDay(doc));
export const unreadableDate = (text: string): string => `the date ${text} cannot be read. Type it as 12 mar 2027.`;

/** A typed date as an instant in the activity's calendar: the beginning or the end of that day's work. */
export function typedInstant(doc: Document, a: Pick<Activity, 'calendarId'>, text: string, end: 'start' | 'finish'): string | undefined {
  const t = typedDate(doc, text);
  if (t === undefined || t.length > 10) return t;
  const c = calendarFor(doc, a);
  const day = parseDay(t) as number;
  if (!c) return `${t}T00:00`;
  return formatInstant(end === 'start' ? c.beginningOf(day) : c.endOf(day));
}

export function showConstraint(c: Constraint): string {
  return c.date === null ? constraintNames[c.kind] : `${constraintNames[c.kind]} ${showTypedDate(c.date)}`;
}

/** Reads `start not before 12 mar`; a list is parted by commas. */
export function parseConstraints(doc: Document, text: string): { constraints: Constraint[] } | { error: string } {
  const constraints: Constraint[] = [];
  for (const part of text
    .split(/[,;]/)
    .map((p) => p.trim())
    .filter(Boolean)) {
    const kind = [...constraintKinds].sort((a, b) => constraintNames[b].length - constraintNames[a].length).find((k) => part.toLowerCase().startsWith(constraintNames[k]));
    if (!kind) return { error: `${part} is no constraint. Type one of: ${constraintKinds.map((k) => constraintNames[k]).join(', ')}, with a date.` };
    const rest = part.slice(constraintNames[kind].length).trim();
    if (kind === 'asLateAsPossible') {
      if (rest) return { error: 'As late as possible takes no date.' };
      constraints.push({ kind, date: null });
      continue;
    }
    const date = typedDate(doc, rest);
    if (date === undefined) return { error: rest ? `The date ${rest} cannot be read. Type it as 12 mar 2027.` : `Type a date after ${constraintNames[kind]}.` };
    constraints.push({ kind, date });
  }
  const error = constraintObjection(constraints);
  return error ? { error } : { constraints };
}

/** An address on the web as it was typed, with its beginning where that was left out; undefined where it is none. */
export function readAddress(text: string): string | undefined {
  // Who leaves the beginning out means the usual one.
  const address = /^[a-z][a-z0-9+.-]*:/i.test(text) ? text : `https://${text}`;
  return /^https?:\/\/[^\s]+\.[^\s]+$|^https?:\/\/localhost\S*$/i.test(address) && address.length <= 2000 ? address : undefined;
}
