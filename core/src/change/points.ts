/**
 * Points of a project's history: the log is walked back from the plan as it is now, so that any point can be looked at,
 * compared, or gone back to as one act.
 */
import { copyDocument, type Document } from '../model/document.ts';
import { tables } from '../model/tables.ts';
import { scheduleDates } from '../schedule/schedule.ts';
import type { Instant } from '../time/instant.ts';
import { done, type Outcome, refused } from '../commands/result.ts';
import { applyChanges, type Change, clashes, invertChanges, type LogEntry } from './change.ts';
import { foldChanges, trying } from './trial.ts';

/** An entry of the log as history needs it. */
export type Entry = Pick<LogEntry, 'revision' | 'changes'>;

/** What takes entries back, given from the newest to the oldest: one change a row. Kept copies stay where they are. */
export const changesBack = (entries: readonly Entry[]): Change[] => foldChanges(entries.flatMap((e) => invertChanges(e.changes))).filter((c) => !tables[c.table].beside);

/** The plan as it was before entries (newest first). The document that is given stays as it is. */
export function stateBefore(doc: Document, entries: readonly Entry[]): Document {
  const copy = copyDocument(doc);
  applyChanges(copy, changesBack(entries));
  return copy;
}

/**
 * Finishes of the plan along the log, for entries from the newest to the oldest: now, before the first of them, before the
 * second, and so on: one more than entries. `skip`: entries that are taken back first, whose finishes are not asked for.
 * Null where a plan cannot be computed.
 */
export function finishesBack(doc: Document, entries: readonly Entry[], skip = 0): (Instant | null)[] {
  return trying(doc, (put) => {
    for (const e of entries.slice(0, skip)) put(changesBack([e]));
    const finish = (): Instant | null => scheduleDates(doc).computed?.projectFinish ?? null;
    const out = [finish()];
    for (const e of entries.slice(skip)) {
      const changes = changesBack([e]);
      if (changes.length === 0) out.push(out[out.length - 1] ?? null);
      else {
        put(changes);
        out.push(finish());
      }
    }
    return out;
  });
}

/** Goes back to the plan before entries (newest first), as one act that can be undone. */
export function goBack(doc: Document, entries: readonly Entry[], to: string): Outcome {
  const changes = changesBack(entries);
  if (changes.length === 0) return refused('NOTHING_CHANGED', 'The plan is as it was then.');
  if (clashes(doc, changes).length > 0) return refused('CHANGED_MEANWHILE', 'The plan was changed in the meantime. Look at the history again, then go back.');
  return done(`Go back to ${to}`, changes);
}

/** True where an entry touches one of some rows, or a link at one of them. */
export function touches(entry: Entry, ids: ReadonlySet<string>): boolean {
  return entry.changes.some((c) => {
    if (ids.has(c.id)) return true;
    if (c.table !== 'links') return false;
    const l = (c.after ?? c.before) as { from?: string; to?: string } | null;
    return l !== null && (ids.has(l.from ?? '') || ids.has(l.to ?? ''));
  });
}
