/** Expenses and income of activities: adding, changing, typing into a table of them, deleting (resource rules, section 7). */
import { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, labelOf } from '../model/document.ts';
import { type Currency, type Expense, expenseDefaults } from '../model/money-schema.ts';
import { count, type NewId, type Outcome, refused, settled } from './result.ts';

const cents = (n: number): number => Math.round(n * 100) / 100;

/**
 * An expense with what follows in it: quantity times price is the amount in the currency of the row, and the budget is that
 * amount in the project's currency by the fixed rate. `currency`: the one that the row names, if any.
 */
export function settledExpense(e: Expense, currency: Currency | undefined): Expense {
  const product = e.quantity !== null && e.price !== null ? cents(e.quantity * e.price) : null;
  if (!currency) return { ...e, currencyId: null, foreignBudget: null, budget: product ?? e.budget };
  const foreignBudget = product ?? e.foreignBudget ?? cents(e.budget / currency.rate);
  return { ...e, foreignBudget, budget: cents(foreignBudget * currency.rate) };
}

const settleIn = (doc: Document, e: Expense): Expense => settledExpense(e, doc.currencies.get(e.currencyId ?? ''));

export type ExpenseFields = Partial<Omit<Expense, 'id' | 'rank' | 'activityId'>>;

/** An expense or income of each of many activities. */
export function addExpenses(doc: Document, activityIds: readonly string[], fields: ExpenseFields, newId: NewId): Outcome {
  const all = [...new Set(activityIds)].flatMap((id) => doc.activities.get(id) ?? []);
  const [first] = all;
  if (!first) return refused('NOTHING_SELECTED', 'Select activities first.');
  const draft = new Draft(doc);
  const made = all.map((a) => {
    const id = newId();
    const rank = indexOf(doc)
      .expensesOf(a.id)
      .reduce((n, e) => Math.max(n, e.rank + 1), 0);
    draft.set('expenses', id, settleIn(doc, { ...expenseDefaults, ...fields, id, rank, activityId: a.id }));
    return id;
  });
  return settled(doc, `Add ${fields.income ? 'income' : 'an expense'} to ${all.length === 1 ? labelOf(first) : count(all.length, 'activity')}`, draft.changes, made);
}

const gone = refused('UNKNOWN_EXPENSE', 'That expense is not there any more.');

/** Changes fields of expenses; all or nothing. Typing a budget takes the place of quantity times price. */
export function setExpenses(doc: Document, ids: readonly string[], fields: ExpenseFields | ((e: Expense) => ExpenseFields)): Outcome {
  const draft = new Draft(doc);
  const rows = ids.flatMap((id) => doc.expenses.get(id) ?? []);
  const [first] = rows;
  if (!first) return gone;
  for (const e of rows) {
    const put = typeof fields === 'function' ? fields(e) : fields;
    const typed = put.budget !== undefined || put.foreignBudget !== undefined;
    draft.set('expenses', e.id, settleIn(doc, { ...e, ...put, ...(typed && e.quantity !== null && e.price !== null ? { price: null } : {}) }));
  }
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'It is so already.');
  const what = first.name || (first.income ? 'income' : 'expense');
  return settled(doc, rows.length === 1 ? `Change ${what}` : `Change ${count(rows.length, 'expense')}`, draft.changes, [...ids]);
}

export function deleteExpenses(doc: Document, ids: readonly string[]): Outcome {
  const rows = ids.flatMap((id) => doc.expenses.get(id) ?? []);
  const [first] = rows;
  if (!first) return gone;
  const draft = new Draft(doc);
  for (const e of rows) draft.set('expenses', e.id, null);
  const what = first.name || (first.income ? 'income' : 'expense');
  return settled(doc, rows.length === 1 ? `Delete ${what}` : `Delete ${count(rows.length, 'expense')}`, draft.changes);
}
