/** What commands on rows, links, numbers, calendars and expenses say, word for word, with the place; and where their limits lie. */
import { addNote, attachFiles, changeNote, removeFile } from '@yellowhammer/core/commands/attached';
import { changeLinks, clearLinks, insertIntoLink, joinAround, linkEach, reverseLinks } from '@yellowhammer/core/commands/bulk-links';
import { addCalendar, calendarUses, deleteCalendar, editCalendar } from '@yellowhammer/core/commands/calendars';
import { addExpenses, deleteExpenses, setExpenses } from '@yellowhammer/core/commands/expenses';
import { addLink, addTypedLinks, deleteLinks, editLink, linkInOrder, setTypedLinks } from '@yellowhammer/core/commands/links';
import { codeWbs, deleteRows, dropRows, levelDown, levelUp, moveRows, renameWbs } from '@yellowhammer/core/commands/outline';
import { addPeople } from '@yellowhammer/core/commands/resources';
import { renumber, type Renumbering } from '@yellowhammer/core/commands/renumber';
import { replicate } from '@yellowhammer/core/commands/replicate';
import { activitiesToNodes, dissolveNodes, mergeActivities, nodeToActivity, setLanes, splitActivity, wrapRows } from '@yellowhammer/core/commands/reshape';
import type { Document } from '@yellowhammer/core/model/document';
import { documentOf, mustBack, nodeInto, peopledPlan, putInto, says, sure, tells, tellsEach, viewIn } from './helpers';

let n = 0;
const newId = (): string => `w${++n}`;
const by = { who: 'p', at: '2026-03-02T08:00:00Z' };
const lengths = () => ({ minutesPerDay: 480, daysPerWeek: 5 });
const row = (id: string) => ({ kind: 'activity' as const, id });
const node = (id: string) => ({ kind: 'wbs' as const, id });

/** X holds A and B; Y holds C; the rest stands at the top. A leads to B, B to C. */
function plan(): Document {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '10d', {}],
        ['B', '5d', {}],
        ['C', '2d @six', {}],
        ['D', '2d', {}],
        ['M', 'finish', {}],
        ['G', 'margin 2d', {}],
        ['S', '4d', { actualStart: '2026-03-02T08:00', remaining: 960 }],
        ['F', '1d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-02T17:00' }],
      ],
      links: ['A > B', 'B > C'],
      project: { dataDate: '2026-03-04T08:00' },
    },
    {
      expenses: [
        { name: 'Hire', budget: 5 },
        { budget: 7, income: true },
      ],
    },
  );
  for (const [id, rank] of [
    ['X', 0],
    ['Y', 1],
    ['Z', 2],
  ] as const)
    nodeInto(doc, id, null, rank);
  putInto(doc, 'A', 'X', 0);
  putInto(doc, 'B', 'X', 1);
  putInto(doc, 'C', 'Y', 0);
  return doc;
}
const words = (name: string, cases: Parameters<typeof tellsEach>[2]): void => tellsEach(name, plan, cases);

