/** Commands on the outline: adding, deleting, moving rows, levels up and down. */
import { Draft } from '../change/change.ts';
import { type Document, labelOf, projectOf, rankBetween } from '../model/document.ts';
import { type Activity, activityDefaults, type ActivityType, MAX_NAME, wbsDefaults, type WbsNode } from '../model/schema.ts';
import { indexOf } from '../model/doc-index.ts';
import { takeOut } from './attached.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';
import { standardValues } from '../fields/own-values.ts';
import { isMilestone } from '../model/activity-kinds.ts';
import { nodeWithCode, wbsCodeOf } from '../outline/outline.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { numbersOf } from '../model/numbers.ts';

/** A row of the outline by table and id. */
export interface RowRef {
  kind: 'wbs' | 'activity';
  id: string;
}

export interface Sibling {
  id: string;
  rank: number;
  kind: 'wbs' | 'activity';
}

const tableOf = (kind: RowRef['kind']): 'wbs' | 'activities' => (kind === 'wbs' ? 'wbs' : 'activities');

export const siblings = (doc: Document, parent: string | null): Sibling[] =>
  indexOf(doc)
    .childrenOf(parent)
    .map((c) => ({ ...c }));

export function parentOf(doc: Document, ref: RowRef): string | null {
  return (ref.kind === 'wbs' ? doc.wbs.get(ref.id)?.parentId : doc.activities.get(ref.id)?.wbsId) ?? null;
}

/** A rank for a new row after a sibling (null: first). Where there is no room the siblings are numbered anew. */
function rankAfter(draft: Draft, list: Sibling[], after: string | null): number {
  const at = after === null ? -1 : list.findIndex((s) => s.id === after);
  const rank = rankBetween(list[at]?.rank, list[at + 1]?.rank);
  if (rank !== undefined) return rank;
  list.forEach((s, i) => {
    s.rank = i * 2;
    draft.patch(tableOf(s.kind), s.id, { rank: i * 2 });
  });
  return at * 2 + 1;
}

/** Ranks for rows that go one after the other behind a sibling (null: first). Where there is no room the siblings are numbered anew. */
export function spacedRanks(draft: Draft, list: Sibling[], after: string | null, n: number): number[] {
  const at = after === null ? -1 : list.findIndex((s) => s.id === after);
  const [low, high] = [list[at]?.rank, list[at + 1]?.rank];
  if (low === undefined && high === undefined) return Array.from({ length: n }, (_, i) => i);
  if (high === undefined) return Array.from({ length: n }, (_, i) => (low as number) + i + 1);
  if (low === undefined) return Array.from({ length: n }, (_, i) => high - n + i);
  const step = (high - low) / (n + 1);
  const ranks = Array.from({ length: n }, (_, i) => low + (i + 1) * step);
  if (ranks.every((r, i) => r > (i ? ranks[i - 1]! : low) && r < high)) return ranks;
  list.forEach((s, i) => {
    s.rank = i <= at ? i : i + n;
    draft.patch(tableOf(s.kind), s.id, { rank: s.rank });
  });
  return Array.from({ length: n }, (_, i) => at + 1 + i);
}

/** Puts rows into a node (null: the top) one after the other behind a row of it (null: first). `list`: what lies there without them; they are added to it. */
function putBehind(draft: Draft, list: Sibling[], after: string | null, rows: readonly RowRef[], parent: string | null): void {
  const ranks = spacedRanks(draft, list, after, rows.length);
  rows.forEach((r, i) => moveTo(draft, r, parent, ranks[i]!));
  list.splice(after === null ? 0 : list.findIndex((s) => s.id === after) + 1, 0, ...rows.map((r, i) => ({ ...r, rank: ranks[i]! })));
}

/** A place in the outline: below a row (inside it, first, if that is a WBS node), or at the end. */
export function place(doc: Document, below: RowRef | null): { parent: string | null; after: string | null } {
  if (!below) {
    const top = siblings(doc, null);
    return { parent: null, after: top[top.length - 1]?.id ?? null };
  }
  if (below.kind === 'wbs') return { parent: below.id, after: null };
  return { parent: parentOf(doc, below), after: below.id };
}

/** The row, unless another window has deleted it. */
export const existing = (doc: Document, ref: RowRef | null): RowRef | null => (ref && doc[tableOf(ref.kind)].has(ref.id) ? ref : null);

const tooLong = (name: string): Outcome | undefined =>
  name.length > MAX_NAME ? refused('WRONG_VALUE', `The name is longer than ${MAX_NAME} characters. Shorten it; the notes take more.`, { field: 'name' }) : undefined;

