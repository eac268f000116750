/** The columns of the sheet: what each shows, and which can be typed into. */
import { cellText, dayLengths, type EditableColumn, editableColumns, typeNames } from '@yellowhammer/core/commands/cells';
import { formatLink } from '@yellowhammer/core/commands/links';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { plannedPercent, progressPoint } from '@yellowhammer/core/rollup/progress-line';
import { daysBetween } from '@yellowhammer/core/rollup/summary';
import { calendarFor } from '@yellowhammer/core/schedule/bars';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf, type BaselineView, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { durationText, finishText, floatText, signedDays, startText } from '../app/format';
import type { ColumnKey } from '../app/store';
import type { LinksOf, PlanRow } from './rows';

export interface CellContext {
  doc: Document;
  view: ScheduleView | null;
  baseline: BaselineView | null;
  links: LinksOf;
  clock: boolean;
}

export interface Column {
  key: ColumnKey;
  title: string;
  width: number;
  right?: boolean;
}

export const columns: Record<ColumnKey, Column> = {
  code: { key: 'code', title: 'No.', width: 44, right: true },
  name: { key: 'name', title: 'Activity', width: 188 },
  type: { key: 'type', title: 'Type', width: 110 },
  wbs: { key: 'wbs', title: 'WBS', width: 60 },
  duration: { key: 'duration', title: 'Duration', width: 58, right: true },
  start: { key: 'start', title: 'Start', width: 68, right: true },
  finish: { key: 'finish', title: 'Finish', width: 68, right: true },
  float: { key: 'float', title: 'Float', width: 52, right: true },
  freeFloat: { key: 'freeFloat', title: 'Free float', width: 66, right: true },
  lateStart: { key: 'lateStart', title: 'Late start', width: 74, right: true },
  lateFinish: { key: 'lateFinish', title: 'Late finish', width: 74, right: true },
  predecessors: { key: 'predecessors', title: 'Predecessors', width: 110 },
  successors: { key: 'successors', title: 'Successors', width: 110 },
  constraint: { key: 'constraint', title: 'Constraint', width: 150 },
  deadline: { key: 'deadline', title: 'Deadline', width: 76, right: true },
  calendar: { key: 'calendar', title: 'Calendar', width: 116 },
  percent: { key: 'percent', title: 'Done', width: 52, right: true },
  remaining: { key: 'remaining', title: 'Remaining', width: 70, right: true },
  actualStart: { key: 'actualStart', title: 'Actual start', width: 110, right: true },
  actualFinish: { key: 'actualFinish', title: 'Actual finish', width: 110, right: true },
  suspend: { key: 'suspend', title: 'Suspended', width: 110, right: true },
  resume: { key: 'resume', title: 'Resumes', width: 110, right: true },
  cost: { key: 'cost', title: 'Cost', width: 76, right: true },
  baselineStart: { key: 'baselineStart', title: 'Baseline start', width: 88, right: true },
  baselineFinish: { key: 'baselineFinish', title: 'Baseline finish', width: 92, right: true },
  finishVariance: { key: 'finishVariance', title: 'Finish moved', width: 84, right: true },
  planned: { key: 'planned', title: 'Planned', width: 60, right: true },
  ahead: { key: 'ahead', title: 'Ahead', width: 60, right: true },
};

export const isEditable = (key: ColumnKey): key is ColumnKey & EditableColumn => (editableColumns as readonly string[]).includes(key);
/** Columns in which a key begins typing; in the others keys are shortcuts. */
export const isValueColumn = (key: ColumnKey): boolean => isEditable(key) && key !== 'name' && key !== 'code';

/** Text of a cell that can be typed again. */
export function editText(row: PlanRow, key: EditableColumn, c: CellContext): string {
  if (row.kind === 'wbs') return key === 'name' ? row.node.name : '';
  if (row.kind === 'draft') return '';
  if (key === 'predecessors' || key === 'successors') {
    const list = (key === 'predecessors' ? c.links.into : c.links.outOf).get(row.id) ?? [];
    return list
      .map((l) => {
        const from = c.doc.activities.get(l.from);
        const other = c.doc.activities.get(key === 'predecessors' ? l.from : l.to);
        return from && other ? formatLink(other, l, dayLengths(c.doc, from)) : '';
      })
      .join(', ');
  }
  if (key === 'start' || key === 'finish') {
    const i = c.view ? placeOf(c.view, row.id) : undefined;
    if (!c.view || i === undefined) return '';
    return key === 'start' ? startText(c.view.start[i]!, c.clock) : finishText(c.view.finish[i]!, c.clock);
  }
  return cellText(c.doc, c.doc.activities.get(row.id) ?? row.activity, key);
}

