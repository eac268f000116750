/** What the observatory costs, booked to accounts, and the grants that pay for it. */
import { addAccount, addCurrency, findAccount } from '@yellowhammer/core/commands/accounts';
import { addExpenses, setExpenses } from '@yellowhammer/core/commands/expenses';
import { setActivities } from '@yellowhammer/core/commands/cells';
import { setPeople } from '@yellowhammer/core/commands/resources';
import { costsOf } from '@yellowhammer/core/cost/costs';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { must } from './list.ts';

/** Number, name, number of the one above. */
const accounts: [string, string, string][] = [
  ['1', 'Building works', ''],
  ['11', 'Labour', '1'],
  ['12', 'Plant and transport', '1'],
  ['13', 'Materials and hire', '1'],
  ['2', 'Instruments', ''],
  ['21', 'Optics', '2'],
  ['22', 'Mount and dome drives', '2'],
  ['3', 'Design and consents', ''],
  ['31', 'Design and surveys', '3'],
  ['32', 'Consents and fees', '3'],
  ['9', 'Grants', ''],
];

/** What a name is booked to beside its wages: the first that fits. */
const words: [RegExp, string][] = [
  [/consent|licence|permit|inspection|tender|award|booking/i, '32'],
  [/survey|design|appraisal|study|ecology/i, '31'],
  [/mirror|spectro|camera|optic|telescope|first light|alignment/i, '21'],
  [/mount|drive|dome|ribs|shutter/i, '22'],
  [/^carry|boat|lift|load-out|ship/i, '12'],
];

export function addAccounts(doc: Document, newId: () => string): void {
  for (const [code, name, above] of accounts) must(doc, addAccount(doc, { code, name, parentId: above ? (findAccount(doc, above)?.id ?? null) : null }, newId));
  for (const r of doc.resources.values())
    must(doc, setPeople(doc, 'resources', r.id, { accountId: findAccount(doc, r.kind === 'labour' ? '11' : r.kind === 'equipment' ? '12' : '13')?.id ?? null }));
}

/** Lump sums become expenses in accounts: of work by gangs what is beside their wages, of all else the whole of it. Orders are paid on delivery, and are committed. */
export function bookCosts(doc: Document, newId: () => string): void {
  const { computed } = schedule(doc);
  if (!computed) throw new Error('the demo cannot be computed');
  const costs = costsOf(doc, computed);
  const rows = computed.network.rows.map((a, i) => ({ a, assigned: costs.assigned[i]! / 100 }));
  for (const { a, assigned } of rows) {
    if (a.cost === 0) continue;
    const rest = Math.round((a.cost - assigned) / 10) * 10;
    const order = /^order/i.test(a.name);
    const account = findAccount(doc, words.find(([w]) => w.test(a.name))?.[1] ?? '13');
    must(doc, setActivities(doc, [a.id], { cost: 0 }));
    if (rest <= 0) continue;
    const name = order ? 'Order' : assigned > 0 ? 'Materials and hire' : 'Contract';
    must(doc, addExpenses(doc, [a.id], { name, budget: rest, committed: order ? rest : 0, when: order ? 'finish' : 'even', accountId: account?.id ?? null }, newId));
  }
}

/** All of SKY: grants by instalments, two orders in another currency, and what the storm cost. */
export function skyMoney(doc: Document, newId: () => string): void {
  addAccounts(doc, newId);
  bookCosts(doc, newId);
  const at = (code: string): string => indexOf(doc).byCode(code)?.id ?? '';
  const florin = must(doc, addCurrency(doc, { name: 'florins', rate: 7.45, asOf: '2026-03-02' }, newId))[0]!;
  const of = (code: string) => indexOf(doc).expensesOf(at(code));
  // The mirror blank and the mount are bought abroad.
  for (const code of ['125', '135'])
    for (const e of of(code)) {
      const foreignBudget = Math.round(e.budget / 7.45 / 100) * 100;
      const budget = Math.round(foreignBudget * 745) / 100;
      must(doc, setExpenses(doc, [e.id], { currencyId: florin, foreignBudget, committed: budget }));
    }
  must(
    doc,
    addExpenses(doc, [at('332')], { name: 'Sheeting lost in the storm', budget: 6_400, actual: 7_950, accountId: findAccount(doc, '13')?.id ?? null, when: 'start' }, newId),
  );
  const grants = findAccount(doc, '9')?.id ?? null;
  const grant = (code: string, name: string, budget: number, more: { when: 'start' | 'finish' | 'date'; date?: string }): void =>
    void must(doc, addExpenses(doc, [at(code)], { name, budget, income: true, accountId: grants, ...more }, newId));
  grant('15', 'First grant', 620_000, { when: 'date', date: '2026-04-15' });
  grant('335', 'Second grant', 540_000, { when: 'finish' });
  grant('660', 'Third grant', 480_000, { when: 'finish' });
  grant('925', 'Last part of the grants', 460_000, { when: 'finish' });
}
