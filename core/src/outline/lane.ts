/**
 * Lanes: a WBS node that is shown, while it is closed, as one row with its activities side by side. Those that overlap in
 * time are stacked, so that none hides another.
 */
import { indexOf } from '../model/doc-index.ts';
import type { Document } from '../model/document.ts';
import { placeOf, type ScheduleView } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';

/** How the activities of a lane lie in its row: the stack of each, from 0 at the top, and how many stacks there are. */
export interface Packing {
  stackOf: ReadonlyMap<string, number>;
  stacks: number;
}

/** Activities of a lane and of all nodes in it, in the order of the outline, without those that are hidden from the picture. */
export function laneMembers(doc: Document, id: string): string[] {
  const index = indexOf(doc);
  return index.childrenOf(id).flatMap((c) => (c.kind === 'wbs' ? laneMembers(doc, c.id) : doc.activities.get(c.id)?.hidden ? [] : [c.id]));
}

/** Puts spans into as few stacks as can be: by their start, each into the first stack that is free by then. */
export function pack(spans: readonly { id: string; start: Instant; finish: Instant }[]): Packing {
  const free: Instant[] = [];
  const stackOf = new Map<string, number>();
  for (const s of [...spans].sort((a, b) => a.start - b.start || a.finish - b.finish)) {
    let at = free.findIndex((t) => t <= s.start);
    if (at < 0) at = free.length;
    // A point in time takes a minute, so that two at once are seen both.
    free[at] = Math.max(s.finish, s.start + 1);
    stackOf.set(s.id, at);
  }
  return { stackOf, stacks: Math.max(1, free.length) };
}

/** How a lane's activities lie by their dates; those without dates are not in it. */
export const packLane = (doc: Document, view: ScheduleView, id: string): Packing =>
  pack(
    laneMembers(doc, id).flatMap((member) => {
      const i = placeOf(view, member);
      return i === undefined ? [] : [{ id: member, start: view.start[i]!, finish: view.finish[i]! }];
    }),
  );

/** Height of a lane in rows of the usual height. */
export const laneHeight = (stacks: number): number => (stacks <= 1 ? 1 : (7 + 12 * stacks) / 20);

/** Middle of a stack, as a share of the height of the lane. */
export const stackMiddle = (stack: number, stacks: number): number => (stack + 0.5) / stacks;
