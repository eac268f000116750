/** Filters, groups and sums: by tables worked by hand, and by the laws that they obey. */
import fc from 'fast-check';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { addOwnField } from '@yellowhammer/core/commands/own-fields';
import { type FieldContext, showField, valueOf } from '@yellowhammer/core/fields/field';
import { activityCell, cellOf, fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import type { Condition, Filter, Level, Operand } from '@yellowhammer/core/model/view-schema';
import { usualSettings } from '@yellowhammer/core/model/view-schema';
import { fitting, missingIn } from '@yellowhammer/core/view/supplied';
import { copyOfView } from '@yellowhammer/core/model/view-schema';
import { keepBaseline } from '@yellowhammer/core/commands/project';
import { assign } from '@yellowhammer/core/commands/assign';
import { addPeople } from '@yellowhammer/core/commands/resources';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import type { Activity } from '@yellowhammer/core/model/schema';
import { conditionTest, filterTest } from '@yellowhammer/core/view/filter';
import { comparisonsOf } from '@yellowhammer/core/view/operands';
import { putInGroup, withGroup } from '@yellowhammer/core/view/put-in-group';
import { everything, organise, type Organising, withSums } from '@yellowhammer/core/view/organise';
import { conditionWords, filterWords, readShort } from '@yellowhammer/core/view/words';
import { parseDay } from '@yellowhammer/core/time/instant';
import { addActivity } from '@yellowhammer/core/commands/outline';
import { documentOf, must, nodeInto, putInto, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `v${++n}`;
interface Made {
  doc: Document;
  area: string;
  risk: string;
  context: FieldContext;
}
/** Area: West (with Quay in it), East. A stands at the quay, B east, C west, M nowhere. */
function plan(): Made {
  const doc = documentOf({
    activities: [
      ['A', '5d', { name: 'Pour pier', cost: 1200 }],
      ['B', '3d @six', { name: 'Cure' }],
      ['C', '1d', { name: 'pour cap', cost: 50 }],
      ['M', 'finish', { name: 'Ready' }],
    ],
    links: ['A > B', 'B > M'],
    project: { dataDate: '2026-03-02T08:00' },
  });
  nodeInto(doc, 'P', null, 1);
  nodeInto(doc, 'Q', 'P', 1);
  putInto(doc, 'A', 'P', 0);
  putInto(doc, 'B', 'Q', 1);
  putInto(doc, 'C', 'Q', 2);
  const area = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  const west = sure(must(doc, addCodeValue(doc, area, { short: 'West', colour: '#112233' }, newId))[0]);
  must(doc, addCodeValue(doc, area, { short: 'East' }, newId));
  must(doc, addCodeValue(doc, area, { short: 'Quay', parentId: west }, newId));
  for (const [id, v] of [
    ['A', 'Quay'],
    ['B', 'East'],
    ['C', 'West'],
  ] as const)
    must(doc, setCell(doc, id, `code:${area}`, v, newId));
  const risk = sure(must(doc, addOwnField(doc, 'Risk', 'number', newId))[0]);
  must(doc, setCell(doc, 'A', `own:${risk}`, '2', newId));
  must(doc, setCell(doc, 'C', `own:${risk}`, '3.5', newId));
  return { doc, area, risk, context: { doc, view: viewIn(doc), baseline: null, clock: false } };
}
const today = parseDay('2026-03-05') as number;
const who = ({ doc, context }: Made, filter: Filter): string =>
  [...doc.activities.values()]
    .filter((a) => filterTest(filter, context, today)(activityCell(context, a)))
    .map((a) => a.code)
    .join('');
const only = (m: Made, field: string, is: Condition['is'], ...values: Operand[]): string => who(m, { match: 'all', of: [{ field, is, values }] });

// A: 2 to 6 March. B: 7 (a Saturday, half) to 10 March at noon. C: 2 March. M: with B.
test.each<[string, Condition['is'], Operand[], string]>([
  ['finish', 'is', ['2026-03-06'], 'A'],
  ['finish', 'isNot', ['2026-03-06'], 'BCM'],
  ['finish', 'less', ['2026-03-06'], 'C'],
  ['finish', 'atMost', ['2026-03-06'], 'AC'],
  ['finish', 'more', ['2026-03-06'], 'BM'],
  ['finish', 'atLeast', ['2026-03-06'], 'ABM'],
  ['start', 'between', ['2026-03-07', '2026-03-03'], 'B'],
  ['finish', 'atMost', [{ from: 'dataDate', shift: 4, unit: 'd' }], 'AC'],
  ['finish', 'atMost', [{ from: 'dataDate', shift: 1, unit: 'w' }], 'AC'],
  ['finish', 'atMost', [{ from: 'dataDate', shift: 1, unit: 'm' }], 'ABCM'],
  ['finish', 'less', [{ from: 'today', shift: 1, unit: 'd' }], 'C'],
  ['start', 'is', [{ from: 'weekStart', shift: 0, unit: 'd' }], 'AC'],
  ['start', 'is', [{ from: 'monthStart', shift: 1, unit: 'd' }], 'AC'],
  ['duration', 'is', [3], 'B'],
  ['duration', 'more', [2.5], 'AB'],
  ['duration', 'empty', [], 'M'],
  ['float', 'atMost', [0], 'ABM'],
  ['cost', 'between', [50, 60], 'C'],
  ['cost', 'oneOf', [50, 1200], 'AC'],
  ['name', 'contains', ['POUR'], 'AC'],
  ['name', 'containsNot', ['pour'], 'BM'],
  ['name', 'starts', ['pour p'], 'A'],
  ['name', 'is', ['cure'], 'B'],
  ['type', 'is', ['Finish milestone'], 'M'],
  ['type', 'isNot', ['Finish milestone'], 'ABC'],
  ['calendar', 'oneOf', ['Six', 'Clock'], 'B'],
  ['hidden', 'is', [true], ''],
  ['hidden', 'is', [false], 'ABCM'],
  ['deadline', 'empty', [], 'ABCM'],
  ['deadline', 'less', ['2030-01-01'], ''],
  ['wbs', 'under', ['P'], 'ABC'],
  ['wbs', 'under', ['Q'], 'BC'],
  ['wbs', 'empty', [], 'M'],
])('%s %s %j', (field, is, values, expected) => expect(only(plan(), field, is, ...values)).toBe(expected));

test('a parent value stands for what lies in it; only below it where that is asked', () => {
  const m = plan();
  const key = `code:${m.area}`;
  const west = sure(m.doc.codeSets.get(m.area)?.values[0]).id;
  expect([
    only(m, key, 'is', west),
    only(m, key, 'isNot', west),
    only(m, key, 'under', west),
    only(m, key, 'is', 'quay'),
    only(m, key, 'oneOf', west, 'East'),
    only(m, key, 'empty'),
  ]).toEqual(['AC', 'BM', 'A', 'A', 'ABC', 'M']);
});

test('what changed since a kept copy: dates, cost, and what is new', () => {
  const m = plan();
  const row = (id: string) => ({
    start: sure(m.context.view).start[sure(m.context.view).ids.indexOf(id)]!,
    finish: sure(m.context.view).finish[sure(m.context.view).ids.indexOf(id)]!,
    duration: 480,
    cost: 50,
    percent: 0,
    float: 0,
  });
  const dates = new Map([
    ['A', row('A')],
    ['B', { ...row('B'), finish: row('B').finish - 60 }],
    ['C', row('C')],
  ]);
  m.context = { ...m.context, kept: new Map([['k', { id: 'k', name: 'K', projectFinish: 0, dates, nodes: new Map() }]]) };
  expect([only(m, 'finish', 'changed', 'k'), only(m, 'cost', 'changed', 'k'), only(m, 'finish', 'changed', 'gone')]).toEqual(['BM', 'ABM', '']);
});

test('conditions that cannot be asked are left out', () => {
  const m = plan();
  expect([only(m, 'zz', 'is', 1), only(m, 'finish', 'is', 'soon'), only(m, 'finish', 'between', '2026-03-01'), only(m, 'hidden', 'more', 1), only(m, 'name', 'more', 1)]).toEqual([
    'ABCM',
    'ABCM',
    'ABCM',
    'ABCM',
    'ABCM',
  ]);
  expect([who(m, { match: 'any', of: [] }), who(m, { match: 'all', of: [] }), who(m, { match: 'none', of: [] })]).toEqual(['', 'ABCM', 'ABCM']);
});

test('filters are told as sentences', () => {
  const { doc, area } = plan();
  const west = sure(doc.codeSets.get(area)?.values[0]).id;
  const filter: Filter = {
    match: 'all',
    of: [
      { field: 'finish', is: 'less', values: [{ from: 'dataDate', shift: 2, unit: 'w' }] },
      {
        match: 'any',
        of: [
          { field: `code:${area}`, is: 'is', values: [west] },
          { field: 'float', is: 'atMost', values: [5] },
          { field: 'wbs', is: 'under', values: ['Q'] },
        ],
      },
      { match: 'none', of: [{ field: 'hidden', is: 'is', values: [true] }] },
    ],
  };
  expect(filterWords(doc, filter)).toBe(
    'Finish is before data date + 2 weeks and (Area is West or Float is at most 5 d or WBS is in 1.1 Q) and (not (Hidden from the picture is yes))',
  );
});

test.each<[string, string, string]>([
  ['name', 'pier', 'Name contains pier'],
  ['name', '=Cure', 'Name is Cure'],
  ['name', '!pour', 'Name does not contain pour'],
  ['duration', '>2', 'Duration is more than 2 d'],
  ['duration', '2..5', 'Duration is between 2 d and 5 d'],
  ['finish', '<data date + 2w', 'Finish is before data date + 2 weeks'],
  ['finish', '>=12 mar', 'Finish is on or after 12 Mar 26'],
  ['finish', 'today - 1', 'Finish is today - 1 day'],
  ['finish', 'start of this month', 'Finish is start of this month'],
  ['finish', 'soon', 'soon is no date. Type one such as 12 Mar 27, data date + 2 weeks, or start of this month.'],
  ['cost', '!=50', 'Cost is not 50'],
  ['cost', 'much', 'much is no number.'],
  ['type', 'Task, Margin', 'Type is one of Task, Margin'],
  ['notes', 'not empty', 'Notes is not empty'],
  ['wbs', '1.1', 'WBS is in 1.1 Q'],
  ['wbs', '9', 'There is no WBS node 9. Type its code or its name.'],
  ['hidden', 'yes', 'Hidden from the picture is yes'],
])('%s: %s', (key, text, expected) => {
  const { doc } = plan();
  const c = readShort(doc, sure(fieldOf(doc, key)), text);
  expect('error' in c ? c.error : conditionWords(doc, c)).toBe(expected);
});

/** Rows as a list: headings in brackets with their count, rows by number. */
const listed = (m: Made, o: Partial<Organising>): string =>
  organise(m.context, { ...everything, ...o })
    .rows.map((r) => `${'.'.repeat(r.depth)}${r.kind === 'activity' ? r.activity.code : r.group ? `[${r.code} ${r.node.name} ${r.group.count}]` : `(${r.node.name})`}`)
    .join(' ');

test.each<[string, Level[], string]>([
  ['by a code, nested values within their parents', [{ key: 'code:AREA' }], '[1 West 2] .C .[1.1 Quay 1] ..A [2 East 1] .B [3 No area 1] .M'],
  ['by the WBS', [{ key: 'wbs' }], '[1 1 P 3] .A .[1.1 1.1 Q 2] ..B ..C [2 In no WBS node 1] .M'],
  ['by the first level of the WBS', [{ key: 'wbs', levels: 1 }], '[1 1 P 3] .A .B .C [2 In no WBS node 1] .M'],
  ['by the first values of a code', [{ key: 'code:AREA', levels: 1 }], '[1 West 2] .A .C [2 East 1] .B [3 No area 1] .M'],
  ['by month', [{ key: 'finish', span: 'month' }], '[1 Mar 2026 4] .M .A .B .C'],
  [
    'by week, then type',
    [{ key: 'finish', span: 'week' }, { key: 'type' }],
    '[1 Week of 2 Mar 26 2] .[1.1 Task 2] ..A ..C [2 Week of 9 Mar 26 2] .[2.1 Task 1] ..B .[2.2 Finish milestone 1] ..M',
  ],
  ['by steps of days', [{ key: 'duration', step: 2 }], '[1 Duration 0 to below 2 d 1] .C [2 Duration 2 to below 4 d 1] .B [3 Duration 4 to below 6 d 1] .A [4 No duration 1] .M'],
  ['by a field that is not there', [{ key: 'zz' }], '(P) .A .(Q) ..B ..C M'],
  ['by yes or no', [{ key: 'hidden' }], '[1 No hidden from the picture 4] .M .A .B .C'],
])('groups %s', (_, levels, expected) => {
  const m = plan();
  const got = listed(m, { groups: levels.map((l) => (l.key === 'code:AREA' ? { ...l, key: `code:${m.area}` } : l)) });
  // Rows of the top stand before or behind nodes as their ranks say.
  expect(got.split(' ').sort().join(' ')).toBe(expected.split(' ').sort().join(' '));
  if (!expected.includes('.M .A')) expect(got.replace(/^M (.*)$/, '$1 M')).toBe(expected);
});

test('closed headings hide what is in them and still count it; focus, filter and sort work in groups', () => {
  const m = plan();
  const groups: Level[] = [{ key: 'type' }];
  const open = organise(m.context, { ...everything, groups });
  const task = sure(open.rows[0]).id;
  expect(listed(m, { groups, closed: new Set([task]) })).toBe('[1 Task 3] [2 Finish milestone 1] .M');
  expect(listed(m, { groups, focus: new Set([task]), sort: [{ key: 'duration', descending: false }] })).toBe('[1 Task 3] .C .B .A');
  expect(listed(m, { groups, filter: { match: 'all', of: [{ field: 'cost', is: 'more', values: [0] }] } })).toBe('[1 Task 2] .A .C');
});

test('filtered rows keep the nodes that they are in, closed nodes stay closed, and both are counted', () => {
  const m = plan();
  const filter: Filter = { match: 'all', of: [{ field: 'name', is: 'contains', values: ['cure'] }] };
  expect(listed(m, { filter })).toBe('(P) .(Q) ..B');
  expect(listed(m, { filter, closed: new Set(['Q']) })).toBe('(P) .(Q)');
  expect(organise(m.context, { ...everything, filter, closed: new Set(['Q']) })).toMatchObject({ shown: 1, all: 4 });
  expect(listed(m, { text: 'pour', columns: ['code', 'name'] })).toBe('(P) .A .(Q) ..C');
  expect(listed(m, { text: 'pour', columns: ['code'] })).toBe('');
  expect(
    listed(m, { quick: ['critical'], flat: true })
      .split(' ')
      .sort()
      .join(' '),
  ).toBe('..B .A M');
  expect(listed(m, { only: new Set(['C']) })).toBe('(P) .(Q) ..C');
  const at = (day: string): number => (parseDay(day) as number) * 1440;
  expect(listed(m, { quick: ['inWindow'], window: { from: at('2026-03-07'), to: at('2026-03-08') }, flat: true })).toBe('..B');
  // Mine: who answers for it, or does it, by name.
  m.doc.activities.set('A', { ...(m.doc.activities.get('A') as Activity), responsible: 'Ada Moss' });
  must(
    m.doc,
    addPeople(m.doc, 'resources', 'ada moss', {}, () => 'ada'),
  );
  must(
    m.doc,
    assign(m.doc, ['C'], [{ resourceId: 'ada', roleId: null, units: 1 }], () => 'x1'),
  );
  forgetIndex(m.doc);
  expect(listed(m, { quick: ['mine'], me: ' Ada moss', flat: true })).toBe('.A ..C');
  expect(listed(m, { quick: ['mine'], me: '', flat: true })).toBe('');
});

test('sums of nodes, groups and the whole project', () => {
  const m = plan();
  const groups: Level[] = [{ key: `code:${m.area}` }];
  const { rows } = organise(m.context, { ...everything, groups });
  const c = withSums(m.context, rows);
  const show = (key: string, row: string): string => {
    const r = rows.find((x) => x.id === row);
    const f = sure(fieldOf(m.doc, key));
    return r ? showField(f, cellOf(c, r)) : (c.sums?.text(f, row) ?? '');
  };
  const west = sure(rows.find((r) => r.kind === 'wbs' && r.node.name === 'West')).id;
  // West has C (1 d, 50, risk 3.5) and, nested, A (5 d, 1200, risk 2).
  expect([
    show('cost', west),
    show('duration', west),
    show('start', west),
    show('finish', west),
    show(`own:${m.risk}`, west),
    show('type', west),
    show('calendar', west),
    show('float', west),
  ]).toEqual(['1,250', '5d', '2 Mar 26', '6 Mar 26', '5.5', 'Task', '', '0d']);
  expect([show(`own:${m.risk}`, 'P'), show(`own:${m.risk}`, 'Q'), show(`own:${m.risk}`, ''), show('calendar', 'P'), show('calendar', 'Q'), show('type', 'P')]).toEqual([
    '5.5',
    '3.5',
    '5.5',
    'mixed',
    'mixed',
    'Task',
  ]);
  const critical = rows.find((r) => r.id === west);
  expect(critical?.kind === 'wbs' && critical.rollup?.critical).toBe(true);
});

test('a mean is weighted by duration, and a field that is computed again uses the sums', () => {
  const m = plan();
  const set = (id: string, fields: object): void => void m.doc.ownFields.set(id, { ...sure(m.doc.ownFields.get(m.risk)), id, name: id, key: id, ...fields });
  set('again', { kind: 'computed', expression: 'cost / risk', sum: 'again' });
  m.doc.ownFields.set(m.risk, { ...sure(m.doc.ownFields.get(m.risk)), sum: 'sum' });
  const doc = documentOf({ activities: [] });
  Object.assign(doc, m.doc);
  const context = { ...m.context, doc };
  const c = withSums(context, []);
  const again = sure(fieldOf(doc, 'own:again'));
  const node = cellOf(c, { kind: 'wbs', id: 'P', depth: 0, node: sure(doc.wbs.get('P')), code: '1' });
  // 1250 by 5.5, not the sum of 600 and 14.29.
  expect(valueOf(again, node)).toBeCloseTo(1250 / 5.5, 9);
  const mean = { ...sure(fieldOf(doc, `own:${m.risk}`)), sum: 'mean' as const };
  expect(c.sums?.of(mean, 'P')).toBeCloseTo((2 * 5 + 3.5 * 1) / 6, 9);
});

/** Conditions on any field, with values as people would give them. */
const operand = fc.oneof(fc.constantFrom<Operand>('2026-03-06', 'West', 'P', 'pour', 0, 1, 3, 50, true, false), fc.constant<Operand>({ from: 'dataDate', shift: 4, unit: 'd' }));
const condition = (m: Made): fc.Arbitrary<Condition> =>
  fc
    .constantFrom(...fieldsOf(m.doc).values())
    .chain((f) => fc.record({ field: fc.constant(f.key), is: fc.constantFrom(...comparisonsOf(f, false)), values: fc.array(operand, { minLength: 0, maxLength: 2 }) }));

test('filters are sets: not, and, or obey the laws', () => {
  const m = plan();
  const all = [...m.doc.activities.keys()];
  const set = (of: (Condition | Filter)[], match: Filter['match']): Set<string> =>
    new Set(all.filter((id) => filterTest({ match, of }, m.context, today)(activityCell(m.context, sure(m.doc.activities.get(id))))));
  const one = condition(m).filter((c) => conditionTest(c, m.context, today) !== undefined);
  fc.assert(
    fc.property(one, one, one, (a, b, c) => {
      const [A, B] = [set([a], 'all'), set([b], 'all')];
      expect(set([a, b], 'all')).toEqual(new Set([...A].filter((x) => B.has(x))));
      expect([...set([a, b], 'any')].sort()).toEqual([...new Set([...A, ...B])].sort());
      expect(set([a], 'none')).toEqual(new Set(all.filter((x) => !A.has(x))));
      // Not (a or b) is not a and not b; twice not is nothing.
      expect(set([a, b], 'none')).toEqual(
        set(
          [
            { match: 'none', of: [a] },
            { match: 'none', of: [b] },
          ],
          'all',
        ),
      );
      expect(set([{ match: 'none', of: [a] }], 'none')).toEqual(A);
      // a and (b or c) is (a and b) or (a and c).
      expect(set([a, { match: 'any', of: [b, c] }], 'all')).toEqual(
        set(
          [
            { match: 'all', of: [a, b] },
            { match: 'all', of: [a, c] },
          ],
          'any',
        ),
      );
    }),
    { numRuns: 200 },
  );
});

test('groups part the rows, whatever they are by; sums over groups are sums over rows', () => {
  const m = plan();
  const keys = ['wbs', ...fieldsOf(m.doc).keys()];
  const level = fc
    .record({ key: fc.constantFrom(...keys) }, { requiredKeys: ['key'] })
    .chain(({ key }) => fc.record({ key: fc.constant(key), span: fc.constantFrom<Level['span']>('day', 'week', 'month', 'quarter', 'year'), step: fc.constantFrom(1, 2.5, 100) }));
  fc.assert(
    fc.property(fc.array(level, { minLength: 1, maxLength: 6 }), (levels) => {
      const { rows } = organise(m.context, { ...everything, groups: levels as Level[] });
      const ids = rows.flatMap((r) => (r.kind === 'activity' ? [r.id] : []));
      expect([...ids].sort()).toEqual(['A', 'B', 'C', 'M']);
      const tops = rows.filter((r) => r.kind === 'wbs' && r.depth === 0);
      const c = withSums(m.context, rows);
      for (const key of [`own:${m.risk}`, 'cost']) {
        const f = sure(fieldOf(m.doc, key));
        const total = tops.reduce((sum, r) => sum + Number(valueOf(f, cellOf(c, r)) ?? 0), 0);
        expect(total).toBeCloseTo(key === 'cost' ? 1250 : 5.5, 6);
      }
      expect(tops.reduce((sum, r) => sum + (r.kind === 'wbs' ? (r.group?.count ?? 0) : 0), 0)).toBe(4);
      // Each heading is its own row, and none has the id of a node.
      expect(new Set(rows.map((r) => r.id)).size).toBe(rows.length);
    }),
    { numRuns: 150 },
  );
});

test('rows put under a heading get what it stands for, level by level; what is computed refuses with the reason', () => {
  const m = plan();
  const levels: Level[] = [{ key: `code:${m.area}` }, { key: 'calendar' }];
  const heading = (groups: readonly Level[], name: string) => {
    const row = organise(m.context, { ...everything, groups }).rows.find((r) => r.kind === 'wbs' && r.node.name === name);
    return row?.kind === 'wbs' && row.group ? { levels: groups, heading: row.group } : undefined;
  };
  const rowOf = (id: string): string[] => [`code:${m.area}`, 'calendar'].map((k) => showField(sure(fieldOf(m.doc, k)), activityCell(m.context, sure(m.doc.activities.get(id)))));
  // B stands east on Six: C goes there.
  must(m.doc, putInGroup(m.doc, ['C'], sure(heading(levels, 'Six')), newId, m.context.view));
  expect(rowOf('C')).toEqual(['East', 'Six']);
  // Right below the parent value, not the nested one.
  must(m.doc, putInGroup(m.doc, ['A', 'C'], sure(heading([sure(levels[0])], 'West')), newId, m.context.view));
  expect([rowOf('A')[0], rowOf('C')[0]]).toEqual(['West', 'West']);
  must(m.doc, putInGroup(m.doc, ['A'], sure(heading([sure(levels[0])], 'No area')), newId, m.context.view));
  expect(rowOf('A')[0]).toBe('');
  const months = sure(heading([{ key: 'float', step: 5 }], 'No float') ?? heading([{ key: 'float', step: 5 }], 'Float 0 to below 5 d'));
  expect(tells(putInGroup(m.doc, ['C'], months, newId, m.context.view))).toContain('WRONG_VALUE C pour cap cannot be put there: Float is computed.');
  const wbs = sure(heading([{ key: 'wbs' }], '1.1 Q'));
  must(m.doc, putInGroup(m.doc, ['M'], wbs, newId, m.context.view));
  expect(m.doc.activities.get('M')?.wbsId).toBe('Q');
  // What is made among groups gets it in the same change.
  const added = withGroup(m.doc, addActivity(m.doc, null, { name: 'New' }, newId), wbs, newId, m.context.view);
  const made = sure(must(m.doc, added)[0]);
  expect(m.doc.activities.get(made)?.wbsId).toBe('Q');
});

test('a view holds the graph in the dock; one of somebody who is not here is told and left out', () => {
  const { doc } = plan();
  must(
    doc,
    addPeople(doc, 'resources', 'Ada', {}, () => 'ada'),
  );
  const of = (graph: string | null) => ({ ...usualSettings, graph });
  expect([fitting(doc, of('resource ada')).graph, fitting(doc, of('all')).graph, fitting(doc, of('role ada')).graph]).toEqual(['resource ada', 'all', null]);
  expect([missingIn(doc, of('resource ada')), missingIn(doc, of('curve')), missingIn(doc, of('group x'))]).toEqual([[], [], ['who its graph is of']]);
});

test('a view holds what it is compared with; a copy that is not here is told, and what the project compares with is shown', () => {
  const { doc } = plan();
  must(doc, keepBaseline(doc, { id: 'first', name: 'First', description: '', at: '2026-03-01T00:00:00.000Z', compare: true }));
  const of = (baseline: string) => ({ ...usualSettings, baseline });
  expect([copyOfView(of('copy first')), copyOfView(of('none')), copyOfView(of('compared'))]).toEqual(['first', null, null]);
  expect(['copy first', 'copy gone', 'none', 'compared'].map((b) => fitting(doc, of(b)).baseline)).toEqual(['copy first', 'compared', 'none', 'compared']);
  expect(['copy first', 'copy gone', 'none'].map((b) => missingIn(doc, of(b)))).toEqual([[], ['the baseline it compares with'], []]);
});
