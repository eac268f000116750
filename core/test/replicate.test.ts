/** Rows copied many times: names by a pattern, links inside and to the outside as chosen, dates worked by hand. */
import { readPattern } from '@yellowhammer/core/commands/name-pattern';
import { linksOutside, replicate, type Replicated, type Replication } from '@yellowhammer/core/commands/replicate';
import type { Document } from '@yellowhammer/core/model/document';
import type { Activity } from '@yellowhammer/core/model/schema';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { d, documentOf, finishIn, mustBack, nodeInto, putInto, says, tells } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const plain: Replication = { times: 1, names: '{name}', replace: '', replaceBy: '', incoming: false, outgoing: false, chained: false };
const F1 = [{ kind: 'wbs', id: 'F1' }] as const;

/** A release, one floor of three trades, and a handover. */
function floor(): Document {
  const doc = documentOf({
    activities: [
      ['R', 'start'],
      ['A', '2d', { name: 'Strip level 1' }],
      ['B', '3d', { name: 'Plaster level 1' }],
      ['C', '1d', { name: 'Paint level 1' }],
      ['H', 'finish'],
    ],
    links: ['R > A', 'A SS+1d > B', 'B > C', 'C > H', 'A > C'],
  });
  doc.wbs.set('F1', { id: 'F1', rank: 5, parentId: null, name: 'Level 1', code: '', lane: false, notes: '', values: {} });
  ['A', 'B', 'C'].forEach((id, rank) => doc.activities.set(id, { ...(doc.activities.get(id) as Activity), wbsId: 'F1', rank }));
  doc.activities.set('R', { ...(doc.activities.get('R') as Activity), rank: 0 });
  doc.activities.set('H', { ...(doc.activities.get('H') as Activity), rank: 9 });
  return doc;
}
const take = (doc: Document, r: Replicated): string[] => mustBack(doc, r.outcome);
const names = (doc: Document): string[] => outlineRows(doc).map((r) => `${'.'.repeat(r.depth)}${r.kind === 'wbs' ? r.node.name : r.activity.name}`);
const idOf = (doc: Document, name: string): string => [...doc.activities.values()].find((x) => x.name === name)?.id ?? '';
const finish = (doc: Document, name: string): string => finishIn(doc, idOf(doc, name));

