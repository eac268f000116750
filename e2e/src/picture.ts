/** The picture of the plan and what hangs on its rows: links by pointer, map, zoom, second window, notes and files, codes, dates that are picked. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Locator, Page } from 'playwright-core';
import { equal, journey, PlanScreen, planText, until } from './harness.ts';
import { boxOf, expectCounts, FLOOR } from './screens.ts';

const palette = async (page: Page, words: string, choice: RegExp): Promise<void> => {
  await page.keyboard.press('Control+k');
  const field = page.getByPlaceholder('Find an activity, or something to do');
  await field.fill(words);
  await page.getByRole('button', { name: choice }).first().click();
  await field.waitFor({ state: 'hidden' });
};
const centre = (b: { x: number; y: number; width: number; height: number }): [number, number] => [b.x + b.width / 2, b.y + b.height / 2];
/** The middle of a line on the screen. */
const middleOf = (line: Locator): Promise<[number, number]> =>
  line.evaluate((el) => {
    const path = el as unknown as SVGPathElement;
    const at = path.getPointAtLength(path.getTotalLength() / 2);
    const m = path.getScreenCTM() as DOMMatrix;
    return [at.x * m.a + m.e, at.y * m.d + m.f];
  });
const onLine = (page: Page, link: string): Promise<[number, number]> => middleOf(page.locator(`g[data-link="${link}"] .tl-link`));

