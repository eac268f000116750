/** Copying rows and branches with their logic, inside a project, between projects and between windows. */
import { z } from 'zod';
import { Draft } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import {
  type Activity,
  activitySchema,
  type Calendar,
  calendarSchema,
  codeSetSchema,
  datedNoteSchema,
  fileSchema,
  type Link,
  linkSchema,
  lookSchema,
  noProgress,
  ownFieldSchema,
  pictureSchema,
  type StoredValues,
  type WbsNode,
  wbsSchema,
} from '../model/schema.ts';
import { outlineObjection } from '../outline/rules.ts';
import { indexOf } from '../model/doc-index.ts';
import { resolveCalendar } from '../schedule/calendars.ts';
import { attachedTo, putAttached } from './attached.ts';
import { assigneeOf } from '../model/assigned.ts';
import { accountSchema, currencySchema, expenseSchema } from '../model/money-schema.ts';
import { type Assignment, assignmentSchema, resourceSchema, roleSchema } from '../model/resource-schema.ts';
import { bringPeople, whoIn } from './bring-people.ts';
import { bookedHere, bringMoney, moneyIn } from './bring-money.ts';
import { bringValues, usedOf } from './bring-values.ts';
import { bringPictures } from './pictures.ts';
import { bringLooks } from './views.ts';
import { existing, moveTo, parentOf, type RowRef, siblings, spacedRanks, topmost } from './outline.ts';
import { count, done, type NewId, type Outcome, refused } from './result.ts';
import { freeCalendarName, sameContent } from './shared.ts';
import { numbersOf } from '../model/numbers.ts';
import { byRank } from '../model/order.ts';

export const CLIP_FORMAT = 'yellowhammer-rows';

/** What lies in the clipboard: whole rows with all they need to stand elsewhere. */
const clipSchema = z.object({
  format: z.literal(CLIP_FORMAT),
  /** The project it was taken from; a cut inside it moves the rows themselves. */
  projectId: z.string(),
  cut: z.boolean(),
  /** Rows on top, in the order of the outline. */
  top: z.array(z.object({ kind: z.enum(['wbs', 'activity']), id: z.string() })),
  wbs: z.array(wbsSchema),
  activities: z.array(activitySchema),
  links: z.array(linkSchema),
  calendars: z.array(calendarSchema),
  datedNotes: z.array(datedNoteSchema).default([]),
  files: z.array(fileSchema).default([]),
  assignments: z.array(assignmentSchema).default([]),
  expenses: z.array(expenseSchema).default([]),
  accounts: z.array(accountSchema).default([]),
  currencies: z.array(currencySchema).default([]),
  resources: z.array(resourceSchema).default([]),
  roles: z.array(roleSchema).default([]),
  codeSets: z.array(codeSetSchema).default([]),
  ownFields: z.array(ownFieldSchema).default([]),
  pictures: z.array(pictureSchema).default([]),
  looks: z.array(lookSchema).default([]),
});
export type Clip = z.infer<typeof clipSchema>;

/** Reads what lies in the clipboard; undefined where it holds no rows of ours. */
export function readClip(text: string): Clip | undefined {
  if (!text.includes(CLIP_FORMAT)) return undefined;
  try {
    const parsed = clipSchema.safeParse(JSON.parse(text));
    return parsed.success && parsed.data.top.length > 0 ? parsed.data : undefined;
  } catch {
    return undefined;
  }
}

