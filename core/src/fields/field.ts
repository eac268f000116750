/**
 * What a field is: everything that can be seen of a row, once. Sheet, inspector, report, CSV, paste, fill, undo texts,
 * the dialog of clashes and the command line read the list of fields (list.ts); docs/extending.md says how one is added.
 */
import type { NewId, Outcome } from '../commands/result.ts';
import type { Document } from '../model/document.ts';
import type { Activity, WbsNode } from '../model/schema.ts';
import { NONE } from '../schedule/network.ts';
import { dayLengths } from '../schedule/calendars.ts';
import { amountText } from './amounts.ts';
import type { Failure } from './failure.ts';
import type { Rollup } from '../rollup/rollup.ts';
import type { BaselineView, ScheduleView } from '../schedule/view.ts';
import { formatDuration } from '../time/duration.ts';
import { showInstant } from '../time/typed-date.ts';
import { tenth } from '../time/tenths.ts';

/** What is known when a value is asked for. `clock`: dates are shown with their times. */
export interface FieldContext {
  doc: Document;
  view: ScheduleView | null;
  baseline: BaselineView | null;
  clock: boolean;
  /** What fields sum up to in nodes and groups, where a field does not say it by itself. */
  sums?: { of(f: Field, row: string): Value | null; text(f: Field, row: string): string } | undefined;
  /** Views of other kept copies, by id, as far as they are there: for what changed since an update. */
  kept?: ReadonlyMap<string, BaselineView> | undefined;
}

/** An activity in its context; `i` is its place in the view, undefined where it is not computed (yet). */
export interface ActivityCell extends FieldContext {
  kind: 'activity';
  a: Activity;
  i: number | undefined;
}

/** A WBS node in its context, with its outline number and what is rolled up to it (undefined where nothing is). */
export interface NodeCell extends FieldContext {
  kind: 'wbs';
  node: WbsNode;
  code: string;
  rollup: Rollup | undefined;
}
export type Cell = ActivityCell | NodeCell;

export type Value = string | number | boolean;

/**
 * How values are shown, sorted and compared. `duration`: working minutes, told in the largest units that fit; `days`:
 * working minutes told in days with one decimal; `difference`: days with a sign; `date`: an instant.
 */
export type Kind = 'text' | 'choice' | 'number' | 'money' | 'percent' | 'duration' | 'days' | 'difference' | 'date' | 'links' | 'yesNo';
/** Under which heading of menus a field stands. */
export type Group = 'General' | 'Dates' | 'Logic' | 'Progress' | 'Work' | 'Money' | 'Codes' | 'Own fields';
/** How a field sums up to nodes and groups. */
export type Sum = 'sum' | 'least' | 'greatest' | 'mean' | 'same' | 'count' | 'none';

/** What typed text comes to: fields of the activity, a whole outcome, a refusal, or a question with its answers. */
export type Read =
  | { fields: Partial<Activity> }
  | { outcome: Outcome }
  | { error: string }
  | { ask: string; choices: ({ label: string } & ({ fields: Partial<Activity> } | { outcome: Outcome }))[] };

export interface Field<V extends Value = Value> {
  /** Stable: used in files, views and expressions. */
  key: string;
  title: string;
  /** Where there is little room. */
  short?: string;
  about: string;
  of: readonly ('activity' | 'wbs')[];
  kind: Kind;
  group: Group;
  /** Pixels in the sheet; points on paper where it is not that share of them. */
  width: number;
  paper?: number;
  /** The field of the activity that holds it; absent where it is computed, or held by other rows. */
  stored?: keyof Activity & string;
  /** True where its value comes from the computed schedule. */
  computed?: true;
  /** Of a date: which end of the work it is, so that midnight is told as the right day. */
  end?: 'start' | 'finish';
  value(cell: ActivityCell): V | null;
  show?(value: V, cell: ActivityCell): string;
  /** How what it sums up to is told; by its kind, unless it says otherwise. */
  showSum?(value: V, cell: NodeCell): string;
  /** Why it has no value in a row, where that is no plain emptiness. */
  failure?(cell: Cell): string | null;
  /** The value, or why there is none: for expressions that ask for it. */
  result?(cell: Cell): Value | null | Failure;
  /** The text that can be typed again; what is shown, unless it says otherwise. */
  edit?(cell: ActivityCell): string;
  /** Reads typed text; absent where nothing can be typed. */
  read?(text: string, cell: ActivityCell, newId: NewId): Read;
  /** What will follow from typing here, told while it is typed. */
  hint?(cell: ActivityCell): string | undefined;
  /** Texts that are offered while it is typed. `open`: more is typed behind them. */
  choices?(doc: Document): readonly string[];
  open?: true;
  /** What a WBS node shows in it. */
  node?(cell: NodeCell): V | null;
  /** The text of a WBS node that can be typed again, and reading what is typed there; absent where nothing can be. */
  editNode?(cell: NodeCell): string;
  readNode?(text: string, cell: NodeCell): { fields: Partial<WbsNode> } | { error: string };
  sum: Sum;
  /** Of nodes: its expression on the summed fields. */
  again?: true;
  /** Stands in the details of the inspector. */
  inspector?: true;
  /** Names its row: Delete, copy and paste there mean the row. */
  naming?: true;
}

