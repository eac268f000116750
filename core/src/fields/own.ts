/** Fields that people have made: a column for each code set, and one for each field of their own. Values lie in `values` of the row. */
import { indexOf } from '../model/doc-index.ts';
import { byRank } from '../model/order.ts';
import type { Document } from '../model/document.ts';
import type { Activity, CodeSet, CodeValue, OwnField } from '../model/schema.ts';
import { Draft } from '../change/change.ts';
import type { NewId, Outcome } from '../commands/result.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { formatDuration, parseDuration } from '../time/duration.ts';
import { codeKey, ownKey, withValue } from '../model/values.ts';
import { parseDay } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { type ActivityCell, field, type Field, type Kind, type Read, type Value } from './field.ts';
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

function codeField(set: CodeSet): Field {
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
    sum: own.kind === 'number' || own.kind === 'money' || own.kind === 'duration' ? 'sum' : 'same',
    inspector: true,
    value: ({ a }) => ownValue(own, a.values[key]),
    show(v, cell) {
      switch (own.kind) {
        case 'number':
          return `${(v as number).toLocaleString('en-GB', { maximumFractionDigits: 10 })}${own.unit ? ` ${own.unit}` : ''}`;
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

const made = new WeakMap<object, { version: number; fields: Field[] }>();

/** Fields of a project's code sets and of its own, in their order. */
export function madeFields(doc: Document): Field[] {
  const index = indexOf(doc);
  const known = made.get(index);
  if (known && known.version === index.madeVersion) return known.fields;
  const fields = [...[...doc.codeSets.values()].sort(byRank).map(codeField), ...[...doc.ownFields.values()].sort(byRank).map(ownField)];
  made.set(index, { version: index.madeVersion, fields });
  return fields;
}

/** What a new activity has in the fields that people made. */
export const standardValues = (doc: Document): Activity['values'] =>
  Object.fromEntries([...doc.ownFields.values()].flatMap((f) => (f.standard === null ? [] : [[ownKey(f.id), f.standard]])));
