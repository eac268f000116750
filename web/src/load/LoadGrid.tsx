/** Heat cells: who and what against time. Only what is seen is drawn; walked with the arrows. */
import { bucketAt } from '@yellowhammer/core/load/curve';
import { useRef } from 'react';
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
}

const ROW = 28;
const HEAD = 44;

export function LoadGrid({ table, bucket, show, chosen, dataDate, onChoose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const { rows, edges } = table;
  const width = show === 'both' ? 56 : bucket === 'shift' || bucket === 'hour' ? 44 : 36;
  const { columns, across, down, now, onKeyDown } = useBucketGrid({
    box,
    kind: bucket,
    edges,
    rows: rows.length,
    row: ROW,
    column: width,
    left: 200,
    top: HEAD,
    before: 2,
    dataDate,
    chosen,
    onChoose,
  });
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
      onKeyDown={onKeyDown}
    >
      <div style={{ width: across.getTotalSize(), height: down.getTotalSize(), position: 'relative' }}>
        <div className="load-heads" style={{ width: across.getTotalSize() }} role="row">
          <span className="load-who" role="columnheader">
            Who and what <span>there</span>
          </span>
          {across.getVirtualItems().map((c) => (
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
        {down.getVirtualItems().map((r) => {
          const line = rows[r.index] as LoadRow;
          return (
            <div
              key={r.key}
              role="row"
              className={`load-row ${line.kind}${chosen?.row === r.index ? ' on' : ''}`}
              style={{ top: r.start, height: ROW, width: across.getTotalSize() }}
            >
              <span className="load-who" role="rowheader" style={{ paddingLeft: 12 + line.depth * 12 }}>
                <span className="load-name">
                  {line.name}
                  {line.kind === 'role' && <span className="muted"> role</span>}
                </span>
                <span className="muted">{line.unit ?? (line.there === null ? '' : unitsText(line.there))}</span>
              </span>
              {across.getVirtualItems().map((c) => {
                const cell = bucketAt(line.cells, c.index);
                const over = cell.overByMean || (show === 'peak' && cell.overByPeak) || cell.state === 'away';
                const shade = shadeFor(shareOf(cell, line, show));
                const text = cellText(cell, line, show);
                const on = chosen?.row === r.index && chosen.column === c.index;
                return (
                  <span
                    key={c.key}
                    id={`load-${r.index}-${c.index}`}
                    role="gridcell"
                    aria-selected={on}
                    aria-label={`${line.name}, ${bucketName(bucket, edges[c.index]!)}: ${text ? `${text}; ` : ''}${cellSentence(cell, line.unit)}`}
                    title={`${bucketName(bucket, edges[c.index]!)}: ${cellSentence(cell, line.unit)}`}
                    className={`load-cell${over ? ' over' : ''}${cell.state === 'away' ? ' away' : ''}${cell.hiddenPeak && show !== 'peak' ? ' hidden-peak' : ''}${on ? ' on' : ''}${c.index === now ? ' now' : ''}`}
                    style={{ left: c.start + 1, width: width - 2, ['--share' as string]: String(shade.percent) }}
                    data-dark={(shade.dark && !over) || undefined}
                    onPointerDown={() => onChoose({ row: r.index, column: c.index })}
                  >
                    <span>{text}</span>
                  </span>
                );
              })}
            </div>
          );
        })}
      </div>
    </div>
  );
}
