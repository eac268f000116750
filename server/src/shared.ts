/** Shared calendars in the database, and what a change of one does to the projects that use it. */
import { randomUUID } from 'node:crypto';
import { applyChanges, type Batch, MOST_LABEL } from '@yellowhammer/core/change/change';
import { calendarObjection } from '@yellowhammer/core/commands/calendars';
import { carryShared, chooseCalendars, forgetUnknownShared, type ImportChoice, meetings, type SharedCalendars, sharedFrom, sharedState } from '@yellowhammer/core/commands/shared';
import { forgetUnknownThings } from '@yellowhammer/core/commands/shared-rows';
import { effectOf } from '@yellowhammer/core/compare/effect';
import { copyDocument, type Document, projectOf } from '@yellowhammer/core/model/document';
import type { ProjectFile } from '@yellowhammer/core/model/file';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { compileCalendar, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { differingDays } from '@yellowhammer/core/time/calendar-days';
import { MINUTES_PER_DAY, formatInstant, type Instant } from '@yellowhammer/core/time/instant';
import type { MeetingView, ProjectEffect, SharedEntry } from '@yellowhammer/core/commands/shared-views';
import type { Db } from './database.ts';
import { type SharedRaw as Raw, SharedRows } from './shared-rows.ts';
import type { Author, ProjectHead, Store } from './store.ts';

const MOST_DAYS = 400;

export class Shared {
  private readonly sql;
  private readonly store: Store;
  /** Accounts, code sets, roles, resources and crews. */
  readonly rows: SharedRows;

  constructor(db: Db, store: Store) {
    this.store = store;
    this.rows = new SharedRows(db, store, this);
    this.sql = {
      all: db.prepare('SELECT * FROM shared_calendars ORDER BY id'),
      put: db.prepare(
        'INSERT INTO shared_calendars (id, content, revision, changed_at, changed_by) VALUES (?, ?, ?, ?, ?) ON CONFLICT (id) DO UPDATE SET previous = content, content = excluded.content, revision = excluded.revision, changed_at = excluded.changed_at, changed_by = excluded.changed_by',
      ),
      remove: db.prepare('DELETE FROM shared_calendars WHERE id = ?'),
      users: db.prepare('SELECT DISTINCT project_id AS id FROM calendars WHERE shared_id = ?'),
    };
  }

  private raws(): Raw[] {
    return this.sql.all.all() as Raw[];
  }

  all(): Map<string, Calendar> {
    const rows = this.raws().map((r) => JSON.parse(r.content) as Calendar);
    rows.sort((a, b) => a.rank - b.rank || (a.name < b.name ? -1 : 1));
    return new Map(rows.map((c) => [c.id, c]));
  }

  list(): SharedEntry[] {
    const raws = new Map(this.raws().map((r) => [r.id, r]));
    const all = this.all();
    return [...all.values()].map((calendar) => {
      const raw = raws.get(calendar.id) as Raw;
      const usedBy = this.users(calendar.id).flatMap((head) => {
        const doc = this.store.part(head.id, ['project', 'calendars']);
        const same = [...doc.calendars.values()].every((c) => c.sharedId !== calendar.id || sharedState(doc, c, all) === 'same');
        const { code, name } = projectOf(doc);
        return [{ projectId: head.id, code, name, state: head.archivedAt ? ('archived' as const) : ('active' as const), same }];
      });
      const previous = raw.previous === null ? null : (JSON.parse(raw.previous) as Calendar);
      return { calendar, previous, revision: raw.revision, changedAt: raw.changed_at, changedBy: raw.changed_by, usedBy };
    });
  }

  private users(sharedId: string): ProjectHead[] {
    const ids = new Set((this.sql.users.all(sharedId) as { id: string }[]).map((r) => r.id));
    return this.store.heads().filter((h) => ids.has(h.id) && h.deletedAt === null);
  }

  /** Shared calendars with some put in the place of what they are. */
  private with(changed: readonly Calendar[]): Map<string, Calendar> {
    const all = this.all();
    for (const c of changed) all.set(c.id, c);
    return all;
  }

  /** Projects in work that use a shared calendar, directly or through one based on it, with what changing it does to their rows. */
  private carried(changed: readonly Calendar[]): { head: ProjectHead; doc: Document; batch: Batch }[] {
    const shared = this.with(changed);
    const reached = new Set(changed.map((c) => c.id));
    for (let grew = true; grew;) {
      grew = false;
      for (const c of shared.values()) if (c.basedOn !== null && reached.has(c.basedOn) && !reached.has(c.id)) grew = Boolean(reached.add(c.id));
    }
    const heads = new Map([...reached].flatMap((id) => this.users(id).map((h) => [h.id, h])));
    return [...heads.values()].flatMap((head) => {
      const loaded = head.archivedAt === null ? this.store.document(head.id) : undefined;
      if (!loaded) return [];
      const work = copyDocument(loaded.doc);
      const changes = [...reached].flatMap((id) => {
        const outcome = carryShared(work, shared, id, randomUUID);
        if (!outcome.ok) return [];
        applyChanges(work, outcome.changes);
        return outcome.changes;
      });
      if (changes.length === 0) return [];
      const names = changed.map((c) => c.name).join(', ');
      return [{ head, doc: loaded.doc, batch: { changeId: randomUUID(), label: `Change shared calendar ${names}`.slice(0, MOST_LABEL), kind: 'do', target: null, changes } }];
    });
  }

  /** What a change of shared calendars would do to each project that uses them. */
  effects(changed: readonly Calendar[]): ProjectEffect[] {
    return this.carried(changed).flatMap(({ head, doc, batch }) => {
      const d = effectOf(doc, batch.changes);
      const { code, name } = projectOf(doc);
      return d ? [{ projectId: head.id, code, name, before: formatInstant(d.before), after: formatInstant(d.after), finishDays: d.finishDays, moved: d.moved.length }] : [];
    });
  }

  /** Takes a change over: the shared calendar and every project that uses it, in one transaction. `known` is the revision that was seen. */
  change(next: Calendar, known: number, author: Author): { problems: Problem[] } {
    const raw = this.raws().find((r) => r.id === next.id);
    if (!raw && known !== 0) return { problems: [problem('UNKNOWN_CALENDAR', 'That shared calendar is not there any more.')] };
    if (raw && raw.revision !== known)
      return {
        problems: [problem('CHANGED_MEANWHILE', `${next.name} was changed by ${raw.changed_by} in between. Look at it as it is now, then change it again.`, { id: next.id })],
      };
    const wrong = calendarObjection(this.all(), next);
    if (wrong) return { problems: [wrong] };
    return this.write([next], author, []);
  }

  private write(changed: readonly Calendar[], author: Author, skip: readonly string[]): { problems: Problem[] } {
    const carried = this.carried(changed).filter((c) => !skip.includes(c.head.id));
    const at = new Date().toISOString();
    const put = (): void => {
      for (const c of changed) {
        const raw = this.raws().find((r) => r.id === c.id);
        this.sql.put.run(c.id, JSON.stringify(c), (raw?.revision ?? 0) + 1, at, author.who);
      }
    };
    // The entry belongs to no window: undoing it in one project would part that project from the others.
    const answers = this.store.applyAll(
      carried.map(({ head, batch }) => ({ projectId: head.id, known: head.revision, batch })),
      { who: author.who, client: 'shared calendar' },
      put,
    );
    return { problems: answers.flatMap((a) => (a.kind === 'refused' ? a.problems : a.kind === 'applied' ? [] : [problem('BUSY', 'A project changed in between. Try again.')])) };
  }

  /** Shares a project's calendar with all: the shared one is made and the project's row becomes its copy. */
  share(projectId: string, rowId: string, author: Author): { id?: string; problems: Problem[] } {
    const head = this.store.head(projectId);
    const doc = this.store.part(projectId, ['calendars']);
    const row = doc.calendars.get(rowId);
    const made = sharedFrom(doc, rowId, this.all().has(rowId) ? randomUUID() : rowId);
    if (!head || !row || !made) return { problems: [problem('UNKNOWN_CALENDAR', 'That calendar is not in the project.')] };
    const wrong = calendarObjection(this.all(), made);
    if (wrong) return { problems: [wrong] };
    const changes = [{ table: 'calendars' as const, id: rowId, before: row, after: { ...row, sharedId: made.id } }];
    const batch: Batch = { changeId: randomUUID(), label: `Share calendar ${row.name} with all projects`, kind: 'do', target: null, changes };
    const rank = Math.max(-1, ...[...this.all().values()].map((c) => c.rank)) + 1;
    const answers = this.store.applyAll([{ projectId, known: head.revision, batch }], { who: author.who, client: 'shared calendar' }, () =>
      this.sql.put.run(made.id, JSON.stringify({ ...made, rank }), 1, new Date().toISOString(), author.who),
    );
    const answer = answers[0]!;
    return answer.kind === 'applied' ? { id: made.id, problems: [] } : { problems: answer.kind === 'refused' ? answer.problems : [] };
  }

  /** Makes shared calendars without any project, as the demo does. */
  add(calendars: readonly Calendar[], author: Author): { problems: Problem[] } {
    return this.write(calendars, author, []);
  }

  writeNew(calendars: readonly Calendar[], author: Author): void {
    for (const c of calendars) this.sql.put.run(c.id, JSON.stringify(c), 1, new Date().toISOString(), author.who);
  }

  /** Stops sharing: every project keeps its copy, as its own. */
  remove(id: string): { problems: Problem[] } {
    const child = [...this.all().values()].find((c) => c.basedOn === id);
    if (child) return { problems: [problem('IN_USE', `The shared calendar ${child.name} is based on this one. Cut it loose first.`, { id: child.id })] };
    this.sql.remove.run(id);
    return { problems: [] };
  }

  /** Calendars of a file that meet shared ones with other content, with the finish under each choice. */
  meet(file: ProjectFile, choices: ReadonlyMap<string, ImportChoice>): MeetingView[] {
    const doc = file.document;
    const shared = this.all();
    const found = meetings(doc, shared);
    return found.map((m): MeetingView => {
      const ours = compileCalendar(resolveCalendar(shared, m.sharedId) as never);
      const theirs = compileCalendar(resolveCalendar(doc.calendars, m.calendarId) as never);
      const finishes = (['ours', 'theirs', 'both'] as const).map((choice) => [choice, this.finishWith(doc, shared, new Map(choices).set(m.calendarId, choice))] as const);
      const span = spanOf(doc);
      const days = ours.total && theirs.total ? differingDays(ours, theirs, span.from, span.to) : [];
      const next = this.theirsOf(doc, m);
      return {
        calendarId: m.calendarId,
        name: m.name,
        ours: ours.name,
        theirs: theirs.name,
        days: days.slice(0, MOST_DAYS),
        more: Math.max(0, days.length - MOST_DAYS),
        finish: Object.fromEntries(finishes) as MeetingView['finish'],
        others: next ? this.effects([next]) : [],
      };
    });
  }

  private theirsOf(doc: Document, m: { calendarId: string; sharedId: string }): Calendar | undefined {
    const known = this.all().get(m.sharedId);
    const next = sharedFrom(doc, m.calendarId, m.sharedId);
    return known && next && { ...next, name: known.name, rank: known.rank };
  }

  private finishWith(doc: Document, shared: SharedCalendars, choices: ReadonlyMap<string, ImportChoice>): string | null {
    const work = copyDocument(doc);
    const outcome = chooseCalendars(work, shared, choices, randomUUID);
    if (outcome.ok) applyChanges(work, outcome.changes);
    const finish: Instant | undefined = schedule(work).computed?.projectFinish;
    return finish === undefined ? null : formatInstant(finish);
  }

  /**
   * Makes a project of a file: first exactly as the file has it, then the choices as one change of the importing window,
   * so that they can be undone. Taking theirs changes the shared calendar and the projects that use it.
   */
  import(file: ProjectFile, choices: ReadonlyMap<string, ImportChoice>, author: Author): { id: string; problems: Problem[] } {
    const shared = this.all();
    forgetUnknownShared(file.document, shared);
    forgetUnknownThings(file.document, this.rows.things());
    const asked = new Map(choices);
    const problems: Problem[] = [];
    // Theirs goes to all projects only where it can stand here; else both are kept, and that is said.
    const taken = meetings(file.document, shared).flatMap((m) => {
      const next = choices.get(m.calendarId) === 'theirs' ? this.theirsOf(file.document, m) : undefined;
      const no = next && calendarObjection(shared, next);
      if (no) {
        asked.set(m.calendarId, 'both');
        problems.push({ ...no, message: `${m.name} was not taken for all projects, both are kept: ${no.message}` });
      }
      return next && !no ? [next] : [];
    });
    const outcome = chooseCalendars(file.document, shared, asked, randomUUID);
    return this.store.together(() => {
      problems.push(...this.store.contents.bring(file.contents));
      const id = this.store.create(file, author, `Import ${projectOf(file.document).name}`);
      if (taken.length) problems.push(...this.write(taken, author, [id]).problems);
      if (outcome.ok && outcome.changes.length) {
        const batch: Batch = { changeId: randomUUID(), label: outcome.label, kind: 'do', target: null, changes: outcome.changes };
        const answer = this.store.apply(id, 1, batch, author);
        if (answer.kind === 'refused') problems.push(...answer.problems);
      }
      return { id, problems };
    });
  }
}

/** Days from the project's start or data date to a little after its finish. */
function spanOf(doc: Document): { from: number; to: number } {
  const computed = schedule(doc).computed;
  const floor = computed?.network.projectFloor ?? 0;
  const from = Math.floor(floor / MINUTES_PER_DAY);
  return { from, to: Math.max(from, Math.floor((computed?.projectFinish ?? floor) / MINUTES_PER_DAY)) + 28 };
}
