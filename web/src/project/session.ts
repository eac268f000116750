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
import type { DocumentRows, WorkerApi } from './worker';

/** 'outline': rows came, went or moved; 'links': links did. The rest of the document has 'doc'. */
export type Topic = 'doc' | 'outline' | 'links' | 'view' | 'sync' | 'history' | 'moved' | 'clash';

export interface SyncState {
  state: 'saved' | 'saving' | 'offline' | 'gone';
  pending: number;
}

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
  sync: SyncState = { state: 'saved', pending: 0 };
  undoStack: Batch[] = [];
  redoStack: Batch[] = [];
  moved: Moved | null = null;
  clashList: Clash[] = [];
  onNotice: (n: Notice) => void = () => undefined;
  private readonly rawWorker: Worker;
  private events: EventSource | undefined;
  private readonly topics = new Map<Topic, Set<() => void>>();
  private readonly versions = new Map<Topic, number>();
  private sending = false;
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
    session.listen();
    session.compute();
    void session.send();
    return session;
  }

  close(): void {
    this.closed = true;
    this.events?.close();
    this.rawWorker.terminate();
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
    this.storeUnsent();
    this.tell('history');
    void this.send();
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

  // ---- the road to the server

  private key = (): string => `yellowhammer.unsent.${this.id}.${clientId()}`;

  private storeUnsent(): void {
    this.setSync({ ...this.sync, pending: this.synced.pending.length });
    try {
      if (this.synced.pending.length === 0) localStorage.removeItem(this.key());
      else localStorage.setItem(this.key(), JSON.stringify(this.synced.pending));
    } catch {
      // The store of the browser is full: the batches are still in memory, and are sent from there.
    }
  }

  private restoreUnsent(): void {
    const text = localStorage.getItem(this.key());
    if (!text) return;
    for (const batch of JSON.parse(text) as Batch[]) {
      if (this.undoStack.some((b) => b.changeId === batch.changeId) || clashes(this.doc, batch.changes).length > 0) continue;
      this.undoStack.push(batch);
      this.synced.local(batch);
    }
    this.storeUnsent();
  }

  private setSync(next: SyncState): void {
    if (next.state === this.sync.state && next.pending === this.sync.pending) return;
    this.sync = next;
    this.tell('sync');
  }

  /** Sends what waits, oldest first, one at a time; waits and tries again while the server is away. */
  private async send(): Promise<void> {
    if (this.sending || this.closed) return;
    this.sending = true;
    let wait = 400;
    while (this.synced.pending.length > 0 && !this.closed) {
      const batch = this.synced.pending[0];
      if (this.sync.state !== 'offline') this.setSync({ state: 'saving', pending: this.synced.pending.length });
      const reply = await call<{ revision: number }>('POST', `/projects/${this.id}/changes`, { revision: this.synced.revision, batch });
      if (reply.ok) {
        wait = 400;
        this.synced.confirmed(batch.changeId, reply.value.revision);
        this.storeUnsent();
        if (this.sync.state === 'offline') this.listen();
        this.setSync({ state: 'saving', pending: this.synced.pending.length });
      } else if (reply.status === 0 || reply.status >= 500) {
        this.setSync({ state: 'offline', pending: this.synced.pending.length });
        await new Promise((r) => setTimeout(r, wait));
        wait = Math.min(wait * 1.6, 4000);
      } else if (reply.status === 409) {
        this.receive((reply.body as { missed: LogEntry[] }).missed);
      } else if (reply.status === 404) {
        this.setSync({ state: 'gone', pending: this.synced.pending.length });
        break;
      } else {
        const lost = this.synced.refused(batch.changeId);
        for (const b of lost) this.undoStack = this.undoStack.filter((x) => x.changeId !== b.changeId);
        this.storeUnsent();
        this.tell('history');
        this.onNotice({ tone: 'problem', title: `"${batch.label}" was not taken`, text: reply.problems.map((p) => p.message).join('\n') });
      }
    }
    this.sending = false;
    if (this.synced.pending.length === 0) this.setSync({ state: 'saved', pending: 0 });
  }

  private listen(): void {
    this.events?.close();
    const events = new EventSource(`/api/projects/${this.id}/events?since=${this.synced.revision}`);
    this.events = events;
    events.onmessage = (m) => this.receive([JSON.parse(m.data as string) as LogEntry]);
    events.onopen = () => {
      if (this.sync.state === 'offline') this.setSync({ state: this.synced.pending.length ? 'saving' : 'saved', pending: this.synced.pending.length });
    };
    events.onerror = () => {
      if (this.closed || this.events !== events) return;
      this.setSync({ state: 'offline', pending: this.synced.pending.length });
      events.close();
      setTimeout(() => !this.closed && this.events === events && this.listen(), 1000);
    };
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
    this.storeUnsent();
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
