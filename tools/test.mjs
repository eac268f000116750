/**
 * npm test: installs what is missing, then types, lint, architecture rule, unit tests, browser tests.
 * The last line counts them all: `N passed, N failed`.
 */
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePackages, ensureProgram, root } from './setup.mjs';

let passed = 0;
let failed = 0;
const count = (name, ok, text = '') => {
  if (ok) passed++;
  else failed++;
  console.log(`${ok ? 'ok    ' : 'FAILED'} ${name}${text ? `\n${text}` : ''}`);
};

ensurePackages();
/** A step of its own program; the output is told where it fails. */
const step = async (name, args) => {
  const from = Date.now();
  const p = spawn('npm', ['run', '-s', ...args], { cwd: root });
  let output = '';
  for (const stream of [p.stdout, p.stderr]) stream.on('data', (d) => (output += d));
  const code = await new Promise((done) => p.on('close', done));
  count(`${name} (${Math.round((Date.now() - from) / 1000)} s)`, code === 0, code === 0 ? '' : output.trim());
};
// Two of them at once: none uses more than one core.
await Promise.all([step('types', ['types']), step('lint', ['lint']).then(() => step('architecture', ['arch']))]);

/** Runs a suite that writes its counts into a file, and passes its output on. */
function suite(name, args, file) {
  const r = spawnSync('npm', args, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, YELLOWHAMMER_RESULTS: file } });
  try {
    const result = JSON.parse(readFileSync(file, 'utf8'));
    passed += result.numPassedTests;
    failed += result.numFailedTests + (result.numFailedTestSuites && !result.numFailedTests ? result.numFailedTestSuites : 0);
    if (r.status !== 0 && !result.numFailedTests && !result.numFailedTestSuites) count(`${name}: ended with ${r.status}`, false);
  } catch {
    count(`${name}: no results`, false);
  }
}
const dir = mkdtempSync(join(tmpdir(), 'yellowhammer-test-'));
const unit = (name, roots, workers) =>
  suite(
    name,
    ['run', '-s', 'test:unit', '--', ...roots.flatMap((r) => ['--roots', r]), `--maxWorkers=${workers}`, '--json', `--outputFile=${join(dir, `${name}.json`)}`],
    join(dir, `${name}.json`),
  );
// Two at a time; the server's tests alone, since some of them say how long others may wait.
unit('unit', ['core', 'web', 'demo', 'tools'], 2);
unit('server', ['server'], 1);
// The browser tests never skip in silence: without a browser they fail and say so.
const chromium = ensureProgram('chromium', 'chromium');
const poppler = ensureProgram('pdftotext', 'poppler-utils');
if (!chromium || !poppler)
  count('browser', false, `${chromium ? 'poppler-utils' : 'chromium'} is missing and could not be installed: install Debian's package, then run npm test again.`);
else {
  await step('build', ['build']);
  suite('browser', ['run', '-s', 'test:browser'], join(dir, 'browser.json'));
}
rmSync(dir, { recursive: true, force: true });
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
