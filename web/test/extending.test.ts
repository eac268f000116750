/** A command and a room, each added in one place: found in the palette, under its key, and in the rail. */
import { addRoom, rooms } from '../src/app/rooms';
import { keysOf, meaningOf } from '../src/commands/keys';
import { addCommands, commandOf, commands } from '../src/commands/list';
import type { Hands } from '../src/commands/types';
import { titlesFor as titles } from './find-commands';

const pressed = (key: string, more: Partial<Parameters<typeof meaningOf>[0]> = {}) => ({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more });
const command = (m: ReturnType<typeof meaningOf>): string | undefined => (m && 'command' in m ? m.command.id : undefined);

test.each([
  ['indent', 'One level down'],
  ['outdent', 'One level up'],
  ['filter', 'Only critical activities'],
  ['export', 'The rows and columns shown, as CSV'],
  ['dark', 'Dark theme'],
  ['pdf', 'Go to Report'],
  ['holidays', 'Go to Library'],
  ['unlink', 'Delete the links among the selected'],
  ['slack', 'Float as dotted tail'],
  ['copy row', 'Copy'],
])('a planner who types %s finds "%s"', (query, title) => expect(titles(query)).toContain(title));

test('what fits the title comes first; what nothing fits is not there', () => {
  expect(titles('undo')[0]).toBe('Undo');
  expect(titles('no such thing at all')).toEqual([]);
  expect(titles('').length).toBe(commands.length);
});

test('each command stands once, and no two share a key', () => {
  expect(new Set(commands.map((c) => c.id)).size).toBe(commands.length);
  const keys = commands.flatMap((c) => [...(c.keys ?? []), ...(c.letter ? [`letter ${c.letter}`] : [])]);
  expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
});

test('one rule of keys: a character types where something can be typed; letters act with Alt everywhere, and alone elsewhere', () => {
  expect(meaningOf(pressed('l'), true)).toEqual({ types: 'l' });
  expect(meaningOf(pressed('7'), true)).toEqual({ types: '7' });
  expect(command(meaningOf(pressed('l'), false))).toBe('link');
  expect(command(meaningOf(pressed('l', { altKey: true }), true))).toBe('link');
  // Where Alt makes another character of a key, its place counts.
  expect(command(meaningOf(pressed('¬', { altKey: true, code: 'KeyL' }), true))).toBe('link');
  expect(command(meaningOf(pressed('L', { shiftKey: true }), false))).toBe('linkWith');
  expect(command(meaningOf(pressed('3'), false))).toBe('depth3');
  expect(command(meaningOf(pressed('3', { altKey: true, code: 'Digit3' }), true))).toBe('depth3');
  expect(command(meaningOf(pressed('?', { shiftKey: true }), false))).toBe('keys');
  expect(command(meaningOf(pressed(']', { ctrlKey: true }), true))).toBe('levelDown');
  expect(command(meaningOf(pressed('z', { ctrlKey: true, shiftKey: true }), true))).toBe('redo');
  expect(command(meaningOf(pressed('ArrowUp', { altKey: true }), true))).toBe('moveUp');
  expect(command(meaningOf(pressed('Enter'), true))).toBe('addActivity');
  expect(meaningOf(pressed('q', { ctrlKey: true }), true)).toBeUndefined();
  expect(meaningOf(pressed('q'), false)).toBeUndefined();
});

test('a command is added in one place, and is in the palette, under its key, and says when it cannot be done', () => {
  const done: string[] = [];
  addCommands([
    {
      id: 'bell',
      title: 'Ring the bell',
      about: 'Calls everybody',
      words: 'sound alarm',
      group: 'Project',
      where: ['row'],
      keys: ['Ctrl+B'],
      letter: 'B',
      able: (h) => h.column !== null || 'Point at a column first.',
      run: () => done.push('rang'),
    },
  ]);
  expect(titles('alarm')).toEqual(['Ring the bell']);
  const bell = commandOf('bell');
  expect(bell && keysOf(bell)).toBe('Ctrl+B or B');
  expect([command(meaningOf(pressed('b', { ctrlKey: true }), true)), command(meaningOf(pressed('b'), false))]).toEqual(['bell', 'bell']);
  expect(bell?.able({ column: null } as Hands)).toBe('Point at a column first.');
  bell?.run({} as Hands);
  expect(done).toEqual(['rang']);
});

test('a room is added in one place, and is in the rail, under its address, and can be gone to by a command, as can a place in it', () => {
  const went: unknown[] = [];
  addRoom({
    ...rooms[1]!,
    id: 'risk',
    title: 'Risk',
    about: 'What may come otherwise',
    words: 'uncertainty dice',
    path: (id) => `/p/${id}/risk`,
    route: 'p/:projectId/risk',
    places: [{ id: 'throw', title: 'Throw once', about: 'One way it may come', words: 'chance' }],
  });
  expect(rooms[rooms.length - 1]?.route).toBe('p/:projectId/risk');
  expect(titles('dice')).toEqual(['Go to Risk']);
  expect(titles('chance')).toEqual(['Throw once']);
  const hands = { session: { id: 'x' }, go: (...to: unknown[]) => void went.push(to) } as unknown as Hands;
  commandOf('room-risk')?.run(hands);
  commandOf('risk-throw')?.run(hands);
  expect(went).toEqual([
    ['/p/x/risk', undefined],
    ['/p/x/risk', { place: 'throw' }],
  ]);
});
