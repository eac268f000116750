/** One activity of several and several of one: dates worked by hand, and that nothing else moves. */
import fc from 'fast-check';
import { activitiesToNodes, dissolveNodes, mergeActivities, nodeToActivity, splitActivity, wrapRows } from '@yellowhammer/core/commands/reshape';
import { deleteRows } from '@yellowhammer/core/commands/outline';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { d, documentOf, finishIn, mustBack, peopledPlan, type PlanText, says, viewIn } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const linksIn = (doc: Document): string[] =>
  [...doc.links.values()].map((l) => `${doc.activities.get(l.from)?.code} ${l.type}${l.lag ? `+${l.lag / 480}d` : ''} ${doc.activities.get(l.to)?.code}`).sort();
const outline = (doc: Document): string[] => outlineRows(doc).map((r) => `${'.'.repeat(r.depth)}${r.kind === 'wbs' ? r.node.name : r.activity.code}`);
const node = (doc: Document, id: string, parentId: string | null, rank: number): void =>
  void doc.wbs.set(id, { id, rank, parentId, name: id, code: '', lane: false, notes: '', values: {} });
const into = (doc: Document, id: string, wbsId: string | null, rank: number): void => void doc.activities.set(id, { ...(doc.activities.get(id) as Activity), wbsId, rank });

