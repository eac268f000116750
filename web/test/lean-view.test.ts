/** What travels is less than the view; what arrives is the view. */
import fc from 'fast-check';
import { applyChanges, invertChanges } from '@yellowhammer/core/change/change';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { addActivity, deleteRows } from '@yellowhammer/core/commands/outline';
import { addLink } from '@yellowhammer/core/commands/links';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Document } from '@yellowhammer/core/model/document';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import { scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { type ScheduleView, viewOf } from '@yellowhammer/core/schedule/view';
import { documentOf, must, nodeInto, putInto } from '../../core/test/helpers';
import { type LeanView, ViewsReceived, ViewsSent } from '../src/project/lean-view';

const plan = (): Document => {
  const doc = documentOf({
    activities: [
      ['A', '5d'],
      ['B', '3d'],
      ['C', '1d'],
      ['D', '2d'],
    ],
    links: ['A > B', 'B > C'],
  });
  nodeInto(doc, 'P', null, 1);
  for (const id of 'AB') putInto(doc, id, 'P', id.charCodeAt(0));
  return doc;
};
const viewWith = (doc: Document, memory?: NetworkMemory): ScheduleView => {
  const { computed } = scheduleDates(doc, memory);
  if (!computed) throw new Error('nothing is computed');
  return viewOf(doc, computed, [], undefined);
};
/** Without what roll-ups are reckoned with on their way. */
const told = (v: ScheduleView): object => ({
  ...v,
  rollups: [...v.rollups].map(([id, { start, finish, duration, percent, cost, activities, critical, float }]) => [
    id,
    { start, finish, duration, percent, cost, activities, critical, float },
  ]),
});

test('views arrive whole, whatever changed between them; those with changes on top leave the plan what it is', () => {
  let n = 0;
  const newId = (): string => `n${++n}`;
  const step = fc.record({ act: fc.nat(4), who: fc.nat(9), value: fc.nat(9), onTop: fc.boolean() });
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
      const doc = plan();
      const [memory, tried] = [new NetworkMemory(), new NetworkMemory()];
      const [sent, received] = [new ViewsSent(), new ViewsReceived()];
      let [triedSent, triedReceived] = [sent.fork(), received.fork()];
      for (const s of steps) {
        const ids = [...doc.activities.keys()];
        const id = ids[s.who % ids.length] ?? 'A';
        const outcomes: (() => Outcome)[] = [
          () => setActivities(doc, [id], { duration: 480 * s.value }),
          () => addActivity(doc, { kind: 'activity', id }, { name: 'New' }, newId),
          () => deleteRows(doc, [s.value === 0 ? { kind: 'wbs', id: 'P' } : { kind: 'activity', id }]),
          () => addLink(doc, { from: id, to: ids[s.value % ids.length] ?? 'B' }, newId),
          () => setActivities(doc, [id], { name: `Name ${s.value}` }),
        ];
        const o = outcomes[s.act]?.();
        if (!o?.ok || (s.act === 2 && ids.length < 3)) continue;
        const before = viewWith(doc);
        applyChanges(doc, o.changes);
        const view = s.onTop ? viewWith(doc, tried) : viewWith(doc, memory);
        expect(view).toEqual(viewWith(doc));
        const lean = structuredClone(s.onTop ? triedSent.lean(view) : sent.lean(view));
        expect(told(s.onTop ? triedReceived.whole(lean) : received.whole(lean))).toEqual(told(view));
        if (!s.onTop) {
          if (s.value > 4) [triedSent, triedReceived] = [sent.fork(), received.fork()];
          continue;
        }
        applyChanges(doc, invertChanges(o.changes));
        expect(viewWith(doc, memory)).toEqual(before);
      }
    }),
    { numRuns: 60 },
  );
});

test('of an edit that moves dates only dates travel, and lists stay the same ones', () => {
  const doc = plan();
  const memory = new NetworkMemory();
  const [sent, received] = [new ViewsSent(), new ViewsReceived()];
  const first = received.whole(structuredClone(sent.lean(viewWith(doc, memory))));
  expect(first.ids).toEqual(['C', 'D', 'A', 'B']);
  const o = setActivities(doc, ['B'], { duration: 4800 });
  if (!o.ok) throw new Error('refused');
  applyChanges(doc, o.changes);
  const lean: LeanView = structuredClone(sent.lean(viewWith(doc, memory)));
  expect([lean.ids, lean.linkIds, lean.costs, [...lean.rollups.changed.keys()], lean.rollups.gone]).toEqual([null, null, null, ['', 'P'], []]);
  // B and C are later, D has more float; what is critical, begun or due is so as before, and no link has another slack.
  expect(Object.keys(lean.figures).sort()).toEqual(['aheadFrom', 'finish', 'freeFloat', 'lateFinish', 'lateStart', 'length', 'planned', 'start', 'totalFloat']);
  const second = received.whole(lean);
  expect([second.state === first.state, second.driving === first.driving, second.start === first.start]).toEqual([true, true, false]);
  must(doc, deleteRows(doc, [{ kind: 'activity', id: 'D' }]));
  const third = structuredClone(sent.lean(viewWith(doc, memory)));
  expect(third.ids).toEqual({ head: 1, tail: 2, between: [] });
  // A row less: all figures of activities are others, those of links are not.
  expect([third.figures.state?.length, third.figures.deadline?.length, third.figures.slack]).toEqual([3, 3, undefined]);
  expect(received.whole(third).ids).toEqual(['C', 'A', 'B']);
  expect([second.ids === first.ids, second.linkIds === first.linkIds, second.costs === first.costs]).toEqual([true, true, true]);
});
