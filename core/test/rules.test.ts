/**
 * The scheduling rules, one worked example each. Dates are worked by hand on the five-day week (Mon to Fri 08:00-12:00,
 * 13:00-17:00), from Monday 2 March 2026, unless a test says otherwise. docs/scheduling.md tells them in words.
 */
import { clock, compute, d, type PlanText } from './helpers';

const table = (name: string, cases: [string, PlanText, Record<string, string>][]): void => {
  describe(name, () => {
    test.each(cases)('%s', (_, plan, expected) => {
      expect(compute(plan).dates).toMatchObject(expected);
    });
  });
};

table('time and calendars', [
  ['a task of three days ends on the third evening', { activities: [['A', '3d']] }, { A: '03-02 08:00 - 03-04 17:00' }],
  ['six days run over the weekend', { activities: [['A', '6d']] }, { A: '03-02 08:00 - 03-09 17:00' }],
  [
    'the successor begins on the next morning',
    {
      activities: [
        ['A', '5d'],
        ['B', '1d'],
      ],
      links: ['A > B'],
    },
    { B: '03-09 08:00 - 03-09 17:00' },
  ],
  ['half a day ends at noon', { activities: [['A', '0.5d']] }, { A: '03-02 08:00 - 03-02 12:00' }],
  ['a night runs past midnight', { activities: [['A', '1d @nights']] }, { A: '03-02 20:00 - 03-03 04:00' }],
  ['three nights', { activities: [['A', '3d @nights']] }, { A: '03-02 20:00 - 03-05 04:00' }],
  [
    'an exception on Wednesday takes Wednesday night, not the end of Tuesday night',
    {
      activities: [['A', '3d @n2']],
      calendars: [
        {
          id: 'n2',
          name: 'n2',
          week: [[['20:00', '28:00']], [['20:00', '28:00']], [['20:00', '28:00']], [['20:00', '28:00']], [], [], []],
          exceptions: [{ from: '2026-03-04', work: [] }],
        },
      ],
    },
    { A: '03-02 20:00 - 03-06 04:00' },
  ],
  [
    'a yearly stop over the new year holds in March only where it lies',
    {
      project: { plannedStart: '2026-12-17T08:00' },
      activities: [['A', '4d @w']],
      calendars: [{ id: 'w', name: 'w', basedOn: 'five', exceptions: [{ from: '2020-12-20', to: '2021-01-06', yearly: true, work: [] }] }],
    },
    { A: '12-17 08:00 - 01-08 17:00' },
  ],
  [
    'of exceptions on one date the last in the list wins, and the parent comes first',
    {
      activities: [['A', '2d @b']],
      calendars: [
        { id: 'p', name: 'p', basedOn: 'five', exceptions: [{ from: '2026-03-02', to: '2026-03-03', work: [] }] },
        { id: 'b', name: 'b', basedOn: 'p', exceptions: [{ from: '2026-03-03', work: [['08:00', '12:00']] }] },
      ],
    },
    { A: '03-03 08:00 - 03-05 12:00' },
  ],
]);

