/** What `calc` prints, whole: one plan worked by hand, with each kind of activity, link, progress and question. */
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { scheduleJson } from '@yellowhammer/core/schedule/schedule-json';
import { d, documentOf, fiveDays, planFileOf, type PlanText, sure } from './helpers';

/**
 * The data date is Thursday 5 March. A (2 d) is finished, B (4 d, begun on Wednesday) has three days left until Monday, C (1 d)
 * follows it on Tuesday, past its deadline of Monday; M is the margin of three days before D, which may begin on Monday 16 at the
 * latest; F ends it all.
 */
const plan: PlanText = {
  project: { dataDate: '2026-03-05T08:00' },
  activities: [
    ['A', '2d', { code: '10', name: 'Clear', actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00', wbsId: 'w' }],
    ['B', '4d', { code: '20', name: 'Dig', actualStart: '2026-03-04T08:00', remaining: d(3), wbsId: 'w' }],
    ['C', '1d', { code: '30', name: 'Blind', deadline: '2026-03-09' }],
    ['M', 'margin 3d', { code: '40', name: 'Room' }],
    ['D', '2d', { code: '50', name: 'Pour', constraints: [{ kind: 'startNotAfter', date: '2026-03-16' }] }],
    ['F', '0d', { code: '60', name: 'Done', type: 'finishMilestone', deadline: '2026-03-20' }],
    ['S', '1d', { code: '70', name: 'Side', deadline: '2026-03-11' }],
  ],
  links: ['A > B', 'B > C', 'C > M', 'M > D', 'D > F', 'B SS +1d > S', 'S > F'],
};
const file = { ...planFileOf(plan), wbs: [{ id: 'w', name: 'Ground', rank: 0 }] };
const doc = sure(readProjectFile(file).file).document;
const json = (options = {}): Record<string, unknown> => scheduleJson(doc, [], options).json;
const rows = (j: Record<string, unknown>, key = 'activities'): Record<string, unknown>[] => j[key] as Record<string, unknown>[];
const days = (n: number) => ({ minutes: d(n), days: n });

test('the head, and every activity', () => {
  const j = json();
  expect([j['format'], j['version'], j['projectFinish'], j['dataDate'], 'paths' in j, 'why' in j, 'progress' in j, 'carriedLogicDropped' in j]).toEqual([
    'yellowhammer-schedule',
    1,
    '2026-03-17T17:00',
    '2026-03-05T08:00',
    false,
    false,
    false,
    false,
  ]);
  const plainly = { critical: false, nearCritical: false, onLongestPath: false, calendarId: 'five', wbs: '', remainingStart: null };
  const path = { ...plainly, critical: true, onLongestPath: true };
  expect(rows(j)).toEqual([
    {
      ...plainly,
      id: 'A',
      code: '10',
      name: 'Clear',
      wbs: '1',
      type: 'task',
      state: 'finished',
      earlyStart: '2026-03-02T08:00',
      earlyFinish: '2026-03-03T17:00',
      lateStart: null,
      lateFinish: null,
      length: d(2),
      totalFloat: null,
      freeFloat: null,
      drivingLinks: [],
    },
    {
      ...path,
      id: 'B',
      code: '20',
      name: 'Dig',
      wbs: '1',
      type: 'task',
      state: 'started',
      earlyStart: '2026-03-04T08:00',
      earlyFinish: '2026-03-09T17:00',
      lateStart: '2026-03-05T08:00',
      lateFinish: '2026-03-09T17:00',
      remainingStart: '2026-03-05T08:00',
      length: d(3),
      totalFloat: days(0),
      freeFloat: days(0),
      drivingLinks: [],
    },
    {
      ...path,
      id: 'C',
      code: '30',
      name: 'Blind',
      type: 'task',
      state: 'notStarted',
      earlyStart: '2026-03-10T08:00',
      earlyFinish: '2026-03-10T17:00',
      lateStart: '2026-03-10T08:00',
      lateFinish: '2026-03-10T17:00',
      length: d(1),
      totalFloat: days(0),
      freeFloat: days(0),
      deadlineMissed: true,
      deadlineMissedBy: days(1),
      drivingLinks: ['l1'],
    },
    {
      ...path,
      id: 'M',
      code: '40',
      name: 'Room',
      type: 'margin',
      state: 'notStarted',
      earlyStart: '2026-03-11T08:00',
      earlyFinish: '2026-03-13T17:00',
      lateStart: '2026-03-11T08:00',
      lateFinish: '2026-03-13T17:00',
      length: d(3),
      totalFloat: days(0),
      freeFloat: days(0),
      marginLeft: days(3),
      marginPlanned: days(3),
      drivingLinks: ['l2'],
    },
    {
      ...path,
      id: 'D',
      code: '50',
      name: 'Pour',
      type: 'task',
      state: 'notStarted',
      earlyStart: '2026-03-16T08:00',
      earlyFinish: '2026-03-17T17:00',
      lateStart: '2026-03-16T08:00',
      lateFinish: '2026-03-17T17:00',
      length: d(2),
      totalFloat: days(0),
      freeFloat: days(0),
      drivingLinks: ['l3'],
    },
    {
      ...path,
      id: 'F',
      code: '60',
      name: 'Done',
      type: 'finishMilestone',
      state: 'notStarted',
      earlyStart: '2026-03-17T17:00',
      earlyFinish: '2026-03-17T17:00',
      lateStart: '2026-03-17T17:00',
      lateFinish: '2026-03-17T17:00',
      length: 0,
      totalFloat: days(0),
      freeFloat: days(0),
      deadlineMissed: false,
      deadlineMissedBy: days(0),
      drivingLinks: ['l4'],
    },
    {
      ...plainly,
      id: 'S',
      code: '70',
      name: 'Side',
      type: 'task',
      state: 'notStarted',
      earlyStart: '2026-03-05T08:00',
      earlyFinish: '2026-03-05T17:00',
      lateStart: '2026-03-17T08:00',
      lateFinish: '2026-03-17T17:00',
      length: d(1),
      totalFloat: days(8),
      freeFloat: days(8),
      deadlineMissed: false,
      deadlineMissedBy: days(0),
      // A day after the start of B, as the data date asks, too.
      drivingLinks: ['l5'],
    },
  ]);
});

test('every link in the order of the file', () => {
  expect(rows(json(), 'links')).toEqual([
    // From Tuesday evening to what is left of B, on Thursday: a day.
    { id: 'l0', from: 'A', to: 'B', type: 'FS', slack: days(1), driving: false, binding: true },
    { id: 'l1', from: 'B', to: 'C', type: 'FS', slack: days(0), driving: true, binding: true },
    { id: 'l2', from: 'C', to: 'M', type: 'FS', slack: days(0), driving: true, binding: true },
    { id: 'l3', from: 'M', to: 'D', type: 'FS', slack: days(0), driving: true, binding: true },
    { id: 'l4', from: 'D', to: 'F', type: 'FS', slack: days(0), driving: true, binding: true },
    { id: 'l5', from: 'B', to: 'S', type: 'SS', slack: days(0), driving: true, binding: true },
    { id: 'l6', from: 'S', to: 'F', type: 'FS', slack: days(8), driving: false, binding: true },
  ]);
});

test('a link into a pinned activity binds nothing; without a data date there is none', () => {
  const { json: j } = scheduleJson(
    documentOf({
      activities: [
        ['A', '1d'],
        ['B', '1d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-10' }] }],
      ],
      links: ['A > B'],
    }),
    [],
  );
  expect([rows(j, 'links')[0]?.['binding'], rows(j, 'links')[0]?.['slack'], j['dataDate'], j['carriedLogic'], j['problems']]).toEqual([false, days(5), null, [], []]);
});

