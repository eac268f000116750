/** Text pasted onto rows: in which order its columns are taken, where new rows go, and which cell is named. */
import { cellText } from '@yellowhammer/core/commands/cells';
import { changesInWords, pasteCells, rowsByNumber } from '@yellowhammer/core/commands/paste';
import { fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import type { ScheduleView } from '@yellowhammer/core/schedule/view';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { d, documentOf, finishIn, mustBack, nodeInto, says, sure, viewIn } from './helpers';

const plan = (): Document => {
  const doc = documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['M', 'start'],
      ['C', '1d'],
    ],
  });
  nodeInto(doc, 'W', null, 9);
  return doc;
};
const on = (id: string): RowRef => ({ kind: 'activity', id });
const node: RowRef = { kind: 'wbs', id: 'W' };
const row = (doc: Document, id: string | undefined): Activity => sure(doc.activities.get(sure(id)));
let made = 0;
const newId = (): string => `n${made++}`;
/** Pastes, checks that it can be taken back, and gives the rows that were made. */
const pasted = (
  doc: Document,
  rows: (RowRef | null)[],
  keys: string[],
  texts: readonly (readonly string[])[],
  below: RowRef | null = null,
  view: ScheduleView | null = null,
): string[] => mustBack(doc, pasteCells(doc, rows, keys, texts, newId, below, view));
const order = (doc: Document): string =>
  outlineRows(doc)
    .map((r) => (r.kind === 'activity' ? r.activity.name || r.activity.code : r.id))
    .join(' ');

test('links are read after the numbers that they name, wherever their columns stand', () => {
  const doc = plan();
  pasted(
    doc,
    [on('A'), on('B'), on('C')],
    ['predecessors', 'code', 'name'],
    [
      ['N3', 'N1', 'first'],
      ['N1', 'N2', 'second'],
      ['', 'N3', 'third'],
    ],
  );
  expect([...doc.links.values()].map((l) => `${l.from}${l.to}`).sort()).toEqual(['AB', 'CA']);
});

test('what a row is comes before what only such a row can have', () => {
  const doc = plan();
  pasted(
    doc,
    [on('M'), on('A')],
    ['duration', 'type'],
    [
      ['4d', 'task'],
      ['', 'start milestone'],
    ],
  );
  expect([doc.activities.get('M')?.type, doc.activities.get('M')?.duration, doc.activities.get('A')?.type]).toEqual(['task', d(4), 'startMilestone']);
});

test.each([
  ['below the last row that is written over', [on('A'), null, null], null, 'x y z B M C W'],
  ['below a given row', [null, null, null], on('B'), 'A B x y z M C W'],
  ['at the end', [null, null, null], null, 'A B M C W x y z'],
  ['below the last, where some are in between', [on('A'), null, on('B')], null, 'x z y M C W'],
])('new rows go %s', (_, rows, below, wanted) => {
  const doc = plan();
  pasted(doc, rows, ['name'], [['x'], ['y'], ['z']], below);
  expect(order(doc)).toBe(wanted);
});

test('a new row keeps its own number where the pasted one is taken; a row that is there is refused', () => {
  const doc = plan();
  const [id] = pasted(doc, [null], ['code', 'name'], [['A', 'copied']]);
  expect(row(doc, id).name).toBe('copied');
  expect(row(doc, id).code).not.toBe('A');
  const [other] = pasted(doc, [null], ['code'], [['Z9']]);
  expect(row(doc, other).code).toBe('Z9');
  expect(says(pasteCells(doc, [on('B')], ['code'], [['A']], newId))).toMatch(/^Row 1, no\.: .* Nothing was pasted\.$/);
});

test.each<[string, (RowRef | null)[], (string | null)[], string[][], string]>([
  ['a field that is not known', [on('A')], ['zzz'], [['1']], 'Row 1, zzz: '],
  [
    'a value that cannot be read',
    [on('A'), on('B')],
    ['name', 'duration'],
    [
      ['x', '1d'],
      ['y', 'long'],
    ],
    'Row 2, duration: ',
  ],
  ['a column of activities on a node', [on('A'), node], ['duration'], [['1d'], ['2d']], 'Row 2 of what is pasted would fall on a WBS node.'],
  ['nothing new', [on('A')], ['duration'], [['3d']], 'What was pasted is what stands there already.'],
  ['no column at all', [on('A')], [null], [['3d']], 'What was pasted is what stands there already.'],
])('%s is refused', (_, rows, keys, texts, wanted) => {
  const doc = plan();
  expect(says(pasteCells(doc, rows, keys, texts, newId))).toContain(wanted);
  expect([doc.activities.get('A')?.name, doc.activities.get('A')?.duration]).toEqual(['A', d(3)]);
});

test('what comes back from a spreadsheet as it went is no change: no date becomes a constraint, nothing that a row does not have is missed', () => {
  const doc = documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['M', 'finish'],
      ['E', 'effort'],
      ['D', '1d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-02T17:00', percent: 100, remaining: 0 }],
    ],
    links: ['A > B', 'B > M', 'A SS > E', 'E FF > B'],
    project: { dataDate: '2026-03-03T08:00' },
  });
  const view = viewIn(doc);
  const keys = [...fieldsOf(doc).keys()].filter((k) => fieldOf(doc, k)?.read);
  const rows = ['A', 'B', 'M', 'E', 'D'].map(on);
  const texts = rows.map((r) => keys.map((k) => cellText(doc, row(doc, r.id), k, view)));
  expect(keys).toEqual(expect.arrayContaining(['start', 'finish', 'duration', 'predecessors', 'percent', 'type']));
  expect(says(pasteCells(doc, rows, keys, texts, newId, null, view))).toContain('is what stands there already');
  // A spreadsheet may write dates otherwise than it got them.
  expect(says(pasteCells(doc, [on('B')], ['start', 'finish'], [['2026-03-06', '9.3.2026']], newId, null, view))).toContain('is what stands there already');
  // One of them changed in between is that one alone.
  sure(texts[1])[keys.indexOf('duration')] = '7d';
  const o = pasteCells(doc, rows, keys, texts, newId, null, view);
  expect(o.ok && o.changes.map((c) => c.id)).toEqual(['B']);
  mustBack(doc, o);
  expect([doc.activities.get('B')?.duration, doc.activities.get('B')?.constraints]).toEqual([d(7), []]);
});

