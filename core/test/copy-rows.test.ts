/** Copied rows keep their logic among each other and touch nothing else: in a project, between projects, cut and moved. */
import fc from 'fast-check';
import { applyChanges, type Change, invertChanges } from '@yellowhammer/core/change/change';
import { addActivity, addWbs, type RowRef } from '@yellowhammer/core/commands/outline';
import { type Clip, copyRows, incomingLinks, pasteRows, readClip } from '@yellowhammer/core/commands/copy-rows';
import { linkInOrder } from '@yellowhammer/core/commands/links';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { d, documentOf, must, mustBack, nights, sure } from './helpers';

let n = 0;
const newId = (): string => `n${++n}`;
const outline = (doc: Document): string[] =>
  outlineRows(doc).map((r) => `${'.'.repeat(r.depth)}${r.kind === 'wbs' ? `[${r.node.name}]` : `${r.activity.code} ${r.activity.name}`}`);
const finishes = (doc: Document): Record<string, string> => {
  const r = sure(schedule(doc).computed);
  return Object.fromEntries(r.network.ids.map((id, i) => [sure(doc.activities.get(id)).code, formatInstant(r.early.finish[r.network.nodeOf[i]!]!).slice(5)]));
};
const links = (doc: Document): string[] => [...doc.links.values()].map((l) => `${sure(doc.activities.get(l.from)).code}>${sure(doc.activities.get(l.to)).code}`).sort();
/** Tower with strip 2d and paint 1d linked, an outer activity before them, one after them at the top. */
function start(): { doc: Document; ref: (name: string) => RowRef } {
  const doc = documentOf({ activities: [] });
  const act = (name: string, below: RowRef | null, duration: number): RowRef => ({ kind: 'activity', id: must(doc, addActivity(doc, below, { name, duration }, newId))[0]! });
  const before = act('fence', null, d(1));
  const tower: RowRef = { kind: 'wbs', id: must(doc, addWbs(doc, before, 'Tower', newId))[0]! };
  const strip = act('strip', tower, d(2));
  const paint = act('paint', strip, d(1));
  const after: RowRef = { kind: 'wbs', id: must(doc, addWbs(doc, tower, 'Yard', newId))[0]! };
  const tidy = act('tidy', after, d(1));
  must(doc, linkInOrder(doc, [before.id, strip.id, paint.id, tidy.id], newId));
  const all: Record<string, RowRef> = { fence: before, Tower: tower, strip, paint, Yard: after, tidy };
  return { doc, ref: (name) => all[name]! };
}
const copy = (doc: Document, refs: RowRef[], cut = false, project = 'p'): Clip => readClip(JSON.stringify(copyRows(doc, project, refs, cut))) as Clip;

test('a branch copied twice: its links among itself come along, the originals have not changed', () => {
  const { doc, ref } = start();
  const was = writeDocument(doc);
  const clip = copy(doc, [ref('Tower')]);
  const first = pasteRows(doc, 'p', clip, ref('Tower'), newId);
  must(doc, first);
  must(doc, pasteRows(doc, 'p', clip, ref('Yard'), newId));
  expect(outline(doc)).toEqual([
    '101 fence',
    '[Tower]',
    '.102 strip',
    '.103 paint',
    '[Tower]',
    '.105 strip',
    '.106 paint',
    '[Yard]',
    '.104 tidy',
    '[Tower]',
    '.107 strip',
    '.108 paint',
  ]);
  expect(links(doc)).toEqual(['101>102', '102>103', '103>104', '105>106', '107>108']);
  // Fence on Monday, strip to Wednesday, paint on Thursday, tidy on Friday; the copies begin on Monday by themselves.
  expect(finishes(doc)).toEqual({
    101: '03-02T17:00',
    102: '03-04T17:00',
    103: '03-05T17:00',
    104: '03-06T17:00',
    105: '03-03T17:00',
    106: '03-04T17:00',
    107: '03-03T17:00',
    108: '03-04T17:00',
  });
  const again = copyDocument(doc);
  for (const rows of [again.activities, again.wbs]) for (const id of rows.keys()) if (!was.includes(`"${id}"`)) rows.delete(id);
  for (const [id, l] of again.links) if (!again.activities.has(l.from) || !again.activities.has(l.to)) again.links.delete(id);
  expect(writeDocument(again)).toBe(was);
});

test('cut and pasted elsewhere the rows themselves move, with every link they have', () => {
  const { doc, ref } = start();
  const clip = copy(doc, [ref('paint')], true);
  const o = pasteRows(doc, 'p', clip, ref('tidy'), newId);
  must(doc, o);
  expect(outline(doc)).toEqual(['101 fence', '[Tower]', '.102 strip', '[Yard]', '.104 tidy', '.103 paint']);
  expect(links(doc)).toEqual(['101>102', '102>103', '103>104']);
  expect(pasteRows(doc, 'p', copy(doc, [ref('Tower')], true), ref('strip'), newId)).toMatchObject({ ok: false, problems: [{ code: 'INTO_ITSELF' }] });
  // Pasted right where they are, rows stay, and that is said; the other way round they change places.
  expect(pasteRows(doc, 'p', copy(doc, [ref('tidy'), ref('paint')], true), ref('Yard'), newId)).toMatchObject({ ok: false, problems: [{ code: 'NOTHING_CHANGED' }] });
  must(doc, pasteRows(doc, 'p', copy(doc, [ref('paint')], true), ref('Yard'), newId));
  expect(outline(doc).slice(3)).toEqual(['[Yard]', '.103 paint', '.104 tidy']);
});

