import fc from 'fast-check';
import { selectedOf } from '../src/plan/selected';

const rows = Array.from({ length: 12 }, (_, i) => ({ id: `r${i}` }));
const place = new Map(rows.map((r, i) => [r.id, i]));
const told = (ids: string[]): string =>
  [...rows, { id: 'in a lane' }, { id: 'gone' }]
    .filter((r) => selectedOf(ids, place).has(r.id))
    .map((r) => r.id)
    .join(' ');

test.each([
  [[], ''],
  [['r3'], 'r3'],
  [['r2', 'r3', 'r4'], 'r2 r3 r4'],
  [['r4', 'r3', 'r2'], 'r2 r3 r4'],
  [['r2', 'r4'], 'r2 r4'],
  [['r2', 'r4', 'r4', 'r5'], 'r2 r4 r5'],
  [['r2', 'r5', 'r4'], 'r2 r4 r5'],
  [['in a lane'], 'in a lane'],
  [['r1', 'in a lane'], 'r1 in a lane'],
  [['in a lane', 'r1'], 'r1 in a lane'],
  [['r1', 'gone', 'r3'], 'r1 r3 gone'],
])('of %j', (ids, is) => expect(told(ids)).toBe(is));

test('a stretch makes no set, and others do', () => {
  expect([selectedOf(['r2', 'r3'], place), selectedOf(['r2', 'r4'], place)].map((s) => s instanceof Set)).toEqual([false, true]);
});

test('any rows in any order: as a set would say', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(13), { maxLength: 8 }), fc.nat(11), fc.nat(11), fc.boolean(), (some, from, to, stretch) => {
      const all = stretch ? rows.slice(Math.min(from, to), Math.max(from, to) + 1).map((r) => r.id) : some.map((i) => `r${i}`);
      const ids = from > to ? all.reverse() : all;
      const selected = selectedOf(ids, place);
      for (let i = 0; i < 14; i++) expect(selected.has(`r${i}`)).toBe(ids.includes(`r${i}`));
    }),
  );
});