words('splitting, joining, wrapping', [
  ['splitting what is gone', (d) => splitActivity(d, 'zz', 480, newId), 'UNKNOWN_ACTIVITY That activity is not in the plan any more. @'],
  ['splitting a milestone', (d) => splitActivity(d, 'M', 480, newId), 'WRONG_TYPE M M is not a task. Only a task can be split. @activities/M/M M'],
  ['splitting what is finished', (d) => splitActivity(d, 'F', 60, newId), 'WRONG_ENTRY F F is finished. Only work that is left can be split. @activities/F/F F'],
  [
    'splitting at its start',
    (d) => splitActivity(d, 'A', 0, newId),
    'WRONG_VALUE The first part of A A must be longer than nothing and shorter than all of it, which is 10d. @activities/A/A A',
  ],
  [
    'splitting at its end',
    (d) => splitActivity(d, 'A', 4800, newId),
    'WRONG_VALUE The first part of A A must be longer than nothing and shorter than all of it, which is 10d. @activities/A/A A',
  ],
  ['splitting before what is done', (d) => splitActivity(d, 'S', 959, newId), 'WRONG_ENTRY Of S S 2d are done. Split it at or after that. @activities/S/S S/duration'],
  ['splitting at what is done', (d) => splitActivity(d, 'S', 960, newId), 'Split S S'],
  ['joining one', (d) => mergeActivities(d, viewIn(d), ['A', 'A', 'zz'], null), 'SELECT_TWO Select two or more activities to make one of them. @'],
  ['joining with a margin', (d) => mergeActivities(d, viewIn(d), ['A', 'G'], null), 'WRONG_TYPE G G is not a task. Only tasks can be made one. @activities/G/G G'],
  ['joining without dates', (d) => mergeActivities(d, null, ['A', 'B'], null), 'NOT_COMPUTED The plan has no dates yet, and how long the whole lasts follows from them. @'],
  ['joining', (d) => mergeActivities(d, viewIn(d), ['A', 'B'], null), 'Make one activity of 2 activities'],
  ['nodes of nothing', (d) => activitiesToNodes(d, ['zz'], newId), 'NOTHING_SELECTED Select activities first. @'],
  ['a node of one', (d) => activitiesToNodes(d, ['D'], newId), 'Make 1 WBS node of 1 activity'],
  ['nodes of two', (d) => activitiesToNodes(d, ['D', 'M'], newId), 'Make 2 WBS nodes of 2 activities'],
  ['an activity of a node that is gone', (d) => nodeToActivity(d, viewIn(d), 'zz'), 'UNKNOWN_WBS That WBS node is not in the plan any more. @'],
  ['an activity of an empty node', (d) => nodeToActivity(d, viewIn(d), 'Z'), 'NOTHING_SELECTED Z has no activities. Delete it instead. @wbs/Z/Z'],
  ['an activity of a node', (d) => nodeToActivity(d, viewIn(d), 'X'), 'Make X an activity'],
  ['an activity of a node without dates', (d) => nodeToActivity(d, null, 'X'), 'NOT_COMPUTED The plan has no dates yet, and how long the whole lasts follows from them. @'],
  ['wrapping nothing', (d) => wrapRows(d, [], 'New', newId), 'NOTHING_SELECTED Select rows first. @'],
  ['wrapping what is gone', (d) => wrapRows(d, [row('zz')], 'New', newId), 'NOTHING_SELECTED Those rows are not in the plan any more. @'],
  ['wrapping one', (d) => wrapRows(d, [row('D')], 'New', newId), 'Put 1 row into a WBS node'],
  ['two into a lane', (d) => wrapRows(d, [row('A'), row('B')], 'New', newId, true), 'Put 2 rows into a lane'],
  ['lanes of nothing', (d) => setLanes(d, ['zz']), 'NOTHING_SELECTED Select WBS nodes first. @'],
  ['a lane', (d) => setLanes(d, ['X']), 'Show 1 WBS node as a lane'],
  ['lanes', (d) => setLanes(d, ['X', 'Y']), 'Show 2 WBS nodes as lanes'],
  ['dissolving nothing', (d) => dissolveNodes(d, ['zz']), 'NOTHING_SELECTED Select WBS nodes first. @'],
  ['dissolving', (d) => dissolveNodes(d, ['X', 'X']), 'Dissolve 1 WBS node'],
]);
test('lanes become nodes again, one or several', () => {
  const doc = plan();
  mustBack(doc, setLanes(doc, ['X', 'Y']));
  expect([tells(setLanes(doc, ['X'])), tells(setLanes(doc, ['X', 'Y'])), tells(setLanes(doc, ['X', 'Z']))]).toEqual([
    'Show 1 WBS node as a node',
    'Show 2 WBS nodes as nodes',
    'Show 2 WBS nodes as lanes',
  ]);
});
test('splitting parts what is left, the cost to the cent, and the constraints of its ends', () => {
  const doc = documentOf({
    activities: [
      [
        'A',
        '3d',
        {
          cost: 100,
          deadline: '2026-04-01T17:00',
          notes: 'said',
          constraints: [
            { kind: 'startNotBefore', date: '2026-03-03T08:00' },
            { kind: 'finishNotAfter', date: '2026-03-20T17:00' },
          ],
        },
      ],
      ['S', '4d', { actualStart: '2026-03-02T08:00', remaining: 1440 }],
    ],
    project: { dataDate: '2026-03-03T08:00' },
  });
  const [a] = mustBack(doc, splitActivity(doc, 'A', 480, newId));
  const [first, second] = [sure(doc.activities.get('A')), sure(doc.activities.get(sure(a)))];
  expect([first.duration, first.cost, first.deadline, first.constraints.map((c) => c.kind), first.notes, first.remaining]).toEqual([
    480,
    33.33,
    null,
    ['startNotBefore'],
    'said',
    null,
  ]);
  expect([second.duration, second.cost, second.deadline, second.constraints.map((c) => c.kind), second.notes, second.name]).toEqual([
    960,
    66.67,
    '2026-04-01T17:00',
    ['finishNotAfter'],
    '',
    'A, part 2',
  ]);
  // Of four days one is done: the first two and a half have one and a half left.
  const [s] = mustBack(doc, splitActivity(doc, 'S', 1200, newId));
  expect([doc.activities.get('S')?.remaining, doc.activities.get(sure(s))?.remaining, doc.activities.get(sure(s))?.duration]).toEqual([720, null, 720]);
});

