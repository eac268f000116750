/** The columns of the sheet: fields of core's list, for rows of the plan. */
import { isTypable } from '@yellowhammer/core/commands/cells';
import { editField, type Field, type FieldContext, isRight, showField } from '@yellowhammer/core/fields/field';
import { cellOf, fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import { PROJECT_ROW } from '@yellowhammer/core/outline/outline';
import type { Document } from '@yellowhammer/core/model/document';
import type { ColumnKey } from '../app/store';
import type { PlanRow } from './rows';

export type CellContext = FieldContext;

/** The field of a column; undefined where a kept view names one that is not there (any more). */
export const columnOf = (doc: Document, key: ColumnKey): Field | undefined => fieldOf(doc, key);
/** All columns that there are, in the order of menus. */
export const allColumns = (doc: Document): Field[] => [...fieldsOf(doc).values()];
export const rightColumn = (doc: Document, key: ColumnKey): boolean => {
  const f = fieldOf(doc, key);
  return f !== undefined && isRight(f);
};

/** True where something can be typed into a column of a row. */
export const canType = (row: PlanRow | undefined, key: ColumnKey, c: Pick<CellContext, 'doc'>): boolean =>
  row !== undefined && row.kind !== 'draft' && row.id !== PROJECT_ROW && isTypable(fieldOf(c.doc, key), row.kind);

/** Columns that name their row: there Delete, copy and paste mean the row itself. So they do where nothing can be typed. */
export const meansRows = (doc: Document, key: ColumnKey | undefined): boolean => {
  const f = key === undefined ? undefined : fieldOf(doc, key);
  return (!f?.read && !f?.readNode) || f?.naming === true;
};

/** Text of a cell that can be typed again. */
export function editText(row: PlanRow, key: ColumnKey, c: CellContext): string {
  const f = fieldOf(c.doc, key);
  if (!f || row.kind === 'draft') return '';
  const cell = cellOf(c, row);
  return cell.kind === 'activity' ? editField(f, cell) : key === 'name' ? cell.node.name : key === 'code' ? cell.node.code : (f.editNode?.(cell) ?? '');
}

/** Text that a cell shows. */
export function showText(row: PlanRow, key: ColumnKey, c: CellContext): string {
  const f = fieldOf(c.doc, key);
  return f && row.kind !== 'draft' ? showField(f, cellOf(c, row)) : '';
}

/** What typing here will do, told while it is typed. */
export function hintOf(row: PlanRow, key: ColumnKey, c: CellContext): string | undefined {
  if (row.kind !== 'activity') return undefined;
  const cell = cellOf(c, row);
  return cell.kind === 'activity' ? fieldOf(c.doc, key)?.hint?.(cell) : undefined;
}

/** Columns whose values the passes give, and that are not up to date while recomputing is paused. A baseline's dates stand. */
export const ofSchedule = (doc: Document, key: ColumnKey): boolean => fieldOf(doc, key)?.computed === true && !key.startsWith('baseline');

/** Columns of dates that the computation gives: a click on one shows why. */
export const isComputedDate = (doc: Document, key: ColumnKey): boolean => {
  const f = fieldOf(doc, key);
  return f?.kind === 'date' && f.computed === true && !key.startsWith('baseline');
};
