/** Money: accounts, and the expenses and income of activities (resource rules, section 7). */
import { z } from 'zod';
import { day, id, money, name, rank, text } from './schema.ts';

export const accountSchema = z.object({ id, rank, parentId: id.nullable(), code: text(40), name: name.min(1), sharedId: id.nullable() });
/** What costs and income are booked to; accounts lie in accounts. */
export type Account = z.infer<typeof accountSchema>;

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
  /** Quantity times price is the budget, where both are given. */
  quantity: z.number().min(0).max(1e9).nullable(),
  price: money.nullable(),
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
} satisfies Partial<Expense>;
