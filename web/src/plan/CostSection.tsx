/** The inspector's section of money: what the activity costs in all, and its expenses and income. */
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { addExpenses, deleteExpenses, setExpenses } from '@yellowhammer/core/commands/expenses';
import { expenseColumns, typeExpenses } from '@yellowhammer/core/cost/expense-fields';
import { type FieldContext, showField } from '@yellowhammer/core/fields/field';
import { activityCell, fieldOf } from '@yellowhammer/core/fields/list';
import { readAmount } from '@yellowhammer/core/fields/amounts';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { projectOf } from '@yellowhammer/core/model/document';
import type { Expense } from '@yellowhammer/core/model/money-schema';
import { AccountChoice } from '../app/AccountChoice';
import { CommitField } from '../app/CommitField';
import type { Chosen } from '../app/panel';
import { newId, useSession } from '../project/hooks';

const facts = ['cost', 'budget', 'actualCost', 'remainingCost', 'committed', 'costVariance', 'assignedCost', 'income'];

export function CostSection({ activities }: Chosen) {
  const session = useSession();
  const { doc } = session;
  const [only] = activities;
  const context: FieldContext = { doc, view: session.view, baseline: null, clock: false };
  const a = only && activities.length === 1 ? doc.activities.get(only.id) : undefined;
  return (
    <div className="loading-section">
      {a && (
        <dl className="cost-facts">
          {facts.map((key) => {
            const f = fieldOf(doc, key);
            const text = f ? showField(f, activityCell(context, a)) : '';
            return (
              f &&
              text !== '' && (
                <div key={key}>
                  <dt>{f.title}</dt>
                  <dd className={key === 'costVariance' && text.startsWith('−') ? 'critical-text' : ''}>{text}</dd>
                </div>
              )
            );
          })}
        </dl>
      )}
      {a &&
        indexOf(doc)
          .expensesOf(a.id)
          .map((e) => <Line key={e.id} e={e} context={context} />)}
      <Adding ids={activities.map((x) => x.id)} />
    </div>
  );
}

/** One expense: every column of the table of expenses but the activity, typed the same way. */
function Line({ e, context }: { e: Expense; context: FieldContext }) {
  const session = useSession();
  const { doc } = context;
  const type = (key: string, text: string): string | null => {
    const o = typeExpenses(session.doc, [e.id], key, text);
    if (!o.ok && o.problems[0]?.code !== 'NOTHING_CHANGED') return o.problems[0]?.message ?? '';
    if (o.ok) session.run(o);
    return null;
  };
  const typed = (key: string, label?: string) => {
    const c = expenseColumns.find((x) => x.key === key);
    return (
      c && (
        <CommitField
          of={e.id}
          size="xs"
          label={label ?? c.title}
          placeholder={c.follows?.(e) ? c.show(e, context) || '0' : undefined}
          value={(c.edit ?? c.show)(e, context)}
          onCommit={(text) => type(key, text)}
        />
      )
    );
  };
  return (
    <div className="expense-line">
      <div className="loading-main">
        <CommitField of={e.id} size="xs" aria-label="What it is" placeholder={e.income ? 'income' : 'expense'} value={e.name} onCommit={(text) => type('name', text)} />
        <button type="button" className="plain-button" aria-label={`Delete ${e.name || 'this row'}`} onClick={() => session.run(deleteExpenses(session.doc, [e.id]))}>
          <IconTrash size={14} stroke={1.6} />
        </button>
      </div>
      <div className="loading-add">
        <select
          aria-label="Cost or income"
          value={e.income ? 'income' : 'cost'}
          onChange={(x) => session.run(setExpenses(session.doc, [e.id], { income: x.target.value === 'income' }))}
        >
          <option value="cost">cost</option>
          <option value="income">income</option>
        </select>
        <AccountChoice doc={doc} label="Account" value={e.accountId} onChange={(accountId) => session.run(setExpenses(session.doc, [e.id], { accountId }))} />
      </div>
      <div className="expense-figures">
        {typed('when')}
        {typed('quantity')}
        {typed('price')}
        {doc.currencies.size > 0 && typed('foreign')}
        {typed('budget')}
        {typed('committed')}
        {typed('actual')}
        {typed('remaining')}
      </div>
    </div>
  );
}

/** An expense or income for all that are selected. */
function Adding({ ids }: { ids: readonly string[] }) {
  const session = useSession();
  const { doc } = session;
  const [accountId, setAccountId] = useState<string | null>(null);
  const [amount, setAmount] = useState('');
  const budget = readAmount(amount);
  const add = (income: boolean): void => {
    const name = doc.accounts.get(accountId ?? '')?.name ?? '';
    if (session.run(addExpenses(doc, ids, { name, accountId, income, budget: budget ?? 0, when: income ? 'finish' : 'even' }, newId))) setAmount('');
  };
  const each = ids.length > 1 ? ` to ${ids.length}` : '';
  return (
    <div className="loading-add">
      <AccountChoice doc={doc} label="Account of the new one" value={accountId} onChange={setAccountId} />
      <input
        aria-label="Amount"
        placeholder={projectOf(doc).currency || 'amount'}
        value={amount}
        aria-invalid={budget === undefined}
        onChange={(e) => setAmount(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && budget !== undefined && add(false)}
      />
      <button type="button" className="chip" disabled={budget === undefined} onClick={() => add(false)}>
        Add cost{each}
      </button>
      <button type="button" className="chip" disabled={budget === undefined} onClick={() => add(true)}>
        Add income{each}
      </button>
    </div>
  );
}
