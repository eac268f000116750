import './update.css';
import { Select } from '@mantine/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { dayLengths, percentOf, remainingAt, showTypedDate, typedInstant } from '@yellowhammer/core/commands/cells';
import { goBackTo } from '@yellowhammer/core/commands/project';
import { type DueGroup, type Entry, entryChanges, entryProblems, takeOver, withEntry } from '@yellowhammer/core/commands/update';
import { labelOf, ordered, projectOf } from '@yellowhammer/core/model/document';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { Activity } from '@yellowhammer/core/model/schema';
import { progressPoint } from '@yellowhammer/core/rollup/progress-line';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { call } from '../project/api';
import { newId, useDoc, useSession, useTopic, useView } from '../project/hooks';
import { DateField } from '../app/ProjectSettings';
import { downloadCsv } from '../app/csv';
import { finishText, longDate, longFinish, signedDays, startText } from '../app/format';
import { calendarFor } from '@yellowhammer/core/schedule/bars';
import { Ruler } from '../plan/Timeline';
import { type Scale, xOf } from '../plan/scale';

interface DraftUpdate {
  dataDate: string | null;
  entries: Record<string, Entry>;
  /** Activities that are not due but are reported all the same. */
  extra: string[];
}

const none: DraftUpdate = { dataDate: null, entries: {}, extra: [] };

function useDraft(id: string): [DraftUpdate, (d: DraftUpdate) => void] {
  const key = `yellowhammer.update.${id}`;
  const [draft, setDraft] = useState<DraftUpdate>(() => {
    try {
      return { ...none, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<DraftUpdate>) };
    } catch {
      return none;
    }
  });
  const set = useCallback(
    (d: DraftUpdate) => {
      setDraft(d);
      if (d === none) localStorage.removeItem(key);
      else localStorage.setItem(key, JSON.stringify(d));
    },
    [key],
  );
  return [draft, set];
}

const groupNames: Record<DueGroup | 'extra', string> = { finish: 'Should have finished', start: 'Should have started', progress: 'Went on', extra: 'Reported, not due' };
type Field = 'actualStart' | 'actualFinish' | 'remaining' | 'percent';
const fields: Field[] = ['actualStart', 'actualFinish', 'remaining', 'percent'];

/** What the window touches, from the forecast as it stands. */
function due(view: ScheduleView, doc: { activities: Map<string, Activity> }, until: number): { id: string; group: DueGroup }[] {
  return view.ids.flatMap((id, i): { id: string; group: DueGroup }[] => {
    const a = doc.activities.get(id);
    if (!a || a.type === 'levelOfEffort' || a.type === 'margin' || view.state[i] === 2) return [];
    if (view.finish[i] <= until) return [{ id, group: 'finish' }];
    if (view.state[i] === 1) return [{ id, group: 'progress' }];
    return view.start[i] < until ? [{ id, group: 'start' }] : [];
  });
}

