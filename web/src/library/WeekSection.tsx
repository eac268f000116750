import { useRef, useState } from 'react';
import { formatHours, paintHours, parseHours } from '@yellowhammer/core/commands/hours';
import type { Calendar, Interval } from '@yellowhammer/core/model/schema';
import { type CompiledCalendar, minutesOf } from '@yellowhammer/core/time/calendar';
import { MINUTES_PER_DAY, formatMinute } from '@yellowhammer/core/time/instant';
import { CommitField } from '../app/CommitField';
import { tenth } from '@yellowhammer/core/time/tenths';

const longDays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const HOURS = 36;
const PIXELS_PER_HOUR = 10;
const ROW = 31;
const STEP = 30;

interface Props {
  row: Calendar;
  week: readonly (readonly Interval[])[];
  parent: string | undefined;
  compiled: CompiledCalendar | undefined;
  set: (fields: Partial<Calendar>) => boolean;
}

/** Weekly hours: typed beside each day, or painted on its line. */
export function WeekSection({ row, week, parent, compiled, set }: Props) {
  const change = (days: readonly number[], f: (work: readonly Interval[]) => Interval[]): boolean =>
    set({ week: week.map((work, i) => (days.includes(i) ? f(work) : work.map(([a, b]): Interval => [a, b]))) });
  return (
    <section aria-label="Week">
      <h3>
        Week {row.week === null && <span className="muted">inherited from {parent ?? 'nothing'}</span>}
        {row.week !== null && parent && <span className="muted">its own, not that of {parent}</span>}
      </h3>
      <div className="week">
        <div className="week-days">
          {longDays.map((name, d) => (
            <div key={name} className="week-day">
              <label htmlFor={`day-${d}`}>{name}</label>
              <CommitField
                id={`day-${d}`}
                size="xs"
                aria-label={`Hours on ${name}`}
                placeholder="no work"
                value={formatHours(week[d]!.map(([a, b]): Interval => [a, b]))}
                onCommit={(typed) => {
                  const hours = parseHours(typed);
                  if (!hours) return 'Type hours as 08:00-12:00, 13:00-17:00; a night as 20:00-04:00; leave it empty for no work.';
                  change([d], () => hours);
                  return null;
                }}
              />
              <span className="muted right">{minutesOf(week[d]!) ? `${tenth(minutesOf(week[d]!) / 60)} h` : 'no work'}</span>
            </div>
          ))}
        </div>
        <WeekPaint week={week} onPaint={(days, from, to, on) => change(days, (work) => paintHours(work, from, to, on))} />
      </div>
      <p className="muted week-hint">
        Drag over the lines to paint working time, or from working time to rub it out. Alt: steps of five minutes.
        {compiled && ` A day counts ${Math.round((compiled.minutesPerDay / 60) * 100) / 100} hours and a week ${compiled.daysPerWeek} days when durations are typed.`}
      </p>
      {row.week !== null && parent && (
        <button type="button" className="link-button" onClick={() => set({ week: null })}>
          Take the week of {parent} again
        </button>
      )}
    </section>
  );
}

interface Stroke {
  day: number;
  to: number;
  from: number;
  at: number;
  on: boolean;
}

/** Seven lines of 36 hours that can be painted with the pointer. */
function WeekPaint({ week, onPaint }: { week: Props['week']; onPaint: (days: number[], from: number, to: number, on: boolean) => void }) {
  const svg = useRef<SVGSVGElement>(null);
  const [stroke, setStroke] = useState<Stroke | null>(null);
  const x = (m: number): number => (m / 60) * PIXELS_PER_HOUR + 0.5;
  const place = (e: React.PointerEvent, step: number): { day: number; minute: number } => {
    const box = svg.current?.getBoundingClientRect();
    const day = Math.floor((e.clientY - (box?.top ?? 0) - 16) / ROW);
    const minute = Math.round(((e.clientX - (box?.left ?? 0)) / PIXELS_PER_HOUR) * (60 / step)) * step;
    return { day: Math.min(6, Math.max(0, day)), minute: Math.min(HOURS * 60, Math.max(0, minute)) };
  };
  const days = (s: Stroke): number[] => longDays.map((_, i) => i).filter((i) => i >= Math.min(s.day, s.to) && i <= Math.max(s.day, s.to));
  const [from, to] = stroke ? [Math.min(stroke.from, stroke.at), Math.max(stroke.from, stroke.at)] : [0, 0];
  return (
    <svg
      ref={svg}
      className="week-paint"
      width={HOURS * PIXELS_PER_HOUR + 1}
      height={16 + 7 * ROW}
      role="img"
      aria-label="Hours of the week; they can also be typed beside it"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        const { day, minute } = place(e, e.altKey ? 5 : STEP);
        const under = place(e, 1).minute;
        const on = !week[day]!.some(([a, b]) => under >= a && under < b);
        svg.current?.setPointerCapture(e.pointerId);
        setStroke({ day, to: day, from: minute, at: minute, on });
      }}
      onPointerMove={(e) => {
        if (!stroke) return;
        const { day, minute } = place(e, e.altKey ? 5 : STEP);
        setStroke({ ...stroke, to: day, at: minute });
      }}
      onPointerUp={() => {
        if (stroke && from !== to) onPaint(days(stroke), from, to, stroke.on);
        setStroke(null);
      }}
      onPointerCancel={() => setStroke(null)}
    >
      {[0, 6, 12, 18, 24, 30, 36].map((h) => (
        <g key={h}>
          <text x={x(h * 60)} y={10} textAnchor={h === 0 ? 'start' : h === 36 ? 'end' : 'middle'} className="week-clock">
            {h % 24}
          </text>
          <path d={`M${x(h * 60)} 14V${16 + 7 * ROW}`} stroke="var(--hairline)" strokeDasharray={h > 24 ? '2 3' : undefined} />
        </g>
      ))}
      {week.map((work, d) => (
        <g key={d} transform={`translate(0 ${16 + d * ROW})`}>
          <path d={`M0 ${ROW - 5.5}H${x(MINUTES_PER_DAY)}`} stroke="var(--hairline)" />
          {work.map(([a, b]) => (
            <rect key={a} x={x(a)} y={6} width={x(b) - x(a)} height={ROW - 12} rx={2} fill="var(--slate)" />
          ))}
          {stroke && days(stroke).includes(d) && (
            <rect x={x(from)} y={3} width={Math.max(1, x(to) - x(from))} height={ROW - 6} rx={2} className={stroke.on ? 'week-stroke' : 'week-stroke off'} />
          )}
        </g>
      ))}
      {stroke && (
        <text x={Math.min(x(to) + 4, HOURS * PIXELS_PER_HOUR - 74)} y={16 + stroke.to * ROW - 2 + (stroke.to === 0 ? ROW : 0)} className="week-clock strong">
          {formatMinute(from % MINUTES_PER_DAY)}-{formatMinute(to > MINUTES_PER_DAY ? to - MINUTES_PER_DAY : to)}
        </text>
      )}
    </svg>
  );
}
