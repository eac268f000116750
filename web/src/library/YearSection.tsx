import { useRef, useState } from 'react';
import { formatHours } from '@yellowhammer/core/commands/hours';
import type { Interval } from '@yellowhammer/core/model/schema';
import { type CompiledCalendar, minutesOf } from '@yellowhammer/core/time/calendar';
import { civilOf, dayOf, daysInMonth, formatDay, weekdayOf } from '@yellowhammer/core/time/instant';
import { monthNames, showDay, weekdayNames } from '@yellowhammer/core/time/typed-date';

export type Picked = ReadonlySet<number>;

interface Props {
  calendar: CompiledCalendar;
  first: number;
  picked: Picked;
  onPick: (days: Picked) => void;
}

const run = (a: number, b: number): number[] => Array.from({ length: Math.abs(b - a) + 1 }, (_, i) => Math.min(a, b) + i);

/**
 * The year at a glance: working, reduced, no work and extra work, told apart by shape as well as by colour. Days are
 * picked by clicking, dragging over a run, Ctrl for scattered ones; by keyboard with the arrows, Space and Shift.
 */
export function YearSection({ calendar, first, picked, onPick }: Props) {
  const [year, setYear] = useState(civilOf(first).year);
  const [pointed, setPointed] = useState<number | null>(null);
  const anchor = useRef<number | null>(null);
  const base = useRef<Picked>(new Set());
  const dragging = useRef(false);
  const goTo = (day: number): void => {
    const y = Math.min(2199, Math.max(1990, civilOf(day).year));
    setYear(y);
    setPointed(day);
  };
  const words = wordsFor(calendar, pointed);
  const dayAt = (e: React.PointerEvent): number | null => {
    const found = document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>('[data-number]');
    return found ? Number(found.dataset['number']) : null;
  };
  const step: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };
  const onKeyDown = (e: React.KeyboardEvent): void => {
    if (e.key === 'Escape' && picked.size) {
      e.stopPropagation();
      return onPick(new Set());
    }
    if (e.key === ' ' && pointed !== null) {
      e.preventDefault();
      const next = new Set(picked);
      if (!next.delete(pointed)) next.add(pointed);
      anchor.current = pointed;
      return onPick(next);
    }
    if (!step[e.key]) return;
    e.preventDefault();
    const from = pointed ?? (civilOf(first).year === year ? first : dayOf(year, 1, 1));
    const next = pointed === null ? from : from + step[e.key]!;
    if (e.shiftKey) {
      anchor.current ??= from;
      onPick(new Set(run(anchor.current, next)));
    } else anchor.current = next;
    goTo(next);
  };
  const onPointerDown = (e: React.PointerEvent): void => {
    const day = dayAt(e);
    if (day === null || e.button !== 0) return;
    const add = e.ctrlKey || e.metaKey;
    if (e.shiftKey && anchor.current !== null) return onPick(new Set([...(add ? picked : []), ...run(anchor.current, day)]));
    anchor.current = day;
    dragging.current = true;
    base.current = add ? new Set([...picked].filter((d) => d !== day)) : new Set();
    onPick(add && picked.has(day) ? base.current : new Set([...base.current, day]));
  };
  const onPointerMove = (e: React.PointerEvent): void => {
    const day = dayAt(e);
    if (day !== pointed) setPointed(day);
    if (dragging.current && day !== null && anchor.current !== null && e.buttons === 1 && day !== anchor.current) onPick(new Set([...base.current, ...run(anchor.current, day)]));
  };
  return (
    <section aria-label="The year">
      <h3 className="year-head">
        <button type="button" className="plain-button" aria-label="The year before" onClick={() => setYear(Math.max(1990, year - 1))}>
          ‹
        </button>
        {year}
        <button type="button" className="plain-button" aria-label="The year after" onClick={() => setYear(Math.min(2199, year + 1))}>
          ›
        </button>
        <span className="muted year-words" role="status">
          {words}
        </span>
      </h3>
      <div
        className="year"
        tabIndex={0}
        role="group"
        aria-label={`Days of ${year}: arrows walk, Space picks, Shift and arrows pick a run`}
        onKeyDown={onKeyDown}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={() => {
          dragging.current = false;
        }}
        onPointerLeave={() => {
          dragging.current = false;
          setPointed(null);
        }}
      >
        {monthNames.map((name, m) => (
          <div key={name} className="month">
            <div className="serif">{name}</div>
            <div className="month-days">
              {Array.from({ length: weekdayOf(dayOf(year, m + 1, 1)) }, (_, i) => (
                <span key={`b${i}`} />
              ))}
              {Array.from({ length: daysInMonth(year, m + 1) }, (_, i) => {
                const day = dayOf(year, m + 1, i + 1);
                return (
                  <span
                    key={i}
                    className={`month-day ${kindOfDay(calendar, day)}${pointed === day ? ' pointed' : ''}${picked.has(day) ? ' picked' : ''}`}
                    data-day={formatDay(day)}
                    data-number={day}
                  >
                    {i + 1}
                  </span>
                );
              })}
            </div>
          </div>
        ))}
      </div>
      <p className="year-legend muted">
        <span className="month-day work">7</span> working <span className="month-day reduced">7</span> reduced <span className="month-day off">7</span> no work{' '}
        <span className="month-day off exception">7</span> no work by exception <span className="month-day work exception">7</span> other or extra hours
      </p>
    </section>
  );
}

function wordsFor(calendar: CompiledCalendar, day: number | null): string {
  if (day === null) return 'Point at a day to see its hours. Pick days to give them an exception.';
  const e = calendar.exceptionOnDay(day);
  const work = calendar.intervalsOn(day);
  return `${weekdayNames[weekdayOf(day)]} ${showDay(day)}: ${work.length ? formatHours(work.map(([a, b]): Interval => [a, b])) : 'no work'}${e ? ` (${e.name || 'exception'})` : ''}`;
}

function kindOfDay(c: CompiledCalendar, day: number): string {
  const minutes = minutesOf(c.intervalsOn(day).map(([a, b]): Interval => [a, b]));
  const exception = c.exceptionOnDay(day) ? ' exception' : '';
  if (minutes === 0) return `off${exception}`;
  return `${minutes < c.minutesPerDay ? 'reduced' : 'work'}${exception}`;
}