/** A worksheet for one window: due rows with wide entry cells, the window as a picture, and what the entries do. */
export function UpdatePage() {
  const session = useSession();
  const { doc, version } = useDoc();
  const view = useView();
  useTopic('sync');
  const [draft, setDraft] = useDraft(session.id);
  const [preview, setPreview] = useState<ScheduleView | null>(null);
  const project = projectOf(doc);
  const old = project.dataDate ?? project.plannedStart;
  const next = draft.dataDate;
  const until = next === null ? undefined : parseInstant(next);
  const entries = useMemo(() => new Map(Object.entries(draft.entries)), [draft.entries]);
  const rows = useMemo(() => {
    if (!view || until === undefined) return [];
    const list: { id: string; group: DueGroup | 'extra' }[] = due(view, doc, until);
    const known = new Set(list.map((r) => r.id));
    for (const id of draft.extra) if (!known.has(id) && doc.activities.has(id)) list.push({ id, group: 'extra' });
    return list;
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, until, doc, version, draft.extra]);
  const problems = useMemo(() => (next === null ? [] : entryProblems(doc, next, entries)), [doc, next, entries]);
  useEffect(() => {
    if (next === null || problems.length) return setPreview(null);
    let gone = false;
    void session.worker.preview(entryChanges(doc, next, entries).changes).then((r) => !gone && setPreview(r.view));
    return () => {
      gone = true;
    };
  }, [session, doc, version, next, entries, problems]);
  const snapshots = ordered(doc, 'snapshots');
  const number = snapshots.filter((s) => s.kind === 'statusUpdate').length;
  const restore = [...snapshots].reverse().find((s) => s.kind === 'restorePoint');
  const goBack = async (): Promise<void> => {
    if (!restore) return;
    const reply = await call<string>('GET', `/projects/${session.id}/copies/${restore.id}`);
    const copy = reply.ok ? readProjectText(reply.value).file?.document : undefined;
    if (!copy) return session.onNotice({ tone: 'problem', title: 'Not done', text: 'The restore point could not be read. Try again when the server is there.' });
    if (session.run(goBackTo(doc, restore.id, copy)))
      session.onNotice({ tone: 'done', title: `The plan is as it was ${restore.name.toLowerCase()}`, text: 'Undo brings the update back.' });
  };
  const take = (): void => {
    if (next === null) return;
    const from = view?.projectFinish;
    const real = new Map([...entries].filter(([, e]) => Object.keys(e).length > 0));
    if (!session.run(takeOver(doc, { dataDate: next, entries: real, at: new Date().toISOString() }, newId))) return;
    const to = preview?.projectFinish;
    setDraft(none);
    if (from !== undefined && to !== undefined)
      session.onNotice({ tone: 'done', title: `Status update ${number + 1} taken over`, text: to === from ? 'The finish holds.' : `The finish is now ${longFinish(to)}.` });
  };
  const set = (id: string, entry: Entry | null): void => {
    const { [id]: _, ...rest } = draft.entries;
    setDraft({ ...draft, entries: entry === null ? rest : { ...rest, [id]: entry } });
  };
  const proposals = useMemo(() => new Map(rows.map((r) => [r.id, proposal(view, doc.activities.get(r.id), r.group, until)])), [rows, view, doc, until]);
  const takeAll = (): void => {
    const all = { ...draft.entries };
    for (const r of rows) if (!all[r.id] && r.group !== 'extra') all[r.id] = proposals.get(r.id) ?? {};
    setDraft({ ...draft, entries: all });
  };
  const csv = (): void =>
    downloadCsv(
      `${project.code} due list`,
      ['No.', 'Activity', 'Why', 'Started', 'Finished', 'Remaining', 'Done'],
      rows.map((r) => {
        const a = doc.activities.get(r.id) as Activity;
        const e = withEntry(a, draft.entries[r.id] ?? {});
        return [a.code, a.name, groupNames[r.group], ...fields.map((f) => entryText(doc, e, f))];
      }),
    );
  return (
    <div className="update">
      <div className="update-top">
        <h2>Status update {number + 1}</h2>
        <div className="update-window">
          <span>
            from <b>{longDate(old)}</b> to
          </span>
          <DateField label="" value={next} end="start" onChange={(v) => v && setDraft({ ...draft, dataDate: v })} />
          {next !== null && (
            <span className="muted">
              {rows.length} due · {entries.size} entered · grey is proposed: Tab takes it, Shift+Enter takes all
            </span>
          )}
        </div>
        {restore && (
          <div className="update-restore">
            <span className="muted">Restore point: {restore.name.toLowerCase()}</span>
            <button type="button" className="link-button" onClick={() => void goBack()}>
              Go back to it
            </button>
          </div>
        )}
      </div>
      {next === null || until === undefined ? (
        <div className="page-empty">
          <h2>Choose the new data date</h2>
          <p>
            Everything up to it is known, everything after it is forecast. A restore point of the plan is kept first, so that you can always go back. Then the due list shows what
            the window touches.
            {project.dataDate === null ? ' This plan has no data date yet: the first update sets it.' : ''}
          </p>
        </div>
      ) : (
        <>
          <Worksheet
            rows={rows}
            draft={draft}
            doc={doc}
            view={preview ?? view}
            until={until}
            old={parseInstant(old) as number}
            proposals={proposals}
            problems={problems}
            onEntry={set}
            onTakeAll={takeAll}
          />
          <aside className="inspector" aria-label="What these entries do">
            <h2>What these entries do</h2>
            {preview ? (
              <Effect before={view} after={preview} />
            ) : problems.length > 0 ? (
              <p className="critical-text">Some entries cannot stand; see below.</p>
            ) : (
              <p className="muted">Computing</p>
            )}
            {problems.length > 0 && (
              <ul className="problem-list" role="alert">
                {problems.map((p) => (
                  <li key={p.where.id}>{p.message}</li>
                ))}
              </ul>
            )}
            <div className="update-actions">
              <button type="button" className="dark-button" onClick={take} disabled={problems.length > 0}>
                Take over
              </button>
              <button type="button" className="light-button" onClick={() => setDraft(none)}>
                Discard
              </button>
            </div>
            <p className="muted">Nothing is taken over yet. A restore point is kept with the update.</p>
            <Questions rows={rows} draft={draft} />
          </aside>
        </>
      )}
      <footer className="dock">
        {next !== null && (
          <>
            <AddReported onAdd={(id) => setDraft({ ...draft, extra: [...draft.extra, id] })} />
            <button type="button" className="chip" onClick={takeAll}>
              Take all proposals
            </button>
            <button type="button" className="chip" onClick={csv}>
              CSV
            </button>
          </>
        )}
        <span className="dock-right muted">{next === null ? '' : 'Previewed, nothing taken over yet'}</span>
      </footer>
    </div>
  );
}

