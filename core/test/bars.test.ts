/** Bars: where they are parted by long stops, what of them is done, their float and their edge. Dates worked out by hand. */
import { barOf, longStops, parted } from '@yellowhammer/core/schedule/bars';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { NONE } from '@yellowhammer/core/schedule/network';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { d, documentOf, fiveDays, type PlanText, sure, viewIn } from './helpers';

const t = (text: string): number => sure(parseInstant(`2026-${text}`));
/** Day and time of an instant, for reading. */
const said = (n: number): string => new Date(n * 60_000).toISOString().slice(5, 16).replace('T', ' ');
const known = (n: number): string => {
  // Instants count from an epoch of their own; a known one gives the difference.
  const zero = t('01-01T00:00');
  return said(Date.UTC(2026, 0, 1) / 60_000 + (n - zero));
};
/** The standard week with stops from and to (both included). */
const week = (...stops: [string, string][]): Record<string, unknown> => ({
  ...fiveDays,
  exceptions: stops.map(([from, to]) => ({ name: 'stop', from: `2026-${from}`, to: `2026-${to}`, work: [] })),
});
const barIn = (p: PlanText, id = 'A') => {
  const doc = documentOf(p);
  return sure(barOf(doc, viewIn(doc), sure(doc.activities.get(id))));
};
const pieces = (p: PlanText): string[] => barIn(p).pieces.map((x) => `${known(x.from)} - ${known(x.to)}${x.done ? ' done' : ''}`);
const plan = (calendar: Record<string, unknown>, more: Record<string, unknown> = {}, project: Record<string, unknown> = {}, length = '6d'): PlanText => ({
  calendars: [{ ...calendar, id: 'own', name: 'Own' }],
  activities: [['A', `${length} @own`, more]],
  project: { plannedStart: '2026-03-02T08:00', ...project },
});

