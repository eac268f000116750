/** A server in memory that tests ask. */
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Express } from 'express';

export interface Asked {
  ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number; body: T }>;
  stop(): void;
}

export async function asked(app: Express): Promise<Asked> {
  const server: Server = app.listen(0, '127.0.0.1');
  await new Promise((r) => server.once('listening', r));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  return {
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
