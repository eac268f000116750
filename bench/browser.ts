/**
 * What a person waits for, in the real browser: from the key to the drawn frame, against an empty frame of the same run.
 * Sizes and limits are those of docs/performance.md.
 */
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { OPENED, TIMED } from './in-page.ts';
import { peopledPlan } from './loads.ts';
import { largePlan } from '@yellowhammer/demo/generate';
import type { Page } from 'playwright-core';
import { World } from '../e2e/src/harness.ts';

const quantile = (list: readonly number[], q: number): number => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))]!;

/** Of twenty or fewer the 95th percentile would be the longest of all. */
const OFTEN = 24;

/** Milliseconds after scrolling in which rows stand in their order in the page again. */
const RESTED = 450;

interface Timed {
  ms: number;
  parts: { network: number; passes: number; view: number; worker: number; whole: number } | null;
}

/** The machine's own pace, which changes from hour to hour: milliseconds of a piece of work in the page that is always the same. */
async function pace(page: Page): Promise<void> {
  const all: number[] = [];
  for (let i = 0; i < 25; i++) {
    all.push((await page.evaluate('window.fixedWork()')) as number);
    await page.waitForTimeout(20);
  }
  console.log(`  a fixed piece of the browser's work: ${quantile(all.slice(5), 0.5).toFixed(1)} ms, 95th percentile ${quantile(all.slice(5), 0.95).toFixed(1)}`);
}

/** The frames of a page that only makes thirty rows anew in each: what this browser on this machine needs for it, and what stands in its way. */
async function bareFrames(w: World): Promise<void> {
  const page = await w.window();
  await page.evaluate(TIMED);
  const gaps = (await page.evaluate('window.frames(360, window.bareRows)')) as number[];
  console.log(
    `  a page that only makes 30 bare rows anew in each frame, longest frame: ${Math.round(Math.max(...gaps))} ms, median ${Math.round(quantile(gaps, 0.5))}, 95th percentile ${Math.round(quantile(gaps, 0.95))}`,
  );
  await page.close();
}

/** What an edit takes in a page without an application: a frame of bare rows, a worker between, another frame. */
async function bareEdits(w: World): Promise<void> {
  const page = await w.window();
  await page.evaluate(TIMED);
  const all = (await page.evaluate(
    `(async () => { const worker = window.bareWorker(); const all = []; for (let i = 0; i < 45; i++) { all.push(await window.bareEdit(worker)); await new Promise((r) => setTimeout(r, 120)); } return all.slice(5); })()`,
  )) as number[];
  console.log(
    `  an edit of a page that only makes 30 bare rows anew, before and after a worker: median ${Math.round(quantile(all, 0.5))} ms, 95th percentile ${Math.round(quantile(all, 0.95))}`,
  );
  await page.close();
}

