/** What journeys of building and of working share: the outline on the screen, counts, boxes, and a plan of one floor. */
import type { Locator, Page } from 'playwright-core';
import { planText, until } from './harness.ts';

const outline = (page: Page): Promise<string[]> =>
  page
    .locator('.sheet .row')
    .evaluateAll((rows) => rows.map((r) => `${'.'.repeat(Number(r.getAttribute('aria-level')) - 1)}${r.querySelector('[data-column=name]')?.textContent?.trim() ?? ''}`));
export const expectOutline = (page: Page, what: string, wanted: string[]): Promise<string[]> =>
  until(
    what,
    () => outline(page),
    (r) => JSON.stringify(r) === JSON.stringify(wanted),
  );
export const counts = (page: Page): Promise<string> => page.locator('.header-counts').innerText();
export const expectCounts = (page: Page, text: string): Promise<string> =>
  until(
    `counts ${text}`,
    () => counts(page),
    (t) => t.includes(text),
  );
export const undoAll = async (page: Page, times: number): Promise<void> => {
  for (let i = 0; i < times; i++) await page.keyboard.press('Control+z');
};

export const boxOf = async (l: Locator): Promise<{ x: number; y: number; width: number; height: number }> => {
  const box = await l.boundingBox();
  if (!box) throw new Error('it is not on the screen');
  return box;
};

export const FLOOR = planText({
  code: 'FLR',
  name: 'Floors',
  activities: [
    { id: 'r', code: '100', name: 'Release', type: 'startMilestone', duration: 0, rank: 0 },
    { id: 'a', code: '110', name: 'Strip level 1', duration: 960, wbsId: 'f', rank: 0 },
    { id: 'b', code: '120', name: 'Plaster level 1', duration: 1440, wbsId: 'f', rank: 1 },
    { id: 'c', code: '130', name: 'Paint level 1', duration: 480, wbsId: 'f', rank: 2 },
    { id: 'h', code: '140', name: 'Handover', type: 'finishMilestone', duration: 0, rank: 9 },
  ],
  links: [
    { id: 'l1', from: 'r', to: 'a' },
    { id: 'l2', from: 'a', to: 'b', type: 'SS', lag: 480 },
    { id: 'l3', from: 'b', to: 'c' },
    { id: 'l4', from: 'c', to: 'h' },
  ],
  wbs: [{ id: 'f', name: 'Level 1', rank: 5 }],
});
