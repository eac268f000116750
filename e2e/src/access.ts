/** Everybody can use it: axe finds nothing serious on any view or dialog, light and dark; and at any size everything is in reach. */
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { sky } from '@yellowhammer/demo/scenario';
import { journey, PlanScreen, until, type World } from './harness.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  impact: string;
  nodes: { target: string[]; failureSummary: string }[];
}

/** What axe finds serious or critical, in words. */
async function findings(page: Page): Promise<string[]> {
  // What fades in has its colours only when it has come.
  await page.waitForTimeout(350);
  await page.evaluate(axe);
  const violations = await page.evaluate(async () => {
    const run = (globalThis as unknown as { axe: { run: (o: object) => Promise<{ violations: Violation[] }> } }).axe;
    return (await run.run({ resultTypes: ['violations'] })).violations;
  });
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.slice(0, 4).map((x) => `${v.id}: ${x.target.join(' ')} (${x.failureSummary.replace(/\s+/g, ' ').slice(0, 160)})`));
}

async function demo(w: World): Promise<string> {
  const list = (): Promise<{ id: string; code: string }[]> => w.api<{ id: string; code: string }[]>('/projects');
  if (!(await list()).some((p) => p.code === 'SKY')) {
    await w.importFile(writeProjectFile(sky()));
  }
  return ((await list()).find((p) => p.code === 'SKY') as { id: string }).id;
}

const close = async (page: Page): Promise<void> => {
  await page.keyboard.press('Escape');
  await until(
    'closed',
    () => page.locator('[role=dialog]:visible').count(),
    (n) => n === 0,
  );
};

/** Every view and dialog, by a name and the way there. */
type View = [string, (page: Page) => Promise<void>];
function screens(w: World, id: string): View[] {
  const room =
    (name: string, ready: string) =>
    async (page: Page): Promise<void> => {
      await page.goto(`${w.url}/p/${id}/${name}`);
      await page.locator(ready).first().waitFor();
    };
  const plan = async (page: Page): Promise<void> => {
    await room('plan', '.sheet .row')(page);
    await new PlanScreen(page).saved();
    await page.locator('.sheet .row').nth(4).locator('[data-column=name]').click();
    if ((page.viewportSize()?.width ?? 0) > 900) await page.locator('#why').waitFor();
  };
  const dialog = (page: Page): Promise<void> => page.locator('[role=dialog]:visible').first().waitFor();
  return [
    ['Projects', async (page) => void (await page.goto(`${w.url}/projects`), await page.locator('.projects-table tbody tr').first().waitFor())],
    ['New project', async (page) => void (await page.getByRole('button', { name: 'New project' }).click(), await dialog(page))],
    [
      'Faults of an import',
      async (page) => {
        await close(page);
        const foreign = join(w.dir, 'foreign.json');
        writeFileSync(foreign, '{"hello": "world"}');
        await page.setInputFiles('input[type=file]', foreign);
        await dialog(page);
      },
    ],
    ['Plan', plan],
    ['Keys', async (page) => void (await page.locator('.plan-grid').focus(), await page.keyboard.press('Alt+?'), await dialog(page))],
    ['Palette', async (page) => void (await close(page), await page.keyboard.press('Control+k'), await page.getByPlaceholder('Find an activity, or something to do').fill('ring'))],
    ['Settings', async (page) => void (await close(page), await page.locator('.header-title').click(), await dialog(page))],
    ['Show', async (page) => void (await close(page), await page.getByRole('button', { name: 'Show', exact: true }).click())],
    ['Columns', async (page) => void (await page.keyboard.press('Escape'), await page.getByRole('button', { name: 'Columns', exact: true }).click())],
    ...(
      [
        ['Replicate', 'r'],
        ['Each to each', 'e'],
        ['Links for others', 'c'],
        ['Split', 'x'],
        ['History', 'h'],
        ['Typed plan', 'p'],
      ] as const
    ).map(([name, letter]): View => [
      name,
      async (page) => {
        await close(page);
        await page.locator('.sheet .row').nth(4).locator('[data-column=code]').click();
        await page.keyboard.press(`Alt+${letter}`);
        await page.locator('.verdict, .history-list').first().waitFor();
      },
    ]),
    [
      'Update',
      async (page) => {
        await page.keyboard.press('Escape');
        await room('update', '.update-top')(page);
        const date = page.getByRole('textbox', { name: 'New data date' });
        await date.fill('30 nov 26');
        await date.press('Enter');
        await page.locator('[data-due]').first().waitFor();
        await page.getByRole('button', { name: 'Take all as planned' }).click();
      },
    ],
    ['Both ways', async (page) => void (await page.getByRole('button', { name: 'See both ways side by side' }).click(), await dialog(page))],
    ['Discard', async (page) => void (await close(page), await page.getByRole('button', { name: 'Discard' }).click(), await dialog(page))],
    ['Compare', async (page) => void (await close(page), await room('compare', '.compare-sentence')(page))],
    ['Load', room('load', '.load-cell')],
    [
      'Load, a stretch opened up',
      async (page) => {
        await page.locator('.load-cell.over').first().click();
        await page.locator('.step-graph').waitFor();
      },
    ],
    [
      'Levelling',
      async (page) => {
        await page.getByRole('button', { name: 'Level', exact: true }).click();
        await page.getByRole('button', { name: 'Propose' }).click();
        await page.getByRole('region', { name: 'Proposal' }).waitFor();
      },
    ],
    [
      'A resource',
      async (page) => {
        await close(page);
        await room('library', '.year')(page);
        await page.getByRole('button', { name: 'Stone masons' }).click();
        await page.getByRole('main', { name: 'Resource Stone masons' }).waitFor();
      },
    ],
    [
      'People on time',
      async (page) =>
        void (await room('load', '.load-cell')(page), await page.getByRole('button', { name: 'People on time' }).click(), await page.locator('.people-bar').first().waitFor()),
    ],
    ['A shift', async (page) => void (await page.getByRole('button', { name: 'A shift' }).click(), await page.locator('.shift-table').first().waitFor())],
    ['Money', room('money', '.money-cell')],
    [
      'Money, the curve with a cell opened up',
      async (page) => {
        await page.getByRole('button', { name: 'Curve', exact: true }).click();
        await page.locator('#money-2-8').click();
        await page.locator('.money-parts li').first().waitFor();
      },
    ],
    ['Expenses', async (page) => void (await page.getByRole('button', { name: 'Expenses and income' }).click(), await page.locator('.expense-cell').first().waitFor())],
    [
      'Accounts',
      async (page) => {
        await room('library', '.year')(page);
        await page.getByRole('button', { name: /^Accounts and currencies/ }).click();
        await page.locator('.account-tree button').nth(2).click();
        await page.getByRole('region', { name: 'Account Plant and transport' }).waitFor();
      },
    ],
    [
      'Graph under the plan',
      async (page) => {
        await plan(page);
        await page.getByRole('button', { name: 'Graph', exact: true }).click();
        await page.locator('.plan-graph-strip').waitFor();
      },
    ],
    [
      'Report',
      async (page) => void (await page.evaluate(() => document.querySelector<HTMLElement>('.plan-graph .plain-button')?.click()), await room('report', '.sheet-of-paper')(page)),
    ],
    ['Library', room('library', '.year')],
    [
      'Holidays',
      async (page) =>
        void (
          await page
            .getByRole('button', { name: /olidays/ })
            .first()
            .click(),
          await dialog(page)
        ),
    ],
  ];
}

