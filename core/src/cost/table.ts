/**
 * Money as a table of groups by buckets, with what its graph needs: totals of each bucket, early and late, the baseline's,
 * and when the need of money is greatest. Every cell is a sum of the same rounded rows, so that all of them agree.
 */
import { accountLabel, accountTree } from '../commands/accounts.ts';
import { type FieldContext, showField, valueOf } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
import { orderIn } from '../fields/sort.ts';
import { amountText } from '../fields/amounts.ts';
import { bucketName, type Bucketing, edgesOf } from '../load/buckets.ts';
import { type Document, labelOf, ordered } from '../model/document.ts';
import { outlineRows } from '../outline/outline.ts';
import type { Computed } from '../schedule/compute.ts';
import type { Instant } from '../time/instant.ts';
import { addFigures, type Figures, moneyBy, moneySpan, noFigures } from './money.ts';
import { moneyBefore, type MoneyRow } from './parts.ts';

export interface MoneyRows {
  early: readonly MoneyRow[];
  late: readonly MoneyRow[];
}

/** `account`, `wbs`, `who`, `activity`, or the key of a field of activities. */
export type GroupBy = string;

export interface MoneyLine {
  key: string;
  name: string;
  depth: number;
  /** Hundredths, with what lies below it. */
  cells: Figures[];
  total: Figures;
}

export interface MoneyTable {
  edges: Instant[];
  lines: MoneyLine[];
  /** Each bucket, and all. */
  cells: Figures[];
  total: Figures;
  /** Cost and income of the baseline in each bucket, in hundredths; null without one. */
  baseline: { cost: number; income: number }[] | null;
  need: Need | null;
}

/** When what is spent is furthest ahead of what has come in: at the end of a bucket. Hundredths. */
export interface Need {
  from: Instant;
  to: Instant;
  amount: number;
}

/** More buckets than these are no table to look at. */
export const MOST_COLUMNS = 600;

interface Place {
  key: string;
  name: string;
  depth: number;
}
interface Grouping {
  keyOf(row: MoneyRow): string;
  /** All groups in order, each before what is in it. */
  places(keys: ReadonlySet<string>): Place[];
}

const NONE = '';

/** How rows of money are parted. */
export function groupingOf(context: FieldContext, by: GroupBy): Grouping {
  const { doc } = context;
  const activityOf = (row: MoneyRow) => doc.activities.get(row.activityId);
  const flat = (keyOf: Grouping['keyOf'], list: () => Place[]): Grouping => ({ keyOf, places: (keys) => list().filter((p) => keys.has(p.key)) });
  if (by === 'account')
    return {
      keyOf: (row) => (row.accountId !== null && doc.accounts.has(row.accountId) ? row.accountId : NONE),
      places: () => [...accountTree(doc).map(({ account, depth }) => ({ key: account.id, name: accountLabel(doc, account), depth })), { key: NONE, name: 'No account', depth: 0 }],
    };
  if (by === 'wbs')
    return {
      keyOf: (row) => activityOf(row)?.wbsId ?? NONE,
      places: () => [
        ...outlineRows(doc).flatMap((r) => (r.kind === 'wbs' ? [{ key: r.id, name: `${r.code} ${r.node.name}`, depth: r.depth }] : [])),
        { key: NONE, name: 'In no WBS node', depth: 0 },
      ],
    };
  if (by === 'who')
    return flat(
      (row) => {
        if (row.source !== 'assignment') return row.source;
        const x = doc.assignments.get(row.id);
        return x ? `${x.resourceId ?? x.roleId ?? ''}` : NONE;
      },
      () => [
        ...[...ordered(doc, 'resources'), ...ordered(doc, 'roles')].map((r) => ({ key: r.id, name: r.name, depth: 0 })),
        { key: 'expense', name: 'Expenses and income', depth: 0 },
        { key: 'lump', name: 'Lump sums', depth: 0 },
      ],
    );
  if (by === 'activity')
    return flat(
      (row) => row.activityId,
      () => outlineRows(doc).flatMap((r) => (r.kind === 'activity' ? [{ key: r.id, name: labelOf(r.activity), depth: 0 }] : [])),
    );
  const f = fieldOf(doc, by);
  const texts = new Map<string, string>();
  const first = new Map<string, string>();
  const keyOf = (row: MoneyRow): string => {
    const a = activityOf(row);
    let text = texts.get(row.activityId);
    if (text === undefined) {
      text = f && a ? showField(f, activityCell(context, a)) : NONE;
      texts.set(row.activityId, text);
      if (a && !first.has(text)) first.set(text, a.id);
    }
    return text;
  };
  return {
    keyOf,
    places(keys) {
      const order = f && orderIn(f, doc);
      const value = (text: string) => {
        const a = doc.activities.get(first.get(text) ?? '');
        return a && f && order ? order(valueOf(f, activityCell(context, a))) : null;
      };
      const sorted = [...keys].map((key) => ({ key, value: value(key) }));
      sorted.sort((x, y) => {
        if (x.value === null || y.value === null) return x.value === y.value ? 0 : x.value === null ? 1 : -1;
        if (typeof x.value === 'number' && typeof y.value === 'number') return x.value - y.value;
        return String(x.value).localeCompare(String(y.value), 'en', { numeric: true });
      });
      return sorted.map(({ key }) => ({ key, name: key === NONE ? `No ${f?.title.toLowerCase() ?? 'value'}` : key, depth: 0 }));
    },
  };
}

