/** Money over time above its table, column by column: what goes out and comes in, or the cumulative curves. */
import { Area, Bar, ComposedChart, Line, ReferenceLine, Tooltip, XAxis, YAxis } from 'recharts';
import type { MoneyTable } from '@yellowhammer/core/cost/table';
import { bucketName, type BucketKind } from '@yellowhammer/core/load/buckets';
import { inFull, running } from './measures';

export type Graph = 'flow' | 'curve';
interface Props {
  table: MoneyTable;
  kind: BucketKind;
  graph: Graph;
  /** Pixels of one column. */
  width: number;
  height: number;
  dataDate: number | null;
  scale: Scale;
}

/** The amounts that the axis shows, from the lowest to the highest. Hundredths. */
export interface Scale {
  from: number;
  to: number;
  ticks: number[];
}

/** Round amounts around what is drawn, about four. */
export function scaleOf(table: MoneyTable, graph: Graph): Scale {
  const values = points(table, graph, null).flatMap((p) => [p.out, p.in, p.net, p.early, p.base, ...(p.band ?? [])].filter((v) => v !== undefined));
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values, 100)];
  const rough = (high - low) / 4;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 2.5, 5, 10].find((m) => m * power >= rough) ?? 10) * power;
  const from = Math.floor(low / step) * step;
  const ticks: number[] = [];
  for (let t = from; t < high + step; t += step) ticks.push(t);
  return { from, to: ticks[ticks.length - 1] ?? step, ticks };
}

interface Point {
  x: number;
  label: string;
  out?: number;
  in?: number;
  net?: number;
  actual?: number;
  early?: number;
  band?: [number, number];
  base?: number;
}

/** Where an instant lies on the axis of columns. */
function placeOf(edges: readonly number[], t: number): number {
  const n = edges.findIndex((e, i) => e <= t && (edges[i + 1] ?? Infinity) > t);
  return n < 0 ? (t < edges[0]! ? 0 : edges.length - 1) : n + (t - edges[n]!) / ((edges[n + 1] ?? edges[n]! + 1) - edges[n]!);
}

function points(t: MoneyTable, graph: Graph, kind: BucketKind | null, dataDate: number | null = null): Point[] {
  const name = (n: number): string => (kind === null ? '' : bucketName(kind, t.edges[n]!));
  if (graph === 'flow') {
    const net = running(t.cells.map((f) => f.income - f.cost));
    return t.cells.map((f, n) => ({ x: n + 0.5, label: name(n), out: -f.cost, in: f.income, net: net[n]! }));
  }
  const of = (pick: (f: MoneyTable['cells'][number]) => number): number[] => [0, ...running(t.cells.map(pick))];
  const [early, late, actual] = [of((f) => f.cost), of((f) => f.lateCost), of((f) => f.actual)];
  const base = t.baseline && [0, ...running(t.baseline.map((b) => b.cost))];
  const now = dataDate === null ? null : placeOf(t.edges, dataDate);
  const out = early.map((e, x): Point => {
    const l = late[x]!;
    return {
      x,
      label: x === 0 ? '' : `end of ${name(x - 1)}`,
      ...(now !== null && x <= now ? { actual: actual[x]! } : {}),
      ...(now === null || x >= now ? { early: e, band: [Math.min(e, l), Math.max(e, l)] as [number, number] } : {}),
      ...(base ? { base: base[x]! } : {}),
    };
  });
  if (now !== null && now > 0) {
    const spent = actual[actual.length - 1]!;
    const at = Math.ceil(now);
    // Both curves meet where the past ends.
    if (at < out.length && at !== now) out.splice(at, 0, { x: now, label: 'data date', actual: spent, early: spent, band: [spent, spent] });
    else if (out[at]) Object.assign(out[at], { actual: spent, early: spent });
  }
  return out;
}

const lineOf = { isAnimationActive: false, dot: false, activeDot: false, connectNulls: true } as const;

