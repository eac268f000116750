/** What is checked of changes that arrive, and what becomes of own edits when those of others come in between. */
import { type Batch, type Change, checkChanges, clashes, diffDocuments, Draft, type LogEntry, sameValue } from '@yellowhammer/core/change/change';
import { historyOf } from '@yellowhammer/core/change/history';
import { SyncedProject } from '@yellowhammer/core/change/synced';
import { foldChanges } from '@yellowhammer/core/change/trial';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { addActivity } from '@yellowhammer/core/commands/outline';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Activity, WbsNode } from '@yellowhammer/core/model/schema';
import { d, documentOf } from './helpers';

const plan = (): Document =>
  documentOf({
    activities: [
      ['101', '1d'],
      ['102', '1d'],
    ],
  });
let n = 0;
const changesOf = (o: Outcome): Change[] => {
  if (!o.ok) throw new Error(o.problems[0]!.message);
  return o.changes;
};
const batch = (changes: Change[], more: Partial<Batch> = {}): Batch => ({ changeId: `change-${++n}`, label: 'x', kind: 'do', target: null, changes, ...more });
const entry = (b: Batch, revision: number, who = 'Ada'): LogEntry => ({ ...b, revision, who, client: 'other', at: '' });
const adding = (doc: Document, id: string, code?: string): Batch => batch(changesOf(addActivity(doc, null, { name: id, ...(code === undefined ? {} : { code }) }, () => id)));
const days = (doc: Document, id: string, n: number): Batch => batch(changesOf(setActivities(doc, [id], { duration: d(n) })));
const codes = (s: SyncedProject): string[] => [...s.doc.activities.values()].map((a) => `${a.id} ${a.code}`);

describe('changes that arrive', () => {
  const row = { ...(plan().activities.get('101') as Activity) };
  test('a good one is taken with both sides, and what is left out counts as nothing there', () => {
    expect(checkChanges([{ table: 'activities', id: '101', before: undefined, after: row }])).toEqual({
      problems: [],
      changes: [{ table: 'activities', id: '101', before: null, after: row }],
    });
    for (const after of [null, undefined])
      expect(checkChanges([{ table: 'activities', id: '101', before: row, after }]).changes).toEqual([{ table: 'activities', id: '101', before: row, after: null }]);
  });
  test.each([
    [{ ...row, duration: -1 }, 'WRONG_VALUE', 'activities 101: duration: it cannot be negative', 'duration'],
    [{ ...row, constraints: [{ kind: 'startOn', date: 'soon' }] }, 'WRONG_VALUE', 'activities 101: constraints.0.date: ', 'constraints.0.date'],
    ['text', 'WRONG_VALUE', 'activities 101: the row: ', ''],
    [{ ...row, id: '999' }, 'WRONG_ID', 'activities 101: the row has another id (999).', undefined],
  ])('a wrong one is named: %#', (after, code, message, field) => {
    const { changes, problems } = checkChanges([{ table: 'activities', id: '101', before: null, after }]);
    expect(changes).toEqual([]);
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatchObject({ code, where: { table: 'activities', id: '101', ...(field === undefined ? {} : { field }) } });
    expect(problems[0]!.message.startsWith(message)).toBe(true);
  });
});

test('several changes of one row are one: the first before and the last after; what ends as it began is none', () => {
  const a = plan().activities.get('101') as Activity;
  const [b, c] = [
    { ...a, duration: 960 },
    { ...a, duration: 1440 },
  ];
  const change = (before: Activity, after: Activity): Change => ({ table: 'activities', id: a.id, before, after });
  expect(foldChanges([change(a, b), change(b, c)])).toEqual([change(a, c)]);
  expect(foldChanges([change(a, b), change(b, a)])).toEqual([]);
  const doc = plan();
  const draft = new Draft(doc);
  draft.patch('activities', '101', { duration: 960 });
  draft.patch('activities', '102', { duration: 960 });
  draft.patch('activities', '101', { duration: 1440 });
  draft.patch('activities', 'not there', { duration: 1440 });
  expect(draft.changes.map((x) => [x.id, (x.before as Activity).duration, (x.after as Activity).duration])).toEqual([
    ['101', 480, 1440],
    ['102', 480, 960],
  ]);
});

test.each([
  [{ a: 1, b: [1, 2] }, { b: [1, 2], a: 1 }, true],
  [[1], { 0: 1 }, false],
  [{ a: 1 }, 'a', false],
  ['a', { a: 1 }, false],
  [{ a: 1 }, { a: 1, b: 2 }, false],
  [{ a: undefined }, { b: undefined }, true],
  [null, {}, false],
])('%j and %j are alike: %s', (a, b, alike) => expect(sameValue(a, b)).toBe(alike));

