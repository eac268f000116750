/** The list of commands: palette, help, buttons, context menus and the key handler read it (docs/extending.md). */
import { planCommands } from '@yellowhammer/core/commands/list';
import { newId } from '../project/hooks';
import type { Findable } from './find';
import { generalCommands } from './list-general';
import { handCommands } from './list-hands';
import { seeCommands } from './list-see';
import { taskCommands } from './list-tasks';
import { viewCommands } from './list-view';
import type { AppCommand, Hands } from './types';

/** Commands that change the plan: core says whether and how, the interface carries the outcome out. */
const changing: AppCommand[] = planCommands.map((c) => {
  const context = (h: Hands) => h.plan && { doc: h.session.doc, view: h.session.view, selection: { ...h.plan.selection(), link: h.link }, newId };
  return {
    ...c,
    able(h) {
      const given = context(h);
      return given ? c.able(given) : 'Go to Plan first.';
    },
    run(h) {
      const given = context(h);
      if (!given) return;
      const gone = new Set(given.selection.rows.map((r) => r.id));
      const outcome = c.run(given);
      if (!h.session.run(outcome)) return;
      if (c.id === 'deleteRows') h.plan?.afterDelete(gone);
      else if (outcome.ok && outcome.made && c.then) h.plan?.afterMade(outcome.made, c.then === 'rename');
    },
  };
});

const all: AppCommand[] = [...handCommands, ...changing, ...taskCommands, ...viewCommands, ...seeCommands, ...generalCommands];
export const commands: readonly AppCommand[] = all;

/** Commands that come with something else, such as going to a room. */
export const addCommands = (more: readonly AppCommand[]): void => void all.push(...more);

export const commandOf = (id: string): AppCommand | undefined => commands.find((c) => c.id === id);

/** What a command is found by: its title, description and the words that a planner would type. */
export const findableCommand = (c: AppCommand): Findable => ({ title: c.title, rest: `${c.about} ${c.words} ${c.group}` });
