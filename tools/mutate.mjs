/** npm run mutate -- PART: breaks core/src/PART on purpose, place by place, and tells what the tests did not notice. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './setup.mjs';

const parts = process.argv.slice(2);
const known = ['rollup', 'compare', 'commands', 'schedule', 'change'];
const answers = mkdtempSync(join(tmpdir(), 'slow-answers-'));
for (const part of parts.length ? parts : known) {
  console.log(`\n${part}`);
  const { status } = spawnSync('npx', ['stryker', 'run'], {
    cwd: root,
    stdio: 'inherit',
    env: { YELLOWHAMMER_RUNS: '60', YELLOWHAMMER_SLOW_ANSWERS: join(answers, 'answers.json'), ...process.env, MUTATE_PART: part },
  });
  if (status !== 0) process.exitCode = status ?? 1;
}
rmSync(answers, { recursive: true });
