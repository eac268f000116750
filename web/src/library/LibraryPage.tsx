import './library.css';
import { TextInput } from '@mantine/core';
import { useState } from 'react';
import { addCalendar } from '@yellowhammer/core/commands/calendars';
import { freeCalendarName, replaceByShared, takeShared } from '@yellowhammer/core/commands/shared';
import type { SharedEntry } from '@yellowhammer/core/commands/shared-views';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { usePreview } from '../app/Preview';
import { call } from '../project/api';
import { newId, useDoc, useSession } from '../project/hooks';
import { CalendarView } from './CalendarView';
import { useShared } from './useShared';

/** Calendars: the list at the left, the calendar itself at the right. */
export function LibraryPage() {
  const session = useSession();
  const { doc } = useDoc();
  const shared = useShared();
  const list = ordered(doc, 'calendars');
  const project = projectOf(doc);
  const [chosen, setChosen] = useState(project.calendarId);
  const elsewhere = shared.entries.filter((e) => !list.some((c) => c.sharedId === e.calendar.id));
  // A shared calendar and one of the project may have the same id.
  const away = elsewhere.find((e) => `shared ${e.calendar.id}` === chosen);
  const calendar = doc.calendars.get(chosen) ?? doc.calendars.get(project.calendarId);
  const [name, setName] = useState('');
  const preview = usePreview();
  const add = (args: { copyOf?: string; basedOn?: string } = {}): void => {
    const outcome = addCalendar(doc, { name: name.trim() || freeCalendarName(doc.calendars.values(), 'New calendar'), ...args }, newId);
    if (session.run(outcome) && outcome.ok && outcome.made) {
      setChosen(outcome.made[0]!);
      setName('');
    }
  };
  const item = (c: Calendar, on: boolean, note = '', key = c.id) => (
    <button key={key} type="button" className={`library-item${on ? ' on' : ''}`} aria-current={on} onClick={() => setChosen(key)}>
      {c.name}
      {note && <span className="muted"> {note}</span>}
    </button>
  );
  const noteOf = (c: Calendar): string => (c.id === project.calendarId ? 'project’s' : '');
  const group = (title: string, rows: Calendar[]) =>
    rows.length > 0 && (
      <>
        <h3>{title}</h3>
        {rows.map((c) => item(c, !away && c.id === calendar?.id, noteOf(c)))}
      </>
    );
  return (
    <div className="library">
      {preview.element}
      <nav className="library-list" aria-label="Calendars">
        <h2>Calendars</h2>
        {group(
          'Shared',
          list.filter((c) => c.sharedId !== null),
        )}
        {group(
          'Of this project',
          list.filter((c) => c.sharedId === null),
        )}
        {elsewhere.length > 0 && (
          <>
            <h3>Shared, not used here</h3>
            {elsewhere.map((e) => item(e.calendar, e === away, '', `shared ${e.calendar.id}`))}
          </>
        )}
        <div className="library-add">
          <TextInput
            size="xs"
            aria-label="Name of the new calendar"
            placeholder="Name of a new one"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            onKeyDown={(e) => e.key === 'Enter' && add()}
          />
          <button type="button" className="chip" onClick={() => add()}>
            New calendar
          </button>
          {calendar && !away && (
            <>
              <button type="button" className="chip" onClick={() => add({ copyOf: calendar.id })}>
                Copy this one
              </button>
              <button type="button" className="chip" onClick={() => add({ basedOn: calendar.id })}>
                New, based on this one
              </button>
            </>
          )}
        </div>
      </nav>
      {away ? (
        <AwayView
          key={away.calendar.id}
          entry={away}
          rival={list.find((c) => c.name.toLowerCase() === away.calendar.name.toLowerCase())}
          onReplace={(id) => {
            setChosen(id);
            preview.ask(replaceByShared(doc, shared.calendars, away.calendar.id, id, newId), true);
          }}
          onBring={() => {
            const outcome = takeShared(doc, shared.calendars, away.calendar.id, newId);
            if (session.run(outcome) && outcome.ok && outcome.made?.[0]) setChosen(outcome.made[0]);
          }}
          onDelete={() => {
            void call('DELETE', `/shared-calendars/${away.calendar.id}`).then((r) => {
              if (!r.ok) session.onNotice({ tone: 'problem', title: 'Not deleted', text: r.problems.map((p) => p.message).join('\n') });
              void shared.reload();
            });
          }}
        />
      ) : (
        calendar && <CalendarView key={calendar.id} row={calendar} shared={shared} />
      )}
    </div>
  );
}

/** A shared calendar that this project does not use yet. */
function AwayView({
  entry,
  rival,
  onBring,
  onReplace,
  onDelete,
}: {
  entry: SharedEntry;
  /** A calendar of the project that has the same name. */
  rival: Calendar | undefined;
  onBring: () => void;
  onReplace: (id: string) => void;
  onDelete: () => void;
}) {
  const { calendar, usedBy } = entry;
  return (
    <main className="library-main" aria-label={`Calendar ${calendar.name}`}>
      <h2>{calendar.name}</h2>
      <p>A shared calendar that this project does not use. {usedBy.length ? `Used by ${usedBy.map((u) => `${u.code} ${u.name}`).join(', ')}.` : 'No project uses it.'}</p>
      <div className="library-actions">
        {rival ? (
          <button type="button" className="dark-button" onClick={() => onReplace(rival.id)}>
            Use it instead of the project’s own {rival.name}
          </button>
        ) : (
          <button type="button" className="dark-button" onClick={onBring}>
            Bring it into this project
          </button>
        )}
        <button type="button" className="light-button" onClick={onDelete}>
          Stop sharing it
        </button>
      </div>
      {usedBy.length > 0 && <p className="muted">When sharing stops, each project keeps its copy.</p>}
    </main>
  );
}
