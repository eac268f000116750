/** Commands on rows and cells. */
import { fieldOf } from '../fields/list.ts';
import { fillDown, isTypable, setRows } from './cells.ts';
import { activities, type Command, type CommandContext, nodes, rowsAndNodes, some, tried } from './command.ts';
import { deleteRows, levelDown, levelUp, moveRows, topmost } from './outline.ts';
import { activitiesToNodes, dissolveNodes, mergeActivities, nodeToActivity, setLanes, wrapRows } from './reshape.ts';
import type { Outcome } from './result.ts';

const down = (c: CommandContext): Outcome => levelDown(c.doc, c.selection.inOrder);
const up = (c: CommandContext): Outcome => levelUp(c.doc, c.selection.inOrder);
const moved =
  (direction: 'up' | 'down') =>
  (c: CommandContext): Outcome =>
    moveRows(c.doc, c.selection.inOrder, direction);

/** The selected activities from top to bottom. */
const inOutline = (c: CommandContext): string[] => c.selection.inOrder.flatMap((r) => (r.kind === 'activity' ? [r.id] : []));

export const rowCommands: readonly Command[] = [
  {
    id: 'levelDown',
    title: 'One level down',
    about: 'Puts the selected rows into the WBS node above them',
    words: 'indent demote inside child outline',
    group: 'Rows',
    where: rowsAndNodes,
    keys: ['Ctrl+]'],
    able: tried(down),
    run: down,
  },
  {
    id: 'levelUp',
    title: 'One level up',
    about: 'Takes the selected rows out of their WBS node',
    words: 'outdent promote out outline',
    group: 'Rows',
    where: rowsAndNodes,
    keys: ['Ctrl+['],
    able: tried(up),
    run: up,
  },
  {
    id: 'moveUp',
    title: 'Move up',
    about: 'Moves the selected rows one place up',
    words: 'order place above',
    group: 'Rows',
    where: rowsAndNodes,
    keys: ['Alt+ArrowUp'],
    able: tried(moved('up')),
    run: moved('up'),
  },
  {
    id: 'moveDown',
    title: 'Move down',
    about: 'Moves the selected rows one place down',
    words: 'order place below',
    group: 'Rows',
    where: rowsAndNodes,
    keys: ['Alt+ArrowDown'],
    able: tried(moved('down')),
    run: moved('down'),
  },
  {
    id: 'deleteRows',
    title: 'Delete rows',
    about: 'Deletes the selected rows, with all that is in WBS nodes and with their links',
    words: 'remove erase',
    group: 'Rows',
    where: ['row', 'node', 'bar'],
    keys: ['Ctrl+Delete'],
    able: some,
    run: (c) => deleteRows(c.doc, c.selection.rows),
  },
  {
    id: 'wrap',
    title: 'Put into a new WBS node',
    about: 'A WBS node where the first selected row is, with all selected rows in it',
    words: 'wrap group enclose summary parent',
    group: 'Rows',
    where: rowsAndNodes,
    letter: 'G',
    then: 'rename',
    able: some,
    run: (c) => wrapRows(c.doc, topmost(c.doc, c.selection.inOrder), 'New WBS node', c.newId),
  },
  {
    id: 'lane',
    title: 'Lane',
    about: 'Shows a WBS node as one row with its activities side by side; again to show it as a node',
    words: 'swimlane one row side by side trades repeated place strip',
    group: 'Rows',
    where: ['node'],
    letter: 'N',
    able: (c) => nodes(c).length > 0 || 'Select WBS nodes first.',
    run: (c) => setLanes(c.doc, nodes(c)),
  },
  {
    id: 'wrapLane',
    title: 'Put into a new lane',
    about: 'One row with the selected rows side by side',
    words: 'lane one row side by side group wrap',
    group: 'Rows',
    where: ['row', 'bar'],
    letter: 'Shift+N',
    then: 'rename',
    able: some,
    run: (c) => wrapRows(c.doc, topmost(c.doc, c.selection.inOrder), 'New lane', c.newId, true),
  },
  {
    id: 'dissolveNode',
    title: 'Dissolve the WBS node',
    about: 'Takes the node away and leaves its rows in its place',
    words: 'ungroup unwrap flatten remove keep children',
    group: 'Rows',
    where: ['node'],
    letter: 'Shift+G',
    able: (c) => nodes(c).length > 0 || 'Select a WBS node first.',
    run: (c) => dissolveNodes(c.doc, nodes(c)),
  },
  {
    id: 'merge',
    title: 'Make one activity of the selected',
    about: 'From the earliest start to the latest finish, with the links to others',
    words: 'merge join combine unite',
    group: 'Rows',
    where: ['row', 'bar'],
    letter: 'M',
    ofDates: true,
    then: 'select',
    able: tried((c) => mergeActivities(c.doc, c.view, inOutline(c), null)),
    run: (c) => mergeActivities(c.doc, c.view, inOutline(c), null),
  },
  {
    id: 'toNode',
    title: 'Make WBS nodes of the activities',
    about: 'A node of its name in the place of each, with the activity in it',
    words: 'convert turn into summary children break down detail',
    group: 'Rows',
    where: ['row'],
    then: 'select',
    able: (c) => activities(c).length > 0 || 'Select activities first.',
    run: (c) => activitiesToNodes(c.doc, inOutline(c), c.newId),
  },
  {
    id: 'toActivity',
    title: 'Make an activity of the WBS node',
    about: 'All that is in it becomes one activity of its name, with the links to others',
    words: 'convert turn into merge collapse roll up',
    group: 'Rows',
    where: ['node'],
    ofDates: true,
    then: 'select',
    able(c) {
      const [id, ...more] = nodes(c);
      return id !== undefined && more.length === 0 ? tried((x) => nodeToActivity(x.doc, x.view, id))(c) : 'Select one WBS node first.';
    },
    run: (c) => nodeToActivity(c.doc, c.view, nodes(c)[0] ?? ''),
  },
  {
    id: 'clearCells',
    title: 'Clear cells',
    about: 'Empties the column of the cursor in the selected rows',
    words: 'empty erase value',
    group: 'Cells',
    where: ['row'],
    able(c) {
      const f = c.selection.field === null ? undefined : fieldOf(c.doc, c.selection.field);
      if (!f || !(f.readNode || isTypable(f, 'activity')) || f.naming) return 'Put the cursor into a column of values first.';
      return f.readNode ? nodes(c).length > 0 || `${f.title} belongs to WBS nodes. Select some first.` : activities(c).length > 0 || 'Select activities first.';
    },
    run: (c) => setRows(c.doc, c.selection.rows, c.selection.field ?? '', '', c.newId, c.view),
  },
  {
    id: 'fillDown',
    title: 'Fill down',
    about: 'Gives the selected rows what the first of them has in the column of the cursor',
    words: 'copy value repeat same',
    group: 'Cells',
    where: ['row'],
    keys: ['Ctrl+D'],
    able(c) {
      const f = c.selection.field === null ? undefined : fieldOf(c.doc, c.selection.field);
      if (!f?.read && !f?.readNode) return 'Put the cursor into a column that can be typed first.';
      return f.readNode ? nodes(c).length > 1 || 'Select two or more WBS nodes first.' : activities(c).length > 1 || 'Select two or more activities first.';
    },
    run: (c) => fillDown(c.doc, c.selection.inOrder, c.selection.field ?? '', c.newId, c.view),
  },
];
