/** The server over real HTTP: one road for every change, and clear answers to everything that is wrong. */
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createApp } from '@yellowhammer/server/app';
import { openDatabase } from '@yellowhammer/server/database';
import { jobsHere } from '@yellowhammer/server/jobs';
import { Shared } from '@yellowhammer/server/shared';
import { Store } from '@yellowhammer/server/store';
import { type Batch, invertChanges, type LogEntry } from '@yellowhammer/core/change/change';
import { keepBaseline } from '@yellowhammer/core/commands/project';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { addActivity, deleteRows } from '@yellowhammer/core/commands/outline';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { takeOver } from '@yellowhammer/core/commands/update';
import type { Document } from '@yellowhammer/core/model/document';
import { usualSettings } from '@yellowhammer/core/model/view-schema';
import type { Row } from '@yellowhammer/core/model/tables';

let server: Server;
let store: Store;
let url = '';
beforeAll(async () => {
  const db = openDatabase(':memory:');
  store = new Store(db);
  const shared = new Shared(db, store);
  server = createApp(store, shared, jobsHere(store, shared)).listen(0, '127.0.0.1');
  await new Promise((r) => server.once('listening', r));
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
});
afterAll(() => {
  server.closeAllConnections();
  server.close();
});

let n = 0;
const newId = (): string => `id-${++n}`;
const post = (path: string, body: unknown, client = 'me'): Promise<Response> =>
  fetch(url + path, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-client': client, 'x-who': 'Ada' },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
const project = async (): Promise<string> => ((await (await post('/projects', { code: 'P', name: 'Pier', plannedStart: '2026-03-02T08:00' })).json()) as { id: string }).id;
const doc = (id: string): Document => store.document(id)?.doc as Document;
const batchOf = (o: Outcome): Batch => {
  if (!o.ok) throw new Error(o.problems[0]!.message);
  return { changeId: `change-${++n}`, label: o.label, kind: 'do', target: null, changes: o.changes };
};
const send = async (id: string, revision: number, batch: Batch, client = 'me') => {
  const res = await post(`/projects/${id}/changes`, { revision, batch }, client);
  return { status: res.status, body: (await res.json()) as { revision: number; repeated: boolean; missed: LogEntry[]; problems: { code: string; message: string }[] } };
};
const add = (id: string, name: string): Batch => batchOf(addActivity(doc(id), null, { name }, newId));

test('a change is applied, logged and known to the next reader', async () => {
  const id = await project();
  expect(await send(id, 1, add(id, 'Dig'))).toMatchObject({ status: 200, body: { revision: 2, repeated: false } });
  const opened = (await (await fetch(`${url}/projects/${id}`, { headers: { 'x-client': 'me' } })).json()) as {
    revision: number;
    document: { activities: Row[] };
    history: LogEntry[];
  };
  expect(opened.revision).toBe(2);
  expect(opened.document.activities).toEqual([expect.objectContaining({ name: 'Dig', duration: 480 })]);
  expect(opened.history.map((e) => [e.who, e.label])).toEqual([['Ada', 'Add 101 Dig']]);
});

test('a change sent twice is applied once', async () => {
  const id = await project();
  const batch = add(id, 'Dig');
  await send(id, 1, batch);
  expect(await send(id, 1, batch)).toMatchObject({ status: 200, body: { revision: 2, repeated: true } });
  expect(doc(id).activities.size).toBe(1);
});

test('a stale revision is answered with what was missed', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig'), 'you');
  const late = await send(id, 1, add(id, 'Pour'));
  expect(late.status).toBe(409);
  expect(late.body.missed.map((e) => e.label)).toEqual(['Add 101 Dig']);
  expect(doc(id).activities.size).toBe(1);
});

test('a row that is no longer what the sender believed is refused, even with the right revision', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig'));
  const a = [...doc(id).activities.values()][0]!;
  const r = await send(id, 2, { ...add(id, 'x'), changes: [{ table: 'activities', id: a.id, before: { ...a, name: 'Other' }, after: { ...a, name: 'Mine' } }] });
  expect([r.status, r.body.problems[0]!.code]).toEqual([422, 'ROW_CHANGED']);
});

test('references that would break are refused and named; nothing of the batch is kept', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig'));
  const a = [...doc(id).activities.values()][0]!;
  const broken = { ...a, id: 'x', code: 'x', calendarId: 'nowhere' };
  const r = await send(id, 2, {
    ...add(id, 'y'),
    changes: [
      { table: 'activities', id: a.id, before: a, after: { ...a, name: 'Half' } },
      { table: 'activities', id: 'x', before: null, after: broken },
    ],
  });
  expect([r.status, r.body.problems[0]!.code]).toEqual([422, 'UNKNOWN_CALENDAR']);
  expect(doc(id).activities.get(a.id)?.name).toBe('Dig');
  expect((await send(id, 2, { ...add(id, 'z'), changes: [{ table: 'project', id: 'project', before: doc(id).project.get('project') as Row, after: null }] })).status).toBe(422);
});

