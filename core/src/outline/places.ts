/** Where rows of a list are, by their id, without a look at all of them where rows came in or went out at one place. */

interface Named {
  id: string;
}

/** How many rows two lists have in common from the top, and from the end without these. */
export function commonEnds(a: readonly Named[], b: readonly Named[]): [head: number, tail: number] {
  const most = Math.min(a.length, b.length);
  let head = 0;
  while (head < most && a[head]!.id === b[head]!.id) head++;
  let tail = 0;
  while (tail < most - head && a[a.length - 1 - tail]!.id === b[b.length - 1 - tail]!.id) tail++;
  return [head, tail];
}

/** Places of rows from 0. Ids differ among the rows of a list. */
export interface Places {
  get(id: string): number | undefined;
  has(id: string): boolean;
}

const mapOf = (rows: readonly Named[], from = 0): Map<string, number> => new Map(rows.map((r, i) => [r.id, from + i]));

/**
 * Places in one list after another, each made from the first where only what lies between their ends differs; where that is
 * more than `most` rows, all are looked at anew.
 */
export class PlacesOf {
  private readonly most: number;
  private first: readonly Named[] = [];
  private known = new Map<string, number>();

  constructor(most = 2_000) {
    this.most = most;
  }

  in(rows: readonly Named[]): Places {
    const [head, tail] = commonEnds(this.first, rows);
    if (rows.length - head - tail > this.most || this.first.length - head - tail > this.most) {
      this.first = rows;
      this.known = mapOf(rows);
      return this.known;
    }
    const { known } = this;
    const [more, end] = [rows.length - this.first.length, this.first.length - tail];
    const between = mapOf(rows.slice(head, rows.length - tail), head);
    const get = (id: string): number | undefined => {
      const at = between.get(id) ?? known.get(id);
      return at === undefined || between.has(id) ? at : at < head ? at : at >= end ? at + more : undefined;
    };
    return { get, has: (id) => get(id) !== undefined };
  }
}
