/** A block of cells in a table of expenses: walked, extended, typed into, filled, copied and pasted, each one act. */
import Papa from 'papaparse';
import { useState } from 'react';
import { deleteExpenses } from '@yellowhammer/core/commands/expenses';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { type ExpenseColumn, pasteExpenses, typeExpenses } from '@yellowhammer/core/cost/expense-fields';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import type { Expense } from '@yellowhammer/core/model/money-schema';
import { type Place, walked } from '../load/grid';
import { useSession } from '../project/hooks';

export interface Cells {
  at: Place | null;
  /** The other corner of the block. */
  from: Place | null;
  /** What is typed, and why it cannot be taken. */
  typing: { text: string; error: string | null; select: boolean } | null;
  inBlock(row: number, column: number): boolean;
  choose(at: Place, extend: boolean): void;
  begin(text?: string): void;
  commit(text: string, then: 'down' | 'right' | 'left' | 'stay'): void;
  cancel(): void;
  onKeyDown(e: React.KeyboardEvent): void;
  onCopy(e: React.ClipboardEvent): void;
  onPaste(e: React.ClipboardEvent): void;
  /** Ids of the rows of the block. */
  chosen: string[];
  remove(): void;
}

export function useCells(rows: readonly Expense[], columns: readonly ExpenseColumn[], context: FieldContext): Cells {
  const session = useSession();
  const [at, setAt] = useState<Place | null>(null);
  const [from, setFrom] = useState<Place | null>(null);
  const [typing, setTyping] = useState<Cells['typing']>(null);
  const [low, high] = at ? [Math.min(at.row, from?.row ?? at.row), Math.max(at.row, from?.row ?? at.row)] : [0, -1];
  const [left, right] = at ? [Math.min(at.column, from?.column ?? at.column), Math.max(at.column, from?.column ?? at.column)] : [0, -1];
  const block = rows.slice(low, high + 1);
  const column = at ? columns[at.column] : undefined;
  const choose = (to: Place, extend: boolean): void => {
    setFrom(extend ? (from ?? at) : null);
    setAt(to);
    setTyping(null);
  };
  const textOf = (e: Expense, c: ExpenseColumn): string => (c.edit ?? c.show)(e, context);
  const begin = (text?: string): void => {
    const e = at && rows[at.row];
    if (!e || !column?.read) return;
    setTyping({ text: text ?? textOf(e, column), error: null, select: text === undefined });
  };
  /** An act on the whole block: a refusal is told as a notice. */
  const act = (o: Outcome): boolean => session.run(o);
  const fill = (): void => {
    const first = block[0];
    if (!first || !column?.read || block.length < 2) return;
    act(
      typeExpenses(
        session.doc,
        block.slice(1).map((e) => e.id),
        column.key,
        textOf(first, column),
      ),
    );
  };
  const step = (to: Place | undefined): void => {
    if (to) choose(to, false);
  };
  return {
    at,
    from,
    typing,
    inBlock: (row, c) => row >= low && row <= high && c >= left && c <= right,
    choose,
    begin,
    commit(text, then) {
      const e = at && rows[at.row];
      if (!e || !at || !column) return;
      if (text !== textOf(e, column)) {
        const outcome = typeExpenses(session.doc, [e.id], column.key, text);
        if (!outcome.ok && outcome.problems[0]?.code !== 'NOTHING_CHANGED') {
          setTyping({ text, error: outcome.problems[0]?.message ?? '', select: false });
          return;
        }
        if (outcome.ok) session.run(outcome);
      }
      setTyping(null);
      if (then !== 'stay') step(walked({ down: 'ArrowDown', right: 'ArrowRight', left: 'ArrowLeft' }[then], at, rows.length, columns.length));
    },
    cancel: () => setTyping(null),
    onKeyDown(e) {
      if (typing) return;
      const to = e.ctrlKey || e.metaKey || e.altKey ? undefined : walked(e.key, at, rows.length, columns.length);
      if (to) choose(to, e.shiftKey);
      else if (e.key === 'Enter' || e.key === 'F2') begin();
      else if (e.key === 'Tab' && at) step(walked(e.shiftKey ? 'ArrowLeft' : 'ArrowRight', at, rows.length, columns.length));
      else if (e.key === 'Delete' && e.ctrlKey && block.length)
        act(
          deleteExpenses(
            session.doc,
            block.map((x) => x.id),
          ),
        );
      else if (e.key === 'Delete' && column?.read && block.length)
        act(
          typeExpenses(
            session.doc,
            block.map((x) => x.id),
            column.key,
            '',
          ),
        );
      else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'd') fill();
      else if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey && at) begin(e.key);
      else return;
      e.preventDefault();
    },
    onCopy(e) {
      if (typing || block.length === 0) return;
      const lines = block.map((x) => columns.slice(left, right + 1).map((c) => textOf(x, c)));
      e.clipboardData.setData('text/plain', Papa.unparse(lines, { delimiter: '\t', newline: '\n' }));
      e.preventDefault();
    },
    onPaste(e) {
      const text = e.clipboardData.getData('text/plain');
      if (typing || !column || text === '') return;
      e.preventDefault();
      const { data } = Papa.parse<string[]>(text.replace(/\r\n/g, '\n').replace(/\n$/, ''), { delimiter: '\t' });
      const only = data.length === 1 && data[0]?.length === 1 ? data[0][0] : undefined;
      // One value goes into all cells of the block, a table from its first cell on.
      if (only !== undefined && column.read) {
        act(
          typeExpenses(
            session.doc,
            block.map((x) => x.id),
            column.key,
            only,
          ),
        );
        return;
      }
      act(
        pasteExpenses(
          session.doc,
          rows.slice(low).map((x) => x.id),
          columns[left]?.key ?? column.key,
          data,
        ),
      );
    },
    chosen: block.map((e) => e.id),
    remove() {
      if (
        block.length &&
        act(
          deleteExpenses(
            session.doc,
            block.map((x) => x.id),
          ),
        )
      )
        setFrom(null);
    },
  };
}
