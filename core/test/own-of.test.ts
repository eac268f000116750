/** Fields of WBS nodes, resources, assignments and the project: typed, inherited, brought along, converted, checked, kept in the file. */
import { alikeIn } from '@yellowhammer/core/commands/alike';
import { assign } from '@yellowhammer/core/commands/assign';
import { fillDown, isTypable, setCell, setRow, setRows } from '@yellowhammer/core/commands/cells';
import { copyRows, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import { addActivity, addWbs } from '@yellowhammer/core/commands/outline';
import { addOwnField, deleteOwnField, editOwnField, fillStandard, ownUses, setOwn } from '@yellowhammer/core/commands/own-fields';
import { pasteCells } from '@yellowhammer/core/commands/paste';
import { addPeople, importResources } from '@yellowhammer/core/commands/resources';
import { showField } from '@yellowhammer/core/fields/field';
import { cellOf, fieldOf } from '@yellowhammer/core/fields/list';
import { rowDifferences } from '@yellowhammer/core/fields/stored';
import type { Document } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { OwnKind, OwnOf } from '@yellowhammer/core/model/schema';
import { ownKey } from '@yellowhammer/core/model/values';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { standingProblems } from '@yellowhammer/core/rules/check';
import { documentOf, must, mustBack, says, sure, tells } from './helpers';

let n = 0;
const newId = (): string => `o${++n}`;

/** Tower with A and Lantern in it, B in Lantern, C outside. Ann works on A. Ids of activities by name. */
function plan() {
  const doc = documentOf({ activities: [] });
  const made = (o: Parameters<typeof must>[1]): string => sure(must(doc, o)[0]);
  const tower = made(addWbs(doc, null, 'Tower', newId));
  const lantern = made(addWbs(doc, { kind: 'wbs', id: tower }, 'Lantern', newId, true));
  const a = made(addActivity(doc, { kind: 'wbs', id: tower }, { name: 'A' }, newId));
  made(addActivity(doc, { kind: 'wbs', id: lantern }, { name: 'B' }, newId));
  const c = made(addActivity(doc, null, { name: 'C' }, newId));
  must(doc, moveOut(c));
  const ann = made(addPeople(doc, 'resources', 'Ann', {}, newId));
  must(doc, assign(doc, [a], [{ resourceId: ann, roleId: null, units: 1 }], newId));
  return { doc, tower, lantern, a, ann, own: (name: string, of: OwnOf, kind: OwnKind = 'text'): string => made(addOwnField(doc, name, kind, newId, of)) };

  function moveOut(id: string): Parameters<typeof must>[1] {
    const before = sure(doc.activities.get(id));
    return { ok: true, label: '', changes: before.wbsId === null ? [] : [{ table: 'activities', id, before, after: { ...before, wbsId: null } }] };
  }
}
const context = (doc: Document) => ({ doc, view: null, baseline: null, clock: false });
const cells = (doc: Document, key: string): Record<string, string> =>
  Object.fromEntries(outlineRows(doc).map((r) => [r.kind === 'wbs' ? r.node.name : r.activity.name, showField(sure(fieldOf(doc, key)), cellOf(context(doc), r))]));
const theOne = <T>(map: ReadonlyMap<string, T>): T => sure([...map.values()][0]);

describe('a field of nodes', () => {
  test('is typed in the rows of nodes alone, and holds for what lies in them until a node says otherwise', () => {
    const { doc, tower, lantern, a, own } = plan();
    const key = ownKey(own('Foreman', 'wbs'));
    const f = sure(fieldOf(doc, key));
    expect([isTypable(f, 'wbs'), isTypable(f, 'activity')]).toEqual([true, false]);
    const o = setRow(doc, { kind: 'wbs', id: tower }, key, ' Ewan ', newId);
    expect(tells(o)).toBe('Set Foreman of Tower');
    mustBack(doc, o);
    expect(cells(doc, key)).toEqual({ Tower: 'Ewan', Lantern: 'Ewan', A: 'Ewan', B: 'Ewan', C: '' });
    mustBack(doc, setRow(doc, { kind: 'wbs', id: lantern }, key, 'Ada', newId));
    expect(cells(doc, key)).toEqual({ Tower: 'Ewan', Lantern: 'Ada', A: 'Ewan', B: 'Ada', C: '' });
    expect(says(setCell(doc, a, key, 'Bo', newId))).toBe('101 A: Foreman belongs to WBS nodes; nothing can be typed there.');
    // What a node has from above is not its own text.
    mustBack(doc, setRow(doc, { kind: 'wbs', id: lantern }, key, '', newId));
    const cell = cellOf(context(doc), sure(outlineRows(doc).find((r) => r.id === lantern)));
    expect([cell.kind === 'wbs' && f.editNode?.(cell), showField(f, cell)]).toEqual(['', 'Ewan']);
    expect(sure(doc.wbs.get(lantern)).values).toEqual({});
  });
  test('is filled down, cleared and pasted over nodes, activities between them left alone', () => {
    const { doc, tower, lantern, a, own } = plan();
    const key = ownKey(own('Depth', 'wbs', 'number'));
    const refs = [
      { kind: 'wbs' as const, id: tower },
      { kind: 'activity' as const, id: a },
      { kind: 'wbs' as const, id: lantern },
    ];
    must(doc, setRow(doc, refs[0]!, key, '12', newId));
    const filled = fillDown(doc, refs, key, newId);
    expect(tells(filled)).toBe('Fill depth down over 2 WBS nodes');
    mustBack(doc, filled);
    expect([sure(doc.wbs.get(lantern)).values, sure(doc.activities.get(a)).values]).toEqual([{ [key]: 12 }, {}]);
    const cleared = setRows(doc, refs, key, '', newId);
    expect(tells(cleared)).toBe('Clear depth of 2 WBS nodes');
    mustBack(doc, cleared);
    expect(cells(doc, key)['B']).toBe('');
    expect(says(setRows(doc, [refs[1]!], key, '1', newId))).toBe('Depth belongs to WBS nodes. Select some first.');
    mustBack(doc, pasteCells(doc, refs, [key], [['3'], ['4'], ['5']], newId));
    expect([tower, lantern].map((id) => sure(doc.wbs.get(id)).values[key])).toEqual([3, 5]);
    expect(says(pasteCells(doc, [refs[0]!], [key], [['deep']], newId))).toBe('Row 1, depth: Tower: deep cannot be read as a number. Nothing was pasted.');
    expect(says(pasteCells(doc, [refs[0]!], ['duration'], [['3d']], newId))).toContain('would fall on a WBS node');
    expect(says(pasteCells(doc, [refs[1]!], [key], [['3']], newId))).toBe('Depth belongs to WBS nodes. Paste it onto their rows. Nothing was pasted.');
    // What is computed is refused as ever.
    expect(says(pasteCells(doc, [refs[1]!], ['float'], [['3d']], newId))).toContain('Float is computed');
  });
  test('new nodes have what new ones have, and those that are there get it on request', () => {
    const { doc, tower, own } = plan();
    const id = own('Foreman', 'wbs');
    must(doc, editOwnField(doc, id, { standard: 'Ewan' }));
    const made = sure(must(doc, addWbs(doc, null, 'Yard', newId))[0]);
    expect([sure(doc.wbs.get(made)).values, sure(doc.wbs.get(tower)).values]).toEqual([{ [ownKey(id)]: 'Ewan' }, {}]);
    const o = fillStandard(doc, id);
    expect(tells(o)).toBe('Give 2 WBS nodes the usual Foreman');
    mustBack(doc, o);
    expect(says(fillStandard(doc, id))).toBe('All WBS nodes have a value already.');
  });
  test('can be asked for in an expression of what lies in the node', () => {
    const { doc, tower, own } = plan();
    must(doc, setRow(doc, { kind: 'wbs', id: tower }, ownKey(own('Ready', 'wbs', 'yesNo')), 'y', newId));
    const go = own('Go', 'activities', 'computed');
    must(doc, editOwnField(doc, go, { expression: 'if(ready, "go", "wait")' }));
    expect(cells(doc, ownKey(go))).toMatchObject({ A: 'go', B: 'go', C: 'wait' });
    // It stays a column while something is computed from it.
    const ready = sure([...doc.ownFields.values()].find((f) => f.name === 'Ready')).id;
    expect(says(editOwnField(doc, ready, { of: 'resources' }, true))).toBe('Go is computed from Ready, for rows of the plan. Change that first.');
    expect(editOwnField(doc, ready, { of: 'activities' }, true).ok).toBe(true);
  });
});

test.each<[OwnOf, OwnKind, string, unknown, string, string]>([
  ['resources', 'date', '1 apr 2027', '2027-04-01', 'Set Extra of Ann', '1 Apr 27'],
  ['assignments', 'choice', 'NIGHT', 'night', 'Set Extra of Ann on 101', 'night'],
  ['project', 'money', '1,250.50', 1250.5, 'Set Extra of Test', '1,250.5'],
  ['wbs', 'duration', '2d', 960, 'Set Extra of Tower', '2d'],
])('a field of %s is set from text, undone, brought to the file and back', (of, kind, text, stored, label, words) => {
  const { doc, own } = plan();
  const id = own('Extra', of, kind);
  if (kind === 'choice') must(doc, editOwnField(doc, id, { choices: ['day', 'night'] }));
  const row = theOne(doc[of] as ReadonlyMap<string, { id: string }>).id;
  const before = { ...(doc[of].get(row) as object), values: {} } as never;
  const o = setOwn(doc, id, row, text);
  expect(tells(o)).toBe(label);
  mustBack(doc, o);
  const valuesOf = (d: Document): unknown => (d[of].get(row) as { values: unknown }).values;
  expect(valuesOf(doc)).toEqual({ [ownKey(id)]: stored });
  expect(ownUses(doc, id).map((r) => r.id)).toEqual([row]);
  const read = readProjectText(writeProjectFile({ document: doc, copies: new Map() }));
  const again = sure(read.file).document;
  expect([valuesOf(again), again.ownFields.get(id)?.of, read.problems]).toEqual([valuesOf(doc), of, []]);
  // Told to people with its text, not with its key.
  const [told] = rowDifferences(doc, of, before, doc[of].get(row) as never);
  expect([told?.theirs, told?.mine]).toEqual(['(none)', words]);
  // Of a kind that cannot read it, it is told who would lose it; deleting takes it along.
  expect(says(editOwnField(doc, id, { kind: 'yesNo' }))).toMatch(/would lose what it has in Extra\.$/);
  expect(says(editOwnField(doc, id, { of: 'activities' }))).toMatch(/would lose what it has in Extra\.$/);
  mustBack(doc, editOwnField(doc, id, { of: 'activities' }, true));
  expect(valuesOf(doc)).toEqual({});
  must(doc, editOwnField(doc, id, { of }));
  must(doc, setOwn(doc, id, row, text));
  mustBack(doc, deleteOwnField(doc, id));
  expect(valuesOf(doc)).toEqual({});
});

test('what cannot be read names the row; computed fields belong to activities', () => {
  const { doc, ann, own } = plan();
  const id = own('Licence until', 'resources', 'date');
  expect(says(setOwn(doc, id, ann, 'soon'))).toBe('Ann: the date soon cannot be read. Type it as 12 mar 2027.');
  expect(says(editOwnField(doc, id, { kind: 'computed' }))).toBe('Computed fields belong to activities; Licence until belongs to resources.');
  expect(says(setOwn(doc, 'gone', ann, 'x'))).toBe('That field is not in the project any more.');
  expect(says(setOwn(doc, id, 'gone', ''))).toBe('That resource is not there any more.');
});

test('the plan check lists rows without a field that is needed, and where it is given', () => {
  const { doc, ann, own } = plan();
  for (const what of ['wbs', 'resources', 'assignments', 'project'] as const) must(doc, editOwnField(doc, own(`Needed ${what}`, what), { required: true }));
  const empty = (): string[] => standingProblems(doc).flatMap((p) => (p.code === 'FIELD_EMPTY' ? [p.message] : []));
  expect(empty()).toEqual([
    '2 WBS nodes have no Needed wbs, Tower among them. Give it in the column Needed wbs.',
    '1 resource has no Needed resources, Ann among them. Give it in the Library, under Needed resources.',
    '1 assignment has no Needed assignments, Ann on 101 among them. Give it in the inspector of its activity, under Needed assignments.',
    'The project has no Needed project. Give it in the project settings.',
  ]);
  must(doc, setOwn(doc, sure([...doc.ownFields.values()].find((f) => f.of === 'resources')).id, ann, 'x'));
  expect(empty()).toHaveLength(3);
});

test('rows that go to another project bring the fields of nodes, assignments and resources along', () => {
  const { doc, tower, ann, own } = plan();
  must(doc, setOwn(doc, own('Foreman', 'wbs'), tower, 'Ewan'));
  must(doc, setOwn(doc, own('Shift', 'assignments'), theOne(doc.assignments).id, 'night'));
  must(doc, setOwn(doc, own('Badge', 'resources'), ann, '77'));
  const into = documentOf({ activities: [['Z', '1d']] });
  // One of the same name that belongs to activities is another field.
  must(into, addOwnField(into, 'Shift', 'text', newId));
  const clip = sure(readClip(JSON.stringify(copyRows(doc, 'one', [{ kind: 'wbs', id: tower }], false))));
  mustBack(into, pasteRows(into, 'two', clip, null, newId));
  const named = (name: string): string => ownKey(sure([...into.ownFields.values()].find((f) => f.name === name)).id);
  expect(sure([...into.wbs.values()].find((w) => w.name === 'Tower')).values).toEqual({ [named('Foreman')]: 'Ewan' });
  expect(theOne(into.assignments).values).toEqual({ [named('Shift 2')]: 'night' });
  expect(theOne(into.resources).values).toEqual({ [named('Badge')]: '77' });
});

test('a pasted list of resources gives their fields under heads; new ones have what new ones have', () => {
  const { doc, ann, own } = plan();
  const [badge, until] = [own('Badge', 'resources', 'number'), own('Licence until', 'resources', 'date')];
  must(doc, editOwnField(doc, badge, { standard: 7 }));
  const list = (date: string): string[][] => [
    ['name', 'licence until', 'units'],
    ['Ann', date, '2'],
    ['Bo', '', '1'],
  ];
  expect(says(importResources(doc, list('soon'), '2026-03-02', newId))).toBe('Line 2 (Ann): the date soon cannot be read. Type it as 12 mar 2027. Nothing was taken.');
  mustBack(doc, importResources(doc, list('1 apr 2027'), '2026-03-02', newId));
  expect(sure(doc.resources.get(ann)).values).toEqual({ [ownKey(until)]: '2027-04-01' });
  expect(sure([...doc.resources.values()].find((r) => r.name === 'Bo')).values).toEqual({ [ownKey(badge)]: 7 });
});

test('fields of other rows are no lookalikes', () => {
  const { doc, own } = plan();
  own('Shift', 'assignments');
  const project = (projectId: string, of: OwnOf, name: string) => ({
    projectId,
    code: projectId,
    name: projectId,
    codeSets: [],
    ownFields: [{ ...theOne(doc.ownFields), of, name }],
  });
  expect(alikeIn([project('P', 'assignments', 'Shift'), project('Q', 'activities', 'shift')])).toEqual([]);
  expect(alikeIn([project('P', 'assignments', 'Shift'), project('Q', 'assignments', 'shift')])).toHaveLength(1);
});
