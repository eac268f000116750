/** Views that come with every project, and what a view asks for that is not there. */
import { fieldOf } from '../fields/list.ts';
import type { Document } from '../model/document.ts';
import { copyOfView, type Filter, type RelativeDate, usualColumns, usualSettings, type ViewSettings } from '../model/view-schema.ts';
import { conditionsOf } from './filter.ts';

export interface NamedView {
  id: string;
  name: string;
  about: string;
  settings: ViewSettings;
}

const fromData = (shift: number): RelativeDate => ({ from: 'dataDate', shift, unit: 'w' });
const underWay: Filter = {
  match: 'all',
  of: [
    { field: 'start', is: 'atMost', values: [fromData(3)] },
    { field: 'finish', is: 'atLeast', values: [fromData(0)] },
  ],
};
const view = (id: string, name: string, about: string, settings: Partial<ViewSettings>): NamedView => ({
  id: `supplied:${id}`,
  name,
  about,
  settings: { ...usualSettings, ...settings },
});

/** The first is how a plan opens. */
export const suppliedViews: readonly NamedView[] = [
  view('plan', 'The whole plan', 'For the planner: everything in the WBS, with logic and float.', { columns: [...usualColumns] }),
  view('meeting', 'Site meeting', 'What is under way or due around the data date, against the baseline.', {
    columns: ['code', 'name', 'start', 'finish', 'percent', 'ahead', 'finishVariance'],
    filter: {
      match: 'all',
      of: [
        { field: 'start', is: 'atMost', values: [fromData(4)] },
        { field: 'finish', is: 'atLeast', values: [fromData(-1)] },
      ],
    },
    showLinks: 'driving',
    range: { kind: 'around', before: 14, after: 35 },
  }),
  view('client', 'For the client', 'Two levels of the WBS without logic, with baseline and legend.', {
    columns: ['name', 'start', 'finish', 'percent', 'finishVariance'],
    depth: 2,
    showLinks: 'none',
    showFloat: false,
    legend: true,
    projectRow: true,
    range: { kind: 'whole' },
  }),
  view('weeks', 'Weeks ahead', 'For a supervisor: the next three weeks, week by week.', {
    columns: ['code', 'name', 'start', 'finish', 'remaining', 'calendar', 'predecessors'],
    filter: underWay,
    groups: [{ key: 'start', span: 'week' }],
    sort: [{ key: 'start', descending: false }],
    showLinks: 'none',
    range: { kind: 'around', before: 3, after: 24 },
  }),
  view('costs', 'Costs', 'Budget against baseline by the month in which work ends.', {
    columns: ['code', 'name', 'cost', 'baselineCost', 'percent', 'start', 'finish'],
    groups: [{ key: 'finish', span: 'month' }],
    showLinks: 'none',
    projectRow: true,
  }),
  view('milestones', 'Milestones only', 'All milestones by date, against the baseline.', {
    columns: ['code', 'name', 'finish', 'baselineFinish', 'finishVariance', 'float', 'deadline'],
    filter: { match: 'all', of: [{ field: 'type', is: 'oneOf', values: ['Start milestone', 'Finish milestone'] }] },
    sort: [{ key: 'finish', descending: false }],
    showLinks: 'none',
    range: { kind: 'whole' },
  }),
];

const graphTables = { resource: 'resources', role: 'roles', group: 'resourceGroups', crew: 'crews' } as const;
/** True where what a graph is of is in the project. */
function graphThere(doc: Document, graph: string): boolean {
  const [kind, id] = graph.split(' ');
  const table = graphTables[kind as keyof typeof graphTables];
  return table === undefined || doc[table].has(id ?? '');
}

/** True where the kept copy that a view compares with is in the project. */
const copyThere = (doc: Document, s: ViewSettings): boolean => doc.snapshots.has(copyOfView(s) ?? '') || copyOfView(s) === null;

/** Names of what a view asks for that is not in a project: fields, looks. */
export function missingIn(doc: Document, s: ViewSettings): string[] {
  const keys = [
    ...s.columns,
    ...s.groups.map((g) => g.key),
    ...s.sort.map((x) => x.key),
    ...(s.filter ? conditionsOf(s.filter).map((c) => c.field) : []),
    ...(s.colourBy === null ? [] : [s.colourBy]),
    ...[s.texts.before, s.texts.on, s.texts.after].filter((k) => k !== null),
  ];
  const fields = [...new Set(keys)].filter((k) => !fieldOf(doc, k)).map((k) => (k.startsWith('code:') ? 'a code set' : k.startsWith('own:') ? 'an own field' : `the field ${k}`));
  return [
    ...new Set(fields),
    ...(s.look !== null && !doc.looks.has(s.look) ? ['a bar look'] : []),
    ...(s.graph !== null && !graphThere(doc, s.graph) ? ['who its graph is of'] : []),
    ...(copyThere(doc, s) ? [] : ['the baseline it compares with']),
  ];
}

/** A view without what is not in the project: the rest is shown. */
export function fitting(doc: Document, s: ViewSettings): ViewSettings {
  const there = (key: string): boolean => fieldOf(doc, key) !== undefined;
  const text = (key: string | null): string | null => (key !== null && there(key) ? key : null);
  return {
    ...s,
    columns: s.columns.filter(there),
    groups: s.groups.filter((g) => there(g.key)),
    sort: s.sort.filter((x) => there(x.key)),
    colourBy: text(s.colourBy),
    look: s.look !== null && doc.looks.has(s.look) ? s.look : null,
    graph: s.graph !== null && graphThere(doc, s.graph) ? s.graph : null,
    baseline: copyThere(doc, s) ? s.baseline : 'compared',
    texts: { before: text(s.texts.before), on: text(s.texts.on), after: text(s.texts.after) },
  };
}
