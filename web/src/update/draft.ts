/** An update that is being entered: kept in this browser until it is taken over or discarded. */
import { useCallback, useState } from 'react';
import type { DueGroup, Entry } from '@yellowhammer/core/commands/update';

export interface DraftUpdate {
  dataDate: string | null;
  entries: Record<string, Entry>;
  /** Activities that are not due but are reported all the same. */
  extra: string[];
}

export const none: DraftUpdate = { dataDate: null, entries: {}, extra: [] };

export function useDraft(id: string): [DraftUpdate, (d: DraftUpdate) => void] {
  const key = `yellowhammer.update.${id}`;
  const [draft, setDraft] = useState<DraftUpdate>(() => {
    try {
      return { ...none, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<DraftUpdate>) };
    } catch {
      return none;
    }
  });
  const set = useCallback(
    (d: DraftUpdate) => {
      setDraft(d);
      if (d === none) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(d));
    },
    [key],
  );
  return [draft, set];
}

export const groupNames: Record<DueGroup | 'extra', string> = { finish: 'Should have finished', start: 'Should have started', progress: 'Went on', extra: 'Reported, not due' };
export type Field = 'actualStart' | 'actualFinish' | 'remaining' | 'percent';
export const fields: Field[] = ['actualStart', 'actualFinish', 'remaining', 'percent'];
