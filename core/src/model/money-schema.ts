/** Money: accounts, and the expenses and income of activities (resource rules, section 7). */
import { z } from 'zod';
import { day, id, money, name, rank, text } from './schema.ts';

export const accountSchema = z.object({ id, rank, parentId: id.nullable(), code: text(40), name: name.min(1), sharedId: id.nullable() });
/** What costs and income are booked to; accounts lie in accounts. */
export type Account = z.infer<typeof accountSchema>;

export const currencySchema = z.object({
  id,
  rank,
  /** As it is told beside amounts: EUR. */
  name: z.string().trim().min(1, 'a currency needs a name').max(10),
  /** What one of it is worth in the project's currency, as it was fixed, and on which day. */
  rate: z.number().gt(0, 'a rate is above 0').max(1e6),
  asOf: day,
});
/** Another currency than the project's, with its rate as it was fixed. */
export type Currency = z.infer<typeof currencySchema>;

export const whens = ['start', 'finish', 'date', 'even'] as const;
export type When = (typeof whens)[number];

export const expenseSchema = z.object({
  id,
  rank,
  activityId: id,
  name,
  accountId: id.nullable(),
  /** Money that comes in; false: a cost. */
  income: z.boolean(),
  budget: money,
  /** Ordered or agreed, in the project's currency. */
  committed: money,
  /** Entered; null: as it follows from the progress. */
  actual: money.nullable(),
  remaining: money.nullable(),
  when: z.enum(whens),
  /** Where it is on a date. */
  date: day.nullable(),
  /** Quantity times price is the budget, where both are given; the price is in the currency of the row. */
  quantity: z.number().min(0).max(1e9).nullable(),
  price: money.nullable(),
  /** Null: the project's currency. Else the budget in that currency, from which the budget above follows by its rate. */
  currencyId: id.nullable(),
  foreignBudget: money.nullable(),
});
/** A cost or an income of an activity beside its assignments. */
export type Expense = z.infer<typeof expenseSchema>;

/** What a plain expense has in the fields that need not be told. */
export const expenseDefaults = {
  name: '',
  accountId: null,
  income: false,
  budget: 0,
  committed: 0,
  actual: null,
  remaining: null,
  when: 'even',
  date: null,
  quantity: null,
  price: null,
  currencyId: null,
  foreignBudget: null,
} satisfies Partial<Expense>;
