/** The part of the Library's list that names resources in their groups, roles and crews; and ways to add many at once. */
import Papa from 'papaparse';
import { Modal, Textarea } from '@mantine/core';
import { useState } from 'react';
import { addPeople, addRoles, importResources, type PeopleTable, roleLists } from '@yellowhammer/core/commands/resources';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import { freeName } from './free-name';
import { newId, useDoc, useSession } from '../project/hooks';

/** `table id` of one of the rows. */
export const peopleKey = (table: PeopleTable, id: string): string => `${table} ${id}`;
const newNames: Record<PeopleTable, string> = { resources: 'New resource', roles: 'New role', crews: 'New crew', resourceGroups: 'New group' };

export function PeopleList({ chosen, onChoose }: { chosen: string; onChoose: (key: string) => void }) {
  const { doc } = useDoc();
  const item = (table: PeopleTable, row: { id: string; name: string }, note: string, depth = 0) => {
    const key = peopleKey(table, row.id);
    return (
      <button
        key={key}
        type="button"
        className={`library-item${key === chosen ? ' on' : ''}`}
        aria-current={key === chosen}
        style={{ paddingLeft: 8 + depth * 14 }}
        onClick={() => onChoose(key)}
      >
        {row.name} {note && <span className="muted">{note}</span>}
      </button>
    );
  };
  const resources = ordered(doc, 'resources');
  const groups = ordered(doc, 'resourceGroups');
  const branch = (parent: string | null, depth: number): React.ReactNode[] =>
    groups
      .filter((g) => g.parentId === parent)
      .flatMap((g) => [
        item('resourceGroups', g, 'group', depth),
        ...branch(g.id, depth + 1),
        ...resources.filter((r) => r.groupId === g.id).map((r) => item('resources', r, r.kind === 'labour' ? '' : r.kind, depth + 1)),
      ]);
  return (
    <>
      <h2 data-place="people">Resources</h2>
      {branch(null, 0)}
      {resources.filter((r) => r.groupId === null).map((r) => item('resources', r, r.kind === 'labour' ? '' : r.kind))}
      {resources.length === 0 && <p className="muted library-none">People, plant and material: who and what does the work.</p>}
      {doc.roles.size > 0 && <h3>Roles</h3>}
      {ordered(doc, 'roles').map((r) => item('roles', r, ''))}
      {doc.crews.size > 0 && <h3>Crews</h3>}
      {ordered(doc, 'crews').map((c) => item('crews', c, `${c.lines.length}`))}
    </>
  );
}

/** Buttons that add one, a list of roles, or a spreadsheet. */
export function AddPeople({ name, onAdded }: { name: string; onAdded: (key: string) => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const [pasting, setPasting] = useState(false);
  const add = (table: PeopleTable): void => {
    const wish = freeName([...doc[table].values()], name.trim() || newNames[table]);
    const outcome = addPeople(doc, table, wish, {}, newId);
    if (session.run(outcome) && outcome.ok && outcome.made) onAdded(peopleKey(table, outcome.made[0]!));
  };
  return (
    <>
      {(['resources', 'roles', 'crews', 'resourceGroups'] as const).map((table) => (
        <button key={table} type="button" className="chip" onClick={() => add(table)}>
          {newNames[table]}
        </button>
      ))}
      {roleLists.map((list) => (
        <button key={list.trade} type="button" className="chip" title={list.roles.join(', ')} onClick={() => session.run(addRoles(doc, list, newId))}>
          Roles: {list.trade.toLowerCase()}
        </button>
      ))}
      <button type="button" className="chip" onClick={() => setPasting(true)}>
        Resources from a spreadsheet
      </button>
      {pasting && <PasteList onClose={() => setPasting(false)} />}
    </>
  );
}

function PasteList({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const { doc } = useDoc();
  const [text, setText] = useState('');
  const [error, setError] = useState<string | null>(null);
  const project = projectOf(doc);
  const take = (): void => {
    const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
    const outcome = importResources(doc, data, (project.dataDate ?? project.plannedStart).slice(0, 10), newId);
    if (!outcome.ok) return setError(outcome.problems[0]!.message);
    session.run(outcome);
    onClose();
  };
  return (
    <Modal opened onClose={onClose} title="Resources from a spreadsheet" size="lg">
      <p className="muted">
        Copy the rows and paste them here, or open a CSV file. Columns by their heads: name, kind, role, group, units, rate, unit, mail, phone; without heads in that order. Those
        that are here already, by name, are changed.
      </p>
      <Textarea autosize minRows={8} maxRows={16} aria-label="Rows of the spreadsheet" value={text} error={error} onChange={(e) => setText(e.currentTarget.value)} />
      <div className="library-actions">
        <button type="button" className="dark-button" onClick={take}>
          Take them over
        </button>
        <input
          type="file"
          accept=".csv,.tsv,text/csv"
          aria-label="Open a CSV file"
          onChange={(e) => {
            const file = e.currentTarget.files?.[0];
            if (file) void file.text().then(setText);
          }}
        />
      </div>
    </Modal>
  );
}
