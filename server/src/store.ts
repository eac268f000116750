/** Projects in the database: the only code that reads and writes them. Every write is one transaction. */
import { randomUUID } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import { applyChanges, type Batch, type Change, clashes, diffDocuments, type LogEntry } from '@yellowhammer/core/change/change';
import { copyDocument, type Document, documentFrom, type DocumentRows, emptyDocument } from '@yellowhammer/core/model/document';
import { type ProjectFile, writeDocument } from '@yellowhammer/core/model/file';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { Assignment } from '@yellowhammer/core/model/resource-schema';
import type { Activity, AttachedFile, Calendar, Project, Snapshot, Stage, WbsNode } from '@yellowhammer/core/model/schema';
import { completed, nameOfRow, type Reference, referredId, type Row, type TableName, tableNames, tables } from '@yellowhammer/core/model/tables';
import { outlineObjection } from '@yellowhammer/core/outline/rules';
import { changeProblems, latestActual, type Standing } from '@yellowhammer/core/rules/check';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { Contents } from './contents.ts';
import type { Db } from './database.ts';
import { prepareRows, type RowStatements } from './rows.ts';

export interface Author {
  who: string;
  client: string;
}

export interface ProjectHead {
  id: string;
  revision: number;
  createdAt: string;
  changedAt: string;
  changedBy: string;
  archivedAt: string | null;
  deletedAt: string | null;
}

export type Applied =
  | { kind: 'applied'; entry: LogEntry; repeated: boolean }
  /** `missed` is null where it is so much that opening anew is quicker. */
  | { kind: 'behind'; revision: number; missed: LogEntry[] | null }
  | { kind: 'refused'; problems: Problem[] }
  | { kind: 'unknown' };

/** What listeners hear: an entry, or that a window (`client` made it) does best to open the project anew. */
export type News = LogEntry | { anew: true; client: string };

const headColumns = 'id, revision, created_at AS createdAt, changed_at AS changedAt, changed_by AS changedBy, archived_at AS archivedAt, deleted_at AS deletedAt';
const MOST_CACHED = 6;
/** Problems of one batch that are told. */
const MOST_PROBLEMS = 20;
/** Entries, and characters of their changes, that a window is sent when it comes late. */
const MOST_MISSED = 300;
const MOST_MISSED_CHARACTERS = 2_000_000;
const MOST_HISTORY_CHARACTERS = 30_000_000;

export class Store {
  private readonly rows: RowStatements;
  readonly contents: Contents;
  private readonly cache = new Map<string, { doc: Document; revision: number }>();
  private readonly listeners = new Map<string, Set<(e: News) => void>>();
  /** Entries of writes that run as one, to be told when all of them are done; null outside of such. */
  private untold: (() => void)[] | null = null;
  private hear: ((projectId: string) => void) | undefined;
  private readonly sql;
  private readonly db: Db;

