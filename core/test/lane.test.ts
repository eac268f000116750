/** Lanes: how activities lie in one row, what is closed, and what is drawn onto them. */
import fc from 'fast-check';
import { setLanes, wrapRows } from '@yellowhammer/core/commands/reshape';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { closedBelow, closedNodes, nodesAbove, nodesBelow, turnedFor } from '@yellowhammer/core/outline/depth';
import { laneHeight, laneMembers, pack, packLane, stackMiddle } from '@yellowhammer/core/outline/lane';
import { focused, outlineRows } from '@yellowhammer/core/outline/outline';
import { drawInLane } from '@yellowhammer/core/plan/drag';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { d, documentOf, finishIn, mustBack, nodeInto, putInto, says, sure, viewIn } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const at = (text: string): number => sure(parseInstant(text));

/** A lane of two trades, with a third in a node inside, and one that overlaps. */
function flat(): Document {
  const doc = documentOf({
    activities: [
      ['A', '2d'],
      ['B', '3d'],
      ['C', '1d'],
      ['O', '4d'],
      ['Z', '1d'],
    ],
    links: ['A > B', 'B > C'],
  });
  nodeInto(doc, 'F', null, 0, true);
  nodeInto(doc, 'I', 'F', 2, false);
  putInto(doc, 'A', 'F', 0);
  putInto(doc, 'B', 'F', 1);
  putInto(doc, 'C', 'I', 0);
  putInto(doc, 'O', 'F', 3);
  putInto(doc, 'Z', null, 9);
  return doc;
}

test('spans are packed into as few stacks as run at once, and none overlaps another in its stack', () => {
  const span = fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 12 }));
  fc.assert(
    fc.property(fc.array(span, { maxLength: 25 }), (list) => {
      const spans = list.map(([start, length], i) => ({ id: `${i}`, start, finish: start + length }));
      const { stackOf, stacks } = pack(spans);
      const end = (s: { start: number; finish: number }): number => Math.max(s.finish, s.start + 1);
      for (const a of spans) for (const b of spans) if (a !== b && stackOf.get(a.id) === stackOf.get(b.id)) expect(a.start >= end(b) || b.start >= end(a)).toBe(true);
      const atOnce = Math.max(1, ...spans.map((s) => spans.filter((o) => o.start <= s.start && s.start < end(o)).length));
      expect(stacks).toBe(atOnce);
      expect(stackOf.size).toBe(spans.length);
    }),
    { numRuns: 300 },
  );
});

test('a lane holds the activities of all nodes in it, without hidden ones; those that overlap are stacked', () => {
  const doc = flat();
  expect(laneMembers(doc, 'F')).toEqual(['A', 'B', 'C', 'O']);
  // A 2 and 3, B 4 to 6, C 9 March in a row; O from 2 to 5 beside them.
  const packing = packLane(doc, viewIn(doc), 'F');
  expect([[...packing.stackOf].sort(), packing.stacks]).toEqual([
    [
      ['A', 0],
      ['B', 0],
      ['C', 0],
      ['O', 1],
    ],
    2,
  ]);
  doc.activities.set('O', { ...(doc.activities.get('O') as Activity), hidden: true });
  expect(packLane(doc, viewIn(doc), 'F').stacks).toBe(1);
  expect([laneHeight(1), laneHeight(2), laneHeight(3), stackMiddle(0, 2), stackMiddle(1, 2)]).toEqual([1, 1.55, 2.15, 0.25, 0.75]);
});

test('a lane is closed and a node is open until a person says otherwise', () => {
  const doc = flat();
  const shown = (turned: Record<string, true>): string[] => outlineRows(doc, closedNodes(doc, turned)).map((r) => `${r.id}${r.kind === 'wbs' && r.lane ? ' lane' : ''}`);
  expect(shown({})).toEqual(['F lane', 'Z']);
  expect(shown({ F: true })).toEqual(['F', 'A', 'B', 'I', 'C', 'O', 'Z']);
  expect(shown({ F: true, I: true })).toEqual(['F', 'A', 'B', 'I', 'O', 'Z']);
  for (const closed of [new Set<string>(), new Set(['F']), new Set(['I']), new Set(['F', 'I'])]) expect(closedNodes(doc, turnedFor(doc, closed))).toEqual(closed);
  // A node that is gone is in no list.
  expect(closedNodes(doc, { gone: true }).has('gone')).toBe(false);
  expect([closedBelow(doc, 1), closedBelow(doc, 2), closedBelow(doc, 9)]).toEqual([new Set(['F', 'I']), new Set(['F']), new Set()]);
  expect(nodesBelow(doc, ['F'])).toEqual(['F', 'I']);
  // What is opened to see a row: of an activity its node too, of a node only those above it.
  expect(['C', 'I', 'F', 'gone'].map((id) => [...nodesAbove(doc, id)])).toEqual([['I', 'F'], ['F'], [], []]);
});

