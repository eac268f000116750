import './load.css';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { bucketKinds, type BucketKind, bucketName } from '@yellowhammer/core/load/buckets';
import { bucketAt } from '@yellowhammer/core/load/curve';
import { exactHoursOf } from '@yellowhammer/core/load/hours';
import { type AskedBy, askedBys, type RunRow, type Stretch } from '@yellowhammer/core/load/table';
import { cellSentence, hoursText, runText, unitsText } from '@yellowhammer/core/load/words';
import { holdBack } from '@yellowhammer/core/commands/level';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import { MINUTES_PER_DAY, parseInstant } from '@yellowhammer/core/time/instant';
import { downloadCsv } from '../app/csv';
import { usePlaceWanted } from '../app/usePlaceWanted';
import { floatText } from '../app/format';
import { usePreview } from '../app/Preview';
import { useDoc, useSession } from '../project/hooks';
import { bucketTitles, type Place } from './grid';
import { LoadGrid, type Show } from './LoadGrid';
import { type Measure, shadeOf, StepGraph } from './StepGraph';
import { PeopleOnTime } from './PeopleOnTime';
import { ShiftPage } from './ShiftPage';
import { Over } from './Over';
import { useLoads, useStretch } from './useLoads';
import { useWidth } from './useWidth';
import { LevelDialog } from './LevelDialog';
import { statusInstant } from '@yellowhammer/core/model/status-day';

/** Hours are shown for four weeks around what is chosen. */
const HOURS_AROUND = 14 * MINUTES_PER_DAY;

/** Buckets that zooming goes through. */
const zoomed: readonly BucketKind[] = ['hour', 'day', 'week', 'month', 'quarter'];

