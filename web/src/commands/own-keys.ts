/** Keys that a person has given to commands instead of those they come with. Kept in this browser; each can be put back. */
import { z } from 'zod';
import { commands } from './list';
import type { AppCommand } from './types';

const KEY = 'yellowhammer.keys';
/** By command: a key (`Ctrl+M`, `F8`) or a letter that acts with Alt, and alone where nothing can be typed. */
const schema = z.record(z.string(), z.union([z.object({ key: z.string().max(40) }), z.object({ letter: z.string().max(10) })]));
type Own = z.infer<typeof schema>;

function read(): Own {
  try {
    const parsed = schema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
    return parsed.success ? parsed.data : {};
  } catch {
    return {};
  }
}
let own: Own | null = null;
const owned = (): Own => (own ??= read());
let version = 0;
/** Counts changes: what is made of keys is made anew. */
export const keysVersion = (): number => version;

function keep(next: Own): void {
  own = next;
  version++;
  localStorage.setItem(KEY, JSON.stringify(next));
}

/** Keys and letter of a command as they are now. */
export function boundTo(c: AppCommand): { keys: readonly string[]; letter: string | undefined } {
  const mine = owned()[c.id];
  if (!mine) return { keys: c.keys ?? [], letter: c.letter };
  return 'key' in mine ? { keys: [mine.key], letter: undefined } : { keys: [], letter: mine.letter };
}
export const isOwn = (id: string): boolean => owned()[id] !== undefined;
export const anyOwn = (): boolean => Object.keys(owned()).length > 0;

/** What belongs to the browser, or moves the cursor and types in the sheet: no command may take it. */
const RESERVED = new Set(
  [
    ...['T', 'W', 'N', 'R', 'L', 'P', 'F', 'G', 'J', 'H', 'O', 'S', 'U', 'C', 'X', 'V', 'Tab', 'PageUp', 'PageDown', '0', '+', '-', '=', ...'12345678'].map((k) => `Ctrl+${k}`),
    ...['T', 'N', 'W', 'R', 'I', 'J', 'C', 'P', 'Tab', 'Delete', 'V'].map((k) => `Ctrl+Shift+${k}`),
    ...['ArrowLeft', 'ArrowRight', 'F4', 'Home', 'D', 'F', 'E'].map((k) => `Alt+${k}`),
    ...['F1', 'F3', 'F5', 'F6', 'F7', 'F11', 'F12', 'Tab', 'Enter', 'Escape', 'Delete', 'Backspace', ' ', 'Home', 'End', 'PageUp', 'PageDown'],
    ...['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'].flatMap((k) => [k, `Shift+${k}`, `Ctrl+${k}`]),
    ...['Shift+Tab', 'Shift+F10', 'ContextMenu', 'Shift+Enter', 'Shift+PageUp', 'Shift+PageDown', 'Ctrl+ ', 'Ctrl+Home', 'Ctrl+End'],
  ].map((k) => k.toLowerCase()),
);

/** What a pressed key would be for a command: a letter where it is a single character without Ctrl, else a key. */
const meant = (name: string): { key: string } | { letter: string } => {
  const letter = /^(?:Alt\+)?((?:Shift\+)?.)$/.exec(name)?.[1];
  return letter !== undefined ? { letter } : { key: name };
};

/** Gives a command the key of that name (`nameOfKey`); why not, where it cannot have it. */
export function giveKey(id: string, name: string): string | null {
  const want = meant(name);
  const told = 'key' in want ? want.key : want.letter;
  if (RESERVED.has(name.toLowerCase())) return `${told} belongs to the browser, or moves the cursor in the sheet. Press another.`;
  if ('key' in want && !/^(Ctrl\+|Alt\+|F\d|Insert$)/.test(want.key)) return `${told} alone is no key for a command. Press a letter, or a key with Ctrl or Alt.`;
  const other = commands.find((c) => {
    if (c.id === id) return false;
    const { keys, letter } = boundTo(c);
    return 'key' in want ? keys.includes(want.key) : letter === want.letter;
  });
  if (other) return `${told} is the key of "${other.title}". Press another, or give that one another key first.`;
  keep({ ...owned(), [id]: want });
  return null;
}

/** Puts the key of a command back to what it comes with; without a command, all keys. */
export function putKeyBack(id?: string): string | null {
  if (id === undefined) {
    keep({});
    return null;
  }
  const c = commands.find((x) => x.id === id);
  const taken = commands.find((x) => {
    if (x.id === id || !isOwn(x.id)) return false;
    const { keys, letter } = boundTo(x);
    return keys.some((k) => c?.keys?.includes(k)) || (letter !== undefined && letter === c?.letter);
  });
  if (taken) return `Its key was given to "${taken.title}". Put that one back first.`;
  keep(Object.fromEntries(Object.entries(owned()).filter(([k]) => k !== id)));
  return null;
}

/** For tests: what is kept is read anew. */
export const readKeysAnew = (): void => {
  own = null;
  version++;
};
