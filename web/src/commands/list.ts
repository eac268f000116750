/** The list of commands: palette, help, buttons, context menus and the key handler read it (docs/extending.md). */
import { planCommands } from '@yellowhammer/core/commands/list';
import { defaultColumns, planActions } from '../app/store';
import { newId } from '../project/hooks';
import { focusWhy } from '../plan/why-focus';
import type { AppCommand, Hands } from './types';

const always = (): true => true;
const inPlan = (h: Hands): true | string => h.plan !== null || 'Go to Plan first.';
const set = (h: Hands, ui: Parameters<typeof planActions.set>[0]): void => void h.dispatch(planActions.set(ui));
const oneActivity = (h: Hands): string | undefined => (h.ui.selected.length === 1 && h.session.doc.activities.has(h.ui.selected[0]!) ? h.ui.selected[0] : undefined);

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
      if (h.session.run(c.run(given)) && c.id === 'deleteRows') h.plan?.afterDelete(gone);
    },
  };
});

const view = (c: Omit<AppCommand, 'able' | 'where'> & { able?: AppCommand['able']; where?: AppCommand['where'] }): AppCommand => ({ able: inPlan, where: [], ...c });

/** A choice that is on or off. */
const choice = (id: string, title: string, words: string, key: 'showFloat' | 'clock' | 'dense' | 'onlyCritical' | 'inspector'): AppCommand =>
  view({
    id,
    title,
    about: 'Shows or hides it',
    words,
    group: 'View',
    on: (h) => h.ui[key],
    run: (h) => set(h, { [key]: !h.ui[key], ...(key === 'onlyCritical' ? { trace: null } : {}) }),
  });

