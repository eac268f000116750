/**
 * Commands of every kind, one after another with anything in them: none throws or goes on without end, each is refused or can
 * be taken back to the byte, and the plan that comes of them is read from its file just as it is, without anything set aside.
 */
import { applyChanges, invertChanges } from '@yellowhammer/core/change/change';
import * as accounts from '@yellowhammer/core/commands/accounts';
import * as alike from '@yellowhammer/core/commands/alike';
import * as assigning from '@yellowhammer/core/commands/assign';
import * as attached from '@yellowhammer/core/commands/attached';
import * as bulk from '@yellowhammer/core/commands/bulk-links';
import * as calendars from '@yellowhammer/core/commands/calendars';
import { setActivities, setCell, setCells } from '@yellowhammer/core/commands/cells';
import * as codes from '@yellowhammer/core/commands/codes';
import { copyRows, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import * as expenses from '@yellowhammer/core/commands/expenses';
import * as level from '@yellowhammer/core/commands/level';
import * as links from '@yellowhammer/core/commands/links';
import * as outline from '@yellowhammer/core/commands/outline';
import * as fields from '@yellowhammer/core/commands/own-fields';
import { renumber } from '@yellowhammer/core/commands/renumber';
import { replicate } from '@yellowhammer/core/commands/replicate';
import * as reshape from '@yellowhammer/core/commands/reshape';
import * as people from '@yellowhammer/core/commands/resources';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { typeExpenses } from '@yellowhammer/core/cost/expense-fields';
import { fieldsOf } from '@yellowhammer/core/fields/list';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import { tableNames } from '@yellowhammer/core/model/tables';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { codeSetOf, ownFieldOf, peopledPlan, viewIn } from './helpers';
import { seeded } from '@yellowhammer/demo/generate';

const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? 40);
const STEPS = 40;

/** A plan with a few of everything. */
function plan(): Document {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '10d', {}],
        ['B', '5d', { basis: 'fixedWork' }],
        ['C', '3d @six', { basis: 'productionRate', quantity: 30, rate: 10 }],
        ['M', 'finish', {}],
        ['L', 'effort', {}],
        ['G', 'margin 2d', {}],
        ['S', '4d', { actualStart: '2026-03-02T08:00', remaining: 960 }],
        ['F', '1d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-02T17:00' }],
      ],
      links: ['A > B', 'B > M', 'A SS+1d > C', 'F > S', 'A SS > L', 'L FF > M'],
      project: { dataDate: '2026-03-04T08:00', currency: 'SEK' },
    },
    {
      accounts: [
        { id: 'acc', name: 'Works', code: '1' },
        { id: 'sub', name: 'Stone', code: '11', parentId: 'acc' },
      ],
      resourceGroups: [{ id: 'yard', name: 'Yard' }],
      roles: [{ id: 'mason', name: 'mason', accountId: 'acc' }],
      resources: [
        { id: 'ana', roleId: 'mason', groupId: 'yard', calendarId: 'six' },
        { id: 'crane', kind: 'equipment' },
        { id: 'lime', kind: 'material' },
      ],
      crews: [{ id: 'gang', name: 'Gang', lines: [{ resourceId: 'ana', roleId: null, units: 1 }] }],
      assignments: [
        { activityId: 'A', resourceId: 'ana', work: 4_800_000 },
        { activityId: 'B', roleId: 'mason', work: 2_400_000 },
        { activityId: 'B', resourceId: 'lime', drives: false, quantity: 2 },
      ],
      expenses: [{ budget: 5, accountId: 'sub' }],
    },
  );
  doc.codeSets.set('area', codeSetOf('area', 'Area', [['N'], ['N1', 'North', 'area.N'], ['S']]));
  doc.ownFields.set('depth', ownFieldOf('depth', 'Depth'));
  doc.currencies.set('eur', { id: 'eur', rank: 0, name: 'EUR', rate: 11, asOf: '2026-03-01' });
  doc.wbs.set('X', { id: 'X', rank: 0, parentId: null, name: 'X', code: '', lane: false, notes: '', values: {} });
  return doc;
}

