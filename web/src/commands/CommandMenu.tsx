/** The menu at the pointer: commands of the list that fit what was pointed at, with their keys, and why one cannot be done. */
import { Menu } from '@mantine/core';
import type { CommandGroup, Where } from '@yellowhammer/core/commands/command';
import { commands } from './list';
import { keysOf } from './keys';
import { useHands } from './useHands';

/** Headings in the order in which they stand in help and menus. */
export const groups: readonly CommandGroup[] = ['Rows', 'Cells', 'Links', 'View', 'Time', 'Project', 'Go to'];

export interface MenuAt {
  where: Where;
  x: number;
  y: number;
  /** What was pointed at, as a person calls it. */
  title: string;
  link?: string;
  column?: string;
}

export function CommandMenu({ at, onClose }: { at: MenuAt | null; onClose: () => void }) {
  const { hands, act } = useHands();
  if (!at) return null;
  const target = { link: at.link, column: at.column };
  const h = hands(target);
  const offered = commands.filter((c) => c.where.includes(at.where)).sort((a, b) => groups.indexOf(a.group) - groups.indexOf(b.group));
  return (
    <Menu opened onClose={onClose} position="bottom-start" width={300} shadow="md" trapFocus returnFocus withinPortal>
      <Menu.Target>
        <div className="menu-anchor" style={{ left: at.x, top: at.y }} />
      </Menu.Target>
      <Menu.Dropdown aria-label={at.title} className="command-menu">
        <Menu.Label>{at.title}</Menu.Label>
        {offered.map((c, i) => {
          const able = c.able(h);
          return (
            <div key={c.id}>
              {i > 0 && offered[i - 1]!.group !== c.group && <Menu.Divider />}
              <Menu.Item disabled={able !== true} rightSection={<span className="menu-key">{c.on?.(h) ? '✓' : keysOf(c)}</span>} onClick={() => act(c, target)}>
                {c.title}
                {able !== true && <span className="menu-reason">{able}</span>}
              </Menu.Item>
            </div>
          );
        })}
      </Menu.Dropdown>
    </Menu>
  );
}
