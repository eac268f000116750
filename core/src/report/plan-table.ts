/** The table of the plan on paper and as CSV: which rows and columns, what stands in each cell, which columns have room. */
import { isRight, showField } from '../fields/field.ts';
import { cellOf, fieldOf } from '../fields/list.ts';
import { isMilestone } from '../model/activity-kinds.ts';
import type { Document } from '../model/document.ts';
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
}

/** The rows that are printed, from top to bottom. */
export function chosenRows({ doc, view, settings }: TableInput): OutlineRow[] {
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

/** What stands in a cell, as a reader reads it. Empty where there is nothing to say. */
export function cell({ doc, view, baseline }: TableInput, row: OutlineRow, column: string): string {
  const f = fieldOf(doc, column);
  return f ? showField(f, cellOf({ doc, view, baseline, clock: false }, row)) : '';
}

/** True where a column stands to the right. */
export function isRightColumn(doc: Document, key: string): boolean {
  const f = fieldOf(doc, key);
  return f !== undefined && isRight(f);
}

/** The table that is printed, for CSV. */
export function reportTable(input: TableInput): { header: string[]; rows: string[][] } {
  const { columns } = input.settings;
  return { header: columns.map((c) => columnTitle(input.doc, c)), rows: chosenRows(input).map((r) => columns.map((c) => cell(input, r, c))) };
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
