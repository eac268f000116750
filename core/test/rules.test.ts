/**
 * The scheduling rules, one worked example each. Dates are worked by hand on the five-day week (Mon to Fri 08:00-12:00,
 * 13:00-17:00), from Monday 2 March 2026, unless a test says otherwise. docs/scheduling.md tells them in words.
 */
import { compute, d, table } from './helpers';

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
    }).a['A']!.totalFloat?.days;
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
    expect(r.a['A']!.critical).toBe(false);
    expect(r.a['A']!.totalFloat?.days).toBe(6);
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
    expect(r.a['B']!.totalFloat?.days).toBe(-2);
    expect(r.a['A']!.totalFloat?.days).toBe(-2);
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
    expect(r.a['A']!.freeFloat?.days).toBe(-3);
  });
  test('a deadline changes no date and is flagged with the days missed', () => {
    const r = compute({ activities: [['A', '5d', { deadline: '2026-03-04' }]] });
    const row = (r.json['activities'] as { deadlineMissed: boolean; deadlineMissedBy: { days: number } }[])[0];
    expect(row).toMatchObject({ deadlineMissed: true, deadlineMissedBy: { days: 2 } });
  });
});
