import './library.css';
import { Checkbox, Select, TextInput } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useMemo, useState } from 'react';
import { addCalendar, calendarUses, deleteCalendar, editCalendar } from '@yellowhammer/core/commands/calendars';
import { formatHours, parseHours } from '@yellowhammer/core/commands/hours';
import { setProject } from '@yellowhammer/core/commands/project';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Calendar, Exception } from '@yellowhammer/core/model/schema';
import { calendarsOf, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { type CompiledCalendar, minutesOf } from '@yellowhammer/core/time/calendar';
import { civilOf, dayOf, daysInMonth, formatDay, parseDay, parseInstant, weekdayOf } from '@yellowhammer/core/time/instant';
import { monthNames, parseTypedDate, showDay, weekdayNames } from '@yellowhammer/core/time/typed-date';
import { CommitField } from '../app/CommitField';
import { usePreview } from '../app/Preview';
import { TextField } from '../app/ProjectSettings';
import { newId, useDoc, useSession } from '../project/hooks';

const longDays = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** Calendars: the list at the left, the calendar itself at the right, where it is used below. */
export function LibraryPage() {
  const session = useSession();
  const { doc } = useDoc();
  const list = ordered(doc, 'calendars');
  const project = projectOf(doc);
  const [chosen, setChosen] = useState(project.calendarId);
  const calendar = doc.calendars.get(chosen) ?? doc.calendars.get(project.calendarId);
  const [name, setName] = useState('');
  const add = (copyOf?: string): void => {
    const outcome = addCalendar(doc, { name: name.trim() || freshName(doc.calendars), copyOf }, newId);
    if (session.run(outcome) && outcome.ok && outcome.made) {
      setChosen(outcome.made[0]);
      setName('');
    }
  };
  return (
    <div className="library">
      <nav className="library-list" aria-label="Calendars">
        <h2>Calendars</h2>
        {list.map((c) => (
          <button key={c.id} type="button" className={`library-item${c.id === calendar?.id ? ' on' : ''}`} onClick={() => setChosen(c.id)}>
            {c.name}
            {c.id === project.calendarId && <span className="muted"> project’s</span>}
          </button>
        ))}
        <div className="library-add">
          <TextInput
            size="xs"
            aria-label="Name of the new calendar"
            placeholder="Name"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            onKeyDown={(e) => e.key === 'Enter' && add()}
          />
          <button type="button" className="chip" onClick={() => add()}>
            New calendar
          </button>
          {calendar && (
            <button type="button" className="chip" onClick={() => add(calendar.id)}>
              Copy this one
            </button>
          )}
        </div>
      </nav>
      {calendar && <CalendarView key={calendar.id} row={calendar} />}
    </div>
  );
}

function freshName(calendars: ReadonlyMap<string, Calendar>): string {
  const names = new Set([...calendars.values()].map((c) => c.name));
  for (let n = 1; ; n++) if (!names.has(`New calendar${n > 1 ? ` ${n}` : ''}`)) return `New calendar${n > 1 ? ` ${n}` : ''}`;
}

function CalendarView({ row }: { row: Calendar }) {
  const session = useSession();
  const { doc } = useDoc();
  const project = projectOf(doc);
  // Where a change of hours moves work, it is shown before it is taken over.
  const preview = usePreview();
  const set = (fields: Partial<Calendar>): boolean => preview.ask(editCalendar(doc, row.id, fields), true);
  const compiled = calendarsOf(doc).usable.get(row.id);
  const definition = resolveCalendar(doc.calendars, row.id);
  const uses = calendarUses(doc, row.id);
  const parent = row.basedOn === null ? undefined : doc.calendars.get(row.basedOn);
  return (
    <main className="library-main" aria-label={`Calendar ${row.name}`}>
      {preview.element}
      <div className="library-head">
        <div className="library-title">
          <TextField label="Name" value={row.name} onChange={(name) => set({ name: name.trim() })} />
          <Select
            label="Based on"
            data={[
              { value: '', label: 'nothing: it stands alone' },
              ...ordered(doc, 'calendars')
                .filter((c) => c.id !== row.id)
                .map((c) => ({ value: c.id, label: c.name })),
            ]}
            value={row.basedOn ?? ''}
            onChange={(v) => set({ basedOn: v || null })}
          />
        </div>
        <div className="library-actions">
          {project.calendarId === row.id ? (
            <span className="chip on">The project’s calendar</span>
          ) : (
            <button type="button" className="chip" onClick={() => preview.ask(setProject(doc, { calendarId: row.id }), true)}>
              Make it the project’s
            </button>
          )}
          <button type="button" className="chip" onClick={() => session.run(deleteCalendar(doc, row.id))}>
            Delete
          </button>
        </div>
      </div>
      <section aria-label="Week">
        <h3>Week {row.week === null && <span className="muted">inherited from {parent?.name ?? 'nothing'}</span>}</h3>
        <div className="week">
          {longDays.map((name, d) => {
            const work = (row.week ?? definition?.week ?? [[], [], [], [], [], [], []])[d];
            return (
              <div key={name} className="week-day">
                <label htmlFor={`day-${d}`}>{name}</label>
                <HoursField
                  id={`day-${d}`}
                  label={`Hours on ${name}`}
                  text={formatHours(work)}
                  onCommit={(hours) => {
                    const week = (row.week ?? definition?.week ?? Array.from({ length: 7 }, () => [])).map((x, i) => (i === d ? hours : x));
                    return set({ week });
                  }}
                />
                <DayBar work={work} />
                <span className="muted right">{minutesOf(work) ? `${Math.round((minutesOf(work) / 60) * 10) / 10} h` : 'no work'}</span>
              </div>
            );
          })}
        </div>
        {row.week !== null && parent && (
          <button type="button" className="link-button" onClick={() => set({ week: null })}>
            Take the week of {parent.name} again
          </button>
        )}
        {compiled && (
          <p className="muted">
            A day counts {Math.round((compiled.minutesPerDay / 60) * 100) / 100} hours and a week {compiled.daysPerWeek} days when durations are typed.
          </p>
        )}
      </section>
      <Exceptions row={row} inherited={(definition?.exceptions ?? []).slice(0, (definition?.exceptions.length ?? 0) - row.exceptions.length)} parent={parent?.name} set={set} />
      {compiled && <Year calendar={compiled} />}
      <section aria-label="Where it is used">
        <h3>Where it is used</h3>
        <p className="muted">
          {[
            uses.project ? 'by the project' : '',
            uses.activities.length ? `by ${uses.activities.length} activities` : '',
            uses.calendars.length ? `as the parent of ${uses.calendars.join(', ')}` : '',
            uses.links ? `for the lag of ${uses.links} links` : '',
          ]
            .filter(Boolean)
            .join(', ') || 'Nowhere yet.'}
        </p>
        {uses.activities.length > 0 && (
          <details>
            <summary>The activities</summary>
            <ul className="used-list">
              {uses.activities.slice(0, 200).map((a) => (
                <li key={a}>{a}</li>
              ))}
            </ul>
          </details>
        )}
      </section>
    </main>
  );
}

function HoursField({ id, label, text, onCommit }: { id?: string; label: string; text: string; onCommit: (hours: [number, number][]) => boolean }) {
  return (
    <CommitField
      id={id}
      size="xs"
      aria-label={label}
      placeholder="no work"
      value={text}
      onCommit={(typed) => {
        const hours = parseHours(typed);
        if (!hours) return 'Type hours as 08:00-12:00, 13:00-17:00; a night as 20:00-04:00; leave it empty for no work.';
        onCommit(hours);
        return null;
      }}
    />
  );
}

/** Hours of a day on a line of 24, with what runs past midnight beyond it. */
function DayBar({ work }: { work: readonly (readonly [number, number])[] }) {
  const x = (m: number): number => (m / 2160) * 216;
  return (
    <svg width={216} height={14} aria-hidden="true" className="day-bar">
      <path d={`M0 10.5H${x(1440)}`} stroke="var(--hairline)" />
      <path d={`M${x(1440)} 10.5H216`} stroke="var(--hairline)" strokeDasharray="2 3" />
      {[0, 360, 720, 1080, 1440].map((m) => (
        <path key={m} d={`M${x(m) + 0.5} 8V13`} stroke="var(--muted)" strokeWidth={0.7} />
      ))}
      {work.map(([a, b]) => (
        <rect key={a} x={x(a)} y={2} width={x(b) - x(a)} height={7} rx={1.5} fill="var(--slate)" />
      ))}
    </svg>
  );
}

const blank = { name: '', from: '', to: '', hours: '', yearly: false };

function Exceptions({ row, inherited, parent, set }: { row: Calendar; inherited: Exception[]; parent: string | undefined; set: (fields: Partial<Calendar>) => boolean }) {
  const { doc } = useDoc();
  const project = projectOf(doc);
  const near = Math.floor((parseInstant(project.dataDate ?? project.plannedStart) as number) / 1440);
  const [draft, setDraft] = useState(blank);
  const [errors, setErrors] = useState<Partial<Record<keyof typeof blank, string>>>({});
  const add = (): void => {
    const from = parseTypedDate(draft.from, near);
    const to = draft.to.trim() ? parseTypedDate(draft.to, from ? (parseDay(from.slice(0, 10)) ?? near) : near) : from;
    const hours = parseHours(draft.hours);
    const wrong: typeof errors = {};
    if (!from) wrong.from = 'Type a day as 24 dec 2026.';
    if (!to) wrong.to = 'Type a day as 27 dec 2026.';
    if (!hours) wrong.hours = 'Type hours as 08:00-12:00, or nothing for no work.';
    setErrors(wrong);
    if (!from || !to || !hours) return;
    const e: Exception = { name: draft.name.trim(), from: from.slice(0, 10), to: to.slice(0, 10), yearly: draft.yearly, work: hours };
    if (set({ exceptions: [...row.exceptions, e] })) setDraft(blank);
  };
  const line = (e: Exception, n: number, own: boolean) => (
    <tr key={`${own} ${n}`}>
      <td>{e.name || <span className="muted">no name</span>}</td>
      <td>{e.yearly ? yearlyText(e) : e.from === e.to ? showDay(parseDay(e.from) ?? 0) : `${showDay(parseDay(e.from) ?? 0)} to ${showDay(parseDay(e.to) ?? 0)}`}</td>
      <td>{e.yearly ? 'every year' : 'once'}</td>
      <td>{e.work.length ? formatHours(e.work) : 'no work'}</td>
      <td className="right">
        {own ? (
          <button
            type="button"
            className="plain-button"
            aria-label={`Delete the exception ${e.name || e.from}`}
            onClick={() => set({ exceptions: row.exceptions.filter((_, i) => i !== n) })}
          >
            <IconTrash size={14} stroke={1.6} />
          </button>
        ) : (
          <span className="muted">from {parent}</span>
        )}
      </td>
    </tr>
  );
  return (
    <section aria-label="Exceptions">
      <h3>Exceptions</h3>
      <table className="table exceptions">
        <thead>
          <tr>
            <th>Name</th>
            <th>Days</th>
            <th>Repeats</th>
            <th>Hours</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {inherited.map((e, n) => line(e, n, false))}
          {row.exceptions.map((e, n) => line(e, n, true))}
          {inherited.length + row.exceptions.length === 0 && (
            <tr>
              <td colSpan={5} className="muted">
                No exceptions: every week is like the other. Add holidays, stops and overtime days below.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      <form
        className="exception-form"
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <TextInput size="xs" label="Name" placeholder="Harbour Day" value={draft.name} onChange={(e) => setDraft({ ...draft, name: e.currentTarget.value })} />
        <TextInput size="xs" label="From" placeholder="24 dec 2026" value={draft.from} error={errors.from} onChange={(e) => setDraft({ ...draft, from: e.currentTarget.value })} />
        <TextInput size="xs" label="To" placeholder="the same day" value={draft.to} error={errors.to} onChange={(e) => setDraft({ ...draft, to: e.currentTarget.value })} />
        <TextInput size="xs" label="Hours" placeholder="no work" value={draft.hours} error={errors.hours} onChange={(e) => setDraft({ ...draft, hours: e.currentTarget.value })} />
        <Checkbox size="xs" label="Every year" checked={draft.yearly} onChange={(e) => setDraft({ ...draft, yearly: e.currentTarget.checked })} />
        <button type="submit" className="dark-button">
          Add
        </button>
      </form>
    </section>
  );
}

function yearlyText(e: Exception): string {
  const part = (text: string): string => showDay(parseDay(text) ?? 0).replace(/ \d\d$/, '');
  return e.from.slice(5) === e.to.slice(5) ? part(e.from) : `${part(e.from)} to ${part(e.to)}`;
}

/** The year at a glance: working, reduced, no work and extra work, told apart by shape as well as by colour. */
function Year({ calendar }: { calendar: CompiledCalendar }) {
  const { doc } = useDoc();
  const project = projectOf(doc);
  const [year, setYear] = useState(() => civilOf(Math.floor((parseInstant(project.dataDate ?? project.plannedStart) as number) / 1440)).year);
  const [pointed, setPointed] = useState<number | null>(null);
  const words = useMemo(() => {
    if (pointed === null) return 'Point at a day, or walk with the arrow keys, to see its hours.';
    const e = calendar.exceptionOnDay(pointed);
    const work = calendar.intervalsOn(pointed);
    return `${weekdayNames[weekdayOf(pointed)]} ${showDay(pointed)}: ${work.length ? formatHours(work.map(([a, b]): [number, number] => [a, b])) : 'no work'}${e ? ` (${e.name || 'exception'})` : ''}`;
  }, [pointed, calendar]);
  const step: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };
  return (
    <section aria-label="The year">
      <h3 className="year-head">
        <button type="button" className="plain-button" aria-label="The year before" onClick={() => setYear(Math.max(1990, year - 1))}>
          ‹
        </button>
        {year}
        <button type="button" className="plain-button" aria-label="The year after" onClick={() => setYear(Math.min(2199, year + 1))}>
          ›
        </button>
        <span className="muted year-words" role="status">
          {words}
        </span>
      </h3>
      <div
        className="year"
        tabIndex={0}
        role="group"
        aria-label={`Days of ${year}`}
        onKeyDown={(e) => {
          if (!step[e.key]) return;
          e.preventDefault();
          const next = (pointed ?? dayOf(year, 1, 1) - step[e.key]) + step[e.key];
          setPointed(next);
          setYear(civilOf(next).year);
        }}
        onPointerLeave={() => setPointed(null)}
      >
        {monthNames.map((name, m) => (
          <div key={name} className="month">
            <div className="serif">{name}</div>
            <div className="month-days">
              {Array.from({ length: weekdayOf(dayOf(year, m + 1, 1)) }, (_, i) => (
                <span key={`b${i}`} />
              ))}
              {Array.from({ length: daysInMonth(year, m + 1) }, (_, i) => {
                const day = dayOf(year, m + 1, i + 1);
                return (
                  <span
                    key={i}
                    className={`month-day ${kindOfDay(calendar, day)}${pointed === day ? ' pointed' : ''}`}
                    data-day={formatDay(day)}
                    onPointerEnter={() => setPointed(day)}
                  >
                    {i + 1}
                  </span>
                );
              })}
            </div>
          </div>
        ))}
      </div>
      <p className="year-legend muted">
        <span className="month-day work">7</span> working <span className="month-day reduced">7</span> reduced <span className="month-day off">7</span> no work{' '}
        <span className="month-day off exception">7</span> no work by exception <span className="month-day work exception">7</span> extra or other hours
      </p>
    </section>
  );
}

function kindOfDay(c: CompiledCalendar, day: number): string {
  const minutes = minutesOf(c.intervalsOn(day).map(([a, b]): [number, number] => [a, b]));
  const exception = c.exceptionOnDay(day) ? ' exception' : '';
  if (minutes === 0) return `off${exception}`;
  return `${minutes < c.minutesPerDay ? 'reduced' : 'work'}${exception}`;
}
