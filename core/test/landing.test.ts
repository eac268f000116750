/** Rows that are dragged in the sheet: where they land is where they stand afterwards. */
import fc from 'fast-check';
import { moveRowsTo } from '@yellowhammer/core/commands/copy-rows';
import type { Document } from '@yellowhammer/core/model/document';
import { landing } from '@yellowhammer/core/outline/landing';
import { outlineRows, projectRow } from '@yellowhammer/core/outline/outline';
import { documentOf, mustBack, nodeInto, putInto, says } from './helpers';

/** X holds A and Y, which holds B; C stands behind them; E is an empty node. */
function plan(): Document {
  const doc = documentOf({ activities: ['A', 'B', 'C', 'D'].map((id): [string, string] => [id, '1d']) });
  nodeInto(doc, 'X', null, 0);
  nodeInto(doc, 'Y', 'X', 1);
  nodeInto(doc, 'E', null, 5);
  putInto(doc, 'A', 'X', 0);
  putInto(doc, 'B', 'Y', 0);
  putInto(doc, 'C', null, 1);
  putInto(doc, 'D', null, 9);
  return doc;
}
const none = new Set<string>();
// 0 X, 1 .A, 2 .Y, 3 ..B, 4 C, 5 E, 6 D
test.each<[number, number, [number, string | null, string | null]]>([
  [0, 3, [0, null, null]],
  [1, 0, [1, 'X', null]],
  [2, 0, [1, 'X', 'A']],
  [3, 9, [2, 'Y', null]],
  [4, 9, [2, 'Y', 'B']],
  [4, 1, [1, 'X', 'Y']],
  [4, 0, [0, null, 'X']],
  [5, 0, [0, null, 'C']],
  [6, 0, [0, null, 'E']],
  [6, 1, [1, 'E', null]],
  [7, 5, [0, null, 'D']],
])('gap %i at level %i', (gap, wish, [depth, parent, after]) => expect(landing(outlineRows(plan()), gap, wish, none)).toEqual({ gap, depth, parent, after }));

test.each<[number, number, [number, string | null, string | null]]>([
  [0, 0, [0, null, null]],
  [1, 3, [0, null, null]],
  [2, 9, [1, 'X', null]],
  [5, 0, [0, null, 'X']],
  [6, 0, [0, null, 'C']],
])('under the row of the project: gap %i at level %i', (gap, wish, [depth, parent, after]) => {
  const doc = plan();
  expect(landing([projectRow(doc), ...outlineRows(doc)], gap, wish, none)).toMatchObject({ depth, parent, after });
});

test('beside a closed node rows go behind it, or into it where that is wished', () => {
  const closed = new Set(['X']);
  const rows = outlineRows(plan(), closed);
  expect(landing(rows, 1, 0, closed)).toEqual({ gap: 1, depth: 0, parent: null, after: 'X' });
  expect(landing(rows, 1, 1, closed)).toEqual({ gap: 1, depth: 1, parent: 'X', after: null });
});

test('what is moved to a landing stands in that gap, on that level', () => {
  fc.assert(
    fc.property(fc.nat(7), fc.nat(3), fc.constantFrom('A', 'B', 'C', 'D', 'Y', 'E'), (gap, wish, id) => {
      const doc = plan();
      const rows = outlineRows(doc);
      const to = landing(rows, gap, wish, none);
      const kind = doc.wbs.has(id) ? 'wbs' : 'activity';
      const o = moveRowsTo(doc, [{ kind, id }], to);
      if (!o.ok) return expect(says(o)).toMatch(/there already|inside itself/);
      mustBack(doc, o);
      const now = outlineRows(doc);
      const moved = now.find((r) => r.id === id);
      expect(moved?.depth).toBe(to.depth);
      // The row that was above the gap is above it still, unless it was moved itself or lies in what was moved.
      const above = rows[gap - 1];
      const inside = new Set(kind === 'wbs' ? ['Y', 'B', 'E'].filter((x) => x === id || (id === 'Y' && x === 'B')) : [id]);
      if (above && !inside.has(above.id)) expect(now[now.findIndex((r) => r.id === id) - 1]?.id).toBe(above.id);
    }),
    { numRuns: 300 },
  );
});
