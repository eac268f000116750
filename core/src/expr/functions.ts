/** Functions of expressions: their form, the types they take and give, and what they compute. */
import { type Cell, perDayOf } from '../fields/field.ts';
import { daysBetween } from '../rollup/summary.ts';
import { calendarFor } from '../schedule/calendars.ts';
import type { CompiledCalendar } from '../time/calendar.ts';
import { civilOf, MINUTES_PER_DAY, parseDay, parseInstant, weekdayOf } from '../time/instant.ts';
import { weekdayNames } from '../time/typed-date.ts';
import { ExpressionError } from './parse.ts';
import { agree, common, type Compiled, type End, failed, Failure, numeric, type Result, sound, type Type, typeWords } from './types.ts';

/** The calendar that counts for a row: an activity's own, the project's for a node. */
export const calendarOf = (cell: Cell): CompiledCalendar | undefined => calendarFor(cell.doc, cell.kind === 'activity' ? cell.a : { calendarId: null });

/** Working days from one instant to another in the row's calendar. */
export function daysFrom(from: number, to: number, cell: Cell): Result {
  const c = calendarOf(cell);
  return c ? daysBetween(c, from, to) : new Failure('no calendar can be used');
}

/** As many of them as the function takes: `least` and `most` were asked before. */
type Three<T> = readonly [T, T, T, ...T[]];

interface Function {
  /** How it is written, and what it gives. */
  form: string;
  about: string;
  least: number;
  most: number;
  check(args: Three<Compiled>, name: string): { type: Type; end: End };
  /** From values none of which is empty. */
  call(values: Three<Result>, cell: Cell, args: Three<Compiled>): Result;
  /** Instead of `call`: where empty is a value like any other. */
  whole?(args: Three<Compiled>): (cell: Cell) => Result;
}

const want = (args: readonly Compiled[], name: string, ...types: (Type | 'any')[]): void => {
  for (const [i, a] of args.entries()) {
    const type = types[Math.min(i, types.length - 1)];
    if (type === undefined || type === 'any' || a.type === 'empty' || a.type === type || (type === 'number' && a.type === 'money')) continue;
    throw new ExpressionError(`${name} wants ${typeWords[type]} there, not ${typeWords[a.type]}.`);
  }
};
/** All of one type, which is what comes out. */
function alike(args: readonly Compiled[], name: string): { type: Type; end: End } {
  let type: Type = 'empty';
  for (const a of args) {
    if (!agree(type, a.type)) throw new ExpressionError(`${name} wants values of one type, not ${typeWords[type]} and ${typeWords[a.type]}.`);
    type = common(type, a.type);
  }
  return { type, end: args.find((a) => a.type === 'date')?.end ?? 'start' };
}
const gives =
  (type: Type, ...types: (Type | 'any')[]): Function['check'] =>
  (args, name) => {
    if (types.length) want(args, name, ...types);
    return { type, end: 'start' };
  };
const none = (): Result => null;
/** The day of a date; a finish at midnight belongs to the day that ends. */
const dayIn = (t: number, end: End): number => Math.floor((end === 'finish' ? t - 1 : t) / MINUTES_PER_DAY);
const civil = (v: Result, a: Compiled) => civilOf(dayIn(v as number, a.end));
const low = (v: Result): string => String(v).toLowerCase();

const ordered: Function['check'] = (args, name) => {
  const of = alike(args, name);
  if (of.type === 'text' || of.type === 'yesNo') throw new ExpressionError(`${name} wants numbers, money, durations or dates, not ${typeWords[of.type]}.`);
  return of;
};

