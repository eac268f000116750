/** Sorting: each kind by its rule, empty last both ways, the outline kept, alike rows as they were. */
import fc from 'fast-check';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { nextSort, sortRows, type SortKey } from '@yellowhammer/core/fields/sort';
import { builtIn } from '@yellowhammer/core/fields/list';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { documentOf, must, nodeInto, putInto, sure, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
function plan(): Document {
  return documentOf({
    activities: [
      ['A10', '2d', { name: 'pour', cost: 5, priority: 7 }],
      ['A2', '10d', { name: 'Dig', cost: 0, actualStart: null }],
      ['A1', '1d @six', { name: 'cure', cost: 90, hidden: true }],
      ['M', 'finish', { name: 'ready', cost: 90 }],
    ],
    links: ['A2 > A10', 'A10 > M'],
  });
}
const order = (doc: Document, sort: SortKey[], flat = false): string =>
  sortRows(outlineRows(doc), sort, { doc, view: viewIn(doc), baseline: null, clock: false }, flat)
    .map((r) => (r.kind === 'wbs' ? `[${r.node.name}]` : r.activity.code))
    .join(' ');
const up = (key: string): SortKey => ({ key, descending: false });
const down = (key: string): SortKey => ({ key, descending: true });

test.each<[string, SortKey[], string]>([
  ['numbers in texts as numbers', [up('code')], 'A1 A2 A10 M'],
  ['falling', [down('code')], 'M A10 A2 A1'],
  ['names whatever their case', [up('name')], 'A1 A2 A10 M'],
  ['minutes, not texts; a milestone has none and comes last', [up('duration')], 'A1 A10 A2 M'],
  ['last also when falling', [down('duration')], 'A2 A10 A1 M'],
  ['dates by instant', [down('finish')], 'A10 M A2 A1'],
  ['money', [up('cost')], 'A2 A10 A1 M'],
  ['the second field where the first is alike', [down('cost'), down('code')], 'M A1 A10 A2'],
  ['choices by their order, not their words', [up('type')], 'A10 A2 A1 M'],
  ['yes or no: what is not set is empty', [up('hidden')], 'A1 A10 A2 M'],
  ['a field that is not there sorts nothing', [up('zz')], 'A10 A2 A1 M'],
  ['nothing', [], 'A10 A2 A1 M'],
])('%s', (_, sort, expected) => expect(order(plan(), sort)).toBe(expected));

test('values of a code set come in the order of the set, and who has none last', () => {
  const doc = plan();
  const set = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  for (const short of ['West', 'East']) must(doc, addCodeValue(doc, set, { short }, newId));
  must(doc, setCell(doc, 'A2', `code:${set}`, 'East', newId));
  must(doc, setCell(doc, 'M', `code:${set}`, 'West', newId));
  expect([order(doc, [up(`code:${set}`)]), order(doc, [down(`code:${set}`)])]).toEqual(['M A2 A10 A1', 'A2 M A10 A1']);
});

test('nodes stay where they are; rows are sorted within theirs, in a list without an outline all together', () => {
  const doc = plan();
  nodeInto(doc, 'N', null, 1.5);
  putInto(doc, 'A1', 'N', 0);
  putInto(doc, 'M', 'N', 1);
  forgetIndex(doc);
  expect(order(doc, [])).toBe('A10 A2 [N] A1 M');
  expect(order(doc, [down('code')])).toBe('A10 A2 [N] M A1');
  expect(order(doc, [up('code')])).toBe('A2 A10 [N] A1 M');
  const rows = outlineRows(doc).filter((r) => r.kind === 'activity');
  const flat = (f: boolean): string =>
    sortRows(rows, [up('code')], { doc, view: null, baseline: null, clock: false }, f)
      .map((r) => r.id)
      .join(' ');
  expect([flat(true), flat(false)]).toEqual(['A1 A2 A10 M', 'A2 A10 A1 M']);
});

test.each<[SortKey[], string, boolean, SortKey[]]>([
  [[], 'a', false, [up('a')]],
  [[up('a')], 'a', false, [down('a')]],
  [[down('a')], 'a', false, []],
  [[up('a')], 'b', false, [up('b')]],
  [[up('a')], 'b', true, [up('a'), up('b')]],
  [[up('a'), up('b')], 'a', true, [down('a'), up('b')]],
  [[down('a'), up('b')], 'a', true, [up('b')]],
])('%j, then %s (added: %s)', (sort, key, add, next) => expect(nextSort(sort, key, add)).toEqual(next));

test('by any field: the same rows, in order both ways, empty ones last', () => {
  const doc = plan();
  const keys = builtIn.map((f) => f.key);
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.constantFrom(...keys), fc.boolean()), { minLength: 1, maxLength: 3 }), (list) => {
      const sort = list.map(([key, descending]) => ({ key, descending }));
      const once = order(doc, sort);
      expect(once.split(' ').sort()).toEqual(order(doc, []).split(' ').sort());
      // Sorted again by the same it stays: alike rows keep their order.
      const context = { doc, view: viewIn(doc), baseline: null, clock: false };
      const rows = sortRows(outlineRows(doc), sort, context);
      expect(sortRows(rows, sort, context).map((r) => r.id)).toEqual(rows.map((r) => r.id));
    }),
  );
});
