/** The figures that a cell can show, and what their running sums are called. */
import { amountText } from '@yellowhammer/core/fields/amounts';
import type { Figures } from '@yellowhammer/core/cost/money';

export const measures = {
  cost: { title: 'Cost', about: 'actual and still to come, with early dates', of: (f: Figures) => f.cost },
  income: { title: 'Income', about: 'received and still to come, with early dates', of: (f: Figures) => f.income },
  net: { title: 'Net', about: 'income less cost', of: (f: Figures) => f.income - f.cost },
  budget: { title: 'Budget', about: 'what was planned to be spent, where it lies now', of: (f: Figures) => f.budget },
  actual: { title: 'Actual', about: 'spent up to the data date', of: (f: Figures) => f.actual },
  remaining: { title: 'Remaining', about: 'still to be spent', of: (f: Figures) => f.cost - f.actual },
  late: { title: 'Late', about: 'cost with late dates', of: (f: Figures) => f.lateCost },
} as const;
export type Measure = keyof typeof measures;
export const measureKeys = Object.keys(measures) as Measure[];

/** Hundredths as an amount, to the hundredth. */
export const inFull = (hundredths: number): string => amountText(hundredths / 100);
/** The same for a cell: whole units, since columns are narrow; nothing for nothing. */
export const inCell = (hundredths: number): string => (Math.round(hundredths / 100) === 0 ? (hundredths === 0 ? '' : '0') : amountText(Math.round(hundredths / 100)));

/** Each value with all before it. */
export function running(values: readonly number[]): number[] {
  let sum = 0;
  return values.map((v) => (sum += v));
}
