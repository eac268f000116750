/** Picked days, painted hours, calendars day by day, and what becomes of calendars that are shared. */
import fc from 'fast-check';
import { applyChanges } from '@yellowhammer/core/change/change';
import { exceptionsFor, formatDayList, halfOf, parseDayList, runsOf } from '@yellowhammer/core/commands/exceptions';
import { formatHours, paintHours, parseHours } from '@yellowhammer/core/commands/hours';
import { carryShared, cutLoose, makeOwn, meetings, sharedState, takeShared } from '@yellowhammer/core/commands/shared';
import type { Document } from '@yellowhammer/core/model/document';
import type { Calendar, Interval } from '@yellowhammer/core/model/schema';
import { compileCalendar, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { CompiledCalendar } from '@yellowhammer/core/time/calendar';
import { differingDays } from '@yellowhammer/core/time/calendar-days';
import { formatDay, parseDay } from '@yellowhammer/core/time/instant';
import { documentOf } from './helpers';

const day = (text: string): number => parseDay(text) as number;
const hours = (text: string): Interval[] => parseHours(text) as Interval[];
const eight = hours('8-12, 13-17');
const week = [eight, eight, eight, eight, eight, [], []];
const plain = { id: 'c', name: 'C', week, exceptions: [], hoursPerDay: null, daysPerWeek: null };

test.each([
  ['24 dec 2026', ['2026-12-24']],
  ['24 dec 2026 to 27 dec 2026, 3 jan 2027', ['2026-12-24', '2026-12-25', '2026-12-26', '2026-12-27', '2027-01-03']],
  ['27.12.2026; 24 dec 2026', ['2026-12-24', '2026-12-27']],
  ['24 dec 2026, 24 dec 2026', ['2026-12-24']],
])('days typed as %s', (text, days) => expect(parseDayList(text, day('2026-12-01'))).toEqual({ days: days.map(day) }));

test.each([
  ['', 'Type days'],
  ['some day', 'some day cannot be read'],
  ['27 dec 2026 to 24 dec 2026', 'ends before it begins'],
  ['1 jan 2000 to 1 jan 2150', 'longer than ten years'],
])('refused: days typed as "%s"', (text, message) => expect(parseDayList(text, day('2026-12-01'))).toEqual({ error: expect.stringContaining(message) as string }));

test('a list of days can be typed again as it is shown, whatever days were picked', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer({ min: day('1995-01-01'), max: day('2040-01-01') }), { minLength: 1, maxLength: 30 }), (days) => {
      const sorted = [...days].sort((a, b) => a - b);
      expect(parseDayList(formatDayList(days), day('2026-01-01'))).toEqual({ days: sorted });
      expect(runsOf(days).flatMap(([a, b]) => Array.from({ length: b - a + 1 }, (_, i) => a + i))).toEqual(sorted);
    }),
  );
});

test.each([
  ['8-12, 13-17', 'morning', '08:00-12:00'],
  ['8-12, 13-17', 'afternoon', '13:00-17:00'],
  ['7-15', 'morning', '07:00-12:00'],
  ['7-15', 'afternoon', '12:00-15:00'],
  ['20-4', 'morning', '20:00-24:00'],
  ['22-6', 'morning', '22:00-02:00'],
  ['6-9, 9:15-12, 12:45-14', 'morning', '06:00-09:00, 09:15-12:00'],
  ['', 'morning', ''],
] as const)('of %s the %s is %s', (text, half, expected) => expect(formatHours(halfOf(hours(text), half))).toBe(expected));

test.each([
  // Friday 1 and Saturday 2 January 2027, Monday 4.
  [
    'none',
    '',
    [
      ['2027-01-01', '2027-01-02', ''],
      ['2027-01-04', '2027-01-04', ''],
    ],
  ],
  [
    'morning',
    '',
    [
      ['2027-01-01', '2027-01-02', '08:00-12:00'],
      ['2027-01-04', '2027-01-04', '08:00-12:00'],
    ],
  ],
  [
    'hours',
    '9-11',
    [
      ['2027-01-01', '2027-01-02', '09:00-11:00'],
      ['2027-01-04', '2027-01-04', '09:00-11:00'],
    ],
  ],
  [
    'extra',
    '17-19',
    [
      ['2027-01-01', '2027-01-01', '08:00-12:00, 13:00-19:00'],
      ['2027-01-02', '2027-01-02', '17:00-19:00'],
      ['2027-01-04', '2027-01-04', '08:00-12:00, 13:00-19:00'],
    ],
  ],
  [
    'plain',
    '',
    [
      ['2027-01-01', '2027-01-01', '08:00-12:00, 13:00-17:00'],
      ['2027-01-02', '2027-01-02', ''],
      ['2027-01-04', '2027-01-04', '08:00-12:00, 13:00-17:00'],
    ],
  ],
] as const)('picked days with %s %s', (kind, text, expected) => {
  const days = ['2027-01-04', '2027-01-01', '2027-01-02'].map(day);
  const made = exceptionsFor(plain, { days, kind, hours: hours(text), name: 'x', yearly: false });
  expect('exceptions' in made && made.exceptions.map((e) => [e.from, e.to, formatHours(e.work)])).toEqual(expected);
});
test('the second half of a night begins on the next day: that is said, not dropped', () => {
  const nights = { ...plain, week: plain.week.map(() => hours('20-4')) };
  expect(exceptionsFor(nights, { days: [day('2027-01-01')], kind: 'afternoon', hours: [], name: '', yearly: false })).toEqual({
    error: expect.stringContaining('after midnight') as string,
  });
});

