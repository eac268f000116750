/** Who shares an account, code set, role, resource or crew with the project, whether its copy is still the same, and what can be done. */
import { type ReactNode, useEffect } from 'react';
import { makeOwnThing, takeThing, wordOf } from '@yellowhammer/core/commands/shared-rows';
import { contentOf, copyOf, type SharedRow, type SharedTable, sameThing, thingKey, thingName, thingState } from '@yellowhammer/core/commands/shared-things';
import type { SharedThingEntry } from '@yellowhammer/core/commands/shared-views';
import type { Row } from '@yellowhammer/core/model/tables';
import { usePreview } from '../app/Preview';
import { call, type Reply } from '../project/api';
import { newId, useDoc, useSession } from '../project/hooks';
import type { ProjectSession } from '../project/session';
import { useShared, useSharedThings } from './useShared';

const chip = (label: string, onClick: () => void): ReactNode => (
  <button type="button" className="chip" onClick={onClick}>
    {label}
  </button>
);

/** Tells what the server refuses. */
export function told(session: ProjectSession, reply: Reply<unknown>, title: string): boolean {
  if (!reply.ok) session.onNotice({ tone: 'problem', title, text: reply.problems.map((p) => p.message).join('\n') });
  return reply.ok;
}

export const shareRows = async (session: ProjectSession, rows: readonly { table: SharedTable; id: string }[]): Promise<void> => {
  const reply = await call<{ shared: number }>('POST', `/projects/${session.id}/share`, { rows });
  if (told(session, reply, 'Not shared') && reply.ok)
    session.onNotice({
      tone: 'done',
      title: 'Shared with all projects',
      text: reply.value.shared === 1 ? 'It is in the Library of every project.' : `${reply.value.shared} with what it names.`,
    });
};

export function SharingLine({ table, row }: { table: SharedTable; row: SharedRow }) {
  const session = useSession();
  const { doc } = useDoc();
  const shared = useShared();
  const list = useSharedThings();
  const preview = usePreview();
  const stock = { things: list.things, calendars: shared.calendars };
  const state = thingState(doc, list.things, table, row);
  const entry = list.entries.find((e) => e.table === table && e.row.id === row.sharedId);
  const word = wordOf(table);
  const own = chip('Make it the project’s own', () => session.run(makeOwnThing(doc, table, row.id)));
  if (state === 'own') {
    const twin = list.entries.find((e) => e.table === table && sameThing(e.row, row));
    return (
      <p className="sharing">
        {preview.element}
        <span>Only this project has it.</span>
        {twin
          ? chip(`Make it the shared ${word} of that name`, () => preview.ask(takeThing(doc, stock, table, twin.row.id, newId, row.id), true))
          : chip('Share it with all projects', () => void shareRows(session, [{ table, id: row.id }]).then(list.reload))}
      </p>
    );
  }
  if (state === 'gone')
    return (
      <p className="sharing">
        The shared {word} that it was taken from is not shared any more; the project keeps its copy. {own}
      </p>
    );
  const others = (entry?.usedBy ?? []).filter((u) => u.projectId !== session.id);
  if (state === 'same')
    return (
      <p className="sharing shared">
        <span>
          <b>{others.length ? `Shared with ${others.map((u) => u.code).join(', ')}.` : 'Shared; no other project uses it yet.'}</b> A change is shown for every project first.
        </span>
        {entry?.previous && chip(`Put back what ${entry.changedBy} changed`, () => putBack(session, table, row, entry))}
        {own}
      </p>
    );
  return (
    <p className="sharing differs">
      {preview.element}
      <span>
        <b>This project’s copy differs from the shared {word}</b>
        {entry && ` as ${entry.changedBy} last left it`}.
      </span>
      {chip('Take the shared one', () => preview.ask(takeThing(doc, stock, table, row.sharedId ?? '', newId, row.id), true))}
      {own}
    </p>
  );
}

/** Asks for the change that makes the shared row what it was: it names others by their shared ids, which have copies here. */
function putBack(session: ProjectSession, table: SharedTable, row: SharedRow, entry: SharedThingEntry): void {
  const { doc } = session;
  const copies = new Map<string, string>();
  for (const t of ['accounts', 'calendars', 'roles', 'resources'] as const) for (const r of doc[t].values()) if (r.sharedId !== null) copies.set(r.sharedId, r.id);
  const before = JSON.parse(JSON.stringify(contentOf(table, entry.previous as SharedRow)), (_, v: unknown) => (typeof v === 'string' ? (copies.get(v) ?? v) : v)) as object;
  session.run({ ok: true, label: `Put back ${row.name}`, changes: [{ table, id: row.id, before: row, after: { ...row, ...before } as Row }] });
}

/** Something shared that the project has no copy of. */
export function AwayThing({ entry, onBrought, onGone }: { entry: SharedThingEntry; onBrought: (id: string) => void; onGone: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const shared = useShared();
  const list = useSharedThings();
  const preview = usePreview();
  const word = wordOf(entry.table);
  const rival = ([...doc[entry.table].values()] as SharedRow[]).find((r) => r.sharedId === null && sameThing(r, entry.row));
  const bring = (): void => {
    const outcome = takeThing(doc, { things: list.things, calendars: shared.calendars }, entry.table, entry.row.id, newId);
    preview.ask(outcome, true);
  };
  const copy = copyOf(doc, entry.table, entry.row.id)?.id;
  useEffect(() => {
    if (copy !== undefined) onBrought(copy);
  }, [copy, onBrought]);
  return (
    <main className="library-main" aria-label={`Shared ${word} ${entry.row.name}`}>
      {preview.element}
      <h2>{thingName(entry)}</h2>
      <p>
        A shared {word} that this project does not have. {entry.usedBy.length ? `Used in ${entry.usedBy.map((u) => `${u.code} ${u.name}`).join(', ')}.` : 'No project uses it.'}
      </p>
      <div className="library-actions">
        <button type="button" className="dark-button" disabled={list.things.size === 0} onClick={bring}>
          {rival ? `Put it in the place of the project’s own ${rival.name}` : 'Bring it into this project'}
        </button>
        <button
          type="button"
          className="light-button"
          onClick={() =>
            void call('DELETE', `/shared/${entry.table}/${encodeURIComponent(entry.row.id)}`).then((r) => {
              if (told(session, r, 'Still shared')) onGone();
            })
          }
        >
          Stop sharing it
        </button>
      </div>
      <p className="muted">When sharing stops, each project keeps its copy. What it names comes with it: its role, accounts and calendar.</p>
    </main>
  );
}

/** Buttons of what is shared and not here, for the Library's list. */
export function AwayList({
  tables,
  entries,
  chosen,
  onChoose,
}: {
  tables: readonly SharedTable[];
  entries: readonly SharedThingEntry[];
  chosen: string;
  onChoose: (key: string) => void;
}) {
  const { doc } = useDoc();
  const away = entries.filter((e) => tables.includes(e.table) && !([...doc[e.table].values()] as SharedRow[]).some((r) => r.sharedId === e.row.id));
  if (away.length === 0) return null;
  return (
    <>
      <h3>Shared, not used here</h3>
      {away.map((e) => {
        const key = `away ${thingKey(e.table, e.row.id)}`;
        return (
          <button key={key} type="button" className={`library-item${key === chosen ? ' on' : ''}`} aria-current={key === chosen} onClick={() => onChoose(key)}>
            {thingName(e)} <span className="muted">{tables.length > 1 ? wordOf(e.table) : ''}</span>
          </button>
        );
      })}
    </>
  );
}
