/** The head of a column: sorts by a click, is dragged to its place, sized by its edge, and by a double click there to what it holds. */
import { memo, type RefObject, useRef, useState } from 'react';
import { nextSort } from '@yellowhammer/core/fields/sort';
import type { Document } from '@yellowhammer/core/model/document';
import { type ColumnKey, planActions, store, useAppDispatch, usePlanView } from '../app/store';
import { type CellContext, columnOf, rightColumn, showText } from './columns';
import type { PlanRow } from './rows';
import { widthOf } from './sheet-columns';
import { textWidth } from './shapes';

interface Props {
  column: ColumnKey;
  doc: Document;
  title: string;
  /** The rows as they are when somebody asks for the width that they need; heads are not drawn anew with them. */
  shown: RefObject<{ rows: readonly PlanRow[]; context: CellContext }>;
  /** How far the sheet is scrolled sideways. */
  shift: number;
}

/** Rows that are looked at for the width that a column needs. */
const MOST_LOOKED_AT = 2_000;

/** The width that shows the texts of a column whole. */
export function widthFor(column: ColumnKey, rows: readonly PlanRow[], context: CellContext): number {
  const head = textWidth(columnOf(context.doc, column)?.title ?? column) + 24;
  const widest = rows
    .slice(0, MOST_LOOKED_AT)
    .reduce((n, r) => Math.max(n, textWidth(showText(r, column, context)) * 1.12 + 18 + (column === 'name' ? Math.max(0, r.depth) * 14 + 30 : 0)), head);
  return Math.max(32, Math.min(Math.ceil(widest), 600));
}

/** The order of columns with one of them put before another (null: at the end). Number and name are columns like any other there. */
export function movedColumn(columns: readonly ColumnKey[], column: ColumnKey, before: ColumnKey | null): ColumnKey[] {
  const rest = columns.filter((k) => k !== column);
  const at = before === null ? rest.length : rest.indexOf(before);
  return [...rest.slice(0, at), column, ...rest.slice(at)];
}

export const HeadCell = memo(function HeadCell({ column, doc, title, shown, shift }: Props) {
  const ui = usePlanView();
  const dispatch = useAppDispatch();
  const width = widthOf(doc, column, ui.widths, ui.clock);
  const dragged = useRef(false);
  const [dragging, setDragging] = useState(0);
  const setWidth = (to: number): void => void dispatch(planActions.set({ widths: { ...store.getState().plan.widths, [column]: Math.max(32, to) } }));
  const follow = (e: React.PointerEvent, onMove: (dx: number, m: PointerEvent) => void, onUp: (m: PointerEvent) => void): void => {
    const x0 = e.clientX;
    const move = (m: PointerEvent): void => onMove(m.clientX - x0, m);
    const end = (): void => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
    };
    const up = (m: PointerEvent): void => {
      end();
      onUp(m);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
  };
  const drag = (e: React.PointerEvent): void => {
    dragged.current = false;
    if (e.button !== 0) return;
    follow(
      e,
      (dx) => {
        if (Math.abs(dx) > 6) dragged.current = true;
        if (dragged.current) setDragging(dx);
      },
      (m) => {
        setDragging(0);
        if (!dragged.current) return;
        const heads = [...(document.querySelectorAll<HTMLElement>('.head-cell') ?? [])];
        const over = heads.find((h) => ((r) => m.clientX < r.left + r.width / 2)(h.getBoundingClientRect()) && h.dataset['column'] !== column);
        const { columns } = store.getState().plan;
        dispatch(planActions.set({ columns: movedColumn(columns, column, over?.dataset['column'] ?? null) }));
      },
    );
  };
  const place = ui.sort.findIndex((s) => s.key === column);
  const sorted = ui.sort[place];
  const frozen = ui.columns.indexOf(column) < ui.frozen;
  return (
    <div
      role="columnheader"
      aria-sort={sorted ? (sorted.descending ? 'descending' : 'ascending') : undefined}
      onPointerDown={drag}
      onClick={(e) => !dragged.current && dispatch(planActions.set({ sort: nextSort(ui.sort, column, e.shiftKey || e.ctrlKey || e.metaKey) }))}
      data-column={column}
      className={`head-cell${rightColumn(doc, column) ? ' right' : ''}${frozen ? ' frozen' : ''}${dragging ? ' dragging' : ''}`}
      style={{ width, paddingLeft: column === 'name' ? 10 : undefined, transform: dragging || frozen ? `translateX(${dragging + (frozen ? shift : 0)}px)` : undefined }}
      title={columnOf(doc, column)?.about}
    >
      {title}
      {sorted && (
        <span className="head-sort" aria-hidden="true">
          {sorted.descending ? '↓' : '↑'}
          {ui.sort.length > 1 && place + 1}
        </span>
      )}
      <span
        className="resize"
        onPointerDown={(e) => {
          e.preventDefault();
          e.stopPropagation();
          follow(
            e,
            (dx) => setWidth(width + dx),
            () => undefined,
          );
        }}
        onClick={(e) => e.stopPropagation()}
        onDoubleClick={(e) => {
          e.stopPropagation();
          setWidth(widthFor(column, shown.current.rows, shown.current.context));
        }}
        aria-hidden="true"
      />
    </div>
  );
});
