/** The project document: a map of frozen rows for each table. Changed only by changes (change/change.ts). */
import type { Activity, Row, Rows, TableName } from './schema.ts';

export type Document = { readonly [T in TableName]: Map<string, Rows[T]> };

export function emptyDocument(): Document {
  return { project: new Map(), calendars: new Map(), wbs: new Map(), activities: new Map(), links: new Map(), snapshots: new Map() };
}

/** A copy that can be changed apart from its origin; rows are shared, since they are frozen. */
export function copyDocument(doc: Document): Document {
  return {
    project: new Map(doc.project),
    calendars: new Map(doc.calendars),
    wbs: new Map(doc.wbs),
    activities: new Map(doc.activities),
    links: new Map(doc.links),
    snapshots: new Map(doc.snapshots),
  };
}

const PROJECT = 'project';
export function projectOf(doc: Document): Rows['project'] {
  const row = doc.project.get(PROJECT);
  if (!row) throw new Error('the document has no project row');
  return row;
}

const byRank = (a: Row, b: Row): number => a.rank - b.rank || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);

/** Rows of a table in file order. */
export function ordered<T extends TableName>(doc: Document, table: T): Rows[T][] {
  const rows = [...doc[table].values()];
  let sorted = true;
  for (let i = 1; sorted && i < rows.length; i++) sorted = byRank(rows[i - 1] as Row, rows[i] as Row) <= 0;
  return sorted ? rows : rows.sort(byRank);
}

/** How a person names an activity: its code and name. */
export const labelOf = (a: Pick<Activity, 'code' | 'name'>): string => (a.name ? `${a.code} ${a.name}` : a.code);

/** A rank between two neighbours; undefined neighbours are the ends. Undefined where there is no room left. */
export function rankBetween(before: number | undefined, after: number | undefined): number | undefined {
  if (before === undefined) return after === undefined ? 0 : after - 1;
  if (after === undefined) return before + 1;
  const middle = (before + after) / 2;
  return middle > before && middle < after ? middle : undefined;
}
