/** Views travel from the worker without what is the same as in the last one: strings cost more than figures, and few edits change costs. */
import { costsOfNothing } from '@yellowhammer/core/cost/costs';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { type RollupDelta, rollupDelta, withDelta } from './rollup-delta';

type Lists = Pick<ScheduleView, 'ids' | 'linkIds' | 'rollups' | 'costs'>;

/** A view as it travels; null: as in the view before. */
export type LeanView = Omit<ScheduleView, keyof Lists> & { ids: string[] | null; linkIds: string[] | null; costs: ScheduleView['costs'] | null; rollups: RollupDelta };

const nothing = (): Lists => ({ ids: [], linkIds: [], rollups: new Map(), costs: costsOfNothing });
const sameList = (a: readonly string[], b: readonly string[]): boolean => a === b || (a.length === b.length && a.every((x, i) => x === b[i]));

/** The sending end of a row of views; each goes to the one `ViewsReceived` in the order in which they were made. */
export class ViewsSent {
  constructor(private last = nothing()) {}

  /** Another row of views that begins where this one is now. */
  fork(): ViewsSent {
    return new ViewsSent(this.last);
  }

  lean(view: ScheduleView): LeanView {
    const { last } = this;
    const [ids, linkIds] = [sameList(view.ids, last.ids) ? last.ids : view.ids, sameList(view.linkIds, last.linkIds) ? last.linkIds : view.linkIds];
    const lean = {
      ...view,
      ids: ids === last.ids ? null : ids,
      linkIds: linkIds === last.linkIds ? null : linkIds,
      costs: view.costs === last.costs ? null : view.costs,
      rollups: rollupDelta(last.rollups, view.rollups),
    };
    this.last = { ids, linkIds, costs: view.costs, rollups: view.rollups };
    return lean;
  }
}

/** The other end: what did not change is the same object as in the view before. */
export class ViewsReceived {
  constructor(private last = nothing()) {}

  fork(): ViewsReceived {
    return new ViewsReceived(this.last);
  }

  whole(lean: LeanView): ScheduleView {
    const { last } = this;
    this.last = { ids: lean.ids ?? last.ids, linkIds: lean.linkIds ?? last.linkIds, costs: lean.costs ?? last.costs, rollups: withDelta(last.rollups, lean.rollups) };
    return { ...lean, ...this.last };
  }
}
