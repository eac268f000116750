/** The table of money: groups with what is in them, the greatest need worked by hand, and what makes a cell. */
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { setCell } from '@yellowhammer/core/commands/cells';
import { rowsOf } from '@yellowhammer/core/cost/money';
import { moneyParts, moneyTable, type MoneyTable, needByMonth, needOf, needText } from '@yellowhammer/core/cost/table';
import { bucketName } from '@yellowhammer/core/load/buckets';
import type { BucketKind } from '@yellowhammer/core/load/buckets';
import type { FieldContext } from '@yellowhammer/core/fields/field';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { must, nodeInto, peopledPlan, putInto, sure, viewIn } from './helpers';

let n = 0;
const newId = (): string => `t${++n}`;

/**
 * Two months of a mason at 30 an hour, then a roof; stone at the start; a grant in three instalments.
 * April 2026 has 22 working days, May 21, June 22; A takes 22 + 11 days, B 10 from there.
 */
const grant = (): Document => {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '33d', {}],
        ['B', '10d', { cost: 900 }],
        ['M', 'finish', {}],
      ],
      links: ['A > B', 'B > M'],
      project: { plannedStart: '2026-04-01T08:00' },
    },
    {
      accounts: [
        { id: 'b', code: '100', name: 'Building' },
        { id: 'l', code: '110', name: 'Labour', parentId: 'b' },
        { id: 'g', code: '200', name: 'Grants' },
      ],
      resources: [{ id: 'ana', accountId: 'l', rates: [{ from: '2026-01-01', perHour: 30 }] }],
      assignments: [{ activityId: 'A', resourceId: 'ana', work: 33 * 480_000 }],
      expenses: [
        { name: 'Stone', budget: 2000, when: 'start', accountId: 'b' },
        { name: 'First part', budget: 3000, income: true, when: 'date', date: '2026-05-04', accountId: 'g' },
        { name: 'Second part', activityId: 'B', budget: 3000, income: true, when: 'finish', accountId: 'g' },
        { name: 'Rest', activityId: 'M', budget: 5000, income: true, when: 'date', date: '2026-07-01', accountId: 'g' },
      ],
    },
  );
  nodeInto(doc, 'W', null, 0);
  nodeInto(doc, 'X', 'W', 0);
  putInto(doc, 'A', 'X', 0);
  putInto(doc, 'B', 'W', 1);
  const set = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  for (const short of ['West', 'East']) must(doc, addCodeValue(doc, set, { short }, newId));
  must(doc, setCell(doc, 'A', `code:${set}`, 'East', newId));
  must(doc, setCell(doc, 'B', `code:${set}`, 'West', newId));
  return doc;
};
const contextOf = (doc: Document): FieldContext => ({ doc, view: viewIn(doc), baseline: null, clock: false });
function table(doc: Document, by: string, kind: BucketKind = 'month', base: Document | null = null): MoneyTable {
  // The plans here are changed past all commands.
  forgetIndex(doc);
  const r = sure(schedule(doc).computed);
  const t = moneyTable(contextOf(doc), r, rowsOf(doc, r), by, { kind, weekStart: 0 }, base && rowsOf(base, sure(schedule(base).computed)));
  if (typeof t === 'string') throw new Error(t);
  return t;
}
const told = (t: MoneyTable, field: 'cost' | 'income'): string[] =>
  t.lines.map((l) => `${' '.repeat(l.depth)}${l.name}: ${l.cells.map((c) => c[field] / 100).join(' ')} = ${l.total[field] / 100}`);

test('by account: those above hold what lies in them, and what has none comes last', () => {
  const t = table(grant(), 'account');
  expect(t.edges.slice(0, -1).map((e) => bucketName('month', e))).toEqual(['Apr 2026', 'May 2026', 'Jun 2026', 'Jul 2026']);
  // April: 22 days of 240 and the stone; May: 11 days, then 10 of B at 90 a day.
  expect(told(t, 'cost')).toEqual(['100 Building: 7280 2640 0 0 = 9920', ' 110 Labour: 5280 2640 0 0 = 7920', '200 Grants: 0 0 0 0 = 0', 'No account: 0 900 0 0 = 900']);
  expect(told(t, 'income')[2]).toBe('200 Grants: 0 6000 0 5000 = 11000');
  expect([t.cells.map((c) => c.cost / 100), t.total.cost / 100, t.total.income / 100]).toEqual([[7280, 3540, 0, 0], 10820, 11000]);
});

test('the greatest need: the end of April, and June where the second part comes late', () => {
  // April 7,280; May 7,280 + 3,540 - 6,000 = 4,820; then the same, and -180 in July.
  expect(table(grant(), 'account').need).toMatchObject({ amount: 728_000 });
  const doc = grant();
  doc.expenses.set('e1', { ...sure(doc.expenses.get('e1')), when: 'date', date: '2026-06-01' });
  doc.expenses.set('e2', { ...sure(doc.expenses.get('e2')), when: 'date', date: '2026-08-01' });
  const need = sure(table(doc, 'account').need);
  expect([bucketName('month', need.from), need.amount / 100]).toEqual(['May 2026', 10_820]);
  expect(needByMonth(rowsOf(doc, sure(schedule(doc).computed)).early)).toEqual(need);
  for (const e of [...doc.expenses.values()]) doc.expenses.set(e.id, { ...e, income: false });
  doc.expenses.set('first', { ...sure(doc.expenses.get('e1')), id: 'first', income: true, budget: 1e6, when: 'date', date: '2026-03-01' });
  expect(table(doc, 'account').need).toBeNull();
});

