/** Asks whether a row is selected. */
export interface Selected {
  has(id: string): boolean;
}

/**
 * The selected rows, to be asked one by one. Rows that stand below each other are a stretch of the list and need no set of
 * their own: while Shift is held down a set of thousands would be made in each frame, for the collector to take away.
 */
export function selectedOf(ids: readonly string[], place: { get(id: string): number | undefined }): Selected {
  const [first, last] = [place.get(ids[0] ?? ''), place.get(ids.at(-1) ?? '')];
  if (first === undefined || last === undefined || Math.abs(last - first) + 1 !== ids.length) return new Set(ids);
  const step = last < first ? -1 : 1;
  for (let i = 0; i < ids.length; i++) if (place.get(ids[i]!) !== first + i * step) return new Set(ids);
  const [from, upTo] = [Math.min(first, last), Math.max(first, last)];
  return {
    has(id) {
      const at = place.get(id);
      return at !== undefined && at >= from && at <= upTo;
    },
  };
}
