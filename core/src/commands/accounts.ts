/** Cost accounts: a tree that costs and income are booked to (resource rules, section 7), and other currencies with their fixed rates. */
import { Draft } from '../change/change.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Account, Currency } from '../model/money-schema.ts';
import { labelOfRow } from '../model/tables.ts';
import { settledExpense } from './expenses.ts';
import { count, done, type NewId, type Outcome, refused, settled } from './result.ts';

const gone = refused('UNKNOWN_ACCOUNT', 'That account is not there any more.');
export const accountLabel = (doc: Document, a: Account): string => labelOfRow('accounts', a, doc);

/** Accounts as a tree from top to bottom, each with its depth. One that lies in itself stands at the top. */
export function accountTree(doc: Document): { account: Account; depth: number }[] {
  const list = ordered(doc, 'accounts');
  const below = new Map<string | null, Account[]>();
  for (const a of list) {
    const parent = a.parentId !== null && doc.accounts.has(a.parentId) ? a.parentId : null;
    const there = below.get(parent);
    if (there) there.push(a);
    else below.set(parent, [a]);
  }
  const out: { account: Account; depth: number }[] = [];
  const seen = new Set<string>();
  const walk = (parent: string | null, depth: number): void => {
    for (const account of below.get(parent) ?? []) {
      if (seen.has(account.id)) continue;
      seen.add(account.id);
      out.push({ account, depth });
      walk(account.id, depth + 1);
    }
  };
  walk(null, 0);
  for (const account of list) if (!seen.has(account.id)) out.push({ account, depth: 0 });
  return out;
}

/** Why an account cannot stand so; undefined where it can. Numbers are unique, and so are names where there is no number. */
function objection(doc: Document, a: Account): Outcome | undefined {
  if (a.name.trim() === '') return refused('WRONG_VALUE', 'An account needs a name.');
  const same = [...doc.accounts.values()].find(
    (x) => x.id !== a.id && (a.code ? x.code.toLowerCase() === a.code.toLowerCase() : x.code === '' && x.name.toLowerCase() === a.name.toLowerCase()),
  );
  if (same) return refused('NAME_TAKEN', `There is an account ${accountLabel(doc, same)} already. Type another ${a.code ? 'number' : 'name, or a number'}.`);
  for (let at = a.parentId, n = 0; at !== null; at = doc.accounts.get(at)?.parentId ?? null)
    if (at === a.id || ++n > 50) return refused('WRONG_VALUE', `${a.name} cannot lie in itself.`);
  return undefined;
}

const lastRank = (doc: Document): number => ordered(doc, 'accounts').reduce((n, a) => Math.max(n, a.rank), -1);

export function addAccount(doc: Document, fields: Pick<Account, 'name'> & Partial<Pick<Account, 'code' | 'parentId'>>, newId: NewId): Outcome {
  const a: Account = { id: newId(), rank: lastRank(doc) + 1, parentId: null, code: '', sharedId: null, ...fields, name: fields.name.trim() };
  const no = objection(doc, a);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('accounts', a.id, a);
  return settled(doc, `Add account ${a.name}`, draft.changes, [a.id]);
}

/** Changes number, name or place of an account. */
export function setAccount(doc: Document, id: string, fields: Partial<Pick<Account, 'code' | 'name' | 'parentId'>>): Outcome {
  const a = doc.accounts.get(id);
  if (!a) return gone;
  const next: Account = { ...a, ...fields, ...(fields.name === undefined ? {} : { name: fields.name.trim() }), ...(fields.code === undefined ? {} : { code: fields.code.trim() }) };
  const no = objection(doc, next);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('accounts', id, next);
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'It is so already.');
  return settled(doc, `Change account ${next.name}`, draft.changes, [id]);
}

/** Moves an account one place up or down among those beside it. */
export function moveAccount(doc: Document, id: string, by: -1 | 1): Outcome {
  const a = doc.accounts.get(id);
  if (!a) return gone;
  const beside = ordered(doc, 'accounts').filter((x) => x.parentId === a.parentId);
  const other = beside[beside.indexOf(a) + by];
  if (!other) return refused('AT_THE_END', `There is nothing further ${by < 0 ? 'up' : 'down'}.`);
  const draft = new Draft(doc);
  draft.patch('accounts', a.id, { rank: other.rank });
  draft.patch('accounts', other.id, { rank: a.rank });
  return settled(doc, `Move ${a.name} ${by < 0 ? 'up' : 'down'}`, draft.changes, [id]);
}