/** The table; a text where there would be too many columns. `baseline`: rows of money of the baseline, if there is one. */
export function moneyTable(context: FieldContext, r: Computed, rows: MoneyRows, by: GroupBy, bucketing: Bucketing, baseline: MoneyRows | null): MoneyTable | string {
  const span = moneySpan(rows);
  const theirs = baseline && moneySpan(baseline);
  const from = Math.min(span?.from ?? r.network.projectFloor, theirs?.from ?? Infinity);
  const to = Math.max(span?.to ?? from + 1, theirs?.to ?? -Infinity, from + 1);
  const edges = edgesOf(bucketing, from, to);
  if (!edges || edges.length > MOST_COLUMNS + 1) return `That would be more than ${MOST_COLUMNS} columns. Choose longer buckets.`;
  const grouping = groupingOf(context, by);
  const groups = moneyBy(rows, edges, grouping.keyOf);
  const places = grouping.places(new Set(groups.keys()));
  const lines: MoneyLine[] = places.map((p) => ({ ...p, cells: edges.slice(1).map(noFigures), total: noFigures() }));
  const cells = edges.slice(1).map(noFigures);
  const total = noFigures();
  const there = new Set<number>();
  lines.forEach((line, n) => {
    const own = groups.get(line.key);
    if (!own) return;
    // Those above have it as well: the nearest before it of each lesser depth.
    const chain = [n];
    for (let m = n - 1, depth = line.depth; m >= 0 && depth > 0; m--)
      if (lines[m]!.depth < depth) {
        chain.push(m);
        depth = lines[m]!.depth;
      }
    for (const m of chain) {
      there.add(m);
      own.buckets.forEach((f, b) => addFigures(lines[m]!.cells[b]!, f));
      addFigures(lines[m]!.total, own.total);
    }
    own.buckets.forEach((f, b) => addFigures(cells[b]!, f));
    addFigures(total, own.total);
  });
  const kept = baseline && [...moneyBy(baseline, edges, () => 0).values()][0];
  return {
    edges,
    lines: lines.filter((_, n) => there.has(n)),
    cells,
    total,
    baseline: baseline && (kept?.buckets ?? edges.slice(1).map(noFigures)).map(({ cost, income }) => ({ cost, income })),
    need: needOf(edges, cells),
  };
}

