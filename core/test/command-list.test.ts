/** The list of commands: each says what it is and where it is offered, can say why it cannot be done, and does what it says. */
import type { CommandContext } from '@yellowhammer/core/commands/command';
import { planCommands } from '@yellowhammer/core/commands/list';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import type { Document } from '@yellowhammer/core/model/document';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { documentOf, mustBack, nodeInto, ownFieldOf, putInto, says, sure, viewIn } from './helpers';

const commandOf = (id: string) => sure(planCommands.find((c) => c.id === id));

// Where each is offered by a menu, and its keys: what a change here would take away from somebody's hands.
test.each<[string, string, string]>([
  ['levelDown', 'row node', 'Ctrl+]'],
  ['levelUp', 'row node', 'Ctrl+['],
  ['moveUp', 'row node', 'Alt+ArrowUp'],
  ['moveDown', 'row node', 'Alt+ArrowDown'],
  ['deleteRows', 'row node bar', 'Ctrl+Delete'],
  ['wrap', 'row node', 'G'],
  ['lane', 'node', 'N'],
  ['wrapLane', 'row bar', 'Shift+N'],
  ['dissolveNode', 'node', 'Shift+G'],
  ['merge', 'row bar', 'M'],
  ['toNode', 'row', ''],
  ['toActivity', 'node', ''],
  ['clearCells', 'row', ''],
  ['fillDown', 'row', 'Ctrl+D'],
  ['link', 'row bar', 'L'],
  ['unlink', 'row bar', ''],
  ['clearPredecessors', '', ''],
  ['clearSuccessors', '', ''],
  ['reverse', 'row bar', ''],
  ['reverseLink', 'link', ''],
  ['insertIntoLink', 'link', ''],
  ['joinAround', 'row bar', 'J'],
  ['dissolveActivity', 'row bar', 'Shift+J'],
  ['deleteLink', 'link', ''],
])('%s is offered on %s, under %s', (id, where, keys) => {
  const c = commandOf(id);
  expect([c.where.join(' '), [...(c.keys ?? []), ...(c.letter ? [c.letter] : [])].join(' ')]).toEqual([where, keys]);
});

test('each command has an id of its own, a title, a sentence about it and words by which it is found', () => {
  expect(planCommands).toHaveLength(24);
  for (const key of ['id', 'title'] as const) expect(new Set(planCommands.map((c) => c[key])).size).toBe(planCommands.length);
  for (const c of planCommands) {
    expect([c.id, c.title.length > 3, c.about.length > 15, c.words.split(' ').length > 1, ['Rows', 'Cells', 'Links'].includes(c.group)]).toEqual([c.id, true, true, true, true]);
    expect([c.title, c.about, c.words].some((t) => t.includes('Stryker'))).toBe(false);
  }
});

let n = 0;
function plan(): Document {
  const doc = documentOf({ activities: ['A', 'B', 'C', 'D'].map((id): [string, string] => [id, '2d']), links: ['A > B', 'B > C'] });
  nodeInto(doc, 'X', null, 0);
  nodeInto(doc, 'Y', null, 1);
  putInto(doc, 'A', 'X', 0);
  putInto(doc, 'B', 'X', 1);
  putInto(doc, 'C', null, 2);
  putInto(doc, 'D', null, 3);
  return doc;
}
function context(doc: Document, ids: readonly string[], more: Partial<CommandContext['selection']> = {}): CommandContext {
  const rows = ids.map((id): RowRef => ({ kind: doc.wbs.has(id) ? 'wbs' : 'activity', id }));
  const place = new Map(outlineRows(doc).map((r, i) => [r.id, i]));
  const inOrder = [...rows].sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0));
  return { doc, view: viewIn(doc), selection: { rows, inOrder, row: rows[0] ?? null, field: null, link: null, ...more }, newId: () => `new${++n}` };
}
const outline = (doc: Document): string =>
  outlineRows(doc)
    .map((r) => `${'.'.repeat(r.depth)}${r.id}`)
    .join(' ');
const links = (doc: Document): string =>
  [...doc.links.values()]
    .map((l) => `${l.from}${l.to}`)
    .sort()
    .join(' ');
