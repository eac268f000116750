/** Building a network in bulk: typed plans, replicating, many links at once, structure. Dates worked by hand from Monday 2 March 2026. */
import { equal, journey, PlanScreen, planText, until } from './harness.ts';
import type { Locator, Page } from 'playwright-core';

const outline = (page: Page): Promise<string[]> =>
  page
    .locator('.sheet .row')
    .evaluateAll((rows) => rows.map((r) => `${'.'.repeat(Number(r.getAttribute('aria-level')) - 1)}${r.querySelector('[data-column=name]')?.textContent?.trim() ?? ''}`));
const expectOutline = (page: Page, what: string, wanted: string[]): Promise<string[]> =>
  until(
    what,
    () => outline(page),
    (r) => JSON.stringify(r) === JSON.stringify(wanted),
  );
const counts = (page: Page): Promise<string> => page.locator('.header-counts').innerText();
const expectCounts = (page: Page, text: string): Promise<string> =>
  until(
    `counts ${text}`,
    () => counts(page),
    (t) => t.includes(text),
  );
const undoAll = async (page: Page, times: number): Promise<void> => {
  for (let i = 0; i < times; i++) await page.keyboard.press('Control+z');
};

const boxOf = async (l: Locator): Promise<{ x: number; y: number; width: number; height: number }> => {
  const box = await l.boundingBox();
  if (!box) throw new Error('it is not on the screen');
  return box;
};

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
  equal(
    await counts(page),
    'NEW · 1 activities · 0 links'.replace('1 activities', (await counts(page)).includes('1 activities') ? '1 activities' : '1 activity'),
    'nothing is half done',
  );
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
  await page.reload();
  await expectCounts(page, '181 activities · 160 links');
});