  constructor(db: Db) {
    this.db = db;
    this.rows = prepareRows(db);
    this.contents = new Contents(db);
    this.sql = {
      heads: db.prepare(`SELECT ${headColumns} FROM projects ORDER BY created_at, id`),
      head: db.prepare(`SELECT ${headColumns} FROM projects WHERE id = ?`),
      insert: db.prepare('INSERT INTO projects (id, revision, created_at, changed_at, changed_by) VALUES (?, ?, ?, ?, ?)'),
      advance: db.prepare('UPDATE projects SET revision = ?, changed_at = ?, changed_by = ? WHERE id = ?'),
      mark: db.prepare('UPDATE projects SET archived_at = ?, deleted_at = ? WHERE id = ?'),
      log: db.prepare('INSERT INTO change_log (project_id, revision, change_id, label, kind, target, who, client, at, changes) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)'),
      arrived: db.prepare('SELECT revision FROM change_log WHERE project_id = ? AND change_id = ?'),
      byChange: db.prepare('SELECT * FROM change_log WHERE project_id = ? AND change_id = ?'),
      since: db.prepare('SELECT * FROM change_log WHERE project_id = ? AND revision > ? ORDER BY revision'),
      ofClient: db.prepare('SELECT * FROM (SELECT * FROM change_log WHERE project_id = ? AND client = ? ORDER BY revision DESC LIMIT ?) ORDER BY revision'),
      before: db.prepare('SELECT * FROM change_log WHERE project_id = ? AND revision < ? ORDER BY revision DESC LIMIT ?'),
      recent: db.prepare('SELECT revision, change_id AS changeId, label, kind, target, who, client, at FROM change_log WHERE project_id = ? ORDER BY revision DESC LIMIT ?'),
      putCopy: db.prepare('INSERT OR IGNORE INTO snapshot_copies (project_id, id, revision, content) VALUES (?, ?, ?, ?)'),
      copy: db.prepare('SELECT content FROM snapshot_copies WHERE project_id = ? AND id = ?'),
      sizes: db.prepare('SELECT length(changes) AS size FROM change_log WHERE project_id = ? AND revision > ? ORDER BY revision LIMIT ?'),
      names: db.prepare(
        'SELECT s.project_id AS id, s.code, s.name, s.stage, p.hash AS logo FROM project_settings s LEFT JOIN pictures p ON p.project_id = s.project_id AND p.id = s.logo_id',
      ),
      withCode: db.prepare('SELECT id FROM activities WHERE project_id = ? AND lower(code) = lower(?)'),
      actualsFrom: db.prepare('SELECT id FROM activities WHERE project_id = ? AND (actual_start >= ? OR actual_finish >= ?)'),
      assigned: db.prepare('SELECT id FROM assignments WHERE project_id = ? AND activity_id = ?'),
      children: db.prepare('SELECT id FROM wbs WHERE project_id = ? AND parent_id = ?'),
      summaries: db.prepare('SELECT project_id AS id, revision, content FROM summaries WHERE version = ?'),
      putSummary: db.prepare('INSERT OR REPLACE INTO summaries (project_id, revision, version, content) VALUES (?, ?, ?, ?)'),
    };
  }

  heads(): ProjectHead[] {
    return this.sql.heads.all() as ProjectHead[];
  }

  head(id: string): ProjectHead | undefined {
    return this.sql.head.get(id) as ProjectHead | undefined;
  }

  /** The head of a project that is not deleted. */
  there(id: string): ProjectHead | undefined {
    const head = this.head(id);
    return head?.deletedAt === null ? head : undefined;
  }

  /** Calendars of a project, without reading the rest of it. */
  calendars(id: string): Calendar[] {
    return this.rows.all(id, 'calendars') as Calendar[];
  }

  /** The document of a project as it is now. Shared with the cache: callers must not change it. */
  document(id: string): { doc: Document; revision: number } | undefined {
    const head = this.head(id);
    if (!head) return undefined;
    const cached = this.cache.get(id);
    if (cached && cached.revision === head.revision) return cached;
    const loaded = { doc: this.part(id, tableNames), revision: head.revision };
    this.cache.delete(id);
    this.cache.set(id, loaded);
    if (this.cache.size > MOST_CACHED) this.cache.delete(this.cache.keys().next().value as string);
    return loaded;
  }

  /** Some tables of a project as they are now, as a document in which the others are empty: for what should not wait for the whole. */
  part(id: string, wanted: readonly TableName[]): Document {
    return documentFrom(Object.fromEntries(tableNames.map((table) => [table, wanted.includes(table) ? this.rows.all(id, table) : []])) as unknown as DocumentRows);
  }

  /** Runs several writes as one: all of them, or none. */
  together<T>(f: () => T): T {
    this.untold = [];
    try {
      const result = this.db.transaction(f).immediate();
      // Other windows hear of it only when it is on the disk.
      for (const tell of this.untold) tell();
      return result;
    } catch (e) {
      // What was cached on the way is not what is on the disk.
      this.cache.clear();
      throw e;
    } finally {
      this.untold = null;
    }
  }

