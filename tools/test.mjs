/**
 * npm test: installs what is missing, then types, lint, architecture rule, unit tests, browser tests.
 * The last line counts them all: `N passed, N failed`.
 */
import { spawnSync } from 'node:child_process';
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
const step = (name, args) => {
  const from = Date.now();
  const r = spawnSync('npm', ['run', '-s', ...args], { cwd: root, encoding: 'utf8', maxBuffer: 1 << 28 });
  const output = `${r.stdout}${r.stderr}`.trim();
  count(`${name} (${Math.round((Date.now() - from) / 1000)} s)`, r.status === 0, r.status === 0 ? '' : output);
};
step('types', ['types']);
step('lint', ['lint']);
step('architecture', ['arch']);

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
suite('unit', ['run', '-s', 'test:unit', '--', '--json', `--outputFile=${join(dir, 'unit.json')}`], join(dir, 'unit.json'));
// The browser tests never skip in silence: without a browser they fail and say so.
const chromium = ensureProgram('chromium', 'chromium');
const poppler = ensureProgram('pdftotext', 'poppler-utils');
if (!chromium || !poppler)
  count('browser', false, `${chromium ? 'poppler-utils' : 'chromium'} is missing and could not be installed: install Debian's package, then run npm test again.`);
else {
  step('build', ['build']);
  suite('browser', ['run', '-s', 'test:browser'], join(dir, 'browser.json'));
}
rmSync(dir, { recursive: true, force: true });
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
