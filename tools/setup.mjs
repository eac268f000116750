/** Installing what is missing, for the commands that must run on a fresh machine. */
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');

const run = (command, args) => execFileSync(command, args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });

/** Installs packages when there are none, or when the lock file has changed since. */
export function ensurePackages() {
  const wanted = () =>
    createHash('sha256')
      .update(readFileSync(join(root, 'package-lock.json')))
      .digest('hex');
  const mark = join(root, 'node_modules/.yellowhammer-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === wanted()) return;
  console.log('Installing packages (once; the database library is compiled, which takes a minute or two) ...');
  // Not `npm ci`: it fails where a registry does not carry every other platform's optional packages.
  run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error']);
  // A newer npm may skip install scripts; the database library cannot do without its own.
  const works = spawnSync(process.execPath, ['-e', "new (require('better-sqlite3'))(':memory:')"], { cwd: root }).status === 0;
  if (!works) run('npm', ['rebuild', 'better-sqlite3', '--loglevel=error']);
  writeFileSync(mark, wanted());
}

const isRoot = () => typeof process.getuid === 'function' && process.getuid() === 0;
const has = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

/** Installs Debian packages where it can. Returns true when the program is there afterwards. */
export function ensureProgram(program, debianPackage) {
  if (has(program)) return true;
  if (!has('apt-get') || !isRoot()) return false;
  console.log(`Installing ${debianPackage} ...`);
  spawnSync('apt-get', ['update', '-qq'], { stdio: ['ignore', 'ignore', 'inherit'] });
  spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', debianPackage], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  return has(program);
}
