import './projects.css';
import { Menu, Modal } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { IconDots } from '@tabler/icons-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { parseInstant } from '@yellowhammer/core/time/instant';
import type { Problem } from '@yellowhammer/core/model/problem';
import type { Summary } from '@yellowhammer/core/rollup/summary';
import { downloadCsv } from '../app/csv';
import { usePlaceWanted } from '../app/usePlaceWanted';
import { Person } from '../app/Header';
import { finishText, longDate, signedDays } from '../app/format';
import type { MeetingView } from '@yellowhammer/core/commands/shared-views';
import { call, pictureAddress } from '../project/api';
import { stageNames } from '@yellowhammer/core/load/elsewhere';
import type { Stage } from '@yellowhammer/core/model/schema';
import { type Arrival, ImportDialog } from './ImportDialog';
import { NewProject } from './NewProject';

/** A project as the server lists it: its head, and its figures as the core computes them. */
interface Entry extends Summary {
  id: string;
  name: string;
  code: string;
  stage: Stage;
  logo: string | null;
  changedAt: string;
  changedBy: string;
  archivedAt: string | null;
  deletedAt: string | null;
  figures: 'ready' | 'computing' | 'failed' | 'none';
  failure: string | null;
}

const tell = (title: string, problems: Problem[]): void =>
  void notifications.show({
    title,
    message: (
      <span className="notice-text">
        {problems
          .slice(0, 8)
          .map((p) => p.message)
          .join('\n')}
        {problems.length > 8 ? `\nand ${problems.length - 8} more` : ''}
      </span>
    ),
    color: 'red.8',
    autoClose: 15_000,
    withBorder: true,
  });

const csv = (list: Entry[]): void =>
  downloadCsv(
    'projects',
    ['Code', 'Project', 'Data date', 'Finish', 'Against baseline (working days)', 'To required finish', 'Activities', 'Done %', 'Next milestone', 'What it is', 'State'],
    list.map((e) => [
      e.code,
      e.name,
      e.dataDate ?? '',
      e.finish ?? '',
      e.againstBaseline ?? '',
      e.toRequired ?? '',
      e.activities,
      e.percent,
      e.nextMilestone?.name ?? '',
      stageNames[e.stage],
      e.deletedAt ? 'deleted' : e.archivedAt ? 'archived' : 'active',
    ]),
  );

