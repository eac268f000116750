/** Migrations of the database, by number: an SQL file each, and for some what SQL alone cannot do. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gunzipSync, gzipSync } from 'node:zlib';
import type Database from 'better-sqlite3';
import { tellSizes } from './sizes.ts';

type Db = Database.Database;

const folder = join(dirname(fileURLToPath(import.meta.url)), 'migrations');
const files = readdirSync(folder)
  .filter((f) => f.endsWith('.sql'))
  .sort();
const numberOf = (file: string): number => Number(file.slice(0, 3));

export const versionOf = (db: Db): number => db.pragma('user_version', { simple: true }) as number;
export const newestVersion = numberOf(files[files.length - 1] ?? '000');

/** Done after the SQL of the same number, in the same transaction. */
const further: Record<number, (db: Db) => void> = {
  3(db) {
    // Kept rows say 0 where nothing was delayed. Inside a quoted text the quotes are escaped, so only keys are met.
    const plain = (text: string): string => text.replaceAll('"levellingDelay":0,', '"levellingDelay":null,');
    const log = db.prepare('SELECT project_id AS p, revision AS r, changes FROM change_log WHERE changes LIKE \'%"levellingDelay":0,%\'');
    const putLog = db.prepare('UPDATE change_log SET changes = ? WHERE project_id = ? AND revision = ?');
    for (const e of log.all() as { p: string; r: number; changes: string }[]) putLog.run(plain(e.changes), e.p, e.r);
    const copies = db.prepare('SELECT rowid AS n FROM snapshot_copies').all() as { n: number }[];
    const copy = db.prepare('SELECT content FROM snapshot_copies WHERE rowid = ?');
    const putCopy = db.prepare('UPDATE snapshot_copies SET content = ? WHERE rowid = ?');
    for (const { n } of copies) {
      const { content } = copy.get(n) as { content: Buffer };
      putCopy.run(gzipSync(plain(gunzipSync(content).toString('utf8')), { level: 1 }), n);
    }
    // WBS nodes that lie in themselves were possible: one of each loop goes to the top.
    const up = new Map(
      (db.prepare('SELECT project_id AS p, id, parent_id AS parent FROM wbs').all() as { p: string; id: string; parent: string | null }[]).map((w) => [`${w.p} ${w.id}`, w]),
    );
    const lift = db.prepare('UPDATE wbs SET parent_id = NULL WHERE project_id = ? AND id = ?');
    const sound = new Set<string>();
    for (const [key, w] of up) {
      const way = new Set<string>();
      for (let at = key, row: typeof w | undefined = w; row && !sound.has(at);) {
        if (way.has(at)) {
          lift.run(row.p, row.id);
          row.parent = null;
          break;
        }
        way.add(at);
        at = `${row.p} ${row.parent ?? ''}`;
        row = row.parent === null ? undefined : up.get(at);
      }
      for (const at of way) sound.add(at);
    }
  },
};

/** Brings a database up to date. References are checked again at the end; nothing is kept of a migration that breaks one. */
export function migrate(db: Db): void {
  const done = versionOf(db);
  db.pragma('foreign_keys = OFF');
  for (const file of files) {
    const number = numberOf(file);
    if (number <= done) continue;
    db.transaction(() => {
      db.exec(readFileSync(join(folder, file), 'utf8'));
      further[number]?.(db);
      const broken = db.pragma('foreign_key_check') as unknown[];
      if (broken.length > 0) throw new Error(`Migration ${file} would leave ${broken.length} references without their row.`);
      db.pragma(`user_version = ${number}`);
    }).immediate();
  }
  db.pragma('foreign_keys = ON');
  tellSizes(db);
}
