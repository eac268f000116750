/** The table of the plan on paper and as CSV: which rows and columns, what stands in each cell, which columns have room. */
import { type FieldContext, isRight, showField } from '../fields/field.ts';
import { cellOf, fieldOf } from '../fields/list.ts';
import { isMilestone } from '../model/activity-kinds.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { ViewSettings } from '../model/view-schema.ts';
import { MINUTES_PER_DAY, parseInstant } from '../time/instant.ts';
import { everything, organise, withSums } from '../view/organise.ts';
import { fitting } from '../view/supplied.ts';
import { closedNodes } from '../outline/depth.ts';
import { type OutlineRow, outlineRows, projectRow } from '../outline/outline.ts';
import { type BaselineView, placeOf, type ScheduleView } from '../schedule/view.ts';
import type { Paper } from './scene.ts';

export const reportColumns: readonly string[] = ['code', 'name', 'duration', 'start', 'finish', 'float', 'percent', 'baselineFinish', 'finishVariance', 'cost'];

export interface ReportSettings {
  paper: Paper;
  landscape: boolean;
  title: string;
  subtitle: string;
  /** Keys of fields. */
  columns: string[];
  /** Outline depth that is printed where all rows are; 0 for no limit. */
  depth: number;
  rows: 'all' | 'critical' | 'milestones';
  /** The whole project as a row above the others. */
  project?: boolean;
  legend: boolean;
  baseline: boolean;
  /** A view that is printed: its columns, rows, groups, look, texts and time stand in place of those above. */
  view?: ViewSettings | null;
  /** Who prints it, for a view of what is theirs. */
  me?: string;
  /** What is drawn under the plan on its axis (paper-graph.ts); empty: nothing. */
  graph?: string;
}

/** What stands over a column. */
export function columnTitle(doc: Document, key: string): string {
  const f = fieldOf(doc, key);
  return f?.short ?? f?.title ?? key;
}
/** The width of a column in points: as its field says, else in proportion to the sheet. */
const widthOf = (doc: Document, key: string): number => {
  const f = fieldOf(doc, key);
  return f?.paper ?? Math.round((f?.width ?? 60) * 0.72);
};

/** What the table is made of. */
export interface TableInput {
  doc: Document;
  view: ScheduleView;
  baseline: BaselineView | null;
  settings: ReportSettings;
  /** Other kept copies that the filter of a view asks about. */
  kept?: ReadonlyMap<string, BaselineView> | undefined;
  sums?: FieldContext['sums'];
}

/** The rows that are printed, from top to bottom. */
export function chosenRows(input: TableInput): OutlineRow[] {
  const { doc, view, settings } = input;
  if (settings.view) return rowsOfView(input, settings.view);
  // Lanes print as lanes: one row each.
  const lanes = settings.rows === 'all' ? closedNodes(doc, {}) : new Set<string>();
  const rows = outlineRows(doc, lanes).filter((r) => {
    if (settings.rows === 'all' && settings.depth > 0 && r.depth >= settings.depth) return false;
    if (r.kind === 'wbs') return settings.rows === 'all';
    const i = placeOf(view, r.id);
    if (settings.rows === 'critical') return i !== undefined && view.critical[i] === 1;
    if (settings.rows === 'milestones') return isMilestone(r.activity);
    return true;
  });
  return settings.project ? [projectRow(doc), ...rows] : rows;
}

/** The instants that a view shows; undefined: the whole plan. */
export function timeOf({ doc, view }: Pick<TableInput, 'doc' | 'view'>, s: ViewSettings | null | undefined): { from: number; to: number } | undefined {
  if (s?.range?.kind !== 'around') return undefined;
  const at = parseInstant(projectOf(doc).dataDate ?? '') ?? view.projectStart;
  return { from: at - s.range.before * MINUTES_PER_DAY, to: at + s.range.after * MINUTES_PER_DAY };
}

function rowsOfView(input: TableInput, asked: ViewSettings): OutlineRow[] {
  const { doc } = input;
  const s = fitting(doc, asked);
  const organised = organise(contextOf(input), {
    ...everything,
    filter: s.filter,
    quick: s.quick,
    me: input.settings.me ?? '',
    window: timeOf(input, s) ?? null,
    groups: s.groups,
    sort: s.sort,
    focus: s.focus && new Set(s.focus),
    // Lanes print as lanes, unless the view asks for what is in them.
    closed: s.groups.length || s.filter || s.quick.length ? new Set() : closedNodes(doc, {}),
  });
  const rows = s.depth === null ? organised.rows : organised.rows.filter((r) => r.depth < (s.depth as number));
  return s.projectRow ? [projectRow(doc), ...rows] : rows;
}

/** What fields ask about on paper. */
const contextOf = ({ doc, view, baseline, kept, sums }: TableInput): FieldContext => ({ doc, view, baseline, clock: false, kept, sums });

/** The input with what its rows sum up to. */
export const summed = <I extends TableInput>(input: I, rows: readonly OutlineRow[]): I => ({ ...input, sums: withSums(contextOf(input), rows).sums });

/** The columns that are printed. */
export const columnsOf = ({ doc, settings }: TableInput): string[] => (settings.view ? fitting(doc, settings.view).columns : settings.columns);

/** What stands in a cell, as a reader reads it. Empty where there is nothing to say. */
export function cell(input: TableInput, row: OutlineRow, column: string): string {
  const f = fieldOf(input.doc, column);
  return f ? showField(f, cellOf(contextOf(input), row)) : '';
}

/** True where a column stands to the right. */
export function isRightColumn(doc: Document, key: string): boolean {
  const f = fieldOf(doc, key);
  return f !== undefined && isRight(f);
}

/** The table that is printed, for CSV. */
export function reportTable(input: TableInput): { header: string[]; rows: string[][] } {
  const columns = columnsOf(input);
  const rows = chosenRows(input);
  const whole = summed(input, rows);
  return { header: columns.map((c) => columnTitle(input.doc, c)), rows: rows.map((r) => columns.map((c) => cell(whole, r, c))) };
}

/** Least width of the bars beside the columns, and of the names, in points. */
const LEAST_BARS = 110;
const LEAST_NAME = 84;

/** The columns that a width has room for: the bars give way first, then the names, then columns from the end. */
export function fitColumns(doc: Document, chosen: readonly string[], width: number): { columns: [string, number][]; leftOut: string[] } {
  const room = width - LEAST_BARS;
  const leftOut: string[] = [];
  let kept = [...chosen];
  const sum = (list: readonly string[], name: number): number => list.reduce((n, c) => n + (c === 'name' ? name : widthOf(doc, c)), 0);
  while (kept.length > 1 && sum(kept, LEAST_NAME) > room) {
    const last = [...kept].reverse().find((c) => c !== 'name') as string;
    leftOut.unshift(last);
    kept = kept.filter((c) => c !== last);
  }
  const name = Math.min(widthOf(doc, 'name'), Math.max(LEAST_NAME, room - sum(kept, 0)));
  return { columns: kept.map((c) => [c, c === 'name' ? name : widthOf(doc, c)]), leftOut };
}
