/** Money by groups and buckets under its graph, on the same columns. Only what is seen is drawn; walked with the arrows. */
import { memo, useMemo, useRef } from 'react';
import type { Figures } from '@yellowhammer/core/cost/money';
import type { MoneyTable } from '@yellowhammer/core/cost/table';
import { bucketName, type BucketKind } from '@yellowhammer/core/load/buckets';
import { overName, type Place, shortName } from '../load/grid';
import { useBucketGrid } from '../load/useBucketGrid';
import { useWidth } from '../load/useWidth';
import { inCell, inFull, type Measure, measures, running } from './measures';
import { type Graph, MoneyGraph, MoneyLegend, type Scale, scaleOf } from './MoneyGraph';
import { numberText } from '@yellowhammer/core/model/number-text';

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
  const scale = useMemo(() => scaleOf(table, graph), [table, graph]);
  const top = GRAPH + HEAD;
  // The line of sums comes first, and stays in sight.
  const { across, down, now, pick, onKeyDown } = useBucketGrid({
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
  // Sums first, then the lines: what they show changes with the measure alone, not while the grid moves.
  const shown = useMemo(() => [table, ...table.lines].map((l) => shownCells(l.cells, measure, cumulative)), [table, measure, cumulative]);
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
            {wide > 0 && <StillGraph table={table} kind={kind} graph={graph} width={width} height={GRAPH} dataDate={dataDate} scale={scale} />}
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
          const values = shown[r.index]!;
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
              {across.getVirtualItems().map((c) => (
                <Cell
                  key={c.key}
                  row={r.index}
                  column={c.index}
                  name={name}
                  value={values[c.index]!}
                  from={edges[c.index]!}
                  kind={kind}
                  left={c.start}
                  width={width}
                  on={chosen?.row === r.index && chosen.column === c.index}
                  now={c.index === now}
                  onChoose={pick}
                />
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** The graph spans all buckets, so it does not change while the grid moves. */
const StillGraph = memo(MoneyGraph);

interface CellProps {
  row: number;
  column: number;
  name: string;
  value: number;
  from: number;
  kind: BucketKind;
  left: number;
  width: number;
  on: boolean;
  now: boolean;
  onChoose: (place: Place) => void;
}

/** A figure; most of those that are seen stay as they are while the grid moves. */
const Cell = memo(function Cell({ row, column, name, value: v, from, kind, left, width, on, now, onChoose }: CellProps) {
  const [cell, full, bucket] = [inCell(v), inFull(v), bucketName(kind, from)];
  return (
    <span
      id={`money-${row}-${column}`}
      role="gridcell"
      aria-selected={on}
      aria-label={`${name}, ${bucket}: ${cell || '0'}${cell === full || v === 0 ? '' : `, exactly ${full}`}`}
      title={`${bucket}: ${full}`}
      className={`money-cell${on ? ' on' : ''}${now ? ' now' : ''}${v < 0 ? ' below' : ''}`}
      style={{ left, width }}
      onPointerDown={() => onChoose({ row, column })}
    >
      {cell}
    </span>
  );
});

/** Amounts beside the graph, each at its height. */
function AxisLabels({ scale, height }: { scale: Scale; height: number }) {
  const y = (t: number): number => height - ((t - scale.from) / (scale.to - scale.from)) * height;
  const short = (t: number): string => {
    const n = t / 100;
    const [by, unit] = Math.max(Math.abs(scale.to), Math.abs(scale.from)) >= 1e8 ? [1e6, ' M'] : Math.max(Math.abs(scale.to), Math.abs(scale.from)) >= 1e6 ? [1e3, ' k'] : [1, ''];
    return n === 0 ? '0' : `${numberText(n / by, 2).replace('-', '−')}${unit}`;
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
