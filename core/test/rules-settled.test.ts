/** The scheduling rules as they were settled further: one worked example each, by hand (see rules.test.ts for the calendar). */
import { compute, d, type PlanText } from './helpers';

const late = { constraints: [{ kind: 'asLateAsPossible', date: null }] };
const on = (kind: string, date: string): Record<string, unknown> => ({ constraints: [{ kind, date }] });
const done = (from: string, to: string): Record<string, unknown> => ({ actualStart: from, actualFinish: to });

describe('as late as possible', () => {
  test('what it moves drives work of zero length that waited for something else before', () => {
    // Z waits for Fri 6 Mar 17:00 by its constraint; A, moved from Monday, ends just then and drives it from there on.
    const r = compute({
      activities: [
        ['A', '1d', late],
        ['Z', 'finish', on('finishNotBefore', '2026-03-06T17:00')],
        ['B', '1d'],
      ],
      links: ['A > Z', 'Z > B'],
      options: { criticalBy: 'longestPath' },
    });
    expect(r.dates['A']).toBe('03-06 08:00 - 03-06 17:00');
    expect(r.links.map((l) => l.driving)).toEqual([true, true]);
    expect(r.a['A']!.onLongestPath).toBe(true);
  });
  test('a levelling delay sets it aside, one of 0 too; empty does not', () => {
    const start = (levellingDelay: number | null): string => {
      const activities: PlanText['activities'] = [
        ['A', '1d', { ...late, levellingDelay }],
        ['B', '5d'],
      ];
      return compute({ activities }).dates['A']!;
    };
    expect([start(null), start(0), start(d(1))]).toEqual(['03-06 08:00 - 03-06 17:00', '03-02 08:00 - 03-02 17:00', '03-03 08:00 - 03-03 17:00']);
  });
});

describe('margins', () => {
  test('the limit before a start milestone is its start instant', () => {
    // By Friday 12:00; on this calendar a start on Friday 12:00 is one at 13:00, so the margin may last until then.
    const r = compute({
      activities: [
        ['M', 'margin 5d @clock'],
        ['S', 'start', on('startNotAfter', '2026-03-06T12:00')],
      ],
      links: ['M > S'],
    });
    expect(r.dates['M']).toBe('03-02 08:00 - 03-03 24:00'.replace('03-03 24:00', '03-04 00:00'));
    const tight = compute({
      activities: [
        ['M', 'margin 30d @clock'],
        ['S', 'start', on('startNotAfter', '2026-03-06T12:00')],
      ],
      links: ['M > S'],
    });
    expect(tight.dates['M']).toBe('03-02 08:00 - 03-06 13:00');
  });
});

describe('pins', () => {
  test('a pin that breaks carried logic is listed', () => {
    // A goes on until Wed 11 Mar; B finished before it; C after B is pinned to Tue 10 Mar.
    const r = compute({
      project: { dataDate: '2026-03-09T08:00' },
      activities: [
        ['A', '3d'],
        ['B', '1d', done('2026-03-03T08:00', '2026-03-03T17:00')],
        ['C', '1d', on('pinnedStart', '2026-03-10T08:00')],
      ],
      links: ['A > B', 'B > C'],
    });
    expect(r.dates['C']).toBe('03-10 08:00 - 03-10 17:00');
    expect(r.problems.filter((p) => p.code === 'PIN_BREAKS_LINK').map((p) => p.message)).toEqual([
      'C C is pinned earlier than the logic from A, carried through B, allows. It is computed as given; move the pin or the link.',
    ]);
  });
});

describe('what is listed', () => {
  test.each<[string, PlanText, string[]]>([
    [
      'a missed deadline of a level of effort',
      {
        activities: [
          ['A', '5d'],
          ['L', 'effort', { deadline: '2026-03-05' }],
        ],
        links: ['A SS > L', 'A FF > L'],
      },
      ['DEADLINE_MISSED'],
    ],
    [
      'constraints of finished work that clash',
      {
        project: { dataDate: '2026-03-09T08:00' },
        activities: [
          [
            'A',
            '1d',
            {
              ...done('2026-03-03T08:00', '2026-03-03T17:00'),
              constraints: [
                { kind: 'startNotBefore', date: '2026-03-03' },
                { kind: 'finishNotBefore', date: '2026-03-04' },
              ],
            },
          ],
        ],
      },
      ['CONSTRAINT_SET_ASIDE'],
    ],
    // Monday 08:00 begins work, Friday 17:00 ends it; at Saturday noon neither minute beside it works.
    ['a late finish of zero length at the beginning of work is in order', { activities: [['A', 'finish', on('finishNotAfter', '2026-03-09T08:00')]] }, []],
    ['a late start of zero length at the end of work is in order', { activities: [['A', 'finish', on('startNotAfter', '2026-03-06T17:00')]] }, []],
    ['a late finish of zero length on Saturday is not', { activities: [['A', 'finish', on('finishNotAfter', '2026-03-07T12:00')]] }, ['LATE_CONSTRAINT_IDLE']],
    ['a late finish of a task at the beginning of work is not', { activities: [['A', '1d', on('finishNotAfter', '2026-03-09T08:00')]] }, ['LATE_CONSTRAINT_IDLE']],
    [
      'a date after 2199',
      {
        activities: [
          ['A', '1d', on('startNotBefore', '2199-12-31')],
          ['B', '1d'],
        ],
        links: ['A > B'],
      },
      ['DATE_OUT_OF_RANGE'],
    ],
    ['a late date before 1990', { project: { plannedStart: '1990-01-02T08:00' }, activities: [['A', '20d', on('finishNotAfter', '1990-01-05')]] }, ['DATE_OUT_OF_RANGE']],
    ['the last day of 2199 is in order', { activities: [['A', '1d', on('startNotBefore', '2199-12-31')]] }, []],
  ])('%s', (_, plan, codes) => {
    expect(compute(plan).codes).toEqual(codes);
  });
});

