/**
 * Views travel from the worker without what is the same as in the last one: strings cost more than figures, few edits change
 * costs, and most leave half of the figures as they are. What does not travel is not made anew for each view either, which
 * the collector of a window would have to clear away (3 MB a view at 50,000, forty times a second while a bar is dragged).
 */
import { costsOfNothing } from '@yellowhammer/core/cost/costs';
import { commonEnds, sameText } from '@yellowhammer/core/model/places';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { type RollupDelta, rollupDelta, withDelta } from './rollup-delta';

type Lists = Pick<ScheduleView, 'ids' | 'linkIds' | 'rollups' | 'costs'>;

/** Figures of activities and links, each in the order of its list. */
type FigureKey = { [K in keyof ScheduleView]: ScheduleView[K] extends Int32Array | Uint8Array ? K : never }[keyof ScheduleView];
type Figures = Pick<ScheduleView, FigureKey>;
const noInstants = new Int32Array(0);
const noFlags = new Uint8Array(0);
const noFigures: Figures = {
  start: noInstants,
  finish: noInstants,
  lateStart: noInstants,
  lateFinish: noInstants,
  aheadFrom: noInstants,
  totalFloat: noInstants,
  freeFloat: noInstants,
  length: noInstants,
  planned: noInstants,
  state: noFlags,
  critical: noFlags,
  nearCritical: noFlags,
  onLongestPath: noFlags,
  deadline: noInstants,
  minutesPerDay: noInstants,
  slack: noInstants,
  driving: noFlags,
};
const figureKeys = Object.keys(noFigures) as FigureKey[];

function sameFigures(a: Int32Array | Uint8Array, b: Int32Array | Uint8Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** What a list has in common with the one before, from the front and from the end, and what lies between. */
interface Splice {
  head: number;
  tail: number;
  between: string[];
}

/** A view as it travels; null, or not there: as in the view before. */
export type LeanView = Omit<ScheduleView, keyof Lists | FigureKey> & {
  ids: Splice | null;
  linkIds: Splice | null;
  costs: ScheduleView['costs'] | null;
  rollups: RollupDelta;
  figures: Partial<Figures>;
};

/** What both ends know of the last view. */
type Known = Lists & Figures;
const nothing = (): Known => ({ ids: [], linkIds: [], rollups: new Map(), costs: costsOfNothing, ...noFigures });

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
    const { carried, projectFinish, projectStart, summary, problems } = view;
    const lean: LeanView = {
      ...{ carried, projectFinish, projectStart, summary, problems },
      ids: spliceOf(last.ids, view.ids),
      linkIds: spliceOf(last.linkIds, view.linkIds),
      costs: view.costs === last.costs ? null : view.costs,
      rollups: rollupDelta(last.rollups, view.rollups),
      figures: Object.fromEntries(figureKeys.flatMap((k) => (sameFigures(last[k], view[k]) ? [] : [[k, view[k]]]))) as Partial<Figures>,
    };
    this.last = view;
    return lean;
  }
}

/** The other end: what did not change is the same object as in the view before. */
export class ViewsReceived {
  constructor(private last = nothing()) {}

  fork(): ViewsReceived {
    return new ViewsReceived(this.last);
  }

  whole({ figures, ids, linkIds, costs, rollups, ...rest }: LeanView): ScheduleView {
    const { last } = this;
    const lists = { ids: spliced(last.ids, ids), linkIds: spliced(last.linkIds, linkIds), costs: costs ?? last.costs, rollups: withDelta(last.rollups, rollups) };
    const view = { ...last, ...rest, ...figures, ...lists };
    this.last = view;
    return view;
  }
}
