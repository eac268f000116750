/** People: made in the Library, assigned by typing, away, over their limit by peak alone, levelled and undone; a second mason halves fixed work. */
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { sky } from '@yellowhammer/demo/scenario';
import type { Locator } from 'playwright-core';
import { equal, journey, planText, PlanScreen, until } from './harness.ts';
import { boxOf } from './screens.ts';

const WALL = planText({
  code: 'WAL',
  name: 'Walls',
  activities: [
    { id: 'a', code: '10', name: 'North wall', duration: 3840, rank: 0 },
    { id: 'b', code: '20', name: 'Yard gate', duration: 240, rank: 1 },
    { id: 'c', code: '30', name: 'Roof', duration: 4800, rank: 2 },
    { id: 'm', code: '40', name: 'Opening', type: 'finishMilestone', duration: 0, rank: 3 },
  ],
  links: [
    { id: 'l1', from: 'a', to: 'm' },
    { id: 'l2', from: 'b', to: 'm' },
    { id: 'l3', from: 'c', to: 'm' },
  ],
});

journey('somebody is made, assigned by typing, away and over the limit by peak alone, levelled within float and undone', async (w) => {
  const id = await w.importFile(WALL);
  const page = await w.window({ width: 1600, height: 900 });
  await page.addInitScript(
    (key) => localStorage.getItem(key) ?? localStorage.setItem(key, '{"columns":["code","name","duration","start","finish","assignments","basis"]}'),
    `yellowhammer.view.${id}`,
  );
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/library`);
  await page.getByLabel('Name of the new one').fill('Corran mason');
  await page.getByRole('button', { name: 'New resource' }).click();
  const main = page.getByRole('main', { name: 'Resource Corran mason' });
  await main.waitFor();
  await main.getByRole('button', { name: 'Say how much' }).first().click();
  await main.getByLabel('How many are there first').fill('1.5');
  await page.keyboard.press('Enter');
  await main.getByText('always').waitFor();

  // Typed: the beginning of a name, units behind it; a wrong name says so and keeps what was typed.
  await page.getByRole('link', { name: 'Plan' }).click();
  await plan.cell('North wall', 'assignments').dblclick();
  await page.locator('.cell-input').fill('plumber');
  await page.keyboard.press('Enter');
  await page.getByText('plumber is no resource or role', { exact: false }).waitFor();
  await page.locator('.cell-input').fill('corran');
  await page.keyboard.press('Enter');
  await plan.expect('North wall', 'assignments', 'Corran mason');
  await plan.cell('Yard gate', 'assignments').dblclick();
  await page.locator('.cell-input').fill('corran 1');
  await page.keyboard.press('Enter');
  await plan.expect('Yard gate', 'assignments', 'Corran mason');

  // Who does it stands under each activity, in the sheet and in the picture; and goes again.
  await page.keyboard.press('Escape');
  for (const [how, lines, shapes] of [
    ['lines under', 2, 2],
    ['strips', 0, 2],
    ['hidden', 0, 0],
  ] as const) {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('Find an activity, or something to do').fill(`assignments ${how === 'hidden' ? how : `as ${how}`}`);
    await page.keyboard.press('Enter');
    await until(
      `assignments ${how}`,
      async () => [await page.locator('.assigned-line', { hasText: 'Corran mason' }).count(), await page.locator('[data-assignment]').count()],
      (n) => n[0] === lines && n[1] === shapes,
    );
  }

  // On fixed work twice as many need half the time; on a fixed duration they do not.
  await plan.cell('North wall', 'basis').dblclick();
  await page.locator('.cell-input').fill('fixed work');
  await page.keyboard.press('Enter');
  await plan.expect('North wall', 'basis', 'Fixed work');
  await plan.cell('North wall', 'code').click();
  const line = page.getByRole('group', { name: 'Assignment of Corran mason' });
  await line.getByText('Twice as many: 8d become 4d', { exact: false }).waitFor();
  await line.getByLabel('Units of Corran mason').fill('2');
  await page.keyboard.press('Enter');
  await plan.expect('North wall', 'duration', '4d');
  await page.keyboard.press('Escape');
  await plan.cell('North wall', 'code').click();
  await page.keyboard.press('Control+z');
  await plan.expect('North wall', 'duration', '8d');
  await plan.cell('Yard gate', 'code').click();
  // Both have an assignment of that name: nobody types before the inspector is about the other row, but a test can.
  await page.locator('.inspector').getByRole('heading', { name: 'Yard gate' }).waitFor();
  await page.getByRole('group', { name: 'Assignment of Corran mason' }).getByLabel('Units of Corran mason').fill('0,9');
  await page.keyboard.press('Enter');
  await plan.expect('Yard gate', 'duration', '0.5d');
  await plan.expect('Yard gate', 'assignments', 'Corran mason 0.9');
  await plan.saved();

  // The week has room, and half of Monday has not: 40 + 3.6 of 60 hours, 1.9 of 1.5 at once.
  await page.getByRole('link', { name: 'Load' }).click();
  const hidden = page.locator('.load-row', { hasText: 'Corran mason' }).locator('.load-cell.hidden-peak').first();
  await hidden.click();
  await page.getByText('43.6 of 60 h (73 %), yet 1.9 at once', { exact: false }).waitFor();
  await page.getByRole('button', { name: '0 over the limit · 1 hidden peak' }).click();
  await page.getByText('1.9 of 1.5, 2 Mar 26', { exact: false }).waitFor();

  // Within float the wall waits half a day for the gate: less than the gate would for the wall. One undo brings it back.
  await page.getByRole('button', { name: 'Level', exact: true }).click();
  await page.getByRole('button', { name: 'Propose' }).click();
  const proposal = page.getByRole('region', { name: 'Proposal' });
  await proposal.getByText('10 North wall').waitFor();
  await proposal.getByText('1 activity is held back', { exact: false }).waitFor();
  await proposal.getByRole('button', { name: 'Take it over' }).click();
  await page.getByRole('button', { name: '0 over the limit · 0 hidden peaks' }).waitFor();
  await page.getByRole('button', { name: 'Undo', exact: false }).first().click();
  await page.getByRole('button', { name: '0 over the limit · 1 hidden peak' }).waitFor();

  // A day off of one who drives moves the wall by a day, and the reason says who was away.
  await page.goto(`${w.url}/p/${id}/library`);
  await page.getByRole('navigation', { name: 'Library' }).getByRole('button', { name: 'Corran mason' }).click();
  const off = page.getByRole('region', { name: 'Days off' });
  await off.getByRole('textbox', { name: 'Days', exact: true }).fill('3 mar 2026');
  await off.getByRole('textbox', { name: 'Name', exact: true }).fill('Leave');
  await off.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: 'Take over' }).click();
  await page.getByRole('link', { name: 'Plan' }).click();
  await plan.expect('North wall', 'duration', '8d');
  await plan.expect('North wall', 'finish', '12 Mar 26');
  await page.reload();
  await plan.expect('North wall', 'finish', '12 Mar 26');
  await plan.expect('Yard gate', 'assignments', 'Corran mason 0.9');
});

journey('the load of the demo: a stretch opened up, hours and shifts, tables as CSV, the room walked by keyboard', async (w) => {
  const list = await w.api<{ id: string; code: string }[]>('/projects');
  const known = list.find((p) => p.code === 'SKY')?.id;
  const id = known ?? (await w.importFile(writeProjectFile(sky())));
  const page = await w.window({ width: 1400, height: 900 });
  await page.goto(`${w.url}/p/${id}/load`);
  const grid = page.getByRole('grid', { name: 'Load by bucket' });
  await grid.locator('.load-row').first().waitFor();
  await page.getByRole('button', { name: /over the limit/ }).click();
  await page.locator('.load-runs').getByRole('button', { name: 'Instrument fitters' }).first().click();
  await page.getByRole('heading', { name: 'Instrument fitters', exact: true }).waitFor();
  await page.getByRole('button', { name: /over the limit/ }).click();
  await page.getByRole('heading', { name: /^Instrument fitters, week of/ }).waitFor();
  await page.getByText('745 Install spectrograph after it').waitFor();
  // By keyboard the same row a week later, and a row up.
  await grid.focus();
  const selected = (): Promise<string | null> => grid.locator('[aria-selected=true]').first().getAttribute('aria-label');
  const before = await selected();
  await page.keyboard.press('ArrowRight');
  await until('another cell', selected, (t) => t !== before && t?.startsWith('Instrument fitters') === true);
  for (const name of ['Shift', 'Day', 'Month', 'Hour']) {
    await page.getByRole('group', { name: 'Bucket' }).getByRole('button', { name, exact: true }).click();
    await grid.locator('.load-cell').first().waitFor();
  }
  // Buckets by zoom, from the keyboard and by the wheel; a crew has a row of its own.
  const bucket = (name: string): Promise<string | null> => page.getByRole('group', { name: 'Bucket' }).getByRole('button', { name, exact: true }).getAttribute('aria-pressed');
  await page.getByRole('group', { name: 'Bucket' }).getByRole('button', { name: 'Week', exact: true }).click();
  await grid.focus();
  await page.keyboard.press('-');
  await until(
    'months',
    () => bucket('Month'),
    (t) => t === 'true',
  );
  await page.keyboard.press('+');
  await page.keyboard.press('+');
  await until(
    'days',
    () => bucket('Day'),
    (t) => t === 'true',
  );
  await grid.hover();
  await page.keyboard.down('Control');
  await page.mouse.wheel(0, 100);
  await page.keyboard.up('Control');
  await until(
    'weeks again',
    () => bucket('Week'),
    (t) => t === 'true',
  );
  await grid.getByRole('rowheader', { name: /Lifting crew crew/ }).waitFor();
  // What one shift needs, by place and trade; the one after it is another day.
  await page.getByRole('button', { name: 'A shift' }).click();
  await page.getByRole('heading', { name: 'Mon 2 Nov 26, 08:00 to 17:00' }).waitFor();
  const rigging = page.locator('.shift-table tr', { hasText: '555 Cut out rusted ring beam' });
  await until(
    'the riggers',
    () => rigging.innerText(),
    (t) => /rigger\s+555 Cut out rusted ring beam\s+Riggers\s+2, 17 h\s+critical/.test(t),
  );
  await page.getByRole('button', { name: 'Shift after' }).click();
  await page.getByRole('heading', { name: 'Tue 3 Nov 26, 08:00 to 17:00' }).waitFor();
  await page.getByRole('button', { name: 'Shift before' }).click();
  await page.getByRole('heading', { name: 'Mon 2 Nov 26, 08:00 to 17:00' }).waitFor();
  await page.getByRole('button', { name: 'Cells' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  equal((await download).suggestedFilename(), 'SKY_load_by_week.csv', 'the name of the file');
});

journey('people on time: a bar dragged to somebody else says what it does to both, is taken over and taken back', async (w) => {
  const text = writeProjectFile(sky()).replace(/"code": ?"SKY"/, '"code": "PEOPLE"');
  const id = await w.importFile(text);
  const page = await w.window();
  await page.goto(`${w.url}/p/${id}/load`);
  await page.getByRole('button', { name: 'People on time' }).click();
  const row = (name: string): Locator => page.locator('.people-row').filter({ has: page.locator('.load-name', { hasText: new RegExp(`^${name}$`) }) });
  const bar = row('Riggers').getByRole('button', { name: /^655 Take down temporary roof/ });
  await bar.scrollIntoViewIfNeeded();
  // By keyboard: who could take it, tried and left as it is.
  await bar.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { name: '655 Take down temporary roof' }).waitFor();
  await page.getByRole('button', { name: 'Try' }).first().click();
  await page.getByRole('dialog').getByRole('cell', { name: 'Riggers' }).waitFor();
  await page.getByRole('button', { name: 'Leave as it is' }).click();
  await page.getByRole('dialog').waitFor({ state: 'hidden' });
  // By the pointer, onto the row of the carpenters, who have room.
  const from = await boxOf(bar);
  const to = await boxOf(row('Carpenters').locator('.load-who'));
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(from.x + 5, to.y + 20, { steps: 6 });
  await page.getByText('655 Take down temporary roof to Carpenters').waitFor();
  await page.mouse.up();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('cell', { name: 'Carpenters' }).waitFor();
  equal(await dialog.locator('tbody tr').count(), 2, 'both are told');
  await dialog.getByRole('button', { name: 'Take over' }).click();
  await row('Carpenters')
    .getByRole('button', { name: /^655 Take down temporary roof/ })
    .waitFor();
  equal(await bar.count(), 0, 'the riggers have it no more');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await bar.waitFor();
});
