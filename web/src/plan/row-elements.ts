/** Which elements of the page a row is drawn with. */

export interface RowElements<T> {
  item: T;
  key: string | number;
}

/**
 * A row that comes into view takes the elements of one that has left it, so that scrolling makes none and leaves none to be
 * collected. They stand in the page in the order of their keys, which is that of the rows at the top of the plan, and stay in
 * their places (rows say which ones they are). `most`: as many as are in view at once, with those above and below.
 * The row that is typed into has elements of its own, the last ones, wherever it goes: rows that come in above it take no
 * input from under somebody's hands.
 */
export function elementsOf<T extends { index: number }>(items: readonly T[], most: number, rows: readonly { id: string }[], edited: string | undefined): RowElements<T>[] {
  const n = Math.max(most, items.length);
  const all = items.map((item): RowElements<T> => ({ item, key: rows[item.index]!.id === edited ? 'edited' : item.index % n }));
  const place = ({ key }: RowElements<T>): number => (typeof key === 'number' ? key : n);
  return all.sort((a, b) => place(a) - place(b));
}
