/** The graph under the plan, on the axis of the timeline: who is asked for against what is there, or money. It follows scrolling and zooming. */
import { IconX } from '@tabler/icons-react';
import { useEffect, useId, useState } from 'react';
import type { GraphOf, LoadGraph } from '@yellowhammer/core/load/graph';
import type { SubjectKind } from '@yellowhammer/core/load/load';
import { unitsText } from '@yellowhammer/core/load/words';
import { projectOf } from '@yellowhammer/core/model/document';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import { OverHatch } from '../app/OverHatch';
import { planActions, useAppDispatch } from '../app/store';
import { GraphOptions } from './GraphOptions';
import { useMoney } from '../money/useMoney';
import { inFull, running } from '../money/measures';
import { useAfterFrame, useSession, useTopic } from '../project/hooks';
import { endOf, type Scale, tOf, xOf } from './scale';

interface Props {
  /** What it is of, as the view keeps it. */
  graph: string;
  scale: Scale;
  sheetWidth: number;
  selected: readonly string[];
}
const HEIGHT = 132;
const TOP = 12;

/** A choice of the view as what is asked of the worker; null: it is money. */
function asked(graph: string, selected: readonly string[]): GraphOf | null {
  if (graph === 'flow' || graph === 'curve') return null;
  if (graph === 'all') return { of: 'all' };
  if (graph === 'selected') return { of: 'activities', ids: selected };
  const [kind, ...id] = graph.split(' ');
  return { of: 'subject', kind: kind as SubjectKind, id: id.join(' ') };
}

export function PlanGraph({ graph, scale, sheetWidth, selected }: Props) {
  const session = useSession();
  useTopic('doc');
  const dispatch = useAppDispatch();
  const { doc } = session;
  const set = (to: string | null): void => void dispatch(planActions.set({ graph: to }));
  const money = graph === 'flow' || graph === 'curve';
  return (
    <section className="plan-graph" style={{ height: HEIGHT }} aria-label="Graph under the plan">
      <div className="plan-graph-side" style={{ width: sheetWidth }}>
        <div className="plan-graph-choice">
          <select aria-label="What the graph is of" value={graph} onChange={(e) => set(e.target.value)}>
            <option value="selected">What is selected</option>
            <GraphOptions doc={doc} />
          </select>
          <button type="button" className="plain-button" aria-label="Close the graph" onClick={() => set(null)}>
            <IconX size={14} stroke={1.6} />
          </button>
        </div>
        {money ? <MoneyWords graph={graph} /> : null}
      </div>
      {money ? <MoneyStrip graph={graph} scale={scale} /> : <LoadStrip graph={graph} scale={scale} selected={selected} />}
    </section>
  );
}

/** The line of the data date, as on the timeline. */
function Now({ scale }: { scale: Scale }) {
  const { dataDate } = projectOf(useSession().doc);
  const t = dataDate === null ? undefined : parseInstant(dataDate);
  return t === undefined ? null : <line className="data-date-line" x1={xOf(scale, t)} x2={xOf(scale, t)} y1={0} y2={HEIGHT} stroke="var(--yellow)" strokeWidth={2} />;
}