journey('a link is pointed at, selected and deleted; one is drawn to a bar with both dates told, and one to nowhere and typed; the picture scrolls along', async (w) => {
  const many = Array.from({ length: 60 }, (_, i) => ({ id: `x${i}`, code: `${500 + i}`, name: `Filler ${i}`, duration: 480, rank: 20 + i }));
  const id = await w.importFile(
    planText({
      code: 'LNK',
      name: 'Links',
      activities: [
        { id: 'a', code: '110', name: 'Dig', duration: 960, rank: 0 },
        { id: 'b', code: '120', name: 'Pour', duration: 960, rank: 1 },
        { id: 'c', code: '130', name: 'Cure', duration: 480, rank: 2 },
        ...many,
        { id: 'z', code: '900', name: 'Last of all', duration: 480, rank: 99 },
      ],
      links: [{ id: 'l', from: 'a', to: 'b', lag: 480 }],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.expect('Pour', 'start', '5 Mar 26');
  // Dig on 2 and 3 March, a day of lag, Pour on the 5th and 6th.
  await page.mouse.move(...(await onLine(page, 'l')));
  const tip = page.locator('.bar-tip');
  await until(
    'the tip of the link',
    () => tip.innerText(),
    (t) => t.includes('110 Dig') && t.includes('FS to 120 Pour') && t.includes('lag 1d · drives'),
  );
  await page.mouse.down();
  await page.mouse.up();
  await page.getByRole('button', { name: 'Link 110 to 120 (FS): delete' }).waitFor();
  await page.keyboard.press('Escape');
  equal(await page.getByRole('button', { name: /: delete$/ }).count(), 0, 'Escape lets the link go');
  await page.mouse.down();
  await page.mouse.up();
  await page.getByRole('button', { name: 'Link 110 to 120 (FS): delete' }).click();
  await plan.expect('Pour', 'start', '2 Mar 26');
  equal(await page.getByRole('button', { name: /: delete$/ }).count(), 0, 'the link is gone from the dock');
  await page.keyboard.press('Control+z');
  await plan.expect('Pour', 'predecessors', '110FS+1d');
  // The line is drawn with the dates.
  await plan.expect('Pour', 'start', '5 Mar 26');
  await page.mouse.move(...(await onLine(page, 'l')));
  await page.mouse.down();
  await page.mouse.up();
  await page.keyboard.press('Delete');
  await plan.expect('Pour', 'start', '2 Mar 26');
  await expectCounts(page, '0 links');
  await page.keyboard.press('Control+z');
  await plan.expect('Pour', 'predecessors', '110FS+1d');

  // From the finish of Pour to the start of Cure: Cure would go to the 9th; the finish of all moves from the 6th by a day.
  const bar = async (row: string) => boxOf(page.locator(`[data-activity="${row}"] [data-part=body]`).last());
  const [pour, cure] = [await bar('b'), await bar('c')];
  await page.mouse.move(...centre(pour));
  await page.mouse.move(pour.x + pour.width + 6, pour.y + pour.height / 2);
  await page.mouse.down();
  await page.mouse.move(cure.x + 2, cure.y + cure.height / 2, { steps: 5 });
  await until(
    'the tip of the drawn link',
    () => page.locator('.drag-tip').innerText(),
    (t) => t.includes('FS to 130 Cure') && t.includes('9 Mar 26 to 9 Mar 26') && t.includes('the finish +1 d'),
  );
  await page.mouse.up();
  await plan.expect('Cure', 'start', '9 Mar 26');

  // Back to Dig it would be a loop: that is told, and nothing is made.
  const later = await bar('c');
  await page.mouse.move(...centre(later));
  await page.mouse.move(later.x + later.width + 6, later.y + later.height / 2);
  await page.mouse.down();
  await page.mouse.move((await bar('a')).x + 2, (await bar('a')).y + 5, { steps: 5 });
  await until(
    'the reason',
    () => page.locator('.drag-tip').innerText(),
    (t) => /loop/i.test(t),
  );
  await page.keyboard.press('Escape');
  await page.mouse.up();

  // Held at the lower edge, the rows scroll along until the last one is there.
  const dig = await bar('a');
  await page.mouse.move(...centre(dig));
  await page.mouse.move(dig.x + dig.width + 6, dig.y + dig.height / 2);
  await page.mouse.down();
  const scroll = await boxOf(page.locator('.plan-scroll'));
  await page.mouse.move(dig.x + 40, scroll.y + scroll.height - 8, { steps: 4 });
  await page.locator('[data-activity="z"]').waitFor();
  await until('scrolled to the end', () => page.locator('.plan-scroll').evaluate((el) => el.scrollTop + el.clientHeight >= el.scrollHeight - 2), Boolean);
  const last = await bar('z');
  await page.mouse.move(last.x + 1, last.y + last.height / 2, { steps: 4 });
  await page.mouse.up();
  await plan.expect('Last of all', 'predecessors', '110');
  await plan.expect('Last of all', 'start', '4 Mar 26');

  // Dropped on no bar, the second end is typed; the dates are told before it is taken.
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  const from = await bar('c');
  await page.mouse.move(...centre(from));
  await page.mouse.move(from.x + from.width + 6, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 160, from.y + 200, { steps: 4 });
  await page.mouse.up();
  const ask = page.getByRole('dialog', { name: 'Link from 130 Cure' });
  await ask.getByRole('combobox', { name: 'Link to: number or name' }).fill('110');
  await until(
    'a loop is refused there, too',
    () => ask.getByRole('status').innerText(),
    (t) => /loop/i.test(t),
  );
  await page.keyboard.press('Enter');
  await ask.getByRole('combobox', { name: 'Link to: number or name' }).fill('last');
  await until(
    'the dates',
    () => ask.getByRole('status').innerText(),
    (t) => t === 'It would lie from 10 Mar 26 to 10 Mar 26; the finish +1 d.',
  );
  await page.keyboard.press('Enter');
  await ask.waitFor({ state: 'hidden' });
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 99_999));
  await plan.expect('Last of all', 'start', '10 Mar 26');
  await plan.expect('Last of all', 'predecessors', '110, 130');
  await page.keyboard.press('Control+z');
  await plan.expect('Last of all', 'start', '4 Mar 26');

  // Quiet lines are drawn as bundles; each is pointed at for itself. Dig ends on the 3rd, Cure waits for Pour until the 9th.
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 0));
  await page.waitForTimeout(450);
  await plan.type('Cure', 'predecessors', '120, 110');
  await plan.expect('Cure', 'predecessors', '120, 110');
  await plan.expect('Cure', 'start', '9 Mar 26');
  await page.locator('.sheet .row', { hasText: 'Filler 9' }).first().click();
  // Fields belong to a form that browsers pass over: to look through those of the inspector took 50 ms of a core after each edit.
  const looked = (fields: Locator): Promise<number[]> => fields.evaluateAll((l) => [l.length, l.filter((e) => !(e as HTMLInputElement).form?.action.endsWith('/search')).length]);
  const [fields, read] = await looked(page.locator('.inspector').locator('input, textarea, select'));
  equal([(fields ?? 0) > 8, read], [true, 0], 'fields of the inspector that browsers read');
  await page.keyboard.press('F2');
  equal(await looked(page.locator('.cell-input')), [1, 0], 'the field in a cell');
  await page.keyboard.press('Escape');
  const quiet = page.locator('.tl-links > g:not([data-link]) > .tl-link');
  await until(
    'one line is quiet that goes to Cure',
    () => quiet.count(),
    (n) => n === 1,
  );
  await page.mouse.move(...(await middleOf(quiet)));
  await until(
    'the tip of a quiet link',
    () => tip.innerText(),
    (t) => t.includes('110 Dig') && t.includes('FS to 130 Cure') && !t.includes('drives'),
  );
  // Over a bar there is none: the bar is meant.
  await page.mouse.move(...centre(await bar('a')));
  await until(
    'no tip of a link',
    () => tip.allInnerTexts(),
    (l) => !l.some((t) => t.includes('FS to')),
  );
});

