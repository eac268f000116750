/** Dependency lines as paths. */

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
