/** Stamping: a value is picked once, then applied by clicking or sweeping over rows or bars. One sweep is one change. */
import { useCallback, useEffect, useRef, useState } from 'react';
import { differencesOf } from '@yellowhammer/core/compare/views';
import { finishText, signedDays } from '../app/format';
import { planActions, useAppDispatch, usePlan } from '../app/store';
import { newId, useTopic } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import type { PlanRow } from './rows';
import { isGroupRow } from '@yellowhammer/core/outline/outline';
import { stampOutcome } from '@yellowhammer/core/plan/stamp';

/** Activities of rows of the screen: a heading of groups stands for all in it. */
export const activitiesIn = (rows: readonly PlanRow[], ids: readonly string[]): string[] => {
  const groups = ids.filter(isGroupRow);
  if (groups.length === 0) return [...ids];
  const own = ids.filter((id) => !isGroupRow(id));
  return own.length ? own : rows.flatMap((r) => (r.kind === 'wbs' && r.group && groups.includes(r.id) ? r.group.members : []));
};

interface Args {
  session: ProjectSession;
  rows: PlanRow[];
  heights: RowHeights;
  body: React.RefObject<HTMLDivElement | null>;
}

export interface StampTools {
  /** Capture handlers for the area of sheet and timeline; empty while nothing is stamped. */
  capture: Partial<React.DOMAttributes<HTMLDivElement>>;
  /** What stamping the row under the pointer, or the selected rows, would do. */
  words: string;
  /** Stamps the selected rows. */
  stampSelected: () => void;
}

export function useStamp({ session, rows, heights, body }: Args): StampTools {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const stamp = ui.stamp;
  const anchor = useRef<number | null>(null);
  const [hovered, setHovered] = useState<string | null>(null);
  const [words, setWords] = useState('');
  const rowAt = useCallback(
    (e: { clientY: number }): number => Math.min(rows.length - 1, heights.rowAt(e.clientY - (body.current?.getBoundingClientRect().top ?? 0))),
    [rows.length, heights, body],
  );
  const swept = (to: number): string[] => {
    const from = anchor.current ?? to;
    return rows.slice(Math.min(from, to), Math.max(from, to) + 1).map((r) => r.id);
  };
  const apply = (ids: readonly string[]): void => {
    if (stamp) session.run(stampOutcome(session.doc, activitiesIn(rows, ids), stamp, newId, session.view));
  };
  const target = stamp ? (hovered ?? ui.selected.join(' ')) : '';
  const version = useTopic('view');
  useEffect(() => {
    setWords('');
    if (!stamp || !target) return;
    const outcome = stampOutcome(session.doc, activitiesIn(rows, target.split(' ')), stamp, newId, session.view);
    if (!outcome.ok) return setWords(outcome.problems[0]!.message);
    if (outcome.changes.length === 0) return setWords('has this value already');
    // What moves no date need not be computed.
    if (stamp.key !== 'calendar') return setWords(`would be given to ${outcome.changes.length}`);
    let gone = false;
    // Only where the pointer rests: a preview is a whole computation.
    const timer = setTimeout(() => {
      void session.worker.preview(outcome.changes).then(({ view }) => {
        if (gone || !view || !session.view) return;
        const d = differencesOf(session.doc, session.view, view);
        const one = outcome.changes.length === 1 ? d.moved.find((m) => m.id === outcome.changes[0]!.id) : undefined;
        const first = one
          ? `finish ${finishText(one.from)}, then ${finishText(one.to)} (${signedDays(one.days)})`
          : d.moved.length === 0
            ? 'no date moves'
            : `${d.moved.length} would move`;
        setWords(`${first}; project finish ${d.finishDays === 0 ? 'holds' : signedDays(d.finishDays)}`);
      });
    }, 120);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [stamp, target, session, version, rows]);
  const capture: StampTools['capture'] = stamp
    ? {
        onPointerDownCapture: (e) => {
          const at = rowAt(e);
          if (e.button !== 0 || at < 0 || (e.target as HTMLElement).closest('.twist')) return;
          e.stopPropagation();
          (e.currentTarget.closest('[role=treegrid]') as HTMLElement | null)?.focus({ preventScroll: true });
          anchor.current = at;
          dispatch(planActions.select({ ids: swept(at), active: { row: rows[at]!.id, column: 'name' } }));
        },
        // The rows of the sheet listen to the mouse: while a stamp is held they do not select.
        onMouseDownCapture: (e) => {
          if ((e.target as HTMLElement).closest('.twist')) return;
          e.stopPropagation();
          e.preventDefault();
        },
        onDoubleClickCapture: (e) => e.stopPropagation(),
        onPointerMoveCapture: (e) => {
          const at = rowAt(e);
          const id = rows[at]?.id ?? null;
          if (anchor.current === null) return setHovered(id);
          setHovered(null);
          dispatch(planActions.select({ ids: swept(at), active: { row: rows[Math.max(0, at)]!.id, column: 'name' } }));
        },
        onPointerUpCapture: (e) => {
          if (anchor.current === null) return;
          apply(swept(rowAt(e)));
          anchor.current = null;
        },
        onPointerLeave: () => setHovered(null),
      }
    : {};
  return { capture, words, stampSelected: () => apply(ui.selected) };
}