/** What would be entered had all gone as forecast. */
function proposal(view: ScheduleView | null, a: Activity | undefined, group: DueGroup | 'extra', until: number | undefined): Entry {
  const i = a && view ? view.index.get(a.id) : undefined;
  if (!a || !view || i === undefined || until === undefined || group === 'extra') return {};
  const start = a.actualStart ?? formatInstant(view.start[i]);
  if (group === 'finish') return { actualStart: start, actualFinish: formatInstant(view.finish[i]) };
  const ahead = view.length[i];
  const share = view.finish[i] > view.aheadFrom[i] ? Math.max(0, until - view.aheadFrom[i]) / (view.finish[i] - view.aheadFrom[i]) : 0;
  return { actualStart: start, remaining: Math.max(0, Math.round((ahead * (1 - share)) / 30) * 30) };
}

function entryText(doc: Parameters<typeof dayLengths>[0], a: Activity, f: Field): string {
  if (f === 'actualStart' || f === 'actualFinish') return a[f] === null ? '' : showTypedDate(a[f]).replace(/, \d\d:\d\d$/, '');
  if (f === 'percent') return a.actualStart === null ? '' : `${percentOf(a)}%`;
  return a.actualStart === null || a.actualFinish !== null || a.type !== 'task'
    ? a.actualFinish !== null
      ? '0'
      : ''
    : formatDuration(a.remaining ?? a.duration, dayLengths(doc, a));
}

interface WorksheetProps {
  rows: { id: string; group: DueGroup | 'extra' }[];
  draft: DraftUpdate;
  doc: ReturnType<typeof useDoc>['doc'];
  view: ScheduleView | null;
  until: number;
  old: number;
  proposals: Map<string, Entry>;
  problems: { where: { id?: string } }[];
  onEntry: (id: string, e: Entry | null) => void;
  onTakeAll: () => void;
}

const TIME_WIDTH = 250;

