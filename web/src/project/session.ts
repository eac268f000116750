/**
 * A project that is open in this window: the synced document, the road to the server, the worker and the history.
 * Plain TypeScript; the interface subscribes to topics.
 */
import { type Remote, wrap } from 'comlink';
import { type Batch, type Change, clashes, invertChanges, type LogEntry, MOST_LABEL, sameValue } from '@yellowhammer/core/change/change';
import { historyOf } from '@yellowhammer/core/change/history';
import { type Clash, SyncedProject } from '@yellowhammer/core/change/synced';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { type Document, emptyDocument, labelOf, projectOf } from '@yellowhammer/core/model/document';
import type { Problem } from '@yellowhammer/core/model/problem';
import type { Activity, Row, TableName } from '@yellowhammer/core/model/schema';
import { differencesOf, type Move } from '@yellowhammer/core/compare/views';
import { type BaselineView, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { call, clientId } from './api';
import { Road, type SyncState } from './road';
import type { DocumentRows, WorkerApi } from './worker';

/** 'outline': rows came, went or moved; 'links': links did. The rest of the document has 'doc'. */
export type Topic = 'doc' | 'outline' | 'links' | 'view' | 'sync' | 'history' | 'moved' | 'clash';

/** What the last recompute moved. */
export interface Moved {
  label: string;
  /** Working days of the project's calendar by which the project finish moved. */
  finishDays: number;
  rows: Move[];
  changeId: string | null;
  /** True after opening: what the last change moved, told again. */
  recalled: boolean;
}

export interface Notice {
  tone: 'problem' | 'done';
  title: string;
  text: string;
}

interface Opened {
  revision: number;
  document: DocumentRows;
  history: LogEntry[];
}

/** True where a change adds, removes or moves a row of the outline. */
function isStructural(c: Change): boolean {
  if (c.table === 'wbs') return true;
  if (c.table !== 'activities') return false;
  const [a, b] = [c.before as Activity | null, c.after as Activity | null];
  return !a || !b || a.rank !== b.rank || a.wbsId !== b.wbsId;
}

export class ProjectSession {
  readonly id: string;
  readonly synced: SyncedProject;
  readonly worker: Remote<WorkerApi>;
  view: ScheduleView | null = null;
  problems: Problem[] = [];
  computedVersion = -1;
  computedAt = 0;
  milliseconds = 0;
  paused = false;
  baseline: BaselineView | null = null;
  undoStack: Batch[] = [];
  redoStack: Batch[] = [];
  moved: Moved | null = null;
  clashList: Clash[] = [];
  onNotice: (n: Notice) => void = () => undefined;
  private readonly road: Road;
  private readonly rawWorker: Worker;
  private readonly topics = new Map<Topic, Set<() => void>>();
  private readonly versions = new Map<Topic, number>();
  private computing = false;
  private closed = false;
  private lists: { ids: string[]; linkIds: string[] } = { ids: [], linkIds: [] };
  private lastLabel = '';
  private lastChangeId: string | null = null;
  private entryCache = new Map<string, Batch>();

  private constructor(id: string, opened: Opened) {
    this.id = id;
    const doc = emptyDocument();
    for (const [table, rows] of Object.entries(opened.document)) for (const row of rows) (doc[table as TableName] as Map<string, Row>).set(row.id, Object.freeze(row));
    this.synced = new SyncedProject(doc, opened.revision);
    this.road = new Road(id, this.synced, {
      changed: () => this.tell('sync'),
      entries: (list) => this.receive(list),
      refused: (batch, problems) => this.refused(batch, problems),
    });
    this.rawWorker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    this.worker = wrap<WorkerApi>(this.rawWorker);
    void this.worker.open(opened.document);
    const history = historyOf(opened.history, clientId());
    this.undoStack = history.undo;
    this.redoStack = history.redo;
    this.synced.subscribe((changes) => this.changed(changes));
  }

  /** Opens a project; problems where it is not there. */
  static async open(id: string): Promise<ProjectSession | Problem[]> {
    const reply = await call<Opened>('GET', `/projects/${id}`);
    if (!reply.ok) return reply.problems;
    const session = new ProjectSession(id, reply.value);
    session.restoreUnsent();
    session.road.listen();
    session.compute();
    void session.road.send();
    return session;
  }

  close(): void {
    this.closed = true;
    this.road.close();
    this.rawWorker.terminate();
  }

  get sync(): SyncState {
    return this.road.state;
  }

  get doc(): Document {
    return this.synced.doc;
  }

  subscribe = (topic: Topic, f: () => void): (() => void) => {
    const set = this.topics.get(topic) ?? new Set();
    this.topics.set(topic, set.add(f));
    return () => set.delete(f);
  };

  version = (topic: Topic): number => this.versions.get(topic) ?? 0;

  private tell(topic: Topic): void {
    this.versions.set(topic, this.version(topic) + 1);
    for (const f of this.topics.get(topic) ?? []) f();
  }

  // ---- commands, undo, redo

  /** Takes a command's outcome over. Returns true where it was carried out. */
  run(outcome: Outcome, quiet = false): boolean {
    if (!outcome.ok) {
      if (!quiet) this.onNotice({ tone: 'problem', title: 'Not done', text: outcome.problems.map((p) => p.message).join('\n') });
      return false;
    }
    if (outcome.changes.length === 0) return true;
    const batch: Batch = { changeId: crypto.randomUUID(), label: outcome.label, kind: 'do', target: null, changes: outcome.changes };
    this.undoStack.push(batch);
    this.redoStack = [];
    this.commit(batch);
    return true;
  }

  private commit(batch: Batch): void {
    this.lastLabel = batch.label;
    this.lastChangeId = batch.changeId;
    this.entryCache.set(batch.changeId, batch);
    this.synced.local(batch);
    this.road.keep();
    this.tell('history');
    void this.road.send();
  }

  undo(): void {
    this.travel(this.undoStack, this.redoStack, 'undo');
  }

  redo(): void {
    this.travel(this.redoStack, this.undoStack, 'redo');
  }

  private travel(from: Batch[], to: Batch[], kind: 'undo' | 'redo'): void {
    const target = from[from.length - 1];
    if (!target) return;
    const changes = kind === 'undo' ? invertChanges(target.changes) : target.changes;
    const bad = clashes(this.doc, changes);
    if (bad.length > 0) {
      from.pop();
      this.onNotice({
        tone: 'problem',
        title: `"${target.label}" cannot be ${kind === 'undo' ? 'undone' : 'redone'}`,
        text: `${this.rowName(bad[0])} was changed by somebody else since. It was left as it is.`,
      });
      this.tell('history');
      return;
    }
    from.pop();
    to.push(target);
    this.commit({ changeId: crypto.randomUUID(), label: `${kind === 'undo' ? 'Undo' : 'Redo'}: ${target.label}`.slice(0, MOST_LABEL), kind, target: target.changeId, changes });
  }

  rowName(c: Pick<Change, 'table' | 'id' | 'before' | 'after'>): string {
    const row = (this.doc[c.table].get(c.id) ?? c.before ?? c.after) as Partial<Activity> | null;
    if (c.table === 'activities' && row) return `Activity ${labelOf(row as Activity)}`;
    if (c.table === 'links') return 'A link';
    return row?.name ? `${c.table === 'wbs' ? 'WBS node' : c.table === 'calendars' ? 'Calendar' : 'Project'} ${row.name}` : 'A row';
  }

  // ---- what comes back from the server

  private restoreUnsent(): void {
    for (const batch of this.road.unsent()) {
      if (this.undoStack.some((b) => b.changeId === batch.changeId) || clashes(this.doc, batch.changes).length > 0) continue;
      this.undoStack.push(batch);
      this.synced.local(batch);
    }
    this.road.keep();
  }

  private refused(batch: Batch, problems: Problem[]): void {
    for (const b of this.synced.refused(batch.changeId)) this.undoStack = this.undoStack.filter((x) => x.changeId !== b.changeId);
    this.road.keep();
    this.tell('history');
    this.onNotice({ tone: 'problem', title: `"${batch.label}" was not taken`, text: problems.map((p) => p.message).join('\n') });
  }

  private receive(entries: readonly LogEntry[]): void {
    // An answer to our own sending comes twice, as a reply and as an event: the reply counts.
    const others = entries.filter((e) => !(e.client === clientId() && this.synced.pending.some((b) => b.changeId === e.changeId) && entries.length === 1));
    const theirs = others.find((e) => e.client !== clientId() && e.revision > this.synced.revision);
    if (theirs) {
      this.lastLabel = `${theirs.who}: ${theirs.label}`;
      this.lastChangeId = null;
    }
    const found = this.synced.remote(others);
    this.road.keep();
    if (found.length === 0) return;
    for (const c of found) this.undoStack = this.undoStack.filter((b) => b.changeId !== c.batch.changeId);
    this.clashList = [...this.clashList, ...found];
    this.tell('history');
    this.tell('clash');
  }

  /** Settles a clash: theirs stays, or mine is written over it. */
  settle(clash: Clash, choice: 'theirs' | 'mine'): void {
    this.clashList = this.clashList.filter((c) => c !== clash);
    if (choice === 'mine') this.run({ ok: true, label: clash.batch.label, changes: this.synced.overTheirs(clash.batch).filter((c) => !sameValue(c.before, c.after)) });
    this.tell('clash');
  }

  // ---- computing

  private changed(changes: readonly Change[]): void {
    void this.worker.apply(changes);
    if (changes.some(isStructural)) this.tell('outline');
    if (changes.some((c) => c.table === 'links')) this.tell('links');
    this.tell('doc');
    if (changes.some((c) => c.table === 'project' || c.table === 'snapshots')) this.loadBaseline();
    this.compute();
  }

  setPaused(paused: boolean): void {
    this.paused = paused;
    this.tell('view');
    this.compute();
  }

  get stale(): boolean {
    return this.computedVersion !== this.synced.version;
  }

  /** Recomputes in the worker; an edit made meanwhile starts another round. */
  private compute(): void {
    if (this.computing || this.paused) {
      this.tell('view');
      return;
    }
    this.computing = true;
    void (async () => {
      let wanted: number;
      do {
        wanted = this.synced.version;
        if (projectOf(this.doc).baselineId !== (this.baseline?.id ?? null)) await this.fetchBaseline();
        const result = await this.worker.compute();
        if (this.closed) return;
        if (result.view) {
          const { ids, linkIds } = result.view;
          this.lists = { ids: ids ?? this.lists.ids, linkIds: linkIds ?? this.lists.linkIds };
        }
        const view = result.view && { ...result.view, ...this.lists };
        if (this.view) this.noteMoves(this.view, view);
        else if (view) void this.recallMoves(view);
        this.view = view;
        this.problems = result.problems;
        this.milliseconds = result.milliseconds;
        this.computedVersion = wanted;
        this.computedAt = Date.now();
        this.tell('view');
      } while (wanted !== this.synced.version && !this.paused);
      this.computing = false;
    })();
  }

  /** After opening: what the last change of this window moved, so that a reload or an import does not hide it. */
  private async recallMoves(now: ScheduleView): Promise<void> {
    const last = this.undoStack[this.undoStack.length - 1];
    const back = last && invertChanges(last.changes);
    if (!last || !back || clashes(this.doc, back).length > 0) return;
    const { view } = await this.worker.preview(back);
    if (this.closed || this.view !== now || this.moved) return;
    this.lastLabel = last.label;
    this.lastChangeId = last.changeId;
    this.noteMoves(view, now, true);
  }

  private noteMoves(last: ScheduleView | null, next: ScheduleView | null, recalled = false): void {
    if (!last || !next) return;
    const d = differencesOf(this.doc, last, next);
    if (d.moved.length === 0 && d.finishDays === 0) return;
    this.moved = { label: this.lastLabel, finishDays: d.finishDays, rows: d.moved, changeId: this.lastChangeId, recalled };
    this.tell('moved');
  }

  clearMoved(): void {
    this.moved = null;
    this.tell('moved');
  }

  /** Makes sure the worker has a kept copy. */
  async needCopy(id: string): Promise<boolean> {
    if (await this.worker.hasCopy(id)) return true;
    const reply = await call<string>('GET', `/projects/${this.id}/copies/${id}`);
    if (!reply.ok) return false;
    await this.worker.addCopy(id, reply.value);
    return true;
  }

  private loadBaseline(): void {
    if (projectOf(this.doc).baselineId !== (this.baseline?.id ?? null)) this.compute();
  }

  private async fetchBaseline(): Promise<void> {
    const id = projectOf(this.doc).baselineId;
    if (id === null) {
      this.baseline = null;
      return;
    }
    // A baseline kept a moment ago is on the server only when its batch has arrived.
    for (let tries = 0; tries < 20 && !this.closed && this.sync.state !== 'offline'; tries++) {
      if (this.synced.pending.length === 0 && (await this.needCopy(id))) {
        this.baseline = await this.worker.baseline(id, this.doc.snapshots.get(id)?.name ?? '');
        return;
      }
      await new Promise((r) => setTimeout(r, 100));
    }
  }
}
