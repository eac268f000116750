/**
 * Computing beside the window: the worker with its copy of the plan, what it answers, the baseline that it compares with,
 * and what the last computation moved. What it needs of the session is handed in, so that it is tested without a browser.
 */
import type { Need } from '@yellowhammer/core/cost/table';
import type { Remote } from 'comlink';
import { type Batch, type Change, clashes, invertChanges } from '@yellowhammer/core/change/change';
import type { Move } from '@yellowhammer/core/compare/views';
import { type Document, projectOf, rowsOf } from '@yellowhammer/core/model/document';
import type { Problem } from '@yellowhammer/core/model/problem';
import type { BaselineView, ScheduleView } from '@yellowhammer/core/schedule/view';
import type { CheckResult, WorkerApi } from './worker';
import { ViewsReceived } from './lean-view';

/** What the last recompute moved. */
export interface Moved {
  label: string;
  /** Working days of the project's calendar by which the project finish moved. */
  finishDays: number;
  /** The largest moves; `count` says how many there are in all, `later` whether one goes later. */
  rows: Move[];
  count: number;
  later: boolean;
  changeId: string | null;
  /** True after opening: what the last change moved, told again. */
  recalled: boolean;
  /** The month in which the need of money is greatest, where anything comes in; known a moment later. */
  need?: { before: Need | null; after: Need | null };
}

/** Changes from which an act is large. */
export const LARGE_ACT = 1000;

/** Milliseconds without an edit after which it is looked what that did to money. */
const NEED_AFTER = 350;

/** Milliseconds of a computation up to which one waits for it. */
const SOON = 250;

/** What computing asks of the session that it belongs to. */
export interface Host {
  doc: () => Document;
  /** Number of the document's state. */
  version: () => number;
  tell: (topic: 'view' | 'check' | 'moved') => void;
  /** Fetches a kept copy; null where it is not to be had. */
  copy: (id: string) => Promise<string | null>;
  /** Whether all of this window is on the server, is on its way, or cannot go there now. */
  sent: () => 'all' | 'waiting' | 'offline';
  /** The last act of this window that can be undone. */
  lastAct: () => Batch | undefined;
  /** Fulfilled when what has been told is on the screen. */
  drawn: () => Promise<void>;
}

export class Computing {
  view: ScheduleView | null = null;
  problems: Problem[] = [];
  computedVersion = -1;
  computedAt = 0;
  milliseconds = 0;
  paused = false;
  baseline: BaselineView | null = null;
  moved: Moved | null = null;
  /** What is told as the cause of what moves next. */
  cause: { label: string; changeId: string | null } = { label: '', changeId: null };
  private computing = false;
  private closed = false;
  private readonly views = new ViewsReceived();
  private tried = new ViewsReceived();
  /** What the worker may have to be sent yet. */
  private owed: Promise<unknown> = Promise.resolve();

  /** `worker`: with the same plan as the host, or about to have it. */
  constructor(
    readonly worker: Remote<WorkerApi>,
    private readonly host: Host,
  ) {}

  close(): void {
    this.closed = true;
    clearTimeout(this.needTimer);
  }

  /** Tells the worker rows as they are now and computes; of a large act that is taken back it gets only the name. */
  changed(changes: readonly Change[], doing: Batch | null): void {
    if (doing && doing.target !== null && doing.kind !== 'do' && changes.length >= LARGE_ACT) {
      // Where it is not known there, the worker begins anew with the plan as it is then.
      const missing = this.worker.travel(doing.target, doing.kind).then((known) => (known ? undefined : this.reopen()));
      this.owed = this.owed.then(() => missing);
    } else
      void this.worker.apply(
        changes.map(({ table, id, after }) => ({ table, id, after })),
        doing?.changeId ?? null,
      );
    this.compute();
  }

  /** The worker has the plan again as it is now; kept copies are fetched again when they are needed. */
  private async reopen(): Promise<void> {
    await this.worker.open(rowsOf(this.host.doc()));
    this.baseline = null;
  }

  setPaused(paused: boolean): void {
    this.paused = paused;
    this.host.tell('view');
    this.compute();
  }

  get stale(): boolean {
    return this.computedVersion !== this.host.version();
  }

  /** Whether the dates of an edit will be here in a moment: what they draw anew anyway can wait for them, instead of holding them up. */
  get datesSoon(): boolean {
    return this.computing && this.stale && this.milliseconds <= SOON && performance.now() - this.askedAt <= 2 * SOON;
  }
  private askedAt = 0;
  /** Ends the waiting for dates to be drawn: they are not the latest any more. */
  private edited = (): void => undefined;