function Worksheet(p: WorksheetProps) {
  const session = useSession();
  const wrong = new Set(p.problems.map((x) => x.where.id));
  const day = 1440;
  const window = Math.max(p.until - p.old, 7 * day);
  const scale: Scale = { from: p.old - window * 0.6, width: TIME_WIDTH, ppm: TIME_WIDTH / (window * 2.2) };
  const groups = (['finish', 'start', 'progress', 'extra'] as const).map((g) => [g, p.rows.filter((r) => r.group === g)] as const).filter(([, list]) => list.length);
  const MOST = 400;
  return (
    <div className="worksheet">
      <div className="work-row work-head">
        <span />
        <span>Due in this window</span>
        <span className="right">Started</span>
        <span className="right">Finished</span>
        <span className="right">Remaining</span>
        <span className="right">Done</span>
        <span className="right">Ahead</span>
        <span className="work-time">
          <Ruler scale={scale} dataDate={p.until} label={finishText(p.until + 1)} />
        </span>
      </div>
      {p.rows.length === 0 && <p className="page-empty muted">Nothing is due in this window. Add what happened all the same with “Report another activity”.</p>}
      {groups.map(([group, list]) => (
        <section key={group} aria-label={groupNames[group]}>
          <h3 className="work-group">
            {groupNames[group]} <span className="muted">{list.length}</span>
          </h3>
          {list.slice(0, MOST).map((r) => {
            const a = p.doc.activities.get(r.id);
            if (!a) return null;
            const entry = p.draft.entries[r.id];
            const shown = withEntry(a, entry ?? {});
            const base = session.baseline?.dates.get(a.id);
            const c = calendarFor(p.doc, a);
            const point = base && c ? progressPoint(shown, c, base, p.until) : null;
            return (
              <div key={r.id} className={`work-row${wrong.has(r.id) ? ' wrong' : ''}${entry ? ' entered' : ''}`} data-due={a.code}>
                <span className="muted right small">{a.code}</span>
                <span className="cmp-name" title={a.name}>
                  {a.name}
                </span>
                {fields.map((f) => (
                  <EntryCell
                    key={f}
                    a={a}
                    shown={shown}
                    field={f}
                    entry={entry}
                    proposed={p.proposals.get(r.id) ?? {}}
                    onEntry={(e) => p.onEntry(r.id, e)}
                    onTakeAll={p.onTakeAll}
                  />
                ))}
                <span className={`right${point && point.days < 0 ? ' critical-text' : ''}`}>{point ? (point.days === 0 ? '0' : signedDays(point.days)) : ''}</span>
                <WindowBar a={a} view={p.view} scale={scale} until={p.until} old={p.old} base={base} point={point?.at ?? null} />
              </div>
            );
          })}
          {list.length > MOST && <p className="muted work-more">and {list.length - MOST} more; enter these first, or choose a shorter window</p>}
        </section>
      ))}
    </div>
  );
}

function EntryCell({
  a,
  shown,
  field,
  entry,
  proposed,
  onEntry,
  onTakeAll,
}: {
  a: Activity;
  shown: Activity;
  field: Field;
  entry: Entry | undefined;
  proposed: Entry;
  onEntry: (e: Entry | null) => void;
  onTakeAll: () => void;
}) {
  const { doc } = useDoc();
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const task = a.type === 'task';
  const value = entryText(doc, shown, field);
  const grey = entry ? '' : entryText(doc, withEntry(a, proposed), field);
  if (!task && (field === 'remaining' || (field === 'actualStart' && a.type === 'finishMilestone') || (field === 'actualFinish' && a.type === 'startMilestone'))) return <span />;
  const commit = (): boolean => {
    if (text === null || text === value) {
      setText(null);
      return true;
    }
    const read = readEntry(doc, shown, field, text.trim());
    if ('error' in read) {
      setError(read.error);
      return false;
    }
    setError(null);
    setText(null);
    onEntry({ ...entry, ...read.entry });
    return true;
  };
  const step = (by: number): void => {
    const all = [...document.querySelectorAll<HTMLInputElement>(`input[data-field="${field}"]`)];
    all[all.indexOf(input.current as HTMLInputElement) + by]?.focus();
  };
  return (
    <span className="entry">
      <input
        ref={input}
        data-field={field}
        aria-label={`${{ actualStart: 'Started', actualFinish: 'Finished', remaining: 'Remaining', percent: 'Done' }[field]}, ${labelOf(a)}`}
        aria-invalid={error !== null}
        title={error ?? undefined}
        className={error ? 'wrong' : ''}
        value={text ?? value}
        placeholder={grey}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => {
          setText(e.target.value);
          setError(null);
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && e.shiftKey) {
            e.preventDefault();
            onTakeAll();
          } else if (e.key === 'Enter' || e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            if (commit()) step(e.key === 'ArrowUp' ? -1 : 1);
          } else if (e.key === 'Tab' && !e.shiftKey && text === null && !value && grey && !entry) onEntry({ ...proposed });
          else if (e.key === 'Escape') {
            setText(null);
            setError(null);
            onEntry(null);
          }
        }}
      />
      {error && (
        <span className="entry-error" role="alert">
          {error}
        </span>
      )}
    </span>
  );
}

