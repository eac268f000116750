import './library.css';
import { TextInput } from '@mantine/core';
import { useState } from 'react';
import { addCalendar } from '@yellowhammer/core/commands/calendars';
import { freeCalendarName, replaceByShared, takeShared } from '@yellowhammer/core/commands/shared';
import type { SharedEntry } from '@yellowhammer/core/commands/shared-views';
import { thingKey } from '@yellowhammer/core/commands/shared-things';
import { ordered, projectOf } from '@yellowhammer/core/model/document';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { usePreview } from '../app/Preview';
import { usePlaceWanted } from '../app/usePlaceWanted';
import { call } from '../project/api';
import { newId, useDoc, useSession } from '../project/hooks';
import { addCodeSet } from '@yellowhammer/core/commands/codes';
import { addOwnField, ownersOf, ownKindNames } from '@yellowhammer/core/commands/own-fields';
import { addLook } from '@yellowhammer/core/commands/views';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { AccountsView } from './AccountsView';
import { AlikeView } from './AlikeView';
import { CalendarView } from './CalendarView';
import { CodeSetView } from './CodeSetView';
import { LookView } from './LookView';
import { AddPeople, PeopleList } from './PeopleList';
import { CrewView, GroupView, ResourceView, RoleView } from './PeopleViews';
import { freeName } from './free-name';
import { PicturesView } from './PicturesView';
import { OwnFieldView } from './OwnFieldView';
import { AwayList, AwayThing } from './SharingLine';
import { useShared, useSharedThings } from './useShared';

/** What is chosen that is no single thing. */
const lists: readonly string[] = ['accounts', 'alike', 'pictures'];

