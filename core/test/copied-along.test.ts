/** What copied rows bring along: calendars with all that they are based on, lags, pictures and looks; and in which order they come. */
import { type Clip, copyRows, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import type { RowRef } from '@yellowhammer/core/commands/outline';
import type { Document } from '@yellowhammer/core/model/document';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { limits } from '@yellowhammer/core/model/limits';
import type { Calendar } from '@yellowhammer/core/model/schema';
import { documentOf, fiveDays, mustBack, nights, nodeInto, putInto, says, sure } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const act = (id: string): RowRef => ({ kind: 'activity', id });
const copy = (doc: Document, ids: readonly string[], project = 'p'): Clip =>
  sure(
    readClip(
      JSON.stringify(
        copyRows(
          doc,
          project,
          ids.map((id) => ({ kind: doc.wbs.has(id) ? 'wbs' : 'activity', id })),
          false,
        ),
      ),
    ),
  );
/** The pasted activities, of another project. */
const into = (doc: Document, clip: Clip) => mustBack(doc, pasteRows(doc, 'q', clip, null, newId)).map((id) => sure(doc.activities.get(id)));
const stop = { name: 'stop', from: '2026-03-04', work: [] };

describe('calendars', () => {
  /** A works by a calendar that is based on one that is based on another; between A and B a lag has a calendar that nothing else has. */
  const theirs = (): Document =>
    documentOf({
      activities: [
        ['A', '1d @leaf'],
        ['B', '1d @five'],
        ['C', '1d @five'],
      ],
      links: ['A +1d [calendar:wait] > B', 'B +2d [calendar:wait] > C'],
      calendars: [
        { id: 'root', name: 'Root', week: nights.week, exceptions: [stop] },
        { id: 'stem', name: 'Stem', basedOn: 'root', hoursPerDay: 7 },
        { id: 'leaf', name: 'Leaf', basedOn: 'stem', exceptions: [{ ...stop, from: '2026-03-06' }] },
        { id: 'wait', name: 'Wait', week: nights.week },
        { id: 'idle', name: 'Idle', week: nights.week },
      ],
    });
  test('travel with all that they are based on, and of links with theirs; what nothing uses stays', () => {
    const clip = copy(theirs(), ['A', 'B']);
    expect([clip.calendars.map((c) => c.id).sort(), copy(theirs(), ['B']).calendars.map((c) => c.id), clip.links.map((l) => l.id)]).toEqual([
      ['five', 'leaf', 'root', 'stem', 'wait'],
      ['five'],
      ['l0'],
    ]);
    const doc = documentOf({ activities: [] });
    const [a] = into(doc, clip);
    expect(doc.calendars.get(sure(a?.calendarId))).toMatchObject({
      name: 'Leaf',
      basedOn: null,
      hoursPerDay: 7,
      week: sure(theirs().calendars.get('root')).week,
      exceptions: [expect.objectContaining({ from: '2026-03-04' }), expect.objectContaining({ from: '2026-03-06' })],
    });
  });
  const own = (fields: Partial<Calendar> & { id: string; name: string }): Record<string, unknown> => ({ week: fiveDays.week, ...fields });
  /** By which name A works afterwards, in a project that has these calendars besides the usual ones, and how many came along. */
  const met = (mine: Record<string, unknown>[], sharedId: string | null): [string, number, number] => {
    const from = documentOf({ activities: [['A', '1d @yard']], calendars: [{ id: 'yard', name: 'Yard', week: nights.week, exceptions: [stop] }] });
    from.calendars.set('yard', { ...sure(from.calendars.get('yard')), sharedId });
    const doc = documentOf({ activities: [], calendars: mine });
    for (const c of doc.calendars.values()) if (c.id.startsWith('s')) doc.calendars.set(c.id, { ...c, sharedId: 'shared' });
    const before = doc.calendars.size;
    const [a] = into(doc, copy(from, ['A']));
    const c = sure(doc.calendars.get(sure(a?.calendarId)));
    return [`${c.id.startsWith('n') ? 'new ' : ''}${c.name}`, doc.calendars.size - before, c.rank];
  };
  const same = { week: nights.week as never, exceptions: [stop] as never };
  test.each<[string, Record<string, unknown>[], string | null, [string, number, number]]>([
    ['one of that name and those hours', [own({ id: 'x', name: 'YARD', ...same, rank: 9 })], null, ['YARD', 0, 9]],
    ['none of that name with other hours', [own({ id: 'x', name: 'yard', rank: 9 })], null, ['new Yard 2', 1, 10]],
    ['none of those hours alone', [own({ id: 'x', name: 'Other', ...same, rank: 9 })], null, ['new Yard', 1, 10]],
    ['the copy of the same shared one, whatever its name', [own({ id: 's', name: 'Other', ...same, rank: 9 })], 'shared', ['Other', 0, 9]],
    ['not of that shared one with other hours', [own({ id: 's', name: 'Other', rank: 9 })], 'shared', ['new Yard', 1, 10]],
    ['no copy of another shared one', [own({ id: 's', name: 'Other', ...same, rank: 9 })], 'other', ['new Yard', 1, 10]],
    ['behind the last, wherever that stands', [own({ id: 'x', name: 'X', rank: 30 }), own({ id: 'y', name: 'Y', rank: 9 })], null, ['new Yard', 1, 31]],
  ])('met: %s', (_, mine, sharedId, is) => expect(met(mine, sharedId)).toEqual(is));
  test('two that come along get names and places of their own', () => {
    const from = documentOf({
      activities: [
        ['A', '1d @one'],
        ['B', '1d @two'],
        ['C', '1d @one'],
      ],
      calendars: [
        { id: 'one', name: 'Shift', week: nights.week },
        { id: 'two', name: 'Shift 2', week: nights.week, exceptions: [stop] },
      ],
    });
    const doc = documentOf({ activities: [], calendars: [{ id: 'x', name: 'Shift', week: fiveDays.week, rank: 5 }] });
    const made = into(doc, copy(from, ['A', 'B', 'C'])).map((a) => sure(doc.calendars.get(sure(a.calendarId))));
    expect(made.map((c) => [c.name, c.rank])).toEqual([
      ['Shift 2', 6],
      ['Shift 2 2', 7],
      ['Shift 2', 6],
    ]);
  });
  test('in the same project those that are gone meanwhile give way: rows to the project’s, lags to their predecessor’s', () => {
    const doc = theirs();
    const clip = copy(doc, ['A', 'B', 'C']);
    for (const id of ['leaf', 'wait']) doc.calendars.delete(id);
    doc.activities.set('A', { ...sure(doc.activities.get('A')), calendarId: null });
    doc.links.clear();
    const made = mustBack(doc, pasteRows(doc, 'p', clip, null, newId));
    expect(made.map((id) => doc.activities.get(id)?.calendarId)).toEqual([null, 'five', 'five']);
    expect([...doc.links.values()].map((l) => [l.from, l.to, l.lagCalendar, l.lag])).toEqual([
      [made[0], made[1], 'predecessor', 480],
      [made[1], made[2], 'predecessor', 960],
    ]);
  });
});

describe('pictures and looks', () => {
  const picture = { id: 'pic', rank: 0, name: 'Flag', hash: 'a'.repeat(64), size: 9, type: 'image/png' as const, width: 8, height: 8 };
  const look = (id: string) => ({ id, rank: 0, name: id, fill: null, edge: null, pattern: null, text: null });
  const plan = (): Document => {
    const doc = documentOf({
      activities: [
        ['A', 'start'],
        ['B', 'start'],
        ['C', '1d'],
      ],
    });
    doc.pictures.set('pic', picture);
    doc.pictures.set('idle', { ...picture, id: 'idle', name: 'Idle', hash: 'b'.repeat(64) });
    for (const id of ['look', 'other']) doc.looks.set(id, look(id) as never);
    for (const id of ['A', 'B']) doc.activities.set(id, { ...sure(doc.activities.get(id)), pictureId: 'pic', lookId: 'look' });
    return doc;
  };
  const kept = (doc: Document, ids: string[]) => ids.map((id) => [doc.activities.get(id)?.pictureId, doc.activities.get(id)?.lookId]);
  test('each that is used travels once', () => {
    const { pictures, looks } = sure(copyRows(plan(), 'p', ['A', 'B', 'C'].map(act), false));
    expect([pictures, looks.map((l) => l.id)]).toEqual([[picture], ['look']]);
    expect(sure(copyRows(plan(), 'p', [act('C')], false))).toMatchObject({ pictures: [], looks: [] });
  });
  test('in the same project they stay, and are left out where they are gone', () => {
    const doc = plan();
    const clip = sure(copyRows(doc, 'p', ['A', 'C'].map(act), false));
    expect(kept(doc, mustBack(doc, pasteRows(doc, 'p', clip, null, newId)))).toEqual([
      ['pic', 'look'],
      [null, null],
    ]);
    const bare = documentOf({ activities: [['X', '1d']] });
    expect(kept(bare, mustBack(bare, pasteRows(bare, 'p', clip, null, newId)))).toEqual([
      [null, null],
      [null, null],
    ]);
  });
});

describe('order', () => {
  /** Nodes N (with A and in it M with B) and O (with C), then D: chosen in any order they come as they stand. */
  const plan = (): Document => {
    const doc = documentOf({ activities: ['A', 'B', 'C', 'D'].map((id): [string, string] => [id, '1d']), links: ['C > D', 'A > B', 'B > C'] });
    nodeInto(doc, 'N', null, 0);
    nodeInto(doc, 'O', null, 1);
    nodeInto(doc, 'M', 'N', 2);
    putInto(doc, 'A', 'N', 3);
    putInto(doc, 'B', 'M', 0);
    putInto(doc, 'C', 'O', 0);
    putInto(doc, 'D', null, 2);
    return doc;
  };
  test.each([
    [['D', 'C', 'A', 'B'], 'B A C D'],
    [['O', 'B', 'A'], 'B A O'],
    [['D', 'O', 'M'], 'M O D'],
    [['D', 'N', 'B'], 'N D'],
  ])('of %j on top: %s', (ids, order) =>
    expect(
      copy(plan(), ids)
        .top.map((r) => r.id)
        .join(' '),
    ).toBe(order),
  );
  test('of links is kept, whatever the rows’ is, behind those that are there', () => {
    const doc = plan();
    const clip = copy(doc, ['D', 'C', 'A', 'B']);
    expect(clip.links.map((l) => l.id)).toEqual(['l0', 'l1', 'l2']);
    const most = Math.max(...[...doc.links.values()].map((l) => l.rank));
    const [b, a, c, d] = mustBack(doc, pasteRows(doc, 'p', clip, null, newId));
    expect([...doc.links.values()].filter((l) => l.rank > most).map((l) => [l.from, l.to, l.rank - most])).toEqual([
      [c, d, 1],
      [a, b, 2],
      [b, c, 3],
    ]);
    expect(indexOf(doc).linksInto(sure(b)).length).toBe(1);
  });
  test('what is below the rows on top keeps its place there', () => {
    const doc = plan();
    const [top] = mustBack(doc, pasteRows(doc, 'p', copy(doc, ['N']), { kind: 'wbs', id: 'O' }, newId));
    const below = indexOf(doc).childrenOf(sure(top));
    expect(below.map((r) => [(doc.wbs.get(r.id) ?? doc.activities.get(r.id))?.name, (doc.wbs.get(r.id) ?? doc.activities.get(r.id))?.rank])).toEqual([
      ['M', 2],
      ['A', 3],
    ]);
  });
});

test('a clipboard whose links name rows that are not in it brings the others', () => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
    ],
    links: ['A > B'],
  });
  const clip = copy(doc, ['A', 'B']);
  const [link] = clip.links;
  clip.links.push({ ...sure(link), id: 'x', from: 'gone' }, { ...sure(link), id: 'y', to: 'gone' });
  const made = mustBack(doc, pasteRows(doc, 'p', clip, null, newId));
  expect([doc.links.size, [...doc.links.values()].at(-1)]).toMatchObject([2, { from: made[0], to: made[1] }]);
});

