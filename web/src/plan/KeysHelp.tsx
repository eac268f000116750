import { Modal } from '@mantine/core';
import { groups } from '../commands/CommandMenu';
import { commands } from '../commands/list';
import { keysOf } from '../commands/keys';

/** What hands do that is no command: moving the cursor, and the pointer on the picture. */
const gestures: [string, [string, string][]][] = [
  [
    'Cursor and selection',
    [
      ['Arrows, Home, End, Page', 'move; Right from the last column goes to the bar'],
      ['Shift with arrows or clicks', 'select a run'],
      ['Ctrl with clicks; Ctrl+Up, Ctrl+Down and Ctrl+Space', 'select scattered rows'],
      ['Left, Right on a WBS node', 'close and open it'],
      ['A character', 'begins typing where something can be typed'],
      ['A letter of this list', 'acts with Alt everywhere, and alone on numbers, computed cells and bars'],
      ['Delete', 'in a column of values: clear the cells; else delete the rows'],
      ['Tab, Shift+Tab', 'next and previous cell'],
      ['Shift+F10', 'the menu of the row'],
      ['Escape', 'cancel'],
    ],
  ],
  [
    'Timeline',
    [
      ['Drag a bar', 'move it (start not before)'],
      ['Drag a bar to another row', 'move it in the outline'],
      ['Drag its right or left end', 'change its length or its start'],
      ['Drag from beside an end', 'draw a link to another bar'],
      ['Drag below the last row', 'draw a new activity'],
      ['Ctrl and wheel; drag the ruler', 'zoom; move through time'],
      ['Click on a start or finish', 'why this date?'],
    ],
  ],
];

/** All keys, as the list of commands has them. */
export function KeysHelp({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  if (!opened) return null;
  const lists: [string, [string, string][]][] = groups.map((group) => [
    group,
    commands.flatMap((c): [string, string][] => {
      if (c.group !== group || !keysOf(c)) return [];
      // Nine keys for nine levels are one line.
      if (/^depth[2-9]$/.test(c.id)) return [];
      return [c.id === 'depth1' ? ['1 to 9', 'outline depth'] : [keysOf(c), c.title.toLowerCase()]];
    }),
  ]);
  return (
    <Modal opened={opened} onClose={onClose} title="Keys" size="xl">
      <div className="keys-help">
        {[...lists, ...gestures]
          .filter(([, list]) => list.length > 0)
          .map(([title, list]) => (
            <section key={title}>
              <h3>{title}</h3>
              <dl>
                {list.map(([key, text]) => (
                  <div key={key + text}>
                    <dt>{key}</dt>
                    <dd>{text}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
      </div>
    </Modal>
  );
}
