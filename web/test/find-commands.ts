import { found } from '../src/commands/find';
import { commands, findableCommand } from '../src/commands/list';

/** Titles of the commands that a text finds, as the palette looks for them. */
export const titlesFor = (query: string): string[] => found(query, commands, findableCommand).map((c) => c.title);