  /** Recomputes in the worker; an edit made meanwhile starts another round. */
  compute(): void {
    if (this.computing || this.paused) {
      this.edited();
      this.host.tell('view');
      return;
    }
    this.computing = true;
    this.askedAt = performance.now();
    void (async () => {
      let wanted: number;
      do {
        wanted = this.host.version();
        await this.owed;
        if (projectOf(this.host.doc()).baselineId !== (this.baseline?.id ?? null)) await this.fetchBaseline();
        const asked = performance.now();
        const result = await this.worker.compute();
        // For `npm run bench`: where the time of an edit goes.
        performance.measure('yellowhammer', { start: asked, end: performance.now(), detail: { ...result.parts, worker: result.milliseconds } });
        if (this.closed) return;
        const first = this.view === null;
        this.view = result.view && this.views.whole(result.view);
        this.milliseconds = result.milliseconds;
        this.computedVersion = wanted;
        this.computedAt = Date.now();
        this.host.tell('view');
        // Dates are on the screen before anybody looks for what is wrong with them: that would take a core from their drawing.
        if (wanted === this.host.version()) await Promise.race([this.host.drawn(), new Promise<void>((next) => (this.edited = next))]);
        if (this.closed) return;
        if (wanted === this.host.version()) await this.check(first);
        if (this.closed) return;
      } while (wanted !== this.host.version() && !this.paused);
      this.computing = false;
    })();
  }

  /** The plan check, and what the last computation moved. */
  private async check(first: boolean): Promise<void> {
    const { label, changeId } = this.cause;
    const { problems, moved } = await this.worker.check();
    if (this.closed) return;
    this.problems = problems;
    this.host.tell('check');
    if (moved) {
      const told = this.noteMoves(moved, label, changeId);
      this.lookForNeed(told);
      return;
    }
    this.lookForNeed(null);
    if (first && this.view) void this.recallMoves(this.view);
  }

  /** After opening: what the last change of this window moved, so that a reload or an import does not hide it. */
  private async recallMoves(now: ScheduleView): Promise<void> {
    const last = this.host.lastAct();
    const back = last && invertChanges(last.changes);
    if (!last || !back || clashes(this.host.doc(), back).length > 0) return;
    const moved = await this.worker.movedBy(back);
    if (this.closed || this.view !== now || this.moved || !moved) return;
    this.noteMoves(moved, last.label, last.changeId, true);
  }

  /** Dates with changes on top of the plan, which stays what it is. */
  async previewDates(changes: readonly Change[]): Promise<ScheduleView | null> {
    const { view, fresh } = await this.worker.previewDates(changes);
    if (fresh) this.tried = this.views.fork();
    return view && this.tried.whole(view);
  }

  private need: Need | null | undefined;
  private needTimer: ReturnType<typeof setTimeout> | undefined;
  /** Once nobody types: the month in which the need of money is greatest, before what was moved and after. Where nothing comes in there is none. */
  private lookForNeed(of: Moved | null): void {
    clearTimeout(this.needTimer);
    const wanted = this.computedVersion;
    if (!this.view?.costs.income.some((n) => n !== 0)) {
      this.need = undefined;
      return;
    }
    this.needTimer = setTimeout(() => {
      if (this.closed || this.computing || wanted !== this.host.version()) return;
      void this.worker.need().then((after) => {
        if (this.closed || wanted !== this.host.version()) return;
        const before = this.need;
        this.need = after;
        if (!of || this.moved !== of || before === undefined) return;
        this.moved = { ...of, need: { before, after } };
        this.host.tell('moved');
      });
    }, NEED_AFTER);
  }

  private noteMoves(d: NonNullable<CheckResult['moved']>, label: string, changeId: string | null, recalled = false): Moved | null {
    if (d.count === 0 && d.finishDays === 0) return null;
    const moved: Moved = { ...d, label, changeId, recalled };
    this.moved = moved;
    this.host.tell('moved');
    return moved;
  }

  /** Makes sure the worker has a kept copy. */
  async needCopy(id: string): Promise<boolean> {
    if (await this.worker.hasCopy(id)) return true;
    const copy = await this.host.copy(id);
    if (copy === null) return false;
    await this.worker.addCopy(id, copy);
    return true;
  }

  private async fetchBaseline(): Promise<void> {
    const id = projectOf(this.host.doc()).baselineId;
    if (id === null) {
      this.baseline = null;
      return;
    }
    if (await this.waitForCopy(id)) this.baseline = await this.worker.baseline(id, this.host.doc().snapshots.get(id)?.name ?? '');
  }

  /** True once the worker has a kept copy: one that was kept a moment ago is on the server only when its batch has arrived. */
  async waitForCopy(id: string): Promise<boolean> {
    for (let tries = 0; tries < 20 && !this.closed && this.host.sent() !== 'offline'; tries++) {
      if (this.host.sent() === 'all' && (await this.needCopy(id))) return true;
      await new Promise((r) => setTimeout(r, 100));
    }
    return false;
  }
}
