import { Popover } from '@mantine/core';
import { DatePicker } from '@mantine/dates';
import { IconCalendar } from '@tabler/icons-react';
import { dayOfToday, parseTypedDate } from '@yellowhammer/core/time/typed-date';

interface Props {
  /** What stands in the cell, read as far as it can be. */
  text: string;
  opened: boolean;
  onOpen: (opened: boolean) => void;
  onPick: (day: string) => void;
}

/** Picks a date beside a cell that is being typed in: by the pointer, or with Alt+Down and the arrows. */
export function CellDate({ text, opened, onOpen, onPick }: Props) {
  const day = parseTypedDate(text, dayOfToday())?.slice(0, 10) ?? null;
  return (
    <Popover opened={opened} onChange={onOpen} position="bottom-end" trapFocus shadow="md" closeOnEscape={false}>
      <Popover.Target>
        <button
          type="button"
          className="plain-button cell-date"
          tabIndex={-1}
          aria-label="Pick a date"
          title="Alt+Down"
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => onOpen(!opened)}
        >
          <IconCalendar size={13} stroke={1.6} />
        </button>
      </Popover.Target>
      <Popover.Dropdown
        className="cell-picker"
        aria-label="Pick a date"
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Escape') onOpen(false);
        }}
        onMouseDown={(e) => e.stopPropagation()}
      >
        <DatePicker value={day} defaultDate={day ?? undefined} firstDayOfWeek={1} onChange={(v) => v && onPick(v)} />
      </Popover.Dropdown>
    </Popover>
  );
}
