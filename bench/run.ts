/** Ratios against yardsticks of the same run. `npm run bench [-- --no-browser]`. Times are this machine's; ratios travel. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { largePlan } from '@yellowhammer/demo/generate';
import type { Batch } from '@yellowhammer/core/change/change';
import { applyChanges } from '@yellowhammer/core/change/change';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addActivity } from '@yellowhammer/core/commands/outline';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Document } from '@yellowhammer/core/model/document';
import { standingProblems } from '@yellowhammer/core/rules/check';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import { schedule, scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { computeNetwork } from '@yellowhammer/core/schedule/compute';
import { explainNode } from '@yellowhammer/core/schedule/explain';
import { prepare } from '@yellowhammer/core/schedule/prepare';
import { openDatabase } from '@yellowhammer/server/database';
import { Store } from '@yellowhammer/server/store';
import { compileExpression } from '@yellowhammer/core/expr/compile';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import { activityCell, builtIn } from '@yellowhammer/core/fields/list';
import { namesOf } from '@yellowhammer/core/fields/own';
import type { Filter } from '@yellowhammer/core/model/view-schema';
import { everything, organise, type Organising } from '@yellowhammer/core/view/organise';
import { browserBench } from './browser.ts';
import { waitingForOthers } from './others.ts';
import { levellingGaps } from './levelling.ts';
import { loading } from './loads.ts';
import { barePasses, inTurn, median } from './yardstick.ts';

const show = (n: number, digits = 2): string => n.toFixed(digits);

function computing(): void {
  console.log('Full computation (both passes, floats, slacks, driving, critical, shown dates) against the bare passes');
  let last = 0;
  for (const size of [1_000, 10_000, 50_000, 100_000]) {
    const doc = largePlan(size, 1);
    const { network } = prepare(doc);
    if (!network) throw new Error('the generated plan cannot be computed');
    const es = new Int32Array(network.size);
    const lf = new Int32Array(network.size);
    const runs = size > 20_000 ? 15 : 41;
    // Small plans are over before the engine has compiled anything: they are warmed up longer.
    const warm = Math.max(3, 200_000 / size);
    const {
      f: bare,
      g: full,
      ratio,
    } = inTurn(
      () => void barePasses(network, es, lf),
      () => void computeNetwork(network),
      runs,
      warm,
    );
    const build = median(() => void prepare(doc), Math.min(runs, 9));
    const growth = last ? `, ${show(full / size / last)} x the time an activity of the size before` : '';
    last = full / size;
    console.log(
      `  ${size} activities, ${network.links} links: bare ${show(bare)} ms, full ${show(full)} ms = ${show(ratio, 1)} x${growth}; building the network ${show(build)} ms`,
    );
    wholeEdit(doc, bare);
    if (size === 50_000) {
      const r = computeNetwork(network);
      let k = 0;
      const why = median(() => void explainNode(doc, r, (k = (k + 7919) % network.size)), 200);
      console.log(`  explaining one activity of ${size}: ${show(why, 3)} ms`);
    }
  }
}

/** What an edit costs beside its drawing: the command, the network that is kept, the passes, the view, the plan check. */
function wholeEdit(doc: Document, bare: number): void {
  const memory = new NetworkMemory();
  let computed = schedule(doc, memory).computed;
  const ids = [...doc.activities.values()].filter((a) => a.type === 'task').map((a) => a.id);
  let n = 0;
  const newId = (): string => `bench${n++}`;
  const took = { change: 0, network: 0, passes: 0, view: 0, check: 0 };
  const edit = (command: () => Outcome, rounds: number): string => {
    const all: (typeof took)[] = [];
    for (let i = 0; i < rounds; i++) {
      const from = performance.now();
      const o = command();
      if (!o.ok) throw new Error(o.problems[0]?.message);
      applyChanges(doc, o.changes);
      const now = { ...took, change: performance.now() - from };
      const s = scheduleDates(doc, memory, (part, ms) => (now[part] = ms));
      computed = s.computed;
      if (!computed) throw new Error('not computed');
      let at = performance.now();
      viewOf(doc, computed, [], undefined);
      now.view = performance.now() - at;
      at = performance.now();
      standingProblems(doc, s.check());
      now.check = performance.now() - at;
      all.push(now);
    }
    const middle = (part: keyof typeof took): number => all.map((x) => x[part]).sort((a, b) => a - b)[all.length >> 1]!;
    const parts = (Object.keys(took) as (keyof typeof took)[]).map((p) => `${p} ${show(middle(p), 1)}`);
    const shown = middle('change') + middle('network') + middle('passes') + middle('view');
    return `${show(shown, 1)} ms = ${show(shown / bare, 1)} bare passes before drawing (${parts.join(', ')} ms)`;
  };
  const id = (k: number): string => ids[(k * 7919) % ids.length]!;
  let k = 0;
  console.log(`    a typed duration: ${edit(() => setCell(doc, id(++k), 'duration', `${3 + (k % 9)}d`, newId), 9)}`);
  console.log(`    a new row: ${edit(() => addActivity(doc, { kind: 'activity', id: id(++k) }, { name: 'New' }, newId), 7)}`);
}

