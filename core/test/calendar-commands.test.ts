/** Commands on calendars, of a project and shared: what is made, what it says, why it is refused. */
import { addCalendar, calendarUses, deleteCalendar, editCalendar } from '@yellowhammer/core/commands/calendars';
import { formatHours, paintHours, parseHours } from '@yellowhammer/core/commands/hours';
import {
  carryShared,
  chooseCalendars,
  cutLoose,
  forgetUnknownShared,
  freeCalendarName,
  type ImportChoice,
  makeOwn,
  meetings,
  replaceByShared,
  sameContent,
  sharedFrom,
  sharedState,
  takeShared,
} from '@yellowhammer/core/commands/shared';
import type { Document } from '@yellowhammer/core/model/document';
import type { Calendar, Interval } from '@yellowhammer/core/model/schema';
import { MOST_CHAIN_EXCEPTIONS, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { documentOf, mustBack, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const eight = parseHours('8-12, 13-17') as Interval[];
const week = [eight, eight, eight, eight, eight, [], []];
/** Calendars five, clock, six and nights (ranks 0 to 3), a child of five; A and B use six and nights, a lag counts on nights. */
function plan(): Document {
  const doc = documentOf({
    activities: [
      ['B', '1d @six'],
      ['A', '1d @six'],
      ['N', '1d @nights'],
    ],
    links: ['A +1d [calendar:nights] > N'],
    calendars: [{ id: 'child', name: 'Child', basedOn: 'five', exceptions: [{ name: 'Fair', from: '2026-03-09', work: [] }] }],
  });
  return doc;
}
const calendar = (doc: Document, id: string): Calendar => sure(doc.calendars.get(id));

describe('adding', () => {
  test('a plain week of 8:00 to 17:00 from Monday to Friday, last in the list', () => {
    const doc = plan();
    const o = addCalendar(doc, { name: ' Plain ' }, newId);
    expect(tells(o)).toBe('Add calendar Plain');
    const [id] = mustBack(doc, o);
    expect(calendar(doc, sure(id))).toMatchObject({ name: 'Plain', rank: 5, basedOn: null, exceptions: [], hoursPerDay: null, daysPerWeek: null, sharedId: null });
    expect(calendar(doc, sure(id)).week?.map((d) => formatHours(d))).toEqual(['08:00-17:00', '08:00-17:00', '08:00-17:00', '08:00-17:00', '08:00-17:00', '', '']);
  });
  test('one based on another has no week of its own; a copy has what its origin has', () => {
    const doc = plan();
    const [based] = mustBack(doc, addCalendar(doc, { name: 'Based', basedOn: 'six' }, newId));
    expect(calendar(doc, sure(based))).toMatchObject({ basedOn: 'six', week: null });
    const [copy] = mustBack(doc, addCalendar(doc, { name: 'Copy', copyOf: 'child' }, newId));
    expect(calendar(doc, sure(copy))).toMatchObject({ basedOn: 'five', exceptions: [{ name: 'Fair' }], rank: 6 });
  });
  test.each([
    [{ name: '  ' }, 'NAME_NEEDED A calendar needs a name. @calendars/ID//name'],
    [{ name: ' SIX ' }, 'NAME_TAKEN There is a calendar Six already. Choose another name. @calendars/six'],
    [{ name: 'X', basedOn: 'gone' }, 'UNKNOWN_CALENDAR The calendar that it is based on is not there. Choose another parent. @calendars/ID/X'],
  ])('%j is refused', (args, words) => expect(tells(addCalendar(plan(), args, () => 'ID'))).toBe(words));
});

describe('changing', () => {
  const reversed = { name: 'Fair', from: '2026-03-09', to: '2026-03-08', yearly: false, work: [] };
  test.each<[string, Partial<Calendar>, string]>([
    ['gone', {}, 'UNKNOWN_CALENDAR That calendar is not in the project any more. @'],
    ['five', { name: 'x'.repeat(501) }, 'WRONG_VALUE Calendar Five: name: Too big: expected string to have <=500 characters @calendars/five/Five'],
    ['five', { name: '' }, 'NAME_NEEDED A calendar needs a name. @calendars/five//name'],
    ['five', { exceptions: [reversed] }, 'WRONG_RANGE The exception Fair ends before it begins. @calendars/five/Five'],
    ['five', { exceptions: [{ ...reversed, name: '' }] }, 'WRONG_RANGE The exception 2026-03-09 ends before it begins. @calendars/five/Five'],
    ['five', { basedOn: 'child' }, 'CALENDAR_LOOP Five would be based on itself through Five. Choose another parent. @calendars/five/Five'],
    ['five', { week: [[], [], [], [], [], [], []] }, 'CALENDAR_EMPTY Five would have no working time at all. Leave it hours on at least one day. @calendars/five/Five'],
    ['five', { name: 'Fives' }, 'Change calendar Fives'],
    // Every year from 31 December to 2 January: the days are in the year as they come.
    ['five', { exceptions: [{ ...reversed, from: '2026-12-31', to: '2027-01-02', yearly: true }] }, 'Change calendar Five'],
    ['five', { exceptions: [{ ...reversed, to: '2026-03-09' }] }, 'Change calendar Five'],
    ['five', { name: 'FIVE' }, 'Change calendar FIVE'],
  ])('%s with %j', (id, fields, words) => expect(tells(editCalendar(plan(), id, fields))).toBe(words));
  test('a child that would be left without work is named; one elsewhere does not matter', () => {
    const doc = plan();
    doc.calendars.set('child', { ...calendar(doc, 'child'), week: null, exceptions: [] });
    expect(tells(editCalendar(doc, 'five', { week: [[], [], [], [], [], [], []] }))).toContain('Five would have no working time');
    doc.calendars.set('child', { ...calendar(doc, 'child'), week: [eight, [], [], [], [], [], []] });
    doc.calendars.set('clock', { ...calendar(doc, 'clock'), week: [[], [], [], [], [], [], []] });
    expect(tells(editCalendar(doc, 'five', { name: 'Five!' }))).toBe('Change calendar Five!');
  });
  test('as many exceptions as a chain may have, and one more', () => {
    const many = (count: number): Calendar['exceptions'] => Array.from({ length: count }, () => ({ name: '', from: '2026-03-09', to: '2026-03-09', yearly: false, work: [] }));
    const doc = plan();
    const parents = Math.ceil(MOST_CHAIN_EXCEPTIONS / 2000);
    for (let i = 0; i < parents; i++)
      doc.calendars.set(`p${i}`, { ...calendar(doc, 'five'), id: `p${i}`, name: `P${i}`, basedOn: i ? `p${i - 1}` : null, exceptions: many(i ? 2000 : 1999) });
    const last = { ...calendar(doc, 'five'), id: 'last', name: 'Last', basedOn: `p${parents - 1}`, exceptions: [] };
    doc.calendars.set('last', last);
    const room = MOST_CHAIN_EXCEPTIONS - (parents * 2000 - 1);
    expect(tells(editCalendar(doc, 'last', { exceptions: many(room) }))).toBe('Change calendar Last');
    expect(tells(editCalendar(doc, 'last', { exceptions: many(room + 1) }))).toMatch(/^CALENDAR_TOO_LARGE .*@calendars\/last\/Last$/);
  });
});

describe('who uses a calendar', () => {
  test.each([
    ['five', { project: true, activities: [], calendars: ['Child'], links: 0 }],
    ['six', { project: false, activities: ['B', 'A'], calendars: [], links: 0 }],
    ['nights', { project: false, activities: ['N'], calendars: [], links: 1 }],
    ['clock', { project: false, activities: [], calendars: [], links: 0 }],
  ])('%s', (id, uses) => {
    const doc = plan();
    for (const a of doc.activities.values()) doc.activities.set(a.id, { ...a, name: '' });
    expect(calendarUses(doc, id)).toEqual({ resources: [], ...uses });
  });
  test.each([
    ['five', 'IN_USE Five is used by the project, the calendar Child. Give them another calendar first. @calendars/five/Five'],
    ['six', 'IN_USE Six is used by 2 activities. Give them another calendar first. @calendars/six/Six'],
    ['nights', 'IN_USE Nights is used by 1 activity, 1 link. Give them another calendar first. @calendars/nights/Nights'],
    ['gone', 'UNKNOWN_CALENDAR That calendar is not in the project any more. @'],
    ['clock', 'Delete calendar Clock'],
  ])('deleting %s', (id, words) => expect(tells(deleteCalendar(plan(), id))).toBe(words));
  test('what nobody uses goes, and comes back', () => {
    const doc = plan();
    mustBack(doc, deleteCalendar(doc, 'clock'));
    expect(doc.calendars.has('clock')).toBe(false);
  });
});

describe('hours', () => {
  test.each([
    ['8-5', '08:00-17:00'],
    ['20-4', '20:00-04:00'],
    // With minutes, or a nought before it, the end is meant as it stands.
    ['8-5:00', '08:00-05:00'],
    ['8:00-5', '08:00-05:00'],
    ['8-05', '08:00-05:00'],
    ['7-7', '07:00-19:00'],
    // Noon and later is no hour of a morning.
    ['13-12', '13:00-12:00'],
    ['1-12', '01:00-12:00'],
    ['16-4', '16:00-04:00'],
    ['15-4', '15:00-16:00'],
    ['8:30-12:45', '08:30-12:45'],
    ['8–12; 13 to 17', '08:00-12:00, 13:00-17:00'],
    [' no work ', ''],
    ['none', ''],
    ['-', ''],
    ['0-24', '00:00-24:00'],
    ['23:59-1', '23:59-01:00'],
  ])('%s is %s', (text, shown) => expect(formatHours(sure(parseHours(text)))).toBe(shown));
  test.each(['8', '8-', 'x', '24-25', '8:60-9', '8-9:60', '8-12, x', '10-48', '8-33', '8-12,'])('%s cannot be read', (text) => expect(parseHours(text)).toBeUndefined());
  test.each([
    ['8-12', '12-13', true, '08:00-13:00'],
    ['8-12', '14-15', true, '08:00-12:00, 14:00-15:00'],
    ['8-12', '9-10', false, '08:00-09:00, 10:00-12:00'],
    ['8-12', '8-12', false, ''],
    ['8-12', '7-8', false, '08:00-12:00'],
    ['20-4', '22-23', false, '20:00-22:00, 23:00-04:00'],
    ['', '0-1', true, '00:00-01:00'],
  ])('%s painted over %s (work: %s) is %s', (work, over, on, shown) => {
    const [[a, b]] = sure(parseHours(over)) as [Interval];
    expect(formatHours(paintHours(sure(parseHours(work)), a, b, on))).toBe(shown);
    // From either end.
    expect(formatHours(paintHours(sure(parseHours(work)), b, a, on))).toBe(shown);
  });
  test('work begins on its own day, and lasts a day at most', () => {
    expect(paintHours([], 1500, 1560, true)).toEqual([[1439, 1560]]);
    expect(paintHours([], 60, 2000, true)).toEqual([[60, 1500]]);
    expect(paintHours([], -60, 60, true)).toEqual([]);
    expect(paintHours([[1380, 1560]], 1380, 1440, false)).toEqual([]);
    expect(paintHours([[1380, 1560]], 1500, 1560, false)).toEqual([[1380, 1500]]);
  });
});

/** Shared: Yard (five days), Site based on it with a stop; the project has a copy of Yard under its id. */
function sharing(): { doc: Document; shared: Map<string, Calendar> } {
  const yard: Calendar = { id: 'yard', rank: 0, name: 'Yard', basedOn: null, week, exceptions: [], hoursPerDay: null, daysPerWeek: null, sharedId: 'yard' };
  const site: Calendar = {
    ...yard,
    id: 'site',
    rank: 1,
    name: 'Site',
    basedOn: 'yard',
    week: null,
    exceptions: [{ name: 'Stop', from: '2026-03-09', to: '2026-03-09', yearly: false, work: [] }],
    sharedId: 'site',
  };
  const doc = documentOf({ activities: [['A', '1d']] });
  return {
    doc,
    shared: new Map([
      ['yard', yard],
      ['site', site],
    ]),
  };
}

describe('shared calendars', () => {
  test('taken with what it is based on, under its own ids, behind the others', () => {
    const { doc, shared } = sharing();
    const o = takeShared(doc, shared, 'site', newId);
    expect(tells(o)).toBe('Take the shared calendar Site');
    expect(mustBack(doc, o)).toEqual(['site']);
    expect([calendar(doc, 'site').basedOn, calendar(doc, 'site').rank, calendar(doc, 'yard').rank, calendar(doc, 'site').sharedId]).toEqual(['yard', 4, 5, 'site']);
    expect(sharedState(doc, calendar(doc, 'site'), shared)).toBe('same');
    // Again: it is there already, and nothing new is made.
    const size = doc.calendars.size;
    mustBack(doc, takeShared(doc, shared, 'site', newId));
    expect(doc.calendars.size).toBe(size);
  });
  test('where its id is taken by another, it gets one of its own; where its name is, a number', () => {
    const { doc, shared } = sharing();
    doc.calendars.set('yard', { ...calendar(doc, 'six'), id: 'yard', name: 'Else' });
    const [id] = mustBack(
      doc,
      takeShared(doc, shared, 'yard', () => 'fresh'),
    );
    expect([id, calendar(doc, 'fresh').name]).toEqual(['fresh', 'Yard']);
    const other = sharing();
    other.doc.calendars.set('x', { ...calendar(other.doc, 'six'), id: 'x', name: 'yard' });
    mustBack(other.doc, takeShared(other.doc, other.shared, 'site', newId));
    expect(
      [...other.doc.calendars.values()]
        .filter((c) => c.sharedId !== null)
        .map((c) => c.name)
        .sort(),
    ).toEqual(['Site', 'Yard 2']);
  });
  test('a calendar of its name with the same hours becomes the copy; with others it is refused', () => {
    const { doc, shared } = sharing();
    doc.calendars.set('mine', { ...calendar(doc, 'five'), id: 'mine', name: 'YARD' });
    expect(mustBack(doc, takeShared(doc, shared, 'yard', newId))).toEqual(['mine']);
    expect(calendar(doc, 'mine')).toMatchObject({ name: 'Yard', sharedId: 'yard' });
    const other = sharing();
    other.doc.calendars.set('mine', { ...calendar(other.doc, 'nights'), id: 'mine', name: 'Yard' });
    expect(tells(takeShared(other.doc, other.shared, 'yard', newId))).toBe(
      'NAME_TAKEN The project has a calendar Yard of its own already, with other hours. Rename it first, or make it the shared one. @calendars/mine',
    );
  });
  test('made the shared one whatever it was, in its place', () => {
    const { doc, shared } = sharing();
    const o = replaceByShared(doc, shared, 'yard', 'nights', newId);
    expect(tells(o)).toBe('Take the shared calendar Yard');
    expect(mustBack(doc, o)).toEqual(['nights']);
    expect(calendar(doc, 'nights')).toMatchObject({ name: 'Yard', sharedId: 'yard', rank: 3, week });
  });
  test.each([
    ['a shared one that is gone', (d: Document, s: Map<string, Calendar>) => takeShared(d, s, 'zz', newId), 'UNKNOWN_CALENDAR That shared calendar is not there any more. @'],
    [
      'in the place of one that is gone',
      (d: Document, s: Map<string, Calendar>) => replaceByShared(d, s, 'yard', 'zz', newId),
      'UNKNOWN_CALENDAR That calendar is not there any more. @',
    ],
    [
      'one that is gone in a place',
      (d: Document, s: Map<string, Calendar>) => replaceByShared(d, s, 'zz', 'six', newId),
      'UNKNOWN_CALENDAR That calendar is not there any more. @',
    ],
    ['own of one that is gone', (d: Document) => makeOwn(d, 'zz'), 'UNKNOWN_CALENDAR That calendar is not in the project any more. @'],
    ['loose of one that is gone', (d: Document) => cutLoose(d, 'zz'), 'UNKNOWN_CALENDAR That calendar is not there any more, or is based on itself. @'],
    ['loose of one that stands alone', (d: Document) => cutLoose(d, 'six'), 'STANDS_ALONE Six is based on nothing; it stands alone already. @'],
  ])('refused: %s', (_, run, words) => {
    const { doc, shared } = sharing();
    expect(tells(run(doc, shared))).toBe(words);
  });
  test('a change is carried to each copy, and to none where there is none', () => {
    const { doc, shared } = sharing();
    mustBack(doc, takeShared(doc, shared, 'site', newId));
    const yard = sure(shared.get('yard'));
    shared.set('yard', { ...yard, name: 'Works yard', hoursPerDay: 7 });
    expect(sharedState(doc, calendar(doc, 'yard'), shared)).toBe('differs');
    const o = carryShared(doc, shared, 'yard', newId);
    expect(tells(o)).toBe('Change shared calendar Works yard');
    mustBack(doc, o);
    expect([calendar(doc, 'yard').name, calendar(doc, 'yard').hoursPerDay, calendar(doc, 'site').name]).toEqual(['Works yard', 7, 'Site']);
    const none = carryShared(sharing().doc, shared, 'zz', newId);
    expect([tells(none), none.ok && none.changes.length]).toEqual(['Change shared calendar ', 0]);
  });
  test('made the project’s own: a name of its own, or the one that is given', () => {
    const { doc, shared } = sharing();
    mustBack(doc, takeShared(doc, shared, 'yard', newId));
    expect(tells(makeOwn(doc, 'yard'))).toBe('Make Yard a project calendar');
    mustBack(doc, makeOwn(doc, 'yard', { hoursPerDay: 6 }));
    expect([calendar(doc, 'yard').name, calendar(doc, 'yard').hoursPerDay, sharedState(doc, calendar(doc, 'yard'), shared)]).toEqual(['Yard (T)', 6, 'own']);
    expect(sharedState(doc, { ...calendar(doc, 'yard'), sharedId: 'zz' }, shared)).toBe('gone');
  });
  test('cut loose it has what it had inherited', () => {
    const { doc, shared } = sharing();
    mustBack(doc, takeShared(doc, shared, 'site', newId));
    const before = resolveCalendar(doc.calendars, 'site');
    const o = cutLoose(doc, 'site');
    expect(tells(o)).toBe('Cut Site loose from Yard');
    mustBack(doc, o);
    expect(calendar(doc, 'site').basedOn).toBeNull();
    expect(sameContent(before, resolveCalendar(doc.calendars, 'site'))).toBe(true);
  });
  test('a calendar of a project as a shared one stands alone under its new id', () => {
    const { doc, shared } = sharing();
    mustBack(doc, takeShared(doc, shared, 'site', newId));
    expect(sharedFrom(doc, 'site', 'all')).toMatchObject({ id: 'all', sharedId: 'all', rank: 0, name: 'Site', basedOn: null, week, exceptions: [{ name: 'Stop' }] });
    expect(sharedFrom(doc, 'zz', 'all')).toBeUndefined();
  });
  test('contents: the same whatever the names; nothing is like nothing only', () => {
    const { doc } = sharing();
    const five = resolveCalendar(doc.calendars, 'five');
    expect([sameContent(five, resolveCalendar(doc.calendars, 'six')), sameContent(undefined, undefined), sameContent(five, undefined), sameContent(undefined, five)]).toEqual([
      false,
      true,
      false,
      false,
    ]);
  });
  test('a free name counts on, whatever the case', () => {
    const { doc } = sharing();
    expect([freeCalendarName(doc.calendars.values(), 'New'), freeCalendarName(doc.calendars.values(), 'SIX')]).toEqual(['New', 'SIX 2']);
    doc.calendars.set('s2', { ...calendar(doc, 'six'), id: 's2', name: 'Six 2' });
    expect(freeCalendarName(doc.calendars.values(), 'Six')).toBe('Six 3');
  });
  test('copies of calendars that nobody here shares belong to the project', () => {
    const { doc, shared } = sharing();
    doc.calendars.set('six', { ...calendar(doc, 'six'), sharedId: 'elsewhere' });
    doc.calendars.set('nights', { ...calendar(doc, 'nights'), sharedId: 'yard' });
    forgetUnknownShared(doc, shared);
    expect(['five', 'six', 'nights'].map((id) => calendar(doc, id).sharedId)).toEqual([null, null, 'yard']);
  });
});

describe('calendars of a file that meet shared ones', () => {
  /** `yard` names Yard with other hours, `s` is called Site by chance, `same` says what Yard says. */
  function file(): { doc: Document; shared: Map<string, Calendar> } {
    const { doc, shared } = sharing();
    doc.calendars.set('y', { ...calendar(doc, 'nights'), id: 'y', name: 'Their yard', sharedId: 'yard', rank: 10 });
    doc.calendars.set('s', { ...calendar(doc, 'six'), id: 's', name: 'SITE', rank: 11 });
    doc.calendars.set('same', { ...calendar(doc, 'five'), id: 'same', name: 'Yard', rank: 12 });
    return { doc, shared };
  }
  test('those with other days are met, by what they name or by their name', () => {
    const { doc, shared } = file();
    expect(meetings(doc, shared)).toEqual([
      { calendarId: 'y', sharedId: 'yard', name: 'Their yard' },
      { calendarId: 's', sharedId: 'site', name: 'SITE' },
    ]);
  });
  test.each<[string, Partial<Calendar>, number]>([
    ['an exception that changes nothing', { exceptions: [{ name: 'Sunday', from: '2026-03-08', to: '2026-03-08', yearly: false, work: [] }] }, 0],
    ['other hours of a day', { hoursPerDay: 7 }, 1],
    ['other days of a week', { daysPerWeek: 4 }, 1],
    ['one day that differs', { exceptions: [{ name: 'Monday', from: '2026-03-09', to: '2026-03-09', yearly: false, work: [] }] }, 1],
  ])('%s', (_, fields, met) => {
    const { doc, shared } = sharing();
    doc.calendars.set('same', { ...calendar(doc, 'five'), id: 'same', name: 'Yard', ...fields });
    expect(meetings(doc, shared).length).toBe(met);
  });
  test.each<[Record<string, ImportChoice>, string, [string, string | null][]]>([
    [
      { y: 'ours', s: 'theirs' },
      'At import: our Their yard kept, their SITE taken',
      [
        ['Yard 2', 'yard'],
        ['Site', 'site'],
      ],
    ],
    [
      { y: 'both' },
      'At import: both Their yard kept, both SITE kept',
      [
        ['Their yard (T)', null],
        ['SITE (T)', null],
      ],
    ],
  ])('%j', (choices, words, found) => {
    const { doc, shared } = file();
    const o = chooseCalendars(doc, shared, new Map(Object.entries(choices)), newId);
    expect(tells(o)).toBe(words);
    mustBack(doc, o);
    expect(['y', 's'].map((id) => [calendar(doc, id).name, calendar(doc, id).sharedId])).toEqual(found);
    expect(calendar(doc, 'same').sharedId).toBeNull();
  });
});