/** A field as its author writes it: what follows from its kind need not be told. */
export const field = <V extends Value>(f: Omit<Field<V>, 'of'> & { of?: Field['of'] }): Field => ({ of: f.node ? ['activity', 'wbs'] : ['activity'], ...f }) as unknown as Field;

const minus = (text: string): string => text.replace('-', '−');
/** Minutes that are a day for a row: of its own calendar, of the project's for a WBS node. */
export const perDayOf = (cell: Cell): number =>
  cell.kind === 'activity'
    ? cell.view && cell.i !== undefined
      ? cell.view.minutesPerDay[cell.i]!
      : dayLengths(cell.doc, cell.a).minutesPerDay
    : dayLengths(cell.doc, { calendarId: null }).minutesPerDay;

/** `+12 d`, `−5 d`, `0 d`. */
export const signedDays = (days: number): string => minus(`${days > 0 ? '+' : ''}${tenth(days)} d`);
/** Float and what is left of margins, in days with one decimal: `12d`, `−3.5d`. */
export const inDays = (minutes: number, minutesPerDay: number): string => minus(`${tenth(minutes / minutesPerDay)}d`);

/** The text of a value by its kind. */
export function textOf(f: Field, v: Value, cell: Cell): string {
  switch (f.kind) {
    case 'duration':
      // A roll-up spans many calendars: whole days of the project's are as exact as it is.
      return cell.kind === 'wbs' ? `${Math.round((v as number) / perDayOf(cell))}d` : minus(formatDuration(v as number, { minutesPerDay: perDayOf(cell) }));
    case 'days':
      return inDays(v as number, perDayOf(cell));
    case 'difference':
      return signedDays(v as number);
    case 'date':
      return showInstant(v as number, f.end ?? 'start', cell.clock);
    case 'percent':
      return `${v as number}%`;
    case 'money':
      return v === 0 ? '' : amountText(v as number);
    case 'yesNo':
      return v ? 'yes' : 'no';
    default:
      return String(v);
  }
}

/** The typed value of a field in a row; null where there is none. */
export const valueOf = (f: Field, cell: Cell): Value | null =>
  cell.kind === 'activity' ? f.value(cell) : f.node ? f.node(cell) : f.sum === 'none' ? null : (cell.sums?.of(f, cell.node.id) ?? null);

/** The text that a field shows in a row; empty where there is nothing to say. */
export function showField(f: Field, cell: Cell): string {
  if (cell.kind === 'wbs' && !f.node) return f.sum === 'none' ? '' : (cell.sums?.text(f, cell.node.id) ?? '');
  const v = valueOf(f, cell);
  if (v === null) return f.failure?.(cell) ?? '';
  if (cell.kind === 'wbs' && f.showSum) return f.showSum(v, cell);
  return cell.kind === 'activity' && f.show ? f.show(v, cell) : textOf(f, v, cell);
}

/** The text of a field that can be typed again. */
export const editField = (f: Field, cell: ActivityCell): string => f.edit?.(cell) ?? showField(f, cell);

/** An instant of the computed arrays, null where there is none. */
export const instant = (list: Int32Array | undefined, i: number | undefined): number | null => {
  const t = list && i !== undefined ? list[i]! : NONE;
  return t === NONE ? null : t;
};
/** Figures stand to the right. */
export const isRight = (f: Field): boolean => !['text', 'choice', 'links', 'yesNo'].includes(f.kind);
