/** What rows of another project are booked to, and in which currency: found by number or name, and brought along where it is not there. */
import type { Draft } from '../change/change.ts';
import { indexOf } from '../model/doc-index.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Account, Currency, Expense } from '../model/money-schema.ts';
import type { Resource, Role } from '../model/resource-schema.ts';
import type { Activity } from '../model/schema.ts';
import { settledExpense } from './expenses.ts';
import type { NewId } from './result.ts';

/** Accounts, with those above them, and currencies that activities and who does them name. */
export function moneyIn(doc: Document, activities: readonly Pick<Activity, 'id'>[], who: readonly (Resource | Role)[]): { accounts: Account[]; currencies: Currency[] } {
  const accounts = new Set<Account>();
  const currencies = new Set<Currency>();
  const use = (id: string | null | undefined): void => {
    for (let a = doc.accounts.get(id ?? ''); a && !accounts.has(a); a = doc.accounts.get(a.parentId ?? '')) accounts.add(a);
  };
  for (const a of activities) {
    for (const x of indexOf(doc).assignmentsOf(a.id)) use(x.accountId);
    for (const e of indexOf(doc).expensesOf(a.id)) {
      use(e.accountId);
      const c = doc.currencies.get(e.currencyId ?? '');
      if (c) currencies.add(c);
    }
  }
  for (const r of who) for (const e of [r, ...r.rates, ...('prices' in r ? r.prices : [])]) use(e.accountId);
  return { accounts: ordered(doc, 'accounts').filter((a) => accounts.has(a)), currencies: [...currencies] };
}

/** What stands here for accounts and expenses of another project. */
export interface Booked {
  account(id: string | null | undefined): string | null;
  expense(e: Expense): Expense;
}

/** In the same project: what is there still. */
export const bookedHere = (draft: Draft): Booked => {
  const account = (id: string | null | undefined): string | null => (id && draft.get('accounts', id) ? id : null);
  return {
    account,
    expense: (e) => ({
      ...e,
      accountId: account(e.accountId),
      ...(e.currencyId !== null && !draft.get('currencies', e.currencyId) ? { currencyId: null, foreignBudget: null } : {}),
    }),
  };
};

const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

/** Puts what is named into a draft of another project. */
export function bringMoney(draft: Draft, theirs: { accounts: readonly Account[]; currencies: readonly Currency[] }, newId: NewId): Booked {
  const { doc } = draft;
  const known = new Map<string, string>();
  let rank = ordered(doc, 'accounts').reduce((n, a) => Math.max(n, a.rank), -1);
  const account = (id: string | null | undefined, depth = 0): string | null => {
    const row = theirs.accounts.find((a) => a.id === id);
    if (!row || depth > 50) return null;
    const had = known.get(row.id);
    if (had !== undefined) return had;
    const all = [...doc.accounts.values()];
    const there = (row.code ? all.find((a) => same(a.code, row.code)) : undefined) ?? all.find((a) => (a.code === '' || row.code === '') && same(a.name, row.name));
    const own = there?.id ?? newId();
    known.set(row.id, own);
    if (!there) draft.set('accounts', own, { ...row, id: own, rank: ++rank, parentId: account(row.parentId, depth + 1) });
    return own;
  };
  const money = new Map<string, Currency>();
  const currency = (id: string): Currency | undefined => {
    const row = theirs.currencies.find((c) => c.id === id);
    const had = money.get(id);
    if (!row || had) return had;
    const there = [...doc.currencies.values()].find((c) => same(c.name, row.name));
    const own = there ?? { ...row, id: newId(), rank: doc.currencies.size + money.size };
    money.set(id, own);
    if (!there) draft.set('currencies', own.id, own);
    return own;
  };
  return {
    account,
    // By the rate of this project, where it has one of its own.
    expense(e) {
      const c = e.currencyId === null ? undefined : currency(e.currencyId);
      return { ...settledExpense({ ...e, currencyId: c?.id ?? null }, c), accountId: account(e.accountId) };
    },
  };
}
