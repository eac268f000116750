/** The drawing of the plan as far as it can be judged without a browser: scale, ruler, lines, bars, cells. */
import fc from 'fast-check';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import type { Activity } from '@yellowhammer/core/model/schema';
import { barOf } from '@yellowhammer/core/schedule/bars';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { outlineRows } from '@yellowhammer/core/outline/outline';
import { formatInstant, parseInstant } from '@yellowhammer/core/time/instant';
import { sky } from '@yellowhammer/demo/scenario';
import { builtIn } from '@yellowhammer/core/fields/list';
import { indexOf } from '@yellowhammer/core/model/doc-index';
import { editText, showText } from '../src/plan/columns';
import { calendarRuns, constraintsOf, gapsOf, lagsOf, pathParts } from '@yellowhammer/core/plan/ribbon-marks';
import { type Scale, tellsShifts, ticks, tOf, xOf } from '../src/plan/scale';
import { besideLine, linkPath } from '../src/plan/shapes';
import { stampOutcome } from '@yellowhammer/core/plan/stamp';
import { floatText, longFinish, signedDays } from '../src/app/format';

const at = (text: string): number => parseInstant(text) as number;
const scale = (pixelsPerDay: number, from = '2026-03-02T00:00'): Scale => ({ from: at(from), ppm: pixelsPerDay / 1440, width: 800 });

test('pixels and minutes are inverses', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.05, max: 300, noNaN: true }), fc.integer({ min: -2000, max: 4000 }), (zoom, x) => {
      const s = scale(zoom);
      expect(Math.abs(xOf(s, tOf(s, x)) - x)).toBeLessThanOrEqual(s.ppm);
    }),
  );
});

test.each([
  [0.2, ['2027', '2028']],
  [2, ['Apr', 'May', 'Jun']],
  [3, ['April', 'May', 'June']],
  [20, ['April 2026']],
])('at %d pixels a day the ruler reads %j', (zoom, labels) => {
  const words = ticks(scale(zoom))
    .filter((t) => t.major && t.t > at('2026-03-02T00:00'))
    .map((t) => t.label);
  expect(words.slice(0, labels.length)).toEqual(labels);
});

test('the ruler never crowds: labels of one kind keep their distance at every zoom', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.05, max: 200, noNaN: true }), (zoom) => {
      const s = scale(zoom);
      for (const major of [true, false]) {
        const list = ticks(s).filter((t) => t.major === major && t.label);
        for (let i = 1; i < list.length; i++) expect(xOf(s, list[i]!.t) - xOf(s, list[i - 1]!.t)).toBeGreaterThan(major ? 24 : 12);
      }
    }),
  );
});

test('the beginnings of shifts are told between days where hours have no room yet', () => {
  const days = (n: number): Scale => ({ from: 0, ppm: n / 1440, width: 400 });
  const shifts = [7 * 60, 13 * 60, 1440 + 7 * 60];
  const minor = (n: number): string[] => ticks(days(n), shifts).flatMap((t) => (t.major ? [] : [t.label]));
  // Six hours at 80 a day are 20 pixels: too near for a second label.
  expect(minor(80)).toEqual(['07:00', '', '07:00']);
  expect([tellsShifts(days(63)), tellsShifts(days(64)), tellsShifts(days(96))]).toEqual([false, true, false]);
  expect(ticks(days(80), shifts).filter((t) => t.major).length).toBe(6);
});

test.each<[number, number, number | undefined, 1 | -1, number]>([
  [100, 50, undefined, 1, 100],
  [100, 50, 90, 1, 100],
  [100, 50, 160, 1, 100],
  // Through the text: beyond the line, 5 pixels from it.
  [100, 50, 110, 1, 115],
  [100, 50, 140, -1, 85],
  // Further than 30 pixels from its bar it would be nobody's.
  [100, 50, 126, 1, 100],
  [100, 50, 125, 1, 130],
])('a text at %i, %i wide, beside a line at %s', (x, width, line, step, at) => expect(besideLine(x, width, line, step)).toBe(at));

test('a link leaves and arrives at the ends it should, with right angles only', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -500, max: 900 }),
      fc.integer({ min: -500, max: 900 }),
      fc.integer({ min: 0, max: 400 }),
      fc.integer({ min: 0, max: 400 }),
      fc.boolean(),
      fc.boolean(),
      (x1, x2, y1, y2, a, b) => {
        const path = linkPath(x1, y1, a, x2, y2, b);
        expect(path.startsWith(`M${x1} ${y1}`)).toBe(true);
        expect(path.endsWith(`H${x2}`)).toBe(true);
        expect(path.replace(/[MHV]/g, '').trim()).toMatch(/^[-\d. ]+$/);
      },
    ),
  );
});

