/** An update that is being entered: kept in this browser until it is taken over or discarded; every step can be undone. */
import { useCallback, useState } from 'react';
import { z } from 'zod';
import type { DueGroup, Entry } from '@yellowhammer/core/progress/due';

export interface DraftUpdate {
  dataDate: string | null;
  entries: Record<string, Entry>;
  /** Activities that are not due but are reported all the same. */
  extra: string[];
}

export const none: DraftUpdate = { dataDate: null, entries: {}, extra: [] };

const text = z.string().max(40).nullable().optional();
const draftSchema = z.object({
  dataDate: z.string().max(40).nullable().default(null),
  entries: z
    .record(
      z.string(),
      z.object({ actualStart: text, actualFinish: text, remaining: z.number().int().min(0).nullable().optional(), suspend: text, resume: text }).transform((e) => e as Entry),
    )
    .default({}),
  extra: z.array(z.string()).default([]),
});

function remembered(key: string): DraftUpdate {
  try {
    const parsed = draftSchema.safeParse(JSON.parse(localStorage.getItem(key) ?? '{}'));
    return parsed.success ? parsed.data : none;
  } catch {
    return none;
  }
}

const MOST_STEPS = 200;

export interface Drafting {
  draft: DraftUpdate;
  set: (d: DraftUpdate) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
}

export function useDraft(id: string): Drafting {
  const key = `yellowhammer.update.${id}`;
  const [state, setState] = useState<{ past: DraftUpdate[]; now: DraftUpdate; future: DraftUpdate[] }>(() => ({ past: [], now: remembered(key), future: [] }));
  const keep = useCallback(
    (d: DraftUpdate): void => {
      if (d.dataDate === null && Object.keys(d.entries).length === 0) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(d));
    },
    [key],
  );
  const set = useCallback(
    (d: DraftUpdate) => {
      keep(d);
      setState((s) => ({ past: [...s.past.slice(-MOST_STEPS), s.now], now: d, future: [] }));
    },
    [keep],
  );
  const undo = useCallback(() => {
    setState((s) => {
      const last = s.past[s.past.length - 1];
      if (!last) return s;
      keep(last);
      return { past: s.past.slice(0, -1), now: last, future: [s.now, ...s.future] };
    });
  }, [keep]);
  const redo = useCallback(() => {
    setState((s) => {
      const [next, ...rest] = s.future;
      if (!next) return s;
      keep(next);
      return { past: [...s.past, s.now], now: next, future: rest };
    });
  }, [keep]);
  return { draft: state.now, set, undo, redo, canUndo: state.past.length > 0, canRedo: state.future.length > 0 };
}

export const groupNames: Record<DueGroup | 'extra', string> = { finish: 'Should have finished', start: 'Should have started', progress: 'Went on', extra: 'Reported, not due' };
export type Field = 'actualStart' | 'actualFinish' | 'remaining' | 'percent';
export const fields: Field[] = ['actualStart', 'actualFinish', 'remaining', 'percent'];
/** What of an entry each cell shows. */
export const partOf: Record<Field, keyof Entry> = { actualStart: 'actualStart', actualFinish: 'actualFinish', remaining: 'remaining', percent: 'remaining' };
