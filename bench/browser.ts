/** The interface with ten thousand activities: from Enter in a duration to new dates on the screen, and scrolling. */
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { largePlan } from '@yellowhammer/demo/generate';
import { World } from '../e2e/src/harness.ts';

const quantile = (list: number[], q: number): number => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))]!;

// As text: what runs in the page must not be touched by the compiler of this script.
const TIMED_EDIT = `new Promise((done) => {
  const cell = () => document.querySelector('.sheet .row:not(.wbs) .cell[data-column=finish]').innerText;
  const before = cell();
  const start = performance.now();
  const look = () => (cell() !== before ? done(performance.now() - start) : requestAnimationFrame(look));
  document.querySelector('.cell-input').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
  requestAnimationFrame(look);
})`;
const SCROLL = `new Promise((done) => {
  const el = document.querySelector('.plan-scroll');
  const gaps = [];
  let last = performance.now();
  const step = () => {
    const now = performance.now();
    gaps.push(now - last);
    last = now;
    el.scrollTop += 78;
    if (gaps.length < 180) requestAnimationFrame(step);
    else done(gaps.slice(5));
  };
  requestAnimationFrame(step);
})`;

export async function browserBench(): Promise<void> {
  const w = new World();
  try {
    await w.start();
    const id = await w.importFile(writeProjectFile({ document: largePlan(10_000, 1), copies: new Map() }));
    const page = await w.window();
    const from = Date.now();
    await page.goto(`${w.url}/p/${id}/plan`);
    await page.locator('.figure-value').first().waitFor();
    await page.locator('.tl-bar').first().waitFor();
    console.log(`Interface with 10000 activities: opened in ${Date.now() - from} ms`);
    const cell = page.locator('.sheet .row:not(.wbs) .cell[data-column=duration]').first();
    const times: number[] = [];
    for (let i = 0; i < 45; i++) {
      await cell.dblclick();
      await page.locator('.cell-input').fill(`${20 + (i % 2) * 7 + i}d`);
      // Timed in the page, from the key to the drawn frame with the new date.
      const ms = (await page.evaluate(TIMED_EDIT)) as number;
      if (i >= 5) times.push(ms);
      await page.waitForTimeout(120);
    }
    console.log(`  a typed duration to new dates: median ${Math.round(quantile(times, 0.5))} ms, 95th percentile ${Math.round(quantile(times, 0.95))} ms (limit 200 ms)`);
    const frames = (await page.evaluate(SCROLL)) as number[];
    console.log(`  scrolling three rows a frame: median frame ${Math.round(quantile(frames, 0.5))} ms, 95th percentile ${Math.round(quantile(frames, 0.95))} ms`);
  } finally {
    await w.stop();
  }
}
