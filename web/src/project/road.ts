/** The road to the server: what waits is sent in order and exactly once, kept over a reload; what others did comes back. */
import { type Batch, batchSchema, checkChanges, type LogEntry } from '@yellowhammer/core/change/change';
import type { SyncedProject } from '@yellowhammer/core/change/synced';
import type { Problem } from '@yellowhammer/core/model/problem';
import { call, clientId } from './api';

export interface SyncState {
  state: 'saved' | 'saving' | 'offline' | 'gone';
  pending: number;
}

interface Traveller {
  /** The state changed. */
  changed: () => void;
  /** Entries of others, or own ones come back. */
  entries: (list: readonly LogEntry[]) => void;
  refused: (batch: Batch, problems: Problem[]) => void;
}

/** What the browser kept of batches that were not sent; what cannot be read is left out. */
function readUnsent(text: string | null): Batch[] {
  try {
    const list = JSON.parse(text ?? '[]') as unknown;
    return (Array.isArray(list) ? list : []).flatMap((raw: unknown): Batch[] => {
      const parsed = batchSchema.safeParse(raw);
      if (!parsed.success) return [];
      const { changes, problems } = checkChanges(parsed.data.changes);
      return problems.length ? [] : [{ ...parsed.data, changes }];
    });
  } catch {
    return [];
  }
}

export class Road {
  state: SyncState = { state: 'saved', pending: 0 };
  private events: EventSource | undefined;
  private sending = false;
  private closed = false;
  private readonly id: string;
  private readonly synced: SyncedProject;
  private readonly traveller: Traveller;

  constructor(id: string, synced: SyncedProject, traveller: Traveller) {
    this.id = id;
    this.synced = synced;
    this.traveller = traveller;
  }

  close(): void {
    this.closed = true;
    this.events?.close();
  }

  private key = (): string => `yellowhammer.unsent.${this.id}.${clientId()}`;

  unsent = (): Batch[] => readUnsent(localStorage.getItem(this.key()));

  /** Keeps what waits, so that it survives a reload. */
  keep(): void {
    this.set({ ...this.state, pending: this.synced.pending.length });
    try {
      if (this.synced.pending.length === 0) localStorage.removeItem(this.key());
      else localStorage.setItem(this.key(), JSON.stringify(this.synced.pending));
    } catch {
      // The store of the browser is full: the batches are still in memory, and are sent from there.
    }
  }

  private set(next: SyncState): void {
    if (next.state === this.state.state && next.pending === this.state.pending) return;
    this.state = next;
    this.traveller.changed();
  }

  /** Sends what waits, oldest first, one at a time; waits and tries again while the server is away. */
  async send(): Promise<void> {
    if (this.sending || this.closed) return;
    this.sending = true;
    let wait = 400;
    while (this.synced.pending.length > 0 && !this.closed) {
      const batch = this.synced.pending[0];
      if (this.state.state !== 'offline') this.set({ state: 'saving', pending: this.synced.pending.length });
      const reply = await call<{ revision: number }>('POST', `/projects/${this.id}/changes`, { revision: this.synced.revision, batch });
      if (reply.ok) {
        wait = 400;
        this.synced.confirmed(batch.changeId, reply.value.revision);
        this.keep();
        if (this.state.state === 'offline') this.listen();
        this.set({ state: 'saving', pending: this.synced.pending.length });
      } else if (reply.status === 0 || reply.status >= 500) {
        this.set({ state: 'offline', pending: this.synced.pending.length });
        await new Promise((r) => setTimeout(r, wait));
        wait = Math.min(wait * 1.6, 4000);
      } else if (reply.status === 409) this.traveller.entries((reply.body as { missed: LogEntry[] }).missed);
      else if (reply.status === 404) {
        this.set({ state: 'gone', pending: this.synced.pending.length });
        break;
      } else this.traveller.refused(batch, reply.problems);
    }
    this.sending = false;
    if (this.synced.pending.length === 0) this.set({ state: 'saved', pending: 0 });
  }

  /** Hears of the entries of other windows, from the revision that is known on. */
  listen(): void {
    this.events?.close();
    const events = new EventSource(`/api/projects/${this.id}/events?since=${this.synced.revision}`);
    this.events = events;
    events.onmessage = (m) => this.traveller.entries([JSON.parse(m.data as string) as LogEntry]);
    events.onopen = () => {
      if (this.state.state === 'offline') this.set({ state: this.synced.pending.length ? 'saving' : 'saved', pending: this.synced.pending.length });
    };
    events.onerror = () => {
      if (this.closed || this.events !== events) return;
      this.set({ state: 'offline', pending: this.synced.pending.length });
      events.close();
      setTimeout(() => !this.closed && this.events === events && this.listen(), 1000);
    };
  }
}
