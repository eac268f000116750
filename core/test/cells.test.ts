/** Typed text into cells: one, many, filled down; what is refused says where and why; questions have their answers. */
import { cellText, fillDown, isTypable, setActivities, setCell, setCells, setRow } from '@yellowhammer/core/commands/cells';
import { editLink } from '@yellowhammer/core/commands/links';
import { fieldOf } from '@yellowhammer/core/fields/list';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { d, documentOf, mustBack, says, sure } from './helpers';

const newId = (): string => 'x';
const plan = (): Document => {
  const doc = documentOf({
    activities: [
      ['A', '2d'],
      ['B', '1d @clock'],
      ['C', '3d', { actualStart: '2026-03-02T08:00', remaining: 480 }],
      ['M', 'finish'],
    ],
    links: ['A SS > B'],
    project: { dataDate: '2026-03-04T08:00' },
  });
  doc.wbs.set('W', { id: 'W', rank: 0, parentId: null, name: 'W', code: '', lane: false, notes: '', values: {} });
  return doc;
};
const of = (doc: Document, id: string): Activity => sure(doc.activities.get(id));
const label = (o: ReturnType<typeof setCell>): string => (o.ok ? o.label : '');

test('one cell: text is trimmed, the label tells the field and the row', () => {
  const doc = plan();
  const o = setCell(doc, 'A', 'duration', ' 5d ', newId);
  expect(label(o)).toBe('Set duration of A A');
  mustBack(doc, o);
  expect([of(doc, 'A').duration, cellText(doc, of(doc, 'A'), 'duration'), cellText(doc, of(doc, 'A'), 'nothing')]).toEqual([d(5), '5d', '']);
});

test.each([
  ['gone', 'name', 'x', 'That activity is not in the plan any more.'],
  ['A', 'float', '3d', 'A A: Float is computed; nothing can be typed there.'],
  ['A', 'nothing', 'x', 'A A: there is no field nothing; nothing can be typed there.'],
  ['A', 'duration', 'soon', 'A A: '],
  ['M', 'duration', '2d', 'milestone'],
])('%s, %s: %s', (id, key, text, sentence) => expect(says(setCell(plan(), id, key, text, newId))).toContain(sentence));

test('a question names its row, and each answer is an act', () => {
  const doc = plan();
  const o = setCell(doc, 'C', 'percent', '0', newId);
  if (o.ok) throw new Error('it was taken');
  expect([sure(o.problems[0]).code, says(o)]).toEqual(['ASK', expect.stringContaining('C C: it has an actual start') as string]);
  expect(o.choices?.map((c) => c.label)).toEqual(['Started, and all of it remains', 'Not started: take the actual dates back']);
  mustBack(doc, sure(o.choices?.[1]).outcome);
  expect([of(doc, 'C').actualStart, of(doc, 'C').remaining]).toEqual([null, null]);
});

test('many at once: read for each on its own calendar, all or none', () => {
  const doc = plan();
  const o = setCells(doc, ['A', 'B'], 'duration', '2d', newId);
  expect(label(o)).toBe('Set duration of 2 activities');
  mustBack(doc, o);
  expect([of(doc, 'A').duration, of(doc, 'B').duration]).toEqual([d(2), 2880]);
  expect(says(setCells(doc, ['A', 'M'], 'duration', '4d', newId))).toContain('milestone');
  expect(of(doc, 'A').duration).toBe(d(2));
  expect(label(setCells(doc, ['A', 'B'], 'deadline', '', newId))).toBe('Clear deadline of 2 activities');
  expect(says(setCells(doc, [], 'cost', '5', newId))).toBe('Select activities first.');
  expect(label(setCells(doc, ['A'], 'cost', '5', newId))).toBe('Set cost of A A');
});

test('filled down from the first, over nodes and rows that are gone', () => {
  const doc = plan();
  doc.activities.set('A', { ...of(doc, 'A'), cost: 12 });
  const refs = (...ids: string[]) => ids.map((id) => ({ kind: doc.wbs.has(id) ? ('wbs' as const) : ('activity' as const), id }));
  const o = fillDown(doc, refs('W', 'A', 'gone', 'B', 'C'), 'cost', newId);
  expect(label(o)).toBe('Fill cost down over 3 activities');
  mustBack(doc, o);
  expect(['A', 'B', 'C', 'M'].map((id) => of(doc, id).cost)).toEqual([12, 12, 12, 0]);
  expect(says(fillDown(doc, refs('A', 'B'), 'float', newId))).toBe('Float is computed; it cannot be filled down. Choose a column that can be typed.');
  expect(says(fillDown(doc, refs('A', 'B'), 'nothing', newId))).toContain('nothing is computed');
  expect(says(fillDown(doc, refs('A', 'W'), 'cost', newId))).toContain('Select two or more');
  expect(says(fillDown(doc, refs('A', 'M'), 'duration', newId))).toContain('milestone');
});

test('of a WBS node the name is typed, of an activity any field', () => {
  const doc = plan();
  mustBack(doc, setRow(doc, { kind: 'wbs', id: 'W' }, 'name', 'Tower', newId));
  mustBack(doc, setRow(doc, { kind: 'activity', id: 'A' }, 'name', 'Strip', newId));
  expect([doc.wbs.get('W')?.name, of(doc, 'A').name]).toEqual(['Tower', 'Strip']);
  const field = (key: string) => fieldOf(doc, key);
  expect([
    isTypable(field('name'), 'wbs'),
    isTypable(field('cost'), 'wbs'),
    isTypable(field('cost'), 'activity'),
    isTypable(field('float'), 'activity'),
    isTypable(undefined, 'activity'),
  ]).toEqual([true, false, true, false, false]);
});

test('fields that are set: the label names them; a margin takes no other links; rows that are gone are passed over', () => {
  const doc = plan();
  expect(label(setActivities(doc, ['A', 'gone'], { duration: 60, calendarId: 'clock' }))).toBe('Set duration, calendar of A A');
  expect(label(setActivities(doc, ['A', 'B'], { wbsId: 'W', rank: 3 }))).toBe('Set wbs node of 2 activities');
  expect(label(setActivities(doc, ['A'], { rank: 3 }))).toBe('Set place of A A');
  expect(says(setActivities(doc, ['gone'], { cost: 1 }))).toBe('That activity is not in the plan any more.');
  expect(says(setActivities(doc, ['gone', 'lost'], { cost: 1 }))).toBe('Select activities first.');
  expect(says(setActivities(doc, ['A'], { type: 'margin' }))).toBe('A A has links other than finish-to-start. Change those first; a margin takes only FS.');
  for (const l of [...doc.links.values()]) mustBack(doc, editLink(doc, l.id, { type: 'FS' }));
  expect(setActivities(doc, ['A'], { type: 'margin' }).ok).toBe(true);
});