export interface NewActivity {
  name?: string;
  type?: ActivityType;
  duration?: number;
  calendarId?: string | null;
  code?: string;
  fields?: Partial<Activity>;
}

export const plainActivity = (id: string, code: string, rank: number): Activity => ({ ...activityDefaults, id, rank, code, duration: 480 });

/** What a new activity is: the duration is one day of its calendar, and the calendar that of the row above it, unless others are given. */
function newActivity(doc: Document, args: NewActivity, at: { id: string; code: string; rank: number; parent: string | null; below: RowRef | null }): Activity {
  const neighbour = at.below?.kind === 'activity' ? doc.activities.get(at.below.id) : undefined;
  const milestone = isMilestone({ type: args.type ?? 'task' });
  const calendarId = args.calendarId ?? neighbour?.calendarId ?? null;
  return {
    ...plainActivity(at.id, at.code, at.rank),
    name: args.name ?? '',
    wbsId: at.parent,
    values: standardValues(doc, 'activities'),
    basis: projectOf(doc).options.basis,
    type: args.type ?? 'task',
    duration: milestone ? 0 : (args.duration ?? dayLengths(doc, { calendarId }).minutesPerDay),
    calendarId,
    ...args.fields,
  };
}

/** Adds an activity below a row. */
export function addActivity(doc: Document, at: RowRef | null, args: NewActivity, newId: NewId): Outcome {
  const long = tooLong(args.name ?? '');
  if (long) return long;
  const below = existing(doc, at);
  const draft = new Draft(doc);
  const { parent, after } = place(doc, below);
  const row = newActivity(doc, args, { id: newId(), code: args.code ?? numbersOf(doc).next(), rank: rankAfter(draft, siblings(doc, parent), after), parent, below });
  draft.set('activities', row.id, row);
  return settled(doc, `Add ${labelOf(row)}`, draft.changes, [row.id]);
}

/** Adds activities without names below a row, one after the other. */
export function addActivities(doc: Document, at: RowRef | null, n: number, newId: NewId): Outcome {
  const below = existing(doc, at);
  const draft = new Draft(doc);
  const { parent, after } = place(doc, below);
  const numbers = numbersOf(doc);
  const ids = spacedRanks(draft, siblings(doc, parent), after, n).map((rank) => {
    const row = newActivity(doc, {}, { id: newId(), code: numbers.next(), rank, parent, below });
    draft.set('activities', row.id, row);
    return row.id;
  });
  return settled(doc, `Add ${count(n, 'activity')}`, draft.changes, ids);
}

/** Adds a WBS node below a row: after the row's own node, at the same level as a node, at the end of the top for none. */
export function addWbs(doc: Document, at: RowRef | null, name: string, newId: NewId, inside = false): Outcome {
  const long = tooLong(name);
  if (long) return long;
  const below = existing(doc, at);
  const draft = new Draft(doc);
  let parent: string | null;
  let after: string | null;
  if (!below) ({ parent, after } = place(doc, null));
  else if (below.kind === 'wbs' && inside) {
    parent = below.id;
    after = siblings(doc, parent).pop()?.id ?? null;
  } else {
    parent = parentOf(doc, below);
    after = below.id;
  }
  const id = newId();
  const row: WbsNode = { ...wbsDefaults, id, rank: rankAfter(draft, siblings(doc, parent), after), parentId: parent, name, values: standardValues(doc, 'wbs') };
  draft.set('wbs', id, row);
  return settled(doc, `Add WBS node ${name}`.trim(), draft.changes, [id]);
}

/** Gives a WBS node another name. */
export function renameWbs(doc: Document, id: string, text: string): Outcome {
  const node = doc.wbs.get(id);
  const name = text.trim();
  if (!node) return refused('UNKNOWN_WBS', 'That WBS node is not in the plan any more.');
  const long = tooLong(name);
  if (long) return long;
  const draft = new Draft(doc);
  draft.patch('wbs', id, { name });
  return settled(doc, `Rename WBS node ${name}`, draft.changes);
}

