import { Checkbox, Modal, Select, TextInput } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { formatHours, parseHours } from '@yellowhammer/core/commands/hours';
import type { SharedEntry } from '@yellowhammer/core/commands/shared-views';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { civilOf, parseDay, parseInstant } from '@yellowhammer/core/time/instant';
import { parseTypedDate, weekdayNames } from '@yellowhammer/core/time/typed-date';
import { useHolidays } from '../app/useHolidays';
import { call } from '../project/api';

/** What a new project needs to know of the others: where calendars can be taken from, and which codes are there. */
type Known = { id: string; code: string; name: string; deletedAt: string | null };

const own = 'own';

/** Asks for the few things a project cannot do without. */
export function NewProject({ opened, onClose, known }: { opened: boolean; onClose: () => void; known: Known[] }) {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [code, setCode] = useState('');
  const [start, setStart] = useState('');
  const [finish, setFinish] = useState('');
  const [from, setFrom] = useState(own);
  const [worked, setWorked] = useState([true, true, true, true, true, false, false]);
  const [hours, setHours] = useState('08:00-12:00, 13:00-17:00');
  const [calendars, setCalendars] = useState<{ value: string; label: string }[]>([]);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const today = Math.floor(Date.now() / 86_400_000);
  const begins = parseTypedDate(start || '', today);
  const ends = finish.trim() ? parseTypedDate(finish, today) : undefined;
  // Holidays from the start to two years on, or to a year after the required finish.
  const years = useMemo(() => {
    const yearOf = (t: string | undefined): number | undefined => (t === undefined ? undefined : civilOf(parseDay(t.slice(0, 10)) ?? 0).year);
    const a = yearOf(begins) ?? civilOf(today).year;
    const b = Math.min(Math.max((yearOf(ends) ?? a + 1) + 1, a), a + 15);
    return Array.from({ length: b - a + 1 }, (_, i) => a + i).join(',');
  }, [begins, ends, today]);
  const holidays = useHolidays(years, opened && from === own);
  useEffect(() => {
    if (!opened) return;
    void (async () => {
      const all: { value: string; label: string }[] = [];
      const shared = await call<SharedEntry[]>('GET', '/shared-calendars');
      if (shared.ok) for (const { calendar } of shared.value) all.push({ value: `shared ${calendar.id}`, label: `${calendar.name} (shared)` });
      for (const e of known.filter((x) => !x.deletedAt).slice(0, 12)) {
        const reply = await call<{ id: string; name: string }[]>('GET', `/projects/${e.id}/calendars`);
        if (reply.ok) for (const c of reply.value) all.push({ value: `${e.id} ${c.id}`, label: `${c.name} (from ${e.code})` });
      }
      setCalendars(all);
    })();
  }, [opened, known]);
  const short = (
    code.trim() ||
    name
      .replace(/[^\p{L}\p{N} ]/gu, '')
      .trim()
      .split(/\s+/)[0] ||
    'PLAN'
  )
    .slice(0, 12)
    .toUpperCase();
  const twin = known.find((e) => !e.deletedAt && e.code.toUpperCase() === short);
  const submit = async (): Promise<void> => {
    const wrong: Record<string, string> = {};
    if (!name.trim()) wrong['name'] = 'A project needs a name.';
    if (!begins) wrong['start'] = start ? `${start} cannot be read. Type it as 2 mar 2026.` : 'When may work begin? Type it as 2 mar 2026.';
    if (finish.trim() && ends === undefined) wrong['finish'] = `${finish} cannot be read. Type it as 30 sep 2027.`;
    const plannedStart = begins && (begins.length > 10 ? begins : `${begins}T00:00`);
    const requiredFinish = ends === undefined ? null : ends.length > 10 ? ends : `${ends}T24:00`;
    if (plannedStart && requiredFinish && (parseInstant(requiredFinish) as number) <= (parseInstant(plannedStart) as number))
      wrong['finish'] = 'The required finish lies before the planned start.';
    const day = parseHours(hours);
    if (from === own && (!day || day.length === 0)) wrong['hours'] = `${hours || 'Empty hours'} cannot be read. Type them as 8-12, 13-17.`;
    if (from === own && !worked.includes(true)) wrong['week'] = 'Work on at least one day of the week.';
    setErrors(wrong);
    if (Object.keys(wrong).length || !plannedStart) return;
    const projectId = from.split(' ', 1)[0]!;
    const calendarId = from.slice(projectId.length + 1);
    const days = worked.filter(Boolean).length;
    const calendar: Calendar = {
      id: 'own',
      rank: 0,
      name: days === 5 && !worked[5] && !worked[6] ? 'Five-day week' : `${days}-day week`,
      basedOn: null,
      week: worked.map((on) => (on ? (day ?? []) : [])),
      exceptions: holidays.found ?? [],
      hoursPerDay: null,
      daysPerWeek: null,
      sharedId: null,
    };
    const reply = await call<{ id: string }>('POST', '/projects', {
      name,
      code: short,
      plannedStart,
      requiredFinish,
      ...(from === own ? { calendar } : projectId === 'shared' ? { sharedCalendarId: calendarId } : { calendarFrom: { projectId, calendarId } }),
    });
    if (!reply.ok) return setErrors({ name: reply.problems.map((p) => p.message).join(' ') });
    void navigate(`/p/${reply.value.id}/plan`);
  };
  return (
    <Modal opened={opened} onClose={onClose} title="New project" size="md">
      <form
        className="form-stack"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <TextInput label="Name" value={name} onChange={(e) => setName(e.currentTarget.value)} error={errors['name']} data-autofocus maxLength={500} />
        <TextInput
          label="Short code"
          placeholder={name.trim() ? short : 'made from the name'}
          value={code}
          onChange={(e) => setCode(e.currentTarget.value)}
          description={twin ? `${twin.name} has the code ${short}, too. Another one keeps them apart.` : undefined}
        />
        <div className="two-fields">
          <TextInput label="Planned start" placeholder="2 mar 2026" value={start} onChange={(e) => setStart(e.currentTarget.value)} error={errors['start']} />
          <TextInput label="Required finish" placeholder="optional" value={finish} onChange={(e) => setFinish(e.currentTarget.value)} error={errors['finish']} />
        </div>
        <Select label="Calendar" data={[{ value: own, label: 'A new one, as below' }, ...calendars]} value={from} onChange={(v) => v && setFrom(v)} />
        {from === own && (
          <>
            <Checkbox.Group
              label="Worked days"
              value={weekdayNames.filter((_, i) => worked[i])}
              error={errors['week']}
              onChange={(list) => setWorked(weekdayNames.map((d) => list.includes(d)))}
            >
              <div className="weekdays">
                {weekdayNames.map((d) => (
                  <Checkbox key={d} size="xs" value={d} label={d} />
                ))}
              </div>
            </Checkbox.Group>
            <TextInput
              label="Hours"
              value={hours}
              onChange={(e) => setHours(e.currentTarget.value)}
              onBlur={() => {
                const read = parseHours(hours);
                if (read?.length) setHours(formatHours(read));
              }}
              error={errors['hours']}
            />
            <div className="two-fields">
              <Select
                label="Holidays"
                searchable
                clearable
                placeholder="none"
                data={holidays.countries}
                value={holidays.country}
                onChange={holidays.choose}
                error={holidays.problem || undefined}
              />
              <Select
                label="Region"
                searchable
                clearable
                data={holidays.regions}
                value={holidays.region}
                onChange={holidays.setRegion}
                disabled={holidays.regions.length === 0}
                placeholder={holidays.country ? 'the whole country' : ''}
              />
            </div>
            {holidays.found && (
              <p className="muted">
                {holidays.found.length} days off from {years.slice(0, 4)} to {years.slice(-4)}. They stand in the calendar, where each can be changed.
              </p>
            )}
          </>
        )}
        <button type="submit" className="dark-button">
          Make the project
        </button>
      </form>
    </Modal>
  );
}
