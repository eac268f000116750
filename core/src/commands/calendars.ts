/** Commands on calendars. */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf, ordered, projectOf } from '../model/document.ts';
import { byRank } from '../model/order.ts';
import { type Calendar, calendarSchema } from '../model/schema.ts';
import { type Problem, problem } from '../model/problem.ts';
import { chainExceptions, compileCalendar, MOST_CHAIN_EXCEPTIONS, resolveCalendar, tooManyExceptions } from '../schedule/calendars.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';

/** Adds a calendar: a plain week, or a copy of another. */
export function addCalendar(doc: Document, args: { name: string; copyOf?: string; basedOn?: string }, newId: NewId): Outcome {
  const name = args.name.trim();
  const id = newId();
  const origin = args.copyOf ? doc.calendars.get(args.copyOf) : undefined;
  const ranks = [...doc.calendars.values()].map((c) => c.rank);
  const row: Calendar = {
    ...(origin ?? {
      basedOn: args.basedOn ?? null,
      week: args.basedOn ? null : (Array.from({ length: 7 }, (_, i) => (i < 5 ? [[480, 1020]] : [])) as Calendar['week']),
      exceptions: [],
      hoursPerDay: null,
      daysPerWeek: null,
    }),
    sharedId: null,
    id,
    rank: Math.max(-1, ...ranks) + 1,
    name,
  };
  const no = calendarObjection(doc.calendars, row);
  if (no) return { ok: false, problems: [no] };
  const draft = new Draft(doc);
  draft.set('calendars', id, row);
  return settled(doc, `Add calendar ${name}`, draft.changes, [id]);
}

/**
 * Why a calendar cannot stand as it is wished among others (those of a project, or the shared ones): its name, its
 * exceptions, what it is based on, or that it or one based on it would have no working time. Undefined where it can.
 */
export function calendarObjection(calendars: ReadonlyMap<string, Calendar>, wished: Calendar): Problem | undefined {
  const where = { table: 'calendars', id: wished.id, label: wished.name };
  if (!wished.name.trim()) return problem('NAME_NEEDED', 'A calendar needs a name.', { ...where, field: 'name' });
  const other = [...calendars.values()].find((c) => c.id !== wished.id && c.name.toLowerCase() === wished.name.trim().toLowerCase());
  if (other) return problem('NAME_TAKEN', `There is a calendar ${other.name} already. Choose another name.`, { table: 'calendars', id: other.id });
  const reversed = wished.exceptions.find((e) => !e.yearly && e.to < e.from);
  if (reversed) return problem('WRONG_RANGE', `The exception ${reversed.name || reversed.from} ends before it begins.`, where);
  const next = new Map(calendars).set(wished.id, wished);
  if (wished.basedOn !== null && !next.has(wished.basedOn)) return problem('UNKNOWN_CALENDAR', 'The calendar that it is based on is not there. Choose another parent.', where);
  for (const c of next.values()) {
    const definition = resolveCalendar(next, c.id);
    if (!definition) return problem('CALENDAR_LOOP', `${wished.name} would be based on itself through ${c.name}. Choose another parent.`, where);
    if (!chainHolds(next, c.id, wished.id)) continue;
    const size = chainExceptions(next, c.id);
    if (size > MOST_CHAIN_EXCEPTIONS) return problem('CALENDAR_TOO_LARGE', tooManyExceptions(c.name, size), { table: 'calendars', id: c.id, label: c.name });
    if (compileCalendar(definition).total === 0)
      return problem('CALENDAR_EMPTY', `${c.name} would have no working time at all. Leave it hours on at least one day.`, { table: 'calendars', id: c.id, label: c.name });
  }
  return undefined;
}

/** Changes a calendar. */
export function editCalendar(doc: Document, id: string, fields: Partial<Omit<Calendar, 'id' | 'rank'>>): Outcome {
  const row = doc.calendars.get(id);
  if (!row) return refused('UNKNOWN_CALENDAR', 'That calendar is not in the project any more.');
  const where = { table: 'calendars', id, label: row.name };
  const parsed = calendarSchema.safeParse({ ...row, ...fields });
  if (!parsed.success) return refused('WRONG_VALUE', `Calendar ${row.name}: ${parsed.error.issues[0]!.path.join('.')}: ${parsed.error.issues[0]!.message}`, where);
  const no = calendarObjection(doc.calendars, parsed.data);
  if (no) return { ok: false, problems: [no] };
  const draft = new Draft(doc);
  draft.set('calendars', id, parsed.data);
  return done(`Change calendar ${parsed.data.name}`, draft.changes);
}

/** True where a calendar is another, or based on it through any number of parents. */
function chainHolds(calendars: ReadonlyMap<string, Calendar>, from: string, id: string): boolean {
  for (let at: string | null = from, n = 0; at !== null && n < 1000; n++, at = calendars.get(at)?.basedOn ?? null) if (at === id) return true;
  return false;
}

/** Who uses a calendar, in words; empty where nobody does. */
export function calendarUses(doc: Document, id: string): { project: boolean; activities: string[]; calendars: string[]; resources: string[]; links: number } {
  return {
    project: projectOf(doc).calendarId === id,
    activities: [...indexOf(doc).withCalendar(id)]
      .flatMap((a) => doc.activities.get(a) ?? [])
      .sort(byRank)
      .map(labelOf),
    calendars: ordered(doc, 'calendars')
      .filter((c) => c.basedOn === id)
      .map((c) => c.name),
    resources: ordered(doc, 'resources')
      .filter((r) => r.calendarId === id)
      .map((r) => r.name),
    links: [...doc.links.values()].filter((l) => l.lagCalendar === `calendar:${id}`).length,
  };
}

/** Deletes a calendar that nobody uses. */
export function deleteCalendar(doc: Document, id: string): Outcome {
  const row = doc.calendars.get(id);
  if (!row) return refused('UNKNOWN_CALENDAR', 'That calendar is not in the project any more.');
  const uses = calendarUses(doc, id);
  const parts = [
    uses.project ? 'the project' : '',
    uses.activities.length ? count(uses.activities.length, 'activity') : '',
    uses.calendars.length ? `the calendar ${uses.calendars[0]}` : '',
    uses.resources.length ? count(uses.resources.length, 'resource') : '',
    uses.links ? count(uses.links, 'link') : '',
  ].filter(Boolean);
  if (parts.length) return refused('IN_USE', `${row.name} is used by ${parts.join(', ')}. Give them another calendar first.`, { table: 'calendars', id, label: row.name });
  const draft = new Draft(doc);
  draft.set('calendars', id, null);
  return done(`Delete calendar ${row.name}`, draft.changes);
}
