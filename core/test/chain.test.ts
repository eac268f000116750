/** The chain of an activity: all that leads to it and all that it leads to, and nothing beside it. */
import fc from 'fast-check';
import { chainOf } from '@yellowhammer/core/plan/trace';
import { documentOf } from './helpers';

test('what stands beside the chain is not in it, though it shares an end', () => {
  const doc = documentOf({
    activities: ['A', 'B', 'C', 'D', 'E'].map((id): [string, string] => [id, '1d']),
    links: ['A > B', 'B > C', 'A > D', 'D > C', 'E > C'],
  });
  const chain = chainOf(doc, 'B');
  expect([...chain.activities].sort()).toEqual(['A', 'B', 'C']);
  expect([...chain.links].sort()).toEqual(['l0', 'l1']);
  expect(chainOf(doc, 'gone')).toEqual({ activities: new Set(['gone']), links: new Set() });
});

test('an activity is in the chain of another where a walk leads from one to the other; also where links run in a loop', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(7), fc.nat(7)), { maxLength: 16 }), fc.nat(7), (edges, at) => {
      const doc = documentOf({ activities: Array.from({ length: 8 }, (_, i): [string, string] => [`N${i}`, '1d']) });
      edges.forEach(([a, b], i) => doc.links.set(`l${i}`, { id: `l${i}`, rank: i, from: `N${a}`, to: `N${b}`, type: 'FS', lag: 0, lagCalendar: null }));
      const reach = (from: number, forward: boolean): Set<number> => {
        const seen = new Set([from]);
        for (let grew = true; grew;) {
          grew = false;
          for (const [a, b] of edges) {
            const [x, y] = forward ? [a, b] : [b, a];
            if (seen.has(x) && !seen.has(y)) grew = Boolean(seen.add(y));
          }
        }
        return seen;
      };
      const wanted = new Set([...reach(at, true), ...reach(at, false)].map((i) => `N${i}`));
      expect(chainOf(doc, `N${at}`).activities).toEqual(wanted);
    }),
    { numRuns: 200 },
  );
});
