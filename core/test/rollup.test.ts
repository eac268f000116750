/** Roll-ups, the header's figures and comparing, against figures worked by hand. Days of eight hours, Monday 2 March 2026 first. */
import { differencesOf } from '@yellowhammer/core/compare/views';
import { compareStates, type State } from '@yellowhammer/core/compare/compare';
import { effectOf } from '@yellowhammer/core/compare/effect';
import { setActivities } from '@yellowhammer/core/commands/cells';
import type { Document } from '@yellowhammer/core/model/document';
import type { Options, WbsNode } from '@yellowhammer/core/model/schema';
import { plannedPercent, progressPoint } from '@yellowhammer/core/rollup/progress-line';
import { projectCalendar, rollUp } from '@yellowhammer/core/rollup/rollup';
import { daysBetween, summarise } from '@yellowhammer/core/rollup/summary';
import { NONE } from '@yellowhammer/core/schedule/network';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { baselineViewOf, viewOf } from '@yellowhammer/core/schedule/view';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { d, documentOf, type PlanText, sure } from './helpers';

const node = (id: string, parentId: string | null, rank = 0): WbsNode => ({ id, rank, parentId, name: id, code: '', lane: false, notes: '', values: {} });
/** A plan with nodes: `of` says which activity lies in which. */
function plan(p: PlanText, nodes: WbsNode[] = [], of: Record<string, string> = {}): Document {
  const doc = documentOf(p);
  for (const n of nodes) doc.wbs.set(n.id, n);
  for (const [id, wbsId] of Object.entries(of)) doc.activities.set(id, { ...sure(doc.activities.get(id)), wbsId });
  return doc;
}
const rolled = (doc: Document) => rollUp(doc, sure(schedule(doc).computed));
const at = (text: string): number => sure(parseInstant(text));

/** Two floors in a house: strip 4 d then paint 2 d; a fence beside of 1 d with float; scaffolding spans all. */
const house = (options: Partial<Options> = {}, more: Record<string, Record<string, unknown>> = {}): Document =>
  plan(
    {
      project: { dataDate: '2026-03-04T08:00', requiredFinish: '2026-03-12T17:00', currency: 'EUR' },
      options,
      activities: [
        ['strip', '4d', { cost: 300, actualStart: '2026-03-02T08:00', remaining: d(2), ...more['strip'] }],
        ['paint', '2d', { cost: 100, ...more['paint'] }],
        ['fence', '1d', { cost: -50, ...more['fence'] }],
        ['scaffold', 'effort', { duration: d(9), cost: 40, ...more['scaffold'] }],
        ['done', 'finish', { cost: 7, ...more['done'] }],
      ],
      links: ['strip > paint', 'paint > done', 'strip SS > scaffold', 'paint FF > scaffold'],
    },
    [node('house', null), node('inside', 'house'), node('outside', 'house', 1), node('empty', 'house', 2)],
    { strip: 'inside', paint: 'inside', fence: 'outside', scaffold: 'house' },
  );

test('dates, working duration, percent by duration, cost, count and float of every node', () => {
  const r = rolled(house());
  const shown = (id: string): unknown => {
    const n = sure(r.get(id));
    return [formatInstant(n.start), formatInstant(n.finish), n.duration / 480, n.percent, n.cost, n.activities, n.critical, n.float === NONE ? null : n.float / 480];
  };
  // Strip has 2 d left from Wednesday 4th: it ends on the 5th, paint runs on the 6th and Monday the 9th. 2 of 6 days are done.
  expect(shown('inside')).toEqual(['2026-03-02T08:00', '2026-03-09T17:00', 6, 33.3, 400, 2, true, 0]);
  // The fence, unstarted, lies on the data date; from there to the 9th it has three days to spare.
  expect(shown('outside')).toEqual(['2026-03-04T08:00', '2026-03-04T17:00', 1, 0, -50, 1, false, 3]);
  // 2 of 7 days of tasks: the level of effort weighs nothing.
  expect(shown('house')).toEqual(['2026-03-02T08:00', '2026-03-09T17:00', 6, 28.6, 390, 4, true, 0]);
  expect(shown('')).toEqual(['2026-03-02T08:00', '2026-03-09T17:00', 6, 28.6, 397, 5, true, 0]);
  const empty = sure(r.get('empty'));
  expect([empty.start, empty.finish, empty.duration, empty.percent, empty.activities, empty.critical, empty.float]).toEqual([NONE, NONE, 0, 0, 0, false, NONE]);
});