const long = 'long name '.repeat(60);
const texts = [
  '',
  ' ',
  'A',
  'x',
  'Depth',
  'Area',
  'N',
  'north',
  '5',
  '-1',
  '0',
  '1e9',
  '12 mar 26',
  '3d',
  '2,5',
  'yes',
  'B, C',
  'B+2d, M',
  'ana 2, mason',
  'ana 0,5',
  'lime 3',
  long,
  'ß∂',
  'fixed work',
  'level of effort',
  'task',
  'Works',
  '11',
  'EUR 5',
  'margin',
  'start not before 3 apr 26',
];

type Draw = ReturnType<typeof drawing>;
/** What is drawn by chance: rows that are there or are not, and texts. */
function drawing(seed: number, doc: () => Document) {
  const next = seeded(seed);
  const int = (most: number): number => Math.floor(next() * most);
  const of = <T>(list: readonly T[]): T => list[int(list.length)]!;
  const id = (table: (typeof tableNames)[number]): string => (next() < 0.05 ? 'zz' : (of([...doc()[table].keys()]) ?? 'zz'));
  const ids = (table: (typeof tableNames)[number], most = 4): string[] => Array.from({ length: int(most) + 1 }, () => id(table));
  const ref = (): outline.RowRef => (next() < 0.3 ? { kind: 'wbs', id: id('wbs') } : { kind: 'activity', id: id('activities') });
  const refs = (): outline.RowRef[] => Array.from({ length: int(3) + 1 }, ref);
  const text = (): string => (next() < 0.2 ? `${of(texts)} ${int(4)}` : of(texts));
  const maybe = <T>(f: () => T): T | null => (next() < 0.3 ? null : f());
  return { next, int, of, id, ids, ref, refs, text, maybe };
}
let n = 0;
const newId = (): string => `i${++n}`;
const kinds = ['text', 'number', 'money', 'date', 'duration', 'yesNo', 'choice', 'address', 'computed'] as const;
const owners = ['activities', 'wbs', 'resources', 'assignments', 'project'] as const;
const linkTypes = ['FS', 'SS', 'FF', 'SF'] as const;

