/**
 * Which command a key means: one rule for all cells. Keys with Ctrl, Alt or a name act everywhere. A letter or sign of a
 * command acts with Alt everywhere, and alone where nothing can be typed (numbers, computed cells, bars); elsewhere a
 * character begins typing.
 */
import { commands } from './list';
import { boundTo, keysVersion } from './own-keys';
import type { AppCommand } from './types';

export interface Pressed {
  key: string;
  code?: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}

/** A pressed key as the list writes it. */
export function nameOfKey(e: Pressed): string {
  const key = e.key.length === 1 ? e.key.toUpperCase() : e.key;
  return `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${e.shiftKey && (key.length > 1 || /[A-Z]/.test(key)) ? 'Shift+' : ''}${key}`;
}

let known = '';
const byKey = new Map<string, AppCommand>();
const byLetter = new Map<string, AppCommand>();
/** Commands may come later, so the maps are made when a key is pressed. */
function readList(): void {
  const now = `${commands.length} ${keysVersion()}`;
  if (known === now) return;
  known = now;
  byKey.clear();
  byLetter.clear();
  for (const c of commands) {
    const { keys, letter } = boundTo(c);
    for (const k of keys) byKey.set(k, c);
    if (letter) byLetter.set(letter, c);
  }
}

/** The character of a key, also where Alt makes another of it. */
const characterOf = (e: Pressed): string =>
  /^Key[A-Z]$/.test(e.code ?? '') && e.altKey ? (e.code as string).slice(3) : /^Digit\d$/.test(e.code ?? '') && e.altKey ? (e.code as string).slice(5) : e.key;

/** `typable`: a character would begin typing where the cursor stands. */
export function meaningOf(e: Pressed, typable: boolean): { command: AppCommand } | { types: string } | undefined {
  readList();
  const named = byKey.get(nameOfKey(e));
  const plain = !e.ctrlKey && !e.metaKey && !e.altKey;
  if (named && !(plain && e.key.length === 1)) return { command: named };
  if (e.ctrlKey || e.metaKey) return undefined;
  const character = characterOf(e);
  if (character.length !== 1) return undefined;
  if (plain && typable) return { types: e.key };
  const letter = byLetter.get(`${e.shiftKey && /^[a-z]$/i.test(character) ? 'Shift+' : ''}${/^[a-z]$/i.test(character) ? character.toUpperCase() : character}`);
  if (letter) return { command: letter };
  return named && { command: named };
}

/** How a command's keys are told: `Ctrl+]`, `L`. */
export function keysOf(c: AppCommand): string {
  const tell = (k: string): string => k.replace(/Arrow(Up|Down|Left|Right)/, '$1').replace(/^ $/, 'Space');
  const { keys, letter } = boundTo(c);
  return [...keys.slice(0, 1), ...(letter ? [letter] : [])].map(tell).join(' or ');
}
