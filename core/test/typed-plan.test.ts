/** A plan that is typed or pasted: how lines and rows of a spreadsheet are understood, and that nothing is half done. */
import fc from 'fast-check';
import type { Document } from '@yellowhammer/core/model/document';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { typedPlan, type TypedPlan } from '@yellowhammer/core/plan/typed-plan';
import { readLines } from '@yellowhammer/core/plan/typed-lines';
import { d, documentOf, finishIn, mustBack, says } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const plan = (): Document =>
  documentOf({
    activities: [
      ['120', '2d', { name: 'Release' }],
      ['130', '1d', { name: 'Twice' }],
      ['140', '1d', { name: 'Twice' }],
    ],
    project: { dataDate: '2026-03-02T08:00' },
  });
const lines = (doc: Document, text: string): TypedPlan => typedPlan(doc, text, null, null, newId);
const outline = (doc: Document): string[] =>
  outlineRows(doc).map((r) => `${'.'.repeat(r.depth)}${r.kind === 'wbs' ? r.node.name : `${r.activity.name} ${r.activity.duration / 480}d`}`);
const linksIn = (doc: Document): string[] =>
  [...doc.links.values()].map((l) => `${doc.activities.get(l.from)?.name} ${l.type}${l.lag ? `+${l.lag / 480}d` : ''} ${doc.activities.get(l.to)?.name}`).sort();
const how = { lengths: { minutesPerDay: 480, daysPerWeek: 5 }, near: 20515 };

test.each<[string, Record<string, unknown>]>([
  ['Strip floor 4d', { name: 'Strip floor', minutes: d(4), kind: 'activity' }],
  ['Strip floor (4 days)', { name: 'Strip floor', minutes: d(4) }],
  ['Strip floor, 1 week', { name: 'Strip floor', minutes: d(5) }],
  ['Strip floor - 6 hours', { name: 'Strip floor', minutes: 360 }],
  ['Strip floor: 1d 4h', { name: 'Strip floor', minutes: 720 }],
  ['Strip floor', { name: 'Strip floor', minutes: null }],
  ['Strip floor 4d after 120', { name: 'Strip floor', minutes: d(4), after: ['120'] }],
  ['Strip floor after 120ss+2d, Plaster and Paint', { name: 'Strip floor', after: ['120ss+2d', 'Plaster and Paint'] }],
  ['Strip floor 2d from 12 mar by 3.4.26', { minutes: d(2), from: '2026-03-12', by: '2026-04-03' }],
  ['Strip floor not before 2026-03-12 after 120', { from: '2026-03-12', after: ['120'], name: 'Strip floor' }],
  ['Handover milestone', { name: 'Handover', kind: 'finishMilestone' }],
  ['Handover (start milestone)', { name: 'Handover', kind: 'startMilestone' }],
  ['Handover 0d', { name: 'Handover', kind: 'finishMilestone', minutes: 0 }],
  ['#A-7 Strip floor 1d', { name: 'Strip floor', number: 'A-7', minutes: d(1) }],
  ['"Repair after storm" 2d after 120', { name: 'Repair after storm', minutes: d(2), after: ['120'] }],
  ['Level 4', { name: 'Level 4', minutes: null }],
  ['- Strip floor 4d', { name: 'Strip floor', minutes: d(4) }],
  ['• Strip floor', { name: 'Strip floor' }],
  ['3) Strip floor', { name: 'Strip floor' }],
  ['b. Strip floor', { name: 'Strip floor' }],
])('%s', (text, expected) => expect(readLines(text, how)[0]).toMatchObject({ faults: [], ...expected }));

test.each([
  ['Strip floor from 31 feb', 'The date 31 feb cannot be read'],
  ['Handover milestone 4d milestone', 'A milestone has no duration'],
  ['"Strip floor 4d', 'The quotation mark is not closed'],
  ['- 4d after 120', 'There is no name'],
])('%s is told', (text, fault) => expect(readLines(text, how)[0]?.faults.join()).toContain(fault));