function durable(): void {
  const dir = mkdtempSync(join(tmpdir(), 'yellowhammer-bench-'));
  const raw = new Database(join(dir, 'raw.db'));
  raw.pragma('journal_mode = WAL');
  raw.pragma('synchronous = FULL');
  raw.exec('CREATE TABLE t (id INTEGER PRIMARY KEY, v TEXT)');
  const insert = raw.prepare('INSERT INTO t (v) VALUES (?)');
  const store = new Store(openDatabase(join(dir, 'store.db')));
  const doc = largePlan(1000, 1);
  const id = store.create({ document: doc, copies: new Map() }, { who: 'bench', client: 'bench' }, 'bench');
  let revision = 1;
  const rows = [...doc.activities.values()].filter((a) => a.type === 'task');
  let n = 0;
  const change = (): void => {
    const a = rows[n++ % rows.length]!;
    const before = store.document(id)?.doc.activities.get(a.id) ?? a;
    const batch: Batch = {
      changeId: `bench-change-${n}`,
      label: 'Set duration',
      kind: 'do',
      target: null,
      changes: [{ table: 'activities', id: a.id, before, after: { ...before, duration: before.duration + 480 } }],
    };
    const r = store.apply(id, revision, batch, { who: 'bench', client: 'bench' });
    if (r.kind !== 'applied') throw new Error(JSON.stringify(r));
    revision = r.entry.revision;
  };
  // In turn, so that a slow moment of the disk hits both.
  const rate = { raw: 0, store: 0 };
  for (let round = 0; round < 8; round++)
    for (const [kind, f] of [
      ['raw', () => void insert.run('x'.repeat(200))],
      ['store', change],
    ] as const) {
      const from = performance.now();
      for (let i = 0; i < 100; i++) f();
      rate[kind] += performance.now() - from;
    }
  console.log(
    `Durable single changes: ${show(800_000 / rate.store, 0)} a second, raw one-row transactions ${show(800_000 / rate.raw, 0)} a second: ratio ${show(rate.raw / rate.store)}`,
  );
  raw.close();
  rmSync(dir, { recursive: true, force: true });
}

/** Which rows a view shows, and what an expression costs, in Node. */
function seeing(): void {
  for (const size of [10_000, 50_000]) {
    const doc = largePlan(size, 1);
    const { computed } = scheduleDates(doc);
    if (!computed) throw new Error('the generated plan cannot be computed');
    const context: FieldContext = { doc, view: viewOf(doc, computed, [], undefined), baseline: null, clock: false };
    const of = (o: Partial<Organising>): string =>
      show(
        median(() => void organise(context, { ...everything, ...o }), 9),
        1,
      );
    const filter: Filter = {
      match: 'all',
      of: [
        { field: 'name', is: 'contains', values: ['e'] },
        { field: 'float', is: 'atMost', values: [20] },
      ],
    };
    console.log(
      `Rows of ${size}: as they are ${of({})} ms, filtered ${of({ filter })}, sorted ${of({ sort: [{ key: 'float', descending: false }] })}, in groups by type and month ${of({ groups: [{ key: 'type' }, { key: 'finish', span: 'month' }] })}, all of it ${of({ filter, sort: [{ key: 'name', descending: true }], groups: [{ key: 'finish', span: 'week' }] })}`,
    );
    const text = 'if(duration > days(5) and float < days(10), join("busy ", round(finish - start, 1)), "quiet")';
    const compiled = compileExpression(
      text,
      namesOf(doc, (name) => builtIn.find((f) => f.key === name)),
    );
    if ('error' in compiled) throw new Error(compiled.error);
    const cells = [...doc.activities.values()].map((a) => activityCell(context, a));
    const ms = median(() => cells.forEach((c) => compiled.run(c)), 9);
    // Operations: two comparisons, and, if, join, round, minus, and the functions days twice.
    console.log(`  an expression of 9 operations: ${show((ms * 1000) / size / 9, 3)} microseconds for each row and operation (limit 2)`);
  }
}

computing();
seeing();
durable();
loading();
levellingGaps();
if (!process.argv.includes('--no-browser')) {
  await waitingForOthers();
  await browserBench();
}
