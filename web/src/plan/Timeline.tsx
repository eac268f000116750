import { memo, type ReactNode } from 'react';
import type { Document } from '@yellowhammer/core/model/document';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf, linkState, type BaselineView, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { tenths } from '../app/format';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import { type Lanes, type LinksOf, middleOf, type PlanRow } from './rows';
import { stackMiddle } from '@yellowhammer/core/outline/lane';
import type { Chain } from '@yellowhammer/core/plan/trace';
import { type BarShape, barOf, longStops } from '@yellowhammer/core/schedule/bars';
import { linkPath } from './shapes';
import { endOf, type Scale, type Tick, ticks, xOf } from './scale';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';

export interface TimelineProps {
  doc: Document;
  view: ScheduleView | null;
  viewVersion: number;
  baseline: BaselineView | null;
  rows: PlanRow[];
  place: Map<string, number>;
  links: LinksOf;
  lanes: Lanes;
  first: number;
  last: number;
  scale: Scale;
  heights: RowHeights;
  selected: ReadonlySet<string>;
  /** The chain of what is pointed at, both ways; null: nothing is. */
  lit: Chain | null;
  showLinks: 'all' | 'driving' | 'none';
  showFloat: boolean;
}

const diamond = (x: number, y: number, r: number): string => `M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}L${x - r} ${y}Z`;
const visible = (s: Scale, a: number, b: number): boolean => xOf(s, b) > -300 && xOf(s, a) < s.width + 60;
/** Widths in the drawing stay sane however far away an end lies. */
const clip = (s: Scale, x: number): number => Math.max(-2000, Math.min(x, s.width + 2000));

/** The bars of the rows in view, and the links between them. Moves with the rows, since it lies in the same scroller. */
export const TimelineWindow = memo(function TimelineWindow(p: TimelineProps) {
  const { scale, heights, first, last } = p;
  const top = heights.top(first);
  const height = Math.max(0, heights.top(last + 1) - top);
  const bars: ReactNode[] = [];
  const dataDate = p.view?.summary.dataDate ? parseInstant(p.view.summary.dataDate) : undefined;
  for (let i = first; i <= last; i++) {
    const row = p.rows[i];
    if (!row || row.kind === 'draft' || !p.view) continue;
    const y = heights.top(i) - top;
    bars.push(
      <g key={row.id} transform={`translate(0 ${y})`}>
        {row.kind === 'activity' ? (
          !row.activity.hidden && <Bar id={row.id} {...p} mid={heights.height(i) / 2} />
        ) : row.lane ? (
          <Lane id={row.id} {...p} height={heights.height(i)} />
        ) : (
          <Spine id={row.id} {...p} mid={heights.height(i) / 2} />
        )}
      </g>,
    );
  }
  return (
    <svg className={`timeline-window${p.lit ? ' has-lit' : ''}`} width={scale.width} height={height} style={{ top, height }} aria-hidden="true">
      {bars}
      {p.showLinks !== 'none' && <Links {...p} />}
      {dataDate !== undefined && <rect className="tl-data-date" x={xOf(scale, dataDate) - 1} y={0} width={2} height={height} />}
    </svg>
  );
});

function Spine({ id, view, baseline, scale, mid: y }: TimelineProps & { id: string; mid: number }) {
  const r = view?.rollups.get(id);
  if (!r || r.start === NONE || !visible(scale, r.start, r.finish)) return null;
  const x1 = clip(scale, xOf(scale, r.start));
  const x2 = clip(scale, xOf(scale, r.finish));
  const b = baseline?.nodes.get(id);
  return (
    <g className={r.critical ? 'tl-spine tl-spine-critical' : 'tl-spine'} data-node={id}>
      {b && <path className="tl-baseline-spine" d={`M${clip(scale, xOf(scale, b.start))} ${y + 5}H${clip(scale, xOf(scale, b.finish))}`} />}
      <path d={`M${x1} ${y}H${x2}`} />
      <circle cx={x1} cy={y} r={2.4} />
      <circle cx={x2} cy={y} r={2.4} />
    </g>
  );
}