  /** Makes a project of a file's content. */
  create(file: ProjectFile, author: Author, label: string): string {
    const id = randomUUID();
    const at = new Date().toISOString();
    const changes = diffDocuments(emptyDocument(), file.document, tableNames);
    this.db.transaction(() => {
      this.sql.insert.run(id, 1, at, at, author.who);
      for (const c of changes) if (c.after) this.rows.put(id, c.table, c.after);
      for (const [copyId, copy] of file.copies) this.sql.putCopy.run(id, copyId, 1, gzipSync(writeDocument(copy), { level: 1 }));
      // The first entry says that it was made; what it was made of is what the second entry finds before it.
      this.sql.log.run(id, 1, randomUUID(), label, 'do', null, author.who, 'server', at, '[]');
    })();
    return id;
  }

  /** The project with all its copies, as the project file holds it. */
  file(id: string): ProjectFile | undefined {
    const loaded = this.document(id);
    if (!loaded) return undefined;
    const copies = new Map<string, Document>();
    for (const s of loaded.doc.snapshots.keys()) {
      const copy = this.copy(id, s);
      if (copy) copies.set(s, copy);
    }
    return { document: loaded.doc, copies, contents: this.contents.ofProject({ document: loaded.doc, copies }) };
  }

  /** An attached file of a project by its id, with what it holds; undefined where one of both is not there. */
  attachedFile(projectId: string, id: string): { name: string; bytes: Buffer } | undefined {
    const row = this.rows.get(projectId, 'files', id) as AttachedFile | null;
    const bytes = row && this.contents.get(row.hash);
    return bytes ? { name: row.name, bytes } : undefined;
  }

  /** The document kept by a snapshot. */
  copy(projectId: string, snapshotId: string): Document | undefined {
    const content = this.copyContent(projectId, snapshotId);
    return content && readProjectText(gunzipSync(content).toString('utf8')).file?.document;
  }

  /** The compressed text of a kept copy. */
  copyContent(projectId: string, snapshotId: string): Buffer | undefined {
    return (this.sql.copy.get(projectId, snapshotId) as { content: Buffer } | undefined)?.content;
  }

  /** Code and name of every project. */
  names(): { id: string; code: string; name: string; stage: Stage; logo: string | null }[] {
    return this.sql.names.all() as { id: string; code: string; name: string; stage: Stage; logo: string | null }[];
  }

  /** Rows that a project has, counted without reading them. */
  counts(projectId: string): { activities: number; links: number } {
    const one = (table: string): number => (this.db.prepare(`SELECT count(*) AS n FROM ${table} WHERE project_id = ?`).get(projectId) as { n: number }).n;
    return { activities: one('activities'), links: one('links') };
  }

  /** Figures kept from before, by project. */
  keptSummaries(version: number): { id: string; revision: number; content: string }[] {
    return this.sql.summaries.all(version) as { id: string; revision: number; content: string }[];
  }

  keepSummary(projectId: string, revision: number, version: number, content: string): void {
    this.sql.putSummary.run(projectId, revision, version, content);
  }

  /** Runs something that writes, and says which projects were written to: those who listen are on another thread. */
  hearing<T>(f: () => T): { result: T; told: string[] } {
    const told = new Set<string>();
    this.hear = (id) => void told.add(id);
    try {
      return { result: f(), told: [...told] };
    } finally {
      this.hear = undefined;
    }
  }

  /** Tells the windows of a project what another thread has written. */
  tellNews(projectId: string, since: number, client = ''): void {
    const listeners = this.listeners.get(projectId);
    if (!listeners?.size) return;
    const missed = this.missed(projectId, since);
    for (const f of listeners) {
      if (missed === null) f({ anew: true, client });
      else missed.forEach(f);
    }
  }