/** Rows with all that lies in them, the links among them, and the calendars that they use. Undefined where nothing is chosen. */
export function copyRows(doc: Document, projectId: string, refs: readonly RowRef[], cut: boolean): Clip | undefined {
  const chosen = new Set(topmost(doc, refs).map((r) => r.id));
  if (chosen.size === 0) return undefined;
  const top = inOutline(doc, topmost(doc, refs));
  const index = indexOf(doc);
  const wbs: WbsNode[] = [];
  const activities: Activity[] = [];
  const stack = [...top].reverse();
  for (let r = stack.pop(); r; r = stack.pop()) {
    if (r.kind === 'activity') activities.push(doc.activities.get(r.id) as Activity);
    else {
      wbs.push(doc.wbs.get(r.id) as WbsNode);
      const inside = index.childrenOf(r.id);
      for (let i = inside.length - 1; i >= 0; i--) stack.push(inside[i]!);
    }
  }
  const among = new Set(activities.map((a) => a.id));
  const links = activities.flatMap((a) => index.linksInto(a.id).filter((l) => among.has(l.from))).sort(byRank);
  const used = new Set<string>();
  const use = (id: string | null): void => {
    for (let at = id; at !== null && !used.has(at); at = doc.calendars.get(at)?.basedOn ?? null) used.add(at);
  };
  for (const a of activities) use(a.calendarId);
  for (const l of links) if (l.lagCalendar?.startsWith('calendar:')) use(l.lagCalendar.slice(9));
  const people = whoIn(doc, activities);
  for (const r of people.resources) use(r.calendarId);
  const money = moneyIn(doc, activities, [...people.resources, ...people.roles]);
  const calendars = [...used].flatMap((id) => doc.calendars.get(id) ?? []);
  const attached = attachedTo(doc, [...wbs.map(({ id }) => ({ kind: 'wbs' as const, id })), ...activities.map(({ id }) => ({ kind: 'activity' as const, id }))]);
  return {
    format: CLIP_FORMAT,
    projectId,
    cut,
    top,
    wbs,
    activities,
    links,
    calendars,
    ...attached,
    ...people,
    ...money,
    pictures: [...new Set(activities.map((a) => a.pictureId))].flatMap((id) => (id === null ? [] : (doc.pictures.get(id) ?? []))),
    looks: [...new Set(activities.map((a) => a.lookId))].flatMap((id) => (id === null ? [] : (doc.looks.get(id) ?? []))),
    ...usedOf(doc, [...activities, ...wbs, ...attached.assignments, ...people.resources]),
  };
}

/** Rows in the order of the outline, found by their places under their parents. */
function inOutline(doc: Document, refs: readonly RowRef[]): RowRef[] {
  const index = indexOf(doc);
  const places = new Map<string | null, Map<string, number>>();
  const placeOf = (parent: string | null, id: string): number => {
    let map = places.get(parent);
    if (!map) places.set(parent, (map = new Map(index.childrenOf(parent).map((c, i) => [c.id, i]))));
    return map.get(id) ?? 0;
  };
  const ways = new Map<RowRef, number[]>();
  for (const r of refs) {
    const way: number[] = [];
    let id: string | null = r.id;
    for (let parent: string | null = parentOf(doc, r), n = 0; id !== null && n < 1000; n++) {
      way.unshift(placeOf(parent, id));
      id = parent;
      parent = id === null ? null : (doc.wbs.get(id)?.parentId ?? null);
    }
    ways.set(r, way);
  }
  return [...refs].sort((a, b) => {
    const [x, y] = [ways.get(a) as number[], ways.get(b) as number[]];
    for (let i = 0; i < Math.min(x.length, y.length); i++) if (x[i] !== y[i]) return x[i]! - y[i]!;
    return x.length - y.length;
  });
}

/** Where rows go that are pasted at a row: nodes beside a node, all else as below it. */
function placeFor(doc: Document, at: RowRef | null, onlyNodes: boolean): { parent: string | null; after: string | null } {
  if (!at) return { parent: null, after: siblings(doc, null).pop()?.id ?? null };
  if (at.kind === 'wbs' && !onlyNodes) return { parent: at.id, after: null };
  return { parent: parentOf(doc, at), after: at.id };
}

/**
 * Pastes rows below a row (activities on a WBS node: into it). What was cut in the same project is moved, with all its
 * links; anything else becomes a copy with numbers of its own and the links among the copied, without progress, since
 * none of it has been worked on. `incoming`: links from rows that are not copied lead to the copies, too. Nothing else
 * changes.
 */
