/** Resources, roles, crews and groups in the Library: the thing itself, and where it is used. */
import { Select } from '@mantine/core';
import { useState } from 'react';
import { accountLabel, accountTree } from '@yellowhammer/core/commands/accounts';
import { readAssignments } from '@yellowhammer/core/commands/assign';
import { addPeople, canFill, crewText, deletePeople, type PeopleTable, setPeople, usesOf } from '@yellowhammer/core/commands/resources';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { namedColours } from '@yellowhammer/core/fields/extras';
import { type Document, ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Crew, Resource, ResourceGroup, ResourceKind, Role } from '@yellowhammer/core/model/resource-schema';
import type { Rows } from '@yellowhammer/core/model/tables';
import { compileCalendar, resolveCalendar } from '@yellowhammer/core/schedule/calendars';
import { CommitField } from '../app/CommitField';
import { OwnValues } from '../app/OwnValues';
import { usePreview } from '../app/Preview';
import { newId, useDoc, useSession } from '../project/hooks';
import { taken, Users } from './CodeSetView';
import { Entries } from './Entries';
import { ExceptionsSection } from './ExceptionsSection';
import { SharingLine } from './SharingLine';
import { useStateFor } from './useStateFor';
import { type Picked, YearSection } from './YearSection';
import { typedNumber } from '@yellowhammer/core/model/number-text';
import { statusDay } from '@yellowhammer/core/model/status-day';

const noDays: Picked = new Set();
const kindNames: Record<ResourceKind, string> = { labour: 'labour', equipment: 'equipment', material: 'material' };

/** Changes of one row, with the effect on the plan shown first where dates may move. */
function usePeople<T extends PeopleTable>(table: T, id: string) {
  const session = useSession();
  const { doc } = useDoc();
  const preview = usePreview();
  const run = (o: Outcome): boolean => session.run(o);
  return {
    doc,
    run,
    element: preview.element,
    /** Text fields: a refusal is told in the field. */
    set: (fields: Partial<Rows[T]>): string | null => taken(run, setPeople(doc, table, id, fields)),
    /** What may move dates is shown before it is taken. */
    ask: (fields: Partial<Rows[T]>): boolean => preview.ask(setPeople(doc, table, id, fields), true),
    remove: () => preview.ask(deletePeople(doc, table, id), true),
  };
}

function Title({ word, name, of, onName, onDelete }: { word: string; name: string; of: string; onName: (name: string) => string | null; onDelete: () => void }) {
  return (
    <div className="library-title">
      <CommitField of={of} aria-label={`Name of the ${word}`} value={name} onCommit={onName} />
      <button type="button" className="chip" onClick={onDelete}>
        Delete the {word}
      </button>
    </div>
  );
}

