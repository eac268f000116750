import { useCallback, useEffect, useRef, useState } from 'react';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { type SharedRow, sharedTables, type SharedThings, thingKey } from '@yellowhammer/core/commands/shared-things';
import type { SharedEntry, SharedThingEntry } from '@yellowhammer/core/commands/shared-views';
import { call } from '../project/api';
import { useDoc } from '../project/hooks';

export interface SharedList {
  entries: SharedEntry[];
  /** By id, as the core's commands take them. */
  calendars: Map<string, Calendar>;
  reload: () => Promise<void>;
}

const listOf = (entries: SharedEntry[]): Omit<SharedList, 'reload'> => ({ entries, calendars: new Map(entries.map((e) => [e.calendar.id, e.calendar])) });

/** Rows as they are, the same list while they are the same: they are frozen. */
function useSame<T>(rows: readonly T[]): readonly T[] {
  const known = useRef(rows);
  if (known.current.length !== rows.length || known.current.some((r, i) => r !== rows[i])) known.current = rows;
  return known.current;
}

/** The shared calendars as the server has them; asked for anew when calendars of the open project change. */
export function useShared(): SharedList {
  const { doc } = useDoc();
  const calendars = useSame([...doc.calendars.values()]);
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

/** Shared accounts, code sets, roles, resources and crews. */
export interface SharedThingList {
  entries: readonly SharedThingEntry[];
  things: SharedThings;
  reload: () => Promise<void>;
}

/** What else is shared, as the server has it; asked for anew when rows of the open project change that could be. */
export function useSharedThings(): SharedThingList {
  const { doc } = useDoc();
  const rows = useSame(sharedTables.flatMap((t): SharedRow[] => [...doc[t].values()]));
  const [entries, setEntries] = useState<readonly SharedThingEntry[]>([]);
  const reload = useCallback(async () => {
    const reply = await call<SharedThingEntry[]>('GET', '/shared');
    if (reply.ok) setEntries(reply.value);
  }, []);
  useEffect(() => {
    void reload();
  }, [reload, rows]);
  return { entries, things: new Map(entries.map((e) => [thingKey(e.table, e.row.id), e])), reload };
}
