import { Modal } from '@mantine/core';
import { useEffect, useState } from 'react';
import type { ProjectEffect, SharedEntry } from '@yellowhammer/core/commands/shared-views';
import { makeOwn } from '@yellowhammer/core/commands/shared';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { call } from '../project/api';
import { useSession } from '../project/hooks';
import { EffectsTable } from './EffectsTable';

/** A wish to change a shared calendar from within a project. */
export interface SharedWish {
  entry: SharedEntry;
  row: Calendar;
  fields: Partial<Calendar>;
}

/** The shared calendar as a wish makes it: what its project copy is based on is named by the shared one. */
const wishedCalendar = ({ entry, row, fields }: SharedWish, calendars: ReadonlyMap<string, Calendar>): Calendar => {
  const basedOn = fields.basedOn === undefined ? entry.calendar.basedOn : fields.basedOn === null ? null : (calendars.get(fields.basedOn)?.sharedId ?? fields.basedOn);
  return { ...entry.calendar, week: row.week, exceptions: row.exceptions, ...fields, basedOn, id: entry.calendar.id, sharedId: entry.calendar.id, rank: entry.calendar.rank };
};

/** Before a change of a shared calendar is taken over: every project that uses it, with what happens to its finish. */
export function SharedDialog({ wish, onClose }: { wish: SharedWish; onClose: () => void }) {
  const session = useSession();
  const [effects, setEffects] = useState<ProjectEffect[] | null>(null);
  const [problem, setProblem] = useState('');
  const next = wishedCalendar(wish, session.doc.calendars);
  const archived = wish.entry.usedBy.filter((u) => u.state === 'archived').length;
  useEffect(() => {
    let gone = false;
    void call<{ effects: ProjectEffect[] }>('POST', '/shared-calendars/effects', { calendar: wishedCalendar(wish, session.doc.calendars) }).then((r) => {
      if (gone) return;
      if (r.ok) setEffects(r.value.effects);
      else setProblem(r.problems.map((p) => p.message).join(' '));
    });
    return () => {
      gone = true;
    };
  }, [wish, session]);
  const take = async (): Promise<void> => {
    const reply = await call('PUT', `/shared-calendars/${next.id}`, { revision: wish.entry.revision, calendar: next });
    if (reply.ok) onClose();
    else setProblem(reply.problems.map((p) => p.message).join(' '));
  };
  return (
    <Modal opened onClose={onClose} title={`${wish.entry.calendar.name} is shared`} size="xl">
      <p>All projects that use it would get the change. Their finishes, computed with it:</p>
      {effects === null && !problem && <p className="muted">Computing every project that uses it</p>}
      {effects && <EffectsTable effects={effects} />}
      {archived > 0 && <p className="muted">{archived === 1 ? 'One archived project keeps' : `${archived} archived projects keep`} the calendar as it is now.</p>}
      {problem && (
        <p className="critical-text" role="alert">
          {problem}
        </p>
      )}
      <div className="update-actions">
        <button type="button" className="dark-button" disabled={!effects} onClick={() => void take()} data-autofocus>
          Take over for all
        </button>
        <button
          type="button"
          className="light-button"
          onClick={() => {
            session.run(makeOwn(session.doc, wish.row.id, wish.fields));
            onClose();
          }}
        >
          Make a project copy instead
        </button>
        <button type="button" className="light-button" onClick={onClose}>
          Cancel
        </button>
      </div>
    </Modal>
  );
}
