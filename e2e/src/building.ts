/** Building a network in bulk: typed plans, replicating, many links at once, lanes. Dates worked by hand from Monday 2 March 2026. */
import { equal, journey, PlanScreen, planText, until } from './harness.ts';
import { boxOf, counts, expectCounts, expectOutline, FLOOR, undoAll } from './screens.ts';

const EMPTY = planText({ code: 'NEW', name: 'New plan', activities: [{ id: 'r', code: '120', name: 'Release', type: 'startMilestone', duration: 0 }] });

journey('a plan is typed: three lines of forty cannot be read and nothing is taken before they are mended; rows of a spreadsheet with six faults', async (w) => {
  const id = await w.importFile(EMPTY);
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.cell('Release', 'code').click();
  // All by keyboard from here: P opens the field, Ctrl+Enter takes the plan over.
  await page.keyboard.press('p');
  const field = page.getByLabel('The plan as text');
  await until(
    'the field has the keyboard',
    () => field.evaluate((e) => e === document.activeElement),
    (x) => x,
  );
  const lines = ['Tower', ...Array.from({ length: 39 }, (_, i) => `  Work ${i + 1} ${1 + (i % 4)}d after ${i ? 'above' : '120'}`)];
  const broken = [...lines];
  broken[4] = '  Work 4 4d after 999';
  broken[11] = '  Work 11 3d from 31 feb';
  broken[30] = '  Work 30 2d after Work 35, above';
  await page.keyboard.insertText(broken.join('\n'));
  const faults = page.locator('.skipped li');
  await until(
    'three faults',
    () => faults.allInnerTexts(),
    (t) =>
      t.length === 3 &&
      t[0]!.startsWith('Line 5') &&
      t[0]!.includes('999') &&
      t[1]!.startsWith('Line 12') &&
      t[1]!.includes('31 feb') &&
      t[2]!.startsWith('Line 36') &&
      t[2]!.includes('loop'),
  );
  await page.keyboard.press('Control+Enter');
  equal(await counts(page), 'NEW · 1 activity · 0 links', 'nothing is half done');
  await field.fill(lines.join('\n'));
  await until(
    'understood',
    () => page.locator('.verdict').innerText(),
    (t) => t.includes('1 WBS node, 39 activities, 0 milestones, 39 links'),
  );
  // 96 working days one after the other end on 13 July, a Monday.
  await until(
    'the finish before it is taken',
    () => page.locator('.verdict-finish').innerText(),
    (t) => t.includes('Mon 13 Jul 2026'),
  );
  await page.keyboard.press('Control+Enter');
  await expectCounts(page, '40 activities · 39 links');
  await page.keyboard.press('Control+End');
  await plan.expect('Work 39', 'finish', '13 Jul 26');
  await plan.saved();
  await page.keyboard.press('Control+z');
  await expectCounts(page, '0 links');

  // Rows of a spreadsheet, pasted into the same field.
  const table = ['Level\tName\tDuration\tPredecessors\tStart'];
  for (let i = 0; i < 20; i++) {
    table.push(`1\tSection ${i + 1}\t\t\t`);
    for (let j = 0; j < 9; j++) table.push(`2\tSection ${i + 1} work ${j + 1}\t${j + 1}d\t${j ? `Section ${i + 1} work ${j}` : ''}\t`);
  }
  const bad = [...table];
  bad[3] = '2\tSection 1 work 2\tfive\tSection 1 work 1\t';
  bad[30] = '2\t\t9d\t\t';
  bad[50] = 'x\tSection 5 work 9\t9d\tSection 5 work 8\t';
  bad[77] = '2\tSection 8 work 6\t6d\tSection 8 work 55\t';
  bad[100] = '2\tSection 10 work 9\t9d\tSection 10 work 8\t31 feb';
  bad[150] = '4\tSection 15 work 9\t9d\t\t';
  await plan.cell('Release', 'code').click();
  await page.keyboard.press('p');
  await field.fill(bad.join('\n'));
  await until(
    'six faults by their rows',
    () => page.locator('.skipped li b').allInnerTexts(),
    (t) => t.join() === 'Line 4,Line 31,Line 51,Line 78,Line 101,Line 151',
  );
  equal(await page.getByRole('button', { name: 'Take it into the plan' }).isDisabled(), true, 'nothing can be taken');
  await field.fill(table.join('\n'));
  await until(
    'all understood',
    () => page.locator('.verdict').innerText(),
    (t) => t.includes('20 WBS nodes, 180 activities, 0 milestones, 160 links'),
  );
  await page.keyboard.press('Control+Enter');
  await expectCounts(page, '181 activities · 160 links');
  // 1 + 2 + ... + 9 = 45 working days in each section: to Friday 1 May.
  await plan.expect('Section 1 work 9', 'finish', '1 May 26');
  await plan.saved();
  // What is closed stays closed in this browser.
  const node = page.locator('.sheet .row.wbs').first();
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  await node.locator('.twist').click();
  await page.locator('.sheet .row.wbs[aria-expanded=false]').waitFor();
  await page.reload();
  await expectCounts(page, '181 activities · 160 links');
  equal(await node.getAttribute('aria-expanded'), 'false', 'the node that was closed');
  await node.locator('.twist').click();
  await page.reload();
  await expectCounts(page, '181 activities · 160 links');
  equal(await node.getAttribute('aria-expanded'), 'true', 'the node that was opened again');
});