export function pasteRows(doc: Document, projectId: string, clip: Clip, at: RowRef | null, newId: NewId, incoming = false): Outcome {
  const target = existing(doc, at);
  const place = placeFor(
    doc,
    target,
    clip.top.every((r) => r.kind === 'wbs'),
  );
  const there = clip.top.filter((r) => existing(doc, r));
  return clip.cut && clip.projectId === projectId && there.length > 0
    ? moveRowsTo(doc, there, place)
    : pasteCopies(doc, projectId, clip, place, newId, incoming ? incomingLinks(doc, projectId, clip) : []);
}

/** Links from rows that are not copied into those that are: of the project that they were copied in, and not where they are moved. */
export function incomingLinks(doc: Document, projectId: string, clip: Clip): Link[] {
  if (clip.projectId !== projectId || clip.cut) return [];
  const among = new Set(clip.activities.map((a) => a.id));
  return clip.activities.flatMap((a) =>
    indexOf(doc)
      .linksInto(a.id)
      .filter((l) => !among.has(l.from)),
  );
}

type Place = ReturnType<typeof placeFor>;

/** Moves rows into a node, behind a row of it, with all that lies in them. */
export function moveRowsTo(doc: Document, refs: readonly RowRef[], place: Place): Outcome {
  const rows = topmost(doc, refs);
  const moving = new Set(rows.map((r) => r.id));
  let { after } = place;
  // Cut rows leave the list first: what they would follow is the nearest one before that stays.
  const all = siblings(doc, place.parent);
  for (let i = all.findIndex((s) => s.id === after); after !== null && moving.has(after); i--) after = all[i - 1]?.id ?? null;
  const draft = new Draft(doc);
  const list = all.filter((s) => !moving.has(s.id));
  const ranks = spacedRanks(draft, list, after, rows.length);
  rows.forEach((r, i) => moveTo(draft, r, place.parent, ranks[i]!));
  const no = outlineObjection(
    draft.changes,
    (id) => doc.wbs.get(id),
    () => [],
  );
  if (no) return refused('INTO_ITSELF', 'A WBS node cannot go inside itself. Put it elsewhere.');
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'The rows are there already.');
  return done(
    `Move ${count(rows.length, 'row')}`,
    draft.changes,
    rows.map((r) => r.id),
  );
}

