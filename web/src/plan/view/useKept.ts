/** Kept copies that a filter asks about ("changed since"), fetched when they are first needed. */
import { useEffect, useMemo, useState } from 'react';
import type { Filter } from '@yellowhammer/core/model/view-schema';
import type { BaselineView } from '@yellowhammer/core/schedule/view';
import { conditionsOf } from '@yellowhammer/core/view/filter';
import { useSession } from '../../project/hooks';

const none: ReadonlyMap<string, BaselineView> = new Map();

export function useKept(filter: Filter | null): ReadonlyMap<string, BaselineView> {
  const session = useSession();
  const [kept, setKept] = useState(none);
  const wanted = useMemo(() => (filter ? [...new Set(conditionsOf(filter).flatMap((c) => (c.is === 'changed' ? [String(c.values[0])] : [])))].join(' ') : ''), [filter]);
  useEffect(() => {
    let gone = false;
    if (wanted === '') return;
    void (async () => {
      const found = new Map<string, BaselineView>();
      for (const id of wanted.split(' ')) {
        if (!session.doc.snapshots.has(id) || !(await session.computing.needCopy(id))) continue;
        const view = await session.worker.baseline(id, session.doc.snapshots.get(id)?.name ?? '');
        if (view) found.set(id, view);
      }
      if (!gone) setKept(found);
    })();
    return () => {
      gone = true;
    };
  }, [wanted, session]);
  return wanted === '' ? none : kept;
}