describe('splitting', () => {
  const plan = (more: Partial<PlanText> = {}): Document =>
    documentOf({
      activities: [
        ['A', '2d'],
        ['B', '5d', { cost: 100.01, deadline: '2026-03-20', constraints: [{ kind: 'startNotBefore', date: '2026-03-05' }] }],
        ['C', '1d'],
        ['S', '1d'],
        ['F', '1d'],
      ],
      links: ['A > B', 'B > C', 'B SS+1d > S', 'F FF > B'],
      ...more,
    });
  test('what led to the start stays, what led to the finish and out of it goes on; the cost is parted', () => {
    const doc = plan();
    const before = ['C', 'S'].map((id) => finishIn(doc, id));
    const [second] = mustBack(doc, splitActivity(doc, 'B', d(2), newId));
    const [a, b] = [doc.activities.get('B') as Activity, doc.activities.get(second as string) as Activity];
    expect([a.duration, b.duration, a.cost, b.cost]).toEqual([d(2), d(3), 40, 60.01]);
    expect([a.deadline, b.deadline, a.constraints.length, b.constraints]).toEqual([null, '2026-03-20', 1, []]);
    expect([b.name, b.code]).toEqual(['B, part 2', '101']);
    expect(linksIn(doc)).toEqual(['101 FS C', 'A FS B', 'B FS 101', 'B SS+1d S', 'F FF 101']);
    expect(['C', 'S'].map((id) => finishIn(doc, id))).toEqual(before);
    expect(outline(doc)).toEqual(['A', 'B', '101', 'C', 'S', 'F']);
  });
  test('of work that has begun, what is done stays with the first part', () => {
    const doc = plan({ project: { dataDate: '2026-03-09T08:00' } });
    doc.activities.set('B', { ...(doc.activities.get('B') as Activity), actualStart: '2026-03-05T08:00', remaining: d(3) });
    expect(says(splitActivity(doc, 'B', d(1), newId))).toBe('Of B B 2d are done. Split it at or after that.');
    const before = finishIn(doc, 'C');
    const [second] = mustBack(doc, splitActivity(doc, 'B', d(4), newId));
    expect([doc.activities.get('B')?.remaining, doc.activities.get(second as string)?.remaining, doc.activities.get(second as string)?.actualStart]).toEqual([d(2), null, null]);
    expect(finishIn(doc, 'C')).toBe(before);
  });
  test.each([
    ['B', 0, 'must be longer than nothing and shorter than all of it, which is 5d'],
    ['B', d(5), 'shorter than all of it'],
    ['M', d(1), 'is not a task'],
    ['gone', d(1), 'not in the plan any more'],
  ])('%s at %i is refused with a reason', (id, at, text) => {
    const doc = plan();
    doc.activities.set('M', { ...(doc.activities.get('C') as Activity), id: 'M', code: 'M', type: 'finishMilestone', duration: 0 });
    expect(says(splitActivity(doc, id, at, newId))).toContain(text);
  });
  test('no other date moves, wherever it is split', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5 * 480 - 1 }),
        fc.array(fc.tuple(fc.nat(5), fc.nat(5), fc.constantFrom('FS', 'SS', 'FF', 'SF'), fc.integer({ min: -3, max: 3 }))),
        (at, links) => {
          const doc = documentOf({
            activities: Array.from({ length: 6 }, (_, i): [string, string] => [`N${i}`, i === 3 ? '5d' : `${i + 1}d`]),
            // Links to the finish hold the start back too, which splitting rightly ends: they are left out here.
            links: links.flatMap(([a, b, type, lag], i) =>
              a < b && !(b === 3 && type[1] === 'F') && links.findIndex((x) => x[0] === a && x[1] === b && x[2] === type) === i
                ? [`N${a} ${type}${lag < 0 ? lag : `+${lag}`}d > N${b}`]
                : [],
            ),
          });
          const ids = ['N0', 'N1', 'N2', 'N4', 'N5'];
          const before = ids.map((id) => finishIn(doc, id));
          const whole = finishIn(doc, 'N3');
          const [second] = mustBack(doc, splitActivity(doc, 'N3', at, newId));
          expect(ids.map((id) => finishIn(doc, id))).toEqual(before);
          expect(finishIn(doc, second as string)).toBe(whole);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('people and material', () => {
  const site = (): Document =>
    peopledPlan(
      { activities: [['A', '4d']] },
      {
        resources: [{ id: 'ann' }, { id: 'ben' }, { id: 'sand', kind: 'material', unit: 't' }],
        assignments: [
          { activityId: 'A', resourceId: 'ann', work: d(4) * 1000 },
          { activityId: 'A', resourceId: 'ben', work: d(1) * 1000, delay: d(3) },
          { activityId: 'A', resourceId: 'sand', quantity: 1 },
        ],
      },
    );
  const does = (doc: Document, id: string): unknown[] =>
    [...doc.assignments.values()].filter((x) => x.activityId === id).map((x) => [x.resourceId, x.work / 480_000, x.quantity, x.delay / 480]);

  test('are parted by their time: who begins later goes on alone, to the thousandth', () => {
    const doc = site();
    const [second] = mustBack(doc, splitActivity(doc, 'A', 640, newId));
    expect(does(doc, 'A')).toEqual([
      ['ann', 4 / 3, 0, 0],
      ['sand', 0, 0.333, 0],
    ]);
    expect(does(doc, second as string).sort()).toEqual([
      ['ann', 8 / 3, 0, 0],
      ['ben', 1, 0, 5 / 3],
      ['sand', 0, 0.667, 0],
    ]);
    // At the end of the third day ben has not begun yet; a minute later one minute of his work is done.
    const late = site();
    const [third] = mustBack(late, splitActivity(late, 'A', d(3), newId));
    expect([does(late, 'A').length, does(late, third as string)]).toEqual([2, expect.arrayContaining([['ben', 1, 0, 0]])]);
    const later = site();
    const [fourth] = mustBack(later, splitActivity(later, 'A', d(3) + 1, newId));
    expect(does(later, 'A')).toContainEqual(['ben', 1 / 480, 0, 3]);
    expect(does(later, fourth as string)).toContainEqual(['ben', 479 / 480, 0, 0]);
  });

  test('are added up where several become one', () => {
    const doc = site();
    const [second] = mustBack(doc, splitActivity(doc, 'A', 640, newId));
    mustBack(doc, mergeActivities(doc, viewIn(doc), ['A', second as string], null));
    expect([doc.activities.get('A')?.duration, does(doc, 'A').sort()]).toEqual([
      d(4),
      [
        ['ann', 4, 0, 0],
        ['ben', 1, 0, 0],
        ['sand', 0, 1, 0],
      ],
    ]);
    // At as many units as do it in the time.
    expect([...doc.assignments.values()].map((x) => [x.resourceId, x.units]).sort()).toEqual([
      ['ann', 1],
      ['ben', 0.25],
      ['sand', 1],
    ]);
  });
});

test('constraints and deadlines go to the part whose end they hold, and the latest of several stays', () => {
  const held = {
    constraints: [
      { kind: 'startNotBefore', date: '2026-03-03' },
      { kind: 'finishNotAfter', date: '2026-03-20' },
    ],
    deadline: '2026-03-18',
  };
  const doc = documentOf({
    activities: [
      ['A', '4d', held],
      ['L', '2d', { constraints: [{ kind: 'asLateAsPossible', date: null }] }],
    ],
  });
  const kinds = (id: string) => doc.activities.get(id)?.constraints.map((c) => c.kind);
  const [second, last] = [mustBack(doc, splitActivity(doc, 'A', d(1), newId))[0] as string, mustBack(doc, splitActivity(doc, 'L', d(1), newId))[0] as string];
  expect([kinds('A'), kinds(second), kinds('L'), kinds(last)]).toEqual([['startNotBefore'], ['finishNotAfter'], ['asLateAsPossible'], ['asLateAsPossible']]);
  doc.activities.set('A', { ...(doc.activities.get('A') as Activity), deadline: '2026-03-25', notes: 'one ' });
  doc.activities.set(second, { ...(doc.activities.get(second) as Activity), notes: 'two' });
  mustBack(doc, mergeActivities(doc, viewIn(doc), ['A', second], 'Both'));
  const both = doc.activities.get('A') as Activity;
  expect([both.name, kinds('A'), both.deadline, both.notes]).toEqual(['Both', ['startNotBefore', 'finishNotAfter'], '2026-03-25', 'one\n\ntwo']);
});

describe('making one of several', () => {
  const plan = (): Document =>
    documentOf({
      activities: [
        ['P', '2d'],
        ['A', '3d', { cost: 10.1, notes: 'One' }],
        ['B', '4d', { cost: 20.2, notes: 'Two' }],
        ['Q', '1d'],
        ['X', '1d'],
      ],
      links: ['P > A', 'P > B', 'A > B', 'B > Q', 'A > Q', 'A SS+1d > X'],
    });
  test('from the earliest start to the latest finish, with the links to others', () => {
    const doc = plan();
    const view = viewIn(doc);
    const before = finishIn(doc, 'Q');
    mustBack(doc, mergeActivities(doc, view, ['A', 'B'], 'Both'));
    const one = doc.activities.get('A') as Activity;
    expect([one.name, one.duration, one.cost, one.notes, doc.activities.has('B')]).toEqual(['Both', d(7), 30.3, 'One\n\nTwo', false]);
    expect(linksIn(doc)).toEqual(['A FS Q', 'A SS+1d X', 'P FS A']);
    expect(finishIn(doc, 'Q')).toBe(before);
  });
  test('of two alike the longer lag stays', () => {
    const doc = plan();
    for (const l of [...doc.links.values()]) if (l.from === 'P' && l.to === 'B') doc.links.set(l.id, { ...l, lag: d(9) });
    mustBack(doc, mergeActivities(doc, viewIn(doc), ['A', 'B'], null));
    expect(linksIn(doc)).toContain('P FS+9d A');
  });
  test('a way between them through another activity would be a loop, and is named', () => {
    const doc = plan();
    expect(says(mergeActivities(doc, viewIn(doc), ['P', 'B'], null))).toMatch(/would close a loop: (A > P > A|P > A > P)/);
  });
  test('progress: begun with the first, finished with the last, what is left to the latest finish', () => {
    const doc = documentOf({
      activities: [
        ['A', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }],
        ['B', '4d', { actualStart: '2026-03-04T08:00', remaining: d(3) }],
        ['C', '2d'],
      ],
      links: ['A > B', 'B > C'],
      project: { dataDate: '2026-03-05T08:00' },
    });
    const finish = finishIn(doc, 'C');
    const half = copyDocument(doc);
    mustBack(half, mergeActivities(half, viewIn(half), ['A', 'B', 'C'], null));
    // B and C have 5 days from 5 March 08:00; done were 3.
    expect(half.activities.get('A')).toMatchObject({ duration: d(8), remaining: d(5), actualStart: '2026-03-02T08:00', actualFinish: null });
    expect(finishIn(half, 'A')).toBe(finish);
  });
  test.each([
    [['A'], 'Select two or more'],
    [['A', 'M'], 'M M is not a task'],
  ])('%j is refused', (ids, text) => {
    const doc = plan();
    doc.activities.set('M', { ...(doc.activities.get('X') as Activity), id: 'M', code: 'M', name: 'M', type: 'finishMilestone', duration: 0 });
    expect(says(mergeActivities(doc, viewIn(doc), ids, null))).toContain(text);
    expect(says(mergeActivities(doc, null, ['A', 'B'], null))).toContain('no dates yet');
  });
});

describe('nodes', () => {
  const plan = (): Document => {
    const doc = documentOf({
      activities: [
        ['A', '1d'],
        ['B', '1d'],
        ['C', '1d'],
        ['D', '1d'],
      ],
      links: ['A > B', 'B > C', 'C > D'],
    });
    node(doc, 'X', null, 0);
    node(doc, 'Y', 'X', 1);
    into(doc, 'A', 'X', 0);
    into(doc, 'B', 'Y', 0);
    into(doc, 'C', 'Y', 1);
    into(doc, 'D', null, 1);
    return doc;
  };
  test('rows of any level are wrapped where the first of them is', () => {
    const doc = plan();
    expect(outline(doc)).toEqual(['X', '.A', '.Y', '..B', '..C', 'D']);
    const [made] = mustBack(
      doc,
      wrapRows(
        doc,
        [
          { kind: 'activity', id: 'A' },
          { kind: 'activity', id: 'C' },
          { kind: 'activity', id: 'D' },
        ],
        'New',
        newId,
      ),
    );
    expect(outline(doc)).toEqual(['X', '.New', '..A', '..C', '..D', '.Y', '..B']);
    mustBack(doc, dissolveNodes(doc, [made as string]));
    expect(outline(doc)).toEqual(['X', '.A', '.C', '.D', '.Y', '..B']);
  });
  test('several nodes at once, one in the other, leave their rows in their place', () => {
    const doc = plan();
    mustBack(doc, dissolveNodes(doc, ['Y', 'X']));
    expect(outline(doc)).toEqual(['A', 'B', 'C', 'D']);
    expect(doc.wbs.size).toBe(0);
  });
  test('an activity becomes a node with it inside, and back', () => {
    const doc = plan();
    const [made] = mustBack(doc, activitiesToNodes(doc, ['C'], newId));
    expect(outline(doc)).toEqual(['X', '.A', '.Y', '..B', '..C', '...C', 'D']);
    mustBack(doc, nodeToActivity(doc, viewIn(doc), made as string));
    expect(outline(doc)).toEqual(['X', '.A', '.Y', '..B', '..C', 'D']);
  });
  test('a node of several becomes one activity of its name, in its place, with the logic to others', () => {
    const doc = plan();
    const before = finishIn(doc, 'D');
    mustBack(doc, nodeToActivity(doc, viewIn(doc), 'X'));
    expect(outline(doc)).toEqual(['A', 'D']);
    expect([doc.activities.get('A')?.name, doc.activities.get('A')?.duration, linksIn(doc)]).toEqual(['X', d(3), ['A FS D']]);
    expect(finishIn(doc, 'D')).toBe(before);
  });
  test('an empty node, and rows that are gone, are refused', () => {
    const doc = plan();
    node(doc, 'E', null, 9);
    expect(says(nodeToActivity(doc, viewIn(doc), 'E'))).toContain('has no activities');
    expect(says(nodeToActivity(doc, null, 'gone'))).toContain('not in the plan any more');
    expect(says(dissolveNodes(doc, ['gone']))).toContain('Select WBS nodes');
    expect(says(activitiesToNodes(doc, ['gone'], newId))).toContain('Select activities');
    expect(says(wrapRows(doc, [], 'x', newId))).toContain('Select rows');
    expect(says(wrapRows(doc, [{ kind: 'activity', id: 'gone' }], 'x', newId))).toContain('not in the plan');
    mustBack(doc, deleteRows(doc, [{ kind: 'wbs', id: 'E' }]));
  });
});
