/** Rows of the outline and their places are kept from edit to edit: the same as when they are made anew. */
import fc from 'fast-check';
import { applyChanges, type Change, invertChanges } from '@yellowhammer/core/change/change';
import { addActivity, addWbs, deleteRows } from '@yellowhammer/core/commands/outline';
import { setCell } from '@yellowhammer/core/commands/cells';
import { moveRowsTo } from '@yellowhammer/core/commands/copy-rows';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { PlacesOf } from '@yellowhammer/core/model/places';
import { documentOf, must, nodeInto, putInto, sure } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;

/** Two nodes at the top, one in the first; three activities in each, three beside them. */
function plan(): Document {
  const doc = documentOf({ activities: [...'ABCDEFGHIJKL'].map((id): [string, string] => [id, '1d']) });
  nodeInto(doc, 'P', null, 1);
  nodeInto(doc, 'Q', 'P', 20);
  nodeInto(doc, 'R', null, 50);
  [...'ABCDEFGHIJKL'].forEach((id, i) => putInto(doc, id, ['P', 'Q', 'R', null][i >> 2 === 3 ? 3 : Math.floor(i / 3)] ?? null, 10 + i));
  return doc;
}

const step = fc.record({ act: fc.nat(9), a: fc.nat(30), b: fc.nat(30) });

test('rows of the outline are those of a plan that was just read, whatever was done before', () => {
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 14 }), (steps) => {
      const doc = plan();
      const done: Change[][] = [];
      let closed = new Set<string>();
      const places = new PlacesOf(4);
      for (const s of [{ act: 99, a: 0, b: 0 }, ...steps]) {
        const [activities, nodes] = [[...doc.activities.keys()], [...doc.wbs.keys()]];
        const [id, node] = [activities[s.a % Math.max(1, activities.length)], nodes[s.a % Math.max(1, nodes.length)]];
        const into = [...nodes, null][s.b % (nodes.length + 1)]!;
        const take = (o: Outcome): void => {
          if (!o.ok) return;
          applyChanges(doc, o.changes);
          done.push([...o.changes]);
        };
        const put = (table: 'wbs' | 'activities' | 'project', row: string, fields: object): void => {
          const before = sure((doc[table] as Map<string, object>).get(row));
          done.push([{ table, id: row, before, after: { ...before, ...fields } } as Change]);
          applyChanges(doc, sure(done[done.length - 1]));
        };
        if (s.act === 0) take(addActivity(doc, id ? { kind: 'activity', id } : null, { name: 'New' }, newId));
        else if (s.act === 1) take(addWbs(doc, node ? { kind: 'wbs', id: node } : null, 'New', newId));
        else if (s.act === 2) take(deleteRows(doc, node && s.b % 3 === 0 ? [{ kind: 'wbs', id: node }] : id ? [{ kind: 'activity', id }] : []));
        else if (s.act === 3 && id) take(moveRowsTo(doc, [{ kind: 'activity', id }], { parent: into, after: null }));
        else if (s.act === 4 && node) take(moveRowsTo(doc, [{ kind: 'wbs', id: node }], { parent: into, after: null }));
        else if (s.act === 5 && node) put('wbs', node, [{ name: `Name ${s.b}` }, { code: `X${s.b}` }, { lane: s.b % 2 === 0 }][s.b % 3]!);
        else if (s.act === 6 && id) put('activities', id, { name: `Name ${s.b}` });
        else if (s.act === 7) closed = new Set(nodes.filter((_, i) => (s.b >> i) % 2 === 1));
        else if (s.act === 8 && done.length) applyChanges(doc, invertChanges(done.pop() as Change[]));
        else if (s.act === 9) put('project', 'project', { options: { ...sure([...doc.project.values()][0]).options, wbsPrefixes: s.b % 2 ? ['T', 'L'] : [] } });
        const [rows, anew] = [outlineRows(doc, closed), outlineRows(copyDocument(doc), closed)];
        expect(rows).toEqual(anew);
        const place = places.in(rows.map((r) => r.id));
        const ids = [...doc.activities.keys(), ...doc.wbs.keys(), ...'ABCDEFPQR', 'nobody'];
        const found = new Map(rows.map((r, i) => [r.id, i]));
        expect(ids.map((x) => [place.get(x), place.has(x)])).toEqual(ids.map((x) => [found.get(x), found.has(x)]));
      }
    }),
    { numRuns: 60 },
  );
});

test('a row that is what it was is the same one', () => {
  const doc = plan();
  const first = outlineRows(doc);
  // Who was given the list may do with it what they like.
  first.slice().forEach(() => first.pop());
  const before = outlineRows(doc);
  expect(before).toHaveLength(15);
  must(doc, addActivity(doc, { kind: 'activity', id: 'B' }, { name: 'New' }, newId));
  const after = outlineRows(doc);
  expect(after.filter((r) => !before.includes(r)).map((r) => r.kind === 'activity' && r.activity.name)).toEqual(['New']);
  must(doc, setCell(doc, 'E', 'name', 'Other', newId));
  expect(outlineRows(doc).flatMap((r, i) => (r === after[i] ? [] : [r.id]))).toEqual(['E']);
});

test('places in views follow lists that change a little, much, or are another plan', () => {
  const names = (from: number, n: number): string[] => Array.from({ length: n }, (_, i) => `a${from + i}`);
  const first = names(0, 5_000);
  const lists = [
    first,
    first.toSpliced(100, 2, 'x', 'y', 'z'),
    names(10_000, 4_000),
    first.toSpliced(4_990, 1),
    [...first].reverse(),
    ['z', ...first],
    first.slice(0, 4_999),
    [],
    first,
  ];
  for (const ids of lists) {
    const found = new Map(ids.map((id, i) => [id, i]));
    const asked = ['a0', 'a99', 'a100', 'a101', 'a102', 'a4990', 'a4999', 'a10000', 'a13999', 'x', 'z', 'nobody'];
    expect(asked.map((id) => placeOf({ ids }, id))).toEqual(asked.map((id) => found.get(id)));
  }
});