  /** Applies a batch made at a known revision: all of it in one transaction, or nothing. */
  apply(projectId: string, known: number, batch: Batch, author: Author): Applied {
    return this.applyAll([{ projectId, known, batch }], author)[0]!;
  }

  /**
   * Applies batches to several projects (one each) in one transaction, with what else is to be written: all or nothing.
   * Where one is not applied, none is, and its own answer says why.
   */
  applyAll(list: readonly { projectId: string; known: number; batch: Batch }[], author: Author, also: () => void = () => undefined): Applied[] {
    const at = new Date().toISOString();
    const entries = list.map(({ known, batch }): LogEntry => ({ ...batch, revision: known + 1, who: author.who, client: author.client, at }));
    let writing = 0;
    let answers: (Applied | undefined)[] = [];
    try {
      // At once as a writer: what is looked at here is what is written to, whoever else writes.
      this.db
        .transaction(() => {
          answers = list.map(({ projectId, known, batch }) => this.objection(projectId, known, batch));
          if (answers.some((a) => a !== undefined)) return;
          also();
          for (writing = 0; writing < list.length; writing++) this.write(list[writing]!.projectId, entries[writing]!);
        })
        .immediate();
    } catch (e) {
      const code = (e as { code?: string }).code ?? '';
      if (!code.startsWith('SQLITE_CONSTRAINT')) throw e;
      // References are checked when the transaction ends: then the first batch that breaks one is named.
      const problems = list.slice(writing < list.length ? writing : 0).map(({ projectId, batch }) => this.referenceProblem(projectId, batch.changes));
      return list.map(() => ({ kind: 'refused', problems: problems.slice(0, 1) }));
    }
    if (answers.some((a) => a !== undefined)) return answers.map((a) => a ?? { kind: 'refused', problems: [] });
    return list.map(({ projectId, known }, i) => {
      const entry = entries[i]!;
      const cached = this.cache.get(projectId);
      if (cached && cached.revision === known) {
        applyChanges(cached.doc, entry.changes);
        cached.revision = entry.revision;
      }
      const tell = (): void => {
        this.hear?.(projectId);
        this.listeners.get(projectId)?.forEach((f) => f(entry));
      };
      if (this.untold) this.untold.push(tell);
      else tell();
      return { kind: 'applied', entry, repeated: false };
    });
  }

  /** Why a batch is not applied, or its earlier entry where it has been; undefined where it can be. */
  private objection(projectId: string, known: number, batch: Batch): Applied | undefined {
    const head = this.head(projectId);
    if (!head || head.deletedAt !== null) return { kind: 'unknown' };
    const before = this.sql.byChange.get(projectId, batch.changeId) as RawEntry | undefined;
    if (before) return { kind: 'applied', entry: entryOf(before), repeated: true };
    if (known !== head.revision) return { kind: 'behind', revision: head.revision, missed: this.missed(projectId, known) };
    const stale = this.staleRows(projectId, batch.changes);
    if (stale.length) return { kind: 'refused', problems: stale };
    const loop = outlineObjection(
      batch.changes,
      (id) => this.rows.get(projectId, 'wbs', id) as WbsNode | null,
      (id) => (this.sql.children.all(projectId, id) as { id: string }[]).map((c) => c.id),
    );
    if (loop) return { kind: 'refused', problems: [loop] };
    const settings = batch.changes.find((c) => c.table === 'project' && c.after === null);
    // What was there before may come back as it was: by undo and redo, or out of a kept copy of the project.
    const restoring = batch.kind !== 'do' || (batch.target !== null && this.rows.get(projectId, 'snapshots', batch.target) !== null);
    const broken = restoring || settings ? [] : changeProblems(batch.changes, this.standing(projectId));
    if (broken.length) return { kind: 'refused', problems: broken.slice(0, MOST_PROBLEMS) };
    return settings && { kind: 'refused', problems: [problem('PROJECT_ROW', "The project's own row cannot be deleted.", { table: 'project' })] };
  }

