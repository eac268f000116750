/** What rolls up to any set of activities, from the figures of a view: the same as a WBS node shows of those in it. */
import { costAt } from '../cost/costs.ts';
import type { FieldContext } from '../fields/field.ts';
import { projectOf } from '../model/document.ts';
import type { Activity } from '../model/schema.ts';
import { percentOf } from '../progress/percent.ts';
import { calendarFor } from '../schedule/calendars.ts';
import { NONE } from '../schedule/network.ts';
import { placeOf } from '../schedule/view.ts';
import { percentTenth } from '../time/tenths.ts';
import { type Rollup, Sum, weightOf } from './rollup.ts';

export const blankRollup = (): Sum => new Sum();

/** Adds an activity as it is computed in the view. Without dates it counts with its cost and percent. */
export function addShown(n: Sum, a: Activity, { view, doc }: Pick<FieldContext, 'view' | 'doc'>): void {
  const i = view ? placeOf(view, a.id) : undefined;
  const by = projectOf(doc).options.percentWeight;
  const cost = costAt(view?.costs, i, a);
  n.take(
    cost,
    view && i !== undefined ? view.start[i]! : NONE,
    view && i !== undefined ? view.finish[i]! : NONE,
    view && i !== undefined ? view.totalFloat[i]! : NONE,
    i !== undefined && view?.critical[i] === 1,
    weightOf(a, by, cost),
    percentOf(a),
  );
}

/** The roll-up with what follows from all that was added; undefined where none of it has dates. */
export function finished(n: Sum, { doc }: Pick<FieldContext, 'doc'>): Rollup | undefined {
  if (n.start === NONE) return undefined;
  const c = calendarFor(doc, { calendarId: null });
  n.duration = c ? c.position(n.finish) - c.position(n.start) : 0;
  n.cost = Math.round(n.cost * 100) / 100;
  n.percent = n.weight > 0 ? percentTenth(n.done / n.weight) : 0;
  return n;
}
