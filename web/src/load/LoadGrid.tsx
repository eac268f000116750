/** Heat cells: who and what against time. Only what is seen is drawn; walked with the arrows. */
import { bucketAt } from '@yellowhammer/core/load/curve';
import { memo, useEffect, useRef } from 'react';
import { bucketName, type BucketKind } from '@yellowhammer/core/load/buckets';
import type { LoadRow, LoadTable } from '@yellowhammer/core/load/table';
import { cellSentence, cellText, shadeFor, shareOf, unitsText } from '@yellowhammer/core/load/words';
import { overName, type Place, shortName } from './grid';
import { useBucketGrid } from './useBucketGrid';

export type Show = 'mean' | 'peak' | 'both';
interface Props {
  table: LoadTable;
  bucket: BucketKind;
  show: Show;
  chosen: Place | null;
  dataDate: number | null;
  onChoose: (place: Place) => void;
  /** Finer (-1) or coarser (1) buckets; around the instant in the middle of what is seen. */
  onZoom: (step: -1 | 1, around: number | null) => void;
}

const ROW = 28;
const HEAD = 44;
const LEFT = 200;

export function LoadGrid({ table, bucket, show, chosen, dataDate, onChoose, onZoom }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const { rows, edges } = table;
  const width = show === 'both' ? 56 : bucket === 'shift' || bucket === 'hour' ? 44 : 36;
  const { columns, across, down, now, pick, onKeyDown, inMiddle } = useBucketGrid({
    box,
    kind: bucket,
    edges,
    rows: rows.length,
    row: ROW,
    column: width,
    left: LEFT,
    top: HEAD,
    before: 2,
    dataDate,
    chosen,
    onChoose,
  });
  const zoom = useRef((_step: -1 | 1): void => undefined);
  useEffect(() => {
    zoom.current = (step) => onZoom(step, inMiddle());
  });
  useEffect(() => {
    const el = box.current;
    let last = -Infinity;
    // The browser would take it for itself, were it not listened to like this.
    const onWheel = (e: WheelEvent): void => {
      if (!e.ctrlKey || e.deltaY === 0) return;
      e.preventDefault();
      // A gesture is many turns of the wheel, and one step.
      if (e.timeStamp - last < 250) return;
      last = e.timeStamp;
      zoom.current(e.deltaY < 0 ? -1 : 1);
    };
    el?.addEventListener('wheel', onWheel, { passive: false });
    return () => el?.removeEventListener('wheel', onWheel);
  }, []);
  const seen = across.getVirtualItems();
  return (
    <div
      ref={box}
      className="load-grid"
      role="grid"
      aria-label="Load by bucket"
      aria-rowcount={rows.length}
      aria-colcount={columns}
      tabIndex={0}
      aria-activedescendant={chosen ? `load-${chosen.row}-${chosen.column}` : undefined}
      onKeyDown={(e) => {
        const step = { '+': -1, '=': -1, '-': 1 }[e.key] as -1 | 1 | undefined;
        if (step === undefined || e.ctrlKey || e.altKey || e.metaKey) return onKeyDown(e);
        e.preventDefault();
        zoom.current(step);
      }}
    >
      <div style={{ width: across.getTotalSize(), height: down.getTotalSize(), position: 'relative' }}>
        <div className="load-heads" style={{ width: across.getTotalSize() }} role="row">
          <span className="load-who" role="columnheader">
            Who and what <span>there</span>
          </span>
          {seen.map((c) => (
            <span
              key={c.key}
              role="columnheader"
              className={`load-head${c.index === now ? ' now' : ''}`}
              style={{ left: c.start, width }}
              aria-label={bucketName(bucket, edges[c.index]!)}
            >
              <b>{overName(bucket, edges[c.index]!, edges[c.index - 1])}</b>
              <span>{shortName(bucket, edges[c.index]!)}</span>
            </span>
          ))}
        </div>
        {down.getVirtualItems().map((r) => (
          <Line
            key={r.key}
            line={rows[r.index] as LoadRow}
            index={r.index}
            top={r.start}
            width={width}
            whole={across.getTotalSize()}
            first={seen[0]?.index ?? 0}
            last={seen[seen.length - 1]?.index ?? -1}
            edges={edges}
            bucket={bucket}
            show={show}
            on={chosen?.row === r.index ? chosen.column : null}
            now={now}
            onChoose={pick}
          />
        ))}
      </div>
    </div>
  );
}

interface LineProps {
  line: LoadRow;
  index: number;
  top: number;
  /** Of a cell, and of the whole row. */
  width: number;
  whole: number;
  /** Columns that are drawn. */
  first: number;
  last: number;
  edges: readonly number[];
  bucket: BucketKind;
  show: Show;
  /** The chosen column; null where the chosen cell is in another row. */
  on: number | null;
  now: number;
  onChoose: (place: Place) => void;
}

/** One row; drawn anew only where its own window or its figures change. */
const Line = memo(function Line({ line, index, top, width, whole, first, last, edges, bucket, show, on, now, onChoose }: LineProps) {
  return (
    <div role="row" className={`load-row ${line.kind}${on !== null ? ' on' : ''}`} style={{ top, height: ROW, width: whole }}>
      <span className="load-who" role="rowheader" style={{ paddingLeft: 12 + line.depth * 12 }}>
        <span className="load-name">
          {line.name}
          {(line.kind === 'role' || line.kind === 'crew') && <span className="muted"> {line.kind}</span>}
        </span>
        <span className="muted">{line.unit ?? (line.there === null ? '' : unitsText(line.there))}</span>
      </span>
      <span style={{ flex: 'none', width: first * width }} />
      {Array.from({ length: last - first + 1 }, (_, n) => (
        <HeatCell
          key={first + n}
          line={line}
          row={index}
          column={first + n}
          from={edges[first + n] as number}
          width={width}
          bucket={bucket}
          show={show}
          on={on === first + n}
          now={first + n === now}
          onChoose={onChoose}
        />
      ))}
    </div>
  );
});

interface CellProps extends Pick<LineProps, 'line' | 'width' | 'bucket' | 'show' | 'onChoose'> {
  row: number;
  column: number;
  from: number;
  on: boolean;
  now: boolean;
}

/** A cell: a thousand are seen at once, and most of them stay as they are while the grid moves. */
const HeatCell = memo(function HeatCell({ line, row, column, from, width, bucket, show, on, now, onChoose }: CellProps) {
  const cell = bucketAt(line.cells, column);
  const over = cell.overByMean || (show === 'peak' && cell.overByPeak) || cell.state === 'away';
  const shade = shadeFor(shareOf(cell, line, show));
  const text = cellText(cell, line, show);
  const name = bucketName(bucket, from);
  const sentence = cellSentence(cell, line.unit);
  return (
    <span
      id={`load-${row}-${column}`}
      role="gridcell"
      aria-selected={on}
      aria-label={`${line.name}, ${name}: ${text ? `${text}; ` : ''}${sentence}`}
      title={`${name}: ${sentence}`}
      className={`load-cell${over ? ' over' : ''}${cell.state === 'away' ? ' away' : ''}${cell.hiddenPeak && show !== 'peak' ? ' hidden-peak' : ''}${on ? ' on' : ''}${now ? ' now' : ''}`}
      style={{ width: width - 2, ['--share' as string]: String(shade.percent) }}
      data-dark={(shade.dark && !over) || undefined}
      onPointerDown={() => onChoose({ row, column })}
    >
      <span>{text}</span>
    </span>
  );
});
