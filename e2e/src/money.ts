/** Money: costs by typing and by drop, a rate that rises, grants against costs with the worst month, moved over a year's end, the same by account and by code. */
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { equal, journey, planText, PlanScreen, until, type World } from './harness.ts';

/** A vault over the turn of the year by two masons, whose wages rise; a roof; a grant at the end of each. */
const VAULT = JSON.stringify({
  ...(JSON.parse(
    planText({
      code: 'VLT',
      name: 'Vault',
      project: { plannedStart: '2026-12-30T08:00', currency: 'crowns' },
      activities: [
        { id: 'a', code: '10', name: 'Turn the vault', duration: 1920, rank: 0, basis: 'fixedDuration' },
        { id: 'b', code: '20', name: 'Cover the roof', duration: 960, rank: 1 },
        { id: 'm', code: '30', name: 'Handed over', type: 'finishMilestone', duration: 0, rank: 2 },
      ],
      links: [
        { id: 'l1', from: 'a', to: 'b' },
        { id: 'l2', from: 'b', to: 'm' },
      ],
    }),
  ) as object),
  accounts: [
    { id: 'w', code: '1', name: 'Works' },
    { id: 's', code: '11', name: 'Stone', parentId: 'w' },
    { id: 'g', code: '9', name: 'Grants' },
  ],
  resources: [
    {
      id: 'ana',
      name: 'Vault masons',
      kind: 'labour',
      accountId: 'w',
      availability: [{ from: '2026-01-01', units: 2 }],
      rates: [
        { from: '2026-01-01', perHour: 30 },
        { from: '2027-01-01', perHour: 36 },
      ],
    },
  ],
  assignments: [{ id: 'x', activityId: 'a', resourceId: 'ana', units: 2, work: 1920 * 2000 }],
  expenses: [
    { id: 'e1', activityId: 'a', name: 'First grant', accountId: 'g', budget: 500, income: true, when: 'start' },
    { id: 'e2', activityId: 'm', name: 'Second grant', accountId: 'g', budget: 5000, income: true, when: 'date', date: '2027-03-01' },
  ],
});

const cells = (page: Page, name: string): Promise<string[]> =>
  page
    .locator('.money-row')
    .filter({ has: page.locator('.load-name', { hasText: new RegExp(`^${name}$`) }) })
    .locator('.money-cell')
    .allInnerTexts();
const expectCells = (page: Page, name: string, wanted: string[]): Promise<string[]> =>
  until(
    `money of ${name}`,
    () => cells(page, name),
    (t) => JSON.stringify(t) === JSON.stringify(wanted),
  );
async function download(page: Page, name: string): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name, exact: true }).click()]);
  return file.path();
}

