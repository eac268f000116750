/** The road to the server: what waits is sent in order and exactly once, and kept meanwhile; what others did comes back. */
import { z } from 'zod';
import type { Batch, LogEntry } from '@yellowhammer/core/change/change';
import type { SyncedProject } from '@yellowhammer/core/change/synced';
import type { Problem } from '@yellowhammer/core/model/problem';
import { call, clientId } from './api';
import type { UnsentStore } from './unsent';

export interface SyncState {
  /** `blocked`: the server is there, but its database cannot be written to. */
  state: 'saved' | 'saving' | 'offline' | 'blocked' | 'gone';
  pending: number;
  /** Why, in plain words, where it is blocked. */
  reason?: string;
}

interface Traveller {
  /** The state changed. */
  changed: () => void;
  /** Entries of others, or own ones come back. */
  entries: (list: readonly LogEntry[]) => void;
  refused: (batch: Batch, problems: Problem[]) => void;
  /** So much was missed that the project is to be opened anew; true where that was done. */
  anew: () => Promise<boolean>;
}

/** What an event must look like to be an entry; rows are checked where they are applied to a document. */
const entrySchema = z.looseObject({
  revision: z.int(),
  changeId: z.string(),
  client: z.string(),
  who: z.string(),
  label: z.string(),
  changes: z.array(z.looseObject({ table: z.string(), id: z.string() })),
});

function readEntry(text: string): LogEntry | undefined {
  try {
    const parsed = entrySchema.safeParse(JSON.parse(text));
    return parsed.success ? (parsed.data as unknown as LogEntry) : undefined;
  } catch {
    return undefined;
  }
}

export class Road {
  state: SyncState = { state: 'saved', pending: 0 };
  private events: EventSource | undefined;
  private sending = false;
  private closed = false;
  /** Batches that the store holds, and those of them that stand against something and wait for a person. */
  private readonly stored = new Set<string>();
  private readonly held = new Set<string>();
  private writing: Promise<unknown> = Promise.resolve();
  private readonly id: string;
  private readonly synced: SyncedProject;
  private readonly traveller: Traveller;
  private readonly store: UnsentStore;

  constructor(id: string, synced: SyncedProject, traveller: Traveller, store: UnsentStore) {
    this.id = id;
    this.synced = synced;
    this.traveller = traveller;
    this.store = store;
  }

  close(): void {
    this.closed = true;
    this.events?.close();
  }

  /** One write to the store after the other; a browser without one keeps the batches in memory, and they are sent from there. */
  private write(f: () => Promise<void>): void {
    this.writing = this.writing.then(f).catch(() => undefined);
  }

  /** Resolves when the store holds what it should. */
  settled = (): Promise<unknown> => this.writing;

  /** Batches that came out of the store: they are in it already. */
  known(changeIds: readonly string[]): void {
    for (const id of changeIds) this.stored.add(id);
  }

  /** Keeps what waits, and lets go what does not wait any more. */
  keep(): void {
    this.set({ ...this.state, pending: this.synced.pending.length });
    const waiting = new Set(this.synced.pending.map((b) => b.changeId));
    for (const batch of this.synced.pending) {
      if (this.stored.has(batch.changeId)) continue;
      this.stored.add(batch.changeId);
      this.write(() => this.store.put({ projectId: this.id, client: clientId(), batch, clash: false }));
    }
    const done = [...this.stored].filter((id) => !waiting.has(id) && !this.held.has(id));
    for (const id of done) this.stored.delete(id);
    if (done.length) this.write(() => this.store.remove(done));
  }

  /** A batch that stands against something: it stays in the store until a person has decided. */
  hold(changeId: string): void {
    this.held.add(changeId);
    this.stored.add(changeId);
    this.write(() => this.store.mark(changeId));
  }

  /** The person has decided. */
  release(changeId: string): void {
    this.held.delete(changeId);
    this.keep();
  }

  private set(next: SyncState): void {
    if (next.state === this.state.state && next.pending === this.state.pending && next.reason === this.state.reason) return;
    this.state = next;
    this.traveller.changed();
  }

  private get pending(): number {
    return this.synced.pending.length;
  }

  /** Says that something waits which is written down and sent in a moment. */
  begins(): void {
    if (this.state.state !== 'offline' && this.state.state !== 'blocked') this.set({ state: 'saving', pending: this.pending });
  }

  /** Sends what waits, oldest first, one at a time; waits and tries again while the server is away. */
  async send(): Promise<void> {
    if (this.sending || this.closed) return;
    this.sending = true;
    let wait = 400;
    while (this.pending > 0 && !this.closed) {
      const batch = this.synced.pending[0]!;
      this.begins();
      const reply = await call<{ revision: number }>('POST', `/projects/${this.id}/changes`, { revision: this.synced.revision, batch });
      if (reply.ok) {
        wait = 400;
        this.synced.confirmed(batch.changeId, reply.value.revision);
        this.keep();
        if (this.state.state === 'offline') this.listen();
        this.set({ state: 'saving', pending: this.pending });
      } else if (reply.status === 0 || reply.status >= 500) {
        const database = reply.problems.find((p) => p.code.startsWith('DATABASE_'));
        this.set(database ? { state: 'blocked', pending: this.pending, reason: database.message } : { state: 'offline', pending: this.pending });
        await new Promise((r) => setTimeout(r, wait));
        wait = Math.min(wait * 1.6, 4000);
      } else if (reply.status === 409) {
        const { missed } = reply.body as { missed: LogEntry[] | null };
        if (missed) this.traveller.entries(missed);
        else if (!(await this.traveller.anew())) await new Promise((r) => setTimeout(r, wait));
      } else if (reply.status === 404) {
        this.set({ state: 'gone', pending: this.pending });
        break;
      } else this.traveller.refused(batch, reply.problems);
    }
    this.sending = false;
    if (this.pending === 0) this.set({ state: 'saved', pending: 0 });
  }

  /** Hears of the entries of other windows, from the revision that is known on. */
  listen(): void {
    this.events?.close();
    const events = new EventSource(`/api/projects/${this.id}/events?since=${this.synced.revision}`);
    this.events = events;
    events.onmessage = (m) => {
      const entry = readEntry(m.data as string);
      if (entry) this.traveller.entries([entry]);
    };
    events.addEventListener('anew', (m: MessageEvent<string>) => {
      // What this window has sent itself it has already; its answer comes by the way that it was sent.
      if (!m.data.includes(`"client":"${clientId()}"`)) void this.traveller.anew();
    });
    events.onopen = () => {
      if (this.state.state === 'offline') this.set({ state: this.pending ? 'saving' : 'saved', pending: this.pending });
    };
    events.onerror = () => {
      if (this.closed || this.events !== events) return;
      this.set({ state: 'offline', pending: this.pending });
      events.close();
      setTimeout(() => !this.closed && this.events === events && this.listen(), 1000);
    };
  }
}
