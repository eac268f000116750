import { Checkbox, Select, TextInput } from '@mantine/core';
import { IconTrash } from '@tabler/icons-react';
import { useState } from 'react';
import { type ExceptionKind, exceptionKinds, exceptionsFor, formatDayList, parseDayList } from '@yellowhammer/core/commands/exceptions';
import { formatHours, parseHours } from '@yellowhammer/core/commands/hours';
import type { Calendar, Exception } from '@yellowhammer/core/model/schema';
import type { CalendarDefinition } from '@yellowhammer/core/time/calendar';
import { civilOf, parseDay } from '@yellowhammer/core/time/instant';
import { showDay } from '@yellowhammer/core/time/typed-date';
import { HolidaysDialog } from './HolidaysDialog';
import { useStateFor } from './useStateFor';
import type { Picked } from './YearSection';

const kindNames: Record<ExceptionKind, string> = {
  none: 'no work',
  morning: 'only the morning',
  afternoon: 'only the afternoon',
  hours: 'these hours',
  extra: 'extra work at',
  plain: 'the plain week',
};

interface Props {
  row: Pick<Calendar, 'exceptions'>;
  definition: CalendarDefinition;
  parent: string | undefined;
  near: number;
  picked: Picked;
  onPick: (days: Picked) => void;
  set: (fields: Partial<Calendar>) => boolean;
  /** The calendar whose exceptions they are; null: they are days off of a resource. */
  calendar: Calendar | null;
}

/** The list of exceptions, and the form for one: its days typed, or picked in the year below. */
export function ExceptionsSection({ row, definition, parent, near, picked, onPick, set, calendar }: Props) {
  const daysOff = calendar === null;
  const inherited = definition.exceptions.slice(0, definition.exceptions.length - row.exceptions.length);
  // What is typed counts until other days are picked.
  const [typed, setTyped] = useStateFor<{ text: string; over: Picked } | null>(row.exceptions, null);
  const typedDays = typed && typed.over === picked ? typed.text : null;
  const [kind, setKind] = useState<ExceptionKind>('none');
  const [hours, setHours] = useState('');
  const [name, setName] = useStateFor(row.exceptions, '');
  const [yearly, setYearly] = useState(false);
  const [errors, setErrors] = useState<{ days?: string; hours?: string }>({});
  const [holidays, setHolidays] = useState(false);
  const withHours = kind === 'hours' || kind === 'extra';
  const daysText = typedDays ?? (picked.size ? formatDayList(picked) : '');
  const readDays = (): number[] | undefined => {
    const read = parseDayList(daysText, near);
    if ('error' in read) {
      setErrors({ days: read.error });
      return undefined;
    }
    return read.days;
  };
  const add = (): void => {
    const days = readDays();
    if (!days) return;
    const work = withHours ? parseHours(hours) : [];
    if (!work || (withHours && work.length === 0)) return setErrors({ hours: 'Type hours as 08:00-12:00.' });
    const made = exceptionsFor(definition, { days, kind, hours: work, name: name.trim(), yearly });
    if ('error' in made) return setErrors({ days: made.error });
    setErrors({});
    // What was entered goes when the exceptions change, and stays where that is called off.
    set({ exceptions: [...row.exceptions, ...made.exceptions] });
  };
  const line = (e: Exception, n: number, own: boolean) => (
    <tr key={`${own} ${n}`} className={own ? '' : 'inherited'}>
      <td>{e.name || <span className="muted">no name</span>}</td>
      <td>{e.yearly ? yearlyText(e) : e.from === e.to ? showDay(parseDay(e.from) ?? 0) : `${showDay(parseDay(e.from) ?? 0)} to ${showDay(parseDay(e.to) ?? 0)}`}</td>
      <td>{e.yearly ? 'every year' : 'once'}</td>
      <td>{e.work.length ? formatHours(e.work) : 'no work'}</td>
      <td className="right">
        {own ? (
          <button
            type="button"
            className="plain-button"
            aria-label={`Delete the exception ${e.name || e.from}`}
            onClick={() => set({ exceptions: row.exceptions.filter((_, i) => i !== n) })}
          >
            <IconTrash size={14} stroke={1.6} />
          </button>
        ) : (
          <span className="muted">from {parent}</span>
        )}
      </td>
    </tr>
  );
  return (
    <section aria-label={daysOff ? 'Days off' : 'Exceptions'}>
      {!daysOff && <h3>Exceptions</h3>}
      <form
        className="exception-form"
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <TextInput
          size="xs"
          className="exception-days"
          label={picked.size > 1 ? `Days (${picked.size} picked)` : 'Days'}
          placeholder="24 dec 2026 to 27 dec 2026"
          value={daysText}
          error={errors.days}
          onChange={(e) => setTyped({ text: e.currentTarget.value, over: picked })}
          onBlur={() => {
            if (typedDays === null) return;
            const read = parseDayList(typedDays, near);
            if ('error' in read) return;
            setErrors({});
            onPick(new Set(read.days));
            setTyped(null);
          }}
        />
        <Select
          size="xs"
          label="Get"
          className="exception-kind"
          allowDeselect={false}
          data={exceptionKinds.map((k) => ({ value: k, label: kindNames[k] }))}
          value={kind}
          onChange={(v) => v && setKind(v as ExceptionKind)}
        />
        {withHours && (
          <TextInput
            size="xs"
            label="Hours"
            className="exception-hours"
            placeholder="08:00-12:00"
            value={hours}
            error={errors.hours}
            onChange={(e) => setHours(e.currentTarget.value)}
          />
        )}
        <TextInput size="xs" label="Name" placeholder={daysOff ? 'Leave' : 'Harbour Day'} value={name} onChange={(e) => setName(e.currentTarget.value)} />
        <Checkbox size="xs" label="Every year" checked={yearly} onChange={(e) => setYearly(e.currentTarget.checked)} />
        <button type="submit" className="dark-button">
          Add
        </button>
        {!daysOff && (
          <button type="button" className="light-button" onClick={() => setHolidays(true)}>
            Holidays of a country
          </button>
        )}
      </form>
      <table className="table exceptions">
        <thead>
          <tr>
            <th>Name</th>
            <th>Days</th>
            <th>Repeats</th>
            <th>Hours</th>
            <th aria-label="Delete" />
          </tr>
        </thead>
        <tbody>
          {!daysOff && inherited.map((e, n) => line(e, n, false))}
          {row.exceptions.map((e, n) => line(e, n, true))}
          {(daysOff ? 0 : inherited.length) + row.exceptions.length === 0 && (
            <tr>
              <td colSpan={5} className="muted">
                {daysOff ? 'No days off. Pick days in the year, or type them above.' : 'No exceptions: every week is like the other. Pick days in the year, or type them above.'}
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {holidays && calendar && (
        <HolidaysDialog
          row={calendar}
          years={`${civilOf(near).year}, ${civilOf(near).year + 1}`}
          onClose={() => setHolidays(false)}
          onTake={(list) => set({ exceptions: [...row.exceptions, ...list] })}
        />
      )}
    </section>
  );
}

function yearlyText(e: Exception): string {
  const part = (text: string): string => showDay(parseDay(text) ?? 0).replace(/ \d+$/, '');
  return e.from.slice(5) === e.to.slice(5) ? part(e.from) : `${part(e.from)} to ${part(e.to)}`;
}
