/** People on time: bars, days, and what giving work to somebody else would do to both; by hand. */
import { loadsOf } from '@yellowhammer/core/load/load';
import { peopleOnTime, tryHandover } from '@yellowhammer/core/load/people';
import { writeDocument } from '@yellowhammer/core/model/file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { peopledPlan, sure } from './helpers';

/** Monday 2 March: Ana alone on A (2 days) and, half, on B on Tuesday; Ben is off on Thursday and has nothing to do but half a day of C. */
const doc = peopledPlan(
  {
    activities: [
      ['A', '2d', { keepsDays: true }],
      ['B', '1d', { keepsDays: true }],
      ['C', '0.5d', { duration: 240, keepsDays: true }],
    ],
    links: ['A SS+1d > B', 'A FS > C'],
  },
  {
    resourceGroups: [{ id: 'g', name: 'Gang' }],
    resources: [
      { id: 'ana', groupId: 'g' },
      { id: 'ben', daysOff: [{ name: 'leave', from: '2026-03-05', to: '2026-03-05', yearly: false, work: [] }] },
      { id: 'lime', kind: 'material', unit: 't' },
    ],
    assignments: [
      { activityId: 'A', resourceId: 'ana', work: 2 * 480_000 },
      { activityId: 'B', resourceId: 'ana', units: 0.5, work: 240_000 },
      { activityId: 'C', resourceId: 'ben', work: 240_000 },
      { activityId: 'A', resourceId: 'lime', quantity: 3 },
    ],
  },
);
const r = sure(schedule(doc).computed);
const loads = loadsOf(doc, r);
const at = (t: string): number => parseInstant(t) as number;

test('each with bars one above the other where they overlap, and each day in a word; no materials', () => {
  const { rows, first } = peopleOnTime(doc, r, loads, at('2026-03-02T00:00'), at('2026-03-07T00:00'));
  expect(formatInstant(first * 1440)).toBe('2026-03-02T00:00');
  expect(rows.map((p) => [p.name, p.group, p.stacks, ...p.bars.map((b) => `${b.label} ${formatInstant(b.from).slice(8)} ${formatInstant(b.to).slice(8)} ${b.stack}`)])).toEqual([
    ['ana', 'Gang', 2, 'A A 02T08:00 03T17:00 0', 'B B 03T08:00 03T17:00 1'],
    ['ben', null, 1, 'C C 04T08:00 04T12:00 0'],
  ]);
  expect(rows.map((p) => p.days)).toEqual([
    ['full', 'over', 'free', 'free', 'free'],
    ['free', 'free', 'room', 'off', 'free'],
  ]);
});

test('half a day of Tuesday given to Ben takes the overload away; given where it lies already it is refused; nothing is changed', () => {
  const before = JSON.stringify(writeDocument(doc));
  const half = tryHandover(doc, r, loads, 'x1', 'ben');
  expect(half.both).toEqual([
    { name: 'ana', before: { over: 240_000, peak: 500 }, after: { over: 0, peak: 0 } },
    { name: 'ben', before: { over: 0, peak: 0 }, after: { over: 0, peak: 0 } },
  ]);
  expect([half.refusal, half.finish[0] === half.finish[1], half.projectFinish[0] === half.projectFinish[1]]).toEqual([null, true, true]);
  expect(tryHandover(doc, r, loads, 'x0', 'ana').refusal).toContain('has them already');
  expect(tryHandover(doc, r, loads, 'x3', 'ben').refusal).toContain('a material has a quantity');
  expect(tryHandover(doc, r, loads, 'gone', 'ben').refusal).toContain('not there any more');
  expect(JSON.stringify(writeDocument(doc))).toBe(before);
});

test('a day is over where two are wanted at once, though its hours would suffice', () => {
  const both = peopledPlan(
    {
      activities: [
        ['D', '0.5d', { duration: 240 }],
        ['E', '0.5d', { duration: 240 }],
      ],
    },
    { resources: [{ id: 'ana' }], assignments: ['D', 'E'].map((activityId) => ({ activityId, resourceId: 'ana', work: 240_000 })) },
  );
  const c = sure(schedule(both).computed);
  expect(peopleOnTime(both, c, loadsOf(both, c), at('2026-03-02T00:00'), at('2026-03-03T00:00')).rows[0]?.days).toEqual(['over']);
});
