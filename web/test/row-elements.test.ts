import fc from 'fast-check';
import { elementsOf } from '../src/plan/row-elements';

const rows = Array.from({ length: 100 }, (_, i) => ({ id: `r${i}` }));
const window = (from: number, n: number): { index: number }[] => Array.from({ length: n }, (_, i) => ({ index: from + i }));
const drawn = (from: number, n: number, most: number, edited?: string, list = rows): string =>
  elementsOf(window(from, n), most, list, edited)
    .map((e) => `${e.key}:${list[e.item.index]!.id}`)
    .join(' ');

test.each<[string, Parameters<typeof drawn>, string]>([
  ['at the top in the order of the rows', [0, 4, 5], '0:r0 1:r1 2:r2 3:r3'],
  ['scrolled by two: two new ones in the places of those that left', [2, 5, 5], '0:r5 1:r6 2:r2 3:r3 4:r4'],
  ['more than were thought of', [3, 4, 2], '0:r4 1:r5 2:r6 3:r3'],
  ['the one that is typed into behind the others', [2, 5, 5, 'r3'], '0:r5 1:r6 2:r2 4:r4 edited:r3'],
  ['one that is typed into and out of view', [2, 3, 5, 'r9'], '2:r2 3:r3 4:r4'],
])('%s', (_, of, is) => expect(drawn(...of)).toBe(is));

test('a row that comes in above leaves the elements of the one that is typed into', () => {
  const more = [...rows.slice(0, 2), { id: 'new' }, ...rows.slice(2)];
  expect([drawn(0, 4, 6, 'r2'), drawn(0, 5, 6, 'r2', more)]).toEqual(['0:r0 1:r1 3:r3 edited:r2', '0:r0 1:r1 2:new 4:r3 edited:r2']);
});

test('wherever one scrolls each row has elements of its own, and one that stays keeps them', () => {
  fc.assert(
    fc.property(fc.nat(60), fc.nat(60), fc.integer({ min: 1, max: 30 }), fc.option(fc.nat(99)), (a, b, n, edited) => {
      const at = (from: number): Map<number, string | number> =>
        new Map(elementsOf(window(from, n), n, rows, edited === null ? undefined : `r${edited}`).map((e) => [e.item.index, e.key]));
      const [before, after] = [at(a), at(b)];
      expect(new Set(before.values()).size).toBe(n);
      for (const [index, key] of before) if (after.has(index)) expect(after.get(index)).toBe(key);
    }),
  );
});
