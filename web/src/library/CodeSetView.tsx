/** A code set: its values in their tree, each with short name, name and colour; and which activities have them. */
import { TextInput } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { addCodeValue, codeTree, codeUses, deleteCodeSet, deleteCodeValue, editCodeSet, editCodeValue, moveCodeValue } from '@yellowhammer/core/commands/codes';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { namedColours } from '@yellowhammer/core/fields/extras';
import { labelOf } from '@yellowhammer/core/model/document';
import type { CodeSet, CodeValue } from '@yellowhammer/core/model/schema';
import { useNavigate } from 'react-router';
import { CommitField } from '../app/CommitField';
import { newId, useDoc, useSession } from '../project/hooks';
import { SharingLine } from './SharingLine';

/** What a field says where what was typed cannot be taken. */
export const taken = (run: (o: Outcome) => boolean, o: Outcome): string | null => (o.ok ? (run(o), null) : o.problems[0]!.message);

export function CodeSetView({ set }: { set: CodeSet }) {
  const session = useSession();
  const { doc } = useDoc();
  const [short, setShort] = useState('');
  const [leaving, setLeaving] = useState<CodeValue | null>(null);
  const uses = codeUses(doc, set.id);
  const run = (o: Outcome): boolean => session.run(o);
  const add = (): void => {
    if (short.trim() && run(addCodeValue(doc, set.id, { short }, newId))) setShort('');
  };
  return (
    <main className="library-main" aria-label={`Code set ${set.name}`}>
      <div className="library-title">
        <CommitField of={set.id} aria-label="Name of the code set" value={set.name} onCommit={(name) => taken(run, editCodeSet(doc, set.id, { name }))} />
        <button type="button" className="chip" onClick={() => run(deleteCodeSet(doc, set.id))}>
          Delete the set
        </button>
      </div>
      <SharingLine table="codeSets" row={set} />
      <CommitField
        of={set.id}
        size="xs"
        aria-label="Description"
        placeholder="What it is for"
        value={set.about}
        onCommit={(about) => taken(run, editCodeSet(doc, set.id, { about }))}
      />
      <table className="code-values">
        <thead>
          <tr>
            <th>Short name</th>
            <th>Name</th>
            <th>In</th>
            <th>Colour</th>
            <th className="right">Activities</th>
            <th aria-label="Place" />
          </tr>
        </thead>
        <tbody>
          {codeTree(set).map(({ value: v, depth }) => (
            <tr key={v.id}>
              <td style={{ paddingLeft: depth * 18 }}>
                <CommitField
                  of={v.id}
                  size="xs"
                  aria-label={`Short name of ${v.short}`}
                  value={v.short}
                  onCommit={(text) => taken(run, editCodeValue(doc, set.id, v.id, { short: text }))}
                />
              </td>
              <td>
                <CommitField of={v.id} size="xs" aria-label={`Name of ${v.short}`} value={v.name} onCommit={(name) => taken(run, editCodeValue(doc, set.id, v.id, { name }))} />
              </td>
              <td>
                <select aria-label={`${v.short} lies in`} value={v.parentId ?? ''} onChange={(e) => run(editCodeValue(doc, set.id, v.id, { parentId: e.target.value || null }))}>
                  <option value="">the top</option>
                  {set.values
                    .filter((x) => x.id !== v.id)
                    .map((x) => (
                      <option key={x.id} value={x.id}>
                        {x.short}
                      </option>
                    ))}
                </select>
              </td>
              <td>
                <span className="code-colour" style={{ background: v.colour ?? 'transparent' }} aria-hidden="true" />
                <select aria-label={`Colour of ${v.short}`} value={v.colour ?? ''} onChange={(e) => run(editCodeValue(doc, set.id, v.id, { colour: e.target.value || null }))}>
                  <option value="">none</option>
                  {Object.entries(namedColours).map(([name, c]) => (
                    <option key={c} value={c}>
                      {name}
                    </option>
                  ))}
                  {v.colour && !Object.values(namedColours).includes(v.colour) && <option value={v.colour}>{v.colour}</option>}
                </select>
              </td>
              <td className="right">{uses.get(v.id)?.length ?? 0}</td>
              <td className="code-acts">
                <button type="button" className="plain-button" aria-label={`Move ${v.short} up`} onClick={() => run(moveCodeValue(doc, set.id, v.id, -1))}>
                  <IconArrowUp size={14} stroke={1.6} />
                </button>
                <button type="button" className="plain-button" aria-label={`Move ${v.short} down`} onClick={() => run(moveCodeValue(doc, set.id, v.id, 1))}>
                  <IconArrowDown size={14} stroke={1.6} />
                </button>
                <button
                  type="button"
                  className="plain-button"
                  aria-label={`Delete ${v.short}`}
                  onClick={() => ((uses.get(v.id)?.length ?? 0) > 0 ? setLeaving(v) : run(deleteCodeValue(doc, set.id, v.id)))}
                >
                  <IconTrash size={14} stroke={1.6} />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {set.values.length === 0 && <p className="muted">A set without values says nothing yet. Type the first one: its short name stands in the column of the sheet.</p>}
      {leaving && <Instead set={set} value={leaving} count={uses.get(leaving.id)?.length ?? 0} onDone={() => setLeaving(null)} />}
      <div className="library-actions">
        <TextInput
          size="xs"
          aria-label="Short name of a new value"
          placeholder="Short name of a new value"
          value={short}
          onChange={(e) => setShort(e.currentTarget.value)}
          onKeyDown={(e) => e.key === 'Enter' && add()}
        />
        <button type="button" className="chip" onClick={add}>
          Add value
        </button>
      </div>
      <Users
        title="Where it is used"
        groups={codeTree(set).flatMap(({ value }) => (uses.has(value.id) ? [{ name: value.short, ids: (uses.get(value.id) ?? []).map((a) => a.id) }] : []))}
      />
    </main>
  );
}

/** A value that activities have is deleted only with what they get in its place. */
function Instead({ set, value, count, onDone }: { set: CodeSet; value: CodeValue; count: number; onDone: () => void }) {
  const session = useSession();
  const [other, setOther] = useState('');
  return (
    <div className="code-instead" role="group" aria-label={`Delete ${value.short}`}>
      <span>
        {count} {count === 1 ? 'activity has' : 'activities have'} {value.short}. In its place they get
      </span>
      <select aria-label="What they get in its place" value={other} onChange={(e) => setOther(e.target.value)}>
        <option value="">nothing</option>
        {set.values
          .filter((v) => v.id !== value.id)
          .map((v) => (
            <option key={v.id} value={v.id}>
              {v.short}
            </option>
          ))}
      </select>
      <button type="button" className="dark-button" onClick={() => session.run(deleteCodeValue(session.doc, set.id, value.id, other || null)) && onDone()}>
        Delete {value.short}
      </button>
      <button type="button" className="link-button" onClick={onDone}>
        Keep it
      </button>
    </div>
  );
}

/** Rows that are told by name where something is used. */
export const MOST_NAMED = 12;

/** Activities by what they have, with a way to each. */
export function Users({
  title,
  groups,
  none = 'No activity has a value of it yet. Choose its column in Plan, or the details of the inspector.',
}: {
  title: string;
  groups: { name: string; ids: string[] }[];
  none?: string;
}) {
  const session = useSession();
  const navigate = useNavigate();
  if (groups.length === 0) return <p className="muted">{none}</p>;
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      {groups.map((g) => (
        <p key={g.name} className="code-users">
          {g.name && <b>{g.name} </b>}
          {g.ids.slice(0, MOST_NAMED).flatMap((id) => {
            const a = session.doc.activities.get(id);
            return a
              ? [
                  <button key={id} type="button" className="link-button" onClick={() => void navigate(`/p/${session.id}/plan`, { state: { reveal: id } })}>
                    {labelOf(a)}
                  </button>,
                ]
              : [];
          })}
          {g.ids.length > MOST_NAMED && <span className="muted">and {g.ids.length - MOST_NAMED} more</span>}
        </p>
      ))}
    </section>
  );
}
