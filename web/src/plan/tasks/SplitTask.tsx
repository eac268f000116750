import { useMemo, useState } from 'react';
import { splitActivity } from '@yellowhammer/core/commands/reshape';
import { refused } from '@yellowhammer/core/commands/result';
import { labelOf } from '@yellowhammer/core/model/document';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { newId, useDoc } from '../../project/hooks';
import type { TaskProps } from './types';
import { Verdict } from './Verdict';

export function SplitTask({ rows, onDone }: TaskProps) {
  const { doc, version } = useDoc();
  const a = doc.activities.get(rows[0] ?? '');
  const lengths = dayLengths(doc, a ?? { calendarId: null });
  // Half of it to begin with, in whole days where it has them.
  const [text, setText] = useState(() => {
    const half = (a?.duration ?? 0) / 2;
    const days = Math.max(1, Math.round(half / lengths.minutesPerDay));
    return formatDuration(days * lengths.minutesPerDay < (a?.duration ?? 0) ? days * lengths.minutesPerDay : Math.floor(half), lengths);
  });
  const outcome = useMemo(() => {
    const first = parseDuration(text, dayLengths(doc, a ?? { calendarId: null }));
    return first === undefined ? refused('WRONG_VALUE', `${text || 'An empty duration'} cannot be read. Type it as 2d, 6h or 1w.`) : splitActivity(doc, a?.id ?? '', first, newId);
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [doc, version, a, text]);
  if (!a) return null;
  const first = parseDuration(text, lengths);
  return (
    <>
      <p>
        <b>{labelOf(a)}</b>, {formatDuration(a.duration, lengths)}
      </p>
      <label className="task-field">
        First part
        <input value={text} data-autofocus aria-invalid={!outcome.ok} onChange={(e) => setText(e.target.value)} onFocus={(e) => e.target.select()} />
      </label>
      <Verdict
        outcome={outcome}
        action="Split"
        facts={outcome.ok && first !== undefined ? [`${formatDuration(first, lengths)}, then ${formatDuration(a.duration - first, lengths)}.`] : []}
        onDone={(made) => onDone([a.id, ...made])}
      />
    </>
  );
}