table('links and lags', [
  [
    'start to start with a lag',
    {
      activities: [
        ['A', '5d'],
        ['B', '2d'],
      ],
      links: ['A SS+2d > B'],
    },
    { B: '03-04 08:00 - 03-05 17:00' },
  ],
  [
    'finish to finish pulls the start back from the finish',
    {
      activities: [
        ['A', '5d'],
        ['B', '2d'],
      ],
      links: ['A FF > B'],
    },
    { B: '03-05 08:00 - 03-06 17:00' },
  ],
  [
    'start to finish',
    {
      activities: [
        ['A', '5d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-04' }] }],
        ['B', '1d'],
      ],
      links: ['A SF > B'],
    },
    { B: '03-03 08:00 - 03-03 17:00' },
  ],
  [
    'a lead',
    {
      activities: [
        ['A', '5d'],
        ['B', '2d'],
      ],
      links: ['A -2d > B'],
    },
    { B: '03-05 08:00 - 03-06 17:00' },
  ],
  [
    'one day after a start on Friday 08:00 is Monday 08:00',
    {
      project: { plannedStart: '2026-03-06T08:00' },
      activities: [
        ['A', '2d'],
        ['B', '1d'],
      ],
      links: ['A SS+1d > B'],
    },
    { B: '03-09 08:00 - 03-09 17:00' },
  ],
  [
    'an elapsed lag of 24 hours over the weekend',
    {
      activities: [
        ['A', '5d'],
        ['B', '1d'],
      ],
      links: ['A +1440m [elapsed] > B'],
    },
    { B: '03-09 08:00 - 03-09 17:00' },
  ],
  [
    'a lag in the successor calendar',
    {
      activities: [
        ['A', '5d'],
        ['B', '480m @clock'],
      ],
      links: ['A +480m [successor] > B'],
    },
    { B: '03-07 01:00 - 03-07 09:00' },
  ],
  [
    'a lag in a calendar of its own',
    {
      activities: [
        ['A', '1d'],
        ['B', '1d'],
      ],
      links: ['A +600m [calendar:clock] > B'],
    },
    { B: '03-03 08:00 - 03-03 17:00' },
  ],
]);

table('zero length', [
  [
    'a finish milestone lies at the end of work',
    {
      activities: [
        ['A', '5d'],
        ['M', 'finish'],
      ],
      links: ['A > M'],
    },
    { M: '03-06 17:00 - 03-06 17:00' },
  ],
  [
    'a start milestone lies at the beginning of the next work',
    {
      activities: [
        ['A', '5d'],
        ['M', 'start'],
      ],
      links: ['A > M'],
    },
    { M: '03-09 08:00 - 03-09 08:00' },
  ],
  [
    'a finish milestone after work that ends on Saturday noon lies on Saturday noon',
    {
      activities: [
        ['A', '5.5d @six'],
        ['M', 'finish'],
      ],
      links: ['A > M'],
    },
    { M: '03-07 12:00 - 03-07 12:00' },
  ],
  ['right at a data date on Monday it lies on Monday', { project: { dataDate: '2026-03-09T08:00' }, activities: [['M', 'finish']] }, { M: '03-09 08:00 - 03-09 08:00' }],
]);

table('constraints', [
  ['start not before', { activities: [['A', '1d', { constraints: [{ kind: 'startNotBefore', date: '2026-03-05' }] }]] }, { A: '03-05 08:00 - 03-05 17:00' }],
  ['finish not before', { activities: [['A', '2d', { constraints: [{ kind: 'finishNotBefore', date: '2026-03-06' }] }]] }, { A: '03-05 08:00 - 03-06 17:00' }],
  [
    'finish on acts like finish not before in the early pass',
    { activities: [['A', '2d', { constraints: [{ kind: 'finishOn', date: '2026-03-06' }] }]] },
    { A: '03-05 08:00 - 03-06 17:00' },
  ],
  [
    'a pinned start overrules the logic',
    {
      activities: [
        ['A', '5d'],
        ['B', '1d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-04' }] }],
      ],
      links: ['A > B'],
    },
    { B: '03-04 08:00 - 03-04 17:00' },
  ],
  ['a pinned finish', { activities: [['B', '2d', { constraints: [{ kind: 'pinnedFinish', date: '2026-03-10' }] }]] }, { B: '03-09 08:00 - 03-10 17:00' }],
  [
    'as late as possible moves by free float and holds nobody up',
    {
      activities: [
        ['A', '5d'],
        ['B', '1d', { constraints: [{ kind: 'asLateAsPossible' }] }],
        ['C', '1d'],
      ],
      links: ['A > C', 'B > C'],
    },
    { B: '03-06 08:00 - 03-06 17:00', C: '03-09 08:00 - 03-09 17:00' },
  ],
  [
    'a levelling delay comes on top',
    {
      activities: [
        ['A', '1d', { levellingDelay: d(2) }],
        ['B', '1d'],
      ],
      links: ['A > B'],
    },
    { A: '03-04 08:00 - 03-04 17:00', B: '03-05 08:00 - 03-05 17:00' },
  ],
]);

