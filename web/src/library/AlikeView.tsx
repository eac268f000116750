/** What looks alike over all projects but differs: side by side, and made one, with what that does told before. */
import { useCallback, useEffect, useState } from 'react';
import { adopt, alikeIn, type Finding, type Lookalikes, mergeSets } from '@yellowhammer/core/commands/alike';
import { deleteCodeValue } from '@yellowhammer/core/commands/codes';
import { call } from '../project/api';
import { newId, useSession, useTopic } from '../project/hooks';

interface Does {
  does: { project: string; label: string; rows: number }[];
  problems: { message: string }[];
}

export function AlikeView() {
  const session = useSession();
  const saved = useTopic('sync');
  const [projects, setProjects] = useState<Lookalikes[] | null>(null);
  const [wrong, setWrong] = useState('');
  const load = useCallback(async (): Promise<void> => {
    const reply = await call<{ projects: Lookalikes[] }>('GET', '/alike');
    if (reply.ok) setProjects(reply.value.projects);
    else setWrong(reply.problems.map((p) => p.message).join(' '));
  }, []);
  const settled = session.sync.state === 'saved';
  useEffect(() => {
    if (settled) void load();
  }, [load, settled, saved]);
  const findings = projects ? alikeIn(projects) : [];
  return (
    <main className="library-main" aria-label="Alike but different">
      <h2>Alike but different</h2>
      <p className="muted">
        Code sets, values and fields of all projects whose names or values look the same but are not: case, spaces, plural, the same values under another name.
      </p>
      {wrong && <p role="alert">{wrong}</p>}
      {projects === null && !wrong && <p role="status">Looking through all projects</p>}
      {projects !== null && findings.length === 0 && <p>Nothing: what has the same name in {projects.length} projects is the same in all of them.</p>}
      {findings.map((f) => (
        <FindingView key={`${f.kind} ${f.members.map((m) => `${m.projectId} ${m.id}`).join(' ')}`} finding={f} projects={projects ?? []} onDone={load} />
      ))}
    </main>
  );
}

function FindingView({ finding: f, projects, onDone }: { finding: Finding; projects: readonly Lookalikes[]; onDone: () => Promise<void> }) {
  const session = useSession();
  const { doc } = session;
  const [keep, setKeep] = useState(0);
  const [does, setDoes] = useState<Does | null>(null);
  const kept = f.members[keep];
  const owner = projects.find((p) => p.projectId === kept?.projectId);
  const like = {
    set: f.kind === 'set' ? (owner?.codeSets.find((s) => s.id === kept?.id) ?? null) : null,
    field: f.kind === 'field' ? (owner?.ownFields.find((x) => x.id === kept?.id) ?? null) : null,
  };
  const others = f.members.filter((_, i) => i !== keep);
  const here = others.filter((m) => m.projectId === session.id);
  const away = others.filter((m) => m.projectId !== session.id);
  // Two of one project are merged, not made like each other.
  const twins = f.kind === 'set' && new Set(f.members.map((m) => m.projectId)).size < f.members.length;
  const send = (dry: boolean): Promise<Awaited<ReturnType<typeof call<Does>>>> =>
    call<Does>('POST', '/alike', { targets: away.map((m) => ({ projectId: m.projectId, id: m.id })), ...like, dry });
  const look = async (): Promise<void> => {
    const told: Does = { does: [], problems: [] };
    for (const m of here) {
      const o = adopt(doc, m.id, like, newId);
      if (o.ok) told.does.push({ project: m.project, label: o.label, rows: o.changes.length });
      else told.problems.push(...o.problems);
    }
    if (away.length) {
      const reply = await send(true);
      if (reply.ok) {
        told.does.push(...reply.value.does);
        told.problems.push(...reply.value.problems);
      } else told.problems.push(...reply.problems);
    }
    setDoes(told);
  };
  const make = async (): Promise<void> => {
    if (away.length) {
      const reply = await send(false);
      if (!reply.ok) return setDoes({ does: [], problems: reply.problems });
    }
    // The project of this window by itself, so that it can be undone here like any other act.
    for (const m of here) session.run(adopt(session.doc, m.id, like, newId));
    setDoes(null);
    await onDone();
  };
  if (f.kind === 'value') {
    const [a, b] = f.members;
    const ours = a?.projectId === session.id;
    const [set, first] = (a?.id ?? ' ').split(' ');
    const second = (b?.id ?? ' ').split(' ')[1];
    return (
      <section className="alike" aria-label={f.words[0]}>
        <p>{f.words[0]}</p>
        {ours && a && b && set && first && second ? (
          <div className="library-actions">
            <button type="button" className="chip" onClick={() => session.run(deleteCodeValue(doc, set, second, first))}>
              Make {b.name} {a.name}
            </button>
            <button type="button" className="chip" onClick={() => session.run(deleteCodeValue(doc, set, first, second))}>
              Make {a.name} {b.name}
            </button>
          </div>
        ) : (
          <p className="muted">Open {a?.project} to merge the two.</p>
        )}
      </section>
    );
  }
  const mine = f.members.filter((m) => m.projectId === session.id);
  return (
    <section className="alike" aria-label={`${f.members[0]?.name ?? ''} in ${f.members.length} places`}>
      <h3>
        {f.kind === 'set' ? 'Code set' : 'Field'}: {[...new Set(f.members.map((m) => m.name))].join(', ')}
      </h3>
      <p className="muted">
        {f.words.slice(0, 8).join('; ')}
        {f.words.length > 8 ? `; and ${f.words.length - 8} more` : ''}
      </p>
      <table className="code-values">
        <thead>
          <tr>
            <th>Keep</th>
            <th>Project</th>
            <th>Name</th>
            <th>{f.kind === 'set' ? 'Values' : 'Kind'}</th>
          </tr>
        </thead>
        <tbody>
          {f.members.map((m, i) => (
            <tr key={`${m.projectId} ${m.id}`}>
              <td>
                <input type="radio" aria-label={`Keep it as in ${m.project}`} checked={i === keep} onChange={() => (setKeep(i), setDoes(null))} />
              </td>
              <td>{m.project}</td>
              <td>{m.name}</td>
              <td>{m.detail}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="library-actions">
        {twins && mine.length > 1 ? (
          <button type="button" className="dark-button" onClick={() => session.run(mergeSets(doc, mine[1]!.id, mine[0]!.id, newId))}>
            Merge {mine[1]!.name} into {mine[0]!.name}
          </button>
        ) : !does ? (
          <button type="button" className="chip" onClick={() => void look()}>
            Make all as in {kept?.project}: what would it do?
          </button>
        ) : (
          <>
            <button type="button" className="dark-button" disabled={does.problems.length > 0 || does.does.length === 0} onClick={() => void make()}>
              Make them one
            </button>
            <button type="button" className="link-button" onClick={() => setDoes(null)}>
              Leave them as they are
            </button>
          </>
        )}
      </div>
      {does && (
        <ul role="status">
          {does.does.map((d) => (
            <li key={d.project}>
              {d.project}: {d.label}
              {d.rows > 1 && `, ${d.rows - 1} ${d.rows === 2 ? 'activity' : 'activities'}`}
            </li>
          ))}
          {does.does.length === 0 && does.problems.length === 0 && <li>Nothing differs any more.</li>}
          {does.problems.map((p) => (
            <li key={p.message} className="critical-text">
              {p.message}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
