/** Commands of the hands on rows and cells: adding, editing, the clipboard, the outline. */
import { closedNodes, nodesBelow, turnedFor } from '@yellowhammer/core/outline/depth';
import { typeNames } from '@yellowhammer/core/model/activity-kinds';
import { planActions } from '../app/store';
import { view } from './make';
import type { AppCommand } from './types';

export const handCommands: AppCommand[] = [
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
  ...(['finishMilestone', 'startMilestone', 'margin', 'levelOfEffort'] as const).map((type) =>
    view({
      id: `add-${type}`,
      title: `Add ${typeNames[type].toLowerCase()}`,
      about: 'A new one below the cursor',
      words: `new row ${{ finishMilestone: 'event gate handover', startMilestone: 'event begin notice', margin: 'buffer contingency allowance reserve time risk', levelOfEffort: 'hammock span spans support management' }[type]}`,
      group: 'Rows',
      run: (h) => h.plan?.startDraft('activity', false, type),
    }),
  ),
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
    id: 'addNodeInside',
    title: 'Add WBS node inside',
    about: 'A new WBS node in the node of the cursor, one level down',
    words: 'child new group insert summary create level',
    group: 'Rows',
    where: ['node'],
    keys: ['Ctrl+Shift+Enter'],
    able: (h) => h.plan?.selection().row?.kind === 'wbs' || 'Put the cursor on a WBS node first.',
    run: (h) => h.plan?.startDraft('wbs', true),
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
  ...([true, false] as const).map((open) =>
    view({
      id: open ? 'openBranch' : 'closeBranch',
      title: open ? 'Open everything below' : 'Close everything below',
      about: open ? 'Opens the selected WBS nodes and all nodes in them' : 'Closes the selected WBS nodes and all nodes in them',
      words: 'expand collapse branch outline all levels',
      group: 'Rows',
      where: ['node'],
      keys: [open ? 'Alt+Shift+ArrowRight' : 'Alt+Shift+ArrowLeft'],
      able: (h) => h.plan?.selection().rows.some((r) => r.kind === 'wbs') || 'Select a WBS node first.',
      run(h) {
        const below = nodesBelow(
          h.session.doc,
          (h.plan?.selection().rows ?? []).flatMap((r) => (r.kind === 'wbs' ? [r.id] : [])),
        );
        const closed = closedNodes(h.session.doc, h.ui.collapsed);
        for (const id of below)
          if (open) closed.delete(id);
          else closed.add(id);
        h.dispatch(planActions.set({ collapsed: turnedFor(h.session.doc, closed) }));
      },
    }),
  ),
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
    words: 'add lead relationship relation FS SS FF SF connect logic',
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
];
