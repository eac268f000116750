/** What is deleted asks the indexes of what may refer to it, and never looks through all rows of a project. */
import { rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from '../src/database.ts';

interface Step {
  opcode: string;
  p4: string;
}
const path = join(tmpdir(), `sizes-${process.pid}.db`);
afterAll(() => ['', '-wal', '-shm'].forEach((end) => rmSync(path + end, { force: true })));

test.each(['activities', 'wbs', 'resources', 'roles', 'accounts'])('deleting from %s', (table) => {
  const db = openDatabase(':memory:');
  const steps = db.prepare(`EXPLAIN DELETE FROM ${table} WHERE project_id = ? AND id = ?`).all('p', 'x') as Step[];
  const sought = steps.filter((s) => s.opcode === 'SeekGE').map((s) => s.p4);
  expect(sought.length).toBeGreaterThan(1);
  expect(new Set(sought)).toEqual(new Set(['2']));
  db.close();
});

test('opened again it writes nothing, and what was told otherwise is told anew', () => {
  const first = openDatabase(path);
  const told = (): unknown => first.prepare('SELECT tbl, idx, stat FROM sqlite_stat1 ORDER BY 1, 2').all();
  const all = told();
  const version = (): unknown => first.pragma('data_version', { simple: true });
  const before = version();
  openDatabase(path).close();
  expect(version()).toBe(before);
  first.exec("UPDATE sqlite_stat1 SET stat = '10 10 1' WHERE tbl = 'links'");
  openDatabase(path).close();
  expect(told()).toEqual(all);
  expect(told()).toContainEqual({ tbl: 'links', idx: 'links', stat: '1000000 20000 1' });
  expect(told()).toContainEqual({ tbl: 'links', idx: 'links_to', stat: '1000000 20000 3' });
  first.close();
});
