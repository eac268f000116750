import { memo, type ReactNode } from 'react';
import type { Document } from '@yellowhammer/core/model/document';
import { longStops } from '@yellowhammer/core/schedule/bars';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import type { CompiledCalendar } from '@yellowhammer/core/time/calendar';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { Bar, Lane, Spine, type TimelineProps } from './Bars';
import { Assigned } from './Assigned';
import { Links } from './Links';
import { Hatchings } from '../see/Legend';
import { endOf, type Scale, tellsShifts, type Tick, ticks, xOf } from './scale';

/** The bars of the rows in view, and the links between them. Moves with the rows, since it lies in the same scroller. */
export const TimelineWindow = memo(function TimelineWindow(p: TimelineProps) {
  const { scale, heights, first, last } = p;
  const top = heights.top(first);
  const height = Math.max(0, heights.top(last + 1) - top);
  const bars: ReactNode[] = [];
  const stops = p.ownStops ? new Map<string, string>() : null;
  for (let i = first; i <= last; i++) {
    const row = p.rows[i];
    if (!row || row.kind === 'draft' || !p.view) continue;
    const y = heights.top(i) - top;
    bars.push(
      <g key={row.id} transform={`translate(0 ${y})`}>
        {stops && row.kind === 'activity' && <path className="tl-texture" d={stopsOf(p.doc, row.activity.calendarId, scale, stops)} transform={`scale(1 ${heights.height(i)})`} />}
        {row.kind === 'activity' ? (
          <>
            {!row.activity.hidden && <Bar id={row.id} {...p} mid={heights.middle(i) - heights.top(i)} />}
            {heights.below(i) > 0 && (
              <Assigned lines={p.assigned.get(row.id)} scale={scale} top={heights.height(i) - heights.below(i)} height={heights.below(i)} as={p.assignments} />
            )}
          </>
        ) : row.lane ? (
          <Lane id={row.id} {...p} height={heights.height(i)} />
        ) : (
          <Spine row={row} {...p} mid={heights.height(i) / 2} />
        )}
      </g>,
    );
  }
  return (
    <svg className={`timeline-window${p.lit ? ' has-lit' : ''}`} width={scale.width} height={height} style={{ top, height }} aria-hidden="true">
      <Hatchings />
      {/* Below the bars, so that the halo of a text that lies across it keeps both readable. */}
      {p.line !== undefined && <rect className="tl-data-date" x={p.line - 1} y={0} width={2} height={height} />}
      {bars}
      {p.showLinks !== 'none' && <Links {...p} />}
    </svg>
  );
});

/** Non-working time of a calendar in view, as spans in pixels: nights and weekends where the zoom has room for them, else long stops. */
function nonWorking(c: CompiledCalendar, scale: Scale): [number, number][] {
  const [from, to] = [Math.floor(scale.from), Math.ceil(endOf(scale))];
  const day = scale.ppm * MINUTES_PER_DAY;
  const out: [number, number][] = [];
  const add = (a: number, b: number): void => void out.push([xOf(scale, a), (b - a) * scale.ppm]);
  if (day < 7) for (const [a, b] of longStops(c, from, to)) add(a, b);
  else {
    let last = from;
    for (const [a, b] of [...c.stretches(from, to), [to, to] as const]) {
      // Nights are shown only where a day has room for them.
      if (a - last >= (day >= 60 ? 60 : MINUTES_PER_DAY)) add(last, a);
      last = b;
    }
  }
  return out;
}

/** Non-working time of a row's own calendar as a shape of height 1; `known`: those of the same drawing. */
function stopsOf(doc: Document, calendarId: string | null, scale: Scale, known: Map<string, string>): string {
  const c = calendarFor(doc, { calendarId });
  if (!c) return '';
  let path = known.get(c.id);
  if (path === undefined)
    known.set(
      c.id,
      (path = nonWorking(c, scale)
        .map(([x, w]) => `M${x} 0h${w}v1h${-w}z`)
        .join('')),
    );
  return path;
}

/** Month lines and non-working texture behind the rows. Fixed while the rows scroll, since it is the same for all. `calendarId` undefined: no texture. */
export const TimelineGround = memo(function TimelineGround({
  doc,
  scale,
  calendarId,
  version,
}: {
  doc: Document;
  scale: Scale;
  calendarId: string | null | undefined;
  version: number;
}) {
  const c = calendarId === undefined ? undefined : calendarFor(doc, { calendarId });
  const shades: ReactNode[] = c && scale.width > 0 ? nonWorking(c, scale).map(([x, width]) => <rect key={x} className="tl-texture" x={x} y={0} width={width} height="100%" />) : [];
  return (
    <svg className="timeline-ground" width={scale.width} height="100%" aria-hidden="true" data-version={version}>
      <defs>
        <pattern id="tl-hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="6" height="6" className="tl-hatch-ground" />
          <rect width="1.6" height="6" className="tl-hatch-line" />
        </pattern>
      </defs>
      {shades}
      {ticks(scale)
        .filter((t) => t.major)
        .map((t) => (
          <rect key={t.t} className="tl-month" x={Math.round(xOf(scale, t.t))} y={0} width={1} height="100%" />
        ))}
    </svg>
  );
});

/** How far a label is moved in from the left edge, so that the present month or day is always named; never into the next. */
function stuck(scale: Scale, t: Tick, next: Tick | undefined): number {
  const x = xOf(scale, t.t);
  if (x >= 0) return 0;
  const room = next ? xOf(scale, next.t) - t.label.length * 8 - 10 : Infinity;
  return Math.min(-x, room - x);
}

/** Month names on ticks, and the data date as a flag above. */
export const Ruler = memo(function Ruler({ scale, dataDate, label, doc }: { scale: Scale; dataDate: number | undefined; label: string; doc?: Document }) {
  const x = dataDate === undefined ? 0 : xOf(scale, dataDate);
  const c = doc && tellsShifts(scale) ? calendarFor(doc, { calendarId: null }) : undefined;
  const all = ticks(
    scale,
    c?.stretches(Math.floor(scale.from), Math.ceil(endOf(scale))).map(([from]) => from),
  );
  const majors = all.filter((t) => t.major);
  const nextOf = new Map(majors.map((t, i) => [t, majors[i + 1]]));
  return (
    <svg className="ruler" width={scale.width} height={36} role="img" aria-label="Time scale">
      {all.map((t) =>
        t.major ? (
          <g key={`m${t.t}`} transform={`translate(${Math.round(xOf(scale, t.t))} 0)`}>
            <rect className="ruler-line" x={0} y={14} width={1} height={22} />
            <text className="ruler-month" x={4 + stuck(scale, t, nextOf.get(t))} y={26}>
              {t.label}
            </text>
          </g>
        ) : (
          <g key={t.t} transform={`translate(${Math.round(xOf(scale, t.t))} 0)`}>
            <rect className="ruler-line" x={0} y={31} width={1} height={5} />
            {t.label && (
              <text className="ruler-day" x={3} y={35}>
                {t.label}
              </text>
            )}
          </g>
        ),
      )}
      {dataDate !== undefined && x > -60 && x < scale.width && (
        <g transform={`translate(${x} 0)`}>
          <rect className="ruler-flag" x={-1} y={0} width={label.length * 6.2 + 10} height={13} />
          <rect className="ruler-flag" x={-1} y={0} width={2} height={36} />
          <text className="ruler-flag-text" x={5} y={10}>
            {label}
          </text>
        </g>
      )}
    </svg>
  );
});
