import { Modal } from '@mantine/core';
import { memo, useState } from 'react';
import { linkInOrder } from '@yellowhammer/core/commands/links';
import { labelOf } from '@yellowhammer/core/model/document';
import { type LinkType, linkTypes } from '@yellowhammer/core/model/schema';
import { dayLengths } from '@yellowhammer/core/schedule/calendars';
import { parseDuration } from '@yellowhammer/core/time/duration';
import { newId, useSession } from '../project/hooks';
import { typeNames } from './tasks/parts';

/** Type and lag of links that are made in the order of selecting (Shift+L). */
export const LinkDialog = memo(function LinkDialog({ ids, onClose }: { ids: readonly string[] | null; onClose: () => void }) {
  const session = useSession();
  const [type, setType] = useState<LinkType>('FS');
  const [lag, setLag] = useState('');
  const [error, setError] = useState<string | null>(null);
  const activities = (ids ?? []).flatMap((id) => session.doc.activities.get(id) ?? []);
  const link = (): void => {
    const first = activities[0];
    const minutes = lag.trim() === '' || !first ? 0 : parseDuration(lag, dayLengths(session.doc, first));
    if (minutes === undefined) return setError(`The lag ${lag} cannot be read. Type it as 2d, -4h or 1w.`);
    const outcome = linkInOrder(
      session.doc,
      activities.map((a) => a.id),
      newId,
      type,
      minutes,
    );
    if (!outcome.ok) return setError(outcome.problems[0]!.message);
    session.run(outcome);
    onClose();
  };
  return (
    <Modal opened={ids !== null} onClose={onClose} title={`Link ${activities.length} activities`} size="sm">
      <form
        className="form-stack"
        onSubmit={(e) => {
          e.preventDefault();
          link();
        }}
      >
        <p className="muted">
          {activities
            .slice(0, 4)
            .map((a) => labelOf(a))
            .join(', then ')}
          {activities.length > 4 && `, and ${activities.length - 4} more`}
        </p>
        <label>
          Type{' '}
          <select value={type} onChange={(e) => setType(e.target.value as LinkType)} data-autofocus>
            {linkTypes.map((t) => (
              <option key={t} value={t}>
                {t}: {typeNames[t]}
              </option>
            ))}
          </select>
        </label>
        <label>
          Lag <input value={lag} placeholder="2d, -4h" aria-invalid={error !== null} onChange={(e) => setLag(e.target.value)} />
        </label>
        {error && (
          <p role="alert" className="critical-text">
            {error}
          </p>
        )}
        <button type="submit" className="dark-button">
          Link
        </button>
      </form>
    </Modal>
  );
});
