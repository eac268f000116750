/** Starts the server: the interface's files from web/dist, and the API. */
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import express from 'express';
import { createApp } from './app.ts';
import { openDatabase } from './database.ts';
import { Shared } from './shared.ts';
import { Store } from './store.ts';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const port = Number(process.env['PORT'] ?? 4600);
const db = openDatabase(process.env['YELLOWHAMMER_DATA'] ?? join(root, 'data/yellowhammer.db'));
const store = new Store(db);
const app = createApp(store, new Shared(db, store));
const dist = join(root, 'web/dist');
if (existsSync(dist)) {
  app.use(express.static(dist, { index: false, maxAge: '1h' }));
  app.use((_req, res) => res.sendFile(join(dist, 'index.html')));
}
const server = app.listen(port, '127.0.0.1', () => console.log(`Yellowhammer is at http://localhost:${port}`));
server.on('error', (e) => {
  console.error((e as NodeJS.ErrnoException).code === 'EADDRINUSE' ? `Port ${port} is taken. Choose another with PORT=4700.` : e);
  process.exit(1);
});
