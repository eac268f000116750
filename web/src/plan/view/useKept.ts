/** Kept copies that a view asks about, by its filter ("changed since") and as what it compares with: fetched when they are first needed. */
import { useEffect, useMemo, useState } from 'react';
import { copyOfView, type Filter } from '@yellowhammer/core/model/view-schema';
import type { BaselineView } from '@yellowhammer/core/schedule/view';
import { conditionsOf } from '@yellowhammer/core/view/filter';
import { usePlanView } from '../../app/store';
import { useSession } from '../../project/hooks';

type Session = ReturnType<typeof useSession>;
const none: ReadonlyMap<string, BaselineView> = new Map();
/** A copy never changes, and its dates are those that it had. */
const known = new WeakMap<Session, Map<string, BaselineView>>();

/** `wanted`: ids, parted by blanks. */
function useCopies(wanted: string): ReadonlyMap<string, BaselineView> {
  const session = useSession();
  const [kept, setKept] = useState(none);
  useEffect(() => {
    let gone = false;
    if (wanted === '') return;
    let all = known.get(session);
    if (!all) known.set(session, (all = new Map()));
    void (async () => {
      const found = new Map<string, BaselineView>();
      for (const id of wanted.split(' ')) {
        if (!session.doc.snapshots.has(id)) continue;
        const view = all.get(id) ?? ((await session.computing.waitForCopy(id)) ? await session.worker.baseline(id, session.doc.snapshots.get(id)?.name ?? '') : null);
        if (view) all.set(id, view);
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

export function useKept(filter: Filter | null): ReadonlyMap<string, BaselineView> {
  return useCopies(useMemo(() => (filter ? [...new Set(conditionsOf(filter).flatMap((c) => (c.is === 'changed' ? [String(c.values[0])] : [])))].join(' ') : ''), [filter]));
}

/** What Plan is compared with: what the project compares with, or the kept copy that the view names (null until it is here). */
export function useShownBaseline(): BaselineView | null {
  const session = useSession();
  const named = copyOfView(usePlanView());
  // One that was deleted meanwhile is none.
  const copy = named !== null && session.doc.snapshots.has(named) ? named : null;
  const kept = useCopies(copy ?? '');
  return copy === null ? session.baseline : (kept.get(copy) ?? null);
}
