/** Attached files: kept once, served so that nothing in them can run, in the project file, and within their limits. */
import { createHash } from 'node:crypto';
import { addNote, attachFiles } from '@yellowhammer/core/commands/attached';
import type { Change } from '@yellowhammer/core/change/change';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { addActivity } from '@yellowhammer/core/commands/outline';
import { documentFrom, type DocumentRows } from '@yellowhammer/core/model/document';
import { MAX_FILE, MAX_PICTURE } from '@yellowhammer/core/model/schema';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { serve, type Serving } from './serving';

let s: Serving;
beforeAll(async () => (s = await serve()));
afterAll(() => s.stop());

const page = '<script>alert(1)</script>';
const by = { who: 'Ana', at: '2026-03-01T10:00:00.000Z' };
let n = 0;
const newId = (): string => `id${++n}`;
const changesOf = (o: Outcome): Change[] => (o.ok ? o.changes : []);
const send = (id: string, revision: number, changes: Change[]) =>
  s.ask('POST', `/projects/${id}/changes`, { revision, batch: { changeId: `change-${++n}-xx`, label: 'Test', kind: 'do', target: null, changes } });
async function project(): Promise<{ id: string; doc: ReturnType<typeof documentFrom>; row: string }> {
  const made = await s.ask('POST', '/projects', { code: `P${++n}`, name: 'P', plannedStart: '2026-03-02T08:00' });
  const { id } = made.body as { id: string };
  const opened = (await s.ask('GET', `/projects/${id}`)).body as { document: DocumentRows };
  const doc = documentFrom(opened.document);
  const added = addActivity(doc, null, { name: 'Pour' }, newId);
  await send(id, 1, changesOf(added));
  for (const c of changesOf(added)) doc.activities.set(c.id, c.after as never);
  return { id, doc, row: [...doc.activities.keys()][0]! };
}
const upload = async (text: string): Promise<{ hash: string; size: number }> => (await s.ask('POST', '/contents', text)).body as { hash: string; size: number };
const get = (path: string): Promise<Response> => fetch(`${s.url}${path}`);

test('a file comes back byte by byte, to be saved and never shown', async () => {
  const { id, doc, row } = await project();
  const kept = await upload(page);
  expect(kept).toEqual({ hash: createHash('sha256').update(page).digest('hex'), size: page.length });
  const o = attachFiles(doc, { kind: 'activity', id: row }, [{ ...kept, name: 'näh"er\r\nx: y.html' }], by, newId);
  expect((await send(id, 2, changesOf(o))).status).toBe(200);
  const res = await get(`/projects/${id}/files/${changesOf(o)[0]!.id}`);
  expect(await res.text()).toBe(page);
  expect(res.headers.get('content-type')).toBe('application/octet-stream');
  expect(res.headers.get('x-content-type-options')).toBe('nosniff');
  expect(res.headers.get('content-security-policy')).toContain('sandbox');
  expect(res.headers.get('content-disposition')).toMatch(/^attachment; filename=/);
  expect(res.headers.get('x')).toBeNull();
  // Of another project, or by the content's hash, nothing is given.
  const other = await project();
  expect([(await get(`/projects/${other.id}/files/${changesOf(o)[0]!.id}`)).status, (await get(`/projects/${id}/files/${kept.hash}`)).status]).toEqual([404, 404]);
});

test('the same content is kept once, also of two projects', async () => {
  const before = s.db.prepare('SELECT count(*) AS n FROM contents').get() as { n: number };
  await upload('once');
  await upload('once');
  expect(s.db.prepare('SELECT count(*) AS n FROM contents').get()).toEqual({ n: before.n + 1 });
});

test('what is too large is refused whole; exactly the limit is taken', async () => {
  expect((await s.ask('POST', '/contents', 'x'.repeat(MAX_FILE + 1))).status).toBe(413);
  expect((await s.ask('POST', '/contents', 'x'.repeat(MAX_FILE))).status).toBe(201);
});