/** Text that a cell shows. */
export function showText(row: PlanRow, key: ColumnKey, c: CellContext): string {
  if (row.kind === 'draft') return '';
  if (row.kind === 'wbs') return wbsText(row.id, row.code, row.node.name, key, c);
  const { view } = c;
  const i = view ? placeOf(view, row.id) : undefined;
  // The row may be older than the document: only rows that move are built anew.
  const a = c.doc.activities.get(row.id) ?? row.activity;
  switch (key) {
    case 'start':
      return view && i !== undefined ? startText(view.start[i]!, c.clock) : '';
    case 'finish':
      return view && i !== undefined ? finishText(view.finish[i]!, c.clock) : '';
    case 'lateStart':
      return view && i !== undefined && view.lateStart[i] !== NONE ? startText(view.lateStart[i]!, c.clock) : '';
    case 'lateFinish':
      return view && i !== undefined && view.lateFinish[i] !== NONE ? finishText(view.lateFinish[i]!, c.clock) : '';
    case 'float':
      return view && i !== undefined && view.totalFloat[i] !== NONE ? floatText(view.totalFloat[i]!, view.minutesPerDay[i]!) : '';
    case 'freeFloat':
      return view && i !== undefined && view.freeFloat[i] !== NONE ? floatText(view.freeFloat[i]!, view.minutesPerDay[i]!) : '';
    case 'duration':
      if (a.type === 'levelOfEffort' && view && i !== undefined) return durationText(view.length[i]!, view.minutesPerDay[i]!);
      if (a.type === 'margin' && view && i !== undefined) return floatText(view.length[i]!, view.minutesPerDay[i]!);
      return editText(row, 'duration', c);
    case 'baselineStart': {
      const b = c.baseline?.dates.get(row.id);
      return b ? startText(b.start, c.clock) : '';
    }
    case 'baselineFinish': {
      const b = c.baseline?.dates.get(row.id);
      return b ? finishText(b.finish, c.clock) : '';
    }
    case 'finishVariance': {
      const b = c.baseline?.dates.get(row.id);
      return b && view && i !== undefined ? moved(c, a, b.finish, view.finish[i]!) : '';
    }
    case 'planned':
    case 'ahead': {
      const p = progressOf(c, a);
      return !p ? '' : key === 'planned' ? `${p.planned}%` : signedDays(p.ahead);
    }
    case 'type':
      return typeNames[a.type];
    default:
      return editText(row, key as EditableColumn, c);
  }
}

/** Planned percent at the data date and working days ahead of the baseline; undefined without a data date or a baseline of it. */
export function progressOf(c: Pick<CellContext, 'doc' | 'baseline'>, a: Activity): { planned: number; ahead: number } | undefined {
  const base = c.baseline?.dates.get(a.id);
  const { dataDate } = projectOf(c.doc);
  const calendar = calendarFor(c.doc, a);
  // A level of effort and a margin follow the work around them: they are never ahead or behind.
  if (!base || dataDate === null || !calendar || a.type === 'levelOfEffort' || a.type === 'margin') return undefined;
  const at = parseInstant(dataDate) as number;
  return { planned: plannedPercent(calendar, base, at), ahead: progressPoint(a, calendar, base, at).days };
}

/** Working days between two finishes, in the activity's calendar. */
function moved(c: CellContext, a: Pick<Activity, 'calendarId'>, from: number, to: number): string {
  const calendar = calendarFor(c.doc, a);
  return calendar ? signedDays(daysBetween(calendar, from, to)) : '';
}

function wbsText(id: string, code: string, name: string, key: ColumnKey, c: CellContext): string {
  const r = c.view?.rollups.get(id);
  if (key === 'code') return code;
  if (key === 'name') return name;
  if (!r || r.start === NONE) return '';
  const b = c.baseline?.nodes.get(id);
  switch (key) {
    case 'start':
      return startText(r.start, c.clock);
    case 'finish':
      return finishText(r.finish, c.clock);
    case 'duration': {
      const perDay = dayLengths(c.doc, { calendarId: null }).minutesPerDay;
      return `${Math.round(r.duration / perDay)}d`;
    }
    case 'percent':
      return `${r.percent}%`;
    case 'cost':
      return r.cost ? r.cost.toLocaleString('en-GB') : '';
    case 'baselineStart':
      return b ? startText(b.start, c.clock) : '';
    case 'baselineFinish':
      return b ? finishText(b.finish, c.clock) : '';
    case 'finishVariance':
      return b ? moved(c, { calendarId: null }, b.finish, r.finish) : '';
    default:
      return '';
  }
}

/** Columns of dates that the computation gives: a click on one shows why. */
export const isComputedDate = (key: ColumnKey): boolean => ['start', 'finish', 'lateStart', 'lateFinish'].includes(key);
