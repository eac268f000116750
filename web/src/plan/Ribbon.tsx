import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { Popover } from '@mantine/core';
import { memo, useEffect, useMemo, useState } from 'react';
import { needText } from '@yellowhammer/core/cost/table';
import { labelOf, projectOf } from '@yellowhammer/core/model/document';
import { barOf } from '@yellowhammer/core/schedule/bars';
import { onRibbon, type RibbonPiece, ribbonScale } from '@yellowhammer/core/plan/ribbon-scale';
import { State } from '@yellowhammer/core/schedule/network';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import { finishText, signedDays, startText, tenths } from '../app/format';
import { planActions, useAppDispatch, usePlanView } from '../app/store';
import { useDoc, useSession, useTopic } from '../project/hooks';
import type { Moved } from '../project/computing';
import type { PathResult } from '../project/worker';
import { calendarRuns, constraintsOf, gapsOf, lagsOf, pathParts } from '@yellowhammer/core/plan/ribbon-marks';
import type { LinksOf } from './rows';
import { type Scale, xOf } from './scale';

const MOST_PATHS = 8;

const REST_MS = 90;

/** A number and a name cut to some characters: a letter or two of a name say nothing, so then the number stands alone. */
function cutLabel(label: string, most: number): string {
  const number = label.split(' ')[0] ?? '';
  return label.length > most && most < number.length + 5 ? number : label.slice(0, most);
}

/** Pixels of a figure where a number has just room. */
const TIGHT = 5.3;

/** Pixels beside the path on its own scale. */
const EDGE = 8;
/** Pixels of the words before it. */
const WORDS = 268;

