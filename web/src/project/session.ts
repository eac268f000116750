/**
 * A project that is open in this window: the synced document, the road to the server, the worker and the history.
 * Plain TypeScript; the interface subscribes to topics.
 */
import { type Remote, wrap } from 'comlink';
import { type Batch, type Change, invertChanges, type LogEntry, MOST_LABEL, sameValue } from '@yellowhammer/core/change/change';
import { historyOf } from '@yellowhammer/core/change/history';
import { type Clash, SyncedProject } from '@yellowhammer/core/change/synced';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { sharedTouched } from '@yellowhammer/core/commands/shared-things';
import type { Elsewhere } from '@yellowhammer/core/load/elsewhere';
import { type Document, documentFrom, type DocumentRows } from '@yellowhammer/core/model/document';
import type { Problem } from '@yellowhammer/core/model/problem';
import type { Activity, Link } from '@yellowhammer/core/model/schema';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { nameOfRow } from '@yellowhammer/core/model/tables';
import { type BaselineView, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { call, clientId } from './api';
import { drawn } from './frames';
import { Computing, LARGE_ACT, type Moved } from './computing';
import { Road, type SyncState } from './road';
import { alone, claimWindow, openWindows } from './tab';
import { type UnsentStore, unsentStore } from './unsent';
import type { WorkerApi } from './worker';

/** 'outline': rows came, went or moved; 'links': links did. The rest of the document has 'doc'. */
export type Topic = 'doc' | 'outline' | 'links' | 'view' | 'check' | 'sync' | 'history' | 'moved' | 'clash';

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

/** How often a window looks for what closed ones have left. */
const WATCH_MS = 4000;

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
  /** Dates, problems, baseline, and what moved. */
  readonly computing: Computing;
  undoStack: Batch[] = [];
  redoStack: Batch[] = [];
  clashList: Clash[] = [];
  onNotice: (n: Notice) => void = () => undefined;
  /** Asks whether a change of what is shared is for all projects; null: nobody asks. */
  onShared: ((outcome: Extract<Outcome, { ok: true }>) => void) | null = null;
  private readonly road: Road;
  private readonly rawWorker: Worker;
  private readonly topics = new Map<Topic, Set<() => void>>();
  private readonly versions = new Map<Topic, number>();
  private closed = false;
  /** Acts of this window, as the server's log has them and since. */
  private log: LogEntry[] = [];
  private readonly givenUp = new Set<string>();
  private readonly store: UnsentStore;
  /** The act of this window that is being applied. */
  private doing: Batch | null = null;
  private watch: ReturnType<typeof setInterval> | undefined;
  /** Whether something was done that is not written down yet. */
  private unkept = false;

  private constructor(id: string, opened: Opened, rawWorker: Worker, worker: Remote<WorkerApi>, store: UnsentStore) {
    this.id = id;
    this.store = store;
    this.rawWorker = rawWorker;
    this.synced = new SyncedProject(documentFrom(opened.document), opened.revision);
    this.road = new Road(
      id,
      this.synced,
      {
        changed: () => this.tell('sync'),
        entries: (list) => this.receive(list),
        refused: (batch, problems) => this.refused(batch, problems),
        anew: () => this.anew(),
      },
      store,
    );
    this.computing = new Computing(worker, {
      doc: () => this.doc,
      version: () => this.synced.version,
      tell: (topic) => this.tell(topic),
      copy: async (copy) => {
        const reply = await call<string>('GET', `/projects/${id}/copies/${copy}`);
        return reply.ok ? reply.value : null;
      },
      sent: () => (this.sync.state === 'offline' ? 'offline' : this.synced.pending.length === 0 ? 'all' : 'waiting'),
      lastAct: () => this.undoStack[this.undoStack.length - 1],
      drawn,
    });
    this.log = opened.history;
    this.readHistory();
    this.synced.subscribe((changes) => this.changed(changes));
  }

  /** Opens a project; problems where it is not there. */
  static async open(id: string, store: UnsentStore = unsentStore): Promise<ProjectSession | Problem[]> {
    // The worker gets ready while the plan is fetched, and reads the same answer at the same time.
    const rawWorker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    const worker = wrap<WorkerApi>(rawWorker);
    await claimWindow();
    const reply = await call<Opened>('GET', `/projects/${id}`, undefined, clientId(), (text) => void worker.read(text));
    if (!reply.ok) {
      rawWorker.terminate();
      return reply.problems;
    }
    const session = new ProjectSession(id, reply.value, rawWorker, worker, store);
    await session.takeUnsent().catch(() => undefined);
    session.road.listen();
    session.computing.compute();
    void session.road.send();
    // What another window leaves behind when it is closed is sent by this one.
    session.watch = setInterval(() => void session.takeUnsent().catch(() => undefined), WATCH_MS);
    return session;
  }

  close(): void {
    this.flush();
    this.closed = true;
    this.computing.close();
    clearInterval(this.watch);
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

  /** What other projects ask of shared resources, from now on in all loads; null: nothing of it counts. */
  async setElsewhere(elsewhere: Elsewhere | null): Promise<void> {
    await this.worker.setElsewhere(elsewhere);
    this.tell('view');
  }

  // ---- commands, undo, redo

  /** Takes a command's outcome over, or asks first where it changes what is shared with other projects. Returns true where it was carried out, or is asked. */
  run(outcome: Outcome, quiet = false): boolean {
    if (!outcome.ok) {
      if (!quiet) this.onNotice({ tone: 'problem', title: 'Not done', text: outcome.problems.map((p) => p.message).join('\n') });
      return false;
    }
    if (outcome.changes.length === 0) return true;
    if (this.onShared && outcome.restores === undefined && sharedTouched(outcome.changes).length) {
      this.onShared(outcome);
      return true;
    }
    return this.runHere(outcome);
  }

  /** Takes an outcome over in this project, whatever it touches. */
  runHere(outcome: Extract<Outcome, { ok: true }>): boolean {
    this.commit({ changeId: crypto.randomUUID(), label: outcome.label, kind: 'do', target: outcome.restores ?? null, changes: outcome.changes });
    return true;
  }

  private commit(batch: Batch): void {
    this.computing.cause = { label: batch.label, changeId: batch.changeId };
    this.doing = batch;
    this.synced.local(batch);
    this.doing = null;
    this.remember([batch]);
    this.unkept = true;
    // A large act is on the screen before it is written down and sent: both copy all of its rows, for seconds.
    if (batch.changes.length < LARGE_ACT) return this.flush();
    this.road.begins();
    void drawn().then(() => this.flush());
  }

  /** Writes down and sends what was done; what waits for its frame, too, where somebody leaves the page or the project before that. */
  flush(): void {
    if (!this.unkept) return;
    this.unkept = false;
    this.road.keep();
    void this.road.send();
  }

  /** Acts of this window, in their order: undo and redo follow from them. */
  private remember(batches: readonly Batch[]): void {
    for (const b of batches) this.log.push({ ...b, revision: 0, who: '', client: clientId(), at: '' });
    this.readHistory();
  }

  /** Acts that did not come to stand, or cannot be taken back: they are in no list any more. */
  private forget(changeIds: readonly string[], redoToo = false): void {
    const gone = new Set(changeIds);
    this.log = this.log.filter((e) => !gone.has(e.changeId));
    if (redoToo) for (const b of this.redoStack) this.givenUp.add(b.changeId);
    this.readHistory();
  }

  private readHistory(): void {
    const { undo, redo } = historyOf(this.log, clientId());
    this.undoStack = undo.filter((b) => !this.givenUp.has(b.changeId));
    this.redoStack = redo.filter((b) => !this.givenUp.has(b.changeId));
    this.tell('history');
  }

  undo(): void {
    this.travel(this.undoStack, 'undo');
  }

  redo(): void {
    this.travel(this.redoStack, 'redo');
  }

  private travel(from: readonly Batch[], kind: 'undo' | 'redo'): void {
    const target = from[from.length - 1];
    if (!target) return;
    const changes = kind === 'undo' ? invertChanges(target.changes) : target.changes;
    const bad = this.synced.against(changes);
    if (bad.length > 0) {
      this.givenUp.add(target.changeId);
      this.onNotice({
        tone: 'problem',
        title: `"${target.label}" cannot be ${kind === 'undo' ? 'undone' : 'redone'}`,
        text: `${this.rowName(bad[0]!)} was changed by somebody else since. It was left as it is.`,
      });
      this.readHistory();
      return;
    }
    this.commit({ changeId: crypto.randomUUID(), label: `${kind === 'undo' ? 'Undo' : 'Redo'}: ${target.label}`.slice(0, MOST_LABEL), kind, target: target.changeId, changes });
  }

  /** Links at either end of an activity. */
  linksOf(activity: string): readonly Link[] {
    const index = indexOf(this.doc);
    return [...index.linksInto(activity), ...index.linksOutOf(activity)];
  }

  rowName(c: Pick<Change, 'table' | 'id' | 'before' | 'after'>): string {
    return nameOfRow(c.table, this.doc[c.table].get(c.id) ?? c.before ?? c.after, this.doc);
  }

  // ---- what comes back from the server

  /** True where the server has had a batch: its answer may not have arrived when the window was closed. */
  private async arrived(changeId: string): Promise<boolean> {
    const reply = await call('GET', `/projects/${this.id}/changes/${encodeURIComponent(changeId)}`);
    return reply.ok;
  }

  /**
   * Takes over what this browser has not sent for the project: of this window before a reload, and of windows that were
   * closed. What can no longer be put on the plan is shown, never dropped.
   */
  private async takeUnsent(): Promise<void> {
    await alone(`adopt.${this.id}`, async () => {
      const alive = await openWindows();
      const own = new Set([...this.synced.pending.map((b) => b.changeId), ...this.clashList.map((c) => c.batch.changeId)]);
      const mine: Batch[] = [];
      for (const w of await this.store.all(this.id)) {
        if (own.has(w.batch.changeId) || (w.client !== clientId() && alive.has(w.client))) continue;
        if (this.log.some((e) => e.changeId === w.batch.changeId) || (await this.arrived(w.batch.changeId))) {
          await this.store.remove([w.batch.changeId]);
          continue;
        }
        if (w.client !== clientId()) await this.store.adopt(w.batch.changeId, clientId());
        mine.push(w.batch);
      }
      if (mine.length === 0 || this.closed) return;
      this.road.known(mine.map((b) => b.changeId));
      const clashing = this.synced.adopt(mine);
      const lost = new Set(clashing.map((c) => c.batch.changeId));
      this.remember(mine.filter((b) => !lost.has(b.changeId)));
      this.clashed(clashing);
      this.catchUp();
    });
    this.road.keep();
    void this.road.send();
  }

  /** Acts that were put on top of others' may have got other numbers on the way: undo must know them, and the person too. */
  private catchUp(): void {
    const pending = new Map(this.synced.pending.map((b) => [b.changeId, b]));
    const told: string[] = [];
    this.log = this.log.map((e) => {
      const b = pending.get(e.changeId);
      if (!b || b.changes === e.changes) return e;
      for (const [i, c] of b.changes.entries()) {
        const [was, is] = [e.changes[i]?.after as Activity | null | undefined, c.after as Activity | null];
        if (c.table === 'activities' && was && is && was.code !== is.code) told.push(`${was.code} is now ${is.code} (${is.name || 'without a name'})`);
      }
      return { ...e, changes: b.changes };
    });
    if (told.length === 0) return;
    this.readHistory();
    this.onNotice({ tone: 'done', title: 'Numbers given twice', text: `Another window gave the same numbers at the same time: ${told.slice(0, 5).join(', ')}.` });
  }

  /** Batches that stand against what others did: a person decides, however long that takes. */
  private clashed(found: readonly Clash[]): void {
    if (found.length === 0) return;
    for (const c of found) this.road.hold(c.batch.changeId);
    this.clashList = [...this.clashList, ...found];
    this.forget(found.map((c) => c.batch.changeId));
    this.tell('clash');
  }

  private refused(batch: Batch, problems: Problem[]): void {
    const lost = this.synced.refused(batch.changeId);
    // Redo would bring back what rests on what was refused.
    this.forget(
      lost.map((b) => b.changeId),
      true,
    );
    this.road.keep();
    const also =
      lost.length > 1
        ? `\nWith it went what was built on it: ${lost
            .slice(1, 4)
            .map((b) => b.label)
            .join(', ')}${lost.length > 4 ? ` and ${lost.length - 4} more` : ''}.`
        : '';
    this.onNotice({ tone: 'problem', title: `"${batch.label}" was not taken`, text: problems.map((p) => p.message).join('\n') + also });
  }

  /** Opens the project anew where too much was missed; what was not sent is put on top. */
  private async anew(): Promise<boolean> {
    const reply = await call<Opened>('GET', `/projects/${this.id}`);
    if (!reply.ok || this.closed) return false;
    const taken = new Set(reply.value.history.map((e) => e.changeId));
    this.clashed(this.synced.renew(documentFrom(reply.value.document), reply.value.revision, taken));
    this.catchUp();
    this.road.keep();
    this.road.listen();
    return true;
  }

  private receive(entries: readonly LogEntry[]): void {
    // An answer to our own sending comes twice, as a reply and as an event: the reply counts.
    const others = entries.filter((e) => !(e.client === clientId() && this.synced.pending.some((b) => b.changeId === e.changeId) && entries.length === 1));
    const theirs = others.find((e) => e.client !== clientId() && e.revision > this.synced.revision);
    if (theirs) this.computing.cause = { label: `${theirs.who}: ${theirs.label}`, changeId: null };
    const found = this.synced.remote(others);
    this.clashed(found);
    this.catchUp();
    this.road.keep();
  }

  /** Settles a clash: theirs stays, or mine is written over it. */
  settle(clash: Clash, choice: 'theirs' | 'mine'): void {
    this.clashList = this.clashList.filter((c) => c !== clash);
    if (choice === 'mine') {
      const changes = this.synced.overTheirs(clash.batch).filter((c) => !sameValue(c.before, c.after));
      if (this.synced.against(changes).length > 0)
        this.onNotice({ tone: 'problem', title: `"${clash.batch.label}" cannot be written over it`, text: 'A WBS node would come to lie in itself. Theirs was kept.' });
      else this.run({ ok: true, label: clash.batch.label, changes });
    }
    this.road.release(clash.batch.changeId);
    this.tell('clash');
  }

  private changed(changes: readonly Change[]): void {
    // The worker begins while the window draws.
    this.computing.changed(changes, this.doing);
    if (changes.some(isStructural)) this.tell('outline');
    if (changes.some((c) => c.table === 'links')) this.tell('links');
    this.tell('doc');
  }

  get worker(): Remote<WorkerApi> {
    return this.computing.worker;
  }

  get view(): ScheduleView | null {
    return this.computing.view;
  }

  get problems(): Problem[] {
    return this.computing.problems;
  }

  get baseline(): BaselineView | null {
    return this.computing.baseline;
  }

  get moved(): Moved | null {
    return this.computing.moved;
  }

  get paused(): boolean {
    return this.computing.paused;
  }

  get stale(): boolean {
    return this.computing.stale;
  }

  /** Resolves when the dates are those of the plan as it is, or when nobody computes them. */
  async current(): Promise<void> {
    while (this.stale && !this.paused)
      await new Promise<void>((resolve) => {
        const end = this.subscribe('view', () => (end(), resolve()));
      });
  }
}
