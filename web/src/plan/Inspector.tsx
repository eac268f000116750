import { placeOf } from '@yellowhammer/core/schedule/view';
import { Modal, Select } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { cellText, dayLengths, type EditableColumn, setActivities, setCell, typeNames } from '@yellowhammer/core/commands/cells';
import { percentOf } from '@yellowhammer/core/progress/percent';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { labelOf, ordered } from '@yellowhammer/core/model/document';
import { type Activity, type ActivityType, activityTypes } from '@yellowhammer/core/model/schema';
import { NONE } from '@yellowhammer/core/schedule/network';
import { CommitField } from '../app/CommitField';
import { usePreview } from '../app/Preview';
import { durationText, finishText, floatText, money, startText, signedDays } from '../app/format';
import { progressOf } from './columns';
import { usePlan } from '../app/store';
import { newId, useDoc, useSession, useView } from '../project/hooks';
import { LinkList } from './LinkList';
import type { LinksOf } from './rows';
import { Section } from './Section';
import { Why } from './Why';

/** What is selected: dates and why, logic, details, notes. One page that scrolls. */
export function Inspector({ links, onGo }: { links: LinksOf; onGo: (id: string) => void }) {
  const { selected } = usePlan();
  const { doc } = useDoc();
  const view = useView();
  const activities = selected.flatMap((id) => doc.activities.get(id) ?? []);
  const node = selected.length === 1 ? doc.wbs.get(selected[0]!) : undefined;
  if (node) {
    const r = view?.rollups.get(node.id);
    return (
      <aside className="inspector" aria-label="Inspector">
        <h2>{node.name || 'WBS node'}</h2>
        {r && r.start !== NONE ? (
          <dl className="facts">
            <dt>Start</dt>
            <dd>{startText(r.start)}</dd>
            <dt>Finish</dt>
            <dd>{finishText(r.finish)}</dd>
            <dt>Working duration</dt>
            <dd>{durationText(r.duration, dayLengths(doc, { calendarId: null }).minutesPerDay)}</dd>
            <dt>Done</dt>
            <dd>{r.percent}%</dd>
            <dt>Cost</dt>
            <dd>{money(r.cost, doc.project.get('project')?.currency ?? '')}</dd>
            <dt>Activities</dt>
            <dd>{r.activities}</dd>
          </dl>
        ) : (
          <p className="muted">Nothing in it yet. Enter adds an activity.</p>
        )}
      </aside>
    );
  }
  if (activities.length === 0)
    return (
      <aside className="inspector" aria-label="Inspector">
        <h2>Nothing selected</h2>
        <p className="muted">Select an activity to see its dates and why they are what they are. Press ? for the list of keys.</p>
      </aside>
    );
  const one = activities.length === 1 ? activities[0] : undefined;
  return (
    <aside className="inspector" aria-label="Inspector">
      {one ? <Dates a={one} /> : <h2>{activities.length} activities</h2>}
      {one && <Why a={one} onGo={onGo} />}
      <Section title="Details">
        <Details activities={activities} />
      </Section>
      {one && (
        <Section title="Logic" count={(links.into.get(one.id)?.length ?? 0) + (links.outOf.get(one.id)?.length ?? 0)}>
          <LinkList a={one} side="predecessors" links={links.into.get(one.id) ?? []} onGo={onGo} />
          <LinkList a={one} side="successors" links={links.outOf.get(one.id) ?? []} onGo={onGo} />
        </Section>
      )}
      {one && (
        <Section title="Notes">
          <Notes key={one.id} a={one} />
        </Section>
      )}
    </aside>
  );
}

function Dates({ a }: { a: Activity }) {
  const { doc } = useDoc();
  const session = useSession();
  const view = useView();
  const i = view ? placeOf(view, a.id) : undefined;
  const base = session.baseline?.dates.get(a.id);
  const calendar = doc.calendars.get(a.calendarId ?? doc.project.get('project')?.calendarId ?? '')?.name;
  const perDay = view && i !== undefined ? view.minutesPerDay[i]! : 480;
  const progress = progressOf({ doc, baseline: session.baseline }, a);
  return (
    <>
      <h2>{a.name || 'Unnamed activity'}</h2>
      <p className="muted inspector-context">{[a.code, a.wbsId ? doc.wbs.get(a.wbsId)?.name : '', calendar].filter(Boolean).join(' · ')}</p>
      {view && i !== undefined && (
        <table className="dates">
          <thead>
            <tr>
              <td />
              <th scope="col">forecast</th>
              <th scope="col">{session.baseline?.name ?? ''}</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Start</th>
              <td>
                {startText(view.start[i]!)} {view.state[i]! > 0 && <sup>actual</sup>}
              </td>
              <td>{base && startText(base.start)}</td>
            </tr>
            <tr className={view.critical[i] ? 'late' : ''}>
              <th scope="row">Finish</th>
              <td>
                {finishText(view.finish[i]!)} {view.state[i] === 2 && <sup>actual</sup>}
              </td>
              <td>{base && finishText(base.finish)}</td>
            </tr>
            {view.state[i] === 1 && (
              <tr>
                <th scope="row">Remaining</th>
                <td>
                  {durationText(view.length[i]!, perDay)} of {durationText(a.duration, perDay)}
                </td>
                <td />
              </tr>
            )}
            {progress && a.type !== 'levelOfEffort' && (
              <tr className={progress.ahead < 0 ? 'late' : ''}>
                <th scope="row">Done</th>
                <td>
                  {percentOf(a)}% {progress.ahead !== 0 && `(${signedDays(progress.ahead)})`}
                </td>
                <td>{progress.planned}%</td>
              </tr>
            )}
            {a.type === 'margin' && (
              <tr>
                <th scope="row">Margin left</th>
                <td>
                  {durationText(view.length[i]!, perDay)} of {durationText(a.duration, perDay)}
                </td>
                <td />
              </tr>
            )}
            {view.lateFinish[i] !== NONE && (
              <tr>
                <th scope="row">Latest</th>
                <td>{finishText(view.lateFinish[i]!)}</td>
                <td />
              </tr>
            )}
            {view.totalFloat[i] !== NONE && (
              <>
                <tr className={view.critical[i] ? 'late' : ''}>
                  <th scope="row">Total float</th>
                  <td>{floatText(view.totalFloat[i]!, perDay)}</td>
                  <td />
                </tr>
                <tr>
                  <th scope="row">Free float</th>
                  <td>{floatText(view.freeFloat[i]!, perDay)}</td>
                  <td />
                </tr>
              </>
            )}
          </tbody>
        </table>
      )}
    </>
  );
}

