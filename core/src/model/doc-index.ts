/**
 * What is looked up in a document without a scan: children by parent, links by end, activities by number and by
 * calendar. Made when it is first asked for, and kept by `applyChanges` from then on.
 */
import type { Document } from './document.ts';
import type { Expense } from './money-schema.ts';
import type { Assignment } from './resource-schema.ts';
import type { Activity, AttachedFile, DatedNote, Link, WbsNode } from './schema.ts';
import type { Row, TableName } from './tables.ts';
import { byRank } from './order.ts';

/** A row of the outline under its parent. */
export interface Child {
  kind: 'wbs' | 'activity';
  id: string;
  rank: number;
}

class Family {
  private readonly members = new Map<string, Child>();
  private sorted: Child[] | null = null;
  /** Somebody may hold the sorted list: then it is never changed, but another one made. */
  private held = false;
  private kept: readonly Child[] | null = null;

  get list(): readonly Child[] {
    this.held = true;
    return this.inOrder();
  }

  /** WBS nodes among them. Thousands of rows may lie beside a few nodes, and each number that is given looks through these. */
  get nodes(): readonly Child[] {
    return (this.kept ??= this.inOrder().filter((c) => c.kind === 'wbs'));
  }

  /** The last one, without a list that has to be kept as it is. */
  get last(): Child | undefined {
    return this.inOrder().at(-1);
  }

  private inOrder(): Child[] {
    return (this.sorted ??= [...this.members.values()].sort(byRank));
  }

  private placeOf(c: Child, list: readonly Child[]): number {
    let low = 0;
    let high = list.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (byRank(list[middle]!, c) < 0) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** `few`: so few changes come at once that the sorted list is mended rather than sorted anew. */
  add(c: Child, few: boolean): void {
    this.members.set(c.id, c);
    this.mend(c, few, 0, c);
  }

  remove(id: string, few: boolean): void {
    const c = this.members.get(id);
    if (!c) return;
    this.members.delete(id);
    this.mend(c, few, 1);
  }

  private mend(c: Child, few: boolean, less: 0 | 1, ...more: Child[]): void {
    if (c.kind === 'wbs') this.kept = null;
    if (!few) this.sorted = null;
    if (this.held) this.sorted = this.sorted?.slice() ?? null;
    this.held = false;
    if (!this.sorted) return;
    this.sorted.splice(this.placeOf(c, this.sorted), less, ...more);
  }
}

/** What is attached to rows: the tables, and the row that one belongs to ('': the project). */
export type AttachedTable = 'datedNotes' | 'files';
export const attachedTables: readonly AttachedTable[] = ['datedNotes', 'files'];
const ownerOf = (r: DatedNote | AttachedFile): string => (r.activityId !== null ? `a ${r.activityId}` : r.wbsId !== null ? `w ${r.wbsId}` : '');
const isAttached = (table: TableName): table is AttachedTable => table === 'datedNotes' || table === 'files';

/** A row of the outline by what it is. */
export type OutlineRef = Pick<Child, 'kind' | 'id'>;

/** More changes than this at once, and lists are sorted anew instead of mended. */
const FEW = 64;
const NUMBER = /^\d{1,9}$/;
const none: readonly never[] = [];
/** Tables that no stored field of an activity is told by. */
const besides: ReadonlySet<TableName> = new Set(['links', 'assignments', 'expenses', ...attachedTables]);

/** Numbers that no two indexes share. */
let versions = 0;

export class DocIndex {
  private readonly families = new Map<string, Family>();
  private readonly codes = new Map<string, Activity[]>();
  private readonly byCalendar = new Map<string, Set<string>>();
  private readonly attached: Record<AttachedTable, Map<string, readonly (DatedNote | AttachedFile)[]>> = { datedNotes: new Map(), files: new Map() };
  /** Counts the changes of code sets and own fields: what was made of them before is no more. */
  madeVersion = 0;
  private greatest: number | null = null;
  private lastLink = -1;
  /** Links by the activity that they lead to, and that they come from, in the order of the file. */
  readonly into = new Map<string, readonly Link[]>();
  readonly outOf = new Map<string, readonly Link[]>();
  private readonly assigned = new Map<string, readonly Assignment[]>();
  private readonly spent = new Map<string, readonly Expense[]>();
  /** Another number after each change of assignments and of who can be assigned. */
  loadVersion = ++versions;
  /** Another number after each change: of a field of activities, by its name; of which activities there are and where; of any other row. */
  private readonly fieldVersions = new Map<string, number>();
  private shapeVersion = ++versions;
  private otherVersion = ++versions;
  /** Another number for a node ('': the project) after each change of an activity or node that lies in it, or lay there. */
  private readonly touched = new Map<string, number>();
  private readonly nodes: ReadonlyMap<string, WbsNode>;
  /** Another number after each change of what rates and prices hang on: resources, roles, calendars, the project. */
  tariffVersion = ++versions;
  /** Another number after each change of assignments or expenses: until then the lists of each activity are the same ones. */
  bookedVersion = ++versions;

