/** Hands: nothing that a person does may damage a plan. Dates are worked by hand on the five-day week from Monday 2 March 2026. */
import { equal, journey, PlanScreen, planText, until } from './harness.ts';
import type { Page } from 'playwright-core';

const towers = (code: string, name: string): string =>
  planText({
    code,
    name,
    activities: [
      { id: 'f', code: '120', name: 'Fence', duration: 480 },
      { id: 's', code: '130', name: 'Strip', duration: 960, wbsId: 'w' },
      { id: 'p', code: '140', name: 'Paint', duration: 480, wbsId: 'w' },
      { id: 't', code: '150', name: 'Tidy', duration: 480, wbsId: 'y' },
    ],
    links: [
      { id: 'l1', from: 'f', to: 's' },
      { id: 'l2', from: 's', to: 'p' },
      { id: 'l3', from: 'p', to: 't' },
    ],
    wbs: [
      { id: 'w', name: 'Tower', rank: 1 },
      { id: 'y', name: 'Yard', rank: 2 },
    ],
  });

const rowsOf = (page: Page): Promise<string[]> =>
  page
    .locator('.sheet .row')
    .evaluateAll((rows) => rows.map((r) => ['code', 'name', 'finish', 'predecessors'].map((c) => r.querySelector(`[data-column=${c}]`)?.textContent?.trim() ?? '').join('|')));
const expectRows = (page: Page, what: string, wanted: string[]): Promise<string[]> =>
  until(
    what,
    () => rowsOf(page),
    (r) => JSON.stringify(r) === JSON.stringify(wanted),
  );
const ORIGINAL = ['120|Fence|2 Mar 26|', '1|Tower|5 Mar 26|', '130|Strip|4 Mar 26|120', '140|Paint|5 Mar 26|130', '2|Yard|6 Mar 26|', '150|Tidy|6 Mar 26|140'];

