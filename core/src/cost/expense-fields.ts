/** The columns of the table of expenses: how each is told, and what typing into it means. Grid, inspector, paste, fill and CSV read this list. */
import { accountLabel, findAccount } from '../commands/accounts.ts';
import { type ExpenseFields, setExpenses } from '../commands/expenses.ts';
import { type Outcome, refused } from '../commands/result.ts';
import type { FieldContext } from '../fields/field.ts';
import { activityCell } from '../fields/list.ts';
import { amountText, readAmount } from '../fields/amounts.ts';
import { standingOf } from '../fields/standing.ts';
import { type Document, labelOf, ordered, projectOf } from '../model/document.ts';
import type { Expense, When } from '../model/money-schema.ts';
import { parseInstant } from '../time/instant.ts';
import { parseTypedDate, showTypedDate } from '../time/typed-date.ts';
import { expenseFigures } from './parts.ts';
import { numberText, typedNumber } from '../model/number-text.ts';
import { statusDay } from '../model/status-day.ts';

export const whenNames: Record<When, string> = { start: 'at start', finish: 'at finish', date: 'on a date', even: 'evenly' };

type Column = {
  key: string;
  title: string;
  about: string;
  width: number;
  /** Amounts stand to the right, and are added up below. */
  amount?: true;
  show(e: Expense, c: FieldContext): string;
  /** The text that can be typed again. */
  edit?(e: Expense, c: FieldContext): string;
  /** Absent: it cannot be typed. A text says why it cannot be so. */
  read?(text: string, e: Expense, doc: Document): ExpenseFields | string;
  choices?(doc: Document): readonly string[];
  /** What is added up, in the project's currency. */
  sum?(e: Expense, c: FieldContext): number;
  /** Whether what is shown follows by itself, and was not entered. */
  follows?(e: Expense): boolean;
};
export type ExpenseColumn = Column;

/** Actual and remaining of an expense as they are now, entered or not. Amounts of the project's currency. */
export function expenseNow(e: Expense, context: FieldContext): { actual: number; remaining: number } {
  const a = context.doc.activities.get(e.activityId);
  if (!a) return { actual: 0, remaining: 0 };
  const cell = activityCell(context, a);
  const { dataDate } = projectOf(context.doc);
  const start = context.view && cell.i !== undefined ? context.view.start[cell.i]! : 0;
  const { actual, remaining } = expenseFigures({ standing: standingOf(cell), start, dataDate: dataDate === null ? null : (parseInstant(dataDate) ?? null) }, e);
  return { actual: actual / 100, remaining: remaining / 100 };
}

const unreadable = (text: string): string => `${text} cannot be read as an amount.`;
const amount =
  (key: 'budget' | 'committed') =>
  (text: string): ExpenseFields | string => {
    const n = readAmount(text);
    return n === undefined ? unreadable(text) : { [key]: n ?? 0 };
  };
const orFollows =
  (key: 'actual' | 'remaining') =>
  (text: string): ExpenseFields | string => {
    const n = readAmount(text);
    return n === undefined ? unreadable(text) : { [key]: n };
  };
const shown = (n: number): string => (n === 0 ? '' : amountText(n));
/** A number with at most so many decimals as people need: `12.5`. */
const plain = (n: number | null): string => (n === null ? '' : numberText(n, 4));