journey('the picture: zoom at the pointer, texts of bars, own calendars, the map, the row of the project, a second window that follows', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'PIC',
      name: 'Picture',
      project: { dataDate: '2026-03-02T08:00' },
      calendars: [{ id: 'n', name: 'Nights', week: Array.from({ length: 7 }, () => [['20:00', '28:00']]) }],
      wbs: [{ id: 'f', name: 'Works', rank: 0 }],
      activities: [
        { id: 'a', code: '110', name: 'Dig', duration: 960, wbsId: 'f', rank: 0, cost: 200 },
        { id: 'b', code: '120', name: 'Pour', duration: 960, wbsId: 'f', rank: 1, calendarId: 'n', cost: 50 },
        ...Array.from({ length: 70 }, (_, i) => ({ id: `x${i}`, code: `${500 + i}`, name: `Filler ${i}`, duration: 480, rank: 20 + i })),
      ],
      links: [{ id: 'l', from: 'a', to: 'b' }],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  // Two days of digging end on the 3rd at 17:00; two nights from 20:00 on.
  await plan.expect('Pour', 'finish', '5 Mar 26');
  const bar = async (row: string) => boxOf(page.locator(`[data-activity="${row}"] [data-part=body]`).last());
  const before = await bar('b');
  // The wheel with Ctrl zooms at the pointer: what is under it stays there, and the page is not zoomed.
  const size = await page.evaluate(() => devicePixelRatio);
  await page.mouse.move(before.x, before.y + 4);
  await page.keyboard.down('Control');
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -60);
  await page.keyboard.up('Control');
  const after = await until(
    'wider',
    () => bar('b'),
    (b) => b.width > before.width * 1.9,
  );
  if (Math.abs(after.x - before.x) > 2) throw new Error(`the start moved from ${before.x} to ${after.x}`);
  equal(await page.evaluate(() => devicePixelRatio), size, 'the page is not zoomed');
  // Two fingers that part do the same.
  await page.locator('.plan-grid').evaluate((el, [x, y]) => {
    for (const [type, apart] of [
      ['touchstart', 40],
      ['touchmove', 80],
    ] as const) {
      const touches = [-apart, apart].map((dx, n) => new Touch({ identifier: n, target: el, clientX: (x ?? 0) + dx, clientY: y ?? 0 }));
      el.dispatchEvent(new TouchEvent(type, { touches, bubbles: true, cancelable: true }));
    }
  }, centre(after));
  const pinched = await until(
    'wider again',
    () => bar('b'),
    (b) => b.width > after.width * 1.9,
  );
  if (Math.abs(centre(pinched)[0] - centre(after)[0]) > 3) throw new Error('the middle between the fingers moved');
  // Texts of the bars: the number before, the float after.
  await page.getByRole('button', { name: 'Texts' }).click();
  await page.getByLabel('Before the bar').selectOption('code');
  await page.getByLabel('On the bar').selectOption('');
  await page.getByLabel('After the bar').selectOption('finish');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Non-working time of each row’s own calendar' }).click();
  await page.getByRole('menuitem', { name: 'A row for the whole project' }).click();
  await page.getByRole('menuitem', { name: 'Map of the whole plan' }).click();
  await page.keyboard.press('Escape');
  await until(
    'texts',
    () => page.locator('[data-activity="b"] text').allTextContents(),
    (t) => t.join() === '120,5 Mar 26',
  );
  // By its own calendar the row of Pour has other rests than that of Dig.
  const rests = await page.locator('.timeline-window .tl-texture').evaluateAll((all) => all.map((e) => e.getAttribute('d') ?? ''));
  if (!rests[0] || rests[0] === rests[1]) throw new Error('the rests of the two calendars are alike');
  // The whole project: 2 March 08:00 to the 6th at 04:00, which is four days and no time of the fifth; cost 250.
  await plan.expect('Picture', 'start', '2 Mar 26');
  await plan.expect('Picture', 'finish', '5 Mar 26');
  equal(await plan.text('Picture', 'float'), '0d', 'its least float');
  // Nothing can be typed there, and new rows go elsewhere.
  await plan.cell('Picture', 'name').dblclick();
  equal(await page.locator('.cell-input').count(), 0, 'the project is named in its settings');
  // The map: its last rows come into view where it is pressed.
  const map = await boxOf(page.getByRole('group', { name: /^Map of the whole plan/ }));
  await page.mouse.click(map.x + 20, map.y + map.height - 4);
  await page.locator('[data-row="x69"]').waitFor();
  await page.mouse.click(map.x + 20, map.y + 2);
  await page.locator('[data-row="a"]').waitFor();
  // The second window shows the timeline alone, and follows.
  const [second] = await Promise.all([page.waitForEvent('popup'), palette(page, 'second window', /Timeline in a window of its own/)]);
  await second.locator('[data-activity="a"]').waitFor();
  equal(
    [await second.locator('.rail').isVisible(), await second.locator('.header').isVisible(), await second.locator('.dock').count()],
    [false, false, 0],
    'nothing but the timeline',
  );
  await page.locator('.plan-scroll').evaluate((el) => (el.scrollTop = 99_999));
  await plan.cell('Filler 69', 'code').click();
  await second.locator('.tl-bar.selected[data-activity="x69"]').waitFor();
  await second.close();
  // All of it is there after a reload.
  await page.reload();
  await page.getByRole('group', { name: /^Map of the whole plan/ }).waitFor();
  await until(
    'texts after the reload',
    () => page.locator('[data-activity="b"] text').allTextContents(),
    (t) => t.join() === '120,5 Mar 26',
  );
});