test('what is near critical; a node that the activity names', () => {
  const j = scheduleJson(
    documentOf({
      activities: [
        ['A', '6d'],
        ['B', '2d'],
        ['C', '5d'],
      ],
    }),
    [],
  ).json;
  // Five days of float are near; A ends it, B has four, C one.
  expect(rows(j).map((a) => [a['critical'], a['nearCritical']])).toEqual([
    [true, false],
    [false, true],
    [false, true],
  ]);
});

test('paths to the end, to an activity by its number or id, and to none', () => {
  const paths = (j: Record<string, unknown>): unknown[] => rows(j, 'paths').map((p) => [p['slackDays'], p['joins'], (p['activities'] as string[]).join('')]);
  expect(paths(json({ paths: 5 }))).toEqual([
    [0, null, 'BCMDF'],
    [8, 'F', 'S'],
  ]);
  expect(paths(json({ paths: 5, to: '40' }))).toEqual([[0, null, 'BCM']]);
  expect(paths(json({ paths: 5, to: 'M' }))).toEqual([[0, null, 'BCM']]);
  const none = json({ paths: 5, to: '99' });
  expect(['paths' in none, rows(none, 'problems').at(-1)]).toEqual([
    false,
    { code: 'UNKNOWN_ACTIVITY', severity: 'error', message: 'No activity 99 to find paths to.', where: { table: 'activities', id: '99' } },
  ]);
});

