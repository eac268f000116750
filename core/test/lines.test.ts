/** Assignments as lines under their activity: their figures are those of the activity's own fields, their parts where the work lies. */
import { activityCell, fieldOf } from '@yellowhammer/core/fields/list';
import { assignmentLines } from '@yellowhammer/core/load/lines';
import { heightsOf } from '@yellowhammer/core/outline/heights';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { sky } from '@yellowhammer/demo/scenario';
import { peopledPlan, sure, viewIn } from './helpers';

test('who, how much, when and for how much: a mason who comes two days later, and lime by the tonne', () => {
  const doc = peopledPlan(
    { activities: [['A', '10d', { actualStart: '2026-03-02T08:00', remaining: 2880 }]], project: { dataDate: '2026-03-06T00:00' } },
    {
      resources: [
        { id: 'mason', rates: [{ from: '2026-01-01', perHour: 30 }], perUse: 100, colour: '#336699' },
        { id: 'lime', kind: 'material', unit: 't', prices: [{ from: '2026-01-01', price: 200 }] },
      ],
      assignments: [
        { activityId: 'A', resourceId: 'mason', units: 2, delay: 960, work: 2 * 8 * 480_000 },
        { activityId: 'A', resourceId: 'lime', quantity: 5 },
      ],
    },
  );
  const lines = assignmentLines(doc, sure(schedule(doc).computed), ['A', 'nobody']);
  // Four of ten days are done: two of the mason's eight, 32 of 128 hours at 30, and 100 for the use.
  expect(lines.map((l) => [l.who, l.unit, l.units, l.actual / 60_000, l.remaining / 60_000, l.actualCost, l.remainingCost, l.colour])).toEqual([
    ['mason', null, 2, 32, 96, 32 * 30 * 100 + 100 * 100, 96 * 30 * 100, '#336699'],
    ['lime', 't', 1, 2000 / 60_000, 3000 / 60_000, 2 * 200 * 100, 3 * 200 * 100, null],
  ]);
  expect(lines.map((l) => l.parts.map((p) => [formatInstant(p.from), formatInstant(p.to), p.done]))).toEqual([
    [
      ['2026-03-04T08:00', '2026-03-05T17:00', true],
      ['2026-03-06T08:00', '2026-03-13T17:00', false],
    ],
    [
      ['2026-03-02T08:00', '2026-03-05T17:00', true],
      ['2026-03-06T08:00', '2026-03-13T17:00', false],
    ],
  ]);
  expect([lines[0]?.start, lines[0]?.finish].map((t) => formatInstant(t ?? 0))).toEqual(['2026-03-04T08:00', '2026-03-13T17:00']);
});

test('in the demo the lines of each activity add up to its work and cost, and break where the island stops for the winter', () => {
  const { document: doc } = sky();
  const computed = sure(schedule(doc).computed);
  const context = { doc, view: viewIn(doc), baseline: null, clock: false };
  const all = assignmentLines(doc, computed, [...doc.activities.keys()]);
  expect(all.length).toBe(doc.assignments.size);
  let compared = 0;
  for (const a of doc.activities.values()) {
    const own = all.filter((l) => l.activityId === a.id);
    if (own.length === 0) continue;
    const value = (key: string): number => Number(sure(fieldOf(doc, key)).value(activityCell(context, a)) ?? 0);
    expect(Math.abs(own.reduce((n, l) => n + (l.unit === null ? l.actual + l.remaining : 0), 0) / 60_000 - value('work'))).toBeLessThan(0.01);
    expect(own.reduce((n, l) => n + l.actualCost + l.remainingCost, 0) / 100).toBeCloseTo(value('assignedCost'), 2);
    compared++;
  }
  expect(compared).toBeGreaterThan(30);
  const winter = all.find((l) => doc.activities.get(l.activityId)?.code === '560');
  expect(winter?.parts.length).toBeGreaterThan(1);
});

test('a row with lines below keeps the middle of its own line, and the rows after it move down', () => {
  const rows = ['a', 'b', 'c'].map((id) => ({ kind: 'activity' as const, id }));
  const h = heightsOf(rows, 20, new Map(), (r) => (r.id === 'b' ? 1.6 : 0));
  expect(rows.map((_, i) => [h.top(i), h.height(i), h.below(i), h.middle(i)])).toEqual([
    [0, 20, 0, 10],
    [20, 52, 32, 30],
    [72, 20, 0, 82],
  ]);
  expect([h.total, h.rowAt(71), h.rowAt(72), heightsOf(rows, 20).below(1)]).toEqual([92, 1, 2, 0]);
});
