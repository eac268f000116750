/** Taking all that is proposed leaves every date where it was (scheduling rules, section 4, "As planned"). */
import { applyChanges } from '@yellowhammer/core/change/change';
import { asPlanned } from '@yellowhammer/core/progress/as-planned';
import { entryChanges, entryProblems } from '@yellowhammer/core/commands/update';
import { copyDocument, projectOf } from '@yellowhammer/core/model/document';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { sure } from '../helpers';
import { planFile, smallPlan } from './plans';

const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? (process.env['YELLOWHAMMER_LONG'] ? 20_000 : 3_000));

test(`on ${RUNS} random plans, taking all as planned moves no date`, () => {
  const wrong: unknown[] = [];
  let entries = 0;
  let compared = 0;
  for (let seed = 1; seed <= RUNS && wrong.length < 5; seed++) {
    const read = readProjectFile(JSON.parse(JSON.stringify(planFile(smallPlan(seed, 12)))));
    const doc = sure(read.file).document;
    const { computed, problems } = schedule(doc);
    const before = sure(computed);
    const view = viewOf(doc, before, [], undefined);
    const project = projectOf(doc);
    const from = sure(parseInstant(project.dataDate ?? project.plannedStart));
    const until = from + ((seed * 7919) % (9 * 1440));
    const proposals = asPlanned(doc, view, until);
    const all = [...doc.activities.values()];
    const kinds = (a: (typeof all)[number]): string[] => a.constraints.map((x) => x.kind);
    const pins = all.some((a) => kinds(a).some((k) => k.startsWith('pinned')));
    // A levelling delay begins anew at the new data date; of two pins the finish acts once work has started; and what is
    // as late as possible, or a margin, is held by a pinned date only as long as that is ahead (in progress override by
    // any link, as long as its successor has not started).
    if (all.some((a) => a.levellingDelay || (kinds(a).includes('pinnedStart') && kinds(a).includes('pinnedFinish')))) continue;
    if (pins && all.some((a) => kinds(a).includes('asLateAsPossible') || a.type === 'margin')) continue;
    if (project.options.statusLogic === 'progressOverride' && all.some((a) => kinds(a).includes('asLateAsPossible'))) continue;
    // So does a margin: in progress override what follows it no longer holds it once that has started.
    const marginBefore = [...doc.links.values()].some((l) => doc.activities.get(l.from)?.type === 'margin' && proposals.get(l.to)?.actualStart !== undefined);
    if (project.options.statusLogic === 'progressOverride' && marginBefore) continue;
    // A pin that breaks logic is out of sequence when it is done, and carries on what it broke. Nothing but levels of
    // effort ends at the data date itself.
    if (problems.some((p) => p.code === 'PIN_BREAKS_LINK') || all.every((a) => a.type === 'levelOfEffort')) continue;
    // Logic carried over a lag ends with its first activity, though the lag goes on.
    if (before.slack.carried.some((c) => c.instant > until && before.early.finish[c.from]! <= until)) continue;
    // A margin that the new data date has entered asks for more than before.
    if (view.ids.some((id, i) => sure(doc.activities.get(id)).type === 'margin' && view.state[i] === 0 && view.start[i]! < until)) continue;
    expect(entryProblems(doc, formatInstant(until), proposals)).toEqual([]);
    const next = copyDocument(doc);
    applyChanges(next, entryChanges(doc, formatInstant(until), proposals).changes);
    const after = viewOf(next, sure(schedule(next).computed), [], undefined);
    entries += proposals.size;
    compared++;
    view.ids.forEach((id, i) => {
      if (view.start[i] !== after.start[i] || view.finish[i] !== after.finish[i])
        wrong.push({
          seed,
          until: formatInstant(until),
          id,
          was: [view.start[i]!, view.finish[i]!].map(formatInstant),
          is: [after.start[i]!, after.finish[i]!].map(formatInstant),
        });
    });
  }
  expect(wrong).toEqual([]);
  expect(entries).toBeGreaterThan(compared);
});
