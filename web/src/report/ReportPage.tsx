import './report.css';
import { Checkbox, NumberInput, Select, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { fieldsOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import { projectOf } from '@yellowhammer/core/model/document';
import type { Problem } from '@yellowhammer/core/model/problem';
import { reportColumns } from '@yellowhammer/core/report/plan-table';
import { inkOf, type Page, type Shape } from '@yellowhammer/core/report/scene';
import { usePlan } from '../app/store';
import { allViews, settingsNow } from '../plan/view/settings';
import { GraphOptions } from '../plan/GraphOptions';
import { call, personName } from '../project/api';
import { useDoc, useSession, useTopic } from '../project/hooks';
import { pictureAddress } from '../project/api';

/** Columns that are offered first; the others of the list of fields stand behind them. */
function columnNamesOf(doc: Document): [string, string][] {
  const fields = fieldsOf(doc);
  const named = (keys: readonly string[]): [string, string][] => keys.flatMap((k): [string, string][] => (fields.has(k) ? [[k, fields.get(k)?.title ?? k]] : []));
  return [...named(reportColumns), ...named([...fields.keys()].filter((k) => !reportColumns.includes(k)))];
}

interface Settings {
  paper: string;
  landscape: string;
  title: string;
  subtitle: string;
  columns: string[];
  depth: number;
  rows: string;
  legend: boolean;
  project: boolean;
  baseline: boolean;
  /** Id of the view that is printed; `now`: as Plan shows it; empty: what is set here. */
  view: string;
  /** What is drawn under the plan; empty: nothing. */
  graph: string;
}

const usual: Settings = {
  paper: 'a3',
  landscape: '1',
  title: '',
  subtitle: '',
  columns: ['code', 'name', 'duration', 'start', 'finish', 'float'],
  depth: 0,
  rows: 'all',
  legend: true,
  project: false,
  baseline: true,
  view: '',
  graph: '',
};

function remembered(key: string): Settings {
  try {
    const kept = { ...usual, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Settings>) };
    return { ...kept, columns: kept.columns.length ? kept.columns : usual.columns };
  } catch {
    return usual;
  }
}

/** A desk with the sheet of paper in the middle and its settings at the right. What is shown is what is printed. */
export function ReportPage() {
  const session = useSession();
  const { doc, version } = useDoc();
  useTopic('sync');
  const ui = usePlan();
  const views = allViews(doc);
  const columnNames = columnNamesOf(doc);
  const key = `yellowhammer.report.${session.id}`;
  const [s, setS] = useState(() => remembered(key));
  const [report, setReport] = useState<{ query: string; count: number; leftOut: string[]; pages: Map<number, Page> } | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [at, setAt] = useState(0);
  const set = (part: Partial<Settings>): void => {
    const next = { ...s, ...part };
    setS(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  const query = useMemo(() => {
    const q = new URLSearchParams();
    for (const [k, v] of Object.entries(s)) if (k !== 'view') q.set(k, typeof v === 'boolean' ? (v ? '1' : '0') : Array.isArray(v) ? v.join(',') : String(v));
    // A view goes along whole: it may be one of this browser alone.
    const settings = s.view === 'now' ? settingsNow(ui) : views.find((v) => v.id === s.view)?.settings;
    if (settings) q.set('view', JSON.stringify(settings));
    if (settings?.quick.includes('mine')) q.set('me', personName());
    return q.toString();
    // The version says when a view of the project has changed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [s, ui, version]);
  const [settled] = useDebouncedValue(query, 250);
  const saved = session.sync.state === 'saved';
  const revision = session.synced.revision;
  // Only the pages that are looked at are asked for: the one in the middle, and those of the strip that come into view.
  const asked = useRef(new Set<string>());
  const fetchPages = useCallback(
    async (query: string, first: number): Promise<void> => {
      const key = `${query} ${revision} ${first}`;
      if (asked.current.has(key)) return;
      asked.current.add(key);
      const reply = await call<PagesReply>('GET', `/projects/${session.id}/report?${query}&from=${first}&to=${first + CHUNK}`);
      if (!reply.ok) {
        asked.current.delete(key);
        setProblems(reply.problems);
        setReport(null);
        return;
      }
      setProblems([]);
      setReport((r) => {
        const pages = r?.query === query ? new Map(r.pages) : new Map<number, Page>();
        reply.value.pages.forEach((p, i) => pages.set(reply.value.from + i, p));
        return { query, count: reply.value.count, leftOut: reply.value.leftOut, pages };
      });
      setAt((n) => Math.min(n, reply.value.count - 1));
    },
    [session, revision],
  );
  useEffect(() => {
    if (!saved) return;
    asked.current.clear();
    setReport((r) => r && { ...r, query: '' });
    void fetchPages(settled, 0);
  }, [settled, saved, fetchPages]);
  useEffect(() => {
    if (report && report.query === settled && !report.pages.has(at)) void fetchPages(settled, Math.floor(at / CHUNK) * CHUNK);
  }, [at, report, settled, fetchPages]);
  const page = report?.pages.get(at);
  const project = projectOf(doc);
  return (
    <div className="report">
      <div className="desk">
        {problems.map((p) => (
          <p key={p.code} role="alert" className="critical-text">
            {p.message}
          </p>
        ))}
        {page && <Sheet page={page} />}
        {report && report.count > 1 && (
          <Strip count={report.count} pages={report.pages} at={at} onAt={setAt} onNeed={(n) => void fetchPages(settled, Math.floor(n / CHUNK) * CHUNK)} />
        )}
      </div>
      <aside className="inspector form-stack report-settings" aria-label="Report settings">
        <h2>The plan on paper</h2>
        <Printing path={`/projects/${session.id}/printing?${query}`} pages={report?.count ?? 0} />
        {report && report.leftOut.length > 0 && (
          <p role="status" className="critical-text">
            The paper has no room for {report.leftOut.join(', ')}. Choose a larger or a landscape paper, or fewer columns; the CSV has them all.
          </p>
        )}
        <a className="light-button as-button" href={`/api/projects/${session.id}/report.csv?${query}`} download>
          The same table as CSV
        </a>
        <TextInput label="Title" placeholder={project.name} value={s.title} onChange={(e) => set({ title: e.currentTarget.value })} />
        <TextInput label="Line below" placeholder="Issued for the site meeting" value={s.subtitle} onChange={(e) => set({ subtitle: e.currentTarget.value })} />
        <Select
          label="Paper"
          value={`${s.paper} ${s.landscape}`}
          data={['a3 1', 'a3 0', 'a4 1', 'a4 0', 'letter 1', 'letter 0'].map((v) => ({
            value: v,
            label: `${v[0] === 'l' ? 'Letter' : v.slice(0, 2).toUpperCase()}, ${v.endsWith('1') ? 'landscape' : 'portrait'}`,
          }))}
          onChange={(v) => v && set({ paper: v.split(' ')[0], landscape: v.split(' ')[1] })}
        />
        <Select
          label="Seen as"
          value={s.view}
          data={[{ value: '', label: 'what is set below' }, { value: 'now', label: 'as Plan shows it now' }, ...views.map((v) => ({ value: v.id, label: v.name }))]}
          onChange={(v) => v !== null && set({ view: v })}
        />
        {s.view === '' && (
          <Select
            label="Rows"
            value={s.rows}
            data={[
              { value: 'all', label: 'All' },
              { value: 'critical', label: 'Critical activities' },
              { value: 'milestones', label: 'Milestones' },
            ]}
            onChange={(v) => v && set({ rows: v })}
          />
        )}
        {s.view === '' && s.rows === 'all' && (
          <NumberInput label="Outline depth (0: all)" size="sm" min={0} max={9} value={s.depth} onChange={(v) => set({ depth: Math.max(0, Math.min(9, Number(v) || 0)) })} />
        )}
        {s.view === '' && (
          <fieldset className="plain-fieldset">
            <legend>Columns</legend>
            {columnNames.map(([k, name]) => (
              <Checkbox
                key={k}
                size="xs"
                label={name}
                checked={s.columns.includes(k)}
                disabled={k === 'name'}
                onChange={(e) => set({ columns: columnNames.map(([c]) => c).filter((c) => (c === k ? e.currentTarget.checked : s.columns.includes(c))) })}
              />
            ))}
          </fieldset>
        )}
        {s.view !== '' && <p className="muted">Columns, rows, groups, colours and time are those of the view. Change them in Plan.</p>}
        {s.view === '' && <Checkbox size="xs" label="A row for the whole project" checked={s.project} onChange={(e) => set({ project: e.currentTarget.checked })} />}
        <label className="report-graph">
          <span>Graph under the plan</span>
          <select value={s.graph} onChange={(e) => set({ graph: e.target.value })}>
            <option value="">none</option>
            <GraphOptions doc={doc} />
          </select>
        </label>
        <Checkbox size="xs" label="Legend" checked={s.legend} onChange={(e) => set({ legend: e.currentTarget.checked })} />
        <Checkbox size="xs" label="Baseline" checked={s.baseline} onChange={(e) => set({ baseline: e.currentTarget.checked })} />
      </aside>
    </div>
  );
}

const CHUNK = 8;

interface PagesReply {
  count: number;
  from: number;
  pages: Page[];
  leftOut: string[];
}

/** Small pages to choose from; each is fetched when it comes into view. */
function Strip({ count, pages, at, onAt, onNeed }: { count: number; pages: ReadonlyMap<number, Page>; at: number; onAt: (n: number) => void; onNeed: (n: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count, horizontal: true, getScrollElement: () => box.current, estimateSize: () => SMALL, overscan: 2 });
  const items = virtual.getVirtualItems();
  const any = pages.values().next().value;
  const small = (any ? Math.round((120 * any.height) / any.width) : 86) + 34;
  const need = useRef(onNeed);
  need.current = onNeed;
  const missing = items.find((v) => !pages.has(v.index))?.index;
  useEffect(() => {
    if (missing !== undefined) need.current(missing);
  }, [missing]);
  return (
    <div className="sheets" ref={box} role="listbox" aria-label="Pages" tabIndex={-1}>
      <div style={{ position: 'relative', width: virtual.getTotalSize(), height: small, flex: 'none' }}>
        {items.map((v) => {
          const page = pages.get(v.index);
          return (
            <button
              key={v.index}
              type="button"
              role="option"
              aria-selected={v.index === at}
              className={`small-sheet${v.index === at ? ' on' : ''}`}
              style={{ position: 'absolute', left: v.start }}
              onClick={() => onAt(v.index)}
            >
              {page ? <Sheet page={page} small /> : <span className="sheet-of-paper small" />}
              <span>{v.index + 1}</span>
            </button>
          );
        })}
      </div>
    </div>
  );
}

const SMALL = 128;

/** Makes the PDF on the server, with progress and a way to stop it. */
function Printing({ path, pages }: { path: string; pages: number }) {
  const session = useSession();
  const [job, setJob] = useState<{ id: string; done: number; of: number } | null>(null);
  const id = job?.id;
  useEffect(() => {
    if (!id) return;
    let gone = false;
    const timer = setInterval(() => {
      void call<{ done: number; of: number; ready: boolean; failed: string | null }>('GET', `/printing/${id}`).then((reply) => {
        if (gone) return;
        if (!reply.ok || reply.value.failed !== null) {
          setJob(null);
          session.onNotice({ tone: 'problem', title: 'No PDF was made', text: reply.ok ? (reply.value.failed ?? '') : reply.problems.map((p) => p.message).join(' ') });
        } else if (reply.value.ready) {
          setJob(null);
          const link = document.createElement('a');
          link.href = `/api/printing/${id}/pdf`;
          link.download = '';
          link.click();
        } else setJob({ id, done: reply.value.done, of: reply.value.of });
      });
    }, 300);
    return () => {
      gone = true;
      clearInterval(timer);
    };
  }, [id, session]);
  const begin = async (): Promise<void> => {
    const reply = await call<{ id: string }>('POST', path, {});
    if (reply.ok) setJob({ id: reply.value.id, done: 0, of: pages });
    else session.onNotice({ tone: 'problem', title: 'No PDF was made', text: reply.problems.map((p) => p.message).join(' ') });
  };
  if (!job)
    return (
      <button type="button" className="dark-button" onClick={() => void begin()}>
        PDF{pages ? `, ${pages} ${pages === 1 ? 'page' : 'pages'}` : ''}
      </button>
    );
  return (
    <div className="printing" role="status">
      <progress aria-label="Pages made" value={job.done} max={Math.max(1, job.of)} />
      <span>
        {job.done} of {job.of || pages} pages
      </span>
      <button
        type="button"
        className="link-button"
        onClick={() => {
          setJob(null);
          void call('DELETE', `/printing/${job.id}`);
        }}
      >
        Cancel
      </button>
    </div>
  );
}

/** A page drawn from its shapes. */
function Sheet({ page, small = false }: { page: Page; small?: boolean }) {
  return (
    <svg
      className={small ? 'sheet-of-paper small' : 'sheet-of-paper'}
      viewBox={`0 0 ${page.width} ${page.height}`}
      role="img"
      aria-label="Page of the report"
      style={small ? undefined : { aspectRatio: `${page.width} / ${page.height}` }}
    >
      {page.shapes.map((s, i) => (
        <ShapeView key={i} s={s} />
      ))}
    </svg>
  );
}

function ShapeView({ s }: { s: Shape }) {
  if (s.kind === 'rect')
    return <rect x={s.x} y={s.y} width={s.w} height={s.h} fill={s.fill ? inkOf(s.fill) : 'none'} stroke={s.stroke ? inkOf(s.stroke) : undefined} strokeWidth={s.line} />;
  if (s.kind === 'line') return <line x1={s.x1} y1={s.y1} x2={s.x2} y2={s.y2} stroke={inkOf(s.stroke)} strokeWidth={s.line} strokeDasharray={s.dash?.join(' ')} />;
  if (s.kind === 'picture') return <image href={pictureAddress(s.hash)} x={s.x} y={s.y} width={s.w} height={s.h} />;
  if (s.kind === 'polygon')
    return <polygon points={s.points.join(' ')} fill={s.fill ? inkOf(s.fill) : 'none'} stroke={s.stroke ? inkOf(s.stroke) : undefined} strokeWidth={s.line} />;
  return (
    <text x={s.x} y={s.y} fontSize={s.size} fill={inkOf(s.fill)} textAnchor={s.align === 'left' ? 'start' : s.align === 'right' ? 'end' : 'middle'} className={`paper-${s.face}`}>
      {s.text}
    </text>
  );
}