journey('a floor is replicated with one release and one handover; many links at once, a loop named; logic copied; structure and back', async (w) => {
  const id = await w.importFile(FLOOR);
  const page = await w.window({ width: 1400 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  // Strip 2 and 3 March, plaster a day behind from 3 to 5, paint on 6.
  await plan.expect('Handover', 'finish', '6 Mar 26');
  await plan.cell('Level 1', 'code').click();
  await page.keyboard.press('r');
  await page.getByLabel('Names of the copies').fill('Level {2..5}');
  await page.getByLabel('In the names inside, replace').fill('level 1');
  await page.getByLabel('by', { exact: true }).fill('level {2..5}');
  const task = page.locator('.task');
  await until(
    'what it would make',
    () => task.innerText(),
    (t) => t.includes('16 rows: Level 2, Level 3, Level 4 … Level 5') && t.includes('16 links: 8 among the copied, 4 into them, 4 out of them') && t.includes('the finish holds'),
  );
  await page.keyboard.press('Control+Enter');
  await expectCounts(page, '17 activities · 20 links');
  await plan.expect('Paint level 5', 'finish', '6 Mar 26');
  equal(await plan.text('Strip level 4', 'predecessors'), '100', 'one release starts every copy');
  await plan.saved();

  // The releases of two trades for each other: 2 x 2, of which one is a loop.
  await plan.cell('Paint level 1', 'code').click();
  await plan.cell('Strip level 3', 'code').click({ modifiers: ['Control'] });
  await page.keyboard.press('e');
  await plan.cell('Strip level 2', 'code').click();
  await plan.cell('Strip level 1', 'code').click({ modifiers: ['Control'] });
  await until(
    'three links and a loop',
    () => task.innerText(),
    (t) => t.includes('2 × 2: 3 links can be made') && t.includes('1 left out: they would close a loop') && t.includes('110 > 120 > 130 > 110'),
  );
  // Strip 1 waits for strip 3: 4 and 5 March, paint 1 on 10; strip 2 on 11 and 12, plaster 2 to 16, paint 2 on 17 March.
  await until(
    'what becomes of the finish',
    () => task.innerText(),
    (t) => t.includes('Tue 17 Mar 2026') && t.includes('+7 d'),
  );
  await task.getByRole('button', { name: 'Select them' }).click();
  equal(await page.locator('.sheet .row.selected').count(), 3, 'the members of the loop are selected');
  await plan.cell('Strip level 2', 'code').click();
  await plan.cell('Strip level 1', 'code').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Make 3 links' }).click();
  await expectCounts(page, '23 links');
  await plan.expect('Handover', 'finish', '17 Mar 26');
  await page.keyboard.press('Control+z');
  await expectCounts(page, '20 links');
  await plan.expect('Handover', 'finish', '6 Mar 26');

  // Predecessors with type and lag for activities in three branches.
  await plan.cell('Plaster level 1', 'code').click();
  await page.keyboard.press('c');
  for (const [i, name] of ['Paint level 2', 'Paint level 3', 'Paint level 4'].entries()) await plan.cell(name, 'code').click(i ? { modifiers: ['Control'] } : {});
  await until(
    'three links',
    () => task.innerText(),
    (t) => t.includes('3 links can be made'),
  );
  await task.getByLabel(/Of 120/).focus();
  await page.keyboard.press('Control+Enter');
  await plan.expect('Paint level 3', 'predecessors', '145, 110SS+1d'.replace('145', (await plan.text('Plaster level 3', 'code')).trim()));
  await page.keyboard.press('Control+z');
  await expectCounts(page, '20 links');

  // Structure: wrapped, focused, dissolved; an activity split, and its parts made one again.
  await plan.cell('Strip level 1', 'code').click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('g');
  await page.locator('.cell-input').fill('First trades');
  await page.keyboard.press('Enter');
  await plan.cell('First trades', 'code').click();
  await page.keyboard.press('f');
  await expectOutline(page, 'focus', ['.First trades', '..Strip level 1', '..Plaster level 1']);
  await until(
    'the rest is said to be hidden',
    () => page.locator('.dock').innerText(),
    (t) => t.includes('Focus on First trades: 3 rows'),
  );
  await page.keyboard.press('Escape');
  await plan.cell('First trades', 'code').click();
  await page.keyboard.press('Shift+G');
  await plan.cell('Plaster level 1', 'code').click();
  await page.keyboard.press('x');
  await page.getByLabel('First part').fill('1d');
  await page.keyboard.press('Control+Enter');
  await plan.expect('Plaster level 1, part 2', 'duration', '2d');
  await plan.expect('Paint level 1', 'finish', '6 Mar 26');
  // The parts are selected: M makes one of them.
  await page.keyboard.press('m');
  await plan.expect('Plaster level 1', 'duration', '3d');
  await plan.expect('Handover', 'finish', '6 Mar 26');
  await plan.cell('Plaster level 2', 'code').click();
  await page.keyboard.press('Shift+J');
  // Without plaster, paint follows the start of strip by a day: 3 March.
  await plan.expect('Paint level 2', 'finish', '3 Mar 26');
  await plan.saved();
  await undoAll(page, 6);
  await plan.expect('Paint level 2', 'finish', '6 Mar 26');
  await expectOutline(page, 'as after replicating', [
    'Release',
    ...[1, 2, 3, 4, 5].flatMap((n) => [`Level ${n}`, `.Strip level ${n}`, `.Plaster level ${n}`, `.Paint level ${n}`]),
    'Handover',
  ]);
  await undoAll(page, 1);
  await expectOutline(page, 'as at the beginning', ['Release', 'Level 1', '.Strip level 1', '.Plaster level 1', '.Paint level 1', 'Handover']);
});

journey('five trades are drawn in one lane and linked as they are drawn; replicated to four more floors; closed, opened, printed, undone', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'LAN',
      name: 'Lanes',
      activities: [
        { id: 'r', code: '100', name: 'Release', type: 'startMilestone', duration: 0, rank: 0 },
        { id: 'h', code: '900', name: 'Handover', type: 'finishMilestone', duration: 0, rank: 9 },
      ],
      wbs: [{ id: 'f', name: 'Flat 1', rank: 5, lane: true }],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Handover', 'finish', '2 Mar 26');
  await plan.cell('Flat 1', 'code').click();
  // Twenty days are in view, from 14 pixels before Monday 2 March, 08:00.
  const ground = await boxOf(page.locator('.timeline'));
  const perDay = (ground.width - 96) / 20;
  const x = (day: number, hour: number): number => ground.x + 14 + (day + (hour - 8) / 24) * perDay;
  const lane = page.locator('.timeline-row').nth(1);
  // March 2 is day 0. Five trades of 1, 2, 1, 2 and 1 days, each drawn behind the one before.
  const trades: [string, number, number, string][] = [
    ['Strip', 0, 0, '2 Mar 26 to 2 Mar 26'],
    ['Pipes', 1, 2, '3 Mar 26 to 4 Mar 26'],
    ['Plaster', 3, 3, '5 Mar 26 to 5 Mar 26'],
    ['Tiles', 4, 7, '6 Mar 26 to 9 Mar 26'],
    ['Paint', 8, 8, '10 Mar 26 to 10 Mar 26'],
  ];
  for (const [name, from, to, dates] of trades) {
    const box = await boxOf(lane);
    const y = box.y + box.height / 2;
    await page.mouse.move(x(from, 2), y);
    await page.mouse.down();
    await page.mouse.move(x(to, 20), y, { steps: 3 });
    await until(
      `${name} as it is drawn`,
      () => page.locator('.drag-tip').innerText(),
      (t) => t.includes(dates),
    );
    await page.mouse.up();
    await page.getByLabel('Name of the activity').fill(name);
    await page.keyboard.press('Enter');
    await until(
      `${name} on its bar`,
      () => page.locator('[data-node=f] .tl-bar').count(),
      (n) => n === trades.findIndex((t) => t[0] === name) + 1,
    );
  }
  await expectCounts(page, '7 activities · 4 links');
  await plan.expect('Flat 1', 'finish', '10 Mar 26');
  // Opened, its rows have their names and logic; the ends are linked by typing, and it is closed again.
  await plan.cell('Flat 1', 'name').click();
  await page.keyboard.press('ArrowRight');
  await expectOutline(page, 'opened', ['Release', 'Flat 1', '.Strip', '.Pipes', '.Plaster', '.Tiles', '.Paint', 'Handover']);
  equal(await plan.text('Tiles', 'predecessors'), (await plan.text('Plaster', 'code')).trim(), 'linked as it was drawn');
  await plan.type('Strip', 'predecessors', '100');
  await plan.type('Handover', 'predecessors', (await plan.text('Paint', 'code')).trim());
  await plan.expect('Handover', 'finish', '10 Mar 26');
  await plan.cell('Flat 1', 'name').click();
  await page.keyboard.press('ArrowLeft');
  await expectOutline(page, 'closed', ['Release', 'Flat 1', 'Handover']);
  // Replicated: one release, one handover for all.
  await page.keyboard.press('Alt+r');
  await page.getByLabel('Names of the copies').fill('Flat {2..5}');
  await until(
    'what it would make',
    () => page.locator('.task').innerText(),
    (t) => t.includes('24 rows') && t.includes('24 links: 16 among the copied, 4 into them, 4 out of them') && t.includes('the finish holds'),
  );
  await page.keyboard.press('Control+Enter');
  await expectOutline(page, 'five lanes', ['Release', 'Flat 1', 'Flat 2', 'Flat 3', 'Flat 4', 'Flat 5', 'Handover']);
  await plan.expect('Flat 5', 'finish', '10 Mar 26');
  equal((await plan.text('Handover', 'predecessors')).split(',').length, 5, 'five lanes end in one handover');
  // A longer trade in one lane moves the handover; two that overlap are stacked, and the row grows.
  const before = (await boxOf(lane)).height;
  await plan.cell('Flat 1', 'name').click();
  await page.keyboard.press('ArrowRight');
  await plan.type('Paint', 'predecessors', (await plan.text('Plaster', 'code')).trim());
  await plan.expect('Paint', 'finish', '6 Mar 26');
  await plan.cell('Flat 1', 'name').click();
  await page.keyboard.press('ArrowLeft');
  await until(
    'two stacks',
    async () => (await boxOf(lane)).height,
    (h) => h > before + 10,
  );
  await plan.saved();
  // On paper lanes are lanes: a row each, with five bars.
  await page.goto(`${w.url}/p/${id}/report`);
  await until(
    'rows on paper',
    () => page.locator('body').innerText(),
    (t) => t.includes('5\nFlat 5\n7d\n2 Mar 26\n10 Mar 26\n0d\nStrip\nPipes\nPlaster\nTiles\nPaint\n900\nHandover'),
  );
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Flat 5', 'finish', '10 Mar 26');
  // One undo for each step: the link, the copies, two links, five names and five bars.
  await plan.cell('Handover', 'code').click();
  await undoAll(page, 2);
  await expectOutline(page, 'one lane again', ['Release', 'Flat 1', 'Handover']);
  await undoAll(page, 2 + 10);
  await expectCounts(page, '2 activities · 0 links');
});
