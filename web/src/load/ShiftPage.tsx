/** What a shift needs, on the screen and on paper: by place and trade, who and how many, on what. */
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { madeFields } from '@yellowhammer/core/fields/list';
import { hoursOf } from '@yellowhammer/core/load/hours';
import { type ShiftBy, type ShiftLine, type ShiftNeeds } from '@yellowhammer/core/load/shift';
import { unitsText } from '@yellowhammer/core/load/words';
import { type Document, ordered, projectOf } from '@yellowhammer/core/model/document';
import { formatMinute, MINUTES_PER_DAY, weekdayOf } from '@yellowhammer/core/time/instant';
import { showDay, weekdayNames } from '@yellowhammer/core/time/typed-date';
import { downloadCsv } from '../app/csv';
import { tenths } from '../app/format';
import { useDoc, useSession, useTopic } from '../project/hooks';
import { statusDay, statusInstant } from '@yellowhammer/core/model/status-day';

const groupings = (doc: Document, first: [string, string]): [string, string][] => [
  first,
  ...madeFields(doc)
    .filter((f) => f.kind === 'text' || f.kind === 'choice')
    .map((f): [string, string] => [f.key, f.title]),
];

const clock = (t: number): string => formatMinute(t - Math.floor(t / MINUTES_PER_DAY) * MINUTES_PER_DAY);
const dayWords = (t: number): string => {
  const day = Math.floor(t / MINUTES_PER_DAY);
  return `${weekdayNames[weekdayOf(day)] ?? ''} ${showDay(day)}`;
};
const amountOf = (l: ShiftLine): string => (l.unit !== null ? `${tenths(l.work / 1000)} ${l.unit}` : l.who === null ? '' : `${unitsText(l.units)}, ${tenths(hoursOf(l.work))} h`);
const noteOf = (l: ShiftLine): string => [l.begins && 'begins', l.ends && 'ends', l.critical && 'critical'].filter(Boolean).join(', ');

export function ShiftPage() {
  const session = useSession();
  const navigate = useNavigate();
  const { doc } = useDoc();
  const version = useTopic('view');
  const project = projectOf(doc);
  const [calendarId, setCalendarId] = useState<string | null>(null);
  const [at, setAt] = useState<{ t: number; by: number }>({ t: statusInstant(doc), by: 0 });
  const sets = madeFields(doc).filter((f) => f.key.startsWith('code:'));
  const [by, setBy] = useState<ShiftBy>({ trade: 'role', place: sets.find((f) => /area|place|zone/i.test(f.title))?.key ?? 'wbs' });
  const [needs, setNeeds] = useState<ShiftNeeds | null>(null);
  useEffect(() => {
    let gone = false;
    void session.worker.shift(calendarId, at.t, at.by, by).then((n) => {
      if (!gone) setNeeds(n);
    });
    return () => {
      gone = true;
    };
  }, [session, version, calendarId, at, by]);
  const walk = (step: -1 | 1): void => {
    if (needs) setAt(step > 0 ? { t: needs.to, by: 0 } : { t: needs.from, by: -1 });
  };
  const title = needs ? `${dayWords(needs.from)}, ${clock(needs.from)} to ${clock(needs.to)}` : '';
  const places = needs ? [...new Set(needs.lines.map((l) => l.place))] : [];
  return (
    <div className="shift">
      <div className="load-bar">
        <button type="button" className="chip" onClick={() => walk(-1)}>
          Shift before
        </button>
        <button type="button" className="chip" onClick={() => walk(1)}>
          Shift after
        </button>
        <label className="load-by">
          <span>of</span>
          <select aria-label="Shifts of the calendar" value={calendarId ?? ''} onChange={(e) => setCalendarId(e.target.value || null)}>
            <option value="">the project’s calendar</option>
            {ordered(doc, 'calendars').map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        {(
          [
            ['place', 'place by', ['wbs', 'WBS']],
            ['trade', 'trade by', ['role', 'Role']],
          ] as const
        ).map(([key, word, first]) => (
          <label key={key} className="load-by">
            <span>{word}</span>
            <select aria-label={word} value={by[key]} onChange={(e) => setBy({ ...by, [key]: e.target.value })}>
              {groupings(doc, [...first]).map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        ))}
        <button type="button" className="chip" onClick={() => window.print()}>
          Print
        </button>
        <button
          type="button"
          className="chip"
          disabled={!needs}
          onClick={() =>
            needs &&
            downloadCsv(
              `${project.code} shift ${showDay(Math.floor(needs.from / MINUTES_PER_DAY))}`,
              ['Place', 'Trade', 'Activity', 'Who', 'How much', 'Note'],
              needs.lines.map((l) => [l.place, l.trade, l.activity, l.who ?? 'nobody', amountOf(l), noteOf(l)]),
            )
          }
        >
          CSV
        </button>
      </div>
      <section className="shift-paper" aria-label="What the shift needs">
        <h2>{title}</h2>
        <p className="muted">
          {project.name} · as of {needs ? showDay(statusDay(doc)) : ''}
        </p>
        {needs?.lines.length === 0 && <p>No work lies in this shift.</p>}
        {places.map((place) => (
          <section key={place}>
            <h3>{place || 'In no place'}</h3>
            <table className="table shift-table">
              <thead>
                <tr>
                  <th>Trade</th>
                  <th>Activity</th>
                  <th>Who</th>
                  <th>How much</th>
                  <th>Note</th>
                </tr>
              </thead>
              <tbody>
                {needs?.lines
                  .filter((l) => l.place === place)
                  .map((l, n) => (
                    <tr key={`${l.activityId} ${l.who ?? ''} ${n}`}>
                      <td>{l.trade}</td>
                      <td>
                        <button type="button" className="link-button" onClick={() => void navigate(`/p/${session.id}/plan`, { state: { reveal: l.activityId } })}>
                          {l.activity}
                        </button>
                      </td>
                      <td className={l.who === null || l.open ? 'critical-text' : ''}>{l.who === null ? 'nobody assigned' : l.open ? `${l.who}, to be filled` : l.who}</td>
                      <td>{amountOf(l)}</td>
                      <td>{noteOf(l)}</td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </section>
        ))}
        {needs && needs.away.length > 0 && <p className="muted">Not there in this shift: {needs.away.join(', ')}.</p>}
      </section>
    </div>
  );
}