test('indents, tabs and bullets make levels; what has rows inside is a node', () => {
  const doc = plan();
  const text = [
    'Tower',
    '  - Level 1',
    '\t- Strip 2d',
    '    - Plaster 3d after Strip',
    '  - Level 2',
    '    * Strip 1d after Plaster',
    '    * Plaster 3d after above',
    'Handover milestone after Plaster',
  ].join('\n');
  const r = lines(doc, text);
  expect(r.rows.map((x) => [x.depth, x.kind])).toEqual([
    [0, 'node'],
    [1, 'node'],
    [2, 'activity'],
    [2, 'activity'],
    [1, 'node'],
    [2, 'activity'],
    [2, 'activity'],
    [0, 'finishMilestone'],
  ]);
  mustBack(doc, r.outcome);
  expect(outline(doc).slice(3)).toEqual(['Tower', '.Level 1', '..Strip 2d', '..Plaster 3d', '.Level 2', '..Strip 1d', '..Plaster 3d', 'Handover 0d']);
  // A name that stands twice is the nearest above.
  expect(linksIn(doc)).toEqual(['Plaster FS Handover', 'Plaster FS Strip', 'Strip FS Plaster', 'Strip FS Plaster']);
  // 2 + 3 + 1 + 3 days from 2 March: to 12 March.
  expect(finishIn(doc, [...doc.activities.values()].find((a) => a.name === 'Handover')?.id ?? '')).toBe('2026-03-12T17:00');
});

test('outline numbers make levels where there are no indents', () => {
  const doc = plan();
  mustBack(doc, lines(doc, '1 Tower\n1.1 Strip 2d\n1.2 Plaster 3d after Strip\n2 Dome\n2.1 Lift 1d').outcome);
  expect(outline(doc).slice(3)).toEqual(['Tower', '.Strip 2d', '.Plaster 3d', 'Dome', '.Lift 1d']);
});

test('links by number and name, with types and lags, to the plan and to lines further down', () => {
  const doc = plan();
  const r = lines(doc, 'A 2d after 120ss+2d, Release ff - 1d, B sf\nB 1d after #120 + 2 days\n#X9 C 1d\nD 1d after x9');
  mustBack(doc, r.outcome);
  expect(linksIn(doc)).toEqual(['B SF A', 'C FS D', 'Release FF+-1d A', 'Release FS+2d B', 'Release SS+2d A']);
  expect(r.links.map((l) => [l.line, l.from, l.type, l.lag])).toContainEqual([1, '120', 'SS', d(2)]);
});

test('a name may hold "and"; two names may be joined by it; the line above may have a type and a lag', () => {
  const doc = plan();
  mustBack(doc, lines(doc, 'Pump and filter 1d\nTest 1d after Pump and filter\nOpen 1d after aboveSS+1d\nClose 1d after Test and Open & Release').outcome);
  expect(linksIn(doc)).toEqual(['Open FS Close', 'Pump and filter FS Test', 'Release FS Close', 'Test FS Close', 'Test SS+1d Open']);
  expect(lines(doc, 'X 1d after Nobody and Open').rows[0]?.faults[0]).toContain('no activity Nobody and Open');
});

test('forty lines with three that cannot be read: each is named, nothing is taken, and the corrected ones are', () => {
  const doc = plan();
  const before = JSON.stringify([...doc.activities.keys()]);
  const text = ['Tower', ...Array.from({ length: 39 }, (_, i) => `  Work ${i + 1} ${1 + (i % 4)}d${i ? ' after above' : ''}`)];
  const broken = [...text];
  broken[4] = '  Work 4 4d after 999';
  broken[11] = '  Work 11 3d from 31 feb';
  broken[30] = '  Work 30 2d after Work 35, above';
  const r = lines(doc, broken.join('\n'));
  expect(r.rows.filter((x) => x.faults.length).map((x) => x.line)).toEqual([5, 12, 36]);
  expect(r.rows[4]?.faults[0]).toContain('There is no activity 999');
  expect(r.rows[35]?.faults[0]).toMatch(/would close a loop/);
  expect(says(r.outcome)).toBe('3 lines cannot be read: 5, 12, 36. Mend them; nothing is taken before.');
  expect(JSON.stringify([...doc.activities.keys()])).toBe(before);
  const good = lines(doc, text.join('\n'));
  expect([good.rows.filter((x) => x.faults.length), good.rows.length, good.links.length]).toEqual([[], 40, 38]);
  mustBack(doc, good.outcome);
  // 39 durations of 1, 2, 3, 4 days: 9 rounds of 10 days and 1 + 2 + 3, one after the other: 96 days.
  const last = [...doc.activities.values()].find((a) => a.name === 'Work 39');
  expect(finishIn(doc, last?.id ?? '')).toBe('2026-07-13T17:00');
});

