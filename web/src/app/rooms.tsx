/** The rooms: the workspaces of the rail, in the order of the work. A room is one entry here. */
import { IconAdjustmentsHorizontal, IconBooks, IconChartBar, IconCheck, IconCoins, IconFileText, IconListDetails, IconTimeline } from '@tabler/icons-react';
import { addCommands } from '../commands/list';
import type { Room } from './panel';

const inProject = (r: Omit<Room, 'path' | 'route' | 'ofProject'>): Room => ({ ...r, ofProject: true, path: (id) => `/p/${id}/${r.id}`, route: `p/:projectId/${r.id}` });

export const rooms: Room[] = [
  {
    id: 'projects',
    title: 'Projects',
    about: 'All projects with their figures',
    words: 'list open new import portfolio',
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
    words: 'resources people plant material demand capacity overload histogram usage levelling',
    icon: IconChartBar,
    load: async () => ({ default: (await import('../load/LoadPage')).LoadPage }),
  }),
  inProject({
    id: 'money',
    title: 'Money',
    about: 'What it costs and brings in, and when the money must be there',
    words: 'cost costs budget cash flow curve account accounts expenses income grants currency spend',
    icon: IconCoins,
    load: async () => ({ default: (await import('../money/MoneyPage')).MoneyPage }),
  }),
  inProject({
    id: 'update',
    title: 'Update',
    about: 'Status update: choose a new data date and enter progress',
    words: 'status progress actual data date report',
    icon: IconCheck,
    load: async () => ({ default: (await import('../update/UpdatePage')).UpdatePage }),
  }),
  inProject({
    id: 'compare',
    title: 'Compare',
    about: 'The plan against a baseline, or any two kept states',
    words: 'baseline difference variance moved',
    icon: IconAdjustmentsHorizontal,
    load: async () => ({ default: (await import('../compare/ComparePage')).ComparePage }),
  }),
  inProject({
    id: 'report',
    title: 'Report',
    about: 'The plan on paper, as PDF or as CSV',
    words: 'print pdf paper export page',
    icon: IconFileText,
    load: async () => ({ default: (await import('../report/ReportPage')).ReportPage }),
  }),
  inProject({
    id: 'library',
    title: 'Library',
    about: 'Calendars, resources, code sets and fields',
    words: 'resources people roles crews groups calendar holidays working hours shifts code sets values own fields columns classification',
    icon: IconBooks,
    load: async () => ({ default: (await import('../library/LibraryPage')).LibraryPage }),
  }),
];

/** What comes with a room besides its place in the rail: a command that goes there. */
function announce(r: Room): void {
  addCommands([
    { id: `room-${r.id}`, title: `Go to ${r.title}`, about: r.about, words: r.words, group: 'Go to', where: [], able: () => true, run: (h) => h.go(r.path(h.session.id)) },
  ]);
}
rooms.forEach(announce);

/** A room that is added later. */
export function addRoom(r: Room): void {
  rooms.push(r);
  announce(r);
}