words('rows', [
  ['renaming what is gone', (d) => renameWbs(d, 'zz', 'x'), 'UNKNOWN_WBS That WBS node is not in the plan any more. @'],
  ['a code of what is gone', (d) => codeWbs(d, 'zz', '7'), 'UNKNOWN_WBS That WBS node is not in the plan any more. @'],
  ['the code that it has', (d) => codeWbs(d, 'X', '1'), 'NOTHING_CHANGED That is its code already. @'],
  ['the code of another', (d) => codeWbs(d, 'X', '2'), 'WRONG_VALUE 2 is the code of Y. Type another. @wbs/X/X/code'],
  ['deleting nothing', (d) => deleteRows(d, [row('zz')]), 'NOTHING_SELECTED Select rows to delete first. @'],
  ['deleting a node with what is in it', (d) => deleteRows(d, [node('X')]), 'Delete 2 activities and 1 WBS node'],
  ['deleting an activity', (d) => deleteRows(d, [row('D')]), 'Delete 1 activity'],
  ['down with nothing above', (d) => levelDown(d, [node('X')]), 'NO_NODE_ABOVE There is no WBS node above at this level to go into. Ctrl+Enter makes one. @'],
  ['down with nothing', (d) => levelDown(d, []), 'NOTHING_SELECTED Select rows to move first. @'],
  ['up at the top', (d) => levelUp(d, [row('D')]), 'TOP_LEVEL This row is at the top level already. @'],
  [
    'moving rows of two nodes',
    (d) => moveRows(d, [row('A'), row('C')], 'up'),
    'MIXED_LEVELS The selected rows are in different WBS nodes. Select rows of one node to move them. @',
  ],
  ['the last one down', (d) => moveRows(d, [row('F')], 'down'), 'AT_THE_END There is nothing further down. @'],
  ['the first one up', (d) => moveRows(d, [row('A'), row('B')], 'up'), 'AT_THE_END There is nothing further up. @'],
  ['a node into itself', (d) => dropRows(d, [node('X')], row('A'), 'before'), 'INTO_ITSELF A WBS node cannot go inside itself. @'],
  ['a node into its own row', (d) => dropRows(d, [node('X')], node('X'), 'inside'), 'NOTHING_SELECTED Select rows to move first. @'],
]);

