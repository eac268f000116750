import { Popover } from '@mantine/core';
import { IconCheck, IconPlayerPause } from '@tabler/icons-react';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type Document, labelOf } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { percentOf, remainingAt } from '@yellowhammer/core/progress/percent';
import { progressPoint } from '@yellowhammer/core/rollup/progress-line';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { formatDuration, parseDuration } from '@yellowhammer/core/time/duration';
import { DateField } from '../app/DateField';
import { Fields } from '../app/Fields';
import { finishText, signedDays } from '../app/format';
import { type Scale, xOf } from '../plan/scale';
import { Ruler } from '../plan/Timeline';
import { useDoc, useSession } from '../project/hooks';
import { type DraftUpdate, type Field, fields, groupNames, partOf } from './draft';
import { showTypedDate } from '@yellowhammer/core/time/typed-date';
import { calendarFor, dayLengths } from '@yellowhammer/core/schedule/calendars';
import { type DueGroup, type Entry, withEntry } from '@yellowhammer/core/progress/due';
import { typedInstant } from '@yellowhammer/core/fields/typed';
import { typedNumber } from '@yellowhammer/core/model/number-text';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';

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
  proposals: ReadonlyMap<string, Entry>;
  problems: { where: { id?: string } }[];
  onEntry: (id: string, e: Entry | null) => void;
  /** Takes the proposals of these rows. */
  onTake: (ids: readonly string[]) => void;
  onUndo: () => void;
  onRedo: () => void;
}

const TIME_WIDTH = 250;
const ROW = 27;
const HEADING = 34;

type Group = DueGroup | 'extra';
type Item = { kind: 'heading'; group: Group; ids: string[] } | { kind: 'row'; id: string; group: Group };

/** Due rows with wide entry cells, and the window as a picture beside them. Only rows near the view are drawn, however many are due. */
export function Worksheet(p: WorksheetProps) {
  const wrong = useMemo(() => new Set(p.problems.map((x) => x.where.id)), [p.problems]);
  const day = MINUTES_PER_DAY;
  const window = Math.max(p.until - p.old, 7 * day);
  const scale: Scale = { from: p.old - window * 0.6, width: TIME_WIDTH, ppm: TIME_WIDTH / (window * 2.2) };
  const items = useMemo<Item[]>(
    () =>
      (['finish', 'start', 'progress', 'extra'] as const).flatMap((group): Item[] => {
        const list = p.rows.filter((r) => r.group === group);
        return list.length ? [{ kind: 'heading', group, ids: list.map((r) => r.id) }, ...list.map((r): Item => ({ kind: 'row', id: r.id, group }))] : [];
      }),
    [p.rows],
  );
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (items[i]?.kind === 'heading' ? HEADING : ROW),
    overscan: 12,
  });
  useEffect(() => virtual.measure(), [items, virtual]);
  /** The same cell of the next or the previous row, wherever that lies. */
  const step = useCallback(
    (id: string, field: Field, by: number): void => {
      const from = items.findIndex((x) => x.kind === 'row' && x.id === id);
      for (let i = from + by; i >= 0 && i < items.length; i += by) {
        const item = items[i]!;
        if (item.kind !== 'row') continue;
        virtual.scrollToIndex(i, { align: 'auto' });
        const selector = `[data-cell="${CSS.escape(`${item.id} ${field}`)}"]`;
        // The row may have to be drawn first.
        const focus = (tries: number): void => {
          const cell = scroller.current?.querySelector<HTMLInputElement>(selector);
          if (cell) cell.focus();
          else if (tries > 0) requestAnimationFrame(() => focus(tries - 1));
        };
        focus(10);
        return;
      }
    },
    [items, virtual],
  );
  return (
    <div
      className="worksheet"
      ref={scroller}
      role="region"
      aria-label="Due list"
      tabIndex={-1}
      onKeyDown={(e) => {
        if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z') return;
        e.preventDefault();
        e.stopPropagation();
        if (e.shiftKey) p.onRedo();
        else p.onUndo();
      }}
    >
      <Fields>
        <div className="work-row work-head">
          <span />
          <span>Due in this window</span>
          <span className="right">Started</span>
          <span className="right">Finished</span>
          <span className="right">Remaining</span>
          <span className="right">Done</span>
          <span />
          <span className="right">Ahead</span>
          <span className="work-time">
            <Ruler scale={scale} dataDate={p.until} label={finishText(p.until + 1)} />
          </span>
        </div>
        {p.rows.length === 0 && <p className="page-empty muted">Nothing is due in this window. Add what happened all the same with “Report another activity”.</p>}
        <div style={{ position: 'relative', height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const item = items[v.index]!;
            const style = { position: 'absolute', top: v.start, left: 0, right: 0, height: v.size } as const;
            if (item.kind === 'heading') {
              const open = item.ids.filter((id) => !p.draft.entries[id] && p.proposals.has(id));
              return (
                <h3 key={`h ${item.group}`} className="work-group" style={style}>
                  {groupNames[item.group]} <span className="muted">{item.ids.length}</span>
                  {open.length > 0 && (
                    <button type="button" className="link-button" onClick={() => p.onTake(open)}>
                      Take {open.length === 1 ? 'the proposal' : `${open.length} as planned`}
                    </button>
                  )}
                </h3>
              );
            }
            return <WorkRow key={item.id} p={p} id={item.id} style={style} wrong={wrong.has(item.id)} scale={scale} step={step} />;
          })}
        </div>
      </Fields>
    </div>
  );
}

