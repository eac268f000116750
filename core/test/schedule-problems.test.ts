/** What the schedule says of a plan: each problem with its words and the place it names; what is just in order says nothing. */
import { compute, d, type PlanText } from './helpers';

const dd = { dataDate: '2026-03-09T08:00' };
/** One activity, 7 Dig, of the five-day week; the data date is Monday 9 March. */
const one = (size: string, more: Record<string, unknown>, project: Record<string, unknown> = dd): PlanText => ({
  project,
  activities: [['A', size, { name: 'Dig', code: '7', ...more }]],
});
const started = { actualStart: '2026-03-02T08:00' };
const late = (kind: string, date: string): Record<string, unknown> => ({ constraints: [{ kind, date }] });
const behind = (before: string, size: string, more: Record<string, unknown>): PlanText => ({
  project: dd,
  activities: [
    ['P', before],
    ['A', size, { name: 'Dig', code: '7', ...more }],
  ],
  links: ['P > A'],
});
/** 7 Dig before something that is to begin on 20 March. */
const before = (size: string, more: Record<string, unknown>): PlanText => ({
  project: dd,
  activities: [
    ['A', size, { name: 'Dig', code: '7', ...more }],
    ['Z', '1d', late('startNotAfter', '2026-03-20')],
  ],
  links: ['A > Z'],
});
const gap = {
  id: 'gap',
  name: 'Gap',
  week: Array.from({ length: 7 }, () => []),
  exceptions: [{ name: 'x', from: '2028-03-02', to: '2028-03-30', work: [['08:00', '17:00']] }],
};
const lagOn = (lag: string): PlanText => ({
  activities: [
    ['A', '2d'],
    ['B', '1d'],
  ],
  links: [`A ${lag} [calendar:gap] > B`],
  calendars: [gap],
});

