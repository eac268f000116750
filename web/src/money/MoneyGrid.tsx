/** Money by groups and buckets under its graph, on the same columns. Only what is seen is drawn; walked with the arrows. */
import { useRef } from 'react';
import type { Figures } from '@yellowhammer/core/cost/money';
import type { MoneyTable } from '@yellowhammer/core/cost/table';
import { bucketName, type BucketKind } from '@yellowhammer/core/load/buckets';
import { overName, type Place, shortName } from '../load/grid';
import { useBucketGrid } from '../load/useBucketGrid';
import { useWidth } from '../load/useWidth';
import { inCell, inFull, type Measure, measures, running } from './measures';
import { type Graph, MoneyGraph, MoneyLegend, type Scale, scaleOf } from './MoneyGraph';

interface Props {
  table: MoneyTable;
  kind: BucketKind;
  measure: Measure;
  cumulative: boolean;
  graph: Graph;
  chosen: Place | null;
  dataDate: number | null;
  onChoose: (place: Place) => void;
}

const ROW = 28;
const HEAD = 44;
const GRAPH = 210;
const LEFT = 270;
const COLUMN = 72;

/** The figures of a line as they are shown: one measure, running or not. */
export function shownCells(cells: readonly Figures[], measure: Measure, cumulative: boolean): number[] {
  const values = cells.map(measures[measure].of);
  return cumulative ? running(values) : values;
}

export function MoneyGrid({ table, kind, measure, cumulative, graph, chosen, dataDate, onChoose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const wide = useWidth(box);
  const { edges, lines } = table;
  const columns = edges.length - 1;
  // Few columns take all the room that there is.
  const width = Math.max(COLUMN, Math.floor((wide - LEFT - 16) / columns));
  const scale = scaleOf(table, graph);
  const top = GRAPH + HEAD;
  // The line of sums comes first, and stays in sight.
  const { across, down, now, onKeyDown } = useBucketGrid({
    box,
    kind,
    edges,
    rows: lines.length + 1,
    row: ROW,
    column: width,
    left: LEFT,
    top,
    kept: ROW,
    before: 3,
    dataDate,
    chosen,
    onChoose,
  });
  const all = across.getTotalSize();
  const cellOf = (r: number, name: string, values: readonly number[], c: { index: number; start: number; key: React.Key }) => {
    const on = chosen?.row === r && chosen.column === c.index;
    const v = values[c.index]!;
    return (
      <span
        key={c.key}
        id={`money-${r}-${c.index}`}
        role="gridcell"
        aria-selected={on}
        aria-label={`${name}, ${bucketName(kind, edges[c.index]!)}: ${inCell(v) || '0'}${inCell(v) === inFull(v) || v === 0 ? '' : `, exactly ${inFull(v)}`}`}
        title={`${bucketName(kind, edges[c.index]!)}: ${inFull(v)}`}
        className={`money-cell${on ? ' on' : ''}${c.index === now ? ' now' : ''}${v < 0 ? ' below' : ''}`}
        style={{ left: c.start, width }}
        onPointerDown={() => onChoose({ row: r, column: c.index })}
      >
        {inCell(v)}
      </span>
    );
  };
  const sums = shownCells(table.cells, measure, cumulative);
  const last = (values: readonly number[]): number => (cumulative ? (values[values.length - 1] ?? 0) : values.reduce((n, v) => n + v, 0));
  return (
    <div
      ref={box}
      className="money-grid"
      role="grid"
      aria-label={`${measures[measure].title}${cumulative ? ' up to the end of each' : ''}, by ${kind}`}
      aria-rowcount={lines.length + 1}
      aria-colcount={columns}
      tabIndex={0}
      aria-activedescendant={chosen ? `money-${chosen.row}-${chosen.column}` : undefined}
      onKeyDown={onKeyDown}
    >
      <div style={{ width: all, height: down.getTotalSize(), position: 'relative' }}>
        <div className="money-over" style={{ width: all, height: top }}>
          {/* A picture of the figures below, which tell the same to those who do not see it. */}
          <div className="money-axis" aria-hidden="true" style={{ width: LEFT, height: GRAPH }}>
            <MoneyLegend graph={graph} baseline={table.baseline !== null} dataDate={dataDate !== null} />
            <AxisLabels scale={scale} height={GRAPH} />
          </div>
          <div style={{ position: 'absolute', left: LEFT, top: 0 }} aria-hidden="true">
            {wide > 0 && <MoneyGraph table={table} kind={kind} graph={graph} width={width} height={GRAPH} dataDate={dataDate} scale={scale} />}
          </div>
          <div role="row" className="money-heads" style={{ top: GRAPH, width: all, height: HEAD }}>
            <span className="money-name head" role="columnheader">
              {measures[measure].title}
              {cumulative ? ', running' : ''} <span>in all</span>
            </span>
            {across.getVirtualItems().map((c) => (
              <span
                key={c.key}
                role="columnheader"
                className={`money-head${c.index === now ? ' now' : ''}`}
                style={{ left: c.start, width }}
                aria-label={bucketName(kind, edges[c.index]!)}
              >
                <b>{overName(kind, edges[c.index]!, edges[c.index - 1])}</b>
                <span>{shortName(kind, edges[c.index]!)}</span>
              </span>
            ))}
          </div>
        </div>
        {down.getVirtualItems().map((r) => {
          const line = lines[r.index - 1];
          const values = line ? shownCells(line.cells, measure, cumulative) : sums;
          const name = line?.name ?? 'All';
          return (
            <div
              key={r.key}
              role="row"
              className={`money-row${line ? '' : ' sum'}${chosen?.row === r.index ? ' on' : ''}${line && line.depth === 0 ? ' top' : ''}`}
              style={line ? { top: r.start, height: ROW, width: all } : { top, height: ROW, width: all }}
            >
              <span className="money-name" role="rowheader" style={{ paddingLeft: 12 + (line?.depth ?? 0) * 14 }} title={name}>
                <span className="load-name">{name}</span>
                <span>{inFull(last(values))}</span>
              </span>
              {across.getVirtualItems().map((c) => cellOf(r.index, name, values, c))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** Amounts beside the graph, each at its height. */
function AxisLabels({ scale, height }: { scale: Scale; height: number }) {
  const y = (t: number): number => height - ((t - scale.from) / (scale.to - scale.from)) * height;
  const short = (t: number): string => {
    const n = t / 100;
    const [by, unit] = Math.max(Math.abs(scale.to), Math.abs(scale.from)) >= 1e8 ? [1e6, ' M'] : Math.max(Math.abs(scale.to), Math.abs(scale.from)) >= 1e6 ? [1e3, ' k'] : [1, ''];
    return n === 0 ? '0' : `${(n / by).toLocaleString('en-GB', { maximumFractionDigits: 2 }).replace('-', '−')}${unit}`;
  };
  return (
    <>
      {scale.ticks
        .filter((t) => y(t) > 4 && y(t) <= height + 1)
        .map((t) => (
          <span key={t} className="money-tick" style={{ top: Math.min(y(t), height - 7) }}>
            {short(t)}
          </span>
        ))}
    </>
  );
}
