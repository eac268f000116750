/** Seeing the plan: groups, filters, saved views, computed fields, looks, network and month, in the real browser. */
import { equal, journey, PlanScreen, until } from './harness.ts';
import { FLOOR } from './screens.ts';

const SITE = FLOOR.replace('"FLR"', '"SEE"').replace(
  '"links"',
  `"codeSets":[
    {"id":"area","rank":0,"name":"Area","about":"","values":[
      {"id":"w","parentId":null,"short":"West","name":"","colour":"#2f6f83","about":""},
      {"id":"q","parentId":"w","short":"Quay","name":"","colour":null,"about":""},
      {"id":"e","parentId":null,"short":"East","name":"","colour":"#a8653f","about":""}]},
    {"id":"trade","rank":1,"name":"Guild","about":"","values":[
      {"id":"p","parentId":null,"short":"Glazier","name":"","colour":"#6d4a7a","about":""},
      {"id":"m","parentId":null,"short":"Thatcher","name":"","colour":"#6b7a3a","about":""}]}],"links"`,
);

journey('two code sets given in six ways, grouped, saved, printed; a second project has them a little otherwise and is made alike', async (w) => {
  const id = await w.importFile(SITE);
  const other = await w.importFile(SITE.replace('"SEE"', '"TWO"').replace('"Guild"', '"Guilds"').replace('"Thatcher"', '"Thatchers"'));
  const page = await w.window({ width: 1500, height: 900 });
  await page.addInitScript(
    (key) => localStorage.getItem(key) ?? localStorage.setItem(key, '{"columns":["code","name","duration","start","finish","code:area","code:trade"],"sheetWidth":720}'),
    `yellowhammer.view.${id}`,
  );
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  // Typed in a cell, and filled down.
  await plan.cell('Strip level 1', 'code:area').dblclick();
  await page.locator('.cell-input').fill('Quay');
  await page.keyboard.press('Enter');
  await plan.cell('Strip level 1', 'code:area').click();
  await plan.cell('Plaster level 1', 'code:area').click({ modifiers: ['Shift'] });
  await page.keyboard.press('Control+d');
  await plan.expect('Plaster level 1', 'code:area', 'Quay');
  // In the inspector, for several.
  await plan.cell('Paint level 1', 'code').click();
  await plan.cell('Handover', 'code').click({ modifiers: ['Control'] });
  const area = page.locator('.inspector').getByLabel('Area', { exact: true });
  await area.click();
  await page.getByRole('option', { name: 'East' }).click();
  await plan.expect('Handover', 'code:area', 'East');
  // Stamped with the keyboard: S takes the value under the cursor along, Space gives it.
  await plan.cell('Paint level 1', 'code:trade').click();
  await page.keyboard.press('Alt+s');
  await page.getByLabel('Field to stamp').selectOption({ label: 'Guild' });
  await page.getByLabel('Value to stamp').selectOption({ label: 'Glazier' });
  await plan.cell('Paint level 1', 'name').click();
  await plan.expect('Paint level 1', 'code:trade', 'Glazier');
  await page.keyboard.press('Escape');
  // Dropped from the list that stands open beside the sheet.
  await page.keyboard.press('Alt+k');
  await page.getByLabel('Values of').selectOption({ label: 'Guild' });
  await page.locator('.value-item', { hasText: 'Thatcher' }).dragTo(plan.cell('Strip level 1', 'name'));
  await plan.expect('Strip level 1', 'code:trade', 'Thatcher');
  await page.getByRole('button', { name: 'Close (Escape)' }).click();
  // By a rule: all whose names hold "plaster".
  await page.keyboard.press('Alt+b');
  await page.getByLabel('Value', { exact: true }).fill('plaster');
  await page.getByRole('button', { name: 'Rows shown: 1 of 5' }).waitFor();
  await page.getByLabel('Field to give').selectOption({ label: 'Guild' });
  await page.getByLabel('Value to give').selectOption({ label: 'Thatcher' });
  await page.getByRole('button', { name: 'Give it' }).click();
  await plan.expect('Plaster level 1', 'code:trade', 'Thatcher');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Alt+a');
  await page.getByRole('button', { name: 'Rows shown: all 5 activities' }).waitFor();

  // Grouped by area, then trade; headings count and sum up; kept for everybody.
  await page.keyboard.press('Alt+o');
  await page.getByLabel('Another level').selectOption({ label: 'Area' });
  await page.getByLabel('Another level').selectOption({ label: 'Guild' });
  await page.keyboard.press('Escape');
  const rows = (): Promise<string> => page.locator('.sheet .row').evaluateAll((all) => all.map((r) => r.querySelector('.cell.name')?.textContent?.trim() ?? '').join(' | '));
  await until(
    'grouped rows',
    rows,
    (t) => t === 'West2 | Quay2 | Thatcher2 | Strip level 1 | Plaster level 1 | East2 | Glazier1 | Paint level 1 | No guild1 | Handover | No area1 | No guild1 | Release',
  );
  // 2 to 6 March: two days of stripping from the 2nd, plaster a day later for three; four working days from the first to the last.
  const head = page.locator('.sheet .row.group').filter({ hasText: 'West' });
  equal(
    [
      (await head.locator('[data-column=start]').innerText()).trim(),
      (await head.locator('[data-column=finish]').innerText()).trim(),
      (await head.locator('[data-column=duration]').innerText()).trim(),
    ].join(),
    '2 Mar 26,5 Mar 26,4d',
    'what rolls up to West',
  );
  // A row dragged under another heading gets what it stands for, as one act that is undone as one.
  const grip = plan.cell('Paint level 1', 'code');
  const from = await grip.boundingBox();
  const to = await plan.cell('Plaster level 1', 'name').boundingBox();
  if (!from || !to) throw new Error('rows without a place');
  await grip.click();
  await page.mouse.move(from.x + 10, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(from.x + 10, to.y + to.height - 4, { steps: 6 });
  await page.getByText('1 row under Thatcher').waitFor();
  await page.mouse.up();
  await plan.expect('Paint level 1', 'code:trade', 'Thatcher');
  await plan.expect('Paint level 1', 'code:area', 'Quay');
  await page.keyboard.press('Control+z');
  await plan.expect('Paint level 1', 'code:trade', 'Glazier');
  await plan.expect('Paint level 1', 'code:area', 'East');
  await page.getByRole('button', { name: /^Colours:/ }).click();
  await page.getByLabel('Coloured by').selectOption({ label: 'Guild' });
  await page.getByText('Legend on the picture').click();
  await page.keyboard.press('Escape');
  await until(
    'legend',
    () => page.locator('.legend').innerText(),
    (t) => t.includes('Glazier') && t.includes('Thatcher'),
  );
  await page.getByRole('button', { name: /^View/ }).click();
  await page.getByLabel('Name of a new view').fill('Areas and guilds');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.getByRole('button', { name: 'View: Areas and guilds', exact: true }).waitFor();
  await page.keyboard.press('Escape');
  await plan.saved();
  // One key goes on to the next view and back; a change is told and put back.
  await page.locator('.plan-grid').focus();
  await page.keyboard.press('Alt+Shift+v');
  await page.getByRole('button', { name: 'View: Milestones only' }).waitFor();
  await until('milestones', rows, (t) => !t.includes('Strip') && t.includes('Handover'));
  await page.keyboard.press('Alt+v');
  await page.getByRole('button', { name: 'View: Areas and guilds', exact: true }).waitFor();
  await page.getByRole('button', { name: /^Groups:/ }).click();
  await page.getByLabel('Take level 2 away').click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'View, changed: Areas and guilds' }).waitFor();
  await page.getByRole('button', { name: 'put back' }).click();
  await page.getByRole('button', { name: 'View: Areas and guilds', exact: true }).waitFor();
  // After a reload it is seen as before.
  await page.reload();
  await until('grouped after reload', rows, (t) => t.startsWith('West2 | Quay2 | Thatcher2 | Strip'));
  // On paper: the same groups, colours and legend.
  await page.getByRole('link', { name: 'Report' }).click();
  await page.getByLabel('Seen as').first().click();
  await page.getByRole('option', { name: 'Areas and guilds' }).click();
  await until(
    'the view on paper',
    () => page.locator('.sheet-of-paper').first().textContent(),
    (t) => ['West', 'Quay', 'Thatcher', 'Glazier', 'No guild'].every((x) => (t ?? '').includes(x)),
  );
  if ((await page.locator('.sheet-of-paper [fill="#6d4a7a"], .sheet-of-paper [fill="#a792af"]').count()) === 0) throw new Error('no bar in the colour of the glaziers on paper');

  // The other project calls them a little otherwise: told, and made one.
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('button', { name: 'Alike but different' }).click();
  await page.getByRole('heading', { name: 'Code set: Guild, Guilds' }).waitFor();
  const finding = page.locator('.alike').filter({ hasText: 'Code set: Guild, Guilds' });
  equal((await finding.locator('p').first().innerText()).includes('Thatcher and Thatchers'), true, 'how they differ');
  await finding.getByLabel('Keep it as in SEE').check();
  await finding.getByRole('button', { name: /what would it do/ }).click();
  await finding.getByText('TWO: Make code set Guilds like Guild').waitFor();
  await finding.getByRole('button', { name: 'Make them one' }).click();
  await finding.waitFor({ state: 'detached' });
  await page.goto(`${w.url}/p/${other}/library`);
  await page.getByRole('button', { name: 'Guild 2' }).click();
  await page.getByLabel('Short name of Thatcher', { exact: true }).waitFor();
});