function LoadStrip({ graph, scale, selected }: Omit<Props, 'sheetWidth'>) {
  const session = useSession();
  const version = useTopic('view');
  const hatch = useId();
  const [told, setTold] = useState<LoadGraph | null>(null);
  const [at, setAt] = useState<number | null>(null);
  const chosen = useAfterFrame(selected);
  const key = chosen.join(' ');
  useEffect(() => {
    let gone = false;
    const what = asked(graph, key === '' ? [] : key.split(' '));
    if (what)
      void session.worker.graph(what, key === '' ? [] : key.split(' ')).then((g) => {
        if (!gone) setTold(g);
      });
    return () => {
      gone = true;
    };
  }, [session, version, graph, key]);
  if (!told || told.at.length === 0)
    return (
      <p className="muted plan-graph-none">
        {graph === 'selected' ? (selected.length ? 'Nobody is assigned to what is selected.' : 'Select activities to see what they ask for together.') : 'Nobody is asked for.'}
      </p>
    );
  const seen = visible(told, scale);
  const most = Math.max(...seen.demand, ...(seen.there ?? []), 1000);
  const y = (v: number): number => HEIGHT - 2 - (v / most) * (HEIGHT - TOP - 2);
  const area = (low: readonly number[] | null, high: readonly number[]): string => {
    let d = '';
    for (let n = 0; n + 1 < seen.at.length; n++) {
      const bottom = low ? low[n]! : 0;
      if (high[n]! > bottom) d += `M${xOf(scale, seen.at[n]!)} ${y(bottom)}V${y(high[n]!)}H${xOf(scale, seen.at[n + 1]!)}V${y(bottom)}Z`;
    }
    return d;
  };
  const limit = (): string => {
    let d = '';
    const { there } = seen;
    for (let n = 0; there && n + 1 < seen.at.length; n++)
      d += `${n === 0 || there[n - 1] === 0 ? 'M' : 'L'}${xOf(scale, seen.at[n]!)} ${y(there[n]!)}H${xOf(scale, seen.at[n + 1]!)}`;
    return d;
  };
  const { there } = seen;
  const here = at === null ? -1 : seen.at.findIndex((t, n) => t <= at && (seen.at[n + 1] ?? Infinity) > at);
  const words = (n: number): string =>
    `${unitsText(seen.demand[n]!)} asked for${there ? `, ${unitsText(there[n]!)} there` : ''}${seen.part[n]! > 0 && seen.part[n]! < seen.demand[n]! ? `; ${unitsText(seen.part[n]!)} of it selected` : ''}`;
  return (
    <>
      <svg
        className="plan-graph-strip"
        width={scale.width}
        height={HEIGHT}
        role="img"
        aria-label={`${told.name}: demand${there ? ' against what is there' : ''}`}
        onPointerMove={(e) => setAt(tOf(scale, e.clientX - e.currentTarget.getBoundingClientRect().left))}
        onPointerLeave={() => setAt(null)}
      >
        <OverHatch id={hatch} />
        <path d={area(null, seen.demand)} fill="var(--slate-light)" />
        <path d={area(null, seen.part)} fill="var(--slate)" />
        {there && <path d={area(there, seen.demand)} fill={`url(#${hatch})`} />}
        {there && <path d={limit()} fill="none" stroke="var(--ink)" strokeWidth={1.25} />}
        <Now scale={scale} />
      </svg>
      <div className="plan-graph-words">
        <b>{unitsText(most)}</b> <span className="muted">{here >= 0 ? words(here) : told.name}</span>
      </div>
    </>
  );
}

/** The steps in view, at most one for each pixel: where many fall into one, the most that is asked for and that is there. */
function visible(g: LoadGraph, scale: Scale): Omit<LoadGraph, 'name' | 'unit'> {
  const [from, to] = [scale.from, endOf(scale)];
  const out: Omit<LoadGraph, 'name' | 'unit'> = { at: [], demand: [], there: g.there ? [] : null, part: [] };
  let first = g.at.findIndex((t) => t >= from);
  if (first < 0) return out;
  first = Math.max(0, first - 1);
  const pixel = 1 / scale.ppm;
  for (let n = first; n < g.at.length && (g.at[n - 1] ?? -Infinity) <= to; n++) {
    const last = out.at.length - 1;
    if (last >= 0 && g.at[n]! - out.at[last]! < pixel && n + 1 < g.at.length) {
      out.demand[last] = Math.max(out.demand[last]!, g.demand[n]!);
      out.part[last] = Math.max(out.part[last]!, g.part[n]!);
      if (out.there && g.there) out.there[last] = Math.max(out.there[last]!, g.there[n]!);
      continue;
    }
    out.at.push(g.at[n]!);
    out.demand.push(g.demand[n]!);
    out.part.push(g.part[n]!);
    if (out.there && g.there) out.there.push(g.there[n]!);
  }
  return out;
}

function MoneyWords({ graph }: { graph: string }) {
  const { doc } = useSession();
  const currency = projectOf(doc).currency || 'the project’s currency';
  return (
    <p className="muted">
      {graph === 'flow' ? 'Light: what comes in. Dark: what goes out. Line: what is left or lacking up to then.' : 'Line: early dates. Band: up to late dates. Dots: baseline.'} In{' '}
      {currency}.
    </p>
  );
}