test('focus shows rows and branches with all in them, and nothing else', () => {
  const rows = outlineRows(flat());
  const ids = (...focus: string[]): string[] => focused(rows, new Set(focus)).map((r) => r.id);
  expect(ids('I')).toEqual(['I', 'C']);
  expect(ids('B', 'I', 'Z')).toEqual(['B', 'I', 'C', 'Z']);
  expect(ids('F', 'C')).toEqual(['F', 'A', 'B', 'I', 'C', 'O']);
  expect(ids('gone')).toEqual([]);
});

describe('drawing in a lane', () => {
  test('what is drawn behind a bar follows it, without a constraint, as long as it was drawn', () => {
    const doc = flat();
    const r = drawInLane(doc, viewIn(doc), 'F', at('2026-03-10T00:00'), at('2026-03-11T12:00'), true, newId);
    expect(r.tip).toEqual(['New activity', 'after C C', '10 Mar 26 to 11 Mar 26', '2d']);
    const [id] = mustBack(doc, r.outcome);
    expect(doc.activities.get(id as string)).toMatchObject({ wbsId: 'F', duration: d(2), constraints: [] });
    expect([...doc.links.values()].at(-1)).toMatchObject({ from: 'C', to: id, type: 'FS', lag: 0 });
    expect(finishIn(doc, id as string)).toBe('2026-03-11T17:00');
  });
  test('without linking, and where nothing ends before it, it does not start before its first day', () => {
    for (const [linked, from] of [
      [false, '2026-03-12T00:00'],
      [true, '2026-03-02T00:00'],
    ] as const) {
      const doc = flat();
      const [id] = mustBack(doc, drawInLane(doc, viewIn(doc), 'F', at(from), at(from) + 600, linked, newId).outcome);
      expect(doc.activities.get(id as string)?.constraints).toEqual([{ kind: 'startNotBefore', date: from.slice(0, 10) }]);
      expect(doc.links.size).toBe(2);
    }
  });
  test('it is counted on the calendar that it takes from the one above', () => {
    const doc = flat();
    doc.activities.set('O', { ...(doc.activities.get('O') as Activity), calendarId: 'clock', duration: 1440 });
    // O alone is on the clock, from 2 March; what is drawn from 3 March noon on follows it for a day and a half.
    for (const id of ['A', 'B', 'C']) doc.activities.set(id, { ...(doc.activities.get(id) as Activity), wbsId: null });
    const r = drawInLane(doc, viewIn(doc), 'F', at('2026-03-04T00:00'), at('2026-03-04T12:00'), true, newId);
    const [id] = mustBack(doc, r.outcome);
    expect(doc.activities.get(id as string)).toMatchObject({ calendarId: 'clock', duration: 1440 });
    expect(r.tip[2]).toBe('3 Mar 26 to 4 Mar 26');
    expect(finishIn(doc, id as string)).toBe('2026-03-04T08:00');
  });
  test('the first in an empty lane', () => {
    const doc = documentOf({ activities: [['A', '1d']] });
    doc.wbs.set('L', { id: 'L', rank: 9, parentId: null, name: 'L', code: '', lane: true, notes: '', values: {} });
    const [id] = mustBack(doc, drawInLane(doc, viewIn(doc), 'L', at('2026-03-04T00:00'), at('2026-03-05T23:00'), true, newId).outcome);
    expect(doc.activities.get(id as string)).toMatchObject({ wbsId: 'L', duration: d(2) });
  });
});

test('nodes become lanes and nodes again; rows are put into one lane', () => {
  const doc = flat();
  mustBack(doc, setLanes(doc, ['F', 'I']));
  expect(['F', 'I'].map((id) => doc.wbs.get(id)?.lane)).toEqual([true, true]);
  mustBack(doc, setLanes(doc, ['F', 'I']));
  expect(['F', 'I'].map((id) => doc.wbs.get(id)?.lane)).toEqual([false, false]);
  expect(says(setLanes(doc, ['gone']))).toContain('Select WBS nodes');
  const [made] = mustBack(doc, wrapRows(doc, [{ kind: 'activity', id: 'Z' }], 'New lane', newId, true));
  expect(doc.wbs.get(made as string)).toMatchObject({ lane: true, name: 'New lane' });
});