test('what would lie too deep is refused, and nothing is pasted', () => {
  const doc = documentOf({ activities: [] });
  for (let i = 0; i < limits.wbsDepth; i++) nodeInto(doc, `d${i}`, i === 0 ? null : `d${i - 1}`, 0);
  // The last node but one and the last, into the node of each depth.
  const clip = copy(doc, [`d${limits.wbsDepth - 2}`]);
  const put = (depth: number): string => says(pasteRows(doc, 'p', clip, { kind: 'activity', id: `in ${depth}` }, newId));
  for (const depth of [98, 99]) {
    doc.activities.set(`in ${depth}`, { ...sure(documentOf({ activities: [['A', '1d']] }).activities.get('A')), id: `in ${depth}`, wbsId: `d${depth - 1}` });
  }
  expect([put(98), put(99)]).toEqual(['taken', 'd98 and what is in it would lie more than 100 levels deep. Put it higher up.']);
});

test('pasted below its parent’s row it follows that row', () => {
  const doc = documentOf({
    activities: [
      ['A', '1d'],
      ['B', '1d'],
      ['C', '1d'],
    ],
  });
  const [made] = mustBack(doc, pasteRows(doc, 'p', copy(doc, ['A']), act('B'), newId));
  expect([...doc.activities.values()].sort((x, y) => x.rank - y.rank).map((a) => a.id)).toEqual(['A', 'B', made, 'C']);
});
