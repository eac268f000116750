/** Where ids stand in a list, without a look at all of them where some came in or went out at one place. */

/** How many entries two lists have in common from the front, and from the end without these. */
export function commonEnds<A, B>(a: readonly A[], b: readonly B[], same: (x: A, y: B) => boolean): [head: number, tail: number] {
  const most = Math.min(a.length, b.length);
  let head = 0;
  while (head < most && same(a[head]!, b[head]!)) head++;
  let tail = 0;
  while (tail < most - head && same(a[a.length - 1 - tail]!, b[b.length - 1 - tail]!)) tail++;
  return [head, tail];
}

/** Places of ids from 0. The ids of a list differ. */
export interface Places {
  get(id: string): number | undefined;
  has(id: string): boolean;
}

export const sameText = (x: string, y: string): boolean => x === y;
const mapOf = (ids: readonly string[], from = 0): Map<string, number> => new Map(ids.map((id, i) => [id, from + i]));

/**
 * Places in one list after another, each made from the first where only what lies between their ends differs; where that is
 * more than `most` entries, all are looked at anew.
 */
export class PlacesOf {
  private readonly most: number;
  private first: readonly string[] = [];
  private known = new Map<string, number>();

  constructor(most = 2_000) {
    this.most = most;
  }

  /** The ends that a list has in common with the first, where it differs little from it. */
  private ends(ids: readonly string[]): [head: number, tail: number] | undefined {
    const [head, tail] = commonEnds(this.first, ids, sameText);
    return ids.length - head - tail > this.most || this.first.length - head - tail > this.most ? undefined : [head, tail];
  }

  /** True where a list differs so little from the first that not all of it is looked at. */
  fits(ids: readonly string[]): boolean {
    return this.ends(ids) !== undefined;
  }

  in(ids: readonly string[]): Places {
    const ends = this.ends(ids);
    if (!ends) {
      this.first = ids;
      this.known = mapOf(ids);
      return this.known;
    }
    const [head, tail] = ends;
    const { known } = this;
    const [more, end] = [ids.length - this.first.length, this.first.length - tail];
    const between = mapOf(ids.slice(head, ids.length - tail), head);
    const get = (id: string): number | undefined => {
      const own = between.get(id);
      if (own !== undefined) return own;
      const at = known.get(id);
      return at === undefined || at < head ? at : at >= end ? at + more : undefined;
    };
    return { get, has: (id) => get(id) !== undefined };
  }
}
