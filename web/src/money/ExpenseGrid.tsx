/** All expenses and income of the project as a table that is typed, filled, copied and pasted like a spreadsheet, with sums over it. */
import { Select } from '@mantine/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { addExpenses } from '@yellowhammer/core/commands/expenses';
import { expenseColumns, type ExpenseColumn, inOrder } from '@yellowhammer/core/cost/expense-fields';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import { amountText } from '@yellowhammer/core/fields/amounts';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import type { Expense } from '@yellowhammer/core/model/money-schema';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { labelOf } from '@yellowhammer/core/model/document';
import { downloadCsv } from '../app/csv';
import { downloadSheet } from '../app/spreadsheet';
import { newId, useDoc, useSession, useTopic } from '../project/hooks';
import { useCells } from './useCells';

const ROW = 27;
const HEAD = 30;

/** The column by whose values rows stand; without one they stand as in the outline. */
interface Order {
  key: string;
  down: boolean;
}

/** Rows in the order of the outline; `text`: only those in which it stands somewhere. */
function rowsOf(doc: Document, context: FieldContext, text: string): Expense[] {
  const index = indexOf(doc);
  const wanted = text.trim().toLowerCase();
  return outlineRows(doc).flatMap((r) =>
    r.kind === 'activity' ? index.expensesOf(r.id).filter((e) => wanted === '' || expenseColumns.some((c) => c.show(e, context).toLowerCase().includes(wanted))) : [],
  );
}

