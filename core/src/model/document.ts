/** The project document: a map of frozen rows for each table. Changed only by changes (change/change.ts). */
import { completed, type Row, type Rows, type TableName, tableNames, tables } from './tables.ts';
import type { Activity } from './schema.ts';
import { byRank } from './order.ts';

export type Document = { readonly [T in TableName]: Map<string, Rows[T]> };

export function emptyDocument(): Document {
  return Object.fromEntries(tableNames.map((t) => [t, new Map()])) as unknown as Document;
}

/** A copy that can be changed apart from its origin; rows are shared, since they are frozen. */
export function copyDocument(doc: Document): Document {
  return Object.fromEntries(tableNames.map((t) => [t, new Map<string, Row>(doc[t])])) as unknown as Document;
}

/** The rows of each table as lists: how a document travels between threads and over the wire. */
export type DocumentRows = { readonly [T in TableName]: readonly Rows[T][] };

/** A document as such lists. */
export const rowsOf = (doc: Document): DocumentRows => Object.fromEntries(tableNames.map((t) => [t, [...doc[t].values()]])) as unknown as DocumentRows;

/** The document of such lists. */
export function documentFrom(rows: DocumentRows): Document {
  const doc = emptyDocument();
  for (const table of tableNames) {
    const map = doc[table] as Map<string, Row>;
    for (const row of rows[table]) map.set(row.id, Object.freeze(completed(table, row)));
  }
  return doc;
}

const PROJECT = 'project';
export function projectOf(doc: Document): Rows['project'] {
  const row = doc.project.get(PROJECT);
  if (!row) throw new Error('the document has no project row');
  return row;
}

/** Rows of a table in file order. */
export function ordered<T extends TableName>(doc: Document, table: T): Rows[T][] {
  const rows = [...doc[table].values()];
  let sorted = true;
  for (let i = 1; sorted && i < rows.length; i++) sorted = byRank(rows[i - 1]!, rows[i]!) <= 0;
  return sorted ? rows : rows.sort(byRank);
}

/** How a person names an activity: its number and name. */
export const labelOf = (a: Pick<Activity, 'code' | 'name'>): string => tables.activities.label(a as Activity, noRows);
const noRows = emptyDocument();

/** A rank between two neighbours; undefined neighbours are the ends. Undefined where there is no room left. */
export function rankBetween(before: number | undefined, after: number | undefined): number | undefined {
  if (before === undefined) return after === undefined ? 0 : after - 1;
  if (after === undefined) return before + 1;
  const middle = (before + after) / 2;
  return middle > before && middle < after ? middle : undefined;
}
