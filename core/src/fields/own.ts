/** Fields that people have made: a column for each code set, and one for each field of their own. Values lie in `values` of the row. */
import { byRank } from '../model/order.ts';
import type { Document } from '../model/document.ts';
import type { Activity, CodeSet, CodeValue, OwnField } from '../model/schema.ts';
import { Draft } from '../change/change.ts';
import type { NewId, Outcome } from '../commands/result.ts';
import { compileExpression, namesIn, type Names } from '../expr/compile.ts';
import { type Compiled, failed, identifierOf, kindOfType, typeOfKind, typeWords } from '../expr/types.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { formatDuration, parseDuration } from '../time/duration.ts';
import { codeKey, ownKey, withValue } from '../model/values.ts';
import { parseDay } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { type ActivityCell, type Cell, field, type Field, type Kind, type Read, type Value, valueOf } from './field.ts';
import { readAddress, typedDate, unreadableDate } from './typed.ts';

/** The value of a set by its short name or its name, whatever the case. */
export function codeValueNamed(set: CodeSet, text: string): CodeValue | undefined {
  const t = text.trim().toLowerCase();
  return set.values.find((v) => v.short.toLowerCase() === t) ?? set.values.find((v) => v.name.toLowerCase() === t);
}

/** A new value of a set with a short name, and an activity given it: said before it is made. */
function newValue(doc: Document, set: CodeSet, a: Activity, short: string, newId: NewId): Outcome {
  const id = newId();
  const draft = new Draft(doc);
  draft.patch('codeSets', set.id, { values: [...set.values, { id, parentId: null, short, name: '', colour: null, about: '' }] });
  draft.patch('activities', a.id, withValue(a, codeKey(set.id), id));
  return { ok: true, label: `New value ${short} of ${set.name}`, changes: draft.changes };
}

export function codeField(set: CodeSet): Field {
  const key = codeKey(set.id);
  const valueOf = (a: Activity): CodeValue | undefined => set.values.find((v) => v.id === a.values[key]);
  return field<string>({
    key,
    title: set.name,
    about: set.about || `Value of the code set ${set.name}.`,
    kind: 'choice',
    group: 'Codes',
    width: 90,
    stored: 'values',
    sum: 'same',
    inspector: true,
    value: ({ a }) => valueOf(a)?.short ?? null,
    edit: ({ a }) => valueOf(a)?.short ?? '',
    choices: () => ['', ...set.values.map((v) => v.short)],
    read(text, { doc, a }, newId): Read {
      if (text === '') return { fields: withValue(a, key, null) };
      const now = doc.codeSets.get(set.id) ?? set;
      const known = codeValueNamed(now, text);
      if (known) return { fields: withValue(a, key, known.id) };
      if (text.length > 40) return { error: `a short name has at most 40 characters; ${set.name} has no value of that name.` };
      return { ask: `${set.name} has no value ${text}.`, choices: [{ label: `Make ${text} a value of ${set.name}`, outcome: newValue(doc, now, a, text, newId) }] };
    },
  });
}

const kinds: Record<OwnField['kind'], Kind> = {
  text: 'text',
  number: 'number',
  money: 'money',
  date: 'date',
  duration: 'duration',
  yesNo: 'yesNo',
  choice: 'choice',
  address: 'text',
  computed: 'text',
};

/** What typed text is in a field of a kind: the value that is stored, or why it is none. */
export function readOwn(own: OwnField, text: string, { doc, a }: Pick<ActivityCell, 'doc' | 'a'>): { value: Value | null } | { error: string } {
  const t = text.trim();
  if (t === '') return { value: null };
  switch (own.kind) {
    case 'number':
    case 'money': {
      const plain = own.unit && t.toLowerCase().endsWith(own.unit.toLowerCase()) ? t.slice(0, -own.unit.length) : t;
      const n = Number(plain.replace(/[\s,]/g, ''));
      return Number.isFinite(n) && Math.abs(n) <= 1e15 ? { value: n } : { error: `${t} cannot be read as ${own.kind === 'money' ? 'an amount' : 'a number'}.` };
    }
    case 'date': {
      const date = typedDate(doc, t);
      return date === undefined ? { error: unreadableDate(t) } : { value: date.slice(0, 10) };
    }
    case 'duration': {
      const minutes = parseDuration(t, dayLengths(doc, a));
      return minutes === undefined ? { error: `${t} cannot be read as a duration. Type it as 10d, 4h, 2w or 30m.` } : { value: minutes };
    }
    case 'yesNo':
      return /^(y|yes)$/i.test(t) ? { value: true } : /^(n|no)$/i.test(t) ? { value: false } : { error: `${t} is neither yes nor no.` };
    case 'choice': {
      const one = own.choices.find((c) => c.toLowerCase() === t.toLowerCase());
      return one === undefined ? { error: `${own.name} has no choice ${t}. It has ${own.choices.join(', ') || 'none yet'}.` } : { value: one };
    }
    case 'address': {
      const address = readAddress(t);
      return address === undefined ? { error: `${t} is no web address. Type it as https://example.org/page.` } : { value: address };
    }
    case 'computed':
      return { error: `${own.name} is computed. Change its expression in the Library.` };
    default:
      return t.length > 20_000 ? { error: 'the text is longer than 20,000 characters.' } : { value: text.trim() };
  }
}

