/** Accounts in the Library: the tree, what is booked to one, a list pasted in; and other currencies with their fixed rates. */
import { Modal, Textarea } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-react';
import Papa from 'papaparse';
import { useState } from 'react';
import {
  accountLabel,
  accountTree,
  accountUses,
  addAccount,
  addCurrency,
  deleteAccount,
  deleteCurrency,
  importAccounts,
  moveAccount,
  setAccount,
  setCurrency,
} from '@yellowhammer/core/commands/accounts';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Account } from '@yellowhammer/core/model/money-schema';
import { formatDay } from '@yellowhammer/core/time/instant';
import { dayOfToday, parseTypedDate, showTypedDate } from '@yellowhammer/core/time/typed-date';
import { CommitField } from '../app/CommitField';
import { call } from '../project/api';
import { newId, useDoc, useSession } from '../project/hooks';
import { takeThings } from '@yellowhammer/core/commands/shared-rows';
import { copyOf } from '@yellowhammer/core/commands/shared-things';
import { usePreview } from '../app/Preview';
import { taken, Users } from './CodeSetView';
import { shareRows, SharingLine } from './SharingLine';
import { useShared, useSharedThings } from './useShared';
import { typedNumber } from '@yellowhammer/core/model/number-text';
import { statusDay } from '@yellowhammer/core/model/status-day';

export function AccountsView() {
  const session = useSession();
  const { doc } = useDoc();
  const [chosen, setChosen] = useState<string | null>(null);
  const [pasting, setPasting] = useState(false);
  const [name, setName] = useState('');
  const run = (o: Outcome): boolean => session.run(o);
  const account = doc.accounts.get(chosen ?? '');
  const tree = accountTree(doc);
  const add = (text: string): string | null => {
    const m = /^(\S*\d\S*)\s+(.+)$/.exec(text.trim());
    const outcome = addAccount(doc, { code: m?.[1] ?? '', name: m?.[2] ?? text, parentId: account?.id ?? null }, newId);
    const wrong = taken(run, outcome);
    if (!wrong) setName('');
    return wrong;
  };
  return (
    <main className="library-main" aria-label="Accounts">
      <h2>Accounts</h2>
      <p className="muted">What costs and income are booked to. Expenses name one; so do rates, prices and resources. In the room Money they are the lines of the table.</p>
      <ul className="account-tree">
        {tree.map(({ account: a, depth }) => (
          <li key={a.id} style={{ paddingLeft: depth * 18 }}>
            <button type="button" className={`library-item${a.id === chosen ? ' on' : ''}`} aria-current={a.id === chosen} onClick={() => setChosen(a.id === chosen ? null : a.id)}>
              {a.code && <span className="muted">{a.code}</span>} {a.name} {a.sharedId !== null && <span className="muted">shared</span>}
            </button>
          </li>
        ))}
      </ul>
      <div className="library-actions">
        <CommitField
          size="xs"
          aria-label="Number and name of a new account"
          placeholder={account ? `Number and name, in ${account.name}` : 'Number and name of a new account'}
          value={name}
          onCommit={add}
        />
        <button type="button" className="chip" onClick={() => setPasting(true)}>
          Accounts from a spreadsheet
        </button>
        <FromProject />
        <SharedAccounts />
      </div>
      {account && <One key={account.id} a={account} onGone={() => setChosen(null)} />}
      <Currencies />
      {pasting && <PasteAccounts onClose={() => setPasting(false)} />}
    </main>
  );
}

/** All accounts shared at once, and all shared ones brought here. */
function SharedAccounts() {
  const session = useSession();
  const { doc } = useDoc();
  const { calendars } = useShared();
  const { entries, things, reload } = useSharedThings();
  const preview = usePreview();
  const own = [...doc.accounts.values()].filter((a) => a.sharedId === null);
  const away = entries.filter((e) => e.table === 'accounts' && !copyOf(doc, 'accounts', e.row.id));
  return (
    <>
      {preview.element}
      {own.length > 0 && (
        <button
          type="button"
          className="chip"
          onClick={() =>
            void shareRows(
              session,
              own.map((a) => ({ table: 'accounts', id: a.id })),
            ).then(reload)
          }
        >
          Share all {own.length} with other projects
        </button>
      )}
      {away.length > 0 && (
        <button
          type="button"
          className="chip"
          title={away.map((e) => e.row.name).join(', ')}
          onClick={() => preview.ask(takeThings(doc, { things, calendars }, 'accounts', newId), true)}
        >
          Take the {away.length} shared accounts that are not here
        </button>
      )}
    </>
  );
}