/** The path ribbon: what the longest path is made of, on a scale of its own or the timeline's; and what the last edit moved. */
export const Ribbon = memo(function Ribbon({
  scale,
  sheetWidth,
  inspector,
  links,
  onGo,
}: {
  scale: Scale;
  sheetWidth: number;
  inspector: boolean;
  links: LinksOf;
  onGo: (id: string) => void;
}) {
  const session = useSession();
  const { doc } = session;
  const dispatch = useAppDispatch();
  // Paths come after the dates: until then the ribbon shows the last ones with the dates they were found in.
  const viewVersion = useTopic('view');
  const [found, setFound] = useState<{ paths: PathResult[]; view: ScheduleView | null }>({ paths: [], view: null });
  const { paths, view } = found;
  const [to, setTo] = useState<string | null>(null);
  const [which, setWhich] = useState(0);
  const target = to !== null && doc.activities.has(to) ? to : undefined;
  useEffect(() => {
    let gone = false;
    const { view: now } = session;
    // Once edits rest: a search for paths would hold up the dates of the next one.
    const timer = setTimeout(() => void session.worker.paths(MOST_PATHS, target).then((p) => !gone && setFound({ paths: p, view: now })), REST_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [session, viewVersion, target]);
  const chosen = which < paths.length ? which : 0;
  const next = paths[1]?.slackDays ?? null;
  const ids = paths[chosen]?.activities;
  const path = useMemo(() => (view && ids ? pathParts(view, ids) : []), [view, ids]);
  const last = path[path.length - 1];
  const end = last && doc.activities.get(last.id);
  const marks = useMemo(() => {
    if (!view || !ids) return { gaps: [], lags: [], runs: [], constraints: new Map<string, string>() };
    return {
      gaps: gapsOf(doc, view, path),
      lags: lagsOf(view, ids, (id) => links.outOf.get(id) ?? []),
      runs: calendarRuns(doc, view, path),
      constraints: constraintsOf(doc, path),
    };
    // The document is one object that changes: its version tells.
  }, [path, ids, doc, view, links]);
  const { gaps } = marks;
  const { ribbonOwn } = usePlanView();
  // On its own scale it need not begin where the timeline does.
  const words = ribbonOwn ? Math.min(sheetWidth, WORDS) : sheetWidth;
  const width = scale.width + sheetWidth - words;
  const bars = useMemo(
    () =>
      path.map(({ id }) => {
        // Paths come after the dates: what one names may be deleted by now.
        const a = doc.activities.get(id);
        return (a && view && barOf(doc, view, a)?.pieces) ?? [];
      }),
    [doc, view, path],
  );
  const own = useMemo(() => {
    if (!ribbonOwn || !view) return null;
    const pieces = path.flatMap(({ id, i }, part): RibbonPiece[] =>
      doc.activities.get(id)?.type === 'margin' || !bars[part]?.length
        ? [{ part, from: view.start[i]!, to: view.finish[i]!, done: view.state[i] === State.finished }]
        : (bars[part] ?? []).map((p) => ({ part, from: p.from, to: p.to, done: p.done })),
    );
    return ribbonScale(pieces, Math.max(40, width - 2 * EDGE));
  }, [ribbonOwn, view, path, bars, doc, width]);
  const summary = [
    `${path.length} ${path.length === 1 ? 'activity' : 'activities'}`,
    gaps.length > 0 ? `${gaps.reduce((n, g) => n + Math.round((g.to - g.from) / MINUTES_PER_DAY), 0)} days without work on it` : '',
    next !== null && next > 0 ? `next path ${tenths(next)} d behind` : '',
  ]
    .filter(Boolean)
    .join(' · ');
  const xAt = (t: number): number => (own ? EDGE + onRibbon(own, t) : xOf(scale, t));
  const dataDate = parseInstant(projectOf(doc).dataDate ?? '');
  return (
    <div className="ribbon" role="region" aria-label="Path ribbon: the longest path">
      <div className="ribbon-words" style={{ width: words }} title={words < sheetWidth ? summary : undefined}>
        <Popover width={330} position="bottom-start" shadow="md">
          <Popover.Target>
            <button type="button" className="plain-button ribbon-title serif" title="Choose another end, or another path">
              {chosen > 0 ? `Path ${chosen + 1} to ` : 'Longest path to '}
              {target ? doc.activities.get(target)?.name : chosen === 0 && end ? end.name || end.code : 'the finish'} ▾
            </button>
          </Popover.Target>
          <Popover.Dropdown>
            <label className="task-check">
              <input type="checkbox" checked={ribbonOwn} onChange={() => dispatch(planActions.set({ ribbonOwn: !ribbonOwn }))} />
              on a scale of its own: what is done or stopped is pressed together
            </label>
            <PathChoice paths={paths} chosen={chosen} to={to} onTo={(id) => (setTo(id), setWhich(0))} onWhich={setWhich} />
          </Popover.Dropdown>
        </Popover>
        <div className="muted">{summary}</div>
      </div>
      <div className="ribbon-track">
        <svg width={width} height={46}>
          {gaps.map((g, n) => {
            const a = xAt(g.from);
            const b = xAt(g.to);
            const text = b - a > g.text.length * 5.6 ? g.text : `${Math.round((g.to - g.from) / MINUTES_PER_DAY)} d`;
            return (
              <g key={n}>
                <path className="ribbon-gap" d={`M${a} 21H${b}`} />
                <title>{g.text}</title>
                {b - a > text.length * 5.6 - 4 && (
                  <text className="ribbon-reason" x={(a + b) / 2} y={14} textAnchor="middle">
                    {text}
                  </text>
                )}
              </g>
            );
          })}
          {marks.runs.map((r, n) => {
            const x1 = xAt(r.from);
            const x2 = xAt(r.to);
            return (
              <g key={n} className="ribbon-calendar">
                <title>{`On ${r.text}`}</title>
                <path d={`M${x1 + 0.5} 31V34H${x2 - 1.5}V31`} />
                {x2 - x1 > r.text.length * 5.4 && (
                  <text x={Math.max(x1, 0) + 4} y={43}>
                    {r.text}
                  </text>
                )}
              </g>
            );
          })}
          {view &&
            path.map(({ id, i }, part) => {
              const a = doc.activities.get(id);
              const x1 = xAt(view.start[i]!);
              const x2 = xAt(view.finish[i]!);
              if (!a || x2 < -20 || x1 > width) return null;
              const margin = a.type === 'margin';
              const label = labelOf(a);
              const pieces = margin ? [] : (bars[part] ?? []);
              // Its name stands where it has most room: on its longest stretch in view.
              const wide = pieces.reduce<[number, number]>(
                (best, p) => (xAt(p.to) - Math.max(xAt(p.from), 0) > best[1] - best[0] ? [Math.max(xAt(p.from), 0), xAt(p.to)] : best),
                pieces.length ? [0, 0] : [Math.max(x1, 0), x2],
              );
              // What begins before it ends lies over it.
              const next = path[part + 1];
              const over = next && view.start[next.i]! > view.start[i]! ? xAt(view.start[next.i]!) : Infinity;
              const room = Math.min(wide[1], over) - wide[0];
              const tight = room < a.code.length * 6.4 + 8;
              const told = [label, `${startText(view.start[i]!)} to ${finishText(view.finish[i]!)}`, marks.constraints.get(id)].filter(Boolean).join(', ');
              return (
                <g
                  key={id}
                  className="ribbon-part"
                  onClick={() => onGo(id)}
                  role="button"
                  tabIndex={0}
                  aria-label={`Go to ${told}`}
                  onKeyDown={(e) => e.key === 'Enter' && onGo(id)}
                >
                  <title>{told}</title>
                  {x2 - x1 < 2 ? (
                    <path className="ribbon-work" d={`M${x1} 15l5 6l-5 6l-5 -6Z`} />
                  ) : (
                    <>
                      {margin && <rect className="ribbon-margin" x={x1} y={13} width={Math.max(x2 - x1 - 1, 1)} height={16} rx={1} />}
                      {pieces.map((piece, n) => (
                        <rect
                          key={n}
                          className={piece.done ? 'ribbon-done' : 'ribbon-work'}
                          x={xAt(piece.from)}
                          y={13}
                          width={Math.max(xAt(piece.to) - xAt(piece.from) - 1, 1)}
                          height={16}
                          rx={1}
                        />
                      ))}
                      {room >= a.code.length * TIGHT + 1 && (
                        <text
                          className={`ribbon-name${margin ? ' ink' : ''}${tight ? ' tight' : ''}`}
                          x={tight ? (wide[0] + Math.min(wide[1], over)) / 2 : wide[0] + 4}
                          y={25}
                          textAnchor={tight ? 'middle' : undefined}
                          aria-hidden="true"
                        >
                          {tight ? a.code : cutLabel(label, Math.max(3, Math.floor((room - 8) / 6.4)))}
                        </text>
                      )}
                    </>
                  )}
                  {marks.constraints.has(id) && <path className="ribbon-constraint" d={`M${x1} 12h9l-9 9Z`} />}
                </g>
              );
            })}
          {own && dataDate !== undefined && dataDate > own.at[0]! && <rect className="ruler-flag" x={xAt(dataDate) - 1} y={4} width={2} height={32} />}
          {marks.lags.map((l, n) => {
            const x1 = xAt(l.from);
            const width = Math.max(3, xAt(l.to) - x1);
            return (
              <g key={n} className="ribbon-lag">
                <title>{`Lag ${l.text}`}</title>
                <path d={`M${x1} 14v-2.5h${width}v2.5`} />
                {(n === 0 || x1 - xAt(marks.lags[n - 1]!.from) > 24) && (
                  <text x={x1 + width / 2} y={10} textAnchor="middle">
                    {l.text}
                  </text>
                )}
              </g>
            );
          })}
        </svg>
      </div>
      {inspector && <LastMove onGo={onGo} />}
    </div>
  );
});

/** The end that a path leads to, and the paths by how far they are behind the longest. */
function PathChoice({
  paths,
  chosen,
  to,
  onTo,
  onWhich,
}: {
  paths: PathResult[];
  chosen: number;
  to: string | null;
  onTo: (id: string | null) => void;
  onWhich: (n: number) => void;
}) {
  const { doc } = useDoc();
  const ends = [...doc.activities.values()].filter(isMilestone).slice(0, 300);
  return (
    <div className="form-stack">
      <label className="path-end">
        Ends at{' '}
        <select value={to ?? ''} onChange={(e) => onTo(e.target.value || null)}>
          <option value="">the project finish</option>
          {ends.map((a) => (
            <option key={a.id} value={a.id}>
              {labelOf(a)}
            </option>
          ))}
        </select>
      </label>
      <div role="listbox" aria-label="Paths">
        {paths.map((p, n) => (
          <button key={n} type="button" role="option" aria-selected={n === chosen} className={`plain-button path-option${n === chosen ? ' on' : ''}`} onClick={() => onWhich(n)}>
            <span>{n === 0 ? 'The longest path' : `Path ${n + 1}, ${tenths(p.slackDays)} d behind`}</span>
            <span className="muted">
              {p.activities.length} {p.activities.length === 1 ? 'activity' : 'activities'}
            </span>
          </button>
        ))}
        {paths.length === 0 && <p className="muted">No unfinished work leads there.</p>}
      </div>
    </div>
  );
}

/** What the last recompute moved, listed on request, with a way to undo just that. */
function LastMove({ onGo }: { onGo: (id: string) => void }) {
  const session = useSession();
  useTopic('moved');
  const moved = session.moved;
  if (!moved) return <div className="ribbon-moved muted">Nothing moved yet</div>;
  return (
    <div className="ribbon-moved" role="status">
      <Popover width={320} position="bottom-end" shadow="md">
        <Popover.Target>
          <button type="button" className="plain-button moved-button">
            <span className="muted moved-label">{moved.label}</span>
            <b className={moved.later ? 'critical-text' : ''}>
              {moved.count} moved{moved.finishDays !== 0 ? `, finish ${signedDays(moved.finishDays)}` : ', finish holds'}
            </b>
          </button>
        </Popover.Target>
        <Popover.Dropdown>
          <MovedList moved={moved} onGo={onGo} />
        </Popover.Dropdown>
      </Popover>
    </div>
  );
}

function MovedList({ moved, onGo }: { moved: Moved; onGo: (id: string) => void }) {
  const session = useSession();
  useTopic('history');
  const undoable = moved.changeId !== null && session.undoStack[session.undoStack.length - 1]?.changeId === moved.changeId;
  return (
    <>
      <p>Because of: {moved.label}. Working days.</p>
      <div className="moved-list">
        {moved.rows.slice(0, 100).map((r) => {
          const a = session.doc.activities.get(r.id);
          return a ? (
            <div key={r.id} className="moved-row">
              <button type="button" className="link-button link-name" onClick={() => onGo(r.id)}>
                {labelOf(a)}
              </button>
              <span>{finishText(r.to)}</span>
              <span className={r.to > r.from ? 'critical-text' : 'muted'}>{signedDays(r.days)}</span>
            </div>
          ) : null;
        })}
      </div>
      {moved.count > 100 && <p className="muted">and {moved.count - 100} more</p>}
      {moved.need && <p className="moved-need">{needText(moved.need.before, moved.need.after)}</p>}
      {undoable && (
        <button type="button" className="link-button" onClick={() => session.undo()}>
          Undo just that
        </button>
      )}
    </>
  );
}
