/** Values of fields of people's own: what typed text is in one, how it is told, and what new rows have. Of any table whose rows hold such values. */
import type { Document } from '../model/document.ts';
import { byRank } from '../model/order.ts';
import type { OwnField, OwnOf, StoredValue, StoredValues } from '../model/schema.ts';
import type { Rows } from '../model/tables.ts';
import { ownKey } from '../model/values.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { formatDuration, parseDuration } from '../time/duration.ts';
import { MINUTES_PER_DAY, parseDay } from '../time/instant.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { readAddress, typedDate, unreadableDate } from './typed.ts';
import { numberText, typedNumber } from '../model/number-text.ts';

/** A row that own fields may belong to. */
export type OwnedRow = Rows[OwnOf];
/** Whose days are meant where a duration is typed: a row without a calendar means the project's. */
type Calendared = { calendarId: string | null };
export const calendared = (row: OwnedRow): Calendared => ('calendarId' in row ? { calendarId: row.calendarId } : { calendarId: null });

/** Fields of a table, in their order. */
export const ownFieldsFor = (doc: Document, of: OwnOf): OwnField[] => [...doc.ownFields.values()].filter((f) => f.of === of).sort(byRank);

/** Rows that a field belongs to. */
export const rowsOfOwn = (doc: Document, of: OwnOf): OwnedRow[] => [...doc[of].values()];

/** What typed text is in a field of a kind: the value that is stored, or why it is none. */
export function readOwn(own: OwnField, text: string, doc: Document, row: Calendared): { value: StoredValue | null } | { error: string } {
  const t = text.trim();
  if (t === '') return { value: null };
  switch (own.kind) {
    case 'number':
    case 'money': {
      const plain = own.unit && t.toLowerCase().endsWith(own.unit.toLowerCase()) ? t.slice(0, -own.unit.length) : t;
      const n = typedNumber(plain);
      return n !== undefined && Math.abs(n) <= 1e15 ? { value: n } : { error: `${t} cannot be read as ${own.kind === 'money' ? 'an amount' : 'a number'}.` };
    }
    case 'date': {
      const date = typedDate(doc, t);
      return date === undefined ? { error: unreadableDate(t) } : { value: date.slice(0, 10) };
    }
    case 'duration': {
      const minutes = parseDuration(t, dayLengths(doc, row));
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
export function ownValue(own: OwnField, stored: StoredValue | undefined): StoredValue | null {
  if (stored === undefined) return null;
  const wanted = own.kind === 'yesNo' ? 'boolean' : ['number', 'money', 'duration'].includes(own.kind) ? 'number' : 'string';
  if (typeof stored !== wanted || (own.kind === 'choice' && !own.choices.includes(stored as string))) return null;
  if (own.kind !== 'date') return stored;
  const day = parseDay(stored as string);
  return day === undefined ? null : day * MINUTES_PER_DAY;
}

export const withUnit = (v: number, own: OwnField): string => `${numberText(v, 10)}${own.unit ? ` ${own.unit}` : ''}`;

/** The text of a stored value; empty where there is none. */
export function ownText(own: OwnField, stored: StoredValue | undefined, doc: Document, row: Calendared): string {
  const v = ownValue(own, stored);
  if (v === null) return '';
  switch (own.kind) {
    case 'number':
      return withUnit(v as number, own);
    case 'money':
      return numberText(v as number, 2);
    case 'date':
      return showTypedDate(String(stored));
    case 'duration':
      return formatDuration(v as number, dayLengths(doc, row));
    case 'yesNo':
      return v ? 'yes' : 'no';
    default:
      return String(v);
  }
}

/** The text of a stored value that can be typed again: figures without grouping and unit. */
export const ownEditText = (own: OwnField, stored: StoredValue | undefined, doc: Document, row: Calendared): string =>
  own.kind === 'number' || own.kind === 'money' ? String(ownValue(own, stored) ?? '') : ownText(own, stored, doc, row);

/** What is chosen from, where it is chosen; nothing first. */
export const ownChoices = (own: OwnField): readonly string[] | undefined => (own.kind === 'choice' ? ['', ...own.choices] : own.kind === 'yesNo' ? ['', 'yes', 'no'] : undefined);

/** What a new row of a table has in the fields that people made. */
export const standardValues = (doc: Document, of: OwnOf): StoredValues =>
  Object.fromEntries(ownFieldsFor(doc, of).flatMap((f) => (f.standard === null ? [] : [[ownKey(f.id), f.standard]])));
