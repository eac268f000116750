/** Code sets and own fields: given in a cell, over many rows, copied to another project, changed, deleted; in file, columns and check. */
import { setCell, setCells } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue, codeTree, codeUses, deleteCodeSet, deleteCodeValue, editCodeSet, editCodeValue, moveCodeValue } from '@yellowhammer/core/commands/codes';
import { copyRows, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import { addActivity } from '@yellowhammer/core/commands/outline';
import { addOwnField, deleteOwnField, editOwnField, fillStandard } from '@yellowhammer/core/commands/own-fields';
import { isRight, showField } from '@yellowhammer/core/fields/field';
import { activityCell, fieldOf, fieldsOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import { writeProjectFile } from '@yellowhammer/core/model/file';
import { readProjectText } from '@yellowhammer/core/model/read-file';
import type { OwnKind } from '@yellowhammer/core/model/schema';
import { reportTable } from '@yellowhammer/core/report/plan-table';
import { standingProblems } from '@yellowhammer/core/rules/check';
import { documentOf, must, mustBack, says, sure, tells, viewIn } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const show = (doc: Document, id: string, key: string): string =>
  showField(sure(fieldOf(doc, key)), activityCell({ doc, view: null, baseline: null, clock: false }, sure(doc.activities.get(id))));

/** Areas: North holding N1 and N2, South. A has N1, B South. */
function plan(): { doc: Document; set: string; key: string; value: Record<string, string> } {
  const doc = documentOf({
    activities: [
      ['A', '2d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
  });
  const set = sure(must(doc, addCodeSet(doc, ' Area ', newId))[0]);
  const value: Record<string, string> = {};
  for (const [short, parent] of [['North'], ['N1', 'North'], ['N2', 'North'], ['South']] as [string, string?][])
    value[short] = sure(must(doc, addCodeValue(doc, set, { short, parentId: parent ? sure(value[parent]) : null }, newId))[0]);
  const key = `code:${set}`;
  must(doc, setCell(doc, 'A', key, 'n1', newId));
  must(doc, setCell(doc, 'B', key, 'South', newId));
  return { doc, set, key, value };
}
const shorts = (doc: Document, set: string): string =>
  codeTree(sure(doc.codeSets.get(set)))
    .map(({ value, depth }) => '.'.repeat(depth) + value.short)
    .join(' ');

describe('code sets', () => {
  test('a set is a column, its values are given by short name or name, whatever the case', () => {
    const { doc, key, set, value } = plan();
    expect([show(doc, 'A', key), show(doc, 'B', key), show(doc, 'C', key)]).toEqual(['N1', 'South', '']);
    must(doc, editCodeValue(doc, set, sure(value['N2']), { name: 'Second landing', colour: '#2f6f83' }));
    const o = setCell(doc, 'C', key, ' second LANDING', newId);
    expect(tells(o)).toBe('Set Area of C C');
    mustBack(doc, o);
    expect(show(doc, 'C', key)).toBe('N2');
    mustBack(doc, setCell(doc, 'C', key, '', newId));
    expect(sure(doc.activities.get('C')).values).toEqual({});
    expect(fieldOf(doc, key)).toMatchObject({ title: 'Area', group: 'Codes', kind: 'choice', inspector: true });
    expect(sure(fieldOf(doc, key)).choices?.(doc)).toEqual(['', 'North', 'N1', 'N2', 'South']);
  });
  test('a new value is offered before it is made, also for many rows: one act', () => {
    const { doc, key, set } = plan();
    const o = setCells(doc, ['A', 'B', 'C'], key, 'West', newId);
    expect(says(o)).toBe('A A: Area has no value West.');
    const choice = !o.ok ? sure(o.choices?.[0]) : undefined;
    expect(choice?.label).toBe('Make West a value of Area');
    mustBack(doc, sure(choice).outcome);
    expect([['A', 'B', 'C'].map((id) => show(doc, id, key)), shorts(doc, set)]).toEqual([['West', 'West', 'West'], 'North .N1 .N2 South West']);
    const one = setCell(doc, 'A', key, 'East', newId);
    mustBack(doc, sure(!one.ok ? one.choices?.[0] : undefined).outcome);
    expect(show(doc, 'A', key)).toBe('East');
    expect(says(setCell(doc, 'A', key, 'x'.repeat(41), newId))).toContain('at most 40 characters');
  });
  test('the order of a set is a tree, and values move among those beside them', () => {
    const { doc, set, value } = plan();
    expect(shorts(doc, set)).toBe('North .N1 .N2 South');
    mustBack(doc, moveCodeValue(doc, set, sure(value['South']), -1));
    expect(shorts(doc, set)).toBe('South North .N1 .N2');
    mustBack(doc, moveCodeValue(doc, set, sure(value['N1']), 1));
    expect(shorts(doc, set)).toBe('South North .N2 .N1');
    expect([tells(moveCodeValue(doc, set, sure(value['N1']), 1)), tells(moveCodeValue(doc, set, sure(value['South']), -1))]).toEqual([
      'AT_THE_END There is nothing further down. @',
      'AT_THE_END There is nothing further up. @',
    ]);
    mustBack(doc, editCodeValue(doc, set, sure(value['South']), { parentId: sure(value['N2']) }));
    expect(shorts(doc, set)).toBe('North .N2 ..South .N1');
  });
  test('a value in use goes only with another in its place; what lies in it goes to its parent', () => {
    const { doc, set, key, value } = plan();
    expect(tells(deleteCodeValue(doc, set, sure(value['N1'])))).toBe(`IN_USE 1 activity has N1. Choose what they get in its place. @codeSets/${set}/Area`);
    expect(says(deleteCodeValue(doc, set, sure(value['N1']), sure(value['N1'])))).toContain('Choose another value');
    expect(says(deleteCodeValue(doc, set, sure(value['N1']), 'zz'))).toContain('Choose another value');
    mustBack(doc, deleteCodeValue(doc, set, sure(value['N1']), sure(value['N2'])));
    expect(show(doc, 'A', key)).toBe('N2');
    mustBack(doc, deleteCodeValue(doc, set, sure(value['North'])));
    expect(shorts(doc, set)).toBe('N2 South');
    mustBack(doc, deleteCodeValue(doc, set, sure(value['South']), null));
    expect([show(doc, 'B', key), codeUses(doc, set).size]).toEqual(['', 1]);
    mustBack(doc, deleteCodeSet(doc, set));
    expect([fieldOf(doc, key), sure(doc.activities.get('A')).values]).toEqual([undefined, {}]);
  });
  test.each<[string, (p: ReturnType<typeof plan>) => ReturnType<typeof addCodeSet>, string]>([
    ['a set without a name', ({ doc }) => addCodeSet(doc, ' ', newId), 'NAME_NEEDED A code set needs a name. @name'],
    ['a set with a name of another', ({ doc }) => addCodeSet(doc, 'AREA', newId), 'NAME_TAKEN There is a code set Area already. Choose another name. @name'],
    ['a long name', ({ doc }) => addCodeSet(doc, 'x'.repeat(101), newId), 'WRONG_VALUE The name is longer than 100 characters. @name'],
    ['a set that is gone', ({ doc }) => editCodeSet(doc, 'zz', {}), 'UNKNOWN_CODE_SET That code set is not in the project any more. @'],
    ['renaming', ({ doc, set }) => editCodeSet(doc, set, { name: ' Zone ' }), 'Change code set Zone'],
    ['describing', ({ doc, set }) => editCodeSet(doc, set, { about: 'where' }), 'Change code set Area'],
    ['a value of a set that is gone', ({ doc }) => addCodeValue(doc, 'zz', { short: 'x' }, newId), 'UNKNOWN_CODE_SET That code set is not in the project any more. @'],
    ['deleting a set that is gone', ({ doc }) => deleteCodeSet(doc, 'zz'), 'UNKNOWN_CODE_SET That code set is not in the project any more. @'],
    ['deleting a value that is gone', ({ doc, set }) => deleteCodeValue(doc, set, 'zz'), 'UNKNOWN_CODE_SET That code value is not there any more. @'],
  ])('%s', (_, run, words) => expect(tells(run(plan()))).toBe(words));
  test.each<[string, object, string]>([
    ['N1', { short: ' ' }, 'A code value needs a short name.'],
    ['N1', { short: 'south' }, 'Area has a value South already.'],
    ['N1', { short: 'x'.repeat(41) }, 'at most 40 characters'],
    ['North', { parentId: 'N1' }, 'North cannot lie in itself.'],
    ['North', { parentId: 'North' }, 'North cannot lie in itself.'],
    ['North', { parentId: 'zz' }, 'is not there any more'],
    ['N1', { short: ' N9 ', parentId: null }, 'taken'],
  ])('the value %s with %j', (short, fields, words) => {
    const { doc, set, value } = plan();
    const asked = 'parentId' in fields && typeof fields.parentId === 'string' ? { ...fields, parentId: value[fields.parentId] ?? fields.parentId } : fields;
    expect(says(editCodeValue(doc, set, sure(value[short]), asked))).toContain(words);
  });
});

/** A field of a kind, with choices low and high. */
function withField(kind: OwnKind, more: object = {}): { doc: Document; id: string; key: string } {
  const doc = documentOf({
    activities: [
      ['A', '2d'],
      ['B', '1d @six'],
    ],
  });
  const id = sure(must(doc, addOwnField(doc, 'Depth', kind, newId))[0]);
  const fields = { ...(kind === 'choice' ? { choices: ['low', ' high ', 'low', ''] } : {}), ...more };
  if (Object.keys(fields).length) must(doc, editOwnField(doc, id, fields));
  return { doc, id, key: `own:${id}` };
}

describe('own fields', () => {
  test.each<[OwnKind, string, string | number | boolean, string]>([
    ['text', ' a note ', 'a note', 'a note'],
    ['number', '1,250.5', 1250.5, '1,250.5'],
    ['number', '-3', -3, '-3'],
    ['money', '1 200', 1200, '1,200'],
    ['date', '12 mar 26', '2026-03-12', '12 Mar 26'],
    ['duration', '2d', 960, '2d'],
    ['yesNo', 'Y', true, 'yes'],
    ['yesNo', 'no', false, 'no'],
    ['choice', 'HIGH', 'high', 'high'],
    ['address', 'example.org/a', 'https://example.org/a', 'https://example.org/a'],
  ])('%s typed as %s', (kind, text, stored, shown) => {
    const { doc, key } = withField(kind);
    mustBack(doc, setCell(doc, 'A', key, text, newId));
    expect([sure(doc.activities.get('A')).values[key], show(doc, 'A', key)]).toEqual([stored, shown]);
    mustBack(doc, setCell(doc, 'A', key, '', newId));
    expect(sure(doc.activities.get('A')).values).toEqual({});
  });
  test.each<[OwnKind, string, string]>([
    ['number', 'deep', 'cannot be read as a number'],
    ['money', '1e99', 'cannot be read as an amount'],
    ['date', 'soon', 'soon'],
    ['duration', 'long', 'cannot be read as a duration'],
    ['yesNo', 'maybe', 'neither yes nor no'],
    ['choice', 'middle', 'It has low, high.'],
    ['address', 'no address', 'no web address'],
    ['text', 'x'.repeat(20_001), 'longer than 20,000'],
  ])('%s does not take %s', (kind, text, reason) => {
    const { doc, key } = withField(kind);
    expect(says(setCell(doc, 'A', key, text, newId))).toContain(reason);
  });
  test('numbers are told with their unit, and typed with it or without', () => {
    const { doc, key } = withField('number', { unit: 'm' });
    must(doc, setCell(doc, 'A', key, '4.5m', newId));
    expect(show(doc, 'A', key)).toBe('4.5 m');
    expect([isRight(sure(fieldOf(doc, key))), isRight(sure(fieldOf(withField('text').doc, 'name')))]).toEqual([true, false]);
  });
  test('another kind: what can be read in it stays, what cannot is told first and dropped where that is agreed', () => {
    const { doc, id, key } = withField('text');
    must(doc, setCell(doc, 'A', key, '12', newId));
    must(doc, setCell(doc, 'B', key, 'deep', newId));
    expect(tells(editOwnField(doc, id, { kind: 'number' }))).toBe(`IN_USE B B would lose what it has in Depth. @ownFields/${id}/Depth`);
    mustBack(doc, editOwnField(doc, id, { kind: 'number' }, true));
    expect([sure(doc.activities.get('A')).values, sure(doc.activities.get('B')).values]).toEqual([{ [key]: 12 }, {}]);
    // A choice that is taken away goes where it was given.
    mustBack(doc, editOwnField(doc, id, { kind: 'choice', choices: ['12', '14'] }));
    expect(show(doc, 'A', key)).toBe('12');
    expect(says(editOwnField(doc, id, { choices: ['14'] }))).toContain('would lose');
  });
  test('what new activities have, and those that are there where that is asked for', () => {
    const { doc, id, key } = withField('choice', { standard: 'low' });
    const made = must(doc, addActivity(doc, null, { name: 'new' }, newId));
    expect(show(doc, sure(made[0]), key)).toBe('low');
    must(doc, setCell(doc, 'A', key, 'high', newId));
    const o = fillStandard(doc, id);
    expect(tells(o)).toBe('Give 1 activity the usual Depth');
    mustBack(doc, o);
    expect(['A', 'B'].map((x) => show(doc, x, key))).toEqual(['high', 'low']);
    expect(says(fillStandard(doc, id))).toContain('All activities have a value already');
    // A usual value of another kind goes with the change of kind.
    mustBack(doc, editOwnField(doc, id, { kind: 'number' }, true));
    expect(sure(doc.ownFields.get(id)).standard).toBeNull();
    expect(says(fillStandard(doc, id))).toContain('has no value for new activities');
  });
  test('where one is needed the check names those without', () => {
    const { doc, id, key } = withField('text', { required: true });
    const told = (): string[] => standingProblems(doc).map((p) => `${p.code} ${p.message}`);
    expect(told()).toEqual(['FIELD_EMPTY 2 activities have no Depth, A A among them. Give it in the column Depth.']);
    must(doc, setCells(doc, ['A', 'B'], key, 'x', newId));
    expect(told()).toEqual([]);
    mustBack(doc, deleteOwnField(doc, id));
    expect([fieldOf(doc, key), sure(doc.activities.get('A')).values]).toEqual([undefined, {}]);
  });
  test.each<[string, (doc: Document, id: string) => ReturnType<typeof addOwnField>, string]>([
    ['a field without a name', (doc) => addOwnField(doc, '', 'text', newId), 'NAME_NEEDED A field needs a name. @name'],
    ['a name that is taken', (doc) => addOwnField(doc, 'depth', 'text', newId), 'NAME_TAKEN There is a field Depth already. Choose another name. @name'],
    ['renaming', (doc, id) => editOwnField(doc, id, { name: ' Height ' }), 'Change field Height'],
    ['what is gone', (doc) => editOwnField(doc, 'zz', {}), 'UNKNOWN_FIELD That field is not in the project any more. @'],
    ['deleting what is gone', (doc) => deleteOwnField(doc, 'zz'), 'UNKNOWN_FIELD That field is not in the project any more. @'],
    ['filling what is gone', (doc) => fillStandard(doc, 'zz'), 'UNKNOWN_FIELD That field is not in the project any more. @'],
  ])('%s', (_, run, words) => {
    const { doc, id } = withField('text');
    expect(tells(run(doc, id))).toBe(words);
  });
});

test('fields that are made stand in the list behind the others, follow their changes, and are printed', () => {
  const { doc, key, set } = plan();
  const keys = [...fieldsOf(doc).keys()];
  expect(keys[keys.length - 1]).toBe(key);
  must(doc, editCodeSet(doc, set, { name: 'Zone' }));
  expect(sure(fieldOf(doc, key)).title).toBe('Zone');
  const settings = { paper: 'a4', landscape: true, title: '', subtitle: '', columns: ['code', key], depth: 0, rows: 'all', legend: false, baseline: false } as const;
  expect(reportTable({ doc, view: viewIn(doc), baseline: null, settings: { ...settings, columns: [...settings.columns] } })).toEqual({
    header: ['No.', 'Zone'],
    rows: [
      ['A', 'N1'],
      ['B', 'South'],
      ['C', ''],
    ],
  });
});

test('the file keeps sets, fields and values of every kind', () => {
  const { doc, key } = plan();
  for (const kind of ['number', 'yesNo', 'date', 'choice'] as const) {
    const id = sure(must(doc, addOwnField(doc, kind, kind, newId))[0]);
    must(
      doc,
      editOwnField(doc, id, {
        choices: ['x'],
        standard: kind === 'number' ? 5 : kind === 'yesNo' ? true : kind === 'date' ? '2026-03-02' : 'x',
        required: kind === 'date',
        unit: 'm',
      }),
    );
    must(doc, fillStandard(doc, id));
  }
  const text = writeProjectFile({ document: doc, copies: new Map() });
  const read = readProjectText(text);
  expect(read.problems).toEqual([]);
  expect(writeProjectFile(sure(read.file))).toBe(text);
  expect(show(sure(read.file).document, 'A', key)).toBe('N1');
});

test('a value of a set that cannot be read is set aside by itself', () => {
  const { doc } = plan();
  const text = writeProjectFile({ document: doc, copies: new Map() }).replace('"short":"N2"', '"short":""');
  const read = readProjectText(text);
  expect(read.problems.map((p) => p.message)).toEqual(['codeSets Area: values, entry 3, cannot be read; it was set aside.']);
  expect(sure([...sure(read.file).document.codeSets.values()][0]).values.map((v) => v.short)).toEqual(['North', 'N1', 'South']);
});

describe('copied to another project', () => {
  const clip = (doc: Document, id: string) => sure(readClip(JSON.stringify(copyRows(doc, 'p', [{ kind: 'activity', id }], false))));
  test('sets and fields come along where they are not there', () => {
    const { doc, key, set } = plan();
    const field = sure(must(doc, addOwnField(doc, 'Depth', 'number', newId))[0]);
    must(doc, editOwnField(doc, field, { required: true, standard: 3 }));
    must(doc, setCell(doc, 'A', `own:${field}`, '7', newId));
    const into = documentOf({ activities: [] });
    const [made] = mustBack(into, pasteRows(into, 'q', clip(doc, 'A'), null, newId));
    expect([show(into, sure(made), key), show(into, sure(made), `own:${field}`), shorts(into, set)]).toEqual(['N1', '7', 'North .N1 .N2 South']);
    // Nobody there has asked for it to be needed or usual.
    expect(into.ownFields.get(field)).toMatchObject({ required: false, standard: null });
  });
  test('those of the same name are met: values by their short names, new ones are added in their place', () => {
    const { doc } = plan();
    const into = documentOf({ activities: [] });
    const here = sure(must(into, addCodeSet(into, 'AREA', newId))[0]);
    must(into, addCodeValue(into, here, { short: 'north' }, newId));
    const [made] = mustBack(into, pasteRows(into, 'q', clip(doc, 'A'), null, newId));
    expect([show(into, sure(made), `code:${here}`), shorts(into, here), into.codeSets.size]).toEqual(['N1', 'north .N1 .N2 South', 1]);
  });
  test('a field of the same name and another kind is another field', () => {
    const { doc, id } = withField('number');
    must(doc, setCell(doc, 'A', `own:${id}`, '7', newId));
    const into = documentOf({ activities: [] });
    must(into, addOwnField(into, 'Depth', 'text', newId));
    const [made] = mustBack(into, pasteRows(into, 'q', clip(doc, 'A'), null, newId));
    expect([...into.ownFields.values()].map((f) => f.name).sort()).toEqual(['Depth', 'Depth 2']);
    const two = sure([...into.ownFields.values()].find((f) => f.name === 'Depth 2'));
    expect(show(into, sure(made), `own:${two.id}`)).toBe('7');
  });
  test('choices that were not there are added to those that are', () => {
    const { doc, id } = withField('choice');
    must(doc, setCell(doc, 'A', `own:${id}`, 'high', newId));
    const into = documentOf({ activities: [] });
    const there = sure(must(into, addOwnField(into, 'depth', 'choice', newId))[0]);
    must(into, editOwnField(into, there, { choices: ['LOW'] }));
    const [made] = mustBack(into, pasteRows(into, 'q', clip(doc, 'A'), null, newId));
    expect([sure(into.ownFields.get(there)).choices, show(into, sure(made), `own:${there}`)]).toEqual([['LOW', 'high'], 'high']);
  });
  test('inside a project they are the same', () => {
    const { doc, key } = plan();
    const [made] = mustBack(doc, pasteRows(doc, 'p', clip(doc, 'A'), null, newId));
    expect([show(doc, sure(made), key), doc.codeSets.size]).toEqual(['N1', 1]);
  });
});