journey('rows are sorted by clicking heads, two fields at once, within their nodes; an edit takes its place; the outline comes back', async (w) => {
  const id = await w.importFile(
    planText({
      code: 'SRT',
      name: 'Sorted',
      wbs: [{ id: 'f', name: 'Works', rank: 5 }],
      activities: [
        { id: 'a', code: 'A10', name: 'Dig', duration: 960, rank: 0 },
        { id: 'b', code: 'A2', name: 'pour', duration: 480, rank: 1 },
        { id: 'c', code: 'A1', name: 'Cure', duration: 960, rank: 2 },
        { id: 'd', code: 'B2', name: 'Strip', duration: 2400, wbsId: 'f', rank: 0 },
        { id: 'e', code: 'B1', name: 'Clear', duration: 480, wbsId: 'f', rank: 1 },
      ],
      links: [],
    }),
  );
  const page = await w.window();
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  const expectRows = (what: string, names: string): Promise<string[]> =>
    until(
      what,
      () => page.locator('.sheet .row .cell.name').allInnerTexts(),
      (t) => t.map((x) => x.trim()).join() === names,
    );
  const head = (name: string) => page.getByRole('columnheader', { name });
  await expectRows('as it is', 'Dig,pour,Cure,Works,Strip,Clear');
  await head('No.').click();
  await expectRows('by number', 'Cure,pour,Dig,Works,Clear,Strip');
  await head('Duration').click();
  await head('No.').click({ modifiers: ['Shift'] });
  await expectRows('by duration, then number', 'pour,Cure,Dig,Works,Clear,Strip');
  equal(await head('Duration').getAttribute('aria-sort'), 'ascending', 'told');
  await head('Duration').click({ modifiers: ['Shift'] });
  await expectRows('falling', 'Cure,Dig,pour,Works,Strip,Clear');
  await plan.type('pour', 'duration', '9d');
  await expectRows('the edit takes its place', 'pour,Cure,Dig,Works,Strip,Clear');
  await page.reload();
  await expectRows('after a reload', 'pour,Cure,Dig,Works,Strip,Clear');
  await page.getByRole('button', { name: /^Sorted by Duration, then No\./ }).click();
  await expectRows('the outline again', 'Dig,pour,Cure,Works,Strip,Clear');
});

