/** Many rows moved at once, up, down and from level to level: against a slow twin that moves them one by one in plain lists. */
import fc from 'fast-check';
import { dropRows, levelDown, levelUp, moveRows, type RowRef } from '@yellowhammer/core/commands/outline';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { documentOf, mustBack, nodeInto, putInto, sure } from './helpers';

/** Nodes are w0, w1 ..., each in one before it or on top; activities a0, a1 ... in any of them. */
const shape = fc.record({
  nodes: fc.array(fc.nat(9), { minLength: 1, maxLength: 6 }),
  acts: fc.array(fc.nat(6), { minLength: 1, maxLength: 12 }),
  chosen: fc.array(fc.tuple(fc.boolean(), fc.nat(11)), { minLength: 1, maxLength: 8 }),
});
type Shape = typeof shape extends fc.Arbitrary<infer S> ? S : never;
function planOf({ nodes, acts }: Shape): Document {
  const doc = documentOf({ activities: acts.map((_, i): [string, string] => [`a${i}`, '1d']) });
  nodes.forEach((p, i) => nodeInto(doc, `w${i}`, p < i ? `w${p}` : null, i * 2));
  acts.forEach((p, i) => putInto(doc, `a${i}`, p < nodes.length ? `w${p}` : null, i * 2 + 1));
  return doc;
}
/** Rows below each node, from top to bottom. */
const listsOf = (doc: Document): Map<string, string[]> =>
  new Map(
    ['', ...doc.wbs.keys()].map((p) => [
      p,
      indexOf(doc)
        .childrenOf(p === '' ? null : p)
        .map((c) => c.id),
    ]),
  );
const parentIn = (lists: Map<string, string[]>, id: string): string => [...lists].find(([, l]) => l.includes(id))?.[0] ?? '';
/** The chosen rows in the order of the outline, without those in chosen nodes. */
function chosenIn(doc: Document, { chosen }: Shape): string[] {
  const lists = listsOf(doc);
  const ids = new Set(chosen.map(([node, i]) => (node ? `w${i % doc.wbs.size}` : `a${i % doc.activities.size}`)));
  const out: string[] = [];
  const walk = (p: string): void =>
    lists.get(p)?.forEach((id) => {
      if (ids.has(id)) out.push(id);
      else walk(id);
    });
  walk('');
  return out;
}
const refs = (ids: readonly string[]): RowRef[] => ids.map((id) => ({ kind: id.startsWith('w') ? 'wbs' : 'activity', id }));
const without = (lists: Map<string, string[]>, id: string): void => {
  for (const [p, l] of lists)
    lists.set(
      p,
      l.filter((x) => x !== id),
    );
};

test('one level down: each row into the nearest node above it, past those above it that go too', () => {
  fc.assert(
    fc.property(shape, (s) => {
      const doc = planOf(s);
      const rows = chosenIn(doc, s);
      const before = listsOf(doc);
      const after = listsOf(doc);
      const targets = rows.map((id) => {
        const list = before.get(parentIn(before, id)) ?? [];
        let at = list.indexOf(id) - 1;
        while (at >= 0 && rows.includes(list[at]!)) at--;
        while (at >= 0 && !list[at]!.startsWith('w')) at--;
        return list[at];
      });
      const o = levelDown(doc, refs(rows));
      if (targets.includes(undefined)) return void expect(o).toMatchObject({ ok: false, problems: [{ code: 'NO_NODE_ABOVE' }] });
      rows.forEach((id, i) => {
        without(after, id);
        after.get(targets[i]!)?.push(id);
      });
      mustBack(doc, o);
      expect(listsOf(doc)).toEqual(after);
    }),
    { numRuns: 200 },
  );
});

test('one level up: behind the node that they were in, in their order', () => {
  fc.assert(
    fc.property(shape, (s) => {
      const doc = planOf(s);
      const rows = chosenIn(doc, s);
      const after = listsOf(doc);
      const from = rows.map((id) => parentIn(after, id));
      const o = levelUp(doc, refs(rows));
      if (from.includes('')) return void expect(o).toMatchObject({ ok: false, problems: [{ code: 'TOP_LEVEL' }] });
      const behind = new Map<string, string>();
      rows.forEach((id, i) => {
        const node = from[i]!;
        const grand = parentIn(listsOf(doc), node);
        without(after, id);
        const list = sure(after.get(grand));
        list.splice(list.indexOf(behind.get(node) ?? node) + 1, 0, id);
        behind.set(node, id);
      });
      mustBack(doc, o);
      expect(listsOf(doc)).toEqual(after);
    }),
    { numRuns: 200 },
  );
});

test.each(['up', 'down'] as const)('one place %s: all of them together, from where the first stands', (direction) => {
  fc.assert(
    fc.property(shape, (s) => {
      const doc = planOf(s);
      const after = listsOf(doc);
      const all = chosenIn(doc, s);
      const parent = parentIn(after, all[0] ?? '');
      const rows = all.filter((id) => parentIn(after, id) === parent);
      const list = sure(after.get(parent));
      const rest = list.filter((id) => !rows.includes(id));
      const at = list.indexOf(rows[0] ?? '') + (direction === 'up' ? -1 : 1);
      const o = moveRows(doc, refs(rows), direction);
      if (at < 0 || at > rest.length) {
        const aunts = (after.get(parentIn(after, parent)) ?? []).filter((id) => id.startsWith('w'));
        const next = parent === '' ? undefined : aunts[aunts.indexOf(parent) + (direction === 'up' ? -1 : 1)];
        if (next === undefined) return void expect(o).toMatchObject({ ok: false, problems: [{ code: 'AT_THE_END' }] });
        after.set(parent, rest);
        const into = sure(after.get(next));
        into.splice(direction === 'up' ? into.length : 0, 0, ...rows);
      } else after.set(parent, [...rest.slice(0, at), ...rows, ...rest.slice(at)]);
      mustBack(doc, o);
      expect(listsOf(doc)).toEqual(after);
    }),
    { numRuns: 200 },
  );
});

test.each<[string, (doc: Document, rows: RowRef[]) => ReturnType<typeof moveRows>]>([
  ['moved down', (doc, rows) => moveRows(doc, rows, 'down')],
  ['dropped', (doc, rows) => dropRows(doc, rows, { kind: 'activity', id: 'a350' }, 'before')],
])('many rows that are %s change themselves and no others', (_, act) => {
  const doc = documentOf({ activities: Array.from({ length: 400 }, (__, i): [string, string] => [`a${i}`, '1d']) });
  const rows = Array.from({ length: 200 }, (__, i): RowRef => ({ kind: 'activity', id: `a${i + 50}` }));
  const o = act(doc, rows);
  expect(o.ok && o.changes.map((c) => c.id)).toEqual(rows.map((r) => r.id));
  mustBack(doc, o);
});

test('where there is no room between two nodes, those that came out of the one before keep their places, too', () => {
  const doc = documentOf({ activities: ['a0', 'a1', 'a2'].map((id): [string, string] => [id, '1d']) });
  [0, 10, 10 + 2e-15].forEach((rank, i) => nodeInto(doc, `w${i}`, null, rank));
  putInto(doc, 'a0', 'w0', 0);
  putInto(doc, 'a1', 'w0', 1);
  putInto(doc, 'a2', 'w1', 0);
  mustBack(doc, levelUp(doc, refs(['a0', 'a1', 'a2'])));
  expect(listsOf(doc).get('')).toEqual(['w0', 'a0', 'a1', 'w1', 'a2', 'w2']);
});
