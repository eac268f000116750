import fc from 'fast-check';
import { RowElements } from '../src/plan/row-elements';

type Rows = readonly { id: string }[];
const rows: Rows = Array.from({ length: 100 }, (_, i) => ({ id: `r${i}` }));
const window = (from: number, n: number): { index: number }[] => Array.from({ length: n }, (_, i) => ({ index: from + i }));
const elements = (): ((from: number, n: number, list?: Rows, inOrder?: boolean) => string) => {
  const kept = new RowElements<{ index: number }>();
  return (from, n, list = rows, inOrder = false) =>
    kept
      .of(window(from, n), list, inOrder)
      .map((e) => `${e.key}:${list[e.item.index]!.id}`)
      .join(' ');
};

test('scrolled: rows that come in take the elements of those that left, where these stand', () => {
  const at = elements();
  expect([at(0, 4), at(2, 4), at(3, 4), at(1, 4), at(9, 4)]).toEqual([
    '0:r0 1:r1 2:r2 3:r3',
    '0:r4 1:r5 2:r2 3:r3',
    '0:r4 1:r5 2:r6 3:r3',
    '0:r4 1:r1 2:r2 3:r3',
    '0:r9 1:r10 2:r11 3:r12',
  ]);
});

test('scrolled to more or fewer rows: elements are made where there are none, and left out', () => {
  const at = elements();
  expect([at(0, 3), at(2, 5), at(6, 2)]).toEqual(['0:r0 1:r1 2:r2', '0:r3 1:r4 3:r5 4:r6 2:r2', '0:r7 4:r6']);
});

test('at rest their order is that of the rows', () => {
  const at = elements();
  at(0, 4);
  at(2, 4);
  expect([at(2, 4, rows, true), at(1, 4)]).toEqual(['2:r2 3:r3 0:r4 1:r5', '2:r2 3:r3 0:r4 1:r1']);
});

test('a row that comes into the plan has elements of its own in its place, and the others keep theirs', () => {
  const at = elements();
  at(0, 4);
  at(2, 4);
  const more = [...rows.slice(0, 4), { id: 'new' }, ...rows.slice(4)];
  expect([at(2, 4, more), at(2, 5, more), at(2, 4, rows)]).toEqual(['0:r4 2:r2 3:r3 4:new', '0:r4 5:r5 2:r2 3:r3 4:new', '0:r4 5:r5 2:r2 3:r3']);
});

test('wherever one scrolls and whatever comes and goes: each row has elements of its own, those that stay keep them, and rest gives their order', () => {
  const act = fc.record({ from: fc.nat(60), n: fc.integer({ min: 0, max: 30 }), cut: fc.option(fc.nat(70)), inOrder: fc.boolean() });
  fc.assert(
    fc.property(fc.array(act, { minLength: 2, maxLength: 8 }), (acts) => {
      const kept = new RowElements<{ index: number }>();
      let list = rows;
      let before = new Map<string, number>();
      for (const { from, n, cut, inOrder } of acts) {
        if (cut !== null) list = list.filter((_, i) => i !== cut);
        const drawn = kept.of(window(from, n), list, inOrder);
        const now = new Map(drawn.map((e) => [list[e.item.index]!.id, e.key]));
        expect([...now.keys()].sort()).toEqual(
          list
            .slice(from, from + n)
            .map((r) => r.id)
            .sort(),
        );
        expect(new Set(now.values()).size).toBe(n);
        for (const [id, key] of before) if (now.has(id)) expect(now.get(id)).toBe(key);
        if (inOrder) expect(drawn.map((e) => e.item.index)).toEqual(window(from, n).map((i) => i.index));
        before = now;
      }
    }),
  );
});
