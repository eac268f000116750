import { Modal, Radio } from '@mantine/core';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { formatHours } from '@yellowhammer/core/commands/hours';
import type { ImportChoice } from '@yellowhammer/core/commands/shared';
import type { MeetingView } from '@yellowhammer/core/commands/shared-views';
import type { Problem } from '@yellowhammer/core/model/problem';
import type { Interval } from '@yellowhammer/core/model/schema';
import { parseInstant, weekdayOf } from '@yellowhammer/core/time/instant';
import { showDay, weekdayNames } from '@yellowhammer/core/time/typed-date';
import { finishText, signedDays } from '../app/format';
import { call } from '../project/api';

/** A file that was read and waits for choices. */
export interface Arrival {
  name: string;
  text: string;
  meetings: MeetingView[];
}

type Choices = Record<string, ImportChoice>;
const hours = (work: readonly Interval[]): string => (work.length ? formatHours(work) : 'no work');
const path = (choices: Choices, look = false): string => `/import?choices=${encodeURIComponent(JSON.stringify(choices))}${look ? '&look=1' : ''}`;

/**
 * Calendars of the file that meet shared ones of the same name with other content: the days on which they differ, and
 * the finish under each choice, before anything is made.
 */
export function ImportDialog({ arrival, onClose }: { arrival: Arrival; onClose: (problems: Problem[]) => void }) {
  const navigate = useNavigate();
  const [meetings, setMeetings] = useState(arrival.meetings);
  const [choices, setChoices] = useState<Choices>({});
  const [problem, setProblem] = useState('');
  const [busy, setBusy] = useState(false);
  const open = meetings.filter((m) => !choices[m.calendarId]).length;
  const choose = async (id: string, choice: ImportChoice): Promise<void> => {
    const next = { ...choices, [id]: choice };
    setChoices(next);
    if (meetings.length < 2) return;
    // With several calendars the finishes depend on what was chosen for the others.
    const reply = await call<{ meetings: MeetingView[] }>('POST', path(next, true), arrival.text);
    if (reply.ok) setMeetings(reply.value.meetings);
  };
  const take = async (): Promise<void> => {
    setBusy(true);
    const reply = await call<{ id: string; problems: Problem[] }>('POST', path(choices), arrival.text);
    setBusy(false);
    if (!reply.ok) return setProblem(reply.problems.map((p) => p.message).join(' '));
    onClose(reply.value.problems);
    void navigate(`/p/${reply.value.id}/plan`);
  };
  return (
    <Modal opened onClose={() => onClose([])} title={`Calendars in ${arrival.name}`} size="xl">
      <p>
        {meetings.length === 1 ? 'A calendar of the file has' : `${meetings.length} calendars of the file have`} the name of a shared calendar here, but other hours. Nothing has
        been imported yet.
      </p>
      {meetings.map((m) => (
        <section key={m.calendarId} aria-label={m.name} className="import-calendar">
          <Radio.Group value={choices[m.calendarId] ?? ''} onChange={(v) => void choose(m.calendarId, v as ImportChoice)} label={m.name}>
            <table className="table">
              <thead>
                <tr>
                  <th>Choose one</th>
                  <th className="right">The project would finish</th>
                </tr>
              </thead>
              <tbody>
                {(
                  [
                    ['ours', 'Keep ours', 'the project takes the shared calendar as it is here'],
                    ['theirs', 'Take theirs', 'the shared calendar becomes what the file has'],
                    ['both', 'Keep both', 'the file’s calendar comes in under a new name, for this project alone'],
                  ] as const
                ).map(([choice, label, words]) => (
                  <tr key={choice} className={choices[m.calendarId] === choice ? 'selected' : ''}>
                    <td>
                      <Radio size="xs" value={choice} label={label} description={words} />
                      {choice === 'theirs' && m.others.some((e) => e.moved > 0) && (
                        <p className="import-others">
                          Moves other projects:{' '}
                          {m.others
                            .filter((e) => e.moved > 0)
                            .map((e) => `${e.code} ${e.finishDays === 0 ? `(finish holds, ${e.moved} move)` : `finish ${signedDays(e.finishDays)}`}`)
                            .join(', ')}
                        </p>
                      )}
                    </td>
                    <td className="right">
                      <b className="serif">{m.finish[choice] ? finishText(parseInstant(m.finish[choice]) ?? 0) : 'cannot be computed'}</b>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Radio.Group>
          <details open={m.days.length <= 8}>
            <summary>
              {m.days.length + m.more} {m.days.length + m.more === 1 ? 'day differs' : 'days differ'} from the data date to a little after the finish
            </summary>
            <div className="import-days">
              <table className="table">
                <thead>
                  <tr>
                    <th>Day</th>
                    <th>Ours</th>
                    <th>Theirs</th>
                  </tr>
                </thead>
                <tbody>
                  {m.days.map((d) => (
                    <tr key={d.day}>
                      <td>
                        {weekdayNames[weekdayOf(d.day)]} {showDay(d.day)}
                      </td>
                      <td>
                        {hours(d.ours)} <span className="muted">{d.oursName}</span>
                      </td>
                      <td>
                        {hours(d.theirs)} <span className="muted">{d.theirsName}</span>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {m.more > 0 && <p className="muted">and {m.more} days more</p>}
            </div>
          </details>
        </section>
      ))}
      {problem && (
        <p className="critical-text" role="alert">
          {problem}
        </p>
      )}
      <p className="muted">The choice can be undone in the project with Ctrl+Z: then it has the calendar as it is in the file.</p>
      <div className="update-actions">
        <button type="button" className="dark-button" disabled={open > 0 || busy} onClick={() => void take()}>
          {open > 0 ? (meetings.length === 1 ? 'Choose first' : `${open} to choose`) : 'Import'}
        </button>
        <button type="button" className="light-button" onClick={() => onClose([])}>
          Do not import
        </button>
      </div>
    </Modal>
  );
}
