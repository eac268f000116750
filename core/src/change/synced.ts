/**
 * The project as one window sees it: what the server has confirmed, with the window's own unsent batches on top.
 * Plain TypeScript; the worker, the server's tests and the interface use the same one.
 */
import { numbersOf } from '../model/numbers.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Activity } from '../model/schema.ts';
import type { Document } from '../model/document.ts';
import { type Row, type TableName, tableNames } from '../model/tables.ts';
import { outlineObjection } from '../outline/rules.ts';
import { applyChanges, type Batch, type Change, clashes, diffDocuments, invertChanges, type LogEntry } from './change.ts';

/** A row that two windows changed: what the other one wrote, and what was not taken over. */
export interface Clash {
  batch: Batch;
  rows: { table: TableName; id: string; theirs: Row | null; mine: Row | null }[];
  who: string;
}

/** Changes that give an existing activity a number that another one has by now. */
const takenNumbers = (doc: Document, changes: readonly Change[]): Change[] =>
  changes.filter((c) => {
    const [before, after] = [c.before as Activity | null, c.after as Activity | null];
    if (c.table !== 'activities' || !before || !after || before.code === after.code) return false;
    return indexOf(doc)
      .withCode(after.code)
      .some((a) => a.id !== c.id && !changes.some((x) => x.table === 'activities' && x.id === a.id));
  });

/** A batch whose new activities have numbers that others took meanwhile, with the next free ones instead. */
function renumbered(doc: Document, b: Batch): Batch {
  const clash = (c: Change): boolean => c.table === 'activities' && c.before === null && c.after !== null && indexOf(doc).byCode((c.after as Activity).code) !== undefined;
  if (b.kind !== 'do' || !b.changes.some(clash)) return b;
  const numbers = numbersOf(doc);
  for (const c of b.changes) if (c.table === 'activities' && c.after && !clash(c)) numbers.take((c.after as Activity).code);
  return { ...b, changes: b.changes.map((c) => (clash(c) ? { ...c, after: { ...(c.after as Activity), code: numbers.next() } } : c)) };
}

export type Listener = (changes: readonly Change[]) => void;

export class SyncedProject {
  revision: number;
  /** Batches that the server has not confirmed, oldest first. */
  pending: Batch[] = [];
  readonly doc: Document;
  private readonly listeners = new Set<Listener>();
  /** Counts every change of the local document, sent or not. */
  version = 0;

  constructor(doc: Document, revision: number) {
    this.doc = doc;
    this.revision = revision;
  }

  subscribe(f: Listener): () => void {
    this.listeners.add(f);
    return () => this.listeners.delete(f);
  }

  private apply(changes: readonly Change[]): void {
    if (changes.length === 0) return;
    applyChanges(this.doc, changes);
    this.version++;
    for (const f of this.listeners) f(changes);
  }

  /** A change made in this window: shown at once, sent later. */
  local(batch: Batch): void {
    this.pending.push(batch);
    this.apply(batch.changes);
  }

  /** The server has taken the oldest unsent batch. */
  confirmed(changeId: string, revision: number): void {
    this.pending = this.pending.filter((b) => b.changeId !== changeId);
    if (revision > this.revision) this.revision = revision;
  }

  /** The server has refused a batch: it is taken back, and all that was built on it as far as it clashes. */
  refused(changeId: string): Batch[] {
    const lost: Batch[] = [];
    const at = this.pending.findIndex((b) => b.changeId === changeId);
    if (at < 0) return lost;
    const later = this.pending.splice(at);
    for (const b of [...later].reverse()) this.apply(invertChanges(b.changes));
    lost.push(later[0]!);
    for (const b of later.slice(1)) {
      if (this.against(b.changes).length > 0) lost.push(b);
      else {
        this.pending.push(b);
        this.apply(b.changes);
      }
    }
    return lost;
  }

  /** Changes that cannot be put on what stands there now: their row is another, or a branch would come to lie in itself. */
  against(changes: readonly Change[]): Change[] {
    const bad = clashes(this.doc, changes);
    if (bad.length > 0) return bad;
    const loop = outlineObjection(
      changes,
      (id) => this.doc.wbs.get(id),
      (id) =>
        indexOf(this.doc)
          .childrenOf(id)
          .flatMap((c) => (c.kind === 'wbs' ? [c.id] : [])),
    );
    return loop ? changes.filter((c) => c.table === 'wbs' && c.id === loop.where.id) : [];
  }

  /** Batches of this browser that a closed window left: put on top like edits of this one; what cannot be is given back as a clash. */
  adopt(batches: readonly Batch[]): Clash[] {
    return batches.flatMap((b) => this.again(b, () => 'another window'));
  }

  private again(made: Batch, who: (c: Change) => string): Clash[] {
    const b = renumbered(this.doc, made);
    const bad = [...this.against(b.changes), ...takenNumbers(this.doc, b.changes)];
    if (bad.length === 0) {
      this.pending.push(b);
      this.apply(b.changes);
      return [];
    }
    return [{ batch: b, rows: bad.map((c) => ({ table: c.table, id: c.id, theirs: this.doc[c.table].get(c.id) ?? null, mine: c.after })), who: who(bad[0]!) }];
  }

  /**
   * The project as it was opened anew, where too much was missed to be told one by one. `taken`: batches that the server
   * has had meanwhile.
   */
  renew(fresh: Document, revision: number, taken: ReadonlySet<string>): Clash[] {
    const unsent = this.pending;
    for (const b of [...unsent].reverse()) this.apply(invertChanges(b.changes));
    this.pending = [];
    this.apply(diffDocuments(this.doc, fresh, tableNames));
    this.revision = revision;
    return unsent.filter((b) => !taken.has(b.changeId)).flatMap((b) => this.again(b, () => 'another window'));
  }

  /** Changes of others, in order. Own unsent batches are put on top again where no row clashes. */
  remote(entries: readonly LogEntry[]): Clash[] {
    const fresh = entries.filter((e) => e.revision > this.revision);
    if (fresh.length === 0) return [];
    const mine = new Set(this.pending.map((b) => b.changeId));
    if (fresh.length === 1 && fresh[0]!.changeId === this.pending[0]?.changeId) {
      this.confirmed(fresh[0]!.changeId, fresh[0]!.revision);
      return [];
    }
    const unsent = this.pending;
    for (const b of [...unsent].reverse()) this.apply(invertChanges(b.changes));
    this.pending = [];
    const lastBy = new Map<string, string>();
    for (const e of fresh) {
      this.apply(e.changes);
      this.revision = e.revision;
      if (!mine.has(e.changeId)) for (const c of e.changes) lastBy.set(`${c.table}/${c.id}`, e.who);
    }
    const taken = new Set(fresh.map((e) => e.changeId));
    return unsent.filter((b) => !taken.has(b.changeId)).flatMap((b) => this.again(b, (c) => lastBy.get(`${c.table}/${c.id}`) ?? 'another window'));
  }

  /** The changes of a refused batch as they would be over what stands there now. */
  overTheirs(batch: Batch): Change[] {
    return batch.changes.map((c) => ({ ...c, before: this.doc[c.table].get(c.id) ?? null }));
  }
}
