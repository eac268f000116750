/** The rooms: the workspaces of the rail, in the order of the work. A room is one entry here. */
import { IconAdjustmentsHorizontal, IconBooks, IconChartBar, IconCheck, IconCoins, IconFileText, IconListDetails, IconTimeline } from '@tabler/icons-react';
import { addCommands } from '../commands/list';
import type { AppCommand } from '../commands/types';
import type { Place, Room } from './panel';

const inProject = (r: Omit<Room, 'path' | 'route' | 'ofProject'>): Room => ({ ...r, ofProject: true, path: (id) => `/p/${id}/${r.id}`, route: `p/:projectId/${r.id}` });

export const rooms: Room[] = [
  {
    id: 'projects',
    title: 'Projects',
    about: 'All projects with their figures',
    words: 'list open portfolio copy duplicate archive delete rename idea ideas what-if scenario trash',
    places: [
      { id: 'new', title: 'New project', about: 'Begins an empty project', words: 'blank start' },
      { id: 'import', title: 'Import a project file', about: 'Makes a project of a file in the open format of Yellowhammer', words: 'load open restore backup upload read json' },
    ],
    icon: IconListDetails,
    path: () => '/projects',
    route: 'projects',
    ofProject: false,
    load: async () => ({ default: (await import('../projects/ProjectsPage')).ProjectsPage }),
  },
  inProject({
    id: 'plan',
    title: 'Plan',
    about: 'Sheet and timeline',
    words: 'bars schedule activities timeline sheet',
    icon: IconTimeline,
    load: async () => ({ default: (await import('../plan/PlanPage')).PlanPage }),
  }),
  inProject({
    id: 'load',
    title: 'Load',
    about: 'Who is asked for, when, and whether there is enough',
    words: 'resources people plant material demand capacity overload histogram usage allocation overallocation',
    places: [
      { id: 'time', title: 'People on time', about: 'Bars of each person: drag one to somebody else', words: 'who resources schedule roster assign' },
      {
        id: 'level',
        title: 'Level or smooth',
        about: 'Holds work back so that no resource is asked for too much, or only within float',
        words: 'levelling level levelled smoothing resources resource overload overallocation resolve held back delay',
      },
    ],
    icon: IconChartBar,
    load: async () => ({ default: (await import('../load/LoadPage')).LoadPage }),
  }),
  inProject({
    id: 'money',
    title: 'Money',
    about: 'What it costs and brings in, and when the money must be there',
    words: 'cost costs budget cash flow curve account accounts expenses income grants currency spend s-curve forecast',
    places: [{ id: 'expenses', title: 'Expenses and income', about: 'Rows of cost and income, to type in and to paste', words: 'add expense lump invoice payment budget list' }],
    icon: IconCoins,
    load: async () => ({ default: (await import('../money/MoneyPage')).MoneyPage }),
  }),
  inProject({
    id: 'update',
    title: 'Update',
    about: 'Status update: choose a new data date and enter progress',
    words: 'status progress percent complete actuals start finish done remaining suspend data date report record',
    icon: IconCheck,
    load: async () => ({ default: (await import('../update/UpdatePage')).UpdatePage }),
  }),
  inProject({
    id: 'compare',
    title: 'Compare',
    about: 'The plan against a baseline, or any two kept states',
    words: 'baseline difference variance moved states versions',
    icon: IconAdjustmentsHorizontal,
    load: async () => ({ default: (await import('../compare/ComparePage')).ComparePage }),
  }),
  inProject({
    id: 'report',
    title: 'Report',
    about: 'The plan on paper, as PDF or as CSV',
    words: 'print printer pdf paper export pages narrative plan',
    icon: IconFileText,
    load: async () => ({ default: (await import('../report/ReportPage')).ReportPage }),
  }),
  inProject({
    id: 'library',
    title: 'Library',
    about: 'Calendars, resources, code sets and fields',
    words: 'resources people roles crews groups calendar holidays working hours shifts code sets values own fields columns classification rates bar looks pictures shared',
    places: [
      {
        id: 'calendars',
        title: 'Calendars',
        about: 'Working weeks, holidays and other exceptions',
        words: 'calendar add working time hours shifts days off non-working weekend shared',
      },
      {
        id: 'people',
        title: 'Resources, roles and crews',
        about: 'Who and what does the work, with calendars, availability and rates',
        words: 'resource role crew add people labour equipment plant material rate availability holiday leave groups shared',
      },
      { id: 'accounts', title: 'Accounts and currencies', about: 'What cost and income are gathered by', words: 'account add cost code rates exchange' },
      { id: 'codes', title: 'Code sets', about: 'What activities are sorted, grouped and coloured by', words: 'code add codes values trade area phase' },
      {
        id: 'fields',
        title: 'Fields of your own',
        about: 'Columns beside those that are there, typed or computed',
        words: 'own custom user field add column formula expression computed',
      },
      { id: 'looks', title: 'Bar looks', about: 'How bars are drawn, by rules', words: 'look add bar style colours shapes' },
      { id: 'pictures', title: 'Pictures', about: 'The logo of the project, and signs on milestones', words: 'picture add logo image sign icon' },
      { id: 'alike', title: 'Alike but different', about: 'What has one name in several projects, and is not the same', words: 'compare duplicates shared standard unify' },
    ],
    icon: IconBooks,
    load: async () => ({ default: (await import('../library/LibraryPage')).LibraryPage }),
  }),
];

/** What comes with a room besides its place in the rail: commands that go there, and to places in it. */
function announce(r: Room): void {
  const goes = (id: string, { title, about, words }: Pick<Place, 'title' | 'about' | 'words'>, place?: string): AppCommand => ({
    id,
    title,
    about,
    words,
    group: 'Go to',
    where: [],
    able: () => true,
    run: (h) => h.go(r.path(h.session.id), place === undefined ? undefined : { place }),
  });
  addCommands([goes(`room-${r.id}`, { ...r, title: `Go to ${r.title}` }), ...(r.places ?? []).map((p) => goes(`${r.id}-${p.id}`, p, p.id))]);
}
rooms.forEach(announce);

/** A room that is added later. */
export function addRoom(r: Room): void {
  rooms.push(r);
  announce(r);
}
