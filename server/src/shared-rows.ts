/** Shared accounts, code sets, roles, resources and crews in the database, and what a change of them does to the projects that have copies. */
import { randomUUID } from 'node:crypto';
import { type Batch, MOST_LABEL } from '@yellowhammer/core/change/change';
import { carryThings, type InsteadOf, shareThings, type SharedStock, wordOf } from '@yellowhammer/core/commands/shared-rows';
import { sameThing, type SharedRow, type SharedTable, type SharedThing, sharedTables, thingKey, thingName, thingState } from '@yellowhammer/core/commands/shared-things';
import type { SharedThingEntry, SharedUser, ThingEffect } from '@yellowhammer/core/commands/shared-views';
import { wholeEffectOf } from '@yellowhammer/core/compare/effect';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import type { Activity, Calendar } from '@yellowhammer/core/model/schema';
import { tables } from '@yellowhammer/core/model/tables';
import { formatInstant } from '@yellowhammer/core/time/instant';
import type { Db } from './database.ts';
import type { Author, ProjectHead, Store } from './store.ts';

/** Something shared as the database has it. */
export interface SharedRaw {
  id: string;
  content: string;
  previous: string | null;
  revision: number;
  changed_at: string;
  changed_by: string;
}
interface Raw extends SharedRaw {
  kind: SharedTable;
}

/** What changes for all, with the revisions that were seen (none: it is new), and values that stand in for those that go. */
export interface SharedChange {
  things: readonly (SharedThing & { revision: number })[];
  instead: InsteadOf;
}

/** The shared calendars, which resources work by. */
export interface CalendarShelf {
  all(): Map<string, Calendar>;
  /** Writes shared calendars that no project has yet, inside of a transaction. */
  writeNew(calendars: readonly Calendar[], author: Author): void;
}

export class SharedRows {
  private readonly sql;
  private readonly store: Store;
  private readonly calendars: CalendarShelf;

  constructor(db: Db, store: Store, calendars: CalendarShelf) {
    this.store = store;
    this.calendars = calendars;
    this.sql = {
      all: db.prepare('SELECT * FROM shared_rows ORDER BY kind, id'),
      put: db.prepare(
        'INSERT INTO shared_rows (kind, id, content, revision, changed_at, changed_by) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (kind, id) DO UPDATE SET previous = content, content = excluded.content, revision = excluded.revision, changed_at = excluded.changed_at, changed_by = excluded.changed_by',
      ),
      remove: db.prepare('DELETE FROM shared_rows WHERE kind = ? AND id = ?'),
      users: Object.fromEntries(
        sharedTables.map((t) => [t, db.prepare(`SELECT DISTINCT project_id AS id, shared_id AS shared FROM ${tables[t].sql.table} WHERE shared_id IS NOT NULL`)]),
      ),
    };
  }

  private raws(): Raw[] {
    return this.sql.all.all() as Raw[];
  }

  things(raws = this.raws()): Map<string, SharedThing> {
    const rows = raws.map((r): SharedThing => ({ table: r.kind, row: JSON.parse(r.content) as SharedRow }));
    rows.sort((a, b) => a.row.rank - b.row.rank || (a.row.name < b.row.name ? -1 : 1));
    return new Map(rows.map((t) => [thingKey(t.table, t.row.id), t]));
  }

  private stock(): SharedStock {
    return { things: this.things(), calendars: this.calendars.all() };
  }

  /** Projects that are not deleted, by `thingKey` of what they have copies of. */
  private users(): Map<string, ProjectHead[]> {
    const heads = new Map(this.store.heads().flatMap((h) => (h.deletedAt === null ? [[h.id, h] as const] : [])));
    const out = new Map<string, ProjectHead[]>();
    for (const table of sharedTables)
      for (const { id, shared } of this.sql.users[table]!.all() as { id: string; shared: string }[]) {
        const head = heads.get(id);
        if (!head) continue;
        const key = thingKey(table, shared);
        out.set(key, [...(out.get(key) ?? []), head]);
      }
    return out;
  }

