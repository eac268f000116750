import type { AssignmentLine } from '@yellowhammer/core/load/lines';
import { AssignedCells } from './Assigned';
import { IconChevronDown, IconChevronRight, IconEyeOff, IconLink, IconNote, IconPaperclip } from '@tabler/icons-react';
import { memo, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Outcome } from '@yellowhammer/core/commands/result';
import type { Document } from '@yellowhammer/core/model/document';
import type { ColumnKey } from '../app/store';
import { CellDate } from './CellDate';
import { type CellContext, columnOf, hintOf, isComputedDate, ofSchedule, rightColumn } from './columns';
import { MIXED } from '@yellowhammer/core/view/sums';
import type { PlanRow } from './rows';

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

export interface SheetRowProps {
  row: PlanRow;
  index: number;
  total: number;
  top: number;
  height: number;
  /** What of it lies below its own line, and the assignments that are shown there. */
  below: number;
  lines: readonly AssignmentLine[] | undefined;
  keys: ColumnKey[];
  /** Columns from the left that stay in view. */
  frozen: number;
  /** The columns in view, from and up to, where the others are not drawn yet, so that no frame of scrolling waits for them; null: all are. */
  near: readonly [number, number] | null;
  widths: Partial<Record<ColumnKey, number>>;
  context: CellContext;
  /** The texts of the cells, by column; the same list as long as none of them changes. */
  texts: readonly string[];
  critical: boolean;
  selected: boolean;
  activeColumn: ColumnKey | null;
  editing: Editing | null;
  collapsed: boolean;
  stale: boolean;
  /** What there is beside the plan: a colour, notes, an address, hidden; empty: nothing. */
  marks: string;
  /** Cut, and waiting to be pasted. */
  cut: boolean;
  clock: boolean;
  handlers: RowHandlers;
}

/** Width of a column: as it was drawn, else as it comes, with room for times where they are shown. */
export function widthOf(doc: Document, key: ColumnKey, widths: Partial<Record<ColumnKey, number>>, clock = false): number {
  const f = columnOf(doc, key);
  return clock && f?.kind === 'date' && f.computed ? Math.max(widths[key] ?? 0, 108) : (widths[key] ?? f?.width ?? 60);
}

/** True where a text may have no room in a cell of so many pixels: it is told whole where it is pointed at. A character takes seven of them, or less. */
const mayBeCut = (text: string, width: number): boolean => text.length * 7 > width - 14;