interface WorkRowProps {
  p: WorksheetProps;
  id: string;
  style: React.CSSProperties;
  wrong: boolean;
  scale: Scale;
  step: (id: string, field: Field, by: number) => void;
}

function WorkRow({ p, id, style, wrong, scale, step }: WorkRowProps) {
  const session = useSession();
  const a = p.doc.activities.get(id);
  if (!a) return null;
  const entry = p.draft.entries[id];
  const shown = withEntry(a, entry ?? {});
  const proposed = p.proposals.get(id);
  const base = session.baseline?.dates.get(a.id);
  const c = calendarFor(p.doc, a);
  const point = base && c && a.type !== 'levelOfEffort' ? progressPoint(shown, c, base, p.until) : null;
  return (
    <div className={`work-row${wrong ? ' wrong' : ''}${entry ? ' entered' : ''}`} data-due={a.code} style={style}>
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
          proposed={proposed}
          onEntry={(e) => p.onEntry(id, e)}
          onTake={(all) => p.onTake(all ? p.rows.map((r) => r.id) : [id])}
          onStep={(by) => step(id, f, by)}
        />
      ))}
      <span className="work-acts">
        {proposed && !entry && (
          <button type="button" className="plain-button" aria-label={`Take as planned, ${labelOf(a)}`} title="As planned (Ctrl+Enter)" onClick={() => p.onTake([id])}>
            <IconCheck size={14} stroke={1.8} />
          </button>
        )}
        {a.type === 'task' && shown.actualStart !== null && shown.actualFinish === null && <Suspension a={shown} entry={entry} onEntry={(e) => p.onEntry(id, e)} />}
      </span>
      <span className={`right${point && point.days < 0 ? ' critical-text' : ''}`}>{point ? (point.days === 0 ? '0' : signedDays(point.days)) : ''}</span>
      <WindowBar a={a} view={p.view} scale={scale} until={p.until} old={p.old} base={base} point={point?.at ?? null} />
    </div>
  );
}

/** When work stopped for a while, and when it goes on. */
function Suspension({ a, entry, onEntry }: { a: Activity; entry: Entry | undefined; onEntry: (e: Entry | null) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover opened={open} onChange={setOpen} position="bottom-end" withArrow trapFocus returnFocus>
      <Popover.Target>
        <button
          type="button"
          className={`plain-button${a.suspend !== null ? ' on' : ''}`}
          aria-label={`Suspend ${labelOf(a)}`}
          title={a.suspend === null ? 'Suspended for a while?' : `Suspended from ${showTypedDate(a.suspend)}${a.resume ? ` to ${showTypedDate(a.resume)}` : ''}`}
          onClick={() => setOpen(!open)}
        >
          <IconPlayerPause size={14} stroke={1.8} />
        </button>
      </Popover.Target>
      <Popover.Dropdown className="form-stack" aria-label={`Suspension of ${labelOf(a)}`}>
        <DateField
          label="Suspended from"
          value={a.suspend}
          end="finish"
          clearable
          calendarId={a.calendarId}
          onChange={(v) => onEntry({ ...entry, suspend: v, ...(v === null ? { resume: null } : {}) })}
        />
        <DateField label="Resumes" value={a.resume} end="start" clearable calendarId={a.calendarId} onChange={(v) => onEntry({ ...entry, resume: v })} />
      </Popover.Dropdown>
    </Popover>
  );
}

interface EntryCellProps {
  a: Activity;
  shown: Activity;
  field: Field;
  entry: Entry | undefined;
  proposed: Entry | undefined;
  onEntry: (e: Entry | null) => void;
  onTake: (all: boolean) => void;
  onStep: (by: number) => void;
}

const titles: Record<Field, string> = { actualStart: 'Started', actualFinish: 'Finished', remaining: 'Remaining', percent: 'Done' };

/** Without this field of an entry; null where nothing is left of it. */
function without(entry: Entry | undefined, part: keyof Entry): Entry | null {
  const { [part]: _, ...rest } = entry ?? {};
  return Object.keys(rest).length ? rest : null;
}

