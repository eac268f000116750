/** Money in buckets by account (or by anything else): every figure is a sum of differences of rows that are rounded once (resource rules, section 7). */
import { type Document, ordered } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import type { Instant } from '../time/instant.ts';
import { lastNotAbove } from '../time/patched.ts';
import { type Flow, moneyBefore, type MoneyRow, moneyRows } from './parts.ts';

/** Hundredths of the project's currency in one bucket, or in all. */
export interface Figures {
  /** At completion: actual and remaining, with early dates. */
  cost: number;
  income: number;
  budget: number;
  incomeBudget: number;
  actual: number;
  incomeActual: number;
  /** At completion, with late dates. */
  lateCost: number;
  lateIncome: number;
}

const keys = ['cost', 'income', 'budget', 'incomeBudget', 'actual', 'incomeActual', 'lateCost', 'lateIncome'] as const;
export const noFigures = (): Figures => ({ cost: 0, income: 0, budget: 0, incomeBudget: 0, actual: 0, incomeActual: 0, lateCost: 0, lateIncome: 0 });

/** Adds figures to others. */
export function addFigures(to: Figures, more: Figures): void {
  for (const k of keys) to[k] += more[k];
}

/** Money of one account (null: of none), bucket by bucket and in all. */
export interface AccountMoney {
  accountId: string | null;
  buckets: Figures[];
  total: Figures;
}

/** What a row adds to: early or late, cost or income, budget, actual. */
function fieldsOf(row: MoneyRow, late: boolean): (keyof Figures)[] {
  if (late) return row.part === 'budget' ? [] : [row.income ? 'lateIncome' : 'lateCost'];
  if (row.part === 'budget') return [row.income ? 'incomeBudget' : 'budget'];
  const whole = row.income ? 'income' : 'cost';
  return row.part === 'actual' ? [whole, row.income ? 'incomeActual' : 'actual'] : [whole];
}

/**
 * Money by what `groupOf` says of a row, in buckets whose boundaries are given. What lies before the first boundary or
 * after the last is in the totals alone.
 */
export function moneyBy<K>(
  rows: { early: readonly MoneyRow[]; late: readonly MoneyRow[] },
  edges: readonly Instant[],
  groupOf: (row: MoneyRow) => K,
): Map<K, { buckets: Figures[]; total: Figures }> {
  const out = new Map<K, { buckets: Figures[]; total: Figures }>();
  for (const [list, late] of [
    [rows.early, false],
    [rows.late, true],
  ] as const)
    for (const row of list) {
      const fields = fieldsOf(row, late);
      if (fields.length === 0) continue;
      const key = groupOf(row);
      let group = out.get(key);
      if (!group) out.set(key, (group = { buckets: Array.from({ length: Math.max(edges.length - 1, 0) }, noFigures), total: noFigures() }));
      // Only buckets that the row lies in are looked at: before it there is nothing, after it all of it.
      const { from, to } = spanOfRow(row);
      const first = Math.max(lastNotAbove(edges, from), 0);
      let before = edges.length ? moneyBefore(row, edges[first]!) : 0;
      for (let n = first + 1; n < edges.length; n++) {
        const now = moneyBefore(row, edges[n]!);
        if (now !== before) for (const f of fields) group.buckets[n - 1]![f] += now - before;
        before = now;
        if (edges[n]! > to) break;
      }
      const all = moneyBefore(row, Infinity);
      for (const f of fields) group.total[f] += all;
    }
  return out;
}

/** Rows of a plan with early and with late dates. */
export const rowsOf = (doc: Document, r: Computed): { early: MoneyRow[]; late: MoneyRow[] } => ({ early: moneyRows(doc, r), late: moneyRows(doc, r, true) });

/** Money of each account in the order of the list, at last of what has none; accounts without any are left out. */
export function moneyByAccount(doc: Document, rows: { early: readonly MoneyRow[]; late: readonly MoneyRow[] }, edges: readonly Instant[]): AccountMoney[] {
  const groups = moneyBy(rows, edges, (row) => (row.accountId !== null && doc.accounts.has(row.accountId) ? row.accountId : null));
  return [...ordered(doc, 'accounts').map((a) => a.id), null].flatMap((accountId) => {
    const group = groups.get(accountId);
    return group ? [{ accountId, ...group }] : [];
  });
}

/** What lies at a finish counts before it, so that it is in the minute that ends there. */
function spanOfFlow(f: Flow): [Instant, Instant] {
  if (f.kind === 'lump') return f.before ? [f.at - 1, f.at] : [f.at, f.at + 1];
  const { calendar, from, to } = f.piece;
  return to > from ? [calendar.startInstant(from), calendar.finishInstant(to)] : [from, from + 1];
}

/** First and last instant at which money lies, with early or late dates. */
export function moneySpan(rows: { early: readonly MoneyRow[]; late: readonly MoneyRow[] }): { from: Instant; to: Instant } | undefined {
  let [from, to] = [Infinity, -Infinity];
  for (const row of [...rows.early, ...rows.late]) {
    const span = spanOfRow(row);
    from = Math.min(from, span.from);
    to = Math.max(to, span.to);
  }
  return from <= to ? { from, to } : undefined;
}

function spanOfRow(row: MoneyRow): { from: Instant; to: Instant } {
  let [from, to] = [Infinity, -Infinity];
  for (const f of row.flows) {
    const [a, b] = spanOfFlow(f);
    from = Math.min(from, a);
    to = Math.max(to, b);
  }
  return { from, to };
}
