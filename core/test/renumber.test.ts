/** Numbers by a rule: unique, in the order of the outline, without breaking a link. */
import fc from 'fast-check';
import { prefixFor, renumber, type Renumbering } from '@yellowhammer/core/commands/renumber';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { documentOf, mustBack, nodeInto, putInto, says, sure, tells } from './helpers';

const plain: Renumbering = { from: 100, step: 10, digits: 1, prefixes: new Map(), anew: false };
function plan(): Document {
  const doc = documentOf({ activities: ['Z', 'A', 'B', 'C', 'D'].map((id): [string, string] => [id, '1d']), links: ['A > B', 'C > D'] });
  nodeInto(doc, 'X', null, 0);
  nodeInto(doc, 'Y', null, 1);
  nodeInto(doc, 'Q', 'Y', 0);
  putInto(doc, 'A', 'X', 0);
  putInto(doc, 'B', 'X', 1);
  putInto(doc, 'C', 'Q', 0);
  putInto(doc, 'D', 'Y', 1);
  putInto(doc, 'Z', null, 9);
  return doc;
}
const codes = (doc: Document): string => ['A', 'B', 'C', 'D', 'Z'].map((id) => doc.activities.get(id)?.code).join(' ');

test.each<[string, Partial<Renumbering>, readonly string[] | null, string]>([
  ['from top to bottom by steps', {}, null, '100 110 120 130 140'],
  ['digits are filled up', { from: 5, step: 5, digits: 4 }, null, '0005 0010 0015 0020 0025'],
  ['numbers of top nodes are passed over', { from: 1, step: 1 }, null, '3 4 5 6 7'],
  [
    'a prefix for each branch, the nearest counts',
    {
      prefixes: new Map([
        ['X', 'A-'],
        ['Y', 'B-'],
        ['Q', 'Q'],
      ]),
    },
    null,
    'A-100 A-110 Q120 B-130 140',
  ],
  [
    'each branch begins anew',
    {
      from: 1,
      step: 1,
      prefixes: new Map([
        ['X', 'A'],
        ['Y', 'B'],
      ]),
      anew: true,
    },
    null,
    'A1 A2 B1 B2 3',
  ],
  ['only some; what the others have is passed over', { from: 1, step: 1, prefixes: new Map([['X', 'A']]) }, ['A', 'B'], 'A1 A2 C D Z'],
])('%s', (_, how, only, wanted) => {
  const doc = plan();
  const links = JSON.stringify([...doc.links.values()]);
  mustBack(doc, renumber(doc, only && new Set(only), { ...plain, ...how }));
  expect(codes(doc)).toBe(wanted);
  expect(JSON.stringify([...doc.links.values()])).toBe(links);
});

test('a number that another activity has is passed over, whatever the case of its letters', () => {
  const doc = plan();
  doc.activities.set('Z', { ...(doc.activities.get('Z') as Activity), code: 'a110' });
  mustBack(doc, renumber(doc, new Set(['A', 'B']), { ...plain, prefixes: new Map([['X', 'A']]) }));
  expect(codes(doc)).toBe('A100 A120 C D a110');
});

test.each<[Partial<Renumbering>, string]>([
  [{ from: -1 }, 'first number'],
  [{ from: 1.5 }, 'first number'],
  [{ step: 0 }, 'step'],
  [{ digits: 10 }, 'digits'],
  [{ prefixes: new Map([['X', 'A, B']]) }, 'prefix A, B'],
  [{ prefixes: new Map([['X', '1A']]) }, 'prefix 1A'],
])('%j is refused', (how, text) => expect(says(renumber(plan(), null, { ...plain, ...how }))).toContain(text));

test('the same again, and nothing to number, are told', () => {
  const doc = plan();
  mustBack(doc, renumber(doc, null, plain));
  expect(says(renumber(doc, null, plain))).toContain('these numbers already');
  expect(says(renumber(doc, new Set(['gone']), plain))).toContain('no activities');
});

test('whatever the rule, no two have the same number and none looks like a WBS code', () => {
  fc.assert(
    fc.property(
      fc.nat(12),
      fc.integer({ min: 1, max: 3 }),
      fc.integer({ min: 1, max: 3 }),
      fc.boolean(),
      fc.constantFrom('', 'A', 'a'),
      fc.constantFrom('', 'A'),
      (from, step, digits, anew, x, y) => {
        const doc = plan();
        const o = renumber(doc, null, {
          from,
          step,
          digits,
          anew,
          prefixes: new Map(
            [
              ['X', x],
              ['Q', y],
            ].filter((p): p is [string, string] => p[1] !== ''),
          ),
        });
        if (!o.ok) return;
        mustBack(doc, o);
        const all = [...doc.activities.values()].map((a) => a.code.toLowerCase());
        expect(new Set(all).size).toBe(all.length);
        for (const code of all) expect(/^[12]$/.test(code)).toBe(false);
      },
    ),
    { numRuns: 200 },
  );
});

test.each([
  ['Tower restoration', 'TR'],
  ['Access and island logistics', 'AIL'],
  ['Level 2, keeper’s room', 'LKSR'],
  ['42', ''],
])('a prefix for %s', (name, prefix) => expect(prefixFor(name)).toBe(prefix));

test.each<[string, Partial<Renumbering>, string]>([
  ['a number that a node has by hand', { from: 4, step: 1 }, '4 6 7 8 9'],
  [
    'letters of two branches that differ in their case alone',
    {
      from: 1,
      step: 1,
      anew: true,
      prefixes: new Map([
        ['X', 'A'],
        ['Y', 'a'],
      ]),
    },
    'A1 A2 a3 a4 4',
  ],
  ['twelve letters, and a digit behind the first', { prefixes: new Map([['X', 'ABCDEFGHIJK1']]) }, 'ABCDEFGHIJK1100 ABCDEFGHIJK1110 120 130 140'],
])('passed over or taken: %s', (_, how, wanted) => {
  const doc = plan();
  nodeInto(doc, 'V', null, 2);
  doc.wbs.set('V', { ...sure(doc.wbs.get('V')), code: '5' });
  mustBack(doc, renumber(doc, null, { ...plain, ...how }));
  expect(codes(doc)).toBe(wanted);
});

test('what the log and refusals say', () => {
  const doc = plan();
  expect([
    tells(renumber(doc, null, plain)),
    tells(renumber(doc, new Set(['A']), plain)),
    tells(renumber(doc, null, { ...plain, prefixes: new Map([['X', 'ABCDEFGHIJKLM']]) })),
    tells(renumber(doc, new Set(), plain)),
  ]).toEqual([
    'Number 5 activities anew',
    'Number 1 activity anew',
    'WRONG_VALUE The prefix ABCDEFGHIJKLM cannot be taken: up to 12 characters without commas and spaces, and no digit first. @',
    'NOTHING_SELECTED There are no activities to number. @',
  ]);
  mustBack(doc, renumber(doc, null, plain));
  expect(tells(renumber(doc, null, plain))).toBe('NOTHING_CHANGED The activities have these numbers already. @');
});

test.each([
  ['The house of Ann and Bo', 'HAB'],
  ['To go in a boat for the island', 'GBI'],
  ['2nd floor', 'F'],
  ['North -- 4th quay', 'NQ'],
  ['one two three four five', 'OTTF'],
  [' Étage nord', 'ÉN'],
  ['Room b4', 'RB'],
])('small words and numbers make no prefix: %s', (name, prefix) => expect(prefixFor(name)).toBe(prefix));