describe('pieces', () => {
  // Monday 2 March, eight hours a day. A stop counts from the end of work before it to the beginning after it.
  test.each<[string, PlanText, string[]]>([
    ['none is parted by a weekend', plan(week()), ['03-02 08:00 - 03-09 17:00']],
    // Work ends on Friday 6 at 17:00, and begins again on Monday 16 at 08:00: nine days and 15 hours.
    ['a stop of nine days and 15 hours parts it', plan(week(['03-09', '03-13'])), ['03-02 08:00 - 03-06 17:00', '03-16 08:00 - 03-16 17:00']],
    ['one of seven days and 15 hours does not', plan(week(['03-06', '03-12']), {}, {}, '6d'), ['03-02 08:00 - 03-16 17:00']],
    ['two long stops', plan(week(['03-05', '03-17'], ['03-19', '04-01']), {}, {}, '6d'), ['03-02 08:00 - 03-04 17:00', '03-18 08:00 - 03-18 17:00', '04-02 08:00 - 04-03 17:00']],
    [
      'what is done, and what is ahead from the data date',
      plan(week(['03-09', '03-20']), { actualStart: '2026-03-02T08:00', remaining: d(3) }, { dataDate: '2026-03-05T08:00' }),
      ['03-02 08:00 - 03-05 08:00 done', '03-05 08:00 - 03-06 17:00', '03-23 08:00 - 03-23 17:00'],
    ],
    [
      'a stop before what is ahead parts what is done',
      plan(week(['03-04', '03-17']), { actualStart: '2026-03-02T08:00', remaining: d(2) }, { dataDate: '2026-03-19T08:00' }),
      ['03-02 08:00 - 03-03 17:00 done', '03-18 08:00 - 03-19 08:00 done', '03-19 08:00 - 03-20 17:00'],
    ],
    [
      'all is done',
      plan(week(['03-04', '03-17']), { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-19T17:00' }, { dataDate: '2026-03-20T08:00' }),
      ['03-02 08:00 - 03-03 17:00 done', '03-18 08:00 - 03-19 17:00 done'],
    ],
    [
      'two stops ahead of the data date',
      plan(week(['03-05', '03-17'], ['03-19', '04-01']), { actualStart: '2026-03-02T08:00', remaining: d(4) }, { dataDate: '2026-03-04T08:00' }),
      ['03-02 08:00 - 03-04 08:00 done', '03-04 08:00 - 03-04 17:00', '03-18 08:00 - 03-18 17:00', '04-02 08:00 - 04-03 17:00'],
    ],
    [
      'finished out of work',
      plan(week(), { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }, { dataDate: '2026-03-20T08:00' }),
      ['03-02 08:00 - 03-03 17:00 done'],
    ],
  ])('%s', (_, p, expected) => {
    expect(pieces(p)).toEqual(expected);
  });

  test('exactly nine days of stop part nothing, a minute more does', () => {
    const around = (begins: string): PlanText => ({
      calendars: [
        {
          id: 'own',
          name: 'Own',
          hoursPerDay: 9,
          week: Array.from({ length: 7 }, () => []),
          exceptions: [
            { name: 'on', from: '2026-03-02', to: '2026-03-02', work: [['08:00', '17:00']] },
            { name: 'on', from: '2026-03-11', to: '2026-03-11', work: [[begins, '23:00']] },
          ],
        },
      ],
      activities: [['A', '600m @own']],
      project: { plannedStart: '2026-03-02T08:00' },
    });
    expect(pieces(around('17:00'))).toHaveLength(1);
    expect(pieces(around('17:01'))).toEqual(['03-02 08:00 - 03-02 17:00', '03-11 17:01 - 03-11 18:01']);
  });
  test('levels of effort are never parted', () => {
    const p = plan(week(['03-04', '03-20']));
    p.activities.push(['E', '0d @own', { type: 'levelOfEffort' }]);
    const all = { ...p, links: ['A SS > E', 'A FF > E'] };
    expect([barIn(all, 'A').pieces.length, barIn(all, 'E').pieces.length]).toEqual([2, 1]);
  });
});

test('a span that ends or begins with a stop has no piece there; a stop at its end parts it only where it is longer than nine days', () => {
  const doc = documentOf(plan(week(['03-09', '03-31'])));
  const c = sure(calendarFor(doc, sure(doc.activities.get('A'))));
  const spans = (from: string, to: string): string[] => parted(c, t(from), t(to), false).map((x) => `${known(x.from)} - ${known(x.to)}`);
  // Work ends on Friday 6 at 17:00 and goes on on Wednesday 1 April at 08:00.
  expect(spans('03-06T08:00', '03-25T08:00')).toEqual(['03-06 08:00 - 03-06 17:00']);
  expect(spans('03-09T00:00', '04-01T17:00')).toEqual(['04-01 08:00 - 04-01 17:00']);
  expect(spans('03-06T08:00', '03-15T17:00')).toEqual(['03-06 08:00 - 03-15 17:00']);
  expect(spans('03-06T08:00', '03-15T17:01')).toEqual(['03-06 08:00 - 03-06 17:00']);
  // Within a stop alone, of just nine days and of a minute more.
  expect(spans('03-09T08:00', '03-18T08:00')).toEqual(['03-09 08:00 - 03-18 08:00']);
  expect(spans('03-09T08:00', '03-18T08:01')).toEqual([]);
});

test('stops are found from the first instant to the last, and asked for again they are the same list', () => {
  const doc = documentOf(plan(week(['03-09', '03-20'])));
  const c = sure(calendarFor(doc, sure(doc.activities.get('A'))));
  expect(longStops(c, t('03-09T00:00'), t('03-31T00:00')).map(([a, b]) => [known(a), known(b)])).toEqual([['03-09 00:00', '03-23 08:00']]);
  expect(longStops(c, t('03-02T08:00'), t('03-20T00:00')).map(([a, b]) => [known(a), known(b)])).toEqual([['03-06 17:00', '03-20 00:00']]);
  expect(longStops(c, t('03-02T08:00'), t('03-20T00:00'))).toBe(longStops(c, t('03-02T08:00'), t('03-20T00:00')));
  // A span no longer than a stop is not looked at.
  expect(parted(c, t('03-09T00:00'), t('03-18T00:00'), true)).toEqual([{ from: t('03-09T00:00'), to: t('03-18T00:00'), done: true }]);
  expect(parted(c, t('03-06T08:00'), t('03-24T08:00'), false).map((x) => [known(x.from), known(x.to), x.done])).toEqual([
    ['03-06 08:00', '03-06 17:00', false],
    ['03-23 08:00', '03-24 08:00', false],
  ]);
});

test('float reaches to the late finish where there is any; critical, near and lengths are those of the view', () => {
  const p: PlanText = {
    activities: [
      ['A', '2d'],
      ['B', '5d'],
      ['C', '1d'],
    ],
    links: ['A > C', 'B > C'],
    project: { plannedStart: '2026-03-02T08:00' },
  };
  const [a, b] = [barIn(p, 'A'), barIn(p, 'B')];
  expect([known(a.floatTo), a.critical, a.near, a.left, a.planned, a.state]).toEqual(['03-06 17:00', false, true, d(2), d(2), 0]);
  expect([b.floatTo, b.critical, b.near]).toEqual([NONE, true, false]);
  const doc = documentOf(p);
  expect(barOf(doc, viewIn(doc), { ...sure(doc.activities.get('A')), id: 'nobody' })).toBeUndefined();
});