for (const dark of [false, true])
  journey(`axe finds nothing serious on any view or dialog, ${dark ? 'dark' : 'light'}`, async (w) => {
    const id = await demo(w);
    const page = await w.window({ dark });
    const found: string[] = [];
    for (const [name, go] of screens(w, id)) {
      await go(page);
      found.push(...(await findings(page)).map((f) => `${name}: ${f}`));
    }
    if (found.length) throw new Error(`\n${found.join('\n')}`);
  });

/** Controls that cannot be brought into view, or lie under something else when they are. */
async function outOfReach(page: Page): Promise<string[]> {
  return page.evaluate(async () => {
    const out: string[] = [];
    // Under a dialog nothing is meant to be reached.
    const scope = [...document.querySelectorAll<HTMLElement>('[role=dialog]')].find((d) => d.getClientRects().length > 0) ?? document;
    const all = [...scope.querySelectorAll<HTMLElement>('a[href], button, input:not([type=hidden]):not([hidden]), select, textarea')].slice(0, 400);
    for (const el of all) {
      if (el.closest('[aria-hidden=true]') || el.getClientRects().length === 0 || (el as HTMLButtonElement).disabled || el.tabIndex < 0) continue;
      el.scrollIntoView({ block: 'center', inline: 'center' });
      const r = el.getBoundingClientRect();
      if (r.width < 2 || r.height < 2) continue;
      const [x, y] = [r.left + r.width / 2, r.top + r.height / 2];
      const hit = x >= 0 && y >= 0 && x < innerWidth && y < innerHeight ? document.elementFromPoint(x, y) : null;
      if (!hit || !(el.contains(hit) || hit.contains(el) || (el as HTMLInputElement).labels?.[0]?.contains(hit)))
        out.push(
          `${el.tagName.toLowerCase()} ${(el.getAttribute('aria-label') ?? el.textContent ?? '').trim().slice(0, 40)} at ${Math.round(x)},${Math.round(y)} under ${hit ? `${hit.tagName.toLowerCase()}.${String((hit as HTMLElement).className).slice(0, 30)}` : 'nothing'}`,
        );
    }
    return out;
  });
}

journey('at 640 x 400, 1024 and 1920 everything can be reached; at 1920 the sheet shows more', async (w) => {
  const id = await demo(w);
  const found: string[] = [];
  const sheets: number[] = [];
  for (const [width, height] of [
    [640, 400],
    [1024, 768],
    [1920, 1080],
  ] as const) {
    const page = await w.window({ width, height });
    for (const [name, go] of screens(w, id)) {
      if (!['Projects', 'Plan', 'Update', 'Compare', 'Report', 'Library', 'New project', 'Settings'].includes(name)) {
        if (['Keys', 'Discard'].includes(name)) await close(page).catch(() => undefined);
        continue;
      }
      if (name === 'Plan' || name === 'Update' || name === 'Compare') await page.keyboard.press('Escape');
      await go(page);
      await page.waitForTimeout(300);
      if (name === 'Plan') sheets.push(await page.locator('.sheet').evaluate((el) => el.getBoundingClientRect().width));
      found.push(...(await outOfReach(page)).map((f) => `${width}: ${name}: ${f}`));
    }
  }
  if (found.length) throw new Error(`\n${found.join('\n')}`);
  if (!(sheets[2]! > sheets[1]!)) throw new Error(`the sheet is ${sheets.join(', ')} wide`);
});
