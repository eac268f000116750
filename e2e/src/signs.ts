/** Pictures of a project, and what a view is compared with: on screen, on paper, in the file and in another window. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { equal, journey, PlanScreen, until } from './harness.ts';
import { FLOOR } from './screens.ts';

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50"><script>document.title = 'run'</script>
<foreignObject width="9" height="9"><p xmlns="http://www.w3.org/1999/xhtml">x</p></foreignObject><image href="https://example.org/x.png" width="9" height="9"/>
<rect width="100" height="50" fill="#2f6f83"/></svg>`;

journey('pictures: an SVG is kept as pixels, the logo of the project, a sign on a milestone; a view is compared with an older baseline or none, on screen and paper', async (w) => {
  const id = await w.importFile(FLOOR.replace('"FLR"', '"SIG"'));
  const page = await w.window({ width: 1400, height: 900 });
  const plan = new PlanScreen(page);
  await page.goto(`${w.url}/p/${id}/library`);
  await page.getByRole('button', { name: /Logo and signs on milestones/ }).click();
  const [drawing, broken, other] = [join(w.dir, 'Quay bell.svg'), join(w.dir, 'broken.png'), join(w.dir, 'list.txt')];
  writeFileSync(drawing, SVG);
  writeFileSync(broken, 'no picture');
  writeFileSync(other, 'no picture');
  await page.getByLabel('Pictures to add').setInputFiles([drawing, broken, other]);
  await page.getByText('broken.png cannot be read as a picture', { exact: false }).waitFor();
  await page.getByText('list.txt is no picture of a kind that is taken', { exact: false }).waitFor();
  await page.getByText('1024 × 512', { exact: false }).waitFor();
  await page.getByRole('button', { name: 'Make it the logo' }).click();
  const width = (selector: string): Promise<number> => page.locator(selector).evaluate((el) => (el as HTMLImageElement).naturalWidth);
  await until(
    'the logo in the head',
    () => width('.header-logo'),
    (n) => n === 1024,
  );
  // What is kept are pixels: one colour all over, and nothing of the text of the SVG.
  await until(
    'it has been sent',
    async () => (await w.api<{ document: { pictures: { hash: string }[] } }>(`/projects/${id}`)).document.pictures.length,
    (n) => n === 1,
  );
  const { document } = await w.api<{ document: { pictures: { hash: string; type: string }[] } }>(`/projects/${id}`);
  const res = await fetch(`${w.url}/api/pictures/${document.pictures[0]!.hash}`);
  const bytes = Buffer.from(await res.arrayBuffer());
  equal([res.headers.get('content-type'), bytes.subarray(1, 4).toString(), bytes.includes('script')], ['image/png', 'PNG', false], 'what is kept');

  // On the milestone: chosen in the inspector, drawn in the place of the sign, also in the network; a second window sees it.
  await page.goto(`${w.url}/p/${id}/plan`);
  await plan.cell('Handover', 'code').click();
  const inspector = page.locator('.inspector');
  await inspector.getByRole('heading', { name: 'Handover' }).waitFor();
  await inspector.getByRole('combobox', { name: 'Picture', exact: true }).click();
  await page.getByRole('option', { name: 'Quay bell' }).click();
  await page.locator('[data-activity=h] image').waitFor();
  equal(await page.locator('[data-activity=h] .tl-milestone').count(), 0, 'the usual sign is gone');
  const second = await w.window();
  await second.goto(`${w.url}/p/${id}/plan`);
  await second.locator('[data-activity=h] image').waitFor();
  await page.keyboard.press('Control+z');
  await page.locator('[data-activity=h] .tl-milestone').waitFor();
  await page.keyboard.press('Control+Shift+z');
  await page.locator('[data-activity=h] image').waitFor();
  await plan.saved();

  // The file carries it to another project, and paper has it.
  const text = await (await fetch(`${w.url}/api/projects/${id}/file`)).text();
  const copy = await w.importFile(text.replace('"SIG"', '"SIH"'));
  const again = await w.api<{ document: { pictures: unknown[]; activities: { code: string; pictureId: string | null }[]; project: { logoId: string | null }[] } }>(
    `/projects/${copy}`,
  );
  equal([again.document.pictures.length, again.document.activities.find((a) => a.code === '140')?.pictureId !== null], [1, true], 'the copy has it');
  const pdf = Buffer.from(await (await fetch(`${w.url}/api/projects/${id}/report.pdf`)).arrayBuffer()).toString('latin1');
  equal((pdf.match(/\/Subtype \/Image/g) ?? []).length, 2, 'one picture with its transparency in the PDF, though drawn twice');

  // Two baselines: the first with paint of one day, the second with three. The project compares with the second.
  const keep = async (name: string): Promise<void> => {
    await page.getByTitle(/: project settings/).click();
    await page.getByPlaceholder('Name of the baseline').fill(name);
    const compare = page.getByLabel('Compare with it from now on');
    if (await compare.isVisible()) await compare.check();
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.keyboard.press('Escape');
    await plan.saved();
  };
  await keep('First');
  await plan.type('Paint level 1', 'duration', '3d');
  await keep('Second');
  await plan.expect('Handover', 'finish', '10 Mar 26');
  await page.locator('.tl-baseline').first().waitFor();
  const against = async (choice: string): Promise<void> => {
    await page.getByRole('button', { name: /^Colours:/ }).click();
    await page.getByLabel('Compared with').selectOption({ label: choice });
    await page.keyboard.press('Escape');
  };
  // The bracket of the paint is one day long against the first, three against the second.
  const bracket = (): Promise<number> => page.locator('[data-activity=c] .tl-baseline').evaluate((el) => (el as SVGGraphicsElement).getBBox().width);
  // From Friday morning to Friday evening, or to Tuesday evening.
  const long = await until('a bracket over the weekend', bracket, (n) => n > 40);
  await against('First');
  await until('a shorter bracket', bracket, (n) => n < long / 4);
  await page.getByRole('button', { name: 'Colours: drawn as usual, against First' }).waitFor();
  await page
    .getByRole('button', { name: /^View:|The whole plan/ })
    .first()
    .click();
  await page.getByLabel('Name of a new view').fill('Since the first');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await plan.saved();
  await against('nothing drawn');
  await until(
    'no bracket',
    () => page.locator('.tl-baseline').count(),
    (n) => n === 0,
  );
  await page.reload();
  await page.getByRole('button', { name: 'Colours: drawn as usual, no baseline' }).waitFor();
  equal(await page.locator('.tl-baseline').count(), 0, 'still none after a reload');
  // On paper the kept view is compared with the first.
  await page.goto(`${w.url}/p/${id}/report`);
  await page.getByRole('combobox', { name: 'Seen as' }).click();
  await page.getByRole('option', { name: 'Since the first' }).click();
  await page.getByText('baseline: First', { exact: false }).first().waitFor();
  equal(readFileSync(drawing, 'utf8') === SVG, true, 'what was brought is as it was');
});