/** Calendars, resources, code sets, own fields and looks: the list at the left, the thing itself at the right. */
export function LibraryPage() {
  const session = useSession();
  const { doc } = useDoc();
  const shared = useShared();
  const { entries: things } = useSharedThings();
  const list = ordered(doc, 'calendars');
  const project = projectOf(doc);
  const [chosen, setChosen] = useState(project.calendarId);
  const elsewhere = shared.entries.filter((e) => !list.some((c) => c.sharedId === e.calendar.id));
  // A shared calendar and one of the project may have the same id.
  const away = elsewhere.find((e) => `shared ${e.calendar.id}` === chosen);
  const calendar = doc.calendars.get(chosen) ?? doc.calendars.get(project.calendarId);
  const [name, setName] = useState('');
  const preview = usePreview();
  const add = (args: { copyOf?: string; basedOn?: string } = {}): void => {
    const outcome = addCalendar(doc, { name: name.trim() || freeCalendarName(doc.calendars.values(), 'New calendar'), ...args }, newId);
    if (session.run(outcome) && outcome.ok && outcome.made) {
      setChosen(outcome.made[0]!);
      setName('');
    }
  };
  const item = (c: Calendar, on: boolean, note = '', key = c.id) => (
    <button key={key} type="button" className={`library-item${on ? ' on' : ''}`} aria-current={on} onClick={() => setChosen(key)}>
      {c.name}
      {note && <span className="muted"> {note}</span>}
    </button>
  );
  const noteOf = (c: Calendar): string => (c.id === project.calendarId ? 'project’s' : '');
  const set = doc.codeSets.get(chosen.replace(/^set /, ''));
  const field = doc.ownFields.get(chosen.replace(/^field /, ''));
  const look = doc.looks.get(chosen.replace(/^look /, ''));
  const [table, personId] = chosen.split(' ') as [string, string | undefined];
  const resource = table === 'resources' ? doc.resources.get(personId ?? '') : undefined;
  const role = table === 'roles' ? doc.roles.get(personId ?? '') : undefined;
  const crew = table === 'crews' ? doc.crews.get(personId ?? '') : undefined;
  const resourceGroup = table === 'resourceGroups' ? doc.resourceGroups.get(personId ?? '') : undefined;
  const person = resource ?? role ?? crew ?? resourceGroup;
  const awayThing = things.find((e) => `away ${thingKey(e.table, e.row.id)}` === chosen);
  const other = set ?? field ?? look ?? person ?? awayThing;
  const addMade = (make: (name: string) => Outcome, word: 'set' | 'field' | 'look'): void => {
    const outcome = make(
      name.trim() || freeName([...doc.codeSets.values(), ...doc.ownFields.values(), ...doc.looks.values()], { set: 'New code set', field: 'New field', look: 'New look' }[word]),
    );
    if (session.run(outcome) && outcome.ok && outcome.made) {
      setChosen(`${word} ${outcome.made[0]!}`);
      setName('');
    }
  };
  const thing = (word: 'set' | 'field' | 'look', row: { id: string; name: string }, note: string) => (
    <button key={row.id} type="button" className={`library-item${row === other ? ' on' : ''}`} aria-current={row === other} onClick={() => setChosen(`${word} ${row.id}`)}>
      {row.name} <span className="muted">{note}</span>
    </button>
  );
  const group = (title: string, rows: Calendar[]) =>
    rows.length > 0 && (
      <>
        <h3>{title}</h3>
        {rows.map((c) => item(c, !lists.includes(chosen) && !away && !other && c.id === calendar?.id, noteOf(c)))}
      </>
    );
  // A command leads to the first of a kind; where there is none, to where one is made.
  const toPlace = (place: string): void => {
    const firstOf = (table: 'resources' | 'codeSets' | 'ownFields' | 'looks', word: string): string | undefined => {
      const [row] = ordered(doc, table);
      return row && `${word} ${row.id}`;
    };
    const first: Record<string, string | undefined> = {
      calendars: project.calendarId,
      people: firstOf('resources', 'resources'),
      codes: firstOf('codeSets', 'set'),
      fields: firstOf('ownFields', 'field'),
      looks: firstOf('looks', 'look'),
    };
    const key = place in first ? first[place] : place;
    if (key !== undefined) setChosen(key);
    setTimeout(() => {
      document.querySelector(`.library-list [data-place="${CSS.escape(place)}"]`)?.scrollIntoView({ block: 'start' });
      document.querySelector<HTMLElement>(key === undefined ? '.library-add input' : '.library-item.on')?.focus({ preventScroll: key !== undefined });
    });
  };
  usePlaceWanted(toPlace);
  return (
    <div className="library">
      {preview.element}
      <nav className="library-list" aria-label="Library">
        <h2 data-place="calendars">Calendars</h2>
        {group(
          'Shared',
          list.filter((c) => c.sharedId !== null),
        )}
        {group(
          'Of this project',
          list.filter((c) => c.sharedId === null),
        )}
        {elsewhere.length > 0 && (
          <>
            <h3>Shared, not used here</h3>
            {elsewhere.map((e) => item(e.calendar, e === away, '', `shared ${e.calendar.id}`))}
          </>
        )}
        <PeopleList chosen={chosen} onChoose={setChosen} />
        <AwayList tables={['resources', 'roles', 'crews']} entries={things} chosen={chosen} onChoose={setChosen} />
        <h2 data-place="accounts">Money</h2>
        <button type="button" className={`library-item${chosen === 'accounts' ? ' on' : ''}`} aria-current={chosen === 'accounts'} onClick={() => setChosen('accounts')}>
          Accounts and currencies <span className="muted">{doc.accounts.size || ''}</span>
        </button>
        <AwayList tables={['accounts']} entries={things} chosen={chosen} onChoose={setChosen} />
        <h2 data-place="codes">Code sets</h2>
        {ordered(doc, 'codeSets').map((s) => thing('set', s, `${s.values.length}`))}
        {doc.codeSets.size === 0 && <p className="muted library-none">Trade, area, phase: what activities are sorted by.</p>}
        <AwayList tables={['codeSets']} entries={things} chosen={chosen} onChoose={setChosen} />
        <h2 data-place="fields">Fields</h2>
        {ordered(doc, 'ownFields').map((f) => thing('field', f, `${ownKindNames[f.kind]}${f.of === 'activities' ? '' : ` of ${ownersOf(f.of)}`}`))}
        {doc.ownFields.size === 0 && <p className="muted library-none">Columns of your own, beside those that are there.</p>}
        <h2 data-place="looks">Bar looks</h2>
        {ordered(doc, 'looks').map((l) => thing('look', l, `${l.rules.length} ${l.rules.length === 1 ? 'rule' : 'rules'}`))}
        {doc.looks.size === 0 && <p className="muted library-none">How bars are drawn, by rules.</p>}
        <h2 data-place="pictures">Pictures</h2>
        <button type="button" className={`library-item${chosen === 'pictures' ? ' on' : ''}`} aria-current={chosen === 'pictures'} onClick={() => setChosen('pictures')}>
          Logo and signs on milestones <span className="muted">{doc.pictures.size || ''}</span>
        </button>
        <h2 data-place="alike">All projects</h2>
        <button type="button" className={`library-item${chosen === 'alike' ? ' on' : ''}`} aria-current={chosen === 'alike'} onClick={() => setChosen('alike')}>
          Alike but different
        </button>
        <div className="library-add">
          <TextInput
            size="xs"
            aria-label="Name of the new one"
            placeholder="Name of a new one"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            onKeyDown={(e) => e.key === 'Enter' && add()}
          />
          <button type="button" className="chip" onClick={() => add()}>
            New calendar
          </button>
          <button type="button" className="chip" onClick={() => addMade((n) => addCodeSet(doc, n, newId), 'set')}>
            New code set
          </button>
          <button type="button" className="chip" onClick={() => addMade((n) => addOwnField(doc, n, 'text', newId), 'field')}>
            New field
          </button>
          <button type="button" className="chip" onClick={() => addMade((n) => addOwnField(doc, n, 'computed', newId), 'field')}>
            New computed field
          </button>
          <button type="button" className="chip" onClick={() => addMade((n) => addLook(doc, n, [], newId), 'look')}>
            New look
          </button>
          <AddPeople
            name={name}
            onAdded={(key) => {
              setChosen(key);
              setName('');
            }}
          />
          {calendar && !away && !other && !lists.includes(chosen) && (
            <>
              <button type="button" className="chip" onClick={() => add({ copyOf: calendar.id })}>
                Copy this one
              </button>
              <button type="button" className="chip" onClick={() => add({ basedOn: calendar.id })}>
                New, based on this one
              </button>
            </>
          )}
        </div>
      </nav>
      {awayThing ? (
        <AwayThing
          key={chosen}
          entry={awayThing}
          onBrought={(id) => setChosen(awayThing.table === 'accounts' ? 'accounts' : awayThing.table === 'codeSets' ? `set ${id}` : `${awayThing.table} ${id}`)}
          onGone={() => setChosen(project.calendarId)}
        />
      ) : chosen === 'accounts' ? (
        <AccountsView />
      ) : chosen === 'pictures' ? (
        <PicturesView />
      ) : chosen === 'alike' ? (
        <AlikeView />
      ) : set ? (
        <CodeSetView key={set.id} set={set} />
      ) : field ? (
        <OwnFieldView key={field.id} field={field} />
      ) : look ? (
        <LookView key={look.id} look={look} />
      ) : resource ? (
        <ResourceView key={resource.id} row={resource} />
      ) : role ? (
        <RoleView key={role.id} row={role} />
      ) : crew ? (
        <CrewView key={crew.id} row={crew} />
      ) : resourceGroup ? (
        <GroupView key={resourceGroup.id} row={resourceGroup} />
      ) : away ? (
        <AwayView
          key={away.calendar.id}
          entry={away}
          rival={list.find((c) => c.name.toLowerCase() === away.calendar.name.toLowerCase())}
          onReplace={(id) => {
            setChosen(id);
            preview.ask(replaceByShared(doc, shared.calendars, away.calendar.id, id, newId), true);
          }}
          onBring={() => {
            const outcome = takeShared(doc, shared.calendars, away.calendar.id, newId);
            if (session.run(outcome) && outcome.ok && outcome.made?.[0]) setChosen(outcome.made[0]);
          }}
          onDelete={() => {
            void call('DELETE', `/shared-calendars/${away.calendar.id}`).then((r) => {
              if (!r.ok) session.onNotice({ tone: 'problem', title: 'Not deleted', text: r.problems.map((p) => p.message).join('\n') });
              void shared.reload();
            });
          }}
        />
      ) : (
        calendar && <CalendarView key={calendar.id} row={calendar} shared={shared} />
      )}
    </div>
  );
}

/** A shared calendar that this project does not use yet. */
function AwayView({
  entry,
  rival,
  onBring,
  onReplace,
  onDelete,
}: {
  entry: SharedEntry;
  /** A calendar of the project that has the same name. */
  rival: Calendar | undefined;
  onBring: () => void;
  onReplace: (id: string) => void;
  onDelete: () => void;
}) {
  const { calendar, usedBy } = entry;
  return (
    <main className="library-main" aria-label={`Calendar ${calendar.name}`}>
      <h2>{calendar.name}</h2>
      <p>A shared calendar that this project does not use. {usedBy.length ? `Used by ${usedBy.map((u) => `${u.code} ${u.name}`).join(', ')}.` : 'No project uses it.'}</p>
      <div className="library-actions">
        {rival ? (
          <button type="button" className="dark-button" onClick={() => onReplace(rival.id)}>
            Use it instead of the project’s own {rival.name}
          </button>
        ) : (
          <button type="button" className="dark-button" onClick={onBring}>
            Bring it into this project
          </button>
        )}
        <button type="button" className="light-button" onClick={onDelete}>
          Stop sharing it
        </button>
      </div>
      {usedBy.length > 0 && <p className="muted">When sharing stops, each project keeps its copy.</p>}
    </main>
  );
}
