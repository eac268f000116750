/** What rows of another project are booked to, and in which currency: met by number or name, else put beside what is there. */
import { Draft } from '@yellowhammer/core/change/change';
import { bookedHere, bringMoney, moneyIn } from '@yellowhammer/core/commands/bring-money';
import type { Document } from '@yellowhammer/core/model/document';
import { type Account, type Currency, type Expense, expenseDefaults } from '@yellowhammer/core/model/money-schema';
import { peopledPlan, type PlanText, sure } from './helpers';

const accountOf = (id: string, code: string, name: string, parentId: string | null = null, rank = 0): Account => ({ id, rank, parentId, code, name, sharedId: null });
const currencyOf = (id: string, name: string, rate: number, rank = 0): Currency => ({ id, rank, name, rate, asOf: '2026-03-01' });
const expenseOf = (fields: Partial<Expense>): Expense => ({ ...expenseDefaults, id: 'e', rank: 0, activityId: 'A', ...fields });
const planOf = (accounts: readonly Account[], currencies: readonly Currency[] = [], more: Parameters<typeof peopledPlan>[1] = {}): Document => {
  const activities: PlanText['activities'] = [
    ['A', '2d', {}],
    ['B', '2d', {}],
  ];
  const doc = peopledPlan({ activities }, { ...more, accounts: accounts.map((a) => ({ ...a })) });
  for (const c of currencies) doc.currencies.set(c.id, c);
  return doc;
};
const theirs = {
  accounts: [accountOf('top', '100', 'Works'), accountOf('wages', '1a', 'Wages', 'top', 1), accountOf('gear', '', 'Gear', null, 2)],
  currencies: [currencyOf('eur', 'EUR', 11), currencyOf('gbp', 'GBP', 13, 1)],
};
/** A draft of a plan with these accounts and currencies, and what stands in it for theirs. New ids are n1, n2, ... */
function brought(accounts: readonly Account[], currencies: readonly Currency[] = []) {
  const draft = new Draft(planOf(accounts, currencies));
  let n = 0;
  return { draft, ...bringMoney(draft, theirs, () => `n${++n}`) };
}
const made = (draft: Draft): unknown[] =>
  draft.changes.map((c) => (c.table === 'accounts' ? [c.id, (c.after as Account).rank, (c.after as Account).parentId] : [c.id, (c.after as Currency).rank]));

describe('accounts', () => {
  test.each<[string, Account[], string | null | undefined, string | null, unknown[]]>([
    ['a number, however it is written', [accountOf('x', '1A', 'Pay')], 'wages', 'x', []],
    ['a number before a name', [accountOf('y', '', 'Wages'), accountOf('x', '1A', 'Pay')], 'wages', 'x', []],
    ['a name where ours has no number', [accountOf('x', '', 'WAGES')], 'wages', 'x', []],
    ['a name where theirs has none', [accountOf('x', '300', 'gear')], 'gear', 'x', []],
    [
      'no name alone where both have numbers',
      [accountOf('x', '120', 'Wages', null, 7)],
      'wages',
      'n1',
      [
        ['n2', 9, null],
        ['n1', 8, 'n2'],
      ],
    ],
    ['nothing at all', [], 'gear', 'n1', [['n1', 0, null]]],
    ['no other name without numbers', [accountOf('x', '', 'Pay', null, 4)], 'gear', 'n1', [['n1', 5, null]]],
    ['none', [accountOf('x', '', 'Pay')], null, null, []],
    ['none given', [], undefined, null, []],
    ['one that did not come', [accountOf('z', '9', 'Here')], 'z', null, []],
  ])('met by %s', (_, ours, id, is, changes) => {
    const { draft, account } = brought(ours);
    expect([account(id), account(id), made(draft)]).toEqual([is, is, changes]);
  });
  test('one that is brought hangs below what stands for the one above it', () => {
    const { draft, account } = brought([accountOf('x', '100', 'Whatever')]);
    expect([account('wages'), draft.get('accounts', 'n1')]).toEqual(['n1', { ...sure(theirs.accounts[1]), id: 'n1', rank: 1, parentId: 'x' }]);
  });
});

