/** Fields that people make: names, kinds and sums, rings of expressions, what is lost when one changes, and what those that are there get. */
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
import type { Document } from '@yellowhammer/core/model/document';
import { documentOf, must, mustBack, says, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `q${++n}`;
const plan = (): Document =>
  documentOf({
    activities: [
      ['A', '10d'],
      ['B', '5d'],
      ['C', '2d'],
    ],
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