  /** What the rules of rows look up, row by row: the document itself may be large and unread. */
  private standing(projectId: string): Standing {
    return {
      row: (table, id) => (this.rows.get(projectId, table, id) ?? undefined) as never,
      withCode: (code) => (this.sql.withCode.all(projectId, code) as { id: string }[]).flatMap(({ id }) => (this.rows.get(projectId, 'activities', id) as Activity | null) ?? []),
      assignmentsOf: (id) => (this.sql.assigned.all(projectId, id) as { id: string }[]).flatMap((x) => (this.rows.get(projectId, 'assignments', x.id) as Assignment | null) ?? []),
      actualsAfter: (instant) => {
        // By days first, since texts are no instants: 24:00 of a day is 00:00 of the next.
        const day = instant === null ? '' : instant.slice(0, 10);
        const limit = instant === null ? -Infinity : (parseInstant(instant) ?? Infinity);
        const near = (this.sql.actualsFrom.all(projectId, day, day) as { id: string }[]).flatMap(({ id }) => (this.rows.get(projectId, 'activities', id) as Activity | null) ?? []);
        return near.filter((a) => latestActual(a) > limit);
      },
    };
  }

  private write(projectId: string, e: LogEntry): void {
    this.keepCopies(projectId, e.revision, e.changes);
    for (const c of e.changes) {
      if (c.after) this.rows.put(projectId, c.table, c.after);
      else this.rows.remove(projectId, c.table, c.id);
    }
    this.sql.log.run(projectId, e.revision, e.changeId, e.label, e.kind, e.target, e.who, e.client, e.at, JSON.stringify(e.changes));
    this.sql.advance.run(e.revision, e.at, e.who, projectId);
  }

  /** Rows that are no longer what the sender believed. */
  private staleRows(projectId: string, changes: readonly Change[]): Problem[] {
    const seen = emptyDocument();
    for (const c of changes) {
      const row = this.rows.get(projectId, c.table, c.id);
      if (row) (seen[c.table] as Map<string, Row>).set(c.id, row);
    }
    return clashes(seen, changes).map((c) => {
      const name = nameOfRow(c.table, seen[c.table].get(c.id) ?? c.before, seen);
      return problem('ROW_CHANGED', `${name}: the row was changed or deleted by somebody else in between. Reload and try again.`, { table: c.table, id: c.id });
    });
  }

  /** Names the reference that a refused batch would have broken. */
  private referenceProblem(projectId: string, changes: readonly Change[]): Problem {
    const loaded = this.document(projectId);
    const doc = loaded ? copyDocument(loaded.doc) : emptyDocument();
    applyChanges(doc, changes);
    for (const table of tableNames)
      for (const ref of tables[table].refs as readonly Reference<Row>[])
        for (const row of doc[table].values()) {
          const other = referredId(ref, row);
          if (other === undefined || doc[ref.to].has(other)) continue;
          const text = `${nameOfRow(table, row, doc)}: its ${tables[ref.to].word} is not there (any more). Nothing was changed.`;
          return problem(tables[ref.to].unknown, text, { table, id: row.id, field: ref.field });
        }
    return problem('REFERENCE', 'A row refers to another that is not there (any more). Nothing was changed.');
  }

  /** Keeps the copies of snapshots that a batch adds: as it was before, for a status update as it will be. */
  private keepCopies(projectId: string, revision: number, changes: readonly Change[]): void {
    const added = changes.filter((c) => c.table === 'snapshots' && c.after !== null && c.before === null);
    if (added.length === 0) return;
    const loaded = this.document(projectId);
    if (!loaded) return;
    for (const c of added) {
      let doc = loaded.doc;
      if ((c.after as Snapshot).kind === 'statusUpdate') {
        doc = copyDocument(doc);
        applyChanges(doc, changes);
      }
      // A copy names no baseline: which one is compared with belongs to the plan, and may be deleted later.
      const own = copyDocument(doc);
      const settings = own.project.get('project') as Project;
      own.project.set('project', Object.freeze({ ...settings, baselineId: null }));
      this.sql.putCopy.run(projectId, c.id, revision, gzipSync(writeDocument(own), { level: 1 }));
    }
  }

