/** Commands that change what is shown. */
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { projectOf } from '@yellowhammer/core/model/document';
import { nextSort } from '@yellowhammer/core/fields/sort';
import { editField } from '@yellowhammer/core/fields/field';
import { activityCell, fieldOf } from '@yellowhammer/core/fields/list';
import { stampable } from '@yellowhammer/core/plan/stamp';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { defaultColumns, type PlanUi } from '../app/store';
import { focusWhy } from '../plan/section-focus';
import { always, drawn, oneActivity, set, view } from './make';
import type { AppCommand, Hands } from './types';

/** The value under the cursor, where it can be stamped; else the calendar of its row. */
function stampAt(h: Hands): PlanUi['stamp'] {
  const { doc, view } = h.session;
  const a = doc.activities.get(h.ui.active?.row ?? '');
  const f = stampable(doc).find((x) => x.key === h.ui.active?.column) ?? fieldOf(doc, 'calendar');
  return f ? { key: f.key, text: a ? editField(f, activityCell({ doc, view, baseline: null, clock: false }, a)) : '' } : null;
}

/** What is on or off. */
type Choices = { [K in keyof PlanUi]: PlanUi[K] extends boolean ? K : never }[keyof PlanUi];

/** A choice that is on or off. */
const choice = (id: string, title: string, words: string, key: Choices): AppCommand =>
  view({
    id,
    title,
    about: 'Shows or hides it',
    words,
    group: 'View',
    on: (h) => h.ui[key],
    run: (h) => set(h, { [key]: !h.ui[key] }),
  });