test('hours per day: the commonest working weekday, the longer in a tie, unless stated; stated hours go with the week', () => {
  const days = (calendars: Record<string, unknown>[], id: string): number | undefined =>
    compute({
      activities: [
        ['A', `480m @${id}`],
        ['B', '5d'],
      ],
      calendars,
    }).a['A'].totalFloat?.days;
  const long = [['07:00', '17:00']];
  const short = [['07:00', '12:00']];
  // B ends on Friday 17:00. A ends on Monday 16:00 or 17:00, so that its float counts in days of its own calendar.
  const tie = { id: 'tie', name: 'tie', week: [long, long, short, short, [], [], []] };
  expect(days([tie], 'tie')).toBe((600 * 2 + 300 * 2 - 540) / 600);
  expect(days([{ ...tie, hoursPerDay: 5 }], 'tie')).toBe((600 * 2 + 300 * 2 - 540) / 300);
  expect(
    days(
      [
        { ...tie, hoursPerDay: 5 },
        { id: 'kid', name: 'kid', basedOn: 'tie' },
      ],
      'kid',
    ),
  ).toBe((600 * 2 + 300 * 2 - 540) / 300);
  expect(
    days(
      [
        { ...tie, hoursPerDay: 5 },
        { id: 'own', name: 'own', basedOn: 'tie', week: [short, short, short, short, short, [], []] },
      ],
      'own',
    ),
  ).toBe((300 * 5 - 540) / 300);
});

describe('constraints that fight', () => {
  test('a pin sets every other constraint aside and says so; it makes nothing critical', () => {
    const r = compute({
      activities: [
        [
          'A',
          '1d',
          {
            constraints: [
              { kind: 'startNotBefore', date: '2026-03-20' },
              { kind: 'pinnedStart', date: '2026-03-04' },
            ],
          },
        ],
        ['B', '9d'],
      ],
    });
    expect(r.codes).toContain('CONSTRAINT_SET_ASIDE');
    expect(r.dates['A']).toBe('03-04 08:00 - 03-04 17:00');
    expect(r.a['A'].critical).toBe(false);
    expect(r.a['A'].totalFloat?.days).toBe(6);
  });
  test('of two lower bounds the later one is set aside', () => {
    const r = compute({
      activities: [
        [
          'A',
          '1d',
          {
            constraints: [
              { kind: 'startNotBefore', date: '2026-03-05' },
              { kind: 'finishNotBefore', date: '2026-03-20' },
            ],
          },
        ],
      ],
    });
    expect(r.dates['A']).toBe('03-05 08:00 - 03-05 17:00');
    expect(r.codes).toEqual(['CONSTRAINT_SET_ASIDE']);
  });
  test('a late constraint that cannot be met gives negative float and moves no early date', () => {
    const r = compute({
      activities: [
        ['A', '5d'],
        ['B', '2d', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-06' }] }],
      ],
      links: ['A > B'],
    });
    expect(r.dates['B']).toBe('03-09 08:00 - 03-10 17:00');
    expect(r.a['B'].totalFloat?.days).toBe(-2);
    expect(r.a['A'].totalFloat?.days).toBe(-2);
  });
  test('a pinned date that breaks a link is computed as given and listed', () => {
    const r = compute({
      activities: [
        ['A', '5d'],
        ['B', '1d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-04' }] }],
      ],
      links: ['A > B'],
    });
    expect(r.codes).toContain('PIN_BREAKS_LINK');
    expect(r.links[0]).toMatchObject({ slack: { minutes: -d(3) }, driving: false });
    expect(r.a['A'].freeFloat?.days).toBe(-3);
  });
  test('a deadline changes no date and is flagged with the days missed', () => {
    const r = compute({ activities: [['A', '5d', { deadline: '2026-03-04' }]] });
    const row = (r.json['activities'] as { deadlineMissed: boolean; deadlineMissedBy: { days: number } }[])[0];
    expect(row).toMatchObject({ deadlineMissed: true, deadlineMissedBy: { days: 2 } });
  });
});

