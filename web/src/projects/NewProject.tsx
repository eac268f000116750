import { Modal, Select, TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { SharedEntry } from '@yellowhammer/core/commands/shared-views';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { parseTypedDate } from '@yellowhammer/core/time/typed-date';
import { call } from '../project/api';

/** What a new project needs to know of the others: where calendars can be taken from. */
type Known = { id: string; code: string; activities: number; deletedAt: string | null };

const standard = 'standard';

/** Asks for the few things a project cannot do without. */
export function NewProject({ opened, onClose, known }: { opened: boolean; onClose: () => void; known: Known[] }) {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [code, setCode] = useState('');
  const [start, setStart] = useState('');
  const [finish, setFinish] = useState('');
  const [from, setFrom] = useState(standard);
  const [calendars, setCalendars] = useState<{ value: string; label: string }[]>([]);
  const [errors, setErrors] = useState<Record<string, string>>({});
  useEffect(() => {
    if (!opened) return;
    void (async () => {
      const all: { value: string; label: string }[] = [];
      const shared = await call<SharedEntry[]>('GET', '/shared-calendars');
      if (shared.ok) for (const { calendar } of shared.value) all.push({ value: `shared ${calendar.id}`, label: `${calendar.name} (shared)` });
      for (const e of known.filter((x) => !x.deletedAt && x.activities < 3000).slice(0, 12)) {
        const reply = await call<{ document: { calendars: Calendar[] } }>('GET', `/projects/${e.id}`);
        if (reply.ok)
          for (const c of reply.value.document.calendars.filter((x) => x.sharedId === null)) all.push({ value: `${e.id} ${c.id}`, label: `${c.name} (from ${e.code})` });
      }
      setCalendars(all);
    })();
  }, [opened, known]);
  const today = Math.floor(Date.now() / 86_400_000);
  const submit = async (): Promise<void> => {
    const wrong: Record<string, string> = {};
    if (!name.trim()) wrong['name'] = 'A project needs a name.';
    const s = parseTypedDate(start || '', today);
    if (!s) wrong['start'] = start ? `${start} cannot be read. Type it as 2 mar 2026.` : 'When may work begin? Type it as 2 mar 2026.';
    const f = finish.trim() ? parseTypedDate(finish, today) : null;
    if (f === undefined) wrong['finish'] = `${finish} cannot be read. Type it as 30 sep 2027.`;
    setErrors(wrong);
    if (Object.keys(wrong).length || !s) return;
    const [projectId] = from.split(' ', 1);
    const calendarId = from.slice(projectId.length + 1);
    const short = (
      code.trim() ||
      name
        .replace(/[^A-Za-z0-9 ]/g, '')
        .trim()
        .split(/\s+/)[0] ||
      'PLAN'
    )
      .slice(0, 12)
      .toUpperCase();
    const reply = await call<{ id: string }>('POST', '/projects', {
      name,
      code: short,
      plannedStart: s.length > 10 ? s : `${s}T00:00`,
      requiredFinish: f ? (f.length > 10 ? f : `${f}T24:00`) : null,
      ...(from === standard ? {} : projectId === 'shared' ? { sharedCalendarId: calendarId } : { calendarFrom: { projectId, calendarId } }),
    });
    if (!reply.ok) return setErrors({ name: reply.problems.map((p) => p.message).join(' ') });
    void navigate(`/p/${reply.value.id}/plan`);
  };
  return (
    <Modal opened={opened} onClose={onClose} title="New project" size="sm">
      <form
        className="form-stack"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <TextInput label="Name" value={name} onChange={(e) => setName(e.currentTarget.value)} error={errors['name']} data-autofocus />
        <TextInput label="Short code" placeholder="made from the name" value={code} onChange={(e) => setCode(e.currentTarget.value)} />
        <TextInput label="Planned start" placeholder="2 mar 2026" value={start} onChange={(e) => setStart(e.currentTarget.value)} error={errors['start']} />
        <TextInput label="Required finish" placeholder="optional" value={finish} onChange={(e) => setFinish(e.currentTarget.value)} error={errors['finish']} />
        <Select label="Calendar" data={[{ value: standard, label: 'Five-day week, 08:00 to 17:00' }, ...calendars]} value={from} onChange={(v) => v && setFrom(v)} />
        <button type="submit" className="dark-button">
          Make the project
        </button>
      </form>
    </Modal>
  );
}
