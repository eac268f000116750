/** What holds from a date on: units, rates, prices. One line for each date, in their order. */
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { formatDay, parseDay } from '@yellowhammer/core/time/instant';
import { showDay } from '@yellowhammer/core/time/typed-date';
import { parseDayList } from '@yellowhammer/core/commands/exceptions';
import { AccountChoice } from '../app/AccountChoice';
import { CommitField } from '../app/CommitField';
import { useDoc } from '../project/hooks';
import { typedNumber } from '@yellowhammer/core/model/number-text';
import { statusDay } from '@yellowhammer/core/model/status-day';

interface Entry {
  from: string;
  value: number;
  accountId?: string | null;
}
interface Props {
  title: string;
  /** What holds without any entry. */
  none: string;
  unit: string;
  entries: readonly Entry[];
  /** What it is booked to can be said of each. */
  accounts?: true;
  /** Takes the list over; gives back why it cannot. */
  onChange: (entries: Entry[]) => string | null;
}

const inOrder = (list: readonly Entry[]): Entry[] => [...list].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
const readNumber = (text: string): number | null => {
  const n = typedNumber(text);
  return n !== undefined && n >= 0 ? Math.round(n * 1000) / 1000 : null;
};

export function Entries({ title, none, unit, entries, accounts, onChange }: Props) {
  const { doc } = useDoc();
  const [error, setError] = useState<string | null>(null);
  const near = statusDay(doc);
  const day = (text: string): string | null => {
    const read = parseDayList(text, near);
    return 'error' in read || read.days.length !== 1 ? null : formatDay(read.days[0]!);
  };
  const change = (n: number, fields: Partial<Entry>): string | null => onChange(inOrder(entries.map((e, i) => (i === n ? { ...e, ...fields } : e))));
  return (
    <section aria-label={title} className="entries">
      <h3>{title}</h3>
      {entries.length === 0 && <p className="muted">{none}</p>}
      {entries.map((e, n) => (
        <div key={`${e.from} ${n}`} className="entry">
          {n === 0 ? (
            <span className="muted entry-first">{entries.length === 1 ? 'always' : 'first'}</span>
          ) : (
            <CommitField
              of={e.from}
              size="xs"
              aria-label={`${title}, from`}
              value={showDay(parseDay(e.from) ?? 0)}
              onCommit={(text) => {
                const from = day(text);
                return from ? change(n, { from }) : `${text} is no date.`;
              }}
            />
          )}
          <CommitField
            of={`${e.from} ${e.value}`}
            size="xs"
            aria-label={`${title} ${n === 0 ? 'first' : `from ${e.from}`}`}
            value={String(e.value)}
            onCommit={(text) => {
              const value = readNumber(text);
              return value === null ? `${text} is no number.` : change(n, { value });
            }}
          />
          <span className="muted">{unit}</span>
          {accounts && doc.accounts.size > 0 && (
            <AccountChoice
              doc={doc}
              none="account as above"
              label={`Account of ${title.toLowerCase()} ${n === 0 ? 'first' : `from ${e.from}`}`}
              value={e.accountId ?? null}
              onChange={(accountId) => setError(change(n, { accountId }))}
            />
          )}
          <button type="button" className="plain-button" aria-label={`Delete this line of ${title}`} onClick={() => setError(onChange(entries.filter((_, i) => i !== n)))}>
            <IconTrash size={14} stroke={1.6} />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="chip"
        onClick={() => {
          const last = entries.at(-1);
          const from = last ? formatDay(Math.max(parseDay(last.from) ?? 0, near) + 1) : formatDay(near);
          setError(onChange([...entries, { from, value: last?.value ?? 1, accountId: last?.accountId ?? null }]));
        }}
      >
        {entries.length ? 'Another from a date on' : 'Say how much'}
      </button>
      {error && (
        <p className="critical-text" role="alert">
          {error}
        </p>
      )}
    </section>
  );
}
