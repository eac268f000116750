/** Views travel from the worker without what is the same as in the last one: strings cost more than figures, and few edits change costs. */
import { costsOfNothing } from '@yellowhammer/core/cost/costs';
import { commonEnds, sameText } from '@yellowhammer/core/model/places';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { type RollupDelta, rollupDelta, withDelta } from './rollup-delta';

type Lists = Pick<ScheduleView, 'ids' | 'linkIds' | 'rollups' | 'costs'>;

/** What a list has in common with the one before, from the front and from the end, and what lies between. */
interface Splice {
  head: number;
  tail: number;
  between: string[];
}

/** A view as it travels; null: as in the view before. */
export type LeanView = Omit<ScheduleView, keyof Lists> & { ids: Splice | null; linkIds: Splice | null; costs: ScheduleView['costs'] | null; rollups: RollupDelta };

const nothing = (): Lists => ({ ids: [], linkIds: [], rollups: new Map(), costs: costsOfNothing });

/** Null where both lists are the same. */
function spliceOf(last: readonly string[], next: readonly string[]): Splice | null {
  if (last === next) return null;
  const [head, tail] = commonEnds(last, next, sameText);
  return head === last.length && head === next.length ? null : { head, tail, between: next.slice(head, next.length - tail) };
}
const spliced = (last: string[], s: Splice | null): string[] => (s ? last.slice(0, s.head).concat(s.between, last.slice(last.length - s.tail)) : last);

/** The sending end of a row of views; each goes to the one `ViewsReceived` in the order in which they were made. */
export class ViewsSent {
  constructor(private last = nothing()) {}

  /** Another row of views that begins where this one is now. */
  fork(): ViewsSent {
    return new ViewsSent(this.last);
  }

  lean(view: ScheduleView): LeanView {
    const { last } = this;
    const lean = {
      ...view,
      ids: spliceOf(last.ids, view.ids),
      linkIds: spliceOf(last.linkIds, view.linkIds),
      costs: view.costs === last.costs ? null : view.costs,
      rollups: rollupDelta(last.rollups, view.rollups),
    };
    this.last = { ids: view.ids, linkIds: view.linkIds, costs: view.costs, rollups: view.rollups };
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
    this.last = { ids: spliced(last.ids, lean.ids), linkIds: spliced(last.linkIds, lean.linkIds), costs: lean.costs ?? last.costs, rollups: withDelta(last.rollups, lean.rollups) };
    return { ...lean, ...this.last };
  }
}