const tablesWithAccounts = ['expenses', 'assignments', 'resources', 'roles'] as const;

/** What names an account, by table; rates and prices count with whom they belong to. */
export function accountUses(doc: Document, id: string): Record<(typeof tablesWithAccounts)[number], string[]> {
  const rated = (r: { accountId: string | null; rates: readonly { accountId?: string | null }[]; prices?: readonly { accountId?: string | null }[] }): boolean =>
    r.accountId === id || [...r.rates, ...(r.prices ?? [])].some((e) => e.accountId === id);
  return {
    expenses: [...doc.expenses.values()].flatMap((e) => (e.accountId === id ? [e.id] : [])),
    assignments: [...doc.assignments.values()].flatMap((x) => (x.accountId === id ? [x.id] : [])),
    resources: [...doc.resources.values()].flatMap((r) => (rated(r) ? [r.id] : [])),
    roles: [...doc.roles.values()].flatMap((r) => (rated(r) ? [r.id] : [])),
  };
}

/**
 * Deletes an account. What lies in it goes to the one above. Where it is in use, another must be named in its place (null:
 * none); without that it is refused, with what uses it.
 */
export function deleteAccount(doc: Document, id: string, instead?: string | null): Outcome {
  const a = doc.accounts.get(id);
  if (!a) return gone;
  const uses = accountUses(doc, id);
  const n = tablesWithAccounts.reduce((sum, t) => sum + uses[t].length, 0);
  if (n > 0 && instead === undefined)
    return refused('IN_USE', `${accountLabel(doc, a)} is named by ${count(n, 'row')}. Choose what they are booked to in its place.`, { table: 'accounts', id });
  if (instead === id || (instead && !doc.accounts.has(instead))) return refused('WRONG_VALUE', 'Choose another account.');
  const to = instead ?? null;
  const draft = new Draft(doc);
  for (const e of uses.expenses) draft.patch('expenses', e, { accountId: to });
  for (const x of uses.assignments) draft.patch('assignments', x, { accountId: to });
  const swap = <E extends { accountId?: string | null }>(list: readonly E[]): E[] => list.map((e) => (e.accountId === id ? { ...e, accountId: to } : e));
  for (const rid of uses.resources) {
    const r = doc.resources.get(rid);
    if (r) draft.patch('resources', rid, { accountId: r.accountId === id ? to : r.accountId, rates: swap(r.rates), prices: swap(r.prices) });
  }
  for (const rid of uses.roles) {
    const r = doc.roles.get(rid);
    if (r) draft.patch('roles', rid, { accountId: r.accountId === id ? to : r.accountId, rates: swap(r.rates) });
  }
  for (const child of doc.accounts.values()) if (child.parentId === id) draft.patch('accounts', child.id, { parentId: a.parentId });
  draft.set('accounts', id, null);
  return done(`Delete account ${a.name}`, draft.changes);
}

/** An account by its number, its name, or both as it is shown; undefined where there is none. */
export function findAccount(doc: Document, text: string): Account | undefined {
  const wanted = text.trim().toLowerCase();
  const all = [...doc.accounts.values()];
  return (
    all.find((a) => a.code !== '' && a.code.toLowerCase() === wanted) ??
    all.find((a) => accountLabel(doc, a).toLowerCase() === wanted) ??
    all.find((a) => a.name.toLowerCase() === wanted)
  );
}

