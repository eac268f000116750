/** Each resource as a row of bars over time, with how each day stands below; a bar dragged to another row is given to that one, with the effect on both shown first. */
import { Modal } from '@mantine/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { reassign } from '@yellowhammer/core/commands/assign';
import { hoursOf } from '@yellowhammer/core/load/hours';
import type { Candidate } from '@yellowhammer/core/load/candidates';
import type { DayState, Handover, PeopleOnTime as Told, PersonRow, WorkBar } from '@yellowhammer/core/load/people';
import { unitsText } from '@yellowhammer/core/load/words';
import { MINUTES_PER_DAY } from '@yellowhammer/core/time/instant';
import { showDay } from '@yellowhammer/core/time/typed-date';
import { finishText, tenths } from '../app/format';
import { useSession, useTopic } from '../project/hooks';
import { overName, shortName } from './grid';

const LEFT = 200;
const HEAD = 44;
const BAR = 18;
const STRIP = 12;
/** Pixels of a step in which is told what is seen across, and most of them that a window shows. */
const STEP = 400;
const MOST_SEEN = 2_000;
const heightOf = (p: PersonRow): number => p.stacks * BAR + STRIP + 8;
const stateWords: Record<DayState, string> = { off: 'off', free: 'free', room: 'room left', full: 'just right', over: 'over' };
const zooms = [3, 6, 12, 24, 48] as const;

interface Grab {
  bar: WorkBar;
  from: string;
  /** Where the pointer is, and the row under it. */
  x: number;
  y: number;
  over: string | null;
  moved: boolean;
}

