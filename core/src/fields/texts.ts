/** Fields of all activities as texts, for the command line: the same that sheet, report and CSV show. */
import { type Document, projectOf } from '../model/document.ts';
import { type Problem, problem } from '../model/problem.ts';
import { schedule } from '../schedule/schedule.ts';
import { baselineViewOf, viewOf } from '../schedule/view.ts';
import { showField } from './field.ts';
import { activityCell, fieldOf, fieldsOf } from './list.ts';

/** Texts by key for each activity in file order; a problem where a key is no field. `baseline`: what is compared with. */
export function fieldTexts(doc: Document, keys: readonly string[], baseline?: Document): { rows: Record<string, string>[] } | { problem: Problem } {
  const fields = keys.flatMap((k) => fieldOf(doc, k) ?? []);
  const unknown = keys.find((k) => !fieldOf(doc, k));
  if (unknown !== undefined) return { problem: problem('USAGE', `There is no field ${unknown}. Choose among ${[...fieldsOf(doc).keys()].join(', ')}.`, { field: unknown }) };
  const { computed } = schedule(doc);
  const old = baseline && schedule(baseline).computed;
  const context = {
    doc,
    view: computed ? viewOf(doc, computed, [], old?.projectFinish) : null,
    baseline: baseline && old ? baselineViewOf(projectOf(doc).baselineId ?? '', '', baseline, old) : null,
    clock: false,
  };
  const ids = computed ? computed.network.ids : [...doc.activities.keys()];
  return {
    rows: ids.flatMap((id) => {
      const a = doc.activities.get(id);
      return a ? [{ id, ...Object.fromEntries(fields.map((f) => [f.key, showField(f, activityCell(context, a))])) }] : [];
    }),
  };
}
