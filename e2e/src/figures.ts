/** One figure everywhere: sheet, its CSV, inspector, Compare, Update, report, its CSV, projects list, and the command line on the exported file. */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { showInstant } from '@yellowhammer/core/time/typed-date';
import { sky } from '@yellowhammer/demo/scenario';
import { equal, journey, PlanScreen, root, until } from './harness.ts';

interface CalcActivity {
  code: string;
  name: string;
  state: string;
  earlyStart: string;
  earlyFinish: string;
  lateStart: string | null;
  lateFinish: string | null;
  totalFloat: { days: number } | null;
  freeFloat: { days: number } | null;
}

/** Lines of a CSV file without quoted line breaks, by the first two columns: a WBS node may have the number of an activity. Cells that a spreadsheet would take for a formula have an apostrophe before them. */
function table(text: string): Map<string, Record<string, string>> {
  const cells = (line: string): string[] => [...line.matchAll(/(?:^|,)(?:"((?:[^"]|"")*)"|([^,]*))/g)].map((m) => (m[1] ?? m[2] ?? '').replaceAll('""', '"'));
  const [head = [], ...lines] = text
    .replace(/^\ufeff/, '')
    .split(/\r?\n/)
    .filter(Boolean)
    .map(cells);
  return new Map(lines.map((l) => [`${l[0]!} ${l[1]!.trim()}`, Object.fromEntries(head.map((h, i) => [h, (l[i] ?? '').trim().replace(/^'(?=[-+=@])/, '')]))]));
}
const float = (f: { days: number } | null): string => (f ? `${String(Math.round(f.days * 10) / 10).replace('-', '−')}d` : '');
const start = (t: string | null): string => (t ? showInstant(parseInstant(t) as number, 'start', true) : '');
const finish = (t: string | null): string => (t ? showInstant(parseInstant(t) as number, 'finish', true) : '');

journey('every figure is the same on the sheet, in its CSV, the inspector, Compare, Update, the report, the list of projects and the command line', async (w) => {
  const id = await w.importFile(writeProjectFile(sky()));
  // The command line on the file that the application exports.
  const file = join(w.dir, 'sky.json');
  writeFileSync(file, await (await fetch(`${w.url}/api/projects/${id}/file`)).text());
  const calc = JSON.parse(execFileSync('npm', ['run', '-s', 'calc', '--', file], { cwd: root, encoding: 'utf8', maxBuffer: 1 << 26 })) as {
    projectFinish: string;
    activities: CalcActivity[];
  };
  const known = new Map(calc.activities.map((a) => [`${a.code} ${a.name}`, a]));
  equal(known.size > 130, true, 'activities in the file');

  const page = await w.window({ width: 1920, height: 1000 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await page.getByRole('button', { name: 'Columns', exact: true }).click();
  for (const name of ['Late start', 'Late finish', 'Free float']) await page.getByRole('checkbox', { name, exact: true }).check();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Times with dates' }).click();
  await page.keyboard.press('Escape');

  // Lanes are opened: all levels are shown.
  await page.locator('.sheet .row .cell[data-column=code]').first().click();
  await page.keyboard.press('9');

  // The sheet as CSV against the command line: every row and every computed column.
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'The rows and columns shown, as CSV' }).click()]);
  const sheet = table(readFileSync(await download.path(), 'utf8'));
  for (const [code, a] of known) {
    const r = sheet.get(code);
    equal(
      [r?.['Start'], r?.['Finish'], r?.['Late start'], r?.['Late finish'], r?.['Float'], r?.['Free float']],
      [start(a.earlyStart), finish(a.earlyFinish), start(a.lateStart), finish(a.lateFinish), float(a.totalFloat), float(a.freeFloat)],
      `row ${code} of the sheet against the command line`,
    );
  }

  // What is on the screen against its CSV, and the inspector against both, for the rows in view at the data date.
  await plan.saved();
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 2200));
  await page.waitForTimeout(300);
  const shown = await page
    .locator('.sheet .row')
    .evaluateAll((rows) => rows.map((r) => Object.fromEntries([...r.querySelectorAll<HTMLElement>('.cell')].map((c) => [c.dataset['column'] ?? '', c.innerText.trim()]))));
  const seen = shown.filter((r) => known.has(`${r['code']} ${r['name']}`));
  equal(seen.length > 15, true, 'rows in view');
  for (const r of seen)
    equal(
      [r['start'], r['finish'], r['float']],
      ['Start', 'Finish', 'Float'].map((k) => sheet.get(`${r['code']} ${r['name']}`)?.[k]),
      `row ${r['code']} on the screen`,
    );
  for (const r of seen.filter((x) => x['float']).slice(0, 4)) {
    await page
      .locator('.sheet .row')
      .filter({ has: page.locator('.cell[data-column=code]', { hasText: new RegExp(`^${r['code']}$`) }) })
      .locator('.cell[data-column=name]')
      .click();
    await until(
      `inspector of ${r['code']}`,
      () => page.locator('.inspector-context').innerText(),
      (t) => t.startsWith(`${r['code']} `),
    );
    const facts = await page.locator('.inspector .dates').innerText();
    for (const text of [r['start']!.split(',')[0]!, r['finish']!.split(',')[0]!, r['float']!])
      equal(facts.includes(text), true, `${text} of ${r['code']!} in the inspector: ${facts}`);
  }

  // Compare: both finishes of each row, and how far it moved, against the command line and the sheet.
  await page.goto(`${w.url}/p/${id}/compare`);
  await until(
    'rows compared',
    () => page.locator('.compare-row[aria-rowindex]:not(.wbs)').count(),
    (n) => n > 10,
  );
  const compared = await page
    .locator('.compare-row[aria-rowindex]:not(.wbs)')
    .evaluateAll((rows) => rows.map((r) => [...r.querySelectorAll('span')].map((c) => c.innerText.trim())));
  for (const [code = '', name = '', before, now, , moved = ''] of compared) {
    const own = sheet.get(`${code} ${name}`);
    equal([now, before], [own?.['Finish']?.split(',')[0], own?.['Baseline finish']?.split(',')[0]], `finishes of ${code} in Compare`);
    equal(
      moved.includes(own?.['Finish moved'] ?? '?') || (moved === '' && own?.['Finish moved'] === '0 d'),
      true,
      `move of ${code}: ${moved} in Compare, ${own?.['Finish moved']} in the sheet`,
    );
  }

  // The report's table and its paper, the header and the list of projects.
  const report = table(await (await fetch(`${w.url}/api/projects/${id}/report.csv?columns=code,name,start,finish,float`)).text());
  // A lane is one row on paper: its activities are on its bars.
  const lanes = new Set([...sky().document.wbs.values()].flatMap((n) => (n.lane ? [n.id] : [])));
  const inLanes = new Set([...sky().document.activities.values()].flatMap((a) => (lanes.has(a.wbsId ?? '') ? [`${a.code} ${a.name}`] : [])));
  equal([lanes.size, inLanes.size], [5, 30], 'lanes of the demo');
  for (const [code, a] of known) {
    if (inLanes.has(code)) continue;
    const r = Object.values(report.get(code) ?? {});
    equal(r.slice(2), [start(a.earlyStart).split(',')[0], finish(a.earlyFinish).split(',')[0], float(a.totalFloat)], `row ${code} of the report`);
  }
  const pdf = join(w.dir, 'figures.pdf');
  writeFileSync(pdf, Buffer.from(await (await fetch(`${w.url}/api/projects/${id}/report.pdf`)).arrayBuffer()));
  const paper = execFileSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' });
  for (const a of calc.activities.filter((x) => x.state !== 'finished').slice(0, 12)) equal(paper.includes(finish(a.earlyFinish).split(',')[0]!), true, `${a.code} on paper`);
  const last = finish(calc.projectFinish).split(',')[0]!;
  await until(
    'the header',
    () => plan.figure('forecast finish'),
    (t) => t.endsWith(`${last.replace(/ \d\d$/, '')} 20${last.slice(-2)}`),
  );
  const forecast = await plan.figure('forecast finish');
  // Update: the finish that entries are measured against, and the dates that it proposes for what is due.
  await page.goto(`${w.url}/p/${id}/update`);
  await page.getByRole('textbox', { name: 'New data date' }).fill('30 nov 26');
  await page.getByRole('textbox', { name: 'New data date' }).press('Enter');
  await page.getByText(`was ${forecast}`, { exact: true }).waitFor();
  for (const code of ['625', '140']) {
    const a = calc.activities.find((x) => x.code === code) as CalcActivity;
    const proposed = page.locator(`[data-due="${code}"]`).getByLabel(/^Finished/);
    const value = (await proposed.inputValue()) || (await proposed.getAttribute('placeholder')) || '';
    equal(value, finish(a.earlyFinish).split(',')[0], `proposed finish of ${code} in Update`);
  }
  await page.goto(w.url);
  await page.locator('.projects-table tbody tr').filter({ hasText: 'Corran Skerry' }).first().getByText(last, { exact: true }).waitFor();
});