const acts: Record<string, (doc: Document, d: Draw) => Outcome> = {
  addAccount: (doc, d) => accounts.addAccount(doc, { name: d.text(), code: d.text().slice(0, 60), parentId: d.maybe(() => d.id('accounts')) }, newId),
  setAccount: (doc, d) => accounts.setAccount(doc, d.id('accounts'), { name: d.text(), parentId: d.maybe(() => d.id('accounts')) }),
  moveAccount: (doc, d) => accounts.moveAccount(doc, d.id('accounts'), d.of([1, -1])),
  deleteAccount: (doc, d) =>
    accounts.deleteAccount(
      doc,
      d.id('accounts'),
      d.maybe(() => d.id('accounts')),
    ),
  importAccounts: (doc, d) =>
    accounts.importAccounts(
      doc,
      Array.from({ length: 3 }, () => [d.text(), d.text(), d.text()]),
      newId,
    ),
  addCurrency: (doc, d) => accounts.addCurrency(doc, { name: d.text(), rate: d.of([0, 1, 2.5]), asOf: '2026-03-01' }, newId),
  setCurrency: (doc, d) => accounts.setCurrency(doc, d.id('currencies'), { rate: d.of([0.5, 7, 1e6]) }),
  deleteCurrency: (doc, d) => accounts.deleteCurrency(doc, d.id('currencies')),
  addExpenses: (doc, d) => expenses.addExpenses(doc, d.ids('activities'), { name: d.text().slice(0, 400), budget: d.int(100), accountId: d.maybe(() => d.id('accounts')) }, newId),
  typeExpenses: (doc, d) => typeExpenses(doc, d.ids('expenses'), d.of(['name', 'budget', 'account', 'when', 'foreign', 'quantity', 'price', 'actual']), d.text()),
  deleteExpenses: (doc, d) => expenses.deleteExpenses(doc, d.ids('expenses')),
  adoptSet: (doc, d) => alike.adoptSet(doc, d.id('codeSets'), codeSetOf('q', d.text() || 'Q', [['N.'], ['S', '', 'q.N.'], ['long '.repeat(8)]]), newId),
  mergeSets: (doc, d) => alike.mergeSets(doc, d.id('codeSets'), d.id('codeSets'), newId),
  adoptField: (doc, d) => alike.adoptField(doc, d.id('ownFields'), ownFieldOf('q', d.text() || 'Q', { kind: d.of(kinds), choices: ['a', 'b'] })),
  assign: (doc, d) =>
    assigning.assign(
      doc,
      d.ids('activities'),
      [
        d.of([
          { resourceId: d.id('resources'), roleId: null, units: d.of([1, 0.001, 50]) },
          { resourceId: null, roleId: d.id('roles'), units: 2 },
        ]),
      ],
      newId,
      {
        delay: d.of([0, 480, 100_000]),
        drives: d.next() < 0.7,
      },
    ),
  assignCrew: (doc, d) => assigning.assignCrew(doc, d.ids('activities'), d.id('crews'), d.of([1, 2.5]), newId),
  unassign: (doc, d) => assigning.unassign(doc, d.ids('assignments'), d.next() < 0.5),
  setAssignment: (doc, d) =>
    assigning.setAssignment(
      doc,
      d.id('assignments'),
      d.of([{ units: d.of([0.5, 3]) }, { work: d.int(1e7) }, { delay: d.int(2000) }, { drives: d.next() < 0.5 }, { actualWork: d.int(1e6) }, { quantity: d.int(9) }]),
    ),
  reassign: (doc, d) =>
    assigning.reassign(
      doc,
      d.ids('assignments'),
      d.of([
        { resourceId: d.id('resources'), roleId: null },
        { resourceId: null, roleId: d.id('roles') },
      ]),
    ),
  typeAssignments: (doc, d) => assigning.typeAssignments(doc, d.id('activities'), d.text(), newId),
  addNote: (doc, d) => attached.addNote(doc, d.ref(), d.text(), { who: 'p', at: '2026-03-02T08:00:00Z' }, newId),
  linkEach: (doc, d) => bulk.linkEach(doc, d.ids('activities'), d.ids('activities'), d.of(linkTypes), newId).outcome,
  copyLinks: (doc, d) => bulk.copyLinks(doc, d.id('activities'), d.ids('activities'), d.of(['predecessors', 'successors'] as const), {}, newId).outcome,
  reverseLinks: (doc, d) => bulk.reverseLinks(doc, d.ids('links'), newId).outcome,
  insertIntoLink: (doc, d) => bulk.insertIntoLink(doc, d.id('links'), d.id('activities'), newId).outcome,
  joinAround: (doc, d) => bulk.joinAround(doc, d.ids('activities', 2), d.next() < 0.5, newId),
  addCalendar: (doc, d) => calendars.addCalendar(doc, { name: d.text(), basedOn: d.id('calendars') }, newId),
  editCalendar: (doc, d) => calendars.editCalendar(doc, d.id('calendars'), { name: d.text(), basedOn: d.maybe(() => d.id('calendars')) }),
  deleteCalendar: (doc, d) => calendars.deleteCalendar(doc, d.id('calendars')),
  addCodeSet: (doc, d) => codes.addCodeSet(doc, d.text(), newId),
  editCodeSet: (doc, d) => codes.editCodeSet(doc, d.id('codeSets'), { name: d.text() }),
  addCodeValue: (doc, d) => codes.addCodeValue(doc, d.id('codeSets'), { short: d.text(), name: d.text() }, newId),
  deleteCodeSet: (doc, d) => (d.next() < 0.3 ? codes.deleteCodeSet(doc, d.id('codeSets')) : codes.addCodeSet(doc, d.text(), newId)),
  deleteCodeValue: (doc, d) => {
    const set = d.id('codeSets');
    const values = doc.codeSets.get(set)?.values ?? [];
    return codes.deleteCodeValue(
      doc,
      set,
      d.of(values)?.id ?? 'zz',
      d.maybe(() => d.of(values)?.id ?? 'zz'),
    );
  },
  addOwnField: (doc, d) => fields.addOwnField(doc, d.text(), d.of(kinds), newId, d.of(owners)),
  editOwnField: (doc, d) =>
    fields.editOwnField(
      doc,
      d.id('ownFields'),
      d.of([
        { name: d.text() },
        { kind: d.of(kinds) },
        { of: d.of(owners) },
        { key: d.text() },
        { choices: [d.text(), d.text()] },
        { expression: d.text() },
        { standard: d.text() },
      ]),
      true,
    ),
  deleteOwnField: (doc, d) => fields.deleteOwnField(doc, d.id('ownFields')),
  fillStandard: (doc, d) => fields.fillStandard(doc, d.id('ownFields')),
  setOwn: (doc, d) => {
    const id = d.id('ownFields');
    return fields.setOwn(doc, id, d.id(doc.ownFields.get(id)?.of ?? 'activities'), d.text());
  },
  setCell: (doc, d) => setCell(doc, d.id('activities'), d.of([...fieldsOf(doc).keys()]), d.text(), newId, viewIn(doc)),
  setCells: (doc, d) => setCells(doc, d.ids('activities'), d.of([...fieldsOf(doc).keys()]), d.text(), newId, viewIn(doc)),
  setActivities: (doc, d) =>
    setActivities(
      doc,
      d.ids('activities'),
      d.of([{ duration: d.of([0, 480, 5000]) }, { calendarId: d.maybe(() => d.id('calendars')) }, { quantity: d.int(50) }, { keepsDays: true }]),
    ),
  pasteRows: (doc, d) => {
    const clip = copyRows(doc, d.of(['here', 'there']), d.refs(), false);
    const read = clip ? readClip(JSON.stringify(clip)) : undefined;
    return read ? pasteRows(doc, 'here', read, d.maybe(d.ref), newId) : outline.deleteRows(doc, []);
  },
  holdBack: (doc, d) => level.holdBack(doc, viewIn(doc), d.id('activities'), viewIn(doc).projectFinish),
  clearDelays: (doc) => level.clearDelays(doc),
  linkInOrder: (doc, d) => links.linkInOrder(doc, d.ids('activities'), newId, d.of(linkTypes), d.of([0, 480, -480])),
  addTypedLinks: (doc, d) => links.addTypedLinks(doc, d.id('activities'), d.of(['predecessors', 'successors'] as const), d.text(), newId),
  deleteLinks: (doc, d) => links.deleteLinks(doc, d.ids('links', 1)),
  addActivity: (doc, d) => outline.addActivity(doc, d.maybe(d.ref), { name: d.text() }, newId),
  addWbs: (doc, d) => outline.addWbs(doc, d.maybe(d.ref), d.text(), newId, d.next() < 0.5),
  renameWbs: (doc, d) => outline.renameWbs(doc, d.id('wbs'), d.text()),
  codeWbs: (doc, d) => outline.codeWbs(doc, d.id('wbs'), d.text()),
  deleteRows: (doc, d) => outline.deleteRows(doc, [d.ref()]),
  levelDown: (doc, d) => outline.levelDown(doc, d.refs()),
  levelUp: (doc, d) => outline.levelUp(doc, d.refs()),
  moveRows: (doc, d) => outline.moveRows(doc, d.refs(), d.of(['up', 'down'] as const)),
  dropRows: (doc, d) => outline.dropRows(doc, d.refs(), d.ref(), d.of(['before', 'inside'] as const)),
  renumber: (doc, d) => renumber(doc, null, { from: d.int(30), step: d.int(3), digits: d.int(4), prefixes: new Map([[d.id('wbs'), 'P']]), anew: d.next() < 0.5 }),
  replicate: (doc, d) =>
    replicate(
      doc,
      d.refs(),
      { times: d.int(3), names: d.of(['', '{name} {1..9}', '{']), replace: '', replaceBy: '', incoming: d.next() < 0.5, outgoing: d.next() < 0.5, chained: d.next() < 0.5 },
      newId,
    ).outcome,
  splitActivity: (doc, d) => reshape.splitActivity(doc, d.id('activities'), d.of([60, 480, 1000]), newId),
  mergeActivities: (doc, d) => reshape.mergeActivities(doc, viewIn(doc), d.ids('activities', 3), d.maybe(d.text)),
  activitiesToNodes: (doc, d) => reshape.activitiesToNodes(doc, d.ids('activities', 2), newId),
  nodeToActivity: (doc, d) => reshape.nodeToActivity(doc, viewIn(doc), d.id('wbs')),
  wrapRows: (doc, d) => reshape.wrapRows(doc, outline.topmost(doc, d.refs()), d.text(), newId, d.next() < 0.3),
  setLanes: (doc, d) => reshape.setLanes(doc, d.ids('wbs')),
  dissolveNodes: (doc, d) => reshape.dissolveNodes(doc, d.ids('wbs')),
  addPeople: (doc, d) => people.addPeople(doc, d.of(['resources', 'roles', 'crews', 'resourceGroups'] as const), d.text(), {}, newId),
  setResource: (doc, d) =>
    people.setPeople(
      doc,
      'resources',
      d.id('resources'),
      d.of([
        { kind: d.of(['labour', 'equipment', 'material'] as const) },
        { name: d.text() },
        { calendarId: d.maybe(() => d.id('calendars')) },
        { otherRoles: d.ids('roles', 2) },
        { roleId: d.maybe(() => d.id('roles')) },
      ]),
    ),
  setGroup: (doc, d) => people.setPeople(doc, 'resourceGroups', d.id('resourceGroups'), { parentId: d.maybe(() => d.id('resourceGroups')) }),
  deletePeople: (doc, d) => ((t) => people.deletePeople(doc, t, d.id(t)))(d.of(['resources', 'roles', 'crews', 'resourceGroups'] as const)),
  importResources: (doc, d) => people.importResources(doc, [[d.text(), d.of(['labour', 'material', 'x', '']), d.text(), d.text(), d.of(['1', '', 'x'])]], '2026-03-02', newId),
};

