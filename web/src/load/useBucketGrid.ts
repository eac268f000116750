/** What tables of buckets do alike: only what is seen is drawn, the arrows walk, the chosen cell comes into view, and it opens around the data date. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useRef } from 'react';
import type { BucketKind } from '@yellowhammer/core/load/buckets';
import { type Place, walked } from './grid';

interface Args {
  box: React.RefObject<HTMLDivElement | null>;
  kind: BucketKind;
  edges: readonly number[];
  rows: number;
  /** Pixels: of a row, of a column, of what stands at the left and over the rows. */
  row: number;
  column: number;
  left: number;
  top: number;
  /** Of the rows that stay in sight under the heads. */
  kept?: number;
  /** Buckets that are seen before the data date when it opens. */
  before: number;
  dataDate: number | null;
  chosen: Place | null;
  onChoose: (place: Place) => void;
}

export function useBucketGrid(g: Args) {
  const { box, edges, chosen } = g;
  const columns = edges.length - 1;
  const getScrollElement = (): HTMLDivElement | null => box.current;
  const across = useVirtualizer({
    horizontal: true,
    count: columns,
    getScrollElement,
    estimateSize: () => g.column,
    overscan: 3,
    useFlushSync: false,
    paddingStart: g.left,
    scrollPaddingStart: g.left,
  });
  const down = useVirtualizer({
    count: g.rows,
    getScrollElement,
    estimateSize: () => g.row,
    overscan: 4,
    useFlushSync: false,
    paddingStart: g.top,
    scrollPaddingStart: g.top + (g.kept ?? 0),
  });
  const wide = useRef(g.column);
  useEffect(() => {
    across.measure();
    // Wider or narrower columns: the same time stays at the left.
    if (box.current && wide.current !== g.column) box.current.scrollLeft *= g.column / wide.current;
    wide.current = g.column;
  }, [across, g.column, box]);
  const [row, column] = [chosen?.row, chosen?.column];
  useEffect(() => {
    if (row === undefined || column === undefined) return;
    down.scrollToIndex(row, { align: 'auto' });
    across.scrollToIndex(column, { align: 'auto' });
  }, [row, column, down, across]);
  const now = g.dataDate === null ? -1 : edges.findIndex((t, n) => t <= (g.dataDate as number) && (edges[n + 1] ?? Infinity) > (g.dataDate as number));
  // Opened at the data date; with other buckets the same time stays in the middle.
  const opened = useRef('');
  const middle = useRef<number | null>(null);
  useEffect(() => {
    const key = `${g.kind} ${edges[0] ?? 0}`;
    const half = (across.scrollRect?.width ?? 0) / 2;
    // Asked first what costs nothing: a width that is read after each drawing makes the browser lay all out at once.
    if (opened.current !== key && !chosen && box.current?.clientWidth) {
      const t = middle.current;
      const at = opened.current === '' || t === null ? -1 : edges.findIndex((e, n) => e <= t && (edges[n + 1] ?? -Infinity) > t);
      opened.current = key;
      if (at >= 0) {
        box.current.scrollTo({ left: g.left + (at + 0.5) * g.column - half });
        return;
      }
      if (now > g.before) box.current.scrollTo({ left: (now - g.before) * g.column });
    }
    middle.current = edges[Math.floor(((across.scrollOffset ?? 0) + half - g.left) / g.column)] ?? middle.current;
  });
  // The same function for all time: cells that stay are not drawn anew for it.
  const latest = useRef(g.onChoose);
  useEffect(() => {
    latest.current = g.onChoose;
  });
  const pick = useCallback((place: Place) => latest.current(place), []);
  const onKeyDown = (e: React.KeyboardEvent): void => {
    const to = walked(e.key, chosen, g.rows, columns);
    if (!to) return;
    g.onChoose(to);
    e.preventDefault();
  };
  /** The instant in the middle of what is seen; null before anything is. */
  const inMiddle = useCallback(() => middle.current, []);
  return { columns, across, down, now, pick, onKeyDown, inMiddle };
}
