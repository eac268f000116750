/** Dropping a value of the list onto rows or bars: onto one that is selected it is given to all that are. */
import { stampOutcome } from '@yellowhammer/core/plan/stamp';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { planActions, store, useAppDispatch } from '../app/store';
import { newId } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import type { PlanRow } from './rows';
import { activitiesIn } from './useStamp';

/** What a dragged value is kept as while it is on its way. */
export const VALUE_TYPE = 'application/x-yellowhammer-value';

interface Args {
  session: ProjectSession;
  rows: PlanRow[];
  heights: RowHeights;
  body: React.RefObject<HTMLDivElement | null>;
}

export function useDropValue({ session, rows, heights, body }: Args): { handlers: Pick<React.DOMAttributes<HTMLDivElement>, 'onDragOver' | 'onDrop'> } {
  const dispatch = useAppDispatch();
  const targets = (e: { clientY: number }): string[] => {
    const row = rows[heights.rowAt(e.clientY - (body.current?.getBoundingClientRect().top ?? 0))];
    if (!row || row.kind === 'draft') return [];
    const { selected } = store.getState().plan;
    return selected.includes(row.id) ? selected : [row.id];
  };
  return {
    handlers: {
      onDragOver(e) {
        if (!e.dataTransfer.types.includes(VALUE_TYPE)) return;
        e.preventDefault();
        e.dataTransfer.dropEffect = 'copy';
        const ids = targets(e);
        const { selected } = store.getState().plan;
        // The row under the pointer is shown as the one that would get it.
        if (ids.length === 1 && selected[0] !== ids[0]) dispatch(planActions.select({ ids, active: null }));
      },
      onDrop(e) {
        const text = e.dataTransfer.getData(VALUE_TYPE);
        if (!text) return;
        e.preventDefault();
        const [key, value] = text.split('\n');
        session.run(stampOutcome(session.doc, activitiesIn(rows, targets(e)), { key: key ?? '', text: value ?? '' }, newId, session.view));
      },
    },
  };
}