test('a row that is named twice clashes by its first change; rows that stand as they were do not', () => {
  const doc = plan();
  const [a, b] = [doc.activities.get('101') as Activity, { ...(doc.activities.get('101') as Activity), duration: 960 }];
  const change = (before: Activity, after: Activity): Change => ({ table: 'activities', id: '101', before, after });
  expect(clashes(doc, [change(a, b), change(b, a)])).toEqual([]);
  expect(clashes(doc, [change(b, a), change(a, b)])).toEqual([change(b, a)]);
});

test('a difference leaves kept copies alone unless asked for, and takes away children before parents', () => {
  const [from, to] = [plan(), plan()];
  from.snapshots.set('s', { id: 's', rank: 0, kind: 'baseline', name: '', description: '', at: '2026-01-01T00:00:00Z', dataDate: null });
  const node = { rank: 0, name: '', code: '', lane: false, notes: '', values: {} };
  from.wbs.set('W', { ...node, id: 'W', parentId: null });
  from.activities.set('101', { ...(from.activities.get('101') as Activity), wbsId: 'W' });
  to.activities.delete('101');
  expect(diffDocuments(from, to).map((c) => c.id)).toEqual(['101', 'W']);
});

describe('numbers that two windows gave', () => {
  test('new rows get the next free ones; those of the same act that are free stay', () => {
    const synced = new SyncedProject(plan(), 1);
    const mine = batch([...adding(copyDocument(synced.doc), 'm1', '103').changes, ...adding(copyDocument(synced.doc), 'm2', '104').changes]);
    synced.local(mine);
    expect(synced.remote([entry(adding(plan(), 't1', '103'), 2)])).toEqual([]);
    // 104 is given by the act itself, so the next free one is 105.
    expect(codes(synced)).toEqual(['101 101', '102 102', 't1 103', 'm1 105', 'm2 104']);
    expect(synced.pending[0]).toMatchObject({ changeId: mine.changeId, label: 'x' });
  });
  test('an undo brings its rows back as they were, and nothing is renumbered where nothing is given twice', () => {
    const synced = new SyncedProject(plan(), 1);
    const mine = adding(copyDocument(synced.doc), 'm1', '103');
    synced.local(mine);
    synced.remote([entry(adding(plan(), 't1', '104'), 2)]);
    expect(synced.pending[0]).toBe(mine);
    const undo = new SyncedProject(plan(), 1);
    const back = { ...adding(copyDocument(undo.doc), 'm1', '103'), kind: 'undo' as const, target: 'x' };
    undo.local(back);
    undo.remote([entry(adding(plan(), 't1', '103'), 2)]);
    expect(codes(undo)).toEqual(['101 101', '102 102', 't1 103', 'm1 103']);
  });
  test('a number given to an existing row that another has by now is a clash that names who did it', () => {
    const synced = new SyncedProject(plan(), 1);
    synced.local(batch(changesOf(setActivities(synced.doc, ['101'], { code: '500' }))));
    const theirs = entry(batch(changesOf(setActivities(plan(), ['102'], { code: '500' }))), 2, 'Bo');
    const [clash] = synced.remote([theirs]);
    expect(clash).toMatchObject({ who: 'another window', rows: [{ id: '101', mine: { code: '500' }, theirs: { code: '101' } }] });
    expect(codes(synced)).toEqual(['101 101', '102 500']);
  });
  test('numbers exchanged in one act are no clash, and a new name is none either', () => {
    const synced = new SyncedProject(plan(), 1);
    const exchange = (a: string, b: string): Change => {
      const before = synced.doc.activities.get(a) as Activity;
      return { table: 'activities', id: a, before, after: { ...before, code: b } };
    };
    synced.local(batch([exchange('101', '102'), exchange('102', '101')]));
    expect(synced.remote([entry(adding(plan(), 't1', '103'), 2)])).toEqual([]);
    expect(codes(synced)).toEqual(['101 102', '102 101', 't1 103']);
  });
});

