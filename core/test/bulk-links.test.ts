/** Many links at once: what is made, what is refused and why, and links that say nothing new. */
import fc from 'fast-check';
import { applyChanges } from '@yellowhammer/core/change/change';
import { changeLinks, clearLinks, copyLinks, insertIntoLink, joinAround, linkEach, reverseLinks } from '@yellowhammer/core/commands/bulk-links';
import { deleteLinks } from '@yellowhammer/core/commands/links';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import type { Activity, Link } from '@yellowhammer/core/model/schema';
import { redundantLinks } from '@yellowhammer/core/plan/redundant';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { d, documentOf, mustBack, type PlanText, says, viewIn } from './helpers';

let n = 0;
const newId = (): string => `new${++n}`;
const plan = (links: string[], more: Partial<PlanText> = {}): Document =>
  documentOf({ activities: ['A', 'B', 'C', 'D', 'E', 'F'].map((id): [string, string] => [id, '1d']), links, ...more });
const take = mustBack;
const text = (doc: Document, l: Pick<Link, 'from' | 'to' | 'type' | 'lag'>): string =>
  `${doc.activities.get(l.from)?.code} ${l.type}${l.lag ? `${l.lag > 0 ? '+' : ''}${l.lag / 480}d` : ''} ${doc.activities.get(l.to)?.code}`;
const linksIn = (doc: Document): string[] => [...doc.links.values()].map((l) => text(doc, l)).sort();
const ids = (doc: Document, ...texts: string[]): string[] =>
  texts.map((t) => {
    const found = [...doc.links.values()].find((l) => text(doc, l) === t);
    if (!found) throw new Error(`no link ${t}`);
    return found.id;
  });

describe('each of these to each of those', () => {
  test('all pairs, of one type and with a lag in days of each predecessor', () => {
    const doc = plan([]);
    doc.activities.set('B', { ...(doc.activities.get('B') as Activity), calendarId: 'clock' });
    const r = linkEach(doc, ['A', 'B'], ['C', 'D'], 'SS', newId, (a) => (a.calendarId === 'clock' ? 1440 : 480));
    expect([r.made, r.skipped]).toEqual([4, []]);
    take(doc, r.outcome);
    expect(linksIn(doc)).toEqual(['A SS+1d C', 'A SS+1d D', 'B SS+3d C', 'B SS+3d D']);
  });
  test('a loop, the same there already and an activity to itself are left out and named; the rest is made', () => {
    const doc = plan(['C > E', 'E > A', 'B > D']);
    const r = linkEach(doc, ['A', 'B', 'D'], ['C', 'D'], 'FS', newId);
    expect(r.made).toBe(2);
    expect(r.skipped.map((s) => [s.from, s.to, s.code, s.loop])).toEqual([
      ['A', 'C', 'LOOP', ['C', 'E', 'A', 'C']],
      ['B', 'D', 'DUPLICATE_LINK', undefined],
      // C leads to A already, and A to D by this very act.
      ['D', 'C', 'LOOP', ['C', 'E', 'A', 'D', 'C']],
      ['D', 'D', 'LOOP', undefined],
    ]);
    take(doc, r.outcome);
    expect(linksIn(doc)).toEqual(['A FS D', 'B FS C', 'B FS D', 'C FS E', 'E FS A']);
  });
  test('a loop through links of the same act is seen', () => {
    const doc = plan([]);
    const r = linkEach(doc, ['A', 'B'], ['A', 'B'], 'FS', newId);
    expect([r.made, r.skipped.map((s) => s.loop)]).toEqual([1, [undefined, ['A', 'B', 'A'], undefined]]);
  });
  test('where nothing can be made it is refused with the first reason', () => {
    const doc = plan(['A > B']);
    expect(says(linkEach(doc, ['A'], ['B'], 'FS', newId).outcome)).toContain('already linked FS');
    expect(says(linkEach(doc, [], ['B'], 'FS', newId).outcome)).toContain('nothing to link');
  });
  test('what is made never holds a loop', () => {
    const some = fc.array(fc.constantFrom('A', 'B', 'C', 'D', 'E', 'F'), { maxLength: 4 });
    fc.assert(
      fc.property(some, some, some, some, (a, b, c, e) => {
        const doc = plan([]);
        for (const [x, y] of [
          [a, b],
          [c, e],
        ] as const) {
          const r = linkEach(doc, [...new Set(x)], [...new Set(y)], 'FS', newId);
          if (r.outcome.ok) applyChanges(doc, r.outcome.changes);
        }
        expect(schedule(doc).problems.filter((p) => p.code === 'LOOP')).toEqual([]);
      }),
      { numRuns: 100 },
    );
  });
});

