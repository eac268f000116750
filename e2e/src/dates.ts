/** Dates that say why: calendars that move finishes, out-of-sequence progress, margins, and a longer week. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Locator, Page } from 'playwright-core';
import { equal, fiveDays, journey, PlanScreen, planText, until, type World } from './harness.ts';

const open = async (w: World, id: string, room = 'plan'): Promise<{ page: Page; plan: PlanScreen }> => {
  const page = await w.window();
  await page.goto(`${w.url}/p/${id}/${room}`);
  return { page, plan: new PlanScreen(page) };
};
const calendar = (page: Page, name: string): Locator => page.getByRole('navigation', { name: 'Library' }).getByRole('button', { name });
const d = (days: number): number => days * 480;

/*
 * Yard week here: Monday to Friday. Ten days from Monday 2 March end on Friday 13 March. In the file that arrives it
 * stops on Tuesday 3 and Wednesday 4: the same ten days end on Tuesday 17 March.
 */
journey('a finish that moved at import: found out why, and put right', async (w) => {
  const yard = (more: object = {}): object => ({ ...fiveDays, id: 'yard', name: 'Yard week', ...more });
  const work = [{ id: 'a', code: '10', name: 'Lay slip', duration: d(10), calendarId: 'yard' }];
  const quay = await w.importFile(planText({ code: 'QUAY', name: 'Quay', calendars: [yard()], activities: work }));
  const here = await open(w, quay, 'library');
  await calendar(here.page, 'Yard week').click();
  await here.page.getByRole('button', { name: 'Share it with all projects' }).click();
  await here.page.getByText('Shared; no other project uses it yet.').waitFor();

  const file = join(w.dir, 'pier.yellowhammer.json');
  const stops = ['2026-03-03', '2026-03-04'].map((from) => ({ name: 'boat strike', from, to: from, work: [] }));
  writeFileSync(file, planText({ code: 'PIER', name: 'Pier', calendars: [yard({ exceptions: stops })], activities: work }));
  const arrive = async (page: Page, choice: string): Promise<PlanScreen> => {
    await page.goto(w.url);
    await page.getByLabel('Project file').setInputFiles(file);
    const dialog = page.getByRole('dialog');
    await dialog.getByText('2 days differ').waitFor();
    for (const text of ['Tue 3 Mar 26', 'Wed 4 Mar 26', 'boat strike']) await dialog.getByText(text).first().waitFor();
    const finishes = await dialog.locator('.import-calendar table').first().locator('td.right').allInnerTexts();
    equal(finishes, ['13 Mar 26', '17 Mar 26', '17 Mar 26'], 'finish under the three outcomes');
    await dialog.getByText('QUAY finish +2 d').waitFor();
    await dialog.getByLabel(choice).check();
    await dialog.getByRole('button', { name: 'Import', exact: true }).click();
    await page.waitForURL(/\/plan$/);
    return new PlanScreen(page);
  };
  const page = await w.window();
  const plan = await arrive(page, 'Keep ours');
  // The finish is another one than the sender's; what did that is told without being asked for.
  await plan.expectFigure('forecast finish', 'Fri 13 Mar 2026');
  await page.getByText('At import: our Yard week kept').waitFor();
  await page.getByText('1 moved, finish −2 d').click();
  await page.getByRole('button', { name: 'Undo just that' }).click();
  await plan.expectFigure('forecast finish', 'Tue 17 Mar 2026');
  // Now the date itself says why: a click on it, and the stop is named.
  await page.keyboard.press('Escape');
  await plan.cell('Lay slip', 'finish').click();
  await page.getByRole('button', { name: 'Why 17 Mar 26?' }).waitFor();
  await plan.saved();
  await page.getByRole('link', { name: 'Library' }).click();
  // The project's own one comes first, the shared one of that name after it.
  await calendar(page, 'Yard week').first().click();
  await page.getByText('A project calendar: only this project uses it.').waitFor();
  await page.locator('[data-day="2026-03-03"]').hover();
  await page.getByText('Tue 3 Mar 26: no work (boat strike)').waitFor();
  // Taken instead of the own one it shows what it does, and can be left.
  await calendar(page, 'Yard week').last().click();
  await page.getByRole('button', { name: 'Use it instead of the project’s own Yard week' }).click();
  const instead = page.getByRole('dialog', { name: 'What this would do' });
  await instead.getByText('Fri 13 Mar 2026').waitFor();
  await instead.getByRole('button', { name: 'Leave as it is' }).click();

  // Taking theirs moves the other project, in its open window, and its log says who did it.
  await here.page.getByRole('link', { name: 'Plan' }).click();
  await here.plan.expectFigure('forecast finish', 'Fri 13 Mar 2026');
  const taken = await arrive(await w.window(), 'Take theirs');
  await taken.expectFigure('forecast finish', 'Tue 17 Mar 2026');
  await here.plan.expectFigure('forecast finish', 'Tue 17 Mar 2026');
  const entry = (await w.api<{ label: string }[]>(`/projects/${quay}/log`))[0];
  equal(entry?.label, 'Change shared calendar Yard week', 'the log of the other project');

  // From there the shared calendar is changed back: both are listed first, one takes a copy instead.
  await here.page.getByRole('link', { name: 'Library' }).click();
  await calendar(here.page, 'Yard week').click();
  await here.page.getByRole('button', { name: 'Delete the exception boat strike' }).first().click();
  const dialog = here.page.getByRole('dialog');
  await until(
    'both projects are listed',
    () => dialog.locator('tbody tr').allInnerTexts(),
    (rows) => rows.length === 2 && rows.every((r) => r.includes('17 Mar 26') && r.includes('16 Mar 26') && r.includes('−1 d')),
  );
  await dialog.getByRole('button', { name: 'Make a project copy instead' }).click();
  await calendar(here.page, 'Yard week (QUAY)').waitFor();
  await here.page.getByRole('link', { name: 'Plan' }).click();
  await here.plan.expectFigure('forecast finish', 'Mon 16 Mar 2026');
  // In the other project, where it is shared still, the last change can be put back: the list comes first again.
  await taken.page.getByRole('link', { name: 'Library' }).click();
  await calendar(taken.page, 'Yard week').click();
  await taken.page.getByRole('button', { name: 'Put back what Planner changed' }).click();
  await taken.page.getByRole('button', { name: 'Take over for all' }).click();
  await taken.expectFigure('forecast finish', 'Fri 13 Mar 2026');
  await taken.page.keyboard.press('Escape');
  await taken.page.getByRole('button', { name: 'Put back what Planner changed' }).click();
  await taken.page.getByRole('button', { name: 'Take over for all' }).click();
  await taken.expectFigure('forecast finish', 'Tue 17 Mar 2026');
});

