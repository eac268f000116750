/** Puts the demo projects into the database, if it has no projects at all (or with --again, beside what is there). */
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openDatabase } from '@yellowhammer/server/database';
import { Shared } from '@yellowhammer/server/shared';
import { Store } from '@yellowhammer/server/store';
import { sharedCalendars } from './calendars.ts';
import { sky, slip, trail } from './scenario.ts';
import { shareOnTheIsland } from './sharing.ts';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const db = openDatabase(process.env['YELLOWHAMMER_DATA'] ?? join(root, 'data/yellowhammer.db'));
const store = new Store(db);
const author = { who: 'Mara Quill', client: 'demo' };
if (store.heads().length > 0 && !process.argv.includes('--again')) console.log('There are projects already; no demo data was added.');
else {
  const shared = new Shared(db, store);
  if (shared.all().size === 0) shared.add(sharedCalendars, author);
  const made = [sky, slip, trail].map((make) => {
    const file = make();
    store.contents.bring(file.contents);
    return store.create(file, author, 'Demo data');
  });
  shareOnTheIsland(store, shared, made, author);
  console.log('Made the demo projects SKY, SLIP and TRAIL.');
}