test('why a date is so, by number or id; of nobody it is said', () => {
  expect(json({ why: '30' })['why']).toEqual(json({ why: 'C' })['why']);
  expect(json({ why: 'C' })['why']).toMatchObject({ id: 'C' });
  const none = json({ why: '99' });
  expect(['why' in none, rows(none, 'problems').at(-1)]).toEqual([
    false,
    { code: 'UNKNOWN_ACTIVITY', severity: 'error', message: 'No activity 99 to explain.', where: { table: 'activities', id: '99' } },
  ]);
});

test('problems of reading come first; a plan that cannot be computed has problems alone', () => {
  const read = { code: 'WRONG_VALUE', severity: 'error', message: 'x', where: {} } as const;
  expect(rows(scheduleJson(doc, [read]).json, 'problems').map((p) => p['code'])).toEqual(['WRONG_VALUE', 'DEADLINE_MISSED']);
  const loop = documentOf({
    calendars: [{ ...fiveDays, id: 'none', name: 'None', week: Array.from({ length: 7 }, () => []) }],
    project: { calendarId: 'none' },
    activities: [['A', '1d']],
  });
  const { json: j, computed } = scheduleJson(loop, [read]);
  expect([Object.keys(j), computed, rows(j, 'problems')[0]]).toEqual([['problems'], undefined, read]);
});

test('progress against a baseline: planned and done by the data date, and how many days ahead', () => {
  // As it was planned: A until Tuesday, B from Wednesday to Monday, C on Tuesday; X is not in the plan any more.
  const baseline = documentOf({
    ...plan,
    project: {},
    activities: [...plan.activities.map(([id, size]): [string, string] => [id, size]), ['X', '1d']],
    links: ['A > B', 'B > C', 'C > M', 'M > D'],
  });
  const j = json({ baseline });
  const of = (id: string): unknown => rows(j, 'progress').find((p) => p['id'] === id);
  // By Thursday morning A is to be done, and a day of the four of B: it is a quarter done.
  expect(of('A')).toEqual({ id: 'A', plannedPercent: 100, percent: 100, aheadDays: 0 });
  expect(of('B')).toEqual({ id: 'B', plannedPercent: 25, percent: 25, aheadDays: 0 });
  expect(of('C')).toEqual({ id: 'C', plannedPercent: 0, percent: 0, aheadDays: 0 });
  expect(of('X')).toBeUndefined();
  const undated = scheduleJson(documentOf({ activities: [['A', '1d']] }), [], { baseline }).json;
  expect(undated['progress']).toEqual([]);
  // What was not in the baseline has no line.
  expect(rows(json({ baseline: documentOf({ activities: [['A', '2d']] }) }), 'progress').map((p) => p['id'])).toEqual(['A']);
});