/** A stored value as its field shows it: none where it is of another kind than the field is now. */
export function ownValue(own: OwnField, stored: Value | undefined): Value | null {
  if (stored === undefined) return null;
  const wanted = own.kind === 'yesNo' ? 'boolean' : ['number', 'money', 'duration'].includes(own.kind) ? 'number' : 'string';
  if (typeof stored !== wanted || (own.kind === 'choice' && !own.choices.includes(stored as string))) return null;
  if (own.kind !== 'date') return stored;
  const day = parseDay(stored as string);
  return day === undefined ? null : day * 1440;
}

function ownField(own: OwnField): Field {
  const key = ownKey(own.id);
  return field<Value>({
    key,
    title: own.name,
    about: own.about || `A field of this project.`,
    kind: kinds[own.kind],
    group: 'Own fields',
    width: own.kind === 'text' || own.kind === 'address' ? 130 : 90,
    stored: 'values',
    sum: own.sum === 'again' ? 'none' : own.sum,
    ...(own.kind === 'number' ? { showSum: (v) => withUnit(v as number, own) } : {}),
    inspector: true,
    value: ({ a }) => ownValue(own, a.values[key]),
    show(v, cell) {
      switch (own.kind) {
        case 'number':
          return withUnit(v as number, own);
        case 'money':
          return (v as number).toLocaleString('en-GB', { maximumFractionDigits: 2 });
        case 'date':
          return showTypedDate(String(cell.a.values[key]));
        case 'duration':
          return formatDuration(v as number, dayLengths(cell.doc, cell.a));
        case 'yesNo':
          return v ? 'yes' : 'no';
        default:
          return String(v);
      }
    },
    edit: own.kind === 'number' || own.kind === 'money' ? ({ a }) => String(ownValue(own, a.values[key]) ?? '') : undefined,
    ...(own.kind === 'choice' ? { choices: () => ['', ...own.choices] } : own.kind === 'yesNo' ? { choices: () => ['', 'yes', 'no'] } : {}),
    read(text, cell): Read {
      const r = readOwn(own, text, cell);
      return 'error' in r ? r : { fields: withValue(cell.a, key, r.value) };
    },
  });
}

/** What names of expressions mean in a project: fields of the product and of its own, and its code sets. */
export function namesOf(doc: Document, fields: (name: string) => Field | undefined): Names {
  const asCompiled = (f: Field): Compiled => ({
    type: typeOfKind(f.kind),
    end: f.end ?? 'start',
    computed: f.computed === true,
    run: (cell) => f.result?.(cell) ?? valueOf(f, cell),
  });
  return {
    field(name) {
      const f = fields(name);
      return f && asCompiled(f);
    },
    code(name) {
      const low = name.toLowerCase();
      const set = [...doc.codeSets.values()].find((s) => s.name.toLowerCase() === low || identifierOf(s.name).toLowerCase() === low);
      return set && asCompiled(codeField(set));
    },
  };
}

/** What can be asked for in an expression: field by name, its title and its type in words. */
export const askable = (fields: readonly Field[], own: readonly OwnField[]): { name: string; title: string; about: string }[] =>
  fields.flatMap((f) => {
    const mine = own.find((o) => ownKey(o.id) === f.key);
    if (f.key.startsWith('code:')) return [];
    return [{ name: mine ? nameInExpressions(mine) : f.key, title: f.title, about: typeWords[typeOfKind(f.kind)] }];
  });

