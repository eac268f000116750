import { Modal } from '@mantine/core';
import { type ReactNode, useCallback, useEffect, useState } from 'react';
import { differencesOf, type ViewDifference } from '@yellowhammer/core/compare/views';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { sharedTouched } from '@yellowhammer/core/commands/shared-things';
import { labelOf } from '@yellowhammer/core/model/document';
import { useSession } from '../project/hooks';
import { finishText, longFinish, signedDays } from './format';

type Taken = Extract<Outcome, { ok: true }>;

/**
 * Shows first what a change would do, then takes it over as one undoable change.
 * `ask` previews an outcome (refusals are told at once); the element stands somewhere in the page.
 */
export function usePreview(): { ask: (outcome: Outcome, onlyIfMoved?: boolean) => boolean; element: ReactNode } {
  const session = useSession();
  const [asked, setAsked] = useState<{ outcome: Taken; onlyIfMoved: boolean } | null>(null);
  const [result, setResult] = useState<ViewDifference | null>(null);
  const ask = useCallback(
    (outcome: Outcome, onlyIfMoved = false): boolean => {
      if (!outcome.ok) return session.run(outcome);
      if (outcome.changes.length === 0) return true;
      // What is shared is asked with the effect on every project.
      if (sharedTouched(outcome.changes).length) return session.run(outcome);
      setResult(null);
      setAsked({ outcome, onlyIfMoved });
      return true;
    },
    [session],
  );
  useEffect(() => {
    if (!asked) return;
    let gone = false;
    void session.worker.preview(asked.outcome.changes).then(({ view }) => {
      if (gone) return;
      const before = session.view;
      const difference = before && view ? differencesOf(session.doc, before, view) : null;
      if (asked.onlyIfMoved && (!difference || difference.moved.length === 0)) {
        session.run(asked.outcome);
        setAsked(null);
      } else setResult(difference);
    });
    return () => {
      gone = true;
    };
  }, [asked, session]);
  const close = (): void => setAsked(null);
  const take = (): void => {
    if (asked) session.run(asked.outcome);
    close();
  };
  const element = asked && (!asked.onlyIfMoved || result) && (
    <Modal opened onClose={close} title="What this would do" size="lg">
      {result ? <Difference d={result} /> : <p className="muted">Computing</p>}
      <div className="update-actions">
        <button type="button" className="dark-button" onClick={take} data-autofocus>
          Take over
        </button>
        <button type="button" className="light-button" onClick={close}>
          Leave as it is
        </button>
      </div>
    </Modal>
  );
  return { ask, element };
}

function Difference({ d }: { d: ViewDifference }) {
  const session = useSession();
  return (
    <>
      <p className="effect">
        <b className="serif">{longFinish(d.after)}</b>{' '}
        <span className={d.finishDays > 0 ? 'critical-text' : 'muted'}>{d.finishDays === 0 ? 'the finish holds' : signedDays(d.finishDays)}</span>
      </p>
      <p>
        {d.moved.length === 0 ? 'No activity would move.' : `${d.moved.length} ${d.moved.length === 1 ? 'activity' : 'activities'} would move.`} Critical: {d.criticalBefore}{' '}
        before, {d.criticalAfter} after.
      </p>
      {(
        [
          ['against the baseline', d.againstBaseline],
          ['to the required finish', d.toRequired],
        ] as const
      ).map(([name, [a, b]]) =>
        a !== null && b !== null && a !== b ? (
          <p key={name}>
            {name[0]!.toUpperCase() + name.slice(1)}: {signedDays(a)} now, {signedDays(b)} then, in days of the project’s calendar.
          </p>
        ) : null,
      )}
      {d.moved.length > 0 && (
        <table className="table">
          <thead>
            <tr>
              <th>The largest moves</th>
              <th className="right">Finish now</th>
              <th className="right">Then</th>
              <th className="right">Working days</th>
            </tr>
          </thead>
          <tbody>
            {d.moved.slice(0, 10).map((m) => {
              const a = session.doc.activities.get(m.id);
              return (
                <tr key={m.id}>
                  <td>{a ? labelOf(a) : m.id}</td>
                  <td className="right">{finishText(m.from)}</td>
                  <td className="right">{finishText(m.to)}</td>
                  <td className={`right${m.days > 0 ? ' critical-text' : ''}`}>{signedDays(m.days)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </>
  );
}
