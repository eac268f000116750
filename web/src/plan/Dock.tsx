import { ActionIcon, Menu, Popover, Tooltip } from '@mantine/core';
import {
  IconChevronDown,
  IconColumns3,
  IconKeyboard,
  IconLayoutSidebarRight,
  IconMinus,
  IconPlayerPause,
  IconPlayerPlay,
  IconPlus,
  IconRouteAltLeft,
  IconRubberStamp,
  IconTableExport,
  IconZoomScan,
} from '@tabler/icons-react';
import { type ReactNode, useEffect, useState } from 'react';
import { labelOf, ordered } from '@yellowhammer/core/model/document';
import { type ColumnKey, defaultColumns, planActions, useAppDispatch, usePlan } from '../app/store';
import { useSession, useTopic } from '../project/hooks';
import { columns } from './columns';

interface Props {
  rows: number;
  onFit: () => void;
  onZoom: (factor: number) => void;
  onGo: (id: string) => void;
  onHelp: () => void;
  onAdd: (makes: 'activity' | 'wbs') => void;
  onCsv: () => void;
  /** What stamping here would do. */
  stampWords: string;
}

const icon = { size: 16, stroke: 1.6 } as const;

function Tool({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }) {
  return (
    <Tooltip label={label}>
      <ActionIcon variant="subtle" color="ink" size="sm" aria-label={label} onClick={onClick}>
        {children}
      </ActionIcon>
    </Tooltip>
  );
}

/** The strip below: adding, what is shown, problems, and the state of computing and saving. */
export function Dock({ rows, onFit, onZoom, onGo, onHelp, onAdd, onCsv, stampWords }: Props) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const set = (s: Parameters<typeof planActions.set>[0]): void => void dispatch(planActions.set(s));
  const session = useSession();
  const trace = ui.trace ? session.doc.activities.get(ui.trace.id) : undefined;
  return (
    <footer className={`dock${ui.stamp ? ' stamping' : ''}`}>
      {!ui.stamp && (
        <>
          <button type="button" className="chip" onClick={() => onAdd('activity')}>
            Add activity
          </button>
          <button type="button" className="chip" onClick={() => onAdd('wbs')}>
            Add WBS node
          </button>
        </>
      )}
      <Menu closeOnItemClick={false} position="top-start">
        <Menu.Target>
          <button type="button" className="chip">
            Show <IconChevronDown size={12} />
          </button>
        </Menu.Target>
        <Menu.Dropdown>
          {(['all', 'driving', 'none'] as const).map((v) => (
            <Menu.Item key={v} rightSection={ui.showLinks === v ? '✓' : ''} onClick={() => set({ showLinks: v })}>
              {{ all: 'All links', driving: 'Only driving links', none: 'No links' }[v]}
            </Menu.Item>
          ))}
          <Menu.Divider />
          <Check label="Float as dotted tail" on={ui.showFloat} onClick={() => set({ showFloat: !ui.showFloat })} />
          <Check label="Times with dates" on={ui.clock} onClick={() => set({ clock: !ui.clock })} />
          <Check label="Dense rows" on={ui.dense} onClick={() => set({ dense: !ui.dense })} />
          <Check label="Only critical activities" on={ui.onlyCritical} onClick={() => set({ onlyCritical: !ui.onlyCritical, trace: null })} />
        </Menu.Dropdown>
      </Menu>
      <ColumnMenu />
      {ui.stamp ? (
        <StampBox words={stampWords} />
      ) : (
        <button type="button" className="chip" onClick={() => set({ stamp: { calendarId: null } })} title="Pick a calendar, then click or sweep over rows (S)">
          Stamp
        </button>
      )}
      {trace && ui.trace && (
        <span className="trace-box">
          <IconRouteAltLeft {...icon} /> Connected with {labelOf(trace)}:
          <select aria-label="Which links to follow" value={ui.trace.mode} onChange={(e) => ui.trace && set({ trace: { ...ui.trace, mode: e.target.value as 'driving' | 'all' } })}>
            <option value="all">all links</option>
            <option value="driving">driving links</option>
          </select>
          <input
            aria-label="Steps"
            type="number"
            min={1}
            max={99}
            value={ui.trace.steps}
            onChange={(e) => ui.trace && set({ trace: { ...ui.trace, steps: Math.max(1, Number(e.target.value) || 1) } })}
          />{' '}
          steps
          <button type="button" className="link-button" onClick={() => set({ trace: null })}>
            Show all
          </button>
        </span>
      )}
      {!trace && ui.selected.length === 1 && session.doc.activities.has(ui.selected[0]!) && (
        <button type="button" className="chip" onClick={() => set({ trace: { id: ui.selected[0]!, mode: 'all', steps: 2 } })}>
          Connected
        </button>
      )}
      {ui.onlyCritical && (
        <button type="button" className="chip on" onClick={() => set({ onlyCritical: false })}>
          Only critical: {rows} · show all
        </button>
      )}
      <ProblemsChip onGo={onGo} />
      <span className="dock-right">
        <Computing />
        <Tool label="Zoom out (-)" onClick={() => onZoom(1 / 1.4)}>
          <IconMinus {...icon} />
        </Tool>
        <Tool label="Zoom in (+)" onClick={() => onZoom(1.4)}>
          <IconPlus {...icon} />
        </Tool>
        <Tool label="Fit the whole plan (0)" onClick={onFit}>
          <IconZoomScan {...icon} />
        </Tool>
        <Tool label="The rows and columns shown, as CSV" onClick={onCsv}>
          <IconTableExport {...icon} />
        </Tool>
        <Tool label="Keys (?)" onClick={onHelp}>
          <IconKeyboard {...icon} />
        </Tool>
        <Tool label={ui.inspector ? 'Hide the inspector' : 'Show the inspector'} onClick={() => set({ inspector: !ui.inspector })}>
          <IconLayoutSidebarRight {...icon} />
        </Tool>
      </span>
    </footer>
  );
}