export const viewCommands: AppCommand[] = [
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
    words: 'filter follow logic chain path trace linked driving predecessors successors',
    group: 'View',
    where: ['row', 'bar'],
    letter: 'T',
    on: (h) => h.ui.trace !== null,
    able: (h) => h.ui.trace !== null || oneActivity(h) !== undefined || 'Select one activity first.',
    run: (h) => set(h, { trace: h.ui.trace ? null : { id: oneActivity(h) ?? '', mode: 'all', steps: 2 } }),
  }),
  view({
    id: 'focus',
    title: 'Focus on the selected',
    about: 'Shows only the selected rows and branches; again, or Escape, to show all',
    words: 'filter branch isolate only hide rest zoom',
    group: 'View',
    where: ['row', 'node'],
    letter: 'F',
    on: (h) => h.ui.focus !== null,
    able: (h) => h.ui.focus !== null || h.ui.selected.length > 0 || 'Select rows first.',
    run: (h) => set(h, { focus: h.ui.focus ? null : h.ui.selected, trace: null }),
  }),
  view({
    id: 'stamp',
    title: 'Stamp a value',
    about: 'Pick a value of a code set, a calendar, a colour or a choice, then click or sweep over rows or bars, or press Space',
    words: 'assign brush apply many calendar code colour',
    group: 'Cells',
    where: ['row', 'bar'],
    letter: 'S',
    on: (h) => h.ui.stamp !== null,
    run: (h) => set(h, { stamp: h.ui.stamp ? null : stampAt(h) }),
  }),
  drawn(
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
    'network',
  ),
  drawn(
    view({
      id: 'fitSelected',
      title: 'Fit the selected',
      about: 'Zooms so that the selected rows fill the picture',
      words: 'zoom selection time',
      group: 'Time',
      where: ['row', 'node', 'bar'],
      letter: 'Z',
      able: (h) => h.ui.selected.length > 0 || 'Select rows first.',
      run: (h) => h.plan?.fitSelected(),
    }),
  ),
  drawn(
    view({
      id: 'goDataDate',
      title: 'Go to the data date',
      about: 'Moves the timeline to the data date; the palette goes to any date that is typed',
      words: 'today now status time scroll',
      group: 'Time',
      where: ['ground'],
      letter: 'D',
      able: (h) => projectOf(h.session.doc).dataDate !== null || 'The project has no data date yet.',
      run: (h) => h.plan?.goDate(parseInstant(projectOf(h.session.doc).dataDate ?? '') ?? 0),
    }),
  ),
  drawn(
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
    'network',
  ),
  drawn(
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
    'network',
  ),
  ...(['all', 'driving', 'none'] as const).map((links) =>
    drawn(
      view({
        id: `links-${links}`,
        title: { all: 'All links', driving: 'Only driving links', none: 'No links' }[links],
        about: 'Which links are drawn',
        words: 'show hide logic arrows relationship lines',
        group: 'View',
        on: (h) => h.ui.showLinks === links,
        run: (h) => set(h, { showLinks: links }),
      }),
    ),
  ),
  ...(['hidden', 'strips', 'lines'] as const).map((assignments) =>
    drawn(
      view({
        id: `assignments-${assignments}`,
        title: { hidden: 'Assignments hidden', strips: 'Assignments as strips under bars', lines: 'Assignments as lines under their activity' }[assignments],
        about: 'Who does the work, in sheet and timeline',
        words: 'resources assignments rows who people show hide expand',
        group: 'View',
        on: (h) => h.ui.assignments === assignments,
        run: (h) => set(h, { assignments }),
      }),
    ),
  ),
  drawn(choice('showFloat', 'Float as dotted tail', 'slack show hide', 'showFloat')),
  choice('clock', 'Times with dates', 'hours clock show', 'clock'),
  drawn(choice('ownStops', 'Non-working time of each row’s own calendar', 'weekends holidays nights texture calendar shade', 'ownStops')),
  choice('ribbonOwn', 'Path ribbon on a scale of its own', 'longest path press together readable', 'ribbonOwn'),
  drawn(choice('projectRow', 'A row for the whole project', 'total summary sum roll-up top', 'projectRow')),
  drawn(choice('map', 'Map of the whole plan', 'overview small picture navigate move around', 'map')),
  drawn(
    view({
      id: 'graph',
      title: 'Graph under the plan',
      about: 'Load or money on the axis of the timeline: of who does the selected activity, or of everybody',
      words: 'histogram s-curve usage load resources demand capacity cost money curve cash flow chart strip dock',
      group: 'View',
      on: (h) => h.ui.graph !== null,
      run(h) {
        const row = h.ui.selected[0];
        const x = row === undefined ? undefined : indexOf(h.session.doc).assignmentsOf(row)[0];
        const whose = x ? (x.resourceId !== null ? `resource ${x.resourceId}` : `role ${x.roleId ?? ''}`) : h.session.doc.assignments.size ? 'all' : 'flow';
        set(h, { graph: h.ui.graph === null ? whose : null });
      },
    }),
  ),
  view({
    id: 'timelineWindow',
    title: 'Timeline in a window of its own',
    about: 'Opens the timeline alone in a second window, which follows what is selected here',
    words: 'second screen monitor detach split new',
    group: 'View',
    run: (h) => void window.open(`/p/${h.session.id}/plan?alone`, `yellowhammer-${h.session.id}`, 'popup,width=1200,height=720'),
  }),
  drawn(choice('linkDrawn', 'Link what is drawn in a lane', 'chain follow draw lanes trades', 'linkDrawn')),
  view({
    id: 'askDrag',
    title: 'Ask again when a linked bar is dragged',
    about: 'Forgets the answer that is given to every drag',
    words: 'remember forget question constraint lag',
    group: 'View',
    able: (h) => h.ui.dragAnswer !== null || 'It is asked each time.',
    run: (h) => set(h, { dragAnswer: null }),
  }),
  drawn(choice('dense', 'Dense rows', 'height compact small', 'dense')),
  choice('inspector', 'Inspector', 'details panel sidebar hide show', 'inspector'),
  view({
    id: 'sortColumn',
    title: 'Sort by this column',
    about: 'Rising, then falling, then as in the outline; a click on the head does it, with Shift behind the others',
    words: 'order ascending descending rank',
    group: 'View',
    where: ['head'],
    able: (h) => h.column !== null || 'Point at a column first.',
    run: (h) => set(h, { sort: nextSort(h.ui.sort, h.column ?? '', false) }),
  }),
  view({
    id: 'sortOff',
    title: 'No sorting',
    about: 'Rows stand as in the outline again',
    words: 'order reset unsort',
    group: 'View',
    where: ['head'],
    able: (h) => h.ui.sort.length > 0 || 'Nothing is sorted.',
    run: (h) => set(h, { sort: [] }),
  }),
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
  drawn(
    view({
      id: 'columns',
      title: 'Columns',
      about: 'Which fields the sheet shows',
      words: 'choose pick select add hide show fields column sheet layout',
      group: 'View',
      where: ['head'],
      run: (h) => set(h, { drawer: 'columns' }),
    }),
  ),
  drawn(
    view({
      id: 'barTexts',
      title: 'Texts at the bars',
      about: 'What stands before, on and after them',
      words: 'labels captions names bar text',
      group: 'View',
      run: (h) => set(h, { drawer: 'texts' }),
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
    words: 'stop calculate calculation recalculate compute computing resume recompute schedule automatic',
    group: 'Project',
    able: always,
    on: (h) => h.session.paused,
    run: (h) => h.session.computing.setPaused(!h.session.paused),
  }),
];
