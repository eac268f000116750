/** Dependency lines as paths, and where texts beside bars stand. */

/** About how wide a text is in the timeline, in pixels. */
export const textWidth = (text: string): number => text.length * 6.3;

/** Room between a text and a line that it must not cross; it is not moved further than this for it. */
const CLEAR = 5;
const FURTHEST = 30;

/**
 * Where a text of some width begins that wants to begin at `x`: there, or a little further, beyond a line (the data date)
 * that would strike it through. Too far from its bar it would be nobody's: then it stays. `step`: 1 to the right, -1 to
 * the left.
 */
export function besideLine(x: number, width: number, line: number | undefined, step: 1 | -1): number {
  if (line === undefined || line < x - 2 || line > x + width + 2) return x;
  const beyond = step > 0 ? line + CLEAR : line - CLEAR - width;
  return Math.abs(beyond - x) <= FURTHEST ? beyond : x;
}

/** A dependency line between two ends, with right angles. All in pixels. */
export function linkPath(x1: number, y1: number, fromStart: boolean, x2: number, y2: number, toFinish: boolean): string {
  const out = fromStart ? -6 : 4;
  const into = toFinish ? 6 : -5;
  const a = x1 + out;
  const b = x2 + into;
  const half = y2 > y1 ? 13 : -13;
  if (!fromStart && !toFinish && b >= a - 2) {
    const x = Math.max(x1 + 3, Math.min(x2 - 3, x1 + 4));
    return `M${x1} ${y1}H${x}V${y2}H${x2}`;
  }
  if (fromStart && !toFinish) {
    const x = Math.min(a, b);
    return `M${x1} ${y1}H${x}V${y2}H${x2}`;
  }
  if (!fromStart && toFinish) {
    const x = Math.max(a, b);
    return `M${x1} ${y1}H${x}V${y2}H${x2}`;
  }
  return `M${x1} ${y1}H${a}V${y1 + half}H${b}V${y2}H${x2}`;
}