/** The value that is stamped, and what it would do to the row under the pointer. */
function StampBox({ words }: { words: string }) {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const session = useSession();
  return (
    <span className="trace-box">
      <IconRubberStamp {...icon} /> Stamp
      <select aria-label="Calendar to stamp" value={ui.stamp?.calendarId ?? ''} onChange={(e) => dispatch(planActions.set({ stamp: { calendarId: e.target.value || null } }))}>
        <option value="">the project’s calendar</option>
        {ordered(session.doc, 'calendars').map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}
          </option>
        ))}
      </select>
      <span className="muted stamp-words" role="status">
        {words || 'click or sweep over rows or bars'}
      </span>
      <button type="button" className="link-button" onClick={() => dispatch(planActions.set({ stamp: null }))}>
        Done
      </button>
    </span>
  );
}

function Check({ label, on, onClick }: { label: string; on: boolean; onClick: () => void }) {
  return (
    <Menu.Item rightSection={on ? '✓' : ''} onClick={onClick}>
      {label}
    </Menu.Item>
  );
}

function ColumnMenu() {
  const ui = usePlan();
  const dispatch = useAppDispatch();
  const toggle = (key: ColumnKey): void => {
    const order = Object.keys(columns) as ColumnKey[];
    const next = ui.columns.includes(key) ? ui.columns.filter((k) => k !== key) : [...ui.columns, key].sort((a, b) => rank(a, order) - rank(b, order));
    dispatch(planActions.set({ columns: next }));
  };
  const rank = (k: ColumnKey, order: ColumnKey[]): number => {
    const at = ui.columns.indexOf(k);
    return at >= 0 ? at : 100 + order.indexOf(k);
  };
  return (
    <Menu closeOnItemClick={false} position="top-start">
      <Menu.Target>
        <button type="button" className="chip">
          <IconColumns3 size={13} stroke={1.6} /> Columns
        </button>
      </Menu.Target>
      <Menu.Dropdown className="column-menu">
        {(Object.keys(columns) as ColumnKey[])
          .filter((k) => k !== 'name' && k !== 'code')
          .map((k) => (
            <Check key={k} label={columns[k].title} on={ui.columns.includes(k)} onClick={() => toggle(k)} />
          ))}
        <Menu.Divider />
        <Menu.Item onClick={() => dispatch(planActions.set({ columns: defaultColumns, widths: {} }))}>The usual columns</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}

function ProblemsChip({ onGo }: { onGo: (id: string) => void }) {
  const session = useSession();
  useTopic('view');
  const n = session.problems.length;
  if (n === 0) return null;
  const errors = session.problems.filter((p) => p.severity === 'error').length;
  return (
    <Popover width={420} position="top-start" shadow="md">
      <Popover.Target>
        <button type="button" className={`chip${errors ? ' bad' : ''}`}>
          {n} {n === 1 ? 'thing' : 'things'} to look at
        </button>
      </Popover.Target>
      <Popover.Dropdown>
        <ul className="problem-list">
          {session.problems.slice(0, 200).map((p, i) => (
            <li key={i}>
              {p.message}{' '}
              {p.where.table === 'activities' && p.where.id && (
                <button type="button" className="link-button" onClick={() => onGo(p.where.id as string)}>
                  Go there
                </button>
              )}
            </li>
          ))}
        </ul>
        {n > 200 && <p>and {n - 200} more</p>}
      </Popover.Dropdown>
    </Popover>
  );
}

function Computing() {
  const session = useSession();
  useTopic('view');
  useTopic('doc');
  useTopic('sync');
  const [, tick] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => tick((n) => n + 1), 5000);
    return () => clearInterval(timer);
  }, []);
  const ago = Math.max(0, Math.round((Date.now() - session.computedAt) / 100) / 10);
  const saved = { saved: 'saved', saving: 'saving', offline: 'server away', blocked: 'not saved', gone: 'deleted' }[session.sync.state];
  const text = session.stale
    ? session.paused
      ? 'Recomputing paused: dates are not up to date'
      : 'Computing'
    : `Computed in ${Math.round(session.milliseconds)} ms, ${ago < 60 ? `${Math.round(ago)} s` : `${Math.round(ago / 60)} min`} ago`;
  return (
    <>
      <span className={`computing${session.stale ? ' stale' : ''}`} role="status">
        <span className="dot" /> {text} · {saved}
      </span>
      <Tool label={session.paused ? 'Resume recomputing' : 'Pause recomputing'} onClick={() => session.setPaused(!session.paused)}>
        {session.paused ? <IconPlayerPlay {...icon} /> : <IconPlayerPause {...icon} />}
      </Tool>
    </>
  );
}