test('picked days get their hours, whatever stood there before, and no other day changes', () => {
  const pick = fc.uniqueArray(fc.integer({ min: day('2026-01-01'), max: day('2026-12-31') }), { minLength: 1, maxLength: 12 });
  fc.assert(
    fc.property(fc.array(fc.tuple(pick, fc.constantFrom('none', 'morning', 'hours', 'extra', 'plain')), { minLength: 1, maxLength: 4 }), (rounds) => {
      let c = { ...plain, exceptions: [] as Calendar['exceptions'] };
      const slow = new Map<number, string>();
      for (const [days, kind] of rounds) {
        const made = exceptionsFor(c, { days, kind, hours: hours('18-20'), name: kind, yearly: false });
        if ('error' in made) throw new Error(made.error);
        c = { ...c, exceptions: [...c.exceptions, ...made.exceptions] };
        const weekday = (d: number): boolean => week[(d + 3) % 7]!.length > 0;
        for (const d of days)
          slow.set(
            d,
            {
              none: '',
              morning: '08:00-12:00',
              hours: '18:00-20:00',
              extra: weekday(d) ? '08:00-12:00, 13:00-17:00, 18:00-20:00' : '18:00-20:00',
              plain: weekday(d) ? formatHours(eight) : '',
            }[kind],
          );
      }
      const compiled = new CompiledCalendar(c);
      const before = new CompiledCalendar(plain);
      const text = (x: CompiledCalendar, d: number): string => formatHours(x.intervalsOn(d).map(([a, b]): Interval => [a, b]));
      const all = Array.from({ length: 390 }, (_, i) => day('2025-12-20') + i);
      expect(all.filter((d) => text(compiled, d) !== (slow.get(d) ?? text(before, d)))).toEqual([]);
    }),
    { numRuns: 25 },
  );
});

const interval = fc.tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 1440 })).map(([a, n]): Interval => [a, Math.min(a + n, a + 1440)]);
test('painting: every minute is worked as the last stroke over it says', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(interval, fc.boolean()), { maxLength: 6 }), (strokes) => {
      let work: Interval[] = [];
      const slow = new Set<number>();
      for (const [[a, b], on] of strokes) {
        work = paintHours(work, a, b, on);
        for (let m = a; m < b; m++)
          if (on) slow.add(m);
          else slow.delete(m);
        // Where work is cut at midnight, what is left behind it begins on the next day and goes.
        if (!slow.has(1439)) for (let m = 1440; m < 2880; m++) slow.delete(m);
        else
          for (let m = 1440, gap = false; m < 2880; m++) {
            gap ||= !slow.has(m);
            if (gap) slow.delete(m);
          }
      }
      const worked = new Set<number>();
      for (const [a, b] of work) for (let m = a; m < b; m++) worked.add(m);
      expect([...worked].sort((x, y) => x - y)).toEqual([...slow].sort((x, y) => x - y));
      expect(work.every(([a, b]) => a >= 0 && a < 1440 && b > a && b <= a + 2880)).toBe(true);
    }),
    { numRuns: 60 },
  );
});

test('two calendars day by day', () => {
  const ours = new CompiledCalendar(plain);
  const theirs = new CompiledCalendar({
    ...plain,
    exceptions: [
      { name: 'Harbour Day', from: '2026-06-19', to: '2026-06-19', yearly: true, work: [] },
      // A Saturday off by name is off anyway.
      { name: 'free', from: '2026-06-20', to: '2026-06-20', yearly: false, work: [] },
    ],
  });
  const found = differingDays(ours, theirs, day('2026-06-01'), day('2027-12-31'));
  expect(found.map((x) => [formatDay(x.day), x.oursName, x.theirsName, x.theirs.length])).toEqual([['2026-06-19', '', 'Harbour Day', 0]]);
});

