/** Puts the demo projects into the database, if it has no projects at all (or with --again, beside what is there). */
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openDatabase } from '@yellowhammer/server/database';
import { Store } from '@yellowhammer/server/store';
import { sky, slip, trail } from './scenario.ts';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const store = new Store(openDatabase(process.env['YELLOWHAMMER_DATA'] ?? join(root, 'data/yellowhammer.db')));
if (store.heads().length > 0 && !process.argv.includes('--again')) console.log('There are projects already; no demo data was added.');
else {
  for (const make of [sky, slip, trail]) store.create(make(), { who: 'Mara Quill', client: 'demo' }, 'Demo data');
  console.log('Made the demo projects SKY, SLIP and TRAIL.');
}