test('of equal needs the first is told', () => {
  const cells = [5, 0, 0, -5, 5].map((cost) => ({ cost, income: 0 }));
  expect(needOf([0, 1, 2, 3, 4, 5], cells)).toEqual({ from: 0, to: 1, amount: 5 });
});

test('what lies beside a node is no part of it', () => {
  const doc = grant();
  nodeInto(doc, 'Y', 'W', 1);
  putInto(doc, 'B', 'Y', 0);
  expect(told(table(doc, 'wbs'), 'cost').map((l) => l.replace(/:.*= /, ' '))).toEqual(['1 W 10820', ' 1.1 X 9920', ' 1.2 Y 900', 'In no WBS node 0']);
});

test.each([
  [728_000, 728_000, 'The greatest need of money holds: 7,280 at the end of Apr 2026.'],
  [728_000, 910_050, 'The greatest need of money: 7,280 at the end of Apr 2026 before, now 9,100.50 at the end of Apr 2026.'],
  [null, 5, 'The greatest need of money: none before, now 0.05 at the end of Apr 2026.'],
])('what became of the need, %s and %s', (before, after, words) => {
  const { edges } = table(grant(), 'account');
  const need = (amount: number | null) => (amount === null ? null : { from: edges[0]!, to: edges[1]!, amount });
  expect(needText(need(before), need(after))).toBe(words);
});

test('by WBS, by who, by activity and by a code: the same sums, each in its order', () => {
  const doc = grant();
  const set = [...doc.codeSets.keys()][0]!;
  expect(told(table(doc, 'wbs'), 'cost').map((l) => l.replace(/:.*= /, ' '))).toEqual(['1 W 10820', ' 1.1 X 9920', 'In no WBS node 0']);
  expect(told(table(doc, 'who'), 'cost').map((l) => l.replace(/:.*= /, ' '))).toEqual(['ana 7920', 'Expenses and income 2000', 'Lump sums 900']);
  expect(told(table(doc, `code:${set}`), 'cost').map((l) => l.replace(/:.*= /, ' '))).toEqual(['West 900', 'East 9920', 'No area 0']);
  expect(table(doc, 'activity').lines).toHaveLength(3);
  for (const by of ['account', 'wbs', 'who', 'activity', `code:${set}`, 'responsible'])
    for (const kind of ['day', 'week', 'month', 'quarter'] as const) {
      const t = table(doc, by, kind);
      expect([by, kind, t.total.cost, t.total.income, t.cells.reduce((s, c) => s + c.cost, 0)]).toEqual([by, kind, 1_082_000, 1_100_000, 1_082_000]);
      expect(t.lines.filter((l) => l.depth === 0).reduce((s, l) => s + l.total.cost, 0)).toBe(1_082_000);
    }
});

test('what makes a cell adds up to it, of a group with what lies in it', () => {
  const doc = grant();
  const r = sure(schedule(doc).computed);
  const t = table(doc, 'account');
  const parts = (key: string | null, column: number, most = 10) => moneyParts(contextOf(doc), rowsOf(doc, r), 'account', key, t.edges[column]!, t.edges[column + 1]!, most);
  expect(parts('b', 0).parts.map((p) => [p.activity, p.what, p.account, p.remaining / 100])).toEqual([
    ['A A', 'ana', '110 Labour', 5280],
    ['A A', 'Stone', '100 Building', 2000],
  ]);
  expect(parts('', 1).parts.map((p) => [p.what, p.remaining / 100])).toEqual([['lump sum', 900]]);
  expect([parts(null, 1).parts.length, parts(null, 1, 3).parts.length, parts(null, 1, 3).more]).toEqual([4, 3, 1]);
  expect(parts('g', 1).parts.every((p) => p.income)).toBe(true);
});

test('the baseline lies behind; a plan over its year end moves its money there', () => {
  const doc = grant();
  const base = copyDocument(doc);
  doc.activities.set('A', { ...sure(doc.activities.get('A')), constraints: [{ kind: 'startNotBefore', date: '2026-12-01' }] });
  const t = table(doc, 'account', 'year', base);
  expect([t.baseline?.map((b) => b.cost / 100), t.cells.map((c) => c.cost / 100)]).toEqual([
    [10_820, 0],
    // 23 days of December and the stone; ten days of January, and the roof.
    [23 * 240 + 2000, 10 * 240 + 900],
  ]);
  expect(table(doc, 'account', 'year').baseline).toBeNull();
});

test('more columns than anybody reads are refused', () => {
  const doc = grant();
  doc.expenses.set('far', { ...sure(doc.expenses.get('e1')), id: 'far', date: '2030-01-01' });
  forgetIndex(doc);
  const r = sure(schedule(doc).computed);
  expect(moneyTable(contextOf(doc), r, rowsOf(doc, r), 'account', { kind: 'day', weekStart: 0 }, null)).toContain('600 columns');
});
