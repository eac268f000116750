/**
 * What SQLite is told of how large a project is. Without it, it takes a project for ten rows, and looks through all links
 * of a plan for each activity that is deleted instead of asking their index (20 ms each with 80,000 links).
 */
import type Database from 'better-sqlite3';

const ROWS = 1_000_000;
const OF_ONE_PROJECT = 20_000;
/** Rows that share all columns of an index that has more than one of a kind: links of one activity, activities of one node. */
const ALIKE = 3;

interface IndexRow {
  name: string;
  unique: 0 | 1;
  origin: 'c' | 'u' | 'pk';
}

/** Rows of `sqlite_stat1` for every index that begins with the project: table, index, and rows in all, by the first column, by the first two and so on. */
function statsOf(db: Database.Database): [string, string, string][] {
  const tables = db.prepare("SELECT name, sql LIKE '%WITHOUT ROWID%' AS plain FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'").all() as {
    name: string;
    plain: 0 | 1;
  }[];
  return tables.flatMap(({ name, plain }) =>
    (db.pragma(`index_list(${name})`) as IndexRow[]).flatMap((i): [string, string, string][] => {
      const columns = (db.pragma(`index_info(${i.name})`) as { name: string | null }[]).map((c) => c.name);
      if (columns[0] !== 'project_id' || columns.length < 2) return [];
      const by = columns.map((_, n) => (n === 0 ? OF_ONE_PROJECT : n < columns.length - 1 || !i.unique ? ALIKE : 1));
      // A table that is its own primary key has that under its own name.
      return [[name, plain && i.origin === 'pk' ? name : i.name, [ROWS, ...by].join(' ')]];
    }),
  );
}

/** Tells SQLite; whoever opens the database afterwards knows it, too. Only speed hangs on it: where nothing can be written, nothing is. */
export function tellSizes(db: Database.Database): void {
  const wanted = statsOf(db);
  try {
    const there = db.prepare("SELECT 1 FROM sqlite_master WHERE name = 'sqlite_stat1'").get();
    const told = there ? (db.prepare('SELECT tbl, idx, stat FROM sqlite_stat1').raw().all() as [string, string, string][]) : [];
    const asText = (list: readonly (readonly string[])[]): string =>
      list
        .map((r) => r.join(' '))
        .sort()
        .join('\n');
    if (asText(told) === asText(wanted)) return;
    db.transaction(() => {
      // Makes the table that figures stand in; what it would count itself is of a plan that may grow.
      db.exec('ANALYZE projects; DELETE FROM sqlite_stat1');
      const put = db.prepare('INSERT INTO sqlite_stat1 (tbl, idx, stat) VALUES (?, ?, ?)');
      for (const row of wanted) put.run(...row);
    }).immediate();
    db.exec('ANALYZE sqlite_schema');
  } catch (e) {
    if (!String((e as { code?: string }).code).startsWith('SQLITE_')) throw e;
  }
}
