/** What looks alike over projects, and what making it one does. */
import { adoptField, adoptSchema, adoptSet, alikeIn, likeValue, lookOf, mergeSets } from '@yellowhammer/core/commands/alike';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { addOwnField, editOwnField } from '@yellowhammer/core/commands/own-fields';
import { type Document, ordered } from '@yellowhammer/core/model/document';
import type { CodeSet, OwnField } from '@yellowhammer/core/model/schema';
import { codeSetOf, documentOf, must, ownFieldOf, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `k${++n}`;
function project(name: string, values: [string, string?, string?][]): { doc: Document; set: string } {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
    ],
  });
  const set = sure(must(doc, addCodeSet(doc, name, newId))[0]);
  for (const [short, long, parent] of values) {
    const parentId = parent ? sure(doc.codeSets.get(set)?.values.find((v) => v.short === parent)).id : null;
    must(doc, addCodeValue(doc, set, { short, name: long ?? '', parentId }, newId));
  }
  return { doc, set };
}
const looked = (code: string, doc: Document) => ({ projectId: code, code, name: code, codeSets: ordered(doc, 'codeSets'), ownFields: ordered(doc, 'ownFields') });
const has = (doc: Document, id: string, set: string): string => sure(doc.codeSets.get(set)).values.find((v) => v.id === doc.activities.get(id)?.values[`code:${set}`])?.short ?? '';
const told = (doc: Document, set: string): string =>
  sure(doc.codeSets.get(set))
    .values.map((v) => `${v.short}${v.name ? ` ${v.name}` : ''}${v.parentId ? ` in ${sure(doc.codeSets.get(set)).values.find((x) => x.id === v.parentId)?.short}` : ''}`)
    .join(', ');

test.each([
  ['Trade', 'trades', true],
  ['Trade', 'T-rade ', true],
  ['Área', 'area', true],
  ['Gas', 'Ga', false],
  ['Boxes', 'Box', true],
  ['Phase 1', 'Phase 2', false],
  ['Phase 1-2', 'phase_12', true],
  ['Bus', 'Bu', false],
  ['Pipes', 'Pipe', true],
  ['Pipe', 'Pip', true],
  ['See', 'Se', false],
  ['Masons hut', 'Mason hut', false],
  ['Übergänge', 'uberganges', true],
  ['12s', '12', false],
  ['1e', '1', false],
])('%s and %s look alike: %s', (a, b, alike) => expect(lookOf(a) === lookOf(b)).toBe(alike));

test('sets that look alike are told with how they differ; the same ones are not', () => {
  const one = project('Trade', [['Mason', 'Stone'], ['Steel']]);
  const two = project('Trades', [['Masons', 'Stone'], ['Steel'], ['Rope']]);
  const found = alikeIn([looked('P', one.doc), looked('Q', two.doc)]);
  expect(found.map((f) => [f.kind, f.members.map((m) => `${m.project} ${m.name}`), f.words])).toEqual([
    ['set', ['P Trade', 'Q Trades'], ['Trade and Trades', 'Mason Stone and Masons Stone', 'Rope is in one only']],
  ]);
  expect(alikeIn([looked('P', one.doc), looked('R', one.doc)])).toEqual([]);
  // The same values under a name of its own.
  const three = project('Crew', [['mason'], ['steel']]);
  expect(alikeIn([looked('P', project('Trade', [['Mason'], ['Steel']]).doc), looked('S', three.doc)])[0]?.members.map((m) => m.name)).toEqual(['Trade', 'Crew']);
});

test('values of one set that look alike, and fields of another kind or unit', () => {
  const one = project('Area', [['North'], ['Norths'], ['South']]);
  must(one.doc, addOwnField(one.doc, 'Weight', 'number', newId));
  const two = project('Zone', [['x']]);
  const f = sure(must(two.doc, addOwnField(two.doc, 'weight', 'number', newId))[0]);
  must(two.doc, editOwnField(two.doc, f, { unit: 't' }));
  expect(alikeIn([looked('P', one.doc), looked('Q', two.doc)]).map((x) => x.words)).toEqual([['Area of P has both North and Norths'], ['Weight and weight', 'unit none and t']]);
});