/** A text that is the same for all, or "mixed". */
function shared(list: string[]): string | null {
  return list.every((t) => t === list[0]) ? list[0]! : null;
}

function Details({ activities }: { activities: Activity[] }) {
  const session = useSession();
  const { doc } = useDoc();
  const ids = activities.map((a) => a.id);
  const preview = usePreview();
  const [question, setQuestion] = useState<{ text: string; choices: { label: string; outcome: Outcome }[] } | null>(null);
  const field = (column: Exclude<EditableColumn, 'predecessors' | 'successors' | 'start' | 'finish'>, label: string, placeholder = ''): ReactNode => (
    <CommitField
      key={`${ids.join()} ${column}`}
      label={label}
      size="xs"
      placeholder={shared(activities.map((a) => cellText(doc, a, column))) === null ? 'mixed' : placeholder}
      value={shared(activities.map((a) => cellText(doc, a, column))) ?? ''}
      onCommit={(text) => {
        if (activities.length === 1) {
          const outcome = setCell(doc, ids[0]!, column, text, newId);
          if (!outcome.ok && outcome.choices) {
            setQuestion({ text: outcome.problems[0]!.message, choices: outcome.choices });
            return null;
          }
          if (!outcome.ok) return outcome.problems[0]!.message;
          session.run(outcome);
          return null;
        }
        // The same text may mean other minutes on another calendar, so each is read for itself and all go as one batch.
        const changes = [];
        for (const id of ids) {
          const outcome = setCell(doc, id, column, text, newId);
          if (!outcome.ok) return outcome.problems[0]!.message;
          changes.push(...outcome.changes);
        }
        session.run({ ok: true, label: `Set ${label.toLowerCase()} of ${ids.length} activities`, changes });
        return null;
      }}
    />
  );
  const calendar = shared(activities.map((a) => a.calendarId ?? ''));
  const type = shared(activities.map((a) => a.type));
  return (
    <div className="detail-grid">
      {preview.element}
      {question && (
        <Modal opened onClose={() => setQuestion(null)} title="Which is meant?" size="sm">
          <p>{question.text}</p>
          <div className="form-stack">
            {question.choices.map((c) => (
              <button
                key={c.label}
                type="button"
                className="light-button"
                onClick={() => {
                  session.run(c.outcome);
                  setQuestion(null);
                }}
              >
                {c.label}
              </button>
            ))}
          </div>
        </Modal>
      )}
      <Select
        label="Type"
        size="xs"
        placeholder="mixed"
        value={type}
        data={activityTypes.map((t) => ({ value: t, label: typeNames[t] }))}
        onChange={(v) => {
          if (!v) return;
          const changes = [];
          for (const id of ids) {
            const outcome = setCell(doc, id, 'type', v as ActivityType, newId);
            if (!outcome.ok) return void session.run(outcome);
            changes.push(...outcome.changes);
          }
          session.run({ ok: true, label: `Set type of ${ids.length === 1 ? labelOf(activities[0]!) : `${ids.length} activities`}`, changes });
        }}
      />
      {field('duration', 'Duration', '10d')}
      <Select
        label="Calendar"
        size="xs"
        placeholder={calendar === null ? 'mixed' : undefined}
        value={calendar}
        data={[{ value: '', label: "the project's" }, ...ordered(doc, 'calendars').map((c) => ({ value: c.id, label: c.name }))]}
        // Where dates move, before and after are shown first.
        onChange={(v) => preview.ask(setActivities(doc, ids, { calendarId: v || null }), true)}
      />
      {field('constraint', 'Constraint', 'start not before 12 mar')}
      {field('deadline', 'Deadline', '12 mar 2027')}
      {field('percent', 'Done', '45%')}
      {field('actualStart', 'Actual start')}
      {field('actualFinish', 'Actual finish')}
      {field('remaining', 'Remaining')}
      {field('suspend', 'Suspended from')}
      {field('resume', 'Resumes')}
      {field('cost', 'Cost')}
    </div>
  );
}

function Notes({ a }: { a: Activity }) {
  const session = useSession();
  const { doc } = useDoc();
  const [text, setText] = useState(a.notes);
  return (
    <textarea
      className="notes"
      aria-label="Notes"
      placeholder="Notes on this activity"
      rows={4}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== a.notes && session.run(setCell(doc, a.id, 'notes', text, newId))}
    />
  );
}