type ReadEntry = { entry: Entry } | { error: string };

/** What a typed entry means. Progress needs a start, so percent and remaining take the forecast one along where none is entered. */
function readEntry(doc: ReturnType<typeof useDoc>['doc'], a: Activity, field: Field, text: string): ReadEntry {
  if (field === 'actualStart' || field === 'actualFinish') {
    if (text === '') return { entry: { [field]: null, ...(field === 'actualStart' ? { actualFinish: null, remaining: null } : {}) } };
    const t = typedInstant(doc, a, text, field === 'actualStart' ? 'start' : 'finish');
    if (t === undefined) return { error: `${text} cannot be read. Type a date as 12 mar.` };
    if (a.type !== 'task') return { entry: { actualStart: t, actualFinish: t } };
    return { entry: { [field]: t } };
  }
  if (field === 'remaining') {
    const minutes = parseDuration(text, dayLengths(doc, a));
    if (minutes === undefined || minutes < 0) return { error: `${text || 'Nothing'} cannot be read. Type it as 6d or 4h.` };
    if (a.actualStart === null) return { error: 'Enter first when it started.' };
    return { entry: { remaining: minutes, actualFinish: null } };
  }
  const n = Number(text.replace('%', '').replace(',', '.'));
  if (!Number.isFinite(n) || n < 0 || n > 100) return { error: `${text} is no percentage from 0 to 100.` };
  if (a.actualStart === null) return { error: 'Enter first when it started.' };
  return { entry: { remaining: remainingAt(a.duration, n), actualFinish: null } };
}

function WindowBar({
  a,
  view,
  scale,
  until,
  old,
  base,
  point,
}: {
  a: Activity;
  view: ScheduleView | null;
  scale: Scale;
  until: number;
  old: number;
  base: { start: number; finish: number } | undefined;
  point: number | null;
}) {
  const i = view?.index.get(a.id);
  if (!view || i === undefined) return <span />;
  const x = (t: number): number => Math.max(-20, Math.min(scale.width + 20, xOf(scale, t)));
  const ahead = Math.max(view.aheadFrom[i], view.start[i]);
  const done = view.state[i] === 2 ? view.finish[i] : view.state[i] === 1 ? Math.min(ahead, view.finish[i]) : view.start[i];
  const y = 13;
  return (
    <svg width={scale.width} height={27} className="window-bar" aria-hidden="true">
      <rect className="outside" x={0} y={0} width={x(old)} height={27} />
      <rect className="outside" x={x(until)} y={0} width={scale.width - x(until)} height={27} />
      {base && <path className="tl-baseline" d={`M${x(base.start)} ${y + 6}v4H${Math.max(x(base.finish), x(base.start) + 2)}v-4`} />}
      {view.finish[i] === view.start[i] ? (
        <path className={view.state[i] === 2 ? 'tl-done' : 'tl-ahead'} d={`M${x(view.finish[i])} ${y - 6}l6 6l-6 6l-6 -6Z`} />
      ) : (
        <>
          <rect className="tl-done" x={x(view.start[i])} y={y - 5.5} width={Math.max(0, x(done) - x(view.start[i]))} height={11} rx={1.5} />
          <rect className="tl-ahead" x={x(done)} y={y - 5.5} width={Math.max(0, x(view.finish[i]) - x(done))} height={11} rx={1.5} />
        </>
      )}
      <path className="old-date" d={`M${x(old)} 0V27`} />
      {point !== null && Math.abs(x(point) - x(until)) > 1 && <path className="progress-line" d={`M${x(until)} 1L${x(point)} ${y}L${x(until)} 26`} />}
      <rect className="tl-data-date" x={x(until) - 1} y={0} width={2} height={27} />
    </svg>
  );
}