  since(projectId: string, revision: number): LogEntry[] {
    return (this.sql.since.all(projectId, revision) as RawEntry[]).map(entryOf);
  }

  /** Entries after a revision; null where they are so many or so large that opening anew is quicker. */
  missed(projectId: string, revision: number): LogEntry[] | null {
    // Ahead of us: this is an older copy of the database than the window knows.
    if (revision > (this.head(projectId)?.revision ?? 0)) return null;
    const sizes = this.sql.sizes.all(projectId, revision, MOST_MISSED + 1) as { size: number }[];
    if (sizes.length > MOST_MISSED || sizes.reduce((n, s) => n + s.size, 0) > MOST_MISSED_CHARACTERS) return null;
    return this.since(projectId, revision);
  }

  /** Latest batches of one window, oldest first, for its undo and redo: as many as can be sent in reasonable time. */
  ofClient(projectId: string, client: string, most = 300): LogEntry[] {
    const raw = this.sql.ofClient.all(projectId, client, most) as RawEntry[];
    let size = 0;
    let first = raw.length;
    while (first > 0 && (size += raw[first - 1]!.changes.length) <= MOST_HISTORY_CHARACTERS) first--;
    return raw.slice(first).map(entryOf);
  }

  /** The revision that a batch made, if it has arrived. */
  revisionOf(projectId: string, changeId: string): number | undefined {
    return (this.sql.arrived.get(projectId, changeId) as { revision: number } | undefined)?.revision;
  }

  /** Latest acts on a project without their rows, newest first. */
  recent(projectId: string, most = 100): Omit<LogEntry, 'changes'>[] {
    return this.sql.recent.all(projectId, most) as Omit<LogEntry, 'changes'>[];
  }

  /**
   * Entries before a revision, newest first, with their rows: as many as are asked for and can be sent in reasonable time,
   * at least one.
   */
  historyBefore(projectId: string, revision: number, most: number): { entries: LogEntry[]; more: boolean } {
    const raw: RawEntry[] = [];
    let size = 0;
    let more = false;
    for (const r of this.sql.before.iterate(projectId, revision, most + 1) as IterableIterator<RawEntry>) {
      if (raw.length === most || (raw.length > 0 && size + r.changes.length > MOST_HISTORY_CHARACTERS)) {
        more = true;
        break;
      }
      size += r.changes.length;
      raw.push(r);
    }
    return { entries: raw.map(entryOf), more };
  }

  mark(projectId: string, archivedAt: string | null, deletedAt: string | null): void {
    this.sql.mark.run(archivedAt, deletedAt, projectId);
  }

  /** Hears of every entry, or that there is more than can be told one by one. */
  listen(projectId: string, f: (e: News) => void): () => void {
    const set = this.listeners.get(projectId) ?? new Set();
    this.listeners.set(projectId, set.add(f));
    return () => set.delete(f);
  }
}

interface RawEntry {
  revision: number;
  change_id: string;
  label: string;
  kind: Batch['kind'];
  target: string | null;
  who: string;
  client: string;
  at: string;
  changes: string;
}

const entryOf = (r: RawEntry): LogEntry => ({
  revision: r.revision,
  changeId: r.change_id,
  label: r.label,
  kind: r.kind,
  target: r.target,
  who: r.who,
  client: r.client,
  at: r.at,
  // Rows of older entries lack fields that came later.
  changes: (JSON.parse(r.changes) as Change[]).map((c) => ({ ...c, before: c.before && completed(c.table, c.before), after: c.after && completed(c.table, c.after) })),
});
