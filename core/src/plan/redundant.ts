/**
 * Redundant links: those that a longer chain asks for already, with no less lag. Taking all of them out at once moves no
 * early date and no float of a plan that is not begun.
 *
 * Counted carefully, so that a link is called redundant only where it is so for certain: a chain holds where each of its
 * activities is entered before it is left (start to start, start to finish, finish to finish), none of them is begun, a
 * level of effort or a margin, and no lag in it is negative. A lag of the link itself must be made up by lags of the chain
 * in the same calendar.
 */
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import type { Activity, Link } from '../model/schema.ts';
import { lagCalendarId } from '../commands/bulk-links.ts';

/** An activity that passes on what is asked of it. */
const passes = (a: Activity | undefined): boolean => a !== undefined && a.type !== 'levelOfEffort' && a.type !== 'margin' && a.actualStart === null;

/** The network in an order in which each link leads forward, in plain arrays. What lies in a loop is left out. */
class Order {
  readonly ids: string[] = [];
  readonly place = new Map<string, number>();
  readonly passes: Uint8Array;
  private readonly doc: Document;
  /** The most lag by which an activity's start and finish are reached; -1 where they are not. By any way, and by one of two links or more. */
  private readonly start: Int32Array;
  private readonly finish: Int32Array;
  private readonly longStart: Int32Array;
  private readonly longFinish: Int32Array;
  private readonly out: readonly Link[][];
  private readonly to: readonly Int32Array[];

  constructor(doc: Document) {
    this.doc = doc;
    const index = indexOf(doc);
    const open = new Map<string, number>();
    for (const id of doc.activities.keys()) {
      const n = index.linksInto(id).length;
      open.set(id, n);
      if (n === 0) this.ids.push(id);
    }
    for (let i = 0; i < this.ids.length; i++) {
      const id = this.ids[i]!;
      this.place.set(id, i);
      for (const l of index.linksOutOf(id)) {
        const left = (open.get(l.to) ?? 0) - 1;
        open.set(l.to, left);
        if (left === 0) this.ids.push(l.to);
      }
    }
    const n = this.ids.length;
    this.passes = Uint8Array.from(this.ids, (id) => (passes(doc.activities.get(id)) ? 1 : 0));
    this.out = this.ids.map((id) => index.linksOutOf(id).filter((l) => l.lag >= 0 && this.place.has(l.to)));
    this.to = this.out.map((list) => Int32Array.from(list, (l) => this.place.get(l.to) ?? 0));
    [this.start, this.finish, this.longStart, this.longFinish] = [new Int32Array(n), new Int32Array(n), new Int32Array(n), new Int32Array(n)];
  }

  /** Follows all ways from an end of an activity up to a place. Lags count where they are in a calendar (null: none counts). */
  private follow(first: number, last: number, end: string, calendar: string | null): void {
    for (const list of [this.start, this.finish, this.longStart, this.longFinish]) list.fill(-1, first, last + 1);
    this.finish[first] = 0;
    if (end === 'S') this.start[first] = 0;
    for (let p = first; p < last; p++) {
      const [start, finish] = [this.start[p]!, this.finish[p]!];
      if (finish < 0 || (p > first && this.passes[p] === 0)) continue;
      const [links, to] = [this.out[p] as Link[], this.to[p] as Int32Array];
      for (let i = 0; i < links.length; i++) {
        const at = to[i]!;
        const l = links[i]!;
        const so = l.type[0] === 'F' ? finish : start;
        if (at > last || so < 0) continue;
        const lag = so + (calendar !== null && l.lag > 0 && lagCalendarId(this.doc, l) === calendar ? l.lag : 0);
        this.reach(at, l.type[1] === 'S', lag, this.start, this.finish);
        if (p > first) this.reach(at, l.type[1] === 'S', lag, this.longStart, this.longFinish);
      }
    }
  }

  /** What holds a start holds the finish too, which comes no earlier. */
  private reach(at: number, atStart: boolean, lag: number, start: Int32Array, finish: Int32Array): void {
    if (atStart && start[at]! < lag) start[at] = lag;
    if (finish[at]! < lag) finish[at] = lag;
  }

  /** Links out of an activity that a longer chain asks for already. */
  redundant(first: number): Link[] {
    const links = this.out[first] as Link[];
    const to = this.to[first] as Int32Array;
    // With one way out there is no longer way.
    if (links.length < 2) return [];
    const asked = (i: number): boolean => (links[i]!.type[1] === 'S' ? this.longStart : this.longFinish)[to[i]!]! >= links[i]!.lag;
    const found = new Set<Link>();
    // Links without a lag are settled together, for each end that they leave from.
    for (const end of ['F', 'S']) {
      const plain = links.flatMap((l, i) => (l.lag === 0 && l.type[0] === end ? [i] : []));
      if (plain.length === 0) continue;
      this.follow(first, Math.max(...plain.map((i) => to[i]!)), end, null);
      for (const i of plain) if (asked(i)) found.add(links[i]!);
    }
    links.forEach((l, i) => {
      if (l.lag === 0) return;
      this.follow(first, to[i]!, l.type[0] as string, lagCalendarId(this.doc, l));
      if (asked(i)) found.add(l);
    });
    return links.filter((l) => found.has(l));
  }
}

/** Links that a longer chain asks for already. */
export function redundantLinks(doc: Document): Link[] {
  const order = new Order(doc);
  return order.ids.flatMap((_, i) => order.redundant(i));
}
