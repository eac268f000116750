/** Fields of money: what an activity costs and brings in, by assignments, expenses and its lump sum together. */
import { costAt, type Costs } from '../cost/costs.ts';
import { assignedTo, resourceOf } from '../model/assigned.ts';
import { indexOf } from '../model/doc-index.ts';
import { labelOf } from '../model/document.ts';
import { amountText, readAmount } from './amounts.ts';
import type { ActivityCell, Field } from './field.ts';
import { field } from './field.ts';

/** Whole cost of an activity at completion. */
const costOf = ({ view, i, a }: ActivityCell): number => costAt(view?.costs, i, a);

type Share = (c: Costs, i: number, lump: number) => number;
/** Figures in hundredths; where nothing is computed yet, only the lump sum is known. */
const figure = (cell: ActivityCell, share: Share): number | null =>
  cell.view && cell.i !== undefined ? share(cell.view.costs, cell.i, Math.round(cell.a.cost * 100)) / 100 : null;

const shares: [key: string, title: string, about: string, share: Share][] = [
  ['budget', 'Budget', 'What was planned to be spent: by assignments at their rates, expenses and the lump sum.', (c, i, lump) => lump + c.budget[i]!],
  ['actualCost', 'Actual cost', 'What is spent up to now, as entered or as it follows from the progress.', (c, i) => c.actual[i]!],
  ['remainingCost', 'Remaining cost', 'What is still to be spent: the cost at completion less the actual.', (c, i, lump) => lump + c.assigned[i]! + c.spent[i]! - c.actual[i]!],
  ['committed', 'Committed', 'What is ordered or agreed of the expenses.', (c, i) => c.committed[i]!],
  ['costVariance', 'Budget less cost', 'Budget less cost at completion: below 0, it costs more than was planned.', (c, i) => c.budget[i]! - c.assigned[i]! - c.spent[i]!],
  ['assignedCost', 'Cost of assignments', 'What those who are assigned cost, by rate, price and use.', (c, i) => c.assigned[i]!],
  ['expensesCost', 'Expenses', 'What the expenses cost, without the lump sum.', (c, i) => c.spent[i]!],
  ['income', 'Income', 'What comes in by the activity.', (c, i) => c.income[i]!],
  ['incomeActual', 'Income received', 'What has come in.', (c, i) => c.incomeActual[i]!],
];

const share = ([key, title, about, of]: (typeof shares)[number]): Field =>
  field<number>({ key, title, about, kind: 'money', group: 'Money', width: 84, computed: true, sum: 'sum', value: (cell) => figure(cell, of) });

const percentOfCost = (spent: number | null, all: number): number | null => (spent === null || all <= 0 ? null : Math.round((spent / all) * 1000) / 10);

export const moneyFields: Field[] = [
  field<number>({
    key: 'cost',
    title: 'Cost',
    about: 'The whole cost at completion: assignments, expenses, and the lump sum, which is what typing here sets.',
    kind: 'money',
    group: 'Money',
    width: 76,
    paper: 52,
    stored: 'cost',
    sum: 'sum',
    inspector: true,
    value: costOf,
    edit: (cell) => (costOf(cell) === 0 ? '' : String(costOf(cell))),
    node: ({ rollup }) => rollup?.cost ?? null,
    read(text, cell) {
      const n = readAmount(text);
      if (n === undefined) return { error: `${text} cannot be read as an amount.` };
      const { a } = cell;
      // In hundredths: what is there beside the lump sum.
      const others = Math.round(costOf(cell) * 100) - Math.round(a.cost * 100);
      const lump = (n === null ? 0 : Math.round(n * 100) - others) / 100;
      if (n !== null && others > 0 && lump < 0)
        return {
          error: `${labelOf(a)} costs ${amountText(others / 100)} by its assignments and expenses already; type that or more, or change them.`,
        };
      return { fields: { cost: lump } };
    },
    hint(cell) {
      const others = Math.round(costOf(cell) * 100) - Math.round(cell.a.cost * 100);
      return others === 0 ? undefined : `${amountText(others / 100)} of it are assignments and expenses; the rest is its lump sum.`;
    },
  }),
  ...shares.map(share),
  field<number>({
    key: 'costPercent',
    title: 'Percent of cost',
    about: 'How much of the cost at completion is spent.',
    kind: 'percent',
    group: 'Money',
    width: 76,
    computed: true,
    sum: 'none',
    value: (cell) =>
      percentOfCost(
        figure(cell, (c, i) => c.actual[i]!),
        costOf(cell),
      ),
    // Of a node: of what all of it costs together.
    node({ sums, node }) {
      const of = (key: string): number | null => (sums?.of(moneyFields.find((f) => f.key === key) as Field, node.id) as number | null | undefined) ?? null;
      return percentOfCost(of('actualCost'), of('cost') ?? 0);
    },
  }),
  field<string>({
    key: 'accounts',
    title: 'Accounts',
    about: 'What its costs and income are booked to.',
    kind: 'text',
    group: 'Money',
    width: 110,
    computed: true,
    sum: 'same',
    value({ doc, a }) {
      const ids = new Set<string>();
      for (const e of indexOf(doc).expensesOf(a.id)) if (e.accountId !== null) ids.add(e.accountId);
      for (const x of assignedTo(doc, a)) {
        const who = x.resourceId !== null ? resourceOf(doc, x) : doc.roles.get(x.roleId ?? '');
        const own = x.accountId ?? who?.accountId ?? null;
        if (own !== null) ids.add(own);
        else for (const e of who?.rates ?? []) if (e.accountId !== null) ids.add(e.accountId);
      }
      const names = [...ids].flatMap((id) => doc.accounts.get(id)?.name ?? []);
      return names.length ? names.join(', ') : null;
    },
  }),
  field<number>({
    key: 'baselineCost',
    title: 'Baseline cost',
    about: 'The whole cost in the baseline that is compared with.',
    kind: 'money',
    group: 'Money',
    width: 92,
    computed: true,
    sum: 'sum',
    value: ({ baseline, a }) => baseline?.dates.get(a.id)?.cost ?? null,
    node: ({ baseline, node }) => baseline?.nodes.get(node.id)?.cost ?? null,
  }),
];
