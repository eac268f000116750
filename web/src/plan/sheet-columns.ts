/** What all cells of a column have in common, made once for all rows. */
import type { Document } from '@yellowhammer/core/model/document';
import type { ColumnKey } from '../app/store';
import { columnOf, isComputedDate, ofSchedule, rightColumn } from './columns';

/** Width of a column: as it was drawn, else as it comes, with room for times where they are shown. */
export function widthOf(doc: Document, key: ColumnKey, widths: Partial<Record<ColumnKey, number>>, clock = false): number {
  const f = columnOf(doc, key);
  return clock && f?.kind === 'date' && f.computed ? Math.max(widths[key] ?? 0, 108) : (widths[key] ?? f?.width ?? 60);
}

export interface SheetColumn {
  key: ColumnKey;
  /** Pixels. */
  width: number;
  /** Classes of each of its cells. */
  classes: string;
  right: boolean;
  /** Stays in view. */
  frozen: boolean;
}

/** The columns of the sheet from left to right; `frozen` of them stay in view. The list `before` where it says the same, so that rows need no comparing of columns. */
export function sheetColumns(
  doc: Document,
  keys: readonly ColumnKey[],
  { widths, frozen, clock }: { widths: Partial<Record<ColumnKey, number>>; frozen: number; clock: boolean },
  before: readonly SheetColumn[] = [],
): readonly SheetColumn[] {
  const columns = keys.map((key, n): SheetColumn => {
    const right = rightColumn(doc, key);
    const classes = `cell${right ? ' right' : ''}${key === 'name' ? ' name' : ''}${isComputedDate(doc, key) ? ' computed-date' : ''}${ofSchedule(doc, key) ? ' of-schedule' : ''}${n < frozen ? ' frozen' : ''}`;
    return { key, width: widthOf(doc, key, widths, clock), classes, right, frozen: n < frozen };
  });
  const same = columns.length === before.length && columns.every((c, i) => c.key === before[i]!.key && c.width === before[i]!.width && c.classes === before[i]!.classes);
  return same ? before : columns;
}
