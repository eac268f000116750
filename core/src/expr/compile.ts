/**
 * Computed fields: a parsed expression, its types checked, turned into a function of one row. It reads fields of that row,
 * the data date and the finish of the project, and nothing else.
 */
import type { Cell } from '../fields/field.ts';
import { projectOf } from '../model/document.ts';
import { parseInstant } from '../time/instant.ts';
import { calendarOf, daysFrom, functions } from './functions.ts';
import { ExpressionError, parseExpression, type Tree } from './parse.ts';
import { agree, type Compiled, failed, Failure, numeric, type Result, sound, type Type, typeWords } from './types.ts';

/** What names mean. */
export interface Names {
  field(name: string): Compiled | undefined;
  /** The short name of a row's value in a code set, by the set's name. */
  code(set: string): Compiled | undefined;
}

const same = (a: Result, b: Result): boolean => (typeof a === 'string' && typeof b === 'string' ? a.toLowerCase() === b.toLowerCase() : a === b);
const order = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const compareValues = (a: Result, b: Result): number => (typeof a === 'string' && typeof b === 'string' ? order.compare(a, b) : Number(a) - Number(b));

/** Both values of an operator where neither is empty nor failed. */
const both = (l: Compiled, r: Compiled, f: (a: never, b: never, cell: Cell) => Result) => {
  return (cell: Cell): Result => {
    const a = l.run(cell);
    if (failed(a)) return a;
    const b = r.run(cell);
    if (failed(b)) return b;
    return a === null || b === null ? null : f(a as never, b as never, cell);
  };
};

function comparison(op: string, l: Compiled, r: Compiled): (cell: Cell) => Result {
  if (l.type === 'empty' || r.type === 'empty') throw new ExpressionError('Whether something is empty is asked as isEmpty(x).');
  if (!agree(l.type, r.type)) {
    const hint =
      l.type === 'duration' || r.type === 'duration'
        ? ' A duration is written as days(3) or hours(4).'
        : l.type === 'date' || r.type === 'date'
          ? ' A date is written as date("2026-11-02").'
          : '';
    throw new ExpressionError(`${typeWords[l.type]} cannot be compared with ${typeWords[r.type]}.${hint}`);
  }
  switch (op) {
    case '=':
      return both(l, r, (a, b) => same(a, b));
    case '!=':
      return both(l, r, (a, b) => !same(a, b));
    case '<':
      return both(l, r, (a, b) => compareValues(a, b) < 0);
    case '<=':
      return both(l, r, (a, b) => compareValues(a, b) <= 0);
    case '>':
      return both(l, r, (a, b) => compareValues(a, b) > 0);
    default:
      return both(l, r, (a, b) => compareValues(a, b) >= 0);
  }
}

/** Plain sums and products of two numbers. */
const plain: Record<string, (a: number, b: number) => Result> = {
  '+': (a, b) => sound(a + b),
  '-': (a, b) => sound(a - b),
  '*': (a, b) => sound(a * b),
  '/': (a, b) => (b === 0 ? new Failure('division by 0') : sound(a / b)),
};

/** The type that + - * / give; undefined where they have no meaning for the types. */
function arithmetic(op: string, a: Type, b: Type): Type | undefined {
  if (a === 'empty' || b === 'empty') return a === 'empty' ? (b === 'empty' ? 'empty' : arithmetic(op, b, b)) : arithmetic(op, a, a);
  if (numeric(a) && numeric(b)) {
    if (op === '*') return a === 'money' && b === 'money' ? undefined : a === b ? a : 'money';
    if (op === '/') return b === 'money' ? (a === 'money' ? 'number' : undefined) : a;
    return a === b ? a : 'money';
  }
  if (a === 'duration' && b === 'duration') return op === '*' ? undefined : op === '/' ? 'number' : 'duration';
  if (a === 'duration' && b === 'number') return op === '*' || op === '/' ? 'duration' : undefined;
  if (a === 'number' && b === 'duration') return op === '*' ? 'duration' : undefined;
  if (a === 'date' && b === 'date') return op === '-' ? 'number' : undefined;
  if (a === 'date' && b === 'duration') return op === '+' || op === '-' ? 'date' : undefined;
  return undefined;
}