test(`${RUNS} plans come to no harm by ${STEPS} acts each, whatever they are`, () => {
  const names = Object.keys(acts);
  const taken = new Map<string, number>();
  for (let seed = 1; seed <= RUNS; seed++) {
    const doc = plan();
    const d = drawing(seed, () => doc);
    const done: string[] = [];
    for (let step = 0; step < STEPS; step++) {
      const name = d.of(names);
      const before = writeProjectFile({ document: doc, copies: new Map() });
      const o = acts[name]!(doc, d);
      // What is asked changes nothing by itself.
      expect([seed, step, name, writeProjectFile({ document: doc, copies: new Map() }) === before]).toEqual([seed, step, name, true]);
      if (!o.ok) {
        expect([name, o.problems.length > 0 && o.problems.every((p) => p.message.length > 5)]).toEqual([name, true]);
        continue;
      }
      applyChanges(doc, o.changes);
      done.push(`${name}: ${o.label.slice(0, 60)}`);
      taken.set(name, (taken.get(name) ?? 0) + 1);
      const back = copyDocument(doc);
      applyChanges(back, invertChanges(o.changes));
      expect([seed, step, o.label, writeProjectFile({ document: back, copies: new Map() }) === before]).toEqual([seed, step, o.label, true]);
      const text = writeProjectFile({ document: doc, copies: new Map() });
      const read = readProjectText(text);
      expect([seed, done, read.problems.map((p) => p.message)]).toEqual([seed, done, []]);
      expect([seed, step, o.label, read.file && writeProjectFile(read.file) === text]).toEqual([seed, step, o.label, true]);
    }
    schedule(doc);
  }
  // Nearly all of them do something now and then.
  if (RUNS >= 40) expect(names.filter((name) => !taken.has(name)).length).toBeLessThan(8);
});