export function ExpenseGrid() {
  const session = useSession();
  const { doc, version } = useDoc();
  const viewed = useTopic('view');
  const [text, setText] = useState('');
  const [activityId, setActivityId] = useState<string | null>(null);
  const [order, setOrder] = useState<Order | null>(null);
  // A click on a head sorts upwards, another downwards, a third gives the outline back.
  const sortBy = (key: string): void => setOrder(order?.key !== key ? { key, down: false } : order.down ? null : { key, down: true });
  // The document is one object that changes inside, and so do dates: their versions say when.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const context = useMemo<FieldContext>(() => ({ doc, view: session.view, baseline: null, clock: false }), [doc, session, viewed, version]);
  const found = useMemo(() => rowsOf(doc, context, text), [doc, context, text]);
  // Rows stay where they were sorted to while they are typed into: only a click on a head sorts again.
  const places = useMemo(() => {
    const column = expenseColumns.find((c) => c.key === order?.key);
    return column && order ? new Map(inOrder(rowsOf(doc, context, ''), column, context, order.down).map((e, n) => [e.id, n])) : null;
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [order]);
  const rows = useMemo(() => (places ? [...found].sort((a, b) => (places.get(a.id) ?? Infinity) - (places.get(b.id) ?? Infinity) || 0) : found), [found, places]);
  const columns = doc.currencies.size > 0 ? expenseColumns : expenseColumns.filter((c) => c.key !== 'foreign');
  const cells = useCells(rows, columns, context);
  const box = useRef<HTMLDivElement>(null);
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 10,
    paddingStart: 3 * HEAD,
    scrollPaddingStart: 3 * HEAD,
  });
  const { at } = cells;
  useEffect(() => {
    if (at) down.scrollToIndex(at.row, { align: 'auto' });
  }, [at, down]);
  useEffect(() => {
    // Typing leaves the keyboard where it was.
    if (!cells.typing && at) box.current?.focus({ preventScroll: true });
  }, [cells.typing, at]);
  const lefts = columns.map((_, n) => columns.slice(0, n).reduce((sum, c) => sum + c.width, 0));
  const width = columns.reduce((sum, c) => sum + c.width, 0);
  const add = (income: boolean): void => {
    const ids = activityId === null ? [] : [activityId];
    session.run(addExpenses(doc, ids, { income, when: income ? 'finish' : 'even' }, newId));
    setText('');
  };
  const sheet = (): [string, string[], (string | number)[][]] => [
    `${projectOf(doc).code} expenses and income`,
    columns.map((c) => c.title),
    rows.map((e) => columns.map((c) => (c.sum ? c.sum(e, context) : c.show(e, context)))),
  ];
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const activities = useMemo(() => [...doc.activities.values()].slice(0, 20_000).map((a) => ({ value: a.id, label: labelOf(a) })), [doc, version]);
  const sums = (income: boolean, c: ExpenseColumn): number => rows.reduce((n, e) => (e.income === income && c.sum ? n + Math.round(c.sum(e, context) * 100) : n), 0) / 100;
  return (
    <>
      <div className="load-bar">
        <input aria-label="Find in the table" placeholder="Find" value={text} onChange={(e) => setText(e.target.value)} />
        <Select size="xs" aria-label="Activity of the new row" placeholder="Activity" searchable limit={50} value={activityId} data={activities} onChange={setActivityId} />
        <button type="button" className="chip" disabled={activityId === null} onClick={() => add(false)}>
          Add an expense
        </button>
        <button type="button" className="chip" disabled={activityId === null} onClick={() => add(true)}>
          Add income
        </button>
        {cells.chosen.length > 0 && (
          <button type="button" className="chip" onClick={cells.remove} title="Ctrl+Delete">
            Delete {cells.chosen.length === 1 ? 'the row' : `${cells.chosen.length} rows`}
          </button>
        )}
      </div>
      {rows.length === 0 && (
        <p className="muted load-wait">
          {text
            ? 'No row holds that text.'
            : 'What does not come from assignments: hire, permits, fees, grants. Choose an activity above and add one, or use the Cost section of the inspector in Plan.'}
        </p>
      )}
      <div
        ref={box}
        className="expense-grid"
        role="grid"
        aria-label="Expenses and income"
        aria-rowcount={rows.length}
        aria-colcount={columns.length}
        tabIndex={0}
        aria-activedescendant={at && !cells.typing ? `expense-${at.row}-${at.column}` : undefined}
        onKeyDown={cells.onKeyDown}
        onCopy={cells.onCopy}
        onPaste={cells.onPaste}
        hidden={rows.length === 0}
      >
        <div style={{ width, height: down.getTotalSize(), position: 'relative' }}>
          <div role="row" className="expense-heads" style={{ width, height: HEAD }}>
            {columns.map((c, n) => (
              <span
                key={c.key}
                role="columnheader"
                aria-sort={order?.key !== c.key ? 'none' : order.down ? 'descending' : 'ascending'}
                title={c.about}
                className={c.amount ? 'right' : ''}
                style={{ left: lefts[n], width: c.width }}
              >
                <button type="button" className="expense-sort" onClick={() => sortBy(c.key)}>
                  {c.title}
                  {order?.key === c.key && (order.down ? ' ↓' : ' ↑')}
                </button>
              </span>
            ))}
          </div>
          <div className="expense-sums">
            {([false, true] as const).map((income) => (
              <div key={String(income)} role="row" className="expense-sum" style={{ width, height: HEAD }}>
                <span role="rowheader" style={{ left: 0, width: columns[0]?.width ?? 0 }}>
                  {income ? 'Income' : 'Costs'} in all
                </span>
                {columns.map((c, n) =>
                  c.sum ? (
                    <span key={c.key} role="gridcell" className="right" style={{ left: lefts[n], width: c.width }}>
                      {amountText(sums(income, c))}
                    </span>
                  ) : null,
                )}
              </div>
            ))}
          </div>
          {down.getVirtualItems().map((r) => {
            const e = rows[r.index]!;
            return (
              <div key={e.id} role="row" className={`expense-row${e.income ? ' income' : ''}`} style={{ top: r.start, height: ROW, width }}>
                {columns.map((c, n) => {
                  const here = at?.row === r.index && at.column === n;
                  return (
                    <span
                      key={c.key}
                      id={`expense-${r.index}-${n}`}
                      role="gridcell"
                      data-column={c.key}
                      aria-selected={cells.inBlock(r.index, n)}
                      className={`expense-cell${c.amount ? ' right' : ''}${c.follows?.(e) ? ' follows' : ''}${cells.inBlock(r.index, n) ? ' in' : ''}${here ? ' on' : ''}`}
                      style={{ left: lefts[n], width: c.width }}
                      onPointerDown={(ev) => {
                        if (!(here && cells.typing)) cells.choose({ row: r.index, column: n }, ev.shiftKey);
                      }}
                      onDoubleClick={() => cells.begin()}
                    >
                      {here && cells.typing ? (
                        <CellInput column={c} doc={doc} typing={cells.typing} onCommit={cells.commit} onCancel={cells.cancel} />
                      ) : (
                        <span>{c.show(e, context)}</span>
                      )}
                    </span>
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
      <footer className="dock">
        <button type="button" className="chip" onClick={() => downloadCsv(...sheet())}>
          CSV
        </button>
        <button type="button" className="chip" onClick={() => void downloadSheet(...sheet())}>
          Spreadsheet
        </button>
        <span className="muted">
          {rows.length} {rows.length === 1 ? 'row' : 'rows'} · amounts in {projectOf(doc).currency || 'the project’s currency'} · pale: as it follows from progress · Enter types,
          Ctrl+D fills down
        </span>
      </footer>
    </>
  );
}

interface InputProps {
  column: ExpenseColumn;
  doc: Document;
  typing: { text: string; error: string | null; select: boolean };
  onCommit: (text: string, then: 'down' | 'right' | 'left' | 'stay') => void;
  onCancel: () => void;
}

function CellInput({ column, doc, typing, onCommit, onCancel }: InputProps) {
  const list = useId();
  const input = useRef<HTMLInputElement>(null);
  const settled = useRef(false);
  useEffect(() => {
    input.current?.focus();
    if (typing.select) input.current?.select();
    settled.current = false;
  }, [typing]);
  const commit = (then: 'down' | 'right' | 'left' | 'stay'): void => {
    settled.current = true;
    onCommit(input.current?.value.trim() ?? '', then);
  };
  return (
    <>
      <input
        ref={input}
        className={`cell-input${typing.error ? ' wrong' : ''}`}
        aria-label={column.title}
        aria-invalid={typing.error !== null}
        defaultValue={typing.text}
        list={column.choices ? list : undefined}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') commit('down');
          else if (e.key === 'Tab') {
            e.preventDefault();
            commit(e.shiftKey ? 'left' : 'right');
          } else if (e.key === 'Escape') {
            settled.current = true;
            onCancel();
          }
        }}
        onBlur={() => !settled.current && commit('stay')}
      />
      {column.choices && (
        <datalist id={list}>
          {column.choices(doc).map((c) => (
            <option key={c} value={c} />
          ))}
        </datalist>
      )}
      {typing.error && (
        <span className="expense-error" role="alert">
          {typing.error}
        </span>
      )}
    </>
  );
}
