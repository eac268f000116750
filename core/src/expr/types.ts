/** Types and values of the expressions that computed fields are made of. */
import { Failure } from '../fields/failure.ts';
import type { Cell, Kind, Value } from '../fields/field.ts';

export { Failure };

/** `duration`: working minutes; `date`: an instant; `empty`: what the word `empty` is, which goes with every type. */
export type Type = 'number' | 'money' | 'duration' | 'date' | 'text' | 'yesNo' | 'empty';

export type Result = Value | null | Failure;

/** Which end of work a date is: midnight is told, and counted on from, as that. */
export type End = 'start' | 'finish';

const ofKind: Record<Kind, Type> = {
  text: 'text',
  choice: 'text',
  links: 'text',
  number: 'number',
  percent: 'number',
  difference: 'number',
  money: 'money',
  duration: 'duration',
  days: 'duration',
  date: 'date',
  yesNo: 'yesNo',
};
/** The type of a field's values. */
export const typeOfKind = (kind: Kind): Type => ofKind[kind];
/** How values of a type are shown. */
export const kindOfType = (type: Type): Kind => (type === 'empty' ? 'text' : type);

export const typeWords: Record<Type, string> = { number: 'a number', money: 'money', duration: 'a duration', date: 'a date', text: 'a text', yesNo: 'yes or no', empty: 'empty' };

/** Characters that a name in expressions has at most. */
export const MAX_KEY = 60;

/** The name by which a thing can be called in an expression: `Funding stage` is `fundingStage`. */
export function identifierOf(name: string): string {
  const words = name
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean);
  const joined = words.map((w, i) => (i === 0 ? w[0]!.toLowerCase() : w[0]!.toUpperCase()) + w.slice(1)).join('');
  return /^[A-Za-z]/.test(joined) ? joined.slice(0, MAX_KEY) : `f${joined}`.slice(0, MAX_KEY);
}

/** Words that mean something of their own in expressions. */
export const reserved = new Set(['and', 'or', 'not', 'yes', 'no', 'empty', 'true', 'false', 'null', 'this', 'dataDate', 'projectFinish']);

/** What a part of an expression is, and how its value comes about in a row. */
export interface Compiled {
  type: Type;
  end: End;
  /** True where it changes with the computed schedule. */
  computed: boolean;
  /** The value of a literal; for functions that want one. */
  literal?: string | number | boolean | null;
  run: (cell: Cell) => Result;
}

export const failed = (v: Result): v is Failure => v instanceof Failure;
export const numeric = (t: Type): boolean => t === 'number' || t === 'money';
/** True where values of two types can stand for each other. */
export const agree = (a: Type, b: Type): boolean => a === b || a === 'empty' || b === 'empty' || (numeric(a) && numeric(b));
/** The type of what is one or the other. */
export const common = (a: Type, b: Type): Type => (a === 'empty' ? b : b === 'empty' ? a : a === b ? a : 'money');
/** Numbers that do not grow beyond what can be told. */
export const sound = (n: number): Result => (Number.isFinite(n) ? n : new Failure('the number is too large'));
