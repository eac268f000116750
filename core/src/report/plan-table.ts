/** The table of the plan on paper and as CSV: which rows and columns, what stands in each cell, which columns have room. */
import { dayLengths } from '../commands/cells.ts';
import type { Document } from '../model/document.ts';
import { type OutlineRow, outlineRows } from '../outline/outline.ts';
import { percentOf } from '../progress/percent.ts';
import { daysBetween } from '../rollup/summary.ts';
import { calendarFor } from '../schedule/bars.ts';
import { NONE } from '../schedule/network.ts';
import { type BaselineView, placeOf, type ScheduleView } from '../schedule/view.ts';
import { formatDuration } from '../time/duration.ts';
import type { Instant } from '../time/instant.ts';
import { showInstant } from '../time/typed-date.ts';
import type { Paper } from './scene.ts';

export const reportColumns = ['code', 'name', 'duration', 'start', 'finish', 'float', 'percent', 'baselineFinish', 'moved', 'cost'] as const;
export type ReportColumn = (typeof reportColumns)[number];

export interface ReportSettings {
  paper: Paper;
  landscape: boolean;
  title: string;
  subtitle: string;
  columns: ReportColumn[];
  /** Outline depth that is printed where all rows are; 0 for no limit. */
  depth: number;
  rows: 'all' | 'critical' | 'milestones';
  legend: boolean;
  baseline: boolean;
}

export const columnTitles: Record<ReportColumn, string> = {
  code: 'No.',
  name: 'Activity',
  duration: 'Duration',
  start: 'Start',
  finish: 'Finish',
  float: 'Float',
  percent: 'Done',
  baselineFinish: 'Baseline finish',
  moved: 'Moved',
  cost: 'Cost',
};
const widths: Record<ReportColumn, number> = { code: 30, name: 168, duration: 42, start: 48, finish: 48, float: 36, percent: 34, baselineFinish: 62, moved: 38, cost: 52 };

/** What the table is made of. */
export interface TableInput {
  doc: Document;
  view: ScheduleView;
  baseline: BaselineView | null;
  settings: ReportSettings;
}

/** The rows that are printed, from top to bottom. */
export function chosenRows({ doc, view, settings }: TableInput): OutlineRow[] {
  return outlineRows(doc).filter((r) => {
    if (settings.rows === 'all' && settings.depth > 0 && r.depth >= settings.depth) return false;
    if (r.kind === 'wbs') return settings.rows === 'all';
    const i = placeOf(view, r.id);
    if (settings.rows === 'critical') return i !== undefined && view.critical[i] === 1;
    if (settings.rows === 'milestones') return r.activity.type === 'startMilestone' || r.activity.type === 'finishMilestone';
    return true;
  });
}

/** What stands in a cell, as a reader reads it. Empty where there is nothing to say. */
export function cell(input: TableInput, row: OutlineRow, column: ReportColumn): string {
  const { doc, view, baseline } = input;
  if (row.kind === 'wbs') {
    const n = view.rollups.get(row.id);
    const b = baseline?.nodes.get(row.id);
    if (column === 'code') return row.code;
    if (column === 'name') return row.node.name;
    if (!n || n.start === NONE) return '';
    if (column === 'start') return showInstant(n.start, 'start');
    if (column === 'finish') return showInstant(n.finish, 'finish');
    if (column === 'duration') return `${Math.round(n.duration / dayLengths(doc, { calendarId: null }).minutesPerDay)}d`;
    if (column === 'percent') return `${n.percent}%`;
    if (column === 'cost') return n.cost.toLocaleString('en-GB');
    if (column === 'baselineFinish') return b ? showInstant(b.finish, 'finish') : '';
    if (column === 'moved') return b ? moved(input, null, b.finish, n.finish) : '';
    return '';
  }
  const i = placeOf(view, row.id);
  const a = row.activity;
  if (column === 'code') return a.code;
  if (column === 'name') return a.name;
  if (i === undefined) return '';
  const b = baseline?.dates.get(row.id);
  switch (column) {
    case 'start':
      return showInstant(view.start[i]!, 'start');
    case 'finish':
      return showInstant(view.finish[i]!, 'finish');
    case 'duration':
      if (a.type === 'margin') return inDays(view.length[i]!, view.minutesPerDay[i]!);
      return a.type.endsWith('Milestone') ? '' : formatDuration(a.type === 'task' ? a.duration : view.length[i]!, { minutesPerDay: view.minutesPerDay[i]! });
    case 'float':
      return view.totalFloat[i] === NONE ? '' : inDays(view.totalFloat[i]!, view.minutesPerDay[i]!);
    case 'percent':
      return a.type === 'task' || a.type.endsWith('Milestone') ? `${percentOf(a)}%` : '';
    case 'cost':
      return a.cost ? a.cost.toLocaleString('en-GB') : '';
    case 'baselineFinish':
      return b ? showInstant(b.finish, 'finish') : '';
    case 'moved':
      return b ? moved(input, a.calendarId, b.finish, view.finish[i]!) : '';
  }
}

/** Float, and what is left of a margin: days with one decimal, as everywhere. */
const inDays = (minutes: number, minutesPerDay: number): string => `${Math.round((minutes / minutesPerDay) * 10) / 10}d`;

/** Working days between two finishes, in a calendar (null: the project's). */
function moved({ doc }: TableInput, calendarId: string | null, from: Instant, to: Instant): string {
  const c = calendarFor(doc, { calendarId });
  const days = c ? daysBetween(c, from, to) : 0;
  return days > 0 ? `+${days}` : String(days);
}

/** The table that is printed, for CSV. */
export function reportTable(input: TableInput): { header: string[]; rows: string[][] } {
  const { columns } = input.settings;
  return { header: columns.map((c) => columnTitles[c]), rows: chosenRows(input).map((r) => columns.map((c) => cell(input, r, c))) };
}

/** Least width of the bars beside the columns, and of the names, in points. */
const LEAST_BARS = 110;
const LEAST_NAME = 84;

/** The columns that a width has room for: the bars give way first, then the names, then columns from the end. */
export function fitColumns(chosen: readonly ReportColumn[], width: number): { columns: [ReportColumn, number][]; leftOut: ReportColumn[] } {
  const room = width - LEAST_BARS;
  const leftOut: ReportColumn[] = [];
  let kept = [...chosen];
  const sum = (list: readonly ReportColumn[], name: number): number => list.reduce((n, c) => n + (c === 'name' ? name : widths[c]), 0);
  while (kept.length > 1 && sum(kept, LEAST_NAME) > room) {
    const last = [...kept].reverse().find((c) => c !== 'name') as ReportColumn;
    leftOut.unshift(last);
    kept = kept.filter((c) => c !== last);
  }
  const name = Math.min(widths.name, Math.max(LEAST_NAME, room - sum(kept, 0)));
  return { columns: kept.map((c) => [c, c === 'name' ? name : widths[c]]), leftOut };
}
