/** Rows of the document to and from SQL: one table an entity, a column a field, as core's list of tables says. */
import { columnsOf, type Row, type TableName, tableNames, tables } from '@yellowhammer/core/model/tables';
import type { Statement as SqlStatement } from 'better-sqlite3';
import type { Db } from './database.ts';

export interface RowStatements {
  put(projectId: string, table: TableName, row: Row): void;
  remove(projectId: string, table: TableName, id: string): void;
  get(projectId: string, table: TableName, id: string): Row | null;
  all(projectId: string, table: TableName): Row[];
}

/** Statements for every table, prepared once. */
export function prepareRows(db: Db): RowStatements {
  const prepared = Object.fromEntries(
    tableNames.map((name) => {
      const { table } = tables[name].sql;
      const columns = columnsOf(name);
      // Quoted, since a field may be called as SQL calls something else.
      const names = columns.map((c) => `"${c.column}"`);
      const sets = names.filter((c) => c !== '"id"').map((c) => `${c} = excluded.${c}`);
      return [
        name,
        {
          columns,
          put: db.prepare(
            `INSERT INTO ${table} (project_id, ${names.join(', ')}) VALUES (?${', ?'.repeat(names.length)}) ON CONFLICT (project_id, id) DO UPDATE SET ${sets.join(', ')}`,
          ),
          remove: db.prepare(`DELETE FROM ${table} WHERE project_id = ? AND id = ?`),
          get: db.prepare(`SELECT ${names.join(', ')} FROM ${table} WHERE project_id = ? AND id = ?`),
          all: db.prepare(`SELECT ${names.join(', ')} FROM ${table} WHERE project_id = ? ORDER BY rank, id`),
        },
      ];
    }),
  ) as Record<TableName, { columns: Column[]; put: Statement; remove: Statement; get: Statement; all: Statement }>;
  const read = (columns: Column[], raw: Record<string, unknown>): Row => {
    const row: Record<string, unknown> = {};
    for (const c of columns) row[c.field] = c.json && raw[c.column] !== null ? JSON.parse(raw[c.column] as string) : raw[c.column];
    return Object.freeze(row) as unknown as Row;
  };
  return {
    put(projectId, table, row) {
      const { columns, put } = prepared[table];
      const values = columns.map((c) => {
        const v = (row as unknown as Record<string, unknown>)[c.field];
        return c.json && v !== null ? JSON.stringify(v) : v;
      });
      put.run(projectId, ...values);
    },
    remove: (projectId, table, id) => void prepared[table].remove.run(projectId, id),
    get(projectId, table, id) {
      const raw = prepared[table].get.get(projectId, id) as Record<string, unknown> | undefined;
      return raw ? read(prepared[table].columns, raw) : null;
    },
    all: (projectId, table) => (prepared[table].all.all(projectId) as Record<string, unknown>[]).map((raw) => read(prepared[table].columns, raw)),
  };
}

type Statement = SqlStatement<unknown[]>;
type Column = ReturnType<typeof columnsOf>[number];