describe('copying the links of one to many', () => {
  test('predecessors with types, lags and lag calendars', () => {
    const doc = plan(['A SS+2d > C', 'B FS-1d [elapsed] > C', 'C > F']);
    const r = copyLinks(doc, 'C', ['D', 'E', 'C'], 'predecessors', {}, newId);
    take(doc, r.outcome);
    expect(linksIn(doc)).toEqual(['A SS+2d C', 'A SS+2d D', 'A SS+2d E', 'B FS-1d C', 'B FS-1d D', 'B FS-1d E', 'C FS F']);
    expect([...doc.links.values()].filter((l) => l.from === 'B').map((l) => l.lagCalendar)).toEqual(['elapsed', 'elapsed', 'elapsed']);
  });
  test('only those picked, with one type and lag; a target that is its own predecessor is named', () => {
    const doc = plan(['A SS+2d > C', 'B FS-1d [elapsed] > C']);
    const r = copyLinks(doc, 'C', ['B', 'D'], 'predecessors', { only: new Set(ids(doc, 'B FS-1d C')), type: 'FF', lag: () => 60 }, newId);
    expect(r.skipped.map((s) => [s.from, s.to, s.code])).toEqual([['B', 'B', 'LOOP']]);
    take(doc, r.outcome);
    const made = [...doc.links.values()].find((l) => l.to === 'D');
    expect(made).toMatchObject({ from: 'B', type: 'FF', lag: 60, lagCalendar: null });
  });
  test('successors', () => {
    const doc = plan(['C > E', 'C SF > F']);
    take(doc, copyLinks(doc, 'C', ['A'], 'successors', {}, newId).outcome);
    expect(linksIn(doc)).toEqual(['A FS E', 'A SF F', 'C FS E', 'C SF F']);
  });
});

test('links are turned round, all or none', () => {
  const doc = plan(['A > B', 'B SS+1d > C', 'C > D']);
  const r = reverseLinks(doc, ids(doc, 'A FS B', 'B SS+1d C'), newId);
  take(doc, r.outcome);
  expect(linksIn(doc)).toEqual(['B FS A', 'C FS D', 'C SS+1d B']);
  const other = plan(['A > B', 'A > C', 'C > B']);
  expect(says(reverseLinks(other, ids(other, 'A FS B'), newId).outcome)).toContain('would close a loop: A > C > B > A');
});

test('type, lag and lag calendar of many; what may not be is named and nothing is changed', () => {
  const doc = plan(['A > B', 'A SS > B', 'C > D']);
  expect(says(changeLinks(doc, ids(doc, 'A FS B'), { type: 'SS' }))).toContain('already linked SS');
  expect(says(changeLinks(doc, ids(doc, 'A FS B', 'A SS B'), { type: 'FF' }))).toContain('already linked FF');
  take(doc, changeLinks(doc, ids(doc, 'A SS B', 'C FS D'), { type: 'FF', lag: () => d(2), lagCalendar: 'project' }));
  expect(linksIn(doc)).toEqual(['A FF+2d B', 'A FS B', 'C FF+2d D']);
  expect([...doc.links.values()].filter((l) => l.lagCalendar === 'project')).toHaveLength(2);
  expect(says(changeLinks(doc, ids(doc, 'A FF+2d B'), { lag: () => d(2) }))).toContain('so already');
  expect(says(changeLinks(doc, ['gone'], { type: 'FF' }))).toContain('Choose links');
});

test('links are taken away at one side or at both', () => {
  const doc = plan(['A > B', 'B > C', 'C > D']);
  const o = clearLinks(doc, ['B', 'C'], 'predecessors');
  expect(o.ok && o.changes.length).toBe(2);
  take(doc, o);
  expect(linksIn(doc)).toEqual(['C FS D']);
  expect(says(clearLinks(doc, ['B'], 'predecessors'))).toContain('have no predecessors');
  expect(says(clearLinks(doc, ['B'], 'both'))).toContain('have no links');
  take(doc, clearLinks(doc, ['C', 'D'], 'both'));
  expect(doc.links.size).toBe(0);
});

test.each([
  ['A > B', 'A FS E', 'E FS B'],
  ['A SS+2d > B', 'A SS+2d E', 'E FS B'],
  ['A FF+1d > B', 'A FS+1d E', 'E FF B'],
  ['A SF > B', 'A SS E', 'E FF B'],
])('an activity goes into the link %s', (link, into, out) => {
  const doc = plan([link, 'C > D']);
  take(doc, insertIntoLink(doc, 'l0', 'E', newId).outcome);
  expect(linksIn(doc)).toEqual([into, 'C FS D', out].sort());
});

test('an activity that is on the way already gets no second link, and one that would close a loop is refused', () => {
  const doc = plan(['A > B', 'A > E', 'B > F']);
  take(doc, insertIntoLink(doc, 'l0', 'E', newId).outcome);
  expect(linksIn(doc)).toEqual(['A FS E', 'B FS F', 'E FS B']);
  const other = plan(['A > B', 'B > F']);
  expect(says(insertIntoLink(other, 'l0', 'F', newId).outcome)).toContain('loop');
  expect(says(insertIntoLink(other, 'gone', 'F', newId).outcome)).toContain('not in the plan any more');
});

