/** Bars of the timeline: roll-ups, lanes, work, milestones, levels of effort, margins; with their texts. */
import { memo } from 'react';
import type { Places } from '@yellowhammer/core/model/places';
import { type Document, projectOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { NONE } from '@yellowhammer/core/schedule/network';
import { placeOf, type BaselineView, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { parseInstant } from '@yellowhammer/core/time/instant';
import type { AssignmentLine } from '@yellowhammer/core/load/lines';
import type { BarTexts, ViewSettings } from '@yellowhammer/core/model/view-schema';
import { tenths } from '../app/format';
import type { RowHeights } from '@yellowhammer/core/outline/heights';
import type { OutlineRow } from '@yellowhammer/core/outline/outline';
import type { Paint } from '@yellowhammer/core/view/looks';
import type { Lanes, LinksOf, PlanRow } from './rows';
import { stackMiddle } from '@yellowhammer/core/outline/lane';
import type { Chain } from '@yellowhammer/core/plan/trace';
import { type BarShape, barOf } from '@yellowhammer/core/schedule/bars';
import { besideLine, textWidth } from './shapes';
import { showText } from './columns';
import { type Scale, xOf } from './scale';
import type { Selected } from './selected';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import { pictureAddress } from '../project/api';

export interface TimelineProps {
  doc: Document;
  view: ScheduleView | null;
  viewVersion: number;
  baseline: BaselineView | null;
  rows: PlanRow[];
  place: Places;
  links: LinksOf;
  lanes: Lanes;
  first: number;
  last: number;
  scale: Scale;
  heights: RowHeights;
  selected: Selected;
  /** The chain of what is pointed at, both ways; null: nothing is. */
  lit: Chain | null;
  texts: BarTexts;
  /** How each activity is drawn: by hand, by a look, by the colours of a field. */
  paint: (a: Activity) => Paint;
  /** Place of the data date in pixels. */
  line: number | undefined;
  /** The link that is selected, and the one that is pointed at. */
  link: string | null;
  pointedLink: string | null;
  /** No sheet beside it: names of nodes stand on their spines, those of bars further left at the edge. */
  alone: boolean;
  ownStops: boolean;
  clock: boolean;
  showLinks: 'all' | 'driving' | 'none';
  showFloat: boolean;
  /** Assignments by activity, of the rows in view, and how they are drawn. */
  assigned: ReadonlyMap<string, readonly AssignmentLine[]>;
  assignments: ViewSettings['assignments'];
}

const diamond = (x: number, y: number, r: number): string => `M${x} ${y - r}L${x + r} ${y}L${x} ${y + r}L${x - r} ${y}Z`;
const visible = (s: Scale, a: number, b: number): boolean => xOf(s, b) > -300 && xOf(s, a) < s.width + 60;
/** Widths in the drawing stay sane however far away an end lies. */
export const clip = (s: Scale, x: number): number => Math.max(-2000, Math.min(x, s.width + 2000));

export function Spine({ row, view, baseline, scale, mid: y, alone, doc }: TimelineProps & { row: OutlineRow & { kind: 'wbs' }; mid: number }) {
  const { id } = row;
  const r = row.group ? row.rollup : view?.rollups.get(id);
  const name = alone ? row.node.name || projectOf(doc).name : '';
  if (!r || r.start === NONE || (!alone && !visible(scale, r.start, r.finish))) return null;
  const x1 = clip(scale, xOf(scale, r.start));
  const x2 = clip(scale, xOf(scale, r.finish));
  const b = baseline?.nodes.get(id);
  return (
    <g className={r.critical ? 'tl-spine tl-spine-critical' : 'tl-spine'} data-node={id}>
      {b && <path className="tl-baseline-spine" d={`M${clip(scale, xOf(scale, b.start))} ${y + 5}H${clip(scale, xOf(scale, b.finish))}`} />}
      <path d={`M${x1} ${y}H${x2}`} />
      {name && (
        <text className="tl-label node" x={Math.max(6, Math.min(x1, scale.width - textWidth(name) * 1.2))} y={y - 3}>
          {name}
        </text>
      )}
      <circle cx={x1} cy={y} r={2.4} />
      <circle cx={x2} cy={y} r={2.4} />
    </g>
  );
}

/** The activities of a closed lane side by side; those that overlap in thinner bars, one above the other. */
export function Lane(p: TimelineProps & { id: string; height: number }) {
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
export function Bar(p: TimelineProps & { id: string; mid: number; inLane?: number }) {
  const a = p.doc.activities.get(p.id);
  if (!a || !p.view) return null;
  const paint = p.paint(a);
  const told = textsOf(paint.texts ? { ...p, texts: paint.texts } : p, a);
  return (
    <DrawnBar
      doc={p.doc}
      a={a}
      view={p.view}
      baseline={p.baseline}
      scale={p.scale}
      mid={p.mid}
      inLane={p.inLane}
      alone={p.alone}
      line={p.line}
      showFloat={p.showFloat}
      before={told.before}
      on={told.on}
      after={told.after}
      colour={paint.colour}
      hatching={paint.hatching}
      height={paint.height}
      picture={isMilestone(a) ? p.doc.pictures.get(a.pictureId ?? '')?.hash : undefined}
      selected={p.selected.has(a.id)}
      lit={p.lit?.activities.has(a.id) === true}
    />
  );
}

interface DrawnProps extends Pick<TimelineProps, 'doc' | 'baseline' | 'scale' | 'alone' | 'line' | 'showFloat'>, Told, Pick<Paint, 'colour' | 'hatching' | 'height'> {
  a: Activity;
  view: ScheduleView;
  mid: number;
  inLane: number | undefined;
  /** Of the file of its sign. */
  picture: string | undefined;
  selected: boolean;
  lit: boolean;
}

/** A bar by what it is drawn from, piece by piece: where none of it is another one, it is not drawn again. */
const DrawnBar = memo(function DrawnBar({ doc, a, view, scale, mid, inLane, picture, ...p }: DrawnProps) {
  const bar = barOf(doc, view, a);
  if (!bar) return null;
  const b = inLane ? undefined : p.baseline?.dates.get(a.id);
  const half = (inLane && inLane > 1 ? 4.5 : 5.5) * { thin: 0.55, usual: 1, tall: 1.35 }[inLane ? 'usual' : p.height];
  if (!(p.alone && xOf(scale, bar.finish) < 0) && !visible(scale, Math.min(bar.start, b?.start ?? bar.start), Math.max(bar.finish, b?.finish ?? 0, bar.floatTo))) return null;
  const dateX = (t: number): number => clip(scale, xOf(scale, t));
  const milestone = isMilestone(a);
  const aside: Told = inLane === undefined ? { before: p.before, on: p.on, after: p.after } : { before: '', on: p.on, after: '' };
  const edge = p.alone ? EDGE : undefined;
  const deadline = view.deadline[placeOf(view, a.id) as number]!;
  const late = deadline !== NONE && bar.finish > deadline;
  return (
    <g className={`tl-bar${bar.critical ? ' critical' : bar.near ? ' near' : ''}${p.selected ? ' selected' : ''}${p.lit ? ' lit' : ''}`} data-activity={a.id}>
      {b && <Bracket x1={dateX(b.start)} x2={dateX(b.finish)} y={mid + 7} point={milestone} />}
      {p.showFloat && !inLane && bar.floatTo !== NONE && bar.floatTo > bar.finish && a.type !== 'margin' && (
        <path className="tl-float" d={`M${dateX(bar.finish) + 2} ${mid}H${dateX(bar.floatTo)}`} />
      )}
      {milestone ? (
        <>
          {picture ? (
            <Sign hash={picture} x={dateX(bar.finish)} mid={mid} half={half === 4.5 ? 6 : 9} critical={bar.critical && bar.state !== 2} />
          ) : (
            <path
              className={`tl-milestone${bar.state === 2 ? ' done' : ''}`}
              d={diamond(dateX(bar.finish), mid, 6)}
              data-part="body"
              style={p.colour && !bar.critical ? { fill: p.colour } : undefined}
            />
          )}
          <Aside texts={aside} x1={dateX(bar.finish) - (picture ? 8 : 4)} x2={dateX(bar.finish) + (picture ? 8 : 4)} mid={mid} line={p.line} edge={edge} strong />
        </>
      ) : a.type === 'levelOfEffort' ? (
        <>
          <Effort bar={bar} x={dateX} mid={mid} dataDate={view.summary.dataDate} />
          <Aside texts={aside} x1={dateX(bar.start)} x2={dateX(bar.finish)} mid={mid} line={p.line} edge={edge} />
        </>
      ) : a.type === 'margin' ? (
        <Margin bar={bar} x={dateX} mid={mid} perDay={view.minutesPerDay[placeOf(view, a.id) as number] ?? 480} />
      ) : (
        <Work bar={bar} x={dateX} mid={mid} texts={aside} half={half} line={p.line} edge={edge} same={p.on === p.after} colour={p.colour} hatching={p.hatching} />
      )}
      {deadline !== NONE && <path className={`tl-deadline${late ? ' late' : ''}`} d={`M${dateX(deadline)} ${mid + 7}V${mid - 9}l8 3.5l-8 3.5`} />}
    </g>
  );
});

/** A picture in the place of a milestone's sign; critical ones keep their edge. */
const Sign = ({ hash, x, mid, half, critical }: { hash: string; x: number; mid: number; half: number; critical: boolean }) => (
  <>
    <image href={pictureAddress(hash)} x={x - half} y={mid - half} width={2 * half} height={2 * half} data-part="body" />
    {critical && <rect className="tl-sign-edge" x={x - half - 0.5} y={mid - half - 0.5} width={2 * half + 1} height={2 * half + 1} />}
  </>
);

interface Told {
  before: string;
  on: string;
  after: string;
}

/** The texts of the chosen fields. */
function textsOf({ doc, view, baseline, texts, clock }: TimelineProps, a: Activity): Told {
  const text = (key: string | null): string =>
    key === null ? '' : key === 'name' ? a.name || a.code : showText({ kind: 'activity', id: a.id, depth: 0, activity: a }, key, { doc, view, baseline, clock });
  const on = text(texts.on);
  return { before: text(texts.before), on, after: texts.after === texts.on ? on : text(texts.after) };
}

/** Where texts stand whose bars are further left. */
const EDGE = 6;

/** What stands before and after a bar; beyond the data date rather than struck through by it. */
interface AsideProps {
  texts: Told;
  x1: number;
  x2: number;
  mid: number;
  line: number | undefined;
  /** The least place of what stands after the bar; none: with its bar out of view it is out of view. */
  edge: number | undefined;
  strong?: true;
}

function Aside({ texts, x1, x2, mid, line, edge, strong }: AsideProps) {
  const name = `tl-label${strong ? ' strong' : ''}`;
  const width = textWidth(texts.before);
  return (
    <>
      {texts.before && (
        <text className={name} x={besideLine(x1 - 7 - width, width, line, -1) + width} y={mid + 4} textAnchor="end">
          {texts.before}
        </text>
      )}
      {texts.after && (
        <text className={name} x={besideLine(Math.max(x2 + 7, edge ?? -Infinity), textWidth(texts.after), line, 1)} y={mid + 4}>
          {texts.after}
        </text>
      )}
    </>
  );
}

interface WorkProps {
  bar: BarShape;
  x: (t: number) => number;
  mid: number;
  texts: Told;
  /** Half the height of the bar. */
  half: number;
  line: number | undefined;
  edge: number | undefined;
  /** What stands on the bar is what would stand after it: once is enough. */
  same: boolean;
  colour: string | null;
  hatching: Paint['hatching'];
}

function Work({ bar, x, mid, texts, half, line, edge, same, colour, hatching }: WorkProps) {
  const x1 = x(bar.start);
  const x2 = Math.max(x(bar.finish), x1 + 2);
  // The name stands inside where its first stretch, done or ahead, has room for it.
  const first = bar.pieces[0];
  const at = besideLine(x1 + 6, textWidth(texts.on), line, 1);
  const inside = texts.on !== '' && first !== undefined && x(first.to) - at > textWidth(texts.on) + 8;
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
            {hatching !== 'none' && <rect className="tl-pattern" x={a} y={mid - half} width={w} height={half * 2} rx={Math.min(2, w / 2)} fill={`url(#hatch-${hatching})`} />}
            {!piece.done && bar.critical && <rect className="tl-edge" x={a} y={mid + half - 3.5} width={w} height={3.5} rx={Math.min(1, w / 2)} />}
            {!piece.done && bar.near && <rect className="tl-edge" x={a} y={mid + half - 1.6} width={w} height={1.6} />}
          </g>
        );
      })}
      {bar.pieces.length === 0 && <rect className={bar.state === 2 ? 'tl-done' : 'tl-ahead'} x={x1 - 1} y={mid - 5.5} width={2.5} height={11} />}
      {inside && (
        <text className={`tl-label inside${first.done ? ' on-done' : ''}`} x={at} y={mid + 4}>
          {texts.on}
        </text>
      )}
      <Aside texts={inside && same ? { ...texts, after: '' } : texts} x1={x1} x2={x2} mid={mid} line={line} edge={edge} />
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