/** Adds accounts of the cells of a spreadsheet: number, name, and the number or name of the one above; under heads in any order. Those that are there are changed. */
export function importAccounts(doc: Document, rows: readonly (readonly string[])[], newId: NewId): Outcome {
  const heads = (rows[0] ?? []).map((c) => c.trim().toLowerCase());
  const named = heads.includes('name');
  const order = named ? heads : ['number', 'name', 'above'];
  const lines = (named ? rows.slice(1) : rows).filter((cells) => cells.some((c) => c.trim() !== ''));
  if (lines.length === 0) return refused('WRONG_VALUE', 'The list is empty. Paste rows with number, name, and the account above.');
  const draft = new Draft(doc);
  const byText = new Map<string, string>();
  const note = (a: Account): void => {
    for (const t of [a.name, a.code, a.code && `${a.code} ${a.name}`]) if (t) byText.set(t.toLowerCase(), a.id);
  };
  for (const a of doc.accounts.values()) note(a);
  let rank = lastRank(doc);
  const made: string[] = [];
  for (const [n, cells] of lines.entries()) {
    const at = (head: string): string => (order.indexOf(head) < 0 ? '' : (cells[order.indexOf(head)] ?? '').trim());
    const no = (why: string): Outcome => refused('WRONG_VALUE', `Line ${n + (named ? 2 : 1)} (${at('name') || at('number')}): ${why} Nothing was taken.`);
    const [code, name, above] = [at('number').slice(0, 40), at('name'), at('above')];
    if (name === '') return no('it has no name.');
    const parentId = above === '' ? null : byText.get(above.toLowerCase());
    if (parentId === undefined) return no(`there is no account ${above} above it. Put that line before it.`);
    const id = byText.get((code || name).toLowerCase()) ?? newId();
    const was = draft.get('accounts', id);
    if (parentId === id) return no('it cannot lie in itself.');
    const next: Account = was
      ? { ...was, name, code: code || was.code, parentId: above === '' ? was.parentId : parentId }
      : { id, rank: ++rank, parentId, code, name, sharedId: null };
    for (let up = next.parentId, m = 0; up !== null; up = draft.get('accounts', up)?.parentId ?? null) if (up === id || ++m > 50) return no('it cannot lie in itself.');
    draft.set('accounts', id, next);
    note(next);
    made.push(id);
  }
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'All of them are there just so.');
  return settled(doc, `Take over ${count(made.length, 'account')}`, draft.changes, made);
}

/** Adds another currency with its rate, as it was fixed on a day. */
export function addCurrency(doc: Document, fields: Pick<Currency, 'name' | 'rate' | 'asOf'>, newId: NewId): Outcome {
  const c: Currency = { ...fields, name: fields.name.trim(), id: newId(), rank: ordered(doc, 'currencies').reduce((n, x) => Math.max(n, x.rank), -1) + 1 };
  const no = currencyObjection(doc, c);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('currencies', c.id, c);
  return settled(doc, `Add currency ${c.name}`, draft.changes, [c.id]);
}

function currencyObjection(doc: Document, c: Currency): Outcome | undefined {
  if (c.name === '') return refused('WRONG_VALUE', 'A currency needs a short name.');
  if (!(c.rate > 0 && c.rate <= 1e6)) return refused('WRONG_VALUE', 'A rate is above 0: what one of it is worth in the project’s currency.');
  const own = [...doc.project.values()][0]?.currency ?? '';
  if (own.toLowerCase() === c.name.toLowerCase()) return refused('NAME_TAKEN', `${c.name} is the project’s own currency.`);
  return [...doc.currencies.values()].some((x) => x.id !== c.id && x.name.toLowerCase() === c.name.toLowerCase())
    ? refused('NAME_TAKEN', `There is a currency ${c.name} already.`)
    : undefined;
}

/** Changes a currency. With another rate the budgets of all expenses in it follow. */
export function setCurrency(doc: Document, id: string, fields: Partial<Pick<Currency, 'name' | 'rate' | 'asOf'>>): Outcome {
  const c = doc.currencies.get(id);
  if (!c) return refused('UNKNOWN_CURRENCY', 'That currency is not there any more.');
  const next = { ...c, ...fields, ...(fields.name === undefined ? {} : { name: fields.name.trim() }) };
  const no = currencyObjection(doc, next);
  if (no) return no;
  const draft = new Draft(doc);
  draft.set('currencies', id, next);
  if (draft.changes.length === 0) return refused('NOTHING_CHANGED', 'It is so already.');
  for (const e of doc.expenses.values()) if (e.currencyId === id) draft.set('expenses', e.id, settledExpense(e, next));
  return settled(doc, `Change currency ${next.name}`, draft.changes, [id]);
}

/** Deletes a currency; budgets stay as they are, in the project's. */
export function deleteCurrency(doc: Document, id: string): Outcome {
  const c = doc.currencies.get(id);
  if (!c) return refused('UNKNOWN_CURRENCY', 'That currency is not there any more.');
  const draft = new Draft(doc);
  for (const e of doc.expenses.values()) if (e.currencyId === id) draft.patch('expenses', e.id, { currencyId: null, foreignBudget: null, price: null });
  draft.set('currencies', id, null);
  return done(`Delete currency ${c.name}`, draft.changes);
}