describe('wrong requests get a clear answer, never a 500', () => {
  test.each<[string, string, unknown, number]>([
    ['no JSON', '/projects', '{"name":', 400],
    ['a project without a name', '/projects', { code: 'X' }, 400],
    ['a date that is none', '/projects', { code: 'X', name: 'X', plannedStart: '2026-02-31T08:00' }, 400],
    ['a list for a batch', '/projects/ID/changes', [], 400],
    ['a revision in words', '/projects/ID/changes', { revision: 'one', batch: {} }, 400],
    [
      'a table that is none',
      '/projects/ID/changes',
      { revision: 1, batch: { changeId: 'abcdefgh', label: 'x', kind: 'do', target: null, changes: [{ table: 'secrets', id: 'x', before: null, after: {} }] } },
      400,
    ],
    [
      'a duration in words',
      '/projects/ID/changes',
      {
        revision: 1,
        batch: { changeId: 'abcdefgi', label: 'x', kind: 'do', target: null, changes: [{ table: 'activities', id: 'x', before: null, after: { id: 'x', duration: 'ten' } }] },
      },
      422,
    ],
    ['a project that is not there', '/projects/none/changes', { revision: 1, batch: { changeId: 'abcdefgj', label: 'x', kind: 'do', target: null, changes: [] } }, 404],
    ['an address that is none', '/nowhere', {}, 404],
    ['a state that is none', '/projects/ID/state', { state: 'lost' }, 400],
    ['a foreign file', '/import', '{"hello":"world"}', 422],
    ['a broken file', '/import', '{"format":"yellowhammer-project"', 422],
  ])('%s', async (_, path, body, status) => {
    const id = await project();
    const res = await post(path.replace('ID', id), body);
    const answer = (await res.json()) as { problems: { message: string; code: string }[] };
    expect(res.status).toBe(status);
    expect(answer.problems[0]!.message.length).toBeGreaterThan(10);
    expect(doc(id).activities.size).toBe(0);
  });

  test('a file of 50 MB that is no project, and one over the limit', async () => {
    const big = JSON.stringify({ format: 'other', filler: 'x'.repeat(50 * 1024 * 1024) });
    const res = await post('/import', big);
    expect([res.status, ((await res.json()) as { problems: { code: string }[] }).problems[0]!.code]).toEqual([422, 'NOT_A_PROJECT']);
    const over = await post('/import', 'x'.repeat(129 * 1024 * 1024));
    expect([over.status, ((await over.json()) as { problems: { code: string }[] }).problems[0]!.code]).toEqual([413, 'TOO_LARGE']);
  }, 60_000);
});

test('export, import, export gives the same bytes, baselines included', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig'));
  await send(id, 2, batchOf(keepBaseline(doc(id), { id: newId(), name: 'First', description: 'why', at: '2026-03-01T10:00:00.000Z' })));
  const text = async (p: string): Promise<string> => (await fetch(`${url}/projects/${p}/file`)).text();
  const first = await text(id);
  expect(JSON.parse(first)).toMatchObject({ copies: { [[...doc(id).snapshots.keys()][0]!]: { activities: [expect.objectContaining({ name: 'Dig' })] } } });
  const again = (await (await post('/import', first)).json()) as { id: string; problems: unknown[] };
  expect(again.problems).toEqual([]);
  expect(await text(again.id)).toBe(first);
});

test('a restore point keeps what was before its batch, a status update what is after', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig'));
  const batch = batchOf(takeOver(doc(id), { dataDate: '2026-03-09T08:00', entries: new Map(), at: '2026-03-09T09:00:00.000Z' }, newId));
  await send(id, 2, batch);
  const [before, after] = [...doc(id).snapshots.values()].map((s) => store.copy(id, s.id)?.project.get('project')?.dataDate);
  expect([before, after]).toEqual([null, '2026-03-09T08:00']);
  // Undone and redone, the copies are still there.
  await send(id, 3, { ...batch, changeId: 'undo-of-it', kind: 'undo', target: batch.changeId, changes: invertChanges(batch.changes) });
  expect(doc(id).snapshots.size).toBe(0);
  await send(id, 4, { ...batch, changeId: 'redo-of-it', kind: 'redo', target: batch.changeId });
  expect([...doc(id).snapshots.keys()].map((s) => store.copy(id, s) !== undefined)).toEqual([true, true]);
});

