import { useMemo, useState } from 'react';
import { linkEach } from '@yellowhammer/core/commands/bulk-links';
import { refused } from '@yellowhammer/core/commands/result';
import type { LinkType } from '@yellowhammer/core/model/schema';
import { usePlan } from '../../app/store';
import { newId, useDoc } from '../../project/hooks';
import { activitiesIn, LagField, RowNames, TypeSelect, useLag } from './parts';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

/** Each of these to each of those: the first are those selected at the beginning, the others are selected then. */
export function EachTask({ rows, onDone }: TaskProps) {
  const { doc, version } = useDoc();
  const { selected } = usePlan();
  const [type, setType] = useState<LinkType>('FS');
  const [turned, setTurned] = useState(false);
  const lag = useLag(doc);
  const these = useMemo(() => activitiesIn(doc, rows), [doc, rows]);
  // Until something else is selected, the others are not chosen.
  const those = useMemo(() => (selected.join() === rows.join() ? [] : activitiesIn(doc, selected)), [doc, selected, rows]);
  const result = useMemo(() => {
    if (those.length === 0) return { outcome: refused('NOTHING_SELECTED', 'Select the other activities in the sheet, or on the bars.'), made: 0, skipped: [] };
    if (lag.error) return { outcome: refused('WRONG_LINK', lag.error), made: 0, skipped: [] };
    return linkEach(doc, turned ? those : these, turned ? these : those, type, newId, lag.lag);
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, these, those, turned, type, lag]);
  return (
    <>
      <h4>
        {turned ? 'Those' : 'These'} · {these.length}
      </h4>
      <RowNames doc={doc} ids={these} />
      <p>
        <button type="button" className="link-button" onClick={() => setTurned(!turned)}>
          {turned ? '↑ each of the selected leads to these' : '↓ each leads to each of the selected'}
        </button>
      </p>
      <h4>
        {turned ? 'These' : 'Those'} · {those.length}
      </h4>
      {those.length === 0 ? <p className="muted">Select them in the sheet or on the bars.</p> : <RowNames doc={doc} ids={those} />}
      <TypeSelect value={type} onChange={setType} autoFocus />
      <LagField lag={lag} />
      <Verdict
        outcome={result.outcome}
        action={`Make ${result.made} ${result.made === 1 ? 'link' : 'links'}`}
        facts={those.length ? [`${these.length} × ${those.length}: ${result.made} ${result.made === 1 ? 'link' : 'links'} can be made.`] : []}
        skipped={result.skipped}
        onDone={() => onDone([])}
      />
    </>
  );
}