journey('money: typed, dropped, over the turn of the year, the worst month, by account and by code alike, moved and undone', async (w: World) => {
  const id = await w.importFile(VAULT);
  const page = await w.window({ width: 1600, height: 900 });
  await page.addInitScript(
    (key) => localStorage.getItem(key) ?? localStorage.setItem(key, '{"columns":["code","name","duration","start","cost","budget","actualCost","income"]}'),
    `yellowhammer.view.${id}`,
  );
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  // Two days of two masons at 30 in December (Wednesday, Thursday), two at 36 in January.
  await plan.expect('Turn the vault', 'cost', '2,112');
  // The whole is typed: the rest is the lump sum. Less than the masons cost is refused, and what was typed stays.
  await plan.type('Turn the vault', 'cost', '2000');
  await page.getByText('costs 2,112 by its assignments and expenses already', { exact: false }).waitFor();
  await page.locator('.cell-input').fill('2512');
  await page.keyboard.press('Enter');
  await plan.expect('Turn the vault', 'cost', '2,512');

  // An account dropped on a row, with an amount.
  await plan.cell('Cover the roof', 'code').click();
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('drop values');
  await page.keyboard.press('Enter');
  await page.getByLabel('Values of').selectOption({ label: 'Cost by account' });
  await page.getByLabel('Amount').fill('1,500.50');
  await page.locator('.value-item', { hasText: '11 Stone' }).dragTo(plan.cell('Cover the roof', 'name'));
  await plan.expect('Cover the roof', 'cost', '1,500.50');
  await page.keyboard.press('Escape');
  await plan.saved();

  // By account and month: December has 960 of wages and half of the lump sum; January the rest and the roof.
  await page.getByRole('link', { name: 'Money' }).click();
  await expectCells(page, 'All', ['1,160', '2,853', '', '']);
  await expectCells(page, '1 Works', ['960', '2,653', '', '']);
  await expectCells(page, '11 Stone', ['', '1,501', '', '']);
  await expectCells(page, 'No account', ['200', '200', '', '']);
  // 1,160 - 500 by the end of December; 2,852.50 more by the end of January, before the second grant comes.
  await page.getByText('The greatest need is at the end of Jan 2027', { exact: false }).waitFor();
  await page.getByText('3,512.50', { exact: true }).first().waitFor();
  // A cell opened up, by keyboard too.
  await page.locator('.money-grid').focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  const side = page.getByLabel('What is chosen');
  await side.getByText('1 Works, Jan 2027', { exact: false }).waitFor();
  await until(
    'what makes it',
    () => side.locator('.money-parts li').allInnerTexts(),
    (t) => t.length === 2 && t[0]!.includes('1,500.50') && t[1]!.includes('1,152'),
  );
  // The same by a field, to the hundredth; the table as a file.
  await page.getByLabel('Lines of the table').selectOption({ label: 'Activity' });
  await expectCells(page, 'All', ['1,160', '2,853', '', '']);
  await expectCells(page, '20 Cover the roof', ['', '1,501', '', '']);
  const csv = readFileSync(await download(page, 'CSV'), 'utf8')
    .trim()
    .split('\r\n');
  equal(csv[csv.length - 1], 'All,1160,2852.5,0,0,4012.5', 'the last line of the file');
  equal(
    readFileSync(await download(page, 'Spreadsheet'))
      .subarray(0, 2)
      .toString(),
    'PK',
    'a spreadsheet',
  );
  await page.getByRole('button', { name: 'Curve', exact: true }).click();
  await page.locator('.recharts-line').first().waitFor();

  // The table of expenses: an actual typed, filled, refused, and taken back.
  await page.getByRole('button', { name: 'Expenses and income' }).click();
  const stone = page.locator('.expense-row', { hasText: '20 Cover the roof' });
  await stone.locator('[data-column=actual]').dblclick();
  await page.locator('.expense-cell .cell-input').fill('much');
  await page.keyboard.press('Enter');
  await page.getByText('much cannot be read as an amount', { exact: false }).waitFor();
  await page.locator('.expense-cell .cell-input').fill('1700');
  await page.keyboard.press('Enter');
  await until(
    'the sum of actuals',
    () => page.locator('.expense-sum').first().innerText(),
    (t) => /1,500\.50\s+0\s+1,700/.test(t),
  );
  await stone.locator('[data-column=when]').click();
  await page.keyboard.type('at start');
  await page.keyboard.press('Enter');
  await until(
    'at start',
    () => stone.locator('[data-column=when]').innerText(),
    (t) => t === 'at start',
  );

  // Over the year's end: all of it lies in January and later, and the list of what moved says what that does to the need.
  await page.getByRole('link', { name: 'Plan' }).click();
  await plan.expect('Cover the roof', 'cost', '1,700');
  await page.waitForTimeout(600);
  await plan.type('Turn the vault', 'start', '4 jan 27');
  // All four days at 36 now, and the lump sum that was typed.
  await plan.expect('Turn the vault', 'cost', '2,704');
  await page.locator('.moved-button').click();
  await page.getByText('The greatest need of money:', { exact: false }).waitFor();
  await page.keyboard.press('Escape');
  // The graph under the plan, of money and of the masons.
  await page.getByRole('button', { name: 'Graph', exact: true }).click();
  await page.getByLabel('What the graph is of').selectOption({ label: 'Money by month, in and out' });
  await page.getByRole('img', { name: 'Money in and out on the time axis' }).waitFor();
  await page.getByLabel('What the graph is of').selectOption({ label: 'Vault masons' });
  await page.getByRole('img', { name: 'Vault masons: demand against what is there' }).waitFor();
  await plan.saved();
  await page.reload();
  await page.getByRole('img', { name: 'Vault masons: demand against what is there' }).waitFor();
  await plan.expect('Turn the vault', 'cost', '2,704');
  await page.locator('.plan-grid').focus();
  await page.keyboard.press('Control+z');
  await plan.expect('Turn the vault', 'cost', '2,512');
});