describe('calendars', () => {
  test("a lag calendar that cannot be used gives way to the predecessor's", () => {
    const plan = (lagCalendar: string): PlanText => ({
      activities: [
        ['A', '5d'],
        ['B', '1d @clock'],
      ],
      links: [`A +1d [${lagCalendar}] > B`],
      calendars: [{ id: 'never', name: 'Never', week: [[], [], [], [], [], [], []] }],
      options: { lagCalendar: 'elapsed' },
    });
    // A day of eight hours after Friday 17:00: Monday 17:00 by A's week, Saturday 01:00 by the clock.
    expect(compute(plan('calendar:never')).dates['B']!.slice(0, 11)).toBe('03-09 17:00');
    expect(compute(plan('calendar:gone')).dates['B']!.slice(0, 11)).toBe('03-09 17:00');
    expect(compute(plan('elapsed')).dates['B']!.slice(0, 11)).toBe('03-07 01:00');
    expect(compute(plan('calendar:never')).codes).toContain('CALENDAR_NOT_USABLE');
  });
  // A mutation run leaves it out: it takes as long as all others together.
  (process.env['YELLOWHAMMER_SLOW_ANSWERS'] ? test.skip : test)('more exceptions than a small table holds are told apart; too many for a chain are refused by name', () => {
    const days = (from: number, n: number): Record<string, unknown>[] =>
      Array.from({ length: n }, (_, i) => ({ name: 'x', from: new Date(Date.UTC(1990, 0, 1 + from + i)).toISOString().slice(0, 10), work: [['08:00', '09:00']] }));
    const chain = (count: number): Record<string, unknown>[] =>
      Array.from({ length: count }, (_, i) => ({ id: `c${i}`, name: `C${i}`, basedOn: i ? `c${i - 1}` : 'five', exceptions: days(((i * 2000) % 40_000) + 10_000, 2000) }));
    // 10 calendars of 2,000: from the 12,000th day of 1990 on every day has one hour, so two days of eight take sixteen.
    expect(compute({ project: { plannedStart: '2025-03-03T08:00' }, activities: [['A', '2d @c9']], calendars: chain(10) }).dates['A']).toBe('03-03 08:00 - 03-18 09:00');
    const r = compute({ project: { plannedStart: '2025-03-03T08:00' }, activities: [['A', '2d @c17']], calendars: chain(18) });
    expect(r.codes.filter((c) => c === 'CALENDAR_TOO_LARGE')).toHaveLength(8);
    expect(r.dates['A']).toBe('03-03 08:00 - 03-04 17:00');
  });
});

test('of carried logic the twenty latest are kept, the rest is counted; dates know all', () => {
  // Twenty-five unfinished activities of 1 to 25 days before one that is finished, and one that this one holds.
  const many = Array.from({ length: 25 }, (_, i): [string, string] => [`P${i + 1}`, `${i + 1}d`]);
  const r = compute({
    project: { dataDate: '2026-03-09T08:00' },
    activities: [...many, ['F', '1d', done('2026-03-03T08:00', '2026-03-03T17:00')], ['H', '1d']],
    links: [...many.map(([id]) => `${id} > F`), 'F > H'],
  });
  expect(r.carried.map((c) => c.from)).toEqual(Array.from({ length: 20 }, (_, i) => `P${i + 6}`));
  expect(r.carried.map((c) => c.slack.minutes)).toEqual(Array.from({ length: 20 }, (_, i) => d(19 - i)));
  expect(r.carried.filter((c) => c.driving).map((c) => c.from)).toEqual(['P25']);
  expect(r.json['carriedLogicDropped']).toBe(5);
  // P1 is not kept, but its float is still measured to H: 25 days less one.
  expect(r.a['P1']!.freeFloat?.days).toBe(24);
});