function MoneyStrip({ graph, scale }: { graph: string; scale: Scale }) {
  const kind = graph === 'flow' || scale.ppm * MINUTES_PER_DAY < 1.5 ? 'month' : scale.ppm * MINUTES_PER_DAY < 8 ? 'week' : 'day';
  const table = useMoney(kind, 'account');
  const [at, setAt] = useState<number | null>(null);
  if (!table || typeof table === 'string' || table.lines.length === 0)
    return <p className="muted plan-graph-none">{typeof table === 'string' ? table : table ? 'Nothing costs anything yet.' : 'Computing'}</p>;
  const { edges, cells } = table;
  const x = (n: number): number => xOf(scale, edges[n]!);
  const flow = graph === 'flow';
  const net = running(cells.map((f) => f.income - f.cost));
  const [early, late] = [running(cells.map((f) => f.cost)), running(cells.map((f) => f.lateCost))];
  const base = table.baseline && running(table.baseline.map((b) => b.cost));
  const values = flow ? [...cells.flatMap((f) => [f.income, -f.cost]), ...net] : [...early, ...late, ...(base ?? [])];
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values, 1)];
  const y = (v: number): number => TOP + ((high - v) / (high - low)) * (HEIGHT - TOP - 2);
  const line = (list: readonly number[]): string => `M${x(0)} ${y(0)}${list.map((v, n) => `L${x(n + 1)} ${y(v)}`).join('')}`;
  const here = at === null ? -1 : edges.findIndex((t, n) => t <= at && (edges[n + 1] ?? -Infinity) > at);
  const f = cells[here];
  const words = f
    ? flow
      ? `out ${inFull(f.cost)}, in ${inFull(f.income)}, net up to then ${inFull(net[here]!)}`
      : `early ${inFull(early[here]!)}, late ${inFull(late[here]!)}${base ? `, baseline ${inFull(base[here]!)}` : ''}`
    : '';
  return (
    <>
      <svg
        className="plan-graph-strip"
        width={scale.width}
        height={HEIGHT}
        role="img"
        aria-label={flow ? 'Money in and out on the time axis' : 'Cost up to each day on the time axis'}
        onPointerMove={(e) => setAt(tOf(scale, e.clientX - e.currentTarget.getBoundingClientRect().left))}
        onPointerLeave={() => setAt(null)}
      >
        <line x1={0} x2={scale.width} y1={y(0)} y2={y(0)} stroke="var(--hairline)" />
        {flow ? (
          <>
            {cells.map((c, n) => (
              <g key={edges[n]}>
                <rect
                  x={x(n) + 1}
                  width={Math.max(1, x(n + 1) - x(n) - 2)}
                  y={y(c.income)}
                  height={Math.max(0, y(0) - y(c.income))}
                  fill="var(--slate-light)"
                  stroke="var(--slate)"
                  strokeWidth={c.income ? 0.75 : 0}
                />
                <rect x={x(n) + 1} width={Math.max(1, x(n + 1) - x(n) - 2)} y={y(0)} height={Math.max(0, y(-c.cost) - y(0))} fill="var(--slate)" />
              </g>
            ))}
            <path d={line(net)} fill="none" stroke="var(--ink)" strokeWidth={1.5} />
          </>
        ) : (
          <>
            <path
              d={`${line(early)}${[...late]
                .reverse()
                .map((v, n) => `L${x(late.length - n)} ${y(v)}`)
                .join('')}L${x(0)} ${y(0)}Z`}
              fill="var(--slate-light)"
              fillOpacity={0.5}
            />
            {base && <path d={line(base)} fill="none" stroke="var(--muted)" strokeDasharray="1 3" strokeWidth={1.25} />}
            <path d={line(early)} fill="none" stroke="var(--slate)" strokeWidth={2} />
          </>
        )}
        <Now scale={scale} />
      </svg>
      <div className="plan-graph-words">
        <b>{inFull(high)}</b> <span className="muted">{words}</span>
      </div>
    </>
  );
}