async function measure(w: World, page: Page, limits: { edit: number; bulk: number; open: number }): Promise<void> {
  const timed = (reading: string, deed: string): Promise<Timed> => page.evaluate(`window.timed(() => ${reading}, () => ${deed})`) as Promise<Timed>;
  const settle = (): Promise<void> =>
    page.waitForFunction(() => document.querySelector('.computing')?.textContent?.includes('saved') === true, undefined, { timeout: 60_000 }).then(() => page.waitForTimeout(250));
  await page.evaluate(TIMED);
  const idle = (await page.evaluate('window.frames(360, () => {})')) as number[];
  const empty = quantile(idle, 0.5);
  const say = (what: string, ms: number, limit: number, more = ''): void =>
    console.log(`  ${what}: ${Math.round(ms)} ms (limit ${limit}; ${(ms / empty).toFixed(1)} empty frames)${ms > limit ? '  OVER' : ''}${more}`);
  // Frames in which nothing is done tell what the machine itself makes wait.
  console.log(`  an empty frame: ${empty.toFixed(1)} ms, the longest of ${idle.length} ${Math.max(...idle).toFixed(0)}`);
  await pace(page);

  const cell = page.locator('.sheet .row:not(.wbs) .cell[data-column=duration]').first();
  const edits: Timed[] = [];
  for (let i = 0; i < 45; i++) {
    await cell.dblclick();
    await page.locator('.cell-input').fill(`${20 + (i % 2) * 7 + i}d`);
    const t = await timed('window.finishOf()', "document.querySelector('.cell-input').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))");
    if (i >= 5) edits.push(t);
    await page.waitForTimeout(120);
  }
  const part = (f: (p: NonNullable<Timed['parts']>) => number): number =>
    quantile(
      edits.flatMap((e) => (e.parts ? [f(e.parts)] : [])),
      0.5,
    );
  const ms = edits.map((e) => e.ms);
  const [network, passes, view, worker, whole] = [part((p) => p.network), part((p) => p.passes), part((p) => p.view), part((p) => p.worker), part((p) => p.whole)];
  say('a typed duration to new dates painted, 95th percentile', quantile(ms, 0.95), limits.edit, `, median ${Math.round(quantile(ms, 0.5))}`);
  console.log(
    `    of the median: network ${network.toFixed(1)}, passes ${passes.toFixed(1)}, view ${view.toFixed(1)}, message ${(whole - worker).toFixed(1)}, change and drawing ${(quantile(ms, 0.5) - whole).toFixed(1)} ms`,
  );

  await bareEdits(w);
  const rows = page.locator('.sheet .row:not(.wbs)');
  const code = rows.locator('.cell[data-column=code]');
  const many = async (name: string, limit: number, n: number, prepare: (i: number) => Promise<void>, reading: string, deed: string): Promise<void> => {
    const all: number[] = [];
    // The first two of many are for the engine to compile.
    for (let i = n > 2 ? -2 : 0; i < n; i++) {
      await prepare(i);
      const t = await timed(reading, deed);
      if (i >= 0) all.push(t.ms);
      await settle();
    }
    say(name, quantile(all, 0.95), limit, n > 1 ? `, median ${Math.round(quantile(all, 0.5))}` : '');
  };
  const select = async (from: number, n: number): Promise<void> => {
    await code.nth(from).click();
    for (let i = 1; i < n; i++) await page.keyboard.press('Shift+ArrowDown');
  };
  await many(
    'link 20',
    limits.edit,
    OFTEN,
    async (i) => {
      // The links of the time before are taken back: with all of them some would close a loop.
      if (i > -2) await page.keyboard.press('Control+z');
      await settle();
      await page.locator('.plan-scroll').evaluate((el, y) => (el.scrollTop = y), 1400 + i * 400);
      await page.waitForTimeout(RESTED);
      await select(2, 20);
    },
    'window.counts()',
    "window.press('l', { altKey: true, code: 'KeyL' })",
  );
  const clip = (n: number): Promise<unknown> =>
    page.evaluate(`(() => {
    const data = new DataTransfer();
    const e = new ClipboardEvent('copy', { clipboardData: data, bubbles: true, cancelable: true });
    document.querySelector('.plan-grid').dispatchEvent(e);
    window.clip = data;
    return ${n};
  })()`);
  // What has links from outside asks about them: the first answer is taken as soon as it can be.
  const paste = 'window.pasted()';
  await page.evaluate(`window.pasted = () => {
    document.querySelector('.plan-grid').dispatchEvent(new ClipboardEvent('paste', { clipboardData: window.clip, bubbles: true, cancelable: true }));
    const answer = () => { const b = document.querySelector('.drag-question button'); if (b) b.click(); };
    queueMicrotask(answer);
    requestAnimationFrame(answer);
  }`);
  // Twenty activities of one floor: a WBS node among them would bring its own.
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  await page.waitForTimeout(RESTED);
  await select(0, 20);
  await clip(20);
  await many('paste 20 rows', limits.edit, OFTEN, async () => void (await code.nth(4).click()), 'window.counts()', paste);
  await many(
    'add a row',
    limits.edit,
    OFTEN,
    async () => {
      await code.nth(4).click();
      await page.keyboard.press('Enter');
      await page.locator('.cell-input').fill('A new row');
    },
    'window.counts()',
    "document.querySelector('.cell-input').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))",
  );
  await page.keyboard.press('Escape');
  await code.nth(2).click();
  for (let i = 0; i < 25; i++) await page.keyboard.press('Shift+PageDown');
  await clip(500);
  await many('paste 500 rows', limits.bulk, 2, async () => void (await code.nth(2).click()), 'window.counts()', paste);
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  await page.waitForTimeout(RESTED);
  await code.nth(2).click();
  for (let i = 0; i < 50; i++) await page.keyboard.press('Shift+PageDown');
  await many(
    'one level up, 1,000 rows',
    limits.bulk,
    1,
    async () => undefined,
    "document.querySelector('.header-actions [aria-label^=Undo]').getAttribute('aria-label')",
    "window.press('[', { ctrlKey: true })",
  );
  const undoKey = "window.press('z', { ctrlKey: true })";
  const undone = (name: string): Promise<void> => many(`undo of ${name}`, limits.bulk, 1, async () => undefined, 'window.counts()', undoKey);
  await many('undo of one level up', limits.bulk, 1, async () => undefined, "document.querySelector('.header-actions [aria-label^=Undo]').getAttribute('aria-label')", undoKey);
  const top = async (): Promise<void> => {
    await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
    await page.waitForTimeout(RESTED);
    await code.nth(2).click();
  };
  await top();
  for (let i = 0; i < 50; i++) await page.keyboard.press('Shift+PageDown');
  await many('link 1,000', limits.bulk, 1, async () => undefined, 'window.counts()', "window.press('l', { altKey: true, code: 'KeyL' })");
  await undone('link 1,000');
  // What is prepared in the panel: from the button to the picture.
  const take = "document.getElementById('task-verdict').requestSubmit()";
  const ready = (): Promise<void> => page.locator('.task .dark-button:not([disabled])').waitFor();
  await top();
  for (let i = 0; i < 2; i++) await page.keyboard.press('Shift+PageDown');
  await page.keyboard.press('e');
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 26 * 3000));
  await page.waitForTimeout(300);
  await code.nth(4).click();
  for (let i = 0; i < 2; i++) await page.keyboard.press('Shift+PageDown');
  await many('each of 40 to each of 40', limits.bulk, 1, ready, 'window.counts()', take);
  await undone('each of 40 to each of 40');
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  await page.waitForTimeout(RESTED);
  await page.locator('.sheet .row.wbs .cell[data-column=code]').nth(1).click();
  await page.keyboard.press('r');
  await page.getByLabel('Names of the copies').fill('{name} {1..10}');
  await many('replicate 1,000 rows', limits.bulk, 1, ready, 'window.counts()', take);
  await undone('replicate 1,000 rows');
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  await page.waitForTimeout(RESTED);
  await code.first().click();
  await many('delete all', limits.bulk, 1, async () => void (await page.keyboard.press('Control+a')), 'window.counts()', "window.press('Delete', { ctrlKey: true })");
  await many('undo of all', limits.bulk, 1, async () => undefined, 'window.counts()', "window.press('z', { ctrlKey: true })");
  const worst = async (name: string, deed: string): Promise<void> => {
    const gaps = (await page.evaluate(`window.frames(180, () => ${deed})`)) as number[];
    say(`${name}, longest frame`, Math.max(...gaps), 50, `, median ${Math.round(quantile(gaps, 0.5))}, 95th percentile ${Math.round(quantile(gaps, 0.95))}`);
  };
  await bareFrames(w);
  await page.waitForTimeout(1500);
  await worst('scrolling three rows a frame', "document.querySelector('.plan-scroll').scrollTop += 78");
  await top();
  await worst('Shift+PageDown in each frame', "window.press('PageDown', { shiftKey: true })");
  await top();
  // A key that is held down comes thirty times a second, whatever the frames do.
  await page.evaluate("window.repeat = setInterval(() => window.press('PageDown', { shiftKey: true }), 33)");
  await worst('Shift+PageDown held down, thirty a second', 'null');
  await page.evaluate('clearInterval(window.repeat)');
  await top();
  await page.keyboard.press('Alt+z');
  await page.waitForTimeout(500);
  await worst(
    'zooming with the wheel',
    "document.querySelector('.plan-grid').dispatchEvent(new WheelEvent('wheel', { ctrlKey: true, deltaY: (window.turns = (window.turns ?? 0) + 1) % 60 < 30 ? 12 : -12, clientX: 700, clientY: 400, bubbles: true, cancelable: true }))",
  );
  await page.waitForTimeout(500);
  // A bar that others follow, moved a little in each frame; Escape gives it up.
  const bar = (await page.evaluate(`[...document.querySelectorAll('.tl-bar [data-part=body]')]
    .map((e) => e.getBoundingClientRect())
    .find((r) => {
      const [seen, x] = [document.querySelector('.plan-scroll').getBoundingClientRect(), r.left + Math.min(r.width, 400) / 2];
      return r.width > 40 && r.left > document.querySelector('.timeline').getBoundingClientRect().left && x < seen.right - 20 && r.top > seen.top + 80 && r.bottom < seen.bottom - 40;
    })?.toJSON()`)) as { x: number; y: number; width: number; height: number } | undefined;
  if (!bar) throw new Error('no bar is in view');
  await page.mouse.move(bar.x + Math.min(bar.width, 400) / 2, bar.y + bar.height / 2);
  await page.mouse.down();
  await page.evaluate(`window.at = { x: ${bar.x + Math.min(bar.width, 400) / 2}, y: ${bar.y + bar.height / 2} }`);
  await worst('dragging a bar', "window.dispatchEvent(new PointerEvent('pointermove', { clientX: (window.at.x += 1), clientY: window.at.y, bubbles: true }))");
  if ((await page.locator('.ghost-bar').count()) === 0) throw new Error('no bar was dragged');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await bareFrames(w);
  await pace(page);
}