/** The same accounts as in another project: those that are there by number or name are changed, the others added. */
function FromProject() {
  const session = useSession();
  const { doc } = useDoc();
  const [list, setList] = useState<{ id: string; code: string; name: string }[]>([]);
  const look = (): void => {
    if (list.length > 0) return;
    void call<{ id: string; code: string; name: string }[]>('GET', '/projects').then((r) => {
      if (r.ok) setList(r.value.filter((p) => p.id !== session.id));
    });
  };
  const take = async (id: string): Promise<void> => {
    const r = await call<{ document: { accounts: Account[] } }>('GET', `/projects/${id}`);
    if (!r.ok) return session.onNotice({ tone: 'problem', title: 'Not taken over', text: r.problems.map((p) => p.message).join('\n') });
    const theirs = r.value.document.accounts;
    const byId = new Map(theirs.map((a) => [a.id, a]));
    const label = (a: Account): string => a.code || a.name;
    const depth = (a: Account | undefined, n = 0): number => (a?.parentId && n < 50 ? depth(byId.get(a.parentId), n + 1) : n);
    const lines = [...theirs].sort((a, b) => depth(a) - depth(b) || a.rank - b.rank).map((a) => [a.code, a.name, a.parentId === null ? '' : label(byId.get(a.parentId) ?? a)]);
    session.run(importAccounts(doc, [['number', 'name', 'above'], ...lines], newId));
  };
  return (
    <select aria-label="The same accounts as in another project" value="" onFocus={look} onPointerDown={look} onChange={(e) => void take(e.target.value)}>
      <option value="">the same as in …</option>
      {list.map((p) => (
        <option key={p.id} value={p.id}>
          {p.code} {p.name}
        </option>
      ))}
    </select>
  );
}