words('links', [
  ['to itself', (d) => addLink(d, { from: 'A', to: 'A' }, newId), 'LOOP A A cannot be linked to itself. @activities/A/A A'],
  ['of what is gone', (d) => addLink(d, { from: 'A', to: 'zz' }, newId), 'UNKNOWN_ACTIVITY An activity of that link is not in the plan any more. @'],
  ['twice', (d) => addLink(d, { from: 'A', to: 'B' }, newId), 'DUPLICATE_LINK A and B are already linked FS. Change the lag of that link instead. @activities/B/B B'],
  ['with another type', (d) => addLink(d, { from: 'A', to: 'B', type: 'SS' }, newId), 'Link A to B'],
  [
    'a loop',
    (d) => addLink(d, { from: 'C', to: 'A' }, newId),
    'LOOP Linking C to A would close a loop: A > B > C > A. Delete one of the links between them first. @activities/A/A A',
  ],
  [
    'into a margin',
    (d) => addLink(d, { from: 'A', to: 'G', type: 'SS' }, newId),
    'MARGIN_LINK Into and out of a margin only finish-to-start counts, so A to G cannot be SS. @activities/G/G G',
  ],
  ['one in order', (d) => linkInOrder(d, ['A'], newId), 'SELECT_TWO Select two or more activities, in the order in which they follow each other. @'],
  ['in order', (d) => linkInOrder(d, ['A', 'B', 'C', 'D'], newId), 'Link 4 activities'],
  ['in order, all there', (d) => linkInOrder(d, ['A', 'B', 'C'], newId), 'DUPLICATE_LINK These activities are linked already. @'],
  ['changing what is gone', (d) => editLink(d, 'zz', { lag: 5 }), 'UNKNOWN_LINK That link is not in the plan any more. @'],
  ['changing', (d) => editLink(d, 'l0', { lag: 5 }), 'Change link A to B'],
  ['deleting what is gone', (d) => deleteLinks(d, ['zz']), 'UNKNOWN_LINK That link is not in the plan any more. @'],
  ['deleting', (d) => deleteLinks(d, ['l0', 'l1']), 'Delete 2 links'],
  ['typing for what is gone', (d) => addTypedLinks(d, 'zz', 'predecessors', 'A', newId), 'UNKNOWN_ACTIVITY That activity is not in the plan any more. @'],
  ['typing nothing', (d) => addTypedLinks(d, 'D', 'predecessors', ' , ', newId), 'WRONG_LINK Type an activity number, then a type and a lag if you want: 120fs+2d. @'],
  [
    'typing what is not there',
    (d) => addTypedLinks(d, 'D', 'predecessors', 'Q9fs', newId),
    'WRONG_LINK There is no activity Q9. Type an activity number, then a type and a lag if you want: 120fs+2d. @activities/D/D D/predecessors',
  ],
  [
    'typing a lag that is none',
    (d) => addTypedLinks(d, 'D', 'successors', 'Afs+2dd', newId),
    'WRONG_LINK The lag in Afs+2dd cannot be read. Type it as +2d, -4h or +1w. @activities/D/D D/successors',
  ],
  ['typing one twice', (d) => addTypedLinks(d, 'D', 'predecessors', 'A, a fs+1d', newId), 'WRONG_LINK A FS stands there twice. @activities/D/D D/predecessors'],
  ['typing one', (d) => addTypedLinks(d, 'D', 'predecessors', 'A', newId), 'Add predecessors of D'],
  ['all of what is gone', (d) => setTypedLinks(d, 'zz', 'predecessors', 'A', lengths, newId), 'UNKNOWN_ACTIVITY That activity is not in the plan any more. @'],
  ['all anew', (d) => setTypedLinks(d, 'B', 'successors', 'D, MFF', lengths, newId), 'Set successors of B'],
  [
    'all of a loop',
    (d) => setTypedLinks(d, 'A', 'predecessors', 'C', lengths, newId),
    'LOOP Linking C to A would close a loop: A > B > C > A. Delete one of the links between them first. @activities/A/A A',
  ],
  ['each to each, nothing', (d) => linkEach(d, [], ['A'], 'FS', newId).outcome, 'NOTHING_SELECTED There is nothing to link. @'],
  ['reversing nothing', (d) => changeLinks(d, [], { lag: () => 0 }), 'UNKNOWN_LINK Choose links first. @'],
  ['changing to what they are', (d) => changeLinks(d, ['l0'], { type: 'FS' }), 'NOTHING_CHANGED These links are so already. @'],
  ['clearing what has none', (d) => clearLinks(d, ['D'], 'predecessors'), 'NOTHING_SELECTED The selected activities have no predecessors. @'],
  ['clearing both of what has none', (d) => clearLinks(d, ['D'], 'both'), 'NOTHING_SELECTED The selected activities have no links. @'],
  ['into a link that is gone', (d) => insertIntoLink(d, 'zz', 'D', newId).outcome, 'UNKNOWN_LINK That link is not in the plan any more. @'],
  ['around nothing', (d) => joinAround(d, ['zz'], false, newId), 'NOTHING_SELECTED Select activities first. @'],
  ['around what has none', (d) => joinAround(d, ['D'], false, newId), 'NOTHING_CHANGED The selected activities have no links. @'],
]);
test('links made, changed and replaced keep their ids, ranks and lags', () => {
  const doc = plan();
  const [made] = mustBack(doc, addLink(doc, { from: 'C', to: 'D' }, newId));
  expect(doc.links.get(sure(made))).toEqual({ id: made, rank: 2, from: 'C', to: 'D', type: 'FS', lag: 0, lagCalendar: null });
  mustBack(doc, setTypedLinks(doc, 'B', 'predecessors', 'A+1d, S ss', lengths, newId));
  expect([...doc.links.values()].filter((l) => l.to === 'B').map((l) => [l.id === 'l0', l.from, l.type, l.lag])).toEqual([
    [true, 'A', 'FS', 480],
    [false, 'S', 'SS', 0],
  ]);
  mustBack(doc, setTypedLinks(doc, 'B', 'successors', '', lengths, newId));
  expect([...doc.links.values()].map((l) => `${l.from}${l.to}`)).toEqual(['AB', 'CD', 'SB']);
  expect(tells(reverseLinks(doc, [sure(made)], newId).outcome)).toBe('Reverse 1 link');
});

