/** Heat cells: who and what against time. Only what is seen is drawn; walked with the arrows. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { bucketName, type BucketKind } from '@yellowhammer/core/load/buckets';
import type { LoadRow, LoadTable } from '@yellowhammer/core/load/table';
import { cellSentence, cellText, shadeFor, shareOf, unitsText } from '@yellowhammer/core/load/words';
import { civilOf, MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { monthNames } from '@yellowhammer/core/time/typed-date';

export type Show = 'mean' | 'peak' | 'both';
export interface Place {
  row: number;
  column: number;
}
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

/** Small label of a bucket under its month. */
function shortName(kind: BucketKind, from: number): string {
  const day = Math.floor(from / MINUTES_PER_DAY);
  const c = civilOf(day);
  const minute = from - day * MINUTES_PER_DAY;
  if (kind === 'hour' || kind === 'shift') return `${c.day}. ${String(Math.floor(minute / 60)).padStart(2, '0')}h`;
  if (kind === 'month') return monthNames[c.month - 1] ?? '';
  if (kind === 'quarter') return `Q${Math.floor((c.month - 1) / 3) + 1}`;
  return kind === 'year' ? String(c.year) : String(c.day);
}

/** What stands over the small labels where it begins: the month, or the year. */
function overName(kind: BucketKind, from: number, before: number | undefined): string {
  const of = (t: number): string => {
    const c = civilOf(Math.floor(t / MINUTES_PER_DAY));
    return kind === 'month' || kind === 'quarter' ? String(c.year) : kind === 'year' ? '' : `${monthNames[c.month - 1] ?? ''} ${String(c.year).slice(2)}`;
  };
  return before === undefined || of(before) !== of(from) ? of(from) : '';
}

export function LoadGrid({ table, bucket, show, chosen, dataDate, onChoose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const { rows, edges } = table;
  const columns = edges.length - 1;
  const width = show === 'both' ? 56 : bucket === 'shift' || bucket === 'hour' ? 44 : 36;
  const across = useVirtualizer({
    horizontal: true,
    count: columns,
    getScrollElement: () => box.current,
    estimateSize: () => width,
    overscan: 6,
    paddingStart: 200,
    scrollPaddingStart: 200,
  });
  const down = useVirtualizer({ count: rows.length, getScrollElement: () => box.current, estimateSize: () => ROW, overscan: 8, paddingStart: HEAD, scrollPaddingStart: HEAD });
  useEffect(() => across.measure(), [across, width]);
  const [row, column] = [chosen?.row, chosen?.column];
  useEffect(() => {
    if (row === undefined || column === undefined) return;
    down.scrollToIndex(row, { align: 'auto' });
    across.scrollToIndex(column, { align: 'auto' });
  }, [row, column, down, across]);
  const onKeyDown = (e: React.KeyboardEvent): void => {
    const step: Record<string, [number, number]> = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0], PageDown: [10, 0], PageUp: [-10, 0] };
    const by = step[e.key];
    const at = chosen ?? { row: 0, column: 0 };
    if (by) onChoose({ row: Math.min(Math.max(at.row + by[0], 0), rows.length - 1), column: Math.min(Math.max(at.column + by[1], 0), columns - 1) });
    else if (e.key === 'Home') onChoose({ ...at, column: 0 });
    else if (e.key === 'End') onChoose({ ...at, column: columns - 1 });
    else return;
    e.preventDefault();
  };
  const now = dataDate === null ? -1 : edges.findIndex((t, n) => t <= dataDate && (edges[n + 1] ?? Infinity) > dataDate);
  // It opens around the data date; afterwards it stays where it is.
  const opened = useRef('');
  useEffect(() => {
    const key = `${bucket} ${edges[0] ?? 0}`;
    if (opened.current === key || chosen) return;
    opened.current = key;
    if (now > 2) box.current?.scrollTo({ left: (now - 2) * width });
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
                const cell = line.cells[c.index]!;
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
