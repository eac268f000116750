/** What nodes show of fields without a roll-up, after any edits: the same as when it is reckoned anew. */
import fc from 'fast-check';
import { applyChanges, type Change, invertChanges } from '@yellowhammer/core/change/change';
import { editCalendar } from '@yellowhammer/core/commands/calendars';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue, editCodeValue } from '@yellowhammer/core/commands/codes';
import { addLink } from '@yellowhammer/core/commands/links';
import { addActivity, deleteRows } from '@yellowhammer/core/commands/outline';
import { addOwnField } from '@yellowhammer/core/commands/own-fields';
import { moveRowsTo } from '@yellowhammer/core/commands/copy-rows';
import type { Outcome } from '@yellowhammer/core/commands/result';
import { type Cell, type Field, showField } from '@yellowhammer/core/fields/field';
import { fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { forgetIndex, indexOf } from '@yellowhammer/core/model/doc-index';
import { limits } from '@yellowhammer/core/model/limits';
import { wbsDefaults } from '@yellowhammer/core/model/schema';
import { PROJECT_ROW } from '@yellowhammer/core/outline/outline';
import { Sums } from '@yellowhammer/core/view/sums';
import { documentOf, must, nodeInto, putInto, sure, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;

/** Six activities in three nodes, two in one another; a code set, own fields that sum up in each way. */
function plan(): { doc: Document; keys: string[] } {
  const doc = documentOf({
    activities: [
      ['A', '5d'],
      ['B', '3d @six'],
      ['C', '1d @clock'],
      ['D', '2d'],
      ['E', '2d', { calendarId: 'clock' }],
      ['M', '0d', { type: 'finishMilestone' }],
    ],
    links: ['A > B', 'B > M'],
  });
  nodeInto(doc, 'P', null, 1);
  nodeInto(doc, 'Q', 'P', 1);
  nodeInto(doc, 'R', null, 2);
  for (const [id, node] of [
    ['A', 'P'],
    ['B', 'Q'],
    ['C', 'Q'],
    ['D', 'R'],
    ['E', 'R'],
    ['M', 'R'],
  ] as const)
    putInto(doc, id, node, id.charCodeAt(0));
  forgetIndex(doc);
  const set = sure(must(doc, addCodeSet(doc, 'Area', newId))[0]);
  for (const short of ['West', 'East']) must(doc, addCodeValue(doc, set, { short }, newId));
  const own = (['sum', 'mean', 'least', 'greatest', 'same', 'count'] as const).map((sum) => {
    const id = sure(must(doc, addOwnField(doc, `My ${sum}`, 'number', newId))[0]);
    doc.ownFields.set(id, { ...sure(doc.ownFields.get(id)), sum });
    return `own:${id}`;
  });
  // Told in days of the row that has the least or most: they follow its calendar.
  const days = (['least', 'greatest'] as const).map((sum) => {
    const id = sure(must(doc, addOwnField(doc, `My ${sum} days`, 'duration', newId))[0]);
    doc.ownFields.set(id, { ...sure(doc.ownFields.get(id)), sum });
    return `own:${id}`;
  });
  forgetIndex(doc);
  for (const key of own) for (const id of ['A', 'B', 'C', 'E']) must(doc, setCell(doc, id, key, id === 'A' ? '2' : '5', newId));
  for (const key of days) for (const id of ['B', 'C', 'E']) must(doc, setCell(doc, id, key, '20h', newId));
  for (const [id, who, unit] of [
    ['A', 'Ana', 'm2'],
    ['B', 'Ana', 'm2'],
    ['C', 'Bo', 'm2'],
    ['D', '', 't'],
    ['E', '', 't'],
    ['M', '', 't'],
  ] as const) {
    if (who) must(doc, setCell(doc, id, 'responsible', who, newId));
    must(doc, setCell(doc, id, 'quantityUnit', unit, newId));
  }
  return {
    doc,
    keys: [`code:${set}`, ...own, ...days, 'calendar', 'calendar', 'priority', 'colour', 'hidden', 'duration', 'duration', 'responsible', 'constraint', 'deadline'],
  };
}

const groups = new Map([
  ['g1', ['A', 'D', 'M']],
  ['g2', ['B', 'C']],
]);
function shown(doc: Document, view: ReturnType<typeof viewIn>): string[] {
  const context = { doc, view, baseline: null, clock: false };
  const sums = new Sums(context, groups);
  return [...fieldsOf(doc).values()].flatMap((f) =>
    ['P', 'Q', 'R', PROJECT_ROW, 'g1', 'g2'].map((row) => {
      const node = doc.wbs.get(row);
      const cell = {
        ...context,
        sums,
        kind: 'wbs',
        node: node ?? { ...wbsDefaults, id: row, rank: 0, name: '' },
        code: '',
        rollup: node ? view.rollups.get(row) : undefined,
      } as Cell;
      return f.node ? '' : `${f.key} ${row}: ${showField(f, cell)}`;
    }),
  );
}

const values: Record<string, string[]> = {
  calendar: ['', 'Six', 'Clock'],
  priority: ['3', '7'],
  colour: ['pine', 'none'],
  hidden: ['yes', 'no'],
  duration: ['1d', '4d'],
  responsible: ['Ana', ''],
};
const step = fc.record({ act: fc.nat(13), who: fc.nat(5), key: fc.nat(30), value: fc.nat(5) });

test('sums that are kept from edit to edit are what they would be anew', () => {
  fc.assert(
    fc.property(fc.array(step, { minLength: 3, maxLength: 14 }), (steps) => {
      const { doc, keys } = plan();
      const done: Change[][] = [];
      const take = (o: Outcome): void => {
        if (!o.ok) return;
        applyChanges(doc, o.changes);
        done.push([...o.changes]);
      };
      shown(doc, viewIn(doc));
      for (const s of steps) {
        const id = [...doc.activities.keys()][s.who % Math.max(doc.activities.size, 1)];
        if (!id) return;
        const key = keys[s.key % keys.length]!;
        if (s.act === 0) take(addActivity(doc, { kind: 'activity', id }, { name: 'New', duration: 480 * s.value }, newId));
        else if (s.act === 1) take(deleteRows(doc, [{ kind: 'activity', id }]));
        else if (s.act === 2) take(moveRowsTo(doc, [{ kind: 'activity', id }], { parent: ['P', 'Q', 'R', null][s.value % 4]!, after: null }));
        else if (s.act === 3) take(editCalendar(doc, 'six', { name: `Six ${s.value}` }));
        else if (s.act === 4 && done.length) applyChanges(doc, invertChanges(done.pop() as Change[]));
        else if (s.act === 5) {
          const set = sure([...doc.codeSets.values()][0]);
          take(editCodeValue(doc, set.id, sure(set.values[0]).id, { short: `W${s.value}` }));
        } else if (s.act === 6) {
          const node = ['P', 'Q', 'R'][s.who % 3]!;
          take(moveRowsTo(doc, [{ kind: 'wbs', id: node }], { parent: ['P', 'Q', 'R', null][s.value % 4]!, after: null }));
        } else if (s.act === 7) take(deleteRows(doc, [{ kind: 'wbs', id: ['Q', 'R'][s.who % 2]! }]));
        else if (s.act === 8) take(addLink(doc, { from: id, to: [...doc.activities.keys()][s.value % doc.activities.size]! }, newId));
        else {
          const choices = values[key] ?? (key.startsWith('code:') ? ['East', ''] : key === 'constraint' || key === 'deadline' ? [''] : ['2', '5', '', '1']);
          take(setCell(doc, id, key, choices[s.value % choices.length]!, newId));
        }
        const view = viewIn(doc);
        expect(shown(doc, view)).toEqual(shown(copyDocument(doc), view));
      }
    }),
    { numRuns: 25 },
  );
});

test('an edit of something else leaves what a field hangs on; its own, a move, another row or undo does not', () => {
  const { doc } = plan();
  const calendar = (): string => indexOf(doc).stampOf(['calendarId']);
  const at = calendar();
  must(doc, setCell(doc, 'A', 'duration', '9d', newId));
  expect(calendar()).toBe(at);
  const seen = [at];
  const changed = (o: Outcome): void => {
    must(doc, o);
    expect(seen).not.toContain(calendar());
    seen.push(calendar());
  };
  changed(setCell(doc, 'A', 'calendar', 'six', newId));
  changed(moveRowsTo(doc, [{ kind: 'activity', id: 'A' }], { parent: 'R', after: null }));
  changed(editCalendar(doc, 'six', { name: 'Other' }));
  changed(addActivity(doc, null, { name: 'New' }, newId));
  expect(fieldOf(doc, 'calendar')?.stored).toBe('calendarId');
});

test('nodes in one another show what all their rows come to', () => {
  const { doc } = plan();
  const sums = new Sums({ doc, view: viewIn(doc), baseline: null, clock: false });
  const text = (key: string, row: string): string => sums.text(sure([...fieldsOf(doc).values()].find((f) => f.key === key || f.title === key)), row);
  // A has 2 and five days, B 5 and three, C 5 and one; E 5 and two, D and M nothing.
  expect(['sum', 'mean', 'least', 'greatest', 'same', 'count'].map((sum) => ['Q', 'P', PROJECT_ROW].map((row) => text(`My ${sum}`, row)))).toEqual([
    ['10', '12', '17'],
    ['5', '3.3', '3.6'],
    ['5', '2', '2'],
    ['5', '5', '5'],
    ['5', 'mixed', 'mixed'],
    ['2', '3', '4'],
  ]);
  expect(['Q', 'P', 'R'].map((row) => text('responsible', row))).toEqual(['mixed', 'mixed', '']);
  expect(['Q', 'P', 'R', PROJECT_ROW].map((row) => text('quantityUnit', row))).toEqual(['m2', 'm2', 't', 'mixed']);
  // Of equals the topmost tells it: B is above C, which works around the clock, as E does.
  expect(['Q', 'R', PROJECT_ROW].flatMap((row) => [text('My least days', row), text('My greatest days', row)])).toEqual(['2.5d', '2.5d', '20h', '20h', '2.5d', '2.5d']);
});

test('what a node shows follows each act on nodes and rows', () => {
  // B and C have the same in *My days*, and each tells it in days of its own calendar.
  const acts: [string, (doc: Document) => Outcome][] = [
    ['a node into another', (doc) => moveRowsTo(doc, [{ kind: 'wbs', id: 'Q' }], { parent: 'R', after: null })],
    ['a node to the top', (doc) => moveRowsTo(doc, [{ kind: 'wbs', id: 'Q' }], { parent: null, after: null })],
    ['a node before another', (doc) => moveRowsTo(doc, [{ kind: 'wbs', id: 'R' }], { parent: null, after: null })],
    ['a row before another', (doc) => moveRowsTo(doc, [{ kind: 'activity', id: 'C' }], { parent: 'Q', after: null })],
    ['a row into another node', (doc) => moveRowsTo(doc, [{ kind: 'activity', id: 'B' }], { parent: 'R', after: null })],
    ['a node deleted', (doc) => deleteRows(doc, [{ kind: 'wbs', id: 'Q' }])],
    ['a row deleted', (doc) => deleteRows(doc, [{ kind: 'activity', id: 'C' }])],
    ['a row that differs', (doc) => setCell(doc, 'C', 'responsible', 'Ana', newId)],
  ];
  for (const [name, act] of acts) {
    const { doc } = plan();
    const before = shown(doc, viewIn(doc));
    const o = act(doc);
    if (!o.ok) throw new Error(name);
    applyChanges(doc, o.changes);
    const after = shown(doc, viewIn(doc));
    expect([name, after]).toEqual([name, shown(copyDocument(doc), viewIn(doc))]);
    applyChanges(doc, invertChanges(o.changes));
    expect([name, shown(doc, viewIn(doc))]).toEqual([name, before]);
  }
});

test('a heading shows what its rows have, not what one of the same name had', () => {
  const { doc } = plan();
  const context = { doc, view: viewIn(doc), baseline: null, clock: false };
  const type = sure(fieldOf(doc, 'type'));
  expect(new Sums(context, new Map([['g', ['A', 'M']]])).text(type, 'g')).toBe('mixed');
  expect(new Sums(context, new Map([['g', ['M']]])).of(type, 'g')).toBe('Finish milestone');
});

test('an edit asks again the rows of its own node, and where it is about something else none', () => {
  const { doc } = plan();
  const view = viewIn(doc);
  const asked: string[] = [];
  const counted: Field = { ...sure(fieldOf(doc, 'priority')), value: ({ a }) => (asked.push(a.id), a.priority) };
  const sum = (row: string): string => {
    asked.length = 0;
    new Sums({ doc, view, baseline: null, clock: false }).of(counted, row);
    return [...asked].sort().join('');
  };
  expect(sum('P')).toBe('ABC');
  expect(sum(PROJECT_ROW)).toBe('DEM');
  must(doc, setCell(doc, 'C', 'duration', '9d', newId));
  expect([sum('P'), sum(PROJECT_ROW)]).toEqual(['', '']);
  must(doc, addLink(doc, { from: 'C', to: 'D' }, newId));
  expect([sum('P'), sum(PROJECT_ROW)]).toEqual(['', '']);
  must(doc, setCell(doc, 'D', 'priority', '7', newId));
  expect([sum('P'), sum('R'), sum(PROJECT_ROW)]).toEqual(['', 'DEM', '']);
  must(doc, setCell(doc, 'C', 'priority', '3', newId));
  expect([sum('Q'), sum('P'), sum(PROJECT_ROW)]).toEqual(['BC', 'A', '']);
});

test('the deepest node that there may be counts in all above it, and its edits reach them', () => {
  const { doc } = plan();
  for (let i = 1; i <= limits.wbsDepth; i++) nodeInto(doc, `deep${i}`, i === 1 ? null : `deep${i - 1}`, 90);
  putInto(doc, 'D', `deep${limits.wbsDepth}`, 1);
  forgetIndex(doc);
  const sum = (row: string): unknown => new Sums({ doc, view: null, baseline: null, clock: false }).of(sure(fieldOf(doc, 'priority')), row);
  expect([sum('deep1'), sum(`deep${limits.wbsDepth}`)]).toEqual([5, 5]);
  must(doc, setCell(doc, 'D', 'priority', '9', newId));
  expect([sum('deep1'), sum(PROJECT_ROW)]).toEqual([9, 9]);
});