const verbs: Record<string, string> = { '+': 'added to', '-': 'taken from', '*': 'multiplied by', '/': 'divided by' };

function operation(op: string, l: Compiled, r: Compiled): Compiled {
  const base = { end: l.type === 'date' ? l.end : r.end, computed: l.computed || r.computed };
  if (op === 'and' || op === 'or') {
    for (const side of [l, r])
      if (side.type !== 'yesNo' && side.type !== 'empty') throw new ExpressionError(`${op} stands between conditions, not beside ${typeWords[side.type]}.`);
    return { ...base, type: 'yesNo', run: both(l, r, (a, b) => (op === 'or' ? a || b : a && b)) };
  }
  if (!verbs[op]) return { ...base, type: 'yesNo', run: comparison(op, l, r) };
  const type = arithmetic(op, l.type, r.type);
  if (type === undefined) {
    const [x, y] = op === '-' ? [r.type, l.type] : [l.type, r.type];
    throw new ExpressionError(`${typeWords[x]} cannot be ${verbs[op]} ${typeWords[y]}.${x === 'text' || y === 'text' ? ' Texts are put together with join(a, b).' : ''}`);
  }
  if (l.type === 'date' && r.type === 'date') {
    return { ...base, type, run: both(l, r, (a: number, b: number, cell) => daysFrom(b, a, cell)) };
  }
  if (type === 'date') {
    const sign = op === '-' ? -1 : 1;
    return {
      ...base,
      type,
      run: both(l, r, (at: number, minutes: number, cell) => {
        const c = calendarOf(cell);
        if (!c) return new Failure('no calendar can be used');
        const p = c.position(at) + sign * Math.round(minutes);
        if (p < 0 || p > c.total) return new Failure('the date lies outside of 1990 to 2199');
        return base.end === 'finish' ? c.finishInstant(p) : c.startInstant(p);
      }),
    };
  }
  return { ...base, type, run: both(l, r, plain[op] as never) };
}

function call(name: string, args: Compiled[]): Compiled {
  const f = Object.hasOwn(functions, name) ? functions[name] : undefined;
  if (!f) throw new ExpressionError(`There is no function ${name}.`);
  if (args.length < f.least || args.length > f.most) throw new ExpressionError(`${name} is written as ${f.form}.`);
  const given = args as unknown as Parameters<typeof f.check>[0];
  const { type, end } = f.check(given, name);
  const computed = args.some((a) => a.computed);
  if (f.whole) return { type, end, computed, run: f.whole(given) };
  return {
    type,
    end,
    computed,
    run(cell) {
      const values: Result[] = [];
      for (const a of args) {
        const v = a.run(cell);
        if (failed(v)) return v;
        // Empty in gives empty out.
        if (v === null) return null;
        values.push(v);
      }
      return f.call(values as unknown as Parameters<typeof f.call>[0], cell, given);
    },
  };
}

const fixed = (type: Type, value: string | number | boolean | null): Compiled => ({ type, end: 'start', computed: false, literal: value, run: () => value });

function named(name: string, names: Names): Compiled {
  switch (name) {
    case 'yes':
      return fixed('yesNo', true);
    case 'no':
      return fixed('yesNo', false);
    case 'empty':
      return fixed('empty', null);
    case 'dataDate':
      return { type: 'date', end: 'start', computed: false, run: ({ doc }) => (projectOf(doc).dataDate === null ? null : (parseInstant(projectOf(doc).dataDate ?? '') ?? null)) };
    case 'projectFinish':
      return { type: 'date', end: 'finish', computed: true, run: ({ view }) => view?.projectFinish ?? null };
    default: {
      const f = names.field(name);
      if (!f) throw new ExpressionError(`No field is called ${name}.`);
      return f;
    }
  }
}

