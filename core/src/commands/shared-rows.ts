/** Sharing rows with all projects, bringing shared ones into a project, and carrying what is changed for all (see `shared-things.ts`). */
import { Draft } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import { type Calendar, type CodeSet, MAX_NAME } from '../model/schema.ts';
import type { Row } from '../model/tables.ts';
import { unusedName } from '../model/unused-name.ts';
import { codeKey, withValue } from '../model/values.ts';
import { codeUses, renameSetIn } from './codes.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';
import { putSharedCalendar, sameContent, type SharedCalendars, sharedFrom } from './shared.ts';
import {
  contentOf,
  copyOf,
  imageOf,
  isOfProject,
  type NamedTable,
  namedBy,
  nameIsUnique,
  ownPart,
  renamed,
  sameThing,
  sharedTables,
  type SharedRow,
  type SharedTable,
  type SharedThing,
  type SharedThings,
  thingKey,
  thingName,
  underItsName,
} from './shared-things.ts';
import { resolveCalendar } from '../schedule/calendars.ts';

/** What there is to share from. */
export interface SharedStock {
  things: SharedThings;
  calendars: SharedCalendars;
}

/** Values of a code set that activities get in the place of those that it does not have any more; null or absent: none. */
export type InsteadOf = Readonly<Record<string, string | null>>;

const words: Record<SharedTable, string> = { accounts: 'account', codeSets: 'code set', roles: 'role', resources: 'resource', crews: 'crew' };
export const wordOf = (table: SharedTable): string => words[table];
const gone = (table: SharedTable): Outcome & { ok: false } => refused('UNKNOWN_SHARED', `That shared ${words[table]} is not there any more.`);
const rowsOf = (draft: Draft, table: SharedTable): SharedRow[] => draft.rows(table);

/** Puts shared rows into a draft, with all that they name. */
class Putting {
  private readonly draft: Draft;
  private readonly stock: SharedStock;
  private readonly newId: NewId;

  constructor(draft: Draft, stock: SharedStock, newId: NewId) {
    this.draft = draft;
    this.stock = stock;
    this.newId = newId;
  }

  /** The id here of what a shared row names. What is there already stays as it is. */
  private named(table: NamedTable, id: string, depth: number): string | null {
    if (table === 'calendars') {
      const { calendars } = this.stock;
      const rows = this.draft.rows('calendars');
      const there = rows.find((c) => c.sharedId === id);
      if (there) return there.id;
      // One of the project's own that says the same becomes the copy.
      const name = calendars.get(id)?.name.toLowerCase();
      const twin = rows.find((c) => c.name.toLowerCase() === name && sameContent(resolveCalendar(this.draft.doc.calendars, c.id), resolveCalendar(calendars, id)));
      return putSharedCalendar(this.draft, calendars, id, this.newId, twin?.id);
    }
    const there = rowsOf(this.draft, table).find((r) => r.sharedId === id);
    return there?.id ?? this.put(table, id, undefined, {}, depth + 1);
  }

  /** Makes the copy here what the shared row is: `into`, or the copy that is there, or the project's own of its name. */
  put(table: SharedTable, sharedId: string, into: string | undefined, instead: InsteadOf, depth = 0): string | null {
    const { draft } = this;
    const source = this.stock.things.get(thingKey(table, sharedId))?.row;
    if (!source || depth > 60) return null;
    const rows = rowsOf(draft, table);
    const there =
      into === undefined ? (rows.find((r) => r.sharedId === sharedId) ?? rows.find((r) => r.sharedId === null && sameThing(r, source))) : rows.find((r) => r.id === into);
    const id = there?.id ?? (draft.get(table, sharedId) ? this.newId() : sharedId);
    // Its place is taken before what it names is put, which may name it.
    const rank = there?.rank ?? rows.reduce((n, r) => Math.max(n, r.rank), -1) + 1;
    const next = renamed(table, source, (of, ref) => this.named(of, ref, depth));
    const others = rowsOf(draft, table).flatMap((r) => (r.id === id ? [] : [r.name]));
    const name = nameIsUnique(table) ? unusedName(next.name, others, table === 'codeSets' ? 100 : MAX_NAME) : next.name;
    if (table === 'codeSets' && there) {
      this.revalue(there as CodeSet, next as CodeSet, instead);
      renameSetIn(draft, there.name, name);
    }
    draft.set(table, id, { ...next, ...ownPart(table, there), id, rank, name, sharedId } as Row);
    return id;
  }

