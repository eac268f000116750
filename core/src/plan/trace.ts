/** What a trace holds: activities reached from one over its links. */
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { linkState, type ScheduleView } from '../schedule/view.ts';

export interface Trace {
  id: string;
  mode: 'driving' | 'all';
  steps: number;
}

/** Activities that lie before and after one, so many steps far; itself among them. Driving links need a computed view. */
export function traced(doc: Document, view: ScheduleView | null, { id, mode, steps }: Trace): Set<string> {
  const index = indexOf(doc);
  const seen = new Set([id]);
  for (const [linksOf, end] of [
    [(x: string) => index.linksInto(x), 'from'],
    [(x: string) => index.linksOutOf(x), 'to'],
  ] as const) {
    let edge = [id];
    for (let n = 0; n < steps && edge.length; n++) {
      const next: string[] = [];
      for (const at of edge)
        for (const l of linksOf(at)) {
          if (mode === 'driving' && !(view && linkState(view, l.id)?.driving)) continue;
          if (!seen.has(l[end])) {
            seen.add(l[end]);
            next.push(l[end]);
          }
        }
      edge = next;
    }
  }
  return seen;
}

/** Most links of a chain that is lit up: more than anybody follows with the eye. */
const MOST_LIT = 3_000;

export interface Chain {
  activities: ReadonlySet<string>;
  links: ReadonlySet<string>;
}

/** Everything that leads to an activity and everything that it leads to, link by link; the nearest first where it is very much. */
export function chainOf(doc: Document, id: string): Chain {
  const index = indexOf(doc);
  const activities = new Set([id]);
  const links = new Set<string>();
  for (const side of ['into', 'outOf'] as const) {
    const seen = new Set([id]);
    const queue = [id];
    for (let i = 0; i < queue.length && links.size < MOST_LIT; i++)
      for (const l of side === 'into' ? index.linksInto(queue[i]!) : index.linksOutOf(queue[i]!)) {
        links.add(l.id);
        const other = side === 'into' ? l.from : l.to;
        if (seen.has(other)) continue;
        seen.add(other);
        activities.add(other);
        queue.push(other);
      }
  }
  return { activities, links };
}
