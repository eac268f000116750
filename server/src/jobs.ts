/**
 * Long work in worker threads: one for what people wait for at once, one for what takes its time. A job that takes too
 * long or too much memory ends with its thread, and says so; the others go on.
 */
import { Worker } from 'node:worker_threads';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import type { Shared } from './shared.ts';
import type { Store } from './store.ts';
import { type Context, type TaskArgs, type TaskName, type TaskResult, tasks } from './tasks.ts';

/** Why a job gave nothing. */
export class JobFailed extends Error {
  readonly problem: Problem;
  constructor(p: Problem) {
    super(p.message);
    this.problem = p;
  }
}

/** Milliseconds that each task may take, and which thread it runs in. */
const kinds: Record<TaskName, { ms: number; lane: 'quick' | 'slow' }> = {
  summary: { ms: 20_000, lane: 'slow' },
  opened: { ms: 60_000, lane: 'quick' },
  history: { ms: 60_000, lane: 'quick' },
  file: { ms: 120_000, lane: 'slow' },
  copy: { ms: 60_000, lane: 'quick' },
  import: { ms: 120_000, lane: 'slow' },
  copyProject: { ms: 120_000, lane: 'slow' },
  effects: { ms: 120_000, lane: 'slow' },
  elsewhere: { ms: 120_000, lane: 'slow' },
  changeCalendar: { ms: 120_000, lane: 'quick' },
  shareCalendar: { ms: 60_000, lane: 'quick' },
  changeThings: { ms: 120_000, lane: 'quick' },
  shareRows: { ms: 60_000, lane: 'quick' },
  makeAlike: { ms: 120_000, lane: 'quick' },
  things: { ms: 60_000, lane: 'quick' },
  thingEffects: { ms: 120_000, lane: 'slow' },
  apply: { ms: 120_000, lane: 'quick' },
  pages: { ms: 60_000, lane: 'quick' },
  pdf: { ms: 600_000, lane: 'slow' },
  csv: { ms: 60_000, lane: 'quick' },
  keepContent: { ms: 60_000, lane: 'quick' },
  attachedFile: { ms: 60_000, lane: 'quick' },
  picture: { ms: 60_000, lane: 'quick' },
};

export interface RunOptions {
  progress?: (done: number, of: number) => void;
  signal?: AbortSignal;
}

export interface Jobs {
  run<T extends TaskName>(task: T, args: TaskArgs<T>, options?: RunOptions): Promise<TaskResult<T>>;
  /** True where jobs run in threads of their own, whose writes this one has to tell of. */
  readonly apart: boolean;
  /** Threads are started, so that the first one who asks does not wait for it. */
  warm(): void;
  close(): Promise<void>;
}

/** Jobs that run at once in this thread, on its own connection: for a database in memory. */
export function jobsHere(store: Store, shared: Shared): Jobs {
  return {
    async run(task, args, options) {
      const context: Context = { store, shared, progress: options?.progress ?? (() => undefined) };
      return (await (tasks[task] as (c: Context, ...a: unknown[]) => unknown)(context, ...args)) as never;
    },
    apart: false,
    warm: () => undefined,
    close: () => Promise.resolve(),
  };
}

interface Waiting {
  id: number;
  task: TaskName;
  args: unknown[];
  options: RunOptions;
  done: (value: never) => void;
  failed: (e: Error) => void;
}

type Answer = { id: number; progress: [number, number] } | { id: number; value: unknown } | { id: number; error: string; code?: string };

/** One worker thread with a queue. */
class Lane {
  private worker: Worker | undefined;
  private readonly queue: Waiting[] = [];
  private current: Waiting | undefined;
  private timer: NodeJS.Timeout | undefined;
  private readonly path: string;

  constructor(path: string) {
    this.path = path;
  }

  start(): Worker {
    const worker = new Worker(new URL('./jobs-thread.mjs', import.meta.url), {
      workerData: { path: this.path },
      resourceLimits: { maxOldGenerationSizeMb: 2048 },
    });
    worker.unref();
    worker.on('message', (m: Answer) => this.answered(m));
    worker.on('error', (e: Error & { code?: string }) => {
      if (this.worker !== worker) return;
      this.worker = undefined;
      const text = e.code === 'ERR_WORKER_OUT_OF_MEMORY' ? 'That takes more memory than there is. Nothing was changed; make it smaller.' : `It could not be done: ${e.message}`;
      this.settle(new JobFailed(problem('TOO_LARGE', text)));
    });
    return (this.worker = worker);
  }

  add(w: Waiting): void {
    w.options.signal?.addEventListener('abort', () => this.cancel(w), { once: true });
    this.queue.push(w);
    this.next();
  }

  private next(): void {
    if (this.current || this.queue.length === 0) return;
    const w = (this.current = this.queue.shift() as Waiting);
    const worker = this.worker ?? this.start();
    worker.ref();
    this.timer = setTimeout(() => this.end(problem('TOO_LONG', 'That took too long and was given up. Nothing was changed; make it smaller.')), kinds[w.task].ms);
    worker.postMessage(
      { id: w.id, task: w.task, args: w.args },
      w.args.filter((a): a is ArrayBuffer => a instanceof ArrayBuffer),
    );
  }

  private answered(m: Answer): void {
    const w = this.current;
    if (!w || m.id !== w.id) return;
    if ('progress' in m) return w.options.progress?.(...m.progress);
    if ('value' in m) {
      w.done(m.value as never);
      this.settle();
    } else this.settle(Object.assign(new Error(m.error), { code: m.code }));
  }

  private settle(e?: Error): void {
    clearTimeout(this.timer);
    const w = this.current;
    this.current = undefined;
    this.worker?.unref();
    if (e) w?.failed(e);
    this.next();
  }

  /** Gives the present job up with its thread. */
  private end(why: Problem): void {
    const { worker } = this;
    this.worker = undefined;
    void worker?.terminate();
    this.settle(new JobFailed(why));
  }

  private cancel(w: Waiting): void {
    const why = problem('CANCELLED', 'It was cancelled.');
    if (this.current === w) return this.end(why);
    const at = this.queue.indexOf(w);
    if (at < 0) return;
    this.queue.splice(at, 1);
    w.failed(new JobFailed(why));
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}

/** Jobs in worker threads on the database file. */
export function jobsInThreads(path: string): Jobs {
  const lanes = { quick: new Lane(path), slow: new Lane(path) };
  let ids = 0;
  return {
    run: (task, args, options = {}) =>
      new Promise((done, failed) => {
        lanes[kinds[task].lane].add({ id: ++ids, task, args, options, done, failed });
      }),
    apart: true,
    warm() {
      lanes.quick.start();
      lanes.slow.start();
    },
    async close() {
      await Promise.all([lanes.quick.close(), lanes.slow.close()]);
    },
  };
}
