/**
 * Shared calendars: one kept for all projects. A project that uses one holds a complete copy of it, which names it by
 * `sharedId`, so that its file computes the same anywhere. A shared calendar is a calendar row whose `sharedId` is its
 * own id; what it is based on is a shared calendar too.
 */
import { Draft, sameValue } from '../change/change.ts';
import { type Document, projectOf } from '../model/document.ts';
import { type Calendar, MAX_NAME } from '../model/schema.ts';
import { unusedName } from '../model/unused-name.ts';
import { compileCalendar, resolveCalendar } from '../schedule/calendars.ts';
import type { CalendarDefinition } from '../time/calendar.ts';
import { differingDays } from '../time/calendar-days.ts';
import { dayOf } from '../time/instant.ts';
import { done, type NewId, type Outcome, refused } from './result.ts';

export type SharedCalendars = ReadonlyMap<string, Calendar>;

const contentOf = (c: CalendarDefinition): unknown => [c.week, c.exceptions, c.hoursPerDay, c.daysPerWeek];

/** True where two calendars, each with what it is based on, say the same of every day. Names do not count. */
export function sameContent(a: CalendarDefinition | undefined, b: CalendarDefinition | undefined): boolean {
  return a === b || (a !== undefined && b !== undefined && sameValue(contentOf(a), contentOf(b)));
}

/** How a project's calendar stands to the shared one that it is a copy of. */
export function sharedState(doc: Document, row: Calendar, shared: SharedCalendars): 'own' | 'same' | 'differs' | 'gone' {
  if (row.sharedId === null) return 'own';
  if (!shared.has(row.sharedId)) return 'gone';
  return sameContent(resolveCalendar(doc.calendars, row.id), resolveCalendar(shared, row.sharedId)) ? 'same' : 'differs';
}

const rowOfShared = (draft: Draft, sharedId: string): Calendar | undefined => draft.rows('calendars').find((c) => c.sharedId === sharedId);

/** Makes a project's copy of a shared calendar what the shared one is; it and what it is based on are added where they are not there. Returns the row's id. */
export function putSharedCalendar(draft: Draft, shared: SharedCalendars, sharedId: string, newId: NewId, into?: string, depth = 0): string | null {
  const source = shared.get(sharedId);
  if (!source || depth > 100) return null;
  const own = into === undefined ? rowOfShared(draft, sharedId) : draft.get('calendars', into);
  const id = own?.id ?? (draft.doc.calendars.has(sharedId) || draft.get('calendars', sharedId) ? newId() : sharedId);
  const ranks = [...draft.doc.calendars.values()].map((c) => c.rank);
  const basedOn = source.basedOn === null ? null : putSharedCalendar(draft, shared, source.basedOn, newId, undefined, depth + 1);
  // Names are unique in a project: where another calendar has it already, the copy gets a number behind its name.
  const name = freeCalendarName(
    draft.rows('calendars').filter((c) => c.id !== id),
    source.name,
  );
  draft.set('calendars', id, { ...source, id, name, rank: own?.rank ?? Math.max(-1, ...ranks) + 1 + depth, basedOn, sharedId });
  return id;
}

/** A project calendar of the same name that is no copy of the shared one. */
const ofThatName = (doc: Document, source: Calendar): Calendar | undefined =>
  [...doc.calendars.values()].find((c) => c.sharedId !== source.id && c.name.toLowerCase() === source.name.toLowerCase());

/** Brings a shared calendar into a project, or makes the copy that is there what the shared one is now. */
export function takeShared(doc: Document, shared: SharedCalendars, sharedId: string, newId: NewId): Outcome {
  const source = shared.get(sharedId);
  if (!source) return refused('UNKNOWN_CALENDAR', 'That shared calendar is not there any more.');
  const other = ofThatName(doc, source);
  if (other && sameContent(resolveCalendar(doc.calendars, other.id), resolveCalendar(shared, sharedId))) return replaceByShared(doc, shared, sharedId, other.id, newId);
  if (other)
    return refused('NAME_TAKEN', `The project has a calendar ${other.name} of its own already, with other hours. Rename it first, or make it the shared one.`, {
      table: 'calendars',
      id: other.id,
    });
  const draft = new Draft(doc);
  const id = putSharedCalendar(draft, shared, sharedId, newId);
  return done(`Take the shared calendar ${source.name}`, draft.changes, id ? [id] : []);
}

/** Makes a calendar of the project the copy of a shared one, whatever it was; all that uses it keeps using it. */
export function replaceByShared(doc: Document, shared: SharedCalendars, sharedId: string, rowId: string, newId: NewId): Outcome {
  const source = shared.get(sharedId);
  if (!source || !doc.calendars.has(rowId)) return refused('UNKNOWN_CALENDAR', 'That calendar is not there any more.');
  const draft = new Draft(doc);
  putSharedCalendar(draft, shared, sharedId, newId, rowId);
  return done(`Take the shared calendar ${source.name}`, draft.changes, [rowId]);
}

/** Changes that carry a changed shared calendar into a project that uses it, directly or through one based on it. Empty where it does not. */
export function carryShared(doc: Document, shared: SharedCalendars, sharedId: string, newId: NewId): Outcome {
  const draft = new Draft(doc);
  for (const c of doc.calendars.values()) if (c.sharedId === sharedId) putSharedCalendar(draft, shared, sharedId, newId, c.id);
  return done(`Change shared calendar ${shared.get(sharedId)?.name ?? ''}`, draft.changes);
}

