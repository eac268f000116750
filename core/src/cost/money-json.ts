/** Money as plain JSON: what `npm run -s calc -- FILE --money BUCKET` prints. Format: docs/file-format.md. */
import { type Document, projectOf } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { type Bucketing, edgesOf } from '../load/buckets.ts';
import { formatInstant, type Instant } from '../time/instant.ts';
import { addFigures, type Figures, moneyByAccount, moneySpan, noFigures, rowsOf } from './money.ts';

/** Hundredths as an amount with two decimals. */
const amount = (hundredths: number): number => hundredths / 100;

const figuresJson = (f: Figures): Record<string, number> => ({
  cost: amount(f.cost),
  income: amount(f.income),
  budget: amount(f.budget),
  incomeBudget: amount(f.incomeBudget),
  actual: amount(f.actual),
  incomeActual: amount(f.incomeActual),
  remaining: amount(f.cost - f.actual),
  atCompletion: amount(f.cost),
  early: amount(f.cost),
  late: amount(f.lateCost),
  lateIncome: amount(f.lateIncome),
});

/** Accounts by bucket with totals, in the project's currency; a text where there would be too many buckets. */
export function moneyJson(doc: Document, r: Computed, bucketing: Bucketing, from: Instant | undefined, to: Instant | undefined): Record<string, unknown> | string {
  const rows = rowsOf(doc, r);
  const span = moneySpan(rows);
  const first = from ?? span?.from ?? r.network.projectFloor;
  const last = Math.max(to ?? span?.to ?? first + 1, first + 1);
  const edges = edgesOf(bucketing, first, last);
  if (!edges) return 'that is more than 200,000 buckets; choose larger ones, or a shorter span';
  const accounts = moneyByAccount(doc, rows, edges);
  const buckets = edges.slice(1).map(noFigures);
  const total = noFigures();
  for (const a of accounts) {
    a.buckets.forEach((f, n) => addFigures(buckets[n]!, f));
    addFigures(total, a.total);
  }
  const listed = (list: readonly Figures[]): unknown[] => list.map((f, n) => ({ from: formatInstant(edges[n]!), to: formatInstant(edges[n + 1]!), ...figuresJson(f) }));
  return {
    bucket: bucketing.kind,
    currency: projectOf(doc).currency,
    from: formatInstant(edges[0]!),
    to: formatInstant(edges[edges.length - 1]!),
    accounts: accounts.map((a) => ({
      id: a.accountId,
      code: a.accountId === null ? '' : (doc.accounts.get(a.accountId)?.code ?? ''),
      name: a.accountId === null ? 'no account' : (doc.accounts.get(a.accountId)?.name ?? ''),
      total: figuresJson(a.total),
      buckets: listed(a.buckets),
    })),
    buckets: listed(buckets),
    total: figuresJson(total),
  };
}