test('percent by cost: what costs less than nothing weighs nothing', () => {
  // 300 at 50 % and 100 at 0 %: 150 of 400; in the house 40 more that are not done: 150 of 440; with the milestone 447.
  const r = rolled(house({ percentWeight: 'cost' }));
  expect(['inside', 'outside', 'house', ''].map((id) => sure(r.get(id)).percent)).toEqual([37.5, 0, 34.1, 33.6]);
});

test('the least float of a node is the least below it, and none where nothing has any', () => {
  const doc = plan(
    {
      activities: [
        ['A', '5d'],
        ['B', '2d'],
        ['C', '1d'],
        ['L', 'effort'],
      ],
      links: ['A SS > L', 'A FF > L'],
    },
    [node('n', null), node('loe', null, 1)],
    { B: 'n', C: 'n', L: 'loe' },
  );
  const r = rolled(doc);
  expect([sure(r.get('n')).float / 480, sure(r.get('n')).critical, sure(r.get('loe')).float, sure(r.get('')).float]).toEqual([3, false, NONE, 0]);
});

test.each([
  ['the long one first', ['A', 'B']],
  ['the short one first', ['B', 'A']],
])('the earliest start, the latest finish and the least float of what lies inside, %s', (_, order) => {
  // A takes the week; B lies inside it, from Wednesday to Thursday, with a day to spare.
  const rows: Record<string, PlanText['activities'][number]> = { A: ['A', '5d'], B: ['B', '2d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-04' }] }] };
  const alone = rolled(plan({ activities: order.map((id) => sure(rows[id])) }, [node('n', null)], { A: 'n', B: 'n' }));
  const apart = rolled(
    plan(
      { activities: order.map((id) => sure(rows[id])) },
      [node('p', null), node('x', 'p', order[0] === 'A' ? 0 : 1), node('y', 'p', order[0] === 'A' ? 1 : 0), node('z', 'p', 2)],
      { A: 'x', B: 'y' },
    ),
  );
  for (const n of [sure(alone.get('n')), sure(apart.get('p')), sure(apart.get(''))])
    expect([formatInstant(n.start), formatInstant(n.finish), n.float, n.activities]).toEqual(['2026-03-02T08:00', '2026-03-06T17:00', 0, 2]);
  const y = sure(apart.get('y'));
  expect([formatInstant(y.start), formatInstant(y.finish), y.float, y.critical]).toEqual(['2026-03-04T08:00', '2026-03-05T17:00', d(1), false]);
});

test('a working duration counts in the project’s calendar, whatever that of the activities', () => {
  const doc = plan({ project: { calendarId: 'clock' }, activities: [['A', '1d@five']] }, [node('n', null)], { A: 'n' });
  const r = sure(schedule(doc).computed);
  // From 08:00 to 17:00 by the clock are nine hours.
  expect([sure(rollUp(doc, r).get('n')).duration, projectCalendar(doc, r).id]).toEqual([540, 'clock']);
});

test('the figures of the header', () => {
  const doc = house();
  doc.snapshots.set('b', { id: 'b', rank: 0, kind: 'baseline', name: 'First', description: '', at: '2026-03-01T08:00:00.000Z', dataDate: null });
  doc.project.set('project', { ...sure(doc.project.get('project')), baselineId: 'b' });
  const s = summarise(doc, schedule(doc).computed, at('2026-03-06T12:00'));
  expect(s).toEqual({
    start: '2026-03-02T08:00',
    finish: '2026-03-09T17:00',
    dataDate: '2026-03-04T08:00',
    requiredFinish: '2026-03-12T17:00',
    // From Friday noon to Monday's end: half a day and a whole one.
    againstBaseline: 1.5,
    baselineName: 'First',
    toRequired: 3,
    activities: 5,
    links: 4,
    percent: 28.6,
    cost: 397,
    nextMilestone: { name: 'done', finish: '2026-03-09T17:00' },
  });
  expect(summarise(doc, schedule(doc).computed, undefined)).toMatchObject({ againstBaseline: null, toRequired: 3 });
  expect(summarise(doc, undefined, undefined)).toEqual({
    start: null,
    finish: null,
    dataDate: '2026-03-04T08:00',
    requiredFinish: '2026-03-12T17:00',
    againstBaseline: null,
    baselineName: 'First',
    toRequired: null,
    activities: 5,
    links: 4,
    percent: 0,
    cost: 0,
    nextMilestone: null,
  });
});

