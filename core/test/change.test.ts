/** Changes: inverses are exact, one road for two windows, undo and redo from the log. */
import fc from 'fast-check';
import { applyChanges, type Batch, type Change, clashes, diffDocuments, invertChanges, type LogEntry, sameValue } from '@yellowhammer/core/change/change';
import { historyOf } from '@yellowhammer/core/change/history';
import { SyncedProject } from '@yellowhammer/core/change/synced';
import { addActivity, addWbs, deleteRows, dropRows, levelDown, levelUp, moveRows, type RowRef } from '@yellowhammer/core/commands/outline';
import { setActivities, setCell } from '@yellowhammer/core/commands/cells';
import { builtIn } from '@yellowhammer/core/fields/list';
import { deleteLinks, linkInOrder } from '@yellowhammer/core/commands/links';
import { keepBaseline, setOptions } from '@yellowhammer/core/commands/project';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { copyDocument, type Document, projectOf } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import { documentOf } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const base = (): Document =>
  documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['C', '1d'],
      ['M', 'finish'],
    ],
    links: ['A > B', 'B > C'],
  });

/** Some command on some rows, by numbers. */
function someCommand(doc: Document, kind: number, x: number, y: number): Outcome {
  const ids = [...doc.activities.keys()];
  const id = ids[x % Math.max(ids.length, 1)] ?? '';
  const other = ids[y % Math.max(ids.length, 1)] ?? '';
  switch (kind % 8) {
    case 0:
      return addActivity(doc, ids.length ? { kind: 'activity', id } : null, { name: `new ${x}` }, newId);
    case 1:
      return deleteRows(doc, [{ kind: 'activity', id }]);
    case 2:
      return setActivities(doc, [id, other], { duration: x * 60 });
    case 3:
      return linkInOrder(doc, [id, other], newId);
    case 4:
      return setCell(doc, id, 'predecessors', '', newId);
    case 5:
      return moveRows(doc, [{ kind: 'activity', id }], y % 2 ? 'up' : 'down');
    case 6:
      return setOptions(doc, { criticalThreshold: x });
    default:
      return keepBaseline(doc, { id: newId(), name: `b${n}`, description: '', at: '2026-03-01T00:00:00.000Z' });
  }
}
const steps = fc.array(fc.tuple(fc.nat(7), fc.nat(20), fc.nat(20)), { minLength: 1, maxLength: 15 });

test('undoing any run of commands gives the same bytes back, and redoing them the other ones', () => {
  fc.assert(
    fc.property(steps, (list) => {
      const doc = base();
      const texts = [writeDocument(doc)];
      const batches: Change[][] = [];
      for (const [k, x, y] of list) {
        const o = someCommand(doc, k, x, y);
        if (!o.ok) continue;
        applyChanges(doc, o.changes);
        batches.push(o.changes);
        texts.push(writeDocument(doc));
      }
      for (let i = batches.length - 1; i >= 0; i--) {
        applyChanges(doc, invertChanges(batches[i]!));
        expect(writeDocument(doc)).toBe(texts[i]);
      }
      batches.forEach((b, i) => {
        expect(clashes(doc, b)).toEqual([]);
        applyChanges(doc, b);
        expect(writeDocument(doc)).toBe(texts[i + 1]);
      });
    }),
    { numRuns: 150 },
  );
});

test('a difference of two documents makes one of the other, both ways', () => {
  fc.assert(
    fc.property(steps, (list) => {
      const a = base();
      const b = copyDocument(a);
      for (const [k, x, y] of list) {
        const o = someCommand(b, k, x, y);
        if (o.ok && k % 8 < 7) applyChanges(b, o.changes);
      }
      const there = diffDocuments(a, b);
      const work = copyDocument(a);
      applyChanges(work, there);
      expect(writeDocument(work)).toBe(writeDocument(b));
      applyChanges(work, invertChanges(there));
      expect(writeDocument(work)).toBe(writeDocument(a));
    }),
    { numRuns: 100 },
  );
});

test('a command is refused whole: the document is not touched', () => {
  const doc = base();
  const before = writeDocument(doc);
  expect(linkInOrder(doc, ['A', 'M', 'A'], newId).ok).toBe(false);
  expect(levelDown(doc, [{ kind: 'activity', id: 'A' }]).ok).toBe(false);
  expect(writeDocument(doc)).toBe(before);
});

test('rows that another window has deleted meanwhile are refused or passed over, by every command', () => {
  for (const doc of [base(), documentOf({ activities: [] })]) {
    const before = writeDocument(doc);
    const gone: RowRef[] = [
      { kind: 'activity', id: 'gone' },
      { kind: 'wbs', id: 'gone too' },
      { kind: 'activity', id: '' },
    ];
    for (const outcome of [
      deleteRows(doc, gone),
      levelDown(doc, gone),
      levelUp(doc, gone),
      moveRows(doc, gone, 'up'),
      moveRows(doc, gone, 'down'),
      dropRows(doc, gone, { kind: 'activity', id: 'A' }, 'before'),
      dropRows(doc, [{ kind: 'activity', id: 'A' }], gone[1]!, 'inside'),
      linkInOrder(doc, ['gone', 'A'], newId),
      deleteLinks(doc, ['gone']),
      setActivities(doc, ['gone'], { duration: 60 }),
      ...builtIn.map((f) => setCell(doc, 'gone', f.key, '1', newId)),
    ])
      expect(outcome).toMatchObject({ ok: false });
    // What is added below a row that has gone comes at the end of the top level, with references that hold.
    for (const ref of gone)
      for (const outcome of [addActivity(doc, ref, { name: 'new' }, newId), addWbs(doc, ref, 'new', newId, true)]) {
        expect(outcome.ok).toBe(true);
        if (outcome.ok) expect(outcome.changes.map((c) => c.after)).toEqual([expect.objectContaining(outcome.changes[0]!.table === 'wbs' ? { parentId: null } : { wbsId: null })]);
      }
    expect(writeDocument(doc)).toBe(before);
  }
});