  /** Gives activities the values of the set as it is now: what has another id by its short name, what is gone what is said in its place. */
  private revalue(was: CodeSet, next: CodeSet, instead: InsteadOf): void {
    const ids = new Set(next.values.map((v) => v.id));
    const byShort = new Map(next.values.map((v) => [v.short.toLowerCase(), v.id]));
    for (const [value, users] of codeUses(this.draft.doc, was.id)) {
      if (ids.has(value)) continue;
      const short = was.values.find((v) => v.id === value)?.short.toLowerCase();
      const to = instead[value] ?? (short === undefined ? undefined : byShort.get(short)) ?? null;
      for (const a of users) this.draft.patch('activities', a.id, withValue(this.draft.get('activities', a.id) ?? a, codeKey(was.id), to));
    }
  }
}

/** Values of a code set that activities have and that another set of values lacks, by id and by short name. */
function lostValues(doc: Document, was: CodeSet, next: CodeSet): string[] {
  const there = new Set(next.values.flatMap((v) => [v.id, v.short.toLowerCase()]));
  return [...codeUses(doc, was.id).keys()].flatMap((id) => {
    const v = was.values.find((x) => x.id === id);
    return v && !there.has(id) && !there.has(v.short.toLowerCase()) ? [v.short] : [];
  });
}

/**
 * Brings a shared row into a project with all that it names, or makes a copy (`into`, else the one that is there, else the
 * project's own of its number or name) what the shared row is. A code set is not taken where activities would lose values.
 */
export function takeThing(doc: Document, stock: SharedStock, table: SharedTable, sharedId: string, newId: NewId, into?: string): Outcome {
  const source = stock.things.get(thingKey(table, sharedId));
  if (!source) return gone(table);
  const own = into === undefined ? ([...doc[table].values()] as SharedRow[]).find((r) => r.sharedId === null && sameThing(r, source.row)) : doc[table].get(into);
  if (table === 'codeSets' && own) {
    const lost = lostValues(doc, own as CodeSet, source.row as CodeSet);
    if (lost.length)
      return refused('IN_USE', `Activities have ${lost.join(', ')}, which the shared code set does not have. Give them other values first, or add those to the shared set.`, {
        table,
        id: own.id,
      });
  }
  const draft = new Draft(doc);
  const id = new Putting(draft, stock, newId).put(table, sharedId, into, {});
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'It is here just so.');
  return settled(doc, `Take the shared ${words[table]} ${thingName(source)}`, draft.changes, id ? [id] : []);
}

/** Brings all shared rows of a table that a project does not have yet. */
export function takeThings(doc: Document, stock: SharedStock, table: SharedTable, newId: NewId): Outcome {
  const missing = [...stock.things.values()].filter((t) => t.table === table && !copyOf(doc, table, t.row.id));
  if (missing.length === 0) return refused('NOTHING_CHANGED', `All shared ${words[table]}s are here.`);
  const draft = new Draft(doc);
  const putting = new Putting(draft, stock, newId);
  for (const t of missing) putting.put(table, t.row.id, undefined, {});
  return settled(doc, `Take ${count(missing.length, `shared ${words[table]}`)}`, draft.changes);
}

/** Changes that carry changed shared rows into a project that has copies of them; empty where it has none. */
export function carryThings(doc: Document, stock: SharedStock, changed: readonly SharedThing[], newId: NewId, instead: InsteadOf = {}): Outcome {
  const draft = new Draft(doc);
  const putting = new Putting(draft, stock, newId);
  for (const t of changed) {
    const copy = copyOf(doc, t.table, t.row.id);
    if (copy) putting.put(t.table, t.row.id, copy.id, instead);
  }
  const what = changed.length === 1 ? `shared ${words[changed[0]!.table]} ${thingName(changed[0]!)}` : count(changed.length, 'shared row');
  return settled(doc, `Change ${what}`, draft.changes);
}

/** Makes copies the project's own: from now on nobody else's change reaches them. With changes on top, where those are given. */
export function makeOwnThing(doc: Document, table: SharedTable, id: string): Outcome {
  const row = doc[table].get(id);
  if (!row) return gone(table);
  const draft = new Draft(doc);
  draft.patch(table, id, { sharedId: null });
  return done(`Make ${row.name} the project’s own`, draft.changes);
}

/** An outcome whose copies of shared rows are the project's own afterwards. */
export function asOwn(outcome: Extract<Outcome, { ok: true }>, touched: readonly { table: SharedTable; after: SharedRow }[]): Extract<Outcome, { ok: true }> {
  const ids = new Set(touched.map((t) => thingKey(t.table, t.after.id)));
  return {
    ...outcome,
    changes: outcome.changes.map((c) => (c.after && ids.has(`${c.table} ${c.id}`) ? { ...c, after: { ...c.after, sharedId: null } as Row } : c)),
  };
}

