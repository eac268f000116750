/** The history of the plan: the log with what each act did to the finish; two points compared; back to any of them. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import type { LogEntry } from '@yellowhammer/core/change/change';
import { goBack, touches } from '@yellowhammer/core/change/points';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { usePlan } from '../../app/store';
import { DateField } from '../../app/DateField';
import { longFinish, signedDays } from '../../app/format';
import { call } from '../../project/api';
import { useDoc, useSession, useTopic } from '../../project/hooks';
import { Verdict } from './Verdict';

interface Page {
  entries: LogEntry[];
  more: boolean;
}

/** Finishes are computed so many acts at a time, so that the first are there at once. */
const STEP = 12;

const when = (at: string): string => new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
const dayOf = (at: string): string => new Date(at).toLocaleDateString('en-CA');

export function HistoryTask() {
  const session = useSession();
  const navigate = useNavigate();
  const { doc } = useDoc();
  useTopic('sync');
  const { selected } = usePlan();
  const { revision, pending } = session.synced;
  const [log, setLog] = useState<Page>({ entries: [], more: false });
  const [error, setError] = useState<string | null>(null);
  const [finishes, setFinishes] = useState<(number | null)[]>([]);
  const [who, setWho] = useState('');
  const [from, setFrom] = useState('');
  const [upTo, setUpTo] = useState('');
  const [onlyRows, setOnlyRows] = useState(false);
  const [marks, setMarks] = useState<readonly number[]>([]);
  const [backTo, setBackTo] = useState<number | null>(null);
  const load = useCallback(
    async (before: number, kept: readonly LogEntry[]): Promise<void> => {
      const reply = await call<Page>('GET', `/projects/${session.id}/history?before=${before}`);
      if (reply.ok) setLog({ entries: [...kept, ...reply.value.entries], more: reply.value.more });
      setError(reply.ok ? null : (reply.problems[0]?.message ?? ''));
    },
    [session],
  );
  // The list begins anew whenever the plan on the server is another.
  useEffect(() => {
    setBackTo(null);
    void load(revision + 1, []);
  }, [load, revision]);
  const { entries } = log;
  useEffect(() => {
    let gone = false;
    void (async () => {
      const unsent = [...session.synced.pending].reverse().map((b) => ({ revision: 0, changes: b.changes }));
      let known: (number | null)[] = [];
      for (let at = 0; at < entries.length && !gone; at += STEP) {
        // The last of one step is the first of the next.
        const next = await session.worker.finishesBack(unsent, entries.slice(0, at + STEP), at);
        known = [...known.slice(0, -1), ...next];
        if (!gone) setFinishes(known);
      }
    })();
    return () => {
      gone = true;
    };
  }, [session, entries]);
  const calendar = calendarFor(doc, { calendarId: null });
  const effect = (i: number): number | null => {
    const [after, before] = [finishes[i], finishes[i + 1]];
    if (after === undefined || before === undefined || after === null || before === null || !calendar) return null;
    return (calendar.position(after) - calendar.position(before)) / calendar.minutesPerDay;
  };
  const people = [...new Set(entries.map((e) => e.who))].sort();
  const chosen = new Set(onlyRows ? selected : []);
  const shown = entries.flatMap((e, i) => {
    if ((who && e.who !== who) || (from && dayOf(e.at) < from) || (upTo && dayOf(e.at) > upTo)) return [];
    return chosen.size > 0 && !touches(e, chosen) ? [] : [{ e, i }];
  });
  const nameOf = (i: number): string => {
    const e = entries[i];
    return e ? `before ${e.label} (${when(e.at)})` : '';
  };
  const unsent = useMemo(() => [...pending].reverse().map((b) => ({ revision: 0, changes: b.changes })), [pending]);
  const outcome = useMemo(
    () => (backTo === null ? null : goBack(doc, [...unsent, ...entries.slice(0, backTo + 1)], nameOf(backTo))),
    // The document changes inside; the revision says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [doc, revision, unsent, entries, backTo],
  );
  const compare = async (): Promise<void> => {
    // The older point first. A point is the plan before its act.
    const points = [...marks].sort((a, b) => b - a).map((i) => ({ i, value: `revision ${entries[i]?.revision ?? 0}`, label: nameOf(i) }));
    for (const p of points) await session.worker.keepState(p.value, [...unsent, ...entries.slice(0, p.i + 1)]);
    void navigate(`/p/${session.id}/compare`, { state: { points: points.map(({ value, label }) => ({ value, label })) } });
  };
  return (
    <>
      <div className="history-filter">
        <label className="task-field">
          By
          <select value={who} data-autofocus onChange={(e) => setWho(e.target.value)}>
            <option value="">everybody</option>
            {people.map((p) => (
              <option key={p}>{p}</option>
            ))}
          </select>
        </label>
        <DateField label="From" value={from || null} end="start" clearable onChange={(v) => setFrom(v?.slice(0, 10) ?? '')} />
        <DateField label="To" value={upTo || null} end="finish" clearable onChange={(v) => setUpTo(v?.slice(0, 10) ?? '')} />
      </div>
      <label className="task-check">
        <input type="checkbox" checked={onlyRows} onChange={() => setOnlyRows(!onlyRows)} />
        only of the selected rows{onlyRows && selected.length === 0 ? ': none is selected' : ''}
      </label>
      {error && (
        <p role="alert" className="critical-text">
          {error}
        </p>
      )}
      <p className="muted" role="status">
        {shown.length === entries.length ? '' : `${shown.length} of `}
        {entries.length} {entries.length === 1 ? 'act' : 'acts'}
        {log.more ? ', older ones below' : ''}
      </p>
      <ol className="history-list">
        {shown.map(({ e, i }) => {
          const days = effect(i);
          return (
            <li key={e.revision} className={backTo === i ? 'on' : ''}>
              <label className="history-mark">
                <input
                  type="checkbox"
                  aria-label={`Compare with the plan before ${e.label}`}
                  checked={marks.includes(i)}
                  onChange={() => setMarks(marks.includes(i) ? marks.filter((m) => m !== i) : [...marks.slice(-1), i])}
                />
              </label>
              <span className="history-what">
                <b>{e.label}</b>
                <span className="muted">
                  {when(e.at)}, {e.who}
                </span>
              </span>
              <span className={`history-days${days !== null && days > 0 ? ' critical-text' : ' muted'}`} title="What it did to the finish">
                {days === null ? '' : days === 0 ? 'holds' : signedDays(days)}
              </span>
              {e.changes.length > 0 && (
                <button type="button" className="link-button history-back" aria-label={`Go back to before ${e.label}`} onClick={() => setBackTo(i)}>
                  back to before this
                </button>
              )}
            </li>
          );
        })}
      </ol>
      {log.more && (
        <button type="button" className="light-button" onClick={() => void load(entries[entries.length - 1]?.revision ?? 0, entries)}>
          Older ones
        </button>
      )}
      {marks.length > 0 && (
        <button type="button" className="light-button history-compare" onClick={() => void compare()}>
          {marks.length === 2 ? 'Compare the two points' : 'Compare that point with now'}
        </button>
      )}
      {outcome && backTo !== null && (
        <Verdict
          outcome={outcome}
          action="Go back"
          facts={[
            `To ${nameOf(backTo)}: ${backTo + 1} ${backTo === 0 ? 'act is' : 'acts are'} taken back as one, which can be undone.`,
            ...(finishes[backTo + 1] ? [`The finish was ${longFinish(finishes[backTo + 1] as number)}.`] : []),
          ]}
          onDone={() => {
            setBackTo(null);
            setMarks([]);
          }}
        />
      )}
    </>
  );
}