/** Grouping, sorting, filtering and switching views, from the key or click to the drawn frame. */
async function seeing(page: Page, limit: number): Promise<void> {
  await page.evaluate(TIMED);
  const timed = (reading: string, deed: string): Promise<Timed> => page.evaluate(`window.timed(() => ${reading}, () => ${deed})`) as Promise<Timed>;
  const say = (what: string, all: readonly number[]): void =>
    console.log(`  ${what}: ${Math.round(quantile(all, 0.95))} ms (limit ${limit})${quantile(all, 0.95) > limit ? '  OVER' : ''}, median ${Math.round(quantile(all, 0.5))}`);
  const rows =
    "[...document.querySelectorAll('.sheet .row')].slice(0, 12).map((r) => r.textContent).join() + document.querySelector('.view-strip').textContent + document.querySelector('.plan-head').textContent";
  await page.locator('.plan-grid').focus();
  const views: number[] = [];
  // Twice through all six, so that the engine has compiled what it needs.
  for (let i = 0; i < 12; i++) {
    const t = await timed(rows, "window.press('v', { altKey: true, code: 'KeyV' })");
    if (i >= 6) views.push(t.ms);
    await page.waitForTimeout(400);
  }
  say('switching to the next view (filters, groups by week and month, sorts)', views);
  const sorts: number[] = [];
  for (const column of ['duration', 'duration', 'duration', 'float', 'float', 'float']) {
    sorts.push((await timed(rows, `document.querySelector('.head-cell[data-column=${column}]').click()`)).ms);
    await page.waitForTimeout(300);
  }
  say('sorting by a head', sorts);
  await page.evaluate(`window.press('b', { altKey: true, code: 'KeyB' })`);
  const value = page.getByLabel('Value', { exact: true });
  await value.waitFor();
  const filters: number[] = [];
  for (const text of ['Floor', 'a', 'e', 'in']) {
    const set = `(() => { const i = document.querySelector('.filter-line input[aria-label=Value]'); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(i, '${text}'); i.dispatchEvent(new Event('input', { bubbles: true })); })()`;
    filters.push((await timed(rows, set)).ms);
    await page.waitForTimeout(300);
  }
  say('a filter by name, typed', filters);
}