journey('accounts and a currency are made, an expense follows its rate, an account in use goes only with another in its place', async (w: World) => {
  const id = await w.importFile(VAULT.replace('"VLT"', '"ACC"').replace('"Vault"', '"Accounts"'));
  await w.importFile(VAULT.replace('"VLT"', '"AC2"').replace('"Vault"', '"Other accounts"').replace('"name":"Grants"', '"name":"Grants and gifts"'));
  const page = await w.window({ width: 1600, height: 900 });
  await page.goto(`${w.url}/p/${id}/library`);
  await page.getByRole('button', { name: /^Accounts and currencies/ }).click();
  const main = page.getByRole('main', { name: 'Accounts' });
  await main.getByLabel('Number and name of a new account').fill('12 Lime');
  await page.keyboard.press('Enter');
  await main.getByRole('button', { name: '12 Lime' }).waitFor();
  await main.getByLabel('Number and name of a new account').fill('12 Sand');
  await page.keyboard.press('Enter');
  await main.getByText('There is an account 12 Lime already', { exact: false }).waitFor();
  await page.keyboard.press('Escape');
  // Uniform over projects: the same accounts as in another one, found by their numbers.
  const same = main.getByLabel('The same accounts as in another project');
  await same.focus();
  await same.locator('option', { hasText: 'AC2' }).waitFor({ state: 'attached' });
  await same.selectOption({ label: 'AC2 Other accounts' });
  await main.getByRole('button', { name: '9 Grants and gifts' }).waitFor();
  await main.getByLabel('Name and rate of another currency').fill('florins 7.5');
  await page.keyboard.press('Enter');
  await main.getByLabel('Rate of florins', { exact: true }).waitFor();

  // In the inspector: a cost, then told in florins.
  await page.getByRole('link', { name: 'Plan' }).click();
  const plan = new PlanScreen(page);
  await plan.cell('Cover the roof', 'code').click();
  await page.getByLabel('Account of the new one').selectOption({ label: '12 Lime' });
  await page.getByLabel('Amount').fill('10');
  await page.getByRole('button', { name: 'Add cost', exact: true }).click();
  const other = page.getByLabel('Other currency');
  await other.fill('100 florins');
  await other.press('Enter');
  await until(
    'the budget by its rate',
    () => page.getByLabel('Budget', { exact: true }).inputValue(),
    (t) => t === '750',
  );
  await plan.saved();
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('button', { name: /^Accounts and currencies/ }).click();
  await main.getByLabel('Rate of florins', { exact: true }).fill('8');
  await page.keyboard.press('Enter');
  await main.getByRole('button', { name: '12 Lime' }).click();
  await main.getByRole('button', { name: 'Delete the account' }).click();
  await main.getByLabel('Booked to in its place').selectOption({ label: '1 Works' });
  await until(
    'the account is gone',
    () => main.getByRole('button', { name: '12 Lime' }).count(),
    (n) => n === 0,
  );
  await page.getByRole('link', { name: 'Money' }).click();
  await page.getByRole('button', { name: 'Expenses and income' }).click();
  const row = page.locator('.expense-row', { hasText: '20 Cover the roof' });
  equal(await row.locator('[data-column=account]').innerText(), '1 Works', 'booked to the other account');
  equal(await row.locator('[data-column=budget]').innerText(), '800', 'by the new rate');
  // Filled down over the rows of a block, as one act that is taken back as one.
  const rows = page.locator('.expense-row');
  await rows.nth(0).locator('[data-column=committed]').click();
  await page.keyboard.type('25');
  await page.keyboard.press('Enter');
  await rows.nth(0).locator('[data-column=committed]').click();
  await rows
    .nth(2)
    .locator('[data-column=committed]')
    .click({ modifiers: ['Shift'] });
  await page.keyboard.press('Control+d');
  await until(
    'filled',
    () => rows.locator('[data-column=committed]').allInnerTexts(),
    (t) => t.join() === '25,25,25',
  );
  await page.getByRole('button', { name: /^Undo/ }).click();
  await until(
    'taken back',
    () => rows.locator('[data-column=committed]').allInnerTexts(),
    (t) => t.join() === '25,,',
  );
});
