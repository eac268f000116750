import { ActionIcon, Popover } from '@mantine/core';
import { DatePicker } from '@mantine/dates';
import { IconCalendar } from '@tabler/icons-react';
import { useState } from 'react';
import { useDoc } from '../project/hooks';
import { CommitField } from './CommitField';
import { showTypedDate } from '@yellowhammer/core/time/typed-date';
import { typedInstant } from '@yellowhammer/core/fields/typed';

interface Props {
  label: string;
  value: string | null;
  end: 'start' | 'finish';
  clearable?: boolean;
  description?: string;
  /** Calendar in which a date without a time is read; the project's where none is given. */
  calendarId?: string | null;
  /** Why a date cannot be taken; told at once, and nothing is changed. */
  refuse?: (value: string) => string | null;
  onChange: (value: string | null) => void;
}

/** A date field: typed in any form (`12 mar`, `+2w`, `today`, with a time where one is meant), or picked. */
export function DateField(props: Props) {
  const { doc } = useDoc();
  const [open, setOpen] = useState(false);
  const [wrong, setWrong] = useState<string | null>(null);
  const take = (text: string): string | null => {
    const empty = !text.trim() && props.clearable;
    const t = empty ? null : typedInstant(doc, { calendarId: props.calendarId ?? null }, text, props.end);
    if (t === undefined) return `${text || 'An empty date'} cannot be read. Type it as 12 mar 2027.`;
    const no = t === null ? null : (props.refuse?.(t) ?? null);
    if (no) return no;
    setWrong(null);
    props.onChange(t);
    return null;
  };
  return (
    <CommitField
      label={props.label}
      aria-label={props.label}
      description={props.description}
      placeholder="12 mar 2027"
      value={props.value === null ? '' : showTypedDate(props.value)}
      onCommit={take}
      rightSection={
        <Popover opened={open} onChange={setOpen} position="bottom-end" trapFocus returnFocus>
          <Popover.Target>
            <ActionIcon variant="subtle" color="ink" size="sm" aria-label={`Pick ${props.label.toLowerCase() || 'a date'}`} onClick={() => setOpen(!open)}>
              <IconCalendar size={15} stroke={1.6} />
            </ActionIcon>
          </Popover.Target>
          <Popover.Dropdown aria-label={`Pick ${props.label.toLowerCase() || 'a date'}`}>
            <DatePicker
              value={props.value?.slice(0, 10) ?? null}
              defaultDate={props.value?.slice(0, 10)}
              firstDayOfWeek={1}
              onChange={(v) => {
                if (!v) return;
                const no = take(v);
                setWrong(no);
                if (!no) setOpen(false);
              }}
            />
            {wrong && (
              <p className="critical-text" role="alert">
                {wrong}
              </p>
            )}
          </Popover.Dropdown>
        </Popover>
      }
    />
  );
}
