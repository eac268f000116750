/** What changes would do to a project: computed before and after, and compared. */
import { applyChanges, type Change } from '../change/change.ts';
import { loadsOf } from '../load/load.ts';
import { copyDocument, type Document } from '../model/document.ts';
import { rollUp } from '../rollup/rollup.ts';
import type { Computed } from '../schedule/compute.ts';
import { schedule } from '../schedule/schedule.ts';
import { viewOf } from '../schedule/view.ts';
import { differencesOf, type ViewDifference } from './views.ts';

const withChanges = (doc: Document, changes: readonly Change[]): Document => {
  const after = copyDocument(doc);
  applyChanges(after, changes);
  return after;
};

/** Undefined where one of the two cannot be computed. The document is left as it is. */
export function effectOf(doc: Document, changes: readonly Change[]): ViewDifference | undefined {
  const [a, b] = [doc, withChanges(doc, changes)].map((d) => {
    const s = schedule(d);
    return s.computed && viewOf(d, s.computed, s.problems, undefined);
  });
  return a && b && differencesOf(doc, a, b);
}

/** Figures that a change of who does the work, or of what it costs, alters. */
export interface Standing {
  /** Times at which a resource, or a role that is asked for by itself, is asked for more than is there. */
  over: number;
  /** Thousandths of unit-minutes above what is there, in all of them. */
  overWork: number;
  /** Cost at completion. */
  cost: number;
}

const standing = (doc: Document, r: Computed): Standing => {
  const asked = new Set([...doc.assignments.values()].flatMap((x) => x.roleId ?? []));
  const subjects = loadsOf(doc, r).subjects.filter((s) => s.kind === 'resource' || (s.kind === 'role' && asked.has(s.id)));
  const runs = subjects.flatMap((s) => s.curve.runs());
  return { over: runs.length, overWork: runs.reduce((sum, run) => sum + run.over, 0), cost: rollUp(doc, r).get('')?.cost ?? 0 };
};

/** Dates, overloads and cost before and after. Undefined where one of the two cannot be computed. */
export function wholeEffectOf(doc: Document, changes: readonly Change[]): (ViewDifference & { standing: { before: Standing; after: Standing } }) | undefined {
  const after = withChanges(doc, changes);
  const [a, b] = [schedule(doc), schedule(after)];
  if (!a.computed || !b.computed) return undefined;
  const difference = differencesOf(doc, viewOf(doc, a.computed, a.problems, undefined), viewOf(after, b.computed, b.problems, undefined));
  return { ...difference, standing: { before: standing(doc, a.computed), after: standing(after, b.computed) } };
}
