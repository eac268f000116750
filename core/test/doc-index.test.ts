/** The index that is kept says what one made anew would say, whatever changes come. */
import fc from 'fast-check';
import { applyChanges, type Change, invertChanges } from '@yellowhammer/core/change/change';
import { trying } from '@yellowhammer/core/change/trial';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { DocIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import { type Activity, activityDefaults, type Link, type WbsNode } from '@yellowhammer/core/model/schema';
import { documentOf } from './helpers';

/** All that an index can say of the rows that there may be. */
function said(doc: Document, index: DocIndex): unknown {
  const ids = Array.from({ length: 6 }, (_, i) => i);
  return {
    children: [null, ...ids.map((i) => `w${i}`)].map((p) => index.childrenOf(p)),
    last: [null, ...ids.map((i) => `w${i}`)].map((p) => index.lastIn(p)?.id),
    nodes: [null, ...ids.map((i) => `w${i}`)].map((p) => index.nodesIn(p).map((c) => `${c.kind} ${c.id}`)),
    into: ids.map((i) => index.linksInto(`a${i}`)),
    outOf: ids.map((i) => index.linksOutOf(`a${i}`)),
    codes: ['1', '2', '3', 'x'].map((c) => [...index.withCode(c)].map((a) => a.id).sort()),
    rows: ['1', '2', '3', 'x'].flatMap((c) => index.withCode(c).map((a) => doc.activities.get(a.id) === a)),
    shared: index.sharedCodes().length,
    greatest: index.greatestNumber(),
    calendars: ['five', 'six'].map((c) => [...index.withCalendar(c)].sort()),
  };
}

const nodeId = fc.nat(5).map((i) => `w${i}`);
const parent = fc.option(nodeId, { nil: null });
const rank = fc.integer({ min: 0, max: 5 });
const activity = fc
  .tuple(fc.nat(5), rank, fc.constantFrom('1', '2', '3', 'X'), parent, fc.constantFrom(null, 'five', 'six'), fc.nat(3))
  .map(([i, r, code, wbsId, calendarId, n]): Activity => ({ ...activityDefaults, id: `a${i}`, rank: r, code, wbsId, calendarId, duration: n }));
const node = fc.tuple(fc.nat(5), rank, parent).map(([i, r, parentId]): WbsNode => ({ id: `w${i}`, rank: r, parentId, name: '', code: '', lane: false, notes: '', values: {} }));
const link = fc
  .tuple(fc.nat(7), fc.nat(5), fc.nat(5), rank)
  .map(([i, a, b, r]): Link => ({ id: `l${i}`, rank: r, from: `a${a}`, to: `a${b}`, type: 'FS', lag: 0, lagCalendar: null }));
const change = fc
  .tuple(
    fc.oneof(
      activity.map((row) => ({ table: 'activities' as const, row })),
      node.map((row) => ({ table: 'wbs' as const, row })),
      link.map((row) => ({ table: 'links' as const, row })),
    ),
    fc.integer({ min: 0, max: 3 }),
  )
  .map(([{ table, row }, n]): Change => ({ table, id: row.id, before: null, after: n === 0 ? null : row }));

test('after any changes, few or many at once, and after taking them back', () => {
  fc.assert(
    fc.property(fc.array(fc.array(change, { maxLength: 12 }), { maxLength: 8 }), fc.boolean(), (batches, many) => {
      const doc = documentOf({ activities: [] });
      indexOf(doc).childrenOf(null);
      for (const batch of batches) {
        const real = batch.flatMap((c): Change[] => [{ ...c }]);
        // A batch over the limit is taken without mending lists.
        const all = many ? [...real, ...Array.from({ length: 70 }, (): Change => ({ table: 'wbs', id: 'none', before: null, after: null }))] : real;
        applyChanges(doc, all);
        // The last one is asked before anybody has the list of all.
        for (const w of [null, ...doc.wbs.keys()]) expect(indexOf(doc).lastIn(w)?.id).toBe(new DocIndex(doc).childrenOf(w).at(-1)?.id);
        expect(said(doc, indexOf(doc))).toEqual(said(doc, new DocIndex(doc)));
      }
      const known = said(doc, indexOf(doc));
      const copy = copyDocument(doc);
      const next = batches.flat().slice(0, 5);
      const seen = trying(doc, (put) => {
        for (const c of next) put([{ ...c, before: (doc[c.table].get(c.id) ?? null) as Change['before'] }]);
        return said(doc, indexOf(doc));
      });
      applyChanges(copy, next);
      expect(seen).toEqual(said(copy, new DocIndex(copy)));
      expect(said(doc, indexOf(doc))).toEqual(known);
    }),
    { numRuns: 150 },
  );
});

test('what trying throws leaves the document as it was', () => {
  const doc = documentOf({ activities: [['A', '1d']] });
  const a = doc.activities.get('A');
  const gone: Change = { table: 'activities', id: 'A', before: a ?? null, after: null };
  expect(() =>
    trying(doc, (put) => {
      put([gone]);
      expect(doc.activities.size).toBe(0);
      throw new Error('stop');
    }),
  ).toThrow('stop');
  expect(doc.activities.get('A')).toBe(a);
  expect(invertChanges([gone])).toEqual([{ table: 'activities', id: 'A', before: null, after: a }]);
});

test('the WBS nodes among the rows of a node are those, in order, also when rows beside them come and go', () => {
  const doc = documentOf({ activities: [['A', '1d']] });
  const put = (id: string, r: number): void =>
    applyChanges(doc, [{ table: 'wbs', id, before: null, after: { id, rank: r, parentId: null, name: '', code: '', lane: false, notes: '', values: {} } }]);
  const nodes = (): string =>
    indexOf(doc)
      .nodesIn(null)
      .map((c) => c.id)
      .join(' ');
  expect([nodes(), indexOf(doc).nodesIn('gone')]).toEqual(['', []]);
  put('b', 9);
  put('a', -1);
  expect(nodes()).toBe('a b');
  const held = indexOf(doc).nodesIn(null);
  expect(indexOf(doc).nodesIn(null)).toBe(held);
  applyChanges(doc, [{ table: 'wbs', id: 'a', before: doc.wbs.get('a') ?? null, after: null }]);
  expect([nodes(), held.length]).toEqual(['b', 2]);
});

test('a list of rows that somebody holds stays as it is, whatever comes and goes', () => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
  });
  const ids = (list: readonly { id: string }[]): string => list.map((c) => c.id).join(' ');
  const change = (id: string, after: Activity | null): void => applyChanges(doc, [{ table: 'activities', id, before: doc.activities.get(id) ?? null, after }]);
  const held = indexOf(doc).childrenOf(null);
  change('B', null);
  const less = indexOf(doc).childrenOf(null);
  change('D', { ...activityDefaults, id: 'D', code: 'D', rank: 0.5 });
  change('E', { ...activityDefaults, id: 'E', code: 'E', rank: 9 });
  expect([ids(held), ids(less), ids(indexOf(doc).childrenOf(null)), indexOf(doc).lastIn(null)?.id]).toEqual(['A B C', 'A C', 'A D C E', 'E']);
});