describe('what comes back', () => {
  test('the own act as an event only confirms it; older news is no news', () => {
    const synced = new SyncedProject(plan(), 5);
    const mine = days(synced.doc, '101', 2);
    synced.local(mine);
    const { version } = synced;
    expect(synced.remote([entry(mine, 5)])).toEqual([]);
    expect([synced.pending.length, synced.revision]).toEqual([1, 5]);
    expect(synced.remote([entry(mine, 6)])).toEqual([]);
    expect([synced.pending.length, synced.revision, synced.version]).toEqual([0, 6, version]);
  });
  test('an answer that is behind does not take the revision back, and confirms only its own act', () => {
    const synced = new SyncedProject(plan(), 5);
    const [one, two] = [days(synced.doc, '101', 2), days(synced.doc, '102', 2)];
    synced.local(one);
    synced.local(two);
    synced.confirmed(one.changeId, 4);
    expect([synced.pending, synced.revision]).toEqual([[two], 5]);
    expect(synced.refused('nobody')).toEqual([]);
    expect(synced.pending).toEqual([two]);
  });
  test('two news with the own act among them: it is not put on again, and others keep their order', () => {
    const synced = new SyncedProject(plan(), 1);
    const [mine, next] = [days(synced.doc, '101', 2), days(synced.doc, '102', 7)];
    synced.local(mine);
    synced.local(next);
    const work = plan();
    const theirs = entry(days(work, '102', 3), 2, 'Bo');
    const [clash, ...more] = synced.remote([theirs, entry(mine, 3)]);
    expect([clash?.batch, clash?.who, more, synced.pending, synced.revision]).toEqual([next, 'Bo', [], [], 3]);
    expect(['101', '102'].map((id) => synced.doc.activities.get(id)?.duration)).toEqual([d(2), d(3)]);
  });
  test('edits of one row after each other are all put on top again, in their order', () => {
    const synced = new SyncedProject(plan(), 1);
    for (const n of [2, 3, 4]) synced.local(days(synced.doc, '101', n));
    expect(synced.remote([entry(days(plan(), '102', 9), 2)])).toEqual([]);
    expect([synced.doc.activities.get('101')?.duration, synced.pending.length]).toEqual([d(4), 3]);
    const fresh = plan();
    expect(synced.renew(fresh, 9, new Set())).toEqual([]);
    expect([synced.doc.activities.get('101')?.duration, synced.pending.length, synced.revision]).toEqual([d(4), 3, 9]);
  });
  test('who listens is told once for each act, and not after leaving', () => {
    const synced = new SyncedProject(plan(), 1);
    const heard: number[] = [];
    const leave = synced.subscribe((changes) => heard.push(changes.length));
    synced.local(days(synced.doc, '101', 2));
    expect(synced.version).toBe(1);
    synced.local(batch([]));
    expect([heard, synced.version]).toEqual([[1], 1]);
    leave();
    synced.local(days(synced.doc, '101', 3));
    expect([heard, synced.version]).toEqual([[1], 2]);
  });
  test('branches that close a ring only together are given back with the node that would lie in itself, and nothing else', () => {
    const doc = plan();
    for (const [i, id] of ['X', 'Y', 'Z'].entries()) doc.wbs.set(id, { id, rank: i, parentId: id === 'Z' ? 'Y' : null, name: id, code: '', lane: false, notes: '', values: {} });
    const synced = new SyncedProject(doc, 1);
    const under = (id: string, parentId: string): Change => {
      const before = synced.doc.wbs.get(id) as WbsNode;
      return { table: 'wbs', id, before, after: { ...before, parentId } };
    };
    // Y with Z in it goes under X meanwhile; X under Z, and an activity with it, comes too late.
    const activity = changesOf(setActivities(synced.doc, ['101'], { duration: d(4) }));
    expect(synced.against([under('X', 'Z'), ...activity])).toEqual([]);
    synced.remote([entry(batch([under('Y', 'X')]), 2)]);
    expect(synced.against([...activity, under('X', 'Z')]).map((c) => [c.table, c.id])).toEqual([['wbs', 'X']]);
  });
});

test('an undo of an act that is in no list is passed over, and takes only its own act out of the list', () => {
  const doc = plan();
  const acts = [days(doc, '101', 2), days(doc, '102', 2)].map((b, i) => ({ ...entry(b, i), client: 'me' }));
  const undo = (target: string | null): LogEntry => ({ ...entry(batch([], { kind: 'undo', target }), 9), client: 'me' });
  expect(historyOf([...acts, undo(null), undo('nothing')], 'me').undo.map((b) => b.changeId)).toEqual(acts.map((b) => b.changeId));
  const after = historyOf([...acts, undo(acts[1]!.changeId)], 'me');
  expect([after.undo, after.redo].map((l) => l.map((b) => b.changeId))).toEqual([[acts[0]!.changeId], [acts[1]!.changeId]]);
});