  constructor(doc: Document) {
    this.nodes = doc.wbs;
    for (const w of doc.wbs.values()) this.add('wbs', w, false);
    for (const a of doc.activities.values()) this.add('activities', a, false);
    for (const table of attachedTables) for (const r of doc[table].values()) this.add(table, r, false);
    for (const x of doc.assignments.values()) this.add('assignments', x, false);
    for (const e of doc.expenses.values()) this.add('expenses', e, false);
    const [into, outOf] = [new Map<string, Link[]>(), new Map<string, Link[]>()];
    for (const l of doc.links.values()) {
      this.lastLink = Math.max(this.lastLink, l.rank);
      for (const [map, id] of [
        [into, l.to],
        [outOf, l.from],
      ] as const) {
        const list = map.get(id);
        if (list) list.push(l);
        else map.set(id, [l]);
      }
    }
    for (const [from, to] of [
      [into, this.into],
      [outOf, this.outOf],
    ] as const)
      for (const [id, list] of from) to.set(id, list.length > 1 ? list.sort(byRank) : list);
  }

  /** Children of a node (null: the top) in order. */
  childrenOf(parent: string | null): readonly Child[] {
    return this.families.get(parent ?? '')?.list ?? none;
  }

  /** The last child of a node (null: of the top). */
  lastIn(parent: string | null): Child | undefined {
    return this.families.get(parent ?? '')?.last;
  }

  /** WBS nodes right in a node (null: on top) in order. */
  nodesIn(parent: string | null): readonly Child[] {
    return this.families.get(parent ?? '')?.nodes ?? none;
  }

  linksInto(id: string): readonly Link[] {
    return this.into.get(id) ?? none;
  }

  linksOutOf(id: string): readonly Link[] {
    return this.outOf.get(id) ?? none;
  }

  /** The activity with a number, whatever the case of its letters. */
  byCode(code: string): Activity | undefined {
    return this.codes.get(code.toLowerCase())?.[0];
  }

  /** All activities with a number: more than one where two windows gave it at the same time. */
  withCode(code: string): readonly Activity[] {
    return this.codes.get(code.toLowerCase()) ?? none;
  }

  /** Activities that share their number with another, in groups. */
  sharedCodes(): Activity[][] {
    const out: Activity[][] = [];
    // Asked after each edit: an iterator would make an object for each activity.
    this.codes.forEach((list) => list.length > 1 && out.push(list));
    return out;
  }

  /** Activities that name a calendar themselves. */
  withCalendar(id: string): ReadonlySet<string> {
    return this.byCalendar.get(id) ?? new Set();
  }

  /** The greatest number that is one, among the numbers of activities; 0 where there is none. */
  greatestNumber(): number {
    if (this.greatest === null) {
      let n = 0;
      for (const code of this.codes.keys()) if (NUMBER.test(code)) n = Math.max(n, Number(code));
      this.greatest = n;
    }
    return this.greatest;
  }

  /** Dated notes or files of a row (null: of the project), in the order in which they were made. */
  attachedTo<T extends AttachedTable>(table: T, row: OutlineRef | null): readonly (T extends 'files' ? AttachedFile : DatedNote)[] {
    const key = row === null ? '' : `${row.kind === 'wbs' ? 'w' : 'a'} ${row.id}`;
    return (this.attached[table].get(key) ?? none) as never;
  }

  /** Assignments of an activity, in order. */
  assignmentsOf(activityId: string): readonly Assignment[] {
    return this.assigned.get(activityId) ?? none;
  }