test('a copy has not been worked on; what was cut from another project keeps its progress', () => {
  const doc = documentOf({ project: { dataDate: '2026-03-05T08:00' }, activities: [['A', '2d', { actualStart: '2026-03-02T08:00', actualFinish: '2026-03-03T17:00' }]] });
  const ref: RowRef = { kind: 'activity', id: 'A' };
  const pasted = (cut: boolean): string | null => {
    const into = copyDocument(doc);
    const id = must(into, pasteRows(into, 'q', copy(doc, [ref], cut), null, newId))[0]!;
    return sure(into.activities.get(id)).actualFinish;
  };
  expect([pasted(false), pasted(true)]).toEqual([null, '2026-03-03T17:00']);
});

test('into another project: numbers that are free stay, calendars of the same name and hours are met, others come along', () => {
  const from = documentOf({
    activities: [
      ['A1', '2d @nights'],
      ['A2', '1d @own'],
    ],
    links: ['A1 +1d [calendar:own] > A2'],
    calendars: [{ id: 'own', name: 'Own', basedOn: 'nights', exceptions: [{ name: 'stop', from: '2026-03-04', work: [] }] }],
  });
  const into = documentOf({ activities: [['A2', '1d']] });
  const clip = copy(
    from,
    ['A1', 'A2'].map((id) => ({ kind: 'activity', id })),
  );
  must(into, pasteRows(into, 'q', clip, null, newId));
  const [, one, two] = outlineRows(into).flatMap((r) => (r.kind === 'activity' ? [r.activity] : []));
  expect([one?.code, two?.code, one?.calendarId]).toEqual(['A1', '101', 'nights']);
  const own = sure(into.calendars.get(sure(two?.calendarId)));
  expect([own.name, own.basedOn, own.exceptions.length, own.week]).toEqual(['Own', null, 1, sure(from.calendars.get('nights')).week]);
  expect([...into.links.values()].map((l) => l.lagCalendar)).toEqual([`calendar:${own.id}`]);
  // The same again finds what was brought the first time.
  const before = into.calendars.size;
  must(into, pasteRows(into, 'q', clip, null, newId));
  expect([into.calendars.size, nights.id]).toEqual([before, 'nights']);
});

test('links from outside come along only where they are wanted, with their types and lags', () => {
  const outside = documentOf({
    activities: [
      ['R', 'start'],
      ['A', '2d'],
      ['B', '1d'],
      ['Z', '1d'],
    ],
    links: ['R SS+1d > A', 'A > B', 'R FF > B', 'B > Z'],
  });
  const clip = copy(
    outside,
    ['A', 'B'].map((id) => ({ kind: 'activity', id })),
  );
  expect(incomingLinks(outside, 'p', clip).map((l) => l.id)).toEqual(['l0', 'l2']);
  const made = mustBack(outside, pasteRows(outside, 'p', clip, { kind: 'activity', id: 'Z' }, newId, true));
  const lead = (id: string): string[] =>
    indexOf(outside)
      .linksInto(id)
      .map((l) => `${l.from} ${l.type} ${l.lag}`);
  expect([lead(sure(made[0])), lead(sure(made[1]))]).toEqual([['R SS 480'], [`${made[0]} FS 0`, 'R FF 0']]);
  expect(indexOf(outside).linksOutOf(sure(made[1]))).toEqual([]);
  const [alone] = mustBack(outside, pasteRows(outside, 'p', clip, null, newId));
  expect(lead(sure(alone))).toEqual([]);
  // Of another project, or moved, there are none to ask about.
  expect([incomingLinks(outside, 'q', clip), incomingLinks(outside, 'p', { ...clip, cut: true })]).toEqual([[], []]);
});

test.each([
  '',
  '{}',
  '{"format":"yellowhammer-rows"}',
  '{"format":"yellowhammer-rows","projectId":"p","cut":false,"top":[],"wbs":[],"activities":[],"links":[],"calendars":[]}',
  'yellowhammer-rows',
])('a clipboard of another kind is none of ours: %s', (text) => expect(readClip(text)).toBeUndefined());

test('any rows pasted anywhere: what was there is the same row for row, and undo leaves nothing', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(20), fc.nat(20), fc.boolean()), { minLength: 1, maxLength: 5 }), (acts) => {
      const { doc } = start();
      const text = writeDocument(doc);
      const done: Change[][] = [];
      for (const [what, where, two] of acts) {
        const rows = outlineRows(doc);
        const ref = (i: number): RowRef => ({ kind: rows[i % rows.length]!.kind, id: rows[i % rows.length]!.id });
        const before = new Map<string, unknown>([...doc.activities, ...doc.wbs, ...doc.links]);
        const o = pasteRows(doc, 'p', copy(doc, two ? [ref(what), ref(what + 3)] : [ref(what)]), ref(where), newId);
        if (!o.ok) throw new Error(o.problems[0]!.message);
        applyChanges(doc, o.changes);
        done.push(o.changes);
        const after = new Map<string, unknown>([...doc.activities, ...doc.wbs, ...doc.links]);
        for (const [id, row] of before) {
          // Ranks may be spread out anew where there is no room between two rows.
          expect({ ...(after.get(id) as object), rank: 0 }).toEqual({ ...(row as object), rank: 0 });
        }
        expect(new Set([...doc.activities.values()].map((a) => a.code)).size).toBe(doc.activities.size);
      }
      for (const changes of done.reverse()) applyChanges(doc, invertChanges(changes));
      expect(writeDocument(doc)).toBe(text);
    }),
    { numRuns: 60 },
  );
});