export const expenseColumns: readonly Column[] = [
  {
    key: 'activity',
    title: 'Activity',
    about: 'The activity that costs it, or brings it.',
    width: 190,
    show: (e, { doc }) => ((a) => (a ? labelOf(a) : ''))(doc.activities.get(e.activityId)),
  },
  { key: 'name', title: 'What', about: 'What it is.', width: 130, show: (e) => e.name, read: (text) => (text.length > 400 ? 'the name is too long.' : { name: text }) },
  {
    key: 'income',
    title: 'Kind',
    about: 'Cost, or income.',
    width: 64,
    show: (e) => (e.income ? 'income' : 'cost'),
    choices: () => ['cost', 'income'],
    read(text) {
      const t = text.toLowerCase();
      return t === 'cost' || t === 'income' ? { income: t === 'income' } : `${text} is neither cost nor income.`;
    },
  },
  {
    key: 'account',
    title: 'Account',
    about: 'What it is booked to.',
    width: 136,
    show: (e, { doc }) => ((a) => (a ? accountLabel(doc, a) : ''))(doc.accounts.get(e.accountId ?? '')),
    choices: (doc) => ordered(doc, 'accounts').map((a) => accountLabel(doc, a)),
    read(text, _, doc) {
      if (text === '') return { accountId: null };
      const a = findAccount(doc, text);
      return a ? { accountId: a.id } : `there is no account ${text}. Add it in the Library first.`;
    },
  },
  {
    key: 'when',
    title: 'When',
    about: 'At start or finish of the activity, on a date, or evenly over it.',
    width: 88,
    show: (e) => (e.when === 'date' && e.date !== null ? showTypedDate(e.date) : whenNames[e.when]),
    choices: () => [whenNames.start, whenNames.finish, whenNames.even],
    read(text, _, doc) {
      const t = text.toLowerCase().replace(/^at /, '');
      if (t === 'start' || t === 'finish') return { when: t, date: null };
      if (t === 'even' || t === 'evenly') return { when: 'even', date: null };
      const near = statusDay(doc);
      const date = parseTypedDate(text, near);
      return date ? { when: 'date', date: date.slice(0, 10) } : `${text} is no time. Type at start, at finish, evenly, or a date.`;
    },
  },
  {
    key: 'quantity',
    title: 'Quantity',
    about: 'Quantity times price is the budget, where both are given.',
    width: 66,
    show: (e) => plain(e.quantity),
    read(text) {
      const n = text === '' ? null : typedNumber(text);
      return n === null || (n !== undefined && n >= 0 && n <= 1e9) ? { quantity: n } : `${text} cannot be read as a quantity.`;
    },
  },
  {
    key: 'price',
    title: 'Price',
    about: 'Of one, in the currency of the row.',
    width: 70,
    show: (e) => (e.price === null ? '' : amountText(e.price)),
    edit: (e) => (e.price === null ? '' : String(e.price)),
    read(text) {
      const n = readAmount(text);
      return n === undefined ? unreadable(text) : { price: n };
    },
  },
  {
    key: 'foreign',
    title: 'Other currency',
    about: 'The budget in another currency: 1,200 EUR. The budget follows by the fixed rate.',
    width: 108,
    show: (e, { doc }) => ((c) => (c && e.foreignBudget !== null ? `${amountText(e.foreignBudget)} ${c.name}` : ''))(doc.currencies.get(e.currencyId ?? '')),
    read(text, e, doc) {
      if (text === '') return { currencyId: null, foreignBudget: null };
      const m = /^(?:([a-z]+)\s*)?(-?[\d.,\s\u2212]*\d)\s*([a-z]+)?$/i.exec(text);
      const name = m?.[1] ?? m?.[3] ?? doc.currencies.get(e.currencyId ?? '')?.name ?? '';
      const c = [...doc.currencies.values()].find((x) => x.name.toLowerCase() === name.toLowerCase());
      const n = m ? readAmount(m[2] ?? '') : undefined;
      if (n === undefined || n === null) return `${text} cannot be read. Type an amount and its currency: 1,200 EUR.`;
      if (c) return { currencyId: c.id, foreignBudget: n };
      return `${name ? `there is no currency ${name}` : 'it names no currency'}. Currencies and their rates stand in the Library, under Accounts.`;
    },
  },
  {
    key: 'budget',
    title: 'Budget',
    about: 'What is planned, in the project’s currency.',
    width: 92,
    amount: true,
    show: (e) => shown(e.budget),
    edit: (e) => (e.budget === 0 ? '' : String(e.budget)),
    sum: (e) => e.budget,
    follows: (e) => e.currencyId !== null || (e.quantity !== null && e.price !== null),
    read(text, e, doc) {
      const c = doc.currencies.get(e.currencyId ?? '');
      return c ? `it follows from ${c.name}. Type into the column Other currency, or empty that first.` : amount('budget')(text);
    },
  },
  {
    key: 'committed',
    title: 'Committed',
    about: 'What is ordered or agreed.',
    width: 92,
    amount: true,
    show: (e) => shown(e.committed),
    edit: (e) => (e.committed === 0 ? '' : String(e.committed)),
    sum: (e) => e.committed,
    read: amount('committed'),
  },
  {
    key: 'actual',
    title: 'Actual',
    about: 'What is spent or received. Empty: as it follows from the progress.',
    width: 96,
    amount: true,
    show: (e, c) => shown(expenseNow(e, c).actual),
    edit: (e) => (e.actual === null ? '' : String(e.actual)),
    sum: (e, c) => expenseNow(e, c).actual,
    follows: (e) => e.actual === null,
    read: orFollows('actual'),
  },
  {
    key: 'remaining',
    title: 'Remaining',
    about: 'What is still to come. Empty: budget less actual.',
    width: 96,
    amount: true,
    show: (e, c) => shown(expenseNow(e, c).remaining),
    edit: (e) => (e.remaining === null ? '' : String(e.remaining)),
    sum: (e, c) => expenseNow(e, c).remaining,
    follows: (e) => e.remaining === null,
    read: orFollows('remaining'),
  },
];

