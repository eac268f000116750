/** The project file `NAME.yellowhammer.json`: writing. Reading is in read-file.ts. Format: docs/file-format.md. */
import { formatMinute } from '../time/instant.ts';
import { type Document, ordered } from './document.ts';
import { codeValueSchema, type Exception, exceptionSchema, type Interval, optionsSchema, type Snapshot } from './schema.ts';
import { type Row, type TableName, tableNames, tables } from './tables.ts';

export const FILE_FORMAT = 'yellowhammer-project';
export const FILE_VERSION = 1;

/** A project with the documents of its snapshots, by snapshot id. Those documents hold no snapshots themselves. */
export interface ProjectFile {
  document: Document;
  copies: Map<string, Document>;
  /** What attached files hold, in base64, by the SHA-256 of it. */
  contents?: ReadonlyMap<string, string>;
}

const interval = ([a, b]: Interval): [string, string] => [formatMinute(a), formatMinute(b)];

/** Fields in the order of the schema, so that the same row is the same text whatever made it. */
function inOrder<T extends object>(row: T, schema: { shape: Record<string, unknown> }): T {
  return Object.fromEntries(Object.keys(schema.shape).map((k) => [k, row[k as keyof T]])) as T;
}

const exceptionInFile = (e: Exception): unknown => ({ ...inOrder(e, exceptionSchema), work: e.work.map(interval) });

/** A row as it stands in the file: as in the document, but with intervals as `["08:00","12:00"]`, and without an empty store of values. */
function fileRow(table: TableName, row: Row): unknown {
  const r: Row = inOrder(row, tables[table].schema);
  if ('values' in r && Array.isArray(r.values)) return { ...r, values: r.values.map((v) => inOrder(v, codeValueSchema)) };
  if ('values' in r && Object.keys(r.values).length === 0) delete (r as Partial<typeof r>).values;
  if ('options' in r) return { ...r, options: inOrder(r.options, optionsSchema) };
  if ('constraints' in r) return { ...r, constraints: r.constraints.map(({ kind, date }) => ({ kind, date })) };
  if ('daysOff' in r) return { ...r, daysOff: r.daysOff.map(exceptionInFile) };
  if (!('exceptions' in r)) return r;
  return { ...r, week: r.week && r.week.map((day) => day.map(interval)), exceptions: r.exceptions.map(exceptionInFile) };
}

function documentLines(doc: Document, indent: string, skipSnapshots: boolean): string[] {
  const parts = [`${indent}"project": ${JSON.stringify(fileRow('project', [...doc.project.values()][0] as Row))}`];
  for (const table of tableNames) {
    if (table === 'project' || (tables[table].beside && skipSnapshots)) continue;
    const rows = ordered(doc, table).map((r) => `${indent}  ${JSON.stringify(fileRow(table, r))}`);
    parts.push(`${indent}"${table}": ${rows.length ? `[\n${rows.join(',\n')}\n${indent}]` : '[]'}`);
  }
  return parts;
}

/** A document alone, as kept in a snapshot: the same format without snapshots. */
export function writeDocument(doc: Document): string {
  const head = [`  "format": "${FILE_FORMAT}"`, `  "version": ${FILE_VERSION}`];
  return `{\n${[...head, ...documentLines(doc, '  ', true)].join(',\n')}\n}\n`;
}

/** The whole file: the same text for the same content, byte by byte. */
export function writeProjectFile(file: ProjectFile): string {
  const head = [`  "format": "${FILE_FORMAT}"`, `  "version": ${FILE_VERSION}`];
  const copies = ordered(file.document, 'snapshots').flatMap((s: Snapshot) => {
    const copy = file.copies.get(s.id);
    return copy ? [`    ${JSON.stringify(s.id)}: {\n${documentLines(copy, '      ', true).join(',\n')}\n    }`] : [];
  });
  const lines = [...head, ...documentLines(file.document, '  ', false)];
  lines.push(`  "copies": ${copies.length ? `{\n${copies.join(',\n')}\n  }` : '{}'}`);
  // Hashes and base64 hold nothing that would have to be escaped.
  if (file.contents?.size) lines.push(`  "contents": {\n${[...file.contents].map(([hash, text]) => `    "${hash}": "${text}"`).join(',\n')}\n  }`);
  return `{\n${lines.join(',\n')}\n}\n`;
}