describe('float, critical, driving', () => {
  // A 5d to D; B 2d to C 1d to D. D begins on Mon 9 Mar; C must end by Fri 6 Mar, so B and C have 2 days.
  const net: PlanText = {
    activities: [
      ['A', '5d'],
      ['B', '2d'],
      ['C', '1d'],
      ['D', '1d'],
    ],
    links: ['A > D', 'B > C', 'C > D'],
  };
  test('total and free float', () => {
    const r = compute(net);
    expect(['A', 'B', 'C', 'D'].map((k) => r.a[k].totalFloat?.days)).toEqual([0, 2, 2, 0]);
    expect(['A', 'B', 'C', 'D'].map((k) => r.a[k].freeFloat?.days)).toEqual([0, 0, 2, 0]);
    expect(['A', 'B', 'C', 'D'].map((k) => r.a[k].critical)).toEqual([true, false, false, true]);
  });
  test('late dates', () => {
    const r = compute(net);
    expect([r.a['B'].lateStart, r.a['B'].lateFinish]).toEqual(['2026-03-04T08:00', '2026-03-05T17:00']);
  });
  test('driving links and slack', () => {
    expect(compute(net).links.map((l) => [l.slack?.minutes, l.driving])).toEqual([
      [0, true],
      [0, true],
      [d(2), false],
    ]);
  });
  test('float to the required finish', () => {
    const r = compute({ ...net, options: { floatTo: 'requiredFinish' }, project: { requiredFinish: '2026-03-11T17:00' } });
    expect(r.a['D'].totalFloat?.days).toBe(2);
    expect(r.a['D'].freeFloat?.days).toBe(0);
  });
  test('thresholds are days of the activity calendar', () => {
    const r = compute({ ...net, options: { criticalThreshold: 2 } });
    expect(Object.values(r.a).map((x) => x.critical)).toEqual([true, true, true, true]);
  });
  test('the longest path follows driving links across calendars where float misleads', () => {
    // A ends on Saturday noon and drives Monday: it has float left, but it is what the finish hangs on.
    const r = compute({
      activities: [
        ['A', '5.5d @six'],
        ['B', '1d'],
      ],
      links: ['A > B'],
      options: { criticalBy: 'longestPath' },
    });
    expect(r.a['A'].critical).toBe(true);
    expect(r.a['B'].critical).toBe(true);
  });
  test('an open end floats to the project finish', () => {
    expect(
      compute({
        activities: [
          ['A', '5d'],
          ['B', '1d'],
        ],
      }).a['B'].totalFloat?.days,
    ).toBe(4);
  });
  test('float paths: the longest first, then by slack', () => {
    const r = compute(net, { paths: 5 });
    expect(r.json['paths']).toEqual([
      { slackDays: 0, joins: null, activities: ['A', 'D'] },
      { slackDays: 2, joins: 'D', activities: ['B', 'C'] },
    ]);
  });
});

