/** Reading one row of a project file: what is wrong is set aside and listed with its field, the rest is kept. */
import { z } from 'zod';
import { dayOfText, intervalOfFile } from './read-values.ts';
import type { ProblemList } from './read-problems.ts';
import type { Place } from './problem.ts';
import {
  type CodeValue,
  codeValueSchema,
  type Constraint,
  constraintSchema,
  defaultOptions,
  type Exception,
  exceptionSchema,
  type Interval,
  intervalSchema,
  optionsSchema,
} from './schema.ts';
import { availabilitySchema, type CrewLine, crewLineSchema, priceSchema, rateSchema } from './resource-schema.ts';
import { lookRuleSchema, type LookRule, usualSettings, viewSettingsSchema } from './view-schema.ts';
import { bare, type Rows, type Table, type TableName, tables } from './tables.ts';
import { isWhole, mended } from './text.ts';

export type Raw = Record<string, unknown>;
export const isObject = (v: unknown): v is Raw => typeof v === 'object' && v !== null && !Array.isArray(v);

/** Fields of each table that hold text. Found out when a table is first read. */
const textFields = new Map<TableName, string[]>();
function textFieldsOf(table: TableName): string[] {
  let known = textFields.get(table);
  if (!known) textFields.set(table, (known = Object.entries(tables[table].schema.shape).flatMap(([field, schema]) => (isText(schema as z.ZodType) ? [field] : []))));
  return known;
}

function isText(schema: z.ZodType): boolean {
  const kind = bare(schema);
  return kind instanceof z.ZodString || (kind instanceof z.ZodUnion && kind.options.every((o) => o instanceof z.ZodString || o instanceof z.ZodEnum));
}

/** A value where text belongs: numbers are written out, half characters mended. What it was is said; other values stay. */
function asText(v: unknown, where: Place, field: string, problems: ProblemList): unknown {
  if (typeof v === 'number' && Number.isFinite(v)) {
    problems.warn('NUMBER_AS_TEXT', `${nameOf(where)}: ${field} is a number where text belongs; it was read as "${v}".`, { ...where, field });
    return String(v);
  }
  if (typeof v !== 'string' || isWhole(v)) return v;
  problems.warn('BROKEN_TEXT', `${nameOf(where)}: ${field} holds half a character; it was replaced by the sign for one that cannot be shown.`, { ...where, field });
  return mended(v);
}

const nameOf = (where: Place): string => [where.table, where.label ?? where.id].filter(Boolean).join(' ');

/** Reads one row; undefined where it cannot be used. `n` is its place in the file. */
export function readRow<T extends TableName>(table: T, raw: unknown, n: number, problems: ProblemList): Rows[T] | undefined {
  if (!isObject(raw)) {
    problems.wrongRow('WRONG_TYPE', `Row ${n + 1} of ${table} is not an object; it was set aside.`, { table });
    return undefined;
  }
  const { schema, defaults, vital } = tables[table] as Table<Rows[T]>;
  const row: Raw = { ...defaults, rank: n };
  for (const key in raw) if (raw[key] !== undefined) row[key] = raw[key];
  const where: Place = { table };
  if (typeof row['id'] === 'string' || typeof row['id'] === 'number') where.id = mended(String(row['id']));
  else if (table !== 'project') {
    // Told before all else: a row without one is set aside whatever else it holds.
    problems.wrongRow('WRONG_VALUE', `${table} row ${n + 1}: id cannot be read (text is wanted); the row was set aside.`, { table, field: 'id' });
    return undefined;
  }
  const called = [row['code'], row['name']].filter((x) => typeof x === 'string' && x !== '').join(' ');
  if (called) where.label = mended(called);
  for (const field of textFieldsOf(table)) row[field] = asText(row[field], where, field, problems);
  if (table === 'activities' && row['code'] === undefined) row['code'] = String(row['id']).slice(0, 40);
  extras[table]?.(row, where, problems);
  for (let tries = 0; tries < 4; tries++) {
    const parsed = schema.safeParse(row);
    if (parsed.success) return parsed.data as Rows[T];
    const told = new Set<string>();
    for (const issue of parsed.error.issues) {
      const field = String(issue.path[0] ?? '');
      if (told.has(field)) continue;
      told.add(field);
      const has = field === 'rank' || Object.hasOwn(defaults, field);
      const text = `${table} row ${n + 1}${where.label ? ` (${where.label})` : ''}: ${field || 'the row'} cannot be read (${issue.message})`;
      if (!has || (vital as readonly string[] | undefined)?.includes(field)) {
        problems.wrongRow('WRONG_VALUE', `${text}; the row was set aside.`, { ...where, field });
        return undefined;
      }
      problems.add('WRONG_VALUE', `${text}; it was set aside${field === 'duration' || field === 'lag' ? ' and counts as 0' : ''}.`, { ...where, field });
      row[field] = field === 'rank' ? n : (defaults as Raw)[field];
    }
    problems.countWrong();
  }
  return undefined;
}

type Extras = (row: Raw, where: Place, problems: ProblemList) => void;

