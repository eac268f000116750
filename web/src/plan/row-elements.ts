/** Which elements of the page rows are drawn with, and in which order those stand there. */

/**
 * While somebody scrolls, a row that comes into view takes the elements of one that has left it: none are made, and none are
 * left to be collected. Their order in the page is then another one than that of the rows, which say which ones they are;
 * once scrolling has rested it is that of the rows again. Where rows themselves come or go each keeps its elements.
 */
export class RowElements<T extends { index: number }> {
  private keys = new Map<string, number>();
  private order: number[] = [];
  private rows: readonly { id: string }[] = [];
  private next = 0;

  /**
   * Rows in view with the key of their elements, in the order of the page. `inOrder`: elements may be moved to stand in the
   * order of the rows; an input that were moved would lose the focus, and what was typed with it.
   */
  of(items: readonly T[], rows: readonly { id: string }[], inOrder: boolean): { item: T; key: number }[] {
    const stay = new Set(items.flatMap((i) => this.keys.get(rows[i.index]!.id) ?? []));
    const free = rows === this.rows ? this.order.filter((k) => !stay.has(k)) : [];
    const drawn = new Map<number, T>();
    const keys = new Map<string, number>();
    const order = [...this.order];
    let above = -1;
    for (const item of items) {
      const { id } = rows[item.index]!;
      let key = this.keys.get(id) ?? free.shift();
      if (key === undefined) {
        key = this.next++;
        order.splice(order.indexOf(above) + 1, 0, key);
      }
      keys.set(id, key);
      drawn.set(key, item);
      above = key;
    }
    this.keys = keys;
    this.rows = rows;
    this.order = inOrder ? [...drawn.keys()] : order.filter((k) => drawn.has(k));
    return this.order.flatMap((key) => {
      const item = drawn.get(key);
      return item ? [{ item, key }] : [];
    });
  }
}
