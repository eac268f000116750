import { useEffect, useMemo, useState } from 'react';
import { deleteLinks, formatLink } from '@yellowhammer/core/commands/links';
import { refused } from '@yellowhammer/core/commands/result';
import { labelOf } from '@yellowhammer/core/model/document';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { useDoc, useSession } from '../../project/hooks';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

const MOST_LISTED = 200;

/** Links that a longer chain asks for already. They are looked for beside the window. */
export function RedundantTask({ onGo, onDone }: TaskProps) {
  const session = useSession();
  const { doc, version } = useDoc();
  const [found, setFound] = useState<readonly string[] | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let gone = false;
    void session.worker.redundant().then((ids) => !gone && setFound(ids));
    return () => {
      gone = true;
    };
  }, [session, version]);
  const links = (found ?? []).flatMap((id) => doc.links.get(id) ?? []);
  const outcome = useMemo(() => {
    const ids = (found ?? []).filter((id) => !left.has(id) && doc.links.has(id));
    return ids.length ? deleteLinks(doc, ids) : refused('NOTHING_SELECTED', found === null ? 'Looking through the network' : 'No link is redundant.');
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, found, left]);
  return (
    <>
      {links.slice(0, MOST_LISTED).map((l) => {
        const [a, b] = [doc.activities.get(l.from), doc.activities.get(l.to)];
        return a && b ? (
          <label key={l.id} className="task-check">
            <input type="checkbox" checked={!left.has(l.id)} onChange={() => setLeft(new Set(left.has(l.id) ? [...left].filter((x) => x !== l.id) : [...left, l.id]))} />
            <span>
              {formatLink(a, l, dayLengths(doc, a))} to{' '}
              <button type="button" className="link-button" onClick={() => onGo(b.id)}>
                {labelOf(b)}
              </button>
            </span>
          </label>
        ) : null;
      })}
      {links.length > MOST_LISTED && <p className="muted">and {links.length - MOST_LISTED} more</p>}
      <Verdict
        outcome={outcome}
        action={`Take ${outcome.ok ? outcome.changes.length : 0} out`}
        facts={outcome.ok ? [`${links.length} of ${doc.links.size} links say nothing new.`] : []}
        onDone={() => onDone([])}
      />
    </>
  );
}
