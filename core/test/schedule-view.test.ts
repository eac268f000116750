/** What the interface is handed of a schedule: by activity in the order of the file, links, roll-ups, and what a baseline was. */
import { schedule, scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { baselineViewOf, linkState, placeOf, viewOf } from '@yellowhammer/core/schedule/view';
import { NONE } from '@yellowhammer/core/schedule/network';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { compute, d, documentOf, nodeInto, type PlanText, putInto, sure, viewIn } from './helpers';

const told = (t: number): string => (t === NONE ? '-' : formatInstant(t).slice(5).replace('T', ' '));
/** Finished A before begun B before C; D has begun and nothing of it is left; the data date is Thursday 5 March. */
const plan: PlanText = {
  project: { dataDate: '2026-03-05T08:00' },
  activities: [
    ['C', '1d @six', { deadline: '2026-03-13' }],
    ['B', '4d', { actualStart: '2026-03-04T08:00', remaining: d(3) }],
    ['A', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
    ['D', '2d', { actualStart: '2026-03-02T08:00', remaining: 0 }],
  ],
  links: ['A > B', 'B > C', 'D > C'],
};

test('how long each part took is told, in the order in which they are made', () => {
  const parts: [string, number][] = [];
  const began = performance.now();
  scheduleDates(documentOf(plan), undefined, (part, ms) => parts.push([part, ms]));
  const whole = performance.now() - began;
  expect(parts.map(([part]) => part)).toEqual(['network', 'passes']);
  for (const [, ms] of parts) expect(ms > 0 && ms <= whole).toBe(true);
});

test('by activity, in the order of the file', () => {
  const v = viewIn(documentOf(plan));
  expect(v.ids).toEqual(['C', 'B', 'A', 'D']);
  const row = (id: string): unknown[] => {
    const i = sure(placeOf(v, id) as number | undefined);
    return [told(v.start[i]!), told(v.finish[i]!), told(v.aheadFrom[i]!), v.state[i], v.length[i], v.planned[i], told(v.deadline[i]!), v.minutesPerDay[i]];
  };
  // C on the six-day week, whose Saturday is half a day.
  expect([row('C'), row('B'), row('A'), row('D')]).toEqual([
    ['03-10 08:00', '03-10 17:00', '03-10 08:00', 0, d(1), d(1), '03-13 17:00', 480],
    ['03-04 08:00', '03-09 17:00', '03-05 08:00', 1, d(3), d(4), '-', 480],
    ['03-02 08:00', '03-03 17:00', '-', 2, expect.any(Number), d(2), '-', 480],
    ['03-02 08:00', expect.any(String), expect.any(String), 1, 0, d(2), '-', 480],
  ]);
  const at = sure(placeOf(v, 'D') as number | undefined);
  expect(told(v.aheadFrom[at]!)).toBe(told(v.finish[at]!));
  expect(placeOf(v, 'nobody')).toBeUndefined();
});

test('links: slack and driving of those that are computed', () => {
  const v = viewIn(documentOf(plan));
  expect([linkState(v, 'l1'), linkState(v, 'l2')?.driving, linkState(v, 'none')]).toEqual([{ slack: 0, driving: true }, false, undefined]);
  expect(sure(linkState(v, 'l2')).slack).toBeGreaterThan(0);
});

test('logic that is carried through what is finished names its activities', () => {
  const p: PlanText = {
    project: { dataDate: '2026-03-09T08:00' },
    activities: [
      ['P', '3d'],
      ['F', '1d', { actualStart: '2026-03-03T08:00', actualFinish: '2026-03-03T17:00' }],
      ['A', '2d'],
    ],
    links: ['P > F', 'F > A'],
  };
  expect(viewIn(documentOf(p)).carried).toEqual([{ from: 'P', to: 'A', through: 'F', slack: 0, driving: true }]);
  expect(compute(p).carried[0]).toMatchObject({ from: 'P', to: 'A', through: 'F' });
});

test('it begins where the first activity does, or at the planned start where that is earlier; an empty plan there, too', () => {
  const begins = (p: PlanText): string => told(viewIn(documentOf(p)).projectStart);
  const project = { plannedStart: '2026-03-04T08:00' };
  expect(begins({ project, activities: [['A', '1d']] })).toBe('03-04 08:00');
  expect(begins({ project, activities: [['A', '1d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-10' }] }]] })).toBe('03-04 08:00');
  expect(begins({ project: { ...project, dataDate: '2026-03-05T08:00' }, activities: [['A', '1d', { actualStart: '2026-03-02T08:00' }]] })).toBe('03-02 08:00');
  expect(begins({ project, activities: [] })).toBe('03-04 08:00');
});

test('what a baseline was: rows and nodes, money, percent and float', () => {
  const doc = documentOf({
    activities: [
      ['A', '2d', { cost: 300 }],
      ['B', '5d', { cost: 50 }],
      ['C', '1d'],
    ],
    links: ['A > C', 'B > C'],
  });
  nodeInto(doc, 'N', null, 1);
  nodeInto(doc, 'empty', null, 2);
  putInto(doc, 'A', 'N', 0);
  const r = sure(schedule(doc).computed);
  const b = baselineViewOf('b1', 'First', doc, r);
  expect([b.id, b.name, told(b.projectFinish), [...b.dates.keys()].sort(), [...b.nodes.keys()].sort()]).toEqual(['b1', 'First', '03-09 17:00', ['A', 'B', 'C'], ['', 'N']]);
  const a = sure(b.dates.get('A'));
  expect([told(a.start), told(a.finish), a.duration, a.cost, a.percent, a.float]).toEqual(['03-02 08:00', '03-03 17:00', d(2), 300, 0, d(3)]);
  const node = sure(b.nodes.get('N'));
  expect([told(node.start), told(node.finish), node.duration, node.cost, node.percent, node.float]).toEqual(['03-02 08:00', '03-03 17:00', d(2), 300, 0, d(3)]);
  expect([sure(b.nodes.get('')).cost, viewOf(doc, r, [], undefined).rollups.get('')?.cost]).toEqual([350, 350]);
});
