/** Keys that a person gives: they act, are told, are refused where they are taken, and are put back. */
import { keysOf, meaningOf } from '../src/commands/keys';
import { commandOf } from '../src/commands/list';
import { anyOwn, giveKey, putKeyBack, readKeysAnew } from '../src/commands/own-keys';

const kept = new Map<string, string>();
beforeEach(() => {
  kept.clear();
  Object.assign(globalThis, { localStorage: { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) } });
  readKeysAnew();
});
const pressed = (key: string, more: Partial<Parameters<typeof meaningOf>[0]> = {}) => ({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...more });
const does = (key: string, more: Partial<Parameters<typeof meaningOf>[0]> = {}, typable = false): string | undefined => {
  const m = meaningOf(pressed(key, more), typable);
  return m && 'command' in m ? m.command.id : undefined;
};
const told = (id: string): string => {
  const c = commandOf(id);
  return c ? keysOf(c) : '';
};

test('a command gets another letter: the new one acts and is told, the old one does not act any more', () => {
  expect(does('r')).toBe('replicate');
  expect(giveKey('replicate', 'Q')).toBeNull();
  expect([does('q'), does('r'), told('replicate')]).toEqual(['replicate', undefined, 'Q']);
  expect(does('q', { altKey: true, code: 'KeyQ' }, true)).toBe('replicate');
  // It stays after a reload, and is put back.
  readKeysAnew();
  expect([does('q'), anyOwn()]).toEqual(['replicate', true]);
  expect(putKeyBack('replicate')).toBeNull();
  expect([does('r'), does('q'), anyOwn(), told('replicate')]).toEqual(['replicate', undefined, false, 'R']);
});

test('a key with Ctrl acts everywhere; a command without a key gets one', () => {
  expect(told('reverse')).toBe('');
  expect(giveKey('reverse', 'Ctrl+M')).toBeNull();
  expect([does('m', { ctrlKey: true }, true), told('reverse')]).toEqual(['reverse', 'Ctrl+M']);
  expect(giveKey('merge', 'F8')).toBeNull();
  expect([does('F8'), does('m')]).toEqual(['merge', undefined]);
  expect(putKeyBack()).toBeNull();
  expect([does('m'), does('F8'), does('m', { ctrlKey: true })]).toEqual(['merge', undefined, undefined]);
});

test.each([
  ['L', 'is the key of "Link the selected in order"'],
  ['Ctrl+Z', 'is the key of "Undo"'],
  ['Ctrl+T', 'belongs to the browser'],
  ['Ctrl+C', 'belongs to the browser'],
  ['F5', 'belongs to the browser'],
  ['ArrowDown', 'moves the cursor'],
  ['Alt+ArrowLeft', 'belongs to the browser'],
  ['MediaPlay', 'alone is no key'],
])('%s is refused with a reason', (name, reason) => {
  expect(giveKey('replicate', name)).toContain(reason);
  expect(told('replicate')).toBe('R');
});

test('a key that was given away is free for another, and cannot be put back while that one has it', () => {
  expect(giveKey('replicate', 'Q')).toBeNull();
  expect(giveKey('merge', 'R')).toBeNull();
  expect(does('r')).toBe('merge');
  expect(putKeyBack('replicate')).toContain('was given to "Make one activity of the selected"');
  expect([putKeyBack('merge'), putKeyBack('replicate')]).toEqual([null, null]);
  expect([does('r'), does('m')]).toEqual(['replicate', 'merge']);
});

test('what is kept and cannot be read is passed over', () => {
  for (const text of ['nonsense', '[]', '{"replicate":{"letter":5}}', 'null']) {
    kept.set('yellowhammer.keys', text);
    readKeysAnew();
    expect(does('r')).toBe('replicate');
  }
});