function Effect({ before, after }: { before: ScheduleView | null; after: ScheduleView }) {
  const { doc } = useDoc();
  const c = calendarFor(doc, { calendarId: null });
  const days = (x: number, y: number): number => (c ? Math.round(((c.position(y) - c.position(x)) / c.minutesPerDay) * 10) / 10 : 0);
  const milestones = after.ids.flatMap((id, i) => {
    const a = doc.activities.get(id);
    const j = before?.index.get(id);
    if (!a || !before || j === undefined || (a.type !== 'startMilestone' && a.type !== 'finishMilestone' && a.type !== 'margin') || (after.state[i] === 2 && before.state[j] === 2))
      return [];
    return [
      {
        a,
        i,
        moved: days(before.finish[j], after.finish[i]),
        left: a.type === 'margin' ? Math.round(((after.length[i] - before.length[j]) / after.minutesPerDay[i]) * 10) / 10 : null,
      },
    ];
  });
  milestones.sort((x, y) => after.finish[x.i] - after.finish[y.i]);
  const moved = before ? days(before.projectFinish, after.projectFinish) : 0;
  return (
    <>
      <p className="effect">
        <b className="serif">{longFinish(after.projectFinish)}</b> <span className={moved > 0 ? 'critical-text' : 'muted'}>{moved === 0 ? 'holds' : signedDays(moved)}</span>
      </p>
      {before && <p className="muted">was {longFinish(before.projectFinish)}</p>}
      {milestones.length > 0 && (
        <div className="inspector-section">
          <h3>Milestones</h3>
          {milestones.slice(0, 14).map(({ a, i, moved: m, left }) => (
            <div key={a.id} className="moved-row">
              <span className="cmp-name left" title={a.name}>
                {a.name}
              </span>
              <span>
                {left === null
                  ? finishText(after.finish[i])
                  : `${Math.round((after.length[i] / after.minutesPerDay[i]) * 10) / 10} of ${Math.round(after.planned[i] / after.minutesPerDay[i])} d`}
              </span>
              <span className={(left === null ? m > 0 : left < 0) ? 'critical-text' : 'muted'}>
                {left === null ? (m === 0 ? 'holds' : signedDays(m)) : left === 0 ? 'holds' : signedDays(left)}
              </span>
            </div>
          ))}
        </div>
      )}
    </>
  );
}

/** What looks odd, as a question. */
function Questions({ rows, draft }: { rows: { id: string; group: DueGroup | 'extra' }[]; draft: DraftUpdate }) {
  const { doc } = useDoc();
  const view = useView();
  const odd = rows.flatMap((r) => {
    const a = doc.activities.get(r.id);
    const i = view?.index.get(r.id);
    if (!a || !view || i === undefined) return [];
    const e = draft.entries[r.id];
    const float = `${Math.round((view.totalFloat[i] / view.minutesPerDay[i]) * 10) / 10} d of float left`;
    if (!e) return r.group === 'extra' || a.actualStart !== null ? [] : [{ a, text: `was due ${startText(view.start[i])}, nothing entered. It has ${float}.` }];
    const next = withEntry(a, e);
    if (next.remaining !== null && next.actualFinish === null && next.remaining > a.duration) return [{ a, text: 'more remains than the whole duration. Is that meant?' }];
    if (next.remaining === 0 && next.actualFinish === null) return [{ a, text: 'nothing remains, but it has no finish. Is it finished?' }];
    return [];
  });
  if (odd.length === 0) return null;
  return (
    <div className="inspector-section">
      <h3>To look at</h3>
      {odd.slice(0, 6).map(({ a, text }) => (
        <div key={a.id} className="question">
          <b>{labelOf(a)}</b>
          <div>{text}</div>
        </div>
      ))}
      {odd.length > 6 && <p className="muted">and {odd.length - 6} more</p>}
    </div>
  );
}

function AddReported({ onAdd }: { onAdd: (id: string) => void }) {
  const { doc } = useDoc();
  const [search, setSearch] = useState('');
  const q = search.toLowerCase();
  const data = useMemo(
    () =>
      [...doc.activities.values()]
        .filter((a) => a.actualFinish === null && a.type !== 'levelOfEffort' && a.type !== 'margin' && labelOf(a).toLowerCase().includes(q))
        .slice(0, 50)
        .map((a) => ({ value: a.id, label: labelOf(a) })),
    [doc, q],
  );
  return (
    <Select
      size="xs"
      w={210}
      searchable
      placeholder="Report another activity"
      aria-label="Report another activity"
      data={data}
      value={null}
      searchValue={search}
      onSearchChange={setSearch}
      filter={({ options }) => options}
      onChange={(v) => {
        if (v) onAdd(v);
        setSearch('');
      }}
    />
  );
}
