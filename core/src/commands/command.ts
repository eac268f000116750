/** What a command is, and what it is given: lists of commands are made of these. */
import type { Document } from '../model/document.ts';
import type { ScheduleView } from '../schedule/view.ts';
import type { RowRef } from './outline.ts';
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
  /** It reckons with dates: where those of the last edit are on their way, they are waited for. */
  ofDates?: true;
}

export interface Command extends CommandFacts {
  /** True, or why it cannot be done now. */
  able(c: CommandContext): true | string;
  run(c: CommandContext): Outcome;
  /** What the hands do with the rows that it makes: select them, and begin to type the name of the first. */
  then?: 'select' | 'rename';
}

/** The selected activities, in the order of selecting. */
export const activities = (c: CommandContext): string[] => c.selection.rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : []));
/** True where rows are selected. */
export const some = (c: CommandContext): true | string => c.selection.rows.length > 0 || 'Select rows first.';
/** An outcome that is refused says why a command cannot be done. */
const asOutcome = (o: Outcome): true | string => (o.ok ? true : o.problems[0]!.message);

/** Selections up to this size are tried out to say whether something can be done; larger ones are told when it is done. */
const MOST_TRIED = 50;
/** Whether an act can be done, by trying it. */
export const tried =
  (f: (c: CommandContext) => Outcome) =>
  (c: CommandContext): true | string => {
    const any = some(c);
    return any === true && c.selection.rows.length <= MOST_TRIED ? asOutcome(f(c)) : any;
  };

/** The selected WBS nodes. */
export const nodes = (c: CommandContext): string[] => c.selection.rows.flatMap((r) => (r.kind === 'wbs' ? [r.id] : []));
export const rowsAndNodes = ['row', 'node'] as const;
