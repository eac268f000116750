/** What a prepared act would do: what is made, what is left out and why, and what becomes of the finish. Then it is done. */
import { useEffect, useMemo, useState } from 'react';
import { differencesOf, type ViewDifference } from '@yellowhammer/core/compare/views';
import type { Skipped } from '@yellowhammer/core/commands/bulk-links';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { planActions, useAppDispatch } from '../../app/store';
import { longFinish, signedDays } from '../../app/format';
import { useSession, useTopic } from '../../project/hooks';

/** What changes would move, a moment after they were last changed; null while it is computed or where nothing can be. */
function useEffectOf(outcome: Outcome): ViewDifference | null {
  const session = useSession();
  const [result, setResult] = useState<{ of: Outcome; difference: ViewDifference | null } | null>(null);
  useEffect(() => {
    if (!outcome.ok) return;
    let gone = false;
    const timer = setTimeout(() => {
      void session.worker.preview(outcome.changes).then(({ view }) => {
        if (!gone) setResult({ of: outcome, difference: session.view && view ? differencesOf(session.doc, session.view, view, 200) : null });
      });
    }, 150);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [outcome, session]);
  return result?.of === outcome ? result.difference : null;
}

interface Props {
  outcome: Outcome;
  /** What the button says. */
  action: string;
  /** Facts above the effect. */
  facts: readonly string[];
  skipped?: readonly Skipped[];
  onDone: (made: readonly string[]) => void;
}

const MOST_LISTED = 12;

export function Verdict({ outcome, action, facts, skipped = [], onDone }: Props) {
  const session = useSession();
  useTopic('doc');
  const effect = useEffectOf(outcome);
  const [tried, setTried] = useState(false);
  // A refusal stands where the effect would; an untouched form is not blamed before anything was tried.
  const reason = outcome.ok ? null : (outcome.problems[0]?.message ?? '');
  const act = (): void => {
    setTried(true);
    if (outcome.ok && session.run(outcome)) onDone(outcome.made ?? []);
  };
  const groups = useMemo(() => [...new Set(skipped.map((s) => s.code))].map((code) => ({ code, list: skipped.filter((s) => s.code === code) })), [skipped]);
  return (
    <form
      id="task-verdict"
      className="verdict"
      aria-live="polite"
      onSubmit={(e) => {
        e.preventDefault();
        act();
      }}
    >
      {facts.map((f) => (
        <p key={f}>{f}</p>
      ))}
      {groups.map((g) => (
        <details key={g.code} open={g.list.length <= 3}>
          <summary>
            {g.list.length} left out: {wordsOf[g.code] ?? 'cannot be'}
          </summary>
          <ul className="skipped">
            {g.list.slice(0, MOST_LISTED).map((s) => (
              <li key={`${s.from} ${s.to}`}>
                {s.message} {s.loop && <ShowRows ids={s.loop} />}
              </li>
            ))}
            {g.list.length > MOST_LISTED && <li className="muted">and {g.list.length - MOST_LISTED} more</li>}
          </ul>
        </details>
      ))}
      {reason !== null && (
        <p role={tried ? 'alert' : undefined} className={tried ? 'critical-text' : 'muted'}>
          {reason}
        </p>
      )}
      {outcome.ok && (
        <p className="verdict-finish">
          {effect ? (
            <>
              <b className="serif">{longFinish(effect.after)}</b>{' '}
              <span className={effect.finishDays > 0 ? 'critical-text' : 'muted'}>{effect.finishDays === 0 ? 'the finish holds' : signedDays(effect.finishDays)}</span>
              {effect.count > 0 && (
                <span className="muted">
                  , {effect.count} {effect.count === 1 ? 'activity moves' : 'activities move'}
                </span>
              )}
            </>
          ) : (
            <span className="muted">Computing what it does to the finish</span>
          )}
        </p>
      )}
      <button type="submit" className="dark-button" disabled={!outcome.ok}>
        {action}
      </button>
    </form>
  );
}

const wordsOf: Partial<Record<Skipped['code'], string>> = {
  LOOP: 'they would close a loop',
  DUPLICATE_LINK: 'linked so already',
  MARGIN_LINK: 'a margin takes only finish to start',
  UNKNOWN_ACTIVITY: 'not in the plan any more',
};

/** Selects the rows of a loop in the sheet. */
function ShowRows({ ids }: { ids: readonly string[] }) {
  const dispatch = useAppDispatch();
  const first = ids[0];
  return (
    <button
      type="button"
      className="link-button"
      onClick={() => first !== undefined && dispatch(planActions.select({ ids: [...new Set(ids)], active: { row: first, column: 'name' } }))}
    >
      Select them
    </button>
  );
}
