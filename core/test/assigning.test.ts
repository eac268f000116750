/** Assigning: what is made of lines, crews and typed text, and what stays; own fields: names, rings, what is lost. */
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
import {
  addOwnField,
  askers,
  convertOwn,
  editOwnField,
  expressionError,
  fieldNamed,
  fillStandard,
  freeName,
  inSheet,
  ownedCount,
  ownersOf,
  ownKindNames,
  ownUses,
  sumNames,
} from '@yellowhammer/core/commands/own-fields';
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

describe('own fields', () => {
  const fields = (doc: Document, ...list: [name: string, kind: keyof typeof ownKindNames, expression?: string][]): string[] =>
    list.map(([name, kind, expression]) => {
      const id = sure(must(doc, addOwnField(doc, name, kind, newId))[0]);
      if (expression !== undefined) doc.ownFields.set(id, { ...sure(doc.ownFields.get(id)), expression });
      return id;
    });
  test('kinds and sums have words of their own, and say whom they belong to', () => {
    for (const words of [ownKindNames, sumNames]) expect(new Set(Object.values(words)).size).toBe(Object.keys(words).length);
    expect([ownKindNames.yesNo, ownKindNames.address, sumNames.mean, sumNames.again]).toEqual([
      'yes or no',
      'web address',
      'mean, weighted by duration',
      'computed again from the sums',
    ]);
    expect(Object.values({ ...ownKindNames, ...sumNames }).filter((w) => w.length < 3)).toEqual([]);
    expect([ownedCount('wbs', 1), ownedCount('wbs', 2), ownedCount('activities', 0), ownersOf('project'), ownersOf('resources')]).toEqual([
      '1 WBS node',
      '2 WBS nodes',
      '0 activities',
      'the project',
      'resources',
    ]);
    expect((['activities', 'wbs', 'resources', 'assignments', 'project'] as const).map(inSheet)).toEqual([true, true, false, false, false]);
  });
  test.each([
    ['number', 'sum'],
    ['money', 'sum'],
    ['duration', 'sum'],
    ['text', 'same'],
    ['date', 'same'],
    ['yesNo', 'same'],
    ['choice', 'same'],
    ['address', 'same'],
    ['computed', 'same'],
  ] as const)('one of %s sums up by %s, is of activities, and stands behind the others', (kind, sum) => {
    const doc = plan();
    const [first, id] = fields(doc, ['First', 'text'], [' Risk class ', kind]);
    expect(doc.ownFields.get(sure(id))).toEqual({
      id,
      rank: 1,
      name: 'Risk class',
      key: 'riskClass',
      about: '',
      of: 'activities',
      kind,
      unit: '',
      choices: [],
      standard: null,
      required: false,
      sum,
      expression: '',
    });
    // Another kind sums up by its own, unless somebody says otherwise.
    must(doc, editOwnField(doc, sure(first), { kind }));
    expect(doc.ownFields.get(sure(first))?.sum).toBe(sum);
    must(doc, editOwnField(doc, sure(first), { kind: 'text', sum: 'count' }));
    expect(doc.ownFields.get(sure(first))?.sum).toBe('count');
    must(doc, editOwnField(doc, sure(first), { kind: 'text', about: 'x' }));
    expect(doc.ownFields.get(sure(first))?.sum).toBe('count');
  });
  test('names in expressions are those that nothing has, whatever the case', () => {
    const doc = plan();
    fields(doc, ['Risk', 'text'], ['RISK 2', 'text']);
    expect(['Risk', 'risk', 'Duration', 'Not', 'Weight', '9 lives', 'Data date'].map((t) => freeName([...doc.ownFields.values()], t))).toEqual([
      'risk3',
      'risk3',
      'duration2',
      'not2',
      'weight',
      'f9Lives',
      'dataDate2',
    ]);
    expect(freeName([...doc.ownFields.values()], '9 lives')).toMatch(/^[A-Za-z][A-Za-z0-9]*$/);
  });
  test('who asks for what, whatever the case; only computed fields ask', () => {
    const doc = plan();
    const [a, b] = fields(doc, ['Width', 'number'], ['Size', 'computed', 'width * 2'], ['Note', 'text', 'width']);
    expect([askers(doc, 'fields', ['WIDTH']).map((f) => f.id), askers(doc, 'fields', ['depth', 'width']).map((f) => f.id), askers(doc, 'sets', ['width'])]).toEqual([[b], [b], []]);
    expect([fieldNamed(doc, 'width')?.key, fieldNamed(doc, 'duration')?.key, fieldNamed(doc, 'nothing')]).toEqual([`own:${a}`, 'duration', undefined]);
  });
  test('a ring of fields is told in its order; an expression that cannot be read says why', () => {
    const doc = plan();
    const [a, b, c] = fields(doc, ['One', 'computed', 'two + 1'], ['Two', 'computed', 'three + 1'], ['Three', 'computed', '1']);
    const three = sure(doc.ownFields.get(sure(c)));
    expect(expressionError(doc, { ...three, expression: 'one' })).toMatch(
      /^Fields cannot ask for each other in a ring: (One asks for Two asks for Three asks for One|Two asks for Three asks for One asks for Two|Three asks for One asks for Two asks for Three)\.$/,
    );
    expect(expressionError(doc, { ...three, expression: '1 + 2' })).toBeUndefined();
    expect(expressionError(doc, { ...three, expression: '1 +' })).toBeTruthy();
    expect(tells(editOwnField(doc, sure(c), { expression: '1 +' }))).toMatch(/^BAD_EXPRESSION .* @ownFields\/.*\/Three\/expression$/);
    // An empty one may be kept until it is written.
    must(doc, editOwnField(doc, sure(c), { expression: ' ' }));
    expect([a, b].map((id) => doc.ownFields.get(sure(id))?.expression)).toEqual(['two + 1', 'three + 1']);
  });
  test('a new name in expressions is followed by those who ask for it', () => {
    const doc = plan();
    const [a, b, c] = fields(doc, ['Width', 'number'], ['Size', 'computed', 'width * 2 + widths'], ['Widths', 'number']);
    mustBack(doc, editOwnField(doc, sure(a), { key: 'breadth' }));
    expect(doc.ownFields.get(sure(b))?.expression).toBe('breadth * 2 + widths');
    mustBack(doc, editOwnField(doc, sure(c), { name: 'Other' }));
    expect([doc.ownFields.get(sure(b))?.expression, doc.ownFields.get(sure(c))?.key]).toEqual(['breadth * 2 + widths', 'widths']);
    // To what it is called already, in other letters: its own name is not in its way.
    mustBack(doc, editOwnField(doc, sure(a), { key: 'Breadth' }));
    expect(doc.ownFields.get(sure(b))?.expression).toBe('Breadth * 2 + widths');
  });
  test('of a field that changes, values that it can hold stay as they are, others are read anew, and what is lost is counted', () => {
    const doc = plan();
    const [id] = fields(doc, ['Depth', 'text']);
    const key = `own:${sure(id)}`;
    for (const [a, v] of [
      ['A', '12'],
      ['B', 'deep'],
      ['C', 'deeper'],
    ] as const)
      doc.activities.set(a, { ...sure(doc.activities.get(a)), values: { [key]: v, other: 1 } });
    const old = sure(doc.ownFields.get(sure(id)));
    expect(ownUses(doc, sure(id)).map((r) => r.id)).toEqual(['A', 'B', 'C']);
    expect(ownUses(doc, 'zz')).toEqual([]);
    expect([...convertOwn(doc, sure(id), { ...old, unit: 'm' }).values]).toEqual([]);
    const next = convertOwn(doc, sure(id), { ...old, kind: 'number' });
    expect([[...next.values], next.lost.map((r) => r.id)]).toEqual([
      [
        ['A', 12],
        ['B', null],
        ['C', null],
      ],
      ['B', 'C'],
    ]);
    expect(convertOwn(doc, sure(id), { ...old, of: 'wbs' }).lost).toHaveLength(3);
    expect(says(editOwnField(doc, sure(id), { kind: 'number' }))).toBe('2 activities would lose what they have in Depth, B B among them.');
    mustBack(doc, editOwnField(doc, sure(id), { kind: 'number' }, true));
    expect(['A', 'B'].map((a) => doc.activities.get(a)?.values)).toEqual([{ [key]: 12, other: 1 }, { other: 1 }]);
  });
  test('choices are trimmed and there once; a usual value that is none goes, and the project has none', () => {
    const doc = plan();
    const [id] = fields(doc, ['Risk', 'choice']);
    must(doc, editOwnField(doc, sure(id), { choices: [' low', 'low', '', ' ', 'high '], standard: 'low' }));
    expect(doc.ownFields.get(sure(id))).toMatchObject({ choices: ['low', 'high'], standard: 'low' });
    must(doc, editOwnField(doc, sure(id), { choices: ['high'] }));
    expect(doc.ownFields.get(sure(id))?.standard).toBeNull();
    must(doc, editOwnField(doc, sure(id), { standard: 'high' }));
    must(doc, editOwnField(doc, sure(id), { of: 'project' }));
    expect(doc.ownFields.get(sure(id))).toMatchObject({ standard: null, of: 'project' });
  });
  test('the usual value is given to those that have none', () => {
    const doc = plan();
    const [id] = fields(doc, ['Risk', 'text']);
    const key = `own:${sure(id)}`;
    must(doc, editOwnField(doc, sure(id), { standard: 'low' }));
    doc.activities.set('B', { ...sure(doc.activities.get('B')), values: { [key]: 'high' } });
    const o = fillStandard(doc, sure(id));
    expect(tells(o)).toBe('Give 2 activities the usual Risk');
    mustBack(doc, o);
    expect(['A', 'B', 'C'].map((a) => doc.activities.get(a)?.values[key])).toEqual(['low', 'high', 'low']);
  });
});
