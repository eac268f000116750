/** Accounts, currencies and expenses: what their commands do, refuse and take back. */
import {
  accountTree,
  accountUses,
  addAccount,
  addCurrency,
  deleteAccount,
  deleteCurrency,
  findAccount,
  importAccounts,
  moveAccount,
  setAccount,
  setCurrency,
} from '@yellowhammer/core/commands/accounts';
import { copyRows, pasteRows } from '@yellowhammer/core/commands/copy-rows';
import { addExpenses, deleteExpenses, setExpenses } from '@yellowhammer/core/commands/expenses';
import { expenseColumns, expenseNow, inOrder, pasteExpenses, typeExpenses } from '@yellowhammer/core/cost/expense-fields';
import { costsOf } from '@yellowhammer/core/cost/costs';
import { expenseFigures } from '@yellowhammer/core/cost/parts';
import { activityCell } from '@yellowhammer/core/fields/list';
import { standingOf } from '@yellowhammer/core/fields/standing';
import { standingAt } from '@yellowhammer/core/load/pieces';
import type { Document } from '@yellowhammer/core/model/document';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { mustBack, peopledPlan, says, sure, viewIn } from './helpers';
import { planFile, smallPlan } from './twin/plans';
import { readProjectFile } from '@yellowhammer/core/model/read-file';

let n = 0;
const newId = (): string => `n${++n}`;
const one = (doc: Document, o: Parameters<typeof mustBack>[1]): string => sure(mustBack(doc, o)[0]);
const plan = (more: Parameters<typeof peopledPlan>[1] = {}): Document =>
  peopledPlan(
    {
      activities: [
        ['A', '10d', {}],
        ['B', '5d', {}],
        ['M', 'finish', {}],
      ],
      project: { currency: 'SEK' },
    },
    more,
  );
const tree = (doc: Document): string[] => accountTree(doc).map(({ account, depth }) => `${' '.repeat(depth)}${account.name}`);

describe('accounts', () => {
  test('make a tree, are moved and renamed; one cannot lie in itself, nor have the number of another', () => {
    const doc = plan();
    const building = one(doc, addAccount(doc, { name: 'Building', code: '100' }, newId));
    const stone = one(doc, addAccount(doc, { name: 'Stone', code: '110', parentId: building }, newId));
    const wood = one(doc, addAccount(doc, { name: 'Wood', code: '120', parentId: building }, newId));
    one(doc, addAccount(doc, { name: 'Fees' }, newId));
    mustBack(doc, moveAccount(doc, wood, -1));
    expect(tree(doc)).toEqual(['Building', ' Wood', ' Stone', 'Fees']);
    mustBack(doc, setAccount(doc, stone, { parentId: wood }));
    expect(tree(doc)).toEqual(['Building', ' Wood', '  Stone', 'Fees']);
    expect(says(setAccount(doc, building, { parentId: stone }))).toContain('in itself');
    expect(says(addAccount(doc, { name: 'Other', code: '110' }, newId))).toContain('110 Stone');
    expect(says(addAccount(doc, { name: 'fees' }, newId))).toContain('Fees');
    expect(says(addAccount(doc, { name: ' ' }, newId))).toContain('needs a name');
    expect(says(moveAccount(doc, wood, -1))).toContain('nothing further up');
    expect(['110', 'stone', '110 Stone', 'FEES', 'bricks'].map((t) => findAccount(doc, t)?.name)).toEqual(['Stone', 'Stone', 'Stone', 'Fees', undefined]);
  });

  test('one in use goes only with another in its place, everywhere that it is named; what lies in it goes up', () => {
    const doc = plan({
      accounts: [
        { id: 'top', name: 'Top' },
        { id: 'a', name: 'Old', parentId: 'top' },
        { id: 'b', name: 'New' },
        { id: 'c', name: 'Inside', parentId: 'a' },
      ],
      roles: [{ id: 'mason', name: 'mason', rates: [{ from: '2026-01-01', perHour: 1, accountId: 'a' }] }],
      resources: [
        { id: 'ana', accountId: 'a', rates: [{ from: '2026-01-01', perHour: 1, accountId: 'b' }] },
        { id: 'lime', kind: 'material', prices: [{ from: '2026-01-01', price: 1, accountId: 'a' }] },
      ],
      assignments: [{ activityId: 'A', resourceId: 'ana', work: 480_000, accountId: 'a' }],
      expenses: [{ budget: 1, accountId: 'a' }],
    });
    expect(accountUses(doc, 'a')).toEqual({ expenses: ['e0'], assignments: ['x0'], resources: ['ana', 'lime'], roles: ['mason'] });
    expect(says(deleteAccount(doc, 'a'))).toContain('5 rows');
    expect(says(deleteAccount(doc, 'a', 'a'))).toContain('another');
    mustBack(doc, deleteAccount(doc, 'a', 'b'));
    expect([doc.accounts.get('c')?.parentId, doc.expenses.get('e0')?.accountId, doc.assignments.get('x0')?.accountId]).toEqual(['top', 'b', 'b']);
    expect([doc.resources.get('ana')?.accountId, doc.resources.get('lime')?.prices[0]?.accountId, doc.roles.get('mason')?.rates[0]?.accountId]).toEqual(['b', 'b', 'b']);
    mustBack(doc, deleteAccount(doc, 'top'));
  });

  test('come from a spreadsheet, under heads in any order or in this one; a wrong line is named and nothing taken', () => {
    const doc = plan();
    mustBack(doc, importAccounts(doc, [['100', 'Building', ''], ['110', 'Stone', '100'], [''], ['', 'Fees', '']], newId));
    expect(tree(doc)).toEqual(['Building', ' Stone', 'Fees']);
    mustBack(
      doc,
      importAccounts(
        doc,
        [
          ['Name', 'Above', 'Number'],
          ['Stone and lime', '', '110'],
          ['Lime', 'Stone and lime', '111'],
        ],
        newId,
      ),
    );
    expect(tree(doc)).toEqual(['Building', ' Stone and lime', '  Lime', 'Fees']);
    expect(says(importAccounts(doc, [['9', 'X', 'nowhere']], newId))).toContain('Line 1 (X): there is no account nowhere');
    expect(
      says(
        importAccounts(
          doc,
          [
            ['number', 'name'],
            ['9', ''],
          ],
          newId,
        ),
      ),
    ).toContain('Line 2 (9): it has no name');
    expect(says(importAccounts(doc, [['100', 'Building', '111']], newId))).toContain('in itself');
    expect(says(importAccounts(doc, [], newId))).toContain('empty');
  });
});