/** A free name: as wished, or with a number behind it. */
export function freeCalendarName(taken: Iterable<Calendar>, wish: string): string {
  return unusedName(
    wish,
    [...taken].map((c) => c.name),
    MAX_NAME,
  );
}

/** Makes a copy of a shared calendar the project's own: from now on nobody else's change reaches it. With an edit on top, if given. */
export function makeOwn(doc: Document, id: string, fields: Partial<Calendar> = {}, rename = true): Outcome {
  const row = doc.calendars.get(id);
  if (!row) return refused('UNKNOWN_CALENDAR', 'That calendar is not in the project any more.');
  const draft = new Draft(doc);
  const name = fields.name ?? (rename ? freeCalendarName(doc.calendars.values(), `${row.name} (${projectOf(doc).code})`) : row.name);
  draft.set('calendars', id, { ...row, ...fields, name, sharedId: null });
  return done(`Make ${row.name} a project calendar`, draft.changes);
}

/** The shared calendar that a project calendar would make, for all projects: it stands alone, with what it had inherited. */
export function sharedFrom(doc: Document, rowId: string, id: string): Calendar | undefined {
  const row = doc.calendars.get(rowId);
  const definition = resolveCalendar(doc.calendars, rowId);
  return row && definition && { ...standAlone(row, definition), id, sharedId: id, rank: 0 };
}

const standAlone = (row: Calendar, d: CalendarDefinition): Calendar => ({
  ...row,
  basedOn: null,
  week: d.week,
  exceptions: d.exceptions,
  hoursPerDay: d.hoursPerDay,
  daysPerWeek: d.daysPerWeek,
});

/** Cuts a calendar loose from the one it is based on: what it inherited becomes its own, so no date changes. */
export function cutLoose(doc: Document, id: string): Outcome {
  const row = doc.calendars.get(id);
  const definition = resolveCalendar(doc.calendars, id);
  if (!row || !definition) return refused('UNKNOWN_CALENDAR', 'That calendar is not there any more, or is based on itself.');
  if (row.basedOn === null) return refused('STANDS_ALONE', `${row.name} is based on nothing; it stands alone already.`);
  const draft = new Draft(doc);
  draft.set('calendars', id, standAlone(row, definition));
  return done(`Cut ${row.name} loose from ${doc.calendars.get(row.basedOn)?.name ?? 'its parent'}`, draft.changes);
}

/** Copies of shared calendars that are not known here belong to the project alone. Changes the document, which is not in use yet. */
export function forgetUnknownShared(doc: Document, shared: SharedCalendars): void {
  for (const [id, c] of doc.calendars) if (c.sharedId !== null && !shared.has(c.sharedId)) doc.calendars.set(id, Object.freeze({ ...c, sharedId: null }));
}

/** What may happen to a calendar of an imported file that meets a shared one of its name with other content. */
export const importChoices = ['ours', 'theirs', 'both'] as const;
export type ImportChoice = (typeof importChoices)[number];

const FIRST_DAY = dayOf(1990, 1, 1);
const LAST_DAY = dayOf(2199, 12, 31);

/** True where no date can come out otherwise on one calendar than on the other. */
function sameDays(a: CalendarDefinition | undefined, b: CalendarDefinition | undefined): boolean {
  if (!a || !b) return a === b;
  if (sameContent(a, b)) return true;
  const [x, y] = [compileCalendar(a), compileCalendar(b)];
  return x.minutesPerDay === y.minutesPerDay && x.daysPerWeek === y.daysPerWeek && differingDays(x, y, FIRST_DAY, LAST_DAY).length === 0;
}

/** A calendar of a file and the shared one here that it meets. */
export interface Meeting {
  calendarId: string;
  sharedId: string;
  name: string;
}

/** Calendars of a file that meet a shared one (the one they name, or one of their name) with other content. */
export function meetings(doc: Document, shared: SharedCalendars): Meeting[] {
  const byName = new Map([...shared.values()].map((c) => [c.name.toLowerCase(), c]));
  return [...doc.calendars.values()].flatMap((c) => {
    const s = (c.sharedId !== null ? shared.get(c.sharedId) : undefined) ?? byName.get(c.name.toLowerCase());
    if (!s || sameDays(resolveCalendar(doc.calendars, c.id), resolveCalendar(shared, s.id))) return [];
    return [{ calendarId: c.id, sharedId: s.id, name: c.name }];
  });
}

/**
 * Carries the choices into an imported document; without one both are kept. `theirs` leaves the content as it is and
 * names the shared calendar, whose own content the caller changes to the file's.
 */
export function chooseCalendars(doc: Document, shared: SharedCalendars, choices: ReadonlyMap<string, ImportChoice>, newId: NewId): Outcome {
  const draft = new Draft(doc);
  const met = new Map(meetings(doc, shared).map((m) => [m.calendarId, m]));
  const said: string[] = [];
  for (const c of doc.calendars.values()) {
    const m = met.get(c.id);
    if (!m) continue;
    const choice = choices.get(c.id) ?? 'both';
    said.push(choice === 'ours' ? `our ${c.name} kept` : choice === 'theirs' ? `their ${c.name} taken` : `both ${c.name} kept`);
    if (choice === 'ours') putSharedCalendar(draft, shared, m.sharedId, newId, c.id);
    else if (choice === 'theirs') draft.patch('calendars', c.id, { sharedId: m.sharedId, name: shared.get(m.sharedId)?.name ?? c.name });
    else draft.patch('calendars', c.id, { sharedId: null, name: freeCalendarName([...doc.calendars.values(), ...shared.values()], `${c.name} (${projectOf(doc).code})`) });
  }
  return done(`At import: ${said.join(', ')}`, draft.changes);
}
