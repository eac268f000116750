import './compare.css';
import { Select } from '@mantine/core';
import { useElementSize } from '@mantine/hooks';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { Comparison, CompareRow } from '@yellowhammer/core/compare/compare';
import { type Document, ordered, projectOf } from '@yellowhammer/core/model/document';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import { downloadCsv } from '../app/csv';
import { durationText, finishText, longDate, longFinish, signedDays, startText } from '../app/format';
import { useDoc, useSession, useTopic } from '../project/hooks';
import { Ruler } from '../plan/Timeline';
import { type Scale, xOf } from '../plan/scale';

type Key = 'outline' | 'start' | 'finish' | 'duration' | 'float' | 'percent';
const NOW = 'now';
const ROW = 27;

const kinds = { baseline: 'baseline', restorePoint: 'restore point', statusUpdate: 'status update' } as const;
const options = (doc: Document): { value: string; label: string }[] =>
  ordered(doc, 'snapshots').map((s) => ({ value: s.id, label: `${s.name} (${kinds[s.kind]}${s.dataDate ? `, data date ${longDate(s.dataDate)}` : ''})` }));

/** Two states of the plan side by side: by default only what changed, sorted by what it did to the finish. */
export function ComparePage() {
  const session = useSession();
  const { doc } = useDoc();
  const viewVersion = useTopic('view');
  useTopic('sync');
  const navigate = useNavigate();
  const project = projectOf(doc);
  const location = useLocation();
  // Points of the history that were chosen there: they are kept beside the window, and are gone with it.
  const [points, setPoints] = useState(() => (location.state as { points?: { value: string; label: string }[] } | null)?.points ?? []);
  const list = [...points, ...options(doc)];
  const [before, setBefore] = useState<string | null>(points[0]?.value ?? null);
  const [after, setAfter] = useState<string>(points[1]?.value ?? NOW);
  const known = (id: string): boolean => list.some((o) => o.value === id);
  const first = before && known(before) ? before : (project.baselineId ?? list[0]?.value ?? null);
  const second = after === NOW || known(after) ? after : NOW;
  useEffect(() => {
    void Promise.all(points.map((p) => session.worker.hasCopy(p.value))).then((there) => there.includes(false) && setPoints([]));
    // Once: they are there when the page is opened, or not at all.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const [result, setResult] = useState<Comparison | null>(null);
  const [all, setAll] = useState(false);
  const [sort, setSort] = useState<{ key: Key; down: boolean }>({ key: 'finish', down: true });
  const [cursor, setCursor] = useState(0);
  const settled = session.sync.state === 'saved';
  useEffect(() => {
    if (!first || !settled) return;
    let gone = false;
    void (async () => {
      for (const id of [first, second]) if (id !== NOW && doc.snapshots.has(id)) await session.computing.needCopy(id);
      const c = await session.worker.compare(first, second === NOW ? null : second);
      if (!gone) setResult(c);
    })();
    return () => {
      gone = true;
    };
  }, [session, doc, first, second, viewVersion, settled]);
  const rows = useMemo(() => {
    const r = (result?.rows ?? []).filter((x) => all || x.change !== 'same');
    if (sort.key === 'outline') return r;
    const key = sort.key;
    const value = (x: CompareRow): number => x[key];
    return [...r].sort((a, b) => (sort.down ? value(b) - value(a) : value(a) - value(b)));
  }, [result, all, sort]);
  const scroller = useRef<HTMLDivElement>(null);
  const { ref, width } = useElementSize();
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12 });
  const scale = useMemo<Scale>(() => {
    const at = rows.flatMap((r) => [r.before, r.after].flatMap((s) => (s ? [s.start, s.finish] : [])));
    const low = at.length ? at.reduce((a, b) => Math.min(a, b)) : 0;
    const high = at.length ? at.reduce((a, b) => Math.max(a, b)) : MINUTES_PER_DAY;
    return { from: low - (high - low) * 0.02, width: Math.max(width, 1), ppm: Math.max(width, 1) / Math.max((high - low) * 1.06, MINUTES_PER_DAY) };
  }, [rows, width]);
  if (!first)
    return (
      <div className="page-empty">
        <h2>Nothing to compare with yet</h2>
        <p>Keep a baseline in the project settings (a click on the project’s name), or make a status update. Then this place shows what moved, and by how much.</p>
      </div>
    );
  const names = (id: string): string => (id === NOW ? 'Now' : (points.find((p) => p.value === id)?.label ?? doc.snapshots.get(id)?.name ?? ''));
  const head = (key: Key, title: string, right = true) => (
    <span role="columnheader" className="cmp-head-cell">
      <button
        type="button"
        className={`plain-button cmp-head${right ? ' right' : ''}`}
        title={`Sort by ${title.toLowerCase()}`}
        onClick={() => setSort((s) => ({ key, down: s.key === key ? !s.down : true }))}
      >
        {title}
        {sort.key === key && key !== 'outline' ? (sort.down ? ' ▾' : ' ▴') : ''}
      </button>
    </span>
  );
  const csv = (): void =>
    downloadCsv(
      `${project.code} ${names(first)} and ${names(second)}`,
      [
        'No.',
        'Name',
        'What',
        `${names(first)} start`,
        `${names(first)} finish`,
        `${names(second)} start`,
        `${names(second)} finish`,
        'Start moved (working days)',
        'Finish moved',
        'Duration',
        'Float',
        'Percent',
      ],
      rows.map((r) => [
        r.code,
        r.name,
        r.change,
        r.before ? startText(r.before.start) : '',
        r.before ? finishText(r.before.finish) : '',
        r.after ? startText(r.after.start) : '',
        r.after ? finishText(r.after.finish) : '',
        r.start,
        r.finish,
        r.duration,
        r.float,
        r.percent,
      ]),
    );
  const dataDate = project.dataDate === null ? undefined : parseInstant(project.dataDate);
  const open = (r: CompareRow | undefined): void => {
    if (r?.kind === 'activity' && r.after && second === NOW) void navigate(`/p/${session.id}/plan`, { state: { reveal: r.id } });
  };
  return (
    <div className="compare">
      <div className="compare-top">
        <div className="compare-names">
          <Select aria-label="Compare this" data={list} value={first} onChange={(v) => v && setBefore(v)} w={310} />
          <b className="serif">and</b>
          <Select aria-label="with this" data={[{ value: NOW, label: 'Now' }, ...list]} value={second} onChange={(v) => v && setAfter(v)} w={220} />
        </div>
        {result && (
          <p className="compare-sentence">
            The finish {result.finishMoved === 0 ? 'did not move' : <b className={result.finishMoved > 0 ? 'critical-text' : ''}>moved {signedDays(result.finishMoved)}</b>}:{' '}
            {longFinish(result.before)}
            {result.before === result.after ? '' : ` to ${longFinish(result.after)}`}. {result.changed} of {result.total} activities changed; {result.added} were added,{' '}
            {result.removed} left out.
          </p>
        )}
      </div>
      <div
        className="compare-grid"
        role="grid"
        aria-label="What changed"
        aria-rowcount={rows.length}
        tabIndex={0}
        onKeyDown={(e) => {
          const step = e.key === 'j' || e.key === 'ArrowDown' ? 1 : e.key === 'k' || e.key === 'ArrowUp' ? -1 : 0;
          if (step) {
            e.preventDefault();
            const next = Math.max(0, Math.min(rows.length - 1, cursor + step));
            setCursor(next);
            virtual.scrollToIndex(next);
          } else if (e.key === 'Enter') open(rows[cursor]);
        }}
      >
        <div className="compare-row compare-heads" role="row">
          <span role="columnheader" aria-label="Number" />
          {head('outline', 'What changed', false)}
          <span role="columnheader" className="right muted">
            {names(first)}
          </span>
          <span role="columnheader" className="right muted">
            {names(second)}
          </span>
          {head('start', 'Start')}
          {head('finish', 'Finish')}
          {head('duration', 'Duration')}
          {head('float', 'Float')}
          {head('percent', 'Done')}
          <div ref={ref} className="compare-time" role="columnheader" aria-label="Before and after on one scale">
            {width > 0 && <Ruler scale={scale} dataDate={dataDate} label={longDate(project.dataDate)} />}
          </div>
        </div>
        <div ref={scroller} className="compare-scroll" role="rowgroup" tabIndex={0} aria-label="Rows">
          <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {virtual.getVirtualItems().map((item) => {
              const r = rows[item.index]!;
              return (
                <div
                  key={`${r.kind} ${r.id}`}
                  role="row"
                  aria-rowindex={item.index + 1}
                  aria-selected={item.index === cursor}
                  className={`compare-row${item.index === cursor ? ' selected' : ''}${r.kind === 'wbs' ? ' wbs' : ''}`}
                  style={{ position: 'absolute', top: item.start, left: 0, right: 0, height: ROW }}
                  onClick={() => setCursor(item.index)}
                  onDoubleClick={() => open(r)}
                >
                  <span role="gridcell" className="muted right small">
                    {r.code}
                  </span>
                  <span role="gridcell" className="cmp-name" title={r.name} style={{ paddingLeft: sort.key === 'outline' ? r.depth * 10 : 0 }}>
                    {r.name}
                  </span>
                  <span role="gridcell" className="right">
                    {r.before ? finishText(r.before.finish) : ''}
                  </span>
                  <span role="gridcell" className="right">
                    {r.after ? finishText(r.after.finish) : ''}
                  </span>
                  <Delta n={r.start} r={r} />
                  <Delta n={r.finish} r={r} word />
                  <span
                    role="gridcell"
                    className="right"
                    title={r.before && r.after ? `${durationText(r.before.duration, r.before.perDay)} before, ${durationText(r.after.duration, r.after.perDay)} after` : undefined}
                  >
                    {r.duration ? signedDays(r.duration) : ''}
                  </span>
                  <span role="gridcell" className={`right${r.float < 0 ? ' critical-text' : ''}`}>
                    {r.float ? signedDays(r.float) : ''}
                  </span>
                  <span role="gridcell" className="right">
                    {r.percent ? `${r.percent > 0 ? '+' : '−'}${Math.abs(r.percent)}%` : ''}
                  </span>
                  <Pair r={r} scale={scale} />
                </div>
              );
            })}
          </div>
          {result && rows.length === 0 && (
            <p className="page-empty muted">
              Nothing differs between {names(first)} and {names(second)}.
            </p>
          )}
        </div>
      </div>
      <footer className="dock">
        <button type="button" className={`chip${all ? '' : ' on'}`} onClick={() => setAll(!all)}>
          {all ? 'Everything' : 'Only what changed'}
        </button>
        <button type="button" className="chip" onClick={() => setSort(sort.key === 'outline' ? { key: 'finish', down: true } : { key: 'outline', down: true })}>
          {sort.key === 'outline' ? 'In outline order' : `Sorted by ${sort.key}`}
        </button>
        <button type="button" className="chip" onClick={csv}>
          CSV
        </button>
        <span className="muted">
          hollow: {names(first)} · solid: {names(second)} · moves in working days
        </span>
        <span className="dock-right muted">J, K: next, previous · Enter: go there</span>
      </footer>
    </div>
  );
}