export const functions: Readonly<Record<string, Function>> = {
  if: {
    form: 'if(condition, then, else)',
    about: 'one or the other',
    least: 3,
    most: 3,
    check(args, name) {
      if (args[0].type !== 'yesNo' && args[0].type !== 'empty') throw new ExpressionError(`if wants a condition first, not ${typeWords[args[0].type]}.`);
      return alike(args.slice(1), name);
    },
    call: none,
    whole:
      ([condition, yes, no]) =>
      (cell) => {
        const c = condition.run(cell);
        return failed(c) ? c : c === true ? yes.run(cell) : no.run(cell);
      },
  },
  join: {
    form: 'join(a, b, ...)',
    about: 'texts put together; what is empty is left out',
    least: 1,
    most: 30,
    check: (args, name) => {
      for (const a of args) if (!['text', 'number', 'empty'].includes(a.type)) throw new ExpressionError(`${name} wants texts or numbers, not ${typeWords[a.type]}.`);
      return { type: 'text', end: 'start' };
    },
    call: none,
    whole: (args) => (cell) => {
      let text = '';
      for (const a of args) {
        const v = a.run(cell);
        if (failed(v)) return v;
        if (v !== null) text += String(v);
      }
      return text === '' ? null : text.slice(0, 20_000);
    },
  },
  contains: {
    form: 'contains(text, part)',
    about: 'whether a text holds another, whatever the case',
    least: 2,
    most: 2,
    check: gives('yesNo', 'text'),
    call: ([a, b]) => low(a).includes(low(b)),
  },
  starts: {
    form: 'starts(text, part)',
    about: 'whether a text begins with another',
    least: 2,
    most: 2,
    check: gives('yesNo', 'text'),
    call: ([a, b]) => low(a).startsWith(low(b)),
  },
  min: { form: 'min(a, b, ...)', about: 'the least, or the earliest', least: 1, most: 30, check: ordered, call: (v) => Math.min(...(v as readonly Result[] as readonly number[])) },
  max: {
    form: 'max(a, b, ...)',
    about: 'the greatest, or the latest',
    least: 1,
    most: 30,
    check: ordered,
    call: (v) => Math.max(...(v as readonly Result[] as readonly number[])),
  },
  round: {
    form: 'round(x, places)',
    about: 'a number with so many decimals (0 to 10)',
    least: 1,
    most: 2,
    check(args, name) {
      want(args, name, 'number');
      if (args.length > 1 && args[1].type === 'money') throw new ExpressionError('round wants a number of places, not money.');
      return { type: args[0].type, end: 'start' };
    },
    call([x, places = 0]) {
      const p = Math.max(0, Math.min(10, Math.trunc(places as number)));
      const f = 10 ** p;
      // Half away from 0, by the decimal text: 1.005 has no half in binary.
      const n = Math.abs(x as number);
      const text = n.toString();
      const shifted = text.includes('e') ? n * f : Number(`${text}e${p}`);
      return sound((Math.sign(x as number) * Math.round(shifted)) / f || 0);
    },
  },
  abs: {
    form: 'abs(x)',
    about: 'without its sign',
    least: 1,
    most: 1,
    check(args) {
      const [a] = args;
      if (!numeric(a.type) && a.type !== 'duration' && a.type !== 'empty') throw new ExpressionError(`abs wants a number, not ${typeWords[a.type]}.`);
      return { type: a.type, end: 'start' };
    },
    call: ([x]) => Math.abs(x as number),
  },
  isEmpty: {
    form: 'isEmpty(x)',
    about: 'whether there is no value',
    least: 1,
    most: 1,
    check: gives('yesNo'),
    call: none,
    whole:
      ([a]) =>
      (cell) =>
        ((v) => (failed(v) ? v : v === null || v === ''))(a.run(cell)),
  },
  first: {
    form: 'first(a, b, ...)',
    about: 'the first that is not empty',
    least: 1,
    most: 30,
    check: alike,
    call: none,
    whole: (args) => (cell) => {
      for (const a of args) {
        const v = a.run(cell);
        if (v !== null && v !== '') return v;
      }
      return null;
    },
  },
  days: {
    form: 'days(n)',
    about: 'a duration of so many working days of the row',
    least: 1,
    most: 1,
    check: gives('duration', 'number'),
    call: ([n], cell) => sound((n as number) * perDayOf(cell)),
  },
  hours: { form: 'hours(n)', about: 'a duration of so many working hours', least: 1, most: 1, check: gives('duration', 'number'), call: ([n]) => sound((n as number) * 60) },
  date: {
    form: 'date("2026-11-02")',
    about: 'a date, at the beginning of the day',
    least: 1,
    most: 1,
    check(args) {
      const text = args[0].literal;
      if (typeof text !== 'string' || (parseDay(text) === undefined && parseInstant(text) === undefined))
        throw new ExpressionError('date is written as date("2026-11-02"), year first, in 1990 to 2199.');
      return { type: 'date', end: 'start' };
    },
    call([text]) {
      const day = parseDay(text as string);
      return day === undefined ? (parseInstant(text as string) ?? null) : day * MINUTES_PER_DAY;
    },
  },
  workingDays: {
    form: 'workingDays(from, to)',
    about: "working days from one date to another, in the row's calendar",
    least: 2,
    most: 2,
    check: gives('number', 'date'),
    call: ([a, b], cell) => daysFrom(a as number, b as number, cell),
  },
  calendarDays: {
    form: 'calendarDays(from, to)',
    about: 'days from one date to another, rest days included',
    least: 2,
    most: 2,
    check: gives('number', 'date'),
    call: ([a, b], _, [x, y]) => dayIn(b as number, y.end) - dayIn(a as number, x.end),
  },
  addWorkingDays: {
    form: 'addWorkingDays(date, n)',
    about: "a date so many working days later, in the row's calendar",
    least: 2,
    most: 2,
    check(args, name) {
      want(args, name, 'date', 'number');
      return { type: 'date', end: args[0].end };
    },
    call([at, n], cell, [d]) {
      const c = calendarOf(cell);
      if (!c) return new Failure('no calendar can be used');
      const p = c.position(at as number) + Math.round((n as number) * c.minutesPerDay);
      if (!(p >= 0 && p <= c.total)) return new Failure('the date lies outside of 1990 to 2199');
      return d.end === 'finish' ? c.finishInstant(p) : c.startInstant(p);
    },
  },
  year: { form: 'year(date)', about: 'its year', least: 1, most: 1, check: gives('number', 'date'), call: ([d], _, [a]) => civil(d, a).year },
  month: { form: 'month(date)', about: 'its month, 1 to 12', least: 1, most: 1, check: gives('number', 'date'), call: ([d], _, [a]) => civil(d, a).month },
  weekday: {
    form: 'weekday(date)',
    about: 'its day of the week: Mon to Sun',
    least: 1,
    most: 1,
    check: gives('text', 'date'),
    call: ([d], _, [a]) => weekdayNames[weekdayOf(dayIn(d as number, a.end))] ?? null,
  },
};
