/** The project as one window sees it: unsent edits on top of what others did, after a reload and after missing very much. */
import fc from 'fast-check';
import { applyChanges, type Batch, type Change, invertChanges, type LogEntry } from '@yellowhammer/core/change/change';
import { historyOf } from '@yellowhammer/core/change/history';
import { SyncedProject } from '@yellowhammer/core/change/synced';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import type { WbsNode } from '@yellowhammer/core/model/schema';
import { rollUp } from '@yellowhammer/core/rollup/rollup';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { outlineObjection } from '@yellowhammer/core/outline/rules';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { d, documentOf, sure } from './helpers';

const plan = (): Document => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
  });
  for (const [i, id] of ['X', 'Y', 'Z'].entries()) doc.wbs.set(id, { id, rank: i, parentId: null, name: id, code: '', lane: false, notes: '', values: {} });
  return doc;
};
let n = 0;
const batch = (changes: Change[], more: Partial<Batch> = {}): Batch => ({ changeId: `change-${++n}`, label: 'x', kind: 'do', target: null, changes, ...more });
const set = (doc: Document, id: string, days: number): Batch => {
  const o = setActivities(doc, [id], { duration: d(days) });
  if (!o.ok) throw new Error(o.problems[0]!.message);
  return batch(o.changes);
};
const under = (doc: Document, id: string, parentId: string | null): Batch => {
  const before = doc.wbs.get(id) as WbsNode;
  return batch([{ table: 'wbs', id, before, after: { ...before, parentId } }]);
};
const entry = (b: Batch, revision: number): LogEntry => ({ ...b, revision, who: 'Ada', client: 'other', at: '' });

test('a branch that would come to lie in itself is a clash, not a branch that is gone', () => {
  const synced = new SyncedProject(plan(), 1);
  const theirs = under(copyDocument(synced.doc), 'X', 'Y');
  synced.local(under(synced.doc, 'Y', 'X'));
  const [clash, ...more] = synced.remote([entry(theirs, 2)]);
  expect([clash?.rows.map((r) => r.id), more.length, synced.pending.length]).toEqual([['Y'], 0, 0]);
  expect(outlineRows(synced.doc).map((r) => r.id)).toEqual(expect.arrayContaining(['X', 'Y', 'Z', 'A', 'B', 'C']));
});

test('what a closed window left goes on top in its order; what meets another change is given back', () => {
  const doc = plan();
  const one = set(doc, 'A', 2);
  const work = copyDocument(doc);
  applyChanges(work, one.changes);
  const two = set(work, 'A', 3);
  const three = set(work, 'B', 4);
  const synced = new SyncedProject(doc, 1);
  synced.remote([entry(set(copyDocument(doc), 'B', 9), 2)]);
  const clashes = synced.adopt([one, two, three]);
  expect([clashes.map((c) => c.batch), synced.pending]).toEqual([[three], [one, two]]);
  expect(['A', 'B'].map((id) => synced.doc.activities.get(id)?.duration)).toEqual([d(3), d(9)]);
});

test('opened anew after missing very much: the plan of the server with what waits on top, and what it has had is no edit again', () => {
  const synced = new SyncedProject(plan(), 1);
  const had = set(synced.doc, 'A', 2);
  synced.local(had);
  const waits = set(synced.doc, 'B', 3);
  synced.local(waits);
  const meets = set(synced.doc, 'C', 4);
  synced.local(meets);
  const fresh = plan();
  applyChanges(fresh, had.changes);
  applyChanges(fresh, set(fresh, 'C', 8).changes);
  fresh.activities.delete('nothing');
  const seen: Change[] = [];
  synced.subscribe((changes) => seen.push(...changes));
  const clashes = synced.renew(fresh, 400, new Set([had.changeId]));
  expect([clashes.map((c) => c.batch), synced.pending, synced.revision]).toEqual([[meets], [waits], 400]);
  expect(['A', 'B', 'C'].map((id) => synced.doc.activities.get(id)?.duration)).toEqual([d(2), d(3), d(8)]);
  // Those who listen were told all of it: another copy that follows is the same.
  const follower = plan();
  applyChanges(follower, had.changes);
  applyChanges(follower, waits.changes);
  applyChanges(follower, meets.changes);
  applyChanges(follower, seen);
  expect(writeDocument(follower)).toBe(writeDocument(synced.doc));
});

test('an undo that was not sent is an undo after a reload, and no edit that undo would take back', () => {
  const doc = plan();
  const did = set(doc, 'A', 2);
  const undo = batch(invertChanges(did.changes), { kind: 'undo', target: did.changeId });
  const log = [entry(did, 2), entry(undo, 3)].map((e) => ({ ...e, client: 'me' }));
  const h = historyOf(log, 'me');
  expect([h.undo.length, h.redo.map((b) => b.changeId)]).toEqual([0, [did.changeId]]);
  // Adopted by another window it belongs to no list there.
  expect(historyOf([{ ...entry(undo, 3), client: 'you' }], 'you')).toEqual({ undo: [], redo: [] });
});

test('any moves of nodes: what is not objected to leaves no loop, and a walk finds one where it is', () => {
  const ids = ['a', 'b', 'c', 'd', 'e'];
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(4), fc.option(fc.nat(4), { nil: null })), { maxLength: 12 }), (moves) => {
      const parents = new Map<string, string | null>(ids.map((id) => [id, null]));
      const node = (id: string): WbsNode => ({ id, rank: 0, name: id, code: '', lane: false, notes: '', values: {}, parentId: parents.get(id) ?? null });
      for (const [i, p] of moves) {
        const [id, parentId] = [ids[i]!, p === null ? null : ids[p]!];
        const change: Change = { table: 'wbs', id, before: node(id), after: { ...node(id), parentId } };
        const no = outlineObjection([change], node, (of) => ids.filter((x) => parents.get(x) === of));
        // The slow twin: up from the new parent.
        let loop = false;
        for (let at = parentId, steps = 0; at !== null && steps < 20; at = parents.get(at) ?? null, steps++) if (at === id) loop = true;
        expect(no?.code).toBe(loop ? 'WBS_LOOP' : undefined);
        if (!no) parents.set(id, parentId);
      }
    }),
  );
});

test('roll-ups of a document whose nodes run in a loop do not hang, and the others are right', () => {
  const doc = plan();
  const nested = (id: string, parentId: string | null): void => void doc.wbs.set(id, { ...(doc.wbs.get(id) as WbsNode), parentId });
  nested('X', 'Y');
  nested('Y', 'X');
  for (const [id, wbsId] of [
    ['A', 'Z'],
    ['B', 'X'],
  ] as const)
    doc.activities.set(id, { ...sure(doc.activities.get(id)), wbsId });
  const r = rollUp(doc, sure(schedule(doc).computed));
  expect([r.get('Z')?.activities, r.get('')?.activities, r.get('X')]).toEqual([1, 3, undefined]);
});
