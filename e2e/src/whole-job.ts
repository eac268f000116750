/** The whole job once, from an empty project to a PDF. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { equal, journey, PlanScreen, until } from './harness.ts';

/*
 * Worked by hand. Five-day week, 08:00-12:00 and 13:00-17:00, from Monday 2 March 2026.
 *   10 Drive piles   6d on the six-day week (Saturday 08:00-12:00): Mon 2 to Fri 6 is 5d, Sat 7 half a day, so it ends
 *                    on Mon 9 March at 12:00.
 *   20 Fix deck      3d after 10: from Mon 9, 13:00, to Thu 12 March, 12:00.
 *   30 Paint         1d, start to start with 1d after 20: from Tue 10, 13:00, to Wed 11, 12:00; a day of float.
 *   40 Jetty open    finish milestone after 20 and 30: Thu 12 March, 12:00. Required: Fri 13 March, so 1.5 days left.
 * Update to Mon 9 March, 08:00: 10 started on Mon 2, two days remain: to Tue 10, 17:00. 20 from Wed 11 to Fri 13, 17:00.
 * The finish goes from Thu 12, 12:00, to Fri 13 March, 17:00: +1.5 days, and nothing is left to the required finish.
 */
journey('the whole job once: set up, plan, baseline, update, compare, report', async (w) => {
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(w.url);
  await page.getByRole('button', { name: 'New project' }).first().click();
  await page.getByLabel('Name', { exact: true }).fill('North jetty');
  await page.getByLabel('Planned start').fill('2 mar 2026');
  await page.getByLabel('Required finish').fill('13 mar 2026 17:00');
  await page.getByRole('button', { name: 'Make the project' }).click();

  // Rows by keyboard: a name and Enter for the next one.
  await page.getByRole('button', { name: 'Type the first activity' }).click();
  for (const name of ['Drive piles', 'Fix deck', 'Paint', 'Jetty open']) await page.keyboard.type(`${name}\n`);
  await page.keyboard.press('Escape');
  await plan.expect('Drive piles', 'code', '101');
  await plan.expect('Jetty open', 'code', '104');

  // A WBS node above them, and all four one level down.
  await plan.cell('Drive piles', 'name').click();
  await page.keyboard.press('Control+Enter');
  await page.keyboard.type('Jetty');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Escape');
  await plan.cell('Jetty', 'name').click();
  await page.keyboard.press('Alt+ArrowUp');
  await plan.cell('Drive piles', 'name').click();
  await plan.cell('Jetty open', 'name').click({ modifiers: ['Shift'] });
  await page.keyboard.press('Control+]');
  await plan.expect('Jetty', 'code', '1');
  equal(await plan.row('Paint').getAttribute('aria-level'), '2', 'outline level of Paint');

  // Durations, types and links, typed.
  await plan.type('Drive piles', 'duration', '6d');
  await plan.type('Fix deck', 'duration', '3d');
  await plan.cell('Jetty open', 'name').click();
  await page.getByRole('combobox', { name: 'Type' }).click();
  await page.getByRole('option', { name: 'Finish milestone' }).click();
  await plan.type('Fix deck', 'predecessors', '101');
  await plan.type('Paint', 'predecessors', '102ss+1d');
  await plan.type('Jetty open', 'predecessors', '102, 103');
  await plan.expect('Jetty open', 'finish', '12 Mar 26');
  await plan.expect('Drive piles', 'finish', '9 Mar 26');

  // A calendar with Saturday mornings, for the piles.
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByLabel('Name of the new one').fill('Six-day week');
  await page.getByRole('button', { name: 'Copy this one' }).click();
  await page.getByLabel('Hours on Saturday').fill('8-12');
  await page.getByLabel('Hours on Saturday').press('Enter');
  await until(
    'Saturday',
    () => page.getByLabel('Hours on Saturday').inputValue(),
    (v) => v === '08:00-12:00',
  );
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByLabel('Scroll the sheet sideways').evaluate((el) => (el.scrollLeft = 1000));
  await plan.type('Drive piles', 'calendar', 'six-day week');
  await page.getByLabel('Scroll the sheet sideways').evaluate((el) => (el.scrollLeft = 0));

  // Computed dates against the figures above, with their times.
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Times with dates' }).click();
  await page.keyboard.press('Escape');
  await plan.expect('Drive piles', 'finish', '9 Mar 26, 12:00');
  await plan.expect('Fix deck', 'start', '9 Mar 26, 13:00');
  await plan.expect('Fix deck', 'finish', '12 Mar 26, 12:00');
  await plan.expect('Paint', 'start', '10 Mar 26, 13:00');
  await plan.expect('Paint', 'finish', '11 Mar 26, 12:00');
  await plan.expect('Paint', 'float', '1d');
  await plan.expect('Fix deck', 'float', '0d');
  await plan.expectFigure('forecast finish', 'Thu 12 Mar 2026');
  await plan.expectFigure('to required finish', '+1.5 d');
  await until(
    'critical bars',
    () => page.locator('.tl-bar.critical').count(),
    (n) => n === 3,
  );
  await until(
    'roll-up',
    () => plan.text('Jetty', 'start'),
    (t) => t.startsWith('2 Mar 26'),
  );

  // Undo and redo across everything, still there after a reload.
  await plan.saved();
  await page.reload();
  await plan.expect('Drive piles', 'finish', '9 Mar 26, 12:00');
  await page.keyboard.press('Control+z');
  await plan.expect('Drive piles', 'finish', '9 Mar 26, 17:00');
  await page.keyboard.press('Control+Shift+Z');
  await plan.expect('Drive piles', 'finish', '9 Mar 26, 12:00');

  // A baseline in one step.
  await page.getByRole('button', { name: 'North jetty' }).click();
  await page.getByPlaceholder('Name of the baseline').fill('First plan');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.keyboard.press('Escape');
  await plan.expectFigure('against First plan', '0 d');
  await until(
    'baseline brackets',
    () => page.locator('.tl-baseline').count(),
    (n) => n === 4,
  );

  // The update: the new data date, the due list, entries, and what they do before they are taken over.
  await page.getByRole('link', { name: 'Update' }).click();
  const newDate = page.getByRole('textbox', { name: 'New data date' });
  await newDate.fill('9 mar 2026 08:00');
  await newDate.press('Enter');
  await until(
    'due rows',
    () => page.locator('[data-due]').count(),
    (n) => n === 1,
  );
  const due = page.locator('[data-due="101"]');
  await due.getByLabel(/^Started/).fill('2 mar');
  await due.getByLabel(/^Started/).press('Enter');
  await due.getByLabel(/^Remaining/).fill('2d');
  await due.getByLabel(/^Remaining/).press('Enter');
  await until(
    'effect',
    () => page.locator('.effect').innerText(),
    (t) => t.includes('Fri 13 Mar 2026') && t.includes('+1.5 d'),
  );
  await page.getByRole('button', { name: 'Take over' }).click();
  await plan.expectFigure('forecast finish', 'Fri 13 Mar 2026');
  await plan.expectFigure('against First plan', '+1.5 d');
  await plan.expectFigure('to required finish', '0 d');
  await plan.expectFigure('data date', '9 Mar 2026');

  // What slipped.
  await page.getByRole('link', { name: 'Compare' }).click();
  await until(
    'sentence',
    () => page.locator('.compare-sentence').innerText(),
    (t) => t.includes('moved +1.5 d') && t.includes('4 of 4 activities changed'),
  );
  const slipped = page.getByRole('row', { name: /Fix deck/ });
  await until(
    'row of the comparison',
    () => slipped.innerText(),
    (t) => t.includes('12 Mar 26') && t.includes('13 Mar 26') && t.includes('+1.5 d'),
  );

  // Back to the restore point in one action, and forth again.
  await page.getByRole('link', { name: 'Update' }).click();
  await page.getByRole('button', { name: 'Go back', exact: true }).click();
  await page.getByRole('menuitem', { name: /Before status update 1/ }).click();
  await plan.expectFigure('forecast finish', 'Thu 12 Mar 2026');
  await page.keyboard.press('Control+z');
  await plan.expectFigure('forecast finish', 'Fri 13 Mar 2026');

  // The report: what the preview shows is what the PDF holds.
  await page.getByRole('link', { name: 'Report' }).click();
  await until(
    'preview',
    () => page.locator('.sheet-of-paper').first().innerHTML(),
    (t) => t.includes('13 Mar 26') && t.includes('page 1 of 1'),
  );
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: /^PDF/ }).click()]);
  const file = join(w.dir, 'report.pdf');
  await download.saveAs(file);
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  for (const part of ['North jetty', 'Fix deck', '13 Mar 26', 'forecast finish', 'page 1 of 1'])
    if (!text.includes(part)) throw new Error(`the PDF does not hold ${part}:\n${text}`);
  const image = execFileSync('pdftoppm', ['-r', '20', '-png', file], { maxBuffer: 1 << 26 });
  if (image.subarray(1, 4).toString() !== 'PNG') throw new Error('the PDF could not be drawn');
});
