/** Direct work on the timeline: move and stretch bars, draw links and new bars. Escape cancels. */
import { placeOf } from '@yellowhammer/core/schedule/view';
import { useCallback, useEffect, useRef, useState } from 'react';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { addLink } from '@yellowhammer/core/commands/links';
import { addActivity, dropRows } from '@yellowhammer/core/commands/outline';
import { labelOf } from '@yellowhammer/core/model/document';
import type { Activity, Constraint, LinkType } from '@yellowhammer/core/model/schema';
import { formatInstant, type Instant, MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { durationText, finishText, startText } from '../app/format';
import { newId } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import type { PlanRow } from './rows';
import { type Scale, tOf, xOf } from './scale';
import { calendarFor } from '@yellowhammer/core/schedule/bars';

type Mode = 'move' | 'stretch' | 'link' | 'draw' | 'drop';

interface Drag {
  mode: Mode;
  id: string | null;
  /** Which end a link begins at. */
  fromStart: boolean;
  x0: number;
  y0: number;
  start: Instant;
  finish: Instant;
  row: number;
}

export interface Ghost {
  mode: Mode;
  /** In timeline coordinates (x) and rows. */
  x1: number;
  x2: number;
  row: number;
  toX: number;
  toY: number;
  tip: string[];
  tipX: number;
  tipY: number;
}

interface Args {
  session: ProjectSession;
  rows: PlanRow[];
  scale: Scale;
  rowHeight: number;
  body: React.RefObject<HTMLDivElement | null>;
  onPick: (id: string, add: boolean) => void;
  onDrawn: (id: string) => void;
}

/** Place of the pointer over the timeline: pixels from its left edge, and the row. */
interface Spot {
  x: number;
  y: number;
  row: number;
}

/** A bar that is dragged to another row, more down or up than sideways, changes its place in the outline. */
const isDrop = (d: Drag, at: Spot, rowHeight: number): boolean =>
  (d.mode === 'move' || d.mode === 'drop') && at.row !== d.row && Math.abs(at.y - d.y0) > rowHeight * 0.7 && Math.abs(at.y - d.y0) > Math.abs(at.x - d.x0);

export function useDrag(args: Args): { ghost: Ghost | null; onPointerDown: (e: React.PointerEvent) => void } {
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const drag = useRef<Drag | null>(null);
  const now = useRef(args);
  now.current = args;

  const spotOf = useCallback((e: { clientX: number; clientY: number }): Spot => {
    const box = now.current.body.current?.getBoundingClientRect();
    const x = e.clientX - (box?.left ?? 0);
    const y = e.clientY - (box?.top ?? 0);
    return { x, y, row: Math.floor(y / now.current.rowHeight) };
  }, []);

  const activityAt = (row: number): Activity | undefined => {
    const r = now.current.rows[row];
    return r?.kind === 'activity' ? now.current.session.doc.activities.get(r.id) : undefined;
  };

  /** What a drag would result in: the dates or the link, as changes and in words. */
  const result = useCallback((d: Drag, at: Spot): { tip: string[]; x1: number; x2: number; run?: () => void } => {
    const { session, scale, onDrawn, rows } = now.current;
    const doc = session.doc;
    const view = session.view;
    if (d.mode === 'draw') {
      const from = tOf(scale, Math.min(d.x0, at.x));
      const to = tOf(scale, Math.max(d.x0, at.x));
      const c = calendarFor(doc, { calendarId: null });
      const start = c ? c.beginningOf(Math.floor(from / MINUTES_PER_DAY)) : from;
      const end = c ? Math.max(c.endOf(Math.floor(to / MINUTES_PER_DAY)), start) : to;
      const minutes = c ? Math.max(c.position(end) - c.position(start), c.minutesPerDay) : 480;
      const below = rows.flatMap((r) => (r.kind === 'draft' ? [] : [{ kind: r.kind, id: r.id }])).pop() ?? null;
      return {
        tip: ['New activity', `${startText(start)} to ${finishText(end)}`, durationText(minutes, c?.minutesPerDay ?? 480)],
        x1: xOf(scale, start),
        x2: xOf(scale, end),
        run: () => {
          const outcome = addActivity(doc, below, { duration: minutes, fields: { constraints: [{ kind: 'startNotBefore', date: formatInstant(start).slice(0, 10) }] } }, newId);
          if (session.run(outcome) && outcome.ok && outcome.made) onDrawn(outcome.made[0]);
        },
      };
    }
    const a = d.id === null ? undefined : doc.activities.get(d.id);
    const i = a && view ? placeOf(view, a.id) : undefined;
    if (!a || !view || i === undefined) return { tip: [], x1: 0, x2: 0 };
    const c = calendarFor(doc, a);
    if (!c) return { tip: [], x1: 0, x2: 0 };
    if (d.mode === 'link') {
      const other = activityAt(at.row);
      const j = other ? placeOf(view, other.id) : undefined;
      if (!other || j === undefined || other.id === a.id) return { tip: ['Link to ...', 'Drop on the start or the finish of another bar'], x1: 0, x2: 0 };
      const toFinish =
        Math.abs(at.x - xOf(scale, view.finish[j])) < Math.abs(at.x - xOf(scale, view.start[j])) &&
        at.x > (xOf(scale, view.start[j]) + xOf(scale, view.finish[j])) / 2 &&
        view.finish[j] > view.start[j];
      const type = `${d.fromStart ? 'S' : 'F'}${toFinish ? 'F' : 'S'}` as LinkType;
      return { tip: [`${labelOf(a)}`, `${type} to ${labelOf(other)}`], x1: 0, x2: 0, run: () => void session.run(addLink(doc, { from: a.id, to: other.id, type }, newId)) };
    }
    if (isDrop(d, at, now.current.rowHeight)) {
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
    if (d.mode === 'drop') return { tip: ['Drop on another row'], x1: 0, x2: 0 };
    const shift = (at.x - d.x0) / scale.ppm;
    if (d.mode === 'move') {
      const start = c.beginningOf(Math.floor((d.start + shift) / MINUTES_PER_DAY));
      const finish = a.duration === 0 ? start : c.finishInstant(c.position(start) + a.duration);
      const constraint: Constraint = { kind: 'startNotBefore', date: formatInstant(start).slice(0, 10) };
      return {
        tip: [`${startText(start)} to ${finishText(finish)}`, 'start not before that day'],
        x1: xOf(scale, start),
        x2: xOf(scale, finish),
        run: () =>
          void session.run(setActivities(doc, [a.id], { constraints: [...a.constraints.filter((x) => x.kind === 'asLateAsPossible' || x.kind.endsWith('NotAfter')), constraint] })),
      };
    }
    const begin = view.aheadFrom[i] > d.start ? view.aheadFrom[i] : d.start;
    const to = Math.max(d.finish + shift, begin);
    const finish = c.endOf(Math.floor((to - 1) / MINUTES_PER_DAY));
    const minutes = Math.max(c.position(finish) - c.position(begin), Math.round(c.minutesPerDay / 2));
    const running = view.state[i] === 1;
    const extra = running ? minutes - (a.remaining ?? a.duration) : 0;
    return {
      tip: [`${running ? 'Remaining' : 'Duration'} ${durationText(minutes, c.minutesPerDay)}`, `finish ${finishText(c.finishInstant(c.position(begin) + minutes))}`],
      x1: xOf(scale, d.start),
      x2: xOf(scale, finish),
      run: () => void session.run(setActivities(doc, [a.id], running ? { remaining: minutes, duration: Math.max(0, a.duration + extra) } : { duration: minutes })),
    };
  }, []);

  useEffect(() => {
    const move = (e: PointerEvent): void => {
      const d = drag.current;
      if (!d) return;
      const at = spotOf(e);
      if (!ghost && Math.abs(at.x - d.x0) < 4 && Math.abs(at.y - d.y0) < 4) return;
      const r = result(d, at);
      const { scale } = now.current;
      const originX = d.mode === 'link' ? xOf(scale, d.fromStart ? d.start : d.finish) : r.x1;
      const mode = isDrop(d, at, now.current.rowHeight) ? 'drop' : d.mode;
      const toRow = Math.min(Math.max(at.row, 0), now.current.rows.length - 1);
      setGhost({
        mode,
        x1: d.mode === 'link' ? originX : r.x1,
        x2: r.x2,
        row: mode === 'drop' ? toRow : d.row,
        toX: at.x,
        toY: at.y,
        tip: r.tip,
        tipX: e.clientX,
        tipY: e.clientY,
      });
    };
    const up = (e: PointerEvent): void => {
      const d = drag.current;
      drag.current = null;
      if (!d) return;
      setGhost(null);
      const at = spotOf(e);
      if (Math.abs(at.x - d.x0) < 4 && Math.abs(at.y - d.y0) < 4) return;
      result(d, at).run?.();
    };
    const key = (e: KeyboardEvent): void => {
      if (e.key !== 'Escape' || !drag.current) return;
      e.stopPropagation();
      drag.current = null;
      setGhost(null);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    window.addEventListener('keydown', key, true);
    return () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', key, true);
    };
  }, [ghost, result, spotOf]);

  const onPointerDown = (e: React.PointerEvent): void => {
    if (e.button !== 0) return;
    const at = spotOf(e);
    const { session, scale, onPick, rows } = now.current;
    const view = session.view;
    const a = activityAt(at.row);
    const i = a && view ? placeOf(view, a.id) : undefined;
    const base = { x0: at.x, y0: at.y, row: at.row, fromStart: false };
    if (!a || !view || i === undefined) {
      const row = rows[at.row];
      if (row && row.kind !== 'draft') onPick(row.id, e.ctrlKey || e.metaKey);
      if (at.row >= rows.length) drag.current = { ...base, mode: 'draw', id: null, start: 0, finish: 0 };
      return;
    }
    onPick(a.id, e.ctrlKey || e.metaKey || e.shiftKey);
    const x1 = xOf(scale, view.start[i]);
    const x2 = xOf(scale, view.finish[i]);
    const span = { id: a.id, start: view.start[i], finish: view.finish[i] };
    if (e.altKey || (at.x > x2 + 1 && at.x <= x2 + 9) || (at.x < x1 - 1 && at.x >= x1 - 9)) {
      drag.current = { ...base, ...span, mode: 'link', fromStart: at.x < x1 };
    } else if (at.x >= x1 - 1 && at.x <= x2 + 1) {
      const stretchable = a.type === 'task' && view.state[i] !== 2 && x2 - at.x <= Math.min(6, (x2 - x1) / 3);
      if (stretchable) drag.current = { ...base, ...span, mode: 'stretch' };
      else if (view.state[i] === 0 && (a.type === 'task' || a.type.endsWith('Milestone'))) drag.current = { ...base, ...span, mode: 'move' };
      else drag.current = { ...base, ...span, mode: 'drop' };
    }
  };

  return { ghost, onPointerDown };
}
