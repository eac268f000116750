/** Pieces of the plan that stand by themselves: heads, divider, scroll bars, the shape that is dragged. */
import { memo, useEffect, useRef } from 'react';
import type { CellContext } from './columns';
import type { Scale } from './scale';
import type { Document } from '@yellowhammer/core/model/document';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { finishDays } from '@yellowhammer/core/compare/views';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { finishText, signedDays, startText } from '../app/format';
import type { Ghost } from './useDrag';

export function panWith(e: React.PointerEvent, from: number | null, pixelsPerDay: number, set: (from: number) => void): void {
  if (from === null) return;
  const x0 = e.clientX;
  const move = (m: PointerEvent): void => set(from - ((m.clientX - x0) / pixelsPerDay) * MINUTES_PER_DAY);
  const up = (): void => window.removeEventListener('pointermove', move);
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', up, { once: true });
}

export function Divider({ sheetWidth, onMove }: { sheetWidth: number; onMove: (width: number) => void }) {
  return (
    <div
      className="divider"
      style={{ left: sheetWidth - 3 }}
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the sheet"
      aria-valuenow={sheetWidth}
      tabIndex={0}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight') return;
        e.stopPropagation();
        onMove(sheetWidth + (e.key === 'ArrowLeft' ? -24 : 24));
      }}
      onPointerDown={(e) => {
        const x0 = e.clientX;
        const move = (m: PointerEvent): void => onMove(sheetWidth + m.clientX - x0);
        const up = (): void => window.removeEventListener('pointermove', move);
        window.addEventListener('pointermove', move);
        window.addEventListener('pointerup', up, { once: true });
      }}
    />
  );
}

export function HorizontalBar({ width, content, at, onScroll, label }: { width: number; content: number; at: number; onScroll: (x: number) => void; label: string }) {
  const ref = useRef<HTMLDivElement>(null);
  // Where it was put last: its own event for that comes late, and must not take back what came since.
  const placed = useRef(-1);
  useEffect(() => {
    if (!ref.current || Math.abs(ref.current.scrollLeft - at) <= 1) return;
    ref.current.scrollLeft = at;
    placed.current = ref.current.scrollLeft;
  }, [at]);
  return (
    <div
      ref={ref}
      className="hbar"
      style={{ width }}
      role="group"
      aria-label={label}
      tabIndex={-1}
      onScroll={(e) => e.currentTarget.scrollLeft !== placed.current && onScroll(e.currentTarget.scrollLeft)}
    >
      <div style={{ width: content, height: 1 }} />
    </div>
  );
}

/** The horizontal scroll of time: the plan from its start to its finish, with room at both ends. */
export const TimeBar = memo(function TimeBar({ scale, view, onScroll }: { scale: Scale; view: CellContext['view']; onScroll: (from: number) => void }) {
  const ref = useRef<HTMLDivElement>(null);
  // Where it was put last: its own event for that comes late, and reading the place back would lay the page out anew.
  const placed = useRef(-1);
  const room = scale.width / Math.max(scale.ppm, 1e-9);
  const low = Math.min((view?.projectStart ?? 0) - room * 0.5, scale.from);
  const high = Math.max((view?.projectFinish ?? 0) + room * 0.5, scale.from + room);
  // Browsers limit the width of an element, so the bar has a scale of its own.
  const total = Math.min(Math.max((high - low) * scale.ppm, scale.width), 500_000);
  const perPixel = (high - low - room) / Math.max(total - scale.width, 1);
  const x = Math.round(perPixel > 0 ? (scale.from - low) / perPixel : 0);
  useEffect(() => {
    if (!ref.current || Math.abs(x - placed.current) <= 2) return;
    ref.current.scrollLeft = x;
    placed.current = x;
  }, [x, total]);
  return (
    <div
      ref={ref}
      className="hbar"
      style={{ width: scale.width }}
      role="group"
      aria-label="Scroll through time"
      tabIndex={-1}
      onScroll={(e) => {
        const at = e.currentTarget.scrollLeft;
        if (Math.abs(at - placed.current) <= 2) return;
        placed.current = at;
        onScroll(low + at * perPixel);
      }}
    >
      <div style={{ width: total, height: 1 }} />
    </div>
  );
});

/** The dates that a drag would give, and what it would do to the finish; empty while they are computed. */
function liveWords(doc: Document, view: CellContext['view'], live: CellContext['view'], about: string | null): string[] {
  const i = about !== null && live ? placeOf(live, about) : undefined;
  if (!live || !view || i === undefined) return [];
  const moved = finishDays(doc, view, live);
  return [`${startText(live.start[i]!)} to ${finishText(live.finish[i]!)}`, moved === 0 ? 'the finish holds' : `the finish ${signedDays(moved)}`];
}

export function GhostShape({ ghost, heights, context, live }: { ghost: Ghost; heights: RowHeights; context: CellContext; live: CellContext['view'] }) {
  const { y } = ghost;
  return (
    <>
      <svg className="ghost" width="100%" height="100%">
        {ghost.mode === 'link' ? (
          <path className="ghost-link" d={`M${ghost.x1} ${y}L${ghost.toX} ${ghost.toY}`} />
        ) : ghost.mode === 'drop' ? (
          <path className="ghost-drop" d={`M0 ${heights.top(ghost.row) + 0.5}H4000`} />
        ) : (
          <rect className="ghost-bar" x={ghost.x1} y={y - 6} width={Math.max(ghost.x2 - ghost.x1, 3)} height={12} rx={2} />
        )}
      </svg>
      <div className="drag-tip" style={{ left: ghost.tipX + 14, top: ghost.tipY + 14 }} role="status">
        {[...ghost.tip, ...liveWords(context.doc, context.view, live, ghost.about)].map((t) => (
          <div key={t}>{t}</div>
        ))}
      </div>
    </>
  );
}
