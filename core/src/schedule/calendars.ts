/** From the calendars of a document to compiled ones: chains of parents, unusable calendars, and a cache. */
import { ordered, type Document } from '../model/document.ts';
import { type Problem, problem } from '../model/problem.ts';
import type { Calendar, Exception } from '../model/schema.ts';
import { type CalendarDefinition, CompiledCalendar, elapsedDefinition } from '../time/calendar.ts';

/**
 * What a calendar is with its parents: the parent's weekly pattern if it has none at all, and the parent's
 * exceptions before its own. Undefined where its parents run in a loop.
 */
export function resolveCalendar(calendars: ReadonlyMap<string, Calendar>, id: string): CalendarDefinition | undefined {
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
  const own = chain[0];
  if (!own) return undefined;
  let exceptions: Exception[] = [];
  for (const c of chain) exceptions = [...c.exceptions, ...exceptions];
  const pattern = chain.findIndex((c) => c.week !== null);
  // What is stated of a day's length goes with the weekly pattern: a week of one's own has lengths of its own.
  const stated = pattern < 0 ? chain : chain.slice(0, pattern + 1);
  return {
    id,
    name: own.name,
    week: chain[pattern]?.week ?? null,
    exceptions,
    hoursPerDay: stated.find((c) => c.hoursPerDay !== null)?.hoursPerDay ?? null,
    daysPerWeek: stated.find((c) => c.daysPerWeek !== null)?.daysPerWeek ?? null,
  };
}

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

/** All usable calendars of a document, and what is wrong with the others. */
export function calendarsOf(doc: Document): CalendarSet {
  const rows = ordered(doc, 'calendars');
  const known = byDocument.get(doc.calendars);
  if (known && known.key.length === rows.length && known.key.every((r, i) => r === rows[i])) return known.result;
  const usable = new Map<string, CompiledCalendar>();
  const problems: Problem[] = [];
  for (const row of rows) {
    const where = { table: 'calendars', id: row.id, label: row.name };
    const definition = resolveCalendar(doc.calendars, row.id);
    if (!definition) {
      problems.push(
        problem('CALENDAR_LOOP', `Calendar ${row.name}: the calendars it is based on run in a loop. It cannot be used; cut one of them loose.`, { ...where, field: 'basedOn' }),
      );
      continue;
    }
    const compiled = compileCalendar(definition);
    if (compiled.total > 0) usable.set(row.id, compiled);
    else
      problems.push(
        problem('CALENDAR_EMPTY', `Calendar ${row.name} has no working time at all. It cannot be used; give it hours on at least one day.`, { ...where, field: 'week' }),
      );
  }
  const result = { usable, problems };
  byDocument.set(doc.calendars, { key: rows, result });
  return result;
}
