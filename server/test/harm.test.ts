/** A file, a request or a second window may not harm the others. On a database file with worker threads, as it really runs. */
import { request } from 'node:http';
import { seeded } from '@yellowhammer/demo/generate';
import { type Change } from '@yellowhammer/core/change/change';
import { harmless } from '@yellowhammer/core/model/cell-text';
import { sure } from '../../core/test/helpers';
import { type Serving, serve } from './serving';

let s: Serving;
beforeAll(async () => {
  s = await serve();
});
afterAll(() => s.stop());

type Problems = { problems: { code: string; message: string }[] };
const codes = (body: unknown): string[] => ((body as Problems).problems ?? []).map((p) => p.code);
const day = [
  ['08:00', '12:00'],
  ['13:00', '17:00'],
];
const week = [day, day, day, day, day, [], []];
const file = (more: Record<string, unknown>): Record<string, unknown> => ({
  format: 'yellowhammer-project',
  version: 1,
  project: { id: 'project', code: 'H', name: 'Harm', plannedStart: '2026-03-02T08:00', calendarId: 'c0' },
  calendars: [{ id: 'c0', name: 'C0', week }],
  ...more,
});
const made = async (more: Record<string, unknown> = {}): Promise<string> => ((await s.ask('POST', '/import', file(more))).body as { id: string }).id;
const many = <T>(n: number, f: (i: number) => T): T[] => Array.from({ length: n }, (_, i) => f(i));
let n = 0;
const send = (id: string, revision: number, changes: Change[]) =>
  s.ask('POST', `/projects/${id}/changes`, { revision, batch: { changeId: `change-${++n}-of-harm`, label: 'x', kind: 'do', target: null, changes } });

/** Asks for the list of projects over and over while something else goes on; the longest answer in milliseconds. */
async function listWhile<T>(work: Promise<T>): Promise<{ value: T; worst: number }> {
  let done = false;
  const value = work.finally(() => (done = true));
  let worst = 0;
  while (!done) {
    const r = await s.ask('GET', '/projects');
    expect(r.status).toBe(200);
    worst = Math.max(worst, r.ms);
    await new Promise((r) => setTimeout(r, 20));
  }
  return { value: await value, worst };
}

/** What holds the server up does so every time; a machine that is busy with other tests now and then. */
async function neverHeldUp(measure: () => Promise<number>): Promise<void> {
  let worst = Infinity;
  for (let i = 0; i < 3 && worst >= 1000; i++) worst = await measure();
  expect(worst).toBeLessThan(1000);
}

