/** Names with a number behind them: what is there is met whatever the case, the number is always seen, and nothing gets longer than it may. */
import fc from 'fast-check';
import { bringValues } from '@yellowhammer/core/commands/bring-values';
import { addOwnField } from '@yellowhammer/core/commands/own-fields';
import { Draft } from '@yellowhammer/core/change/change';
import { unusedName } from '@yellowhammer/core/model/unused-name';
import { documentOf, must, ownFieldOf, sure } from './helpers';

test.each<[string, string[], number, string, string]>([
  ['Depth', [], 100, ' ', 'Depth'],
  ['Depth', ['depth'], 100, ' ', 'Depth 2'],
  ['Depth', ['Depth', 'DEPTH 2', 'Depth 4'], 100, ' ', 'Depth 3'],
  ['depth', ['depth'], 100, '', 'depth2'],
  ['abcdef', [], 4, ' ', 'abcd'],
  ['abcdef', ['abcd'], 4, ' ', 'ab 2'],
  ['abcd', ['abcd', ...Array.from({ length: 9 }, (_, i) => `ab ${i}`)], 4, ' ', 'ab 9'],
  ['abcd', ['abcd', ...Array.from({ length: 10 }, (_, i) => `ab ${i}`)], 4, ' ', 'a 10'],
])('%s beside %j, of at most %s characters', (wish, there, most, between, expected) => expect(unusedName(wish, there, most, between)).toBe(expected));

test('it is never there, and never too long', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 6 }), fc.array(fc.string({ maxLength: 6 })), fc.integer({ min: 4, max: 8 }), (wish, there, most) => {
      const name = unusedName(wish, there, most);
      expect([name.length <= most, there.some((t) => t.toLowerCase() === name.toLowerCase())]).toEqual([true, false]);
    }),
  );
});

test('two fields whose long names begin alike have two names in expressions, each of at most 60 characters', () => {
  const doc = documentOf({ activities: [] });
  let n = 0;
  const made = ['one', 'two'].map((end) =>
    sure(
      must(
        doc,
        addOwnField(doc, `${'depth '.repeat(15)}${end}`, 'text', () => `f${++n}`),
      )[0],
    ),
  );
  const keys = made.map((id) => sure(doc.ownFields.get(id)).key);
  expect([keys.map((k) => k.length), new Set(keys).size]).toEqual([[60, 60], 2]);
});

test('fields that come along get names that neither the project nor one of them has', () => {
  const doc = documentOf({ activities: [] });
  doc.ownFields.set('own', ownFieldOf('own', 'Depth'));
  const draft = new Draft(doc);
  const theirs = [ownFieldOf('a', 'Depth', { kind: 'number' }), ownFieldOf('b', 'Depth 2'), ownFieldOf('c', 'x'.repeat(100)), ownFieldOf('own', 'X'.repeat(100), { kind: 'date' })];
  bringValues(draft, { codeSets: [], ownFields: theirs }, () => 'new');
  const names = draft.rows('ownFields').map((f) => f.name);
  expect(names).toEqual(['Depth', 'Depth 2', 'Depth 2 2', 'x'.repeat(100), `${'X'.repeat(98)} 2`]);
  expect(new Set(draft.rows('ownFields').map((f) => f.key.toLowerCase())).size).toBe(5);
});