const FLOOR = planText({
  code: 'FLR',
  name: 'Floors',
  activities: [
    { id: 'r', code: '100', name: 'Release', type: 'startMilestone', duration: 0, rank: 0 },
    { id: 'a', code: '110', name: 'Strip level 1', duration: 960, wbsId: 'f', rank: 0 },
    { id: 'b', code: '120', name: 'Plaster level 1', duration: 1440, wbsId: 'f', rank: 1 },
    { id: 'c', code: '130', name: 'Paint level 1', duration: 480, wbsId: 'f', rank: 2 },
    { id: 'h', code: '140', name: 'Handover', type: 'finishMilestone', duration: 0, rank: 9 },
  ],
  links: [
    { id: 'l1', from: 'r', to: 'a' },
    { id: 'l2', from: 'a', to: 'b', type: 'SS', lag: 480 },
    { id: 'l3', from: 'b', to: 'c' },
    { id: 'l4', from: 'c', to: 'h' },
  ],
  wbs: [{ id: 'f', name: 'Level 1', rank: 5 }],
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
  await plan.expect('Handover', 'predecessors', (await plan.text('Handover', 'predecessors')).trim());
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
    (t) => t.includes('5\nFlat 5\n7d\n2 Mar 26\n10 Mar 26\nStrip\nPipes\nPlaster\nTiles\nPaint\n900\nHandover'),
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

journey('a linked bar is dragged: four answers with their dates, remembered and forgotten; what follows moves along; progress inside the bar', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'ANS',
      name: 'Answers',
      project: { dataDate: '2026-03-04T08:00' },
      activities: [
        { id: 'a', code: '110', name: 'Dig', duration: 2400, actualStart: '2026-03-02T08:00', remaining: 1440 },
        { id: 'b', code: '120', name: 'Pour', duration: 960 },
        { id: 'c', code: '130', name: 'Cure', duration: 480 },
      ],
      links: [
        { id: 'l', from: 'a', to: 'b' },
        { id: 'm', from: 'b', to: 'c' },
      ],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  // Dig ends on Friday 6 March; Pour on 9 and 10, Cure on 11.
  await plan.expect('Cure', 'finish', '11 Mar 26');
  const perDay = ((await boxOf(page.locator('.timeline'))).width - 96) / 20;
  const body = (row: string): Promise<{ x: number; y: number; width: number; height: number }> => boxOf(page.locator(`[data-activity="${row}"] [data-part=body]`).last());
  const question = page.getByRole('dialog', { name: 'What moving 120 Pour means' });
  const drag = async (days: number, drop = true): Promise<void> => {
    const b = await body('b');
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width / 2 + days * perDay, b.y + b.height / 2, { steps: 6 });
    if (drop) await page.mouse.up();
  };
  // While it is dragged, Cure moves along on the picture and nothing is changed.
  const cure = (await body('c')).x;
  await drag(3, false);
  await until(
    'Cure moves along',
    async () => (await body('c')).x - cure,
    (dx) => dx > 2.5 * perDay,
  );
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await until(
    'all is as it was',
    async () => (await body('c')).x - cure,
    (dx) => Math.abs(dx) < 1,
  );
  const cases: [string, string, string, string][] = [
    // From Monday 9 to Thursday 12 March: a constraint.
    ['Not before that date', '12 Mar 26 to 13 Mar 26, the finish +3 d', '12 Mar 26', '110'],
    ['A lag of 3d on the link with 110 Dig', '12 Mar 26 to 13 Mar 26, the finish +3 d', '12 Mar 26', '110FS+3d'],
    ['Break the link with 110 Dig', '12 Mar 26 to 13 Mar 26, the finish +3 d', '12 Mar 26', ''],
    ['Leave it where it was', '', '9 Mar 26', '110'],
  ];
  for (const [title, dates, start, predecessors] of cases) {
    await drag(3);
    await question.waitFor();
    const answer = question.locator('.drag-answer', { has: page.getByText(title, { exact: true }) });
    if (dates)
      await until(
        `dates of ${title}`,
        () => answer.innerText(),
        (t) => t.includes(dates),
      );
    await answer.click();
    await plan.expect('Pour', 'start', start);
    equal(await plan.text('Pour', 'predecessors'), predecessors, title);
    if (dates) {
      await page.keyboard.press('Control+z');
      await plan.expect('Pour', 'start', '9 Mar 26');
    }
  }
  // Earlier: a lead, chosen by keyboard and remembered; the next drag is not asked.
  await drag(-3);
  await question.waitFor();
  await question.getByLabel('always so, until I say otherwise').check();
  await question.getByRole('button', { name: /^A lead of/ }).focus();
  await page.keyboard.press('Enter');
  await plan.expect('Pour', 'predecessors', '110FS-1d');
  await drag(4);
  await plan.expect('Pour', 'predecessors', '110FS+1d');
  equal(await question.count(), 0, 'it is not asked again');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('ask again');
  await page.getByRole('button', { name: /Ask again when a linked bar is dragged/ }).click();
  await page.getByPlaceholder('Find an activity, or something to do').waitFor({ state: 'hidden' });
  await drag(1);
  await question.waitFor();
  await page.keyboard.press('Escape');
  await undoAll(page, 2);
  await plan.expect('Pour', 'start', '9 Mar 26');
  // Progress: of five days two are done; dragged to three fifths of the bar, two remain from the data date on.
  const dig = await boxOf(page.locator('[data-activity="a"]').locator('.tl-done, .tl-ahead').first());
  const whole = await boxOf(page.locator('[data-activity="a"] [data-part=body]').last());
  const end = whole.x + whole.width;
  await page.mouse.move(dig.x + 6, dig.y + dig.height / 2);
  await page.mouse.down();
  await page.mouse.move(dig.x + (end - dig.x) * 0.6, dig.y + dig.height / 2, { steps: 5 });
  await until(
    'the tip',
    () => page.locator('.drag-tip').innerText(),
    (t) => t.includes('60% done (was 40%)') && t.includes('2d remain'),
  );
  await page.mouse.up();
  await plan.expect('Dig', 'percent', '60%');
  await plan.expect('Dig', 'finish', '5 Mar 26');
  await page.keyboard.press('Control+z');
  await plan.expect('Dig', 'percent', '40%');
});

