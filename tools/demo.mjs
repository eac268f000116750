/** npm run demo: installs what is missing, builds, makes the demo data if there is none, starts, prints the address. */
import { spawn, spawnSync } from 'node:child_process';
import { ensurePackages, root } from './setup.mjs';

ensurePackages();
for (const [what, args] of [
  ['Building ...', ['run', '-s', 'build']],
  ['Looking for projects ...', ['run', '-s', '-w', 'demo', 'seed']],
]) {
  console.log(what);
  const { status } = spawnSync('npm', args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
  if (status !== 0) process.exit(status ?? 1);
}
const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], { cwd: root, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
