const formats = new Map<number, Intl.NumberFormat>();

/**
 * A number as people read it, `12,345.6`: with at most so many decimals, and at least `least`. Each format is made once:
 * making one takes longer than a hundred numbers, and a grid shows a thousand.
 */
export function numberText(n: number, most: number, least = 0): string {
  const key = most * 100 + least;
  let format = formats.get(key);
  if (!format) formats.set(key, (format = new Intl.NumberFormat('en-GB', { minimumFractionDigits: least, maximumFractionDigits: most })));
  return format.format(n);
}
