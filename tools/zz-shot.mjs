import { chromium } from 'playwright-core';
const [w, h] = (process.env.SIZE ?? '1280x800').split('x').map(Number);
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const ctx = await b.newContext({ viewport: { width: w, height: h }, colorScheme: process.env.DARK ? 'dark' : 'light' });
const page = await ctx.newPage();
page.on('pageerror', (e) => console.log('ERROR', e.message.slice(0, 400)));
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text().slice(0, 300)));
const base = `http://localhost:${process.env.PORT ?? 4600}`;
const list = await (await fetch(`${base}/api/projects`)).json();
const code = process.env.CODE ?? 'SKY';
const one = (list.projects ?? list).find((p) => p.code === code);
await page.goto(`${base}/p/${one.id}/${process.env.ROOM ?? 'plan'}`);
await page.waitForTimeout(2500);
for (const step of process.argv.slice(2)) {
  const at = step.indexOf('=');
  const [what, v] = at < 0 ? [step, ''] : [step.slice(0, at), step.slice(at + 1)];
  try {
    if (what === 'shot') await page.screenshot({ path: `/tmp/${v}.png` });
    else if (what === 'click') await page.locator(v).first().click({ timeout: 4000 });
    else if (what === 'dbl') await page.locator(v).first().dblclick({ timeout: 4000 });
    else if (what === 'hover') await page.locator(v).first().hover({ timeout: 4000 });
    else if (what === 'key') await page.keyboard.press(v);
    else if (what === 'type') await page.keyboard.type(v);
    else if (what === 'fill') { const [s, t] = v.split('::'); await page.locator(s).first().fill(t); }
    else if (what === 'pick') { const [s, t] = v.split('::'); await page.locator(s).first().selectOption({ label: t }); }
    else if (what === 'move') { const [x, y] = v.split(',').map(Number); await page.mouse.move(x, y, { steps: 5 }); }
    else if (what === 'down') await page.mouse.down();
    else if (what === 'up') await page.mouse.up();
    else if (what === 'wait') await page.waitForTimeout(Number(v));
    else if (what === 'text') console.log(await page.locator(v).first().innerText());
    else if (what === 'eval') console.log(JSON.stringify(await page.evaluate(v)));
    else if (what === 'go') { await page.keyboard.press('Control+k'); await page.keyboard.type(v); await page.waitForTimeout(250); await page.keyboard.press('Enter'); }
    await page.waitForTimeout(200);
  } catch (e) { console.log('STEP', step, e.message.slice(0, 300)); }
}
await b.close();