test('an empty plan has no dates, and nothing to come', () => {
  const doc = documentOf({ project: { requiredFinish: '2026-03-12T17:00' }, activities: [] });
  expect(summarise(doc, schedule(doc).computed, undefined)).toMatchObject({
    start: null,
    finish: null,
    toRequired: null,
    percent: 0,
    cost: 0,
    nextMilestone: null,
    baselineName: null,
  });
});

test.each<[string, PlanText['activities'], string | null]>([
  [
    'the earliest of those to come',
    [
      ['M', 'finish', { constraints: [{ kind: 'finishNotBefore', date: '2026-03-09' }] }],
      ['N', 'start', { constraints: [{ kind: 'startNotBefore', date: '2026-03-05' }] }],
    ],
    'N',
  ],
  [
    'the first in the file where two fall together',
    [
      ['M', 'finish'],
      ['N', 'finish'],
    ],
    'M',
  ],
  [
    'none that is reached',
    [
      ['M', 'finish', { actualFinish: '2026-03-02T08:00' }],
      ['N', 'finish', { constraints: [{ kind: 'finishNotBefore', date: '2026-03-09' }] }],
    ],
    'N',
  ],
  ['none where there are only tasks', [['A', '1d']], null],
])('the next milestone is %s', (_, activities, name) => {
  const doc = documentOf({ project: { dataDate: '2026-03-04T08:00' }, activities });
  expect(summarise(doc, schedule(doc).computed, undefined).nextMilestone?.name ?? null).toBe(name);
});

describe('progress against a baseline', () => {
  const doc = documentOf({
    activities: [
      ['A', '4d'],
      ['M', 'finish'],
    ],
  });
  const c = projectCalendar(doc, sure(schedule(doc).computed));
  const base = { start: at('2026-03-02T08:00'), finish: at('2026-03-05T17:00') };
  const a = sure(doc.activities.get('A'));
  test.each([
    ['before it begins', '2026-03-02T07:00', 0],
    ['after a quarter', '2026-03-02T17:00', 25],
    ['in the middle of a day', '2026-03-04T12:00', 62.5],
    ['after a third of a day', '2026-03-02T10:40', 8.3],
    ['when it is over', '2026-03-20T17:00', 100],
  ])('planned percent %s', (_, date, percent) => expect(plannedPercent(c, base, at(date))).toBe(percent));
  test.each([
    ['at its instant', '2026-03-05T17:00', 100],
    ['a minute before', '2026-03-05T16:59', 0],
  ])('of work without length %s', (_, date, percent) => expect(plannedPercent(c, { start: base.finish, finish: base.finish }, at(date))).toBe(percent));

  test.each<[string, object, string, string, number]>([
    ['unstarted and not due', {}, '2026-02-27T17:00', '2026-02-27T17:00', 0],
    ['unstarted and due', {}, '2026-03-04T17:00', '2026-03-02T08:00', -3],
    ['half done after one day', { actualStart: '2026-03-02T08:00', remaining: d(2) }, '2026-03-02T17:00', '2026-03-03T17:00', 1],
    ['half done after three', { actualStart: '2026-03-02T08:00', remaining: d(2) }, '2026-03-04T17:00', '2026-03-03T17:00', -1],
    ['begun with nothing done', { actualStart: '2026-03-02T08:00', remaining: d(4) }, '2026-03-03T08:00', '2026-03-02T08:00', -1],
    ['finished early', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }, '2026-03-03T17:00', '2026-03-05T17:00', 2],
    ['finished long ago', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }, '2026-03-09T17:00', '2026-03-09T17:00', 0],
  ])('%s', (_, fields, date, point, days) => {
    const p = progressPoint({ ...a, ...fields }, c, base, at(date));
    expect([formatInstant(p.at), p.days]).toEqual([point, days]);
  });
  test('a milestone with one actual is reached', () => {
    const m = { ...sure(doc.activities.get('M')), actualStart: '2026-03-03T08:00' };
    expect(progressPoint(m, c, { start: base.finish, finish: base.finish }, at('2026-03-03T08:00')).days).toBe(3);
  });
  test('days from one instant to another, and back', () => {
    expect([daysBetween(c, at('2026-03-06T12:00'), at('2026-03-09T12:00')), daysBetween(c, at('2026-03-09T12:00'), at('2026-03-06T12:00'))]).toEqual([1, -1]);
    // Twenty minutes are 0.04 of a day, thirty 0.06.
    expect([daysBetween(c, at('2026-03-02T08:00'), at('2026-03-02T08:20')), daysBetween(c, at('2026-03-02T08:00'), at('2026-03-02T08:30'))]).toEqual([0, 0.1]);
  });
});

