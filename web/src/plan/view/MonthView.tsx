/** The plan on the days of a month, or on whole weeks. Moving a bar asks the same as on the timeline. */
import { useElementSize } from '@mantine/hooks';
import { useEffect, useMemo, useRef, useState } from 'react';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import { projectOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { moveBar } from '@yellowhammer/core/plan/drag';
import { dragAnswers } from '@yellowhammer/core/plan/drag-answers';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { placeOf } from '@yellowhammer/core/schedule/view';
import { civilOf, type Day, MINUTES_PER_DAY, weekdayOf } from '@yellowhammer/core/time/instant';
import { monthNames, showDay, weekdayNames } from '@yellowhammer/core/time/typed-date';
import type { Paint } from '@yellowhammer/core/view/looks';
import { daysOf, layWeeks, monthOn, weeksOfMonth } from '@yellowhammer/core/view/month';
import { BAR, planActions, useAppDispatch, usePlan } from '../../app/store';
import { useSession } from '../../project/hooks';
import type { CellContext } from '../columns';
import type { Asked } from '../DragQuestion';
import type { PlanRow } from '../rows';
import { PointSign } from './PointSign';
import { statusDay } from '@yellowhammer/core/model/status-day';

interface Props {
  rows: readonly PlanRow[];
  context: CellContext;
  stamp: string;
  paint: (a: Activity) => Paint;
  onAsk: (asked: Asked) => void;
  onKeyDown: (e: React.KeyboardEvent) => void;
  onMenu: (e: React.MouseEvent, id: string) => void;
}

const LINE = 19;
const HEAD = 20;
/** Weeks that are shown at once where whole weeks are chosen. */
const WEEKS = 8;

export function MonthView({ rows, context, stamp, paint, onAsk, onKeyDown, onMenu }: Props) {
  const session = useSession();
  const { doc, view } = context;
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const { ref, width } = useElementSize();
  const frame = useRef<HTMLDivElement | null>(null);
  const project = projectOf(doc);
  const dataDay = statusDay(doc);
  const [day, setDay] = useState<Day>(dataDay);
  const [drag, setDrag] = useState<{ id: string; days: number } | null>(null);
  const list = useMemo(() => {
    const ids = new Set(rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : r.kind === 'wbs' && r.group ? r.group.members : [])));
    return [...ids].flatMap((id) => {
      const a = doc.activities.get(id);
      const days = view ? daysOf(view, id) : undefined;
      return a && days && !a.hidden && a.type !== 'levelOfEffort' && (!ui.onlyMilestones || isMilestone(a)) ? [{ id, ...days }] : [];
    });
    // The stamp says when dates have changed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [rows, doc, view, stamp, ui.onlyMilestones]);
  const byWeeks = ui.monthBy === 'weeks';
  const monday = day - weekdayOf(day);
  const mondays = useMemo(() => (byWeeks ? Array.from({ length: WEEKS }, (_, i) => monday + i * 7) : weeksOfMonth(day)), [byWeeks, monday, day]);
  const weeks = useMemo(() => layWeeks(mondays, list), [mondays, list]);
  const c = civilOf(day);
  const calendar = calendarFor(doc, { calendarId: null });
  const cell = Math.max(40, (width - 54) / 7);
  const page = (by: 1 | -1): void => setDay(byWeeks ? day + by * 7 * WEEKS : monthOn(day, by));
  // The keyboard is here as soon as it is shown.
  useEffect(() => frame.current?.focus({ preventScroll: true }), []);
  const select = (id: string, add: boolean): void =>
    void dispatch(
      planActions.select({ ids: add ? (ui.selected.includes(id) ? ui.selected.filter((x) => x !== id) : [...ui.selected, id]) : [id], active: { row: id, column: BAR } }),
    );
  /** Moves an activity by days: what a linked one means is asked, as on the timeline. */
  const move = (id: string, days: number, at: { x: number; y: number }): void => {
    const a = doc.activities.get(id);
    const i = view ? placeOf(view, id) : undefined;
    if (!a || !view || i === undefined || days === 0) return;
    const dragged = { doc, view, into: indexOf(doc).into.get(id) ?? [] };
    const wish = view.start[i]! + days * MINUTES_PER_DAY;
    const answers = dragAnswers(dragged, a, wish);
    const given = answers.find((x) => x.id === ui.dragAnswer);
    if (given) session.run(given.outcome);
    else if (answers.length > 0) onAsk({ id, answers, ...at });
    else {
      const result = moveBar(dragged, a, wish);
      if (result) session.run(result.outcome);
      else
        session.onNotice({
          tone: 'problem',
          title: 'It cannot be moved here',
          text: `${a.code} ${a.name} has started, or follows the work around it. Change its dates in the sheet.`,
        });
    }
  };
  const press = (e: React.PointerEvent, id: string): void => {
    if (e.button !== 0) return;
    frame.current?.focus({ preventScroll: true });
    select(id, e.ctrlKey || e.metaKey || e.shiftKey);
    const [x0, y0] = [e.clientX, e.clientY];
    const weekHeights = [...(frame.current?.querySelectorAll<HTMLElement>('.month-week') ?? [])].map((w) => w.getBoundingClientRect());
    const weekAt = (y: number): number =>
      Math.max(
        0,
        Math.min(
          weekHeights.length - 1,
          weekHeights.findIndex((r) => y < r.bottom),
        ),
      );
    const daysAt = (m: PointerEvent): number => Math.round((m.clientX - x0) / cell) + (weekAt(m.clientY) - weekAt(y0)) * 7;
    const onMove = (m: PointerEvent): void => {
      if (Math.abs(m.clientX - x0) + Math.abs(m.clientY - y0) > 6) setDrag({ id, days: daysAt(m) });
    };
    const end = (): void => {
      window.removeEventListener('pointermove', onMove);
      window.removeEventListener('pointerup', up);
      window.removeEventListener('keydown', stop, true);
      setDrag(null);
    };
    const up = (m: PointerEvent): void => {
      end();
      if (Math.abs(m.clientX - x0) + Math.abs(m.clientY - y0) > 6) move(id, daysAt(m), { x: m.clientX, y: m.clientY });
    };
    const stop = (k: KeyboardEvent): void => {
      if (k.key === 'Escape') end();
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('pointerup', up);
    window.addEventListener('keydown', stop, true);
  };
  const key = (e: React.KeyboardEvent): void => {
    const active = ui.active?.row ?? '';
    if (e.key === 'PageDown' || e.key === 'PageUp') {
      e.preventDefault();
      return page(e.key === 'PageDown' ? 1 : -1);
    }
    if (e.key.startsWith('Arrow') && !e.ctrlKey && list.length > 0) {
      e.preventDefault();
      // With Alt the activity goes by a day or a week; without, the cursor goes to the next bar in time.
      const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 }[e.key] ?? 0;
      const box = frame.current?.querySelector(`[data-activity="${CSS.escape(active)}"]`)?.getBoundingClientRect();
      if (e.altKey) return move(active, step, { x: box?.left ?? 300, y: box?.bottom ?? 300 });
      const ordered = [...list].sort((a, b) => a.from - b.from || b.to - a.to);
      const at = ordered.findIndex((x) => x.id === active);
      const next = ordered[Math.max(0, Math.min(ordered.length - 1, at < 0 ? 0 : at + (step > 0 ? 1 : -1)))]!;
      select(next.id, e.shiftKey);
      if (next.to < mondays[0]! || next.from > mondays[mondays.length - 1]! + 6) setDay(next.from);
      return;
    }
    onKeyDown(e);
  };
  const lines = Math.max(3, ...weeks.map((w) => w.lines));
  return (
    <div className="month-plan">
      <div className="network-bar">
        <button type="button" className="chip" onClick={() => page(-1)}>
          Earlier
        </button>
        <b className="serif month-title">{byWeeks ? `${showDay(monday)} to ${showDay(monday + WEEKS * 7 - 1)}` : `${monthNames[c.month - 1]!} ${c.year}`}</b>
        <button type="button" className="chip" onClick={() => page(1)}>
          Later
        </button>
        <button type="button" className="chip" onClick={() => setDay(dataDay)}>
          Data date
        </button>
        {(['days', 'weeks'] as const).map((x) => (
          <button
            key={x}
            type="button"
            className={`chip${ui.monthBy === x ? ' on' : ''}`}
            aria-pressed={ui.monthBy === x}
            onClick={() => dispatch(planActions.set({ monthBy: x }))}
          >
            {x === 'days' ? 'A month' : `${WEEKS} weeks`}
          </button>
        ))}
        <label>
          <input type="checkbox" checked={ui.onlyMilestones} onChange={(e) => dispatch(planActions.set({ onlyMilestones: e.target.checked }))} /> Milestones only
        </label>
        <span className="muted network-state">Drag a bar to another day; with Alt the arrow keys move it</span>
      </div>
      <div
        ref={(el) => {
          frame.current = el;
          ref(el);
        }}
        className="month-frame"
        tabIndex={0}
        role="application"
        aria-label="Activities by day. Arrow keys go from bar to bar, with Alt they move it."
        onKeyDown={key}
      >
        <div className="month-week head">
          <span className="month-number" />
          {weekdayNames.map((d) => (
            <span key={d} className="month-weekday">
              {d}
            </span>
          ))}
        </div>
        {weeks.map((w) => (
          <div key={w.monday} className="month-week" style={{ minHeight: HEAD + Math.min(lines, Math.max(3, w.lines)) * LINE + 6 }}>
            <span className="month-number muted">{showDay(w.monday).replace(/ \d\d$/, '')}</span>
            {Array.from({ length: 7 }, (_, i) => {
              const d = w.monday + i;
              const other = !byWeeks && civilOf(d).month !== c.month;
              const rest = calendar !== undefined && calendar.intervalsOn(d).length === 0;
              return (
                <span key={i} className={`plan-day${other ? ' other' : ''}${rest ? ' rest' : ''}${d === dataDay && project.dataDate ? ' data-date' : ''}`}>
                  {civilOf(d).day}
                  {civilOf(d).day === 1 && ` ${monthNames[civilOf(d).month - 1]!}`}
                </span>
              );
            })}
            <div className="month-bars">
              {w.bars.map((b) => {
                const a = doc.activities.get(b.id);
                if (!a) return null;
                const p = paint(a);
                const i = view ? placeOf(view, b.id) : undefined;
                const critical = view !== null && i !== undefined && view.critical[i] === 1;
                const done = view !== null && i !== undefined && view.state[i] === 2;
                const point = isMilestone(a);
                return (
                  <button
                    key={b.id}
                    type="button"
                    tabIndex={-1}
                    className={`month-bar${point ? ' point' : ''}${critical ? ' critical' : ''}${done ? ' done' : ''}${ui.selected.includes(b.id) ? ' selected' : ''}${b.before ? ' before' : ''}${b.after ? ' after' : ''}`}
                    style={{
                      left: `${(b.from / 7) * 100}%`,
                      width: `calc(${((b.to - b.from + 1) / 7) * 100}% - 3px)`,
                      top: HEAD + b.line * LINE,
                      ...(p.colour && !point ? { background: p.colour, color: '#fff' } : {}),
                      ...(drag?.id === b.id ? { transform: `translateX(${(drag.days % 7) * cell}px)`, opacity: 0.6 } : {}),
                    }}
                    title={`${a.code} ${a.name}`}
                    data-activity={b.id}
                    onPointerDown={(e) => press(e, b.id)}
                    onContextMenu={(e) => onMenu(e, b.id)}
                  >
                    {point ? <PointSign doc={doc} a={a} /> : ''}
                    {a.name || a.code}
                  </button>
                );
              })}
            </div>
          </div>
        ))}
        {drag && (
          <div className="month-tip" role="status">
            {drag.days === 0 ? 'where it is' : `${Math.abs(drag.days)} ${Math.abs(drag.days) === 1 ? 'day' : 'days'} ${drag.days < 0 ? 'earlier' : 'later'}`}
          </div>
        )}
      </div>
    </div>
  );
}
