/**
 * npm run mutate:quick -- PART [FILE,FILE]: the breaks of `npm run mutate`, made by the same tool and asked of the same tests,
 * in a small part of the time: the part is instrumented and bundled with its suite once, and each break is one process that
 * runs only the tests that reach it, those first that noticed others. A test that passes no end in sight is noticed, too.
 * SAMPLE=600 asks so many, chosen by chance; WORKERS=2 works on two at a time; FOUND keeps what was found for a later run
 * (a file; LEFT=1 then asks only what had gone unnoticed).
 */
import { fork } from 'node:child_process';
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, relative } from 'node:path';
import { createInstrumenter } from '@stryker-mutator/instrumenter';
import * as esbuild from 'esbuild';
import { createInjector } from 'typed-inject';
import { root } from '../setup.mjs';

const [part, names] = process.argv.slice(2);
const known = readdirSync(join(root, 'core/test/mutate')).flatMap((f) => (f.endsWith('.suite.ts') ? [basename(f, '.suite.ts')] : []));
if (!known.includes(part ?? '')) {
  console.error(`Name a part: ${known.join(', ')}.`);
  process.exit(2);
}
const folder = mkdtempSync(join(tmpdir(), 'mutation-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));

/** The part with all its breaks in it, and what each of them is. */
async function instrument() {
  cpSync(join(root, 'core'), join(folder, 'core'), { recursive: true, filter: (from) => !from.includes('node_modules') });
  const src = join(folder, 'core/src', part);
  const files = readdirSync(src, { recursive: true })
    .filter((f) => f.endsWith('.ts'))
    .map((f) => ({ name: join(src, f), content: readFileSync(join(src, f), 'utf8'), mutate: true }));
  const quiet = new Proxy({}, { get: (_, key) => () => !String(key).startsWith('is') });
  const injector = createInjector()
    .provideValue('logger', quiet)
    .provideValue('getLogger', () => quiet)
    .provideValue('options', {});
  const made = await injector.injectFunction(createInstrumenter).instrument(files, { ignorers: [], plugins: null, excludedMutations: [] });
  for (const f of made.files) writeFileSync(f.name, f.content);
  const lines = new Map(files.map((f) => [f.name, f.content.split('\n')]));
  return made.mutants.map(({ id, fileName, location: { start, end }, replacement }) => ({
    id,
    file: relative(src, fileName).replace(/\.ts$/, ''),
    where: `${start.line + 1}:${start.column + 1}-${end.line + 1}:${end.column + 1}`,
    line: lines.get(fileName)[start.line].trim(),
    replacement: replacement.replace(/\s+/g, ' '),
  }));
}

async function bundleSuite() {
  const [entry, bundle] = [join(folder, 'entry.ts'), join(folder, 'bundle.cjs')];
  const more = part === 'schedule' ? `import '${folder}/core/test/memory.test';\n` : '';
  writeFileSync(entry, `import '${root}/tools/mutation/shim.ts';\nimport '${folder}/core/test/mutate/${part}.suite.ts';\n${more}`);
  const alias = Object.fromEntries(['core', 'demo', 'server'].map((w) => [`@yellowhammer/${w}`, join(w === 'core' ? folder : root, w, 'src')]));
  await esbuild.build({ entryPoints: [entry], outfile: bundle, bundle: true, platform: 'node', format: 'cjs', logLevel: 'error', alias, nodePaths: [join(root, 'node_modules')] });
  return bundle;
}

const answers = process.env.YELLOWHAMMER_SLOW_ANSWERS ?? join(folder, 'answers.json');
const env = { YELLOWHAMMER_RUNS: '60', ...process.env, YELLOWHAMMER_SLOW_ANSWERS: answers };
/** One process; `patience`: milliseconds that a test may take. What ends it, by whatever way, is an answer. */
const ask = (data, patience) =>
  new Promise((resolve) => {
    const child = fork(join(root, 'tools/mutation/worker.mjs'), {
      env,
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      execArgv: ['--max-old-space-size=1500'],
      serialization: 'advanced',
    });
    let last;
    let timer;
    const end = (answer) => {
      clearTimeout(timer);
      child.kill('SIGKILL');
      resolve(answer);
    };
    const wait = (ms) => {
      clearTimeout(timer);
      timer = setTimeout(() => end({ noticed: last?.at, how: 'timeout' }), ms);
    };
    child.on('message', (m) => {
      last = m;
      if (m.at === undefined) end(m);
      else wait(patience(m.at));
    });
    child.on('exit', () => end(last?.at === undefined ? { failed: true } : { noticed: last.at, how: 'ended' }));
    child.send(data);
    wait(600_000);
  });

/** Mixed by a plain generator, so that a sample is the same one again. */
function mixed(list) {
  const out = [...list];
  for (let i = out.length - 1, x = 12_345; i > 0; i--) {
    x = (x * 1_103_515_245 + 12_345) % 2_147_483_648;
    const j = x % (i + 1);
    [out[i], out[j]] = [out[j], out[i]];
  }
  return out;
}

const mutants = await instrument();
const bundle = await bundleSuite();
const first = await ask({ bundle }, () => 600_000);
if (!first.tests) throw new Error('The suite could not be loaded.');
for (const t of first.tests.filter((x) => x.failed)) console.log(`does not pass without a break, and is left out: ${t.name}\n${t.failed}`);
const reaching = new Map();
for (const [test, hits] of Object.entries(first.reached))
  if (!first.tests[test].failed) for (const id of Object.keys(hits)) reaching.set(id, [...(reaching.get(id) ?? []), Number(test)]);
console.log(`${mutants.length} breaks, ${first.tests.length} tests, ${(first.tests.reduce((n, t) => n + t.ms, 0) / 1000).toFixed(0)} s for all of them`);

const keyOf = (m) => `${m.file} ${m.where} ${m.replacement}`;
const kept = process.env.FOUND;
const found = kept && existsSync(kept) ? JSON.parse(readFileSync(kept, 'utf8')) : {};
const wanted = mutants.filter((m) => (!names || names.split(',').includes(m.file)) && (!process.env.LEFT || ['unnoticed', 'unreached'].includes(found[keyOf(m)])));
const queue = process.env.SAMPLE ? mixed(wanted).slice(0, Number(process.env.SAMPLE)) : [...wanted];
const noticedBy = new Map();
let n = 0;
async function work() {
  for (let m = queue.shift(); m; m = queue.shift()) {
    const tests = reaching.get(m.id);
    if (!tests) found[keyOf(m)] = first.loading[m.id] ? 'while loading' : 'unreached';
    else {
      const worth = (t) => (noticedBy.get(`${m.file} ${t}`) ?? 0) * 50 - first.tests[t].ms;
      const order = [...tests].sort((a, b) => worth(b) - worth(a));
      const answer = await ask({ bundle, order, mutant: m.id }, (t) => 4_000 + 15 * first.tests[t].ms);
      found[keyOf(m)] = answer.failed ? 'not loaded' : answer.noticed === null ? 'unnoticed' : (answer.how ?? 'noticed');
      if (found[keyOf(m)] === 'noticed') noticedBy.set(`${m.file} ${answer.noticed}`, (noticedBy.get(`${m.file} ${answer.noticed}`) ?? 0) + 1);
    }
    if (++n % 100 === 0) {
      console.log(`${n} asked`);
      if (kept) writeFileSync(kept, JSON.stringify(found));
    }
  }
}
await Promise.all(Array.from({ length: Number(process.env.WORKERS ?? 1) }, work));
if (kept) writeFileSync(kept, JSON.stringify(found));

const good = ['noticed', 'timeout', 'ended'];
const share = (list) => {
  const counted = list.filter((m) => found[keyOf(m)] && !['while loading', 'not loaded'].includes(found[keyOf(m)]));
  const noticed = counted.filter((m) => good.includes(found[keyOf(m)])).length;
  return counted.length ? `${((100 * noticed) / counted.length).toFixed(1)} % of ${counted.length}` : 'none asked';
};
for (const m of mutants)
  if (['unnoticed', 'unreached'].includes(found[keyOf(m)])) console.log(`${found[keyOf(m)]} ${m.file} ${m.where} ${m.line.slice(0, 140)}  =>  ${m.replacement.slice(0, 100)}`);
for (const file of [...new Set(mutants.map((m) => m.file))]) console.log(`${file}: ${share(mutants.filter((m) => m.file === file))}`);
console.log(`${part}: ${share(mutants)}`);