test('a set is made like another: names, order, tree; what activities have stays, what is only here stays behind', () => {
  const like = project('Trade', [['Building'], ['Mason', 'Stone and lime', 'Building'], ['Steel']]);
  const mine = project('trades', [['steels'], ['Rope'], ['masons']]);
  must(mine.doc, setCell(mine.doc, 'A', `code:${mine.set}`, 'masons', newId));
  must(mine.doc, setCell(mine.doc, 'B', `code:${mine.set}`, 'Rope', newId));
  must(mine.doc, adoptSet(mine.doc, mine.set, sure(like.doc.codeSets.get(like.set)), newId));
  expect([mine.doc.codeSets.get(mine.set)?.name, told(mine.doc, mine.set)]).toEqual(['Trade', 'Building, Mason Stone and lime in Building, Steel, Rope']);
  expect([has(mine.doc, 'A', mine.set), has(mine.doc, 'B', mine.set)]).toEqual(['Mason', 'Rope']);
  // Once more it changes nothing, and nothing is left to tell.
  expect(tells(adoptSet(mine.doc, mine.set, sure(like.doc.codeSets.get(like.set)), newId))).toContain('NOTHING_CHANGED');
  expect(likeValue(sure(mine.doc.codeSets.get(mine.set)).values, { id: '', parentId: null, short: 'MASON', name: '', colour: null, about: '' })?.short).toBe('Mason');
});

test('a short name that is taken gives way, and another set of that name refuses', () => {
  const like = project('Trade', [['Steel', 'Steelwork']]);
  const mine = project('Trades', [
    ['St', 'Steelwork'],
    ['Steel', 'Ropes'],
  ]);
  // By its short name first: the second is Steel here and there.
  must(mine.doc, adoptSet(mine.doc, mine.set, sure(like.doc.codeSets.get(like.set)), newId));
  expect(told(mine.doc, mine.set)).toBe('Steel Steelwork, St Steelwork');
  must(mine.doc, addCodeSet(mine.doc, 'Phase', newId));
  const phase = project('Phase', [['1']]);
  expect(tells(adoptSet(mine.doc, mine.set, sure(phase.doc.codeSets.get(phase.set)), newId))).toContain('NAME_TAKEN There is another code set Phase here.');
});

test('two sets of a project are merged: alike values become one, others come along, who has both keeps the second', () => {
  const { doc, set: from } = project('Crew', [['masons'], ['Rope']]);
  const into = sure(must(doc, addCodeSet(doc, 'Trade', newId))[0]);
  for (const short of ['Mason', 'Steel']) must(doc, addCodeValue(doc, into, { short }, newId));
  must(doc, setCell(doc, 'A', `code:${from}`, 'Rope', newId));
  must(doc, setCell(doc, 'B', `code:${from}`, 'masons', newId));
  must(doc, setCell(doc, 'B', `code:${into}`, 'Steel', newId));
  must(doc, mergeSets(doc, from, into, newId));
  expect([told(doc, into), has(doc, 'A', into), has(doc, 'B', into), doc.codeSets.size]).toEqual(['Mason, Steel, Rope', 'Rope', 'Steel', 1]);
});