const how: Renumbering = { from: 10, step: 10, digits: 2, prefixes: new Map(), anew: false };
describe('numbers', () => {
  test.each<[string, Partial<Record<'from' | 'step' | 'digits', number>>, string]>([
    ['from below 0', { from: -1 }, 'WRONG_RANGE The first number is a whole one from 0 to 999,999,999. @'],
    ['from a half', { from: 0.5 }, 'WRONG_RANGE The first number is a whole one from 0 to 999,999,999. @'],
    ['from 0', { from: 0 }, 'taken'],
    ['from the greatest', { from: 999_999_999 }, 'taken'],
    ['from beyond', { from: 1_000_000_000 }, 'WRONG_RANGE The first number is a whole one from 0 to 999,999,999. @'],
    ['step 0', { step: 0 }, 'WRONG_RANGE The step is a whole number from 1 to 1,000. @'],
    ['step 1', { step: 1 }, 'taken'],
    ['step 1,000', { step: 1000 }, 'taken'],
    ['step 1,001', { step: 1001 }, 'WRONG_RANGE The step is a whole number from 1 to 1,000. @'],
    ['no digits', { digits: 0 }, 'WRONG_RANGE A number has from 1 to 9 digits. @'],
    ['nine digits', { digits: 9 }, 'taken'],
    ['ten digits', { digits: 10 }, 'WRONG_RANGE A number has from 1 to 9 digits. @'],
  ])('%s', (_, more, told) => {
    const o = renumber(plan(), null, { ...how, ...more });
    expect(o.ok ? 'taken' : tells(o)).toBe(told);
  });
  test('there is something to number', () => {
    expect(tells(renumber(documentOf({ activities: [] }), null, how))).toBe('NOTHING_SELECTED There are no activities to number. @');
    expect(tells(renumber(plan(), new Set(), how))).toBe('NOTHING_SELECTED There are no activities to number. @');
  });
});

test.each([
  [0, /^Between 1 and/],
  [1, /^taken$/],
  [1.5, /^Between 1 and/],
])('%s copies', (times, told) => {
  const doc = plan();
  expect(says(replicate(doc, [row('A')], { times, names: '', replace: '', replaceBy: '', incoming: false, outgoing: false, chained: false }, newId).outcome)).toMatch(told);
});