export function PeopleOnTime({ dataDate }: { dataDate: number | null }) {
  const session = useSession();
  const version = useTopic('view');
  const [told, setTold] = useState<Told | null>(null);
  const [zoom, setZoom] = useState(2);
  const [chosen, setChosen] = useState<{ bar: WorkBar; row: PersonRow } | null>(null);
  const [grab, setGrab] = useState<Grab | null>(null);
  const [asked, setAsked] = useState<{ bar: WorkBar; to: string } | null>(null);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let gone = false;
    void session.worker.people().then((p) => {
      if (!gone) setTold(p);
    });
    return () => {
      gone = true;
    };
  }, [session, version]);
  const rows = told?.rows ?? [];
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: (n) => heightOf(rows[n]!),
    overscan: 6,
    paddingStart: HEAD,
    scrollPaddingStart: HEAD,
  });
  useEffect(() => down.measure(), [down, told]);
  const ppd = zooms[zoom] ?? 12;
  const days = rows[0]?.days.length ?? 0;
  const first = told?.first ?? 0;
  const x = (t: number): number => LEFT + (t / MINUTES_PER_DAY - first) * ppd;
  // What is seen across, in steps: rows are drawn anew only where another step is reached.
  const [seen, setSeen] = useState(0);
  const look = (el: HTMLElement): void => setSeen(Math.floor(el.scrollLeft / STEP));
  const choose = useCallback((bar: WorkBar, row: PersonRow) => setChosen({ bar, row }), []);
  const opened = useRef(false);
  useEffect(() => {
    if (opened.current || !told || dataDate === null) return;
    opened.current = true;
    box.current?.scrollTo({ left: Math.max(0, (dataDate / MINUTES_PER_DAY - told.first) * ppd - 120) });
  }, [told, dataDate, ppd]);
  const width = LEFT + days * ppd;
  const rowAt = (clientY: number): string | null => {
    const top = box.current?.getBoundingClientRect().top ?? 0;
    const y = clientY - top + (box.current?.scrollTop ?? 0);
    const item = down.getVirtualItems().find((r) => r.start <= y && r.end > y);
    return item ? (rows[item.index]?.resourceId ?? null) : null;
  };
  const onMove = (e: React.PointerEvent): void => {
    if (!grab) return;
    const moved = grab.moved || Math.abs(e.clientY - grab.y) > 5;
    setGrab({ ...grab, x: e.clientX, ...(moved ? { y: e.clientY } : {}), over: rowAt(e.clientY), moved });
  };
  const onUp = (): void => {
    if (grab?.moved && grab.over !== null && grab.over !== grab.from) setAsked({ bar: grab.bar, to: grab.over });
    setGrab(null);
  };
  const kind = ppd >= 12 ? 'week' : 'month';
  if (told && rows.length === 0) return <p className="muted load-wait">Nobody is in this project yet. Add resources in the Library.</p>;
  return (
    <div className="load-body">
      <div className="load-left">
        <div
          ref={box}
          className={`people-time${grab?.moved ? ' grabbing' : ''}`}
          role="region"
          aria-label="People on time"
          onScroll={(e) => look(e.currentTarget)}
          onPointerMove={onMove}
          onPointerUp={onUp}
          onPointerCancel={() => setGrab(null)}
        >
          <div style={{ width, height: down.getTotalSize(), position: 'relative' }}>
            <div className="load-heads" style={{ width }}>
              <span className="load-who">
                Who
                <span className="load-walk">
                  <button type="button" className="chip" aria-label="Zoom out" disabled={zoom === 0} onClick={() => setZoom(zoom - 1)}>
                    −
                  </button>
                  <button type="button" className="chip" aria-label="Zoom in" disabled={zoom === zooms.length - 1} onClick={() => setZoom(zoom + 1)}>
                    +
                  </button>
                </span>
              </span>
              {headsOf(first, days, kind).map(({ t, before }) => (
                <span key={t} className="load-head people-head" style={{ left: x(t) }}>
                  <b>{overName(kind, t, before)}</b>
                  <span>{shortName(kind, t)}</span>
                </span>
              ))}
            </div>
            {down.getVirtualItems().map((r) => {
              const p = rows[r.index]!;
              return (
                <PersonLine
                  key={p.resourceId}
                  person={p}
                  top={r.start}
                  height={r.size}
                  width={width}
                  ppd={ppd}
                  first={first}
                  seen={seen}
                  target={grab?.moved === true && grab.over === p.resourceId}
                  chosen={chosen?.row.resourceId === p.resourceId ? chosen.bar.assignmentId : null}
                  onChoose={choose}
                  onGrab={setGrab}
                />
              );
            })}
            {dataDate !== null && <i className="people-now" style={{ left: x(dataDate) }} />}
          </div>
        </div>
        {grab?.moved && (
          <div className="people-ghost" style={{ left: grab.x + 12, top: grab.y + 8 }}>
            {grab.bar.label} {grab.over !== null && grab.over !== grab.from ? `to ${session.doc.resources.get(grab.over)?.name ?? ''}` : ''}
          </div>
        )}
        {told && told.more > 0 && <p className="muted">and {told.more} more, who are seen as cells</p>}
      </div>
      <aside className="load-side" aria-label="What is chosen">
        {chosen ? (
          <Chosen key={chosen.bar.assignmentId} bar={chosen.bar} row={chosen.row} onAsk={(to) => setAsked({ bar: chosen.bar, to })} />
        ) : (
          <>
            <p className="muted">Choose a bar to see who could take it, or drag it to another row: what that does to both is shown first.</p>
            <ul className="people-legend">
              {(['room', 'full', 'over', 'free', 'off'] as const).map((s) => (
                <li key={s}>
                  <i className={`people-day is-${s}`} /> {stateWords[s]}
                </li>
              ))}
            </ul>
          </>
        )}
      </aside>
      {asked && <Ask bar={asked.bar} to={asked.to} onClose={() => (setAsked(null), setChosen(null))} />}
    </div>
  );
}

