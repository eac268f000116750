/** Rows of different heights: where each lies, and which lies where. */
import fc from 'fast-check';
import { heightsOf, RowHeights } from '@yellowhammer/core/outline/heights';

test('by hand: a heading of two rows between rows of one', () => {
  const h = new RowHeights(3, 26, (i) => (i === 1 ? 2 : 1));
  expect([h.top(0), h.top(1), h.top(2), h.top(3), h.total]).toEqual([0, 26, 78, 104, 104]);
  expect([h.height(1), h.middle(1), h.height(9)]).toEqual([52, 52, 26]);
  expect([-1, 0, 25, 26, 77, 78, 103, 104, 130].map((y) => h.rowAt(y))).toEqual([-1, 0, 0, 1, 1, 2, 2, 3, 4]);
  expect([
    new RowHeights(0, 26, () => 1).rowAt(0),
    heightsOf(
      [
        { kind: 'wbs', id: 'w' },
        { kind: 'activity', id: 'a' },
      ],
      20,
    ).total,
  ]).toEqual([0, 40]);
});

test('every pixel of a row is found in it, as a walk finds it', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 6 }), { maxLength: 40 }), fc.integer({ min: 4, max: 30 }), fc.nat(4000), (halves, base, y) => {
      const h = new RowHeights(halves.length, base, (i) => halves[i]! / 2);
      let top = 0;
      let found = -2;
      halves.forEach((n, i) => {
        const height = Math.round((n / 2) * base);
        expect([h.top(i), h.height(i)]).toEqual([top, height]);
        if (y >= top && y < top + height) found = i;
        top += height;
      });
      expect(h.rowAt(y)).toBe(found === -2 ? halves.length + Math.floor((y - top) / base) : found);
    }),
  );
});