journey('a computed field says in words what is over budget and colours its bar; a filter with dates that move answers anew after an update', async (w) => {
  const id = await w.importFile(SITE.replace('"SEE"', '"WORDS"').replace('"duration":960', '"cost":1200,"duration":960').replace('"duration":1440', '"cost":800,"duration":1440'));
  const page = await w.window({ width: 1500, height: 900 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/library`);
  await page.getByLabel('Name of the new one').fill('Allowance');
  await page.getByRole('button', { name: 'New field', exact: true }).click();
  await page.getByLabel('Kind').selectOption('money');
  await page.getByLabel('New activities have').fill('1000');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Give it to the 5 activities/ }).click();
  await page.getByLabel('Name of the new one').fill('In words');
  await page.getByRole('button', { name: 'New computed field' }).click();
  const text = page.locator('.expression textarea');
  await text.fill('if(cost > allo');
  await page.keyboard.press('Tab');
  await until(
    'completed',
    () => text.inputValue(),
    (t) => t === 'if(cost > allowance',
  );
  await text.fill('if(cost * allowance > 1, "x", "y")');
  await page.getByText('money cannot be multiplied by money.').waitFor();
  await text.fill('if(cost > allowance, join("over by ", round(cost / allowance * 100 - 100), "%"), "within")');
  await page.getByText('110 Strip level 1: over by 20%', { exact: false }).waitFor();
  await page.keyboard.press('Control+Enter');
  await page.getByLabel('Name of the new one').fill('Over');
  await page.getByRole('button', { name: 'New look' }).click();
  await page.getByRole('button', { name: 'Add a rule' }).click();
  await page
    .locator('.look-edit label')
    .filter({ has: page.locator('span', { hasText: /^Colour$/ }) })
    .locator('select')
    .selectOption({ label: 'plum' });
  await page.getByLabel('Field', { exact: true }).selectOption({ label: 'In words' });
  await page.getByLabel('Comparison').selectOption({ label: 'starts with' });
  await page.getByLabel('Value', { exact: true }).fill('over');
  await page.getByText('In words starts with over · 1 row').waitFor();
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  await page.getByLabel('Find a column').fill('words');
  await page.getByRole('checkbox', { name: 'In words' }).check();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Colours:/ }).click();
  await page
    .locator('.strip-drop')
    .getByLabel(/^Bar look/)
    .selectOption({ label: 'Over' });
  await page.keyboard.press('Escape');
  const painted = (): Promise<number> => page.locator('.tl-bar rect[style*="rgb(109, 74, 122)"]').count();
  await until('one bar in plum', painted, (n) => n === 1);
  // It follows an edit: with the cost of plaster raised, two are over.
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  await page.getByLabel('Find a column').fill('cost');
  await page.getByRole('checkbox', { name: 'Cost', exact: true }).check();
  await page.keyboard.press('Escape');
  await plan.type('Plaster level 1', 'cost', '1100');
  await until('two bars in plum', painted, (n) => n === 2);
  await page.keyboard.press('Control+z');
  await until('one again', painted, (n) => n === 1);

  // Finish at most a day after the data date: nothing before there is one; then by the update.
  await page.locator('.plan-grid').focus();
  await page.keyboard.press('Alt+b');
  await page.getByLabel('Field', { exact: true }).selectOption({ label: 'Finish' });
  await page.getByLabel('Comparison').selectOption({ label: 'is on or before' });
  await page.getByLabel('Value', { exact: true }).fill('data date + 1 nonsense');
  await page.getByText('is no date', { exact: false }).waitFor();
  await page.getByLabel('Value', { exact: true }).fill('data date + 1 day');
  await page.keyboard.press('Escape');
  // Without a data date it counts from today, long after all of it.
  const rows = (): Promise<string> => page.locator('.sheet .row .cell.name').evaluateAll((all) => all.map((r) => r.textContent?.trim() ?? '').join(' | '));
  await until('all rows', rows, (t) => t.includes('Handover') && t.includes('Release'));
  // At 3 March: what is due by the 4th are the release and the stripping; at 4 March the plaster comes in as well (5th).
  const update = async (date: string): Promise<void> => {
    await page.getByRole('link', { name: 'Update' }).click();
    const box = page.getByRole('textbox', { name: 'New data date' });
    await box.fill(date);
    await box.press('Enter');
    await page.locator('[data-due]').first().waitFor();
    await page.getByRole('button', { name: 'Take all as planned' }).click();
    await page.getByRole('button', { name: 'Take over' }).click();
    await until(
      'the data date',
      () => plan.figure('data date'),
      (t) => t.startsWith(date.slice(0, 1)),
    );
    await page.getByRole('link', { name: 'Plan' }).click();
  };
  await update('3 mar 26');
  await until('due by the 4th', rows, (t) => t === 'Release | Level 1 | Strip level 1');
  await update('4 mar 26');
  await until('due by the 5th', rows, (t) => t === 'Release | Level 1 | Strip level 1 | Plaster level 1');
});

journey('network and month: what is linked and moved there is what the timeline shows', async (w) => {
  const id = await w.importFile(SITE.replace('"SEE"', '"NET"'));
  const page = await w.window({ width: 1400, height: 900 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Handover', 'finish', '6 Mar 26');
  await page.getByRole('button', { name: 'Network', exact: true }).click();
  await page.locator('.network-box').nth(4).waitFor();
  equal(await page.locator('.network-box').count(), 5, 'boxes');
  // The keyboard walks along the links from the release to the handover.
  await page.keyboard.press('Home');
  await page.locator('.network-box[data-activity=r]').click();
  const selected = (): Promise<string> => page.locator('.network-box.selected .network-number span').first().innerText();
  for (const next of ['110', '120', '130', '140']) {
    await page.keyboard.press('ArrowRight');
    await until(`box ${next}`, selected, (t) => t === next);
  }
  await page.keyboard.press('ArrowLeft');
  await until('back', selected, (t) => t === '130');
  // Edited in the box.
  await page.keyboard.press('F2');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Paint it all');
  await page.keyboard.press('Tab');
  await page.locator('.network-edit input').fill('3d');
  await page.keyboard.press('Enter');
  await until(
    'the box has it',
    () => page.locator('.network-box[data-activity=c]').textContent(),
    (t) => (t ?? '').includes('Paint it all') && (t ?? '').includes('3d'),
  );
  // Linked by drawing from the edge of one box to another; told by the links of the other.
  const box = async (a: string) => {
    const b = await page.locator(`.network-box[data-activity=${a}] .network-card`).boundingBox();
    if (!b) throw new Error(`no box ${a}`);
    return b;
  };
  const [a, c] = [await box('a'), await box('c')];
  await page.mouse.move(a.x + a.width - 4, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(c.x + 30, c.y + c.height / 2, { steps: 8 });
  await page.mouse.up();
  await until(
    'five links',
    () => page.locator('.network-scale').innerText(),
    (t) => t.includes('5 links'),
  );
  await page.keyboard.press('Control+z');
  await until(
    'four links',
    () => page.locator('.network-scale').innerText(),
    (t) => t.includes('4 links'),
  );
  await page.getByRole('button', { name: 'Timeline', exact: true }).click();
  // Paint of three days from the 6th: 6, 9 and 10 March.
  await plan.expect('Paint it all', 'finish', '10 Mar 26');

  await page.getByRole('button', { name: 'Month', exact: true }).click();
  await page.locator('.month-bar', { hasText: 'Strip level 1' }).first().waitFor();
  // A linked bar moved to another day asks what is meant; the answer is taken over.
  await page.locator('.month-bar', { hasText: 'Paint it all' }).first().click();
  await page.keyboard.press('Alt+ArrowRight');
  await page.keyboard.press('Escape');
  await page.locator('.month-bar', { hasText: 'Paint it all' }).first().click();
  await page.keyboard.press('Alt+ArrowDown');
  await page.getByRole('button', { name: /Not before that date/ }).click();
  await page.getByRole('button', { name: 'Timeline', exact: true }).click();
  await plan.expect('Paint it all', 'start', '13 Mar 26');
  await page.keyboard.press('Control+z');
  await plan.expect('Paint it all', 'start', '6 Mar 26');
});
