/** Rows of the document to and from SQL: one table an entity, a column a field. */
import type { Row, TableName } from '@yellowhammer/core/model/schema';
import type { Statement as SqlStatement } from 'better-sqlite3';
import type { Db } from './database.ts';

interface Column {
  field: string;
  column: string;
  json?: boolean;
}

const snake = (s: string): string => s.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);
const plain = (...fields: string[]): Column[] => fields.map((field) => ({ field, column: snake(field) }));
const json = (...fields: string[]): Column[] => fields.map((field) => ({ field, column: snake(field), json: true }));

/** In the order of the schema's fields, so that rows read back are the same text as rows written. */
const tables: Record<TableName, { table: string; columns: Column[] }> = {
  project: {
    table: 'project_settings',
    columns: [...plain('id', 'rank', 'code', 'name', 'plannedStart', 'dataDate', 'requiredFinish', 'calendarId'), ...json('options'), ...plain('baselineId', 'currency', 'notes')],
  },
  calendars: { table: 'calendars', columns: [...plain('id', 'rank', 'name', 'basedOn'), ...json('week', 'exceptions'), ...plain('hoursPerDay', 'daysPerWeek', 'sharedId')] },
  wbs: { table: 'wbs', columns: plain('id', 'rank', 'parentId', 'name', 'notes') },
  activities: {
    table: 'activities',
    columns: [
      ...plain('id', 'rank', 'code', 'name', 'wbsId', 'type', 'duration', 'calendarId'),
      ...json('constraints'),
      ...plain('deadline', 'actualStart', 'actualFinish', 'remaining', 'suspend', 'resume', 'levellingDelay', 'cost', 'notes'),
    ],
  },
  links: {
    table: 'links',
    columns: [...plain('id', 'rank'), { field: 'from', column: 'from_id' }, { field: 'to', column: 'to_id' }, ...plain('type', 'lag', 'lagCalendar')],
  },
  snapshots: { table: 'snapshots', columns: plain('id', 'rank', 'kind', 'name', 'description', 'at', 'dataDate') },
};

export interface RowStatements {
  put(projectId: string, table: TableName, row: Row): void;
  remove(projectId: string, table: TableName, id: string): void;
  get(projectId: string, table: TableName, id: string): Row | null;
  all(projectId: string, table: TableName): Row[];
}

/** Statements for every table, prepared once. */
export function prepareRows(db: Db): RowStatements {
  const prepared = Object.fromEntries(
    Object.entries(tables).map(([name, { table, columns }]) => {
      const names = columns.map((c) => c.column);
      const sets = names.filter((c) => c !== 'id').map((c) => `${c} = excluded.${c}`);
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
