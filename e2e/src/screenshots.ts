/** npm run screenshots: one picture of each main view from the demo data, into docs/screenshots. Needs a build. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { PlanScreen, root, until, World } from './harness.ts';

const w = new World();
const shot = (name: string): { path: string } => ({ path: join(root, 'docs/screenshots', `${name}.png`) });
try {
  // The demo data as `npm run demo` makes it, with its shared calendars.
  execFileSync('npm', ['run', '-s', '-w', 'demo', 'seed'], { cwd: root, env: { ...process.env, YELLOWHAMMER_DATA: join(w.dir, 'data.db') } });
  await w.start();
  const { id } = (await w.api<{ id: string; code: string }[]>('/projects')).find((p) => p.code === 'SKY') as { id: string };
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
    for (let i = 0; i < 2; i++) await page.keyboard.press('Alt++');
    await page.waitForTimeout(500);
    await page.screenshot(shot(dark ? 'plan-dark' : 'plan'));
  }
  const page = await w.window();
  await page.goto(`${w.url}/projects`);
  await page.locator('.projects-table tbody tr').first().waitFor();
  await page.screenshot(shot('projects'));
  await page.goto(`${w.url}/p/${id}/update`);
  await page.getByRole('textbox', { name: 'New data date' }).fill('30 nov 26');
  await page.getByRole('textbox', { name: 'New data date' }).press('Enter');
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
  const night = await w.window({ dark: true });
  for (const [room, ready, themes] of [
    ['compare', '.compare-sentence', [page, night]],
    ['report', '.sheet-of-paper', [page]],
    ['library', '.year', [page]],
  ] as const)
    for (const p of themes) {
      await p.goto(`${w.url}/p/${id}/${room}`);
      await p.locator(ready).first().waitFor();
      if (room === 'library') {
        await p.getByRole('navigation', { name: 'Library' }).getByRole('button', { name: 'Island week' }).click();
        await p.locator('[data-day="2026-07-12"]').click();
        await p.locator('[data-day="2026-07-19"]').click({ modifiers: ['Control'] });
      }
      if (room === 'report') {
        await p.getByLabel('Graph under the plan').selectOption({ label: 'Money by month, in and out' });
        await p.waitForTimeout(1500);
        await p.locator('.small-sheet').nth(2).click();
      }
      await p.waitForTimeout(700);
      await p.screenshot(shot(p === night ? `${room}-dark` : room));
    }
  // A code set with where it is used.
  const codes = await w.window();
  await codes.goto(`${w.url}/p/${id}/library`);
  await codes.getByRole('navigation', { name: 'Library' }).getByRole('button', { name: /^Area/ }).click();
  await codes.getByLabel('Short name of Yard').waitFor();
  await codes.waitForTimeout(400);
  await codes.screenshot(shot('codes'));
  // Ways of seeing it: a view of the demo, a filter with a look, the network, the month.
  const seen = await w.window();
  const picture = new PlanScreen(seen);
  await seen.goto(`${w.url}/p/${id}/plan`);
  await picture.saved();
  const see = async (name: string): Promise<void> => {
    await seen.getByRole('button', { name: /^View/ }).click();
    await seen.getByRole('button', { name, exact: true }).click();
    await seen.waitForTimeout(700);
  };
  await see('By area and trade');
  await seen.screenshot(shot('grouped'));
  await see('What slipped');
  await seen.keyboard.press('Alt+b');
  await seen.getByLabel('Comparison').waitFor();
  await seen.waitForTimeout(300);
  await seen.screenshot(shot('filter'));
  await seen.keyboard.press('Escape');
  await see('The whole plan');
  await seen.getByRole('button', { name: 'Network', exact: true }).click();
  await seen.locator('.network-box').first().waitFor();
  await seen.waitForTimeout(500);
  await seen.locator('.network-box.critical').first().click();
  await seen.waitForTimeout(400);
  await seen.screenshot(shot('network'));
  await seen.getByRole('button', { name: /^Colours/ }).click();
  await seen.locator('.strip-drop').getByLabel('Coloured by').selectOption({ label: 'Trade' });
  await seen.keyboard.press('Escape');
  await seen.getByRole('button', { name: 'Month', exact: true }).click();
  await seen.waitForTimeout(500);
  await seen.screenshot(shot('month'));
  // What a change of a shared calendar does to every project.
  await page.getByPlaceholder('24 dec 2026 to 27 dec 2026').fill('5 apr 2027 to 9 apr 2027');
  await page.getByPlaceholder('Harbour Day').fill('boat strike');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Take over for all' }).waitFor();
  await page.waitForTimeout(900);
  await page.screenshot(shot('shared-calendar'));
  // Loads: a stretch opened up, and a proposal of levelling.
  const load = await w.window();
  await load.goto(`${w.url}/p/${id}/load`);
  await load.locator('.load-cell').first().waitFor();
  await load.getByRole('button', { name: /over the limit/ }).click();
  await load.locator('.load-runs').getByRole('button', { name: 'Instrument fitters' }).first().click();
  await load.getByRole('button', { name: /over the limit/ }).click();
  await load.locator('.step-graph').waitFor();
  await load.waitForTimeout(500);
  await load.screenshot(shot('load'));
  await load.getByRole('button', { name: 'Level', exact: true }).click();
  await load.getByRole('button', { name: 'Beyond it, if need be' }).click();
  await load.getByRole('button', { name: 'Propose' }).click();
  await load.getByRole('region', { name: 'Proposal' }).waitFor();
  await load.waitForTimeout(300);
  await load.screenshot(shot('levelling'));
  // Everybody's work on time; money as a table with its graph; and the graph under the plan.
  await load.keyboard.press('Escape');
  await load.getByRole('button', { name: 'People on time' }).click();
  await load.locator('.people-bar:not(.done)').first().click();
  await load.waitForTimeout(600);
  await load.screenshot(shot('people'));
  await load.goto(`${w.url}/p/${id}/money`);
  await load.locator('.money-cell').first().waitFor();
  await load.waitForTimeout(400);
  await load.locator('#money-5-8').click();
  await load.locator('.money-parts li').first().waitFor();
  await load.waitForTimeout(400);
  await load.screenshot(shot('money'));
  await load.goto(`${w.url}/p/${id}/plan`);
  await new PlanScreen(load).saved();
  await load.getByRole('button', { name: 'Graph', exact: true }).click();
  await load.getByLabel('What the graph is of').selectOption({ label: 'Riggers' });
  await load.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 26 * 82));
  await load.locator('.plan-grid').focus();
  await load.waitForTimeout(700);
  await load.screenshot(shot('graph'));
} finally {
  await w.stop();
}