/** One account: its fields, its place, and what is booked to it. */
function One({ a, onGone }: { a: Account; onGone: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const run = (o: Outcome): boolean => session.run(o);
  const [asking, setAsking] = useState(false);
  const uses = accountUses(doc, a.id);
  const expenses = uses.expenses.flatMap((id) => doc.expenses.get(id) ?? []);
  const n = expenses.length + uses.assignments.length + uses.resources.length + uses.roles.length;
  const others = accountTree(doc).filter(({ account }) => account.id !== a.id);
  const remove = (instead?: string | null): void => {
    if (run(deleteAccount(doc, a.id, instead))) onGone();
  };
  return (
    <section className="account-one" aria-label={`Account ${a.name}`}>
      <SharingLine table="accounts" row={a} />
      <div className="own-grid">
        <CommitField of={a.id} size="xs" label="Number" value={a.code} onCommit={(code) => taken(run, setAccount(doc, a.id, { code }))} />
        <CommitField of={a.id} size="xs" label="Name" value={a.name} onCommit={(text) => taken(run, setAccount(doc, a.id, { name: text }))} />
        <label>
          <span>Lies in</span>
          <select value={a.parentId ?? ''} onChange={(e) => run(setAccount(doc, a.id, { parentId: e.target.value || null }))}>
            <option value="">the top</option>
            {others.map(({ account, depth }) => (
              <option key={account.id} value={account.id}>{`${'\u00a0\u00a0'.repeat(depth)}${accountLabel(doc, account)}`}</option>
            ))}
          </select>
        </label>
      </div>
      <div className="library-actions">
        <button type="button" className="chip" onClick={() => run(moveAccount(doc, a.id, -1))}>
          <IconArrowUp size={13} stroke={1.6} /> Up
        </button>
        <button type="button" className="chip" onClick={() => run(moveAccount(doc, a.id, 1))}>
          <IconArrowDown size={13} stroke={1.6} /> Down
        </button>
        <button type="button" className="chip" onClick={() => (n > 0 ? setAsking(true) : remove())}>
          Delete the account
        </button>
        {asking && n > 0 && (
          <label className="account-instead">
            <span>{n === 1 ? 'One row names' : `${n} rows name`} it. Book them to</span>
            <select defaultValue="" aria-label="Booked to in its place" onChange={(e) => remove(e.target.value === 'none' ? null : e.target.value)}>
              <option value="" disabled>
                choose
              </option>
              <option value="none">no account</option>
              {others.map(({ account }) => (
                <option key={account.id} value={account.id}>
                  {accountLabel(doc, account)}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {uses.resources.length + uses.roles.length > 0 && (
        <p>
          By itself of {[...uses.resources.map((id) => doc.resources.get(id)?.name), ...uses.roles.map((id) => doc.roles.get(id)?.name)].slice(0, 12).join(', ')}
          {uses.resources.length + uses.roles.length > 12 ? ' and others' : ''}.
        </p>
      )}
      <Users
        title="What is booked to it by name"
        groups={
          expenses.length
            ? [{ name: '', ids: [...new Set([...expenses.map((e) => e.activityId), ...uses.assignments.flatMap((id) => doc.assignments.get(id)?.activityId ?? [])])] }]
            : []
        }
        none="No expense names it yet."
      />
    </section>
  );
}

function PasteAccounts({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const [text, setText] = useState('');
  const [error, setError] = useState('');
  const take = (): void => {
    const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
    const o = importAccounts(doc, data, newId);
    if (!o.ok) return setError(o.problems[0]?.message ?? '');
    if (session.run(o)) onClose();
  };
  return (
    <Modal opened onClose={onClose} title="Accounts from a spreadsheet" size="lg">
      <p>
        Copy rows with number, name and the account above (its number or name) from a spreadsheet, and paste them here. With heads they may come in any order: number, name, above.
        Accounts that are there are changed.
      </p>
      <Textarea
        aria-label="Rows"
        autosize
        minRows={8}
        maxRows={16}
        data-autofocus
        value={text}
        onChange={(e) => (setText(e.currentTarget.value), setError(''))}
        placeholder={'100\tBuilding\n110\tStone\t100'}
      />
      {error && (
        <p className="critical-text" role="alert">
          {error}
        </p>
      )}
      <div className="update-actions">
        <button type="button" className="dark-button" disabled={text.trim() === ''} onClick={take}>
          Take over
        </button>
        <button type="button" className="light-button" onClick={onClose}>
          Leave as it is
        </button>
      </div>
    </Modal>
  );
}

/** Currencies beside the project's, each with the rate that was fixed and its day. */
function Currencies() {
  const session = useSession();
  const { doc } = useDoc();
  const project = projectOf(doc);
  const run = (o: Outcome): boolean => session.run(o);
  const own = project.currency || 'of the project’s currency';
  const near = statusDay(doc);
  const rate = (text: string): number | null => {
    const n = typedNumber(text);
    return n !== undefined && n > 0 ? n : null;
  };
  const [name, setName] = useState('');
  const add = (text: string): string | null => {
    const m = /^(.+?)\s+([\d.,]+)$/.exec(text.trim());
    const value = m ? rate(m[2] ?? '') : null;
    if (!m || value === null) return 'Type a name and what one of it is worth: EUR 11.25.';
    const wrong = taken(run, addCurrency(doc, { name: m[1] ?? '', rate: value, asOf: formatDay(dayOfToday()) }, newId));
    if (!wrong) setName('');
    return wrong;
  };
  return (
    <section className="account-one" aria-label="Other currencies">
      <h3>Other currencies</h3>
      <p className="muted">
        Everything is added up in {project.currency || 'the project’s currency'}. An expense in another currency is converted by the rate that is fixed here; a new rate converts
        them anew.
      </p>
      {ordered(doc, 'currencies').map((c) => (
        <div key={c.id} className="currency-line">
          <CommitField of={c.id} size="xs" aria-label={`Name of the currency ${c.name}`} value={c.name} onCommit={(text) => taken(run, setCurrency(doc, c.id, { name: text }))} />
          <span className="muted">1 {c.name} is</span>
          <CommitField
            of={c.id}
            size="xs"
            aria-label={`Rate of ${c.name}`}
            value={String(c.rate)}
            onCommit={(text) => {
              const n = rate(text);
              return n === null ? `${text} is no rate.` : taken(run, setCurrency(doc, c.id, { rate: n }));
            }}
          />
          <span className="muted">{own}, fixed on</span>
          <CommitField
            of={c.id}
            size="xs"
            aria-label={`Day of the rate of ${c.name}`}
            value={showTypedDate(c.asOf)}
            onCommit={(text) => {
              const day = parseTypedDate(text, near);
              return day ? taken(run, setCurrency(doc, c.id, { asOf: day.slice(0, 10) })) : `${text} cannot be read as a date.`;
            }}
          />
          <button type="button" className="plain-button" aria-label={`Delete the currency ${c.name}`} onClick={() => run(deleteCurrency(doc, c.id))}>
            <IconTrash size={14} stroke={1.6} />
          </button>
        </div>
      ))}
      <CommitField size="xs" aria-label="Name and rate of another currency" placeholder="Name and rate of another currency: EUR 11.25" value={name} onCommit={add} />
    </section>
  );
}