function pasteCopies(doc: Document, projectId: string, clip: Clip, place: Place, newId: NewId, incoming: readonly Link[]): Outcome {
  const draft = new Draft(doc);
  const foreign = clip.projectId !== projectId;
  const calendar = foreign ? bringCalendars(draft, clip.calendars, newId) : (id: string): string | null => (doc.calendars.has(id) ? id : null);
  const picture = foreign ? bringPictures(draft, clip.pictures, newId) : (id: string | null): string | null => (id !== null && doc.pictures.has(id) ? id : null);
  const look = foreign ? bringLooks(draft, clip.looks, newId) : (id: string | null): string | null => (id !== null && doc.looks.has(id) ? id : null);
  const valuesOf = foreign ? bringValues(draft, clip, newId) : (values: StoredValues): StoredValues => values;
  const withValues = <R extends { values: StoredValues }>(row: R): R => ({ ...row, values: valuesOf(row.values) });
  const ids = new Map<string, string>();
  for (const r of [...clip.wbs, ...clip.activities]) ids.set(r.id, newId());
  const ranks = spacedRanks(draft, siblings(doc, place.parent), place.after, clip.top.length);
  const onTop = new Map(clip.top.map((r, i) => [r.id, ranks[i]]));
  for (const w of clip.wbs) {
    const rank = onTop.get(w.id);
    const parentId = rank === undefined ? (ids.get(w.parentId ?? '') ?? place.parent) : place.parent;
    draft.set('wbs', ids.get(w.id) as string, { ...withValues(w), id: ids.get(w.id) as string, parentId, rank: rank ?? w.rank });
  }
  const numbers = numbersOf(doc);
  for (const a of clip.activities) {
    const rank = onTop.get(a.id);
    const wbsId = rank === undefined ? (ids.get(a.wbsId ?? '') ?? place.parent) : place.parent;
    const progress = clip.cut ? {} : noProgress;
    const code = foreign && numbers.take(a.code) ? a.code : numbers.next();
    const calendarId = a.calendarId === null ? null : calendar(a.calendarId);
    draft.set('activities', ids.get(a.id) as string, {
      ...withValues(a),
      ...progress,
      id: ids.get(a.id) as string,
      code,
      wbsId,
      calendarId,
      pictureId: picture(a.pictureId),
      lookId: look(a.lookId),
      rank: rank ?? a.rank,
    });
  }
  const booked = foreign ? bringMoney(draft, clip, newId) : bookedHere(draft);
  const people = { resources: clip.resources.map(withValues), roles: clip.roles };
  const whom = foreign ? bringPeople(draft, people, calendar, newId, booked.account) : (x: Assignment) => (assigneeOf(doc, x) ? x : null);
  putAttached(draft, { ...clip, assignments: clip.assignments.map(withValues) }, (id) => ids.get(id), newId, whom, booked);
  let rank = indexOf(doc).nextLinkRank();
  for (const l of clip.links) {
    const [from, to] = [ids.get(l.from), ids.get(l.to)];
    if (from === undefined || to === undefined) continue;
    const own = l.lagCalendar?.startsWith('calendar:') ? calendar(l.lagCalendar.slice(9)) : undefined;
    const row: Link = { ...l, id: newId(), from, to, rank: rank++, lagCalendar: own === undefined ? l.lagCalendar : own === null ? 'predecessor' : `calendar:${own}` };
    draft.set('links', row.id, row);
  }
  for (const l of incoming) {
    const row: Link = { ...l, id: newId(), to: ids.get(l.to) as string, rank: rank++ };
    draft.set('links', row.id, row);
  }
  const no = outlineObjection(
    draft.changes,
    (id) => doc.wbs.get(id),
    () => [],
  );
  if (no) return { ok: false, problems: [no] };
  return done(
    `Paste ${count(clip.wbs.length + clip.activities.length, 'row')}`,
    draft.changes,
    clip.top.map((r) => ids.get(r.id) as string),
  );
}

/** The calendar here that stands for each of another project: one of the same name and hours, or a copy under a free name. */
function bringCalendars(draft: Draft, calendars: readonly Calendar[], newId: NewId): (id: string) => string | null {
  const theirs = new Map(calendars.map((c) => [c.id, c]));
  const known = new Map<string, string>();
  const bring = (id: string): string | null => {
    const had = known.get(id);
    const c = theirs.get(id);
    const content = c && resolveCalendar(theirs, id);
    if (had !== undefined || !c || !content) return had ?? null;
    const all = new Map(draft.doc.calendars);
    const same = [...all.values()].find(
      (x) => (x.name.toLowerCase() === c.name.toLowerCase() || (c.sharedId !== null && x.sharedId === c.sharedId)) && sameContent(resolveCalendar(all, x.id), content),
    );
    if (same) {
      known.set(id, same.id);
      return same.id;
    }
    const own = newId();
    known.set(id, own);
    const others = [...all.values(), ...draft.changes.flatMap((x) => (x.table === 'calendars' && x.after ? [x.after as Calendar] : []))];
    const rank = others.reduce((n, x) => Math.max(n, x.rank), -1) + 1;
    // With all that it had from its parents, so that it says the same here.
    draft.set('calendars', own, {
      ...c,
      id: own,
      rank,
      name: freeCalendarName(others, c.name),
      basedOn: null,
      sharedId: null,
      week: content.week,
      exceptions: content.exceptions,
      hoursPerDay: content.hoursPerDay,
      daysPerWeek: content.daysPerWeek,
    });
    return own;
  };
  return bring;
}