describe('shared calendars in a project', () => {
  const shared = (more: Partial<Calendar> = {}): Map<string, Calendar> =>
    new Map([['yard', { id: 'yard', sharedId: 'yard', rank: 0, name: 'Yard', basedOn: null, week, exceptions: [], hoursPerDay: null, daysPerWeek: null, ...more }]]);
  let n = 0;
  const newId = (): string => `new${++n}`;
  const run = (doc: Document, outcome: ReturnType<typeof takeShared>): void => {
    if (!outcome.ok) throw new Error(outcome.problems[0]!.message);
    applyChanges(doc, outcome.changes);
  };
  const row = (doc: Document): Calendar => [...doc.calendars.values()].find((c) => c.name.startsWith('Yard')) as Calendar;

  test('brought in, found to differ when the shared one changes, taken again, made its own', () => {
    const doc = documentOf({ activities: [['A', '1d']] });
    run(doc, takeShared(doc, shared(), 'yard', newId));
    expect(sharedState(doc, row(doc), shared())).toBe('same');
    const later = shared({ week: [eight, eight, eight, eight, eight, eight, []] });
    expect(sharedState(doc, row(doc), later)).toBe('differs');
    run(doc, takeShared(doc, later, 'yard', newId));
    expect([sharedState(doc, row(doc), later), doc.calendars.size]).toEqual(['same', 5]);
    expect(sharedState(doc, row(doc), new Map())).toBe('gone');
    run(doc, makeOwn(doc, row(doc).id));
    expect([row(doc).name, sharedState(doc, row(doc), later)]).toEqual(['Yard (T)', 'own']);
  });
  test('a project calendar of that name: with the same content it becomes the copy, with other content it is refused', () => {
    const doc = documentOf({ activities: [['A', '1d']] });
    const five = new Map([['f', { ...(shared().get('yard') as Calendar), id: 'f', sharedId: 'f', name: 'five' }]]);
    run(doc, takeShared(doc, five, 'f', newId));
    expect(doc.calendars.get('five')?.sharedId).toBe('f');
    const other = new Map([['s', { ...(shared().get('yard') as Calendar), id: 's', sharedId: 's', name: 'Six' }]]);
    expect(takeShared(doc, other, 's', newId)).toMatchObject({ ok: false, problems: [{ code: 'NAME_TAKEN' }] });
    expect(meetings(doc, other)).toEqual([{ calendarId: 'six', sharedId: 's', name: 'Six' }]);
  });
  test('a shared calendar that is renamed to a name the project has already gets a number behind it, in every copy', () => {
    const doc = documentOf({ activities: [['A', '1d']] });
    run(doc, takeShared(doc, shared(), 'yard', newId));
    applyChanges(doc, [{ table: 'calendars', id: 'second', before: null, after: { ...row(doc), id: 'second', name: 'Yard again' } }]);
    run(doc, carryShared(doc, shared({ name: 'Six', hoursPerDay: 7 }), 'yard', newId));
    const copies = [...doc.calendars.values()].filter((c) => c.sharedId === 'yard');
    expect(copies.map((c) => [c.name, c.hoursPerDay])).toEqual([
      ['Six 2', 7],
      ['Six 3', 7],
    ]);
    expect(carryShared(doc, shared({ name: 'Six', hoursPerDay: 7 }), 'elsewhere', newId)).toMatchObject({ ok: true, changes: [] });
  });
  test('cutting a calendar loose changes no day and no date', () => {
    const base = {
      calendars: [
        { id: 'parent', name: 'Parent', week: plain.week.map((d) => d.map(() => ['08:00', '12:00']).slice(0, 1)), exceptions: [{ from: '2026-03-03', work: [] }] },
        { id: 'child', name: 'Child', basedOn: 'parent', exceptions: [{ from: '2026-03-04', work: [['10:00', '11:00']] }] },
      ],
      activities: [['A', '5d @child'] as [string, string]],
    };
    const doc = documentOf(base);
    const before = schedule(doc).computed?.projectFinish;
    const was = compileCalendar(resolveCalendar(doc.calendars, 'child') as never);
    run(doc, cutLoose(doc, 'child'));
    const is = compileCalendar(resolveCalendar(doc.calendars, 'child') as never);
    expect(doc.calendars.get('child')).toMatchObject({ basedOn: null, exceptions: [{ from: '2026-03-03' }, { from: '2026-03-04' }] });
    expect([differingDays(was, is, day('2026-01-01'), day('2027-12-31')), schedule(doc).computed?.projectFinish]).toEqual([[], before]);
    expect(cutLoose(doc, 'child')).toMatchObject({ ok: false, problems: [{ code: 'STANDS_ALONE' }] });
  });
});
