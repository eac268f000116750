/** Commands on rows of the outline and what they say: where rows go, also where ranks have no room between them. */
import { Draft } from '../src/change/change';
import { clearLinks, changeLinks, copyLinks, insertIntoLink, joinAround, linkEach, lagCalendarId, reverseLinks } from '@yellowhammer/core/commands/bulk-links';
import { copyRows, moveRowsTo, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import {
  addActivity,
  addWbs,
  deleteRows,
  dropRows,
  levelDown,
  levelUp,
  moveRows,
  place,
  renameWbs,
  type RowRef,
  siblings,
  spacedRanks,
  topmost,
} from '@yellowhammer/core/commands/outline';
import { forgetIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { documentOf, must, mustBack, nodeInto, type PlanText, putInto, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const act = (id: string): RowRef => ({ kind: 'activity', id });
const node = (id: string): RowRef => ({ kind: 'wbs', id });
/** X holds A and Y, which holds B and C; D; an empty node E; F. `tight`: no number lies between two ranks. */
function plan(tight = false): Document {
  const doc = documentOf({ activities: ['A', 'B', 'C', 'D', 'F'].map((id): [string, string] => [id, '1d']) });
  const at = (i: number): number => (tight ? 1 + i * Number.EPSILON : i);
  nodeInto(doc, 'X', null, at(0));
  nodeInto(doc, 'Y', 'X', at(1));
  nodeInto(doc, 'E', null, at(2));
  for (const [id, parent, rank] of [
    ['A', 'X', 0],
    ['B', 'Y', 0],
    ['C', 'Y', 1],
    ['D', null, 1],
    ['F', null, 3],
  ] as const)
    putInto(doc, id, parent, at(rank));
  forgetIndex(doc);
  return doc;
}
const shape = (doc: Document): string =>
  outlineRows(doc)
    .map((r) => '.'.repeat(r.depth) + (r.kind === 'wbs' ? `[${r.node.name}]` : r.activity.name || r.activity.code))
    .join(' ');
const WHOLE = '[X] .A .[Y] ..B ..C D [E] F';
test('as it begins', () => expect([shape(plan()), shape(plan(true))]).toEqual([WHOLE, WHOLE]));

describe.each([false, true])('ranks without room: %s', (tight) => {
  test.each<[string, (doc: Document) => ReturnType<typeof levelUp>, string, string]>([
    ['below A', (d) => addActivity(d, act('A'), { name: 'n' }, newId), 'Add ID n', '[X] .A .n .[Y] ..B ..C D [E] F'],
    ['into X, first', (d) => addActivity(d, node('X'), { name: 'n' }, newId), 'Add ID n', '[X] .n .A .[Y] ..B ..C D [E] F'],
    ['at the end', (d) => addActivity(d, null, { name: 'n' }, newId), 'Add ID n', `${WHOLE} n`],
    ['below a row that is gone', (d) => addActivity(d, act('zz'), { name: 'n' }, newId), 'Add ID n', `${WHOLE} n`],
    ['a node below B', (d) => addWbs(d, act('B'), 'n', newId), 'Add WBS node n', '[X] .A .[Y] ..B ..[n] ..C D [E] F'],
    ['a node beside X', (d) => addWbs(d, node('X'), 'n', newId), 'Add WBS node n', '[X] .A .[Y] ..B ..C [n] D [E] F'],
    ['a node in X, last', (d) => addWbs(d, node('X'), 'n', newId, true), 'Add WBS node n', '[X] .A .[Y] ..B ..C .[n] D [E] F'],
    ['a node in the empty E', (d) => addWbs(d, node('E'), 'n', newId, true), 'Add WBS node n', '[X] .A .[Y] ..B ..C D [E] .[n] F'],
    ['a node inside an activity stands beside it', (d) => addWbs(d, act('B'), 'n', newId, true), 'Add WBS node n', '[X] .A .[Y] ..B ..[n] ..C D [E] F'],
    ['a node at the end, without a name', (d) => addWbs(d, null, '', newId), 'Add WBS node', `${WHOLE} []`],
    ['F down into E', (d) => levelDown(d, [act('F')]), 'Move 1 row one level down', '[X] .A .[Y] ..B ..C D [E] .F'],
    ['D and F down, each into the node before it', (d) => levelDown(d, [act('D'), act('F')]), 'Move 2 rows one level down', '[X] .A .[Y] ..B ..C .D [E] .F'],
    ['E and F down together: what moves is no node to go into', (d) => levelDown(d, [node('E'), act('F')]), 'Move 2 rows one level down', '[X] .A .[Y] ..B ..C .[E] .F D'],
    ['X down', (d) => levelDown(d, [node('X')]), 'NO_NODE_ABOVE There is no WBS node above at this level to go into. Ctrl+Enter makes one. @', WHOLE],
    ['A down', (d) => levelDown(d, [act('A')]), 'NO_NODE_ABOVE There is no WBS node above at this level to go into. Ctrl+Enter makes one. @', WHOLE],
    ['B and C up', (d) => levelUp(d, [act('B'), act('C')]), 'Move 2 rows one level up', '[X] .A .[Y] .B .C D [E] F'],
    ['A up', (d) => levelUp(d, [act('A')]), 'Move 1 row one level up', '[X] .[Y] ..B ..C A D [E] F'],
    ['Y up, with what is in it', (d) => levelUp(d, [node('Y'), act('B')]), 'Move 1 row one level up', '[X] .A [Y] .B .C D [E] F'],
    ['D up', (d) => levelUp(d, [act('D')]), 'TOP_LEVEL This row is at the top level already. @', WHOLE],
    ['D a place up', (d) => moveRows(d, [act('D')], 'up'), 'Move 1 row up', 'D [X] .A .[Y] ..B ..C [E] F'],
    ['X a place down', (d) => moveRows(d, [node('X')], 'down'), 'Move 1 row down', 'D [X] .A .[Y] ..B ..C [E] F'],
    ['D and F a place up: they stand together then', (d) => moveRows(d, [act('D'), act('F')], 'up'), 'Move 2 rows up', 'D F [X] .A .[Y] ..B ..C [E]'],
    ['C past the end of Y: no node follows', (d) => moveRows(d, [act('C')], 'down'), 'AT_THE_END There is nothing further down. @', WHOLE],
    ['F past the end', (d) => moveRows(d, [act('F')], 'down'), 'AT_THE_END There is nothing further down. @', WHOLE],
    ['Y past the end of X, into E', (d) => moveRows(d, [node('Y')], 'down'), 'Move 1 row to E', '[X] .A D [E] .[Y] ..B ..C F'],
    ['B past the beginning of Y: nothing before', (d) => moveRows(d, [act('B')], 'up'), 'AT_THE_END There is nothing further up. @', WHOLE],
    ['B and A', (d) => moveRows(d, [act('B'), act('A')], 'up'), 'MIXED_LEVELS The selected rows are in different WBS nodes. Select rows of one node to move them. @', WHOLE],
    ['nothing moved', (d) => moveRows(d, [act('zz')], 'up'), 'NOTHING_SELECTED Select rows to move first. @', WHOLE],
    ['nothing down', (d) => levelDown(d, []), 'NOTHING_SELECTED Select rows to move first. @', WHOLE],
    ['nothing up', (d) => levelUp(d, []), 'NOTHING_SELECTED Select rows to move first. @', WHOLE],
    ['F before A', (d) => dropRows(d, [act('F')], act('A'), 'before'), 'Move 1 row', '[X] .F .A .[Y] ..B ..C D [E]'],
    ['F and D before C, in this order', (d) => dropRows(d, [act('F'), act('D')], act('C'), 'before'), 'Move 2 rows', '[X] .A .[Y] ..B ..F ..D ..C [E]'],
    ['D into X, last', (d) => dropRows(d, [act('D')], node('X'), 'inside'), 'Move 1 row', '[X] .A .[Y] ..B ..C .D [E] F'],
    ['A into X, where it is first: last then', (d) => dropRows(d, [act('A')], node('X'), 'inside'), 'Move 1 row', '[X] .[Y] ..B ..C .A D [E] F'],
    ['B before Y', (d) => dropRows(d, [act('B')], node('Y'), 'before'), 'Move 1 row', '[X] .A .B .[Y] ..C D [E] F'],
    ['F before itself', (d) => dropRows(d, [act('F')], act('F'), 'before'), 'NOTHING_SELECTED Select rows to move first. @', WHOLE],
    ['F into a node that is gone', (d) => dropRows(d, [act('F')], node('zz'), 'inside'), 'NOTHING_SELECTED Select rows to move first. @', WHOLE],
    ['X into Y', (d) => dropRows(d, [node('X')], node('Y'), 'inside'), 'INTO_ITSELF A WBS node cannot go inside itself. @', WHOLE],
    ['X and F before B', (d) => dropRows(d, [act('F'), node('X')], act('B'), 'before'), 'INTO_ITSELF A WBS node cannot go inside itself. @', WHOLE],
    ['D and F behind A', (d) => moveRowsTo(d, [act('D'), act('F')], { parent: 'X', after: 'A' }), 'Move 2 rows', '[X] .A .D .F .[Y] ..B ..C [E]'],
    ['D behind itself: behind what stands before it', (d) => moveRowsTo(d, [act('D'), act('F')], { parent: null, after: 'D' }), 'Move 2 rows', '[X] .A .[Y] ..B ..C D F [E]'],
    ['X behind itself: first', (d) => moveRowsTo(d, [node('X'), act('F')], { parent: null, after: 'X' }), 'Move 2 rows', '[X] .A .[Y] ..B ..C F D [E]'],
    ['X into Y by moving', (d) => moveRowsTo(d, [node('X')], { parent: 'Y', after: null }), 'INTO_ITSELF A WBS node cannot go inside itself. Put it elsewhere. @', WHOLE],
  ])('%s', (_, run, words, after) => {
    const doc = plan(tight);
    const o = run(doc);
    expect(tells(o).replace(/^Add \d+ /, 'Add ID ')).toBe(words);
    if (o.ok) mustBack(doc, o);
    expect(shape(doc)).toBe(after);
  });
  test.each<[string | null, string | null, number, number]>([
    [null, 'D', 2, 2],
    [null, null, 2, 0],
    ['X', 'Y', 3, 2],
    ['E', null, 2, 0],
  ])('ranks in %s behind %s for %i rows', (parent, after, count, at) => {
    const doc = plan(tight);
    const draft = new Draft(doc);
    const ranks = spacedRanks(draft, siblings(doc, parent), after, count);
    for (const c of draft.changes) must(doc, { ok: true, label: '', changes: [c] });
    const all = [...siblings(doc, parent).map((s) => s.rank), ...ranks].sort((a, b) => a - b);
    // All apart, one after the other, and in the wanted place.
    expect(new Set(all).size).toBe(all.length);
    expect(all.slice(at, at + count)).toEqual(ranks);
  });
});

test('ranks at the ends are whole steps away; between two they part the room', () => {
  const doc = plan();
  const of = (after: string | null, count: number): number[] => spacedRanks(new Draft(doc), siblings(doc, null), after, count);
  expect([of(null, 2), of('F', 2), of('X', 3), spacedRanks(new Draft(doc), [], null, 3)]).toEqual([
    [-2, -1],
    [4, 5],
    [0.25, 0.5, 0.75],
    [0, 1, 2],
  ]);
});

test('moved to where they are, rows stay', () => expect(tells(moveRowsTo(plan(), [], { parent: null, after: null }))).toBe('NOTHING_CHANGED The rows are there already. @'));

test('the place at the end, also of an empty plan', () => {
  expect([place(plan(), null), place(documentOf({ activities: [] }), null), place(plan(), node('Y')), place(plan(), act('B'))]).toEqual([
    { parent: null, after: 'F' },
    { parent: null, after: null },
    { parent: 'Y', after: null },
    { parent: 'Y', after: 'B' },
  ]);
});

test('of rows only those count that are there, once, and not within others', () => {
  const doc = plan();
  expect(topmost(doc, [act('B'), node('X'), act('D'), act('D'), node('zz'), act('A')]).map((r) => r.id)).toEqual(['X', 'D']);
  // An activity has nothing in it, whatever its id.
  doc.activities.set('Y', { ...sure(doc.activities.get('A')), id: 'Y', wbsId: null });
  forgetIndex(doc);
  expect(topmost(doc, [act('Y'), act('B')]).map((r) => r.id)).toEqual(['Y', 'B']);
});

test.each<[string, (doc: Document) => ReturnType<typeof levelUp>, string]>([
  ['deleting one', (d) => deleteRows(d, [act('A')]), 'Delete 1 activity'],
  ['deleting a branch, and one within it', (d) => deleteRows(d, [node('X'), act('B'), node('Y')]), 'Delete 3 activities and 2 WBS nodes'],
  ['deleting an empty node', (d) => deleteRows(d, [node('E')]), 'Delete 1 WBS node'],
  ['deleting nothing', (d) => deleteRows(d, [act('zz')]), 'NOTHING_SELECTED Select rows to delete first. @'],
  ['a name too long', (d) => addActivity(d, null, { name: 'x'.repeat(501) }, newId), 'WRONG_VALUE The name is longer than 500 characters. Shorten it; the notes take more. @name'],
  ['a node’s name too long', (d) => addWbs(d, null, 'x'.repeat(501), newId), 'WRONG_VALUE The name is longer than 500 characters. Shorten it; the notes take more. @name'],
  ['renaming', (d) => renameWbs(d, 'X', ' Works '), 'Rename WBS node Works'],
  ['renaming what is gone', (d) => renameWbs(d, 'zz', 'x'), 'UNKNOWN_WBS That WBS node is not in the plan any more. @'],
])('%s', (_, run, words) => {
  const doc = plan();
  const o = run(doc);
  expect(tells(o)).toBe(words);
  if (o.ok) {
    mustBack(doc, o);
    // Children go before their parents.
    const gone = o.changes.filter((c) => c.table === 'wbs' && c.after === null).map((c) => c.id);
    if (gone.length > 1) expect(gone).toEqual(['Y', 'X']);
  }
});

test('a new activity has what its neighbour works on, a day of it, and no name unless it is given', () => {
  const doc = documentOf({ activities: [['A', '1d @six']], calendars: [{ id: 'short', name: 'Short', basedOn: 'five', hoursPerDay: 4 }] });
  const added = (args: Parameters<typeof addActivity>[2], below: RowRef | null = act('A')) => sure(doc.activities.get(must(doc, addActivity(doc, below, args, newId))[0]!));
  expect(added({})).toMatchObject({ name: '', calendarId: 'six', type: 'task', duration: 480 });
  expect(added({ calendarId: 'short' })).toMatchObject({ calendarId: 'short', duration: 240 });
  expect(added({ type: 'finishMilestone', duration: 960 })).toMatchObject({ type: 'finishMilestone', duration: 0 });
  expect(added({ duration: 99, code: 'Q', fields: { priority: 7 } }, null)).toMatchObject({ code: 'Q', duration: 99, calendarId: null, priority: 7 });
});

describe('copies', () => {
  const clipOf = (doc: Document, refs: RowRef[], cut = false) => sure(readClip(JSON.stringify(copyRows(doc, 'p', refs, cut))));
  test('rows go in the order of the outline, however they were selected, with what they hold', () => {
    const doc = plan();
    const clip = clipOf(doc, [act('F'), node('Y'), act('A'), act('D')]);
    expect([clip.top.map((r) => r.id), clip.activities.map((a) => a.id), clip.wbs.map((w) => w.id)]).toEqual([['A', 'Y', 'D', 'F'], ['A', 'B', 'C', 'D', 'F'], ['Y']]);
    const o = pasteRows(doc, 'p', clip, act('B'), newId);
    expect(tells(o)).toBe('Paste 6 rows');
    mustBack(doc, o);
    expect(shape(doc)).toBe('[X] .A .[Y] ..B ..A ..[Y] ...B ...C ..D ..F ..C D [E] F');
  });
  test('a branch in a branch keeps its shape; on a node, nodes go beside and rows inside', () => {
    const doc = plan();
    mustBack(doc, pasteRows(doc, 'p', clipOf(doc, [node('X')]), node('E'), newId));
    expect(shape(doc)).toBe('[X] .A .[Y] ..B ..C D [E] [X] .A .[Y] ..B ..C F');
    const other = plan();
    mustBack(other, pasteRows(other, 'p', clipOf(other, [node('E'), act('D')]), node('Y'), newId));
    expect(shape(other)).toBe('[X] .A .[Y] ..D ..[E] ..B ..C D [E] F');
  });
  test('nothing chosen, nothing copied; at the end of an empty plan', () => {
    expect(copyRows(plan(), 'p', [act('zz')], false)).toBeUndefined();
    const empty = documentOf({ activities: [] });
    mustBack(empty, pasteRows(empty, 'q', clipOf(plan(), [act('A')]), null, newId));
    expect(shape(empty)).toBe('A');
  });
  test('cut rows that are gone meanwhile are put as copies; of some that are left those are moved', () => {
    const doc = plan();
    const clip = clipOf(doc, [act('D'), act('F')], true);
    must(doc, deleteRows(doc, [act('D')]));
    expect(tells(pasteRows(doc, 'p', clip, act('A'), newId))).toBe('Move 1 row');
    must(doc, deleteRows(doc, [act('F')]));
    const o = pasteRows(doc, 'p', clip, act('A'), newId);
    expect(tells(o)).toBe('Paste 2 rows');
    mustBack(doc, o);
    expect(shape(doc)).toBe('[X] .A .D .F .[Y] ..B ..C [E]');
  });
  test('progress is left behind, but where rows were cut in another project', () => {
    const doc = plan();
    doc.activities.set('D', { ...sure(doc.activities.get('D')), actualStart: '2026-03-02T08:00', remaining: 60 });
    const pasted = (cut: boolean, project: string) => {
      const made = pasteRows(doc, project, clipOf(doc, [act('D')], cut), null, newId);
      return sure(doc.activities.get(must(doc, made)[0]!)).actualStart;
    };
    expect([pasted(false, 'p'), pasted(false, 'q'), pasted(true, 'q')]).toEqual([null, null, '2026-03-02T08:00']);
  });
  test('a calendar that is not here any more is the project’s; a lag on it the predecessor’s', () => {
    const doc = documentOf({
      activities: [
        ['A', '1d @six'],
        ['B', '1d'],
      ],
      links: ['A +1d [calendar:six] > B'],
    });
    const clip = clipOf(doc, [act('A'), act('B')]);
    expect(clip.calendars.map((c) => c.id)).toEqual(['six']);
    doc.calendars.delete('six');
    doc.links.clear();
    forgetIndex(doc);
    const made = must(doc, pasteRows(doc, 'p', clip, null, newId));
    expect([
      sure(doc.activities.get(made[0]!)).calendarId,
      indexOf(doc)
        .linksInto(made[1]!)
        .map((l) => [l.from, l.lag, l.lagCalendar]),
    ]).toEqual([null, [[made[0], 480, 'predecessor']]]);
  });
});

describe('what acts on many links say', () => {
  const links = (list: string[], more: Partial<PlanText> = {}): Document =>
    documentOf({ activities: ['A', 'B', 'C', 'D'].map((id): [string, string] => [id, '1d']), links: list, ...more });
  test.each<[string, (doc: Document) => ReturnType<typeof levelUp>, string]>([
    ['each to each', (d) => linkEach(d, ['A'], ['B', 'C'], 'FS', newId).outcome, 'Link 1 to 2: 2 links'],
    ['one link', (d) => linkEach(d, ['A'], ['D'], 'FS', newId).outcome, 'Link 1 to 1: 1 link'],
    ['none', (d) => linkEach(d, [], ['D'], 'FS', newId).outcome, 'NOTHING_SELECTED There is nothing to link. @'],
    ['copied', (d) => copyLinks(d, 'D', ['A', 'D', 'B'], 'predecessors', {}, newId).outcome, 'Copy predecessors of D: 2 links'],
    ['reversed', (d) => reverseLinks(d, ['l0'], newId).outcome, 'Reverse 1 link'],
    ['changed', (d) => changeLinks(d, ['l0'], { type: 'SS' }), 'Change 1 link'],
    ['changed to what they are', (d) => changeLinks(d, ['l0'], { type: 'FS' }), 'NOTHING_CHANGED These links are so already. @'],
    ['changed, none chosen', (d) => changeLinks(d, ['zz'], {}), 'UNKNOWN_LINK Choose links first. @'],
    ['cleared', (d) => clearLinks(d, ['D'], 'both'), 'Delete 1 link'],
    ['cleared where none are', (d) => clearLinks(d, ['B'], 'both'), 'NOTHING_SELECTED The selected activities have no links. @'],
    ['cleared at a side without', (d) => clearLinks(d, ['D'], 'successors'), 'NOTHING_SELECTED The selected activities have no successors. @'],
    ['put into', (d) => insertIntoLink(d, 'l0', 'A', newId).outcome, 'Put A into the link C to D'],
    ['put into what is gone', (d) => insertIntoLink(d, 'zz', 'A', newId).outcome, 'UNKNOWN_LINK That link is not in the plan any more. @'],
    ['joined around', (d) => joinAround(d, ['C'], false, newId), 'Join around 1 activity'],
    ['dissolved', (d) => joinAround(d, ['C', 'D'], true, newId), 'Dissolve 2 activities'],
    ['joined around what has no links', (d) => joinAround(d, ['A'], false, newId), 'NOTHING_CHANGED The selected activities have no links. @'],
    ['joined around nothing', (d) => joinAround(d, ['zz'], false, newId), 'NOTHING_SELECTED Select activities first. @'],
  ])('%s', (_, run, words) => {
    const doc = links(['C > D']);
    const o = run(doc);
    expect(tells(o)).toBe(words);
    if (o.ok) mustBack(doc, o);
  });
  test.each([
    ['predecessor', 'six'],
    ['successor', 'nights'],
    ['project', 'five'],
    ['elapsed', 'elapsed'],
    ['calendar:clock', 'clock'],
    [null, 'six'],
  ] as const)('a lag by %s is counted on %s', (lagCalendar, id) => {
    const doc = documentOf({
      activities: [
        ['A', '1d @six'],
        ['B', '1d @nights'],
      ],
    });
    expect(lagCalendarId(doc, { from: 'A', to: 'B', lagCalendar })).toBe(id);
  });
  const bridged = (list: string[], more: Partial<PlanText> = {}): string[] => {
    const doc = links(list, more);
    mustBack(doc, joinAround(doc, ['B'], true, newId));
    return [...doc.links.values()].map((l) => `${l.from} ${l.type} ${l.lag} ${l.to} ${l.lagCalendar}`).sort();
  };
  test.each<[string[], string[]]>([
    // The longer of two lags says where it is counted; alike, the one that led in.
    [['A +1d [elapsed] > B', 'B +2d > C'], ['A FS 1440 C null']],
    [['A +2d [elapsed] > B', 'B +1d > C'], ['A FS 1440 C elapsed']],
    [['A +1d [elapsed] > B', 'B +1d > C'], ['A FS 960 C elapsed']],
    [['A +1d [calendar:six] > B', 'B > C'], ['A FS 480 C calendar:six']],
    [['A +1d [elapsed] > B', 'B -1d > C'], ['A FS 0 C null']],
    // Two ways round: the longer lag holds both; there already, it is lengthened.
    [['A SS+1d > B', 'A SS > B', 'B > C'], ['A SS 480 C null']],
    [['A > B', 'B +1d > C', 'A > C'], ['A FS 480 C null']],
    [['A > B', 'B > C', 'A +1d > C'], ['A FS 480 C null']],
    [
      ['A > B', 'A SS > B', 'D > B', 'B > C', 'B FF > C'],
      ['A FF 0 C null'.replace('FF', 'FF'), 'A FS 0 C null', 'A SF 0 C null', 'A SS 0 C null', 'D FF 0 C null', 'D FS 0 C null'],
    ],
  ])('%j without B: %j', (list, left) => expect(bridged(list)).toEqual(left));
});