journey('a branch with logic is copied twice, cut and pasted elsewhere, and all of it undone', async (w) => {
  const id = await w.importFile(towers('CPY', 'Copy here'));
  const page = await w.window({ width: 1500 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await expectRows(page, 'the plan', ORIGINAL);
  await plan.cell('Tower', 'name').click();
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  // Strip follows the fence, which is not copied: asked about, and left.
  await page.getByRole('button', { name: /^Without them/ }).click();
  // The copy begins on Monday by itself: strip two days, paint one.
  const once = [...ORIGINAL.slice(0, 4), '2|Tower|4 Mar 26|', '151|Strip|3 Mar 26|', '152|Paint|4 Mar 26|151', '3|Yard|6 Mar 26|', '150|Tidy|6 Mar 26|140'];
  await expectRows(page, 'one copy', once);
  await plan.cell('Yard', 'name').click();
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Enter');
  await expectRows(page, 'two copies', [...once, '4|Tower|4 Mar 26|', '153|Strip|3 Mar 26|', '154|Paint|4 Mar 26|153']);
  // The second copy is cut and pasted into the yard; its rows and its link move with it.
  await page.locator('.sheet .row').last().locator('[data-column=name]').click();
  await page.keyboard.press('Control+x');
  await until(
    'marked',
    () => page.locator('.row.cut').count(),
    (n) => n === 1,
  );
  await plan.cell('Tidy', 'name').click();
  await page.keyboard.press('Control+v');
  await expectRows(page, 'moved', [...once, '154|Paint|4 Mar 26|153', '4|Tower|3 Mar 26|', '153|Strip|3 Mar 26|']);
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expectRows(page, 'all undone', ORIGINAL);
  await plan.saved();
  await page.reload();
  await expectRows(page, 'after a reload', ORIGINAL);

  // Into another project, in another window of the same browser.
  const other = await w.importFile(planText({ code: 'CPZ', name: 'Copy there', activities: [{ id: 'x', code: '130', name: 'Own', duration: 480 }] }));
  await plan.cell('Tower', 'name').click();
  await page.keyboard.press('Control+c');
  const second = await page.context().newPage();
  await second.setViewportSize({ width: 1500, height: 800 });
  await second.goto(`${w.url}/p/${other}/plan`);
  await new PlanScreen(second).cell('Own', 'name').click();
  await second.keyboard.press('Control+v');
  // 130 is taken there, so the first copy counts on; 140 is free.
  await expectRows(second, 'in the other project', ['130|Own|2 Mar 26|', '1|Tower|4 Mar 26|', '131|Strip|3 Mar 26|', '140|Paint|4 Mar 26|131']);
  await second.keyboard.press('Control+z');
  await expectRows(second, 'undone there', ['130|Own|2 Mar 26|']);
  await expectRows(page, 'untouched here', ORIGINAL);
});

journey('five unsent edits of a closed window arrive once from another, and a clash is shown after a reload', async (w) => {
  const text = planText({
    code: 'UNS',
    name: 'Unsent',
    activities: ['A', 'B', 'C', 'D', 'E'].map((id, i) => ({ id, code: String(10 * (i + 1)), name: `Work ${id}`, duration: 480 })),
  });
  const id = await w.importFile(text);
  const first = await w.window();
  const plan = new PlanScreen(first);
  await first.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Work A', 'duration', '1d');
  await w.stopServer();
  for (const name of ['A', 'B', 'C', 'D', 'E']) await plan.type(`Work ${name}`, 'duration', '3d');
  await until(
    'five wait',
    () => first.locator('.sync').innerText(),
    (t) => t.includes('5 changes wait'),
  );
  // The window is closed while they wait; the browser keeps them.
  const asked = new Promise<string>((resolve) => {
    first.on('dialog', (d) => {
      resolve(d.type());
      void d.accept();
    });
  });
  await first.close({ runBeforeUnload: true });
  equal(await asked, 'beforeunload', 'the browser asks before it closes');
  await until(
    'closed',
    () => Promise.resolve(first.isClosed()),
    (c) => c,
  );
  await w.startServer();
  const second = await first.context().newPage();
  await second.goto(`${w.url}/projects`);
  const log = (): Promise<{ label: string }[]> => w.api<{ label: string }[]>(`/projects/${id}/log`);
  // The list of projects is enough: whichever window is open sends them.
  await until(
    'all five',
    async () => (await log()).length,
    (n) => n === 6,
  );
  await new Promise((r) => setTimeout(r, 1500));
  equal((await log()).length, 6, 'each once');
  await second.goto(`${w.url}/p/${id}/plan`);
  for (const name of ['A', 'E']) await new PlanScreen(second).expect(`Work ${name}`, 'duration', '3d');

  // An edit that waits meets one of another person; the window is reloaded before it is settled.
  await w.stopServer();
  await new PlanScreen(second).type('Work B', 'duration', '5d');
  await until(
    'one waits',
    () => second.locator('.sync').innerText(),
    (t) => t.includes('1 change waits'),
  );
  const waiting = second.url();
  second.on('dialog', (d) => void d.accept());
  await second.close({ runBeforeUnload: true });
  await w.startServer();
  const rival = await w.window();
  await rival.goto(waiting);
  await new PlanScreen(rival).type('Work B', 'duration', '7d');
  await new PlanScreen(rival).saved();
  const third = await first.context().newPage();
  await third.goto(waiting);
  await until(
    'the clash is shown',
    () => third.locator('[role=dialog]').innerText(),
    (t) => t.includes('7d') && t.includes('5d'),
  );
  await third.reload();
  await third.getByRole('button', { name: 'Write mine over it' }).click();
  await new PlanScreen(third).expect('Work B', 'duration', '5d');
  await new PlanScreen(rival).expect('Work B', 'duration', '5d');
});

journey('two status updates all as planned: the finish holds; what is typed, given up, discarded and brought back', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'ASP',
      name: 'As planned',
      calendars: [{ id: 'six', name: 'Six', week: Array.from({ length: 7 }, (_, i) => (i < 6 ? [['07:00', '17:00']] : [])) }],
      activities: [
        { id: 'A', code: '110', name: 'Dig', duration: 2880 },
        { id: 'B', code: '120', name: 'Pour', duration: 3000, calendarId: 'six' },
        { id: 'C', code: '130', name: 'Cure', duration: 960 },
        { id: 'M', code: '140', name: 'Done', type: 'finishMilestone' },
      ],
      links: [
        { id: '1', from: 'A', to: 'B' },
        { id: '2', from: 'B', to: 'C' },
        { id: '3', from: 'C', to: 'M' },
      ],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/update`);
  // Dig six days to Mon 9 Mar; Pour 50 hours of ten a day, Tue 10 to Sat 14 Mar; Cure Mon 16 and Tue 17.
  await plan.expectFigure('forecast finish', 'Tue 17 Mar 2026');
  const date = page.getByRole('textbox', { name: 'New data date' });
  for (const [typed, due] of [
    ['5 mar', 1],
    ['12 mar', 2],
  ] as const) {
    await date.fill(typed);
    await date.press('Enter');
    await until(
      'due rows',
      () => page.locator('[data-due]').count(),
      (n) => n === due,
    );
    await page.getByRole('button', { name: 'Take all as planned' }).click();
    await until(
      'effect',
      () => page.locator('.effect').innerText(),
      (t) => t.includes('Tue 17 Mar 2026') && t.includes('holds'),
    );
    if (due === 2) break;
    await page.getByRole('button', { name: 'Take over' }).click();
    await plan.expectFigure('data date', '5 Mar 2026');
  }
  // Tab takes nothing; typing one cell leaves the proposals of the others.
  await page.getByRole('button', { name: 'Undo entry' }).click();
  const pour = page.locator('[data-due="120"]');
  await pour.getByLabel(/^Started/).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('Tab');
  equal(await page.locator('.work-row.entered').count(), 0, 'Tab takes nothing');
  await pour.getByLabel(/^Remaining/).fill('4d');
  await pour.getByLabel(/^Remaining/).press('Enter');
  equal(await pour.getByLabel(/^Started/).inputValue(), '10 Mar 26', 'the planned start came along');
  equal(
    await page
      .locator('[data-due="110"]')
      .getByLabel(/^Finished/)
      .getAttribute('placeholder'),
    '9 Mar 26',
    'the other row still says what is planned',
  );
  // Escape gives up the one cell; Discard asks, and both can be undone.
  await pour.getByLabel(/^Remaining/).focus();
  await page.keyboard.press('Escape');
  equal(await pour.getByLabel(/^Started/).inputValue(), '10 Mar 26', 'Escape leaves the other cell');
  await page.keyboard.press('Control+z');
  await until(
    'back',
    () => pour.getByLabel(/^Remaining/).inputValue(),
    (v) => v === '4d',
  );
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('button', { name: /^Bring back/ }).click();
  await until(
    'brought back',
    () => pour.getByLabel(/^Remaining/).inputValue(),
    (v) => v === '4d',
  );
  // An earlier data date than the present one is refused at once.
  await date.fill('2 mar');
  await date.press('Enter');
  await until(
    'refused',
    () => page.locator('.update-window').innerText(),
    (t) => t.includes('lies before the present data date'),
  );
  await page.keyboard.press('Escape');
  // Going back twice says that there is nothing to take back.
  for (let i = 0; i < 2; i++) {
    await page.getByRole('button', { name: 'Go back', exact: true }).click();
    await page.getByRole('menuitem', { name: /Before status update 1/ }).click();
    await plan.expectFigure('planned start', '2 Mar 2026');
  }
  await until(
    'nothing to take back',
    () => page.locator('.notice-text').allInnerTexts(),
    (t) => t.some((x) => x.includes('nothing to take back')),
  );
});

journey('cells and keys: dates typed, a value on many rows, a row where it belongs, the sheet follows, the focus stays', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'KEY',
      name: 'Keys',
      activities: ['Dig', 'Pour', 'Strike', 'Clear'].map((name, i) => ({ id: `a${i}`, code: String(110 + 10 * i), name, duration: 960 })),
      links: [{ id: 'l', from: 'a0', to: 'a1' }],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Pour', 'finish', '5 Mar 26');
  await until(
    'the plan has the focus after loading',
    () => page.evaluate(() => document.activeElement?.getAttribute('role')),
    (role) => role === 'treegrid',
  );
  // Start: not before Thursday; emptied again. Finish: the duration that ends there.
  await plan.cell('Strike', 'start').click();
  await page.keyboard.type('5 mar');
  await until(
    'what it will do',
    () => page.locator('.cell-hint').innerText(),
    (t) => t.includes('start not before'),
  );
  await page.keyboard.press('Enter');
  await plan.expect('Strike', 'start', '5 Mar 26');
  await plan.type('Strike', 'finish', '10 mar');
  await plan.expect('Strike', 'duration', '4d');
  await plan.type('Strike', 'start', '');
  await plan.expect('Strike', 'start', '2 Mar 26');
  await plan.expect('Strike', 'finish', '5 Mar 26');
  // One value on scattered rows, chosen by keyboard.
  await page.evaluate(() => navigator.clipboard.writeText('3d'));
  await plan.cell('Dig', 'duration').click();
  await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('Control+ArrowDown');
  await page.keyboard.press('Control+Space');
  await page.keyboard.press('Control+v');
  await plan.expect('Clear', 'duration', '3d');
  await plan.expect('Dig', 'duration', '3d');
  await plan.expect('Pour', 'duration', '2d');
  // Name, Tab, duration, Enter, Enter: the next row stands right below.
  await plan.cell('Dig', 'name').click();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Line');
  await page.keyboard.press('Tab');
  await page.keyboard.type('1d');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Blind\n');
  await page.keyboard.press('Escape');
  await until(
    'order',
    () => page.locator('.sheet .row [data-column=name]').allInnerTexts(),
    (t) => t.join() === 'Dig,Line,Blind,Pour,Strike,Clear',
  );
  await plan.expect('Line', 'code', '141');
  // The sheet follows the cursor to columns that are out of view.
  await plan.cell('Dig', 'name').click();
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight');
  const inView = (): Promise<boolean> =>
    page.locator('.cell.active').evaluate((el) => {
      const [cell, sheet] = [el.getBoundingClientRect(), (el.closest('.sheet') as HTMLElement).getBoundingClientRect()];
      return cell.left >= sheet.left - 1 && cell.right <= sheet.right + 1;
    });
  await until('the cell is in view', inView, (v) => v);
  // Done 0 on started work asks.
  await page.goto(`${w.url}/p/${id}/update`);
  const date = page.getByRole('textbox', { name: 'New data date' });
  await date.fill('4 mar');
  await date.press('Enter');
  await page.getByRole('button', { name: 'Take all as planned' }).click();
  await page.getByRole('button', { name: 'Take over' }).click();
  await plan.expectFigure('data date', '4 Mar 2026');
  await page.getByRole('link', { name: 'Plan' }).click();
  await plan.cell('Dig', 'name').click();
  await page.getByRole('textbox', { name: 'Done' }).scrollIntoViewIfNeeded();
  await plan.type('Dig', 'percent', '0');
  await page.getByRole('button', { name: 'Started, and all of it remains' }).click();
  await plan.expect('Dig', 'percent', '0%');
  await plan.cell('Dig', 'name').click();
  equal(await page.getByRole('textbox', { name: 'Actual start' }).inputValue(), '2 Mar 26, 08:00', 'the actual start stands');
  // A link deleted in the inspector leaves the focus in the plan, not on the page.
  await plan.cell('Pour', 'name').click();
  await page.getByRole('button', { name: /^Delete the link with 110/ }).click();
  await until(
    'focus',
    () => page.evaluate(() => document.activeElement?.getAttribute('role') ?? document.activeElement?.tagName ?? ''),
    (r) => r === 'treegrid',
  );
});

journey('a pinned bar that is dragged stays pinned; the left end stretches; a drag that logic makes useless leaves no constraint', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'DRG',
      name: 'Drags',
      activities: [
        { id: 'a', code: '110', name: 'Dig', duration: 2400 },
        { id: 'b', code: '120', name: 'Pour', duration: 960 },
        { id: 'c', code: '130', name: 'Pinned', duration: 960, constraints: [{ kind: 'pinnedStart', date: '2026-03-04' }] },
      ],
      links: [{ id: 'l', from: 'a', to: 'b' }],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Pour', 'finish', '10 Mar 26');
  const bar = async (row: string): Promise<{ x: number; y: number; width: number }> => {
    const box = await page.locator(`[data-activity="${row}"] [data-part=body]`).first().boundingBox();
    if (!box) throw new Error(`no bar of ${row}`);
    return { x: box.x, y: box.y + box.height / 2, width: box.width };
  };
  const perDay = (await bar('a')).width / 4.375;
  const drag = async (row: string, at: 'middle' | 'left', days: number, tip: RegExp): Promise<void> => {
    const b = await bar(row);
    const x = at === 'left' ? b.x + 2 : b.x + b.width / 2;
    await page.mouse.move(x, b.y);
    await page.mouse.down();
    await page.mouse.move(x + (days * perDay) / 2, b.y, { steps: 3 });
    await page.mouse.move(x + days * perDay, b.y, { steps: 3 });
    await until(
      'the tip',
      () => page.locator('.drag-tip').innerText(),
      (t) => tip.test(t),
    );
    await page.mouse.up();
  };
  const constraint = async (name: string): Promise<string> => {
    await plan.cell(name, 'name').click();
    return page.getByRole('textbox', { name: 'Constraint' }).inputValue();
  };
  await drag('c', 'middle', 1, /moves the constraint pinned start/);
  await until(
    'the pin',
    () => constraint('Pinned'),
    (t) => t === 'pinned start 5 Mar 26',
  );
  // Pour follows Dig: on the weekend before Monday 9 March it is where it was, and nothing is to be asked.
  await drag('b', 'middle', -2, /logic holds it here/);
  const question = page.getByRole('dialog', { name: 'What moving 120 Pour means' });
  equal(await question.count(), 0, 'no question');
  equal(await constraint('Pour'), '', 'no useless constraint');
  // A Saturday is no day of work: the tip and the date say Monday.
  await drag('b', 'middle', 5, /16 Mar 26 to/);
  await question.getByRole('button', { name: /^Not before that date/ }).click();
  await until(
    'moved',
    () => constraint('Pour'),
    (t) => t === 'start not before 16 Mar 26',
  );
  await page.keyboard.press('Control+z');
  await plan.expect('Pour', 'start', '9 Mar 26');
  await drag('a', 'left', 2, /Duration 3d/);
  await plan.expect('Dig', 'start', '4 Mar 26');
  await plan.expect('Dig', 'finish', '6 Mar 26');
});
