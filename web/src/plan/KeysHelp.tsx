import { Modal } from '@mantine/core';

const groups: [string, [string, string][]][] = [
  [
    'Rows',
    [
      ['Enter', 'new activity below'],
      ['Ctrl+Enter', 'new WBS node'],
      ['Ctrl+] and Ctrl+[', 'one level down and up'],
      ['Alt+Up, Alt+Down', 'move'],
      ['Delete', 'delete rows (in a column of values: clear the cells)'],
      ['1 to 9', 'outline depth'],
      ['Left, Right, Space', 'close and open a WBS node'],
    ],
  ],
  [
    'Cells',
    [
      ['F2 or double click', 'edit; in columns of values just type'],
      ['Tab, Shift+Tab', 'next and previous cell'],
      ['Ctrl+C, X, V', 'copy, cut, paste: rows with their links (in No., Activity and computed columns), cells elsewhere, text of a spreadsheet'],
      ['Ctrl+D', 'fill down'],
      ['Shift with arrows or clicks', 'select a run'],
      ['Ctrl with clicks; Ctrl+Up, Ctrl+Down and Ctrl+Space', 'select scattered rows'],
    ],
  ],
  [
    'Plan',
    [
      ['L', 'link the selected, in the order of selecting'],
      ['W, then Enter', 'why this date? and back along what governs it'],
      ['S', 'stamp: pick a calendar, then click or sweep over rows or bars, or press Space'],
      ['Click on a start or finish', 'why this date?'],
      ['T', 'connected: only the selected activity with what it is linked to; again to show all'],
      ['0, +, -', 'fit, zoom in, zoom out'],
      ['Ctrl+K', 'find or do anything'],
      ['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
      ['?', 'this list'],
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
      ['Escape', 'cancel'],
    ],
  ],
];

export function KeysHelp({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  return (
    <Modal opened={opened} onClose={onClose} title="Keys" size="xl">
      <div className="keys-help">
        {groups.map(([title, list]) => (
          <section key={title}>
            <h3>{title}</h3>
            <dl>
              {list.map(([key, text]) => (
                <div key={key}>
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
