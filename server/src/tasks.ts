/**
 * What takes long, as functions of a database: each runs in a worker thread with a connection of its own (or at once,
 * for a database in memory), so that nobody else waits for it.
 */
import { gunzipSync } from 'node:zlib';
import Papa from 'papaparse';
import { batchSchema, checkChanges, type LogEntry } from '@yellowhammer/core/change/change';
import type { Adopt } from '@yellowhammer/core/commands/alike';
import type { ImportChoice } from '@yellowhammer/core/commands/shared';
import type { SharedTable } from '@yellowhammer/core/commands/shared-things';
import type { MeetingView, ProjectEffect, SharedThingEntry, ThingEffect } from '@yellowhammer/core/commands/shared-views';
import { fieldOf } from '@yellowhammer/core/fields/list';
import { harmless } from '@yellowhammer/core/model/cell-text';
import { type Document, projectOf, rowsOf } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { jsonParts, limits } from '@yellowhammer/core/model/limits';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { type GraphState, paperGraph } from '@yellowhammer/core/report/paper-graph';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { type ReportSettings, reportTable } from '@yellowhammer/core/report/plan-table';
import type { Page } from '@yellowhammer/core/report/scene';
import { summarise, type Summary } from '@yellowhammer/core/rollup/summary';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { type AssignmentLine, assignmentLines } from '@yellowhammer/core/load/lines';
import { fitting } from '@yellowhammer/core/view/supplied';
import { copyOfView } from '@yellowhammer/core/model/view-schema';
import { conditionsOf } from '@yellowhammer/core/view/filter';
import { type BaselineView, baselineViewOf, viewOf } from '@yellowhammer/core/schedule/view';
import { showDay } from '@yellowhammer/core/time/typed-date';
import { z } from 'zod';
import { makeAlike } from './alike.ts';
import type { Kept } from './contents.ts';
import { measure } from './fonts.ts';
import { zodProblems } from './http.ts';
import { writePdf } from './pdf.ts';
import { elsewhere, type ElsewhereReply } from './elsewhere.ts';
import type { Shared } from './shared.ts';
import type { SharedChange } from './shared-rows.ts';
import type { Applied, Author, Store } from './store.ts';

export interface Context {
  store: Store;
  shared: Shared;
  /** Tells how far the work is. */
  progress: (done: number, of: number) => void;
}

export type Figures = Summary & { name: string; code: string };

/** Most rows that are printed as a PDF: about a thousand pages. */
export const MOST_PDF_ROWS = 20_000;

const envelope = z.object({ revision: z.int().min(0), batch: batchSchema });

/** JSON of a body, or why it is none. */
function parse(bytes: ArrayBuffer): { json: unknown } | { problems: Problem[] } {
  const text = Buffer.from(bytes).toString('utf8');
  if (jsonParts(text) > limits.jsonParts) return { problems: [problem('TOO_LARGE', `That holds more than ${limits.jsonParts} objects and lists. Nothing was changed.`)] };
  try {
    return { json: JSON.parse(text) as unknown };
  } catch (e) {
    return { problems: [problem('NOT_JSON', `This is not readable as JSON: ${(e as Error).message}. Nothing was changed.`)] };
  }
}

/** A batch of changes with the revision it was made at, out of the body of a request; or why it cannot be taken. */
export function readBatch(bytes: ArrayBuffer) {
  const body = parse(bytes);
  if ('problems' in body) return { status: 400 as const, problems: body.problems };
  const read = envelope.safeParse(body.json);
  if (!read.success) return { status: 400 as const, problems: zodProblems(read.error) };
  const { changes, problems } = checkChanges(read.data.batch.changes);
  if (problems.length) return { status: 422 as const, problems: problems.slice(0, 20) };
  return { status: 200 as const, revision: read.data.revision, batch: { ...read.data.batch, changes } };
}

/** What a request that sends a batch is answered. `applied`: the windows are to hear of it. */
export type Answer =
  | { status: 200; revision: number; repeated: boolean }
  | { status: 409; revision: number; missed: LogEntry[] | null }
  | { status: 404 }
  | { status: 400 | 422; problems: Problem[] };

export function answerOf(result: Applied): Answer {
  if (result.kind === 'applied') return { status: 200, revision: result.entry.revision, repeated: result.repeated };
  if (result.kind === 'behind') return { status: 409, revision: result.revision, missed: result.missed };
  return result.kind === 'unknown' ? { status: 404 } : { status: 422, problems: result.problems };
}

