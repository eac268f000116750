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

/**
 * A number as people type it: `12,345.6`, `12.345,6`, `1 234`, `1’234`, `0,5`; undefined where it is none. A comma before just
 * three digits parts thousands (`1,250` is 1250), unless nothing or a 0 stands before it; elsewhere it is the decimal sign.
 */
export function typedNumber(text: string): number | undefined {
  const t = text.replace(/[\s\u2019']/g, '').replace('−', '-');
  let plain: string;
  if (/^[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d*)?$/.test(t)) plain = t.replaceAll(',', '');
  else if (/^[+-]?[1-9]\d{0,2}((\.\d{3})+,\d+|(\.\d{3}){2,})$/.test(t)) plain = t.replaceAll('.', '').replace(',', '.');
  else plain = t.replace(/^([+-]?\d*),(\d+)$/, '$1.$2');
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?$/i.test(plain) && Number.isFinite(Number(plain)) ? Number(plain) : undefined;
}
