/** Changes: the only way a project is altered. Each names a row before and after; inverses are exact. */
import { z } from 'zod';
import { forgetIndex, keptIndex } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { type Problem, problem } from '../model/problem.ts';
import { type Row, type TableName, tableNames, tables } from '../model/tables.ts';

export interface Change {
  table: TableName;
  id: string;
  /** Null: the row was not there. */
  before: Row | null;
  /** Null: the row is deleted. */
  after: Row | null;
}

/** Characters that a label may have. */
export const MOST_LABEL = 300;

/** What one act of a person does: it is applied, sent, undone and redone as a whole. */
export interface Batch {
  /** Unique; sending the same one twice does no harm. */
  changeId: string;
  /** What it did, for people: "Link 12 activities". */
  label: string;
  kind: 'do' | 'undo' | 'redo';
  /** The batch that an undo or redo takes back or brings back. */
  target: string | null;
  changes: Change[];
}

/** A batch as the log of a project holds it. */
export interface LogEntry extends Batch {
  revision: number;
  /** Name of the person, and the window it came from. */
  who: string;
  client: string;
  at: string;
}

const looseChange = z.object({
  table: z
    .string()
    .refine((t): t is TableName => Object.hasOwn(tables, t), 'a table of the project is wanted')
    .transform((t) => t as TableName),
  id: z.string().min(1).max(100),
  before: z.unknown(),
  after: z.unknown(),
});
export const batchSchema = z.object({
  changeId: z.string().min(8).max(100),
  label: z.string().min(1).max(MOST_LABEL),
  kind: z.enum(['do', 'undo', 'redo']),
  target: z.string().max(100).nullable(),
  changes: z.array(looseChange).max(2_000_000),
});

/** Checks every row of loose changes against its schema. */
export function checkChanges(loose: readonly z.infer<typeof looseChange>[]): { changes: Change[]; problems: Problem[] } {
  const problems: Problem[] = [];
  const changes: Change[] = [];
  for (const c of loose) {
    const { schema } = tables[c.table];
    const parsed = c.after === null || c.after === undefined ? null : schema.safeParse(c.after);
    if (parsed && !parsed.success) {
      const issue = parsed.error.issues[0]!;
      problems.push(
        problem('WRONG_VALUE', `${c.table} ${c.id}: ${issue.path.join('.') || 'the row'}: ${issue.message}`, { table: c.table, id: c.id, field: issue.path.join('.') }),
      );
      continue;
    }
    const after = parsed ? (parsed.data as Row) : null;
    if (after && after.id !== c.id) problems.push(problem('WRONG_ID', `${c.table} ${c.id}: the row has another id (${after.id}).`, { table: c.table, id: c.id }));
    else changes.push({ table: c.table, id: c.id, before: (c.before ?? null) as Row | null, after });
  }
  return { changes, problems };
}

/** More changes than this at once, and the document's index is made anew when it is next needed. */
const FORGET_ABOVE = 5_000;

/** Applies changes in order, and keeps the document's index. Rows are frozen, so they can be shared. */
export function applyChanges(doc: Document, changes: readonly Change[]): void {
  // Where most of a plan changes, looking everything up anew costs less than keeping it.
  if (changes.length > FORGET_ABOVE) forgetIndex(doc);
  const index = keptIndex(doc);
  for (const c of changes) {
    const table = doc[c.table] as Map<string, Row>;
    index?.note(c.table, table.get(c.id) ?? null, c.after, changes.length);
    if (c.after === null) table.delete(c.id);
    else table.set(c.id, Object.freeze(c.after));
  }
}

/** The changes that take these back. */
export function invertChanges(changes: readonly Change[]): Change[] {
  return changes.map((c) => ({ table: c.table, id: c.id, before: c.after, after: c.before })).reverse();
}

/** Equality of plain JSON values, whatever the order of their keys. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const x = Object.keys(a);
  const y = Object.keys(b);
  return x.length === y.length && x.every((k) => sameValue((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]));
}

/** Changes whose row is no longer what it was when they were made. */
export function clashes(doc: Document, changes: readonly Change[]): Change[] {
  const seen = new Set<string>();
  return changes.filter((c) => {
    const key = `${c.table}/${c.id}`;
    if (seen.has(key)) return false;
    seen.add(key);
    return !sameValue(doc[c.table].get(c.id) ?? null, c.before);
  });
}

/** The changes that make one document of another. Snapshots are left alone unless asked for. */
export function diffDocuments(from: Document, to: Document, which: readonly TableName[] = tableNames.filter((t) => !tables[t].beside)): Change[] {
  const out: Change[] = [];
  for (const table of which) {
    for (const [id, after] of to[table]) {
      const before = from[table].get(id) ?? null;
      if (!sameValue(before, after)) out.push({ table, id, before, after });
    }
  }
  for (const table of [...which].reverse()) for (const [id, before] of from[table]) if (!to[table].has(id)) out.push({ table, id, before, after: null });
  return out;
}

/** Makes changes one by one against a document, so that later ones see earlier ones. Used by commands. */
export class Draft {
  readonly changes: Change[] = [];
  private readonly overlay = new Map<string, Row | null>();
  private readonly places = new Map<string, number>();
  readonly doc: Document;
  constructor(doc: Document) {
    this.doc = doc;
  }

  get<T extends TableName>(table: T, id: string): Extract<ReturnType<Document[T]['get']>, object> | undefined {
    const key = `${table}/${id}`;
    const row = this.overlay.has(key) ? this.overlay.get(key) : this.doc[table].get(id);
    return (row ?? undefined) as never;
  }

  /** All rows of a table as they stand in the draft, those that it adds at the end. */
  rows<T extends TableName>(table: T): Extract<ReturnType<Document[T]['get']>, object>[] {
    const ids = new Set([...this.doc[table].keys(), ...this.changes.flatMap((c) => (c.table === table ? [c.id] : []))]);
    return [...ids].flatMap((id) => this.get(table, id) ?? []);
  }

  set(table: TableName, id: string, after: Row | null): void {
    const before = (this.get(table, id) ?? null) as Row | null;
    if (sameValue(before, after)) return;
    const key = `${table}/${id}`;
    const at = this.places.get(key);
    this.overlay.set(key, after);
    // One change a row: a second one is folded into the first.
    if (at !== undefined) this.changes[at] = { ...this.changes[at]!, after };
    else {
      this.places.set(key, this.changes.length);
      this.changes.push({ table, id, before, after });
    }
  }

  patch<T extends TableName>(table: T, id: string, fields: Partial<Extract<ReturnType<Document[T]['get']>, object>>): void {
    const row = this.get(table, id);
    if (row) this.set(table, id, { ...(row as object), ...(fields as object) } as Row);
  }
}
