/** What a calendar is with those it is based on, which of them are kept when rows change, and which one an activity is computed on. */
import { applyChanges } from '@yellowhammer/core/change/change';
import type { Document } from '@yellowhammer/core/model/document';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { calendarFor, calendarsOf, chainExceptions, compileCalendar, dayLengths, elapsedCalendar, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { documentOf, fiveDays, sure } from './helpers';

const day = [['08:00', '14:00']];
const short = [day, day, day, day, [], [], []];
const stop = (on: string): Record<string, unknown> => ({ name: on, from: on, to: on, work: [] });
/** Calendars of a project, each by its id, what it is based on and what it states itself. */
const chained = (...rows: [id: string, basedOn: string | null, states?: Record<string, unknown>][]): Document =>
  documentOf({ activities: [], calendars: rows.map(([id, basedOn, states]) => ({ id, name: id, basedOn, ...states })) });
/** Exceptions as the reader makes them. */
const stopsOf = (n: number): Calendar['exceptions'] =>
  sure(chained(['E', null, { week: short, exceptions: Array.from({ length: n }, (_, i) => stop(`2026-03-0${i + 4}`)) }]).calendars.get('E')).exceptions;
function change(doc: Document, id: string, fields: Partial<Calendar>): void {
  const before = sure(doc.calendars.get(id));
  applyChanges(doc, [{ table: 'calendars', id, before, after: { ...before, ...fields } }]);
}

describe('a calendar with those it is based on', () => {
  test.each<[string, [string, string | null, Record<string, unknown>?][], { week: unknown; hoursPerDay: number | null; daysPerWeek: number | null; stops: string[] }]>([
    ['alone it is what it states', [['A', null, { week: short, hoursPerDay: 6, daysPerWeek: 4 }]], { week: short, hoursPerDay: 6, daysPerWeek: 4, stops: [] }],
    [
      'week and lengths of the parent, where it states none',
      [
        ['A', 'B'],
        ['B', null, { week: short, hoursPerDay: 6, daysPerWeek: 4 }],
      ],
      { week: short, hoursPerDay: 6, daysPerWeek: 4, stops: [] },
    ],
    [
      'a week of its own has lengths of its own',
      [
        ['A', 'B', { week: short }],
        ['B', null, { week: fiveDays.week, hoursPerDay: 8, daysPerWeek: 5 }],
      ],
      { week: short, hoursPerDay: null, daysPerWeek: null, stops: [] },
    ],
    [
      'lengths stated nearer hold, each by itself',
      [
        ['A', 'B', { hoursPerDay: 7 }],
        ['B', 'C', { hoursPerDay: 6, daysPerWeek: 3 }],
        ['C', null, { week: short, hoursPerDay: 5, daysPerWeek: 4 }],
      ],
      { week: short, hoursPerDay: 7, daysPerWeek: 3, stops: [] },
    ],
    [
      'with no week anywhere, lengths of all of them',
      [
        ['A', 'B'],
        ['B', null, { hoursPerDay: 6, daysPerWeek: 4 }],
      ],
      { week: null, hoursPerDay: 6, daysPerWeek: 4, stops: [] },
    ],
    [
      'exceptions of the parents come before its own, the farthest first',
      [
        ['A', 'B', { exceptions: [stop('2026-03-04')] }],
        ['B', 'C', { week: short, exceptions: [stop('2026-03-05')] }],
        ['C', null, { exceptions: [stop('2026-03-06'), stop('2026-03-09')] }],
      ],
      { week: short, hoursPerDay: null, daysPerWeek: null, stops: ['2026-03-06', '2026-03-09', '2026-03-05', '2026-03-04'] },
    ],
  ])('%s', (_, rows, expected) => {
    const doc = chained(...rows);
    const { id, name, week, hoursPerDay, daysPerWeek, exceptions } = sure(resolveCalendar(doc.calendars, 'A'));
    const plain = (w: unknown): unknown => JSON.parse(JSON.stringify(w));
    expect([id, name, plain(week), hoursPerDay, daysPerWeek, exceptions.map((e) => e.name)]).toEqual([
      'A',
      'A',
      expected.week === null ? null : plain(sure(documentOf({ activities: [], calendars: [{ id: 'W', name: 'W', week: expected.week }] }).calendars.get('W')).week),
      expected.hoursPerDay,
      expected.daysPerWeek,
      expected.stops,
    ]);
    expect(chainExceptions(doc.calendars, 'A')).toBe(expected.stops.length);
  });

  test('in a loop it is nothing, and nor is one that is not there', () => {
    const doc = chained(['A', 'B', { exceptions: [stop('2026-03-04')] }], ['B', null, { week: short }]);
    change(doc, 'B', { basedOn: 'A' });
    expect([resolveCalendar(doc.calendars, 'A'), chainExceptions(doc.calendars, 'A')]).toEqual([undefined, 0]);
    expect([resolveCalendar(doc.calendars, 'nobody'), chainExceptions(doc.calendars, 'nobody')]).toEqual([undefined, 0]);
    change(doc, 'B', { basedOn: 'nobody' });
    expect(chainExceptions(doc.calendars, 'A')).toBe(1);
  });
});

describe('what is kept', () => {
  const usable = (doc: Document, id: string) => sure(calendarsOf(doc).usable.get(id));

  test('all of it while no row changes; of the others what does not rest on a row that does', () => {
    const doc = chained(['A', 'B'], ['B', null, { week: short }], ['C', null, { week: short }]);
    const first = calendarsOf(doc);
    expect(calendarsOf(doc)).toBe(first);
    const [a, b, c] = ['A', 'B', 'C'].map((id) => usable(doc, id));
    change(doc, 'B', { exceptions: stopsOf(1) });
    expect(calendarsOf(doc)).not.toBe(first);
    expect([usable(doc, 'A') === a, usable(doc, 'B') === b, usable(doc, 'C') === c]).toEqual([false, false, true]);
    // The stop takes one day of six hours.
    expect(usable(doc, 'A').total).toBe(sure(a).total - 360);
  });

  test('a longer or shorter chain is another one', () => {
    const doc = chained(['A', 'B', { week: short }], ['B', null, { week: fiveDays.week, exceptions: [stop('2026-03-04')] }]);
    const with1 = usable(doc, 'A').total;
    change(doc, 'A', { basedOn: null });
    expect(usable(doc, 'A').total).toBe(with1 + 360);
    change(doc, 'A', { basedOn: 'B' });
    expect(usable(doc, 'A').total).toBe(with1);
  });

  test('a row more, a row less', () => {
    const doc = chained(['A', null, { week: short }]);
    const row = sure(doc.calendars.get('A'));
    const first = calendarsOf(doc);
    applyChanges(doc, [{ table: 'calendars', id: 'Z', before: null, after: { ...row, id: 'Z', name: 'Z' } }]);
    expect([calendarsOf(doc).usable.has('Z'), first.usable.has('Z')]).toEqual([true, false]);
    applyChanges(doc, [{ table: 'calendars', id: 'Z', before: sure(doc.calendars.get('Z')), after: null }]);
    expect(calendarsOf(doc).usable.has('Z')).toBe(false);
  });

  test('by its row where it has more than 300 exceptions, and by its content up to them', () => {
    const doc = chained(['parent', null, { week: short }], ['A', 'parent'], ['B', 'parent']);
    const one = stopsOf(1)[0]!;
    const many = (n: number) => Array.from({ length: n }, () => one);
    change(doc, 'A', { exceptions: many(300) });
    change(doc, 'B', { exceptions: many(301) });
    const [a, b] = [usable(doc, 'A'), usable(doc, 'B')];
    change(doc, 'five', { name: 'Of another name' });
    expect([usable(doc, 'A') === a, usable(doc, 'B') === b]).toEqual([true, true]);
    // Other rows with the same in them.
    for (const id of ['A', 'B']) change(doc, id, {});
    expect([usable(doc, 'A') === a, usable(doc, 'B') === b]).toEqual([true, false]);
    const b2 = usable(doc, 'B');
    change(doc, 'parent', { exceptions: [one] });
    expect(usable(doc, 'B') === b2).toBe(false);
    expect(elapsedCalendar()).toBe(elapsedCalendar());
  });

  test('64 by their content, those that were asked for last', () => {
    const of = (n: number) => ({ id: `c${n}`, name: `c${n}`, week: null, exceptions: [], hoursPerDay: 8, daysPerWeek: n });
    const [first, second] = [compileCalendar(of(0)), compileCalendar(of(1))];
    for (let n = 2; n < 64; n++) compileCalendar(of(n));
    // Asked for again, the first is the last to go.
    expect(compileCalendar(of(0))).toBe(first);
    compileCalendar(of(64));
    expect([compileCalendar(of(0)) === first, compileCalendar(of(1)) === second]).toEqual([true, false]);
  });
});

test('what cannot be used is told with its place; 20,000 exceptions can be, those of the parents counted', () => {
  const doc = chained(['A', 'B'], ['B', null, { week: short }], ['empty', null, { week: [[], [], [], [], [], [], []] }]);
  const told = () => calendarsOf(doc).problems.map((p) => [p.code, p.message, p.where]);
  const empty = [
    'CALENDAR_EMPTY',
    'Calendar empty has no working time at all. It cannot be used; give it hours on at least one day.',
    { table: 'calendars', id: 'empty', label: 'empty', field: 'week' },
  ];
  expect(told()).toEqual([empty]);
  const one = stopsOf(1)[0]!;
  change(doc, 'B', { exceptions: Array.from({ length: 19_999 }, () => one) });
  change(doc, 'A', { exceptions: [one] });
  expect(told()).toEqual([empty]);
  change(doc, 'A', { exceptions: [one, one] });
  expect(told()).toEqual([
    [
      'CALENDAR_TOO_LARGE',
      'Calendar A has 20001 exceptions with those of the calendars it is based on, more than the 20000 that can be computed. It cannot be used; delete exceptions that lie in the past, or put runs of days into one.',
      { table: 'calendars', id: 'A', label: 'A', field: 'exceptions' },
    ],
    empty,
  ]);
  expect([...calendarsOf(doc).usable.keys()].filter((id) => id.length === 1)).toEqual(['B']);
  change(doc, 'B', { basedOn: 'A' });
  const loop = (id: string) => [
    'CALENDAR_LOOP',
    `Calendar ${id}: the calendars it is based on run in a loop. It cannot be used; cut one of them loose.`,
    { table: 'calendars', id, label: id, field: 'basedOn' },
  ];
  expect(told()).toEqual([loop('A'), loop('B'), empty]);
});

describe('the calendar that an activity is computed on', () => {
  test('its own, else the project’s, also where its own cannot be used', () => {
    const doc = chained(['A', null, { week: short, hoursPerDay: 6, daysPerWeek: 4 }], ['none', null, { week: [[], [], [], [], [], [], []] }]);
    const on = (calendarId: string | null) => calendarFor(doc, { calendarId });
    const { usable } = calendarsOf(doc);
    expect([on('A') === usable.get('A'), on(null) === usable.get('five'), on('none') === usable.get('five'), on('nobody') === usable.get('five')]).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect([dayLengths(doc, { calendarId: 'A' }), dayLengths(doc, { calendarId: null })].map((l) => [l.minutesPerDay, l.daysPerWeek])).toEqual([
      [360, 4],
      [480, 5],
    ]);
    change(doc, 'five', { week: [[], [], [], [], [], [], []] });
    expect([on(null), dayLengths(doc, { calendarId: null })]).toEqual([undefined, { minutesPerDay: 480, daysPerWeek: 5 }]);
  });
});
