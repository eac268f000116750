/** A network that is kept, edit by edit: it says what one made anew says, and is the same one where only values have changed. */
import { applyChanges } from '@yellowhammer/core/change/change';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Row, TableName } from '@yellowhammer/core/model/tables';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import type { Network } from '@yellowhammer/core/schedule/network';
import { prepare } from '@yellowhammer/core/schedule/prepare';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { peopledPlan, sure } from './helpers';

const begin = (): Document =>
  peopledPlan(
    {
      activities: [
        ['A', '3d'],
        ['B', '2d @six'],
        ['R', 'margin 4d'],
        ['C', '1d', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-20T17:00' }] }],
        ['M', 'finish'],
        ['E', 'effort'],
      ],
      links: ['A > B', 'B > R', 'R > C', 'C > M', 'A SS+1d > E', 'M FF > E'],
      project: { dataDate: '2026-03-03T08:00' },
    },
    {
      resources: [{ id: 'ana' }, { id: 'ben', daysOff: [{ from: '2026-03-05', to: '2026-03-06', name: 'away' }] }],
      assignments: [{ activityId: 'A', resourceId: 'ana', drives: true }],
    },
  );

type Edit = (doc: Document) => [table: TableName, id: string, fields: object | null];
const act =
  (id: string, fields: object | null): Edit =>
  () => ['activities', id, fields];
const other =
  (table: TableName, id: string, fields: object | null): Edit =>
  () => [table, id, fields];

/** What is done, whether the network is the same one afterwards. */
const edits: [string, Edit, boolean][] = [
  ['a duration', act('A', { duration: 2400 }), true],
  ['a constraint', act('A', { constraints: [{ kind: 'startNotBefore', date: '2026-03-05T08:00' }] }), true],
  ['another in its place', act('A', { constraints: [{ kind: 'startNotAfter', date: '2026-03-04T08:00' }] }), true],
  ['a finish not before', act('A', { constraints: [{ kind: 'finishNotBefore', date: '2026-03-16T17:00' }] }), true],
  ['as late as possible', act('B', { constraints: [{ kind: 'asLateAsPossible', date: null }] }), true],
  ['no longer', act('B', { constraints: [] }), true],
  ['a pin before the data date', act('A', { constraints: [{ kind: 'pinnedStart', date: '2026-03-02T08:00' }] }), true],
  // Names stand in what is said of links, of which nothing is said here.
  ['a name', act('B', { name: 'Walls' }), true],
  ['the pin taken back', act('A', { constraints: [] }), true],
  ['a deadline', act('B', { deadline: '2026-03-09T17:00' }), true],
  ['a delay', act('B', { levellingDelay: 480 }), true],
  ['no delay and no deadline', act('B', { levellingDelay: null, deadline: null }), true],
  ['the date that limits the margin', act('C', { constraints: [{ kind: 'finishNotAfter', date: '2026-03-12T17:00' }] }), true],
  ['no such date', act('C', { constraints: [] }), true],
  ['a constraint on the margin, which takes none', act('R', { constraints: [{ kind: 'startNotBefore', date: '2026-03-12T08:00' }] }), true],
  ['a delay of the level of effort, which takes none', act('E', { levellingDelay: 60 }), true],
  ['both taken back', act('R', { constraints: [] }), true],
  ['the other, too', act('E', { levellingDelay: null }), true],
  ['begun', act('A', { actualStart: '2026-03-02T08:00', remaining: 960 }), true],
  ['stopped until a day', act('A', { suspend: '2026-03-02T17:00', resume: '2026-03-10T08:00' }), true],
  ['finished', act('A', { actualFinish: '2026-03-02T17:00', remaining: null, suspend: null, resume: null }), true],
  ['not begun', act('A', { actualStart: null, actualFinish: null }), true],
  ['given to somebody who is away', other('assignments', 'x0', { resourceId: 'ben' }), true],
  ['who is away longer', other('resources', 'ben', { daysOff: [{ from: '2026-03-04', to: '2026-03-10', name: 'away', work: [] }] }), true],
  ['who does not drive', other('assignments', 'x0', { drives: false }), true],
  ['taken from them', other('assignments', 'x0', null), true],
  ['a type', act('B', { type: 'finishMilestone', duration: 0 }), false],
  ['the type before', act('B', { type: 'task', duration: 960 }), false],
  ['a calendar', act('B', { calendarId: null }), false],
  ['a calendar that is not there', act('B', { calendarId: 'none' }), false],
  ['a calendar of the project, changed', other('calendars', 'six', { hoursPerDay: 7 }), false],
  ['a lag', other('links', 'l0', { lag: 480 }), false],
  ['a lag on a calendar that is not there', other('links', 'l0', { lagCalendar: 'calendar:none' }), false],
  ['a name of what something is said of', act('A', { name: 'Ground' }), false],
  ['a number of it', act('A', { code: 'A1' }), false],
  ['only its duration', act('A', { duration: 960 }), true],
  ['a type of link that a margin does not take', other('links', 'l1', { type: 'SS' }), false],
  ['a link gone', other('links', 'l3', null), false],
  ['an activity gone, its links are there', act('B', null), false],
  ['it comes back', (doc) => ['activities', 'B', { ...sure(begin().activities.get('B')), rank: sure(doc.activities.get('R')).rank + 0.5 }], false],
  ['it moves', act('B', { rank: -5 }), false],
  ['a link that closes a loop', () => ['links', 'round', { id: 'round', rank: 99, from: 'C', to: 'A', type: 'FS', lag: 0, lagCalendar: null }], false],
  ['the loop opened', other('links', 'round', null), false],
  ['the same link twice', () => ['links', 'again', { id: 'again', rank: 100, from: 'A', to: 'B', type: 'FS', lag: 0, lagCalendar: null }], false],
  ['the data date', other('project', 'project', { dataDate: '2026-03-05T08:00' }), false],
  ['an option', (doc) => ['project', 'project', { options: { ...sure(doc.project.get('project')).options, statusLogic: 'progressOverride' } }], false],
];

const plain = (n: Network | undefined): unknown => n && { ...n, calendars: n.calendars.map((c) => c.id) };
/** Calendars that nobody is on any more may stay behind; where nodes are is told by name. */
const named = (n: Network): unknown => ({ ...n, calendars: [], calendar: [...n.calendar].map((c) => n.calendars[c]?.id) });

test('edit by edit the network that is kept says what one made anew says, and is the same one where only values change', () => {
  const doc = begin();
  const memory = new NetworkMemory();
  let last = sure(prepare(doc, memory).network);
  for (const [name, edit, stays] of edits) {
    const [table, id, fields] = edit(doc);
    const before = (doc[table].get(id) ?? null) as Row | null;
    applyChanges(doc, [{ table, id, before, after: fields && ({ ...before, ...fields } as Row) }]);
    const kept = prepare(doc, memory);
    const anew = prepare(copyDocument(doc));
    const net = sure(kept.network);
    expect([name, kept.problems]).toEqual([name, anew.problems]);
    expect([name, named(net)]).toEqual([name, named(sure(anew.network))]);
    if (!stays) expect([name, plain(net)]).toEqual([name, plain(anew.network)]);
    expect([name, net === last]).toEqual([name, stays]);
    last = net;
    expect([name, viewOf(doc, sure(schedule(doc, memory).computed), [], undefined)]).toEqual([name, viewOf(doc, sure(schedule(copyDocument(doc)).computed), [], undefined)]);
  }
});

test('ids are the same list while activities stand where they stood, and another one when not', () => {
  const doc = begin();
  const memory = new NetworkMemory();
  const ids = () => sure(prepare(doc, memory).network).ids;
  const put = (table: TableName, id: string, fields: object): void => {
    const before = sure(doc[table].get(id)) as Row;
    applyChanges(doc, [{ table, id, before, after: { ...before, ...fields } as Row }]);
  };
  const first = ids();
  put('links', 'l0', { lag: 60 });
  expect(ids()).toBe(first);
  put('activities', 'A', { rank: 50 });
  expect(ids()).not.toBe(first);
  expect([first[0], ids()[0], ids()[5]]).toEqual(['A', 'B', 'A']);
});

test('nothing can be computed without a calendar of the project, and all can again once there is one', () => {
  const doc = begin();
  const memory = new NetworkMemory();
  prepare(doc, memory);
  const project = sure(doc.project.get('project'));
  const none = { ...project, calendarId: 'none' };
  applyChanges(doc, [{ table: 'project', id: 'project', before: project, after: none }]);
  expect(prepare(doc, memory).network).toBeUndefined();
  expect(prepare(doc, memory).problems.map((p) => [p.code, p.where.table, p.where.field])).toEqual([['NO_PROJECT_CALENDAR', 'project', 'calendarId']]);
  applyChanges(doc, [{ table: 'project', id: 'project', before: none, after: project }]);
  expect(plain(prepare(doc, memory).network)).toEqual(plain(prepare(copyDocument(doc)).network));
});
