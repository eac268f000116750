/** Everything by what a planner types: the palette begins what it finds, goes to the place of it, or says why not now. */
import type { Page } from 'playwright-core';
import { equal, journey, PlanScreen, planText, until } from './harness.ts';

/** Types into the palette and takes what comes first, which must be called so. */
async function take(page: Page, typed: string, first: string): Promise<void> {
  await page.keyboard.press('Control+k');
  const box = page.getByPlaceholder('Find an activity, or something to do');
  await box.fill(typed);
  await until(
    `what ${typed} finds`,
    () => page.locator('.mantine-Spotlight-action').first().innerText(),
    (t) => t.startsWith(first),
  );
  await page.keyboard.press('Enter');
  await box.waitFor({ state: 'hidden' });
}

const focused = (page: Page): Promise<string> => page.evaluate(() => `${document.activeElement?.getAttribute('aria-label') ?? ''}${document.activeElement?.textContent ?? ''}`);

journey('by the palette: a baseline kept, a milestone and a margin added, a field typed, panels and rooms gone to; what cannot be done says why', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'PAL',
      name: 'By words',
      wbs: [{ id: 'g', code: '1', name: 'Ground' }],
      activities: [
        { id: 'a', code: '110', name: 'Dig', duration: 2400, wbsId: 'g' },
        // Saturday noon: the plan check tells it.
        { id: 'b', code: '120', name: 'Pour', duration: 480, wbsId: 'g', constraints: [{ kind: 'finishNotAfter', date: '2026-03-14T12:00' }] },
      ],
      links: [{ id: 'l', from: 'a', to: 'b' }],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  // Dig Monday 2 to Friday 6, Pour on Monday 9 March.
  await plan.expect('Pour', 'finish', '9 Mar 26');
  await take(page, 'save a baseline', 'Keep a baseline');
  const name = page.getByPlaceholder('Name of the baseline');
  await until(
    'the name of the baseline has the keyboard, in view',
    () =>
      name.evaluate((el) => {
        const box = el.getBoundingClientRect();
        return document.activeElement === el && box.top > 60 && box.bottom < window.innerHeight;
      }),
    (there) => there,
  );
  await page.keyboard.type('As agreed');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Delete baseline As agreed' }).waitFor();
  await page.keyboard.press('Escape');
  await name.waitFor({ state: 'hidden' });
  // New rows of a type; Tab after the name goes to a duration only where there is one.
  await plan.cell('Pour', 'name').click();
  await take(page, 'new milestone', 'Add finish milestone');
  await page.keyboard.type('Gate');
  await page.keyboard.press('Tab');
  await plan.cell('Gate', 'name').waitFor();
  equal(await page.locator('.cell-input').count(), 0, 'fields open after the name of a milestone');
  await take(page, 'buffer', 'Add margin');
  await page.keyboard.type('Allowance');
  await page.keyboard.press('Tab');
  await page.locator('.cell-input').fill('3d');
  await page.keyboard.press('Enter');
  await plan.expect('Allowance', 'duration', '3d');
  await plan.saved();
  const kept = JSON.parse(await (await fetch(`${w.url}/api/projects/${id}/file`)).text()) as { activities: { name: string; type?: string; duration?: number }[] };
  equal(
    kept.activities.slice(2).map((a) => [a.name, a.type, a.duration ?? 480]),
    [
      ['Gate', 'finishMilestone', 0],
      ['Allowance', 'margin', 1440],
    ],
    'the new rows in the file',
  );
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await until(
    'no margin',
    () => plan.row('Allowance').count(),
    (n) => n === 0,
  );
  // A field is found by its name: its column comes, and the value of the row is typed at once.
  await plan.cell('Dig', 'name').click();
  equal(await page.locator('.head-cell[data-column=deadline]').count(), 0, 'columns of the deadline before');
  await take(page, 'deadline', 'Deadline');
  await page.locator('.cell-input').fill('13 mar 26');
  await page.keyboard.press('Enter');
  await plan.expect('Dig', 'deadline', '13 Mar 26');
  // A folded section of the inspector opens and has the keyboard.
  await plan.cell('Dig', 'name').click();
  await page.locator('[data-section=files] .section-title').click();
  await take(page, 'attach', 'Go to Files');
  await until(
    'the button of files',
    () => focused(page),
    (t) => t.includes('Attach files'),
  );
  await take(page, 'choose columns', 'Columns');
  await page.getByLabel('Find a column').waitFor();
  await page.keyboard.press('Escape');
  await page.getByLabel('Find a column').waitFor({ state: 'hidden' });
  await take(page, 'open ends', 'Plan check');
  await until(
    'what is to be looked at',
    () => focused(page),
    (t) => t === 'Go there',
  );
  await page.keyboard.press('Escape');
  // Other rooms, at their place.
  await take(page, 'add expense', 'Expenses and income');
  await until(
    'the list of expenses',
    () => page.getByRole('button', { name: 'Expenses and income' }).getAttribute('aria-pressed'),
    (pressed) => pressed === 'true',
  );
  await take(page, 'new calendar', 'Calendars');
  await until(
    'the calendar has the keyboard',
    () => focused(page),
    (t) => t.startsWith('Week'),
  );
  // What belongs to Plan says so elsewhere, and leaves the palette open.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('indent');
  await until(
    'why not now',
    () => page.locator('.mantine-Spotlight-action').first().innerText(),
    (t) => t.includes('One level down') && t.includes('Go to Plan first.'),
  );
  await page.keyboard.press('Enter');
  await page.getByPlaceholder('Find an activity, or something to do').fill('ground');
  await page.locator('.mantine-Spotlight-action', { hasText: 'Ground' }).first().waitFor();
  await page.keyboard.press('Enter');
  await until(
    'the node is selected in Plan',
    () => page.locator('.sheet .row.selected').innerText(),
    (t) => t.includes('Ground'),
  );
  // A file to import is asked for at once.
  const [chooser] = await Promise.all([page.waitForEvent('filechooser'), take(page, 'import', 'Import a project file')]);
  equal(chooser.isMultiple(), false, 'several files at once');
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Pour', 'finish', '9 Mar 26');
  // A project begins, and a reload does not begin another.
  await take(page, 'new project', 'New project');
  await page.getByRole('dialog').waitFor();
  await page.reload();
  await page.getByRole('button', { name: 'New project' }).waitFor();
  equal(await page.getByRole('dialog').count(), 0, 'dialogs after a reload');
});
