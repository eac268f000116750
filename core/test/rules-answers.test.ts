/** The scheduling rules, one worked example each: what is wrong, the plan check, and why a date (see rules.test.ts). */
import { clock, compute, d } from './helpers';

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
    expect(r.problems[0]!.message).toContain('A > B > C > A');
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
    expect(why.bounds[0]!.moved).toBe('Five: 2 days off');
    expect(why.earlier[0]).toContain('A A, finish to start');
  });
});
