import { useCallback, useEffect, useRef, useState } from 'react';
import type { Calendar } from '@yellowhammer/core/model/schema';
import type { SharedEntry } from '@yellowhammer/core/commands/shared-views';
import { call } from '../project/api';
import { useDoc } from '../project/hooks';

export interface SharedList {
  entries: SharedEntry[];
  /** By id, as the core's commands take them. */
  calendars: Map<string, Calendar>;
  reload: () => Promise<void>;
}

const listOf = (entries: SharedEntry[]): Omit<SharedList, 'reload'> => ({ entries, calendars: new Map(entries.map((e) => [e.calendar.id, e.calendar])) });

/** The shared calendars as the server has them; asked for anew when calendars of the open project change. */
export function useShared(): SharedList {
  const { doc } = useDoc();
  const rows = [...doc.calendars.values()];
  // Rows are frozen, so that a list of the same rows is the same calendars.
  const known = useRef(rows);
  if (known.current.length !== rows.length || known.current.some((r, i) => r !== rows[i])) known.current = rows;
  const calendars = known.current;
  const [list, setList] = useState(() => listOf([]));
  const reload = useCallback(async () => {
    const reply = await call<SharedEntry[]>('GET', '/shared-calendars');
    if (reply.ok) setList(listOf(reply.value));
  }, []);
  useEffect(() => {
    void reload();
  }, [reload, calendars]);
  return { ...list, reload };
}