describe('joining around', () => {
  test('each predecessor to each successor, from end to end, with both lags', () => {
    const doc = plan(['A FS+1d > C', 'B SS > C', 'C FS+2d > D', 'C FF > E']);
    take(doc, joinAround(doc, ['C'], false, newId));
    expect(linksIn(doc)).toEqual(['A FF+1d E', 'A FS+3d D', 'B SF E', 'B SS+2d D']);
    expect(doc.activities.has('C')).toBe(true);
  });
  test('a chain is bridged as a whole, and taken out where that is wanted', () => {
    const doc = plan(['A > B', 'B FS+1d > C', 'C > D', 'A > D']);
    take(doc, joinAround(doc, ['B', 'C'], true, newId));
    // A to D stands there already; the longer lag holds both.
    expect([linksIn(doc), doc.activities.has('B'), doc.activities.has('C')]).toEqual([['A FS+1d D'], false, false]);
  });
  test('a lag goes on being counted where it was', () => {
    const doc = plan(['A > C', 'C FS+2d > D']);
    doc.activities.set('C', { ...(doc.activities.get('C') as Activity), calendarId: 'clock' });
    take(doc, joinAround(doc, ['C'], true, newId));
    expect([...doc.links.values()][0]).toMatchObject({ from: 'A', to: 'D', lag: d(2), lagCalendar: 'calendar:clock' });
  });
  test('into a margin only finish to start leads', () => {
    const doc = plan(['A SS > C', 'C > M'], {
      activities: [
        ['A', '1d'],
        ['C', '1d'],
        ['M', 'margin 2d'],
      ],
    });
    take(doc, joinAround(doc, ['C'], true, newId));
    expect(linksIn(doc)).toEqual(['A FS M']);
    expect(says(joinAround(doc, ['C'], true, newId))).toContain('Select activities');
  });
});

describe('redundant links', () => {
  test.each<[string[], string[]]>([
    [['A > B', 'B > C', 'A > C'], ['A FS C']],
    [['A > B', 'B > C', 'A FS+1d > C'], []],
    [['A FS+1d > B', 'B > C', 'A FS+1d > C'], ['A FS+1d C']],
    [['A FS+1d [elapsed] > B', 'B > C', 'A FS+1d > C'], []],
    [['A > B', 'B FS-1d > C', 'A > C'], []],
    [['A > B', 'B > C', 'A SS > C'], ['A SS C']],
    [['A > B', 'B > C', 'A FF > C'], ['A FF C']],
    [['A SS > B', 'B > C', 'A > C'], []],
    [['A SS > B', 'B > C', 'A SS > C'], ['A SS C']],
    // What holds B's finish does not hold its start.
    [['A FF > B', 'B SS > C', 'A SS > C'], []],
    [['A FF > B', 'B > C', 'A > C'], ['A FS C']],
    [['A > B', 'B FF > C', 'A > C'], []],
    [['A > B', 'B FF > C', 'A FF > C'], ['A FF C']],
    [['A SS > B', 'B SF > C', 'A SF > C'], ['A SF C']],
    [
      ['A > B', 'B > C', 'C > D', 'A > D', 'A > C', 'B > D'],
      ['A FS C', 'A FS D', 'B FS D'],
    ],
  ])('%j: %j', (links, redundant) => {
    const doc = plan(links);
    expect(
      redundantLinks(doc)
        .map((l) => text(doc, l))
        .sort(),
    ).toEqual(redundant);
  });
  test.each([
    ['begun', { actualStart: '2026-03-02T08:00' }, { dataDate: '2026-03-03T08:00' }],
    ['a level of effort', { type: 'levelOfEffort' }, {}],
    ['a margin', { type: 'margin' }, {}],
  ])('a chain through an activity that is %s is not relied on', (_, fields, project) => {
    const doc = plan(['A > B', 'B > C', 'A > C'], { project });
    doc.activities.set('B', { ...(doc.activities.get('B') as Activity), ...(fields as Partial<Activity>) });
    expect(redundantLinks(doc)).toEqual([]);
  });
  test('taking all of them out moves no date and no float', () => {
    const edge = fc.tuple(fc.nat(7), fc.nat(7), fc.constantFrom('FS', 'FS', 'FS', 'SS', 'FF', 'SF'), fc.constantFrom(0, 0, 0, 1, 2));
    let found = 0;
    fc.assert(
      fc.property(fc.array(edge, { minLength: 6, maxLength: 26 }), fc.array(fc.constantFrom('', '@six', '@clock'), { minLength: 8, maxLength: 8 }), (links, calendars) => {
        const doc = documentOf({
          activities: Array.from({ length: 8 }, (_, i): [string, string] => [`N${i}`, `${1 + (i % 3)}d ${calendars[i]}`]),
          links: links.flatMap(([a, b, type, lag], i) =>
            a < b && links.findIndex((x) => x[0] === a && x[1] === b && x[2] === type) === i ? [`N${a} ${type}+${lag}d > N${b}`] : [],
          ),
        });
        const without = copyDocument(doc);
        const out = redundantLinks(doc);
        found += out.length;
        if (out.length)
          take(
            without,
            deleteLinks(
              without,
              out.map((l) => l.id),
            ),
          );
        const [a, b] = [doc, without].map((x) => {
          const v = viewIn(x);
          return [v.start, v.finish, v.totalFloat];
        });
        expect(b).toEqual(a);
      }),
      { numRuns: 300 },
    );
    expect(found).toBeGreaterThan(50);
  });
});