describe('comparing', () => {
  const state = (doc: Document): State => ({ doc, computed: sure(schedule(doc).computed) });
  const text = (more: Record<string, string> = {}): PlanText => ({
    activities: [
      ['A', more['A'] ?? '2d'],
      ['B', more['B'] ?? '3d'],
      ['C', '1d'],
      ['R', 'margin 2d'],
      ['M', 'finish', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-12' }] }],
    ],
    links: ['A > B', 'B > R', 'R > M'],
  });
  const nodes = [node('n', null)];
  const of = { A: 'n', B: 'n' };
  const before = plan(text(), nodes, of);
  const after = plan(text({ A: '3d', B: '2.5d' }), nodes, of);
  // Computed inside the tests: what runs while they are collected belongs to none of them.
  const compared = () => compareStates(state(before), state(after));

  test('of each activity: start, finish, duration, float in days, and what kind of change', () => {
    const c = compared();
    const shown = (id: string): unknown => {
      const r = sure(c.rows.find((x) => x.id === id));
      return [r.change, r.start, r.finish, r.duration, r.float, r.percent, r.critical];
    };
    // A takes a day more, B half a day less and begins a day later; C has half a day more to spare; the margin loses it.
    expect(shown('A')).toEqual(['changed', 0, 1, 1, 0, 0, true]);
    expect(shown('B')).toEqual(['changed', 1, 0.5, -0.5, 0, 0, true]);
    expect(shown('C')).toEqual(['changed', 0, 0, 0, 0.5, 0, false]);
    // From the 9th to the 12th at noon there is room for all of the margin.
    expect(shown('R')).toEqual(['changed', 0.5, 0.5, 0, 0, 0, true]);
    expect(shown('n')).toEqual(['changed', 0, 0.5, 0.5, 0, 0, false]);
    expect([c.changed, c.added, c.removed, c.total, c.finishMoved]).toEqual([5, 0, 0, 5, 0.5]);
    expect([formatInstant(c.before), formatInstant(c.after)]).toEqual(['2026-03-10T17:00', '2026-03-11T12:00']);
  });

  test('rows come in the later outline, then what is only in the earlier one; depths and names are theirs', () => {
    const later = plan(
      {
        activities: [
          ['A', '2d'],
          ['D', '1d'],
        ],
      },
      nodes,
      { A: 'n' },
    );
    const both = compareStates(state(before), state(later));
    expect(both.rows.map((r) => [r.kind, r.id, r.depth, r.change])).toEqual([
      ['wbs', 'n', 0, 'changed'],
      ['activity', 'A', 1, 'same'],
      ['activity', 'D', 0, 'added'],
      ['activity', 'B', 1, 'removed'],
      ['activity', 'C', 0, 'removed'],
      ['activity', 'R', 0, 'removed'],
      ['activity', 'M', 0, 'removed'],
    ]);
    const added = sure(both.rows.find((r) => r.id === 'D'));
    expect([added.before, added.start, added.finish, added.duration, added.float, added.code, added.name]).toEqual([null, 0, 0, 0, 0, 'D', 'D']);
    const removed = sure(both.rows.find((r) => r.id === 'B'));
    expect([removed.after, removed.critical]).toEqual([null, false]);
    expect([both.added, both.removed, both.total]).toEqual([1, 4, 6]);
  });

  test('codes and names, and days of both kinds of row, as the later side has them', () => {
    const c = compared();
    expect(c.rows.map((r) => [r.kind, r.code, r.name])).toEqual([
      ['wbs', '1', 'n'],
      ['activity', 'A', 'A'],
      ['activity', 'B', 'B'],
      ['activity', 'C', 'C'],
      ['activity', 'R', 'R'],
      ['activity', 'M', 'M'],
    ]);
    const n = sure(c.rows[0]);
    expect([n.before?.duration, n.after?.duration, n.before?.float, n.after?.float, n.before?.perDay]).toEqual([d(5), d(5.5), 0, 0, 480]);
    const r = sure(c.rows[4]);
    expect([r.before?.duration, r.after?.duration]).toEqual([d(2), d(2)]);
  });

  test.each<[string, PlanText, PlanText, Partial<Record<'start' | 'finish' | 'duration' | 'float' | 'percent', number>>]>([
    [
      'the start alone',
      {
        activities: [
          ['A', '2d'],
          ['Z', '9d'],
        ],
      },
      {
        activities: [
          ['A', '1d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-03' }] }],
          ['Z', '9d'],
        ],
      },
      { start: 1, duration: -1 },
    ],
    [
      'the finish alone',
      {
        activities: [
          ['A', '1d'],
          ['Z', '9d'],
        ],
      },
      {
        activities: [
          ['A', '2d'],
          ['Z', '9d'],
        ],
      },
      { finish: 1, duration: 1, float: -1 },
    ],
    [
      'the float alone',
      {
        activities: [
          ['A', '2d'],
          ['Z', '9d'],
        ],
      },
      {
        activities: [
          ['A', '2d'],
          ['Z', '8d'],
        ],
      },
      { float: -1 },
    ],
    [
      'the calendar’s day alone',
      {
        activities: [
          ['A', '2d@clock'],
          ['Z', '9d'],
        ],
      },
      {
        activities: [
          ['A', '2d@clock'],
          ['Z', '8d'],
        ],
      },
      { float: -1 },
    ],
    [
      'no float on one side',
      {
        activities: [
          ['A', '2d'],
          ['Z', '9d'],
        ],
      },
      {
        project: { dataDate: '2026-03-04T08:00' },
        activities: [
          ['A', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
          ['Z', '9d'],
        ],
      },
      { percent: 100 },
    ],
    [
      'the percent alone',
      {
        project: { dataDate: '2026-03-03T08:00' },
        activities: [
          ['A', '2d', { actualStart: '2026-03-02T08:00', remaining: d(2) }],
          ['Z', '9d'],
        ],
      },
      {
        project: { dataDate: '2026-03-03T08:00' },
        activities: [
          ['A', '4d', { actualStart: '2026-03-02T08:00', remaining: d(2) }],
          ['Z', '9d'],
        ],
      },
      { percent: 50, duration: 2 },
    ],
  ])('%s makes a change', (_, one, two, differ) => {
    const r = sure(compareStates(state(documentOf(one)), state(documentOf(two))).rows.find((x) => x.id === 'A'));
    expect([r.change, { start: r.start, finish: r.finish, duration: r.duration, float: r.float, percent: r.percent }]).toEqual([
      'changed',
      { start: 0, finish: 0, duration: 0, float: 0, percent: 0, ...differ },
    ]);
  });

  test('views of other lists of activities are compared by their ids; what stays is not listed', () => {
    const [one, two] = [
      documentOf({
        activities: [
          ['A', '2d'],
          ['B', '1d'],
          ['C', '1d'],
        ],
      }),
      documentOf({
        activities: [
          ['N', '5d'],
          ['B', '3d@clock'],
          ['A', '2d'],
        ],
      }),
    ];
    const views = [one, two].map((doc) => viewOf(doc, sure(schedule(doc).computed), [], at('2026-03-03T17:00')));
    const diff = differencesOf(two, views[0]!, views[1]!);
    // B now takes 24 hours by the clock, to Tuesday 08:00; N is new, and A stays where it was.
    expect(diff.moved.map((m) => m.id)).toEqual(['B']);
    expect([diff.count, diff.later, diff.finishDays, diff.againstBaseline, diff.toRequired]).toEqual([1, true, 3, [0, 3], [null, null]]);
    const same = differencesOf(one, views[0]!, views[0]!);
    expect([same.moved, same.count, same.later, same.finishDays]).toEqual([[], 0, false, 0]);
    const shifted = { ...views[0]!, start: views[0]!.start.map((x, i) => (i === 0 ? x - 60 : x)) };
    // A start that moves is a move, though no finish goes later.
    const begun = differencesOf(one, views[0]!, shifted);
    expect([begun.moved.map((m) => [m.id, m.days]), begun.later]).toEqual([[['A', 0]], false]);
  });

  test('changes of a plan that cannot be computed have no effect that could be told', () => {
    const broken = documentOf({ activities: [['A', '1d']] });
    broken.calendars.set('five', { ...sure(broken.calendars.get('five')), week: [[], [], [], [], [], [], []] });
    expect(effectOf(broken, [])).toBeUndefined();
    const good = documentOf({ activities: [['A', '1d']] });
    const five = sure(good.calendars.get('five'));
    expect(effectOf(good, [{ table: 'calendars', id: 'five', before: five, after: { ...five, week: [[], [], [], [], [], [], []] } }])).toBeUndefined();
    expect(effectOf(good, [])).toMatchObject({ count: 0, finishDays: 0 });
  });

  test('a plan against itself is the same', () => {
    const same = compareStates(state(before), state(before));
    expect([...new Set(same.rows.map((r) => r.change))]).toEqual(['same']);
    expect([same.changed, same.finishMoved]).toEqual([0, 0]);
  });

  test('percent and days of another calendar', () => {
    const a = plan({ project: { dataDate: '2026-03-03T08:00' }, activities: [['A', '4d@six', { actualStart: '2026-03-02T08:00', remaining: d(3) }]] });
    const b = plan({ project: { dataDate: '2026-03-03T08:00' }, activities: [['A', '4d@six', { actualStart: '2026-03-02T08:00', remaining: d(1) }]] });
    const r = sure(compareStates(state(a), state(b)).rows[0]);
    expect([r.percent, r.finish, r.before?.percent, r.after?.percent, r.before?.perDay]).toEqual([
      50,
      -2,
      25,
      75,
      sure(schedule(a).computed).network.calendars.find((x) => x.id === 'six')?.minutesPerDay,
    ]);
  });

  test('what changes would move: the largest first, days of each calendar, critical before and after', () => {
    const o = setActivities(before, ['A'], { duration: d(4) });
    const e = sure(o.ok ? effectOf(before, o.changes) : undefined);
    // B's move goes over a weekend and is the longest by the clock; the others are as long as each other.
    expect(e.moved.map((m) => [m.id, m.days, formatInstant(m.from), formatInstant(m.to)])).toEqual([
      ['B', 2, '2026-03-06T17:00', '2026-03-10T17:00'],
      ['A', 2, '2026-03-03T17:00', '2026-03-05T17:00'],
      ['R', 2, '2026-03-10T17:00', '2026-03-12T17:00'],
      ['M', 2, '2026-03-10T17:00', '2026-03-12T17:00'],
    ]);
    expect([e.count, e.later, e.finishDays, formatInstant(e.before), formatInstant(e.after)]).toEqual([4, true, 2, '2026-03-10T17:00', '2026-03-12T17:00']);
    const gaps = e.moved.map((m) => Math.abs(m.to - m.from));
    expect([...gaps].sort((x, y) => y - x)).toEqual(gaps);
    const views = [before, after].map((doc) => viewOf(doc, sure(schedule(doc).computed), [], undefined));
    const listed = differencesOf(before, views[0]!, views[1]!, 2);
    expect([listed.moved.length, listed.count]).toEqual([2, 4]);
    const back = differencesOf(before, views[1]!, views[0]!);
    expect([back.later, back.finishDays]).toEqual([false, -0.5]);
    expect([e.criticalBefore, e.criticalAfter]).toEqual([4, 4]);
  });

  test('the dates of a baseline: of activities, and of nodes that have any', () => {
    const doc = plan(text(), [...nodes, node('empty', null, 1)], of);
    const b = baselineViewOf('b', 'First', doc, sure(schedule(doc).computed));
    expect([b.id, b.name, formatInstant(b.projectFinish), [...b.nodes.keys()].sort()]).toEqual(['b', 'First', '2026-03-10T17:00', ['', 'n']]);
    expect(formatInstant(sure(b.dates.get('B')).start)).toBe('2026-03-04T08:00');
    expect(formatInstant(sure(b.nodes.get('n')).finish)).toBe('2026-03-06T17:00');
  });
});

test('near-critical: up to the threshold, in days of its own calendar, and never what is critical', () => {
  const doc = documentOf({
    options: { nearCriticalThreshold: 2 },
    activities: [
      ['A', '6d'],
      ['B', '4d'],
      ['C', '3d'],
      ['S', '24m@six'],
    ],
  });
  const r = sure(schedule(doc).computed);
  const flags = (id: string) => {
    const k = r.network.nodeOf[r.network.ids.indexOf(id)]!;
    return [r.critical[k], r.nearCritical[k]];
  };
  expect(['A', 'B', 'C', 'S'].map(flags)).toEqual([
    [1, 0],
    [0, 1],
    [0, 0],
    [0, 0],
  ]);
});
