/** A part of the sentence that says how the plan is seen, with what opens below it. */
import { Popover } from '@mantine/core';
import { IconChevronDown } from '@tabler/icons-react';
import type { ReactNode } from 'react';
import type { Part } from './strip-part';

interface PieceProps {
  part: Part;
  open: Part | null;
  setOpen: (part: Part | null) => void;
  /** What the part is about; with what it says, its name for those who hear it. */
  label: string;
  text: string;
  strong?: true;
  on?: boolean;
  onDone: () => void;
  children: ReactNode;
}

export function Piece({ part, open, setOpen, label, text, strong, on, onDone, children }: PieceProps) {
  return (
    <Popover
      opened={open === part}
      onChange={(now) => setOpen(now ? part : null)}
      onClose={onDone}
      position="bottom-start"
      shadow="md"
      trapFocus
      returnFocus={false}
      width="max-content"
    >
      <Popover.Target>
        <button type="button" className={`strip-part${on ? ' on' : ''}`} aria-label={`${label}: ${text}`} onClick={() => setOpen(open === part ? null : part)}>
          {strong ? <b>{text}</b> : <span>{text}</span>} <IconChevronDown size={12} stroke={1.8} />
        </button>
      </Popover.Target>
      <Popover.Dropdown className="strip-drop" onKeyDown={(e) => e.key !== 'Escape' && e.stopPropagation()}>
        {children}
      </Popover.Dropdown>
    </Popover>
  );
}
