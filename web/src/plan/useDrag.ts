/** Direct work on the timeline: move and stretch bars, draw links and new bars. Escape cancels. What a drag means is core's to say. */
import { placeOf } from '@yellowhammer/core/schedule/view';
import type { Places } from '@yellowhammer/core/model/places';
import { useCallback, useEffect, useRef, useState } from 'react';
import { addLink } from '@yellowhammer/core/commands/links';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { State } from '@yellowhammer/core/schedule/network';
import { dropRows } from '@yellowhammer/core/commands/outline';
import { labelOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { type Answer, type DragAnswer, dragAnswers, dragProgress, drivingLink } from '@yellowhammer/core/plan/drag-answers';
import { type DragResult, drawBar, drawInLane, linkTypeAt, moveBar, stretchFinish, stretchStart } from '@yellowhammer/core/plan/drag';
import type { Instant } from '@yellowhammer/core/time/instant';
import { newId } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import { halfOf, type Hover, markAt, partAt, type Part } from './parts';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { linkAt } from './link-at';
import { inStack, type Lanes, type LinksOf, middleOf, type PlanRow } from './rows';
import { type Scale, tOf, xOf } from './scale';

type Mode = 'move' | 'stretch' | 'stretchStart' | 'link' | 'draw' | 'drop' | 'progress';

interface Drag {
  mode: Mode;
  id: string | null;
  /** Which end a link begins at. */
  fromStart: boolean;
  /** Where it began: the instant and the height, whatever is scrolled meanwhile. */
  t0: Instant;
  y0: number;
  start: Instant;
  finish: Instant;
  row: number;
  /** The lane that is drawn in. */
  lane: string | null;
}

export interface Ghost {
  mode: Mode;
  /** In timeline coordinates (x) and rows. */
  x1: number;
  x2: number;
  row: number;
  /** Middle of the bar in pixels of the timeline. */
  y: number;
  toX: number;
  toY: number;
  tip: string[];
  tipX: number;
  tipY: number;
  /** The activity whose new dates are told, once they are computed. */
  about: string | null;
}

interface Args {
  session: ProjectSession;
  rows: PlanRow[];
  place: Places;
  links: LinksOf;
  lanes: Lanes;
  /** Whether what is drawn in a lane is linked to what ends before it. */
  linkDrawn: boolean;
  scale: Scale;
  heights: RowHeights;
  body: React.RefObject<HTMLDivElement | null>;
  onPick: (id: string, add: boolean) => void;
  onDrawn: (id: string, inLane: boolean) => void;
  /** The answer that is given to every linked bar that is dragged; null: it is asked. */
  answer: DragAnswer | null;
  /** A linked bar was moved: what is meant is asked at that place. */
  onAsk: (question: { id: string; answers: Answer[]; x: number; y: number }) => void;
  /** A link was dropped on no bar: its second end is asked for at that place. */
  onLinkTo: (from: { id: string; fromStart: boolean; x: number; y: number }) => void;
  onPickLink: (id: string) => void;
  /** The picture that scrolls, and moving in time by pixels: for drags that reach its edge. */
  scroller: React.RefObject<HTMLDivElement | null>;
  pan: (pixels: number) => void;
  /** What a drag would do so far, for all that follows to move along; null when it is over. */
  onLive: (outcome: Outcome | null) => void;
}

/** Place of the pointer over the timeline: pixels from its left edge, and the row. */
interface Spot {
  x: number;
  y: number;
  row: number;
}

/** A bar that is dragged to another row, more down or up than sideways, changes its place in the outline. */
const isDrop = (d: Drag, at: Spot, rowHeight: number, x0: number): boolean =>
  (d.mode === 'move' || d.mode === 'drop' || d.mode === 'progress') && at.row !== d.row && Math.abs(at.y - d.y0) > rowHeight * 0.7 && Math.abs(at.y - d.y0) > Math.abs(at.x - x0);

const modes: Partial<Record<Part, Mode>> = { body: 'move', fixed: 'drop', right: 'stretch', left: 'stretchStart', linkStart: 'link', linkFinish: 'link' };

export interface DragWork {
  ghost: Ghost | null;
  /** The bar under the pointer while nothing is dragged. */
  hover: Hover | null;
  onPointerDown: (e: React.PointerEvent) => void;
  onPointerMove: (e: React.PointerEvent) => void;
  onPointerLeave: () => void;
}

interface Result {
  tip: string[];
  x1: number;
  x2: number;
  /** What is done where it is dropped; `outcome`: what would be so far. */
  run?: (e: { clientX: number; clientY: number }) => void;
  outcome?: Outcome;
  about?: string;
}

/** Pixels from an edge of the picture from which a drag scrolls it (a plan begins near the left one), and how far it goes in each frame at most. */
const EDGE = { rows: 28, time: 9 };
const STEP = 14;
/** How fast to scroll where the pointer is `inside` pixels from an edge. */
const pace = (inside: number, edge: number): number => (inside >= edge ? 0 : Math.ceil(Math.min(1, (edge - inside) / edge) * STEP));
/** How near to a bar a link is dropped on it, in pixels. */
const NEAR = 26;

export function useDrag(args: Args): DragWork {
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const [hover, setHover] = useState<Hover | null>(null);
  const drag = useRef<Drag | null>(null);
  const now = useRef(args);
  now.current = args;

  const spotOf = useCallback((e: { clientX: number; clientY: number }): Spot => {
    const box = now.current.body.current?.getBoundingClientRect();
    const x = e.clientX - (box?.left ?? 0);
    const y = e.clientY - (box?.top ?? 0);
    return { x, y, row: now.current.heights.rowAt(y) };
  }, []);

  /** The activity whose bar lies at a spot: of its row, or in a lane the one that is nearest there. */
  const activityAt = (at: Spot): Activity | undefined => {
    const { rows, session, lanes, heights, scale } = now.current;
    const r = rows[at.row];
    if (r?.kind === 'activity') return session.doc.activities.get(r.id);
    const view = session.view;
    if (!view) return undefined;
    const t = tOf(scale, at.x);
    let best: { id: string; gap: number } | undefined;
    for (const id of inStack(r, at.row, at.y, lanes, heights)) {
      const i = placeOf(view, id);
      if (i === undefined) continue;
      const gap = Math.max(view.start[i]! - t, t - view.finish[i]!, 0);
      if (!best || gap < best.gap) best = { id, gap };
    }
    return best && session.doc.activities.get(best.id);
  };

  /** What a drag would result in: the dates or the link, as changes and in words. */
  const result = useCallback((d: Drag, at: Spot): Result => {
    const { session, scale, onDrawn, rows, links } = now.current;
    const doc = session.doc;
    const view = session.view;
    const x0 = xOf(scale, d.t0);
    if (d.mode === 'draw') {
      const below = rows.flatMap((r) => (r.kind === 'draft' ? [] : [{ kind: r.kind, id: r.id }])).pop() ?? null;
      const [from, to] = [d.t0, tOf(scale, at.x)];
      const r = d.lane !== null && view ? drawInLane(doc, view, d.lane, from, to, now.current.linkDrawn, newId) : drawBar(doc, from, to, below, newId);
      return {
        tip: r.tip,
        x1: xOf(scale, r.start),
        x2: xOf(scale, r.finish),
        run: () => {
          if (session.run(r.outcome) && r.outcome.ok && r.outcome.made) onDrawn(r.outcome.made[0]!, d.lane !== null);
        },
      };
    }
    const a = d.id === null ? undefined : doc.activities.get(d.id);
    if (!a || !view) return { tip: [], x1: 0, x2: 0 };
    if (d.mode === 'link') {
      const near = activityAt(at);
      const i = near ? placeOf(view, near.id) : undefined;
      const [left, right] = i === undefined ? [0, 0] : [xOf(scale, view.start[i]!), xOf(scale, view.finish[i]!)];
      // Further from a bar than this is ground.
      const other = near && at.x > left - NEAR && at.x < right + NEAR ? near : undefined;
      const j = other && i;
      if (!other || j === undefined || other.id === a.id)
        return {
          tip: ['Link to ...', 'Drop on the start or the finish of another bar, or anywhere to type which'],
          x1: 0,
          x2: 0,
          run: (e) => now.current.onLinkTo({ id: a.id, fromStart: d.fromStart, x: e.clientX, y: e.clientY }),
        };
      const type = linkTypeAt(view, j, d.fromStart, tOf(scale, at.x));
      const outcome = addLink(doc, { from: a.id, to: other.id, type }, newId);
      return {
        tip: [labelOf(a), `${type} to ${labelOf(other)}`, ...(outcome.ok ? [] : [outcome.problems[0]!.message])],
        x1: 0,
        x2: 0,
        about: other.id,
        outcome: outcome.ok ? outcome : undefined,
        run: () => void session.run(outcome),
      };
    }
    if (isDrop(d, at, now.current.heights.base, x0)) {
      const row = rows[Math.min(Math.max(at.row, 0), rows.length - 1)];
      if (!row || row.kind === 'draft' || row.id === a.id) return { tip: ['Drop on another row'], x1: 0, x2: 0 };
      const inside = row.kind === 'wbs';
      const name = inside ? row.node.name : labelOf(row.activity);
      return {
        tip: [inside ? `Move into ${name}` : `Move before ${name}`, 'dates stay as they are'],
        x1: 0,
        x2: 0,
        run: () => void session.run(dropRows(doc, [{ kind: 'activity', id: a.id }], { kind: row.kind, id: row.id }, inside ? 'inside' : 'before')),
      };
    }
    if (d.mode === 'drop') return { tip: ['It has started: drop it on another row, or change its dates in the sheet'], x1: 0, x2: 0 };
    const shift = (at.x - x0) / scale.ppm;
    const context = { doc, view, into: links.into.get(a.id) ?? [] };
    const answers = d.mode === 'move' ? dragAnswers(context, a, d.start + shift) : [];
    const given = answers.find((x) => x.id === now.current.answer);
    if (answers.length > 0 && !given) {
      const r = moveBar(context, a, d.start + shift);
      const driver = drivingLink(view, context.into);
      const code = driver && doc.activities.get(driver.from)?.code;
      return {
        tip: [...(r?.tip.slice(0, 1) ?? []), `it follows ${code ?? ''}: what is meant is asked`],
        x1: xOf(scale, d.start + shift),
        x2: xOf(scale, d.finish + shift),
        outcome: answers[0]?.outcome,
        run: (e) => now.current.onAsk({ id: a.id, answers, x: e.clientX, y: e.clientY }),
      };
    }
    if (given)
      return {
        tip: [given.title, given.about],
        x1: xOf(scale, d.start + shift),
        x2: xOf(scale, d.finish + shift),
        outcome: given.outcome,
        run: () => void session.run(given.outcome),
      };
    const r: DragResult | undefined =
      d.mode === 'progress'
        ? dragProgress(context, a, tOf(scale, at.x))
        : d.mode === 'move'
          ? moveBar(context, a, d.start + shift)
          : d.mode === 'stretch'
            ? stretchFinish(context, a, Math.round(d.finish + shift))
            : stretchStart(context, a, Math.round(d.start + shift));
    if (!r) return { tip: [], x1: 0, x2: 0 };
    return { tip: r.tip, x1: xOf(scale, r.start), x2: xOf(scale, r.finish), outcome: r.outcome, run: () => void session.run(r.outcome) };
  }, []);

  /** The last place of the pointer: where the picture scrolls under it, it is somewhere else. */
  const last = useRef<PointerEvent | null>(null);
  useEffect(() => {
    const still = (d: Drag, at: Spot): boolean => Math.abs(at.x - xOf(now.current.scale, d.t0)) < 4 && Math.abs(at.y - d.y0) < 4;
    const move = (e: PointerEvent): void => {
      const d = drag.current;
      last.current = e;
      if (!d) return;
      const at = spotOf(e);
      if (!ghost && still(d, at)) return;
      const r = result(d, at);
      const { scale } = now.current;
      const originX = d.mode === 'link' ? xOf(scale, d.fromStart ? d.start : d.finish) : r.x1;
      const mode = isDrop(d, at, now.current.heights.base, xOf(scale, d.t0)) ? 'drop' : d.mode;
      const toRow = Math.min(Math.max(at.row, 0), now.current.rows.length - 1);
      setHover(null);
      now.current.onLive(r.outcome ?? null);
      setGhost({
        mode,
        x1: d.mode === 'link' ? originX : r.x1,
        x2: r.x2,
        row: mode === 'drop' ? toRow : d.row,
        y: (d.id === null ? undefined : middleOf(d.id, now.current.place, now.current.lanes, now.current.heights)) ?? now.current.heights.middle(d.row),
        toX: at.x,
        toY: at.y,
        tip: r.tip,
        tipX: e.clientX,
        tipY: e.clientY,
        about: r.about ?? (d.mode === 'move' || d.mode === 'stretch' || d.mode === 'stretchStart' ? d.id : null),
      });
    };
    const up = (e: PointerEvent): void => {
      const d = drag.current;
      drag.current = null;
      if (!d) return;
      setGhost(null);
      now.current.onLive(null);
      const at = spotOf(e);
      if (still(d, at)) return;
      result(d, at).run?.(e);
    };
    const key = (e: KeyboardEvent): void => {
      if (e.key !== 'Escape' || !drag.current) return;
      e.stopPropagation();
      drag.current = null;
      setGhost(null);
      now.current.onLive(null);
    };
    // Near an edge the picture scrolls along, as long as the pointer stays there.
    let frame = 0;
    const along = (): void => {
      frame = requestAnimationFrame(along);
      const e = last.current;
      const box = now.current.scroller.current?.getBoundingClientRect();
      const left = now.current.body.current?.getBoundingClientRect().left ?? 0;
      if (!drag.current || !e || !box) return;
      const dy = pace(box.bottom - e.clientY, EDGE.rows) - pace(e.clientY - box.top, EDGE.rows);
      const dx = pace(box.right - e.clientX, EDGE.time) - pace(e.clientX - left, EDGE.time);
      if (dx === 0 && dy === 0) return;
      now.current.scroller.current?.scrollBy(0, dy);
      if (dx !== 0) now.current.pan(dx);
      move(e);
    };
    if (ghost) frame = requestAnimationFrame(along);
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    window.addEventListener('keydown', key, true);
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', key, true);
    };
  }, [ghost, result, spotOf]);

  /** The bar at a spot and which part of it lies there. */
  const hoverAt = (at: Spot, e: { clientX: number; clientY: number; altKey: boolean }): Hover | null => {
    const { session, scale, place, lanes, heights } = now.current;
    const view = session.view;
    const a = activityAt(at);
    const i = a && view ? placeOf(view, a.id) : undefined;
    if (!a || !view || i === undefined) return null;
    const x1 = xOf(scale, view.start[i]!);
    const x2 = xOf(scale, view.finish[i]!);
    const part = partAt(a, view.state[i]!, x1, x2, at.x, e.altKey);
    return {
      id: a.id,
      row: at.row,
      y: middleOf(a.id, place, lanes, heights) ?? heights.middle(at.row),
      half: halfOf(a),
      inLane: lanes.laneOf.has(a.id) && !place.has(a.id),
      x1,
      x2,
      x: at.x,
      clientX: e.clientX,
      clientY: e.clientY,
      part,
    };
  };

  const onPointerMove = (e: React.PointerEvent): void => {
    if (drag.current || e.buttons !== 0) return;
    const next = hoverAt(spotOf(e), e);
    setHover((h) => (h && next && h.id === next.id && h.part === next.part && h.x1 === next.x1 && h.x2 === next.x2 ? h : next));
  };

  const onPointerDown = (e: React.PointerEvent): void => {
    if (e.button !== 0) return;
    const at = spotOf(e);
    const { session, onPick, onPickLink, rows } = now.current;
    const under = hoverAt(at, e);
    setHover(null);
    const link = under?.part ? undefined : linkAt(e);
    if (link !== undefined && session.doc.links.has(link)) return onPickLink(link);
    const base = { t0: tOf(now.current.scale, at.x), y0: at.y, row: at.row, fromStart: false, lane: null };
    // Beside a bar of a lane is ground to draw on; a link is drawn from the mark itself, or anywhere there with Alt.
    const row = rows[at.row];
    const lane = row?.kind === 'wbs' && row.lane ? row.id : null;
    const mark = under && markAt(under, at.x, at.y);
    if (!under || (!mark && lane !== null && (under.part === null || (!e.altKey && under.part.startsWith('link'))))) {
      if (row && row.kind !== 'draft') onPick(row.id, e.ctrlKey || e.metaKey);
      if (at.row >= rows.length || lane !== null) drag.current = { ...base, lane, mode: 'draw', id: null, start: 0, finish: 0 };
      return;
    }
    onPick(under.id, e.ctrlKey || e.metaKey || e.shiftKey);
    const view = session.view;
    const i = view ? placeOf(view, under.id) : undefined;
    const part = mark ?? under.part;
    const begun = part === 'fixed' && i !== undefined && view?.state[i] === State.started && session.doc.activities.get(under.id)?.type === 'task';
    const mode = begun ? 'progress' : part && modes[part];
    if (!mode || !view || i === undefined) return;
    drag.current = { ...base, id: under.id, start: view.start[i]!, finish: view.finish[i]!, mode, fromStart: part === 'linkStart' };
  };

  return { ghost, hover, onPointerDown, onPointerMove, onPointerLeave: () => setHover(null) };
}