test('a new row is given nothing by an empty cell', () => {
  const doc = plan();
  const [id, milestone] = pasted(
    doc,
    [null, null],
    ['name', 'duration', 'start', 'percent', 'type', 'predecessors'],
    [
      ['Dig', '', '', '', '', 'A'],
      ['Done', '', '', '', 'finish milestone', ''],
    ],
  );
  expect([row(doc, id).duration, row(doc, id).type, row(doc, milestone).type]).toEqual([d(1), 'task', 'finishMilestone']);
});

test.each<[string, Record<string, string>, { duration: number; constraints: string[]; finish: string; actualStart?: string }]>([
  ['a start is a date not to begin before', { start: '9 mar 26' }, { duration: d(1), constraints: ['startNotBefore 2026-03-09'], finish: '2026-03-09T17:00' }],
  [
    'a finish behind it says how long it takes',
    { finish: '11 mar 26', start: '9 mar 26' },
    { duration: d(3), constraints: ['startNotBefore 2026-03-09'], finish: '2026-03-11T17:00' },
  ],
  [
    'where a duration is given, too, that counts',
    { finish: '11 mar 26', start: '9 mar 26', duration: '5d' },
    { duration: d(5), constraints: ['startNotBefore 2026-03-09'], finish: '2026-03-13T17:00' },
  ],
  [
    'dates of a linked row follow from its links',
    { predecessors: 'A', start: '9 mar 26', finish: '11 mar 26', duration: '2d' },
    { duration: d(2), constraints: [], finish: '2026-03-09T17:00' },
  ],
  ['progress stays behind', { percent: '100%', duration: '2d' }, { duration: d(2), constraints: [], finish: '2026-03-04T17:00' }],
  [
    'but for a row that brings its actual dates',
    { percent: '50%', duration: '2d', actualStart: '2 mar 26' },
    { duration: d(2), constraints: [], finish: '2026-03-03T17:00', actualStart: '2026-03-02T08:00' },
  ],
])('a new row: %s', (_, cells, wanted) => {
  const doc = documentOf({ activities: [['A', '3d']], project: { plannedStart: '2026-03-02T08:00', dataDate: '2026-03-03T08:00' } });
  const [id] = pasted(doc, [null], ['name', ...Object.keys(cells)], [['new', ...Object.values(cells)]], null, viewIn(doc));
  const a = row(doc, id);
  expect({
    duration: a.duration,
    constraints: a.constraints.map((c) => `${c.kind} ${c.date?.slice(0, 10)}`),
    actualStart: a.actualStart ?? undefined,
    finish: finishIn(doc, a.id),
  }).toEqual({
    finish: wanted.finish,
    duration: wanted.duration,
    constraints: wanted.constraints,
    actualStart: wanted.actualStart,
  });
});

test('a finish alone says what it lacks, and a milestone keeps the date that it is given', () => {
  const doc = plan();
  expect(says(pasteCells(doc, [null], ['name', 'finish'], [['x', '11 mar 26']], newId))).toContain('Row 1, finish: ');
  const [id] = pasted(doc, [null], ['type', 'start', 'finish'], [['start milestone', '9 mar 26', '9 mar 26']]);
  expect(row(doc, id).constraints.map((c) => c.kind)).toEqual(['startNotBefore']);
});

test('lines find their rows by number, whatever the case; those of WBS nodes are left out', () => {
  const doc = plan();
  const lines = [
    ['1', 'node'],
    ['b', 'Pour'],
    ['', 'without'],
    ['new', 'other'],
    ['A', 'Dig'],
  ];
  const found = rowsByNumber(doc, ['code', 'name'], lines);
  expect(found.rows.map((r) => r?.id ?? null)).toEqual(['B', null, null, 'A']);
  expect([found.known, found.texts.map((l) => l[1]).join(' ')]).toEqual([2, 'Pour without other Dig']);
  expect(rowsByNumber(doc, ['name'], lines).known).toBe(0);
  pasted(doc, found.rows, ['code', 'name'], found.texts, on('A'));
  // What is new goes below the last row that is written over.
  expect(order(doc)).toBe('Dig without other Pour M C W');
});

test('what is written over is told by columns and links, new rows are not', () => {
  const doc = documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
      ['C', '2d'],
    ],
    links: ['A > B'],
  });
  const o = pasteCells(
    doc,
    [on('A'), on('B'), on('C'), null],
    ['name', 'duration', 'predecessors'],
    [
      ['Dig', '4d', ''],
      ['B', '5d', 'Cfs+1d'],
      ['C', '2d', ''],
      ['new', '1d', 'A'],
    ],
    newId,
  );
  // Dig is longer and has another name, B is longer; B's link is exchanged for another, the new row has one.
  expect(o.ok && changesInWords(doc, o.changes)).toBe('name of 1 row, duration of 2 rows, 3 links');
  expect(changesInWords(doc, [])).toBe('');
});