describe('expenses and their currencies', () => {
  test.each<[string, Currency[], Partial<Expense>, Partial<Expense>, unknown[]]>([
    ['their own currency', [currencyOf('k', 'SEK', 2)], { budget: 5 }, { currencyId: null, budget: 5, foreignBudget: null }, []],
    [
      'one that is here, by its rate here',
      [currencyOf('k', 'eur', 10)],
      { budget: 22, currencyId: 'eur', foreignBudget: 2 },
      { currencyId: 'k', budget: 20, foreignBudget: 2 },
      [],
    ],
    ['one that is not here', [currencyOf('k', 'SEK', 2)], { budget: 26, currencyId: 'gbp', foreignBudget: 2 }, { currencyId: 'n1', budget: 26, foreignBudget: 2 }, [['n1', 1]]],
    ['one that did not come', [], { budget: 26, currencyId: 'usd', foreignBudget: 2 }, { currencyId: null, budget: 26, foreignBudget: null }, []],
  ])('in %s', (_, ours, fields, is, changes) => {
    const { draft, expense } = brought([], ours);
    expect([expense(expenseOf(fields)), expense(expenseOf(fields))]).toEqual([expect.objectContaining(is), expect.objectContaining(is)]);
    expect(made(draft)).toEqual(changes);
  });
  test('two that are brought come one after the other, and the account with them', () => {
    const { draft, expense } = brought([accountOf('x', '1A', 'Pay')]);
    for (const currencyId of ['gbp', 'eur']) expect(expense(expenseOf({ currencyId, foreignBudget: 1, accountId: 'wages' })).accountId).toBe('x');
    expect(made(draft)).toEqual([
      ['n1', 0],
      ['n2', 1],
    ]);
    expect(draft.get('currencies', 'n1')).toEqual({ ...sure(theirs.currencies[1]), id: 'n1', rank: 0 });
  });
});

test('in the same project what is there still stays, and what is gone is left out', () => {
  const { account, expense } = bookedHere(new Draft(planOf([accountOf('x', '1', 'Here')], [currencyOf('k', 'EUR', 10)])));
  expect(['x', 'gone', null, undefined].map(account)).toEqual(['x', null, null, null]);
  const e = expenseOf({ accountId: 'x', currencyId: 'k', budget: 20, foreignBudget: 2 });
  expect(expense(e)).toEqual(e);
  expect(expense({ ...e, accountId: 'gone', currencyId: 'gone' })).toEqual({ ...e, accountId: null, currencyId: null, foreignBudget: null });
  expect(expense({ ...e, currencyId: null, foreignBudget: 2 })).toEqual({ ...e, currencyId: null, foreignBudget: 2 });
});

test('what goes along: accounts that are named, those above them, in their order, and currencies of expenses', () => {
  const accounts = ['top', 'sub', 'role', 'paid', 'bought', 'spent', 'booked', 'idle'].map((id, rank) => accountOf(id, '', id, id === 'sub' ? 'top' : null, 8 - rank));
  const doc = planOf(accounts, [currencyOf('k', 'EUR', 10), currencyOf('idle', 'GBP', 13)], {
    roles: [{ id: 'mason', name: 'mason', accountId: 'role' }],
    resources: [
      { id: 'ana', name: 'Ana', accountId: 'sub', rates: [{ from: '2026-01-01', perHour: 9, accountId: 'paid' }] },
      { id: 'lime', name: 'Lime', kind: 'material', prices: [{ from: '2026-01-01', price: 2, accountId: 'bought' }] },
    ],
    assignments: [{ activityId: 'A', resourceId: 'ana', accountId: 'booked' }],
  });
  for (const [id, activityId, accountId, currencyId] of [
    ['e1', 'A', 'spent', 'k'],
    ['e2', 'A', null, null],
    ['e3', 'B', 'idle', 'idle'],
  ] as const)
    doc.expenses.set(id, expenseOf({ id, activityId, accountId, currencyId }));
  const along = (activities: string[], who: string[]): string[][] => {
    const { accounts: a, currencies } = moneyIn(
      doc,
      activities.map((id) => ({ id })),
      who.map((id) => sure(doc.resources.get(id) ?? doc.roles.get(id))),
    );
    return [a.map((x) => x.id), currencies.map((c) => c.id)];
  };
  expect(along(['A'], ['ana', 'lime', 'mason'])).toEqual([['booked', 'spent', 'bought', 'paid', 'role', 'sub', 'top'], ['k']]);
  expect(along(['A'], [])).toEqual([['booked', 'spent'], ['k']]);
  expect(along([], ['mason'])).toEqual([['role'], []]);
  expect(along([], [])).toEqual([[], []]);
});