/** When and how much the greatest need is; null where what has come in always suffices. The first of equal ones. */
export function needOf(edges: readonly Instant[], cells: readonly Pick<Figures, 'cost' | 'income'>[]): Need | null {
  let need: Need | null = null;
  let sum = 0;
  cells.forEach((f, n) => {
    sum += f.cost - f.income;
    if (sum > (need?.amount ?? 0)) need = { from: edges[n]!, to: edges[n + 1]!, amount: sum };
  });
  return need;
}

/** The greatest need by months of rows with early dates. */
export function needByMonth(rows: MoneyRows['early']): Need | null {
  const span = moneySpan({ early: rows, late: [] });
  const edges = span && edgesOf({ kind: 'month', weekStart: 0 }, span.from, span.to);
  const all = edges && [...moneyBy({ early: rows, late: [] }, edges, () => 0).values()][0];
  return all && edges ? needOf(edges, all.buckets) : null;
}

/** What became of the greatest need of money by months, in a sentence. */
export function needText(before: Need | null, after: Need | null): string {
  const told = (n: Need | null): string => (n ? `${amountText(n.amount / 100)} at the end of ${bucketName('month', n.from)}` : 'none');
  if (before?.amount === after?.amount && before?.from === after?.from) return `The greatest need of money holds: ${told(after)}.`;
  return `The greatest need of money: ${told(before)} before, now ${told(after)}.`;
}

/** One row of what a cell is made of. Hundredths; income counts with its own sign. */
export interface MoneyPart {
  activityId: string;
  activity: string;
  /** Who, or what for. */
  what: string;
  account: string;
  income: boolean;
  /** Spent or received, and still to come. */
  actual: number;
  remaining: number;
}

/** What makes a cell, the largest first: rows of one group (undefined: all) and those in it between two instants. */
export function moneyParts(
  context: FieldContext,
  rows: MoneyRows,
  by: GroupBy,
  key: string | null,
  from: Instant,
  to: Instant,
  most: number,
): { parts: MoneyPart[]; more: number } {
  const { doc } = context;
  const grouping = groupingOf(context, by);
  const wanted = key === null ? null : within(grouping, rows, key);
  const found = new Map<string, MoneyPart>();
  for (const row of rows.early) {
    if (row.part === 'budget' || (wanted && !wanted.has(grouping.keyOf(row)))) continue;
    const amount = moneyBefore(row, to) - moneyBefore(row, from);
    if (amount === 0) continue;
    const id = `${row.source} ${row.id} ${row.accountId ?? ''}`;
    let part = found.get(id);
    if (!part) {
      const a = doc.activities.get(row.activityId);
      const account = doc.accounts.get(row.accountId ?? '');
      part = {
        activityId: row.activityId,
        activity: a ? labelOf(a) : '',
        what: whatOf(doc, row),
        account: account ? accountLabel(doc, account) : '',
        income: row.income,
        actual: 0,
        remaining: 0,
      };
      found.set(id, part);
    }
    part[row.part] += amount;
  }
  const parts = [...found.values()].sort((a, b) => Math.abs(b.actual + b.remaining) - Math.abs(a.actual + a.remaining));
  return { parts: parts.slice(0, most), more: Math.max(0, parts.length - most) };
}

/** The keys of a group and of those in it. */
function within(grouping: Grouping, rows: MoneyRows, key: string): Set<string> {
  const places = grouping.places(new Set(rows.early.map((r) => grouping.keyOf(r))));
  const at = places.findIndex((p) => p.key === key);
  const out = new Set([key]);
  for (let n = at + 1; at >= 0 && n < places.length && places[n]!.depth > places[at]!.depth; n++) out.add(places[n]!.key);
  return out;
}

function whatOf(doc: Document, row: MoneyRow): string {
  if (row.source === 'lump') return 'lump sum';
  if (row.source === 'expense') return doc.expenses.get(row.id)?.name || (row.income ? 'income' : 'expense');
  const x = doc.assignments.get(row.id);
  return (x && (x.resourceId !== null ? doc.resources.get(x.resourceId)?.name : doc.roles.get(x.roleId ?? '')?.name)) ?? '';
}
