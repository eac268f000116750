/** Filters: conditions on fields in a tree of all, any and none, as a function of one row; and told as a sentence. */
import type { Cell, Field, FieldContext, Value } from '../fields/field.ts';
import { perDayOf, valueOf } from '../fields/field.ts';
import { fieldOf } from '../fields/list.ts';
import type { Document } from '../model/document.ts';
import type { Condition, Filter, Operand } from '../model/view-schema.ts';
import type { BaselineRow } from '../schedule/view.ts';
import { type Day, MINUTES_PER_DAY } from '../time/instant.ts';
import { dayOfToday } from '../time/typed-date.ts';
import { codesUnder, dayOfOperand, nodesUnder } from './operands.ts';

export const isGroup = (part: Condition | Filter): part is Filter => 'match' in part;

export type Test = (cell: Cell) => boolean;

/** The day of a date; a finish at midnight belongs to the day that ends. */
export const dayOfValue = (f: Field, t: number): Day => Math.floor((f.end === 'finish' ? t - 1 : t) / MINUTES_PER_DAY);

/** Fields that a kept copy tells of each activity, so that what changed since can be asked. */
export const keptFields: Readonly<Record<string, keyof BaselineRow>> = { start: 'start', finish: 'finish', duration: 'duration', cost: 'cost', percent: 'percent', float: 'float' };

const low = (v: unknown): string => String(v).toLowerCase();
const isNothing = (f: Field, v: Value | null): boolean => v === null || v === '' || (f.kind === 'yesNo' && v === false);

/** The number that a value counts as for comparing; undefined where it is no number. */
function numberOf(f: Field, v: Value | null, cell: Cell): number | undefined {
  if (typeof v !== 'number') return undefined;
  if (f.kind === 'date') return dayOfValue(f, v);
  // Durations and floats are compared in days of the row, to a thousandth of one.
  return f.kind === 'duration' || f.kind === 'days' ? Math.round((v * 1000) / perDayOf(cell)) / 1000 : v;
}

/** The numbers of operands: days of dates, else as they are; undefined where one cannot be read. */
function numbersOf(f: Field, values: readonly Operand[], doc: Document, today: Day): number[] | undefined {
  const out: number[] = [];
  for (const v of values) {
    const n = f.kind === 'date' ? dayOfOperand(v, doc, today) : typeof v === 'number' ? v : undefined;
    if (n === undefined) return undefined;
    out.push(n);
  }
  return out;
}

const byNumber: Partial<Record<Condition['is'], (v: number, a: number, b: number) => boolean>> = {
  is: (v, a) => v === a,
  less: (v, a) => v < a,
  atMost: (v, a) => v <= a,
  more: (v, a) => v > a,
  atLeast: (v, a) => v >= a,
  between: (v, a, b) => v >= Math.min(a, b) && v <= Math.max(a, b),
};

/** How many values a comparison takes: none, one, two, or any number (null). */
export function operandsOf(is: Condition['is']): number | null {
  if (is === 'empty' || is === 'notEmpty') return 0;
  return is === 'between' ? 2 : is === 'oneOf' ? null : 1;
}

/** Whether a row has one of the values of a condition, as text. */
function textTest(f: Field, c: Condition, context: FieldContext): Test {
  const { doc } = context;
  if (c.field === 'wbs') {
    // Nodes are named by their ids, and each stands for all that is in it.
    const ids = nodesUnder(doc, c.values.map(String));
    return (cell) => (cell.kind === 'activity' ? cell.a.wbsId !== null && ids.has(cell.a.wbsId) : ids.has(cell.node.id));
  }
  const codes = codesUnder(doc, c.field, c.values.map(String), c.is === 'under');
  const wanted = codes ?? new Set(c.values.map(low));
  return (cell) => {
    const v = valueOf(f, cell);
    return v !== null && wanted.has(low(v));
  };
}

function changedTest(f: Field, c: Condition, context: FieldContext): Test {
  const copy = context.kept?.get(String(c.values[0] ?? ''));
  const key = keptFields[c.field];
  if (!copy || !key) return () => false;
  return (cell) => {
    if (cell.kind !== 'activity') return false;
    const then = copy.dates.get(cell.a.id);
    const now = valueOf(f, cell);
    // What is new has changed; a copy says "none" of a float by a figure of its own.
    return then === undefined || (now ?? null) !== (then[key] < -1e9 ? null : then[key]);
  };
}

/** One condition as a function of a row; undefined where it cannot be asked here: its field is not there, or its values make no sense. */
export function conditionTest(c: Condition, context: FieldContext, today: Day = dayOfToday()): Test | undefined {
  const f = fieldOf(context.doc, c.field);
  const count = operandsOf(c.is);
  if (!f || (count !== null && c.values.length !== count)) return undefined;
  switch (c.is) {
    case 'empty':
      return (cell) => isNothing(f, valueOf(f, cell));
    case 'notEmpty':
      return (cell) => !isNothing(f, valueOf(f, cell));
    case 'changed':
      return changedTest(f, c, context);
    case 'isNot':
    case 'containsNot': {
      const test = conditionTest({ ...c, is: c.is === 'isNot' ? 'is' : 'contains' }, context, today);
      return test && ((cell) => !test(cell));
    }
    case 'contains':
    case 'starts': {
      const part = low(c.values[0] as Value);
      return (cell) => {
        const v = valueOf(f, cell);
        return v !== null && (c.is === 'starts' ? low(v).startsWith(part) : low(v).includes(part));
      };
    }
    default:
  }
  if (f.kind === 'yesNo') {
    const wanted = c.values[0];
    return typeof wanted === 'boolean' && c.is === 'is' ? (cell) => (valueOf(f, cell) === true) === wanted : undefined;
  }
  const textual = f.kind === 'text' || f.kind === 'choice' || f.kind === 'links';
  if (textual) return c.is === 'is' || c.is === 'oneOf' || c.is === 'under' ? textTest(f, c, context) : undefined;
  const numbers = numbersOf(f, c.values, context.doc, today);
  if (!numbers) return undefined;
  if (c.is === 'oneOf')
    return (cell) => {
      const n = numberOf(f, valueOf(f, cell), cell);
      return n !== undefined && numbers.includes(n);
    };
  const compare = byNumber[c.is];
  return (
    compare &&
    ((cell) => {
      const n = numberOf(f, valueOf(f, cell), cell);
      return n !== undefined && compare(n, numbers[0]!, numbers[1] ?? 0);
    })
  );
}

/** A filter as a function of a row. Conditions that cannot be asked here are left out. */
export function filterTest(filter: Filter, context: FieldContext, today: Day = dayOfToday()): Test {
  const tests = filter.of.flatMap((part) => (isGroup(part) ? filterTest(part, context, today) : (conditionTest(part, context, today) ?? [])));
  if (filter.match === 'all') return (cell) => tests.every((t) => t(cell));
  if (filter.match === 'any') return (cell) => tests.some((t) => t(cell));
  return (cell) => !tests.some((t) => t(cell));
}

/** All conditions of a filter. */
export const conditionsOf = (filter: Filter): Condition[] => filter.of.flatMap((part) => (isGroup(part) ? conditionsOf(part) : part));

/** A filter without groups that hold nothing; null where nothing is left. */
export function tidy(filter: Filter | null): Filter | null {
  if (!filter) return null;
  const of = filter.of.flatMap((part) => (isGroup(part) ? (tidy(part) ?? []) : part));
  return of.length ? { ...filter, of } : null;
}
