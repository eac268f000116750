import type { AssignmentLine } from '@yellowhammer/core/load/lines';
import { MIXED } from '@yellowhammer/core/view/sums';
import { IconChevronDown, IconChevronRight, IconEyeOff, IconLink, IconNote, IconPaperclip } from '@tabler/icons-react';
import { memo, type MouseEvent } from 'react';
import type { ColumnKey } from '../app/store';
import { AssignedCells } from './Assigned';
import { CellEditor, type Editing, type RowHandlers } from './CellEditor';
import { type CellContext, columnOf, hintOf } from './columns';
import type { PlanRow } from './rows';
import type { SheetColumn } from './sheet-columns';

export interface SheetRowProps {
  row: PlanRow;
  index: number;
  total: number;
  top: number;
  height: number;
  /** What of it lies below its own line, and the assignments that are shown there. */
  below: number;
  lines: readonly AssignmentLine[] | undefined;
  /** The same list as long as the columns are the same. */
  columns: readonly SheetColumn[];
  /** The columns in view, from and up to, where the others are not drawn yet, so that no frame of scrolling waits for them; null: all are. */
  near: readonly [number, number] | null;
  /** Is no reason to draw a row again: what it is needed for comes with what is edited. */
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

/** True where a text may have no room in a cell of so many pixels: it is told whole where it is pointed at. A character takes seven of them, or less. */
const mayBeCut = (text: string, width: number): boolean => text.length * 7 > width - 14;
/** True where a text certainly has room: its cell clips nothing, which spares the drawing a piece of its own. Plain letters are nine pixels wide, or hardly more. */
const hasRoom = (text: string, width: number): boolean => text.length * 9 <= width - 14 && PLAIN.test(text);
const PLAIN = /^[ -~–·]*$/;
/** What of the name's column lies before the name, beside the edges. */
const indent = (row: PlanRow): number => Math.max(0, row.depth) * 14;
/** Whether it is late or critical is told by its tone. */
const toneOf = (key: ColumnKey, text: string, critical: boolean): string =>
  (key === 'float' && critical) || (key === 'finishVariance' && text.startsWith('+')) ? ' critical' : '';

function classesOf(p: SheetRowProps): string {
  const { row } = p;
  const wbs = row.kind === 'wbs' ? ` wbs depth-${Math.max(0, Math.min(row.depth, 3))}${row.depth < 0 ? ' whole' : ''}${row.group ? ' group' : ''}` : '';
  return `row${p.selected ? ' selected' : ''}${wbs}${row.kind === 'draft' ? ' draft' : ''}${p.stale ? ' stale' : ''}${p.cut ? ' cut' : ''}${p.editing ? ' editing' : ''}`;
}

/**
 * One row of the sheet. Renders again only when its own data, result or selection changes. A cell is one element that hears
 * nothing itself: hundreds of them come and go while somebody scrolls, and each listener and each element more is work for
 * the frame and afterwards for the collector.
 */
export const SheetRow = memo(
  function SheetRow(p: SheetRowProps) {
    const { row, columns } = p;
    const wbs = row.kind === 'wbs';
    const [from, upTo] = !p.near || p.editing || p.activeColumn || columns[0]?.frozen ? [0, columns.length] : p.near;
    /** The column that was meant, unless it is being typed into or the branch is opened. */
    const columnAt = (e: MouseEvent): ColumnKey | undefined => {
      const cell = (e.target as Element).closest<HTMLElement>('.cell, .twist');
      return cell?.matches('.editing, .twist') ? undefined : cell?.dataset['column'];
    };
    return (
      <div
        role="row"
        id={`row-${row.id}`}
        aria-rowindex={p.index + 2}
        aria-level={Math.max(0, row.depth) + 1}
        aria-selected={p.selected}
        aria-expanded={wbs && row.depth >= 0 ? !p.collapsed : undefined}
        className={classesOf(p)}
        style={{ top: p.top, height: p.height }}
        data-row={row.id}
      >
        <div
          className="row-cells"
          style={p.below > 0 ? { height: p.height - p.below } : undefined}
          onMouseDown={(e) => {
            const key = e.button === 0 ? columnAt(e) : undefined;
            if (key !== undefined) p.handlers.pick(row.id, key, e.shiftKey ? 'range' : e.ctrlKey || e.metaKey ? 'add' : 'one');
          }}
          onDoubleClick={(e) => {
            const key = columnAt(e);
            if (key !== undefined) p.handlers.edit(row.id, key);
          }}
        >
          {from > 0 && <div style={{ flex: 'none', width: columns.slice(0, from).reduce((n, c) => n + c.width, 0) }} />}
          {columns.slice(from, upTo).map((column, k) => {
            const { key, width } = column;
            const n = from + k;
            const text = p.texts[n] ?? '';
            const at = p.activeColumn === key;
            const cell = { role: 'gridcell', 'aria-colindex': n + 1, id: at ? `cell-${row.id}-${key}` : undefined, 'data-column': key };
            const active = at ? ' active' : '';
            const named = key === 'name';
            const style = named ? { width, paddingLeft: 10 + indent(row) } : { width };
            if (p.editing?.row === row.id && p.editing.column === key)
              return (
                <div key={key} {...cell} className={`${column.classes}${active} editing`} style={style}>
                  {named && wbs && row.depth >= 0 && <Twist {...p} text="" />}
                  <EditorIn {...p} editing={p.editing} />
                </div>
              );
            const plain = !named || (!wbs && p.marks === '');
            const room = width - (named ? indent(row) + 40 : 0);
            return (
              <div
                key={key}
                {...cell}
                className={`${column.classes}${active}${plain ? '' : ' with-signs'}${hasRoom(text, room) ? '' : ' clips'}${text === MIXED ? ' muted' : ''}${toneOf(key, text, p.critical)}`}
                style={style}
                title={mayBeCut(text, room) ? text : undefined}
              >
                {plain ? text : <NameIn {...p} text={text} />}
              </div>
            );
          })}
        </div>
        {p.lines && p.below > 0 && (
          <AssignedCells
            lines={p.lines}
            height={p.below}
            depth={Math.max(0, row.depth)}
            columns={columns}
            from={from}
            upTo={upTo}
            clock={p.clock}
            onPick={() => p.handlers.pick(row.id, 'name', 'one')}
            onType={() => p.handlers.edit(row.id, columns.some((c) => c.key === 'assignments') ? 'assignments' : 'name')}
          />
        )}
      </div>
    );
  },
  (a, b) => (Object.keys(a) as (keyof SheetRowProps)[]).every((k) => k === 'context' || a[k] === b[k]),
);

/** Opens and closes a branch. */
function Twist({ row, text, collapsed, handlers }: SheetRowProps & { text: string }) {
  return (
    <button type="button" className="twist" tabIndex={-1} aria-label={collapsed ? `Open ${text}` : `Close ${text}`} onClick={() => handlers.toggle(row.id)}>
      {collapsed ? <IconChevronRight size={13} stroke={2} /> : <IconChevronDown size={13} stroke={2} />}
    </button>
  );
}

/** What stands in the cell of the name: the name, what opens a branch, and signs. */
function NameIn(p: SheetRowProps & { text: string }) {
  const { row, text } = p;
  const group = row.kind === 'wbs' ? row.group : undefined;
  return (
    <>
      {row.kind === 'wbs' && row.depth >= 0 && <Twist {...p} />}
      <span className="cell-text">
        {group?.colour && <span className="row-colour" style={{ background: group.colour }} />}
        {text}
      </span>
      {group && <span className="group-count">{group.count}</span>}
      {p.marks !== '' && <MarkSigns marks={p.marks} />}
    </>
  );
}

function EditorIn({ row, context: c, editing, handlers }: SheetRowProps & { editing: Editing }) {
  const f = columnOf(c.doc, editing.column);
  return (
    <CellEditor
      key={editing.key}
      editing={editing}
      handlers={handlers}
      draft={row.kind === 'draft' ? row.makes : null}
      title={f?.title ?? editing.column}
      list={f?.kind === 'links' ? 'row-numbers' : f?.choices ? `choices-${editing.column}` : undefined}
      hint={hintOf(row, editing.column, c)}
      date={f?.kind === 'date'}
    />
  );
}

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