function Choice({
  label,
  value,
  none,
  rows,
  onChange,
}: {
  label: string;
  value: string | null;
  none: string;
  rows: readonly { id: string; name: string }[];
  onChange: (id: string | null) => void;
}) {
  return (
    <label>
      <span>{label}</span>
      <select value={value ?? ''} onChange={(e) => onChange(e.target.value || null)}>
        <option value="">{none}</option>
        {rows.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </select>
    </label>
  );
}

const ColourChoice = ({ value, onChange }: { value: string | null; onChange: (colour: string | null) => void }) => (
  <label>
    <span>Colour</span>
    <select value={value ?? ''} onChange={(e) => onChange(e.target.value || null)}>
      <option value="">none</option>
      {Object.entries(namedColours).map(([name, c]) => (
        <option key={c} value={c}>
          {name}
        </option>
      ))}
      {value && !Object.values(namedColours).includes(value) && <option value={value}>{value}</option>}
    </select>
  </label>
);

/** Accounts as lines of a choice, those that lie in others moved in. */
const accountRows = (doc: Document): { id: string; name: string }[] =>
  accountTree(doc).map(({ account, depth }) => ({ id: account.id, name: `${'\u00a0\u00a0'.repeat(depth)}${accountLabel(doc, account)}` }));

const amount = (text: string): number | null => {
  const n = typedNumber(text);
  return n !== undefined && Math.abs(n) <= 1e12 ? n : null;
};

export function ResourceView({ row }: { row: Resource }) {
  const { doc, set, ask, remove, element, run } = usePeople('resources', row.id);
  const [picked, setPicked] = useStateFor<Picked>(row.daysOff, noDays);
  const project = projectOf(doc);
  const material = row.kind === 'material';
  const near = statusDay(doc);
  const base = resolveCalendar(doc.calendars, row.calendarId ?? project.calendarId);
  const definition = base && { ...base, exceptions: [...base.exceptions, ...row.daysOff] };
  const uses = usesOf(doc, 'resources', row.id);
  const roles = ordered(doc, 'roles');
  const perUse = (text: string): string | null => {
    const n = text.trim() === '' ? 0 : amount(text);
    return n === null ? `${text} cannot be read as an amount.` : set({ perUse: n });
  };
  const otherRoles = (text: string): string | null => {
    const ids: string[] = [];
    for (const name of text.split(',').flatMap((t) => t.trim() || [])) {
      const role = roles.find((r) => r.name.toLowerCase() === name.toLowerCase());
      if (!role) return `There is no role ${name}. Add it first.`;
      ids.push(role.id);
    }
    return set({ otherRoles: ids });
  };
  return (
    <main className="library-main" aria-label={`Resource ${row.name}`}>
      {element}
      <Title word="resource" name={row.name} of={row.id} onName={(name) => set({ name })} onDelete={remove} />
      <SharingLine table="resources" row={row} />
      <div className="own-grid">
        <label>
          <span>Kind</span>
          <select value={row.kind} onChange={(e) => run(setPeople(doc, 'resources', row.id, { kind: e.target.value as ResourceKind }))}>
            {Object.entries(kindNames).map(([k, name]) => (
              <option key={k} value={k}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <Choice label="Group" value={row.groupId} none="none" rows={ordered(doc, 'resourceGroups')} onChange={(groupId) => set({ groupId })} />
        {!material && <Choice label="Own role" value={row.roleId} none="none" rows={roles} onChange={(roleId) => set({ roleId })} />}
        {!material && (
          <CommitField
            of={row.id}
            size="xs"
            label="Can also fill"
            placeholder="roles, parted by commas"
            value={row.otherRoles.map((id) => doc.roles.get(id)?.name ?? '').join(', ')}
            onCommit={otherRoles}
          />
        )}
        {!material && (
          <Choice
            label="Calendar"
            value={row.calendarId}
            none={`the project’s (${doc.calendars.get(project.calendarId)?.name ?? ''})`}
            rows={ordered(doc, 'calendars')}
            onChange={(calendarId) => ask({ calendarId })}
          />
        )}
        <ColourChoice value={row.colour} onChange={(colour) => set({ colour })} />
        {material && <CommitField of={row.id} size="xs" label="Measured in" placeholder="t, m2, pieces" value={row.unit} onCommit={(unit) => set({ unit })} />}
        <Choice label="Account" value={row.accountId} none="none" rows={accountRows(doc)} onChange={(accountId) => set({ accountId })} />
        <CommitField of={row.id} size="xs" label="Cost of each use" placeholder="0" value={row.perUse === 0 ? '' : String(row.perUse)} onCommit={perUse} />
        {!material && <CommitField of={row.id} size="xs" label="Mail" value={row.mail} onCommit={(mail) => set({ mail })} />}
        {!material && <CommitField of={row.id} size="xs" label="Phone" value={row.phone} onCommit={(phone) => set({ phone })} />}
        <OwnValues of="resources" row={row} />
      </div>
      <div className="people-entries">
        {!material && (
          <Entries
            title="How many are there"
            none="1 unit, always"
            unit="units"
            entries={row.availability.map((e) => ({ from: e.from, value: e.units }))}
            onChange={(list) => set({ availability: list.map((e) => ({ from: e.from, units: e.value })) })}
          />
        )}
        {material ? (
          <Entries
            title="Price"
            none="no price"
            unit={`${project.currency || 'each'}${row.unit ? ` a ${row.unit}` : ''}`}
            accounts
            entries={row.prices.map((e) => ({ from: e.from, value: e.price, accountId: e.accountId }))}
            onChange={(list) => set({ prices: list.map((e) => ({ from: e.from, price: e.value, accountId: e.accountId ?? null })) })}
          />
        ) : (
          <Entries
            title="Rate"
            none="no rate"
            unit={`${project.currency} an hour`.trim()}
            accounts
            entries={row.rates.map((e) => ({ from: e.from, value: e.perHour, accountId: e.accountId }))}
            onChange={(list) => set({ rates: list.map((e) => ({ from: e.from, perHour: e.value, accountId: e.accountId ?? null })) })}
          />
        )}
      </div>
      {!material && definition && base && (
        <>
          <h3 className="people-off">Days off</h3>
          <YearSection calendar={compileCalendar(definition)} first={near} picked={picked} onPick={setPicked} />
          <ExceptionsSection
            row={{ exceptions: row.daysOff }}
            definition={definition}
            parent={base.name}
            near={near}
            picked={picked}
            onPick={setPicked}
            set={({ exceptions }) => (exceptions ? ask({ daysOff: exceptions }) : false)}
            calendar={null}
          />
        </>
      )}
      <Users
        title="Where it is used"
        groups={uses.length ? [{ name: '', ids: [...new Set(uses.map((x) => x.activityId))] }] : []}
        none="Nobody has assigned it yet. Type its name into the column Assigned in Plan."
      />
    </main>
  );
}

export function RoleView({ row }: { row: Role }) {
  const { doc, set, remove, element } = usePeople('roles', row.id);
  const { currency } = projectOf(doc);
  const uses = usesOf(doc, 'roles', row.id);
  const fill = ordered(doc, 'resources').filter((r) => canFill(r, row));
  return (
    <main className="library-main" aria-label={`Role ${row.name}`}>
      {element}
      <Title word="role" name={row.name} of={row.id} onName={(name) => set({ name })} onDelete={remove} />
      <SharingLine table="roles" row={row} />
      <CommitField of={row.id} size="xs" aria-label="Description" placeholder="What it is" value={row.about} onCommit={(about) => set({ about })} />
      <div className="own-grid">
        <ColourChoice value={row.colour} onChange={(colour) => set({ colour })} />
        <Choice label="Account" value={row.accountId} none="none" rows={accountRows(doc)} onChange={(accountId) => set({ accountId })} />
      </div>
      <div className="people-entries">
        <Entries
          title="How many are there"
          none="as many as have it as their own role"
          unit="units"
          entries={row.availability.map((e) => ({ from: e.from, value: e.units }))}
          onChange={(list) => set({ availability: list.map((e) => ({ from: e.from, units: e.value })) })}
        />
        <Entries
          title="Rate"
          none="no rate"
          unit={`${currency} an hour`.trim()}
          accounts
          entries={row.rates.map((e) => ({ from: e.from, value: e.perHour, accountId: e.accountId }))}
          onChange={(list) => set({ rates: list.map((e) => ({ from: e.from, perHour: e.value, accountId: e.accountId ?? null })) })}
        />
      </div>
      <p>{fill.length ? `Filled by ${fill.map((r) => r.name).join(', ')}.` : 'No resource fills it yet: choose it as the own role of one.'}</p>
      <Users title="To be filled" groups={uses.length ? [{ name: '', ids: [...new Set(uses.map((x) => x.activityId))] }] : []} none="No activity asks for it." />
    </main>
  );
}

export function CrewView({ row }: { row: Crew }) {
  const { doc, set, remove, element } = usePeople('crews', row.id);
  const lines = (text: string): string | null => {
    const read = readAssignments(doc, text);
    if (typeof read === 'string') return read;
    return set({ lines: read.map((t) => ({ ...t.to, units: t.amount ?? 1 })) });
  };
  return (
    <main className="library-main" aria-label={`Crew ${row.name}`}>
      {element}
      <Title word="crew" name={row.name} of={row.id} onName={(name) => set({ name })} onDelete={remove} />
      <SharingLine table="crews" row={row} />
      <CommitField of={row.id} size="xs" aria-label="Description" placeholder="What it is for" value={row.about} onCommit={(about) => set({ about })} />
      <CommitField of={row.id} size="xs" label="Who is in it" placeholder="mason 2, rigger 1" value={crewText(doc, row)} onCommit={lines} />
      <p className="muted">Assigning the crew makes one assignment for each of them. In the inspector of an activity, choose the crew and how many.</p>
    </main>
  );
}

export function GroupView({ row }: { row: ResourceGroup }) {
  const { doc, set, remove, element, run } = usePeople('resourceGroups', row.id);
  const [name, setName] = useState('');
  const members = ordered(doc, 'resources').filter((r) => r.groupId === row.id);
  return (
    <main className="library-main" aria-label={`Group ${row.name}`}>
      {element}
      <Title word="group" name={row.name} of={row.id} onName={(text) => set({ name: text })} onDelete={remove} />
      <div className="own-grid">
        <Choice
          label="Lies in"
          value={row.parentId}
          none="the top"
          rows={ordered(doc, 'resourceGroups').filter((g) => g.id !== row.id)}
          onChange={(parentId) => set({ parentId })}
        />
      </div>
      <p>{members.length ? members.map((r) => r.name).join(', ') : 'Nobody is in it yet.'}</p>
      <div className="library-actions">
        <Select
          size="xs"
          aria-label="Put a resource into it"
          placeholder="Put a resource into it"
          searchable
          value={null}
          data={ordered(doc, 'resources')
            .filter((r) => r.groupId !== row.id)
            .map((r) => ({ value: r.id, label: r.name }))}
          onChange={(id) => id && run(setPeople(doc, 'resources', id, { groupId: row.id }))}
        />
        <CommitField
          size="xs"
          aria-label="Name of a new resource"
          placeholder="Name of a new resource"
          value={name}
          onCommit={(text) => {
            const wrong = taken(run, addPeople(doc, 'resources', text, { groupId: row.id }, newId));
            if (!wrong) setName('');
            return wrong;
          }}
        />
      </div>
    </main>
  );
}
