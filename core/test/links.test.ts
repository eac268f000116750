/** Links one by one and as they are typed: what is made, changed and refused, with its sentence. */
import { addLink, addTypedLinks, deleteLinks, editLink, formatLink, linkInOrder, linksAmong, parseLinks, setTypedLinks } from '@yellowhammer/core/commands/links';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { d, documentOf, mustBack, says, sure } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const plan = (links: string[] = []): Document =>
  documentOf({ activities: [...['A', 'B', 'C', 'D'].map((id): [string, string] => [id, '1d']), ['K', '1d @clock'], ['M', 'margin 2d']], links });
const week = { minutesPerDay: 480, daysPerWeek: 5 };
const text = (doc: Document): string =>
  [...doc.links.values()]
    .sort((a, b) => a.rank - b.rank)
    .map((l) => `${l.from} ${l.type}${l.lag ? `${l.lag > 0 ? '+' : ''}${l.lag}` : ''} ${l.to}`)
    .join(', ');
const code = (o: ReturnType<typeof addLink>): string => (o.ok ? 'ok' : sure(o.problems[0]).code);

test('a link is made behind the others, plain unless it says otherwise', () => {
  const doc = plan(['A > B']);
  const o = addLink(doc, { from: 'B', to: 'C' }, newId);
  expect(o.ok && o.label).toBe('Link B to C');
  const [made] = mustBack(doc, o);
  expect(doc.links.get(sure(made))).toEqual({ id: made, rank: 1, from: 'B', to: 'C', type: 'FS', lag: 0, lagCalendar: null });
  mustBack(doc, addLink(doc, { from: 'C', to: 'D', type: 'SS', lag: -60 }, newId));
  expect(text(doc)).toBe('A FS B, B FS C, C SS-60 D');
});

test.each<[Parameters<typeof addLink>[1], string, string]>([
  [{ from: 'A', to: 'A' }, 'LOOP', 'A A cannot be linked to itself.'],
  [{ from: 'A', to: 'gone' }, 'UNKNOWN_ACTIVITY', 'An activity of that link is not in the plan any more.'],
  [{ from: 'A', to: 'B' }, 'DUPLICATE_LINK', 'A and B are already linked FS. Change the lag of that link instead.'],
  [{ from: 'C', to: 'A' }, 'LOOP', 'Linking C to A would close a loop: A > B > C > A. Delete one of the links between them first.'],
  [{ from: 'A', to: 'M', type: 'SS' }, 'MARGIN_LINK', 'Into and out of a margin only finish-to-start counts, so A to M cannot be SS.'],
  [{ from: 'M', to: 'D', type: 'FF' }, 'MARGIN_LINK', 'Into and out of a margin only finish-to-start counts, so M to D cannot be FF.'],
])('%j is refused: %s', (link, wanted, sentence) => {
  const o = addLink(plan(['A > B', 'B > C']), link, newId);
  expect([code(o), says(o)]).toEqual([wanted, sentence]);
});
test('another type between the same two, and finish to start at a margin, may be', () => {
  for (const link of [
    { from: 'A', to: 'B', type: 'SS' as const },
    { from: 'A', to: 'M' },
    { from: 'M', to: 'D' },
  ])
    expect(code(addLink(plan(['A > B']), link, newId))).toBe('ok');
});

test('several are linked in their order; what is linked already is left', () => {
  const doc = plan(['B > C']);
  const o = linkInOrder(doc, ['A', 'B', 'C', 'D'], newId, 'FS', 30);
  expect(o.ok && o.label).toBe('Link 4 activities');
  expect(mustBack(doc, o)).toHaveLength(2);
  expect(text(doc)).toBe('B FS C, A FS+30 B, C FS+30 D');
  expect(says(linkInOrder(doc, ['A', 'B'], newId))).toBe('These activities are linked already.');
  expect(says(linkInOrder(doc, ['A'], newId))).toBe('Select two or more activities, in the order in which they follow each other.');
  expect(says(linkInOrder(doc, ['D', 'A'], newId))).toContain('would close a loop');
  // A loop within the act itself.
  expect(says(linkInOrder(plan(), ['A', 'B', 'A'], newId))).toContain('would close a loop: A > B > A');
});

test('type, lag and lag calendar are changed; another type may be there already, or close no loop', () => {
  const doc = plan(['A > B', 'A SS > B']);
  const o = editLink(doc, 'l0', { lag: d(2), lagCalendar: 'project' });
  expect(o.ok && o.label).toBe('Change link A to B');
  mustBack(doc, o);
  expect(doc.links.get('l0')).toMatchObject({ lag: d(2), lagCalendar: 'project', type: 'FS' });
  expect(says(editLink(doc, 'l0', { type: 'SS' }))).toContain('already linked SS');
  mustBack(doc, editLink(doc, 'l0', { type: 'FF' }));
  expect(text(doc)).toBe('A FF+960 B, A SS B');
  expect(says(editLink(doc, 'gone', { lag: 1 }))).toBe('That link is not in the plan any more.');
});

