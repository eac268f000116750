/** Fields of money. */
import { field } from './field.ts';

export const moneyFields = [
  field<number>({
    key: 'cost',
    title: 'Cost',
    about: 'Budgeted cost, in the currency of the project.',
    kind: 'money',
    group: 'Money',
    width: 76,
    paper: 52,
    stored: 'cost',
    sum: 'sum',
    inspector: true,
    value: ({ a }) => a.cost,
    edit: ({ a }) => (a.cost === 0 ? '' : String(a.cost)),
    node: ({ rollup }) => rollup?.cost ?? null,
    read(text) {
      const n = text === '' ? 0 : Number(text.replace(/[\s,]/g, ''));
      return Number.isFinite(n) && Math.abs(n) <= 1e12 ? { fields: { cost: n } } : { error: `${text} cannot be read as an amount.` };
    },
  }),
  field<number>({
    key: 'baselineCost',
    title: 'Baseline cost',
    about: 'Budgeted cost in the baseline that is compared with.',
    kind: 'money',
    group: 'Money',
    width: 92,
    computed: true,
    sum: 'sum',
    value: ({ baseline, a }) => baseline?.dates.get(a.id)?.cost ?? null,
    node: ({ baseline, node }) => baseline?.nodes.get(node.id)?.cost ?? null,
  }),
];
