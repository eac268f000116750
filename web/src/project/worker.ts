/** The computing worker: keeps its own copy of the document, receives the same changes, and recomputes in full. */
import { expose } from 'comlink';
import { applyChanges, type Change, invertChanges } from '@yellowhammer/core/change/change';
import { type Entry, finishesBack, stateBefore } from '@yellowhammer/core/change/points';
import { type Comparison, compareStates } from '@yellowhammer/core/compare/compare';
import { compareStatusLogic, type StatusLogicComparison } from '@yellowhammer/core/compare/status-logic';
import { type Document, documentFrom, type DocumentRows, emptyDocument, projectOf } from '@yellowhammer/core/model/document';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { type Candidate, candidatesFor, type Wanted } from '@yellowhammer/core/load/candidates';
import { type Bucketing, type BucketKind } from '@yellowhammer/core/load/buckets';
import type { SortKey } from '@yellowhammer/core/fields/sort';
import { type LevelPicture, levelPicture, servedBy } from '@yellowhammer/core/level/picture';
import { type Levelled, levelSteps } from '@yellowhammer/core/level/level';
import type { LevelOptions } from '@yellowhammer/core/level/scheme';
import { rowsOf as moneyRowsOf } from '@yellowhammer/core/cost/money';
import { type GroupBy, moneyParts, type MoneyPart, type MoneyRows, moneyTable, type MoneyTable, needByMonth, type Need } from '@yellowhammer/core/cost/table';
import { moneyRows } from '@yellowhammer/core/cost/parts';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import { type Elsewhere, nothingElsewhere } from '@yellowhammer/core/load/elsewhere';
import { type Loads, loadsOf, type SubjectKind } from '@yellowhammer/core/load/load';
import { type GraphOf, type LoadGraph, loadGraph } from '@yellowhammer/core/load/graph';
import { type AssignmentLine, assignmentLines } from '@yellowhammer/core/load/lines';
import { type Handover, type PeopleOnTime, peopleOnTime, tryHandover } from '@yellowhammer/core/load/people';
import { type ShiftBy, shiftFrom, type ShiftNeeds, shiftNeeds } from '@yellowhammer/core/load/shift';
import { dataDatesOf } from '@yellowhammer/core/load/load-json';
import { type AskedBy, type LoadTable, loadTable, type Stretch, stretchOf } from '@yellowhammer/core/load/table';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import type { Computed } from '@yellowhammer/core/schedule/compute';
import { differencesOf, type Move, type ViewDifference } from '@yellowhammer/core/compare/views';
import { standingProblems } from '@yellowhammer/core/rules/check';
import { redundantLinks } from '@yellowhammer/core/plan/redundant';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import { schedule, scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { type Explanation, explain } from '@yellowhammer/core/schedule/explain';
import { floatPaths } from '@yellowhammer/core/schedule/paths';
import { type BaselineView, baselineViewOf, placeOf, type ScheduleView, viewOf } from '@yellowhammer/core/schedule/view';
import { type LeanView, ViewsSent } from './lean-view';
import type { Problem } from '@yellowhammer/core/model/problem';

export interface ViewResult {
  view: LeanView | null;
  milliseconds: number;
  /** Where they went. */
  parts: { network: number; passes: number; view: number };
}

/** What takes longer than dates, and comes after them. */
export interface CheckResult {
  problems: Problem[];
  /** What the last computation moved against the one before; null at the first. The list holds the largest moves. */
  moved: { finishDays: number; rows: Move[]; count: number; later: boolean } | null;
}

/** Moves that are listed; the others are counted. */
const MOST_MOVES = 200;
const listed = ({ finishDays, moved: rows, count, later }: ViewDifference): NonNullable<CheckResult['moved']> => ({ finishDays, rows, count, later });

export interface PathResult {
  /** Activities from the beginning to the end. */
  activities: string[];
  slackDays: number;
}

let doc: Document = emptyDocument();
let memory = new NetworkMemory();
let latest: { computed?: Computed; view?: ScheduleView; check: () => Problem[] } = { check: () => [] };
/** Large acts by id, with their rows before and after. */
const kept = new Map<string, Change[]>();
const LARGE = 500;
const MOST_KEPT = 8;
/** The view of the last check: what moved since is told. */
let last: ScheduleView | undefined;
const sent = new ViewsSent();
/** Of dates with changes on top: a network and views of their own, since those of the plan stay what they are meanwhile. */
let tried = new NetworkMemory();
let triedSent: ViewsSent | null = null;
const copies = new Map<string, { doc: Document; computed: Computed | undefined }>();

function copyOf(id: string): { doc: Document; computed: Computed } | undefined {
  const c = copies.get(id);
  return c?.computed ? { doc: c.doc, computed: c.computed } : undefined;
}

function baselineFinish(): number | undefined {
  const id = projectOf(doc).baselineId;
  return id === null ? undefined : copyOf(id)?.computed.projectFinish;
}

/** Runs something on the document with changes on top, and takes them back. */
function onTop<T>(changes: readonly Change[], f: () => T): T {
  applyChanges(doc, changes);
  try {
    return f();
  } finally {
    applyChanges(doc, invertChanges(changes));
  }
}

let levelling = 0;
let others: Elsewhere = nothingElsewhere;
let loaded: { of: Computed; loads: Loads } | undefined;
/** Loads of the latest dates; made when they are first asked for. */
function loadsNow(): Loads | undefined {
  const { computed } = latest;
  if (!computed) return undefined;
  if (loaded?.of !== computed) loaded = { of: computed, loads: loadsOf(doc, computed, false, others) };
  return loaded.loads;
}

let booked: { of: Computed; rows: MoneyRows } | undefined;
/** Rows of money of the latest dates; made when they are first asked for. */
function moneyNow(): MoneyRows | undefined {
  const { computed } = latest;
  if (!computed) return undefined;
  if (booked?.of !== computed) booked = { of: computed, rows: moneyRowsOf(doc, computed) };
  return booked.rows;
}
/** Of the baseline, which is what it was. */
const baselineMoney = new Map<string, MoneyRows>();
function moneyOfBaseline(): MoneyRows | null {
  const id = projectOf(doc).baselineId;
  const c = id === null ? undefined : copyOf(id);
  if (id === null || !c) return null;
  let rows = baselineMoney.get(id);
  if (!rows) baselineMoney.set(id, (rows = { early: moneyRows(c.doc, c.computed), late: [] }));
  return rows;
}
const context = (): FieldContext => ({ doc, view: latest.view ?? null, baseline: null, clock: false });
/** The bucketing of what is asked for, by the project's weeks and data dates. */
function bucketsBy(kind: BucketKind, calendarId: string | null): Bucketing {
  const calendar = calendarFor(doc, { calendarId });
  return { kind, weekStart: projectOf(doc).options.weekStart, dataDates: dataDatesOf(doc), ...(calendar ? { calendar } : {}) };
}

const api = {
  /** The project as the server's answer tells it. */
  read(text: string): void {
    api.open((JSON.parse(text) as { document: DocumentRows }).document);
  },
  open(rows: DocumentRows): void {
    others = nothingElsewhere;
    doc = documentFrom(rows);
    memory = new NetworkMemory();
    tried = new NetworkMemory();
    latest = { check: () => [] };
    loaded = undefined;
    booked = undefined;
    baselineMoney.clear();
    copies.clear();
    kept.clear();
  },
  /** Rows as they are now; what they were before is known here. `undo` names an act that is taken back. */
  apply(changes: readonly Pick<Change, 'table' | 'id' | 'after'>[], changeId: string | null): void {
    const full = changes.map((c): Change => ({ ...c, before: doc[c.table].get(c.id) ?? null }));
    levelling++;
    applyChanges(doc, full);
    // Large acts are kept, so that taking them back need not send their rows again.
    if (changeId === null || full.length < LARGE) return;
    kept.set(changeId, full);
    if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value as string);
  },
  /** Takes a kept act back, or does it again; false where it is not kept. */
  travel(changeId: string, kind: 'undo' | 'redo'): boolean {
    const full = kept.get(changeId);
    const [stands, next] = kind === 'undo' ? (['after', 'before'] as const) : (['before', 'after'] as const);
    // The act may have been put on top of others' since, with other rows: only the very rows that stand are exchanged.
    if (!full?.every((c) => (doc[c.table].get(c.id) ?? null) === c[stands])) return false;
    applyChanges(doc, next === 'after' ? full : invertChanges(full));
    return true;
  },
  /** Dates and what is shown of them, as fast as can be. */
  compute(): ViewResult {
    const from = performance.now();
    const parts = { network: 0, passes: 0, view: 0 };
    const { computed, check } = scheduleDates(doc, memory, (part, ms) => (parts[part] = ms));
    const before = performance.now();
    const view = computed && viewOf(doc, computed, [], baselineFinish());
    parts.view = performance.now() - before;
    latest = { computed, view, check };
    const milliseconds = performance.now() - from;
    triedSent = null;
    return { view: view ? sent.lean(view) : null, milliseconds, parts };
  },
  /** The plan check of the latest dates, and what they moved. */
  check(): CheckResult {
    const found = latest.check();
    const d = last && latest.view && differencesOf(doc, last, latest.view, MOST_MOVES);
    last = latest.view;
    return { problems: [...found, ...standingProblems(doc, found)], moved: d ? listed(d) : null };
  },
  /** What changes have moved that are in the plan already: against the plan without them. */
  movedBy(back: readonly Change[]): CheckResult['moved'] {
    const view = latest.view;
    const before = onTop(back, () => {
      const { computed } = scheduleDates(doc);
      return computed && viewOf(doc, computed, [], baselineFinish());
    });
    return view && before ? listed(differencesOf(doc, before, view, MOST_MOVES)) : null;
  },
  hasCopy: (id: string): boolean => copies.has(id),
  addCopy(id: string, text: string): void {
    const file = readProjectText(text).file;
    if (file) copies.set(id, { doc: file.document, computed: schedule(file.document).computed });
  },
  baseline(id: string, name: string): BaselineView | null {
    const c = copyOf(id);
    return c ? baselineViewOf(id, name, c.doc, c.computed) : null;
  },
  /** What changes would do: the schedule with them on top. */
  preview(changes: readonly Change[]): { view: ScheduleView | null } {
    return onTop(changes, () => {
      const s = schedule(doc);
      return { view: s.computed ? viewOf(doc, s.computed, s.problems, baselineFinish()) : null };
    });
  },
  /** Dates with changes on top, as fast as can be: for what follows a bar while it is dragged. `fresh`: told from the last view of the plan, not from the last such one. */
  previewDates: (changes: readonly Change[]): { view: LeanView | null; fresh: boolean } =>
    onTop(changes, () => {
      const { computed } = scheduleDates(doc, tried);
      if (!computed) return { view: null, fresh: false };
      const fresh = triedSent === null;
      triedSent ??= sent.fork();
      return { view: triedSent.lean(viewOf(doc, computed, [], baselineFinish())), fresh };
    }),
  /** Finishes along the log, from now back (core's finishesBack), with unsent acts of this window taken back first. */
  finishesBack: (unsent: readonly Entry[], entries: readonly Entry[], skip: number): (number | null)[] => finishesBack(doc, [...unsent, ...entries], unsent.length + skip),
  /** Keeps the plan as it was before entries (newest first) under a name, to be compared like a kept copy. */
  keepState(id: string, entries: readonly Entry[]): void {
    const then = stateBefore(doc, entries);
    copies.set(id, { doc: then, computed: schedule(then).computed });
  },
  /** Ids of links that a longer chain asks for already. */
  redundant: (): string[] => redundantLinks(doc).map((l) => l.id),
  /** Both status logics, with changes on top that are not taken over yet. */
  statusLogic: (changes: readonly Change[]): StatusLogicComparison | null => onTop(changes, () => compareStatusLogic(doc) ?? null),
  /** What other projects ask of what is shared; counts in all loads from now on. */
  setElsewhere(elsewhere: Elsewhere | null): void {
    others = elsewhere ?? nothingElsewhere;
    loaded = undefined;
  },
  /** The table of loads over a span (null: all of the work) in buckets. */
  loads(kind: BucketKind, calendarId: string | null, span: { from: number; to: number } | null): LoadTable | null {
    const all = loadsNow();
    if (!all || !latest.computed) return null;
    const { from, to } = span ?? all.span ?? { from: latest.computed.network.projectFloor, to: latest.computed.projectFinish };
    return loadTable(doc, all, bucketsBy(kind, calendarId), from, Math.max(to, from + 1)) ?? null;
  },
  /** The table of money; a text where it would have too many columns. */
  money(kind: BucketKind, by: GroupBy): MoneyTable | string | null {
    const rows = moneyNow();
    return rows && latest.computed ? moneyTable(context(), latest.computed, rows, by, bucketsBy(kind, null), moneyOfBaseline()) : null;
  },
  /** What makes a cell of it (key null: of all). */
  moneyParts(by: GroupBy, key: string | null, from: number, to: number): { parts: MoneyPart[]; more: number } {
    const rows = moneyNow();
    return rows ? moneyParts(context(), rows, by, key, from, to, MOST_MOVES) : { parts: [], more: 0 };
  },
  /** The month in which the need of money is greatest. */
  need(): Need | null {
    return latest.computed ? needByMonth(booked?.of === latest.computed ? booked.rows.early : moneyRows(doc, latest.computed)) : null;
  },
  /** A proposal of levelling; `tell` hears how far it is, and it can be called off. Null where it was, or nothing is computed. */
  async level(options: Omit<LevelOptions, 'served'>, sort: readonly SortKey[], tell: (done: number, of: number) => void): Promise<Levelled | null> {
    const own = ++levelling;
    const steps = levelSteps(doc, { ...options, served: sort.length ? servedBy(context(), sort) : null });
    for (let at = performance.now(); ;) {
      const next = steps.next();
      if (next.done) return next.value ?? null;
      if (performance.now() - at < 60) continue;
      tell(next.value.done, next.value.of);
      // Changes and the word to stop are heard in between.
      await new Promise((r) => setTimeout(r));
      at = performance.now();
      if (own !== levelling) return null;
    }
  },
  /** Demand of a resource before and after a proposal of levelling. */
  levelPicture: (resourceId: string, delays: ReadonlyMap<string, number>): LevelPicture | null =>
    latest.computed ? (levelPicture(doc, latest.computed, resourceId, delays) ?? null) : null,
  stopLevelling(): void {
    levelling++;
  },
  /** Who could do an activity, by room. */
  candidates(wanted: Wanted): Candidate[] {
    const all = loadsNow();
    return all && latest.computed ? candidatesFor(doc, latest.computed, all, wanted, () => crypto.randomUUID()) : [];
  },
  /** Demand and capacity over the whole plan, for a graph on its time axis. */
  graph(what: GraphOf, chosen: readonly string[]): LoadGraph | null {
    const all = loadsNow();
    return (all && loadGraph(doc, all, what, new Set(chosen))) ?? null;
  },
  /** Assignments of some activities as lines under them. */
  assignmentLines: (ids: readonly string[]): AssignmentLine[] => (latest.computed ? assignmentLines(doc, latest.computed, ids) : []),
  /** What the shift at an instant needs (`by` -1: the one before it). */
  shift(calendarId: string | null, at: number, by: number, parted: ShiftBy): ShiftNeeds | null {
    const all = loadsNow();
    const calendar = calendarFor(doc, { calendarId });
    const found = calendar && shiftFrom(calendar, at, by);
    return all && latest.computed && found ? shiftNeeds(context(), latest.computed, all, found, parted) : null;
  },
  /** Everybody's work as bars, over all of it. */
  people(): PeopleOnTime | null {
    const all = loadsNow();
    const { computed } = latest;
    if (!all || !computed) return null;
    const { from, to } = all.span ?? { from: computed.network.projectFloor, to: computed.projectFinish };
    return peopleOnTime(doc, computed, all, from, to);
  },
  /** What giving an assignment to somebody else would do. */
  handover(assignmentId: string, resourceId: string): Handover | null {
    const all = loadsNow();
    return all && latest.computed ? tryHandover(doc, latest.computed, all, assignmentId, resourceId) : null;
  },
  /** A stretch of one resource, role or group opened up. */
  stretch(kind: SubjectKind, id: string, from: number, to: number, by: AskedBy): Stretch | null {
    const all = loadsNow();
    return all && latest.computed ? (stretchOf(doc, latest.computed, all, kind, id, from, to, by) ?? null) : null;
  },
  explain(id: string): Explanation | null {
    const known = latest.view && placeOf(latest.view, id) !== undefined && doc.activities.has(id);
    return known && latest.computed ? explain(doc, latest.computed, id) : null;
  },
  paths(count: number, to?: string): PathResult[] {
    const r = latest.computed;
    if (!r) return [];
    const net = r.network;
    const index = to === undefined ? undefined : net.ids.indexOf(to);
    return floatPaths(r, count, index === undefined ? undefined : net.nodeOf[index]!).map((p) => ({
      slackDays: p.slackDays,
      activities: p.nodes.map((k) => net.ids[net.fileIndex[k]!]!),
    }));
  },
  /** Compares a kept copy with another one, or with the plan as it is now (null). */
  compare(before: string, after: string | null): Comparison | null {
    const a = copyOf(before);
    const b = after === null ? (latest.computed ? { doc, computed: latest.computed } : undefined) : copyOf(after);
    return a && b ? compareStates(a, b) : null;
  },
};

export type WorkerApi = typeof api;
expose(api);
