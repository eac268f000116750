/** What is set aside before anything is computed: links, calendars and people that cannot be used, each with its words and its place. */
import { prepare } from '@yellowhammer/core/schedule/prepare';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { compute, documentOf, peopledPlan, type PlanText } from './helpers';

const idle = { id: 'idle', name: 'Idle', week: Array.from({ length: 7 }, () => []) };
const ab = (links: string[], more: Partial<PlanText> = {}): PlanText => ({
  activities: [
    ['A', '2d'],
    ['B', '1d'],
  ],
  links,
  ...more,
});
const linkAt = (id: string, label: string | null, field?: string) => ({ table: 'links', id, ...(label === null ? {} : { label }), ...(field ? { field } : {}) });
/** A chain of so many that leads back to its first. */
const ring = (n: number): PlanText => ({
  activities: Array.from({ length: n }, (_, i): [string, string] => [`R${i + 1}`, '1d']),
  links: Array.from({ length: n }, (_, i) => `R${i + 1} > R${((i + 1) % n) + 1}`),
});
const names = (from: number, to: number): string => Array.from({ length: to - from + 1 }, (_, i) => `R${from + i}`).join(' > ');
const round = (n: number, told: string) => ({
  code: 'LOOP',
  severity: 'error',
  message: `Link R${n} to R1 closes a loop: ${told} > R1. It was set aside; delete one link of the loop.`,
  where: linkAt(`l${n - 1}`, `R${n} to R1`),
});

test.each<[string, PlanText, unknown]>([
  [
    'start to start out of a margin',
    ab(['A SS > B'], {
      activities: [
        ['A', 'margin 2d'],
        ['B', '1d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-20' }] }],
      ],
    }),
    {
      code: 'MARGIN_LINK',
      severity: 'error',
      message: 'Link A to B (SS): into and out of a margin only finish-to-start counts. It was set aside.',
      where: linkAt('l0', 'A to B', 'type'),
    },
  ],
  [
    'twice the same',
    ab(['A > B', 'A > B']),
    { code: 'DUPLICATE_LINK', severity: 'error', message: 'Link A to B (FS) is there twice; the second was set aside. Delete one.', where: linkAt('l1', 'A to B') },
  ],
  [
    'a lag on a calendar without work',
    ab(['A +1d [calendar:idle] > B'], { calendars: [idle] }),
    {
      code: 'CALENDAR_NOT_USABLE',
      severity: 'error',
      message: "Link l0: the calendar of its lag cannot be used, so the predecessor's is taken.",
      where: linkAt('l0', null, 'lagCalendar'),
    },
  ],
  ['a loop', ring(3), round(3, names(1, 3))],
  ['a loop of as many as are named', ring(20), round(20, names(1, 20))],
  ['a loop of one more', ring(21), round(21, `${names(1, 19)} > 1 more > R21`)],
])('a link is set aside: %s', (_, plan, problem) => {
  expect(compute(plan).problems.filter((p) => p.where.table === 'links')).toEqual([problem]);
});

test('two types between the same two are no duplicate, nor are two that lead on', () => {
  expect(compute(ab(['A > B', 'A SS > B'])).problems).toEqual([]);
  expect(
    compute({
      activities: [
        ['A', '1d'],
        ['B', '1d'],
        ['C', '1d'],
      ],
      links: ['A > B', 'A > C', 'B > C'],
    }).problems,
  ).toEqual([]);
});

const unusable = (what: string, field: string): unknown =>
  expect.objectContaining({ code: 'CALENDAR_NOT_USABLE', message: what, where: expect.objectContaining({ field }) as unknown });

test('a calendar without work: the project’s stands in for it, and where it is the project’s nothing is computed', () => {
  expect(compute({ activities: [['A', '2d @idle', { name: 'Dig', code: '7' }]], calendars: [idle] }).problems.slice(1)).toEqual([
    unusable("7 Dig: its calendar cannot be used, so the project's is taken.", 'calendarId'),
  ]);
  expect(prepare(documentOf({ activities: [['A', '1d']], project: { calendarId: 'idle' }, calendars: [idle] })).problems.slice(1)).toEqual([
    {
      code: 'NO_PROJECT_CALENDAR',
      severity: 'error',
      message: 'The project has no usable calendar, so nothing can be computed. Choose a calendar with working time.',
      where: { table: 'project', field: 'calendarId' },
    },
  ]);
});

test.each(['A', 'B'])('a link whose end %s is gone is set aside', (gone) => {
  const doc = documentOf(ab(['A > B', 'B SS > A']));
  doc.activities.delete(gone);
  const said = (id: string) => ({
    code: 'UNKNOWN_ACTIVITY',
    severity: 'error',
    message: `Link ${id} names an activity that is not there; it was set aside.`,
    where: linkAt(id, null),
  });
  const { network, problems } = prepare(doc);
  expect(problems).toEqual([said('l0'), said('l1')]);
  expect(network?.links).toBe(0);
});

describe('away for 400 days or more, from the evening of 3 March 2026 to the morning of 3 May 2027', () => {
  const problems = (size: string, more: Record<string, unknown> = {}, also: Record<string, unknown>[] = []): unknown[] =>
    schedule(
      peopledPlan(
        { activities: [['A', size, { name: 'Dig', code: '7', ...more }]] },
        {
          resources: [{ id: 'ana', daysOff: [{ name: 'away', from: '2026-03-04', to: '2027-04-30' }] }, ...also],
          assignments: [{ activityId: 'A', resourceId: 'ana', drives: true }, ...also.map((r) => ({ activityId: 'A', resourceId: r['id'], drives: true }))],
        },
      ),
    ).problems.filter((p) => p.code === 'ALWAYS_AWAY');
  const said = (who: string) => [
    {
      code: 'ALWAYS_AWAY',
      severity: 'error',
      message: `7 Dig: from 2026-03-03T17:00 to 2027-05-03T08:00 there is no minute in which ${who} can work on it, so its own calendar is taken. Assign somebody else, or give working time.`,
      where: { table: 'activities', id: 'A', label: '7 Dig', field: 'assignments' },
    },
  ];
  const from = (date: string) => ({ constraints: [{ kind: 'startNotBefore', date }] });
  test('work that lies in it', () => expect(problems('5d')).toEqual(said('ana')));
  test('all who cut its calendar are named', () =>
    expect(problems('5d', {}, [{ id: 'ben', daysOff: [{ name: 'away', from: '2026-03-02', to: '2026-03-02' }] }])).toEqual(said('ana, ben')));
  test('a minute of it is enough, on either side', () => {
    expect(problems('961m')).toEqual(said('ana'));
    expect(problems('960m')).toEqual([]);
    expect(problems('1d', from('2027-04-30T16:59'))).toEqual(said('ana'));
    expect(problems('1d', from('2027-05-03T08:00'))).toEqual([]);
  });
});
