/** WBS codes: numbered by place, behind a prefix for each level, or given by hand; never a number of an activity. */
import fc from 'fast-check';
import { setCell, setRow } from '@yellowhammer/core/commands/cells';
import { addActivity, codeWbs } from '@yellowhammer/core/commands/outline';
import { setOptions } from '@yellowhammer/core/commands/project';
import type { Document } from '@yellowhammer/core/model/document';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import { numbersOf } from '@yellowhammer/core/model/numbers';
import { nodeWithCode, wbsCodeOf, wbsCodes } from '@yellowhammer/core/outline/outline';
import { documentOf, must, mustBack, nodeInto, says, sure } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
/** Nodes U (T, R) and V (S). */
function plan(prefixes: string[] = []): Document {
  const doc = documentOf({ activities: [['101', '1d']], options: { wbsPrefixes: prefixes } });
  for (const [id, parent, rank] of [
    ['U', null, 0],
    ['T', 'U', 0],
    ['R', 'U', 1],
    ['V', null, 1],
    ['S', 'V', 0],
  ] as const)
    nodeInto(doc, id, parent, rank);
  forgetIndex(doc);
  return doc;
}
const codes = (doc: Document): string => ['U', 'T', 'R', 'V', 'S'].map((id) => wbsCodes(doc).get(id)).join(' ');

test.each([
  [[], '1 1.1 1.2 2 2.1'],
  [['W'], 'W1 W1.1 W1.2 W2 W2.1'],
  [['', 'L'], '1 1.L1 1.L2 2 2.L1'],
  [['W', 'L', 'x'], 'W1 W1.L1 W1.L2 W2 W2.L1'],
])('prefixes %j give %s', (prefixes, expected) => expect(codes(plan(prefixes))).toBe(expected));

test('a code given by hand stands before those below, and the others keep their places', () => {
  const doc = plan(['W']);
  mustBack(doc, codeWbs(doc, 'U', 'TWR'));
  mustBack(doc, setRow(doc, { kind: 'wbs', id: 'R' }, 'code', 'TWR.roof', newId));
  expect(codes(doc)).toBe('TWR TWR.1 TWR.roof W2 W2.1');
  mustBack(doc, codeWbs(doc, 'U', ''));
  expect(codes(doc)).toBe('W1 W1.1 W1.roof W2 W2.1');
});

test.each([
  ['a b', 'no part of a WBS code'],
  ['a.b', 'no part of a WBS code'],
  ['a,b', 'no part of a WBS code'],
  ['x'.repeat(21), 'Type up to 20'],
  ['2', '1.2 is the code of R'],
  ['1.2', '1.2 is the code of R'],
  ['1.1', 'its code already'],
])('%s for the node 1.1: %s', (text, reason) => expect(says(codeWbs(plan(), 'T', text))).toContain(reason));

test('a code of twenty characters is taken; one that is not there is refused', () => {
  expect(says(codeWbs(plan(), 'T', 'x'.repeat(20)))).toBe('taken');
  expect(says(codeWbs(plan(), 'Z', 'x'))).toContain('not in the plan');
});

test('an activity goes into a node by its code, whatever the case', () => {
  const doc = plan();
  must(doc, codeWbs(doc, 'U', 'TWR'));
  mustBack(doc, setCell(doc, '101', 'wbs', 'twr.2', newId));
  expect(doc.activities.get('101')?.wbsId).toBe('R');
  expect(says(setCell(doc, '101', 'wbs', 'twr.3', newId))).toContain('no WBS node twr.3');
});

test('numbers and codes are never alike', () => {
  const doc = plan();
  expect(says(setCell(doc, '101', 'code', '2', newId))).toContain('2 is the code of the WBS node V');
  must(doc, codeWbs(doc, 'V', '102'));
  expect(numbersOf(doc).next()).toBe('103');
  expect(numbersOf(doc).take('102')).toBe(false);
  const [made] = must(doc, addActivity(doc, null, {}, newId));
  expect(sure(doc.activities.get(sure(made))).code).toBe('103');
});

test('prefixes are kept by the project and refused where they hold a blank or a point', () => {
  const doc = plan();
  const set = (wbsPrefixes: string[]) => setOptions(doc, { wbsPrefixes });
  mustBack(doc, set(['A', 'B']));
  expect(codes(doc)).toBe('A1 A1.B1 A1.B2 A2 A2.B1');
  expect(says(set(['a.b']))).toContain('no blank, point');
});

test('every node is found by its code, one by one and all together', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: -1, max: 8 }), fc.constantFrom('', '', 'k', 'm'))),
      fc.array(fc.constantFrom('', 'p', 'q'), { maxLength: 4 }),
      (list, prefixes) => {
        const doc = documentOf({ activities: [], options: { wbsPrefixes: prefixes } });
        list.forEach(([up, hand], i) => {
          nodeInto(doc, `${i}`, up >= 0 && up < i ? `${up}` : null, i);
          // By hand only where no two beside each other would be alike.
          if (hand) doc.wbs.set(`${i}`, { ...sure(doc.wbs.get(`${i}`)), code: `${hand}${i}` });
        });
        forgetIndex(doc);
        const all = wbsCodes(doc);
        expect(all.size).toBe(list.length);
        for (const [id, code] of all) expect([wbsCodeOf(doc, id), nodeWithCode(doc, code)]).toEqual([code, id]);
      },
    ),
  );
});