test('a field is made like another of its kind: choices that look alike are renamed with what activities have', () => {
  const one = documentOf({ activities: [['A', '1d']] });
  const f = sure(must(one, addOwnField(one, 'risks', 'choice', newId))[0]);
  must(one, editOwnField(one, f, { choices: ['lows', 'odd'] }));
  must(one, setCell(one, 'A', `own:${f}`, 'lows', newId));
  const two = documentOf({ activities: [['A', '1d']] });
  const g = sure(must(two, addOwnField(two, 'Risk', 'choice', newId))[0]);
  must(two, editOwnField(two, g, { choices: ['High', 'Low'] }));
  must(one, adoptField(one, f, sure(two.ownFields.get(g))));
  expect([one.ownFields.get(f)?.name, one.ownFields.get(f)?.choices, one.activities.get('A')?.values[`own:${f}`]]).toEqual(['Risk', ['High', 'Low', 'odd'], 'Low']);
  const text = sure(must(two, addOwnField(two, 'Other', 'text', newId))[0]);
  expect(tells(adoptField(one, f, sure(two.ownFields.get(text))))).toContain('WRONG_VALUE Risk is of another kind here.');
});

const projectOf = (projectId: string, codeSets: CodeSet[], ownFields: OwnField[] = []) => ({ projectId, code: projectId.toUpperCase(), name: projectId, codeSets, ownFields });

describe('how sets differ', () => {
  const told = (a: CodeSet, b: CodeSet): string[] => alikeIn([projectOf('p', [a]), projectOf('q', [b])]).flatMap((f) => f.words);
  test.each<[string, CodeSet, CodeSet, string[]]>([
    ['in nothing', codeSetOf('s', 'Area', [['N', 'North']]), codeSetOf('t', 'Area', [['N', 'North']]), []],
    ['in colour', codeSetOf('s', 'Area', [['N', 'North', null, '#112233']]), codeSetOf('t', 'Area', [['N', 'North', null, '#112234']]), ['N has another colour']],
    ['in a name', codeSetOf('s', 'Area', [['N', 'North']]), codeSetOf('t', 'Area', [['N', 'Nord']]), ['N North and N Nord']],
    ['in a short name', codeSetOf('s', 'Area', [['N']]), codeSetOf('t', 'Area', [['n']]), ['N and n']],
    ['in what the first has alone', codeSetOf('s', 'Area', [['N'], ['S']]), codeSetOf('t', 'Area', [['N']]), ['S is in one only']],
    ['in what the second has alone', codeSetOf('s', 'Area', [['N']]), codeSetOf('t', 'Area', [['N'], ['W']]), ['W is in one only']],
    ['in nothing that looks alike', codeSetOf('s', 'Area', [['N']]), codeSetOf('t', 'Phase', [['1']]), []],
    // Two of three are mostly the same, one of two or two of four are not.
    ['in name alone', codeSetOf('s', 'Area', [['N'], ['S'], ['W']]), codeSetOf('t', 'Zone', [['N'], ['S']]), ['Area and Zone', 'W is in one only']],
    ['too much', codeSetOf('s', 'Area', [['N'], ['S'], ['W'], ['E']]), codeSetOf('t', 'Zone', [['N'], ['S']]), []],
    ['too much the other way round', codeSetOf('s', 'Area', [['N'], ['S']]), codeSetOf('t', 'Zone', [['N'], ['S'], ['W'], ['E']]), []],
    ['with too little in common', codeSetOf('s', 'Area', [['N']]), codeSetOf('t', 'Zone', [['N']]), []],
    [
      'by the names of values before the short ones',
      codeSetOf('s', 'Area', [
        ['1', 'North'],
        ['2', 'South'],
      ]),
      codeSetOf('t', 'Zone', [
        ['N', 'North'],
        ['S', 'South'],
      ]),
      ['Area and Zone', '1 North and N North', '2 South and S South'],
    ],
  ])('%s', (_, a, b, words) => expect(told(a, b)).toEqual(words));

  test('three are told once, against the first, with what is in each', () => {
    const found = alikeIn([
      projectOf('p', [codeSetOf('s', 'Area', [['N'], ['S']])]),
      projectOf('q', [codeSetOf('t', 'Areas', [['N'], ['S']]), codeSetOf('o', 'Other', [['1']])]),
      projectOf('r', [codeSetOf('u', 'Areas', [['N'], ['S'], ['W']])]),
    ]);
    expect(found).toEqual([
      {
        kind: 'set',
        words: ['Area and Areas', 'W is in one only'],
        members: [
          { projectId: 'p', project: 'P', id: 's', name: 'Area', detail: 'N, S' },
          { projectId: 'q', project: 'Q', id: 't', name: 'Areas', detail: 'N, S' },
          { projectId: 'r', project: 'R', id: 'u', name: 'Areas', detail: 'N, S, W' },
        ],
      },
    ]);
  });
  test('values of one set by short name or by name; those without a name are not alike by that', () => {
    const s = codeSetOf('s', 'Area', [
      ['N', 'North'],
      ['X', 'Norths'],
      ['n.', ''],
      ['Q', ''],
    ]);
    expect(alikeIn([projectOf('p', [s])])).toEqual([
      {
        kind: 'value',
        words: ['Area of P has both N and X'],
        members: [
          { projectId: 'p', project: 'P', id: 's s.N', name: 'N', detail: 'North' },
          { projectId: 'p', project: 'P', id: 's s.X', name: 'X', detail: 'Norths' },
        ],
      },
      {
        kind: 'value',
        words: ['Area of P has both N and n.'],
        members: [
          { projectId: 'p', project: 'P', id: 's s.N', name: 'N', detail: 'North' },
          { projectId: 'p', project: 'P', id: 's s.n.', name: 'n.', detail: '' },
        ],
      },
    ]);
  });
  test.each<[string, Partial<OwnField>, Partial<OwnField>, string[], string[]]>([
    ['in kind', {}, { kind: 'number', unit: 'm' }, ['text and number', 'unit none and m'], ['text', 'number in m']],
    ['in unit', { kind: 'number', unit: 'm' }, { kind: 'number' }, ['unit m and none'], ['number in m', 'number']],
    ['in choices', { kind: 'choice', choices: ['a', 'b'] }, { kind: 'choice', choices: ['a'] }, ['other choices'], ['choice: a, b', 'choice: a']],
    ['in name', {}, { name: 'depths' }, ['Depth and depths'], ['text', 'text']],
    ['in nothing', {}, {}, [], []],
    ['by whom they belong to', {}, { of: 'resources', kind: 'number' }, [], []],
  ])('fields: %s', (_, a, b, words, details) => {
    const found = alikeIn([projectOf('p', [], [ownFieldOf('f', 'Depth', a)]), projectOf('q', [], [ownFieldOf('g', 'Depth', b), ownFieldOf('h', 'Other')])]);
    expect([found.flatMap((f) => f.words), found.flatMap((f) => f.members.map((m) => m.detail)), found.map((f) => f.kind)]).toEqual([
      words,
      details,
      words.length ? ['field'] : [],
    ]);
  });
});