describe('two windows', () => {
  const batch = (outcome: Outcome): Batch => {
    if (!outcome.ok) throw new Error(outcome.problems[0]!.message);
    return { changeId: newId().padStart(8, '0'), label: outcome.label, kind: 'do', target: null, changes: outcome.changes };
  };
  const entry = (b: Batch, revision: number): LogEntry => ({ ...b, revision, who: 'Ada', client: 'other', at: '' });

  test('an edit of another row goes under the own unsent one', () => {
    const w = new SyncedProject(base(), 1);
    w.local(batch(setActivities(w.doc, ['A'], { duration: 60 })));
    const theirs = entry(batch(setActivities(base(), ['B'], { duration: 120 })), 2);
    expect(w.remote([theirs])).toEqual([]);
    expect([w.doc.activities.get('A')?.duration, w.doc.activities.get('B')?.duration]).toEqual([60, 120]);
    expect([w.revision, w.pending.length]).toEqual([2, 1]);
  });
  test('an edit of the same row is a clash that names it; mine can be written over it', () => {
    const w = new SyncedProject(base(), 1);
    w.local(batch(setActivities(w.doc, ['A'], { duration: 60 })));
    const clash = w.remote([entry(batch(setActivities(base(), ['A'], { duration: 999 })), 2)])[0]!;
    expect(clash.who).toBe('Ada');
    expect(clash.rows).toEqual([expect.objectContaining({ table: 'activities', id: 'A' })]);
    expect(w.doc.activities.get('A')?.duration).toBe(999);
    const over = w.overTheirs(clash.batch);
    expect(clashes(w.doc, over)).toEqual([]);
    applyChanges(w.doc, over);
    expect(w.doc.activities.get('A')?.duration).toBe(60);
  });
  test('the own batch coming back as an event is not applied twice', () => {
    const w = new SyncedProject(base(), 1);
    const b = batch(addActivity(w.doc, null, { name: 'X' }, newId));
    w.local(b);
    expect(w.remote([entry(b, 2)])).toEqual([]);
    expect([w.doc.activities.size, w.pending.length, w.revision]).toEqual([5, 0, 2]);
  });
  test('a refused batch is taken back, with what was built on it', () => {
    const w = new SyncedProject(base(), 1);
    const add = batch(addActivity(w.doc, null, { name: 'X' }, newId));
    w.local(add);
    const id = add.changes[0]!.id;
    w.local(batch(setActivities(w.doc, [id], { duration: 1 })));
    w.local(batch(setActivities(w.doc, ['A'], { duration: 2 })));
    expect(w.refused(add.changeId)).toHaveLength(2);
    expect(w.doc.activities.has(id)).toBe(false);
    expect(w.doc.activities.get('A')?.duration).toBe(2);
  });
  test('any mix of own and other edits ends in the same document in both windows', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.nat(3), fc.integer({ min: 1, max: 50 })), { maxLength: 12 }), (list) => {
        // The server is a list; each window sends when it is told to, and rebases as it must.
        const log: LogEntry[] = [];
        const server = base();
        const windows = [new SyncedProject(base(), 0), new SyncedProject(base(), 0)];
        const send = (w: SyncedProject): void => {
          while (w.pending.length) {
            const missed = log.filter((e) => e.revision > w.revision);
            if (missed.length) {
              w.remote(missed);
              continue;
            }
            const b = w.pending[0]!;
            const e = { ...b, revision: log.length + 1, who: 'x', client: String(windows.indexOf(w)), at: '' };
            log.push(e);
            applyChanges(server, e.changes);
            w.confirmed(b.changeId, e.revision);
          }
        };
        for (const [first, row, value] of list) {
          const w = windows[first ? 0 : 1]!;
          const id = ['A', 'B', 'C', 'M'][row]!;
          const o = setActivities(w.doc, [id], { cost: value });
          if (o.ok && o.changes.length) w.local(batch(o));
          if (value % 3 === 0) send(w);
        }
        for (const w of [...windows, ...windows]) {
          send(w);
          w.remote(log);
        }
        for (const w of windows) expect(writeDocument(w.doc)).toBe(writeDocument(server));
      }),
      { numRuns: 200 },
    );
  });
});

test('undo and redo stacks are read off the log, each window for itself', () => {
  const e = (changeId: string, kind: LogEntry['kind'], target: string | null, client = 'me'): LogEntry => ({
    changeId,
    kind,
    target,
    client,
    label: changeId,
    changes: [],
    revision: 0,
    who: '',
    at: '',
  });
  const log = [e('a', 'do', null), e('x', 'do', null, 'you'), e('b', 'do', null), e('u1', 'undo', 'b'), e('u2', 'undo', 'a'), e('r', 'redo', 'a')];
  const h = historyOf(log, 'me');
  expect(h.undo.map((x) => x.changeId)).toEqual(['a']);
  expect(h.redo.map((x) => x.changeId)).toEqual(['b']);
  expect(historyOf([...log, e('c', 'do', null)], 'me').redo).toEqual([]);
});

test('equality of values does not depend on the order of keys', () => {
  fc.assert(fc.property(fc.jsonValue(), (v) => sameValue(v, JSON.parse(JSON.stringify(v)))));
  expect(sameValue({ a: 1, b: [1] }, { b: [1], a: 1 })).toBe(true);
  expect(sameValue({ a: 1 }, { a: 1, b: undefined })).toBe(false);
  expect(projectOf(base()).name).toBe('Test');
});
