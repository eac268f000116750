/** The SQLite file: opening it, and migrations by number. */
import { mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Database from 'better-sqlite3';

export type Db = Database.Database;

const folder = join(dirname(fileURLToPath(import.meta.url)), 'migrations');

/** Opens (and makes) the database at a path, `:memory:` for tests. What it acknowledges survives a kill. */
export function openDatabase(path: string): Db {
  if (path !== ':memory:') mkdirSync(dirname(path), { recursive: true });
  const db = new Database(path);
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = FULL');
  db.pragma('foreign_keys = ON');
  db.pragma('busy_timeout = 5000');
  const done = db.pragma('user_version', { simple: true }) as number;
  const files = readdirSync(folder)
    .filter((f) => f.endsWith('.sql'))
    .sort();
  for (const file of files) {
    const number = Number(file.slice(0, 3));
    if (number <= done) continue;
    db.transaction(() => {
      db.exec(readFileSync(join(folder, file), 'utf8'));
      db.pragma(`user_version = ${number}`);
    })();
  }
  return db;
}
