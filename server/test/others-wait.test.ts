/** What reads or writes whole projects runs in threads of its own, so that nobody waits for another one's; windows hear of it. */
import type { Lookalikes } from '@yellowhammer/core/commands/alike';
import type { SharedThingEntry } from '@yellowhammer/core/commands/shared-views';
import type { Calendar, CodeSet } from '@yellowhammer/core/model/schema';
import type { News } from '@yellowhammer/server/store';
import { planFileOf, sure } from '../../core/test/helpers';
import { type Serving, serve } from './serving';

let s: Serving;
let one: string;
let two: string;
/** What windows of both projects hear, as a label or as that they had better open anew. */
let heard: string[];
const note = (of: string) => (e: News) => void heard.push(`${of}: ${'label' in e ? e.label : 'anew'}`);
const set = (name: string, value: string) => ({ id: 'area', rank: 0, name, values: [{ id: 'v', rank: 0, parentId: null, short: value, name: value }] });
const make = async (code: string, name: string, value: string): Promise<string> =>
  ((await s.ask('POST', '/import', { ...planFileOf({ activities: [['A', '10d', {}]], project: { code, name: code } }), codeSets: [set(name, value)] })).body as { id: string }).id;
const body = async <T>(method: string, path: string, sent?: unknown): Promise<T> => {
  const r = await s.ask(method, path, sent);
  if (r.status >= 300) throw new Error(`${r.status} ${r.text.slice(0, 300)}`);
  return r.body as T;
};

beforeEach(async () => {
  s = await serve();
  [one, two] = [await make('P', 'Area', 'N'), await make('Q', 'area', 'S')];
  heard = [];
  s.store.listen(one, note('P'));
  s.store.listen(two, note('Q'));
});
afterEach(() => s.stop());

test('sets are made alike in both projects, after a look that writes nothing', async () => {
  const found = (await body<{ projects: Lookalikes[] }>('GET', '/alike')).projects;
  expect(found.map((p) => [p.code, p.name, p.codeSets.map((c) => c.name), p.ownFields])).toEqual([
    ['P', 'P', ['Area'], []],
    ['Q', 'Q', ['area'], []],
  ]);
  const wish = { targets: [{ projectId: two, id: 'area' }], set: sure(sure(found[0]).codeSets[0]), field: null };
  const looked = await body<{ does: { project: string; rows: number }[] }>('POST', '/alike', { ...wish, dry: true });
  expect([looked.does.map((d) => [d.project, d.rows]), heard]).toEqual([[['Q', 1]], []]);
  const done = await body<{ does: { label: string }[] }>('POST', '/alike', { ...wish, dry: false });
  expect(heard).toEqual([`Q: ${sure(done.does[0]).label}`]);
  expect(s.store.document(two)?.doc.codeSets.get('area')).toMatchObject({ name: 'Area' });
  const gone = await s.ask('POST', '/alike', { ...wish, targets: [{ projectId: 'none', id: 'area' }], dry: false });
  expect([gone.status, gone.text]).toEqual([422, expect.stringContaining('not there any more')]);
});

test('what is shared is changed in each project that uses it, and both hear of it', async () => {
  await body('POST', `/projects/${one}/share`, { rows: [{ table: 'codeSets', id: 'area' }] });
  const [entry] = await body<SharedThingEntry[]>('GET', '/shared');
  expect(heard).toEqual(['P: Share code set Area with all projects']);
  const { table, row, revision } = sure(entry);
  await body('PUT', '/shared', { things: [{ table, row: { ...row, name: 'Part of the site' }, revision }], instead: {} });
  expect([heard.slice(1), (s.store.document(one)?.doc.codeSets.get('area') as CodeSet).name]).toEqual([['P: Change shared code set Part of the site'], 'Part of the site']);

  const [calendar] = s.store.calendars(one) as [Calendar];
  await body('POST', `/projects/${one}/calendars/${calendar.id}/share`);
  const [listed] = await body<{ calendar: Calendar; revision: number; usedBy: { code: string; same: boolean }[] }[]>('GET', '/shared-calendars');
  const shared = sure(listed);
  expect(shared.usedBy).toEqual([expect.objectContaining({ code: 'P', name: 'P', same: true })]);
  heard = [];
  await body('PUT', `/shared-calendars/${shared.calendar.id}`, { revision: shared.revision, calendar: { ...shared.calendar, hoursPerDay: 7 } });
  expect([heard, sure(s.store.calendars(one)[0]).hoursPerDay]).toEqual([[`P: Change shared calendar ${calendar.name}`], 7]);
  expect((await s.ask('PUT', `/shared-calendars/${shared.calendar.id}`, { revision: 99, calendar: shared.calendar })).status).toBe(422);
});

test('the log with its rows is what is kept', async () => {
  await body('POST', `/projects/${one}/share`, { rows: [{ table: 'codeSets', id: 'area' }] });
  const page = await body<{ entries: { label: string }[]; more: boolean }>('GET', `/projects/${one}/history?before=1000&most=1`);
  expect([page, page.entries.map((e) => e.label), page.more]).toEqual([s.store.historyBefore(one, 1000, 1), ['Share code set Area with all projects'], true]);
  expect([(await s.ask('GET', '/projects/none/history?before=9&most=1')).status, (await s.ask('GET', `/projects/${one}/history?before=x&most=1`)).status]).toEqual([404, 400]);
});

test('none of it reads a whole project in the thread that all wait for', async () => {
  const whole = jest.spyOn(s.store, 'document');
  const [calendar] = s.store.calendars(one) as [Calendar];
  await body('POST', `/projects/${one}/calendars/${calendar.id}/share`);
  await body('POST', `/projects/${one}/share`, { rows: [{ table: 'codeSets', id: 'area' }] });
  const [listed] = await body<{ calendar: Calendar; revision: number }[]>('GET', '/shared-calendars');
  await body('PUT', `/shared-calendars/${sure(listed).calendar.id}`, { revision: sure(listed).revision, calendar: { ...sure(listed).calendar, hoursPerDay: 7 } });
  const { projects } = await body<{ projects: Lookalikes[] }>('GET', '/alike');
  await body('POST', '/alike', { targets: [{ projectId: two, id: 'area' }], set: sure(sure(projects[0]).codeSets[0]), field: null, dry: false });
  for (const path of ['/projects', '/shared', `/projects/${one}`, `/projects/${one}/file`, `/projects/${one}/log`, `/projects/${one}/history?before=100&most=50`])
    await body('GET', path);
  await body('POST', `/projects/${one}/copy`, {});
  const made = await body<{ id: string }>('POST', '/projects', {
    code: 'R',
    name: 'R',
    plannedStart: '2026-03-02T08:00',
    calendarFrom: { projectId: one, calendarId: calendar.id },
  });
  expect(sure(s.store.calendars(made.id)[0])).toMatchObject({ name: calendar.name, hoursPerDay: 7, sharedId: null });
  expect(whole).not.toHaveBeenCalled();
});
