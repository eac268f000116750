/**
 * What a planner can do to a plan, each once: palette, help, buttons, context menus and the key handler read this list
 * (the interface adds what only concerns the view). What cannot be done now says why.
 */
import type { Document } from '../model/document.ts';
import type { ScheduleView } from '../schedule/view.ts';
import { fieldOf } from '../fields/list.ts';
import { fillDown, isTypable, setCells } from './cells.ts';
import { deleteLinks, linkInOrder, linksAmong } from './links.ts';
import { deleteRows, levelDown, levelUp, moveRows, type RowRef } from './outline.ts';
import type { NewId, Outcome } from './result.ts';

/** What is chosen when a command is asked for. */
export interface Selection {
  /** Rows in the order in which they were selected. */
  rows: readonly RowRef[];
  /** The same from top to bottom. */
  inOrder: readonly RowRef[];
  /** The row of the cursor, and the field that it stands in; null on the bar. */
  row: RowRef | null;
  field: string | null;
  /** A link that was pointed at. */
  link: string | null;
}

export interface CommandContext {
  doc: Document;
  view: ScheduleView | null;
  selection: Selection;
  newId: NewId;
}

/** Where a command is offered by a context menu; all of them are in the palette. */
export type Where = 'row' | 'node' | 'bar' | 'link' | 'head' | 'ground';
export type CommandGroup = 'Rows' | 'Cells' | 'Links' | 'View' | 'Time' | 'Project' | 'Go to';

/** What all lists of commands have in common. */
export interface CommandFacts {
  id: string;
  title: string;
  about: string;
  /** Other words by which a planner looks for it. */
  words: string;
  group: CommandGroup;
  where: readonly Where[];
  /** Keys with Ctrl, Alt or a name (`Ctrl+]`, `Alt+Up`, `Delete`), the first one shown. */
  keys?: readonly string[];
  /** A letter or sign that acts with Alt everywhere, and alone where nothing can be typed. */
  letter?: string;
}

export interface Command extends CommandFacts {
  /** True, or why it cannot be done now. */
  able(c: CommandContext): true | string;
  run(c: CommandContext): Outcome;
}

const activities = (c: CommandContext): string[] => c.selection.rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : []));
const some = (c: CommandContext): true | string => c.selection.rows.length > 0 || 'Select rows first.';
/** An outcome that is refused says why a command cannot be done. */
const asOutcome = (o: Outcome): true | string => (o.ok ? true : o.problems[0]!.message);

/** Selections up to this size are tried out to say whether something can be done; larger ones are told when it is done. */
const MOST_TRIED = 50;
const tried =
  (f: (c: CommandContext) => Outcome) =>
  (c: CommandContext): true | string => {
    const any = some(c);
    return any === true && c.selection.rows.length <= MOST_TRIED ? asOutcome(f(c)) : any;
  };

const down = (c: CommandContext): Outcome => levelDown(c.doc, c.selection.inOrder);
const up = (c: CommandContext): Outcome => levelUp(c.doc, c.selection.inOrder);
const moved =
  (direction: 'up' | 'down') =>
  (c: CommandContext): Outcome =>
    moveRows(c.doc, c.selection.inOrder, direction);

const rowsAndNodes = ['row', 'node'] as const;

export const planCommands: readonly Command[] = [
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
    id: 'clearCells',
    title: 'Clear cells',
    about: 'Empties the column of the cursor in the selected rows',
    words: 'empty erase value',
    group: 'Cells',
    where: ['row'],
    able(c) {
      const f = c.selection.field === null ? undefined : fieldOf(c.doc, c.selection.field);
      if (!f || !isTypable(f, 'activity') || f.naming) return 'Put the cursor into a column of values first.';
      return activities(c).length > 0 || 'Select activities first.';
    },
    run: (c) => setCells(c.doc, activities(c), c.selection.field ?? '', '', c.newId, c.view),
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
      if (!f?.read) return 'Put the cursor into a column that can be typed first.';
      return activities(c).length > 1 || 'Select two or more activities first.';
    },
    run: (c) => fillDown(c.doc, c.selection.inOrder, c.selection.field ?? '', c.newId, c.view),
  },
  {
    id: 'link',
    title: 'Link the selected in order',
    about: 'Links the selected activities finish-to-start, in the order of selecting',
    words: 'connect logic relationship predecessor successor chain',
    group: 'Links',
    where: ['row', 'bar'],
    letter: 'L',
    able: (c) => activities(c).length > 1 || 'Select two or more activities, in the order in which they follow each other.',
    run: (c) => linkInOrder(c.doc, activities(c), c.newId),
  },
  {
    id: 'unlink',
    title: 'Delete the links among the selected',
    about: 'Deletes every link that leads from one selected activity to another',
    words: 'unlink disconnect remove logic',
    group: 'Links',
    where: ['row', 'bar'],
    able: (c) => linksAmong(c.doc, activities(c)).length > 0 || 'No two of the selected activities are linked.',
    run: (c) =>
      deleteLinks(
        c.doc,
        linksAmong(c.doc, activities(c)).map((l) => l.id),
      ),
  },
  {
    id: 'deleteLink',
    title: 'Delete this link',
    about: 'Deletes the link that is pointed at',
    words: 'remove unlink arrow',
    group: 'Links',
    where: ['link'],
    able: (c) => (c.selection.link !== null && c.doc.links.has(c.selection.link)) || 'Point at a link first.',
    run: (c) => deleteLinks(c.doc, c.selection.link === null ? [] : [c.selection.link]),
  },
];