/** The activities of a closed lane side by side; those that overlap in thinner bars, one above the other. */
function Lane(p: TimelineProps & { id: string; height: number }) {
  const pack = p.lanes.packs.get(p.id);
  if (!pack) return null;
  return (
    <g data-node={p.id}>
      {[...pack.stackOf].map(([id, stack]) => (
        <Bar key={id} {...p} id={id} mid={p.height * stackMiddle(stack, pack.stacks)} inLane={pack.stacks} />
      ))}
    </g>
  );
}

/** `inLane`: how many stacks the lane has that it is drawn in; names then stand on bars that have room for them, nowhere else. */
function Bar(p: TimelineProps & { id: string; mid: number; inLane?: number }) {
  const { id, scale, view, baseline, mid, inLane } = p;
  const a = p.doc.activities.get(id);
  const bar = a && view ? barOf(p.doc, view, a) : undefined;
  if (!a || !bar) return null;
  const b = inLane ? undefined : baseline?.dates.get(id);
  const half = inLane && inLane > 1 ? 4.5 : 5.5;
  if (!visible(scale, Math.min(bar.start, b?.start ?? bar.start), Math.max(bar.finish, b?.finish ?? 0, bar.floatTo))) return null;
  const dateX = (t: number): number => clip(scale, xOf(scale, t));
  const milestone = isMilestone(a);
  const name = a.name || a.code;
  const deadline = view ? view.deadline[placeOf(view, a.id) as number]! : NONE;
  const late = deadline !== NONE && bar.finish > deadline;
  return (
    <g
      className={`tl-bar${bar.critical ? ' critical' : bar.near ? ' near' : ''}${p.selected.has(a.id) ? ' selected' : ''}${p.lit?.activities.has(a.id) ? ' lit' : ''}`}
      data-activity={a.id}
    >
      {b && <Bracket x1={dateX(b.start)} x2={dateX(b.finish)} y={mid + 7} point={milestone} />}
      {p.showFloat && !inLane && bar.floatTo !== NONE && bar.floatTo > bar.finish && a.type !== 'margin' && (
        <path className="tl-float" d={`M${dateX(bar.finish) + 2} ${mid}H${dateX(bar.floatTo)}`} />
      )}
      {milestone ? (
        <>
          <path className={`tl-milestone${bar.state === 2 ? ' done' : ''}`} d={diamond(dateX(bar.finish), mid, 6)} data-part="body" />
          {!inLane && (
            <text className="tl-label strong" x={dateX(bar.finish) + 11} y={mid + 4}>
              {name}
            </text>
          )}
        </>
      ) : a.type === 'levelOfEffort' ? (
        <Effort bar={bar} x={dateX} mid={mid} dataDate={view?.summary.dataDate ?? null} />
      ) : a.type === 'margin' ? (
        <Margin bar={bar} x={dateX} mid={mid} perDay={view?.minutesPerDay[placeOf(view, a.id) as number] ?? 480} />
      ) : (
        <Work bar={bar} x={dateX} mid={mid} name={name} half={half} onlyInside={inLane !== undefined} colour={a.colour} />
      )}
      {deadline !== NONE && <path className={`tl-deadline${late ? ' late' : ''}`} d={`M${dateX(deadline)} ${mid + 7}V${mid - 9}l8 3.5l-8 3.5`} />}
    </g>
  );
}

interface WorkProps {
  bar: BarShape;
  x: (t: number) => number;
  mid: number;
  name: string;
  /** Half the height of the bar. */
  half: number;
  /** The name stands on the bar or nowhere. */
  onlyInside: boolean;
  /** A colour of its own for what is ahead. */
  colour: string | null;
}