/*
 * Data date Monday 9 March. Clad (5 d, not started) is followed by Trial, which was done on the 5th already, and that by
 * Sail (1 d). Retained logic: Clad runs from the 9th to Friday 13th, Sail is carried to Monday 16th. Progress override:
 * Sail follows the finished Trial, on Monday 9th; the project ends with Clad on Friday 13th.
 */
journey('out-of-sequence progress under both status options, with the carried link on the picture', async (w) => {
  const trial = { actualStart: '2026-03-05T08:00', actualFinish: '2026-03-05T17:00' };
  const id = await w.importFile(
    planText({
      code: 'DOME',
      name: 'Dome',
      project: { dataDate: '2026-03-09T08:00' },
      activities: [
        { id: 'a', code: '10', name: 'Clad', duration: d(5) },
        { id: 'b', code: '20', name: 'Trial', duration: d(1), ...trial },
        { id: 'c', code: '30', name: 'Sail', duration: d(1) },
      ],
      links: [
        { id: 'l1', from: 'a', to: 'b' },
        { id: 'l2', from: 'b', to: 'c' },
      ],
    }),
  );
  const { page, plan } = await open(w, id);
  await plan.expectFigure('forecast finish', 'Mon 16 Mar 2026');
  await page.locator('.tl-link.carried').first().waitFor({ state: 'attached' });
  await plan.cell('Sail', 'name').click();
  await page.keyboard.press('Alt+w');
  await page.locator('#why').getByText('10 Clad, carried through 20 Trial').waitFor();
  // By keyboard back to what holds it, and forward again.
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { name: 'Clad' }).waitFor();
  await page.locator('.inspector').getByRole('button', { name: 'Sail' }).first().focus();
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { name: 'Sail' }).waitFor();

  await page.getByRole('button', { name: 'Dome', exact: true }).click();
  await page.getByRole('button', { name: 'See both ways side by side' }).click();
  const both = page.getByRole('dialog', { name: 'Out-of-sequence progress, both ways' });
  const row = both.locator('tbody tr').filter({ hasText: '30 Sail' });
  await row.waitFor();
  equal((await row.locator('td').allInnerTexts()).slice(1, 7), ['16 Mar 26', '16 Mar 26', '0d', '9 Mar 26', '9 Mar 26', '4d'], 'Sail both ways');
  await both.getByRole('button', { name: 'Change to progress override' }).click();
  const preview = page.getByRole('dialog', { name: 'What this would do' });
  await preview.getByText('Fri 13 Mar 2026').waitFor();
  await preview.getByRole('button', { name: 'Take over' }).click();
  await plan.expectFigure('forecast finish', 'Fri 13 Mar 2026');
  await page.keyboard.press('Escape');
  await plan.expect('Sail', 'start', '9 Mar 26');
  equal(await page.locator('.tl-link.carried').count(), 0, 'carried links in progress override');
  await plan.cell('Sail', 'name').click();
  await page.keyboard.press('Control+z');
  await plan.expectFigure('forecast finish', 'Mon 16 Mar 2026');
  await page.locator('.tl-link.carried').first().waitFor({ state: 'attached' });
});

