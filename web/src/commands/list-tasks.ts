/** Commands that are prepared in the panel beside the sheet, with what they would do, before they are done. */
import { activitiesOf, set, view } from './make';
import type { AppCommand, Hands } from './types';

/** Opens a task with what is selected; where it is open already, the panel gets the keyboard. */
const open = (h: Hands, id: string): void => {
  if (h.ui.task?.id === id) document.querySelector<HTMLElement>('.task [data-autofocus]')?.focus();
  else set(h, { task: { id, rows: h.ui.selected } });
};

const task = (c: Omit<AppCommand, 'run' | 'where'> & { where?: AppCommand['where'] }): AppCommand => view({ ...c, run: (h) => open(h, c.id) });

export const taskCommands: AppCommand[] = [
  task({
    id: 'replicate',
    title: 'Replicate',
    about: 'Copies rows or branches many times in one step, with names by a pattern and the links that you choose',
    words: 'copy repeat duplicate floors multiply clone n times',
    group: 'Rows',
    where: ['row', 'node'],
    letter: 'R',
    able: (h) => h.ui.selected.length > 0 || 'Select rows first.',
  }),
  task({
    id: 'values',
    title: 'List of values',
    about: 'Values of code sets, calendars and choices beside the sheet: drag one onto rows or bars, or click it to stamp it',
    words: 'code drop drag assign palette list trade area',
    group: 'Cells',
    where: ['row', 'bar'],
    letter: 'K',
    able: () => true,
  }),
  task({
    id: 'typePlan',
    title: 'Type or paste a plan',
    about: 'Many lines at once, with indents, durations, links and dates; also rows of a spreadsheet',
    words: 'import list text outline bulk paste spreadsheet excel csv rows',
    group: 'Rows',
    where: ['ground', 'node'],
    letter: 'P',
    able: () => true,
  }),
  task({
    id: 'split',
    title: 'Split the activity in two',
    about: 'The second part follows the first; what led to the finish and out of it goes with it',
    words: 'divide cut part break',
    group: 'Rows',
    where: ['row', 'bar'],
    letter: 'X',
    able: (h) => activitiesOf(h).length === 1 || 'Select one activity first.',
  }),
  task({
    id: 'linkEach',
    title: 'Link each of these to each of those',
    about: 'Every one of the selected activities with every one of another selection, of one type and lag',
    words: 'many connect cross matrix bulk logic',
    group: 'Links',
    where: ['row', 'bar'],
    letter: 'E',
    able: (h) => activitiesOf(h).length > 0 || 'Select the first activities.',
  }),
  task({
    id: 'copyLinks',
    title: 'Copy its predecessors or successors to others',
    about: 'Gives many activities the links that one has, all of them or those picked',
    words: 'same logic duplicate links bulk relationships',
    group: 'Links',
    where: ['row', 'bar'],
    letter: 'C',
    able: (h) => activitiesOf(h).length === 1 || 'Select the one activity whose links are copied.',
  }),
  task({
    id: 'renumber',
    title: 'Number the activities anew',
    about: 'By a rule: first number, step, digits, and a prefix for each branch; links keep their ends',
    words: 'renumber codes ids sequence prefix auto',
    group: 'Rows',
    where: [],
    able: (h) => h.session.doc.activities.size > 0 || 'There are no activities yet.',
  }),
  task({
    id: 'history',
    title: 'History',
    about: 'Who changed what and when, and what it did to the finish; compare two points, or go back to one',
    words: 'log audit undo restore earlier version changes who when rollback',
    group: 'Project',
    where: ['row', 'node'],
    letter: 'H',
    able: () => true,
  }),
  task({
    id: 'redundant',
    title: 'Redundant links',
    about: 'Links that a longer chain asks for already, with no less lag',
    words: 'clean superfluous unnecessary duplicate logic reduce',
    group: 'Links',
    where: [],
    able: (h) => h.session.doc.links.size > 0 || 'There are no links.',
  }),
];
