/** Code sets and own fields: made in the Library, given in cells, over many rows and in the inspector, printed, changed and deleted. */
import { equal, journey, PlanScreen, until } from './harness.ts';
import { expectCounts, FLOOR } from './screens.ts';

journey('a code set and a field are made, given in many ways, printed and changed; a value in use goes only with another in its place', async (w) => {
  const id = await w.importFile(FLOOR.replace('"FLR"', '"COD"'));
  const page = await w.window({ width: 1600, height: 900 });
  // Few columns beside those that are made here.
  await page.addInitScript((key) => localStorage.getItem(key) ?? localStorage.setItem(key, '{"columns":["code","name","duration","start"]}'), `yellowhammer.view.${id}`);
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/library`);
  await page.getByLabel('Name of the new one').fill('Trade');
  await page.getByRole('button', { name: 'New code set' }).click();
  const short = page.getByLabel('Short name of a new value');
  for (const v of ['Mason', 'Roofer']) {
    await short.fill(v);
    await page.keyboard.press('Enter');
    await page.getByLabel(`Short name of ${v}`).waitFor();
  }
  await short.fill('mason');
  await page.keyboard.press('Enter');
  await page.getByText('Trade has a value Mason already', { exact: false }).waitFor();
  await page.getByLabel('Name of Mason', { exact: true }).fill('Stone and lime');
  await page.keyboard.press('Enter');
  await page.getByLabel('Colour of Mason').selectOption('clay');
  await page.getByLabel('Name of the new one').fill('Lift');
  await page.getByRole('button', { name: 'New field' }).click();
  await page.getByLabel('Kind').selectOption('number');
  await page.getByLabel('Unit').fill('t');
  await page.keyboard.press('Enter');
  await page.getByText('No activity has a value of it yet', { exact: false }).waitFor();

  // In the sheet they are columns like any other.
  await page.getByRole('link', { name: 'Plan' }).click();
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  await page.getByRole('checkbox', { name: 'Trade' }).check();
  await page.getByRole('checkbox', { name: 'Lift' }).check();
  await page.keyboard.press('Escape');
  const columns = await page.locator('.head-cell').evaluateAll((all) => Object.fromEntries(all.map((e) => [e.textContent?.trim() ?? '', e.getAttribute('data-column') ?? ''])));
  const [trade, lift] = [columns['Trade'] ?? '', columns['Lift'] ?? ''];
  await plan.cell('Strip level 1', trade).dblclick();
  await page.locator('.cell-input').fill('stone and lime');
  await page.keyboard.press('Enter');
  await plan.expect('Strip level 1', trade, 'Mason');
  // Filled down, then a value that is not there: said before it is made.
  await plan.cell('Strip level 1', trade).click();
  await plan.cell('Paint level 1', trade).click({ modifiers: ['Shift'] });
  await page.keyboard.press('Control+d');
  await plan.expect('Paint level 1', trade, 'Mason');
  await plan.cell('Paint level 1', trade).dblclick();
  await page.locator('.cell-input').fill('Painter');
  await page.keyboard.press('Enter');
  await page.getByText('Trade has no value Painter', { exact: false }).waitFor();
  await page.getByRole('button', { name: 'Make Painter a value of Trade' }).click();
  await plan.expect('Paint level 1', trade, 'Painter');
  // A number with its unit; a wrong one says why.
  await plan.cell('Strip level 1', lift).dblclick();
  await page.locator('.cell-input').fill('heavy');
  await page.keyboard.press('Enter');
  await page.getByText('heavy cannot be read as a number', { exact: false }).waitFor();
  await page.locator('.cell-input').fill('2.5t');
  await page.keyboard.press('Enter');
  await plan.expect('Strip level 1', lift, '2.5 t');
  // Over a mixed selection in the inspector: one act.
  await plan.cell('Strip level 1', 'code').click();
  await plan.cell('Handover', 'code').click({ modifiers: ['Shift'] });
  const field = page.locator('.inspector').getByLabel('Trade', { exact: true });
  await until(
    'the trade of several',
    () => field.getAttribute('placeholder'),
    (t) => t === 'mixed',
  );
  await field.click();
  await page.getByRole('option', { name: 'Roofer' }).click();
  await plan.expect('Handover', trade, 'Roofer');
  await page.locator('.plan-grid').focus();
  await page.keyboard.press('Control+z');
  await plan.expect('Handover', trade, '');
  await plan.expect('Paint level 1', trade, 'Painter');
  await plan.saved();
  // Another sees them; after a reload they are there.
  const other = await w.window({ width: 1600 });
  await other.goto(`${w.url}/p/${id}/library`);
  await other
    .getByRole('navigation', { name: 'Library' })
    .getByRole('button', { name: /^Trade/ })
    .click();
  await until(
    'uses by value',
    () => other.locator('.code-values tbody td.right').allInnerTexts(),
    (t) => t.join() === '2,0,1',
  );
  // A value that is in use goes only with another in its place.
  await other.getByLabel('Delete Mason').click();
  await other.getByLabel('What they get in its place').selectOption({ label: 'Roofer' });
  await other.getByRole('button', { name: 'Delete Mason' }).last().click();
  await plan.expect('Strip level 1', trade, 'Roofer');
  await page.reload();
  await plan.expect('Plaster level 1', trade, 'Roofer');
  // On paper: the column is offered, and in the CSV.
  const csv = await (await fetch(`${w.url}/api/projects/${id}/report.csv?columns=${encodeURIComponent(`code,${trade},${lift}`)}`)).text();
  equal(
    csv
      .replace(/^\uFEFF/, '')
      .trim()
      .split(/\r?\n/),
    ['No.,Trade,Lift', '100,,', '1,mixed,2.5 t', '110,Roofer,2.5 t', '120,Roofer,', '130,Painter,', '140,,'],
    'the CSV of the report',
  );
  // Another kind would lose the value that is no date: asked, left, then agreed to.
  await other.getByRole('navigation', { name: 'Library' }).getByRole('button', { name: /^Lift/ }).click();
  await other.getByLabel('Kind').selectOption('yesNo');
  await other.getByText('would lose what it has in Lift', { exact: false }).waitFor();
  await other.getByRole('button', { name: 'Leave it as it is' }).click();
  await plan.expect('Strip level 1', lift, '2.5 t');
  await other.getByLabel('Kind').selectOption('yesNo');
  await other.getByRole('button', { name: 'Change it and drop them' }).click();
  await plan.expect('Strip level 1', lift, '');
  // The set goes with its column; undone, all is there again.
  await other
    .getByRole('navigation', { name: 'Library' })
    .getByRole('button', { name: /^Trade/ })
    .click();
  await other.getByRole('button', { name: 'Delete the set' }).click();
  await until(
    'its column is gone',
    () => page.locator(`.head-cell[data-column="${trade}"]`).count(),
    (n) => n === 0,
  );
  await other.keyboard.press('Control+z');
  await other
    .getByRole('navigation', { name: 'Library' })
    .getByRole('button', { name: /^Trade/ })
    .click();
  await until(
    'uses again',
    () => other.locator('.code-values tbody td.right').allInnerTexts(),
    (t) => t.join() === '2,1',
  );
  await expectCounts(page, '5 activities');
});
