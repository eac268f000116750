import { Select } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { calendarUses, deleteCalendar, editCalendar } from '@yellowhammer/core/commands/calendars';
import { setProject } from '@yellowhammer/core/commands/project';
import { cutLoose, makeOwn, replaceByShared, sharedState } from '@yellowhammer/core/commands/shared';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Calendar, Interval } from '@yellowhammer/core/model/schema';
import { calendarsOf, compileCalendar, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { differingDays } from '@yellowhammer/core/time/calendar-days';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { usePreview } from '../app/Preview';
import { TextField } from '../app/ProjectSettings';
import { call } from '../project/api';
import { newId, useDoc, useSession } from '../project/hooks';
import { ExceptionsSection } from './ExceptionsSection';
import { SharedDialog, type SharedWish } from './SharedDialog';
import type { SharedList } from './useShared';
import { useStateFor } from './useStateFor';
import { WeekSection } from './WeekSection';
import { type Picked, YearSection } from './YearSection';
import { statusDay } from '@yellowhammer/core/model/status-day';

const noDays: Picked = new Set();
const noWeek: Interval[][] = Array.from({ length: 7 }, () => []);

/** One calendar of the project: its week, exceptions, year, what it is based on, who shares it, where it is used. */
export function CalendarView({ row, shared }: { row: Calendar; shared: SharedList }) {
  const session = useSession();
  const { doc } = useDoc();
  const project = projectOf(doc);
  const [picked, setPicked] = useStateFor<Picked>(row.exceptions, noDays);
  const [wish, setWish] = useState<SharedWish | null>(null);
  // Where a change of hours moves work, it is shown before it is taken over.
  const preview = usePreview();
  const entry = row.sharedId === null ? undefined : shared.entries.find((e) => e.calendar.id === row.sharedId);
  const state = sharedState(doc, row, shared.calendars);
  const set = (fields: Partial<Calendar>): boolean => {
    const outcome = editCalendar(doc, row.id, fields);
    if (!outcome.ok || !entry || state !== 'same') return preview.ask(outcome, true);
    if (outcome.changes.length) setWish({ entry, row, fields });
    return true;
  };
  const compiled = calendarsOf(doc).usable.get(row.id);
  const definition = resolveCalendar(doc.calendars, row.id);
  const parent = row.basedOn === null ? undefined : doc.calendars.get(row.basedOn);
  const near = statusDay(doc);
  return (
    <main className="library-main" aria-label={`Calendar ${row.name}`}>
      {preview.element}
      {wish && (
        <SharedDialog
          wish={wish}
          onClose={() => {
            setWish(null);
            void shared.reload();
          }}
        />
      )}
      <div className="library-head">
        <div className="library-title">
          <TextField label="Name" value={row.name} onChange={(name) => set({ name: name.trim() })} />
          <Select
            label="Based on"
            allowDeselect={false}
            data={[
              { value: '', label: 'nothing: it stands alone' },
              ...ordered(doc, 'calendars')
                .filter((c) => c.id !== row.id && (row.sharedId === null || c.sharedId !== null))
                .map((c) => ({ value: c.id, label: c.name })),
            ]}
            value={row.basedOn ?? ''}
            onChange={(v) => set({ basedOn: v || null })}
          />
          {parent && (
            <button
              type="button"
              className="chip"
              title="What it has inherited becomes its own; no date changes"
              onClick={() => {
                const outcome = cutLoose(doc, row.id);
                const [change] = outcome.ok ? outcome.changes : [];
                if (change?.after && entry && state === 'same') set(change.after as Calendar);
                else session.run(outcome);
              }}
            >
              Cut loose from {parent.name}
            </button>
          )}
        </div>
        <div className="library-actions">
          {project.calendarId === row.id ? (
            <span className="chip on">The project’s calendar</span>
          ) : (
            <button type="button" className="chip" onClick={() => preview.ask(setProject(doc, { calendarId: row.id }))}>
              Make it the project’s
            </button>
          )}
          <button type="button" className="chip" onClick={() => session.run(deleteCalendar(doc, row.id))}>
            Delete
          </button>
        </div>
      </div>
      <Sharing row={row} shared={shared} ask={preview.ask} onWish={setWish} />
      <WeekSection row={row} week={row.week ?? definition?.week ?? noWeek} parent={parent?.name} compiled={compiled} set={set} />
      {compiled && <YearSection calendar={compiled} first={near} picked={picked} onPick={setPicked} />}
      {definition && <ExceptionsSection calendar={row} row={row} definition={definition} parent={parent?.name} near={near} picked={picked} onPick={setPicked} set={set} />}
      <Uses id={row.id} />
    </main>
  );
}

/** Who shares the calendar, whether the project's copy is still what the shared one is, and what can be done about it. */
function Sharing({ row, shared, ask, onWish }: { row: Calendar; shared: SharedList; ask: ReturnType<typeof usePreview>['ask']; onWish: (wish: SharedWish) => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const state = sharedState(doc, row, shared.calendars);
  const entry = shared.entries.find((e) => e.calendar.id === row.sharedId);
  const share = async (): Promise<void> => {
    const reply = await call('POST', `/projects/${session.id}/calendars/${encodeURIComponent(row.id)}/share`);
    if (!reply.ok) session.onNotice({ tone: 'problem', title: 'Not shared', text: reply.problems.map((p) => p.message).join('\n') });
    await shared.reload();
  };
  const others = (entry?.usedBy ?? []).filter((u) => u.projectId !== session.id);
  const action = (label: string, onClick: () => void): ReactNode => (
    <button type="button" className="chip" onClick={onClick}>
      {label}
    </button>
  );
  const own = action('Make it a project calendar', () => session.run(makeOwn(doc, row.id)));
  if (state === 'own')
    return (
      <p className="sharing">
        <span>A project calendar: only this project uses it.</span> {action('Share it with all projects', () => void share())}
      </p>
    );
  if (state === 'gone') return <p className="sharing">The shared calendar that it was taken from is not shared any more; the project keeps its copy. {own}</p>;
  const with_ = others.length ? `Shared with ${others.map((u) => u.code).join(', ')}.` : 'Shared; no other project uses it yet.';
  if (state === 'same')
    return (
      <p className="sharing shared">
        <span>
          <b>{with_}</b> A change is shown for every project before it is taken over.
        </span>
        {entry?.previous &&
          action(`Put back what ${entry.changedBy} changed`, () => {
            const { name, basedOn, week, exceptions, hoursPerDay, daysPerWeek } = entry.previous as Calendar;
            onWish({ entry, row, fields: { name, basedOn, week, exceptions, hoursPerDay, daysPerWeek } });
          })}
        {own}
      </p>
    );
  const mine = resolveCalendar(doc.calendars, row.id);
  const theirs = row.sharedId ? resolveCalendar(shared.calendars, row.sharedId) : undefined;
  const from = statusDay(doc);
  const to = Math.max(from, Math.floor((session.view?.projectFinish ?? 0) / MINUTES_PER_DAY));
  const days = mine && theirs ? differingDays(compileCalendar(mine), compileCalendar(theirs), from, to).length : 0;
  return (
    <p className="sharing differs">
      <span>
        <b>This project’s copy differs from the shared calendar</b>
        {entry && ` as ${entry.changedBy} last left it`}
        {days ? `, on ${days} ${days === 1 ? 'day' : 'days'} up to the finish` : ', but on no day up to the finish'}.
      </span>
      {action('Take the shared one', () => row.sharedId !== null && ask(replaceByShared(doc, shared.calendars, row.sharedId, row.id, newId), true))}
      {own}
    </p>
  );
}

function Uses({ id }: { id: string }) {
  const { doc } = useDoc();
  const uses = calendarUses(doc, id);
  const parts = [
    uses.project ? 'by the project' : '',
    uses.activities.length ? `by ${uses.activities.length} ${uses.activities.length === 1 ? 'activity' : 'activities'}` : '',
    uses.calendars.length ? `as the parent of ${uses.calendars.join(', ')}` : '',
    uses.resources.length ? `by ${uses.resources.slice(0, 8).join(', ')}${uses.resources.length > 8 ? ` and ${uses.resources.length - 8} more resources` : ''}` : '',
    uses.links ? `for the lag of ${uses.links} ${uses.links === 1 ? 'link' : 'links'}` : '',
  ].filter(Boolean);
  return (
    <section aria-label="Where it is used">
      <h3>Where it is used</h3>
      <p className="muted">{parts.join(', ') || 'Nowhere yet.'}</p>
      {uses.activities.length > 0 && (
        <details>
          <summary>The activities</summary>
          <ul className="used-list">
            {uses.activities.slice(0, 200).map((a) => (
              <li key={a}>{a}</li>
            ))}
            {uses.activities.length > 200 && <li className="muted">and {uses.activities.length - 200} more</li>}
          </ul>
        </details>
      )}
    </section>
  );
}
