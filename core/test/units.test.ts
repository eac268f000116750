/** Hours of work, and the day near which a date without a year is meant. */
import { exactHoursOf, hoursOf, workOf } from '@yellowhammer/core/load/hours';
import { statusDay, statusInstant } from '@yellowhammer/core/model/status-day';
import { parseDay } from '@yellowhammer/core/time/instant';
import { documentOf } from './helpers';

test.each([
  // thousandths of unit-minutes, hours with one decimal, with two
  [0, 0, 0],
  [60_000, 1, 1],
  [2_999, 0, 0.05],
  [3_000, 0.1, 0.05],
  [9_000, 0.2, 0.15],
  [162 * 60_000 + 299, 162, 162],
  [162 * 60_000 + 300, 162, 162.01],
])('%i thousandths of unit-minutes are %d h, or %d', (work, one, two) => {
  expect([hoursOf(work), exactHoursOf(work)]).toEqual([one, two]);
});

test('hours that are typed are the work that is shown as these hours', () => {
  expect([workOf(1), workOf(7.5), workOf(0.1)]).toEqual([60_000, 450_000, 6_000]);
  expect(exactHoursOf(workOf(33.33))).toBe(33.33);
});

test.each([
  ['2026-03-02T08:00', null, '2026-03-02', 8 * 60],
  ['2026-03-02T08:00', '2026-04-16T17:00', '2026-04-16', 17 * 60],
  ['2026-03-02T23:59', '2026-04-16T00:00', '2026-04-16', 0],
])('a plan that begins %s, with the data date %s, stands on %s', (plannedStart, dataDate, day, minute) => {
  const doc = documentOf({ activities: [['A', '1d']], project: { plannedStart, dataDate } });
  expect(statusDay(doc)).toBe(parseDay(day));
  expect(statusInstant(doc)).toBe((parseDay(day) as number) * 24 * 60 + minute);
});