  list(): SharedThingEntry[] {
    const raws = this.raws();
    const byKey = new Map(raws.map((r) => [thingKey(r.kind, r.id), r]));
    const all = this.things(raws);
    const users = this.users();
    const docs = new Map<string, Document | undefined>();
    const docOf = (id: string): Document | undefined => {
      if (!docs.has(id)) docs.set(id, this.store.document(id)?.doc);
      return docs.get(id);
    };
    return [...all].map(([key, thing]): SharedThingEntry => {
      const raw = byKey.get(key) as Raw;
      const usedBy = (users.get(key) ?? []).flatMap((head): SharedUser[] => {
        const doc = docOf(head.id);
        if (!doc) return [];
        const { code, name } = projectOf(doc);
        const same = ([...doc[thing.table].values()] as SharedRow[]).every((r) => r.sharedId !== thing.row.id || thingState(doc, all, thing.table, r) === 'same');
        return [{ projectId: head.id, code, name, state: head.archivedAt ? 'archived' : 'active', same }];
      });
      usedBy.sort((a, b) => (a.code < b.code ? -1 : 1));
      const previous = raw.previous === null ? null : (JSON.parse(raw.previous) as SharedRow);
      return { ...thing, previous, revision: raw.revision, changedAt: raw.changed_at, changedBy: raw.changed_by, usedBy };
    });
  }

  /** Projects in work that have copies of what changes, with what that does to their rows; or why one cannot take it. */
  private carried(changed: readonly SharedThing[], instead: InsteadOf): { list: { head: ProjectHead; doc: Document; batch: Batch }[]; problems: Problem[] } {
    const [things, calendars] = [this.things(), this.calendars.all()];
    for (const t of changed) things.set(thingKey(t.table, t.row.id), t);
    const users = this.users();
    const heads = new Map(changed.flatMap((t) => (users.get(thingKey(t.table, t.row.id)) ?? []).map((h) => [h.id, h])));
    const list: { head: ProjectHead; doc: Document; batch: Batch }[] = [];
    const problems: Problem[] = [];
    for (const head of heads.values()) {
      const loaded = head.archivedAt === null ? this.store.document(head.id) : undefined;
      if (!loaded) continue;
      const outcome = carryThings(loaded.doc, { things, calendars }, changed, randomUUID, instead);
      if (!outcome.ok) problems.push(...outcome.problems.map((p) => ({ ...p, message: `${projectOf(loaded.doc).code}: ${p.message}` })));
      else if (outcome.changes.length)
        list.push({
          head,
          doc: loaded.doc,
          batch: { changeId: randomUUID(), label: outcome.label.slice(0, MOST_LABEL), kind: 'do', target: null, changes: outcome.changes },
        });
    }
    return { list, problems };
  }

  /** What a change for all would do to each project that has copies. */
  effects({ things, instead }: SharedChange): { effects: ThingEffect[]; problems: Problem[] } {
    const { list, problems } = this.carried(things, instead);
    const effects = list.flatMap(({ head, doc, batch }): ThingEffect[] => {
      const d = wholeEffectOf(doc, batch.changes);
      const { code, name } = projectOf(doc);
      const lost = batch.changes.filter(
        (c) => c.table === 'activities' && c.after && Object.keys((c.after as Activity).values).length < Object.keys((c.before as Activity).values).length,
      );
      if (!d) return [];
      const [before, after] = [formatInstant(d.before), formatInstant(d.after)];
      return [{ projectId: head.id, code, name, before, after, finishDays: d.finishDays, moved: d.moved.length, standing: d.standing, lost: lost.length }];
    });
    return { effects: effects.sort((a, b) => (a.code < b.code ? -1 : 1)), problems };
  }

