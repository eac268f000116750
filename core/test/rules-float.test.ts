/** The scheduling rules, one worked example each: float, driving, progress, margins, levels of effort (see rules.test.ts). */
import { compute, d, type PlanText } from './helpers';

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
    expect(['A', 'B', 'C', 'D'].map((k) => r.a[k]!.totalFloat?.days)).toEqual([0, 2, 2, 0]);
    expect(['A', 'B', 'C', 'D'].map((k) => r.a[k]!.freeFloat?.days)).toEqual([0, 0, 2, 0]);
    expect(['A', 'B', 'C', 'D'].map((k) => r.a[k]!.critical)).toEqual([true, false, false, true]);
  });
  test('late dates', () => {
    const r = compute(net);
    expect([r.a['B']!.lateStart, r.a['B']!.lateFinish]).toEqual(['2026-03-04T08:00', '2026-03-05T17:00']);
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
    expect(r.a['D']!.totalFloat?.days).toBe(2);
    expect(r.a['D']!.freeFloat?.days).toBe(0);
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
    expect(r.a['A']!.critical).toBe(true);
    expect(r.a['B']!.critical).toBe(true);
  });
  test('by the longest path float decides nothing but what is near-critical', () => {
    const judged = (more: Record<string, unknown>): [boolean, boolean][] =>
      Object.values(
        compute({
          activities: [
            ['A', '5d'],
            ['B', '4d'],
            ['C', '2d'],
          ],
          options: { criticalThreshold: 1, nearCriticalThreshold: 3, ...more },
        }).a,
      ).map((x) => [x.critical, (x as { nearCritical?: boolean }).nearCritical === true]);
    expect(judged({ criticalBy: 'longestPath' })).toEqual([
      [true, false],
      [false, true],
      [false, true],
    ]);
    expect(judged({ criticalBy: 'float' })).toEqual([
      [true, false],
      [true, false],
      [false, true],
    ]);
  });
  test('an open end floats to the project finish', () => {
    expect(
      compute({
        activities: [
          ['A', '5d'],
          ['B', '1d'],
        ],
      }).a['B']!.totalFloat?.days,
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
    expect(compute({ project: at, activities: [['A', '2d', { actualStart: '2026-03-02T08:00' }]] }).a['A']!.earlyFinish).toBe('2026-03-06T17:00');
  });
  test('unstarted work cannot begin before the data date', () => {
    expect(compute({ project: at, activities: [['A', '1d']] }).dates['A']).toBe('03-05 08:00 - 03-05 17:00');
  });
  test('a resume date holds the remaining work; suspended without one it is listed', () => {
    const r = compute({ project: at, activities: [['A', '2d', { actualStart: '2026-03-02T08:00', remaining: d(1), suspend: '2026-03-03T17:00', resume: '2026-03-10T08:00' }]] });
    expect(r.a['A']!.earlyFinish).toBe('2026-03-10T17:00');
    const s = compute({ project: at, activities: [['A', '2d', { actualStart: '2026-03-02T08:00', remaining: d(1), suspend: '2026-03-03T17:00' }]] });
    expect(s.a['A']!.earlyFinish).toBe('2026-03-05T17:00');
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
    expect(compute(outOfSequence).a['B']!.earlyFinish).toBe('2026-03-10T17:00');
  });
  test('progress override: the link into started work is ignored', () => {
    const r = compute({ ...outOfSequence, options: { statusLogic: 'progressOverride' } });
    expect(r.a['B']!.earlyFinish).toBe('2026-03-05T17:00');
    expect(r.links[0]!.slack).toBeNull();
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
    expect(r.a['A']!.totalFloat?.minutes).toBe(0);
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
    expect(r.a['A']!.state).toBe(state);
  });
  test('an actual on the data date is taken; any actual without a data date is not', () => {
    expect(compute({ project: at, activities: [['A', '1d', { actualStart: '2026-03-05T08:00' }]] }).a['A']!.state).toBe('started');
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
    expect(r.a['M']!.length).toBe(d(left));
    expect(r.a['L']!.earlyStart).toBe(start);
    expect(r.a['L']!.totalFloat?.days).toBe(float);
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
    expect(r.a['M']!.length).toBe(d(5));
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
    expect(r.a['L']!.totalFloat).toBeNull();
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
