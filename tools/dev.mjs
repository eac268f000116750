/** npm run dev: the server, restarted on changes, and the interface with hot reloading. */
import { spawn } from 'node:child_process';
import { ensurePackages, root } from './setup.mjs';

ensurePackages();
const children = [
  spawn('npx', ['tsx', 'watch', 'server/src/main.ts'], { cwd: root, stdio: 'inherit' }),
  spawn('npx', ['vite', 'web', '--config', 'web/vite.config.ts'], { cwd: root, stdio: 'inherit' }),
];
const stop = () => children.forEach((c) => c.kill());
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
for (const c of children) c.on('exit', stop);
