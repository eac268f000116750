/** A database that is old, damaged, full, locked or only to be read: nothing is overwritten, and it is said in plain words. */
import { closeSync, copyFileSync, existsSync, mkdtempSync, openSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import Database from 'better-sqlite3';
import { addActivity } from '@yellowhammer/core/commands/outline';
import { newProject } from '@yellowhammer/core/commands/project';
import { applyChanges } from '@yellowhammer/core/change/change';
import type { Document } from '@yellowhammer/core/model/document';
import { columnsOf, tableNames, tables } from '@yellowhammer/core/model/tables';
import { copiesOf, damageOf, keepDailyCopy, openChecked, openDatabase } from '@yellowhammer/server/database';
import { Store } from '@yellowhammer/server/store';
import { sure } from '../../core/test/helpers';
import { type Serving, serve } from './serving';

let dir: string;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'yellowhammer-damage-'));
});
afterEach(() => rmSync(dir, { recursive: true, force: true }));

let n = 0;
const newId = (): string => `id-${++n}`;
const author = { who: 'Ada', client: 'me' };
function plan(): Document {
  const doc = newProject({ code: 'P', name: 'Pier', plannedStart: '2026-03-02T08:00' }, newId);
  for (let i = 0; i < 300; i++) {
    const o = addActivity(doc, null, { name: `Work ${i}` }, newId);
    if (o.ok) applyChanges(doc, o.changes);
  }
  return doc;
}
const migrations = resolve(__dirname, '../src/migrations');

/** A database as the version before the last one left it, with a project in it. */
function oldDatabase(path: string): void {
  const db = new Database(path);
  for (const file of ['001-projects.sql', '002-shared-calendars.sql']) db.exec(readFileSync(join(migrations, file), 'utf8'));
  db.pragma('user_version = 2');
  db.exec(`INSERT INTO projects VALUES ('p', 3, '2026-01-01', '2026-01-01', 'Ada', NULL, NULL);
    INSERT INTO calendars VALUES ('p', 'c', 0, 'Week', NULL, '[[[480,1020]],[[480,1020]],[[480,1020]],[[480,1020]],[[480,1020]],[],[]]', '[]', NULL, NULL, NULL);
    INSERT INTO project_settings VALUES ('p', 'project', 0, 'P', 'Pier', '2026-03-02T08:00', NULL, NULL, 'c', '{"statusLogic":"retainedLogic","lagCalendar":"predecessor","criticalBy":"float","criticalThreshold":0,"nearCriticalThreshold":5,"floatTo":"projectFinish","percentWeight":"duration"}', NULL, '', '');
    INSERT INTO wbs VALUES ('p', 'x', 0, 'y', 'X', ''), ('p', 'y', 1, 'x', 'Y', ''), ('p', 'z', 2, NULL, 'Z', '');
    INSERT INTO activities VALUES ('p', 'a', 0, '10', 'Dig', 'x', 'task', 480, NULL, '[]', NULL, NULL, NULL, NULL, NULL, NULL, 0, 0, 'say "levellingDelay":0, twice');
    INSERT INTO snapshots VALUES ('p', 's', 0, 'baseline', 'First', '', '2026-01-01T00:00:00.000Z', NULL);`);
  db.prepare("INSERT INTO snapshot_copies VALUES ('p', 's', 2, ?)").run(gzipSync('{"activities":[{"id":"a","levellingDelay":0,"cost":0}]}'));
  db.prepare("INSERT INTO change_log VALUES ('p', 2, 'change-of-old', 'Add', 'do', NULL, 'Ada', 'me', '2026-01-01', ?)").run(
    JSON.stringify([{ table: 'activities', id: 'a', before: null, after: { id: 'a', levellingDelay: 0, cost: 0, notes: 'say "levellingDelay":0, twice' } }]),
  );
  db.close();
}

test('an old database is copied before it is changed; what it said stays true', () => {
  const path = join(dir, 'data.db');
  oldDatabase(path);
  const db = openDatabase(path);
  expect(copiesOf(path).map((f) => /-before-version-\d+/.test(f))).toEqual([true]);
  const copy = new Database(copiesOf(path)[0], { readonly: true });
  expect(copy.pragma('user_version', { simple: true })).toBe(2);
  copy.close();
  const store = new Store(db);
  const { doc } = sure(store.document('p'));
  expect(doc.activities.get('a')).toMatchObject({ levellingDelay: null, notes: 'say "levellingDelay":0, twice' });
  expect(sure(doc.project.get('project')).options).toMatchObject({ numberFrom: 101, numberStep: 1 });
  // Two nodes that lay in each other: one goes to the top, and the branch is there again.
  expect([...doc.wbs.values()].filter((w) => w.parentId === null).map((w) => w.id)).toHaveLength(2);
  expect(gunzipSync(sure(store.copyContent('p', 's'))).toString()).toContain('"levellingDelay":null');
  const entry = store.since('p', 0)[0]!;
  expect(entry.changes[0]!.after).toMatchObject({ levellingDelay: null, notes: 'say "levellingDelay":0, twice' });
  db.close();
  expect(damageOf(path)).toBeUndefined();
});