/** What sharing rows makes: shared rows and calendars, and the changes of the project that names them. */
export interface Sharing {
  things: SharedThing[];
  calendars: Calendar[];
  outcome: Extract<Outcome, { ok: true }>;
}

/**
 * Shares rows of a project with all, and what they name with them. Refused where another shared one has the number or name
 * already, or a calendar that one works by meets a shared one of its name with other hours.
 */
export function shareThings(doc: Document, stock: SharedStock, list: readonly { table: SharedTable; id: string }[], newId: NewId): Sharing | (Outcome & { ok: false }) {
  const draft = new Draft(doc);
  const ids = new Map<string, string>();
  const made: { table: SharedTable; id: string }[] = [];
  const calendars: Calendar[] = [];
  let no: (Outcome & { ok: false }) | undefined;
  const calendar = (id: string): string | null => {
    const row = draft.get('calendars', id);
    if (!row) return null;
    if (row.sharedId !== null && stock.calendars.has(row.sharedId)) return row.sharedId;
    const twin = [...stock.calendars.values()].find((c) => c.name.toLowerCase() === row.name.toLowerCase());
    if (twin && !sameContent(resolveCalendar(doc.calendars, id), resolveCalendar(stock.calendars, twin.id)))
      no ??= refused('NAME_TAKEN', `There is a shared calendar ${row.name} with other hours. Make the project’s calendar its copy first, or give it another name.`, {
        table: 'calendars',
        id,
      });
    const sharedId = twin?.id ?? (stock.calendars.has(id) ? newId() : id);
    const stands = sharedFrom(doc, id, sharedId);
    if (!twin && stands) calendars.push({ ...stands, rank: stock.calendars.size + calendars.length });
    draft.patch('calendars', id, { sharedId });
    return sharedId;
  };
  const visit = (table: SharedTable, id: string): string | null => {
    const row = doc[table].get(id) as SharedRow | undefined;
    if (!row) return null;
    const known = ids.get(thingKey(table, id)) ?? (row.sharedId !== null && stock.things.has(thingKey(table, row.sharedId)) ? row.sharedId : undefined);
    if (known !== undefined) return known;
    const twin = [...stock.things.values()].find((t) => t.table === table && sameThing(t.row, row));
    if (twin)
      no ??= refused('NAME_TAKEN', `There is a shared ${words[table]} ${thingName(twin)} already. Make the project’s own its copy, or give it another name.`, { table, id });
    const sharedId = stock.things.has(thingKey(table, id)) ? newId() : id;
    ids.set(thingKey(table, id), sharedId);
    made.push({ table, id });
    draft.patch(table, id, { sharedId });
    for (const n of namedBy(table, row)) {
      if (n.table === 'calendars') calendar(n.id);
      else visit(n.table, n.id);
    }
    return sharedId;
  };
  for (const { table, id } of list) visit(table, id);
  if (no) return no;
  if (made.length === 0) return refused('NOTHING_CHANGED', 'It is shared already.');
  const things = made.map(({ table, id }): SharedThing => {
    const row = draft.get(table, id) as SharedRow;
    const named = renamed(table, row, (of, ref) => draft.get(of, ref)?.sharedId ?? null);
    return { table, row: { ...named, ...ownPart(table, undefined), id: row.sharedId ?? id } as SharedRow };
  });
  const first = things[0]!;
  const label =
    things.length === 1 ? `Share ${words[first.table]} ${thingName(first)} with all projects` : `Share ${things.length} with all projects, ${thingName(first)} among them`;
  return { things, calendars, outcome: done(label, draft.changes) };
}

/** The shared row as a changed copy makes it; told as text where it names something that is not shared. */
export function wishedThing(doc: Document, table: SharedTable, copy: SharedRow, shared: SharedRow): SharedThing | string {
  const image = underItsName(imageOf(doc, table, copy), shared);
  const own = namedBy(table, image).find((n) => isOfProject(n.id));
  if (own) {
    const row = [...doc[own.table].values()].find((r) => own.id.endsWith(` ${r.id}`));
    return `${row?.name ?? 'What it names'} is only this project’s. Share that first, or make ${copy.name} the project’s own.`;
  }
  return { table, row: { ...shared, ...contentOf(table, image), id: shared.id, sharedId: shared.id } as SharedRow };
}

/** Copies of shared rows that are not known here belong to the project alone. Changes the document, which is not in use yet. */
export function forgetUnknownThings(doc: Document, things: SharedThings): void {
  for (const table of sharedTables)
    for (const [id, row] of doc[table] as Map<string, SharedRow>)
      if (row.sharedId !== null && !things.has(thingKey(table, row.sharedId))) (doc[table] as Map<string, SharedRow>).set(id, Object.freeze({ ...row, sharedId: null }));
}