const viewing: AppCommand[] = [
  view({
    id: 'addActivity',
    title: 'Add activity',
    about: 'A new activity below the cursor',
    words: 'new task insert row create',
    group: 'Rows',
    where: ['row', 'node', 'ground'],
    keys: ['Enter'],
    run: (h) => h.plan?.startDraft('activity'),
  }),
  view({
    id: 'addNode',
    title: 'Add WBS node',
    about: 'A new WBS node below the cursor',
    words: 'new group heading insert summary create',
    group: 'Rows',
    where: ['row', 'node', 'ground'],
    keys: ['Ctrl+Enter'],
    run: (h) => h.plan?.startDraft('wbs'),
  }),
  view({
    id: 'edit',
    title: 'Edit the cell',
    about: 'Types into the cell of the cursor',
    words: 'change rename',
    group: 'Cells',
    where: ['row', 'node'],
    keys: ['F2'],
    run: (h) => h.plan?.startEdit(),
  }),
  view({
    id: 'toggleNode',
    title: 'Open or close the WBS node',
    about: 'Shows or hides what is in it',
    words: 'collapse expand fold outline',
    group: 'Rows',
    where: ['node'],
    letter: ' ',
    able: (h) => (h.plan?.selection().row?.kind === 'wbs' && !h.ui.stamp) || 'Put the cursor on a WBS node first.',
    run(h) {
      const row = h.plan?.selection().row;
      if (row) h.dispatch(planActions.toggle(row.id));
    },
  }),
  view({
    id: 'copy',
    title: 'Copy',
    about: 'Rows with their links (in No., Activity and computed columns), else cells',
    words: 'clipboard duplicate',
    group: 'Cells',
    where: ['row', 'node', 'bar'],
    keys: ['Ctrl+C'],
    run: (h) => h.plan?.clipboard('copy'),
  }),
  view({
    id: 'cut',
    title: 'Cut',
    about: 'Marks rows to be moved by pasting, or takes cells',
    words: 'clipboard move',
    group: 'Cells',
    where: ['row', 'node', 'bar'],
    keys: ['Ctrl+X'],
    run: (h) => h.plan?.clipboard('cut'),
  }),
  view({
    id: 'paste',
    title: 'Paste',
    about: 'Rows below the cursor, cells, or text of a spreadsheet',
    words: 'clipboard insert',
    group: 'Cells',
    where: ['row', 'node', 'ground'],
    keys: ['Ctrl+V'],
    run: (h) => h.plan?.clipboard('paste'),
  }),
  view({
    id: 'selectAll',
    title: 'Select all rows',
    about: 'Selects every row that is shown',
    words: 'everything',
    group: 'Rows',
    keys: ['Ctrl+A'],
    run: (h) => h.plan?.selectAll(),
  }),
  ...Array.from({ length: 9 }, (_, i) =>
    view({
      id: `depth${i + 1}`,
      title: i === 8 ? 'Outline: all levels' : `Outline: ${i + 1} ${i === 0 ? 'level' : 'levels'}`,
      about: 'Opens WBS nodes down to this level and closes those below',
      words: 'depth collapse expand level filter',
      group: 'View',
      letter: String(i + 1),
      run: (h) => h.plan?.outlineDepth(i + 1),
    }),
  ),
  view({
    id: 'linkWith',
    title: 'Link the selected with a type and a lag',
    about: 'Asks for type and lag, then links in the order of selecting',
    words: 'lead relationship SS FF SF connect',
    group: 'Links',
    where: ['row', 'bar'],
    letter: 'Shift+L',
    able: (h) => (h.plan?.selection().rows.filter((r) => r.kind === 'activity').length ?? 0) > 1 || 'Select two or more activities, in the order in which they follow each other.',
    run: (h) => h.plan?.linkWithChoices(),
  }),
  ...(['from', 'to'] as const).map((end) =>
    view({
      id: end === 'from' ? 'goPredecessor' : 'goSuccessor',
      title: end === 'from' ? 'Go to its predecessor' : 'Go to its successor',
      about: 'Goes to the activity at that end of the link',
      words: 'jump end link',
      group: 'Links',
      where: ['link'],
      able: (h) => (h.link !== null && h.session.doc.links.has(h.link)) || 'Point at a link first.',
      run(h) {
        const l = h.link === null ? undefined : h.session.doc.links.get(h.link);
        if (l) h.plan?.go(l[end]);
      },
    }),
  ),
  view({
    id: 'why',
    title: 'Why this date?',
    about: 'What governs the dates of the selected activity',
    words: 'explain reason driving cause',
    group: 'View',
    where: ['row', 'bar'],
    letter: 'W',
    able: (h) => oneActivity(h) !== undefined || 'Select one activity first.',
    run(h) {
      set(h, { inspector: true });
      focusWhy(oneActivity(h) ?? '');
    },
  }),
  view({
    id: 'trace',
    title: 'Connected activities only',
    about: 'Shows only the selected activity with what it is linked to; again to show all',
    words: 'filter chain path follow linked',
    group: 'View',
    where: ['row', 'bar'],
    letter: 'T',
    on: (h) => h.ui.trace !== null,
    able: (h) => h.ui.trace !== null || oneActivity(h) !== undefined || 'Select one activity first.',
    run: (h) => set(h, { trace: h.ui.trace ? null : { id: oneActivity(h) ?? '', mode: 'all', steps: 2 } }),
  }),
  view({
    id: 'stamp',
    title: 'Stamp a calendar',
    about: 'Pick a calendar, then click or sweep over rows or bars, or press Space',
    words: 'assign brush apply many',
    group: 'Cells',
    where: ['row', 'bar'],
    letter: 'S',
    on: (h) => h.ui.stamp !== null,
    run: (h) => set(h, { stamp: h.ui.stamp ? null : { calendarId: h.session.doc.activities.get(h.ui.active?.row ?? '')?.calendarId ?? null } }),
  }),
  view({
    id: 'fit',
    title: 'Fit the whole plan',
    about: 'Zooms so that the whole plan is in view',
    words: 'zoom all overview',
    group: 'Time',
    where: ['ground'],
    letter: '0',
    run: (h) => h.plan?.fit(),
  }),
  view({
    id: 'zoomIn',
    title: 'Zoom in',
    about: 'Shows less time in more detail',
    words: 'larger scale days',
    group: 'Time',
    where: ['ground'],
    letter: '+',
    keys: ['='],
    run: (h) => h.plan?.zoom(1.4),
  }),
  view({
    id: 'zoomOut',
    title: 'Zoom out',
    about: 'Shows more time',
    words: 'smaller scale months',
    group: 'Time',
    where: ['ground'],
    letter: '-',
    run: (h) => h.plan?.zoom(1 / 1.4),
  }),
  ...(['all', 'driving', 'none'] as const).map((links) =>
    view({
      id: `links-${links}`,
      title: { all: 'All links', driving: 'Only driving links', none: 'No links' }[links],
      about: 'Which links are drawn',
      words: 'show hide logic arrows',
      group: 'View',
      on: (h) => h.ui.showLinks === links,
      run: (h) => set(h, { showLinks: links }),
    }),
  ),
  choice('showFloat', 'Float as dotted tail', 'slack show hide', 'showFloat'),
  choice('clock', 'Times with dates', 'hours clock show', 'clock'),
  choice('dense', 'Dense rows', 'height compact small', 'dense'),
  choice('onlyCritical', 'Only critical activities', 'filter critical path longest', 'onlyCritical'),
  choice('inspector', 'Inspector', 'details panel sidebar hide show', 'inspector'),
  view({
    id: 'hideColumn',
    title: 'Hide this column',
    about: 'Takes the column out of the sheet',
    words: 'remove field',
    group: 'View',
    where: ['head'],
    able: (h) => (h.column !== null && h.column !== 'code' && h.column !== 'name') || 'Number and name stay.',
    run: (h) => set(h, { columns: h.ui.columns.filter((c) => c !== h.column) }),
  }),
  ...([-1, 1] as const).map((step) =>
    view({
      id: step < 0 ? 'columnLeft' : 'columnRight',
      title: step < 0 ? 'Move this column left' : 'Move this column right',
      about: 'Changes the order of the columns',
      words: 'order field',
      group: 'View',
      where: ['head'],
      able(h) {
        const at = h.column === null ? -1 : h.ui.columns.indexOf(h.column);
        if (at < 0) return 'Point at a column first.';
        return (at + step >= 0 && at + step < h.ui.columns.length) || 'It is the last one there.';
      },
      run(h) {
        const columns = [...h.ui.columns];
        const at = columns.indexOf(h.column ?? '');
        columns.splice(at + step, 0, ...columns.splice(at, 1));
        set(h, { columns });
      },
    }),
  ),
  view({
    id: 'usualColumns',
    title: 'The usual columns',
    about: 'Columns and widths as they come',
    words: 'reset default fields',
    group: 'View',
    where: ['head'],
    run: (h) => set(h, { columns: defaultColumns, widths: {} }),
  }),
  view({
    id: 'csv',
    title: 'The rows and columns shown, as CSV',
    about: 'Saves what the sheet shows as a file for a spreadsheet',
    words: 'export spreadsheet download table',
    group: 'Project',
    run: (h) => h.plan?.csv(),
  }),
  view({
    id: 'pause',
    title: 'Pause recomputing',
    about: 'Dates stay as they are, and are marked as not up to date, until it is resumed',
    words: 'stop calculate resume recompute schedule',
    group: 'Project',
    able: always,
    on: (h) => h.session.paused,
    run: (h) => h.session.computing.setPaused(!h.session.paused),
  }),
];

