/** Amounts of money as people type and read them. */

import { numberText, typedNumber } from '../model/number-text.ts';

/** An amount as people type it: `1,234.50`; null where nothing is typed, undefined where it cannot be read. */
export function readAmount(text: string): number | null | undefined {
  if (text.trim() === '') return null;
  const n = typedNumber(text);
  return n !== undefined && Math.abs(n) <= 1e12 ? Math.round(n * 100) / 100 : undefined;
}

/** An amount with two decimals where it has any: `1,234`, `1,234.50`. */
export const amountText = (n: number): string => numberText(n, 2, Number.isInteger(n) ? 0 : 2).replace('-', '−');
