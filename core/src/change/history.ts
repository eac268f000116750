/** Undo and redo stacks, read off the change log, so that they survive a reload. */
import type { LogEntry } from './change.ts';

export interface History {
  undo: LogEntry[];
  redo: LogEntry[];
}

/** What a window can take back and bring back: its own batches, in the order of the log. */
export function historyOf(log: readonly LogEntry[], client: string): History {
  const byId = new Map<string, LogEntry>();
  let undo: LogEntry[] = [];
  let redo: LogEntry[] = [];
  for (const e of log) {
    if (e.client !== client) continue;
    if (e.kind === 'do') {
      byId.set(e.changeId, e);
      undo.push(e);
      redo = [];
    } else {
      const target = e.target === null ? undefined : byId.get(e.target);
      if (!target) continue;
      if (e.kind === 'undo') {
        undo = undo.filter((x) => x !== target);
        redo.push(target);
      } else {
        redo = redo.filter((x) => x !== target);
        undo.push(target);
      }
    }
  }
  return { undo, redo };
}