const general: AppCommand[] = [
  view({
    id: 'undo',
    everywhere: true,
    title: 'Undo',
    about: 'Takes the last act back',
    words: 'back revert',
    group: 'Project',
    keys: ['Ctrl+Z'],
    able: (h) => h.session.undoStack.length > 0 || 'There is nothing to undo.',
    run: (h) => h.session.undo(),
  }),
  view({
    id: 'redo',
    everywhere: true,
    title: 'Redo',
    about: 'Brings back what was undone',
    words: 'again forward',
    group: 'Project',
    keys: ['Ctrl+Shift+Z', 'Ctrl+Y'],
    able: (h) => h.session.redoStack.length > 0 || 'There is nothing to redo.',
    run: (h) => h.session.redo(),
  }),
  view({
    id: 'find',
    everywhere: true,
    title: 'Find or do anything',
    about: 'Activities by number or name, and every command',
    words: 'search palette',
    group: 'Project',
    keys: ['Ctrl+K'],
    letter: '/',
    able: always,
    run: (h) => h.find(),
  }),
  view({
    id: 'keys',
    everywhere: true,
    title: 'Keys',
    about: 'The list of all keys',
    words: 'shortcuts help keyboard',
    group: 'Project',
    letter: '?',
    able: always,
    run: (h) => h.help(),
  }),
  view({
    id: 'settings',
    title: 'Project settings',
    about: 'Name, planned start, required finish, options, baselines',
    words: 'options properties baseline data date critical currency',
    group: 'Project',
    able: always,
    run: (h) => h.settings(),
  }),
  view({
    id: 'theme',
    title: 'Dark theme',
    about: 'Dark or light',
    words: 'dark light colours night',
    group: 'View',
    able: always,
    on: (h) => h.dark,
    run: (h) => h.setDark(!h.dark),
  }),
  view({
    id: 'file',
    title: 'Save the project file',
    about: 'Everything of the project in one file, in an open format',
    words: 'export download backup json',
    group: 'Project',
    able: always,
    run: (h) => window.location.assign(`/api/projects/${h.session.id}/file`),
  }),
];

const all: AppCommand[] = [...viewing, ...changing, ...general];
export const commands: readonly AppCommand[] = all;

/** Commands that come with something else, such as going to a room. */
export const addCommands = (more: readonly AppCommand[]): void => void all.push(...more);

export const commandOf = (id: string): AppCommand | undefined => commands.find((c) => c.id === id);

/** Commands that a text finds, by title, description and the words that a planner would type; the best first. */
export function findCommands(query: string): AppCommand[] {
  const words = query.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...commands];
  const scored = commands.flatMap((c) => {
    const [title, rest] = [c.title.toLowerCase(), `${c.about} ${c.words} ${c.group}`.toLowerCase()];
    if (!words.every((w) => title.includes(w) || rest.includes(w))) return [];
    return [{ c, score: words.reduce((n, w) => n + (title.startsWith(w) ? 3 : title.includes(w) ? 2 : 1), 0) }];
  });
  return scored.sort((a, b) => b.score - a.score).map((x) => x.c);
}
