/** What can be given to activities by a stamp or by a drop besides values of fields: somebody to do the work, costs and income. Each with an amount. */
import { accountLabel, accountTree, findAccount } from '../commands/accounts.ts';
import { assign, assignees } from '../commands/assign.ts';
import { addExpenses } from '../commands/expenses.ts';
import { type NewId, type Outcome, refused } from '../commands/result.ts';
import { readAmount } from '../fields/amounts.ts';
import { assignedTo, takesAssignments } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import { typedNumber } from '../model/number-text.ts';

export interface Giver {
  key: string;
  title: string;
  /** What its amount is called, and what it is where nothing is said. */
  amount: { title: string; usual: string };
  choices(doc: Document): readonly string[];
  give(doc: Document, ids: readonly string[], choice: string, amount: string, newId: NewId): Outcome;
}

/** A choice with its amount as the text of a stamp, and back. */
export const giverText = (choice: string, amount: string): string => `${choice} | ${amount}`;
export function readGiver(text: string): { choice: string; amount: string } {
  const at = text.lastIndexOf(' | ');
  return at < 0 ? { choice: text, amount: '' } : { choice: text.slice(0, at), amount: text.slice(at + 3) };
}

const money = (key: string, title: string, income: boolean): Giver => ({
  key,
  title,
  amount: { title: 'Amount', usual: '1000' },
  choices: (doc) => accountTree(doc).map(({ account }) => accountLabel(doc, account)),
  give(doc, ids, choice, amount, newId) {
    const account = choice === '' ? null : findAccount(doc, choice);
    if (account === undefined) return refused('UNKNOWN_ACCOUNT', `There is no account ${choice} any more.`);
    const budget = readAmount(amount);
    if (budget === undefined || budget === null || budget === 0) return refused('WRONG_VALUE', 'Type an amount first.');
    return addExpenses(doc, ids, { accountId: account?.id ?? null, name: account?.name ?? '', budget, income, when: income ? 'finish' : 'even' }, newId);
  },
});

export const givers: readonly Giver[] = [
  {
    key: 'give:assignment',
    title: 'Resource',
    amount: { title: 'Units', usual: '1' },
    choices: (doc) => assignees(doc).map((x) => x.name),
    give(doc, ids, choice, amount, newId) {
      const who = assignees(doc).find((x) => x.name === choice);
      if (!who) return refused('UNKNOWN_RESOURCE', choice === '' ? 'Choose whom to assign.' : `${choice} is not in the project any more.`);
      const units = typedNumber(amount) ?? 0;
      if (!(units > 0 && units <= 1_000_000)) return refused('WRONG_VALUE', 'Type how many units first, above 0.');
      const free = ids.filter((id) => {
        const a = doc.activities.get(id);
        return a && takesAssignments(a) && !assignedTo(doc, a).some((x) => x.resourceId === who.to.resourceId && x.roleId === who.to.roleId);
      });
      if (free.length === 0) return refused('NOTHING_CHANGED', `${choice} is assigned there already, or nobody can be.`);
      return assign(doc, free, [{ ...who.to, units }], newId);
    },
  },
  money('give:cost', 'Cost by account', false),
  money('give:income', 'Income by account', true),
];