function EntryCell({ a, shown, field, entry, proposed, onEntry, onTake, onStep }: EntryCellProps) {
  const { doc } = useDoc();
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const part = partOf[field];
  const entered = entry !== undefined && part in entry;
  const task = a.type === 'task';
  if (!task && (field === 'remaining' || (field === 'actualStart' && a.type === 'finishMilestone') || (field === 'actualFinish' && a.type === 'startMilestone'))) return <span />;
  const value = entryText(doc, shown, field);
  // What is proposed stands grey in the cell until it is taken or typed over; what was known stands small beside it.
  const planned = proposed && !entered ? entryText(doc, withEntry(a, { ...entry, ...proposed }), field) : '';
  const grey = planned !== value ? planned : '';
  const was = grey && value && field !== 'percent' ? value : '';
  const base = grey && value ? '' : value;
  const commit = (): boolean => {
    if (text === null || text === base) {
      setText(null);
      return true;
    }
    if (text.trim() === '' && grey) {
      setText(null);
      return true;
    }
    const read = readEntry(doc, shown, field, text.trim(), proposed);
    if ('error' in read) {
      setError(read.error);
      return false;
    }
    setError(null);
    setText(null);
    onEntry({ ...entry, ...read.entry });
    return true;
  };
  return (
    <span className="entry">
      {was && text === null && <span className="entry-was">was {was}</span>}
      <input
        data-field={field}
        data-cell={`${a.id} ${field}`}
        aria-label={`${titles[field]}, ${labelOf(a)}${grey ? `, planned ${grey}` : ''}`}
        aria-invalid={error !== null}
        title={error ?? undefined}
        className={error ? 'wrong' : ''}
        value={text ?? base}
        placeholder={grey}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => {
          setText(e.target.value);
          setError(null);
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) {
            e.preventDefault();
            setText(null);
            onTake(e.shiftKey);
            if (!e.shiftKey) onStep(1);
          } else if (e.key === 'Enter' || e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            if (commit()) onStep(e.key === 'ArrowUp' ? -1 : 1);
          } else if (e.key === 'Escape') {
            // Gives up what is being typed, else what was entered in this cell.
            if (text === null && entered) onEntry(without(entry, part));
            setText(null);
            setError(null);
          } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z' && text !== null) {
            e.stopPropagation();
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
function readEntry(doc: Document, a: Activity, field: Field, text: string, proposed: Entry | undefined): ReadEntry {
  const begin: Entry | undefined = a.actualStart !== null ? {} : proposed?.actualStart ? { actualStart: proposed.actualStart } : undefined;
  if (field === 'actualStart' || field === 'actualFinish') {
    if (text === '') return { entry: { [field]: null, ...(field === 'actualStart' ? { actualFinish: null, remaining: null } : {}) } };
    const t = typedInstant(doc, a, text, field === 'actualStart' ? 'start' : 'finish');
    if (t === undefined) return { error: `${text} cannot be read. Type a date as 12 mar.` };
    if (a.type !== 'task') return { entry: { actualStart: t, actualFinish: t } };
    return { entry: { ...(field === 'actualFinish' ? begin : {}), [field]: t } };
  }
  if (field === 'remaining') {
    const minutes = parseDuration(text, dayLengths(doc, a));
    if (minutes === undefined || minutes < 0) return { error: `${text || 'Nothing'} cannot be read. Type it as 6d or 4h.` };
    if (!begin) return { error: 'Enter first when it started.' };
    return { entry: { ...begin, remaining: minutes, actualFinish: null } };
  }
  const n = text.trim() === '' ? 0 : typedNumber(text.replace('%', ''));
  if (n === undefined || n < 0 || n > 100) return { error: `${text} is no percentage from 0 to 100.` };
  if (!begin) return { error: 'Enter first when it started.' };
  return { entry: { ...begin, remaining: remainingAt(a.duration, n), actualFinish: null } };
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
  const ahead = Math.max(view.aheadFrom[i]!, view.start[i]!);
  const done = view.state[i]! === 2 ? view.finish[i]! : view.state[i]! === 1 ? Math.min(ahead, view.finish[i]!) : view.start[i]!;
  const y = 13;
  return (
    <svg width={scale.width} height={27} className="window-bar" aria-hidden="true">
      <rect className="outside" x={0} y={0} width={x(old)} height={27} />
      <rect className="outside" x={x(until)} y={0} width={scale.width - x(until)} height={27} />
      {base && <path className="tl-baseline" d={`M${x(base.start)} ${y + 6}v4H${Math.max(x(base.finish), x(base.start) + 2)}v-4`} />}
      {view.finish[i] === view.start[i] ? (
        <path className={view.state[i] === 2 ? 'tl-done' : 'tl-ahead'} d={`M${x(view.finish[i]!)} ${y - 6}l6 6l-6 6l-6 -6Z`} />
      ) : (
        <>
          <rect className="tl-done" x={x(view.start[i]!)} y={y - 5.5} width={Math.max(0, x(done) - x(view.start[i]!))} height={11} rx={1.5} />
          <rect className="tl-ahead" x={x(done)} y={y - 5.5} width={Math.max(0, x(view.finish[i]!) - x(done))} height={11} rx={1.5} />
        </>
      )}
      <path className="old-date" d={`M${x(old)} 0V27`} />
      {point !== null && Math.abs(x(point) - x(until)) > 1 && <path className="progress-line" d={`M${x(until)} 1L${x(point)} ${y}L${x(until)} 26`} />}
      <rect className="tl-data-date" x={x(until) - 1} y={0} width={2} height={27} />
    </svg>
  );
}