/** One row of the sheet. Renders again only when its own data, result or selection changes. */
export const SheetRow = memo(
  function SheetRow(p: SheetRowProps) {
    const { row, context: c } = p;
    const wbs = row.kind === 'wbs';
    const [from, upTo] = !p.near || p.editing || p.activeColumn || p.frozen > 0 ? [0, p.keys.length] : p.near;
    return (
      <div
        role="row"
        id={`row-${row.id}`}
        aria-rowindex={p.index + 2}
        aria-level={Math.max(0, row.depth) + 1}
        aria-selected={p.selected}
        aria-expanded={wbs && row.depth >= 0 ? !p.collapsed : undefined}
        className={`row${p.selected ? ' selected' : ''}${wbs ? ` wbs depth-${Math.max(0, Math.min(row.depth, 3))}${row.depth < 0 ? ' whole' : ''}${row.kind === 'wbs' && row.group ? ' group' : ''}` : ''}${row.kind === 'draft' ? ' draft' : ''}${p.stale ? ' stale' : ''}${p.cut ? ' cut' : ''}${p.editing ? ' editing' : ''}`}
        style={{ top: p.top, height: p.height }}
        data-row={row.id}
      >
        <div className="row-cells" style={p.below > 0 ? { height: p.height - p.below } : undefined}>
          {from > 0 && <div style={{ flex: 'none', width: p.keys.slice(0, from).reduce((n, k) => n + widthOf(c.doc, k, p.widths, p.clock), 0) }} />}
          {p.keys.slice(from, upTo).map((key, k) => {
            const n = from + k;
            const editing = p.editing?.row === row.id && p.editing.column === key ? p.editing : null;
            const text = editing ? '' : (p.texts[n] ?? '');
            const width = widthOf(c.doc, key, p.widths, p.clock);
            const tone = key === 'float' && p.critical ? ' critical' : key === 'finishVariance' && text.startsWith('+') ? ' critical' : '';
            return (
              <div
                key={key}
                role="gridcell"
                aria-colindex={n + 1}
                id={`cell-${row.id}-${key}`}
                data-column={key}
                className={`cell${rightColumn(c.doc, key) ? ' right' : ''}${p.activeColumn === key ? ' active' : ''}${key === 'name' ? ' name' : ''}${editing ? ' editing' : ''}${isComputedDate(c.doc, key) && !wbs ? ' computed-date' : ''}${p.stale && ofSchedule(c.doc, key) ? ' of-schedule' : ''}${n < p.frozen ? ' frozen' : ''}${text === MIXED ? ' muted' : ''}${tone}`}
                style={{ width, ...(key === 'name' ? { paddingLeft: 10 + Math.max(0, row.depth) * 14 } : {}) }}
                title={mayBeCut(text, width - (key === 'name' ? Math.max(0, row.depth) * 14 + 40 : 0)) ? text : undefined}
                onMouseDown={(e) => {
                  if (editing || e.button !== 0) return;
                  p.handlers.pick(row.id, key, e.shiftKey ? 'range' : e.ctrlKey || e.metaKey ? 'add' : 'one');
                }}
                onDoubleClick={() => !editing && p.handlers.edit(row.id, key)}
              >
                {key === 'name' && wbs && row.depth >= 0 && (
                  <button
                    type="button"
                    className="twist"
                    tabIndex={-1}
                    aria-label={p.collapsed ? `Open ${text}` : `Close ${text}`}
                    onMouseDown={(e) => e.stopPropagation()}
                    onClick={() => p.handlers.toggle(row.id)}
                  >
                    {p.collapsed ? <IconChevronRight size={13} stroke={2} /> : <IconChevronDown size={13} stroke={2} />}
                  </button>
                )}
                {editing ? (
                  <CellEditor
                    key={editing.key}
                    editing={editing}
                    handlers={p.handlers}
                    draft={row.kind === 'draft' ? row.makes : null}
                    title={columnOf(c.doc, editing.column)?.title ?? editing.column}
                    list={columnOf(c.doc, editing.column)?.kind === 'links' ? 'row-numbers' : columnOf(c.doc, editing.column)?.choices ? `choices-${editing.column}` : undefined}
                    hint={hintOf(row, editing.column, c)}
                    date={columnOf(c.doc, editing.column)?.kind === 'date'}
                  />
                ) : (
                  <span className="cell-text">
                    {key === 'name' && row.kind === 'wbs' && row.group?.colour && <span className="row-colour" style={{ background: row.group.colour }} />}
                    {text}
                  </span>
                )}
                {key === 'name' && !editing && row.kind === 'wbs' && row.group && <span className="group-count">{row.group.count}</span>}
                {key === 'name' && !editing && p.marks !== '' && <MarkSigns marks={p.marks} />}
              </div>
            );
          })}
        </div>
        {p.lines && p.below > 0 && (
          <AssignedCells
            lines={p.lines}
            height={p.below}
            depth={Math.max(0, row.depth)}
            keys={p.keys}
            from={from}
            upTo={upTo}
            width={(key) => widthOf(c.doc, key, p.widths, p.clock)}
            clock={p.clock}
            right={(key) => rightColumn(c.doc, key)}
            onPick={() => p.handlers.pick(row.id, 'name', 'one')}
            onType={() => p.handlers.edit(row.id, p.keys.includes('assignments') ? 'assignments' : 'name')}
          />
        )}
      </div>
    );
  },
  (a, b) =>
    a.row === b.row &&
    a.index === b.index &&
    a.total === b.total &&
    a.top === b.top &&
    a.height === b.height &&
    a.below === b.below &&
    a.lines === b.lines &&
    a.keys === b.keys &&
    a.frozen === b.frozen &&
    a.near === b.near &&
    a.widths === b.widths &&
    a.texts === b.texts &&
    a.critical === b.critical &&
    a.selected === b.selected &&
    a.activeColumn === b.activeColumn &&
    a.editing === b.editing &&
    a.collapsed === b.collapsed &&
    a.stale === b.stale &&
    a.cut === b.cut &&
    a.marks === b.marks &&
    a.clock === b.clock &&
    a.handlers === b.handlers,
);

const signs = {
  notes: [IconNote, 'has notes'],
  files: [IconPaperclip, 'has files'],
  address: [IconLink, 'has a web address'],
  hidden: [IconEyeOff, 'hidden from the picture'],
} as const;

/** Signs behind the name, with words for those who cannot see them. */
function MarkSigns({ marks }: { marks: string }) {
  return (
    <span className="row-marks">
      {marks.split(' ').map((m) => {
        if (/^\d$/.test(m))
          return (
            <span key={m} className="row-priority" role="img" aria-label={`priority ${m}`}>
              {m}
            </span>
          );
        if (m.startsWith('#')) return <span key={m} className="row-colour" style={{ background: m }} role="img" aria-label="has a colour" />;
        const [Sign, words] = signs[m as keyof typeof signs];
        return <Sign key={m} size={12} stroke={1.6} role="img" aria-label={words} />;
      })}
    </span>
  );
}

/** The input in a cell. A wrong entry says why and keeps what was typed. */
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

function CellEditor({ editing, handlers, draft, title, list, hint, date }: EditorProps) {
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
    <>
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
    </>
  );
}