function build(t: Tree, names: Names): Compiled {
  switch (t.kind) {
    case 'literal':
      return fixed(t.value === null ? 'empty' : typeof t.value === 'number' ? 'number' : typeof t.value === 'boolean' ? 'yesNo' : 'text', t.value);
    case 'name':
      return named(t.name, names);
    case 'unary': {
      const of = build(t.of, names);
      const { type, end, computed } = of;
      if (t.op === 'not') {
        if (type !== 'yesNo' && type !== 'empty') throw new ExpressionError(`not stands before a condition, not before ${typeWords[type]}.`);
        return { type: 'yesNo', end, computed, run: (cell) => ((v) => (failed(v) || v === null ? v : v === false))(of.run(cell)) };
      }
      if (type !== 'number' && type !== 'money' && type !== 'duration' && type !== 'empty') throw new ExpressionError(`A sign cannot stand before ${typeWords[type]}.`);
      return t.op === '+'
        ? of
        : {
            type,
            end,
            computed,
            ...(typeof of.literal === 'number' ? { literal: -of.literal } : {}),
            run: (cell) => ((v) => (failed(v) || v === null ? v : -(v as number)))(of.run(cell)),
          };
    }
    case 'binary':
      return operation(t.op, build(t.left, names), build(t.right, names));
    case 'call': {
      if (t.name !== 'code')
        return call(
          t.name,
          t.with.map((x) => build(x, names)),
        );
      // The name of a set is no field, so it is looked up here.
      const [of] = t.with;
      const set = of?.kind === 'name' ? of.name : of?.kind === 'literal' && typeof of.value === 'string' ? of.value : undefined;
      if (t.with.length !== 1 || set === undefined) throw new ExpressionError('code is written as code("name of the set").');
      const found = names.code(set);
      if (!found) throw new ExpressionError(`There is no code set ${set}.`);
      return found;
    }
  }
}

/** An expression as a function of one row; a sentence that says what is wrong where it is none. */
export function compileExpression(text: string, names: Names): Compiled | { error: string } {
  try {
    return build(parseExpression(text), names);
  } catch (e) {
    if (e instanceof ExpressionError) return { error: e.message };
    if (e instanceof RangeError) return { error: 'The expression has too many brackets within brackets.' };
    throw e;
  }
}

/** Names that an expression asks for, each once: of fields, and of code sets behind `code`. Empty where it cannot be read. */
export function namesIn(text: string): { fields: string[]; sets: string[] } {
  const fields = new Set<string>();
  const sets = new Set<string>();
  const take = (t: Tree): void => {
    if (t.kind === 'name') fields.add(t.name);
    else if (t.kind === 'unary') take(t.of);
    else if (t.kind === 'binary') {
      take(t.left);
      take(t.right);
    } else if (t.kind === 'call') {
      if (t.name !== 'code') t.with.forEach(take);
      else if (t.with[0]?.kind === 'name') sets.add(t.with[0].name);
      else if (t.with[0]?.kind === 'literal') sets.add(String(t.with[0].value));
    }
  };
  try {
    take(parseExpression(text));
  } catch {
    // What cannot be read names nothing.
  }
  return { fields: [...fields], sets: [...sets] };
}

/** An expression with a field's name, or a set's, put in place of another; texts in quotes stay, but for those behind `code`. */
export function renamedIn(text: string, from: string, to: string, what: 'field' | 'set'): string {
  if (what === 'set')
    return text.replace(/\bcode\(\s*(?:"([^"]*)"|'([^']*)'|([A-Za-z_$][\w$]*))\s*\)/g, (all, a?: string, b?: string, c?: string) =>
      (a ?? b ?? c ?? '').toLowerCase() === from.toLowerCase() ? `code("${to}")` : all,
    );
  return text.replace(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'|[A-Za-z_$][\w$]*/g, (part, at: number) => (part === from && !/^\s*\(/.test(text.slice(at + part.length)) ? to : part));
}
