/** Where rows of different heights lie: prefix sums, and the row at a height by halving. */

/** Kinds of row that sheet and timeline show. A kind is one entry here; what it shows follows from the list of fields. */
export const rowKinds = {
  wbs: { word: 'WBS node', height: 1, where: 'node' },
  activity: { word: 'activity', height: 1, where: 'row' },
  draft: { word: 'new row', height: 1, where: 'ground' },
} as const satisfies Record<string, { word: string; /** In rows of the usual height. */ height: number; where: 'node' | 'row' | 'ground' }>;
export type RowKind = keyof typeof rowKinds;

export class RowHeights {
  /** Tops of the rows in whole pixels, and behind them the height of all. */
  private readonly tops: Float64Array;
  /** What of each row lies below its own line, in whole pixels. */
  private readonly belows: Float64Array | null;
  readonly count: number;
  /** The usual height of a row, in pixels. */
  readonly base: number;

  /** `heightOf`: the height of each row, and `belowOf` what is added below its own line, in rows of the usual height. */
  constructor(count: number, base: number, heightOf: (i: number) => number, belowOf?: (i: number) => number) {
    this.count = count;
    this.base = base;
    this.tops = new Float64Array(count + 1);
    this.belows = belowOf ? new Float64Array(count) : null;
    for (let i = 0; i < count; i++) {
      const below = belowOf ? Math.round(belowOf(i) * base) : 0;
      if (this.belows) this.belows[i] = below;
      this.tops[i + 1] = this.tops[i]! + Math.round(heightOf(i) * base) + below;
    }
  }

  /** Top of a row in pixels; of one behind the last, the height of all. */
  top(i: number): number {
    return this.tops[Math.max(0, Math.min(i, this.count))]!;
  }

  height(i: number): number {
    return i >= 0 && i < this.count ? this.tops[i + 1]! - this.tops[i]! : this.base;
  }

  /** What of a row lies below its own line. */
  below(i: number): number {
    return this.belows?.[i] ?? 0;
  }

  /** Middle of the row's own line. */
  middle(i: number): number {
    return this.top(i) + (this.height(i) - this.below(i)) / 2;
  }

  get total(): number {
    return this.tops[this.count]!;
  }

  /** The row at a height in pixels; -1 above the first, behind the last as if rows of the usual height went on. */
  rowAt(y: number): number {
    if (y < 0) return -1;
    if (y >= this.total) return this.count + Math.floor((y - this.total) / this.base);
    let low = 0;
    let high = this.count;
    // The last row whose top is not below y.
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.tops[middle]! <= y) low = middle;
      else high = middle;
    }
    return low;
  }
}

/** Heights of rows by their kinds; `own`: of rows that say otherwise, `belowOf`: what is added below the line of one; in rows of the usual height. */
export const heightsOf = (
  rows: readonly { kind: RowKind; id: string }[],
  base: number,
  own: ReadonlyMap<string, number> = new Map(),
  belowOf?: (row: { kind: RowKind; id: string }) => number,
): RowHeights => new RowHeights(rows.length, base, (i) => own.get(rows[i]!.id) ?? rowKinds[rows[i]!.kind].height, belowOf && ((i) => belowOf(rows[i]!)));