describe('progress', () => {
  const at = { dataDate: '2026-03-05T08:00' };
  test('remaining work begins at the data date', () => {
    const r = compute({ project: at, activities: [['A', '5d', { actualStart: '2026-03-02T08:00', remaining: d(4) }]] });
    expect(r.a['A']).toMatchObject({ earlyStart: '2026-03-02T08:00', remainingStart: '2026-03-05T08:00', earlyFinish: '2026-03-10T17:00' });
  });
  test('without a remaining duration the whole duration remains', () => {
    expect(compute({ project: at, activities: [['A', '2d', { actualStart: '2026-03-02T08:00' }]] }).a['A'].earlyFinish).toBe('2026-03-06T17:00');
  });
  test('unstarted work cannot begin before the data date', () => {
    expect(compute({ project: at, activities: [['A', '1d']] }).dates['A']).toBe('03-05 08:00 - 03-05 17:00');
  });
  test('a resume date holds the remaining work; suspended without one it is listed', () => {
    const r = compute({ project: at, activities: [['A', '2d', { actualStart: '2026-03-02T08:00', remaining: d(1), suspend: '2026-03-03T17:00', resume: '2026-03-10T08:00' }]] });
    expect(r.a['A'].earlyFinish).toBe('2026-03-10T17:00');
    const s = compute({ project: at, activities: [['A', '2d', { actualStart: '2026-03-02T08:00', remaining: d(1), suspend: '2026-03-03T17:00' }]] });
    expect(s.a['A'].earlyFinish).toBe('2026-03-05T17:00');
    expect(s.codes).toContain('SUSPENDED');
  });
  const outOfSequence: PlanText = {
    project: at,
    activities: [
      ['A', '5d', { actualStart: '2026-03-02T08:00', remaining: d(3) }],
      ['B', '2d', { actualStart: '2026-03-03T08:00', remaining: d(1) }],
    ],
    links: ['A > B'],
  };
  test('retained logic: the rest waits for the predecessor', () => {
    expect(compute(outOfSequence).a['B'].earlyFinish).toBe('2026-03-10T17:00');
  });
  test('progress override: the link into started work is ignored', () => {
    const r = compute({ ...outOfSequence, options: { statusLogic: 'progressOverride' } });
    expect(r.a['B'].earlyFinish).toBe('2026-03-05T17:00');
    expect(r.links[0].slack).toBeNull();
  });
  // B finished although A had not: in retained logic it carries A's bound on to C.
  const carrying: PlanText = {
    project: at,
    activities: [
      ['A', '5d', { actualStart: '2026-03-02T08:00', remaining: d(3) }],
      ['B', '1d', { actualStart: '2026-03-03T08:00', actualFinish: '2026-03-03T17:00' }],
      ['C', '1d'],
    ],
    links: ['A > B', 'B > C'],
  };
  test('finished out of sequence: the bound is carried on', () => {
    const r = compute(carrying);
    expect(r.dates['C']).toBe('03-10 08:00 - 03-10 17:00');
    expect(r.carried).toEqual([expect.objectContaining({ from: 'A', to: 'C', through: 'B', driving: true, slack: { minutes: 0, days: 0 } })]);
    expect(r.a['A'].totalFloat?.minutes).toBe(0);
  });
  test('progress override carries nothing', () => {
    const r = compute({ ...carrying, options: { statusLogic: 'progressOverride' } });
    expect(r.dates['C']).toBe('03-05 08:00 - 03-05 17:00');
    expect(r.carried).toEqual([]);
  });
  test.each([
    ['an actual after the data date', { actualStart: '2026-03-06T08:00' }, 'ACTUAL_AFTER_DATA_DATE', 'notStarted'],
    ['a finish without a start', { actualFinish: '2026-03-04T17:00' }, 'ACTUAL_FINISH_WITHOUT_START', 'notStarted'],
    ['a finish before the start', { actualStart: '2026-03-04T08:00', actualFinish: '2026-03-03T08:00' }, 'ACTUAL_FINISH_BEFORE_START', 'started'],
  ])('%s is ignored and listed', (_, fields, code, state) => {
    const r = compute({ project: at, activities: [['A', '1d', fields]] });
    expect(r.codes).toEqual([code]);
    expect(r.a['A'].state).toBe(state);
  });
  test('an actual on the data date is taken; any actual without a data date is not', () => {
    expect(compute({ project: at, activities: [['A', '1d', { actualStart: '2026-03-05T08:00' }]] }).a['A'].state).toBe('started');
    expect(compute({ activities: [['A', '1d', { actualStart: '2026-03-02T08:00' }]] }).codes).toEqual(['ACTUAL_WITHOUT_DATA_DATE']);
  });
  test('a milestone has one actual: either field sets both', () => {
    expect(compute({ project: at, activities: [['M', 'finish', { actualStart: '2026-03-04T10:00' }]] }).dates['M']).toBe('03-04 10:00 - 03-04 10:00');
  });
});

