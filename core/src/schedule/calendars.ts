/** From the calendars of a document to compiled ones: chains of parents, unusable calendars, and a cache. */
import { type Document, ordered, projectOf } from '../model/document.ts';
import { type Problem, problem } from '../model/problem.ts';
import type { Activity, Calendar, Exception } from '../model/schema.ts';
import { type CalendarDefinition, CompiledCalendar, elapsedDefinition } from '../time/calendar.ts';
import type { DayLengths } from '../time/duration.ts';

/** Most exceptions of a calendar with all that it is based on. */
export const MOST_CHAIN_EXCEPTIONS = 20_000;

/** A calendar and what it is based on, itself first. Undefined where its parents run in a loop. */
function chainOf(calendars: ReadonlyMap<string, Calendar>, id: string): Calendar[] | undefined {
  const chain: Calendar[] = [];
  const seen = new Set<string>();
  for (let at: string | null = id; at !== null;) {
    if (seen.has(at)) return undefined;
    seen.add(at);
    const c = calendars.get(at);
    if (!c) break;
    chain.push(c);
    at = c.basedOn;
  }
  return chain;
}

/** Exceptions of a calendar with all that it is based on; 0 where its parents run in a loop. */
export const chainExceptions = (calendars: ReadonlyMap<string, Calendar>, id: string): number => (chainOf(calendars, id) ?? []).reduce((n, c) => n + c.exceptions.length, 0);

/**
 * What a calendar is with its parents: the parent's weekly pattern if it has none at all, and the parent's
 * exceptions before its own. Undefined where its parents run in a loop.
 */
export function resolveCalendar(calendars: ReadonlyMap<string, Calendar>, id: string): CalendarDefinition | undefined {
  const chain = chainOf(calendars, id);
  return chain && resolveChain(chain);
}

function resolveChain(chain: readonly Calendar[]): CalendarDefinition | undefined {
  const own = chain[0];
  if (!own) return undefined;
  const exceptions: Exception[] = [];
  for (let i = chain.length - 1; i >= 0; i--) for (const e of chain[i]!.exceptions) exceptions.push(e);
  const pattern = chain.findIndex((c) => c.week !== null);
  // What is stated of a day's length goes with the weekly pattern: a week of one's own has lengths of its own.
  const stated = pattern < 0 ? chain : chain.slice(0, pattern + 1);
  return {
    id: own.id,
    name: own.name,
    week: chain[pattern]?.week ?? null,
    exceptions,
    hoursPerDay: stated.find((c) => c.hoursPerDay !== null)?.hoursPerDay ?? null,
    daysPerWeek: stated.find((c) => c.daysPerWeek !== null)?.daysPerWeek ?? null,
  };
}

export const tooManyExceptions = (name: string, size: number): string =>
  `Calendar ${name} has ${size} exceptions with those of the calendars it is based on, more than the ${MOST_CHAIN_EXCEPTIONS} that can be computed. It cannot be used; delete exceptions that lie in the past, or put runs of days into one.`;

/** Calendars with more exceptions are not kept by content: the text that they are found by would cost more than compiling. */
const MOST_KEYED = 300;
// Compiled calendars by content. Small, since a project has few calendars and an edit replaces one.
const cache = new Map<string, CompiledCalendar>();
const CACHE_SIZE = 64;

/** Compiles a definition, or takes it from the cache. */
export function compileCalendar(definition: CalendarDefinition): CompiledCalendar {
  const key = JSON.stringify(definition);
  let compiled = cache.get(key);
  if (compiled) cache.delete(key);
  else compiled = new CompiledCalendar(definition);
  cache.set(key, compiled);
  if (cache.size > CACHE_SIZE) cache.delete(cache.keys().next().value as string);
  return compiled;
}

let elapsed: CompiledCalendar | undefined;
export const elapsedCalendar = (): CompiledCalendar => (elapsed ??= new CompiledCalendar(elapsedDefinition));

/** Memo by row identity: calendar rows are frozen and shared, so an unchanged table costs nothing. */
const byDocument = new WeakMap<object, { key: readonly Calendar[]; result: CalendarSet }>();

export interface CalendarSet {
  /** Usable calendars by id. */
  usable: Map<string, CompiledCalendar>;
  problems: Problem[];
}

/** Compiled calendars by their own row; good as long as all that it is based on are the same rows. */
const byRow = new WeakMap<Calendar, { chain: readonly Calendar[]; compiled: CompiledCalendar }>();

function compileChain(chain: readonly Calendar[]): CompiledCalendar | undefined {
  const known = byRow.get(chain[0]!);
  if (known && known.chain.length === chain.length && known.chain.every((c, i) => c === chain[i])) return known.compiled;
  const definition = resolveChain(chain);
  if (!definition) return undefined;
  const compiled = definition.exceptions.length > MOST_KEYED ? new CompiledCalendar(definition) : compileCalendar(definition);
  byRow.set(chain[0]!, { chain, compiled });
  return compiled;
}

/** True where a table holds just these rows. Asked for every cell that shows a duration, so nothing is made for it. */
function sameRows(rows: readonly Calendar[], table: ReadonlyMap<string, Calendar>): boolean {
  if (rows.length !== table.size) return false;
  let i = 0;
  for (const row of table.values()) if (rows[i++] !== row) return false;
  return true;
}

/** All usable calendars of a document, and what is wrong with the others. */
export function calendarsOf(doc: Document): CalendarSet {
  const known = byDocument.get(doc.calendars);
  if (known && sameRows(known.key, doc.calendars)) return known.result;
  const rows = ordered(doc, 'calendars');
  const usable = new Map<string, CompiledCalendar>();
  const problems: Problem[] = [];
  for (const row of rows) {
    const where = { table: 'calendars', id: row.id, label: row.name };
    const chain = chainOf(doc.calendars, row.id);
    if (!chain) {
      problems.push(
        problem('CALENDAR_LOOP', `Calendar ${row.name}: the calendars it is based on run in a loop. It cannot be used; cut one of them loose.`, { ...where, field: 'basedOn' }),
      );
      continue;
    }
    const size = chain.reduce((n, c) => n + c.exceptions.length, 0);
    if (size > MOST_CHAIN_EXCEPTIONS) {
      problems.push(problem('CALENDAR_TOO_LARGE', tooManyExceptions(row.name, size), { ...where, field: 'exceptions' }));
      continue;
    }
    const compiled = compileChain(chain) as CompiledCalendar;
    if (compiled.total > 0) usable.set(row.id, compiled);
    else
      problems.push(
        problem('CALENDAR_EMPTY', `Calendar ${row.name} has no working time at all. It cannot be used; give it hours on at least one day.`, { ...where, field: 'week' }),
      );
  }
  const result = { usable, problems };
  byDocument.set(doc.calendars, { key: [...doc.calendars.values()], result });
  return result;
}

/** The calendar that an activity is computed on: its own, else the project's. Undefined where neither can be used. */
export function calendarFor(doc: Document, a: Pick<Activity, 'calendarId'>): CompiledCalendar | undefined {
  const set = calendarsOf(doc).usable;
  return (a.calendarId !== null ? set.get(a.calendarId) : undefined) ?? set.get(projectOf(doc).calendarId);
}

/** Lengths of a day and a week in an activity's calendar; eight hours and five days where there is no calendar. */
export const dayLengths = (doc: Document, a: Pick<Activity, 'calendarId'>): DayLengths => calendarFor(doc, a) ?? { minutesPerDay: 480, daysPerWeek: 5 };
