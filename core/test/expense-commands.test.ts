/** Adding and changing expenses: what follows from quantity, price and rate, what typing a budget takes away, and what the log calls it. */
import { addExpenses, deleteExpenses, type ExpenseFields, setExpenses } from '@yellowhammer/core/commands/expenses';
import type { Document } from '@yellowhammer/core/model/document';
import { type Expense, expenseDefaults } from '@yellowhammer/core/model/money-schema';
import { mustBack, peopledPlan, sure } from './helpers';

/** Two activities; A has an expense of 60, three times 20, and B none. A euro is 8. */
function plan(fields: Partial<Expense> = {}): Document {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '2d', { name: 'dig' }],
        ['B', '2d'],
      ],
    },
    { expenses: [{ rank: 4, name: 'Hire', quantity: 3, price: 20, budget: 60 }] },
  );
  doc.currencies.set('eur', { id: 'eur', rank: 0, name: 'EUR', rate: 8, asOf: '2026-03-01' });
  doc.expenses.set('e0', { ...sure(doc.expenses.get('e0')), ...fields });
  return doc;
}
let n = 0;
const newId = (): string => `n${++n}`;
const label = (o: { ok: boolean; label?: string }): string | undefined => o.label;

test.each<[string, Partial<Expense>, ExpenseFields, Partial<Expense>]>([
  ['another quantity', {}, { quantity: 5 }, { quantity: 5, price: 20, budget: 100 }],
  ['another price, in whole cents', {}, { price: 0.005 }, { budget: 0.02 }],
  ['a budget in the place of the product', {}, { budget: 75 }, { quantity: 3, price: null, budget: 75 }],
  ['a budget with a quantity alone', { price: null }, { budget: 75 }, { quantity: 3, price: null, budget: 75 }],
  ['a budget with a price alone', { quantity: null }, { budget: 75 }, { quantity: null, price: 20, budget: 75 }],
  ['a name, which touches no money', { budget: 1 }, { name: 'Rent' }, { name: 'Rent', price: 20, budget: 60 }],
  ['a currency: the product is in it', {}, { currencyId: 'eur' }, { currencyId: 'eur', foreignBudget: 60, budget: 480 }],
  ['a currency: what there was, by its rate', { quantity: null, price: null }, { currencyId: 'eur' }, { foreignBudget: 7.5, budget: 60 }],
  ['an amount in it', { currencyId: 'eur', foreignBudget: 60, budget: 480 }, { foreignBudget: 2 }, { quantity: 3, price: null, foreignBudget: 2, budget: 16 }],
  ['no currency any more', { currencyId: 'eur', foreignBudget: 60, budget: 480 }, { currencyId: null }, { currencyId: null, foreignBudget: null, budget: 60 }],
])('changed: %s', (_, was, fields, is) => {
  const doc = plan(was);
  expect(label(setExpenses(doc, ['e0'], fields))).toBe('Change Hire');
  expect(mustBack(doc, setExpenses(doc, ['e0'], fields))).toEqual(['e0']);
  expect(doc.expenses.get('e0')).toMatchObject(is);
});

test('added to each once, behind those that are there, as income or expense', () => {
  const doc = plan();
  const made = mustBack(doc, addExpenses(doc, ['A', 'B', 'A', 'gone'], { quantity: 2, price: 7, currencyId: 'eur' }, newId));
  expect(made.map((id) => doc.expenses.get(id))).toEqual(
    ['A', 'B'].map((activityId, i) => ({
      ...expenseDefaults,
      id: made[i],
      activityId,
      rank: i === 0 ? 5 : 0,
      quantity: 2,
      price: 7,
      currencyId: 'eur',
      foreignBudget: 14,
      budget: 112,
    })),
  );
  expect([
    label(addExpenses(doc, ['A'], {}, newId)),
    label(addExpenses(doc, ['A'], { income: true }, newId)),
    label(addExpenses(doc, ['A', 'B'], { income: false }, newId)),
  ]).toEqual(['Add an expense to A dig', 'Add income to A dig', 'Add an expense to 2 activities']);
});

test('what the log calls changes and deletions: by name, else what it is, else how many', () => {
  const doc = plan({ name: '' });
  mustBack(
    doc,
    addExpenses(doc, ['B'], { income: true }, () => 'e1'),
  );
  const changed = { when: 'start' as const };
  expect([
    label(setExpenses(doc, ['e0'], changed)),
    label(setExpenses(doc, ['e1'], changed)),
    label(setExpenses(doc, ['e0', 'e1', 'gone'], changed)),
    label(deleteExpenses(doc, ['e0'])),
    label(deleteExpenses(doc, ['e1', 'gone'])),
    label(deleteExpenses(doc, ['e0', 'e1'])),
  ]).toEqual(['Change expense', 'Change income', 'Change 2 expenses', 'Delete expense', 'Delete income', 'Delete 2 expenses']);
});
