/** What an activity has of its own beside the plan: typed, refused with a way out, shown, and not computed with. */
import { cellText, setCell } from '@yellowhammer/core/commands/cells';
import { marksOf } from '@yellowhammer/core/fields/extras';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { documentOf, finishIn, mustBack, says, sure, viewIn } from './helpers';

const plan = () =>
  documentOf({
    activities: [
      ['A', '3d'],
      ['B', '2d'],
    ],
    links: ['A > B'],
  });
const newId = (): string => 'x';

test.each([
  ['priority', '7', { priority: 7 }, '7'],
  ['priority', '', { priority: 5 }, '5'],
  ['colour', 'Sea', { colour: '#2f6f83' }, 'sea'],
  ['colour', '#ABCDEF', { colour: '#abcdef' }, '#abcdef'],
  ['address', 'example.org/a b'.replace(' ', '-'), { address: 'https://example.org/a-b' }, 'https://example.org/a-b'],
  ['address', 'http://localhost:4600/x', { address: 'http://localhost:4600/x' }, 'http://localhost:4600/x'],
  ['hidden', 'y', { hidden: true }, 'yes'],
])('%s typed as %s', (key, text, fields, shown) => {
  const doc = plan();
  doc.activities.set('A', { ...sure(doc.activities.get('A')), priority: 3, colour: '#000000', address: 'https://old.example.org', hidden: false });
  const before = finishIn(doc, 'B');
  mustBack(doc, setCell(doc, 'A', key, text, newId, null));
  expect(doc.activities.get('A')).toMatchObject(fields);
  expect(cellText(doc, sure(doc.activities.get('A')), key, null)).toBe(shown);
  expect(finishIn(doc, 'B')).toBe(before);
});
test.each([
  ['priority', '0', 'from 1 to 9'],
  ['priority', '10', 'from 1 to 9'],
  ['priority', '2.5', 'whole number'],
  ['priority', 'high', 'whole number'],
  ['colour', 'chartreuse', 'Choose pine'],
  ['colour', '#12345', 'Choose pine'],
  ['address', 'javascript:alert(1)', 'no web address'],
  ['address', 'two words', 'no web address'],
  ['address', 'plain', 'no web address'],
  ['hidden', 'perhaps', 'neither yes nor no'],
])('%s typed as %s is refused', (key, text, reason) => expect(says(setCell(plan(), 'A', key, text, newId, null))).toContain(reason));

test('each takes its value back when it is emptied', () => {
  const doc = plan();
  for (const [key, text] of [
    ['colour', 'sea'],
    ['address', 'https://example.org'],
    ['hidden', 'yes'],
  ] as const) {
    mustBack(doc, setCell(doc, 'A', key, text, newId, null));
    mustBack(doc, setCell(doc, 'A', key, '', newId, null));
  }
  expect(marksOf(doc, { kind: 'activity', id: 'A' })).toEqual({ colour: null, notes: false, address: false, hidden: false, priority: null, files: false });
});

test('marks say what is there', () => {
  const doc = plan();
  const a = sure(doc.activities.get('A'));
  doc.activities.set('A', { ...a, colour: '#2f6f83', notes: 'x', address: 'https://example.org', hidden: true, priority: 8 });
  expect(marksOf(doc, { kind: 'activity', id: 'A' })).toEqual({ colour: '#2f6f83', notes: true, address: true, hidden: true, priority: 8, files: false });
});

test('a hidden activity has its row on paper and no bar', () => {
  const shapes = (hidden: boolean): number => {
    const doc = plan();
    doc.activities.set('A', { ...sure(doc.activities.get('A')), hidden });
    const settings = { paper: 'a4', landscape: true, title: '', subtitle: '', columns: ['code', 'name'], depth: 0, rows: 'all', legend: false, baseline: false } as const;
    const pages = new PlanPages({
      doc,
      view: viewIn(doc),
      baseline: null,
      settings: { ...settings, columns: ['code', 'name'] },
      measure: (t, size) => t.length * size * 0.5,
      printed: '',
    });
    expect(pages.rows).toBe(2);
    return pages.page(0).shapes.filter((s) => s.kind === 'rect' && (s.fill === 'slate' || s.fill === 'slateLight')).length;
  };
  expect([shapes(false), shapes(true)]).toEqual([2, 1]);
});