test('links among some activities, and links that go', () => {
  const doc = plan(['A > B', 'B > C', 'C > D']);
  expect(linksAmong(doc, ['A', 'B', 'D']).map((l) => l.id)).toEqual(['l0']);
  const o = deleteLinks(doc, ['l0', 'l2', 'gone']);
  expect(o.ok && o.label).toBe('Delete 2 links');
  mustBack(doc, o);
  expect(text(doc)).toBe('B FS C');
  expect(says(deleteLinks(doc, ['gone']))).toBe('That link is not in the plan any more.');
});

test.each<[string, string]>([
  ['A', 'A FS 0'],
  ['a, B', 'A FS 0; B FS 0'],
  ['Ass+2d; B ff - 4h', 'A SS 960; B FF -240'],
  ['A sf', 'A SF 0'],
  ['A+1w', 'A FS 2400'],
  ['Ka+1d'.slice(0, 1) + 'FS+1d', 'K FS 1440'],
  [' A ,, ', 'A FS 0'],
  ['', ''],
])('%s is read', (typed, wanted) => {
  const r = parseLinks(plan(), typed, (a) => (a.calendarId === 'clock' ? { minutesPerDay: 1440, daysPerWeek: 7 } : week));
  if ('error' in r) throw new Error(r.error);
  expect(r.links.map((l) => `${l.activity.code} ${l.type} ${l.lag}`).join('; ')).toBe(wanted);
});
test.each([
  ['999', 'There is no activity 999. Type an activity number'],
  ['A, 999ss+2d', 'There is no activity 999. Type'],
  ['A+2x', 'There is no activity A+2x'],
  ['A+d', 'The lag in A+d cannot be read. Type it as +2d, -4h or +1w.'],
  ['A, A', 'A FS stands there twice.'],
])('%s is not read, and the entry is named', (typed, sentence) => {
  const r = parseLinks(plan(), typed, () => week);
  expect('error' in r && r.error).toContain(sentence);
});
test('a number that looks like one with a type is taken as it stands', () => {
  const doc = plan();
  doc.activities.set('B', { ...(doc.activities.get('B') as Activity), code: 'ASS' });
  const r = parseLinks(doc, 'ass', () => week);
  expect('links' in r && r.links[0]?.activity.id).toBe('B');
});
test.each<[Parameters<typeof formatLink>[1], string]>([
  [{ type: 'FS', lag: 0 }, 'A'],
  [{ type: 'SS', lag: 0 }, 'ASS'],
  [{ type: 'FS', lag: 960 }, 'AFS+2d'],
  [{ type: 'FF', lag: -240 }, 'AFF-0.5d'],
])('%j is written %s', (link, wanted) => expect(formatLink({ code: 'A' }, link, week)).toBe(wanted));

describe('typed as a whole', () => {
  test('links are added, changed and taken away to fit; those that stay keep their id and lag calendar', () => {
    const doc = plan(['A [project] > D', 'B > D', 'C > D']);
    const o = setTypedLinks(doc, 'D', 'predecessors', 'A+1d, B ss', () => week, newId);
    expect(o.ok && o.label).toBe('Set predecessors of D');
    mustBack(doc, o);
    expect(text(doc)).toBe('A FS+480 D, B SS D');
    expect(doc.links.get('l0')).toMatchObject({ lag: 480, lagCalendar: 'project' });
    mustBack(
      doc,
      setTypedLinks(doc, 'A', 'successors', 'D+1d, C', () => week, newId),
    );
    expect(text(doc)).toBe('A FS+480 D, B SS D, A FS C');
    mustBack(
      doc,
      setTypedLinks(doc, 'D', 'predecessors', '', () => week, newId),
    );
    expect(text(doc)).toBe('A FS C');
  });
  test('what was the other way round may be turned in one act, a loop may not be', () => {
    const doc = plan(['A > B', 'B > C']);
    expect(says(setTypedLinks(doc, 'A', 'predecessors', 'C', () => week, newId))).toContain('loop: A > B > C > A');
    expect(says(setTypedLinks(doc, 'A', 'predecessors', '999', () => week, newId))).toContain('There is no activity 999');
    expect(says(setTypedLinks(doc, 'gone', 'predecessors', 'A', () => week, newId))).toContain('not in the plan any more');
  });
  test('added to those that are there, on either side, with the lag in days of the predecessor', () => {
    const doc = plan(['A > D']);
    const o = addTypedLinks(doc, 'D', 'predecessors', 'K+1d, B', newId);
    expect(o.ok && o.label).toBe('Add predecessors of D');
    expect(mustBack(doc, o)).toHaveLength(2);
    mustBack(doc, addTypedLinks(doc, 'K', 'successors', 'C+1d', newId));
    expect(text(doc)).toBe('A FS D, K FS+1440 D, B FS D, K FS+1440 C');
    expect(says(addTypedLinks(doc, 'D', 'predecessors', 'A', newId))).toContain('already linked FS');
    expect(says(addTypedLinks(doc, 'D', 'predecessors', ' , ', newId))).toContain('Type an activity number');
    expect(says(addTypedLinks(doc, 'D', 'predecessors', '999', newId))).toContain('There is no activity 999');
    expect(says(addTypedLinks(doc, 'gone', 'successors', 'A', newId))).toContain('not in the plan any more');
  });
});
