/**
 * Which dependency line lies under the pointer. Quiet lines are drawn as bundles, so it is asked of their shapes, and only
 * where somebody points: a second path for each, to be hit by, would be laid out in every frame.
 */

/** A line as it is drawn, in pixels of the timeline's window. */
export interface DrawnLink {
  id: string;
  d: string;
  shape?: Path2D;
}

/** The lines of the group that they are drawn in, the uppermost last. */
const drawn = new WeakMap<Element, readonly DrawnLink[]>();
export const keepDrawn = (group: SVGGElement | null, lines: readonly DrawnLink[]): void => void (group && drawn.set(group, lines));

/** Pixels within which a line is hit, on both sides together. */
const WIDTH = 7;
let pen: CanvasRenderingContext2D | null = null;

/** The id of the link under the pointer: one that is drawn for itself, or a line of the timeline. */
export function linkAt(e: { target: EventTarget | null; clientX: number; clientY: number }): string | undefined {
  const target = e.target as Element;
  const own = target.closest<SVGElement>('[data-link]')?.dataset['link'];
  const group = own === undefined ? target.closest('.timeline')?.querySelector<SVGGElement>('.tl-links') : null;
  const picture = group?.ownerSVGElement;
  // What lies over the picture (a tip, a question) hides the lines below it, and a bar is meant before a line that ends at it.
  if (!group || !picture || target.closest('[data-part=body]') || !(picture.contains(target) || target.matches('.timeline, .timeline-row'))) return own;
  pen ??= document.createElement('canvas').getContext('2d');
  if (!pen) return undefined;
  pen.lineWidth = WIDTH;
  const { left, top } = picture.getBoundingClientRect();
  const lines = drawn.get(group) ?? [];
  for (let i = lines.length - 1; i >= 0; i--) {
    const line = lines[i]!;
    line.shape ??= new Path2D(line.d);
    if (pen.isPointInStroke(line.shape, e.clientX - left, e.clientY - top)) return line.id;
  }
  return undefined;
}