const IGNORED = 'It was ignored.';
test.each<[string, PlanText, string, 'error' | 'warning', string, string | null]>([
  ['a span with an actual', one('effort', started), 'ACTUAL_NOT_TAKEN', 'error', `takes no actual dates. ${IGNORED}`, 'actualStart'],
  [
    'no data date, start',
    one('2d', started, {}),
    'ACTUAL_WITHOUT_DATA_DATE',
    'error',
    `has an actual start, but the project has no data date; set the data date first. ${IGNORED}`,
    'actualStart',
  ],
  [
    'no data date, finish',
    one('2d', { actualFinish: '2026-03-02T08:00' }, {}),
    'ACTUAL_WITHOUT_DATA_DATE',
    'error',
    `has an actual finish, but the project has no data date; set the data date first. ${IGNORED}`,
    'actualFinish',
  ],
  [
    'a start after the data date',
    one('2d', { actualStart: '2026-03-09T08:01' }),
    'ACTUAL_AFTER_DATA_DATE',
    'error',
    `has an actual start (2026-03-09T08:01) after the data date 2026-03-09T08:00; correct it or move the data date. ${IGNORED}`,
    'actualStart',
  ],
  [
    'a finish after the data date',
    one('2d', { ...started, actualFinish: '2026-03-10T08:00' }),
    'ACTUAL_AFTER_DATA_DATE',
    'error',
    `has an actual finish (2026-03-10T08:00) after the data date 2026-03-09T08:00; correct it or move the data date. ${IGNORED}`,
    'actualFinish',
  ],
  [
    'a finish without a start',
    one('2d', { actualFinish: '2026-03-03T17:00' }),
    'ACTUAL_FINISH_WITHOUT_START',
    'error',
    `has an actual finish but no actual start; enter its actual start first. ${IGNORED}`,
    'actualFinish',
  ],
  [
    'a finish before the start',
    one('2d', { actualStart: '2026-03-04T08:00', actualFinish: '2026-03-03T17:00' }),
    'ACTUAL_FINISH_BEFORE_START',
    'error',
    `has an actual finish (2026-03-03T17:00) before its actual start (2026-03-04T08:00). ${IGNORED}`,
    'actualFinish',
  ],
  [
    'suspended without an end',
    one('2d', { ...started, suspend: '2026-03-03T08:00' }),
    'SUSPENDED',
    'warning',
    'is suspended without a resume date; its remaining work is put at the data date. Enter when it resumes.',
    'resume',
  ],
  [
    'nothing remains',
    one('2d', { ...started, remaining: 0 }),
    'NOTHING_REMAINS',
    'warning',
    ': nothing remains, but it has no actual finish. Enter the finish, or what remains.',
    'actualFinish',
  ],
  ['past its deadline', one('2d', { deadline: '2026-03-09' }), 'DEADLINE_MISSED', 'warning', 'is forecast past its deadline 2026-03-09T17:00.', 'deadline'],
  [
    'a late finish on a Saturday',
    one('2d', late('finishNotAfter', '2026-03-14')),
    'LATE_CONSTRAINT_IDLE',
    'warning',
    ': its late constraint lies on non-working time of Five. Move it to working time, or change the calendar.',
    'constraints',
  ],
  [
    'a late start on a Saturday',
    one('2d', late('startNotAfter', '2026-03-14T12:00')),
    'LATE_CONSTRAINT_IDLE',
    'warning',
    ': its late constraint lies on non-working time of Five. Move it to working time, or change the calendar.',
    'constraints',
  ],
  [
    'a milestone past its late date',
    behind('5d', '0d', { type: 'finishMilestone', ...late('finishNotAfter', '2026-03-11') }),
    'PAST_LATE_DATE',
    'warning',
    'lies past its own late date 2026-03-11T17:00.',
    'constraints',
  ],
  [
    'a pin before what a link asks',
    behind('5d', '2d', late('pinnedStart', '2026-03-10')),
    'PIN_BREAKS_LINK',
    'warning',
    'is pinned earlier than its link from P allows. It is computed as given; move the pin or the link.',
    'constraints',
  ],
  [
    'a pinned milestone before what a link asks',
    behind('5d', '0d', { type: 'startMilestone', ...late('pinnedStart', '2026-03-10') }),
    'PIN_BREAKS_LINK',
    'warning',
    'is pinned earlier than its link from P allows. It is computed as given; move the pin or the link.',
    'constraints',
  ],
  [
    'a pin before carried logic',
    {
      project: dd,
      activities: [
        ['P', '5d'],
        ['F', '1d', { actualStart: '2026-03-03T08:00', actualFinish: '2026-03-03T17:00' }],
        ['A', '2d', { code: '7', name: 'Dig', ...late('pinnedStart', '2026-03-10') }],
      ],
      links: ['P > F', 'F > A'],
    },
    'PIN_BREAKS_LINK',
    'warning',
    'is pinned earlier than the logic from P, carried through F, allows. It is computed as given; move the pin or the link.',
    'constraints',
  ],
  [
    'a margin before nothing that holds',
    {
      project: dd,
      activities: [
        ['A', 'margin 3d', { code: '7', name: 'Dig' }],
        ['B', '2d'],
      ],
      links: ['A > B'],
    },
    'MARGIN_WITHOUT_LIMIT',
    'warning',
    ': nothing after this margin holds a date, so it keeps its planned length. Give its successor a late or pinned constraint.',
    null,
  ],
  [
    'dates beyond the years',
    one('60000000m', {}),
    'DATE_OUT_OF_RANGE',
    'error',
    ': early finish 2260-01-01T00:00, late start 1980-01-01T00:00, late finish 2259-12-30T17:00 lies outside 1990 to 2199, for which dates are meant. Check its duration, lags, constraints and calendar.',
    'duration',
  ],
  [
    'a constraint on a level of effort',
    one('effort', late('startNotBefore', '2026-03-12')),
    'CONSTRAINT_SET_ASIDE',
    'error',
    ': a level of effort takes no constraints; they were set aside.',
    'constraints',
  ],
  [
    'a delay of a level of effort',
    one('effort', { levellingDelay: 1 }),
    'DELAY_SET_ASIDE',
    'error',
    ': a level of effort takes no levelling delay; it was set aside.',
    'levellingDelay',
  ],
  [
    'a constraint on a margin',
    before('margin 2d', late('startNotBefore', '2026-03-12')),
    'CONSTRAINT_SET_ASIDE',
    'error',
    ': a margin takes no constraints; they were set aside.',
    'constraints',
  ],
  ['a delay of a margin', before('margin 2d', { levellingDelay: 1 }), 'DELAY_SET_ASIDE', 'error', ': a margin takes no levelling delay; it was set aside.', 'levellingDelay'],
  [
    'a pin a minute before the data date',
    one('2d', late('pinnedStart', '2026-03-09T07:59')),
    'PIN_BEFORE_DATA_DATE',
    'warning',
    'is pinned to 2026-03-09T07:59, before the data date. It is computed as given; move the pin or enter actuals.',
    'constraints',
  ],
])('%s', (_, plan, code, severity, text, field) => {
  const message = `7 Dig${text.startsWith(':') ? '' : ' '}${text}`;
  expect(compute(plan).problems).toEqual([{ code, severity, message, where: { table: 'activities', id: 'A', label: '7 Dig', ...(field ? { field } : {}) } }]);
});