function Work({ bar, x, mid, name, half, onlyInside, colour }: WorkProps) {
  const x1 = x(bar.start);
  const x2 = Math.max(x(bar.finish), x1 + 2);
  // The name stands inside where its first stretch, done or ahead, has room for it.
  const first = bar.pieces[0];
  const inside = first !== undefined && x(first.to) - x1 > name.length * 6.4 + 14;
  return (
    <>
      {bar.pieces.length > 1 && <path className="tl-stop" d={`M${x1} ${mid}H${x2}`} />}
      {bar.pieces.map((piece, n) => {
        const a = x(piece.from);
        const w = Math.max(x(piece.to) - a, 1.5);
        return (
          <g key={n} data-part="body">
            <rect
              className={piece.done ? 'tl-done' : 'tl-ahead'}
              x={a}
              y={mid - half}
              width={w}
              height={half * 2}
              rx={Math.min(2, w / 2)}
              style={colour ? { fill: colour, fillOpacity: piece.done ? 1 : 0.55 } : undefined}
            />
            {!piece.done && bar.critical && <rect className="tl-edge" x={a} y={mid + half - 3.5} width={w} height={3.5} rx={Math.min(1, w / 2)} />}
            {!piece.done && bar.near && <rect className="tl-edge" x={a} y={mid + half - 1.6} width={w} height={1.6} />}
          </g>
        );
      })}
      {bar.pieces.length === 0 && <rect className={bar.state === 2 ? 'tl-done' : 'tl-ahead'} x={x1 - 1} y={mid - 5.5} width={2.5} height={11} />}
      {(inside || !onlyInside) && (
        <text className={inside ? `tl-label inside${first.done ? ' on-done' : ''}` : 'tl-label'} x={inside ? x1 + 6 : x2 + 7} y={mid + 4}>
          {name}
        </text>
      )}
    </>
  );
}

function Effort({ bar, x, mid, dataDate }: { bar: BarShape; x: (t: number) => number; mid: number; dataDate: string | null }) {
  const at = dataDate === null ? bar.start : Math.min(Math.max(parseInstant(dataDate) ?? bar.start, bar.start), bar.finish);
  return (
    <g data-part="body">
      <rect className="tl-done" x={x(bar.start)} y={mid - 2} width={Math.max(0, x(at) - x(bar.start))} height={4} />
      <rect className="tl-ahead" x={x(at)} y={mid - 2} width={Math.max(0, x(bar.finish) - x(at))} height={4} />
    </g>
  );
}

/** An open box that empties: the whole planned length as frame, what is left filled. */
function Margin({ bar, x, mid, perDay }: { bar: BarShape; x: (t: number) => number; mid: number; perDay: number }) {
  const x2 = x(bar.finish);
  const left = Math.max(0, x2 - x(bar.start));
  const share = bar.left > 0 && bar.planned > 0 ? bar.left / bar.planned : 0;
  const whole = share > 0 ? left / share : 30;
  return (
    <g data-part="body">
      <rect className="tl-margin" x={x2 - whole} y={mid - 5.5} width={Math.max(whole, 3)} height={11} rx={2} />
      <rect className="tl-margin-left" x={x2 - left} y={mid - 3.5} width={Math.max(left - 2, 0)} height={7} />
      <text className="tl-label" x={x2 - whole - 6} y={mid + 4} textAnchor="end">
        {bar.state === 2 ? 'used' : `${tenths(bar.left / perDay)} of ${tenths(bar.planned / perDay)} d left`}
      </text>
    </g>
  );
}

const Bracket = ({ x1, x2, y, point }: { x1: number; x2: number; y: number; point: boolean }) => (
  <path className="tl-baseline" d={point ? `M${x1 - 4} ${y - 1}l4 4l4 -4` : `M${x1} ${y - 2}v4H${Math.max(x2, x1 + 2)}v-4`} />
);

