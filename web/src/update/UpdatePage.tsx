import './update.css';
import { Menu, Modal, Select } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { plannedEntry } from '@yellowhammer/core/progress/as-planned';
import { goBackTo } from '@yellowhammer/core/commands/project';
import { entryChanges, entryProblems, takeOver } from '@yellowhammer/core/commands/update';
import { labelOf, ordered, projectOf } from '@yellowhammer/core/model/document';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { Activity, Snapshot } from '@yellowhammer/core/model/schema';
import { placeOf, type ScheduleView } from '@yellowhammer/core/schedule/view';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { downloadCsv } from '../app/csv';
import { DateField } from '../app/DateField';
import { BothWays } from '../app/StatusLogicDialog';
import { longDate, longFinish } from '../app/format';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { call } from '../project/api';
import { newId, useDoc, useSession, useTopic, useView } from '../project/hooks';
import { fields, groupNames, none, useDraft } from './draft';
import { Effect, Questions } from './Effect';
import { entryText, Worksheet } from './Worksheet';
import { showTypedDate } from '@yellowhammer/core/time/typed-date';
import { calendarFor } from '@yellowhammer/core/schedule/calendars';
import { type DueGroup, type Entry, dueList, withEntry } from '@yellowhammer/core/progress/due';

/** A worksheet for one window: due rows with wide entry cells, the window as a picture, and what the entries do. */
export function UpdatePage() {
  const session = useSession();
  const { doc, version } = useDoc();
  const view = useView();
  useTopic('sync');
  const linkVersion = useTopic('links');
  const { draft, set: setDraft, undo, redo, canUndo, canRedo } = useDraft(session.id);
  const [preview, setPreview] = useState<ScheduleView | null>(null);
  const [discarding, setDiscarding] = useState(false);
  const project = projectOf(doc);
  const old = project.dataDate ?? project.plannedStart;
  const next = draft.dataDate;
  const until = next === null ? undefined : parseInstant(next);
  const entries = useMemo(() => new Map(Object.entries(draft.entries)), [draft.entries]);
  const rows = useMemo(() => {
    if (!view || until === undefined) return [];
    const list: { id: string; group: DueGroup | 'extra' }[] = dueList(doc, view, until);
    const known = new Set(list.map((r) => r.id));
    for (const id of draft.extra) if (!known.has(id) && doc.activities.has(id)) list.push({ id, group: 'extra' });
    return list;
    // The document changes inside; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, until, doc, version, draft.extra]);
  const problems = useMemo(() => (next === null ? [] : entryProblems(doc, next, entries)), [doc, next, entries]);
  const changes = useMemo(() => (next === null || problems.length ? [] : entryChanges(doc, next, entries).changes), [doc, next, entries, problems]);
  useEffect(() => {
    if (next === null || problems.length) return setPreview(null);
    let gone = false;
    void session.worker.preview(changes).then((r) => !gone && setPreview(r.view));
    return () => {
      gone = true;
    };
  }, [session, version, next, changes, problems]);
  const snapshots = ordered(doc, 'snapshots');
  const number = snapshots.filter((s) => s.kind === 'statusUpdate').length;
  const restores = snapshots.filter((s) => s.kind === 'restorePoint').reverse();
  const goBack = async (restore: Snapshot): Promise<void> => {
    const reply = await call<string>('GET', `/projects/${session.id}/copies/${restore.id}`);
    const copy = reply.ok ? readProjectText(reply.value).file?.document : undefined;
    if (!copy) return session.onNotice({ tone: 'problem', title: 'Not done', text: 'The restore point could not be read. Try again when the server is there.' });
    if (session.run(goBackTo(doc, restore.id, copy)))
      session.onNotice({ tone: 'done', title: `The plan is as it was ${restore.name.toLowerCase()}`, text: 'Undo brings the update back.' });
  };
  const take = (): void => {
    if (next === null) return;
    const from = view?.projectFinish;
    const real = new Map([...entries].filter(([, e]) => Object.keys(e).length > 0));
    if (!session.run(takeOver(doc, { dataDate: next, entries: real, at: new Date().toISOString() }, newId))) return;
    const to = preview?.projectFinish;
    setDraft(none);
    if (from !== undefined && to !== undefined)
      session.onNotice({ tone: 'done', title: `Status update ${number + 1} taken over`, text: to === from ? 'The finish holds.' : `The finish is now ${longFinish(to)}.` });
  };
  const set = (id: string, entry: Entry | null): void => {
    const { [id]: _, ...rest } = draft.entries;
    setDraft({ ...draft, entries: entry === null ? rest : { ...rest, [id]: entry } });
  };
  const proposals = useMemo(() => {
    const out = new Map<string, Entry>();
    if (!view || until === undefined) return out;
    for (const r of rows) {
      const a = doc.activities.get(r.id);
      const i = a ? placeOf(view, a.id) : undefined;
      const c = a && calendarFor(doc, a);
      const entry = a && c && i !== undefined ? plannedEntry(a, c, view, i, until) : undefined;
      if (entry) out.set(r.id, entry);
    }
    return out;
  }, [rows, view, doc, until]);
  /** Takes what is proposed for rows; cells that were typed keep what was typed. */
  const takePlanned = (ids: readonly string[]): void => {
    const all = { ...draft.entries };
    for (const id of ids) {
      const planned = proposals.get(id);
      if (planned) all[id] = { ...planned, ...all[id] };
    }
    setDraft({ ...draft, entries: all });
  };
  // The document changes inside; the version says when.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const links = useMemo(() => ({ into: indexOf(doc).into, outOf: indexOf(doc).outOf }), [doc, linkVersion]);
  const csv = (): void =>
    downloadCsv(
      `${project.code} due list`,
      ['No.', 'Activity', 'Why', 'Started', 'Finished', 'Remaining', 'Done'],
      rows.map((r) => {
        const a = doc.activities.get(r.id) as Activity;
        const e = withEntry(a, draft.entries[r.id] ?? {});
        return [a.code, a.name, groupNames[r.group], ...fields.map((f) => entryText(doc, e, f))];
      }),
    );
  const refuseDate = (v: string): string | null =>
    project.dataDate !== null && (parseInstant(v) as number) < (parseInstant(project.dataDate) as number)
      ? `That lies before the present data date, ${showTypedDate(project.dataDate)}. Choose a later one, or go back to a restore point.`
      : null;
  const entered = entries.size;
  const clock = (text: string): string => (/T(00:00|24:00)$/.test(text) ? longDate(text) : `${longDate(text)}, ${text.slice(11)}`);
  return (
    <div className="update">
      <div className="update-top">
        <h2>Status update {number + 1}</h2>
        <div className="update-window">
          <span>
            from <b>{clock(old)}</b> to
          </span>
          <DateField label="New data date" value={next} end="start" refuse={refuseDate} onChange={(v) => v && setDraft({ ...draft, dataDate: v })} />
          {next !== null && (
            <span className="muted update-words">
              {rows.length} due · {entered} entered · grey is planned: Ctrl+Enter takes it, Ctrl+Shift+Enter takes all
            </span>
          )}
        </div>
        {restores.length > 0 && (
          <Menu position="bottom-end" width={330}>
            <Menu.Target>
              <button type="button" className="light-button update-restore">
                Go back
              </button>
            </Menu.Target>
            <Menu.Dropdown aria-label="Restore points">
              <Menu.Label>Makes the plan what it was; undo brings it back</Menu.Label>
              {restores.map((r) => (
                <Menu.Item key={r.id} onClick={() => void goBack(r)}>
                  {r.name} <span className="muted">{r.dataDate ? `data date ${longDate(r.dataDate)}` : `kept ${longDate(r.at.slice(0, 16))}`}</span>
                </Menu.Item>
              ))}
            </Menu.Dropdown>
          </Menu>
        )}
      </div>
      {next === null || until === undefined ? (
        <div className="page-empty">
          <h2>Choose the new data date</h2>
          <p>
            Everything up to it is known, everything after it is forecast. A restore point of the plan is kept first, so that you can always go back. Then the due list shows what
            the window touches.
            {project.dataDate === null ? ' This plan has no data date yet: the first update sets it.' : ''}
          </p>
          {canUndo && entered === 0 && (
            <button type="button" className="link-button" onClick={undo}>
              Bring back what was discarded or taken over
            </button>
          )}
        </div>
      ) : (
        <>
          <Worksheet
            rows={rows}
            draft={draft}
            doc={doc}
            view={preview ?? view}
            until={until}
            old={parseInstant(old) as number}
            proposals={proposals}
            problems={problems}
            onEntry={set}
            onTake={takePlanned}
            onUndo={undo}
            onRedo={redo}
          />
          <aside className="inspector" aria-label="What these entries do" tabIndex={0}>
            <h2>What these entries do</h2>
            {preview ? (
              <Effect before={view} after={preview} />
            ) : problems.length > 0 ? (
              <p className="critical-text">Some entries cannot stand; see below.</p>
            ) : (
              <p className="muted">Computing</p>
            )}
            {problems.length > 0 && (
              <ul className="problem-list" role="alert">
                {problems.map((p) => (
                  <li key={p.where.id}>{p.message}</li>
                ))}
              </ul>
            )}
            <div className="update-actions">
              <button type="button" className="dark-button" onClick={take} disabled={problems.length > 0}>
                Take over
              </button>
              <button type="button" className="light-button" onClick={() => (entered ? setDiscarding(true) : setDraft(none))}>
                Discard
              </button>
            </div>
            <p className="muted">Nothing is taken over yet. A restore point is kept with the update.</p>
            {view && <Questions rows={rows} draft={draft} view={view} links={links} />}
          </aside>
        </>
      )}
      <footer className="dock">
        {next !== null && (
          <>
            <AddReported onAdd={(id) => setDraft({ ...draft, extra: [...draft.extra, id] })} />
            <button type="button" className="chip" onClick={() => takePlanned(rows.map((r) => r.id))}>
              Take all as planned
            </button>
            <button type="button" className="chip" disabled={!canUndo} onClick={undo}>
              Undo entry
            </button>
            <button type="button" className="chip" disabled={!canRedo} onClick={redo}>
              Redo entry
            </button>
            <button type="button" className="chip" onClick={csv}>
              CSV
            </button>
          </>
        )}
        <span className="muted">Out-of-sequence progress:</span>
        <BothWays className="chip" changes={changes} />
        <span className="dock-right muted">{next === null ? '' : 'Previewed, nothing taken over yet'}</span>
      </footer>
      <Modal opened={discarding} onClose={() => setDiscarding(false)} title="Discard these entries?" size="sm">
        <p>
          {entered} {entered === 1 ? 'entry' : 'entries'} and the new data date would go. They can be brought back as long as this page is open.
        </p>
        <div className="update-actions">
          <button
            type="button"
            className="dark-button"
            onClick={() => {
              setDiscarding(false);
              setDraft(none);
            }}
          >
            Discard
          </button>
          <button type="button" className="light-button" data-autofocus onClick={() => setDiscarding(false)}>
            Keep them
          </button>
        </div>
      </Modal>
    </div>
  );
}

function AddReported({ onAdd }: { onAdd: (id: string) => void }) {
  const { doc } = useDoc();
  const [search, setSearch] = useState('');
  const q = search.toLowerCase();
  const data = useMemo(
    () =>
      [...doc.activities.values()]
        .filter((a) => a.actualFinish === null && a.type !== 'levelOfEffort' && a.type !== 'margin' && labelOf(a).toLowerCase().includes(q))
        .slice(0, 50)
        .map((a) => ({ value: a.id, label: labelOf(a) })),
    [doc, q],
  );
  return (
    <Select
      size="xs"
      w={210}
      searchable
      placeholder="Report another activity"
      aria-label="Report another activity"
      data={data}
      value={null}
      searchValue={search}
      onSearchChange={setSearch}
      filter={({ options }) => options}
      onChange={(v) => {
        if (v) onAdd(v);
        setSearch('');
      }}
    />
  );
}