describe('margin', () => {
  // The lift may start on Mon 16 Mar at the latest; the margin of 5 days is held before it.
  const plan = (work: number): PlanText => ({
    activities: [
      ['A', `${work}d`],
      ['M', 'margin 5d'],
      ['L', '1d', { constraints: [{ kind: 'startNotAfter', date: '2026-03-16' }] }],
    ],
    links: ['A > M', 'M > L'],
  });
  test.each([
    // work, margin left in days, start of the lift, total float of the lift in days
    [3, 5, '2026-03-12T08:00', 0],
    [5, 5, '2026-03-16T08:00', 0],
    [7, 3, '2026-03-16T08:00', 0],
    [10, 0, '2026-03-16T08:00', 0],
    [12, 0, '2026-03-18T08:00', -2],
  ])('after %d days of work %d days are left', (work, left, start, float) => {
    const r = compute(plan(work));
    expect(r.a['M'].length).toBe(d(left));
    expect(r.a['L'].earlyStart).toBe(start);
    expect(r.a['L'].totalFloat?.days).toBe(float);
  });
  test('without a limit it keeps its length, and says so', () => {
    const r = compute({
      activities: [
        ['A', '2d'],
        ['M', 'margin 5d'],
        ['L', '1d'],
      ],
      links: ['A > M', 'M > L'],
    });
    expect(r.a['M'].length).toBe(d(5));
    expect(r.codes).toContain('MARGIN_WITHOUT_LIMIT');
  });
  test('links other than finish to start are set aside; it takes no constraints', () => {
    const r = compute({
      activities: [
        ['A', '2d'],
        ['M', 'margin 5d', { constraints: [{ kind: 'startOn', date: '2026-03-04' }] }],
      ],
      links: ['A SS > M'],
    });
    expect(r.codes).toEqual(expect.arrayContaining(['MARGIN_LINK', 'CONSTRAINT_SET_ASIDE']));
  });
  test('it counts as finished once what follows has started', () => {
    const r = compute({
      project: { dataDate: '2026-03-05T08:00' },
      activities: [
        ['M', 'margin 5d'],
        ['L', '2d', { actualStart: '2026-03-04T08:00' }],
      ],
      links: ['M > L'],
    });
    expect(r.a['M']).toMatchObject({ state: 'finished', earlyFinish: '2026-03-04T08:00' });
  });
});

describe('level of effort', () => {
  test('spans from the earliest start to the latest finish, has no float and bounds nothing', () => {
    const r = compute({
      activities: [
        ['A', '2d'],
        ['B', '5d'],
        ['L', 'effort'],
        ['C', '1d'],
      ],
      links: ['A SS > L', 'B FF > L', 'L > C'],
    });
    expect(r.dates['L']).toBe('03-02 08:00 - 03-06 17:00');
    expect(r.a['L'].totalFloat).toBeNull();
    expect(r.dates['C']).toBe('03-02 08:00 - 03-02 17:00');
  });
  test('without links it runs from the planned start to the project finish', () => {
    expect(
      compute({
        activities: [
          ['A', '3d'],
          ['L', 'effort'],
        ],
      }).dates['L'],
    ).toBe('03-02 08:00 - 03-04 17:00');
  });
});