/** All projects, like an index: name, its life as a thin line, finish against baseline, next milestone. */
export function ProjectsPage() {
  const [list, setList] = useState<Entry[] | null>(null);
  const [making, setMaking] = useState(false);
  const [away, setAway] = useState(false);
  const [meeting, setMeeting] = useState<Arrival | null>(null);
  const [faults, setFaults] = useState<{ title: string; problems: Problem[] } | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const load = useCallback(async () => {
    const reply = await call<Entry[]>('GET', '/projects');
    setAway(!reply.ok);
    if (reply.ok) setList(reply.value);
  }, []);
  const waiting = (list ?? []).some((e) => e.figures === 'computing');
  useEffect(() => {
    void load();
    const timer = setInterval(() => void load(), waiting ? 1500 : 10_000);
    return () => clearInterval(timer);
  }, [load, waiting]);
  usePlaceWanted((place) => (place === 'new' ? setMaking(true) : file.current?.click()));
  const importFile = async (f: File): Promise<void> => {
    setBusy(f.name);
    const text = await f.text();
    const reply = await call<{ id?: string; meetings?: MeetingView[]; problems: Problem[] }>('POST', '/import', text);
    setBusy(null);
    if (!reply.ok) setFaults({ title: `${f.name} was not imported`, problems: reply.problems });
    else if (reply.value.meetings) return setMeeting({ name: f.name, text, meetings: reply.value.meetings });
    else if (reply.value.problems.length) setFaults({ title: `${f.name} was imported; ${reply.value.problems.length} things were set aside`, problems: reply.value.problems });
    await load();
  };
  const state = async (e: Entry, next: 'active' | 'archived' | 'deleted'): Promise<void> => {
    const reply = await call('POST', `/projects/${e.id}/state`, { state: next });
    if (!reply.ok) tell('Not done', reply.problems);
    await load();
  };
  const copy = async (e: Entry): Promise<void> => {
    const reply = await call('POST', `/projects/${e.id}/copy`, {});
    if (!reply.ok) tell('Not copied', reply.problems);
    await load();
  };
  const groups: [string, Entry[]][] = [
    ['Projects', (list ?? []).filter((e) => !e.archivedAt && !e.deletedAt)],
    ['Archived', (list ?? []).filter((e) => e.archivedAt && !e.deletedAt)],
    ['Deleted', (list ?? []).filter((e) => e.deletedAt)],
  ];
  return (
    <div className="projects">
      <header className="projects-head">
        <h1>Projects</h1>
        <span className="projects-tools">
          {busy && (
            <span role="status" className="muted">
              Reading {busy}
            </span>
          )}
          {away && <span className="critical-text">The server cannot be reached; trying again.</span>}
          {list && list.length > 0 && (
            <button type="button" className="light-button" onClick={() => csv(list)}>
              CSV
            </button>
          )}
          <button type="button" className="light-button" onClick={() => file.current?.click()}>
            Import a project file
          </button>
          <button type="button" className="dark-button" onClick={() => setMaking(true)}>
            New project
          </button>
          <Person />
        </span>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          hidden
          aria-label="Project file"
          onChange={(e) => {
            const f = e.target.files?.[0];
            if (f) void importFile(f);
            e.target.value = '';
          }}
        />
      </header>
      {list && list.length === 0 && (
        <div className="page-empty">
          <h2>No projects yet</h2>
          <p>A project is one plan with its calendars, logic and data date. Begin with a name and a planned start, or import a project file.</p>
          <button type="button" className="dark-button" onClick={() => setMaking(true)}>
            New project
          </button>
        </div>
      )}
      {groups.map(([title, entries]) =>
        entries.length === 0 ? null : (
          <section key={title} aria-label={title} className="projects-group">
            {title !== 'Projects' && <h2>{title}</h2>}
            <table className="table projects-table">
              <thead>
                <tr>
                  <th>Project</th>
                  <th>Its life</th>
                  <th className="right">Data date</th>
                  <th className="right">Finish</th>
                  <th className="right">Against baseline</th>
                  <th className="right">To required</th>
                  <th>Next milestone</th>
                  <th>Last worked on</th>
                  <th aria-label="Actions" />
                </tr>
              </thead>
              <tbody>
                {entries.map((e) => (
                  <ProjectRow key={e.id} entry={e} all={entries} onState={state} onCopy={copy} />
                ))}
              </tbody>
            </table>
          </section>
        ),
      )}
      {meeting && (
        <ImportDialog
          arrival={meeting}
          onClose={(problems) => {
            setMeeting(null);
            if (problems.length) setFaults({ title: `${meeting.name} was imported; ${problems.length} things were set aside`, problems });
            void load();
          }}
        />
      )}
      {faults && (
        <Modal opened onClose={() => setFaults(null)} title={faults.title} size="lg">
          <ul className="fault-list" tabIndex={0} aria-label="What was set aside">
            {faults.problems.map((p, i) => (
              <li key={i}>{p.message}</li>
            ))}
          </ul>
          <div className="update-actions">
            <button type="button" className="dark-button" data-autofocus onClick={() => setFaults(null)}>
              Close
            </button>
            <button
              type="button"
              className="light-button"
              onClick={() =>
                downloadCsv(
                  'import',
                  ['Row', 'Field', 'Code', 'What'],
                  faults.problems.map((p) => [p.where.label ?? p.where.id ?? '', p.where.field ?? '', p.code, p.message]),
                )
              }
            >
              The list as CSV
            </button>
          </div>
        </Modal>
      )}
      <NewProject opened={making} onClose={() => setMaking(false)} known={list ?? []} />
    </div>
  );
}

