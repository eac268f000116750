/** Several commands as one: each sees what the earlier ones did, and the document is left as it was. */
import type { Document } from '../model/document.ts';
import { applyChanges, type Change, invertChanges, sameValue } from './change.ts';

/** Keeps the first `before` and the last `after` of each row, and nothing of rows that end as they began. */
export function foldChanges(changes: readonly Change[]): Change[] {
  const byRow = new Map<string, Change>();
  for (const c of changes) {
    const key = `${c.table}/${c.id}`;
    const known = byRow.get(key);
    byRow.set(key, known ? { ...known, after: c.after } : c);
  }
  return [...byRow.values()].filter((c) => !sameValue(c.before, c.after));
}

/**
 * Runs `f`, which may put changes on the document one after the other; takes them all back and gives what it returns.
 * Nobody is told meanwhile: listeners hang on the synced project, not on the document. Costs as much as what is put on,
 * where a copy of the document would cost as much as the plan.
 */
export function trying<T>(doc: Document, f: (put: (changes: readonly Change[]) => void) => T): T {
  const done: Change[] = [];
  try {
    return f((changes) => {
      applyChanges(doc, changes);
      for (const c of changes) done.push(c);
    });
  } finally {
    applyChanges(doc, invertChanges(done));
  }
}