test.each([
  ['Level {2..6}', 5, ['Level 2', 'Level 3']],
  ['{name} {01..12}', 12, ['x 01', 'x 02']],
  ['{C..A} side', 3, ['C side', 'B side']],
  ['{Kitchen, Bath, Hall} {1..9}', 3, ['Kitchen 1', 'Bath 2']],
  ['{name}', null, ['x', 'x']],
  ['plain', null, ['plain', 'plain']],
  ['{5..5}', 1, ['5', '']],
])('the pattern %s', (text, count, first) => {
  const p = readPattern(text);
  if ('error' in p) throw new Error(p.error);
  expect([p.count, [0, 1].map((i) => p.text(i, 'x'))]).toEqual([count, first]);
});
test.each(['{2..}', '{a..9}', '{}', '{one}', '{1..5000}', 'Level {2..6', 'Level 2}', '{a,,b}'])('the pattern %s is refused with a way out', (text) =>
  expect(readPattern(text)).toEqual({ error: expect.stringMatching(/Write \{/) as string }),
);

test('four more floors: one release starts all, all end in one handover, names count', () => {
  const doc = floor();
  expect(linksOutside(doc, F1)).toMatchObject({ incoming: [{ from: 'R', to: 'A' }], outgoing: [{ from: 'C', to: 'H' }] });
  const r = replicate(doc, F1, { ...plain, names: 'Level {2..5}', replace: 'level 1', replaceBy: 'level {2..5}', incoming: true, outgoing: true }, newId);
  expect([r.copies, r.rows, r.links, r.names]).toEqual([4, 16, { among: 12, incoming: 4, outgoing: 4, chained: 0 }, ['Level 2', 'Level 3', 'Level 4', 'Level 5']]);
  take(doc, r);
  expect(names(doc).slice(0, 10)).toEqual([
    'R',
    'Level 1',
    '.Strip level 1',
    '.Plaster level 1',
    '.Paint level 1',
    'Level 2',
    '.Strip level 2',
    '.Plaster level 2',
    '.Paint level 2',
    'Level 3',
  ]);
  expect(names(doc)[names(doc).length - 1]).toBe('H');
  // All floors at the same time: strip 2 and 3 March, plaster a day behind from 3 to 5, paint on 6.
  for (const level of [1, 2, 5]) expect(finish(doc, `Paint level ${level}`)).toBe('2026-03-06T17:00');
  expect(finish(doc, 'H')).toBe('2026-03-06T17:00');
});

test('without the links outside the copies stand alone; one after the other they follow each other', () => {
  const doc = floor();
  const r = replicate(doc, F1, { ...plain, times: 2, names: '{name} again', chained: true }, newId);
  expect(r.links).toEqual({ among: 6, incoming: 0, outgoing: 0, chained: 2 });
  take(doc, r);
  // Each floor takes 5 working days: 2 to 6, 9 to 13, 16 to 20 March.
  const paints = [...doc.activities.values()].filter((a) => a.name === 'Paint level 1').map((a) => finishIn(doc, a.id));
  expect(paints).toEqual(['2026-03-06T17:00', '2026-03-13T17:00', '2026-03-20T17:00']);
  expect(finish(doc, 'H')).toBe('2026-03-06T17:00');
});

test('copies have no progress, numbers of their own, and all else that the rows have', () => {
  const doc = floor();
  doc.activities.set('A', { ...(doc.activities.get('A') as Activity), actualStart: '2026-03-02T08:00', remaining: d(1), cost: 12, notes: 'Mind the dust', calendarId: 'six' });
  take(doc, replicate(doc, [{ kind: 'activity', id: 'A' }], { ...plain, times: 2 }, newId));
  const copies = [...doc.activities.values()].filter((a) => a.name === 'Strip level 1' && a.id !== 'A');
  expect(copies.map((a) => [a.code, a.actualStart, a.remaining, a.cost, a.notes, a.calendarId, a.wbsId])).toEqual([
    ['101', null, null, 12, 'Mind the dust', 'six', 'F1'],
    ['102', null, null, 12, 'Mind the dust', 'six', 'F1'],
  ]);
  expect(names(doc).slice(1, 6)).toEqual(['Level 1', '.Strip level 1', '.Strip level 1', '.Strip level 1', '.Plaster level 1']);
});

test('several rows are copied as a group, in their order', () => {
  const doc = floor();
  take(
    doc,
    replicate(
      doc,
      [
        { kind: 'activity', id: 'B' },
        { kind: 'activity', id: 'A' },
      ],
      { ...plain, names: '{name}, part {2..3}' },
      newId,
    ),
  );
  expect(names(doc).slice(2, 8)).toEqual([
    '.Strip level 1',
    '.Plaster level 1',
    '.Strip level 1, part 2',
    '.Plaster level 1, part 2',
    '.Strip level 1, part 3',
    '.Plaster level 1, part 3',
  ]);
});

test.each<[string, Parameters<typeof replicate>[1], Partial<Replication>, string]>([
  ['nothing', [], {}, 'Select rows first'],
  [
    'rows of different nodes',
    [
      { kind: 'activity', id: 'A' },
      { kind: 'activity', id: 'R' },
    ],
    {},
    'different WBS nodes',
  ],
  ['no copy', F1, { times: 0 }, 'Between 1 and 500'],
  ['too many copies', F1, { times: 501 }, 'Between 1 and 500'],
  ['half a copy', F1, { times: 1.5 }, 'Between 1 and 500'],
  ['a wrong pattern', F1, { names: '{x' }, 'not closed'],
  ['a wrong pattern inside', F1, { replace: 'level 1', replaceBy: '{?}' }, 'cannot be read'],
])('%s is refused with a reason', (_, refs, how, text) => expect(says(replicate(floor(), refs, { ...plain, ...how }, newId).outcome)).toContain(text));

describe('how often, and what is refused', () => {
  const nothing = { copies: 0, rows: 0, links: { among: 0, incoming: 0, outgoing: 0, chained: 0 }, names: [] };
  const many = (size: number): Document => {
    const doc = documentOf({ activities: Array.from({ length: size }, (_, i): [string, string] => [`a${i}`, '1d']) });
    nodeInto(doc, 'N', null, 5);
    for (const a of [...doc.activities.values()]) putInto(doc, a.id, 'N', a.rank);
    return doc;
  };
  const N = [{ kind: 'wbs', id: 'N' }] as const;
  test.each<[string, Document, Parameters<typeof replicate>[1], Partial<Replication>, string]>([
    ['nothing selected', floor(), [], {}, 'NOTHING_SELECTED Select rows first. @'],
    [
      'rows of different nodes',
      floor(),
      [
        { kind: 'activity', id: 'A' },
        { kind: 'activity', id: 'R' },
      ],
      {},
      'MIXED_LEVELS The selected rows are in different WBS nodes. Select rows of one node, or the nodes themselves. @',
    ],
    ['none', floor(), F1, { times: 0 }, 'WRONG_RANGE Between 1 and 500 copies can be made at once. @'],
    ['too many', floor(), F1, { times: 501 }, 'WRONG_RANGE Between 1 and 500 copies can be made at once. @'],
    ['half of one', floor(), F1, { times: 1.5 }, 'WRONG_RANGE Between 1 and 500 copies can be made at once. @'],
    ['too many rows', many(100), N, { times: 500 }, 'TOO_MANY_ROWS That would be 50500 rows; at most 50000 can be made at once. @'],
  ])('%s', (_, doc, refs, how, why) => {
    const { outcome, ...rest } = replicate(doc, refs, { ...plain, ...how }, newId);
    expect([tells(outcome), rest]).toEqual([why, nothing]);
  });
  test.each<[string, Partial<Replication>]>([
    ['the names on top', { names: '{' }],
    ['those inside', { replace: 'level', replaceBy: '{' }],
  ])('a pattern that cannot be read, of %s', (_, how) => {
    const { outcome, ...rest } = replicate(floor(), F1, { ...plain, ...how }, newId);
    expect([tells(outcome), rest]).toEqual([expect.stringMatching(/^WRONG_ENTRY .*Write \{/), nothing]);
  });
  test.each<[string, Partial<Replication>, number]>([
    ['as the names count', { times: 9, names: '{1..3}' }, 3],
    ['as often as the shorter of both', { names: '{1..3}', replace: 'level', replaceBy: '{1..2}' }, 2],
    ['as often as the shorter of both, the other way round', { names: '{1..2}', replace: 'level', replaceBy: '{1..3}' }, 2],
    ['names inside that nothing is put into', { names: '{1..3}', replaceBy: '{1..2}' }, 3],
    ['names inside that do not count', { times: 4, replace: 'level', replaceBy: 'floor' }, 4],
  ])('%s', (_, how, copies) => expect(replicate(floor(), F1, { ...plain, ...how }, newId).copies).toBe(copies));
  test('as many rows as can be made at once', () => expect(replicate(many(99), N, { ...plain, times: 500 }, newId)).toMatchObject({ rows: 50_000, outcome: { ok: true } }));
});

test('what the log says, and links of copies behind those that are there, in their order', () => {
  const doc = floor();
  const most = Math.max(...[...doc.links.values()].map((l) => l.rank));
  expect([tells(replicate(doc, F1, { ...plain, times: 2 }, newId).outcome), linksOutside(doc, F1).among.map((l) => l.id)]).toEqual(['Replicate 1 row 2 times', ['l1', 'l2', 'l4']]);
  const made = take(doc, replicate(doc, F1, { ...plain, times: 2 }, newId));
  const added = [...doc.links.values()].filter((l) => l.rank > most).map((l) => l.rank - most);
  expect([made.length, added]).toEqual([2, [1, 2, 3, 4, 5, 6]]);
});

test('a chain leads from work to work: what only spans it has no part in it', () => {
  const doc = documentOf({
    activities: [
      ['A', '2d'],
      ['B', '1d'],
      ['L', 'effort'],
    ],
    links: ['A > B', 'A SS > L', 'L FF > B'],
  });
  const r = replicate(
    doc,
    ['A', 'B', 'L'].map((id) => ({ kind: 'activity' as const, id })),
    { ...plain, times: 2, chained: true },
    newId,
  );
  const [a1, b1, , a2] = take(doc, r);
  expect([r.links.chained, [...doc.links.values()].at(-1)]).toMatchObject([2, { from: b1, to: a2 }]);
  expect([...doc.links.values()].filter((l) => l.from === 'B').map((l) => l.to)).toEqual([a1]);
});