test('what is asked of other projects names one to five hundred of them', () => {
  const targets = (m: number) => ({ targets: Array.from({ length: m }, (_, i) => ({ projectId: `p${i}`, id: 'x' })), set: null, field: null });
  expect([0, 1, 500, 501].map((m) => adoptSchema.safeParse(targets(m)).success)).toEqual([false, true, true, false]);
  for (const wrong of [{ projectId: 'p'.repeat(101), id: 'x' }, { projectId: 'p', id: 'x'.repeat(101) }, {}])
    expect(adoptSchema.safeParse({ ...targets(1), targets: [wrong] }).success).toBe(false);
  expect(adoptSchema.safeParse({ ...targets(1), set: codeSetOf('s', 'Area', [['N']]), field: ownFieldOf('f', 'F') }).success).toBe(true);
  expect(adoptSchema.safeParse({ ...targets(1), set: {} }).success).toBe(false);
});

describe('a set made like another', () => {
  const made = (mine: CodeSet, like: CodeSet): CodeSet => {
    const doc = documentOf({ activities: [] });
    doc.codeSets.set(mine.id, mine);
    const o = adoptSet(doc, mine.id, like, newId);
    if (o.ok || o.problems[0]?.code !== 'NOTHING_CHANGED') must(doc, o);
    return sure(doc.codeSets.get(mine.id));
  };
  const words = (s: CodeSet): string[] =>
    s.values.map((v) => `${v.short}${v.name && ` ${v.name}`}${v.parentId ? ` in ${sure(s.values.find((x) => x.id === v.parentId)).short}` : ''}`);
  test('keeps what it says of itself and its values, and takes over what it does not', () => {
    const like = {
      ...codeSetOf('t', 'Area', [['N', 'North', null, '#112233'], ['S']], 'theirs'),
      values: [
        { id: '1', short: 'N', name: 'North', parentId: null, colour: '#112233', about: '' },
        { id: '2', short: 'S', name: '', parentId: '1', colour: null, about: 'sun' },
      ],
    };
    const mine = {
      ...codeSetOf('s', 'Areas', []),
      values: [
        { id: 'a', short: 'n', name: '', parentId: null, colour: null, about: 'mine' },
        { id: 'b', short: 's', name: '', parentId: null, colour: '#445566', about: 'mine too' },
      ],
    };
    const got = made(mine, like);
    expect(got).toEqual({
      ...mine,
      name: 'Area',
      about: 'theirs',
      values: [
        { id: 'a', short: 'N', name: 'North', parentId: null, colour: '#112233', about: 'mine' },
        { id: 'b', short: 'S', name: '', parentId: 'a', colour: null, about: 'sun' },
      ],
    });
    expect(made({ ...mine, about: 'my own' }, like).about).toBe('my own');
  });
  test('each value here is one there, and only one; short names that are taken get the next number', () => {
    expect(
      words(
        made(
          codeSetOf('s', 'X', [
            ['N', 'North'],
            ['North', 'Norths'],
            ['n 2', 'third'],
          ]),
          codeSetOf('t', 'X', [['N', 'North']]),
        ),
      ),
    ).toEqual(['N North', 'North Norths', 'n 2 third']);
    // Two here look like the one there: the second gives way, to a name that nothing has.
    expect(words(made(codeSetOf('s', 'X', [['n'], ['N'], ['N 2']]), codeSetOf('t', 'X', [['N']])))).toEqual(['N', 'N 3', 'N 2']);
    expect(words(made(codeSetOf('s', 'X', [['x', 'a'], ['q']]), codeSetOf('t', 'X', [['q', 'a']])))).toEqual(['q a', 'x a']);
    // Also where a name is as long as one may be.
    const y = 'y'.repeat(39);
    expect(words(made(codeSetOf('s', 'X', [[`${y}-`], [`${y}.`], [`${'y'.repeat(38)} 2`]]), codeSetOf('t', 'X', [[`${y}.`]])))).toEqual([
      `${y}.`,
      `${'y'.repeat(38)} 3`,
      `${'y'.repeat(38)} 2`,
    ]);
  });
  test('what lay in a value goes on lying in it, but for a ring that would come of it', () => {
    expect(words(made(codeSetOf('s', 'X', [['A'], ['B', '', 's.A'], ['C', '', 's.B']]), codeSetOf('t', 'X', [['A']])))).toEqual(['A', 'B in A', 'C in B']);
    // Here B lies in A; there A lies in C, which lies here in B.
    const got = made(
      codeSetOf('s', 'X', [['A'], ['B', '', 's.A'], ['C', '', 's.B']]),
      codeSetOf('t', 'X', [
        ['A', '', 't.C'],
        ['C', '', null],
      ]),
    );
    expect(words(got)).toEqual(['A in C', 'C', 'B in A']);
    // One that lies in what only this one has goes on lying there where the other has it at the top.
    expect(words(made(codeSetOf('s', 'X', [['K'], ['A', '', 's.K']]), codeSetOf('t', 'X', [['A', '', null]])))).toEqual(['A', 'K']);
    const ring = made(codeSetOf('s', 'X', [['A'], ['K', '', 's.A']]), {
      ...codeSetOf('t', 'X', [
        ['A', '', 't.B'],
        ['B', '', 't.A'],
      ]),
    });
    expect(words(ring)).toEqual(['A', 'B in A', 'K in A']);
  });
});

