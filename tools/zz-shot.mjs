import { chromium } from 'playwright-core';
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const page = await b.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => m.type() === 'error' && console.log('console', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
const list = await (await fetch('http://localhost:4600/api/projects')).json();
const sky = list.find((p) => p.code === 'SKY');
await page.goto(`http://localhost:4600/p/${sky.id}/plan`);
await page.waitForSelector('.tl-bar');
await page.waitForTimeout(700);
const act = async (f) => {
  try {
    await f();
  } catch (e) {
    console.log('failed', e.message.split('\n')[0]);
  }
};
for (const step of process.argv.slice(2)) {
  const [cmd, ...rest] = step.split('=');
  const arg = rest.join('=');
  await act(async () => {
    if (cmd === 'shot') await page.screenshot({ path: `/tmp/${arg}.png` });
    if (cmd === 'key') await page.keyboard.press(arg);
    if (cmd === 'type') await page.keyboard.type(arg);
    if (cmd === 'click') await page.locator(arg).first().click({ timeout: 3000 });
    if (cmd === 'right') await page.locator(arg).first().click({ button: 'right', timeout: 3000 });
    if (cmd === 'wait') await page.waitForTimeout(Number(arg));
    if (cmd === 'text') console.log(await page.locator(arg).first().innerText());
  });
}
await b.close();