describe('errors are listed and the rest is computed', () => {
  test('a loop: the first link in file order that closes it is set aside, with the way round', () => {
    const r = compute({
      activities: [
        ['A', '1d'],
        ['B', '1d'],
        ['C', '1d'],
      ],
      links: ['A > B', 'B > C', 'C > A'],
    });
    expect(r.problems.map((p) => [p.code, p.where.id])).toEqual([['LOOP', 'l2']]);
    expect(r.problems[0].message).toContain('A > B > C > A');
    expect(r.dates['C']).toBe('03-04 08:00 - 03-04 17:00');
  });
  test('a link to itself, a second link of a type', () => {
    const r = compute({
      activities: [
        ['A', '1d'],
        ['B', '1d'],
      ],
      links: ['A > A', 'A > B', 'A +1d > B', 'A SS > B'],
    });
    expect(r.codes.sort()).toEqual(['DUPLICATE_LINK', 'LOOP']);
    expect(r.dates['B']).toBe('03-03 08:00 - 03-03 17:00');
  });
  test('an empty calendar, and calendars based on each other: the project calendar is taken', () => {
    const r = compute({
      activities: [
        ['A', '1d @e'],
        ['B', '1d @x'],
      ],
      calendars: [
        { id: 'e', name: 'e', week: [[], [], [], [], [], [], []] },
        { id: 'x', name: 'x', basedOn: 'y' },
        { id: 'y', name: 'y', basedOn: 'x' },
      ],
    });
    expect(r.codes).toEqual(expect.arrayContaining(['CALENDAR_EMPTY', 'CALENDAR_LOOP', 'CALENDAR_NOT_USABLE']));
    expect(r.dates).toMatchObject({ A: '03-02 08:00 - 03-02 17:00', B: '03-02 08:00 - 03-02 17:00' });
  });
  test('a stop of more than 400 days is an error that names the calendar', () => {
    const r = compute({
      activities: [['A', '3d @long']],
      calendars: [{ ...clock, id: 'long', name: 'Long stop', week: clock.week, exceptions: [{ from: '2026-03-03', to: '2027-06-01', work: [] }] }],
    });
    expect(r.problems.find((p) => p.code === 'CALENDAR_LONG_STOP')?.message).toContain('Long stop');
  });
});

describe('the plan check of dates', () => {
  const five = (fields: Record<string, unknown>, size = '1d'): string[] => compute({ project: { dataDate: '2026-03-03T08:00' }, activities: [['A', size, fields]] }).codes;
  test.each<[string, Record<string, unknown>, string, string[]]>([
    ['a late constraint on a Sunday', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-08T12:00' }] }, '1d', ['LATE_CONSTRAINT_IDLE']],
    ['a late constraint at the end of work', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-06' }] }, '1d', []],
    ['a milestone past its late date', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-02' }] }, 'finish', ['PAST_LATE_DATE']],
    ['nothing remains, but no finish', { actualStart: '2026-03-02T08:00', remaining: 0 }, '1d', ['NOTHING_REMAINS']],
    ['a deadline that is missed', { deadline: '2026-03-02' }, '1d', ['DEADLINE_MISSED']],
  ])('%s', (_, fields, size, codes) => expect(five(fields, size)).toEqual(codes));
});

describe('why this date?', () => {
  test('lists every bound, which governs, and what moved it', () => {
    const r = compute(
      {
        activities: [
          ['A', '5d'],
          ['B', '1d @six'],
          ['C', '1d'],
        ],
        links: ['A > C', 'B > C'],
      },
      { why: 'C' },
    );
    const why = r.json['why'] as { bounds: { kind: string; governs: boolean; text: string; moved?: string; slack: number }[]; earlier: string[] };
    expect(why.bounds.map((b) => [b.kind, b.governs, b.slack])).toEqual([
      ['link', true, 0],
      ['link', false, d(4)],
      ['plannedStart', false, d(5)],
    ]);
    expect(why.bounds[0].moved).toBe('Five: 2 days off');
    expect(why.earlier[0]).toContain('A A, finish to start');
  });
});