/** Gives a WBS node its own part of the WBS code by hand; empty text has it numbered again. A whole code is taken by its last part. */
export function codeWbs(doc: Document, id: string, text: string): Outcome {
  const node = doc.wbs.get(id);
  if (!node) return refused('UNKNOWN_WBS', 'That WBS node is not in the plan any more.');
  const where = { table: 'wbs', id, label: node.name, field: 'code' };
  const above = node.parentId === null ? '' : `${wbsCodeOf(doc, node.parentId)}.`;
  const typed = text.trim();
  const code = typed.startsWith(above) ? typed.slice(above.length) : typed;
  if (typed === wbsCodeOf(doc, id)) return refused('NOTHING_CHANGED', 'That is its code already.');
  if (code.length > 20 || /[\s.,;]/.test(code))
    return refused(
      'WRONG_VALUE',
      `${typed} is no part of a WBS code. Type up to 20 letters or digits without blank, point or comma${above ? `; it stands behind ${above}` : ''}.`,
      where,
    );
  const twin = nodeWithCode(doc, `${above}${code}`);
  if (code !== '' && twin !== undefined && twin !== id)
    return refused('WRONG_VALUE', `${above}${code} is the code of ${doc.wbs.get(twin)?.name || 'another node'}. Type another.`, where);
  const draft = new Draft(doc);
  draft.patch('wbs', id, { code });
  return settled(doc, code ? `Code ${above}${code} for ${node.name}` : `Number ${node.name} by its place`, draft.changes);
}

/** Deletes rows: WBS nodes with all that is in them, activities with their links. */
export function deleteRows(doc: Document, refs: readonly RowRef[]): Outcome {
  const nodes = new Set<string>();
  const activities = new Set<string>();
  const index = indexOf(doc);
  const take = (kind: RowRef['kind'], id: string): void => {
    if (kind === 'activity') activities.add(id);
    else if (!nodes.has(id)) {
      nodes.add(id);
      for (const c of index.childrenOf(id)) take(c.kind, c.id);
    }
  };
  for (const r of refs) if (doc[tableOf(r.kind)].has(r.id)) take(r.kind, r.id);
  const draft = new Draft(doc);
  for (const id of activities) for (const l of [...index.linksInto(id), ...index.linksOutOf(id)]) draft.set('links', l.id, null);
  for (const id of activities) takeOut(draft, { kind: 'activity', id });
  // Children before their parents, so that every reference holds at each step.
  for (const id of [...nodes].reverse()) takeOut(draft, { kind: 'wbs', id });
  const parts = [activities.size ? count(activities.size, 'activity') : '', nodes.size ? count(nodes.size, 'WBS node') : ''].filter(Boolean);
  return parts.length ? done(`Delete ${parts.join(' and ')}`, draft.changes) : refused('NOTHING_SELECTED', 'Select rows to delete first.');
}

/** Only rows that (still) exist, each once, and whose ancestors are not moved as well. */
export function topmost(doc: Document, refs: readonly RowRef[]): RowRef[] {
  const chosen = new Set(refs.filter((r) => r.kind === 'wbs').map((r) => r.id));
  const seen = new Set<string>();
  return refs.filter((r) => {
    if (!doc[tableOf(r.kind)].has(r.id) || seen.has(r.id)) return false;
    seen.add(r.id);
    for (let at = parentOf(doc, r); at !== null; at = doc.wbs.get(at)?.parentId ?? null) if (chosen.has(at)) return false;
    return true;
  });
}

const nothing = refused('NOTHING_SELECTED', 'Select rows to move first.');

export function moveTo(draft: Draft, ref: RowRef, parent: string | null, rank: number): void {
  if (ref.kind === 'wbs') draft.patch('wbs', ref.id, { parentId: parent, rank });
  else draft.patch('activities', ref.id, { wbsId: parent, rank });
}

/** Into which node each row of a list that moves would go one level down: the nearest one above it, past those above it that move as well. */
function nodesAbove(list: readonly RowRef[], moving: ReadonlySet<string>): Map<string, string | undefined> {
  const into = new Map<string, string | undefined>();
  // The nearest node above what is looked at, and above the rows that move right before it.
  let [node, past] = [undefined, undefined] as [string | undefined, string | undefined];
  for (const r of list) {
    const moves = moving.has(r.id);
    if (moves) into.set(r.id, past);
    if (r.kind === 'wbs') node = r.id;
    if (!moves) past = node;
  }
  return into;
}

/** One level down: into the WBS node that stands before the rows among their siblings. */
export function levelDown(doc: Document, refs: readonly RowRef[]): Outcome {
  const rows = topmost(doc, refs);
  if (rows.length === 0) return nothing;
  const moving = new Set(rows.map((r) => r.id));
  const above = new Map<string | null, Map<string, string | undefined>>();
  const into = new Map<string, RowRef[]>();
  for (const r of rows) {
    const parent = parentOf(doc, r);
    if (!above.has(parent)) above.set(parent, nodesAbove(indexOf(doc).childrenOf(parent), moving));
    const target = above.get(parent)?.get(r.id);
    if (target === undefined) return refused('NO_NODE_ABOVE', 'There is no WBS node above at this level to go into. Ctrl+Enter makes one.');
    const inside = into.get(target);
    if (inside) inside.push(r);
    else into.set(target, [r]);
  }
  const draft = new Draft(doc);
  for (const [target, inside] of into) {
    const list = siblings(doc, target);
    putBehind(draft, list, list.at(-1)?.id ?? null, inside, target);
  }
  return done(`Move ${count(rows.length, 'row')} one level down`, draft.changes);
}

