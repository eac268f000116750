import './update.css';
import { Select } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { goBackTo } from '@yellowhammer/core/commands/project';
import { type DueGroup, dueList, type Entry, entryChanges, entryProblems, takeOver, withEntry } from '@yellowhammer/core/commands/update';
import { labelOf, ordered, projectOf } from '@yellowhammer/core/model/document';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { Activity } from '@yellowhammer/core/model/schema';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { downloadCsv } from '../app/csv';
import { BothWays } from '../app/StatusLogicDialog';
import { longDate, longFinish } from '../app/format';
import { DateField } from '../app/ProjectSettings';
import { call } from '../project/api';
import { newId, useDoc, useSession, useTopic, useView } from '../project/hooks';
import { fields, groupNames, none, useDraft } from './draft';
import { Effect, Questions } from './Effect';
import { entryText, proposal, Worksheet } from './Worksheet';

/** A worksheet for one window: due rows with wide entry cells, the window as a picture, and what the entries do. */
export function UpdatePage() {
  const session = useSession();
  const { doc, version } = useDoc();
  const view = useView();
  useTopic('sync');
  const [draft, setDraft] = useDraft(session.id);
  const [preview, setPreview] = useState<ScheduleView | null>(null);
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
  useEffect(() => {
    if (next === null || problems.length) return setPreview(null);
    let gone = false;
    void session.worker.preview(entryChanges(doc, next, entries).changes).then((r) => !gone && setPreview(r.view));
    return () => {
      gone = true;
    };
  }, [session, doc, version, next, entries, problems]);
  const snapshots = ordered(doc, 'snapshots');
  const number = snapshots.filter((s) => s.kind === 'statusUpdate').length;
  const restore = [...snapshots].reverse().find((s) => s.kind === 'restorePoint');
  const goBack = async (): Promise<void> => {
    if (!restore) return;
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
  const proposals = useMemo(() => new Map(rows.map((r) => [r.id, proposal(view, doc.activities.get(r.id), r.group, until)])), [rows, view, doc, until]);
  const takeAll = (): void => {
    const all = { ...draft.entries };
    for (const r of rows) if (!all[r.id] && r.group !== 'extra') all[r.id] = proposals.get(r.id) ?? {};
    setDraft({ ...draft, entries: all });
  };
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
  return (
    <div className="update">
      <div className="update-top">
        <h2>Status update {number + 1}</h2>
        <div className="update-window">
          <span>
            from <b>{longDate(old)}</b> to
          </span>
          <DateField label="" value={next} end="start" onChange={(v) => v && setDraft({ ...draft, dataDate: v })} />
          {next !== null && (
            <span className="muted">
              {rows.length} due · {entries.size} entered · grey is proposed: Tab takes it, Shift+Enter takes all
            </span>
          )}
        </div>
        {restore && (
          <div className="update-restore">
            <span className="muted">Restore point: {restore.name.toLowerCase()}</span>
            <button type="button" className="link-button" onClick={() => void goBack()}>
              Go back to it
            </button>
          </div>
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
            onTakeAll={takeAll}
          />
          <aside className="inspector" aria-label="What these entries do">
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
              <button type="button" className="light-button" onClick={() => setDraft(none)}>
                Discard
              </button>
            </div>
            <p className="muted">Nothing is taken over yet. A restore point is kept with the update.</p>
            <Questions rows={rows} draft={draft} />
          </aside>
        </>
      )}
      <footer className="dock">
        {next !== null && (
          <>
            <AddReported onAdd={(id) => setDraft({ ...draft, extra: [...draft.extra, id] })} />
            <button type="button" className="chip" onClick={takeAll}>
              Take all proposals
            </button>
            <button type="button" className="chip" onClick={csv}>
              CSV
            </button>
          </>
        )}
        <span className="muted">Out-of-sequence progress:</span>
        <BothWays className="chip" />
        <span className="dock-right muted">{next === null ? '' : 'Previewed, nothing taken over yet'}</span>
      </footer>
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
