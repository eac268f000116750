/**
 * What a planner can do to a plan, each once: palette, help, buttons, context menus and the key handler read this list
 * (the interface adds what only concerns the view). What cannot be done now says why.
 */
import type { Command } from './command.ts';
import { linkCommands } from './list-links.ts';
import { rowCommands } from './list-rows.ts';

export const planCommands: readonly Command[] = [...rowCommands, ...linkCommands];
