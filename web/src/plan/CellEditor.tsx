import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { Fields } from '../app/Fields';
import type { ColumnKey } from '../app/store';
import { CellDate } from './CellDate';

export interface Editing {
  /** Tells one editing from the next, so that each begins with an input of its own. */
  key: number;
  row: string;
  column: ColumnKey;
  text: string;
  /** Selects all (F2) or stands at the end (typing began with a key). */
  selectAll: boolean;
  error: string | null;
  /** Answers, where what was typed is a question. */
  choices?: { label: string; outcome: Outcome }[];
}

let editings = 0;
/** Begins to edit a cell. */
export const beginEditing = (row: string, column: ColumnKey, text: string, selectAll: boolean): Editing => ({ key: ++editings, row, column, text, selectAll, error: null });

export interface RowHandlers {
  pick: (row: string, column: ColumnKey, mode: 'one' | 'range' | 'add') => void;
  edit: (row: string, column: ColumnKey) => void;
  toggle: (id: string) => void;
  type: (text: string) => void;
  commit: (text: string, then: 'down' | 'next' | 'previous' | 'stay') => void;
  cancel: () => void;
  answer: (outcome: Outcome) => void;
}

interface EditorProps {
  editing: Editing;
  handlers: RowHandlers;
  draft: 'activity' | 'wbs' | null;
  title: string;
  /** The list of texts that are offered. */
  list: string | undefined;
  hint: string | undefined;
  /** A date is typed: one can be picked, too. */
  date: boolean;
}

/** The input in a cell. A wrong entry says why and keeps what was typed. */
export function CellEditor({ editing, handlers, draft, title, list, hint, date }: EditorProps) {
  const [picking, setPicking] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const settled = useRef(false);
  // What is said below the cell hangs from the side that has room in the sheet.
  const [side, setSide] = useState('');
  useLayoutEffect(() => {
    const [cell, sheet] = [input.current?.getBoundingClientRect(), input.current?.closest('.sheet')?.getBoundingClientRect()];
    const low = input.current?.closest('.plan-scroll')?.getBoundingClientRect().bottom ?? Infinity;
    if (cell && sheet) setSide(`${cell.left + 300 > sheet.right ? ' from-right' : ''}${cell.bottom + 84 > low ? ' above' : ''}`);
  }, [editing.error]);
  useEffect(() => {
    input.current?.focus();
    if (editing.selectAll) input.current?.select();
    // Only when the editor appears: what is typed afterwards must not be selected again.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  useEffect(() => {
    if (editing.error) settled.current = false;
  }, [editing.error]);
  const answer = (outcome: Outcome): void => {
    settled.current = true;
    handlers.answer(outcome);
  };
  const commit = (then: 'down' | 'next' | 'previous' | 'stay'): void => {
    settled.current = true;
    handlers.commit(input.current?.value ?? '', then);
  };
  return (
    <Fields>
      <input
        ref={input}
        className={`cell-input${editing.error ? ' wrong' : ''}`}
        defaultValue={editing.text}
        list={list}
        placeholder={draft === 'wbs' ? 'Name of the WBS node' : draft === 'activity' ? 'Name of the activity' : undefined}
        aria-label={title}
        aria-invalid={editing.error !== null}
        aria-describedby={editing.error ? 'cell-error' : undefined}
        onInput={() => editing.error && handlers.type(input.current?.value ?? '')}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (date && e.altKey && e.key === 'ArrowDown') {
            e.preventDefault();
            setPicking(true);
          } else if (e.key === 'Enter') {
            e.preventDefault();
            commit('down');
          } else if (e.key === 'Tab') {
            e.preventDefault();
            commit(e.shiftKey ? 'previous' : 'next');
          } else if (e.key === 'Escape') {
            settled.current = true;
            handlers.cancel();
          }
        }}
        onBlur={(e) => !settled.current && !(e.relatedTarget as HTMLElement | null)?.closest('.cell-error, .cell-picker, .cell-date') && commit('stay')}
      />
      {date && (
        <CellDate
          text={input.current?.value ?? editing.text}
          opened={picking}
          onOpen={(now) => {
            setPicking(now);
            if (!now) input.current?.focus();
          }}
          onPick={(day) => {
            setPicking(false);
            settled.current = true;
            handlers.commit(day, 'stay');
          }}
        />
      )}
      {!editing.error && hint && <div className={`cell-hint${side}`}>{hint}</div>}
      {editing.error && (
        <div className={`cell-error${side}`} id="cell-error" role="alert">
          {editing.error}
          {editing.choices?.map((c) => (
            <button key={c.label} type="button" className="chip" onMouseDown={(e) => e.preventDefault()} onClick={() => answer(c.outcome)}>
              {c.label}
            </button>
          ))}
          {!editing.choices && hint}
        </div>
      )}
    </Fields>
  );
}
