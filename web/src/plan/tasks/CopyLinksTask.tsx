import { useMemo, useState } from 'react';
import { copyLinks, linksAt, type Side } from '@yellowhammer/core/commands/bulk-links';
import { formatLink } from '@yellowhammer/core/commands/links';
import { refused } from '@yellowhammer/core/commands/result';
import { labelOf } from '@yellowhammer/core/model/document';
import type { LinkType } from '@yellowhammer/core/model/schema';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { usePlan } from '../../app/store';
import { newId, useDoc } from '../../project/hooks';
import { activitiesIn, LagField, RowNames, TypeSelect, useLag } from './parts';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

/** The predecessors or successors of one activity for the others that are selected then. */
export function CopyLinksTask({ rows, onDone }: TaskProps) {
  const { doc, version } = useDoc();
  const { selected } = usePlan();
  const source = doc.activities.get(rows[0] ?? '');
  const [side, setSide] = useState<Side>('predecessors');
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [own, setOwn] = useState(true);
  const [type, setType] = useState<LinkType>('FS');
  const lag = useLag(doc);
  const links = source ? linksAt(doc, source.id, side) : [];
  const targets = useMemo(() => activitiesIn(doc, selected).filter((id) => id !== rows[0]), [doc, selected, rows]);
  const result = useMemo(() => {
    const no = (text: string) => ({ outcome: refused('NOTHING_SELECTED', text), made: 0, skipped: [] });
    if (!source) return no('That activity is not in the plan any more.');
    const only = new Set(linksAt(doc, source.id, side).flatMap((l) => (left.has(l.id) ? [] : [l.id])));
    if (only.size === 0) return no(`There are no ${side} to copy.`);
    if (targets.length === 0) return no('Select the activities that are to get them, in the sheet or on the bars.');
    if (!own && lag.error) return no(lag.error);
    return copyLinks(doc, source.id, targets, side, { only, ...(own ? {} : { type, lag: lag.lag }) }, newId);
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, source, side, left, own, type, lag, targets]);
  if (!source) return null;
  return (
    <>
      <label className="task-field">
        Of {labelOf(source)}
        <select value={side} data-autofocus onChange={(e) => setSide(e.target.value as Side)}>
          <option value="predecessors">its predecessors</option>
          <option value="successors">its successors</option>
        </select>
      </label>
      {links.map((l) => {
        const other = doc.activities.get(side === 'predecessors' ? l.from : l.to);
        const before = doc.activities.get(l.from);
        return other && before ? (
          <label key={l.id} className="task-check">
            <input type="checkbox" checked={!left.has(l.id)} onChange={() => setLeft(new Set(left.has(l.id) ? [...left].filter((x) => x !== l.id) : [...left, l.id]))} />
            {formatLink(other, l, dayLengths(doc, before))} <span className="muted">{other.name}</span>
          </label>
        ) : null;
      })}
      {links.length === 0 && <p className="muted">It has none.</p>}
      <label className="task-check">
        <input type="checkbox" checked={own} onChange={() => setOwn(!own)} />
        with their own types and lags
      </label>
      {!own && (
        <>
          <TypeSelect value={type} onChange={setType} />
          <LagField lag={lag} />
        </>
      )}
      <h4>For · {targets.length}</h4>
      {targets.length ? <RowNames doc={doc} ids={targets} /> : <p className="muted">Select them in the sheet or on the bars.</p>}
      <Verdict
        outcome={result.outcome}
        action={`Make ${result.made} ${result.made === 1 ? 'link' : 'links'}`}
        facts={result.made || result.skipped.length ? [`${result.made} ${result.made === 1 ? 'link' : 'links'} can be made.`] : []}
        skipped={result.skipped}
        onDone={() => onDone([])}
      />
    </>
  );
}
