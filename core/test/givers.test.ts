/** Somebody, costs and income given by stamp or drop, to one row, to many, and to what lies in a node. */
import { readGiver, giverText } from '@yellowhammer/core/plan/givers';
import { givable, stampOutcome } from '@yellowhammer/core/plan/stamp';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { mustBack, nodeInto, peopledPlan, putInto, says } from './helpers';

let n = 0;
const newId = (): string => `g${++n}`;
const plan = (): Document => {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '10d', {}],
        ['B', '5d', {}],
        ['M', 'finish', {}],
      ],
    },
    {
      accounts: [
        { id: 'b', code: '13', name: 'Stone | lime' },
        { id: 'f', name: 'Fees' },
      ],
      resources: [{ id: 'ana' }],
      roles: [{ id: 'mason', name: 'mason' }],
    },
  );
  nodeInto(doc, 'W', null, 0);
  putInto(doc, 'A', 'W', 0);
  putInto(doc, 'M', 'W', 1);
  forgetIndex(doc);
  return doc;
};
const stamp = (doc: Document, ids: string[], key: string, choice: string, amount: string) => stampOutcome(doc, ids, { key, text: giverText(choice, amount) }, newId);

test('a cost goes to each row, with the account and the amount; a node means what lies in it', () => {
  const doc = plan();
  mustBack(doc, stamp(doc, ['A', 'B'], 'give:cost', '13 Stone | lime', '1,200.50'));
  mustBack(doc, stamp(doc, ['W'], 'give:income', 'Fees', '70'));
  expect([...doc.expenses.values()].map((e) => [e.activityId, e.accountId, e.budget, e.income, e.when])).toEqual([
    ['A', 'b', 1200.5, false, 'even'],
    ['B', 'b', 1200.5, false, 'even'],
    ['A', 'f', 70, true, 'finish'],
    ['M', 'f', 70, true, 'finish'],
  ]);
});

test('somebody goes where there is work, and once only', () => {
  const doc = plan();
  mustBack(doc, stamp(doc, ['A', 'M'], 'give:assignment', 'ana', '2'));
  expect([...doc.assignments.values()].map((x) => [x.activityId, x.resourceId, x.units])).toEqual([['A', 'ana', 2]]);
  mustBack(doc, stamp(doc, ['A', 'B'], 'give:assignment', 'ana', '0.5'));
  mustBack(doc, stamp(doc, ['B'], 'give:assignment', 'mason', '1'));
  expect([...doc.assignments.values()].map((x) => [x.activityId, x.resourceId ?? x.roleId, x.units])).toEqual([
    ['A', 'ana', 2],
    ['B', 'ana', 0.5],
    ['B', 'mason', 1],
  ]);
  expect(says(stamp(doc, ['A', 'M'], 'give:assignment', 'ana', '1'))).toContain('assigned there already');
});

test.each([
  ['give:cost', 'Bricks', '5', 'no account Bricks'],
  ['give:cost', 'Fees', 'much', 'Type an amount'],
  ['give:cost', 'Fees', '0', 'Type an amount'],
  ['give:assignment', 'ben', '1', 'not in the project'],
  ['give:assignment', '', '1', 'Choose whom'],
  ['give:assignment', 'ana', '0', 'how many units'],
])('%s of %s, %s is refused', (key, choice, amount, why) => {
  expect(says(stamp(plan(), ['A'], key, choice, amount))).toContain(why);
});

test('they are offered where there is something to choose, beside the fields that have choices', () => {
  const keys = (doc: Document): string[] => givable(doc).map((g) => g.key);
  expect(keys(plan()).slice(-3)).toEqual(['give:assignment', 'give:cost', 'give:income']);
  const bare = peopledPlan({ activities: [['A', '1d', {}]] }, {});
  expect(keys(bare).some((k) => k.startsWith('give:'))).toBe(false);
  expect(keys(bare)).toContain('calendar');
  expect(readGiver('calendar')).toEqual({ choice: 'calendar', amount: '' });
});
