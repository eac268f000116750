/** The graph of loads under the plan: demand, what is there, and the part of what is chosen, on common instants. */
import { type GraphOf, loadGraph } from '@yellowhammer/core/load/graph';
import { loadsOf } from '@yellowhammer/core/load/load';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { peopledPlan, sure } from './helpers';

/** Two masons of Ana for two days, one more beside it on the second; Ben alone; lime counts for nobody. */
const doc = peopledPlan(
  {
    activities: [
      ['A', '2d', {}],
      ['B', '1d', {}],
    ],
    links: ['A SS+1d > B'],
  },
  {
    resources: [{ id: 'ana', availability: [{ from: '2026-01-01', units: 2 }] }, { id: 'ben' }, { id: 'lime', kind: 'material', unit: 't' }],
    assignments: [
      { activityId: 'A', resourceId: 'ana', units: 2, work: 2 * 480_000 * 2 },
      { activityId: 'B', resourceId: 'ana', units: 1, work: 480_000 },
      { activityId: 'B', resourceId: 'ben', units: 0.5, work: 240_000 },
      { activityId: 'A', resourceId: 'lime', quantity: 3 },
    ],
  },
);
const r = sure(schedule(doc).computed);
const graph = (of: GraphOf, chosen: string[] = []) => {
  const g = sure(loadGraph(doc, loadsOf(doc, r), of, new Set(chosen)));
  return { name: g.name, rows: g.at.map((t, n) => [formatInstant(t).slice(8, 16), g.demand[n]! / 1000, g.there ? g.there[n]! / 1000 : null, g.part[n]! / 1000]) };
};

test('of one resource: the limit beside it, and what the chosen activity asks for', () => {
  expect(graph({ of: 'subject', kind: 'resource', id: 'ana' }, ['B']).rows).toEqual([
    ['02T08:00', 2, 2, 0],
    ['02T12:00', 0, 0, 0],
    ['02T13:00', 2, 2, 0],
    ['02T17:00', 0, 0, 0],
    ['03T08:00', 3, 2, 1],
    ['03T12:00', 0, 0, 0],
    ['03T13:00', 3, 2, 1],
    ['03T17:00', 0, 0, 0],
  ]);
});
test('of all: labour and equipment together, no material', () => {
  const { name, rows } = graph({ of: 'all' });
  expect([name, rows[0], rows[4]]).toEqual(['Everybody', ['02T08:00', 2, 3, 0], ['03T08:00', 3.5, 3, 0]]);
});
test('of chosen activities: what they ask for of whomever, without a limit', () => {
  expect(graph({ of: 'activities', ids: ['B'] }).rows[0]).toEqual(['03T08:00', 1.5, null, 1.5]);
  expect(graph({ of: 'activities', ids: ['A', 'B'] })).toMatchObject({ name: '2 activities' });
  expect(graph({ of: 'activities', ids: [] }).rows).toEqual([]);
});
test('nobody of that name: nothing', () => {
  expect(loadGraph(doc, loadsOf(doc, r), { of: 'subject', kind: 'role', id: 'ana' }, new Set())).toBeUndefined();
});