function ProjectRow({
  entry: e,
  all,
  onState,
  onCopy,
}: {
  entry: Entry;
  all: Entry[];
  onState: (e: Entry, s: 'active' | 'archived' | 'deleted') => Promise<void>;
  onCopy: (e: Entry) => Promise<void>;
}) {
  const gone = e.deletedAt !== null;
  const twins = gone ? [] : all.filter((x) => x.id !== e.id && x.code === e.code && !x.deletedAt);
  return (
    <tr>
      <td>
        {e.logo && <img className="project-logo" src={pictureAddress(e.logo)} alt="" />}
        {gone ? (
          <b className="serif project-name">{e.name}</b>
        ) : (
          <Link className="serif project-name" to={`/p/${e.id}/plan`} title={e.name}>
            {e.name}
          </Link>
        )}
        <div className="muted">
          {e.code} · {e.activities} activities{e.figures === 'ready' ? ` · ${e.percent}% done` : ''}
          {e.stage !== 'live' && <span title="Its demand for shared resources does not count over projects"> · {stageNames[e.stage]}</span>}
          {e.figures === 'computing' && ' · computing its dates'}
          {twins.length > 0 && <span className="critical-text"> · {twins[0]!.name} has the same code</span>}
        </div>
      </td>
      <td>
        {e.figures === 'failed' ? (
          <span className="critical-text">{e.failure}</span>
        ) : e.figures === 'computing' ? (
          <span className="muted">computing</span>
        ) : (
          <LifeLine entry={e} all={all} />
        )}
      </td>
      <td className="right">{longDate(e.dataDate)}</td>
      <td className="right">
        <b className="serif">{e.finish ? finishText(parseInstant(e.finish) as number) : ''}</b>
      </td>
      <td className="right" title={e.baselineName ?? undefined}>
        {e.figures !== 'ready' ? null : e.againstBaseline === null ? (
          <span className="muted">no baseline</span>
        ) : (
          <span className={e.againstBaseline > 0 ? 'critical-text' : ''}>{signedDays(e.againstBaseline)}</span>
        )}
      </td>
      <td className="right">{e.toRequired === null ? '' : <span className={e.toRequired < 0 ? 'critical-text' : ''}>{signedDays(e.toRequired)}</span>}</td>
      <td>
        {e.nextMilestone && (
          <>
            {e.nextMilestone.name} <span className="muted">{finishText(parseInstant(e.nextMilestone.finish) as number)}</span>
          </>
        )}
      </td>
      <td className="muted">
        {e.changedBy}, {longDate(`${e.changedAt.slice(0, 16)}`)}
      </td>
      <td>
        <Menu position="bottom-end">
          <Menu.Target>
            <button type="button" className="plain-button" aria-label={`Actions for ${e.name}`}>
              <IconDots size={18} stroke={1.6} />
            </button>
          </Menu.Target>
          <Menu.Dropdown>
            {!gone && (
              <>
                <Menu.Item component="a" href={`/api/projects/${e.id}/file`} download>
                  Export the project file
                </Menu.Item>
                <Menu.Item onClick={() => void onCopy(e)}>Copy</Menu.Item>
                <Menu.Item onClick={() => void onState(e, e.archivedAt ? 'active' : 'archived')}>{e.archivedAt ? 'Bring back from the archive' : 'Archive'}</Menu.Item>
                <Menu.Item onClick={() => void onState(e, 'deleted')}>Delete (can be brought back)</Menu.Item>
              </>
            )}
            {gone && <Menu.Item onClick={() => void onState(e, 'active')}>Bring back</Menu.Item>}
          </Menu.Dropdown>
        </Menu>
      </td>
    </tr>
  );
}

/** The span of a project on one scale with the others: done up to the data date, then to the finish. */
function LifeLine({ entry: e, all }: { entry: Entry; all: Entry[] }) {
  const at = (t: string | null): number | undefined => (t === null ? undefined : parseInstant(t));
  const starts = all.flatMap((x) => at(x.start) ?? []);
  const ends = all.flatMap((x) => Math.max(at(x.finish) ?? 0, at(x.requiredFinish) ?? 0) || []);
  const [start, finish, dataDate, required] = [at(e.start), at(e.finish), at(e.dataDate), at(e.requiredFinish)];
  if (start === undefined || finish === undefined) return <span className="muted">no activities yet</span>;
  const low = Math.min(...starts);
  const span = Math.max(...ends) - low || 1;
  const x = (t: number): number => 4 + ((t - low) / span) * 212;
  const now = dataDate === undefined ? start : Math.min(Math.max(dataDate, start), finish);
  return (
    <svg width={220} height={18} role="img" aria-label={`From ${longDate(e.start)} to ${longDate(e.finish)}`}>
      <path d={`M${x(start)} 9H${x(now)}`} stroke="var(--slate)" strokeWidth={3} />
      <path d={`M${x(now)} 9H${x(finish)}`} stroke="var(--slate-light)" strokeWidth={3} />
      <circle cx={x(finish)} cy={9} r={3.4} fill={e.toRequired !== null && e.toRequired < 0 ? 'var(--chestnut)' : 'var(--ink)'} />
      {required !== undefined && <path d={`M${x(required)} 3V15`} stroke="var(--ink)" strokeWidth={1.2} />}
      {dataDate !== undefined && <rect x={x(dataDate) - 1} y={1} width={2} height={16} fill="var(--yellow)" />}
    </svg>
  );
}