test('a value is like another by its short name first, then by its name where it has one', () => {
  const values = codeSetOf('s', 'X', [
    ['a', 'North'],
    ['north', 'b'],
    ['c', ''],
  ]).values;
  const like = (short: string, name = ''): string | undefined => likeValue(values, { id: '', parentId: null, short, name, colour: null, about: '' })?.short;
  expect([like('North', 'b'), like('A', 'b'), like('zz', 'NORTHS'), like('zz', ''), like('zz', 'c')]).toEqual(['north', 'a', 'a', undefined, undefined]);
});

test('a field made like another keeps choices that only it has; those of other kinds keep their values', () => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
  });
  doc.ownFields.set('f', ownFieldOf('f', 'Risk', { kind: 'choice', choices: ['lows', 'High', 'odd'], unit: 'x', sum: 'same' }));
  doc.ownFields.set('g', ownFieldOf('g', 'Other'));
  for (const [id, v] of [
    ['A', 'lows'],
    ['B', 'High'],
    ['C', 'odd'],
  ] as const)
    doc.activities.set(id, { ...sure(doc.activities.get(id)), values: { 'own:f': v, 'own:g': 'lows' } });
  must(doc, adoptField(doc, 'f', ownFieldOf('q', 'risks', { kind: 'choice', choices: ['Low', 'High', 'Highest'], unit: 'y', sum: 'count' })));
  expect(doc.ownFields.get('f')).toMatchObject({ name: 'risks', unit: 'y', sum: 'count', choices: ['Low', 'High', 'Highest', 'odd'], key: 'f' });
  expect(['A', 'B', 'C'].map((id) => doc.activities.get(id)?.values)).toEqual([
    { 'own:f': 'Low', 'own:g': 'lows' },
    { 'own:f': 'High', 'own:g': 'lows' },
    { 'own:f': 'odd', 'own:g': 'lows' },
  ]);
  // A text that happens to be one of its choices is no choice.
  doc.ownFields.set('g', ownFieldOf('g', 'Other', { choices: ['lows'] }));
  must(doc, adoptField(doc, 'g', ownFieldOf('q', 'Others', { choices: ['Low'] })));
  expect(doc.activities.get('A')?.values['own:g']).toBe('lows');
});

