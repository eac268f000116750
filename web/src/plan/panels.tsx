/** Sections of the inspector and drawers of the dock. A panel is one entry here (docs/extending.md). */
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Chosen, Drawer, InspectorSection } from '../app/panel';
import { addCommands } from '../commands/list';
import { set, view } from '../commands/make';
import type { AppCommand, Hands } from '../commands/types';
import { chosenOf } from './chosen';
import { focusSection } from './section-focus';
import { DatedNotes, Files, ownerOf } from './Attached';
import { CostSection } from './CostSection';
import { Dates } from './Dates';
import { madeFields } from '@yellowhammer/core/fields/list';
import { CodesAndFields, Details } from './Details';
import { assignedTo } from '@yellowhammer/core/model/assigned';
import { Loading } from './Loading';
import { LogicSection } from './LogicSection';
import { NodeFacts, NodeFields } from './NodeFacts';
import { ownFieldsFor } from '@yellowhammer/core/fields/own-values';
import { Notes } from './Notes';
import { ProblemList } from './ProblemList';
import { Why } from './Why';

/** Links of more activities than these are no list to work with. */
const MOST_WITH_LINKS = 300;

/** What the hands have selected, as sections are asked with it. */
const chosenIn = (h: Hands): Chosen => chosenOf(h.session.doc, h.ui.selected, (id) => h.plan?.go(id));

/** One row, or none: then the project is meant. */
const ofOne = (c: Chosen): boolean => c.activities.length <= 1;

export const sections: InspectorSection[] = [
  { id: 'node', title: null, for: (c) => c.node !== undefined, show: NodeFacts },
  { id: 'dates', title: null, for: (c) => c.activities.length > 0, show: Dates },
  { id: 'why', title: null, for: (c) => c.activities.length === 1, show: ({ activities, onGo }) => <Why a={activities[0]!} onGo={onGo} /> },
  {
    id: 'details',
    title: 'Details',
    words: 'type calendar duration constraint constraints pin deadline percent priority responsible colour address fields',
    for: (c) => c.activities.length > 0,
    show: Details,
  },
  {
    id: 'loading',
    title: 'Loading',
    words: 'assign assignment assignments resource resources people crew units work quantity spread',
    for: (c) => c.activities.length > 0,
    count: ({ activities }, session) => (activities.length > MOST_WITH_LINKS ? 0 : activities.reduce((n, a) => n + assignedTo(session.doc, a).length, 0)),
    show: Loading,
  },
  {
    id: 'cost',
    title: 'Cost',
    words: 'costs expense expenses add lump budget actual income money account',
    for: (c) => c.activities.length > 0,
    count: ({ activities }, session) => (activities.length > MOST_WITH_LINKS ? 0 : activities.reduce((n, a) => n + indexOf(session.doc).expensesOf(a.id).length, 0)),
    show: CostSection,
  },
  {
    id: 'nodeFields',
    title: 'Fields',
    words: 'own custom values',
    for: (c, session) => c.node !== undefined && c.activities.length === 0 && ownFieldsFor(session.doc, 'wbs').length > 0,
    show: NodeFields,
  },
  {
    id: 'codes',
    title: 'Codes and fields',
    words: 'code values trade area own custom',
    for: (c, session) => c.activities.length > 0 && madeFields(session.doc).length > 0,
    show: CodesAndFields,
  },
  {
    id: 'logic',
    title: 'Logic',
    words: 'link links add predecessors successors relationships lag',
    for: (c) => c.activities.length > 0 && c.activities.length <= MOST_WITH_LINKS,
    count: ({ activities }, session) => new Set(activities.flatMap((a) => session.linksOf(a.id))).size,
    show: LogicSection,
  },
  {
    id: 'address',
    title: 'Web address',
    words: 'url hyperlink',
    for: (c) => c.activities.length === 1 && c.activities[0]!.address !== '',
    show: ({ activities }) => (
      <a className="link-button" href={activities[0]!.address} target="_blank" rel="noopener noreferrer">
        {activities[0]!.address.replace(/^https?:\/\//, '')}
      </a>
    ),
  },
  { id: 'notes', title: 'Notes', words: 'note add comment remark text description', for: (c) => c.activities.length === 1, show: Notes },
  {
    id: 'datedNotes',
    title: 'Dated notes',
    words: 'note add diary log journal comment',
    for: ofOne,
    count: (c, session) => indexOf(session.doc).attachedTo('datedNotes', ownerOf(c)).length,
    show: DatedNotes,
  },
  {
    id: 'files',
    title: 'Files',
    words: 'file attach attachment attachments add document drawing photo upload',
    for: ofOne,
    count: (c, session) => indexOf(session.doc).attachedTo('files', ownerOf(c)).length,
    show: Files,
  },
];

export const drawers: Drawer[] = [
  {
    id: 'check',
    title: 'Plan check',
    about: 'What in the plan should be looked at, and where it is',
    words: 'problems errors warnings issues open ends quality health diagnose things look list',
    none: 'There is nothing to look at.',
    chip(session) {
      const n = session.problems.length;
      return n === 0 ? null : { text: `${n} ${n === 1 ? 'thing' : 'things'} to look at`, bad: session.problems.some((p) => p.severity === 'error') };
    },
    show: ProblemList,
  },
];

/** A command for each: the palette finds them. */
addCommands([
  ...sections.flatMap((s): AppCommand[] =>
    s.title === null
      ? []
      : [
          view({
            id: `section-${s.id}`,
            title: `Go to ${s.title}`,
            about: 'In the inspector',
            words: s.words ?? '',
            group: 'Go to',
            able: (h) => (h.plan === null ? 'Go to Plan first.' : s.for(chosenIn(h), h.session) || 'Select a row that has it first.'),
            run(h) {
              set(h, { inspector: true });
              focusSection(s.id);
            },
          }),
        ],
  ),
  ...drawers.map((d) =>
    view({
      id: `drawer-${d.id}`,
      title: d.title,
      about: d.about,
      words: d.words,
      group: 'Project',
      able: (h) => (h.plan === null ? 'Go to Plan first.' : d.chip(h.session) !== null || d.none),
      run: (h) => set(h, { drawer: d.id }),
    }),
  ),
]);
