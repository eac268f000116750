import { Modal } from '@mantine/core';
import { useState } from 'react';
import { groups } from '../commands/CommandMenu';
import { commands } from '../commands/list';
import { keysOf, nameOfKey } from '../commands/keys';
import { anyOwn, giveKey, isOwn, putKeyBack } from '../commands/own-keys';

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
      ['Drag a number', 'move the selected rows'],
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
      ['Drag inside a started bar', 'change its progress'],
      ['Drag on a lane', 'draw an activity there'],
      ['Alt and drag a bar of a lane', 'draw a link'],
      ['Drag its right or left end', 'change its length or its start'],
      ['Drag from beside an end', 'draw a link to another bar'],
      ['Drag below the last row', 'draw a new activity'],
      ['Ctrl and wheel; drag the ruler', 'zoom; move through time'],
      ['Click on a start or finish', 'why this date?'],
    ],
  ],
];

/** A title within a list: `WBS node` keeps its capitals. */
const lower = (title: string): string => (/^[A-Z]{2}/.test(title) ? title : title.slice(0, 1).toLowerCase() + title.slice(1));

interface Line {
  key: string;
  text: string;
  /** The command whose key it is, where it can be given another. */
  command?: string;
}

/** All keys, as the list of commands has them. Each can be given another key, and be put back. */
export function KeysHelp({ opened, onClose }: { opened: boolean; onClose: () => void }) {
  const [listening, setListening] = useState<string | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const [, redraw] = useState(0);
  if (!opened) return null;
  const lists: [string, Line[]][] = groups.map((group) => [
    group,
    commands.flatMap((c): Line[] => {
      if (c.group !== group || (!keysOf(c) && !all && listening !== c.id)) return [];
      // Nine keys for nine levels are one line.
      if (/^depth[2-9]$/.test(c.id)) return [];
      return [c.id === 'depth1' ? { key: '1 to 9', text: 'outline depth' } : { key: keysOf(c), text: lower(c.title), command: c.id }];
    }),
  ]);
  const shown: [string, Line[]][] = [...lists, ...gestures.map(([title, list]): [string, Line[]] => [title, list.map(([key, text]) => ({ key, text }))])];
  const done = (no: string | null): void => {
    setRefusal(no);
    if (no === null) setListening(null);
    redraw((n) => n + 1);
  };
  const press = (id: string, e: React.KeyboardEvent): void => {
    if (['Control', 'Shift', 'Alt', 'Meta'].includes(e.key)) return;
    e.preventDefault();
    e.stopPropagation();
    if (e.key === 'Escape') done(null);
    else done(giveKey(id, nameOfKey(e)));
  };
  return (
    <Modal opened={opened} onClose={onClose} title="Keys" size="xl" closeOnEscape={listening === null}>
      <p className="muted">
        A click on a key gives the command another one.{' '}
        <button type="button" className="link-button" onClick={() => setAll(!all)}>
          {all ? 'Only commands with keys' : 'All commands'}
        </button>
        {anyOwn() && (
          <>
            {' · '}
            <button type="button" className="link-button" onClick={() => done(putKeyBack())}>
              Put all keys back
            </button>
          </>
        )}
      </p>
      {refusal && (
        <p role="alert" className="critical-text">
          {refusal}
        </p>
      )}
      <div className="keys-help">
        {shown
          .filter(([, list]) => list.length > 0)
          .map(([title, list]) => (
            <section key={title}>
              <h3>{title}</h3>
              <dl>
                {list.map(({ key, text, command }) => (
                  <div key={`${command ?? key} ${text}`}>
                    <dt>
                      {command === undefined ? (
                        key
                      ) : (
                        <button
                          type="button"
                          className={`plain-button key-button${isOwn(command) ? ' own' : ''}`}
                          aria-label={`Key of ${text}: ${key || 'none'}`}
                          onClick={() => {
                            setListening(command);
                            setRefusal(null);
                          }}
                          onBlur={() => listening === command && setListening(null)}
                          onKeyDown={(e) => listening === command && press(command, e)}
                        >
                          {listening === command ? 'press a key' : key || '–'}
                        </button>
                      )}
                    </dt>
                    <dd>
                      {text}
                      {command !== undefined && isOwn(command) && (
                        <button type="button" className="link-button" aria-label={`Put the key of ${text} back`} onClick={() => done(putKeyBack(command))}>
                          put back
                        </button>
                      )}
                    </dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
      </div>
    </Modal>
  );
}