export function MoneyGraph({ table, kind, graph, width, height, dataDate, scale }: Props) {
  const columns = table.edges.length - 1;
  const data = points(table, graph, kind, dataDate);
  const now = dataDate === null ? null : placeOf(table.edges, dataDate);
  const words = (name: unknown, v: number): string => `${String(name)} ${inFull(v)}`;
  return (
    <ComposedChart
      className="money-graph"
      width={columns * width}
      height={height}
      data={data}
      margin={{ top: 0, right: 0, bottom: 0, left: 0 }}
      barGap={0}
      stackOffset="sign"
      accessibilityLayer={false}
    >
      <XAxis type="number" dataKey="x" domain={[0, columns]} hide allowDataOverflow />
      <YAxis domain={[scale.from, scale.to]} ticks={scale.ticks} hide allowDataOverflow />
      {scale.ticks.map((t) => (
        <ReferenceLine key={t} y={t} stroke="var(--hairline)" strokeWidth={t === 0 ? 1.5 : 0.75} />
      ))}
      {now !== null && <ReferenceLine x={now} stroke="var(--yellow)" strokeWidth={2} />}
      <Tooltip
        isAnimationActive={false}
        cursor={{ stroke: 'var(--muted)', strokeWidth: 0.75 }}
        content={({ payload, active }) => {
          const p = active ? (payload[0]?.payload as Point | undefined) : undefined;
          if (!p) return null;
          const lines = [
            p.out !== undefined && words('out', -p.out),
            p.in !== undefined && words('in', p.in),
            p.net !== undefined && words('net up to then', p.net),
            p.actual !== undefined && words('spent', p.actual),
            p.early !== undefined && p.actual === undefined && words('early', p.early),
            p.band && p.actual === undefined && words('late', p.band[0]),
            p.base !== undefined && words('baseline', p.base),
          ];
          return (
            <div className="money-tip">
              <b>{p.label}</b>
              {lines.map((l) => l && <span key={l}>{l}</span>)}
            </div>
          );
        }}
      />
      {graph === 'flow' ? (
        <>
          <Bar dataKey="in" stackId="flow" fill="var(--slate-light)" stroke="var(--slate)" barSize={Math.min(width * 0.5, 34)} isAnimationActive={false} />
          <Bar dataKey="out" stackId="flow" fill="var(--slate)" barSize={Math.min(width * 0.5, 34)} isAnimationActive={false} />
          <Line dataKey="net" stroke="var(--ink)" strokeWidth={1.75} {...lineOf} />
        </>
      ) : (
        <>
          <Area dataKey="band" fill="var(--slate-light)" fillOpacity={0.45} stroke="var(--slate-mid)" strokeWidth={0.75} strokeDasharray="2 3" {...lineOf} />
          <Line dataKey="base" stroke="var(--muted)" strokeWidth={1.25} strokeDasharray="1 3" {...lineOf} />
          <Line dataKey="early" stroke="var(--slate)" strokeWidth={2} strokeDasharray="6 4" {...lineOf} />
          <Line dataKey="actual" stroke="var(--slate)" strokeWidth={2.5} {...lineOf} />
        </>
      )}
    </ComposedChart>
  );
}

/** What the lines and bars mean, drawn as they are. */
export function MoneyLegend({ graph, baseline, dataDate }: { graph: Graph; baseline: boolean; dataDate: boolean }) {
  const sample = (kind: string, text: string) => (
    <span key={text}>
      <i className={`money-key ${kind}`} aria-hidden="true" />
      {text}
    </span>
  );
  return (
    <div className="money-legend">
      {graph === 'flow'
        ? [sample('in', 'in'), sample('out', 'out'), sample('net', 'net up to then')]
        : [dataDate && sample('actual', 'actual'), sample('early', 'forecast, early'), sample('band', 'between early and late'), baseline && sample('base', 'baseline')]}
    </div>
  );
}