/** A computed field: its expression on the same row. `names`: what it may ask for. */
function computedField(own: OwnField, names: Names | null, loop?: readonly string[]): Field {
  const compiled = names ? compileExpression(own.expression, names) : { error: `${loop?.join(' asks for ') ?? ''} in a ring` };
  const bad = 'error' in compiled ? compiled.error : null;
  const { type, end, computed } = 'error' in compiled ? { type: 'text' as const, end: 'start' as const, computed: false } : compiled;
  const result = (cell: Cell) => ('error' in compiled ? null : compiled.run(cell));
  const value = (cell: Cell): Value | null => {
    const v = result(cell);
    return failed(v) ? null : v;
  };
  const again = own.sum === 'again';
  return field<Value>({
    key: ownKey(own.id),
    title: own.name,
    about: `${own.about ? `${own.about} ` : ''}Computed: ${own.expression}`,
    kind: kindOfType(type),
    group: 'Own fields',
    width: type === 'text' ? 130 : 90,
    end,
    ...(computed ? { computed: true as const } : {}),
    sum: own.sum === 'again' ? 'none' : own.sum,
    value,
    result,
    // Asked of a row that has no value: what stands in its way.
    failure(cell) {
      if (bad !== null) return `(cannot be computed: ${bad})`;
      const v = result(cell);
      return failed(v) ? `(${v.reason})` : null;
    },
    ...(again ? { node: value, again: true as const } : {}),
    ...(own.unit && type === 'number' ? { show: (v) => withUnit(v as number, own), showSum: (v) => withUnit(v as number, own) } : {}),
    ...(type === 'number' && !own.unit ? { show: (v) => withUnit(v as number, own) } : {}),
  });
}

const withUnit = (v: number, own: OwnField): string => `${v.toLocaleString('en-GB', { maximumFractionDigits: 10 })}${own.unit ? ` ${own.unit}` : ''}`;

/** What a field is called in expressions: as it was told, else by its name. */
export const nameInExpressions = (f: Pick<OwnField, 'key' | 'name'>): string => f.key || identifierOf(f.name);

/** Computed fields that ask for each other in a ring, by name; undefined where none do. */
export function loopOf(own: readonly OwnField[], start: OwnField): string[] | undefined {
  const byKey = new Map(own.filter((f) => f.kind === 'computed').map((f) => [nameInExpressions(f), f]));
  byKey.set(nameInExpressions(start), start);
  const way: string[] = [];
  const done = new Set<string>();
  const visit = (f: OwnField): string[] | undefined => {
    const key = nameInExpressions(f);
    if (way.includes(key)) return way.slice(way.indexOf(key)).map((k) => byKey.get(k)?.name ?? k);
    if (done.has(key)) return undefined;
    way.push(key);
    for (const name of namesIn(f.expression).fields) {
      const next = byKey.get(name);
      const loop = next && visit(next);
      if (loop) return loop;
    }
    way.pop();
    done.add(key);
    return undefined;
  };
  return visit(start);
}

/** All fields of a project's own making. Computed ones may ask for each other; those in a ring say so and have no values. */
export function ownFieldsOf(doc: Document, builtIn: readonly Field[]): Field[] {
  const own = [...doc.ownFields.values()].sort(byRank);
  const byName = new Map(builtIn.map((f) => [f.key, f]));
  const made = new Map<string, Field>();
  for (const f of own) if (f.kind !== 'computed') made.set(f.id, ownField(f));
  for (const f of own) {
    const there = made.get(f.id);
    // A name that people gave stays theirs, also where the product has got a field of that name since.
    if (there) byName.set(nameInExpressions(f), there);
  }
  const names = namesOf(doc, (name) => {
    const f = own.find((x) => x.kind === 'computed' && nameInExpressions(x) === name);
    return f ? compute(f) : byName.get(name);
  });
  const compute = (f: OwnField): Field => {
    let there = made.get(f.id);
    if (!there) {
      // In a ring nothing has a value; the fields of the ring are told.
      const loop = loopOf(own, f);
      there = computedField(f, loop ? null : names, loop);
      made.set(f.id, there);
    }
    return there;
  };
  return own.map((f) => compute(f));
}

/** What a new activity has in the fields that people made. */
export const standardValues = (doc: Document): Activity['values'] =>
  Object.fromEntries([...doc.ownFields.values()].flatMap((f) => (f.standard === null ? [] : [[ownKey(f.id), f.standard]])));
