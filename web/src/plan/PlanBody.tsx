import { useVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import type { Places } from '@yellowhammer/core/model/places';
import { memo, type RefObject, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { marksOf } from '@yellowhammer/core/fields/extras';
import { chainOf } from '@yellowhammer/core/plan/trace';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import type { Paint } from '@yellowhammer/core/view/looks';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { type ColumnKey, usePlan } from '../app/store';
import { type CellContext, showText } from './columns';
import { LaneNamer } from './LaneNamer';
import { GhostShape } from './PlanParts';
import { linkAt } from './link-at';
import type { Lanes, LinksOf, PlanRow } from './rows';
import { type Scale, xOf } from './scale';
import type { Selected } from './selected';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { LinkTip, type PointedLink } from './LinkTip';
import type { Editing, RowHandlers } from './CellEditor';
import { sheetColumns, type SheetColumn } from './sheet-columns';
import { SheetRow } from './SheetRow';
import { RowElements } from './row-elements';
import { TimelineWindow } from './Timeline';
import { useAfterFrame, useRested, useSelectionWithDates } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import { BarTip } from './BarTip';
import { useRowDrag } from './useRowDrag';
import { cursors } from './parts';
import { useAssigned } from './assigned';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import type { DragWork } from './useDrag';

interface Props {
  session: ProjectSession;
  scroller: RefObject<HTMLDivElement | null>;
  body: RefObject<HTMLDivElement | null>;
  rows: PlanRow[];
  place: Places;
  links: LinksOf;
  context: CellContext;
  stamp: string;
  viewVersion: number;
  scale: Scale;
  fitted: boolean;
  heights: RowHeights;
  sheetWidth: number;
  sheetX: number;
  selected: Selected;
  editing: Editing | null;
  closed: ReadonlySet<string>;
  lanes: Lanes;
  /** Dates as they would be while a bar is dragged. */
  live: ScheduleView | null;
  paint: (a: Activity) => Paint;
  naming: string | null;
  onNamed: () => void;
  stale: boolean;
  handlers: RowHandlers;
  drag: DragWork;
}

/** Rows that are drawn above and below those in view. */
const OVERSCAN = 6;
/** The timeline is drawn anew only every so many rows of scrolling. */
const STEP = 8;

/**
 * Texts of rows by column. They are made anew when something may have changed, but a row whose texts are the same keeps
 * its list, so that an edit draws the rows that it changes and no others.
 */
function useTexts(keys: readonly ColumnKey[], context: CellContext, stamp: string): (row: PlanRow) => readonly string[] {
  // Of the rows drawn last only: what is kept for longer is old when it goes, and costs the collector most.
  const kept = useRef(new Map<string, { stamp: string; row: PlanRow; texts: readonly string[] }>());
  const before = kept.current;
  kept.current = new Map();
  const now = `${stamp} ${keys.join()}`;
  return (row) => {
    const last = before.get(row.id);
    if (last && last.stamp === now && last.row === row) {
      kept.current.set(row.id, last);
      return last.texts;
    }
    const fresh = keys.map((k) => showText(row, k, context));
    const texts = last && last.texts.length === fresh.length && last.texts.every((t, i) => t === fresh[i]) ? last.texts : fresh;
    kept.current.set(row.id, { stamp: now, row, texts });
    return texts;
  };
}

/** What there is beside the plan, as one word: rows are compared by it. */
function marksIn(row: PlanRow, doc: Document): string {
  if (row.kind === 'draft') return '';
  const m = marksOf(doc, row);
  return [m.priority === null ? '' : `${m.priority}`, m.colour ?? '', m.notes ? 'notes' : '', m.files ? 'files' : '', m.address ? 'address' : '', m.hidden ? 'hidden' : '']
    .filter(Boolean)
    .join(' ');
}

/** The first column in view, and the one after the last. */
function columnsInView(columns: readonly SheetColumn[], x: number, width: number): readonly [number, number] {
  let [first, end, left] = [0, 0, 0];
  for (const c of columns) {
    if (left < x + width) end++;
    left += c.width;
    if (left <= x) first++;
  }
  return [first, end];
}

/** Numbers that are offered where a predecessor is typed. Only near rows: a list of ten thousand would slow every key down. */
const RowNumbers = memo(function RowNumbers({ rows, from, upTo }: { rows: readonly PlanRow[]; from: number; upTo: number }) {
  return (
    <datalist id="row-numbers">
      {rows.slice(from, upTo).flatMap((r) => (r.kind === 'activity' ? [<option key={r.id} value={r.activity.code} label={r.activity.name} />] : []))}
    </datalist>
  );
});

/** The rows in view, of sheet and timeline. A component of its own, so that scrolling draws nothing else. */
export function PlanBody(p: Props) {
  const ui = usePlan();
  const { rows, heights } = p;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => p.scroller.current,
    estimateSize: (i) => heights.height(i),
    overscan: OVERSCAN,
    // Until the window has been measured: rows and bars are there in the first drawing.
    initialRect: { width: window.innerWidth, height: window.innerHeight },
  });
  useEffect(() => virtual.measure(), [heights, virtual]);
  const items = virtual.getVirtualItems();
  // Bars, and columns beside those in view, follow when the rows have been drawn: a leap of a page would make one long frame of all.
  const from = Math.floor((items[0]?.index ?? 0) / STEP) * STEP;
  const upTo = Math.min(rows.length - 1, Math.ceil(((items[items.length - 1]?.index ?? -1) + 1) / STEP) * STEP);
  const opened = useDeferredValue(true, false);
  const { first, last } = useAfterFrame(useMemo(() => ({ first: from, last: upTo }), [from, upTo]));
  const height = heights.total;
  const elements = useRef(new RowElements<VirtualItem>());
  const drawn = elements.current.of(items, rows, useRested(items[0]?.index, 300) && !p.editing);
  // Which bars are selected is drawn a moment after the cursor: drawing all bars anew would hold it up.
  const marked = useAfterFrame(useSelectionWithDates(p.selected));
  const sheet = useRef<HTMLDivElement>(null);
  const lastColumns = useRef<readonly SheetColumn[]>([]);
  const columns = (lastColumns.current = sheetColumns(p.context.doc, ui.columns, ui, lastColumns.current));
  const namesAt = columns.slice(0, Math.max(0, ui.columns.indexOf('name'))).reduce((n, c) => n + c.width, 0) + 10 - p.sheetX;
  const rowDrag = useRowDrag({ session: p.session, rows, heights, closed: p.closed, body: sheet, scroller: p.scroller, namesAt });
  // The chain of the bar that the pointer rests on lights up both ways.
  const pointed = useDeferredValue(p.drag.ghost ? null : (p.drag.hover?.id ?? null));
  const lit = useMemo(() => (pointed === null ? null : chainOf(p.context.doc, pointed)), [pointed, p.context.doc]);
  const [pointedLink, setPointedLink] = useState<PointedLink | null>(null);
  const dataDate = p.context.view?.summary.dataDate;
  const at = dataDate ? parseInstant(dataDate) : undefined;
  const line = at === undefined ? undefined : xOf(p.scale, at);
  const texts = useTexts(ui.columns, p.context, p.stamp);
  const assigned = useAssigned(p.session, rows, first, last, heights, p.viewVersion);
  const near = useMemo(() => columnsInView(columns, p.sheetX, p.sheetWidth), [columns, p.sheetX, p.sheetWidth]);
  const { view } = p.context;
  const critical = (row: PlanRow): boolean => {
    const i = view && row.kind === 'activity' ? placeOf(view, row.id) : undefined;
    return view !== null && i !== undefined && view.critical[i] === 1;
  };
  return (
    <div className={`plan-body${p.sheetX > 0 ? ' across' : ''}`} style={{ height, ['--sheet-x' as string]: `${-p.sheetX}px` }}>
      <div className="sheet" ref={sheet} style={{ width: p.sheetWidth }} onPointerDown={rowDrag.onPointerDown}>
        {rowDrag.drag && (
          <div className="drop-line" role="status" style={{ top: rowDrag.drag.y - 1, left: namesAt + rowDrag.drag.landing.depth * 14 }}>
            <span>{rowDrag.drag.words}</span>
          </div>
        )}
        {drawn.map(({ item, key }) => {
          const row = rows[item.index]!;
          return (
            <SheetRow
              key={key}
              row={row}
              index={item.index}
              total={rows.length}
              top={heights.top(item.index)}
              height={heights.height(item.index)}
              below={heights.below(item.index)}
              lines={ui.assignments === 'lines' ? assigned.get(row.id) : undefined}
              columns={columns}
              near={opened && item.index >= first && item.index <= last ? null : near}
              context={p.context}
              texts={texts(row)}
              critical={critical(row)}
              selected={p.selected.has(row.id)}
              activeColumn={ui.active?.row === row.id ? ui.active.column : null}
              editing={p.editing?.row === row.id ? p.editing : null}
              collapsed={p.closed.has(row.id)}
              stale={p.stale}
              marks={marksIn(row, p.context.doc)}
              cut={ui.cut.includes(row.id)}
              clock={ui.clock}
              handlers={p.handlers}
            />
          );
        })}
      </div>
      <div
        className="timeline"
        ref={p.body}
        style={{ left: p.sheetWidth, width: p.scale.width, height: Math.max(height, 10), ...(p.drag.hover?.part ? { cursor: cursors[p.drag.hover.part] } : {}) }}
        onPointerDown={p.drag.onPointerDown}
        onPointerMove={(e) => {
          p.drag.onPointerMove(e);
          const id = e.buttons === 0 ? linkAt(e) : undefined;
          if (id === undefined || !p.context.doc.links.has(id)) setPointedLink(null);
          else setPointedLink((l) => (l?.id === id ? l : { id, clientX: e.clientX, clientY: e.clientY }));
        }}
        onPointerLeave={() => {
          p.drag.onPointerLeave();
          setPointedLink(null);
        }}
      >
        {drawn.map(({ item, key }) => (
          <div
            key={key}
            className={`timeline-row${p.selected.has(rows[item.index]!.id) ? ' selected' : ''}`}
            style={{ top: heights.top(item.index), height: heights.height(item.index) }}
          />
        ))}
        {p.fitted && (
          <TimelineWindow
            doc={p.context.doc}
            view={p.live ?? p.context.view}
            viewVersion={p.viewVersion}
            baseline={ui.baseline === 'none' ? null : p.context.baseline}
            rows={rows}
            place={p.place}
            links={p.links}
            lanes={p.lanes}
            first={first}
            last={last}
            scale={p.scale}
            heights={heights}
            selected={marked}
            lit={lit}
            texts={ui.texts}
            paint={p.paint}
            line={line}
            link={ui.link}
            pointedLink={pointedLink?.id ?? null}
            ownStops={ui.ownStops}
            alone={p.sheetWidth === 0}
            clock={ui.clock}
            showLinks={ui.showLinks}
            showFloat={ui.showFloat}
            assigned={assigned}
            assignments={ui.assignments}
          />
        )}
        {p.naming !== null && <LaneNamer key={p.naming} id={p.naming} place={p.place} lanes={p.lanes} heights={heights} scale={p.scale} onDone={p.onNamed} />}
        {p.drag.ghost && <GhostShape ghost={p.drag.ghost} heights={heights} context={p.context} live={p.live} />}
        {!p.drag.ghost && pointedLink && !p.drag.hover?.part && <LinkTip at={pointedLink} />}
        {!p.drag.ghost && p.drag.hover && <BarTip hover={p.drag.hover} heights={heights} />}
      </div>
      <RowNumbers rows={rows} from={Math.max(0, first - 40)} upTo={last + 60} />
    </div>
  );
}