const longs = (doc: Document): string => [...doc.activities.values()].map((a) => a.duration / 480).join(' ');

type Case = [id: string, selected: string[], more: Partial<CommandContext['selection']>, read: (doc: Document) => string, after: string | RegExp];
test.each<Case>([
  ['levelDown', ['C'], {}, outline, 'X .A .B Y .C D'],
  ['levelUp', ['B'], {}, outline, 'X .A B Y C D'],
  ['moveUp', ['D', 'C'], {}, outline, 'X .A .B C D Y'],
  ['moveDown', ['A'], {}, outline, 'X .B .A Y C D'],
  ['deleteRows', ['X', 'C'], {}, outline, 'Y D'],
  ['wrap', ['D', 'B'], {}, outline, /^X \.A \.new\d+ \.\.B \.\.D Y C$/],
  ['lane', ['X'], {}, (doc) => String(doc.wbs.get('X')?.lane), 'true'],
  ['wrapLane', ['C', 'D'], {}, (doc) => [...doc.wbs.values()].map((w) => w.lane).join(' '), 'false false true'],
  ['dissolveNode', ['X'], {}, outline, 'A B Y C D'],
  ['merge', ['B', 'A'], {}, (doc) => `${outline(doc)} ${doc.activities.get('A')?.duration}`, 'X .A Y C D 1920'],
  ['toNode', ['C'], {}, outline, /^X \.A \.B Y new\d+ \.C D$/],
  ['toActivity', ['X'], {}, outline, 'A Y C D'],
  ['clearCells', ['A', 'B'], { field: 'cost' }, (doc) => [...doc.activities.values()].map((a) => a.cost).join(' '), '0 0 7 7'],
  ['fillDown', ['C', 'A', 'B'], { field: 'duration' }, longs, '5 5 5 2'],
  ['link', ['D', 'A', 'C'], {}, links, 'AB AC BC DA'],
  ['unlink', ['A', 'B'], {}, links, 'BC'],
  ['clearPredecessors', ['B', 'C'], {}, links, ''],
  ['clearSuccessors', ['A'], {}, links, 'BC'],
  ['reverse', ['A', 'B'], {}, links, 'BA BC'],
  ['reverseLink', [], { link: 'l1' }, links, 'AB CB'],
  ['insertIntoLink', ['D'], { link: 'l0' }, links, 'AD BC DB'],
  ['joinAround', ['B'], {}, links, 'AC'],
  ['dissolveActivity', ['B'], {}, (doc) => `${outline(doc)} ${links(doc)}`, 'X .A Y C D AC'],
  ['deleteLink', [], { link: 'l0' }, links, 'BC'],
])('%s on %j %j', (id, selected, more, read, after) => {
  const doc = plan();
  for (const a of [...doc.activities.values()]) doc.activities.set(a.id, { ...a, cost: 7, ...(id === 'fillDown' && a.id === 'A' ? { duration: 2400 } : {}) });
  const c = context(doc, selected, more);
  expect(commandOf(id).able(c)).toBe(true);
  const made = mustBack(doc, commandOf(id).run(c));
  if (after instanceof RegExp) expect(read(doc)).toMatch(after);
  else expect(read(doc)).toBe(after);
  // What is renamed or selected afterwards has been made.
  if (commandOf(id).then) expect(made.length).toBeGreaterThan(0);
});

