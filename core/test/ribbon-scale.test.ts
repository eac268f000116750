/** The path ribbon's own scale: order kept, each piece ahead wide enough for its number, done and stopped pressed together. */
import fc from 'fast-check';
import { onRibbon, type RibbonPiece, ribbonScale } from '@yellowhammer/core/plan/ribbon-scale';

const day = 1440;
const piece = (part: number, from: number, to: number, done = false): RibbonPiece => ({ part, from: from * day, to: to * day, done });
const widthOf = (s: ReturnType<typeof ribbonScale>, from: number, to: number): number => Math.round(onRibbon(s, to * day) - onRibbon(s, from * day));

test('a year done, a winter stopped and three pieces ahead', () => {
  // 365 days done, 10 ahead of the same activity, 110 stopped, then 5 days and 15 days.
  const s = ribbonScale([piece(0, 0, 365, true), piece(0, 365, 375), piece(1, 485, 490), piece(2, 490, 505)], 467);
  // 40 for what is done, 34 for the stop, 31 for each number; the 300 left by 10, 5 and 15 days: 100, 50, 150.
  expect([widthOf(s, 0, 365), widthOf(s, 365, 375), widthOf(s, 375, 485), widthOf(s, 485, 490), widthOf(s, 490, 505)]).toEqual([40, 131, 34, 81, 181]);
});

test('a weekend is no stop: it is as long as it is', () => {
  const s = ribbonScale([piece(0, 0, 5), piece(1, 8, 10)], 162);
  expect([widthOf(s, 0, 5), widthOf(s, 5, 8), widthOf(s, 8, 10)]).toEqual([81, 30, 51]);
});
test('one minute more than three days is a stop', () => {
  const s = ribbonScale([piece(0, 0, 5), { part: 1, from: 8 * day + 1, to: 10 * day + 1, done: false }], 166);
  expect(Math.round(onRibbon(s, 8 * day + 1) - onRibbon(s, 5 * day))).toBe(34);
});

test('where there is too little room, numbers are pressed and lengths still tell', () => {
  const s = ribbonScale(
    Array.from({ length: 40 }, (_, i) => piece(i, i, i + 1)),
    400,
  );
  // 0.8 of the width for 40 pieces, and the rest by length.
  expect(widthOf(s, 0, 1)).toBe(10);
  expect(widthOf(s, 0, 40)).toBe(400);
});

test('nothing, and one instant, are no trouble', () => {
  expect(onRibbon(ribbonScale([], 300), 5)).toBe(0);
  expect(onRibbon(ribbonScale([piece(0, 3, 3)], 300), 5 * day)).toBe(0);
});

test('times never change their order, and the whole is as wide as it may be', () => {
  const pieces = fc.array(fc.tuple(fc.nat(400), fc.nat(60), fc.boolean()), { minLength: 1, maxLength: 30 });
  fc.assert(
    fc.property(pieces, fc.integer({ min: 100, max: 1500 }), (list, width) => {
      const all = list.map(([from, length, done], i) => piece(i, from, from + length, done));
      const s = ribbonScale(all, width);
      const times = all.flatMap((p) => [p.from, p.to, (p.from + p.to) / 2]).sort((a, b) => a - b);
      for (let i = 1; i < times.length; i++) expect(onRibbon(s, times[i]!)).toBeGreaterThanOrEqual(onRibbon(s, times[i - 1]!) - 1e-9);
      expect(Math.max(0, ...s.x)).toBeLessThanOrEqual(width + 1e-6);
      if (all.some((p) => !p.done && p.to > p.from)) expect(s.x[s.x.length - 1]).toBeCloseTo(width, 6);
    }),
  );
});
