/** A server for tests: on a database file with worker threads, as it really runs. */
import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createApp } from '@yellowhammer/server/app';
import { type Db, openDatabase } from '@yellowhammer/server/database';
import { type Jobs, jobsInThreads } from '@yellowhammer/server/jobs';
import { Shared } from '@yellowhammer/server/shared';
import { Store } from '@yellowhammer/server/store';

export interface Serving {
  url: string;
  origin: string;
  port: number;
  store: Store;
  db: Db;
  path: string;
  stop: () => Promise<void>;
  ask: (method: string, path: string, body?: unknown, headers?: Record<string, string>) => Promise<{ status: number; body: unknown; text: string; ms: number; headers: Headers }>;
}

export async function serve(): Promise<Serving> {
  const dir = mkdtempSync(join(tmpdir(), 'yellowhammer-server-'));
  const path = join(dir, 'data.db');
  const db = openDatabase(path);
  const store = new Store(db);
  const shared = new Shared(db, store);
  const jobs: Jobs = jobsInThreads(path);
  jobs.warm();
  const server: Server = createApp(store, shared, jobs).listen(0, '127.0.0.1');
  await new Promise((r) => server.once('listening', r));
  const { port } = server.address() as AddressInfo;
  const origin = `http://127.0.0.1:${port}`;
  return {
    url: `${origin}/api`,
    origin,
    port,
    store,
    db,
    path,
    async stop() {
      server.closeAllConnections();
      server.close();
      await jobs.close();
      db.close();
      rmSync(dir, { recursive: true, force: true });
    },
    async ask(method, to, body, headers = {}) {
      const from = performance.now();
      const res = await fetch(`${origin}/api${to}`, {
        method,
        headers: { ...(method === 'GET' ? {} : { 'content-type': 'application/json' }), ...headers },
        ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
      });
      const text = await res.text();
      let parsed: unknown = text;
      try {
        parsed = JSON.parse(text);
      } catch {
        // Not every answer is JSON.
      }
      return { status: res.status, body: parsed, text, ms: performance.now() - from, headers: res.headers };
    },
  };
}
