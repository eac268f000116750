/** npm run screenshots: one picture of each main view from the demo data, into docs/screenshots. Needs a build. */
import { join } from 'node:path';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { sky, slip, trail } from '@yellowhammer/demo/scenario';
import { PlanScreen, root, until, World } from './harness.ts';

const w = new World();
const shot = (name: string): { path: string } => ({ path: join(root, 'docs/screenshots', `${name}.png`) });
try {
  await w.start();
  const ids: string[] = [];
  for (const make of [sky, slip, trail])
    ids.push(((await (await fetch(`${w.url}/api/import`, { method: 'POST', body: writeProjectFile(make()), headers: { 'x-who': 'Mara%20Quill' } })).json()) as { id: string }).id);
  const id = ids[0];
  for (const dark of [false, true]) {
    const page = await w.window({ dark });
    const plan = new PlanScreen(page);
    await page.goto(`${w.url}/p/${id}/plan`);
    await plan.saved();
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('Find an activity, or something to do').fill('cut out rusted');
    await page.keyboard.press('Enter');
    await until(
      'inspector',
      () => page.locator('.inspector').innerText(),
      (t) => t.includes('Cut out rusted'),
    );
    await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 26 * 82));
    await page.locator('.plan-grid').focus();
    for (let i = 0; i < 2; i++) await page.keyboard.press('+');
    await page.waitForTimeout(500);
    await page.screenshot(shot(dark ? 'plan-dark' : 'plan'));
  }
  const page = await w.window();
  await page.goto(`${w.url}/projects`);
  await page.locator('.projects-table tbody tr').first().waitFor();
  await page.screenshot(shot('projects'));
  await page.goto(`${w.url}/p/${id}/update`);
  await page.locator('.update-window input').fill('30 nov 26');
  await page.locator('.update-window input').press('Enter');
  const ring = page.locator('[data-due="555"]');
  await ring.getByLabel(/^Finished/).fill('9 nov');
  await ring.getByLabel(/^Finished/).press('Enter');
  await page
    .locator('[data-due="615"]')
    .getByLabel(/^Remaining/)
    .fill('3d');
  await page
    .locator('[data-due="615"]')
    .getByLabel(/^Remaining/)
    .press('Enter');
  await page.waitForTimeout(800);
  await page.screenshot(shot('update'));
  for (const [room, ready] of [
    ['compare', '.compare-sentence'],
    ['report', '.sheet-of-paper'],
    ['library', '.year'],
  ] as const) {
    await page.goto(`${w.url}/p/${id}/${room}`);
    await page.locator(ready).first().waitFor();
    if (room === 'library') {
      await page.getByRole('button', { name: 'Island week' }).click();
      await page.locator('.library-main').evaluate((el) => (el.scrollTop = 330));
    }
    if (room === 'report') await page.locator('.small-sheet').nth(2).click();
    await page.waitForTimeout(700);
    await page.screenshot(shot(room));
  }
} finally {
  await w.stop();
}