/** The network of 2,000 boxes: from the click to the boxes on the screen, and how long the page stood still meanwhile. */
async function network(w: World): Promise<void> {
  const id = await w.importFile(writeProjectFile({ document: largePlan(2_000, 1), copies: new Map() }));
  const page = await w.window();
  await page.goto(`${w.url}/p/${id}/plan`);
  await page.locator('.tl-bar').first().waitFor();
  await page.waitForTimeout(1000);
  await page.evaluate(TIMED);
  const t = (await page.evaluate(
    `window.timed(() => document.querySelectorAll('.network-box').length, () => [...document.querySelectorAll('.mode-switch button')][1].click())`,
  )) as Timed;
  console.log(`Network of 2000 boxes: laid out and drawn in ${Math.round(t.ms)} ms (limit 3000)${t.ms > 3000 ? '  OVER' : ''}`);
  const gaps = (await page.evaluate(
    "window.frames(60, () => document.querySelector('.network-frame').dispatchEvent(new WheelEvent('wheel', { deltaX: 40, deltaY: 6, bubbles: true, cancelable: true })))",
  )) as number[];
  console.log(`  moving over it: longest frame ${Math.max(...gaps).toFixed(0)} ms, 95th percentile ${quantile(gaps, 0.95).toFixed(0)} (limit 50)`);
  await page.close();
}