test('a calendar that only a lag counts on, with too long a stop', () => {
  expect(compute(lagOn('+1d')).problems).toEqual([
    {
      code: 'CALENDAR_LONG_STOP',
      severity: 'error',
      message: 'Calendar Gap has no working minute in 400 days or more from 2026-03-02T08:00. Give it working time there.',
      where: { table: 'calendars', id: 'gap', label: 'Gap', field: 'exceptions' },
    },
  ]);
  // Without a lag nothing is counted on it.
  expect(compute(lagOn('')).problems).toEqual([]);
});

test.each<[string, PlanText]>([
  ['an actual on the data date', one('2d', { actualStart: '2026-03-09T08:00' })],
  ['a finish at the start, of nothing', one('2d', { actualStart: '2026-03-03T08:00', actualFinish: '2026-03-03T08:00' })],
  ['suspended, with its end', one('2d', { ...started, suspend: '2026-03-03T08:00', resume: '2026-03-11T08:00' })],
  ['on its deadline', one('2d', { deadline: '2026-03-10' })],
  ['finished after its deadline', one('2d', { ...started, actualFinish: '2026-03-06T17:00', deadline: '2026-03-04' })],
  ['a late finish on a Friday', one('2d', late('finishNotAfter', '2026-03-13'))],
  ['a late start on a Monday', one('2d', late('startNotAfter', '2026-03-09T08:00'))],
  ['a milestone on its late date', behind('5d', '0d', { type: 'finishMilestone', ...late('finishNotAfter', '2026-03-13') })],
  ['a pin on the data date', one('2d', late('pinnedStart', '2026-03-09T08:00'))],
  ['a pin without a data date', one('2d', late('pinnedStart', '2026-03-02T08:00'), {})],
  ['a level of effort with no delay', one('effort', { levellingDelay: 0 })],
  ['a pin on what a link asks', behind('5d', '2d', late('pinnedStart', '2026-03-16'))],
  ['a pinned milestone on what a link asks', behind('5d', '0d', { type: 'finishMilestone', ...late('pinnedFinish', '2026-03-13') })],
  [
    'a margin before a pin',
    {
      project: dd,
      activities: [
        ['A', 'margin 3d'],
        ['B', '2d', late('pinnedStart', '2026-03-20')],
      ],
      links: ['A > B'],
    },
  ],
])('in order: %s', (_, plan) => {
  expect(compute(plan).problems.filter((p) => p.code !== 'NOTHING_REMAINS')).toEqual([]);
});