/** One level up: after the WBS node that they are in. */
export function levelUp(doc: Document, refs: readonly RowRef[]): Outcome {
  const rows = topmost(doc, refs);
  if (rows.length === 0) return nothing;
  const outOf = new Map<string, RowRef[]>();
  for (const r of rows) {
    const parent = parentOf(doc, r);
    if (parent === null) return refused('TOP_LEVEL', 'This row is at the top level already.');
    const leaving = outOf.get(parent);
    if (leaving) leaving.push(r);
    else outOf.set(parent, [r]);
  }
  const draft = new Draft(doc);
  const lists = new Map<string | null, Sibling[]>();
  for (const [parent, leaving] of outOf) {
    const grand = doc.wbs.get(parent)?.parentId ?? null;
    const list = lists.get(grand) ?? siblings(doc, grand);
    lists.set(grand, list);
    putBehind(draft, list, parent, leaving, grand);
  }
  return done(`Move ${count(rows.length, 'row')} one level up`, draft.changes);
}

/** Moves rows one place up or down; at the end of a WBS node on into the next one. */
export function moveRows(doc: Document, refs: readonly RowRef[], direction: 'up' | 'down'): Outcome {
  const rows = topmost(doc, refs);
  if (rows.length === 0) return nothing;
  const first = rows[0]!;
  const parent = parentOf(doc, first);
  const list = siblings(doc, parent);
  const ids = new Set(rows.map((r) => r.id));
  if (rows.some((r) => parentOf(doc, r) !== parent)) return refused('MIXED_LEVELS', 'The selected rows are in different WBS nodes. Select rows of one node to move them.');
  const places = list.flatMap((s, i) => (ids.has(s.id) ? [i] : []));
  const draft = new Draft(doc);
  const rest = list.filter((s) => !ids.has(s.id));
  const at = direction === 'up' ? places[0]! - 1 : places[0]! + 1;
  if (at < 0 || at > rest.length) return moveAcross(doc, draft, rows, parent, direction);
  const after = at === 0 ? null : rest[at - 1]!.id;
  putBehind(
    draft,
    rest,
    after,
    list.filter((s) => ids.has(s.id)),
    parent,
  );
  return done(`Move ${count(rows.length, 'row')} ${direction}`, draft.changes);
}

function moveAcross(doc: Document, draft: Draft, rows: RowRef[], parent: string | null, direction: 'up' | 'down'): Outcome {
  const end = refused('AT_THE_END', `There is nothing further ${direction}.`);
  if (parent === null) return end;
  const aunts = siblings(doc, doc.wbs.get(parent)?.parentId ?? null).filter((s) => s.kind === 'wbs');
  const next = aunts[aunts.findIndex((s) => s.id === parent) + (direction === 'up' ? -1 : 1)];
  if (!next) return end;
  const inside = siblings(doc, next.id);
  putBehind(draft, inside, direction === 'up' ? (inside.at(-1)?.id ?? null) : null, rows, next.id);
  return done(`Move ${count(rows.length, 'row')} to ${doc.wbs.get(next.id)?.name}`, draft.changes);
}

/** Puts rows before another row, or as the last inside a WBS node; nothing lies in an activity. */
export function dropRows(doc: Document, refs: readonly RowRef[], target: RowRef, where: 'before' | 'inside'): Outcome {
  const rows = topmost(doc, refs).filter((r) => r.id !== target.id);
  if (rows.length === 0 || !doc[tableOf(target.kind)].has(target.id)) return nothing;
  for (let at: string | null = target.kind === 'wbs' ? target.id : parentOf(doc, target); at !== null; at = doc.wbs.get(at)?.parentId ?? null)
    if (rows.some((r) => r.kind === 'wbs' && r.id === at)) return refused('INTO_ITSELF', 'A WBS node cannot go inside itself.');
  const inside = where === 'inside' && target.kind === 'wbs';
  const parent = inside ? target.id : parentOf(doc, target);
  const ids = new Set(rows.map((r) => r.id));
  const list = siblings(doc, parent).filter((s) => !ids.has(s.id));
  const at = inside ? list.length : list.findIndex((s) => s.id === target.id);
  const draft = new Draft(doc);
  putBehind(draft, list, at <= 0 ? null : list[at - 1]!.id, rows, parent);
  return done(`Move ${count(rows.length, 'row')}`, draft.changes);
}