test('another window hears of a change by itself', async () => {
  const id = await project();
  const stop = new AbortController();
  const res = await fetch(`${url}/projects/${id}/events?since=1`, { signal: stop.signal });
  const reader = (res.body as ReadableStream<Uint8Array>).getReader();
  const from = Date.now();
  await send(id, 1, add(id, 'Dig'));
  let text = '';
  while (!text.includes('Add 101 Dig') && Date.now() - from < 5000) text += new TextDecoder().decode((await reader.read()).value);
  expect(text).toContain('Add 101 Dig');
  expect(Date.now() - from).toBeLessThan(5000);
  stop.abort();
});

test('deleting has a way back; a deleted project cannot be opened or changed', async () => {
  const id = await project();
  await post(`/projects/${id}/state`, { state: 'deleted' });
  expect((await fetch(`${url}/projects/${id}`)).status).toBe(404);
  expect((await send(id, 1, add(id, 'x'))).status).toBe(404);
  await post(`/projects/${id}/state`, { state: 'active' });
  expect((await fetch(`${url}/projects/${id}`)).status).toBe(200);
});

test('a report comes as pages, as PDF and as CSV; wrong settings are named', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig = "deep"'));
  const report = (await (await fetch(`${url}/projects/${id}/report?paper=a4`)).json()) as { count: number; pages: unknown[]; leftOut: string[] };
  expect([report.count, report.pages.length, report.leftOut]).toEqual([1, 1, []]);
  const pdf = await (await fetch(`${url}/projects/${id}/report.pdf?title=Łódź ⌂`)).arrayBuffer();
  expect(Buffer.from(pdf.slice(0, 5)).toString()).toBe('%PDF-');
  expect(await (await fetch(`${url}/projects/${id}/report.csv?columns=code,name`)).text()).toBe('No.,Activity\r\n101,"Dig = ""deep"""\r\n');
  expect((await fetch(`${url}/projects/${id}/report?columns=secrets`)).status).toBe(400);
});

test('a printed view is compared with the kept copy that it names, with nothing, or with what the project compares with', async () => {
  const id = await project();
  const act = (id: string, revision: number, o: Outcome) => send(id, revision, batchOf(o));
  await send(id, 1, add(id, 'Dig'));
  const row = [...doc(id).activities.keys()][0]!;
  const days = (n: number): Outcome => setActivities(doc(id), [row], { duration: n * 480 });
  const kept = (name: string): Outcome => keepBaseline(doc(id), { id: name, name, description: '', at: '2026-03-01T00:00:00.000Z', compare: true });
  await act(id, 2, days(1));
  await act(id, 3, kept('First'));
  await act(id, 4, days(3));
  await act(id, 5, kept('Second'));
  await act(id, 6, days(6));
  const seen = (baseline: string) => `view=${encodeURIComponent(JSON.stringify({ ...usualSettings, columns: ['baselineFinish', 'finishVariance'], baseline }))}`;
  const line = async (baseline: string): Promise<string> => (await (await fetch(`${url}/projects/${id}/report.csv?${seen(baseline)}`)).text()).split('\r\n')[1]!;
  // Six days from Monday 2 March end on Monday 9; the copies ended on 2 and 4 March.
  expect([await line('copy First'), await line('copy Second'), await line('compared'), await line('copy gone')]).toEqual([
    '2 Mar 26,+5 d',
    '4 Mar 26,+3 d',
    '4 Mar 26,+3 d',
    '4 Mar 26,+3 d',
  ]);
  const legend = async (baseline: string): Promise<string[]> => {
    const { pages } = (await (await fetch(`${url}/projects/${id}/report?paper=a4&${seen(baseline)}`)).json()) as { pages: { shapes: { text?: string }[] }[] };
    return pages[0]!.shapes.flatMap((s) => (s.text?.startsWith('baseline:') ? [s.text] : []));
  };
  expect([await legend('copy First'), await legend('none'), await legend('compared')]).toEqual([['baseline: First'], [], ['baseline: Second']]);
});

test('a copy is a project of its own', async () => {
  const id = await project();
  await send(id, 1, add(id, 'Dig'));
  const copy = ((await (await post(`/projects/${id}/copy`, {})).json()) as { id: string }).id;
  await send(copy, 1, batchOf(deleteRows(doc(copy), [{ kind: 'activity', id: [...doc(copy).activities.keys()][0]! }])));
  expect([doc(id).activities.size, doc(copy).activities.size]).toEqual([1, 0]);
  expect(((await (await fetch(`${url}/projects`)).json()) as { id: string; name: string }[]).find((p) => p.id === copy)?.name).toBe('Pier (copy)');
});