/** A report's input, kept for the last project looked at, since pages are asked for one after the other. */
interface Prepared {
  key: string;
  input: Omit<ConstructorParameters<typeof PlanPages>[0], 'settings'>;
  /** What graphs under the plan are made of. */
  state: GraphState;
  baseline: GraphState | null;
}
let prepared: Prepared | undefined;

function prepareReport(store: Store, projectId: string): Prepared['input'] | { problems: Problem[] } | null {
  const loaded = store.document(projectId);
  if (!loaded) return null;
  const key = `${projectId} ${loaded.revision}`;
  if (prepared?.key === key) return prepared.input;
  const { doc } = loaded;
  const { computed, problems } = schedule(doc);
  if (!computed) return { problems };
  const project = projectOf(doc);
  const copy = project.baselineId === null ? undefined : store.copy(projectId, project.baselineId);
  const old = copy && schedule(copy).computed;
  const baseline = old && copy ? baselineViewOf(project.baselineId as string, doc.snapshots.get(project.baselineId as string)?.name ?? '', copy, old) : null;
  const input = { doc, view: viewOf(doc, computed, problems, old?.projectFinish), baseline, measure, printed: showDay(Math.floor(Date.now() / 86_400_000)) };
  prepared = { key, input, state: { doc, computed }, baseline: copy && old ? { doc: copy, computed: old } : null };
  return input;
}

/** The input with the graph that is asked for; of the project that was prepared last. */
function withGraph(input: Prepared['input'], { graph }: ReportSettings): Prepared['input'] {
  return graph && prepared?.input.doc === input.doc ? { ...input, graph: paperGraph(prepared.state, input.view, graph, prepared.baseline) } : input;
}

/** The input with the kept copies that a printed view asks about: by its filter, and as what it compares with. */
function withKept(store: Store, projectId: string, input: Prepared['input'], { view }: ReportSettings): Prepared['input'] {
  const compared = view ? copyOfView(fitting(input.doc, view)) : null;
  const baseline = compared === null ? input.baseline : (viewOfCopy(store, projectId, input.doc, compared) ?? null);
  const ids = new Set(view?.filter ? conditionsOf(view.filter).flatMap((c) => (c.is === 'changed' ? [String(c.values[0])] : [])) : []);
  const kept = new Map<string, BaselineView>();
  for (const id of ids) {
    const of = viewOfCopy(store, projectId, input.doc, id);
    if (of) kept.set(id, of);
  }
  return { ...input, baseline, ...(kept.size ? { kept } : {}) };
}

/** The dates of a kept copy, as the plan is compared with them; undefined where it is not there or cannot be computed. */
function viewOfCopy(store: Store, projectId: string, doc: Document, id: string): BaselineView | undefined {
  const copy = store.copy(projectId, id);
  const old = copy && schedule(copy).computed;
  return copy && old ? baselineViewOf(id, doc.snapshots.get(id)?.name ?? '', copy, old) : undefined;
}

/** Where a view shows assignments: how they are asked for; of the project that was prepared last. */
function linesFor(input: Prepared['input'], { view }: ReportSettings): { linesOf?: (ids: readonly string[]) => AssignmentLine[] } {
  const state = prepared?.input.doc === input.doc ? prepared.state : undefined;
  return state && view && view.assignments !== 'hidden' ? { linesOf: (ids) => assignmentLines(state.doc, state.computed, ids) } : {};
}

/** The settings with those of the columns that this project has. */
function columnsIn(doc: Document, settings: ReportSettings): ReportSettings {
  const columns = settings.columns.filter((key) => fieldOf(doc, key));
  return { ...settings, columns: columns.length ? columns : ['code', 'name'] };
}

/** A name for a file made of a project's code. */
const fileName = (doc: Document): string => (projectOf(doc).code || 'project').replace(/[^\w-]+/g, '_');

/** What something that writes gives, with the projects it wrote to: those who listen to them are on another thread. */
function heard<R extends object>(store: Store, write: () => R): R & { told: string[] } {
  const { result, told } = store.hearing(write);
  return { ...result, told };
}

export interface PagesResult {
  count: number;
  /** Index of the first page given. */
  from: number;
  pages: Page[];
  /** Titles of chosen columns that the paper has no room for. */
  leftOut: string[];
  rows: number;
}

