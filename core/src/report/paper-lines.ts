/** Assignments under their activity on paper: as lines of their own, or as thin strips under the bar. */
import { assignedTo } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import type { ViewSettings } from '../model/view-schema.ts';
import type { AssignmentLine } from '../load/lines.ts';
import type { OutlineRow } from '../outline/outline.ts';
import type { Instant } from '../time/instant.ts';
import type { Ink, Shape } from './scene.ts';

/** A line of an activity; `n`: which of its assignments. */
export interface PaperLine {
  kind: 'line';
  id: string;
  depth: number;
  n: number;
}
export type PaperRow = OutlineRow | PaperLine;

/** Strips that have room under a bar, on the screen and on paper. */
export const MOST_STRIPS = 3;

/** The rows with the lines of their assignments, where a view shows these as lines. */
export const withLines = (doc: Document, rows: readonly OutlineRow[], how: ViewSettings['assignments']): PaperRow[] =>
  how === 'lines'
    ? rows.flatMap((r): PaperRow[] => (r.kind === 'activity' ? [r, ...assignedTo(doc, r.activity).map((_, n): PaperLine => ({ kind: 'line', id: r.id, depth: r.depth, n }))] : [r]))
    : [...rows];

/** Where the work of assignments lies, as shapes. `x`: the place of an instant; `y`: the top of each, `h`: their height. */
export const lineShapes = (line: AssignmentLine, x: (t: Instant) => number, y: number, h: number): Shape[] =>
  line.parts.map((p): Shape => {
    const from = x(p.from);
    return {
      kind: 'rect',
      x: from,
      y,
      w: Math.max(x(p.to) - from, 0.8),
      h,
      fill: p.done ? ((line.colour as Ink | null) ?? 'slate') : 'slateLight',
      ...(line.colour && !p.done ? { stroke: line.colour as Ink, line: 0.4 } : {}),
    };
  });

/** Thin strips under a bar; more than have room are left out, as on the screen. */
export const stripShapes = (lines: readonly AssignmentLine[], x: (t: Instant) => number, bottom: number): Shape[] =>
  lines.slice(0, MOST_STRIPS).flatMap((l, n) => lineShapes(l, x, bottom - 4.4 + n * 1.4, 0.9));
