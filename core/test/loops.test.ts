/** Loops of the logic: which links close one, named with their activities; against a search of the whole network for each link. */
import fc from 'fast-check';
import { loopClosers, topologicalOrder } from '@yellowhammer/core/schedule/loops';
import { reaches, sure } from './helpers';

test('loop closers: exactly those links that a walk finds, and the rest can be ordered', () => {
  const edges = fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 30 });
  fc.assert(
    fc.property(edges, (list) => {
      const kept: [number, number][] = [];
      const expected: number[] = [];
      list.forEach(([a, b], i) => {
        if (a === b || reaches(kept, b, a)) expected.push(i);
        else kept.push([a, b]);
      });
      const { closers, loops } = loopClosers(
        10,
        list.map((e) => e[0]),
        list.map((e) => e[1]),
      );
      expect(closers).toEqual(expected);
      // Each loop that is named runs from the link's end to its beginning over links that are kept.
      for (const c of closers) {
        const loop = loops.get(c) as number[];
        expect([loop[0], loop[loop.length - 1]]).toEqual([list[c]![1], list[c]![0]]);
        for (let i = 1; i < loop.length; i++) expect(list.some((e, n) => n < c && !closers.includes(n) && e[0] === loop[i - 1] && e[1] === loop[i])).toBe(true);
      }
      expect(
        topologicalOrder(
          10,
          Int32Array.from(kept, (e) => e[0]),
          Int32Array.from(kept, (e) => e[1]),
        ),
      ).toHaveLength(10);
    }),
    { numRuns: 300 },
  );
});

const of = (text: string): { from: number[]; to: number[] } => {
  const pairs = text
    .split(' ')
    .filter(Boolean)
    .map((x) => x.split('>').map(Number));
  return { from: pairs.map((x) => x[0]!), to: pairs.map((x) => x[1]!) };
};
const closing = (n: number, text: string, steps?: number): string => {
  const { from, to } = of(text);
  const { closers, loops } = loopClosers(n, from, to, steps);
  return closers.map((l) => `${from[l]}>${to[l]}${loops.has(l) ? ` (${sure(loops.get(l)).join(' ')})` : ''}`).join(', ');
};

test.each<[string, string, string]>([
  ['none', '0>1 1>2 0>2', ''],
  ['one to itself', '0>0 0>1', '0>0 (0)'],
  ['two against each other: the later one', '0>1 1>0', '1>0 (0 1)'],
  ['along three', '0>1 1>2 2>0', '2>0 (0 1 2)'],
  ['against the order of the file, without a loop', '2>1 1>0', ''],
  ['the way that is there, not that which is not', '3>1 1>0 0>2 2>3', '2>3 (3 1 0 2)'],
  ['two loops apart', '0>1 1>0 2>3 3>2', '1>0 (0 1), 3>2 (2 3)'],
  ['a link between two loops closes none', '0>1 1>0 2>3 3>2 1>2 2>1', '1>0 (0 1), 3>2 (2 3), 2>1 (1 2)'],
  ['the same link twice', '0>1 1>0 1>0', '1>0 (0 1), 1>0 (0 1)'],
])('closing: %s', (_, links, expected) => {
  expect(closing(4, links)).toBe(expected);
});

test('two hundred loops are named, the others found all the same', () => {
  const links = Array.from({ length: 230 }, (_, i) => `${2 * i}>${2 * i + 1} ${2 * i + 1}>${2 * i} ${2 * i}>${2 * i}`).join(' ');
  const { from, to } = of(links);
  const { closers, loops } = loopClosers(460, from, to);
  expect([closers.length, loops.size]).toEqual([460, 200]);
});

test('beyond so many steps every link against the order counts as closing one', () => {
  // The order is reversed link by link: 2 before 1 before 0, and 0>3, 3>2 would close the loop.
  const links = '1>0 2>1 0>3 3>2';
  expect(closing(4, links)).toBe('3>2 (2 1 0 3)');
  // The search for 0>1 takes a step; from then on none is made, and 2>1 runs against the order though it closes nothing.
  expect(closing(4, '1>0 0>1 2>1 1>2', 0)).toBe('0>1 (1 0), 2>1');
  expect(closing(6, '0>1 1>0 3>2 2>3 5>4 4>5', 0)).toBe('1>0 (0 1), 3>2, 5>4');
});

test('the order: earlier in the file first among those that are ready at once; shorter in a loop', () => {
  const order = (n: number, text: string): number[] => {
    const { from, to } = of(text);
    return [...topologicalOrder(n, Int32Array.from(from), Int32Array.from(to))];
  };
  expect(order(4, '')).toEqual([0, 1, 2, 3]);
  expect(order(4, '3>0 3>1')).toEqual([2, 3, 0, 1]);
  expect(order(4, '2>0 0>1 1>3')).toEqual([2, 0, 1, 3]);
  expect(order(4, '0>1 1>0 2>3')).toEqual([2, 3]);
});