describe('the demo plan in the sheet', () => {
  const doc = sky().document;
  const { computed, problems } = schedule(doc);
  if (!computed) throw new Error('not computed');
  const view = viewOf(doc, computed, problems, undefined);
  const context = { doc, view, baseline: null, clock: false };
  const rows = outlineRows(doc);
  const row = (code: string) => {
    const r = rows.find((x) => x.kind === 'activity' && x.activity.code === code);
    if (!r) throw new Error(code);
    return r;
  };

  test.each([
    ['555', 'duration', '18d'],
    ['555', 'float', '0d'],
    ['555', 'start', '19 Sep 26'],
    ['405', 'predecessors', '400SS+4d, 400FF+3d'],
    ['640', 'constraint', 'start not after 7 Apr 27'],
    ['905', 'type', 'Finish milestone'],
    ['990', 'float', ''],
  ] as const)('%s %s shows %s', (code, column, text) => expect(showText(row(code), column, context)).toBe(text));

  test('every cell of every row can be shown, and what can be typed reads back', () => {
    for (const r of rows) for (const f of builtIn) expect(typeof showText(r, f.key, context)).toBe('string');
    expect(editText(row('405'), 'predecessors', context)).toBe('400SS+4d, 400FF+3d');
  });

  test('a bar that meets the winter stop is broken there, and its pieces cover the work and nothing twice', () => {
    const bar = barOf(doc, view, doc.activities.get(row('560').id) as Activity);
    expect(bar?.pieces.map((p) => [p.done, p.to <= at('2026-11-16T00:00') || p.from >= at('2027-03-01T00:00')])).toEqual([
      [false, true],
      [false, true],
    ]);
    for (const a of doc.activities.values()) {
      const b = barOf(doc, view, a);
      if (!b) continue;
      for (let i = 0; i < b.pieces.length; i++) {
        expect(b.pieces[i]!.to).toBeGreaterThan(b.pieces[i]!.from);
        if (i > 0) expect(b.pieces[i]!.from).toBeGreaterThanOrEqual(b.pieces[i - 1]!.to);
      }
    }
  });
});

test('figures in words', () => {
  expect([signedDays(12), signedDays(-5), signedDays(0), floatText(-240, 480), longFinish(at('2027-09-08T00:00'))]).toEqual(['+12 d', '−5 d', '0 d', '−0.5d', 'Tue 7 Sep 2027']);
  expect(readProjectFile(null).file).toBeUndefined();
});

test('the ribbon tells gaps with their reason, lags, constraints and calendars of a path', () => {
  const five = [
    ['08:00', '12:00'],
    ['13:00', '17:00'],
  ];
  const week = [five, five, five, five, five, [], []];
  const read = readProjectFile({
    format: 'yellowhammer-project',
    version: 1,
    project: { id: 'project', plannedStart: '2026-03-02T08:00', calendarId: 'five' },
    calendars: [
      { id: 'five', name: 'Five', week },
      { id: 'stop', name: 'Stop', week, exceptions: [{ name: 'regatta', from: '2026-03-09', to: '2026-03-20', work: [] }] },
    ],
    activities: [
      { id: 'a', duration: 2400 },
      { id: 'b', duration: 480, calendarId: 'stop' },
      { id: 'c', duration: 480, calendarId: 'stop', constraints: [{ kind: 'startNotBefore', date: '2026-03-20' }] },
    ],
    links: [
      { id: 'l1', from: 'a', to: 'b' },
      { id: 'l2', from: 'b', to: 'c', lag: 960 },
    ],
  });
  const doc = read.file?.document;
  const s = doc && schedule(doc);
  if (!doc || !s?.computed) throw new Error('not computed');
  const view = viewOf(doc, s.computed, s.problems, undefined);
  const ids = ['a', 'b', 'c'];
  const path = pathParts(view, ids);
  // A ends on Friday 6; B waits for the end of the regatta, Monday 23; C two working days after it, on Thursday 26.
  const text = (t: number): string => formatInstant(t).slice(5, 16);
  expect(gapsOf(doc, view, path).map((g) => [text(g.from), text(g.to), g.text])).toEqual([['03-06T17:00', '03-23T08:00', '17 days: regatta']]);
  const { outOf } = indexOf(doc);
  expect(lagsOf(view, ids, (id) => outOf.get(id) ?? []).map((l) => [text(l.from), text(l.to), l.text])).toEqual([['03-23T17:00', '03-26T08:00', '+2d']]);
  expect([...constraintsOf(doc, path)]).toEqual([['c', 'start not before 20 Mar 26']]);
  expect(calendarRuns(doc, view, path).map((r) => [r.text, text(r.from), text(r.to)])).toEqual([
    ['Five', '03-02T08:00', '03-06T17:00'],
    ['Stop', '03-23T08:00', '03-26T17:00'],
  ]);
});

test('a stamp: a WBS node alone stands for what is in it; swept over between activities it does not; what has the value is left', () => {
  const doc = sky().document;
  const node = [...doc.wbs.values()].find((w) => [...doc.activities.values()].some((a) => a.wbsId === w.id)) as { id: string };
  const inside = [...doc.activities.values()].filter((a) => a.wbsId === node.id);
  const touched = (ids: string[], calendarId: string | null): string[] => {
    const name = calendarId === null ? '' : (doc.calendars.get(calendarId)?.name ?? '');
    const outcome = stampOutcome(doc, ids, { key: 'calendar', text: name }, () => 'new');
    return outcome.ok ? outcome.changes.map((c) => c.id) : [];
  };
  expect(touched([node.id], 'curing').sort()).toEqual(
    inside
      .filter((a) => a.calendarId !== 'curing')
      .map((a) => a.id)
      .sort(),
  );
  expect(touched([inside[0]!.id, node.id, inside[1]!.id], 'curing')).toEqual([inside[0]!.id, inside[1]!.id]);
  expect(touched([inside[0]!.id], inside[0]!.calendarId)).toEqual([]);
  expect(touched(['gone'], 'curing')).toEqual([]);
  const one = stampOutcome(doc, [inside[0]!.id], { key: 'calendar', text: doc.calendars.get('night')?.name ?? '' }, () => 'new');
  expect(one).toMatchObject({ ok: true, label: `Stamp Night commissioning on ${inside[0]!.code} ${inside[0]!.name}` });
});
