/** A worker thread of the server: takes one task after the other, with a connection of its own. */
import { parentPort, workerData } from 'node:worker_threads';
import Database from 'better-sqlite3';
import { Shared } from './shared.ts';
import { Store } from './store.ts';
import { type Context, type TaskName, tasks } from './tasks.ts';

const port = parentPort as NonNullable<typeof parentPort>;
const { path } = workerData as { path: string };
let open: { store: Store; shared: Shared } | undefined;

/** The database as the main thread has opened and migrated it. */
function connection(): { store: Store; shared: Shared } {
  if (open) return open;
  const db = new Database(path, { fileMustExist: true });
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  // Here waiting holds nobody up.
  db.pragma('busy_timeout = 5000');
  const store = new Store(db);
  return (open = { store, shared: new Shared(db, store) });
}

/** Buffers of a result go over without being copied, where they are not part of a pool. */
function buffersOf(value: unknown): ArrayBuffer[] {
  const list = value instanceof Uint8Array ? [value] : typeof value === 'object' && value !== null ? Object.values(value).filter((v) => v instanceof Uint8Array) : [];
  return list.flatMap((b) => (b.byteOffset === 0 && b.byteLength === b.buffer.byteLength ? [b.buffer as ArrayBuffer] : []));
}

port.on('message', ({ id, task, args }: { id: number; task: TaskName; args: unknown[] }) => {
  void (async () => {
    try {
      let told = 0;
      const progress = (done: number, of: number): void => {
        // Ten times a second is often enough to look at.
        const now = Date.now();
        if (now - told < 100 && done < of) return;
        told = now;
        port.postMessage({ id, progress: [done, of] });
      };
      const context: Context = { ...connection(), progress };
      const value = await (tasks[task] as (c: Context, ...a: unknown[]) => unknown)(context, ...args);
      port.postMessage({ id, value }, buffersOf(value));
    } catch (e) {
      port.postMessage({ id, error: (e as Error).message, code: (e as { code?: string }).code });
    }
  })();
});
