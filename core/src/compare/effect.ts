/** What changes would do to a project: computed before and after, and compared. */
import { applyChanges, type Change } from '../change/change.ts';
import { copyDocument, type Document } from '../model/document.ts';
import { schedule } from '../schedule/schedule.ts';
import { viewOf } from '../schedule/view.ts';
import { differencesOf, type ViewDifference } from './views.ts';

/** Undefined where one of the two cannot be computed. The document is left as it is. */
export function effectOf(doc: Document, changes: readonly Change[]): ViewDifference | undefined {
  const after = copyDocument(doc);
  applyChanges(after, changes);
  const [a, b] = [doc, after].map((d) => {
    const s = schedule(d);
    return s.computed && viewOf(d, s.computed, s.problems, undefined);
  });
  return a && b && differencesOf(doc, a, b);
}