/** Load: who is asked for, when, and whether there is enough. */
export function LoadPage() {
  const { doc } = useDoc();
  const project = projectOf(doc);
  const [bucket, setBucket] = useState<BucketKind>('week');
  const [calendarId, setCalendarId] = useState<string | null>(null);
  const [show, setShow] = useState<Show>('mean');
  const [middle, setMiddle] = useState<number | null>(null);
  const [chosen, setChosen] = useState<Place | null>(null);
  const [seen, setSeen] = useState<'cells' | 'people' | 'shift'>('cells');
  const cellsSeen = seen === 'cells';
  const [by, setBy] = useState<AskedBy>('activity');
  const [runs, setRuns] = useState(false);
  const [levelling, setLevelling] = useState(false);
  const [wanted, setWanted] = useState<RunRow | null>(null);
  const dataDate = project.dataDate === null ? null : (parseInstant(project.dataDate) ?? null);
  const around = middle ?? statusInstant(doc);
  const table = useLoads(bucket, calendarId, bucket === 'hour' ? { from: around - HOURS_AROUND, to: around + HOURS_AROUND } : null);
  const row = chosen && table?.rows[chosen.row];
  const column = chosen?.column ?? 0;
  const [from, to] = [table?.edges[column], table?.edges[column + 1]];
  const stretch = useStretch(row && from !== undefined && to !== undefined ? { kind: row.kind, id: row.id, from, to } : null, by);
  usePlaceWanted((place) => (place === 'level' ? setLevelling(true) : setSeen('people')));
  const { over, hidden } = table?.counts ?? { over: 0, hidden: 0 };
  const choose = (place: Place): void => {
    setChosen(place);
    const t = table?.edges[place.column];
    if (t !== undefined && bucket !== 'hour') setMiddle(t);
  };
  const zoom = (step: -1 | 1, at: number | null): void => {
    const next = zoomed[zoomed.indexOf(bucket) + step];
    if (!next || !zoomed.includes(bucket)) return;
    setBucket(next);
    setChosen(null);
    setMiddle(at);
  };
  const goTo = (run: RunRow): void => {
    if (!table) return;
    // Hours are shown around one place: another place first, then the cell there.
    if (bucket === 'hour' && (run.from < table.edges[0]! || run.from >= table.edges[table.edges.length - 1]!)) {
      setMiddle(run.from);
      setWanted(run);
      return;
    }
    setWanted(null);
    const r = table.rows.findIndex((x) => x.kind === run.kind && x.id === run.id);
    const c = table.edges.findIndex((t, n) => t <= run.from && (table.edges[n + 1] ?? -Infinity) > run.from);
    if (r >= 0 && c >= 0) choose({ row: r, column: c });
  };
  useEffect(() => {
    if (wanted && table && wanted.from >= table.edges[0]! && wanted.from < table.edges[table.edges.length - 1]!) goTo(wanted);
  });
  const csv = (): void => {
    if (!table) return;
    const heads = ['Who and what', 'Kind', 'There', ...table.edges.slice(0, -1).flatMap((t) => [`${bucketName(bucket, t)}, h asked`, 'h there', 'h over', 'at once'])];
    downloadCsv(
      `${project.code} load by ${bucket}`,
      heads,
      table.rows.map((r) => [
        r.name,
        r.sort,
        r.there === null ? (r.unit ?? '') : r.there / 1000,
        ...Array.from(r.cells.demand, (_, n) => bucketAt(r.cells, n)).flatMap((c) =>
          r.unit === null ? [exactHoursOf(c.demand), c.capacity === null ? '' : exactHoursOf(c.capacity), exactHoursOf(c.over), c.peak / 1000] : [c.demand / 1000, '', '', ''],
        ),
      ]),
    );
  };
  if (doc.resources.size + doc.roles.size === 0) return <Nobody />;
  return (
    <div className="load">
      <header className="load-top">
        <h2>Load</h2>
        <div className="load-choice" role="group" aria-label="What is shown">
          {(['cells', 'people', 'shift'] as const).map((v) => (
            <button key={v} type="button" aria-pressed={v === seen} onClick={() => setSeen(v)}>
              {{ cells: 'Cells', people: 'People on time', shift: 'A shift' }[v]}
            </button>
          ))}
        </div>
        <div className="load-choice" role="group" aria-label="Bucket" hidden={!cellsSeen}>
          {bucketKinds
            .filter((k) => k !== 'year')
            .map((k) => (
              <button key={k} type="button" aria-pressed={k === bucket} onClick={() => (setBucket(k), setChosen(null))}>
                {bucketTitles[k]}
              </button>
            ))}
        </div>
        {cellsSeen && bucket === 'shift' && (
          <select aria-label="Shifts of the calendar" value={calendarId ?? ''} onChange={(e) => setCalendarId(e.target.value || null)}>
            <option value="">the project’s</option>
            {ordered(doc, 'calendars').map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        )}
        <div className="load-choice" role="group" aria-label="What a cell shows" hidden={!cellsSeen}>
          {(['mean', 'peak', 'both'] as const).map((s) => (
            <button key={s} type="button" aria-pressed={s === show} onClick={() => setShow(s)}>
              {{ mean: 'Mean', peak: 'Peak', both: 'Both' }[s]}
            </button>
          ))}
        </div>
        <Over />
        {cellsSeen && bucket === 'hour' && (
          <span className="load-walk">
            <button type="button" className="chip" onClick={() => setMiddle(around - HOURS_AROUND)}>
              Earlier
            </button>
            <button type="button" className="chip" onClick={() => setMiddle(around + HOURS_AROUND)}>
              Later
            </button>
          </span>
        )}
        <button
          type="button"
          className={`load-counts${over + hidden ? ' critical-text' : ' muted'}`}
          aria-expanded={cellsSeen && runs}
          onClick={() => (setRuns(!cellsSeen || !runs), setSeen('cells'))}
        >
          {over} over the limit ·{' '}
          <b>
            {hidden} hidden {hidden === 1 ? 'peak' : 'peaks'}
          </b>
        </button>
      </header>
      {seen === 'people' ? (
        <PeopleOnTime dataDate={dataDate} />
      ) : seen === 'shift' ? (
        <ShiftPage />
      ) : (
        <div className="load-body">
          <div className="load-left">
            {table ? (
              <LoadGrid table={table} bucket={bucket} show={show} chosen={chosen} dataDate={dataDate} onChoose={choose} onZoom={zoom} />
            ) : (
              <p className="muted load-wait">Computing</p>
            )}
            {stretch && row && <Opened stretch={stretch} title={bucketName(bucket, stretch.from)} by={by} onBy={setBy} />}
          </div>
          <aside className="load-side" aria-label="What is chosen">
            {runs ? (
              <Runs runs={table?.runs ?? []} all={over + hidden} onGo={goTo} />
            ) : stretch && row ? (
              <About stretch={stretch} title={bucketName(bucket, stretch.from)} />
            ) : (
              <p className="muted">Choose a cell to open it up: who asks, when, and what would solve it. The arrows walk from cell to cell.</p>
            )}
          </aside>
        </div>
      )}
      <footer className="dock">
        {row && table && chosen && <span className="chip on">{row.name}</span>}
        <button type="button" className="chip" onClick={() => setLevelling(true)}>
          Level
        </button>
        {cellsSeen && (
          <button type="button" className="chip" onClick={csv}>
            CSV
          </button>
        )}
        <span className="muted">
          {!cellsSeen
            ? seen === 'shift'
              ? 'who is asked for in one shift'
              : 'below the bars: room left (thin), just right (full), over (hatched)'
            : `cell: ${{ peak: 'most units at once', mean: 'mean units', both: 'mean and most units' }[show]} · corner: the limit is passed inside it · hatched: over · + and −, or Ctrl and the wheel: other buckets`}
        </span>
      </footer>
      {levelling && <LevelDialog onClose={() => setLevelling(false)} />}
    </div>
  );
}

function Nobody() {
  const navigate = useNavigate();
  const session = useSession();
  return (
    <div className="load-empty">
      <h2>Load</h2>
      <p>Who is asked for, when, and whether there is enough. Nobody is in this project yet.</p>
      <button type="button" className="dark-button" onClick={() => void navigate(`/p/${session.id}/library`)}>
        Add resources in the Library
      </button>
    </div>
  );
}

/** The chosen stretch below, by steps. */
function Opened({ stretch, title, by, onBy }: { stretch: Stretch; title: string; by: AskedBy; onBy: (by: AskedBy) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box);
  const [measure, setMeasure] = useState<Measure>('units');
  return (
    <section className="load-opened" aria-label={`${stretch.name}, ${title}`}>
      <div className="load-opened-head">
        <h3>{stretch.name}</h3>
        <span className="muted">{title}</span>
        <div className="load-choice" role="group" aria-label="Measure">
          {(['units', 'hours', 'cumulative'] as const).map((m) => (
            <button key={m} type="button" aria-pressed={m === measure} onClick={() => setMeasure(m)}>
              {{ units: 'Units', hours: 'Hours', cumulative: 'Hours so far' }[m]}
            </button>
          ))}
        </div>
        {measure === 'units' && (
          <div className="load-choice" role="group" aria-label="Put together by">
            {askedBys.map((b) => (
              <button key={b} type="button" aria-pressed={b === by} onClick={() => onBy(b)}>
                {{ activity: 'Activities', project: 'Projects', role: 'Roles' }[b]}
              </button>
            ))}
          </div>
        )}
      </div>
      <div ref={box} className="load-graph">
        {width > 0 && <StepGraph stretch={stretch} width={width} height={168} measure={measure} />}
      </div>
    </section>
  );
}

/** The list of runs, each a way there. */
function Runs({ runs, all, onGo }: { runs: readonly RunRow[]; all: number; onGo: (run: RunRow) => void }) {
  if (runs.length === 0) return <p className="muted">Nothing is over its limit.</p>;
  return (
    <>
      <h3>Over the limit</h3>
      <ul className="load-runs">
        {runs.map((r) => (
          <li key={`${r.kind} ${r.id} ${r.from}`}>
            <button type="button" className="link-button" onClick={() => onGo(r)}>
              {r.name}
            </button>{' '}
            {r.hidden && <span className="chip bad">hidden</span>}
            <span className="muted">{runText(r)}</span>
          </li>
        ))}
      </ul>
      {all > runs.length && <p className="muted">and {all - runs.length} later ones</p>}
    </>
  );
}

/** What the chosen cell says: its figures in words, who asks, and what would solve it. */
function About({ stretch: s, title }: { stretch: Stretch; title: string }) {
  const session = useSession();
  const navigate = useNavigate();
  const preview = usePreview();
  const last = s.runs.at(-1);
  return (
    <>
      {preview.element}
      <h2>
        {s.name}, {title}
      </h2>
      <p>{cellSentence(s.cell, s.unit)}.</p>
      {s.runs.map((r) => (
        <p key={r.from} className="critical-text">
          {runText(r)}
        </p>
      ))}
      {s.asks.length > 0 && (
        <>
          <h3>Who asks for it</h3>
          <ul className="load-asks">
            {s.asks.map((a, n) => (
              <li key={a.key}>
                <span className="load-shade" style={{ background: shadeOf(n) }} aria-hidden="true" />
                {a.activityId !== null ? (
                  <button type="button" className="link-button" onClick={() => void navigate(`/p/${session.id}/plan`, { state: { reveal: a.activityId } })}>
                    {a.label}
                  </button>
                ) : (
                  <span title={a.project?.name}>{a.label}</span>
                )}
                <span className={a.float !== null && a.float <= 0 ? 'critical-text' : 'muted'}>
                  {s.unit === null ? `${hoursText(a.work)} h` : unitsText(a.work)}
                  {a.float === null ? '' : ` · float ${floatText(a.float, a.minutesPerDay)}`}
                </span>
              </li>
            ))}
          </ul>
          {s.more > 0 && <p className="muted">and {s.more} more</p>}
        </>
      )}
      {last && (
        <>
          <h3>What would solve it</h3>
          <ul className="load-asks">
            {s.asks.map((a) => {
              const outcome = a.activityId === null ? null : holdBack(session.doc, session.view, a.activityId, last.to);
              return (
                outcome?.ok && (
                  <li key={a.key}>
                    <span>{a.label} after it</span>
                    <button type="button" className="chip" onClick={() => preview.ask(outcome)}>
                      Try
                    </button>
                  </li>
                )
              );
            })}
            {s.kind === 'resource' && (
              <li>
                <span>{unitsText(Math.max(...s.runs.map((r) => r.excess)))} more, or somebody else</span>
                <button type="button" className="chip" onClick={() => void navigate(`/p/${session.id}/library`)}>
                  Library
                </button>
              </li>
            )}
          </ul>
        </>
      )}
    </>
  );
}
