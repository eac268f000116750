/** A server in memory that tests ask. */
import { createApp } from '@yellowhammer/server/app';
import { openDatabase } from '@yellowhammer/server/database';
import { jobsHere } from '@yellowhammer/server/jobs';
import { Shared } from '@yellowhammer/server/shared';
import { Store } from '@yellowhammer/server/store';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';

export interface Asked {
  store: Store;
  shared: Shared;
  ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }>;
  stop(): void;
}

export async function asked(): Promise<Asked> {
  const db = openDatabase(':memory:');
  const store = new Store(db);
  const shared = new Shared(db, store);
  const server: Server = createApp(store, shared, jobsHere(store, shared)).listen(0, '127.0.0.1');
  await new Promise((r) => server.once('listening', r));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  return {
    store,
    shared,
    async ask<T>(method: string, path: string, body?: unknown) {
      const res = await fetch(url + path, {
        method,
        headers: { 'content-type': 'application/json', 'x-client': 'me', 'x-who': 'Ada' },
        ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
      });
      return { status: res.status, body: (await res.json()) as T };
    },
    stop() {
      server.closeAllConnections();
      server.close();
    },
  };
}