const columnOf = (key: string): Column | undefined => expenseColumns.find((c) => c.key === key);

const byText = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Rows by the values of a column: amounts by size, dates by day, everything else as text; what is empty comes last either way. Rows alike keep their order. */
export function inOrder(rows: readonly Expense[], column: Column, context: FieldContext, down: boolean): Expense[] {
  const amountOf = (e: Expense): number => column.sum?.(e, context) ?? 0;
  const keyed = rows.map((e) => ({ e, text: column.key === 'when' && e.date !== null ? e.date : column.show(e, context) }));
  const compare = (a: (typeof keyed)[number], b: (typeof keyed)[number]): number => (column.sum ? amountOf(a.e) - amountOf(b.e) : byText.compare(a.text, b.text));
  const empty = (k: (typeof keyed)[number]): number => (k.text === '' ? 1 : 0);
  return keyed.sort((a, b) => empty(a) - empty(b) || (down ? compare(b, a) : compare(a, b))).map((k) => k.e);
}

/** Types a text into one column of many expenses; nothing where it cannot be read in one of them. */
export function typeExpenses(doc: Document, ids: readonly string[], key: string, text: string): Outcome {
  const column = columnOf(key);
  if (!column?.read) return refused('WRONG_VALUE', `${column?.title ?? key} cannot be typed.`);
  const put = new Map<string, ExpenseFields>();
  for (const id of ids) {
    const e = doc.expenses.get(id);
    const read = e && column.read(text.trim(), e, doc);
    if (typeof read === 'string') return refused('WRONG_VALUE', `${column.title}: ${read}`, { table: 'expenses', id, field: key });
    if (read) put.set(id, read);
  }
  return setExpenses(doc, ids, (e) => put.get(e.id) ?? {});
}

/** Pastes cells over rows of the table, from one column on; what cannot be typed is passed over. All or nothing. */
export function pasteExpenses(doc: Document, ids: readonly string[], from: string, cells: readonly (readonly string[])[]): Outcome {
  const first = expenseColumns.findIndex((c) => c.key === from);
  const draftOf = new Map<string, ExpenseFields>();
  for (const [n, line] of cells.entries()) {
    const id = ids[n];
    const e = id === undefined ? undefined : doc.expenses.get(id);
    if (!e) return refused('WRONG_VALUE', `There are ${cells.length} rows to be pasted, and ${ids.length} below the cell. Add rows first.`);
    let fields: ExpenseFields = {};
    for (const [m, text] of line.entries()) {
      const column = expenseColumns[first + m];
      if (!column?.read) continue;
      const read = column.read(text.trim(), { ...e, ...fields }, doc);
      if (typeof read === 'string') return refused('WRONG_VALUE', `Row ${n + 1}, ${column.title}: ${read}`, { table: 'expenses', id: e.id, field: column.key });
      fields = { ...fields, ...read };
    }
    draftOf.set(e.id, fields);
  }
  return setExpenses(doc, [...draftOf.keys()], (e) => draftOf.get(e.id) ?? {});
}