words('calendars', [
  ['without a name', (d) => editCalendar(d, 'six', { name: ' ' }), 'NAME_NEEDED A calendar needs a name. @calendars/six/ /name'],
  ['of a name that is taken', (d) => editCalendar(d, 'six', { name: 'FIVE' }), 'NAME_TAKEN There is a calendar Five already. Choose another name. @calendars/five'],
  ['of what is gone', (d) => editCalendar(d, 'zz', {}), 'UNKNOWN_CALENDAR That calendar is not in the project any more. @'],
  ['based on itself', (d) => editCalendar(d, 'six', { basedOn: 'six' }), 'CALENDAR_LOOP Six would be based on itself through Six. Choose another parent. @calendars/six/Six'],
  [
    'based on what is gone',
    (d) => editCalendar(d, 'six', { basedOn: 'zz' }),
    'UNKNOWN_CALENDAR The calendar that it is based on is not there. Choose another parent. @calendars/six/Six',
  ],
  ['deleting what is gone', (d) => deleteCalendar(d, 'zz'), 'UNKNOWN_CALENDAR That calendar is not in the project any more. @'],
  ['deleting one in use', (d) => deleteCalendar(d, 'six'), 'IN_USE Six is used by 1 activity. Give them another calendar first. @calendars/six/Six'],
  ['deleting one not in use', (d) => deleteCalendar(d, 'nights'), 'Delete calendar Nights'],
  ['adding', (d) => addCalendar(d, { name: 'Own' }, newId), 'Add calendar Own'],
]);
test('uses of a calendar name each activity once', () => {
  const doc = plan();
  expect(calendarUses(doc, 'six')).toEqual({ project: false, activities: ['C C'], calendars: [], resources: [], links: 0 });
  expect(calendarUses(doc, 'five')).toMatchObject({ project: true, activities: [] });
  mustBack(doc, addPeople(doc, 'resources', 'ana', { calendarId: 'nights' }, newId));
  expect([calendarUses(doc, 'nights').resources, tells(deleteCalendar(doc, 'nights'))]).toEqual([
    ['ana'],
    'IN_USE Nights is used by 1 resource. Give them another calendar first. @calendars/nights/Nights',
  ]);
});

words('expenses', [
  ['of nothing', (d) => addExpenses(d, ['zz'], {}, newId), 'NOTHING_SELECTED Select activities first. @'],
  ['changing what is gone', (d) => setExpenses(d, ['zz'], { budget: 1 }), 'UNKNOWN_EXPENSE That expense is not there any more. @'],
  ['changing nothing', (d) => setExpenses(d, ['e0'], { name: 'Hire' }), 'NOTHING_CHANGED It is so already. @'],
  ['deleting what is gone', (d) => deleteExpenses(d, ['zz']), 'UNKNOWN_EXPENSE That expense is not there any more. @'],
  ['deleting one with a name', (d) => deleteExpenses(d, ['e0']), 'Delete Hire'],
  ['deleting an income', (d) => deleteExpenses(d, ['e1']), 'Delete income'],
  ['deleting two', (d) => deleteExpenses(d, ['e0', 'e1']), 'Delete 2 expenses'],
]);

words('notes and files', [
  ['of a row that is gone', (d) => addNote(d, row('zz'), 'x', by, newId), 'NOTHING_SELECTED That row is not in the plan any more. @'],
  ['an empty note', (d) => addNote(d, row('A'), ' ', by, newId), 'WRONG_VALUE The note is empty. Type what is to be remembered. @'],
  ['a long note', (d) => addNote(d, row('A'), 'x'.repeat(20_001), by, newId), 'WRONG_VALUE The note is longer than 20,000 characters. Shorten it, or attach it as a file. @'],
  ['changing what is gone', (d) => changeNote(d, 'zz', 'x'), 'UNKNOWN_NOTE That note is not there any more. @'],
  ['a file that is gone', (d) => removeFile(d, 'zz'), 'UNKNOWN_FILE That file is not there any more. @'],
  ['a file', (d) => attachFiles(d, row('A'), [{ name: 'a.pdf', size: 5, hash: '0a'.repeat(32) }], by, newId), 'Attach 1 file to A A'],
]);
