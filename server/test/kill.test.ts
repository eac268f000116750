/** Acknowledged means kept: a server that is killed in the middle of a stream of changes has every one it acknowledged. */
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

const root = resolve(__dirname, '../..');
const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = createServer().listen(0, '127.0.0.1', () => {
      const { port } = s.address() as { port: number };
      s.close(() => done(port));
    });
  });

test('after kill -9 every acknowledged change is there', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'yellowhammer-kill-'));
  const port = await freePort();
  const url = `http://127.0.0.1:${port}/api`;
  const start = async (): Promise<ChildProcess> => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
      cwd: root,
      env: { ...process.env, PORT: String(port), YELLOWHAMMER_DATA: join(dir, 'data.db') },
      stdio: 'ignore',
    });
    for (let i = 0; i < 200; i++) {
      if (
        await fetch(`${url}/projects`).then(
          (r) => r.ok,
          () => false,
        )
      )
        return child;
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error('the server did not start');
  };
  const post = (path: string, body: unknown): Promise<Response> =>
    fetch(url + path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  let child = await start();
  const { id } = (await (await post('/projects', { code: 'P', name: 'Pier', plannedStart: '2026-03-02T08:00' })).json()) as { id: string };
  const acknowledged: string[] = [];
  let killed = false;
  for (let i = 0; i < 400; i++) {
    const row = { id: `n${i}`, rank: i, parentId: null, name: `Node ${i}`, notes: '' };
    const batch = { changeId: `change-${i}-xx`, label: `Add ${i}`, kind: 'do', target: null, changes: [{ table: 'wbs', id: row.id, before: null, after: row }] };
    if (i === 60) setTimeout(() => (killed = child.kill('SIGKILL')), 5);
    const ok = await post(`/projects/${id}/changes`, { revision: i + 1, batch }).then(
      (r) => r.ok,
      () => false,
    );
    if (!ok) break;
    acknowledged.push(row.id);
  }
  expect(killed).toBe(true);
  expect(acknowledged.length).toBeGreaterThanOrEqual(60);
  child = await start();
  const opened = (await (await fetch(`${url}/projects/${id}`)).json()) as { revision: number; document: { wbs: { id: string }[] } };
  const there = new Set(opened.document.wbs.map((w) => w.id));
  expect(acknowledged.filter((a) => !there.has(a))).toEqual([]);
  // At most the one that was on its way may be there without an answer, and the revision fits what is there.
  expect(there.size - acknowledged.length).toBeLessThanOrEqual(1);
  expect(opened.revision).toBe(there.size + 1);
  child.kill('SIGKILL');
  rmSync(dir, { recursive: true, force: true });
}, 60_000);