function Delta({ n, r, word = false }: { n: number; r: CompareRow; word?: boolean }) {
  if (r.change === 'added' || r.change === 'removed')
    return (
      <span role="gridcell" className="right muted">
        {word ? (r.change === 'added' ? 'added' : 'left out') : ''}
      </span>
    );
  return (
    <span role="gridcell" className={`right${n > 0 ? ' critical-text' : ''}`}>
      {n ? signedDays(n) : ''}
    </span>
  );
}

/** Before hollow, after solid, on one scale. */
function Pair({ r, scale }: { r: CompareRow; scale: Scale }) {
  const x = (t: number): number => xOf(scale, t);
  const b = r.before;
  const a = r.after;
  const point = (s: { start: number; finish: number }): boolean => s.start === s.finish;
  return (
    <svg width={scale.width} height={ROW} aria-hidden="true">
      {b && a && b.finish !== a.finish && <path className="tl-float" d={`M${x(b.finish)} 9H${x(a.finish)}`} />}
      {b &&
        (point(b) ? (
          <path className="cmp-before" d={`M${x(b.finish)} 4l5 5l-5 5l-5 -5Z`} />
        ) : (
          <path className="cmp-before" d={`M${x(b.start)} 11v-5H${Math.max(x(b.finish), x(b.start) + 2)}v5`} />
        ))}
      {a &&
        (point(a) ? (
          <path className={r.critical ? 'cmp-critical' : 'cmp-after'} d={`M${x(a.finish)} 10l6 6l-6 6l-6 -6Z`} />
        ) : (
          <rect
            className={r.kind === 'wbs' ? 'cmp-node' : r.critical ? 'cmp-critical' : 'cmp-after'}
            x={x(a.start)}
            y={r.kind === 'wbs' ? 16 : 13}
            width={Math.max(x(a.finish) - x(a.start), 2)}
            height={r.kind === 'wbs' ? 2 : 8}
            rx={1.5}
          />
        ))}
    </svg>
  );
}