test.each<[string, string[], Partial<CommandContext['selection']>, string]>([
  ['levelDown', [], {}, 'Select rows first'],
  ['levelDown', ['X'], {}, 'no WBS node above'],
  ['levelUp', ['C'], {}, 'top level already'],
  ['moveUp', ['X'], {}, 'nothing further up'],
  ['moveDown', ['D'], {}, 'nothing further down'],
  ['moveUp', ['A', 'C'], {}, 'different WBS nodes'],
  ['deleteRows', [], {}, 'Select rows first'],
  ['wrap', [], {}, 'Select rows first'],
  ['lane', ['A'], {}, 'Select WBS nodes first'],
  ['dissolveNode', ['A'], {}, 'Select a WBS node'],
  ['merge', ['A'], {}, 'Select two or more'],
  ['toNode', ['X'], {}, 'Select activities first'],
  ['toActivity', ['X', 'Y'], {}, 'Select one WBS node'],
  ['toActivity', ['Y'], {}, 'has no activities'],
  ['clearCells', ['A'], { field: null }, 'column of values first'],
  ['clearCells', ['A'], { field: 'name' }, 'column of values first'],
  ['clearCells', ['A'], { field: 'finishVariance' }, 'column of values first'],
  ['clearCells', ['X'], { field: 'cost' }, 'Select activities first'],
  ['fillDown', ['A', 'B'], { field: 'float' }, 'can be typed first'],
  ['fillDown', ['A'], { field: 'cost' }, 'two or more activities first'],
  ['link', ['A'], {}, 'two or more activities'],
  ['unlink', ['A', 'C'], {}, 'No two of the selected'],
  ['clearPredecessors', ['A'], {}, 'no predecessors'],
  ['clearSuccessors', ['D'], {}, 'no successors'],
  ['reverse', ['A', 'D'], {}, 'No two of the selected'],
  ['reverseLink', [], {}, 'Point at a link'],
  ['insertIntoLink', ['D'], { link: 'gone' }, 'Point at a link'],
  ['insertIntoLink', ['D', 'C'], { link: 'l0' }, 'Select one activity first'],
  ['insertIntoLink', ['C'], { link: 'l0' }, 'loop'],
  ['joinAround', ['D'], {}, 'have no links'],
  ['dissolveActivity', ['X'], {}, 'Select activities first'],
  ['deleteLink', [], { link: 'gone' }, 'Point at a link'],
])('%s on %j %j says why not', (id, selected, more, why) => expect(commandOf(id).able(context(plan(), selected, more))).toContain(why));

test('what is done on rows that are gone is refused, not guessed', () => {
  const doc = plan();
  const c = context(doc, ['C', 'D']);
  doc.activities.delete('C');
  doc.activities.delete('D');
  for (const id of ['moveUp', 'levelDown', 'wrap', 'merge', 'toNode', 'dissolveActivity', 'deleteRows'])
    expect([id, says(commandOf(id).run(c))]).toEqual([id, expect.stringMatching(/^Select|not in the plan/) as string]);
});

test('more rows than are tried out are taken as they are: what cannot be done is told when it is done', () => {
  const doc = documentOf({ activities: Array.from({ length: 51 }, (_, i): [string, string] => [`N${i}`, '1d']) });
  const c = context(doc, [...doc.activities.keys()]);
  expect(commandOf('levelUp').able(c)).toBe(true);
  expect(says(commandOf('levelUp').run(c))).toContain('top level already');
  expect(commandOf('levelUp').able(context(doc, [...doc.activities.keys()].slice(0, 50)))).toContain('top level already');
});

test('a field of WBS nodes is cleared and filled in nodes only', () => {
  const doc = plan();
  doc.ownFields.set('site', ownFieldOf('site', 'Site', { of: 'wbs' }));
  doc.wbs.set('X', { ...sure(doc.wbs.get('X')), values: { 'own:site': 'North' } });
  const at = (ids: string[]): CommandContext => context(doc, ids, { field: 'own:site' });
  const sites = (): unknown[] => [...doc.wbs.values()].map((w) => w.values['own:site']);
  expect([commandOf('clearCells').able(at(['C', 'D'])), commandOf('fillDown').able(at(['X'])), commandOf('fillDown').able(at(['X', 'C']))]).toEqual([
    'Site belongs to WBS nodes. Select some first.',
    'Select two or more WBS nodes first.',
    'Select two or more WBS nodes first.',
  ]);
  expect([commandOf('clearCells').able(at(['X'])), commandOf('fillDown').able(at(['X', 'Y']))]).toEqual([true, true]);
  mustBack(doc, commandOf('fillDown').run(at(['X', 'Y'])));
  expect(sites()).toEqual(['North', 'North']);
  mustBack(doc, commandOf('clearCells').run(at(['Y'])));
  expect(sites()).toEqual(['North', undefined]);
});

test('without a column of the cursor there is nothing to fill', () => expect(commandOf('fillDown').able(context(plan(), ['A', 'B']))).toContain('can be typed first'));