describe('the limit of a margin is the earliest date that what follows it may begin', () => {
  // The margin of 20 days follows two days of work from Monday 2 March: its left part is what the limit leaves.
  const left = (successor: [string, string, Record<string, unknown>?][], links: string[], project: Record<string, unknown> = {}): unknown => {
    const r = compute({ project, activities: [['W', '2d'], ['M', 'margin 20d'], ...successor], links: ['W > M', ...links] });
    return [r.a['M']?.length, r.dates['M']];
  };
  const to = (day: string, days: number): [number, string] => [d(days), `03-04 08:00 - 03-${day}`];
  test.each<[string, [string, string, Record<string, unknown>?][], [number, string]]>([
    ['a start not after Friday the 13th', [['A', '3d', late('startNotAfter', '2026-03-13')]], to('12 17:00', 7)],
    ['a finish not after Friday the 13th, three days long', [['A', '3d', late('finishNotAfter', '2026-03-13')]], to('10 17:00', 5)],
    ['a pinned start', [['A', '3d', late('pinnedStart', '2026-03-11')]], to('10 17:00', 5)],
    ['a pinned finish', [['A', '3d', late('pinnedFinish', '2026-03-11')]], to('06 17:00', 3)],
    ['less by a levelling delay of two days', [['A', '3d', { ...late('startNotAfter', '2026-03-13'), levellingDelay: d(2) }]], to('10 17:00', 5)],
    ['a finish milestone by its date', [['A', '0d', { type: 'finishMilestone', ...late('finishNotAfter', '2026-03-11') }]], to('11 17:00', 6)],
    ['a start milestone by the beginning of its day', [['A', '0d', { type: 'startMilestone', ...late('startNotAfter', '2026-03-11') }]], to('10 17:00', 5)],
    ['a milestone with a delay of a day', [['A', '0d', { type: 'finishMilestone', ...late('finishNotAfter', '2026-03-11'), levellingDelay: d(1) }]], to('10 17:00', 5)],
  ])('%s', (_, successor, expected) => {
    expect(left(successor, ['M > A'])).toEqual(expected);
  });

  test('of several successors the tightest counts, whatever their order; a span does not', () => {
    const a: [string, string, Record<string, unknown>] = ['A', '3d', late('startNotAfter', '2026-03-13')];
    const b: [string, string, Record<string, unknown>] = ['B', '3d', late('startNotAfter', '2026-03-11')];
    const effort: [string, string] = ['E', 'effort'];
    for (const [list, links] of [
      [
        [a, b, effort],
        ['M > A', 'M > B', 'M > E'],
      ],
      [
        [b, a, effort],
        ['M > B', 'M > A', 'M > E'],
      ],
    ] as const)
      expect(left([...list], [...links])).toEqual(to('10 17:00', 5));
  });

  test('a margin before another ends where that one must begin', () => {
    const r = compute({
      activities: [
        ['W', '2d'],
        ['M', 'margin 3d'],
        ['N', 'margin 2d'],
        ['A', '1d', late('startNotAfter', '2026-03-13')],
      ],
      links: ['W > M', 'M > N', 'N > A'],
    });
    // Seven days are left for both; the second has two of them.
    expect([r.a['M']?.length, r.a['N']?.length]).toEqual([d(3), d(2)]);
  });

  test('it is used up where all that follows has begun, at the earliest beginning; one that has not begun keeps it', () => {
    const project = { dataDate: '2026-03-20T08:00' };
    const done = (start: string): Record<string, unknown> => ({ actualStart: `2026-03-${start}T08:00` });
    const both = compute({
      project,
      activities: [
        ['M', 'margin 5d'],
        ['A', '3d', done('12')],
        ['B', '3d', done('10')],
      ],
      links: ['M > A', 'M > B'],
    });
    expect([both.a['M']?.state, both.dates['M']]).toEqual(['finished', '03-10 08:00 - 03-10 08:00']);
    const turned = compute({
      project,
      activities: [
        ['M', 'margin 5d'],
        ['A', '3d', done('10')],
        ['B', '3d', done('12')],
      ],
      links: ['M > A', 'M > B'],
    });
    expect(turned.dates['M']).toBe('03-10 08:00 - 03-10 08:00');
    const open = compute({
      project,
      activities: [
        ['M', 'margin 5d'],
        ['A', '3d', done('12')],
        ['B', '3d', late('startNotAfter', '2026-03-24')],
      ],
      links: ['M > A', 'M > B'],
    });
    expect([open.a['M']?.state, open.dates['M']]).toEqual(['notStarted', '03-20 08:00 - 03-23 17:00']);
    // What is finished, or under progress override what has begun, holds nothing any more.
    const finished = { actualStart: '2026-03-10T08:00', actualFinish: '2026-03-12T17:00', ...late('finishNotAfter', '2026-03-09') };
    const held = compute({
      project,
      activities: [
        ['M', 'margin 1d'],
        ['A', '3d', finished],
        ['B', '3d', late('startNotAfter', '2026-03-24')],
      ],
      links: ['M > A', 'M > B'],
    });
    expect(held.dates['M']).toBe('03-20 08:00 - 03-20 17:00');
    const begun = { ...done('10'), remaining: d(9), ...late('startNotAfter', '2026-03-09') };
    const override = compute({
      project: { ...project },
      options: { statusLogic: 'progressOverride' },
      activities: [
        ['M', 'margin 1d'],
        ['A', '3d', begun],
        ['B', '3d', late('startNotAfter', '2026-03-24')],
      ],
      links: ['M > A', 'M > B'],
    });
    expect(override.dates['M']).toBe('03-20 08:00 - 03-20 17:00');
  });
});
