/** What looks alike over projects, and what making it one does. */
import { adoptField, adoptSet, alikeIn, likeValue, lookOf, mergeSets } from '@yellowhammer/core/commands/alike';
import { setCell } from '@yellowhammer/core/commands/cells';
import { addCodeSet, addCodeValue } from '@yellowhammer/core/commands/codes';
import { addOwnField, editOwnField } from '@yellowhammer/core/commands/own-fields';
import { type Document, ordered } from '@yellowhammer/core/model/document';
import { documentOf, must, sure, tells } from './helpers';

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
