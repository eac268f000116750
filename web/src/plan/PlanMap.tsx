/** A small map of the whole plan: rows downwards, time across, and the part in view as a frame to move around with. */
import { memo, useEffect, useRef, useState } from 'react';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import type { PlanRow } from './rows';
import { endOf, type Scale } from './scale';

const SIZE = { width: 224, height: 132 };
/** Rows that are looked at for one line of the map: of a large plan some stand for the rest. */
const ROWS_A_LINE = 3;

interface Props {
  rows: readonly PlanRow[];
  view: ScheduleView | null;
  heights: RowHeights;
  scale: Scale;
  scroller: React.RefObject<HTMLDivElement | null>;
  onTime: (from: number) => void;
}

/** What a row spans in time, and whether it is critical. */
function spanOf(view: ScheduleView, row: PlanRow): [number, number, boolean, boolean] | undefined {
  if (row.kind === 'draft') return undefined;
  const r = row.kind === 'wbs' ? view.rollups.get(row.id) : undefined;
  if (r) return r.start === NONE ? undefined : [r.start, r.finish, false, true];
  const i = placeOf(view, row.id);
  return i === undefined ? undefined : [view.start[i]!, view.finish[i]!, view.critical[i] === 1, false];
}

export const PlanMap = memo(function PlanMap({ rows, view, heights, scale, scroller, onTime }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [top, setTop] = useState({ at: 0, height: 1 });
  useEffect(() => {
    const el = scroller.current;
    if (!el) return;
    let frame = 0;
    const look = (): void => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => setTop({ at: el.scrollTop, height: el.clientHeight }));
    };
    look();
    el.addEventListener('scroll', look, { passive: true });
    return () => {
      cancelAnimationFrame(frame);
      el.removeEventListener('scroll', look);
    };
  }, [scroller]);
  const room = view ? Math.max(MINUTES_PER_DAY, (view.projectFinish - view.projectStart) * 0.03) : 0;
  const from = view ? view.projectStart - room : 0;
  const to = view ? view.projectFinish + room : 1;
  const xAt = (t: number): number => ((t - from) / (to - from)) * SIZE.width;
  const total = Math.max(heights.total, top.height);
  useEffect(() => {
    const el = canvas.current;
    const draw = el?.getContext('2d');
    if (!el || !draw || !view) return;
    const dots = devicePixelRatio || 1;
    el.width = SIZE.width * dots;
    el.height = SIZE.height * dots;
    draw.scale(dots, dots);
    const style = getComputedStyle(el);
    const ink = {
      work: style.getPropertyValue('--slate'),
      critical: style.getPropertyValue('--chestnut'),
      node: style.getPropertyValue('--ink'),
      line: style.getPropertyValue('--yellow'),
    };
    const lines = Math.min(rows.length, SIZE.height);
    const step = SIZE.height / Math.max(rows.length, SIZE.height / 6);
    for (let n = 0; n < lines; n++) {
      const [first, next] = [Math.floor((n * rows.length) / lines), Math.floor(((n + 1) * rows.length) / lines)];
      for (let k = 0; k < Math.min(ROWS_A_LINE, next - first); k++) {
        const span = spanOf(view, rows[first + Math.floor((k * (next - first)) / ROWS_A_LINE)]!);
        if (!span) continue;
        const [start, finish, critical, node] = span;
        draw.fillStyle = critical ? ink.critical : node ? ink.node : ink.work;
        draw.globalAlpha = node ? 0.45 : 0.85;
        draw.fillRect(xAt(start), rows.length > lines ? n : first * step, Math.max(1, xAt(finish) - xAt(start)), node ? 0.6 : Math.max(0.8, Math.min(3, step - 0.6)));
      }
    }
    const dataDate = view.summary.dataDate === null ? undefined : parseInstant(view.summary.dataDate);
    if (dataDate === undefined) return;
    draw.globalAlpha = 1;
    draw.fillStyle = ink.line;
    draw.fillRect(xAt(dataDate) - 0.75, 0, 1.5, SIZE.height);
    // The place of times follows from the ends of the plan, which the view gives.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [rows, view]);
  if (!view) return null;
  // Where there are few rows the map is not filled: a row is at most a few pixels high.
  const high = Math.min(SIZE.height, rows.length * 6);
  const frame = {
    left: Math.max(0, xAt(scale.from)),
    right: Math.min(SIZE.width, xAt(endOf(scale))),
    top: (top.at / total) * high,
    bottom: Math.min(high, ((top.at + top.height) / total) * high),
  };
  const moveTo = (x: number, y: number): void => {
    const span = endOf(scale) - scale.from;
    onTime(from + (x / SIZE.width) * (to - from) - span / 2);
    if (scroller.current) scroller.current.scrollTop = (y / high) * total - top.height / 2;
  };
  const steer = (e: React.PointerEvent<HTMLDivElement>): void => {
    if (e.button !== 0) return;
    e.stopPropagation();
    const box = e.currentTarget.getBoundingClientRect();
    const go = (p: { clientX: number; clientY: number }): void => moveTo(p.clientX - box.left, p.clientY - box.top);
    go(e);
    window.addEventListener('pointermove', go);
    window.addEventListener('pointerup', () => window.removeEventListener('pointermove', go), { once: true });
  };
  const keys: Record<string, [number, number]> = { ArrowLeft: [-0.2, 0], ArrowRight: [0.2, 0], ArrowUp: [0, -0.5], ArrowDown: [0, 0.5] };
  return (
    <div
      className="plan-map"
      role="group"
      aria-label="Map of the whole plan: arrows move the part in view"
      tabIndex={0}
      style={SIZE}
      onPointerDown={steer}
      onKeyDown={(e) => {
        const by = keys[e.key];
        if (!by || e.altKey || e.ctrlKey) return;
        e.preventDefault();
        e.stopPropagation();
        onTime(scale.from + by[0] * (endOf(scale) - scale.from));
        scroller.current?.scrollBy(0, by[1] * top.height);
      }}
    >
      <canvas ref={canvas} style={SIZE} aria-hidden="true" />
      <div className="plan-map-frame" style={{ left: frame.left, width: Math.max(4, frame.right - frame.left), top: frame.top, height: Math.max(4, frame.bottom - frame.top) }} />
    </div>
  );
});
