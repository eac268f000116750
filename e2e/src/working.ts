/** Working on a network: dragging with its question, history, rows that move, links of many, and all of it by keyboard. */
import { equal, journey, PlanScreen, planText, until } from './harness.ts';
import { boxOf, expectCounts, expectOutline, FLOOR, undoAll } from './screens.ts';

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
  // The dates come a moment after the link: the next drag begins where the bar is then.
  await plan.expect('Pour', 'start', '6 Mar 26');
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
  await page.getByRole('button', { name: 'List and change their links' }).click();
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
  await expectCounts(page, ' 1 link');
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