journey('dated notes and files: written, attached, saved, seen by another, undone; links from outside are asked about; codes by hand; a date is picked', async (w) => {
  const id = await w.importFile(FLOOR.replace('"FLR"', '"ATT"'));
  const page = await w.window({ height: 1000 });
  await page.addInitScript(() => localStorage.setItem('yellowhammer.who', 'Ana'));
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.cell('Strip level 1', 'code').click();
  const inspector = page.locator('.inspector');
  await inspector.getByRole('heading', { name: 'Strip level 1' }).waitFor();
  await inspector.getByLabel('New dated note').fill('Asbestos found behind the shaft');
  await page.keyboard.press('Control+Enter');
  const note = inspector.getByRole('article');
  await until(
    'the note',
    () => note.allInnerTexts(),
    (t) => t.length === 1 && t[0]!.includes('Ana') && t[0]!.includes('Asbestos found behind the shaft'),
  );
  const file = join(w.dir, 'survey <b>.html');
  writeFileSync(file, '<script>document.title="run"</script>');
  await inspector.locator('input[type=file]').setInputFiles(file);
  const link = inspector.getByRole('link', { name: 'survey <b>.html' });
  await link.waitFor();
  await plan.row('Strip level 1').getByRole('img', { name: 'has notes' }).waitFor();
  await plan.row('Strip level 1').getByRole('img', { name: 'has files' }).waitFor();
  await plan.saved();
  const [download] = await Promise.all([page.waitForEvent('download'), link.click()]);
  equal(readFileSync(await download.path(), 'utf8'), '<script>document.title="run"</script>', 'what was attached comes back');
  // Opened as a page nothing in it runs: the browser saves it.
  const other = await w.window();
  const seen = new PlanScreen(other);
  await other.goto(`${w.url}/p/${id}/plan`);
  await seen.cell('Strip level 1', 'code').click();
  await other.locator('.inspector').getByText('Asbestos found behind the shaft').waitFor();
  // Changed there, seen here; taken back there.
  await other.locator('.inspector').getByTitle('Change the note').click();
  await other.locator('.inspector').getByLabel('Change the note').fill('Asbestos, removed on Friday');
  await other.keyboard.press('Escape');
  await other.locator('.inspector').getByTitle('Change the note').click();
  await other.locator('.inspector').getByLabel('Change the note').fill('Asbestos, removed on Monday');
  await other.locator('.inspector').getByLabel('New dated note').focus();
  await inspector.getByText('Asbestos, removed on Monday').waitFor();
  // A file that is too large is refused before it is sent.
  const large = join(w.dir, 'large.bin');
  writeFileSync(large, Buffer.alloc(10 * 1024 * 1024 + 1));
  await inspector.locator('input[type=file]').setInputFiles(large);
  await page.getByText('large.bin has 10 MB; a file may have 10 MB', { exact: false }).waitFor();
  // The row goes with all that hangs on it, and comes back with it.
  await plan.cell('Strip level 1', 'code').click();
  await page.keyboard.press('Control+Delete');
  await expectCounts(page, '4 activities');
  await page.keyboard.press('Control+z');
  await expectCounts(page, '5 activities');
  await plan.saved();
  await page.reload();
  await plan.cell('Strip level 1', 'code').click();
  await inspector.getByRole('link', { name: 'survey <b>.html' }).waitFor();

  // Copied and pasted: one link leads in from the release; with it the copy waits for the release as well.
  await plan.cell('Strip level 1', 'code').click();
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Control+v');
  const asked = page.getByRole('dialog', { name: 'Links from outside' });
  await asked.getByText('1 link from other rows lead', { exact: false }).waitFor();
  await page.keyboard.press('Escape');
  await asked.waitFor({ state: 'hidden' });
  await expectCounts(page, '5 activities · 4 links');
  await page.keyboard.press('Control+v');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expectCounts(page, '6 activities · 5 links');
  await inspector.getByText('Asbestos, removed on Monday').waitFor();
  await page.keyboard.press('Control+z');
  await plan.cell('Strip level 1', 'code').click();
  await page.keyboard.press('Control+v');
  await page.keyboard.press('Enter');
  await expectCounts(page, '6 activities · 4 links');
  await page.keyboard.press('Control+z');

  // A code by hand: refused where it is no code, and a number may not be like it.
  await plan.cell('Level 1', 'code').dblclick();
  await page.locator('.cell-input').fill('L.1');
  await page.keyboard.press('Enter');
  await page.getByText('no part of a WBS code', { exact: false }).waitFor();
  await page.locator('.cell-input').fill('L1');
  await page.keyboard.press('Enter');
  await plan.expect('Level 1', 'code', 'L1');
  await plan.type('Strip level 1', 'code', 'L1');
  await page.getByText('L1 is the code of the WBS node Level 1', { exact: false }).waitFor();
  await page.keyboard.press('Escape');

  // A date is picked by keyboard: from Monday the 2nd two weeks down and a day right, Tuesday the 17th.
  await plan.cell('Strip level 1', 'start').dblclick();
  await page.keyboard.press('Alt+ArrowDown');
  const picker = page.getByRole('dialog', { name: 'Pick a date' });
  await picker.waitFor();
  await picker.getByRole('button', { name: '2 March 2026', exact: true }).focus();
  for (const key of ['ArrowDown', 'ArrowDown', 'ArrowRight', 'Enter']) await page.keyboard.press(key);
  await plan.expect('Strip level 1', 'start', '17 Mar 26');
  // And by pointer.
  await plan.cell('Strip level 1', 'start').dblclick();
  await page.getByRole('button', { name: 'Pick a date' }).click();
  await picker.getByRole('button', { name: '19 March 2026', exact: true }).click();
  await plan.expect('Strip level 1', 'start', '19 Mar 26');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await plan.expect('Strip level 1', 'start', '2 Mar 26');
});