const table = (rows: string[]): string[][] => rows.map((r) => r.split('|'));

test('rows of a spreadsheet with WBS codes: nodes, their activities under the same code, unused heads', () => {
  const doc = plan();
  const r = typedPlan(
    doc,
    '',
    table([
      'WBS|No.|Activity|Duration|Predecessors|Colour',
      '1||Tower|||',
      '1.1||Level 1|||',
      '1.1|T1|Strip|2d||red',
      '1.1|T2|Plaster|3|T1|',
      '1.2|T3|Roof|1w|T2FS+1d|',
      '2|T4|Handover|0||',
    ]),
    null,
    newId,
  );
  expect([r.rows.flatMap((x) => x.faults), r.unused]).toEqual([[], ['Colour']]);
  mustBack(doc, r.outcome);
  expect(outline(doc).slice(3)).toEqual(['Tower', '.Level 1', '..Strip 2d', '..Plaster 3d', '.Roof 5d', 'Handover 0d']);
  expect(linksIn(doc)).toEqual(['Plaster FS+1d Roof', 'Strip FS Plaster']);
});

test('rows of a spreadsheet with levels: six faults are named by their rows, nothing is taken, and the corrected block goes in', () => {
  const doc = plan();
  const good = ['Level|Name|Duration|Predecessors|Start'];
  for (let i = 0; i < 20; i++) {
    good.push(`1|Section ${i + 1}|||`);
    for (let j = 0; j < 9; j++) good.push(`2|Section ${i + 1} work ${j + 1}|${j + 1}d|${j ? `Section ${i + 1} work ${j}` : ''}|`);
  }
  const bad = [...good];
  bad[3] = '2|Section 1 work 2|five|Section 1 work 1|';
  bad[30] = '2||9d||';
  bad[50] = 'x|Section 5 work 9|9d|Section 5 work 8|';
  bad[77] = '2|Section 8 work 6|6d|Section 8 work 55|';
  bad[100] = '2|Section 10 work 9|9d|Section 10 work 8|31 feb';
  bad[150] = '4|Section 15 work 9|9d||';
  const r = typedPlan(doc, '', table(bad), null, newId);
  expect(r.rows.filter((x) => x.faults.length).map((x) => [x.line, x.faults[0]?.slice(0, 28)])).toEqual([
    [4, 'The duration five cannot be '],
    [31, 'There is no name.'],
    [51, 'The level x is not a number '],
    [78, 'There is no activity Section'],
    [101, 'The date 31 feb cannot be re'],
    [151, 'It is 2 levels below the lin'],
  ]);
  expect(says(r.outcome)).toContain('6 lines cannot be read: 4, 31, 51, 78, 101, 151');
  expect(doc.activities.size).toBe(3);
  const right = typedPlan(doc, '', table(good), null, newId);
  mustBack(doc, right.outcome);
  expect([doc.activities.size, doc.wbs.size, doc.links.size]).toEqual([183, 20, 160]);
});

test('a number that is taken, a name that two activities of the plan have, and a node with a duration are told', () => {
  const doc = plan();
  expect(lines(doc, '#120 A 1d').rows[0]?.faults[0]).toContain('The number 120 is taken');
  expect(lines(doc, 'A 1d after Twice').rows[0]?.faults[0]).toContain('There is no activity Twice');
  expect(lines(doc, 'Tower 5d\n  A 1d').rows[0]?.faults[0]).toContain('it is a WBS node');
  expect(says(lines(doc, ' \n ').outcome)).toContain('Type or paste some lines');
});

test('no text makes it throw, and what is taken can be taken back', () => {
  const word = fc.constantFrom(
    'Strip',
    '4d',
    'after',
    '120',
    'from',
    '31 feb',
    '12 mar',
    '\t',
    '  ',
    '\n',
    '- ',
    '1.2',
    '"',
    '#7',
    'milestone',
    'above',
    'ss+2d',
    ',',
    'x'.repeat(600),
  );
  fc.assert(
    fc.property(fc.array(word, { maxLength: 40 }), (words) => {
      const doc = plan();
      const r = lines(doc, words.join(' '));
      if (r.outcome.ok) mustBack(doc, r.outcome);
      else expect(doc.activities.size).toBe(3);
    }),
    { numRuns: 300 },
  );
});