test('merged sets: what is alike is met by name, too; what comes along stands at the top; the label counts', () => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
  });
  doc.codeSets.set('s', codeSetOf('s', 'Crew', [['r', 'Red'], ['k'], ['u', '', 's.k']]));
  doc.codeSets.set('t', codeSetOf('t', 'Gang', [['Rot', 'red']]));
  for (const [id, v] of [
    ['A', 's.r'],
    ['B', 's.u'],
    ['C', 'gone'],
  ] as const)
    doc.activities.set(id, { ...sure(doc.activities.get(id)), values: { 'code:s': v, 'own:x': 1 } });
  const o = mergeSets(doc, 's', 't', () => `new${++n}`);
  expect(tells(o)).toBe('Merge code set Crew into Gang, 3 values');
  must(doc, o);
  const into = sure(doc.codeSets.get('t'));
  expect([into.values.map((v) => [v.short, v.parentId]), doc.codeSets.has('s')]).toEqual([
    [
      ['Rot', null],
      ['k', null],
      ['u', null],
    ],
    false,
  ]);
  const u = sure(into.values[2]).id;
  expect(['A', 'B', 'C'].map((id) => doc.activities.get(id)?.values)).toEqual([{ 'own:x': 1, 'code:t': 't.Rot' }, { 'own:x': 1, 'code:t': u }, { 'own:x': 1 }]);
});
