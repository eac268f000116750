/** Dates as they would be while a bar is dragged: one question to the worker at a time, the latest wish next. */
import { useCallback, useRef, useState } from 'react';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import type { ProjectSession } from '../project/session';

export function useLive(session: ProjectSession): { live: ScheduleView | null; follow: (outcome: Outcome | null) => void } {
  const [live, setLive] = useState<ScheduleView | null>(null);
  const wish = useRef<Outcome | null>(null);
  const asking = useRef(false);
  const follow = useCallback(
    (outcome: Outcome | null): void => {
      wish.current = outcome;
      if (!outcome) return setLive(null);
      if (asking.current) return;
      asking.current = true;
      void (async () => {
        for (let at = wish.current; at;) {
          if (at.ok && at.changes.length > 0) {
            const view = await session.computing.previewDates(at.changes);
            if (wish.current) setLive(view);
          } else setLive(null);
          const next: Outcome | null = wish.current;
          if (next === at) break;
          at = next;
        }
        asking.current = false;
        if (!wish.current) setLive(null);
      })();
    },
    [session],
  );
  return { live, follow };
}
