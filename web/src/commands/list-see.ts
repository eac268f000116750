/** Commands on how the plan is seen: views, filters, groups, colours, the search, columns that stay. */
import { type Quick, quickNames } from '@yellowhammer/core/model/view-schema';
import { quickWords } from '@yellowhammer/core/view/organise';
import { suppliedViews, type NamedView } from '@yellowhammer/core/view/supplied';
import { allViews, shownIn } from '../plan/view/settings';
import { openStrip, type Part } from '../plan/view/strip-part';
import { set, view } from './make';
import type { AppCommand, Hands } from './types';

const show = (h: Hands, v: NamedView | undefined): void => {
  if (v) set(h, shownIn(h.session.doc, v, h.ui, h.plan?.width ?? 800, h.session.view));
};

/** The view before or after the one that is shown. */
function step(h: Hands, by: 1 | -1): NamedView | undefined {
  const views = allViews(h.session.doc);
  const at = views.findIndex((v) => v.id === h.ui.view);
  return views[(Math.max(0, at) + by + views.length) % views.length];
}

const opens = (id: string, title: string, about: string, words: string, part: Part, letter?: string): AppCommand =>
  view({ id, title, about, words, group: 'View', where: ['head', 'ground'], ...(letter ? { letter } : {}), run: () => openStrip(part) });

const quick = (q: Quick): AppCommand =>
  view({
    id: q === 'critical' ? 'onlyCritical' : `quick-${q}`,
    title: `Only ${q === 'critical' ? 'critical activities' : `what is ${quickWords[q]}`}`,
    about: q === 'mine' ? 'What you answer for, or are assigned to, by the name at the top right; again to show all' : 'A quick filter on top of any other; again to show all',
    words: {
      critical: 'filter critical path longest',
      near: 'filter nearly float',
      inWindow: 'filter visible time window period',
      behind: 'filter late delayed slipping',
      mine: 'filter my own responsible assigned me',
    }[q],
    group: 'View',
    on: (h) => h.ui.quick.includes(q),
    run: (h) => set(h, { quick: h.ui.quick.includes(q) ? h.ui.quick.filter((x) => x !== q) : [...h.ui.quick, q] }),
  });

export const seeCommands: AppCommand[] = [
  opens('filterRows', 'Filter the rows', 'Conditions on any field, read as a sentence', 'filter narrow only where find rule give', 'filter', 'B'),
  opens('groupRows', 'Group the rows', 'By codes, dates by week or month, any field, up to six levels', 'group band sort by code week month', 'groups', 'O'),
  opens('colourBars', 'Colours of the bars', 'By the values of a field, or by a look with rules', 'colour color look legend style', 'colours'),
  opens('savedViews', 'Saved views', 'Views that come with the project, those of the project, and your own', 'view layout keep save', 'views'),
  view({
    id: 'showAll',
    title: 'Show all rows',
    about: 'Takes all filters, the focus and the trace away; groups and sorting stay',
    words: 'clear reset filter unfilter everything',
    group: 'View',
    where: ['head', 'ground'],
    letter: 'A',
    able: (h) =>
      h.ui.filter !== null || h.ui.quick.length > 0 || Object.values(h.ui.headFilters ?? {}).some(Boolean) || h.ui.focus !== null || h.ui.trace !== null || 'All rows are shown.',
    run: (h) => set(h, { filter: null, quick: [], headFilters: h.ui.headFilters && {}, focus: null, trace: null }),
  }),
  view({
    id: 'search',
    title: 'Look for a text in the rows',
    about: 'Steps through the hits in every column that is shown',
    words: 'find search text next',
    group: 'View',
    where: ['ground'],
    keys: ['Ctrl+F'],
    run: (h) => set(h, { search: h.ui.search ?? '' }),
  }),
  view({
    id: 'headFilters',
    title: 'Filters under the heads',
    about: 'A field under each head, in which rows are narrowed down by typing',
    words: 'filter row column type',
    group: 'View',
    where: ['head'],
    on: (h) => h.ui.headFilters !== null,
    run: (h) => set(h, { headFilters: h.ui.headFilters === null ? {} : null }),
  }),
  view({
    id: 'nextView',
    title: 'The next view',
    about: 'Goes through the saved views',
    words: 'switch cycle layout',
    group: 'View',
    letter: 'V',
    run: (h) => show(h, step(h, 1)),
  }),
  view({
    id: 'lastView',
    title: 'The view before',
    about: 'Goes back through the saved views',
    words: 'switch cycle layout previous',
    group: 'View',
    letter: 'Shift+V',
    run: (h) => show(h, step(h, -1)),
  }),
  ...suppliedViews.map((v) =>
    view({
      id: `see-${v.id.slice(9)}`,
      title: `See: ${v.name}`,
      about: v.about,
      words: 'view layout switch',
      group: 'View',
      on: (h) => h.ui.view === v.id,
      run: (h) => show(h, v),
    }),
  ),
  ...quickNames.map(quick),
  ...(['timeline', 'network', 'month'] as const).map((mode) =>
    view({
      id: `mode-${mode}`,
      title: { timeline: 'Timeline', network: 'Network of activities', month: 'Month by month' }[mode],
      about: { timeline: 'Sheet and bars', network: 'Activities as boxes with their links', month: 'Activities on the days of a month, or on weeks' }[mode],
      words: { timeline: 'bars chart picture', network: 'diagram logic boxes precedence flow', month: 'calendar days weeks wall' }[mode],
      group: 'View',
      on: (h) => h.ui.mode === mode,
      run: (h) => set(h, { mode }),
    }),
  ),
  view({
    id: 'freeze',
    title: 'Keep the columns up to this one in view',
    about: 'They stay where they are while the sheet is scrolled sideways; again to let them go',
    words: 'freeze pin lock split',
    group: 'View',
    where: ['head'],
    able: (h) => (h.column !== null && h.ui.columns.includes(h.column)) || 'Point at a column first.',
    run: (h) => set(h, { frozen: ((n) => (n === h.ui.frozen ? 0 : n))(h.ui.columns.indexOf(h.column ?? '') + 1) }),
  }),
];