export const tasks = {
  /** The figures of a project for the list. */
  summary({ store }: Context, projectId: string): Figures | null {
    const loaded = store.document(projectId);
    if (!loaded) return null;
    const project = projectOf(loaded.doc);
    const { computed } = schedule(loaded.doc);
    const copy = project.baselineId === null ? undefined : store.copy(projectId, project.baselineId);
    const baselineFinish = copy && schedule(copy).computed?.projectFinish;
    return { name: project.name, code: project.code, ...summarise(loaded.doc, computed, baselineFinish) };
  },

  /** What a window needs to open a project, as JSON. */
  opened({ store }: Context, projectId: string, client: string): Uint8Array | null {
    const loaded = store.document(projectId);
    if (!loaded) return null;
    return Buffer.from(JSON.stringify({ revision: loaded.revision, document: rowsOf(loaded.doc), history: store.ofClient(projectId, client) }));
  },

  /** Entries of the log with their rows, as JSON. */
  history: ({ store }: Context, projectId: string, before: number, most: number): Uint8Array => Buffer.from(JSON.stringify(store.historyBefore(projectId, before, most))),

  /** The project file. */
  file({ store }: Context, projectId: string): { name: string; bytes: Uint8Array } | null {
    const file = store.file(projectId);
    return file ? { name: fileName(file.document), bytes: Buffer.from(writeProjectFile(file)) } : null;
  },

  /** The text of a kept copy. */
  copy({ store }: Context, projectId: string, copyId: string): Uint8Array | null {
    const content = store.copyContent(projectId, copyId);
    return content ? gunzipSync(content) : null;
  },

  /** Reads a project file and makes a project of it, unless calendars are to be chosen first. */
  import(
    { store, shared }: Context,
    bytes: ArrayBuffer,
    choices: Record<string, ImportChoice> | null,
    looking: boolean,
    author: Author,
  ): { id?: string; meetings?: MeetingView[]; problems: Problem[]; refused?: boolean; told: string[] } {
    const read = readProjectText(Buffer.from(bytes).toString('utf8'));
    if (!read.file) return { problems: read.problems, refused: true, told: [] };
    const asked = new Map(Object.entries(choices ?? {}));
    const meetings = looking || choices === null ? shared.meet(read.file, asked) : [];
    // Nothing is made before the person has chosen.
    if (looking || meetings.length) return { meetings, problems: read.problems, told: [] };
    const made = heard(store, () => shared.import(read.file as NonNullable<typeof read.file>, asked, author));
    return { ...made, problems: [...read.problems, ...made.problems] };
  },

  /** Keeps what an attached file holds. */
  keepContent: ({ store }: Context, bytes: ArrayBuffer): Kept => store.contents.keep(new Uint8Array(bytes)),

  /** A picture by the hash of its content. */
  picture: ({ store }: Context, hash: string): { type: string; bytes: Uint8Array } | null => store.contents.picture(hash) ?? null,

  /** An attached file with what it holds. */
  attachedFile: ({ store }: Context, projectId: string, id: string): { name: string; bytes: Uint8Array } | null => store.attachedFile(projectId, id) ?? null,

  /** Copies a project; the id of the copy. */
  copyProject({ store }: Context, projectId: string, author: Author): string | null {
    const file = store.file(projectId);
    const settings = file?.document.project.get('project');
    if (!file || !settings) return null;
    const codes = new Set(store.names().map((n) => n.code));
    let code = `${settings.code}-2`.slice(0, 40);
    for (let n = 3; codes.has(code); n++) code = `${settings.code.slice(0, 30)}-${n}`;
    const project = new Map([
      ['project', Object.freeze({ ...settings, name: `${settings.name} (copy)`.slice(0, 500), code, stage: settings.stage === 'live' ? 'idea' : settings.stage })],
    ]);
    return store.create({ ...file, document: { ...file.document, project } }, author, `Copy of ${settings.name}`.slice(0, 300));
  },

  /** What a change of a shared calendar would do to each project that uses it. */
  effects: ({ shared }: Context, calendar: Calendar): ProjectEffect[] => shared.effects([calendar]),

  /** Takes a change of a shared calendar over, here and in each project that uses it. */
  changeCalendar: ({ store, shared }: Context, calendar: Calendar, known: number, author: Author) => heard(store, () => shared.change(calendar, known, author)),

  /** Shares a calendar of a project with all. */
  shareCalendar: ({ store, shared }: Context, projectId: string, row: string, author: Author) => heard(store, () => shared.share(projectId, row, author)),

  /** Takes a change of other shared rows over, here and in each project that has copies of them. */
  changeThings: ({ store, shared }: Context, wish: SharedChange, author: Author) => heard(store, () => shared.rows.change(wish, author)),

  /** Shares rows of a project with all. */
  shareRows: ({ store, shared }: Context, projectId: string, rows: readonly { table: SharedTable; id: string }[], author: Author) =>
    heard(store, () => shared.rows.share(projectId, rows, author)),

  /** Makes sets or fields of several projects like one, or only says what that would do. */
  makeAlike: ({ store }: Context, wish: Adopt, dry: boolean, author: Author) => heard(store, () => makeAlike(store, wish, dry, author)),

  /** What else is shared, and by whom. */
  things: ({ shared }: Context): SharedThingEntry[] => shared.rows.list(),

  /** What a change of other shared rows would do to each project that has copies of them. */
  thingEffects: ({ shared }: Context, wish: SharedChange): { effects: ThingEffect[]; problems: Problem[] } => shared.rows.effects(wish),

  /** What other projects ask of shared resources. */
  elsewhere: ({ store }: Context, projectId: string, counting: readonly string[] | null, known: string): ElsewhereReply | { sign: string } =>
    elsewhere(store, projectId, counting, known),

  /** Reads, checks and applies a batch of changes that is large, or that keeps a copy of the whole project. */
  apply({ store }: Context, projectId: string, bytes: ArrayBuffer, author: Author): Answer {
    const read = readBatch(bytes);
    return read.status === 200 ? answerOf(store.apply(projectId, read.revision, read.batch, author)) : { status: read.status, problems: read.problems };
  },

  /** Pages of the plan on paper as shapes, for the preview. */
  pages({ store }: Context, projectId: string, settings: ReportSettings, from: number, to: number): PagesResult | { problems: Problem[] } | null {
    const input = prepareReport(store, projectId);
    if (!input || 'problems' in input) return input;
    const report = new PlanPages({ ...withGraph(withKept(store, projectId, input, settings), settings), ...linesFor(input, settings), settings: columnsIn(input.doc, settings) });
    const first = Math.min(Math.max(0, from), report.count - 1);
    const pages: Page[] = [];
    for (let n = first; n < Math.min(to, report.count); n++) pages.push(report.page(n));
    return { count: report.count, from: first, pages, leftOut: report.leftOut, rows: report.rows };
  },

  /** The plan on paper as a PDF. */
  async pdf({ store, progress }: Context, projectId: string, settings: ReportSettings): Promise<{ name: string; bytes: Uint8Array } | { problems: Problem[] } | null> {
    const input = prepareReport(store, projectId);
    if (!input || 'problems' in input) return input;
    const report = new PlanPages({ ...withGraph(withKept(store, projectId, input, settings), settings), ...linesFor(input, settings), settings: columnsIn(input.doc, settings) });
    if (report.rows > MOST_PDF_ROWS) {
      const text = `${report.rows} rows are more than the ${MOST_PDF_ROWS} that are printed. Choose an outline depth, critical activities or milestones, or take the CSV.`;
      return { problems: [problem('TOO_MANY_ROWS', text, { field: 'rows' })] };
    }
    const bytes = await writePdf(report, settings.title || projectOf(input.doc).name, progress, (hash) => store.contents.picture(hash)?.bytes);
    return { name: fileName(input.doc), bytes };
  },

  /** The table of the report as CSV. */
  csv({ store }: Context, projectId: string, settings: ReportSettings): { name: string; bytes: Uint8Array } | { problems: Problem[] } | null {
    const input = prepareReport(store, projectId);
    if (!input || 'problems' in input) return input;
    const { header, rows } = reportTable({ ...withKept(store, projectId, input, settings), settings: columnsIn(input.doc, settings) });
    // A byte order mark, so that spreadsheets read names in other scripts rightly.
    return { name: fileName(input.doc), bytes: Buffer.from(`\ufeff${Papa.unparse([header, ...rows].map((line) => line.map(harmless)))}\r\n`) };
  },
};

export type Tasks = typeof tasks;
export type TaskName = keyof Tasks;
export type TaskArgs<T extends TaskName> = Parameters<Tasks[T]> extends [Context, ...infer A] ? A : never;
export type TaskResult<T extends TaskName> = Awaited<ReturnType<Tasks[T]>>;
