/** What a shift needs, by hand: who, how many, hours, what begins and ends, who is away; and which shift comes next. */
import { loadsOf } from '@yellowhammer/core/load/load';
import { shiftFrom, shiftNeeds } from '@yellowhammer/core/load/shift';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import { nodeInto, peopledPlan, putInto, sure, viewIn } from './helpers';

const doc = peopledPlan(
  {
    activities: [
      ['A', '2d', {}],
      ['B', '1d', {}],
      ['C', '1d', {}],
      ['N', '1d @nights', {}],
    ],
    links: ['A > B'],
  },
  {
    roles: [{ id: 'm', name: 'mason' }],
    resources: [
      { id: 'ana', roleId: 'm' },
      { id: 'ben', daysOff: [{ name: 'leave', from: '2026-03-03', to: '2026-03-03', yearly: false, work: [] }] },
      { id: 'lime', kind: 'material', unit: 't' },
    ],
    assignments: [
      { activityId: 'A', resourceId: 'ana', units: 1.5, work: 2 * 480 * 1500 },
      { activityId: 'A', resourceId: 'lime', quantity: 3 },
      { activityId: 'B', roleId: 'm', work: 480_000 },
    ],
  },
);
nodeInto(doc, 'Yard', null, 0);
nodeInto(doc, 'Tower', null, 1);
putInto(doc, 'A', 'Tower', 0);
putInto(doc, 'C', 'Yard', 0);
forgetIndex(doc);
const r = sure(schedule(doc).computed);
const week = sure(calendarFor(doc, { calendarId: null }));
const at = (t: string): number => parseInstant(t) as number;
const needs = (t: string, by = { trade: 'role', place: 'wbs' }) =>
  shiftNeeds({ doc, view: viewIn(doc), baseline: null, clock: false }, r, loadsOf(doc, r), sure(shiftFrom(week, at(t))), by);

test.each([
  ['2026-03-02T00:00', 0, '02T08:00 02T17:00'],
  ['2026-03-02T10:00', 0, '02T08:00 02T17:00'],
  ['2026-03-02T17:00', 0, '03T08:00 03T17:00'],
  ['2026-03-06T18:00', 0, '09T08:00 09T17:00'],
  ['2026-03-02T10:00', 1, '03T08:00 03T17:00'],
  ['2026-03-09T08:00', -1, '06T08:00 06T17:00'],
])('from %s, %s on: %s', (t, by, expected) => {
  const s = sure(shiftFrom(week, at(t), by));
  expect(`${formatInstant(s.from).slice(8)} ${formatInstant(s.to).slice(8)}`).toBe(expected);
});

test('Tuesday: the end of A by place, trade and material; what nobody is assigned to goes on, too; Ben is away', () => {
  const monday = needs('2026-03-02T08:00');
  expect(monday.lines.map((l) => [l.place, l.trade, l.activity, l.who, l.units / 1000, l.work / (l.unit ? 1000 : 60_000), l.begins, l.ends])).toEqual([
    ['Tower', 'mason', 'A A', 'ana', 1.5, 12, true, false],
    ['Tower', 'material', 'A A', 'lime', 0, 1.5, true, false],
    ['Yard', '', 'C C', null, 0, 0, true, true],
  ]);
  const tuesday = needs('2026-03-03T08:00');
  expect(tuesday.lines.map((l) => [l.activity, l.who, l.begins, l.ends])).toEqual([
    ['A A', 'ana', false, true],
    ['A A', 'lime', false, true],
  ]);
  expect([monday.away, tuesday.away]).toEqual([[], ['ben']]);
});

test('a role that nobody fills is told as open; parted by any field', () => {
  const { lines } = needs('2026-03-04T08:00', { trade: 'responsible', place: 'calendar' });
  expect(lines.map((l) => [l.activity, l.who, l.open, l.trade])).toEqual([['B B', 'mason', true, '']]);
  expect(needs('2026-03-30T08:00').lines).toEqual([]);
});