/*
 * Rig (5 d from Monday 2 March) has a margin of 5 days before Handover, which must not be later than Friday 13 March,
 * 17:00. Rig of 5 d: 5 d are left. 7 d: to Tuesday 10, 3 d left. 10 d: to Friday 13, nothing left, the date holds.
 * 11 d: to Monday 16, and the date goes with it: one day of float is missing.
 */
journey('a margin shrinks while the date after it holds, until it is used up', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'RIG',
      name: 'Rig',
      activities: [
        { id: 'a', code: '10', name: 'Rig', duration: d(5) },
        { id: 'm', code: '20', name: 'Weather margin', type: 'margin', duration: d(5) },
        { id: 'h', code: '30', name: 'Handover', type: 'finishMilestone', constraints: [{ kind: 'finishNotAfter', date: '2026-03-13' }] },
      ],
      links: [
        { id: 'l1', from: 'a', to: 'm' },
        { id: 'l2', from: 'm', to: 'h' },
      ],
    }),
  );
  const { page, plan } = await open(w, id);
  const left = async (days: string, rig: string, handover: string): Promise<void> => {
    await plan.expect('Rig', 'finish', rig);
    await plan.expect('Handover', 'finish', handover);
    await plan.cell('Weather margin', 'name').click();
    await until(
      'what is left of the margin',
      () => page.locator('.inspector .dates tr').filter({ hasText: 'Margin left' }).innerText(),
      (t) => t.replace(/\s+/g, ' ').includes(`${days} of 5d`),
    );
  };
  await left('5d', '6 Mar 26', '13 Mar 26');
  await plan.type('Rig', 'duration', '7d');
  await left('3d', '10 Mar 26', '13 Mar 26');
  await plan.type('Rig', 'duration', '10d');
  await left('0d', '13 Mar 26', '13 Mar 26');
  await plan.expect('Rig', 'float', '0d');
  await plan.type('Rig', 'duration', '11d');
  await left('0d', '16 Mar 26', '16 Mar 26');
  await plan.expect('Rig', 'float', '−1d');
  await plan.saved();
  await page.reload();
  await plan.expect('Rig', 'float', '−1d');
  await plan.cell('Rig', 'name').click();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await left('5d', '6 Mar 26', '13 Mar 26');
});

