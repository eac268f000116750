/** Which part of a bar lies under the pointer, and so what a drag from there would do. */
import type { Activity } from '@yellowhammer/core/model/schema';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';

/** `fixed`: the bar of work that has started, which cannot be moved in time. */
export type Part = 'body' | 'fixed' | 'left' | 'right' | 'linkStart' | 'linkFinish';

export interface Hover {
  id: string;
  row: number;
  /** Middle of the bar in pixels of the timeline. */
  y: number;
  /** Ends of the bar and place of the pointer, in pixels of the timeline. */
  x1: number;
  x2: number;
  /** Drawn in a closed lane, beside others. */
  inLane: boolean;
  /** How far it reaches beyond them. */
  half: number;
  x: number;
  /** Place of the pointer in the window, for the tip. */
  clientX: number;
  clientY: number;
  /** Null beside the bar. */
  part: Part | null;
}

/** How far from an end a link can be drawn, and how wide the handles inside the ends are. */
export const REACH = 11;
const HANDLE = 6;

/** Where the mark stands from which a link is drawn at an end of a bar: beside it; in a lane, where what is beside it is ground to draw on, at its upper corner. */
export const markOf = (h: Pick<Hover, 'x1' | 'x2' | 'half' | 'y' | 'inLane'>, start: boolean): { x: number; y: number } =>
  h.inLane ? { x: start ? h.x1 : h.x2, y: h.y - 8 } : { x: start ? h.x1 - h.half - REACH / 2 : h.x2 + h.half + REACH / 2, y: h.y };

/** The mark of a bar in a lane that a pointer is on. */
export function markAt(h: Hover, x: number, y: number): 'linkStart' | 'linkFinish' | null {
  const on = (start: boolean): boolean => Math.abs(x - markOf(h, start).x) <= MARK && Math.abs(y - markOf(h, start).y) <= MARK;
  return !h.inLane ? null : on(false) ? 'linkFinish' : on(true) ? 'linkStart' : null;
}
const MARK = 4;

/** How far the body of a milestone reaches around its instant; bars end where they end. */
export const halfOf = (a: Activity): number => (isMilestone(a) ? 7 : 1);

export function partAt(a: Activity, state: number, x1: number, x2: number, x: number, alt: boolean): Part | null {
  const half = halfOf(a);
  if (x < x1 - half - REACH || x > x2 + half + REACH) return null;
  if (alt) return x < (x1 + x2) / 2 ? 'linkStart' : 'linkFinish';
  if (x < x1 - half) return 'linkStart';
  if (x > x2 + half) return 'linkFinish';
  const handle = Math.min(HANDLE, (x2 - x1) / 3);
  if (a.type === 'task' && state !== 2 && x2 - x <= handle) return 'right';
  if (a.type === 'task' && state === 0 && x - x1 <= handle) return 'left';
  if (state !== 0) return 'fixed';
  return a.type === 'task' || isMilestone(a) ? 'body' : 'fixed';
}

export const cursors: Record<Part, string> = { body: 'grab', fixed: 'default', left: 'ew-resize', right: 'ew-resize', linkStart: 'crosshair', linkFinish: 'crosshair' };
