/** Dragging selected rows in the sheet by their numbers: a line shows between which rows and at which level they will land. */
import { useEffect, useRef, useState } from 'react';
import { moveRowsTo } from '@yellowhammer/core/commands/copy-rows';
import { type RowRef, topmost } from '@yellowhammer/core/commands/outline';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { type Landing, landing } from '@yellowhammer/core/outline/landing';
import { planActions, store } from '../app/store';
import type { ProjectSession } from '../project/session';
import { putInGroup, type Target } from '@yellowhammer/core/view/put-in-group';
import { newId } from '../project/hooks';
import { type PlanRow, refOf, targetAt } from './rows';

export interface RowDrag {
  landing: Landing;
  /** Among groups: the heading that the rows go under. */
  target: Target | null;
  /** Place of the line in pixels of the sheet's body, and what is told beside it. */
  y: number;
  words: string;
}

interface Args {
  session: ProjectSession;
  rows: readonly PlanRow[];
  heights: RowHeights;
  closed: ReadonlySet<string>;
  body: React.RefObject<HTMLElement | null>;
  scroller: React.RefObject<HTMLElement | null>;
  /** Where the names begin, and how far a level is moved in. */
  namesAt: number;
}

const LEVEL = 14;
/** Pixels from an edge at which the sheet scrolls along. */
const EDGE = 28;

export function useRowDrag(args: Args): { drag: RowDrag | null; onPointerDown: (e: React.PointerEvent) => void } {
  const [drag, setDrag] = useState<RowDrag | null>(null);
  const now = useRef(args);
  now.current = args;
  const from = useRef<{ x: number; y: number } | null>(null);
  const stop = useRef<() => void>(() => undefined);
  useEffect(() => () => stop.current(), []);
  const onPointerDown = (e: React.PointerEvent): void => {
    const cell = (e.target as HTMLElement).closest<HTMLElement>('.cell[data-column=code]');
    if (e.button !== 0 || !cell || e.shiftKey || e.ctrlKey || e.metaKey) return;
    from.current = { x: e.clientX, y: e.clientY };
    let latest: RowDrag | null = null;
    const moving = (): RowRef[] => {
      const { session, rows } = now.current;
      const place = new Map(rows.map((r, i) => [r.id, i]));
      const refs = store.getState().plan.selected.flatMap((id) => refOf(rows[place.get(id) ?? -1]) ?? []);
      return topmost(
        session.doc,
        refs.sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0)),
      );
    };
    const move = (m: PointerEvent): void => {
      const start = from.current;
      const box = now.current.body.current?.getBoundingClientRect();
      if (!start || !box || (!latest && Math.abs(m.clientY - start.y) < 5)) return;
      const { rows, heights, closed, session, namesAt, scroller } = now.current;
      const view = scroller.current?.getBoundingClientRect();
      if (scroller.current && view) {
        if (m.clientY > view.bottom - EDGE) scroller.current.scrollTop += 12;
        if (m.clientY < view.top + EDGE) scroller.current.scrollTop -= 12;
      }
      const real = rows.flatMap((r) => (r.kind === 'draft' ? [] : [r]));
      const y = m.clientY - box.top;
      const row = Math.max(0, Math.min(heights.rowAt(y), real.length - 1));
      const gap = y > heights.middle(row) ? row + 1 : row;
      const to = landing(real, gap, Math.round((m.clientX - box.left - namesAt) / LEVEL), closed);
      const n = moving().length;
      const { groups } = store.getState().plan;
      const target = groups.length ? targetAt(rows, Math.max(0, gap - 1), groups) : null;
      if (groups.length) {
        const heading = rows.find((r) => r.kind === 'wbs' && r.group === target?.heading);
        const under = heading?.kind === 'wbs' ? heading.node.name : 'nothing';
        latest = { landing: to, target, y: heights.top(gap), words: `${n} ${n === 1 ? 'row' : 'rows'} under ${under}` };
        setDrag(latest);
        return;
      }
      const name = to.parent === null ? 'the top level' : (session.doc.wbs.get(to.parent)?.name ?? '');
      latest = { landing: to, target: null, y: heights.top(gap), words: `${n} ${n === 1 ? 'row' : 'rows'} into ${name}` };
      setDrag(latest);
    };
    const end = (): void => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', key, true);
      from.current = null;
      setDrag(null);
    };
    const up = (): void => {
      const to = latest?.landing;
      const target = latest?.target ?? null;
      end();
      // A press without a drag on one of several selected rows means that one.
      const own = cell.closest<HTMLElement>('[data-row]')?.dataset['row'];
      if (!to && own && store.getState().plan.selected.length > 1) store.dispatch(planActions.select({ ids: [own], active: { row: own, column: 'code' } }));
      const { session } = now.current;
      if (!to) return;
      if (store.getState().plan.groups.length === 0) session.run(moveRowsTo(session.doc, moving(), to));
      else if (target)
        session.run(
          putInGroup(
            session.doc,
            moving().flatMap((r) => (r.kind === 'activity' ? [r.id] : [])),
            target,
            newId,
            session.view,
          ),
        );
    };
    const key = (k: KeyboardEvent): void => {
      if (k.key !== 'Escape') return;
      k.stopPropagation();
      end();
    };
    stop.current = end;
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    window.addEventListener('keydown', key, true);
  };
  return { drag, onPointerDown };
}