describe('expenses', () => {
  test('one for each of many activities, changed together, deleted; a typed budget takes the place of quantity times price', () => {
    const doc = plan();
    const ids = mustBack(doc, addExpenses(doc, ['A', 'B', 'A', 'M'], { name: 'Permit', quantity: 3, price: 10.5 }, newId));
    expect(ids.map((id) => doc.expenses.get(id)?.budget)).toEqual([31.5, 31.5, 31.5]);
    mustBack(doc, setExpenses(doc, ids.slice(0, 2), { quantity: 2 }));
    mustBack(doc, setExpenses(doc, ids.slice(2), { budget: 50 }));
    expect(ids.map((id) => ((e) => [e.quantity, e.price, e.budget])(sure(doc.expenses.get(id))))).toEqual([
      [2, 10.5, 21],
      [2, 10.5, 21],
      [3, null, 50],
    ]);
    expect(says(setExpenses(doc, ids, {}))).toContain('so already');
    mustBack(doc, deleteExpenses(doc, ids));
    expect(doc.expenses.size).toBe(0);
    expect([says(deleteExpenses(doc, ids)), says(addExpenses(doc, [], {}, newId))]).toEqual(['That expense is not there any more.', 'Select activities first.']);
  });

  test('another currency: the budget follows by the fixed rate, and anew when the rate is fixed again', () => {
    const doc = plan();
    const eur = one(doc, addCurrency(doc, { name: ' EUR ', rate: 11.425, asOf: '2026-03-01' }, newId));
    const e = one(doc, addExpenses(doc, ['A'], { budget: 5, currencyId: eur, foreignBudget: 100.01 }, newId));
    // 100.01 x 11.425 = 1142.614...
    expect(doc.expenses.get(e)?.budget).toBe(1142.61);
    mustBack(doc, setCurrency(doc, eur, { rate: 12 }));
    expect([doc.expenses.get(e)?.budget, doc.expenses.get(e)?.foreignBudget]).toEqual([1200.12, 100.01]);
    mustBack(doc, setExpenses(doc, [e], { quantity: 2, price: 30 }));
    expect([doc.expenses.get(e)?.budget, doc.expenses.get(e)?.foreignBudget]).toEqual([720, 60]);
    for (const [fields, why] of [
      [{ name: 'SEK', rate: 1, asOf: '2026-03-01' }, 'own currency'],
      [{ name: 'eur', rate: 1, asOf: '2026-03-01' }, 'already'],
      [{ name: 'USD', rate: 0, asOf: '2026-03-01' }, 'above 0'],
      [{ name: ' ', rate: 1, asOf: '2026-03-01' }, 'short name'],
    ] as const)
      expect(says(addCurrency(doc, fields, newId))).toContain(why);
    mustBack(doc, deleteCurrency(doc, eur));
    expect([doc.expenses.get(e)?.budget, doc.expenses.get(e)?.currencyId, doc.expenses.get(e)?.foreignBudget]).toEqual([720, null, null]);
  });

  test.each([
    ['name', 'Scaffold hire', { name: 'Scaffold hire' }],
    ['income', 'Income', { income: true }],
    ['account', '110', { accountId: 'st' }],
    ['account', 'stone', { accountId: 'st' }],
    ['account', '', { accountId: null }],
    ['when', 'at finish', { when: 'finish', date: null }],
    ['when', 'even', { when: 'even' }],
    ['when', '12 mar 26', { when: 'date', date: '2026-03-12' }],
    ['quantity', '1,200.5', { quantity: 1200.5 }],
    ['price', '-3.50', { price: -3.5 }],
    ['foreign', '10 EUR', { foreignBudget: 10, budget: 110 }],
    ['foreign', 'EUR 1,000', { foreignBudget: 1000, budget: 11000 }],
    ['budget', '1,000.25', { budget: 1000.25 }],
    ['budget', '', { budget: 0 }],
    ['committed', '7', { committed: 7 }],
    ['actual', '0', { actual: 0 }],
    ['actual', '', { actual: null }],
    ['remaining', '12', { remaining: 12 }],
  ])('typed into %s: %s', (key, text, expected) => {
    const doc = plan({
      accounts: [
        { id: 'st', code: '110', name: 'Stone' },
        { id: 'old', name: 'Old' },
      ],
      expenses: [{ budget: 20, actual: 5, accountId: 'old', when: 'start' }],
    });
    doc.currencies.set('c1', { id: 'c1', rank: 0, name: 'EUR', rate: 11, asOf: '2026-03-01' });
    const typed = typeExpenses(doc, ['e0'], key, text);
    mustBack(doc, typed);
    expect(doc.expenses.get('e0')).toMatchObject(expected);
    // What is shown for typing again means the same.
    const column = sure(expenseColumns.find((c) => c.key === key));
    const context = { doc, view: viewIn(doc), baseline: null, clock: false };
    const e = sure(doc.expenses.get('e0'));
    const again = typeExpenses(doc, ['e0'], key, (column.edit ?? column.show)(e, context));
    expect(again.ok ? JSON.stringify(again.changes) : again.problems[0]?.code).toBe('NOTHING_CHANGED');
  });

  test.each([
    ['account', 'bricks', 'no account bricks'],
    ['when', 'soon', 'is no time'],
    ['income', 'gift', 'neither cost nor income'],
    ['budget', 'ten', 'cannot be read'],
    ['foreign', '10 USD', 'no currency USD'],
    ['foreign', '10', 'names no currency'],
    ['activity', 'B', 'cannot be typed'],
    ['quantity', '-1', 'cannot be read'],
  ])('refused in %s: %s', (key, text, why) => {
    const doc = plan({ expenses: [{ budget: 20 }] });
    expect(says(typeExpenses(doc, ['e0'], key, text))).toContain(why);
  });

  test('cells are pasted over rows from a column on, all or nothing', () => {
    const doc = plan({ accounts: [{ id: 'st', name: 'Stone' }], expenses: [{ budget: 1 }, { budget: 2 }] });
    mustBack(
      doc,
      pasteExpenses(doc, ['e0', 'e1'], 'name', [
        ['Hire', 'cost', 'Stone'],
        ['Grant', 'income'],
      ]),
    );
    expect(['e0', 'e1'].map((id) => ((e) => [e.name, e.income, e.accountId])(sure(doc.expenses.get(id))))).toEqual([
      ['Hire', false, 'st'],
      ['Grant', true, null],
    ]);
    expect(says(pasteExpenses(doc, ['e0', 'e1'], 'budget', [['5'], ['five']]))).toContain('Row 2, Budget');
    expect(says(pasteExpenses(doc, ['e1'], 'budget', [['5'], ['6']]))).toContain('Add rows first');
    expect(doc.expenses.get('e0')?.budget).toBe(1);
  });

  test('to another project accounts go along by number, else by name, with those above; amounts by the rate there', () => {
    const from = plan({
      accounts: [
        { id: 'a', code: '100', name: 'Building' },
        { id: 'b', code: '110', name: 'Stone', parentId: 'a' },
        { id: 'f', name: 'Fees' },
      ],
      resources: [{ id: 'ana', accountId: 'b', rates: [{ from: '2026-01-01', perHour: 1, accountId: 'f' }] }],
      assignments: [{ activityId: 'A', resourceId: 'ana', work: 480_000 }],
      expenses: [{ budget: 20, accountId: 'b', actual: 3, foreignBudget: 2, currencyId: null }],
    });
    from.currencies.set('c1', { id: 'c1', rank: 0, name: 'EUR', rate: 10, asOf: '2026-03-01' });
    from.expenses.set('e0', { ...sure(from.expenses.get('e0')), currencyId: 'c1', foreignBudget: 2 });
    const clip = sure(copyRows(from, 'one', [{ kind: 'activity', id: 'A' }], false));
    const to = plan({
      accounts: [
        { id: 'z', code: '110', name: 'Steinwerk' },
        { id: 'y', name: 'fees' },
      ],
    });
    to.currencies.set('k', { id: 'k', rank: 0, name: 'EUR', rate: 11, asOf: '2026-03-01' });
    const row = one(to, pasteRows(to, 'two', clip, null, newId));
    const [e] = [...to.expenses.values()].filter((x) => x.activityId === row);
    expect([e?.accountId, e?.currencyId, e?.budget, e?.actual]).toEqual(['z', 'k', 22, null]);
    expect([...to.resources.values()].map((r) => [r.accountId, r.rates[0]?.accountId])).toEqual([['z', 'y']]);
    const empty = plan();
    one(empty, pasteRows(empty, 'three', clip, null, newId));
    expect(tree(empty)).toEqual(['Building', ' Stone', 'Fees']);
    // In the same project it stays what it was.
    const here = one(from, pasteRows(from, 'one', clip, null, newId));
    expect([...from.expenses.values()].find((x) => x.activityId === here)).toMatchObject({ accountId: 'b', currencyId: 'c1', budget: 20 });
  });
});

