/** Shared calendars: nobody's finish moves unseen, and every project keeps a complete copy. */
import { openDatabase } from '@yellowhammer/server/database';
import { Shared } from '@yellowhammer/server/shared';
import { Store } from '@yellowhammer/server/store';
import { invertChanges, type LogEntry } from '@yellowhammer/core/change/change';
import { historyOf } from '@yellowhammer/core/change/history';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import type { MeetingView, ProjectEffect, SharedEntry } from '@yellowhammer/core/commands/shared-views';
import type { Problem } from '@yellowhammer/core/model/problem';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { Calendar, Exception, Interval } from '@yellowhammer/core/model/schema';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { planFileOf, type PlanText } from '../../core/test/helpers';
import { asked, type Asked } from './asked';

let server: Asked;
let store: Store;
let shared: Shared;
beforeEach(async () => {
  server = await asked();
  ({ store, shared } = server);
});
afterEach(() => server.stop());

const ask = <T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }> => server.ask<T>(method, path, body);
const day: Interval[] = [
  [480, 720],
  [780, 1020],
];
const yard: Calendar = {
  id: 'yard',
  sharedId: 'yard',
  rank: 0,
  name: 'Yard week',
  basedOn: null,
  week: [day, day, day, day, day, [], []],
  exceptions: [],
  hoursPerDay: null,
  daysPerWeek: null,
};
const off = (date: string): Exception => ({ name: 'stop', from: date, to: date, yearly: false, work: [] });
/** Two weeks of work from Monday 2 March: finishes on Friday 13 March at 17:00. */
const plan = (more: Partial<PlanText> = {}): string =>
  JSON.stringify(
    planFileOf({ activities: [['A', '10d @yard']], calendars: [{ ...file(yard), sharedId: 'yard' }], ...more, project: { code: 'P', name: 'Pier', ...more.project } }),
  );
