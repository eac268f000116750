/** Starts the server: the interface's files from web/dist, and the API. */
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import express from 'express';
import { createApp, onError } from './app.ts';
import { keepDailyCopy, openChecked } from './database.ts';
import { jobsHere, jobsInThreads } from './jobs.ts';
import { Shared } from './shared.ts';
import { Store } from './store.ts';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const port = Number(process.env['PORT'] ?? 4600);
const path = process.env['YELLOWHAMMER_DATA'] ?? join(root, 'data/yellowhammer.db');
const { db, notices } = openChecked(path);
for (const n of notices) console.error(`${n.title}: ${n.text}`);
const store = new Store(db);
const shared = new Shared(db, store);
const jobs = path === ':memory:' ? jobsHere(store, shared) : jobsInThreads(path);
jobs.warm();
const app = createApp(store, shared, jobs, notices);
const dist = join(root, 'web/dist');
if (existsSync(dist)) {
  app.use(express.static(dist, { index: false, maxAge: '1h' }));
  app.use((_req, res) => res.sendFile(join(dist, 'index.html')));
}
app.use(onError);
const server = app.listen(port, '127.0.0.1', () => {
  console.log(`Yellowhammer is at http://localhost:${port}`);
  if (!db.readonly) keepDailyCopy(db, path).catch((e: Error) => console.error(`The daily copy of the database could not be made: ${e.message}`));
});
// Longer than whoever is before the server (a proxy, a script) keeps a connection that nobody uses: closed in the moment in which it is used again, it loses a request.
server.keepAliveTimeout = 75_000;
server.on('error', (e) => {
  console.error((e as NodeJS.ErrnoException).code === 'EADDRINUSE' ? `Port ${port} is taken. Choose another with PORT=4700.` : e);
  process.exit(1);
});
