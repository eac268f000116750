import { useRef, useState } from 'react';
import { dayLengths, showTypedDate, typedInstant } from '@yellowhammer/core/commands/cells';
import { percentOf, remainingAt } from '@yellowhammer/core/progress/percent';
import { type DueGroup, type Entry, withEntry } from '@yellowhammer/core/commands/update';
import { type Document, labelOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { progressPoint } from '@yellowhammer/core/rollup/progress-line';
import { calendarFor } from '@yellowhammer/core/schedule/bars';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { finishText, signedDays } from '../app/format';
import { type Scale, xOf } from '../plan/scale';
import { Ruler } from '../plan/Timeline';
import { useDoc, useSession } from '../project/hooks';
import { type DraftUpdate, type Field, fields, groupNames } from './draft';

/** What would be entered had all gone as forecast. */
export function proposal(view: ScheduleView | null, a: Activity | undefined, group: DueGroup | 'extra', until: number | undefined): Entry {
  const i = a && view ? placeOf(view, a.id) : undefined;
  if (!a || !view || i === undefined || until === undefined || group === 'extra') return {};
  const start = a.actualStart ?? formatInstant(view.start[i]);
  if (group === 'finish') return { actualStart: start, actualFinish: formatInstant(view.finish[i]) };
  const ahead = view.length[i];
  const share = view.finish[i] > view.aheadFrom[i] ? Math.max(0, until - view.aheadFrom[i]) / (view.finish[i] - view.aheadFrom[i]) : 0;
  return { actualStart: start, remaining: Math.max(0, Math.round((ahead * (1 - share)) / 30) * 30) };
}

export function entryText(doc: Document, a: Activity, f: Field): string {
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
  doc: Document;
  view: ScheduleView | null;
  until: number;
  old: number;
  proposals: Map<string, Entry>;
  problems: { where: { id?: string } }[];
  onEntry: (id: string, e: Entry | null) => void;
  onTakeAll: () => void;
}

const TIME_WIDTH = 250;

/** Due rows with wide entry cells, and the window as a picture beside them. */
export function Worksheet(p: WorksheetProps) {
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
function readEntry(doc: Document, a: Activity, field: Field, text: string): ReadEntry {
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
  const i = view ? placeOf(view, a.id) : undefined;
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