test('what the table tells of an expense is what the computation has, whatever the activity', () => {
  let levels = 0;
  for (let seed = 1; seed <= 60; seed++) {
    const file = planFile(smallPlan(seed, 6)) as { activities: { id: string }[] };
    const doc = sure(
      readProjectFile(
        JSON.parse(
          JSON.stringify({
            ...file,
            expenses: file.activities.map((a, i) => ({ id: `e${i}`, activityId: a.id, budget: 100, when: ['even', 'start', 'finish', 'date'][i % 4], date: '2025-03-10' })),
          }),
        ),
      ).file,
    ).document;
    const r = sure(schedule(doc).computed);
    costsOf(doc, r);
    const context = { doc, view: viewIn(doc), baseline: null, clock: false };
    for (const e of doc.expenses.values()) {
      const a = sure(doc.activities.get(e.activityId));
      const cell = activityCell(context, a);
      const k = r.network.nodeOf[sure(cell.i === undefined ? null : cell.i)]!;
      expect([seed, a.id, standingOf(cell)]).toEqual([seed, a.id, standingAt(r, k)]);
      const { actual, remaining } = expenseFigures({ standing: standingAt(r, k), start: r.early.start[k]!, dataDate: r.network.dataDate }, e);
      expect(expenseNow(e, context)).toEqual({ actual: actual / 100, remaining: remaining / 100 });
      if (a.type === 'levelOfEffort') levels++;
    }
  }
  expect(levels).toBeGreaterThan(10);
});

test.each([
  ['budget', false, ['small', 'ten', 'big', 'none']],
  ['budget', true, ['big', 'ten', 'small', 'none']],
  ['name', false, ['big', 'none', 'small', 'ten']],
  ['when', false, ['big', 'ten', 'none', 'small']],
])('expenses stand by %s, downwards %s; what is empty comes last', (key, down, expected) => {
  const doc = plan({
    expenses: [
      { name: 'ten', budget: 10, when: 'date', date: '2026-12-09' },
      { name: 'none', budget: 0, when: 'start' },
      { name: 'big', budget: 1000, when: 'date', date: '2026-03-10' },
      { name: 'small', budget: -5, when: 'even' },
    ],
  });
  const column = sure(expenseColumns.find((c) => c.key === key));
  const context = { doc, view: viewIn(doc), baseline: null, clock: false };
  expect(inOrder([...doc.expenses.values()], column, context, down).map((e) => e.name)).toEqual(expected);
});