/** The rooms of people and money with 10,000 activities and 20,000 assignments: opened to figures, and scrolled. */
async function rooms(w: World): Promise<void> {
  const id = await w.importFile(writeProjectFile({ document: peopledPlan(10_000, 20), copies: new Map() }));
  const page = await w.window();
  await page.goto(`${w.url}/p/${id}/plan`);
  await page.locator('.tl-bar').first().waitFor();
  await page.waitForTimeout(2000);
  await page.evaluate(TIMED);
  const rail = (name: string): string => `[...document.querySelectorAll('nav a')].find((a) => a.textContent === '${name}').click()`;
  const seen = async (what: string, selector: string, deed: string, limit: number): Promise<void> => {
    const t = (await page.evaluate(`window.timed(() => document.querySelectorAll('${selector}').length, () => ${deed})`)) as Timed;
    console.log(`  ${what}: ${Math.round(t.ms)} ms (limit ${limit})${t.ms > limit ? '  OVER' : ''}`);
    await page.waitForTimeout(500);
  };
  const scrolled = async (what: string, selector: string, way: 'scrollTop' | 'scrollLeft', step: number): Promise<void> => {
    const gaps = (await page.evaluate(`window.frames(90, () => (document.querySelector('${selector}').${way} += ${step}))`)) as number[];
    const most = Math.max(...gaps);
    console.log(
      `  ${what}, ${way === 'scrollTop' ? 'down' : 'across'}: longest frame ${most.toFixed(0)} ms, 95th percentile ${quantile(gaps, 0.95).toFixed(0)} (limit 50)${most > 50 ? '  OVER' : ''}`,
    );
  };
  console.log('Rooms with 10,000 activities and 20,000 assignments');
  await seen('Load opened to cells', '.load-cell', rail('Load'), 1000);
  await scrolled('scrolling Load', '.load-grid', 'scrollTop', 40);
  await scrolled('scrolling Load', '.load-grid', 'scrollLeft', 60);
  await seen('people on time', '.people-time .people-head', "[...document.querySelectorAll('button')].find((b) => b.textContent === 'People on time').click()", 1000);
  await scrolled('scrolling people on time', '.people-time', 'scrollTop', 40);
  await scrolled('scrolling people on time', '.people-time', 'scrollLeft', 60);
  await seen('Money opened to cells', '.money-cell', rail('Money'), 1000);
  await scrolled('scrolling Money', '.money-grid', 'scrollTop', 30);
  await scrolled('scrolling Money', '.money-grid', 'scrollLeft', 60);
  await page.close();
}

/** BENCH_SIZES: other sizes of plans; none: only what is measured besides. */
export async function browserBench(): Promise<void> {
  const w = new World();
  try {
    await w.start();
    for (const size of (process.env['BENCH_SIZES'] ?? '10000,50000').split(',').filter(Boolean).map(Number)) {
      const limits = size === 10_000 ? { edit: 100, bulk: 1000, open: 1500 } : { edit: 200, bulk: 3000, open: 4000 };
      const id = await w.importFile(writeProjectFile({ document: largePlan(size, 1), copies: new Map() }));
      const page = await w.window();
      // Once before: the list of projects computes its figures, and the browser has the files.
      await page.goto(`${w.url}/p/${id}/plan`);
      await page.locator('.tl-bar').first().waitFor();
      await page.goto('about:blank');
      // Looked for in the page, frame by frame: who waits from outside asks twice a second only.
      await page.addInitScript(OPENED);
      await page.goto(`${w.url}/p/${id}/plan`);
      const opened = (await (await page.waitForFunction(() => (window as { opened?: number }).opened, undefined, { timeout: 60_000 })).jsonValue()) as number;
      console.log(`Interface with ${size} activities: opened to dates in ${Math.round(opened)} ms (limit ${limits.open})${opened > limits.open ? '  OVER' : ''}`);
      await page.waitForTimeout(1000);
      if (!process.env['BENCH_SEEING']) await measure(w, page, limits);
      await seeing(page, size === 10_000 ? 150 : 600);
      await page.close();
    }
    await network(w);
    await rooms(w);
  } finally {
    await w.stop();
  }
}
