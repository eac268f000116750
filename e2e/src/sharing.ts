/** Three projects: two share riggers, one is a what-if. What is shared is changed for all, or only here; accounts and code sets likewise. */
import { equal, journey, planText, until } from './harness.ts';

const days = (n: number): number => n * 480;
const riggers = { id: 'rg', rank: 0, name: 'Skerry riggers', kind: 'labour', availability: [{ from: '2026-01-01', units: 3 }] };
const lift = (code: string, name: string, more: Record<string, unknown>): string =>
  JSON.stringify({
    ...(JSON.parse(planText({ code, name, activities: [{ id: 'a', code: '10', name: `Lift in ${name}`, duration: days(5), rank: 0 }] })) as object),
    resources: [riggers],
    assignments: [{ id: 'x', rank: 0, activityId: 'a', resourceId: 'rg', units: 2, work: days(10) * 1000 }],
    ...more,
  });
const trades = (values: [string, string][]) => ({
  id: 'kind',
  rank: 0,
  name: 'Skerry trades',
  about: '',
  values: values.map(([short, name]) => ({ id: `v ${short}`, short, name })),
});

journey('two projects share riggers, a what-if does not count; a change is for all with its effect shown, or only here', async (w) => {
  const one = await w.importFile(
    lift('SHA', 'Sharing quay', {
      accounts: [{ id: 'k', rank: 0, parentId: null, code: '70', name: 'Skerry lifting' }],
      codeSets: [trades([['RIG', 'Rigging']])],
    }),
  );
  const two = await w.importFile(lift('SHB', 'Sharing pier', {}));
  const three = await w.importFile(lift('SHC', 'Sharing dream', {}));
  const page = await w.window({ width: 1440, height: 900 });
  const library = async (id: string, item: string): Promise<void> => {
    await page.goto(`${w.url}/p/${id}/library`);
    await page.locator('.library-item', { hasText: item }).first().click();
  };
  const main = page.locator('.library-main');

  // Shared by the first; the others put it in the place of their own, and the third becomes a what-if.
  await library(one, 'Skerry riggers');
  await main.getByRole('button', { name: 'Share it with all projects' }).click();
  await main.getByText('Shared; no other project uses it yet.').waitFor();
  for (const id of [two, three]) {
    await library(id, 'Skerry riggers');
    await main.getByRole('button', { name: 'Make it the shared resource of that name' }).click();
    await main.getByText('Shared with SHA').waitFor();
  }
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Find an activity, or something to do').fill('project settings');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'What it is' }).click();
  await page.getByRole('option', { name: 'what-if' }).click();
  await page.keyboard.press('Escape');
  await until(
    'the stage is kept',
    () => w.api<{ document: { project: { stage: string }[] } }>(`/projects/${three}`),
    (r) => r.document.project[0]?.stage === 'whatIf',
  );

  // Alone there is room for two of three; with the other live project one is missing all week, the what-if does not count.
  await page.goto(`${w.url}/p/${one}/load`);
  const row = page.locator('.load-row', { hasText: 'Skerry riggers' });
  await row.locator('.load-cell', { hasText: '2' }).first().click();
  await page.getByText('0 over the limit').waitFor();
  await page.getByRole('button', { name: 'All live ones' }).click();
  await page.getByRole('button', { name: 'with SHB', exact: true }).waitFor();
  await page.getByText('4 of 3,', { exact: false }).first().waitFor();
  await page.getByRole('button', { name: 'Projects', exact: true }).click();
  await page.locator('.load-asks').first().getByText('SHB').waitFor();
  equal(await page.locator('.load-asks').first().locator('li').allInnerTexts(), ['SHA\n80 h', 'SHB\n80 h'], 'who asks, by project');
  // On request it does.
  await page.getByRole('button', { name: 'with SHB', exact: true }).click();
  await page.getByLabel('SHC', { exact: false }).check();
  await page.getByText('6 of 3,', { exact: false }).first().waitFor();
  await page.getByRole('button', { name: 'The live ones again' }).click();
  await page.getByText('4 of 3,', { exact: false }).first().waitFor();
  await page.keyboard.press('Escape');

  // One more rigger for all: told with the overloads of every project before, and then nobody is missing.
  await library(one, 'Skerry riggers');
  await main.getByLabel('How many are there first').fill('1');
  await page.keyboard.press('Enter');
  const asked = page.getByRole('dialog', { name: 'Skerry riggers is shared' });
  // One is too few in each of the three.
  await asked.getByText('Sharing dream').waitFor();
  equal(
    await asked.locator('tbody tr').evaluateAll((rows) => rows.map((r) => `${r.children[0]?.textContent ?? ''} ${r.children[5]?.textContent ?? ''}`)),
    ['SHA Sharing quay none → 1, 40 h', 'SHB Sharing pier none → 1, 40 h', 'SHC Sharing dream none → 1, 40 h'],
    'overloads of each',
  );
  await asked.getByRole('button', { name: 'Cancel' }).click();
  await main.getByLabel('How many are there first').fill('4');
  await page.keyboard.press('Enter');
  await asked.getByRole('button', { name: 'Take over for all' }).click();
  await main.getByText('Put back what').waitFor();
  await page.goto(`${w.url}/p/${two}/load`);
  await page.getByRole('button', { name: 'All live ones' }).click();
  await page.getByText('0 over the limit').waitFor();

  // Only here: what the others have stays, and the page says which is which.
  await library(two, 'Skerry riggers');
  await main.getByLabel('Phone', { exact: true }).fill('555');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Only here: make it the project’s own' }).click();
  await main.getByText('Only this project has it.').waitFor();
  await page.getByRole('button', { name: 'Undo' }).click();
  await main.getByText('Shared with SHA').waitFor();

  // The account and the code set go to the second project; a value that goes is replaced for all.
  await library(one, 'Accounts and currencies');
  await main.getByRole('button', { name: 'Share all 1 with other projects' }).click();
  await page.getByText('Shared with all projects').first().waitFor();
  await library(one, 'Skerry trades');
  await main.getByRole('button', { name: 'Share it with all projects' }).click();
  await main.getByText('Shared; no other project uses it yet.').waitFor();
  await library(two, '70 Skerry lifting');
  await main.getByRole('button', { name: 'Bring it into this project' }).click();
  await page.getByRole('main', { name: 'Accounts' }).getByText('Skerry lifting').waitFor();
  await library(two, 'Skerry trades');
  await main.getByRole('button', { name: 'Bring it into this project' }).click();
  await main.getByText('Shared with SHA').waitFor();
  await main.getByLabel('Name of RIG', { exact: true }).fill('Rigging and lifting');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Take over for all' }).click();
  await page.getByRole('dialog').waitFor({ state: 'detached' });
  await library(one, 'Skerry trades');
  equal(await main.getByLabel('Name of RIG', { exact: true }).inputValue(), 'Rigging and lifting', 'the value’s name in the first project');
  await page.reload();
  await library(one, 'Skerry trades');
  await main.getByText('Shared with SHB').waitFor();
});