/** Beginnings of weeks or months, as far apart as their names need. */
function headsOf(first: number, days: number, kind: 'week' | 'month'): { t: number; before: number | undefined }[] {
  const out: { t: number; before: number | undefined }[] = [];
  let before: number | undefined;
  for (let d = first; d < first + days; d++) {
    const date = new Date(d * 86_400_000);
    if (kind === 'week' ? date.getUTCDay() !== 1 : date.getUTCDate() !== 1) continue;
    out.push({ t: d * MINUTES_PER_DAY, before });
    before = d * MINUTES_PER_DAY;
  }
  return out;
}

/** Days that stand alike, one after the other; free ones are left empty. */
function stripOf(days: readonly DayState[]): { from: number; days: number; state: DayState }[] {
  const out: { from: number; days: number; state: DayState }[] = [];
  days.forEach((state, n) => {
    const last = out[out.length - 1];
    if (last && last.state === state && last.from + last.days === n) last.days++;
    else out.push({ from: n, days: 1, state });
  });
  return out.filter((s) => s.state !== 'free');
}

/** A bar, and who could take it over. */
function Chosen({ bar, row, onAsk }: { bar: WorkBar; row: PersonRow; onAsk: (to: string) => void }) {
  const session = useSession();
  const navigate = useNavigate();
  const [list, setList] = useState<Candidate[] | null>(null);
  useEffect(() => {
    let gone = false;
    const wanted = { activityId: bar.activityId, units: bar.units / 1000, assignmentId: bar.assignmentId };
    void (async () => {
      // Those of the same role; where there are none, all, by the room that they have.
      const roleId = session.doc.resources.get(row.resourceId)?.roleId ?? null;
      for (const role of roleId === null ? [null] : [roleId, null]) {
        const found = (await session.worker.candidates({ ...wanted, roleId: role })).filter((c) => c.resourceId !== row.resourceId);
        if (gone) return;
        setList(found);
        if (found.length > 0) return;
      }
    })();
    return () => {
      gone = true;
    };
  }, [session, bar, row]);
  return (
    <>
      <h2>{bar.label}</h2>
      <p>
        {row.name}, {unitsText(bar.units)}, to {finishText(bar.to)}.
      </p>
      <button type="button" className="chip" onClick={() => void navigate(`/p/${session.id}/plan`, { state: { reveal: bar.activityId } })}>
        Show in Plan
      </button>
      <h3>Who could take it</h3>
      {list === null && <p className="muted">Looking</p>}
      {list?.length === 0 && <p className="muted">There is nobody else.</p>}
      <ul className="load-asks">
        {list?.slice(0, 10).map((c) => (
          <li key={c.resourceId}>
            <span>{c.name}</span>
            <span className={c.over ? 'critical-text' : 'muted'}>
              {c.there === 0 ? 'away' : c.over ? 'over the limit with it' : `${tenths(hoursOf(c.room))} of ${tenths(hoursOf(c.there))} h free`}
            </span>
            <button type="button" className="chip" disabled={bar.done} onClick={() => onAsk(c.resourceId)}>
              Try
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** What giving a bar to somebody else would do to both, before it is done. */
function Ask({ bar, to, onClose }: { bar: WorkBar; to: string; onClose: () => void }) {
  const session = useSession();
  const [told, setTold] = useState<Handover | null>(null);
  useEffect(() => {
    let gone = false;
    void session.worker.handover(bar.assignmentId, to).then((h) => {
      if (!gone) setTold(h);
    });
    return () => {
      gone = true;
    };
  }, [session, bar, to]);
  const name = session.doc.resources.get(to)?.name ?? '';
  const over = (o: { over: number; peak: number }): string => (o.over === 0 ? 'never over' : `${tenths(hoursOf(o.over))} h over, up to ${unitsText(o.peak)}`);
  return (
    <Modal opened onClose={onClose} title={`Give ${bar.label} to ${name}`} size="lg">
      {told === null ? (
        <p className="muted">Computing</p>
      ) : told.refusal !== null ? (
        <p className="critical-text" role="alert">
          {told.refusal}
        </p>
      ) : (
        <>
          <table className="table">
            <thead>
              <tr>
                <th>Who</th>
                <th>Before</th>
                <th>After</th>
              </tr>
            </thead>
            <tbody>
              {told.both.map((b) => (
                <tr key={b.name}>
                  <td>{b.name}</td>
                  <td>{over(b.before)}</td>
                  <td className={b.after.over > b.before.over ? 'critical-text' : ''}>{over(b.after)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p>
            {told.finish[0] === told.finish[1] ? 'Its finish holds' : `Its finish: ${finishText(told.finish[0])}, then ${finishText(told.finish[1])}`};{' '}
            {told.projectFinish[0] === told.projectFinish[1]
              ? 'the project’s finish holds.'
              : `the project’s: ${finishText(told.projectFinish[0])}, then ${finishText(told.projectFinish[1])}.`}
          </p>
        </>
      )}
      <div className="update-actions">
        <button
          type="button"
          className="dark-button"
          data-autofocus
          disabled={told?.refusal !== null}
          onClick={() => session.run(reassign(session.doc, [bar.assignmentId], { resourceId: to, roleId: null })) && onClose()}
        >
          Take over
        </button>
        <button type="button" className="light-button" onClick={onClose}>
          Leave as it is
        </button>
      </div>
    </Modal>
  );
}

interface PersonProps {
  person: PersonRow;
  top: number;
  height: number;
  width: number;
  /** Pixels of a day, and the first day that is drawn. */
  ppd: number;
  first: number;
  /** Which step of the width is seen. */
  seen: number;
  target: boolean;
  chosen: string | null;
  onChoose: (bar: WorkBar, row: PersonRow) => void;
  onGrab: (grab: Grab) => void;
}

/** One row of people on time: of its bars and days those near what is seen. */
const PersonLine = memo(function PersonLine({ person: p, top, height, width, ppd, first, seen, target, chosen, onChoose, onGrab }: PersonProps) {
  const strip = useMemo(() => stripOf(p.days), [p.days]);
  const x = (t: number): number => LEFT + (t / MINUTES_PER_DAY - first) * ppd;
  const [from, to] = [(seen - 1) * STEP, (seen + 2) * STEP + MOST_SEEN];
  const near = (left: number, right: number): boolean => right >= from && left <= to;
  return (
    <div className={`people-row${target ? ' target' : ''}`} style={{ top, height, width }} role="group" aria-label={p.name}>
      <span className="load-who">
        <span className="load-name">{p.name}</span>
        <span className="muted">{p.group}</span>
      </span>
      {p.bars
        .filter((b) => near(x(b.from), x(b.to)))
        .map((b) => (
          <button
            key={b.assignmentId}
            type="button"
            className={`people-bar${b.done ? ' done' : ''}${b.critical && !b.done ? ' critical' : ''}${chosen === b.assignmentId ? ' on' : ''}`}
            style={{ left: x(b.from), width: Math.max(4, x(b.to) - x(b.from)), top: 4 + b.stack * BAR }}
            title={`${b.label}: ${unitsText(b.units)}, to ${finishText(b.to)}`}
            aria-label={`${b.label}, ${unitsText(b.units)}`}
            onClick={() => onChoose(b, p)}
            onPointerDown={(e) => {
              if (b.done || e.button !== 0) return;
              onGrab({ bar: b, from: p.resourceId, x: e.clientX, y: e.clientY, over: p.resourceId, moved: false });
            }}
          >
            <span>{b.label}</span>
          </button>
        ))}
      {strip
        .filter((s) => near(LEFT + s.from * ppd, LEFT + (s.from + s.days) * ppd))
        .map((s) => (
          <i
            key={s.from}
            className={`people-day is-${s.state}`}
            style={{ left: LEFT + s.from * ppd, width: s.days * ppd }}
            title={`${showDay(first + s.from)}${s.days > 1 ? ` to ${showDay(first + s.from + s.days - 1)}` : ''}: ${stateWords[s.state]}`}
          />
        ))}
    </div>
  );
});