  /** Why shared rows cannot become so. */
  private objection({ things }: SharedChange): Problem | undefined {
    const all = this.things();
    const raws = new Map(this.raws().map((r) => [thingKey(r.kind, r.id), r]));
    for (const t of things) {
      const raw = raws.get(thingKey(t.table, t.row.id));
      const name = thingName(t);
      if (!raw && t.revision !== 0) return problem('UNKNOWN_SHARED', `The shared ${wordOf(t.table)} ${name} is not there any more.`);
      if (raw && raw.revision !== t.revision)
        return problem('CHANGED_MEANWHILE', `${name} was changed by ${raw.changed_by} in between. Look at it as it is now, then change it again.`, { id: t.row.id });
      const twin = [...all.values()].find((o) => o.table === t.table && o.row.id !== t.row.id && sameThing(o.row, t.row));
      if (twin) return problem('NAME_TAKEN', `There is a shared ${wordOf(t.table)} ${thingName(twin)} already. Choose another name.`, { id: t.row.id });
    }
    return undefined;
  }

  /** Takes a change over: the shared rows and every project that has copies of them, in one transaction. */
  change(wish: SharedChange, author: Author): { problems: Problem[] } {
    const no = this.objection(wish);
    if (no) return { problems: [no] };
    const { list, problems } = this.carried(wish.things, wish.instead);
    if (problems.length) return { problems };
    // The entry belongs to no window: undoing it in one project would part that project from the others.
    const answers = this.store.applyAll(
      list.map(({ head, batch }) => ({ projectId: head.id, known: head.revision, batch })),
      { who: author.who, client: 'shared' },
      () => this.write(wish.things, author),
    );
    return { problems: answers.flatMap((a) => (a.kind === 'refused' ? a.problems : a.kind === 'applied' ? [] : [problem('BUSY', 'A project changed in between. Try again.')])) };
  }

  private write(things: readonly SharedThing[], author: Author): void {
    const raws = new Map(this.raws().map((r) => [thingKey(r.kind, r.id), r]));
    const at = new Date().toISOString();
    for (const { table, row } of things) this.sql.put.run(table, row.id, JSON.stringify(row), (raws.get(thingKey(table, row.id))?.revision ?? 0) + 1, at, author.who);
  }

  /** Shares rows of a project with all, and what they name with them. */
  share(projectId: string, list: readonly { table: SharedTable; id: string }[], author: Author): { problems: Problem[]; shared: number } {
    const loaded = this.store.document(projectId);
    const head = this.store.head(projectId);
    if (!loaded || !head) return { problems: [problem('UNKNOWN_PROJECT', 'That project is not there any more.')], shared: 0 };
    const made = shareThings(loaded.doc, this.stock(), list, randomUUID);
    if ('ok' in made) return { problems: made.problems, shared: 0 };
    const { label, changes } = made.outcome;
    const batch: Batch = { changeId: randomUUID(), label, kind: 'do', target: null, changes };
    const [answer] = this.store.applyAll([{ projectId, known: head.revision, batch }], { who: author.who, client: 'shared' }, () => {
      this.calendars.writeNew(made.calendars, author);
      this.write(made.things, author);
    });
    if (answer?.kind === 'applied') return { problems: [], shared: made.things.length };
    return { problems: answer?.kind === 'refused' ? answer.problems : [problem('BUSY', 'The project changed in between. Try again.')], shared: 0 };
  }

  /** Stops sharing: every project keeps its copy, as its own. */
  remove(table: SharedTable, id: string): { problems: Problem[] } {
    const all = this.things();
    const thing = all.get(thingKey(table, id));
    if (!thing) return { problems: [problem('UNKNOWN_SHARED', `That shared ${wordOf(table)} is not there any more.`)] };
    const user = [...all.values()].find((t) => t !== thing && JSON.stringify(t.row).includes(JSON.stringify(id)));
    if (user) return { problems: [problem('IN_USE', `The shared ${wordOf(user.table)} ${thingName(user)} names it. Change that for all first.`, { id: user.row.id })] };
    this.sql.remove.run(table, id);
    return { problems: [] };
  }
}
