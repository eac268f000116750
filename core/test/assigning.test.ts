/** Assigning: what is made of lines, crews and typed text, and what stays. */
import {
  assign,
  assignCrew,
  assignees,
  assignmentText,
  readAssignments,
  reassign,
  sameAssignee,
  setAssignment,
  typeAssignments,
  unassign,
} from '@yellowhammer/core/commands/assign';
import { applyChanges, invertChanges } from '@yellowhammer/core/change/change';
import { changeProblems, standingOf } from '@yellowhammer/core/rules/check';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { ownFieldSchema } from '@yellowhammer/core/model/schema';
import { finishIn, mustBack, must, peopledPlan, says, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `q${++n}`;
function plan(): Document {
  return peopledPlan(
    {
      activities: [
        ['A', '10d', {}],
        ['B', '5d', { basis: 'fixedWork' }],
        ['C', '2d', { quantity: 4 }],
      ],
    },
    {
      roles: [
        { id: 'rigger', name: 'rigger', rank: 1 },
        { id: 'mason', name: 'mason', rank: 0 },
      ],
      resources: [
        { id: 'ana', name: 'Ana', rank: 2 },
        { id: 'bo', name: 'Bo', rank: 0 },
        { id: 'crane', name: 'Crane 2', kind: 'equipment', rank: 1 },
        { id: 'lime', name: 'Lime', kind: 'material', unit: 't', rank: 3 },
      ],
      crews: [
        {
          id: 'gang',
          name: 'Gang',
          lines: [
            { resourceId: 'ana', roleId: null, units: 1.3335 },
            { resourceId: 'gone', roleId: null, units: 1 },
            { resourceId: null, roleId: 'mason', units: 2 },
          ]
            .filter((l) => l.resourceId !== 'gone')
            .map((l) => ({ ...l, units: Math.round(l.units * 1000) / 1000 })),
        },
      ],
      assignments: [
        { activityId: 'B', resourceId: 'bo', work: 2_400_000, rank: 4 },
        { activityId: 'C', resourceId: 'lime', drives: false, quantityPer: 2 },
      ],
    },
  );
}
const of = (doc: Document, id: string) => indexOf(doc).assignmentsOf(id);

test('an assignment is made behind the others, with what was said of it, and else as usual', () => {
  const doc = plan();
  doc.ownFields.set('s', {
    ...sure(
      ownFieldSchema.parse({
        id: 's',
        rank: 0,
        name: 'Shift',
        key: 'shift',
        about: '',
        of: 'assignments',
        kind: 'text',
        unit: '',
        choices: [],
        standard: 'day',
        required: false,
        sum: 'same',
        expression: '',
      }),
    ),
  });
  const made = mustBack(
    doc,
    assign(
      doc,
      ['A', 'B'],
      [
        { resourceId: 'ana', roleId: null, units: 2 },
        { resourceId: null, roleId: 'mason', units: 0.5 },
      ],
      newId,
      { delay: 480, drives: false, spread: 'early', ownWork: true },
    ),
  );
  expect(made).toEqual([]);
  expect(of(doc, 'A').map((x) => [x.resourceId, x.roleId, x.units, x.rank, x.delay, x.drives, x.spread, x.values])).toEqual([
    ['ana', null, 2, 0, 480, false, 'early', { 'own:s': 'day' }],
    [null, 'mason', 0.5, 1, 480, false, 'early', { 'own:s': 'day' }],
  ]);
  expect(of(doc, 'B').map((x) => x.rank)).toEqual([4, 5, 6]);
  mustBack(doc, assign(doc, ['C'], [{ resourceId: 'ana', roleId: null, units: 1 }], newId));
  expect(of(doc, 'C').at(-1)).toMatchObject({ delay: 0, drives: true, spread: 'even' });
});

test('a crew comes so many times, its units in thousandths', () => {
  const doc = plan();
  mustBack(doc, assignCrew(doc, ['A'], 'gang', 1.5, newId));
  expect(of(doc, 'A').map((x) => [x.resourceId ?? x.roleId, x.units])).toEqual([
    ['ana', 2.001],
    ['mason', 3],
  ]);
});

test('taken off by some: those who stay stay, and nobody is taken twice', () => {
  const doc = plan();
  mustBack(doc, assign(doc, ['A', 'B'], [{ resourceId: 'ana', roleId: null, units: 1 }], newId));
  const [first, second] = ['A', 'B'].map((id) => sure(of(doc, id).find((x) => x.resourceId === 'ana')).id);
  const o = unassign(doc, [sure(first), sure(second), 'zz', sure(first)]);
  expect(tells(o)).toBe('Take 3 assignments off 2 activities');
  mustBack(doc, o);
  expect([of(doc, 'A'), of(doc, 'B').map((x) => x.resourceId)]).toEqual([[], ['bo']]);
});

test('what is plain of an assignment is set alone, and what is as it was changes nothing else', () => {
  const doc = plan();
  const before = sure(doc.assignments.get('x0'));
  mustBack(doc, setAssignment(doc, 'x0', { units: 1, work: before.work, delay: 0, drives: true, actualCost: 5, spread: 'late' }));
  expect(doc.assignments.get('x0')).toEqual({ ...before, actualCost: 5, spread: 'late' });
  const other = sure(doc.assignments.get('x1'));
  mustBack(doc, setAssignment(doc, 'x0', { drives: false }));
  expect([doc.assignments.get('x0')?.drives, doc.assignments.get('x1')]).toEqual([false, other]);
  mustBack(doc, setAssignment(doc, 'x0', { delay: 60 }));
  expect(doc.assignments.get('x0')?.delay).toBe(60);
});

test('work is given to somebody who is there later already, but not at the same time', () => {
  const doc = plan();
  mustBack(doc, assign(doc, ['A'], [{ resourceId: 'ana', roleId: null, units: 1 }], newId));
  mustBack(doc, assign(doc, ['A'], [{ resourceId: 'bo', roleId: null, units: 1 }], newId, { delay: 480 }));
  const [ana, bo] = of(doc, 'A');
  mustBack(doc, reassign(doc, [sure(bo).id], { resourceId: 'ana', roleId: null }));
  expect(of(doc, 'A').map((x) => [x.resourceId, x.delay, x.units])).toEqual([
    ['ana', 0, 1],
    ['ana', 480, 1],
  ]);
  mustBack(doc, reassign(doc, [sure(ana).id], { resourceId: null, roleId: 'rigger' }));
  expect(of(doc, 'A')[0]).toMatchObject({ resourceId: null, roleId: 'rigger' });
  // Of several only those that somebody else has are given.
  expect(
    tells(
      reassign(
        doc,
        of(doc, 'A')
          .map((x) => x.id)
          .concat('x0'),
        { resourceId: 'ana', roleId: null },
      ),
    ),
  ).toContain('2 assignments to Ana');
  expect(tells(reassign(doc, ['x1'], { resourceId: 'lime', roleId: null }))).toBe('NOTHING_CHANGED Lime has them already. @');
  expect(says(reassign(doc, ['x1'], { resourceId: null, roleId: 'rigger' }))).toContain('rigger cannot take that over');
  expect(sameAssignee({ resourceId: 'a', roleId: null }, { resourceId: 'a', roleId: null })).toBe(true);
  expect([
    sameAssignee({ resourceId: 'a', roleId: null }, { resourceId: null, roleId: 'a' }),
    sameAssignee({ resourceId: null, roleId: 'a' }, { resourceId: null, roleId: 'b' }),
  ]).toEqual([false, false]);
});

test('an assignment is told as it is typed: one unit by the name alone, a material with its quantity', () => {
  const doc = plan();
  const x = sure(doc.assignments.get('x0'));
  expect([
    assignmentText(doc, x),
    assignmentText(doc, { ...x, units: 2.5 }),
    assignmentText(doc, { ...x, resourceId: null, roleId: 'mason' }),
    assignmentText(doc, sure(doc.assignments.get('x1'))),
    assignmentText(doc, { ...x, resourceId: 'lime', quantity: 1 }),
    assignmentText(doc, { ...x, resourceId: 'zz', units: 2 }),
  ]).toEqual(['Bo', 'Bo 2.5', 'mason', 'Lime 2', 'Lime 1', ' 2']);
  expect(assignees(doc).map((a) => [a.name, a.material])).toEqual([
    ['Bo', false],
    ['Crane 2', false],
    ['Ana', false],
    ['Lime', true],
    ['mason', false],
    ['rigger', false],
  ]);
});

test.each<[string, unknown]>([
  ['ana', [['Ana', null]]],
  [' ANA  2 ', [['Ana', 2]]],
  [
    'an 0.125; mas 50%',
    [
      ['Ana', 0.125],
      ['mason', 0.5],
    ],
  ],
  ['crane 2', [['Crane 2', null]]],
  ['crane 2 3', [['Crane 2', 3]]],
  ['cra 4', [['Crane 2', 4]]],
  ['lime 12.5,,', [['Lime', 12.5]]],
  ['', []],
  ['ana 1.2345', 'ana 1.2345 is no resource or role of the project. Add it in the Library, or type another name.'],
  ['ana 1000000', [['Ana', 1_000_000]]],
  ['ana 0%', 'Ana: units are above 0 and at most 1,000,000.'],
  // A comma inside of a number is its decimal sign, as everywhere; between people it parts them, with a blank behind it or without.
  [
    'ana 0,5, bo',
    [
      ['Ana', 0.5],
      ['Bo', null],
    ],
  ],
  [
    'ana 0,5,bo 1,25',
    [
      ['Ana', 0.5],
      ['Bo', 1.25],
    ],
  ],
  [
    'ana 2,bo',
    [
      ['Ana', 2],
      ['Bo', null],
    ],
  ],
  [
    'ana 2,bo 3',
    [
      ['Ana', 2],
      ['Bo', 3],
    ],
  ],
  [
    'ana,bo,mason',
    [
      ['Ana', null],
      ['Bo', null],
      ['mason', null],
    ],
  ],
  [
    'ana 12,5%; bo',
    [
      ['Ana', 0.125],
      ['Bo', null],
    ],
  ],
  ['lime 1,250', [['Lime', 1250]]],
  ['lime 1.234,5', [['Lime', 1234.5]]],
  ['ana 0, 5', 'Ana: units are above 0 and at most 1,000,000.'],
  ['ana 1..5', 'ana 1..5 is no resource or role of the project. Add it in the Library, or type another name.'],
  ['smith 4', 'smith is no resource or role of the project. Add it in the Library, or type another name.'],
])('%s typed', (text, expected) => {
  const read = readAssignments(plan(), text);
  expect(typeof read === 'string' ? read : read.map((t) => [t.name, t.amount])).toEqual(expected);
});

test('three names that begin so are told at most', () => {
  const doc = plan();
  for (const [i, name] of ['Mac', 'Max', 'May', 'Mab'].entries()) doc.resources.set(name, { ...sure(doc.resources.get('ana')), id: name, name, rank: 10 + i });
  expect(readAssignments(doc, 'ma 2')).toBe('ma may be Mac or Max or May. Type more of the name.');
});

test('typed text keeps those that it names, takes the others away, and gives quantities of materials', () => {
  const doc = plan();
  mustBack(doc, typeAssignments(doc, 'C', 'lime, ana 2', newId));
  expect(of(doc, 'C').map((x) => [x.id === 'x1', x.resourceId, x.units, x.quantity, x.quantityPer])).toEqual([
    [true, 'lime', 1, 0, 2],
    [false, 'ana', 2, 0, null],
  ]);
  mustBack(doc, typeAssignments(doc, 'C', 'lime 3, ana', newId));
  expect(of(doc, 'C').map((x) => [x.resourceId, x.units, x.quantityPer])).toEqual([
    ['lime', 1, 3],
    ['ana', 1, null],
  ]);
  expect(says(typeAssignments(doc, 'C', 'lime 3, ana', newId))).toBe('taken');
  mustBack(doc, typeAssignments(doc, 'A', 'lime', newId));
  expect(of(doc, 'A')[0]).toMatchObject({ quantity: 1, units: 1, drives: false, rank: 0 });
  mustBack(doc, typeAssignments(doc, 'A', 'lime 7.5', newId));
  expect(of(doc, 'A')[0]).toMatchObject({ quantity: 7.5, quantityPer: null });
  mustBack(doc, typeAssignments(doc, 'A', 'bo', newId));
  expect(of(doc, 'A').map((x) => [x.resourceId, x.rank])).toEqual([['bo', 1]]);
});

test('a material that an older program says drives counts for nothing, is edited, goes and comes back as it was; nobody can say so', () => {
  const doc = plan();
  mustBack(doc, assign(doc, ['B'], [{ resourceId: 'lime', roleId: null, units: 1 }], newId));
  const id = sure(of(doc, 'B').at(-1)).id;
  const finish = finishIn(doc, 'B');
  expect(says(setAssignment(doc, id, { drives: true }))).toBe('B B: Lime is a material; it has no working time that the work could wait for.');
  const old = { ...sure(doc.assignments.get(id)), drives: true };
  const older = (): void => applyChanges(doc, [{ table: 'assignments', id, before: sure(doc.assignments.get(id)), after: old }]);
  older();
  expect(finishIn(doc, 'B')).toBe(finish);
  mustBack(doc, setAssignment(doc, id, { quantity: 3 }));
  older();
  const gone = unassign(doc, [id]);
  must(doc, gone);
  const back = gone.ok ? invertChanges(gone.changes) : [];
  // The server asks the rules of rows of what is taken back.
  expect(changeProblems(back, standingOf(doc))).toEqual([]);
  applyChanges(doc, back);
  expect(doc.assignments.get(id)).toEqual(old);
});