test('a file that names a row that is not there, or no hash, is refused', async () => {
  const { id, doc, row } = await project();
  const change = changesOf(attachFiles(doc, { kind: 'activity', id: row }, [{ name: 'a', size: 1, hash: 'a'.repeat(64) }], by, newId))[0]!;
  const wrong = (fields: object): Promise<{ status: number }> => send(id, 2, [{ ...change, after: { ...change.after, ...fields } as never }]);
  expect([(await wrong({ activityId: 'nobody' })).status, (await wrong({ hash: '../../etc' })).status, (await wrong({ size: MAX_FILE + 1 })).status]).toEqual([422, 422, 422]);
});

test('the project file carries notes, files and contents to another server; a forged content is set aside', async () => {
  const { id, doc, row } = await project();
  const kept = await upload('drawing');
  const note = addNote(doc, { kind: 'activity', id: row }, 'rebar late', by, newId);
  const files = attachFiles(doc, { kind: 'activity', id: row }, [{ ...kept, name: 'a.txt' }], by, newId);
  await send(id, 2, [...changesOf(note), ...changesOf(files)]);
  const text = await (await get(`/projects/${id}/file`)).text();
  const read = readProjectText(text);
  expect(read.problems).toEqual([]);
  expect([...(read.file?.contents ?? [])]).toEqual([[kept.hash, Buffer.from('drawing').toString('base64')]]);
  const there = await serve();
  try {
    const imported = (await there.ask('POST', '/import?choices=%7B%7D', text)).body as { id: string; problems: unknown[] };
    expect(imported.problems).toEqual([]);
    const opened = (await there.ask('GET', `/projects/${imported.id}`)).body as { document: DocumentRows };
    expect(opened.document.datedNotes.map((x) => [x.text, x.who])).toEqual([['rebar late', 'Ana']]);
    expect(await (await fetch(`${there.url}/projects/${imported.id}/files/${opened.document.files[0]!.id}`)).text()).toBe('drawing');
    const forged = text.replace(Buffer.from('drawing').toString('base64'), Buffer.from('another').toString('base64'));
    const third = await serve();
    try {
      const answer = (await third.ask('POST', '/import?choices=%7B%7D', forged)).body as { id: string; problems: { code: string }[] };
      expect(answer.problems.map((p) => p.code)).toEqual(['FILE_WITHOUT_CONTENT']);
      const after = (await third.ask('GET', `/projects/${answer.id}`)).body as { document: DocumentRows };
      expect((await fetch(`${third.url}/projects/${answer.id}/files/${after.document.files[0]!.id}`)).status).toBe(404);
    } finally {
      await third.stop();
    }
  } finally {
    await there.stop();
  }
});

test('a picture is given by the hash of its content, as what its first bytes say it is; nothing else is', async () => {
  const sign = Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), Buffer.from('rest')]);
  const bytes = async (content: Buffer): Promise<string> => {
    const res = await fetch(`${s.url}/contents`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: new Uint8Array(content) });
    return ((await res.json()) as { hash: string }).hash;
  };
  const res = await get(`/pictures/${await bytes(sign)}`);
  expect([res.headers.get('content-type'), res.headers.get('x-content-type-options'), Buffer.from(await res.arrayBuffer()).equals(sign)]).toEqual(['image/png', 'nosniff', true]);
  expect(res.headers.get('content-security-policy')).toContain('sandbox');
  expect(res.headers.get('cache-control')).toContain('immutable');
  expect((await get(`/pictures/${await bytes(Buffer.from('ffd8ffe0', 'hex'))}`)).headers.get('content-type')).toBe('image/jpeg');
  for (const other of ['<svg xmlns="http://www.w3.org/2000/svg"/>', page]) expect((await get(`/pictures/${await bytes(Buffer.from(other))}`)).status).toBe(404);
  expect((await get('/pictures/nothing')).status).toBe(404);
  expect((await get(`/pictures/${await bytes(Buffer.concat([sign, Buffer.alloc(MAX_PICTURE)]))}`)).status).toBe(404);
});