/** Links with at least one end in view; from which end to which end follows their type. */
function Links(p: TimelineProps) {
  const { scale, heights, first, last, view, place } = p;
  const top = heights.top(first);
  if (!view) return null;
  const faint: ReactNode[] = [];
  const strong: ReactNode[] = [];
  const seen = new Set<string>();
  const draw = (key: string, from: string, to: string, fromStart: boolean, toFinish: boolean, className: string): void => {
    const [yFrom, yTo] = [middleOf(from, place, p.lanes, heights), middleOf(to, place, p.lanes, heights)];
    const a = placeOf(view, from);
    const b = placeOf(view, to);
    if (yFrom === undefined || yTo === undefined || a === undefined || b === undefined || p.doc.activities.get(from)?.hidden || p.doc.activities.get(to)?.hidden) return;
    const t1 = fromStart ? view.start[a]! : view.finish[a]!;
    const t2 = toFinish ? view.finish[b]! : view.start[b]!;
    if (Math.max(t1, t2) < scale.from - 20_000 || Math.min(t1, t2) > endOf(scale) + 20_000) return;
    const lit = p.lit?.links.has(key) === true;
    const chosen = lit || p.selected.has(from) || p.selected.has(to);
    const path = linkPath(clip(scale, xOf(scale, t1)), yFrom - top, fromStart, clip(scale, xOf(scale, t2)), yTo - top, toFinish);
    (className === 'tl-link' && !chosen ? faint : strong).push(
      <g key={key} data-link={key}>
        <path className={`${className}${chosen ? ' chosen' : ''}${lit ? ' lit' : ''}`} d={path} markerEnd="url(#tl-arrow)" />
        {/* Wider than the line, for the pointer. */}
        <path className="tl-link-hit" d={path} />
      </g>,
    );
  };
  for (let i = first; i <= last; i++) {
    const row = p.rows[i];
    const ids = row?.kind === 'activity' ? [row.id] : row?.kind === 'wbs' && row.lane ? [...(p.lanes.packs.get(row.id)?.stackOf.keys() ?? [])] : [];
    for (const l of ids.flatMap((id) => [...(p.links.into.get(id) ?? []), ...(p.links.outOf.get(id) ?? [])])) {
      if (seen.has(l.id)) continue;
      seen.add(l.id);
      const driving = linkState(view, l.id)?.driving === true;
      if (p.showLinks === 'driving' && !driving && !p.lit?.links.has(l.id) && !p.selected.has(l.from) && !p.selected.has(l.to)) continue;
      draw(l.id, l.from, l.to, l.type === 'SS' || l.type === 'SF', l.type === 'FF' || l.type === 'SF', driving ? 'tl-link driving' : 'tl-link');
    }
  }
  for (const c of view.carried) {
    const i = place.get(c.from);
    const j = place.get(c.to);
    if ((i !== undefined && i >= first && i <= last) || (j !== undefined && j >= first && j <= last))
      draw(`carried ${c.from} ${c.to}`, c.from, c.to, false, false, 'tl-link carried');
  }
  return (
    <g>
      <defs>
        <marker id="tl-arrow" viewBox="0 0 6 6" refX="5" refY="3" markerWidth="6" markerHeight="6" markerUnits="userSpaceOnUse" orient="auto">
          <circle cx="3.4" cy="3" r="2.1" className="tl-arrow" />
        </marker>
      </defs>
      {faint}
      {strong}
    </g>
  );
}

/** Month lines and non-working texture behind the rows. Fixed while the rows scroll, since it is the same for all. */
export const TimelineGround = memo(function TimelineGround({ doc, scale, calendarId, version }: { doc: Document; scale: Scale; calendarId: string | null; version: number }) {
  const c = calendarFor(doc, { calendarId });
  const end = endOf(scale);
  const day = scale.ppm * 1440;
  const shades: ReactNode[] = [];
  if (c && scale.width > 0) {
    if (day >= 7) {
      let last = Math.floor(scale.from);
      for (const [a, b] of [...c.stretches(Math.floor(scale.from), Math.ceil(end)), [Math.ceil(end), Math.ceil(end)] as const]) {
        // Nights are shown only where a day has room for them.
        if (a - last >= (day >= 60 ? 60 : 1440)) shades.push(<rect key={last} className="tl-texture" x={xOf(scale, last)} y={0} width={(a - last) * scale.ppm} height="100%" />);
        last = b;
      }
    } else
      for (const [a, b] of longStops(c, Math.floor(scale.from), Math.ceil(end)))
        shades.push(<rect key={a} className="tl-texture" x={xOf(scale, a)} y={0} width={(b - a) * scale.ppm} height="100%" />);
  }
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
export const Ruler = memo(function Ruler({ scale, dataDate, label }: { scale: Scale; dataDate: number | undefined; label: string }) {
  const x = dataDate === undefined ? 0 : xOf(scale, dataDate);
  const all = ticks(scale);
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
