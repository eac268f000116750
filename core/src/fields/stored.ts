/** The fields in which rows are stored, as people read them: for undo texts, refusals, and two versions of a row side by side. */
import { sameValue } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import type { Activity, Link, OwnOf } from '../model/schema.ts';
import { ownKey } from '../model/values.ts';
import { labelOfRow, referredId, type Row, type Table, type TableName, tables, titleOf } from '../model/tables.ts';
import { formatLink } from '../commands/links.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { showTypedDate } from '../time/typed-date.ts';
import { editField } from './field.ts';
import { activityCell, builtIn, fieldsOf } from './list.ts';
import { calendared, type OwnedRow, ownFieldsFor, ownText } from './own-values.ts';

const DATE = /^\d{4}-\d\d-\d\d(T\d\d:\d\d)?$/;

/** A stored value as people read it. */
function shown(doc: Document, table: TableName, row: Row, stored: string): string {
  const v = (row as unknown as Record<string, unknown>)[stored];
  if (v === null || v === undefined || v === '') return '(none)';
  if (table === 'activities' && stored === 'values')
    return (
      [...fieldsOf(doc).values()]
        .filter((f) => f.stored === 'values' && f.read)
        .flatMap((f) => editField(f, activityCell({ doc, view: null, baseline: null, clock: false }, row as Activity)) || [])
        .join(', ') || '(none)'
    );
  if (stored === 'values' && table !== 'codeSets') {
    const of = table as OwnOf;
    const told = ownFieldsFor(doc, of).flatMap((f) => ownText(f, (row as OwnedRow).values[ownKey(f.id)], doc, calendared(row as OwnedRow)) || []);
    return told.join(', ') || '(none)';
  }
  if (table === 'activities') {
    const f = builtIn.find((x) => x.stored === stored);
    if (f) return editField(f, activityCell({ doc, view: null, baseline: null, clock: false }, row as Activity)) || '(none)';
  }
  if (table === 'links' && (stored === 'from' || stored === 'to')) return doc.activities.get(v as string)?.code ?? String(v);
  if (table === 'links' && stored === 'lag') {
    const from = doc.activities.get((row as Link).from);
    return from ? formatLink({ code: '' }, { type: 'FS', lag: v as number }, dayLengths(doc, from)).replace(/^FS/, '') || 'none' : String(v);
  }
  const ref = (tables[table] as Table<Row>).refs.find((r) => r.field === stored);
  const named = ref && referredId(ref, row);
  if (ref && named !== undefined) {
    const to = doc[ref.to].get(named);
    return to ? labelOfRow(ref.to, to, doc) : String(v);
  }
  if (typeof v === 'string') return DATE.test(v) ? showTypedDate(v) : v;
  if (Array.isArray(v)) return v.length === 0 ? '(none)' : `${v.slice(0, MOST_ITEMS).map(item).join('; ')}${v.length > MOST_ITEMS ? ` and ${v.length - MOST_ITEMS} more` : ''}`;
  return typeof v === 'object' ? 'another' : String(v);
}

/** Entries of a list that are told. */
const MOST_ITEMS = 8;

/** One of a list in words: what it is called, from when on, and its figures; ids say nothing to people. */
function item(v: unknown): string {
  if (typeof v !== 'object' || v === null) return String(v);
  const parts = Object.entries(v).flatMap(([key, x]) => {
    if (typeof x === 'number') return [String(x)];
    if (typeof x !== 'string' || x === '' || /id$/i.test(key) || key === 'colour') return [];
    return [DATE.test(x) ? showTypedDate(x) : x];
  });
  return parts.join(' ') || 'one';
}

export interface RowDifference {
  field: string;
  title: string;
  theirs: string;
  mine: string;
}

/** Fields in which two versions of a row differ, in words: `Duration: 10d, 12d`. A missing version is told as such. */
export function rowDifferences(doc: Document, table: TableName, theirs: Row | null, mine: Row | null): RowDifference[] {
  if (!theirs || !mine) return [{ field: 'row', title: 'row', theirs: theirs ? 'kept' : 'deleted', mine: mine ? 'kept' : 'deleted' }];
  const out: RowDifference[] = [];
  for (const key of Object.keys(mine)) {
    if (sameValue((theirs as unknown as Record<string, unknown>)[key], (mine as unknown as Record<string, unknown>)[key])) continue;
    const [a, b] = [shown(doc, table, theirs, key), shown(doc, table, mine, key)];
    // Where both read alike, they differ in what cannot be told in a word.
    out.push({ field: key, title: titleOf(table, key), theirs: a, mine: a === b ? `another (${b})` : b });
  }
  return out;
}
