/**
 * What was not sent yet: one store for all projects and all windows of this browser. It outlives the window that it was
 * typed in; whichever window is open sends it. Order is the order of typing.
 */
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { type Batch, batchSchema, checkChanges } from '@yellowhammer/core/change/change';

/** A batch that waits: of which project, typed in which window, and whether the server or another window stands against it. */
export interface Waiting {
  seq?: number;
  projectId: string;
  client: string;
  batch: Batch;
  clash: boolean;
}

/** Where batches wait. The interface exists so that the road can be tested without a browser. */
export interface UnsentStore {
  put(w: Waiting): Promise<void>;
  remove(changeIds: readonly string[]): Promise<void>;
  /** Marks a batch as standing against something, so that it is shown and not sent by itself. */
  mark(changeId: string): Promise<void>;
  /** Gives a batch to another window. */
  adopt(changeId: string, client: string): Promise<void>;
  /** All that waits, oldest first; of one project or of all. */
  all(projectId?: string): Promise<Waiting[]>;
}

interface Shape extends DBSchema {
  unsent: { key: number; value: Waiting & { changeId: string }; indexes: { project: string; change: string } };
}

/** What a store holds is checked before it is trusted; what cannot be read is left out. */
function readWaiting(raw: Waiting): Waiting | undefined {
  const parsed = batchSchema.safeParse(raw.batch);
  if (!parsed.success || typeof raw.projectId !== 'string' || typeof raw.client !== 'string') return undefined;
  const { changes, problems } = checkChanges(parsed.data.changes);
  return problems.length ? undefined : { seq: raw.seq, projectId: raw.projectId, client: raw.client, clash: raw.clash === true, batch: { ...parsed.data, changes } };
}

/** The store in the browser's own database. */
export class BrowserStore implements UnsentStore {
  private db: Promise<IDBPDatabase<Shape>> | undefined;

  private open(): Promise<IDBPDatabase<Shape>> {
    return (this.db ??= openDB<Shape>('yellowhammer', 1, {
      upgrade(db) {
        const store = db.createObjectStore('unsent', { autoIncrement: true });
        store.createIndex('project', 'projectId');
        store.createIndex('change', 'changeId', { unique: true });
      },
    }));
  }

  async put(w: Waiting): Promise<void> {
    const db = await this.open();
    // The same batch twice is one batch.
    if ((await db.getKeyFromIndex('unsent', 'change', w.batch.changeId)) !== undefined) return;
    const { seq: _, ...rest } = w;
    await db.add('unsent', { ...rest, changeId: w.batch.changeId });
  }

  async remove(changeIds: readonly string[]): Promise<void> {
    const db = await this.open();
    const tx = db.transaction('unsent', 'readwrite');
    for (const id of changeIds) {
      const key = await tx.store.index('change').getKey(id);
      if (key !== undefined) await tx.store.delete(key);
    }
    await tx.done;
  }

  private async change(changeId: string, f: (w: Shape['unsent']['value']) => Shape['unsent']['value']): Promise<void> {
    const db = await this.open();
    const tx = db.transaction('unsent', 'readwrite');
    const key = await tx.store.index('change').getKey(changeId);
    const value = key === undefined ? undefined : await tx.store.get(key);
    if (value && key !== undefined) await tx.store.put(f(value), key);
    await tx.done;
  }

  mark(changeId: string): Promise<void> {
    return this.change(changeId, (w) => ({ ...w, clash: true }));
  }

  adopt(changeId: string, client: string): Promise<void> {
    return this.change(changeId, (w) => ({ ...w, client }));
  }

  async all(projectId?: string): Promise<Waiting[]> {
    const db = await this.open();
    const raw = projectId === undefined ? await db.getAll('unsent') : await db.getAllFromIndex('unsent', 'project', projectId);
    // Entries of an index with one key come in the order of their own keys, which count up.
    return raw.flatMap((w) => readWaiting(w) ?? []);
  }
}

export const unsentStore: UnsentStore = new BrowserStore();