journey('history: who did what and what it did to the finish; back before a bulk change, forward again; two points compared', async (w) => {
  const id = await w.importFile(FLOOR.replace('"FLR"', '"HIS"'));
  const page = await w.window({ width: 1400 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.type('Paint level 1', 'duration', '3d');
  // Paint from 6 to 10 March instead of the 6th: two days of work more.
  await plan.expect('Handover', 'finish', '10 Mar 26');
  await plan.cell('Level 1', 'code').click();
  await page.keyboard.press('r');
  await page.getByLabel('Names of the copies').fill('Level {2..4}');
  await page.getByLabel('In the names inside, replace').fill('level 1');
  await page.getByLabel('by', { exact: true }).fill('level {2..4}');
  await page.getByText('One after the other').click();
  await page.keyboard.press('Control+Enter');
  await expectCounts(page, '14 activities');
  // Each floor takes 7 working days: to 10, 19 and 30 March, and 8 April.
  await plan.expect('Handover', 'finish', '8 Apr 26');
  await plan.type('Strip level 1', 'duration', '4d');
  await plan.saved();
  const other = await w.window();
  await other.addInitScript(() => localStorage.setItem('yellowhammer.who', 'Bo'));
  await other.goto(`${w.url}/p/${id}/plan`);
  await new PlanScreen(other).type('Plaster level 1', 'duration', '4d');
  await new PlanScreen(other).saved();
  await plan.expect('Plaster level 1', 'duration', '4d');
  await plan.cell('Strip level 1', 'code').click();
  await page.keyboard.press('h');
  const list = page.locator('.history-list li');
  // Newest first. Plaster a day longer moves all by a day; strip longer moves nothing.
  const effects = ['+1 d', 'holds', '+21 d', '+2 d', 'holds'];
  await until(
    'the list with its effects',
    () => list.allInnerTexts(),
    (t) => t.length === 5 && t.every((x, i) => x.includes(effects[i] ?? '?')) && / Bo\b/.test(t[0] ?? '') && t.slice(1).every((x) => /Planner/.test(x)),
  );
  await page.locator('.history-filter select').selectOption('Bo');
  equal(await list.count(), 1, 'only what Bo did');
  await page.locator('.history-filter select').selectOption('');
  await page.getByText('only of the selected rows').click();
  await until(
    'only what touches Strip level 1',
    () => list.allInnerTexts(),
    (t) => t.length === 1 && t[0]!.includes('Strip level 1'),
  );
  await page.getByText('only of the selected rows').click();
  // Two points compared: before replicating and now.
  await page.getByLabel(/^Compare with the plan before Replicate/).check();
  await page.getByRole('button', { name: 'Compare that point with now' }).click();
  await until(
    'the comparison',
    () => page.locator('.compare-sentence').innerText(),
    (t) => t.includes('moved +22 d') && t.includes('Tue 10 Mar 2026') && t.includes('9 were added'),
  );
  await page.goBack();
  await plan.cell('Strip level 1', 'code').click();
  await page.keyboard.press('h');
  await page.getByRole('button', { name: /^Go back to before Replicate/ }).click();
  await until(
    'what going back does',
    () => page.locator('.task .verdict').innerText(),
    (t) => t.includes('3 acts are taken back as one') && t.includes('The finish was Tue 10 Mar 2026') && t.includes('−22 d'),
  );
  await page.getByRole('button', { name: 'Go back', exact: true }).click();
  await expectCounts(page, '5 activities · 4 links');
  await plan.expect('Handover', 'finish', '10 Mar 26');
  await plan.expect('Plaster level 1', 'duration', '3d');
  await plan.saved();
  await page.reload();
  await plan.expect('Handover', 'finish', '10 Mar 26');
  // Forward again: one undo, and the act of the other window is there too.
  await plan.cell('Handover', 'code').click();
  await page.keyboard.press('Control+z');
  await expectCounts(page, '14 activities');
  await plan.expect('Plaster level 1', 'duration', '4d');
  await plan.expect('Handover', 'finish', '9 Apr 26');
});

journey('rows are dragged in the sheet, several at once; a line says where they land and at which level; keys do the same', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'MOV',
      name: 'Moves',
      activities: ['A', 'B', 'C', 'D'].map((name, rank) => ({ id: name, code: String(200 + rank), name, duration: 480, rank: rank + 5 })),
      wbs: [
        { id: 'n', name: 'North', rank: 0 },
        { id: 'i', name: 'Inner', rank: 0, parentId: 'n' },
      ],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('D', 'finish', '2 Mar 26');
  await plan.cell('B', 'code').click();
  await plan.cell('D', 'code').click({ modifiers: ['Control'] });
  const from = await boxOf(plan.cell('D', 'code'));
  const inner = await boxOf(plan.cell('Inner', 'name'));
  // Below Inner: far to the right it is in Inner, to the left in North, at the edge on the top level.
  const levels: [number, string][] = [
    [80, '2 rows into Inner'],
    [14, '2 rows into North'],
    [-10, '2 rows into the top level'],
    [80, '2 rows into Inner'],
  ];
  await page.mouse.move(from.x + 12, from.y + 12);
  await page.mouse.down();
  for (const [dx, words] of levels) {
    await page.mouse.move(inner.x + 12 + dx, inner.y + inner.height - 2, { steps: 4 });
    await until(
      words,
      () => page.locator('.drop-line').innerText(),
      (t) => t === words,
    );
  }
  await page.mouse.up();
  await expectOutline(page, 'two rows in Inner', ['North', '.Inner', '..B', '..D', 'A', 'C']);
  await page.keyboard.press('Control+z');
  await expectOutline(page, 'as before', ['North', '.Inner', 'A', 'B', 'C', 'D']);
  // Escape gives a drag up; a node cannot go into itself; a press without a drag chooses one row.
  await page.mouse.move(from.x + 12, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(inner.x + 60, inner.y + 4, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expectOutline(page, 'as before', ['North', '.Inner', 'A', 'B', 'C', 'D']);
  await plan.cell('B', 'code').click();
  await plan.cell('C', 'code').click({ modifiers: ['Control'] });
  await plan.cell('C', 'code').click();
  equal(await page.locator('.sheet .row.selected').count(), 1, 'one row is chosen');
  const north = await boxOf(plan.cell('North', 'code'));
  await page.mouse.move(north.x + 12, north.y + 12);
  await page.mouse.down();
  await page.mouse.move(inner.x + 92, inner.y + inner.height - 2, { steps: 5 });
  await page.mouse.up();
  await page.getByText('A WBS node cannot go inside itself').waitFor();
  await expectOutline(page, 'as before', ['North', '.Inner', 'A', 'B', 'C', 'D']);
  // The same by keyboard: up, down a level, a node inside, everything below closed and opened.
  await plan.cell('A', 'code').click();
  await page.keyboard.press('Control+]');
  await expectOutline(page, 'into North', ['North', '.Inner', '.A', 'B', 'C', 'D']);
  await page.keyboard.press('Control+]');
  await expectOutline(page, 'into Inner', ['North', '.Inner', '..A', 'B', 'C', 'D']);
  await plan.cell('North', 'code').click();
  await page.keyboard.press('Alt+Shift+ArrowLeft');
  await expectOutline(page, 'closed', ['North', 'B', 'C', 'D']);
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await page.keyboard.press('Control+Shift+Enter');
  await page.locator('.cell-input').fill('Last in North');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expectOutline(page, 'a node inside', ['North', '.Inner', '..A', '.Last in North', 'B', 'C', 'D']);
});

journey('links of many at once in the inspector; numbers by a rule with prefixes; redundant links taken out; a typed date gone to', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'MNY',
      name: 'Many',
      project: { dataDate: '2026-03-02T08:00' },
      activities: ['A', 'B', 'C', 'D'].map((name, rank) => ({ id: name, code: String(200 + rank), name, duration: 480, rank, wbsId: rank < 2 ? 'n' : 'm' })),
      wbs: [
        { id: 'n', name: 'North yard', rank: 0 },
        { id: 'm', name: 'Mill', rank: 1 },
      ],
      links: [
        { id: '1', from: 'A', to: 'B' },
        { id: '2', from: 'B', to: 'C' },
        { id: '3', from: 'A', to: 'C' },
        { id: '4', from: 'C', to: 'D' },
      ],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('D', 'finish', '5 Mar 26');
  // A to C says nothing new: A to B to C asks for more.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('redundant');
  await page.getByRole('button', { name: /^Redundant links/ }).click();
  await until(
    'one of four',
    () => page.locator('.task').innerText(),
    (t) => t.includes('1 of 4 links say nothing new') && t.includes('200 to') && t.includes('the finish holds'),
  );
  await page.getByRole('button', { name: 'Take 1 out' }).click();
  await expectCounts(page, '3 links');
  await plan.expect('D', 'finish', '5 Mar 26');
  // The links of three activities in one list: all but one get a lag and another type.
  await plan.cell('A', 'code').click();
  for (const name of ['B', 'C']) await plan.cell(name, 'code').click({ modifiers: ['Control'] });
  const many = page.locator('.many-links');
  await until(
    'three links in a list',
    () => many.innerText(),
    (t) => t.includes('3 of 3 chosen') && /200\s*to\s*201/.test(t),
  );
  await many.getByLabel('Choose the link 202 to 203').uncheck();
  await many.getByLabel('Lag of the chosen').fill('2d');
  await page.keyboard.press('Enter');
  // Two lags of two days: B on 5, C on 10, D on 11 March.
  await plan.expect('D', 'finish', '11 Mar 26');
  await many.getByLabel('Type of the chosen').selectOption('SS');
  await plan.expect('C', 'predecessors', '201SS+2d');
  await many.getByRole('button', { name: 'Delete' }).click();
  await expectCounts(page, '1 links'.replace('1 links', (await counts(page)).includes('1 link') ? '1 link' : '1 links'));
  await plan.cell('A', 'code').click();
  await undoAll(page, 3);
  await plan.expect('D', 'finish', '5 Mar 26');
  // Numbers with a prefix for each branch; what is typed in links follows.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('renumber');
  await page.getByRole('button', { name: /^Number the activities anew/ }).click();
  await page.getByLabel('First number').fill('10');
  await page.getByLabel('Step').fill('10');
  await page.getByRole('button', { name: 'Take first letters' }).click();
  await page.getByText('begins anew').click();
  await until(
    'examples',
    () => page.locator('.task .verdict').innerText(),
    (t) => t.includes('200 becomes NY10, 201 becomes NY20, 202 becomes M10'),
  );
  await page.getByRole('button', { name: 'Number them' }).click();
  await plan.expect('C', 'predecessors', 'NY20');
  await page.keyboard.press('Control+z');
  await plan.expect('C', 'predecessors', '201');
  // A date is a place to go to.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('12 aug 2027');
  await page.getByRole('button', { name: /Go to 12 Aug 27/ }).click();
  await until(
    'August on the ruler',
    () => page.locator('.ruler').first().textContent(),
    (t) => /August 2027/.test(t ?? ''),
  );
});

journey('eighty activities on three levels of WBS with all their logic, from an empty project by keyboard only', async (w) => {
  const id = await w.importFile(planText({ code: 'KEY', name: 'By keyboard', activities: [] }));
  const page = await w.window();
  // No pointer is used: whatever hears of one tells.
  await page.addInitScript(() => {
    for (const type of ['pointerdown', 'mousedown', 'click'])
      window.addEventListener(type, (e) => e.isTrusted && (e as MouseEvent).detail > 0 && console.error('a pointer was used'), true);
  });
  await page.goto(`${w.url}/p/${id}/plan`);
  const plan = new PlanScreen(page);
  await page.locator('.plan-empty').waitFor();
  await page.locator('.plan-grid').focus();
  const press = async (key: string, times = 1): Promise<void> => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  const typed = async (text: string, then: string): Promise<void> => {
    await page.locator('.cell-input').waitFor();
    await page.keyboard.type(text);
    await page.keyboard.press(then);
  };
  /** A node: beside the one of the cursor, or inside it. */
  const node = async (name: string, inside: boolean): Promise<void> => {
    await press(inside ? 'Control+Shift+Enter' : 'Control+Enter');
    await typed(name, 'Enter');
  };
  let floors = 0;
  for (let a = 1; a <= 4; a++) {
    // From the last activity of an area up to its row.
    if (a > 1) await press('ArrowUp', 26);
    await node(`Area ${a}`, false);
    await press('Escape');
    for (let b = 1; b <= 2; b++) {
      if (b > 1) await press('ArrowUp', 12);
      await node(`Block ${a}.${b}`, b === 1);
      await press('Escape');
      for (let f = 1; f <= 2; f++) {
        if (f > 1) await press('ArrowUp', 5);
        await node(`Floor ${a}.${b}.${f}`, f === 1);
        // A name, Tab, its duration; Enter twice begins the next.
        for (let n = 1; n <= 5; n++) {
          if (n > 1) await press('Enter');
          await typed(`Work ${a}.${b}.${f}.${n}`, 'Tab');
          await typed(`${n}d`, 'Enter');
        }
        await press('ArrowUp', 4);
        await press('Shift+ArrowDown', 4);
        await press('Alt+l');
        if (floors > 0) {
          // The floor before releases the first of this one: its number is typed under Predecessors.
          await press('ArrowUp', 4);
          await press('ArrowRight', 5);
          await page.keyboard.type(String(100 + floors * 5));
          await press('Enter');
          await press('ArrowLeft', 5);
          await press('ArrowDown', 3);
        }
        floors++;
      }
    }
  }
  await expectCounts(page, '80 activities · 79 links');
  // 16 floors of 1 + 2 + 3 + 4 + 5 days are 240 working days, 48 weeks: to Friday 29 January 2027, all of it on the longest path.
  await until(
    'the finish',
    () => plan.figure('forecast finish'),
    (t) => t === 'Fri 29 Jan 2027',
  );
  await until(
    'the path',
    () => page.locator('.ribbon-words').innerText(),
    (t) => t.includes('80 activities'),
  );
  await press('Control+Home');
  await press('Alt+2');
  await expectOutline(page, 'three levels', [
    ...[1, 2, 3, 4].flatMap((a) => [`Area ${a}`, ...[1, 2].flatMap((b) => [`.Block ${a}.${b}`, ...[1, 2].map((f) => `..Floor ${a}.${b}.${f}`)])]),
  ]);
  await plan.expect('Floor 2.1.2', 'duration', '15d');
  await plan.saved();
});
