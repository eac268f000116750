import './report.css';
import { Checkbox, NumberInput, Select, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useEffect, useMemo, useState } from 'react';
import { projectOf } from '@yellowhammer/core/model/document';
import type { Problem } from '@yellowhammer/core/model/problem';
import type { ReportColumn } from '@yellowhammer/core/report/plan-report';
import { colours, type Page, type Shape } from '@yellowhammer/core/report/scene';
import { call } from '../project/api';
import { useDoc, useSession, useTopic } from '../project/hooks';

const columnNames: [ReportColumn, string][] = [
  ['code', 'No.'],
  ['name', 'Activity'],
  ['duration', 'Duration'],
  ['start', 'Start'],
  ['finish', 'Finish'],
  ['float', 'Float'],
  ['percent', 'Done'],
  ['baselineFinish', 'Baseline finish'],
  ['moved', 'Moved, working days'],
  ['cost', 'Cost'],
];

interface Settings {
  paper: string;
  landscape: string;
  title: string;
  subtitle: string;
  columns: ReportColumn[];
  depth: number;
  rows: string;
  legend: boolean;
  baseline: boolean;
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
  baseline: true,
};

function remembered(key: string): Settings {
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Settings>) };
  } catch {
    return usual;
  }
}

/** A desk with the sheet of paper in the middle and its settings at the right. What is shown is what is printed. */
export function ReportPage() {
  const session = useSession();
  const { doc } = useDoc();
  useTopic('sync');
  const key = `yellowhammer.report.${session.id}`;
  const [s, setS] = useState(() => remembered(key));
  const [pages, setPages] = useState<Page[] | null>(null);
  const [problems, setProblems] = useState<Problem[]>([]);
  const [at, setAt] = useState(0);
  const set = (part: Partial<Settings>): void => {
    const next = { ...s, ...part };
    setS(next);
    localStorage.setItem(key, JSON.stringify(next));
  };
  const query = useMemo(() => {
    const q = new URLSearchParams();
    for (const [k, v] of Object.entries(s)) q.set(k, typeof v === 'boolean' ? (v ? '1' : '0') : Array.isArray(v) ? v.join(',') : String(v));
    return q.toString();
  }, [s]);
  const [settled] = useDebouncedValue(query, 250);
  const saved = session.sync.state === 'saved';
  const revision = session.synced.revision;
  useEffect(() => {
    if (!saved) return;
    let gone = false;
    void call<Page[]>('GET', `/projects/${session.id}/report?${settled}`).then((reply) => {
      if (gone) return;
      setPages(reply.ok ? reply.value : null);
      setProblems(reply.ok ? [] : reply.problems);
      setAt((n) => (reply.ok ? Math.min(n, reply.value.length - 1) : 0));
    });
    return () => {
      gone = true;
    };
  }, [session, settled, saved, revision]);
  const page = pages?.[at];
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
        {pages && pages.length > 1 && (
          <div className="sheets" role="listbox" aria-label="Pages">
            {pages.map((p, n) => (
              <button key={n} type="button" role="option" aria-selected={n === at} className={`small-sheet${n === at ? ' on' : ''}`} onClick={() => setAt(n)}>
                <Sheet page={p} small />
                <span>{n + 1}</span>
              </button>
            ))}
          </div>
        )}
      </div>
      <aside className="inspector form-stack report-settings" aria-label="Report settings">
        <h2>The plan on paper</h2>
        <a className="dark-button as-button" href={`/api/projects/${session.id}/report.pdf?${query}`} download>
          PDF{pages ? `, ${pages.length} ${pages.length === 1 ? 'page' : 'pages'}` : ''}
        </a>
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
          label="Rows"
          value={s.rows}
          data={[
            { value: 'all', label: 'All' },
            { value: 'critical', label: 'Critical activities' },
            { value: 'milestones', label: 'Milestones' },
          ]}
          onChange={(v) => v && set({ rows: v })}
        />
        {s.rows === 'all' && (
          <NumberInput label="Outline depth (0: all)" size="sm" min={0} max={9} value={s.depth} onChange={(v) => set({ depth: Math.max(0, Math.min(9, Number(v) || 0)) })} />
        )}
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
        <Checkbox size="xs" label="Legend" checked={s.legend} onChange={(e) => set({ legend: e.currentTarget.checked })} />
        <Checkbox size="xs" label="Baseline" checked={s.baseline} onChange={(e) => set({ baseline: e.currentTarget.checked })} />
      </aside>
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
    return <rect x={s.x} y={s.y} width={s.w} height={s.h} fill={s.fill ? colours[s.fill] : 'none'} stroke={s.stroke ? colours[s.stroke] : undefined} strokeWidth={s.line} />;
  if (s.kind === 'line') return <line x1={s.x1} y1={s.y1} x2={s.x2} y2={s.y2} stroke={colours[s.stroke]} strokeWidth={s.line} strokeDasharray={s.dash?.join(' ')} />;
  if (s.kind === 'polygon')
    return <polygon points={s.points.join(' ')} fill={s.fill ? colours[s.fill] : 'none'} stroke={s.stroke ? colours[s.stroke] : undefined} strokeWidth={s.line} />;
  return (
    <text x={s.x} y={s.y} fontSize={s.size} fill={colours[s.fill]} textAnchor={s.align === 'left' ? 'start' : s.align === 'right' ? 'end' : 'middle'} className={`paper-${s.face}`}>
      {s.text}
    </text>
  );
}