  /** Expenses and income of an activity, in order. */
  expensesOf(activityId: string): readonly Expense[] {
    return this.spent.get(activityId) ?? none;
  }

  /** A rank for a new link, behind all others. */
  nextLinkRank(): number {
    return this.lastLink + 1;
  }

  private ofActivity(table: 'assignments' | 'expenses'): Map<string, readonly (Assignment | Expense)[]> {
    return (table === 'assignments' ? this.assigned : this.spent) as Map<string, readonly (Assignment | Expense)[]>;
  }

  private add(table: TableName, row: Row, few: boolean): void {
    if (table === 'wbs' || table === 'activities') {
      const parent = (table === 'wbs' ? (row as WbsNode).parentId : (row as Activity).wbsId) ?? '';
      let family = this.families.get(parent);
      if (!family) this.families.set(parent, (family = new Family()));
      family.add({ kind: table === 'wbs' ? 'wbs' : 'activity', id: row.id, rank: row.rank }, few);
    }
    if (table === 'activities') this.addActivity(row as Activity);
    if (isAttached(table)) {
      const of = ownerOf(row as DatedNote | AttachedFile);
      this.attached[table].set(of, [...(this.attached[table].get(of) ?? none), row as DatedNote | AttachedFile].sort(byRank));
    }
    if (table === 'assignments' || table === 'expenses') {
      const x = row as Assignment | Expense;
      const map = this.ofActivity(table);
      const list = map.get(x.activityId);
      map.set(x.activityId, list ? [...list, x].sort(byRank) : [x]);
    }
    if (table === 'links') {
      const l = row as Link;
      this.lastLink = Math.max(this.lastLink, l.rank);
      this.into.set(l.to, [...this.linksInto(l.to), l].sort(byRank));
      this.outOf.set(l.from, [...this.linksOutOf(l.from), l].sort(byRank));
    }
  }

  private addActivity(a: Activity): void {
    const code = a.code.toLowerCase();
    const list = this.codes.get(code);
    if (list) list.push(a);
    else this.codes.set(code, [a]);
    if (this.greatest !== null && NUMBER.test(code)) this.greatest = Math.max(this.greatest, Number(code));
    if (a.calendarId === null) return;
    const users = this.byCalendar.get(a.calendarId);
    if (users) users.add(a.id);
    else this.byCalendar.set(a.calendarId, new Set([a.id]));
  }

  private remove(table: TableName, row: Row, few: boolean): void {
    if (table === 'wbs' || table === 'activities') this.families.get((table === 'wbs' ? (row as WbsNode).parentId : (row as Activity).wbsId) ?? '')?.remove(row.id, few);
    if (table === 'activities') {
      const a = row as Activity;
      const code = a.code.toLowerCase();
      const rest = (this.codes.get(code) ?? []).filter((x) => x.id !== a.id);
      if (rest.length) this.codes.set(code, rest);
      else this.codes.delete(code);
      if (this.greatest !== null && NUMBER.test(code) && Number(code) === this.greatest) this.greatest = null;
      if (a.calendarId !== null) this.byCalendar.get(a.calendarId)?.delete(a.id);
    }
    if (isAttached(table)) {
      const of = ownerOf(row as DatedNote | AttachedFile);
      const rest = (this.attached[table].get(of) ?? none).filter((x) => x.id !== row.id);
      if (rest.length) this.attached[table].set(of, rest);
      else this.attached[table].delete(of);
    }
    if (table === 'assignments' || table === 'expenses') {
      const x = row as Assignment | Expense;
      const map = this.ofActivity(table);
      const rest = (map.get(x.activityId) ?? none).filter((y) => y.id !== x.id);
      if (rest.length) map.set(x.activityId, rest);
      else map.delete(x.activityId);
    }
    if (table === 'links') {
      const l = row as Link;
      for (const [map, id] of [
        [this.into, l.to],
        [this.outOf, l.from],
      ] as const) {
        const rest = (map.get(id) ?? none).filter((x) => x.id !== l.id);
        if (rest.length) map.set(id, rest);
        else map.delete(id);
      }
    }
  }