/** Lists are read element by element, so that one wrong element does not take the others with it. */
function readList<E>(row: Raw, field: string, where: Place, problems: ProblemList, read: (v: unknown, place: string) => E | undefined): void {
  const list = row[field];
  if (!Array.isArray(list)) return;
  row[field] = list.flatMap((v: unknown, n) => {
    const e = read(v, `${field}.${n}`);
    if (e !== undefined) return [e];
    problems.add('WRONG_VALUE', `${nameOf(where)}: ${field}, entry ${n + 1}, cannot be read; it was set aside.`, { ...where, field: `${field}.${n}` });
    return [];
  });
}

/** A bundle of values: those that cannot be read are told, and the usual ones stand for them. */
function readParts(schema: z.ZodType, usual: object, given: Raw, tell: (part: string) => void): Raw {
  const parts: Raw = { ...usual, ...given };
  const parsed = schema.safeParse(parts);
  for (const part of new Set(parsed.success ? [] : parsed.error.issues.map((i) => String(i.path[0])))) {
    tell(part);
    parts[part] = (usual as Raw)[part];
  }
  return parts;
}

const readInterval = (v: unknown): Interval | undefined => {
  const parsed = intervalSchema.safeParse(intervalOfFile(v));
  return parsed.success ? parsed.data : undefined;
};

/** Entries of a list that are as their schema says; the others are told. */
function readEntries(row: Raw, field: string, schema: z.ZodType<object>, where: Place, problems: ProblemList): void {
  readList(row, field, where, problems, (v): object | undefined => {
    const parsed = schema.safeParse(v);
    return parsed.success ? parsed.data : undefined;
  });
}

/** Exceptions, of a calendar or the days off of a resource. */
function readExceptions(row: Raw, field: string, where: Place, problems: ProblemList): void {
  readList(row, field, where, problems, (v, place): Exception | undefined => {
    if (!isObject(v) || (v['work'] !== undefined && !Array.isArray(v['work']))) return undefined;
    const work = ((v['work'] ?? []) as unknown[]).map(readInterval);
    if (work.includes(undefined)) return undefined;
    const parsed = exceptionSchema.safeParse({ yearly: false, to: v['from'], ...v, name: asText(v['name'] ?? '', where, `${place}.name`, problems), work });
    if (!parsed.success) return undefined;
    const e = parsed.data;
    return !e.yearly && (dayOfText(e.to) as number) < (dayOfText(e.from) as number) ? undefined : e;
  });
}

/** What is read of some tables before their schema judges it. */
const extras: Partial<Record<TableName, Extras>> = {
  calendars(row, where, problems) {
    const week = row['week'];
    if (Array.isArray(week))
      row['week'] = week.map((_, n) => {
        const day: Raw = { [`week.${n}`]: week[n] };
        readList(day, `week.${n}`, where, problems, readInterval);
        return day[`week.${n}`];
      });
    readExceptions(row, 'exceptions', where, problems);
  },
  activities(row, where, problems) {
    readList(row, 'constraints', where, problems, (v): Constraint | undefined => {
      const parsed = constraintSchema.safeParse(isObject(v) ? { date: null, ...v } : v);
      return parsed.success ? parsed.data : undefined;
    });
  },
  resources(row, where, problems) {
    readExceptions(row, 'daysOff', where, problems);
    for (const [field, schema] of [
      ['availability', availabilitySchema],
      ['rates', rateSchema],
      ['prices', priceSchema],
    ] as const)
      readEntries(row, field, schema, where, problems);
  },
  roles(row, where, problems) {
    readEntries(row, 'availability', availabilitySchema, where, problems);
    readEntries(row, 'rates', rateSchema, where, problems);
  },
  crews(row, where, problems) {
    readList(row, 'lines', where, problems, (v): CrewLine | undefined => {
      const parsed = crewLineSchema.safeParse(isObject(v) ? { resourceId: null, roleId: null, units: 1, ...v } : v);
      return parsed.success && (parsed.data.resourceId === null) !== (parsed.data.roleId === null) ? parsed.data : undefined;
    });
  },
  codeSets(row, where, problems) {
    readList(row, 'values', where, problems, (v): CodeValue | undefined => {
      const parsed = codeValueSchema.safeParse(v);
      return parsed.success ? parsed.data : undefined;
    });
  },
  looks(row, where, problems) {
    readList(row, 'rules', where, problems, (v): LookRule | undefined => {
      const parsed = lookRuleSchema.safeParse(isObject(v) ? { name: '', colour: null, colourBy: null, hatching: 'none', height: 'usual', texts: null, ...v } : v);
      return parsed.success ? parsed.data : undefined;
    });
  },
  savedViews(row, where, problems) {
    if (!isObject(row['settings'])) return;
    row['settings'] = readParts(viewSettingsSchema, usualSettings, row['settings'], (field) =>
      problems.add('WRONG_VALUE', `saved view ${String(row['name'] ?? '')}: ${field} cannot be read; the usual is taken.`, { ...where, field: `settings.${field}` }),
    );
  },
  project(row, where, problems) {
    if (!isObject(row['options'])) return;
    row['options'] = readParts(optionsSchema, defaultOptions, row['options'], (field) =>
      problems.add('WRONG_VALUE', `project: option ${field} cannot be read; the usual one is taken.`, { ...where, field: `options.${field}` }),
    );
  },
};
