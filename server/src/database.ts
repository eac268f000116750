/** The SQLite file: opening it, looking whether it is sound, copies of it, and what is said when it cannot be used. */
import { copyFileSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import { migrate, newestVersion, versionOf } from './migrate.ts';

export type Db = Database.Database;

/** What a person should know of the database, told in the header. */
export interface DatabaseNotice {
  code: 'SET_ASIDE' | 'READ_ONLY' | 'NEWER';
  title: string;
  text: string;
}

const DAILY_COPIES = 7;

/** Opens (and makes) the database at a path, `:memory:` for tests. What it acknowledges survives a kill. */
export function openDatabase(path: string): Db {
  if (path !== ':memory:') mkdirSync(dirname(path), { recursive: true });
  const db = new Database(path);
  try {
    db.pragma('journal_mode = WAL');
    db.pragma('synchronous = FULL');
    // Who waits for a lock waits outside (see waiting.ts): here it would hold all others up.
    db.pragma('busy_timeout = 0');
    const version = versionOf(db);
    if (version > newestVersion) throw new Error(`The database ${path} was written by a newer version of the program (${version}). Start that version.`);
    if (version > 0 && version < newestVersion) copyNow(db, path, `before-version-${newestVersion}`);
    migrate(db);
    return db;
  } catch (e) {
    db.close();
    throw e;
  }
}

const folderOf = (path: string): string => join(dirname(path), 'copies');
const stamp = (): string => new Date().toISOString().slice(0, 19).replaceAll(':', '-');

/** Writes a complete copy beside the database. */
function copyNow(db: Db, path: string, why: string): void {
  if (path === ':memory:') return;
  mkdirSync(folderOf(path), { recursive: true });
  db.prepare('VACUUM INTO ?').run(join(folderOf(path), `${basename(path, '.db')}-${stamp()}-${why}.db`));
}

/** Copies of a database, the newest first. */
export function copiesOf(path: string): string[] {
  const folder = folderOf(path);
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((f) => f.startsWith(`${basename(path, '.db')}-`) && f.endsWith('.db'))
    .map((f) => join(folder, f))
    .sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs);
}

/** Keeps a copy for each day on which the server ran, seven of them. Runs beside other work. */
export async function keepDailyCopy(db: Db, path: string): Promise<void> {
  if (path === ':memory:') return;
  const daily = copiesOf(path).filter((f) => f.includes('-daily'));
  const today = new Date().toISOString().slice(0, 10);
  if (daily.some((f) => basename(f).includes(today))) return;
  mkdirSync(folderOf(path), { recursive: true });
  await db.backup(join(folderOf(path), `${basename(path, '.db')}-${stamp()}-daily.db`));
  for (const old of daily.slice(DAILY_COPIES - 1)) rmSync(old);
}

/** Why a database file is not sound; undefined where it is, or is not there. */
export function damageOf(path: string): string | undefined {
  if (!existsSync(path) || statSync(path).size === 0) return undefined;
  let db: Db | undefined;
  try {
    db = new Database(path, { fileMustExist: true });
    const found = db.pragma('integrity_check(3)') as { integrity_check: string }[];
    if (found.length !== 1 || found[0]!.integrity_check !== 'ok') return found.map((f) => f.integrity_check).join('; ');
    const broken = versionOf(db) > 0 ? (db.pragma('foreign_key_check') as unknown[]) : [];
    return broken.length ? `${broken.length} rows refer to others that are not there` : undefined;
  } catch (e) {
    const { code, message } = e as { code?: string; message: string };
    // A lock or a missing right is no damage.
    return code === 'SQLITE_CORRUPT' || code === 'SQLITE_NOTADB' || code?.startsWith('SQLITE_CORRUPT') ? message : undefined;
  } finally {
    db?.close();
  }
}

/**
 * Opens the database of the server. A damaged one is never written to: it is set aside under another name, and the newest
 * sound copy takes its place, which is said.
 */
export function openChecked(path: string): { db: Db; notices: DatabaseNotice[] } {
  const notices: DatabaseNotice[] = [];
  const damage = damageOf(path);
  if (damage !== undefined) {
    const aside = join(dirname(path), `${basename(path, '.db')}.damaged-${stamp()}.db`);
    for (const end of ['', '-wal', '-shm']) if (existsSync(path + end)) renameSync(path + end, aside + end);
    const copy = copiesOf(path).find((f) => damageOf(f) === undefined);
    if (copy) copyFileSync(copy, path);
    notices.push({
      code: 'SET_ASIDE',
      title: 'The database was damaged and has been set aside',
      text:
        `It is kept untouched at ${aside} (${damage.slice(0, 200)}). ` +
        (copy
          ? `What you see now is the newest sound copy, ${copy}, of ${statSync(copy).mtime.toISOString().slice(0, 16).replace('T', ' ')} UTC; what was changed after it is only in the damaged file and in project files that were exported.`
          : `There is no sound copy in ${folderOf(path)}, so this is an empty database. Import project files that were exported, or have the damaged file looked at.`),
    });
  }
  try {
    return { db: openDatabase(path), notices };
  } catch (e) {
    const code = (e as { code?: string }).code ?? '';
    if (!code.startsWith('SQLITE_READONLY') && !code.startsWith('SQLITE_CANTOPEN')) throw e;
    const db = new Database(path, { readonly: true, fileMustExist: true });
    if (versionOf(db) !== newestVersion) throw e;
    notices.push({
      code: 'READ_ONLY',
      title: 'The database can only be read',
      text: `The server may not write to ${path}. Plans can be looked at and exported; changes are kept in this browser and sent once the file can be written to again.`,
    });
    return { db, notices };
  }
}

/** What is said where the database cannot do what was asked of it; undefined where an error is of another kind. */
export function databaseProblem(e: unknown): Problem | undefined {
  const code = (e as { code?: unknown } | null)?.code;
  if (typeof code !== 'string' || !code.startsWith('SQLITE_')) return undefined;
  const kept = 'Nothing that was saved is lost; what you change is kept in this browser and sent as soon as it can be.';
  if (code.startsWith('SQLITE_FULL')) return problem('DATABASE_FULL', `The disk of the server is full. ${kept} Make room on it.`);
  if (code.startsWith('SQLITE_READONLY')) return problem('DATABASE_READ_ONLY', `The server may not write to its database. ${kept} Give it the right to write.`);
  if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED'))
    return problem('DATABASE_LOCKED', `The database is held by another program. ${kept} Close that program, or wait.`);
  if (code.startsWith('SQLITE_CORRUPT') || code === 'SQLITE_NOTADB')
    return problem('DATABASE_DAMAGED', `The database is damaged. Restart the server: it sets the damaged file aside and says where the copies are. ${kept}`);
  if (code.startsWith('SQLITE_IOERR') || code.startsWith('SQLITE_CANTOPEN')) return problem('DATABASE_DISK', `The disk of the server answers with errors. ${kept}`);
  return undefined;
}