  /** Stays the same while nothing changes that values of some stored fields of activities, and where these stand, hang on. */
  stampOf(fields: readonly (keyof Activity & string)[]): string {
    return `${this.shapeVersion} ${this.otherVersion} ${fields.map((f) => this.fieldVersions.get(f) ?? 0).join(' ')}`;
  }

  /** Stays the same while nothing changes that values of stored fields of the activities in a node ('': the project) hang on. */
  stampIn(node: string): string {
    return `${this.otherVersion} ${this.versionIn(node)}`;
  }

  /** Stays the same while all activities and nodes in a node ('': the project) are what they were. */
  versionIn(node: string): number {
    return this.touched.get(node) ?? 0;
  }

  /** What lies in a node is not what it was: nor is what lies in those above it. */
  private touch(node: string | null): void {
    const version = ++versions;
    for (let at = node, n = 0; at !== null && n < 100; at = this.nodes.get(at)?.parentId ?? null, n++) this.touched.set(at, version);
    this.touched.set('', version);
  }

  private noteVersions(table: TableName, before: Row | null, after: Row | null): void {
    if (table === 'wbs') {
      const [was, is] = [before as WbsNode | null, after as WbsNode | null];
      if (was) this.touch(was.parentId);
      if (is) this.touch(is.parentId);
      if (!was || !is || was.parentId !== is.parentId || was.rank !== is.rank) this.shapeVersion = ++versions;
      return;
    }
    if (table !== 'activities') {
      if (!besides.has(table)) this.otherVersion = ++versions;
      return;
    }
    const [was, is] = [before as Activity | null, after as Activity | null];
    if (was) this.touch(was.wbsId);
    if (is && is.wbsId !== was?.wbsId) this.touch(is.wbsId);
    if (!was || !is || was.wbsId !== is.wbsId || was.rank !== is.rank) this.shapeVersion = ++versions;
    if (was && is) for (const f of Object.keys(is) as (keyof Activity)[]) if (was[f] !== is[f]) this.fieldVersions.set(f, ++versions);
  }

  /** A row becomes another; null: it is not there. `many` changes come with it. */
  note(table: TableName, before: Row | null, after: Row | null, many: number): void {
    this.noteVersions(table, before, after);
    if (table === 'codeSets' || table === 'ownFields') this.madeVersion++;
    if (table === 'assignments' || table === 'resources' || table === 'roles' || table === 'resourceGroups') this.loadVersion = ++versions;
    if (table === 'resources' || table === 'roles' || table === 'calendars' || table === 'project') this.tariffVersion = ++versions;
    if (table === 'assignments' || table === 'expenses') this.bookedVersion = ++versions;
    if (table !== 'wbs' && table !== 'activities' && table !== 'links' && table !== 'assignments' && table !== 'expenses' && !isAttached(table)) return;
    const few = many <= FEW;
    if (before && after && (table === 'wbs' || table === 'activities') && this.sameFamily(table, before, after)) {
      if (table === 'wbs') return;
      const [a, b] = [before as Activity, after as Activity];
      if (a.code === b.code && a.calendarId === b.calendarId) return this.exchange(a, b);
    }
    if (before) this.remove(table, before, few);
    if (after) this.add(table, after, few);
  }

  /** True where a row stays in its place in the outline. */
  private sameFamily(table: 'wbs' | 'activities', before: Row, after: Row): boolean {
    if (before.rank !== after.rank) return false;
    return table === 'wbs' ? (before as WbsNode).parentId === (after as WbsNode).parentId : (before as Activity).wbsId === (after as Activity).wbsId;
  }

  private exchange(before: Activity, after: Activity): void {
    const list = this.codes.get(after.code.toLowerCase());
    const at = list?.findIndex((x) => x.id === before.id) ?? -1;
    if (list && at >= 0) list[at] = after;
  }
}

const indexes = new WeakMap<Document, DocIndex>();

/** The index of a document. */
export function indexOf(doc: Document): DocIndex {
  let index = indexes.get(doc);
  if (!index) indexes.set(doc, (index = new DocIndex(doc)));
  return index;
}

/** The index of a document where one was made already: what `applyChanges` has to keep. */
export const keptIndex = (doc: Document): DocIndex | undefined => indexes.get(doc);

/** Forgets the index of a document that is changed by other means than changes (a file being read, a test). */
export const forgetIndex = (doc: Document): void => void indexes.delete(doc);