const file = (c: Calendar): Record<string, unknown> => ({ ...c, week: c.week?.map((x) => x.map(([a, b]) => [clock(a), clock(b)])), sharedId: null });
const clock = (m: number): string => `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
const bring = async (text: string, choices?: Record<string, string>) =>
  ask<{ id: string; meetings?: MeetingView[]; problems: Problem[] }>('POST', `/import${choices ? `?choices=${encodeURIComponent(JSON.stringify(choices))}` : ''}`, text);
const doc = (id: string): Document => store.document(id)?.doc as Document;
const finish = (id: string): string => formatInstant(schedule(doc(id)).computed?.projectFinish ?? 0);
const own = (id: string): Calendar => [...doc(id).calendars.values()].find((c) => c.name.startsWith('Yard') || c.id === 'yard') as Calendar;

test('a change is shown for every project that uses it before it is taken over, and then moves them all, logged in each', async () => {
  shared.add([yard], { who: 'Ada', client: 'me' });
  const one = (await bring(plan())).body.id;
  const two = (await bring(plan({ activities: [['B', '5d']], project: { calendarId: 'yard', code: 'Q', name: 'Quay' } }))).body.id;
  const away = (await bring(plan({ project: { code: 'R', name: 'Ramp' } }))).body.id;
  await ask('POST', `/projects/${away}/state`, { state: 'archived' });
  const next = { ...yard, exceptions: [off('2026-03-03')] };
  const effects = (await ask<{ effects: ProjectEffect[] }>('POST', '/shared-calendars/effects', { calendar: next })).body.effects;
  expect(effects.map((e) => [e.code, e.before, e.after, e.finishDays, e.moved])).toEqual([
    ['P', '2026-03-13T17:00', '2026-03-16T17:00', 1, 1],
    ['Q', '2026-03-06T17:00', '2026-03-09T17:00', 1, 1],
  ]);
  expect([finish(one), finish(two)]).toEqual(['2026-03-13T17:00', '2026-03-06T17:00']);
  expect((await ask('PUT', '/shared-calendars/yard', { revision: 1, calendar: next })).status).toBe(200);
  expect([finish(one), finish(two), finish(away)]).toEqual(['2026-03-16T17:00', '2026-03-09T17:00', '2026-03-13T17:00']);
  expect(store.recent(one)[0]).toMatchObject({ label: 'Change shared calendar Yard week', who: 'Ada', client: 'shared calendar' });
  const entry = (await ask<SharedEntry[]>('GET', '/shared-calendars')).body[0]!;
  expect(entry.usedBy.map((u) => [u.code, u.state, u.same])).toEqual([
    ['P', 'active', true],
    ['Q', 'active', true],
    ['R', 'archived', false],
  ]);
  // What it was before can be put back, and is a change like any other.
  expect(entry.previous).toEqual(yard);
  // Somebody who saw the calendar as it was before is told, and nothing is written.
  const late = await ask<{ problems: Problem[] }>('PUT', '/shared-calendars/yard', { revision: 1, calendar: yard });
  expect([late.status, late.body.problems[0]!.code]).toEqual([422, 'CHANGED_MEANWHILE']);
  expect(finish(one)).toBe('2026-03-16T17:00');
});

test('several writes are one: where one fails none is kept, and nobody hears of any', async () => {
  shared.add([yard], { who: 'Ada', client: 'me' });
  const id = (await bring(plan())).body.id;
  const heard: string[] = [];
  store.listen(id, (e) => void ('label' in e && heard.push(e.label)));
  const before = store.head(id)?.revision;
  const calendar = own(id);
  const batch = (changeId: string) => ({
    changeId,
    label: 'Rename',
    kind: 'do' as const,
    target: null,
    changes: [{ table: 'calendars' as const, id: calendar.id, before: calendar, after: { ...calendar, name: changeId } }],
  });
  expect(() =>
    store.together(() => {
      expect(store.apply(id, store.head(id)?.revision ?? 0, batch('half-done'), { who: 'Ada', client: 'me' }).kind).toBe('applied');
      expect(heard).toEqual([]);
      throw new Error('the disk is full');
    }),
  ).toThrow('the disk is full');
  expect([heard, own(id).name, store.head(id)?.revision]).toEqual([[], calendar.name, before]);
  store.together(() => store.apply(id, store.head(id)?.revision ?? 0, batch('all-done'), { who: 'Ada', client: 'me' }));
  expect([heard, own(id).name]).toEqual([['Rename'], 'all-done']);
});

test('what is based on a shared calendar moves with it', async () => {
  shared.add([yard, { ...yard, id: 'crane', sharedId: 'crane', name: 'Crane', basedOn: 'yard', week: null }], { who: 'Ada', client: 'me' });
  const made = await ask<{ id: string }>('POST', '/projects', { code: 'C', name: 'Crane way', plannedStart: '2026-03-02T08:00', sharedCalendarId: 'crane' });
  const calendars = [...doc(made.body.id).calendars.values()];
  expect(calendars.map((c) => [c.name, c.sharedId]).sort()).toEqual([
    ['Crane', 'crane'],
    ['Yard week', 'yard'],
  ]);
  expect(projectOf(doc(made.body.id)).calendarId).toBe(calendars.find((c) => c.name === 'Crane')?.id);
  await ask('PUT', '/shared-calendars/yard', { revision: 1, calendar: { ...yard, exceptions: [off('2026-03-03')] } });
  expect([...doc(made.body.id).calendars.values()].find((c) => c.name === 'Yard week')?.exceptions).toHaveLength(1);
  expect((await ask<{ problems: Problem[] }>('DELETE', '/shared-calendars/yard')).body.problems[0]!.code).toBe('IN_USE');
});

test.each([
  ['an empty week', { ...yard, week: [[], [], [], [], [], [], []] }, 'CALENDAR_EMPTY'],
  ['a taken name', { ...yard, name: 'Night' }, 'NAME_TAKEN'],
  ['an exception that ends before it begins', { ...yard, exceptions: [{ ...off('2026-03-05'), to: '2026-03-04' }] }, 'WRONG_RANGE'],
  ['no name', { ...yard, name: ' ' }, 'NAME_NEEDED'],
  ['itself as parent', { ...yard, basedOn: 'yard', week: null }, 'CALENDAR_LOOP'],
  ['a parent that is not shared', { ...yard, basedOn: 'other' }, 'UNKNOWN_CALENDAR'],
])('refused: %s', async (_, calendar, code) => {
  shared.add([yard, { ...yard, id: 'night', sharedId: 'night', name: 'Night' }], { who: 'Ada', client: 'me' });
  const r = await ask<{ problems: Problem[] }>('PUT', '/shared-calendars/yard', { revision: 1, calendar });
  expect([r.status, r.body.problems[0]!.code]).toEqual([422, code]);
  expect(shared.all().get('yard')).toEqual(yard);
});

test('wrong types are refused without a change', async () => {
  for (const [method, path, body] of [
    ['PUT', '/shared-calendars/yard', { revision: 'x', calendar: yard }],
    ['PUT', '/shared-calendars/yard', {}],
    ['POST', '/shared-calendars/effects', { calendar: { ...yard, week: 7 } }],
    ['POST', '/import?choices=%7B', plan()],
    ['POST', '/import?choices=%7B%22yard%22%3A%22mine%22%7D', plan()],
    ['GET', '/holidays/NO?years=soon', undefined],
    ['GET', '/holidays/NO?years=1800', undefined],
  ] as const)
    expect([path, (await ask(method, path, body)).status]).toEqual([path, 400]);
  expect((await ask('GET', '/holidays/XX?years=2027')).status).toBe(404);
  expect(store.heads()).toEqual([]);
});

test('a project calendar is shared with all; others bring it in', async () => {
  const id = (await bring(plan())).body.id;
  expect(own(id).sharedId).toBeNull();
  const made = await ask<{ id: string }>('POST', `/projects/${id}/calendars/yard/share`);
  expect(made.status).toBe(201);
  expect([...shared.all().values()].map((c) => [c.id, c.name, c.sharedId])).toEqual([['yard', 'Yard week', 'yard']]);
  expect(own(id).sharedId).toBe('yard');
  expect((await ask('POST', `/projects/${id}/calendars/nothing/share`)).status).toBe(422);
});

describe('a file brings a calendar of the same name with other content', () => {
  // The file's Yard week stops on 3 and 4 March: 10 days end on 17 March. Ours works on both: 13 March.
  const theirs = (): string =>
    plan({ calendars: [{ ...file({ ...yard, exceptions: [off('2026-03-03'), off('2026-03-04')] }), id: 'theirs' }], activities: [['A', '10d', { calendarId: 'theirs' }]] });
  const other = async (): Promise<string> => {
    shared.add([yard], { who: 'Ada', client: 'me' });
    return (await bring(plan({ project: { code: 'Q', name: 'Quay' } }))).body.id;
  };

  test('the days and the finish under each choice are told before anything is made', async () => {
    const quay = await other();
    const { status, body } = await bring(theirs());
    expect([status, body.id, store.heads().length]).toEqual([200, undefined, 1]);
    const m = (body.meetings ?? [])[0]!;
    expect(m.days.map((x) => [formatInstant(x.day * 1440).slice(0, 10), x.ours.length, x.theirs.length, x.theirsName])).toEqual([
      ['2026-03-03', 2, 0, 'stop'],
      ['2026-03-04', 2, 0, 'stop'],
    ]);
    expect(m.finish).toEqual({ ours: '2026-03-13T17:00', theirs: '2026-03-17T17:00', both: '2026-03-17T17:00' });
    expect(m.others.map((e) => [e.code, e.finishDays])).toEqual([['Q', 2]]);
    expect(finish(quay)).toBe('2026-03-13T17:00');
  });

  test.each([
    ['ours', '2026-03-13T17:00', '2026-03-13T17:00', 'Yard week', 'yard'],
    ['theirs', '2026-03-17T17:00', '2026-03-17T17:00', 'Yard week', 'yard'],
    ['both', '2026-03-17T17:00', '2026-03-13T17:00', 'Yard week (P)', null],
  ])('%s: its finish %s, the other project %s', async (choice, mine, quays, name, sharedId) => {
    const quay = await other();
    const { status, body } = await bring(theirs(), { theirs: choice });
    expect(status).toBe(201);
    expect([finish(body.id), finish(quay), own(body.id).name, own(body.id).sharedId]).toEqual([mine, quays, name, sharedId]);
    // Undoing the choice gives the file's own calendar back, and with it the file's finish.
    const history = historyOf(store.ofClient(body.id, 'me'), 'me');
    expect(history.undo).toHaveLength(1);
    const undo = { changeId: 'undo-choice', label: 'Undo', kind: 'undo' as const, target: history.undo[0]!.changeId, changes: invertChanges(history.undo[0]!.changes) };
    expect((await ask<LogEntry>('POST', `/projects/${body.id}/changes`, { revision: store.head(body.id)?.revision, batch: undo })).status).toBe(200);
    expect(finish(body.id)).toBe('2026-03-17T17:00');
  });

  test('theirs without any working time is not taken for all projects: both are kept, and that is said', async () => {
    const quay = await other();
    const empty = plan({ calendars: [{ ...file({ ...yard, week: [[], [], [], [], [], [], []] }), id: 'theirs' }], activities: [['A', '10d', { calendarId: 'theirs' }]] });
    const { status, body } = await bring(empty, { theirs: 'theirs' });
    expect([status, body.problems.map((p) => p.code)]).toEqual([201, ['CALENDAR_EMPTY']]);
    expect([finish(quay), shared.all().get('yard')?.week, own(body.id).name, own(body.id).sharedId]).toEqual(['2026-03-13T17:00', yard.week, 'Yard week (P)', null]);
  });

  test('of several calendars each finish counts with what was chosen for the others', async () => {
    shared.add([yard, { ...yard, id: 'dock', sharedId: 'dock', name: 'Dock week' }], { who: 'Ada', client: 'me' });
    const stops = (name: string, id: string): Record<string, unknown> => ({ ...file({ ...yard, exceptions: [off('2026-03-03')] }), id, name });
    // One day on each calendar, one after the other: Monday, then Tuesday, or Wednesday where the second one stops.
    const text = plan({
      calendars: [stops('Yard week', 'y'), stops('Dock week', 'd')],
      activities: [
        ['A', '1d', { calendarId: 'y' }],
        ['B', '1d', { calendarId: 'd' }],
        ['C', '1d', { calendarId: 'y' }],
      ],
      links: ['A > B', 'B > C'],
    });
    const look = async (choices: Record<string, string>) => {
      const path = `/import?look=1&choices=${encodeURIComponent(JSON.stringify(choices))}`;
      return (await ask<{ meetings: MeetingView[] }>('POST', path, text)).body.meetings.map((m) => [m.calendarId, m.finish.ours, m.finish.theirs]);
    };
    expect(await look({ d: 'ours' })).toEqual([
      ['y', '2026-03-04T17:00', '2026-03-04T17:00'],
      ['d', '2026-03-04T17:00', '2026-03-05T17:00'],
    ]);
    expect(await look({ y: 'ours', d: 'theirs' })).toEqual([
      ['y', '2026-03-05T17:00', '2026-03-05T17:00'],
      ['d', '2026-03-04T17:00', '2026-03-05T17:00'],
    ]);
    expect(store.heads()).toEqual([]);
  });

  test('one of the same name and content is no question, whatever it is called inside', async () => {
    await other();
    const same = await bring(
      plan({ calendars: [{ ...file({ ...yard, exceptions: [{ ...off('2026-03-07'), name: 'a Saturday' }] }), id: 'theirs' }] }).replaceAll('"yard"', '"theirs"'),
    );
    expect(same.status).toBe(201);
  });

  test('the file of a project computes the same anywhere, and a shared calendar unknown here becomes its own', async () => {
    const id = await other();
    const text = writeProjectFile({ document: doc(id), copies: new Map() });
    const there = new Store(openDatabase(':memory:'));
    const elsewhere = new Shared(openDatabase(':memory:'), there);
    const read = JSON.parse(text) as { calendars: { sharedId: string | null }[] };
    expect(read.calendars.some((c) => c.sharedId === 'yard')).toBe(true);
    const made = elsewhere.import(readProjectText(text).file as never, new Map(), { who: 'Ben', client: 'there' });
    const d = there.document(made.id)?.doc as Document;
    expect([...d.calendars.values()].every((c) => c.sharedId === null)).toBe(true);
    expect(formatInstant(schedule(d).computed?.projectFinish ?? 0)).toBe(finish(id));
  });
});

test('holidays by country and region, for the years asked for, as days off with names', async () => {
  const { countries } = (await ask<{ countries: Record<string, string> }>('GET', '/holidays')).body;
  expect(countries['GB']).toBeDefined();
  expect((await ask<{ regions: Record<string, string> }>('GET', '/holidays/GB/regions')).body.regions['SCT']).toBe('Scotland');
  const days = async (region: string): Promise<Exception[]> => (await ask<{ holidays: Exception[] }>('GET', `/holidays/GB?region=${region}&years=2027,2028`)).body.holidays;
  const scotland = await days('SCT');
  expect(scotland).toContainEqual({ name: "New Year's Day", from: '2027-01-01', to: '2027-01-01', yearly: false, work: [] });
  expect(scotland.some((e) => e.from.startsWith('2028-'))).toBe(true);
  // St Andrew's Day is one of Scotland's, not of England's.
  expect(scotland.some((e) => e.from === '2027-11-30')).toBe(true);
  expect((await days('ENG')).some((e) => e.from === '2027-11-30')).toBe(false);
});