describe('the list of projects answers within a second while any one file is read, summarised or refused', () => {
  const pieces = many(48, (i) => {
    const at = (m: number): string => `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
    return [at(i * 30), at(i * 30 + 20)];
  });
  const chain = (count: number, exceptions: number): Record<string, unknown>[] =>
    many(count, (i) => ({
      id: `c${i}`,
      name: `C${i}`,
      week: i ? null : week,
      basedOn: i ? `c${i - 1}` : null,
      exceptions: many(exceptions, (j) => ({ name: 'x', from: `2026-0${1 + (j % 9)}-1${i % 9}`, to: `2026-0${1 + (j % 9)}-2${i % 8}`, yearly: j % 2 === 0, work: [] })),
    }));
  const cases: [string, () => unknown, number][] = [
    ['120 calendars based on each other with 20 exceptions', () => file({ calendars: chain(120, 20) }), 201],
    ['200 calendars of 48 pieces a day', () => file({ calendars: many(200, (i) => ({ id: `c${i}`, name: `C${i}`, week: many(7, () => pieces) })) }), 201],
    [
      '10,000 loops of two and 100,000 milestones',
      () =>
        file({
          activities: many(100_000, (i) => ({ id: `a${i}`, code: `A${i}`, name: 'M', type: 'finishMilestone' })),
          links: many(20_000, (i) => ({ id: `l${i}`, from: `a${i}`, to: `a${i % 2 ? i - 1 : i + 1}` })),
        }),
      201,
    ],
    ['20,000 self links', () => file({ activities: [{ id: 'a', code: 'A', name: 'A' }], links: many(20_000, (i) => ({ id: `l${i}`, from: 'a', to: 'a' })) }), 201],
    ['6 MB of rows {}', () => file({ activities: many(2_000_000, () => ({})) }), 422],
    ['60 MB of []', () => `[${'[],'.repeat(20_000_000)}[]]`, 422],
    ['a WBS 10,000 deep', () => file({ wbs: many(10_000, (i) => ({ id: `w${i}`, name: `W${i}`, parentId: i ? `w${i - 1}` : null })) }), 201],
    ['text that is no JSON', () => '{"format": "yellowhammer-project"', 422],
  ];
  test.each(cases)('%s', async (_, make, status) => {
    const body = make();
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    await neverHeldUp(async () => {
      const { value, worst } = await listWhile(s.ask('POST', '/import', text));
      expect(value.status).toBe(status);
      return worst;
    });
    // And once more with whatever it added to the list.
    await neverHeldUp(async () => (await listWhile(new Promise((r) => setTimeout(r, 1500)))).worst);
  });
  test('a project that cannot be computed is listed as such, the others beside it', async () => {
    const list = (await s.ask('GET', '/projects')).body as { figures: string; name: string }[];
    expect(list.length).toBeGreaterThanOrEqual(5);
    for (const p of list) expect(['ready', 'computing', 'failed']).toContain(p.figures);
  });
});

test('a move that closes a loop is refused when it arrives late; the branch and the list stay', async () => {
  const row = (id: string, rank: number, parentId: string | null) => ({ id, rank, parentId, name: id, code: '', lane: false, notes: '', values: {} });
  const id = await made({ wbs: [row('A', 0, null), row('B', 1, null)] });
  expect((await send(id, 1, [{ table: 'wbs', id: 'A', before: row('A', 0, null), after: row('A', 0, 'B') }])).status).toBe(200);
  const late = await send(id, 2, [{ table: 'wbs', id: 'B', before: row('B', 1, null), after: row('B', 1, 'A') }]);
  expect([late.status, codes(late.body)]).toEqual([422, ['WBS_LOOP']]);
  // Both at once in one batch are no better.
  const both = await send(id, 2, [{ table: 'wbs', id: 'B', before: row('B', 1, null), after: row('B', 1, 'B') }]);
  expect(both.status).toBe(422);
  expect((await s.ask('GET', '/projects')).status).toBe(200);
});

test('a branch that would lie too deep is refused with its name', async () => {
  const id = await made({
    wbs: [
      ...many(100, (i) => ({ id: `w${i}`, name: `W${i}`, parentId: i ? `w${i - 1}` : null })),
      { id: 'x', name: 'Branch', parentId: null },
      { id: 'y', name: 'Leaf', parentId: 'x' },
    ],
  });
  const x = s.store.document(id)?.doc.wbs.get('x');
  const to = (parentId: string): Change[] => [{ table: 'wbs', id: 'x', before: x ?? null, after: { ...sure(x), parentId } }];
  const deep = await send(id, 1, to('w98'));
  expect([deep.status, codes(deep.body), (deep.body as Problems).problems[0]!.message.includes('Branch')]).toEqual([422, ['WBS_DEPTH'], true]);
  expect((await send(id, 1, to('w97'))).status).toBe(200);
});

describe('pages of others can neither read nor change', () => {
  test.each([
    ['an import as plain text', 'POST', '/import', { 'content-type': 'text/plain' }, 415],
    ['a copy without a type', 'POST', '/projects/x/copy', { 'content-type': '' }, 415],
    ['a form', 'POST', '/projects', { 'content-type': 'application/x-www-form-urlencoded' }, 415],
    ['another origin', 'POST', '/projects', { origin: 'http://evil.example' }, 403],
    ['another port of this machine', 'POST', '/projects', { origin: 'http://127.0.0.1:1' }, 403],
    ['no origin at all, of a page', 'POST', '/projects', { origin: 'null' }, 403],
    ['a page of another site that reads', 'GET', '/projects', { 'sec-fetch-site': 'cross-site' }, 403],
    ['a page of the same site on another port', 'GET', '/projects', { 'sec-fetch-site': 'same-site' }, 403],
    ['a name that is not ours', 'GET', '/projects', { host: 'evil.example' }, 403],
    ['our own page', 'GET', '/projects', { 'sec-fetch-site': 'same-origin', host: 'localhost:4600' }, 200],
  ])('%s', async (_, method, path, headers, status) => {
    // Names of hosts and sites cannot be set by fetch.
    const got = await new Promise<number>((done, failed) => {
      const req = request(
        { port: s.port, host: '127.0.0.1', path: `/api${path}`, method, headers: { ...(method === 'GET' ? {} : { 'content-type': 'application/json' }), ...headers } },
        (res) => {
          res.resume();
          done(res.statusCode ?? 0);
        },
      );
      req.on('error', failed);
      req.end(method === 'GET' ? undefined : '{}');
    });
    expect(got).toBe(status);
  });
  test('headers keep pages to themselves', async () => {
    const { headers } = await s.ask('GET', '/projects');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('content-security-policy')).toContain("frame-ancestors 'none'");
    expect([headers.get('x-content-type-options'), headers.get('x-powered-by')]).toEqual(['nosniff', null]);
  });
  test('rows are neither hashed nor kept by a browser', async () => {
    const { headers } = await s.ask('GET', '/projects');
    expect([headers.get('etag'), headers.get('cache-control')]).toEqual([null, 'private, no-store']);
  });
});

describe('reading', () => {
  test('half characters in ids and names are mended and said; no row is lost without a word', async () => {
    const r = await s.ask(
      'POST',
      '/import',
      JSON.stringify(
        file({
          activities: [
            { id: 'x\ud800', code: '1', name: 'A' },
            { id: 'x\udbff', code: '2', name: 'B \udc00' },
          ],
        }),
      ),
    );
    expect([r.status, codes(r.body).sort()]).toEqual([201, ['BROKEN_TEXT', 'BROKEN_TEXT', 'BROKEN_TEXT', 'DUPLICATE_ID']]);
    const bad = await send((r.body as { id: string }).id, 1, [
      { table: 'wbs', id: 'a\ud800', before: null, after: { id: 'a\ud800', rank: 0, parentId: null, name: '', code: '', lane: false, notes: '', values: {} } },
    ]);
    expect(bad.status).toBe(422);
  });
  test('a number where text belongs is read as text', async () => {
    const r = await s.ask('POST', '/import', file({ activities: [{ id: 7, code: 120, name: 5 }, { id: 8 }], links: [{ id: 1, from: 7, to: 8 }] }));
    const doc = sure(s.store.document((r.body as { id: string }).id)).doc;
    expect([[...doc.activities.values()].map((a) => [a.id, a.code, a.name]), doc.links.size]).toEqual([
      [
        ['7', '120', '5'],
        ['8', '8', ''],
      ],
      1,
    ]);
  });
});

test('a window that missed very much is told to open anew, not sent everything', async () => {
  const id = await made({ activities: [{ id: 'a', code: 'A', name: 'A' }] });
  const a = sure(sure(s.store.document(id)).doc.activities.get('a'));
  const big = 'x'.repeat(20_000);
  let before = a;
  for (let i = 0; i < 60; i++) {
    const after = { ...a, notes: `${i}${big}`.slice(0, 20_000) };
    expect((await send(id, 1 + i, [{ table: 'activities', id: 'a', before, after }])).status).toBe(200);
    before = after;
  }
  const behind = await send(id, 0, []);
  expect([behind.status, (behind.body as { missed: unknown }).missed, behind.text.length < 200]).toEqual([409, null, true]);
  const near = await send(id, 58, []);
  expect((near.body as { missed: unknown[] }).missed).toHaveLength(3);
  const abort = new AbortController();
  const res = await fetch(`${s.url}/projects/${id}/events?since=0`, { signal: abort.signal });
  const reader = sure(res.body).getReader();
  let text = '';
  while (!text.includes('event: anew')) text += new TextDecoder().decode((await reader.read()).value);
  abort.abort();
  expect(text.length).toBeLessThan(200);
});

test('a deleted project answers nothing any more, but can be brought back', async () => {
  const id = await made();
  await s.ask('POST', `/projects/${id}/state`, { state: 'deleted' });
  for (const path of ['', '/file', '/log', '/report', '/report.pdf', '/report.csv', '/events', '/calendars', '/copies/x'])
    expect([path, (await s.ask('GET', `/projects/${id}${path}`)).status]).toEqual([path, 404]);
  for (const path of ['/copy', '/printing']) expect((await s.ask('POST', `/projects/${id}${path}`, {})).status).toBe(404);
  expect((await s.ask('POST', `/projects/${id}/state`, { state: 'active' })).status).toBe(200);
  expect((await s.ask('GET', `/projects/${id}`)).status).toBe(200);
});

test.each([
  ['=1+1', "'=1+1"],
  ['=1\n+1', "'=1\n+1"],
  ['=cmd|x\r\ny', "'=cmd|x\r\ny"],
  ['+12 d', '+12 d'],
  ['-3.5d', '-3.5d'],
  ['-2+3', "'-2+3"],
  ['@x', "'@x"],
  ['\tx', "'\tx"],
  ['plain', 'plain'],
])('a cell for a spreadsheet: %j', (text, cell) => expect(harmless(text)).toBe(cell));

test('a PDF tells how far it is, and can be stopped', async () => {
  const id = await made({ activities: many(4000, (i) => ({ id: `a${i}`, code: `A${i}`, name: `Work ${i} 橋 мост جسر`, duration: 480 })) });
  const { id: job } = (await s.ask('POST', `/projects/${id}/printing`, {})).body as { id: string };
  const look = async () => (await s.ask('GET', `/printing/${job}`)).body as { done: number; of: number; ready: boolean; failed: string | null };
  const { value } = await listWhile(
    (async () => {
      for (;;) {
        const p = await look();
        if (p.ready || p.failed) return p;
        await new Promise((r) => setTimeout(r, 50));
      }
    })(),
  );
  expect([value.ready, value.done, value.failed]).toEqual([true, value.of, null]);
  const second = ((await s.ask('POST', `/projects/${id}/printing`, {})).body as { id: string }).id;
  expect((await s.ask('DELETE', `/printing/${second}`)).status).toBe(200);
  expect((await s.ask('GET', `/printing/${second}`)).status).toBe(404);
  // The thread that was stopped is replaced: the next one is made.
  expect((await s.ask('GET', `/projects/${id}/report?to=1`)).status).toBe(200);
});

test('20,000 malformed requests are never answered with a 5xx', async () => {
  const id = await made({ activities: [{ id: 'a', code: 'A', name: 'A' }] });
  const r = seeded(7);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(r() * list.length)]!;
  const nest = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);
  const values = ['null', '{}', '[]', '"x"', '-1', '1e400', 'true', '{"toString":1}', '{"__proto__":{"x":1}}', '"\\ud800"', '""', '{"length":-1}', '"2026-13-45"', nest(2000)];
  const paths = [
    '/projects',
    `/projects/${id}`,
    `/projects/${id}/changes`,
    `/projects/${id}/state`,
    `/projects/${id}/copy`,
    `/projects/${id}/report`,
    `/projects/${id}/report.csv`,
    `/projects/${id}/events`,
    `/projects/${id}/copies/x`,
    '/import',
    '/shared-calendars',
    '/shared-calendars/x',
    '/shared-calendars/effects',
    '/holidays/XX',
    '/holidays/GB',
    '/holidays/toString',
    '/printing/x',
    '/nothing',
    '/projects/%',
    '/projects/%E0%A4%A',
    '/projects/%00',
    '//x',
    '/../x',
  ];
  const fields = [
    'code',
    'name',
    'plannedStart',
    'revision',
    'batch',
    'state',
    'calendar',
    'changes',
    'changeId',
    'label',
    'kind',
    'format',
    'version',
    'project',
    'activities',
    'id',
    'calendarFrom',
  ];
  const body = (depth = 0): string =>
    depth > 3 || r() < 0.35
      ? pick(values)
      : r() < 0.5
        ? `{${many(1 + Math.floor(r() * 4), () => `"${pick(fields)}":${body(depth + 1)}`).join()}}`
        : `[${many(Math.floor(r() * 3), () => body(depth + 1)).join()}]`;
  const queries = [
    '',
    '?paper=a9',
    '?columns=',
    '?columns=a,b',
    '?depth=-1',
    '?from=x',
    '?to=1e9',
    '?since=x',
    '?since=-5',
    '?choices={',
    '?choices={"a":"b"}',
    '?look',
    '?years=1,2',
    '?years=99999',
    '?region=%FF',
    '?columns[]=name',
    '?paper[x]=1',
  ];
  const extra = [
    {},
    {},
    {},
    { 'content-encoding': 'gzip' },
    { 'content-encoding': 'zebra' },
    { range: 'bytes=9-1' },
    { 'content-type': 'application/json; charset=utf-99' },
    { 'x-who': '%E0%A4%A' },
    { 'x-client': 'x'.repeat(5000) },
    { 'transfer-encoding': 'chunked' },
    { accept: '\u00ff' },
  ];
  const bad: string[] = [];
  const one = (): Promise<void> =>
    new Promise((done) => {
      const method = pick(['GET', 'POST', 'POST', 'POST', 'PUT', 'DELETE', 'HEAD', 'PATCH', 'OPTIONS']);
      const path = `/api${pick(paths)}${pick(queries)}`;
      const headers: Record<string, string> = {
        host: 'localhost',
        ...(method === 'GET' || method === 'HEAD' ? {} : { 'content-type': 'application/json' }),
        ...(pick(extra) as Record<string, string>),
      };
      const text = method === 'GET' || method === 'HEAD' ? '' : r() < 0.1 ? pick(['{', '\u0000', '"', 'x', '']) : body();
      const req = request({ port: s.port, host: '127.0.0.1', path, method, headers, agent: false }, (res) => {
        const status = res.statusCode ?? 0;
        if (status >= 500 && status !== 503) bad.push(`${status} ${method} ${path.slice(0, 80)} ${JSON.stringify(headers).slice(0, 80)} ${text.slice(0, 120)}`);
        res.destroy();
        done();
      });
      req.on('error', () => done());
      req.setTimeout(5_000, () => {
        bad.push(`no answer: ${method} ${path.slice(0, 80)} ${JSON.stringify(headers).slice(0, 120)} ${text.slice(0, 120)}`);
        req.destroy();
      });
      req.end(text);
    });
  const ROUNDS = 20_000 / 50;
  for (let i = 0; i < ROUNDS && bad.length === 0; i++) await Promise.all(many(50, one));
  expect(bad).toEqual([]);
  expect((await s.ask('GET', '/projects')).status).toBe(200);
});