/*
 * Build takes 10 days on the masons' week, from Monday 2 to Friday 13 March. With eight hours on Saturdays it ends on
 * Thursday 12 March. Point, on the five-day week, is 5 days after it: from the 16th to Friday 20 March; after the
 * longer week from Friday 13 to Thursday 19. With the masons' stamp from Friday 13 to Wednesday 18 March.
 */
journey('one trade gets a longer week: painted, the gain seen, stamped on other work, days picked, undone', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'WALL',
      name: 'Sea wall',
      calendars: [{ ...fiveDays, id: 'm', name: 'Masons' }],
      activities: [
        { id: 'a', code: '10', name: 'Build', duration: d(10), calendarId: 'm' },
        { id: 'b', code: '20', name: 'Point', duration: d(5) },
      ],
      links: [{ id: 'l1', from: 'a', to: 'b' }],
    }),
  );
  const { page, plan } = await open(w, id, 'library');
  await calendar(page, 'Masons').click();
  const paint = async (day: number, from: number, to: number): Promise<void> => {
    const box = await page.locator('.week-paint').boundingBox();
    if (!box) throw new Error('nothing to paint on');
    const y = box.y + 16 + day * 31 + 15;
    await page.mouse.move(box.x + from * 10, y);
    await page.mouse.down();
    await page.mouse.move(box.x + to * 10, y, { steps: 6 });
    await page.mouse.up();
  };
  await paint(5, 8, 16);
  const preview = page.getByRole('dialog', { name: 'What this would do' });
  await preview.getByText('2 activities would move').waitFor();
  await preview.getByText('Thu 19 Mar 2026').waitFor();
  await preview.getByRole('button', { name: 'Take over' }).click();
  await until(
    'Saturday',
    () => page.getByLabel('Hours on Saturday').inputValue(),
    (v) => v === '08:00-16:00',
  );
  await plan.expectFigure('forecast finish', 'Thu 19 Mar 2026');
  await page.getByRole('link', { name: 'Plan' }).click();
  await plan.expect('Build', 'finish', '12 Mar 26');

  // The stamp: picked once, put on another activity, one undo.
  await plan.cell('Point', 'name').click();
  await page.keyboard.press('Alt+s');
  await page.getByLabel('Value to stamp').selectOption({ label: 'Masons' });
  await plan.cell('Point', 'name').hover();
  await page.getByText('finish 19 Mar 26, then 18 Mar 26').waitFor();
  await plan.cell('Point', 'name').click();
  await plan.expect('Point', 'finish', '18 Mar 26');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await plan.expect('Point', 'finish', '19 Mar 26');

  // Two scattered days picked in the year get no work: Build ends two working days later, on Saturday 14 March.
  await page.getByRole('link', { name: 'Library' }).click();
  await calendar(page, 'Masons').click();
  // By keyboard a run from the planned start on; Escape gives it up again.
  await page.locator('.year').focus();
  for (const key of ['ArrowRight', 'Shift+ArrowRight', 'Shift+ArrowRight']) await page.keyboard.press(key);
  equal(await page.getByLabel('Days (3 picked)').inputValue(), '2 Mar 26 to 4 Mar 26', 'the run picked by keyboard');
  await page.getByText('Wed 4 Mar 26: 08:00-12:00, 13:00-17:00').waitFor();
  await page.keyboard.press('Escape');
  equal(await page.getByLabel('Days', { exact: true }).inputValue(), '', 'no day is picked');
  await page.locator('[data-day="2026-03-03"]').click();
  await page.locator('[data-day="2026-03-05"]').click({ modifiers: ['Control'] });
  equal(await page.getByLabel('Days (2 picked)').inputValue(), '3 Mar 26, 5 Mar 26', 'the picked days');
  await page.getByPlaceholder('Harbour Day').fill('tide');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await preview.getByRole('button', { name: 'Take over' }).click();
  await page.getByRole('link', { name: 'Plan' }).click();
  await plan.expect('Build', 'finish', '14 Mar 26');
  await plan.cell('Build', 'name').click();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await plan.expect('Build', 'finish', '13 Mar 26');
  await plan.expectFigure('forecast finish', 'Fri 20 Mar 2026');
});