test('after all migrations the database has a column for every field of every table, and no other', () => {
  const db = openDatabase(join(dir, 'data.db'));
  for (const table of tableNames) {
    const there = (db.pragma(`table_info(${tables[table].sql.table})`) as { name: string }[]).map((c) => c.name);
    expect([table, there.sort()]).toEqual([table, ['project_id', ...columnsOf(table).map((c) => c.column)].sort()]);
  }
  db.close();
});

test('a damaged database is set aside untouched, the newest sound copy takes its place, and both are named', async () => {
  const path = join(dir, 'data.db');
  const db = openDatabase(path);
  new Store(db).create({ document: plan(), copies: new Map() }, author, 'New');
  await keepDailyCopy(db, path);
  await keepDailyCopy(db, path);
  expect(copiesOf(path)).toHaveLength(1);
  db.pragma('wal_checkpoint(TRUNCATE)');
  db.close();
  const size = statSync(path).size;
  // Noise over a few pages in the middle.
  const file = openSync(path, 'r+');
  writeSync(file, Buffer.alloc(9000, 0x5a), 0, 9000, Math.floor(size / 2));
  closeSync(file);
  const damaged = readFileSync(path);
  expect(damageOf(path)).toBeDefined();
  const { db: next, notices } = openChecked(path);
  const aside = sure(readdirSync(dir).find((f) => f.includes('damaged')));
  expect(readFileSync(join(dir, aside)).equals(damaged)).toBe(true);
  expect(notices).toHaveLength(1);
  expect(notices[0]!.text).toContain(aside);
  expect(notices[0]!.text).toContain(copiesOf(path)[0]);
  expect(new Store(next).names().map((p) => p.name)).toEqual(['Pier']);
  next.close();
});

test.each([
  ['no database at all', () => Buffer.from('this is a letter, not a database, and long enough to be read as one '.repeat(40))],
  ['half of one', () => readFileSync(resolve(dir, 'whole.db')).subarray(0, 6000)],
])('%s is set aside, and an empty one begun', (_, content) => {
  const whole = openDatabase(join(dir, 'whole.db'));
  new Store(whole).create({ document: plan(), copies: new Map() }, author, 'New');
  whole.pragma('wal_checkpoint(TRUNCATE)');
  whole.close();
  const path = join(dir, 'data.db');
  writeFileSync(path, content());
  const { db, notices } = openChecked(path);
  expect([notices.map((x) => x.code), new Store(db).heads().length]).toEqual([['SET_ASIDE'], 0]);
  expect(existsSync(join(dir, sure(readdirSync(dir).find((f) => f.includes('data.damaged')))))).toBe(true);
  db.close();
});

test('a sound one and a missing one are opened without a word', () => {
  const path = join(dir, 'data.db');
  for (let i = 0; i < 2; i++) {
    const { db, notices } = openChecked(path);
    expect(notices).toEqual([]);
    db.close();
  }
  copyFileSync(path, join(dir, 'other.db'));
  expect(damageOf(join(dir, 'other.db'))).toBeUndefined();
});

describe('while it serves', () => {
  let s: Serving;
  let id: string;
  beforeAll(async () => {
    s = await serve();
    id = s.store.create({ document: plan(), copies: new Map() }, author, 'New');
  });
  afterAll(() => s.stop());
  const change = () => {
    const a = [...sure(s.store.document(id)).doc.activities.values()][0]!;
    const { revision } = sure(s.store.head(id));
    const after = { ...a, notes: `${a.notes}x`.repeat(a.notes.length > 4000 ? 1 : 2).slice(-9000) };
    return s.ask('POST', `/projects/${id}/changes`, {
      revision,
      batch: { changeId: `change-number-${++n}`, label: 'x', kind: 'do', target: null, changes: [{ table: 'activities', id: a.id, before: a, after }] },
    });
  };
  const said = (r: { status: number; body: unknown }): unknown[] => [r.status, (r.body as { problems?: { code: string }[] }).problems?.map((p) => p.code)];

  test('full: said so, nothing lost, and it goes on when there is room', async () => {
    const pages = s.db.pragma('page_count', { simple: true }) as number;
    s.db.pragma(`max_page_count = ${pages}`);
    let answer = await change();
    for (let i = 0; i < 200 && answer.status === 200; i++) answer = await change();
    expect(said(answer)).toEqual([503, ['DATABASE_FULL']]);
    expect((await s.ask('GET', `/projects/${id}`)).status).toBe(200);
    s.db.pragma('max_page_count = 1000000');
    expect((await change()).status).toBe(200);
  });

  test('only to be read: said so', async () => {
    s.db.pragma('query_only = ON');
    expect(said(await change())).toEqual([503, ['DATABASE_READ_ONLY']]);
    s.db.pragma('query_only = OFF');
    expect((await change()).status).toBe(200);
  });

  test('locked: the change waits, the others do not; in the end it is said', async () => {
    const other = new Database(s.path);
    other.exec('BEGIN IMMEDIATE');
    const waiting = change();
    for (let i = 0; i < 5; i++) expect((await s.ask('GET', '/projects')).ms).toBeLessThan(1000);
    setTimeout(() => other.exec('COMMIT'), 300);
    expect((await waiting).status).toBe(200);
    other.exec('BEGIN IMMEDIATE');
    expect(said(await change())).toEqual([503, ['DATABASE_LOCKED']]);
    other.exec('ROLLBACK');
    other.close();
  });
});
