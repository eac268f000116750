/** Retained logic and progress override side by side. */
import { compareStatusLogic } from '@yellowhammer/core/compare/status-logic';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { isMilestone } from '@yellowhammer/core/model/activity-kinds';
import type { Document } from '@yellowhammer/core/model/document';
import { writeDocument } from '@yellowhammer/core/model/file';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { viewOf } from '@yellowhammer/core/schedule/view';
import { documentOf, type PlanText, sure } from './helpers';
import { planFile, smallPlan } from './twin/plans';

const shown = (activities: [string, string, Record<string, unknown>?][], links: string[]) => {
  const c = compareStatusLogic(documentOf({ activities, links, project: { dataDate: '2026-03-09T08:00' } }));
  return {
    finish: c && [formatInstant(c.retainedFinish), formatInstant(c.overrideFinish)],
    rows: c?.rows.map((r) => [r.id, r.direct, formatInstant(r.retained.ahead), formatInstant(r.override.ahead), r.heldBy.length]),
  };
};
const began = (day: string): Record<string, unknown> => ({ actualStart: `2026-03-${day}T08:00` });

test('started before its predecessor ends: held in one way, free in the other, and what follows goes with it', () => {
  // A has five of its ten days left: Monday 9 to Friday 13 March. B began on the 5th and has three days left.
  const r = shown(
    [
      ['A', '10d', { ...began('02'), remaining: 2400 }],
      ['B', '4d', { ...began('05'), remaining: 1440 }],
      ['C', '1d'],
    ],
    ['A > B', 'B > C'],
  );
  // Retained: B goes on from Monday 16, C is on Thursday 19. Override: B from Monday 9, C on Thursday 12; then A ends last, on the 13th.
  expect(r.finish).toEqual(['2026-03-19T17:00', '2026-03-13T17:00']);
  expect(r.rows).toEqual([
    ['B', true, '2026-03-16T08:00', '2026-03-09T08:00', 1],
    ['C', false, '2026-03-19T08:00', '2026-03-12T08:00', 0],
  ]);
});

test('finished before its predecessor: carried logic holds what comes after, only in retained logic', () => {
  const r = shown(
    [
      ['A', '5d'],
      ['B', '1d', { ...began('05'), actualFinish: '2026-03-05T17:00' }],
      ['C', '1d'],
    ],
    ['A > B', 'B > C'],
  );
  expect(r.rows?.filter((x) => x[0] === 'C')).toEqual([['C', true, '2026-03-16T08:00', '2026-03-09T08:00', 1]]);
});

test('work in sequence is the same both ways', () => {
  expect(
    shown(
      [
        ['A', '5d', { ...began('02'), remaining: 480 }],
        ['B', '2d'],
      ],
      ['A > B'],
    ).rows,
  ).toEqual([]);
});

const rowsOf = (p: PlanText) => compareStatusLogic(documentOf(p));

test('each way with its float, the days of the calendar, and what holds it in words', () => {
  const c = sure(
    rowsOf({
      // C stands before B in the file, but B is out of sequence itself. D has ten days to give.
      activities: [
        ['C', '1d @six'],
        ['A', '10d', { ...began('02'), remaining: 2400 }],
        ['B', '4d', { ...began('05'), remaining: 1440 }],
        ['D', '1d'],
      ],
      links: ['A > B', 'B > C', 'A > D'],
      project: { dataDate: '2026-03-09T08:00' },
    }),
  );
  expect(
    c.rows.map((r) => ({
      ...r,
      retained: [formatInstant(r.retained.ahead), formatInstant(r.retained.finish), r.retained.totalFloat],
      override: [formatInstant(r.override.ahead), formatInstant(r.override.finish), r.override.totalFloat],
    })),
  ).toEqual([
    // Retained: B 16 to 18 March, then C on the 19th, which is the finish. Override: B 9 to 11, C on the 12th, and D is the finish: C can wait
    // Friday, half of Saturday and Monday, B two days.
    {
      id: 'B',
      direct: true,
      minutesPerDay: 480,
      retained: ['2026-03-16T08:00', '2026-03-18T17:00', 0],
      override: ['2026-03-09T08:00', '2026-03-11T17:00', 960],
      heldBy: ['A A, finish to start'],
    },
    { id: 'C', direct: false, minutesPerDay: 480, retained: ['2026-03-19T08:00', '2026-03-19T17:00', 0], override: ['2026-03-12T08:00', '2026-03-12T17:00', 1200], heldBy: [] },
    // D begins on the 16th both ways; what it can wait differs with the finish.
    { id: 'D', direct: false, minutesPerDay: 480, retained: ['2026-03-16T08:00', '2026-03-16T17:00', 1440], override: ['2026-03-16T08:00', '2026-03-16T17:00', 0], heldBy: [] },
  ]);
});

test('what cannot be computed is not compared, and the plan stays as it was, whatever it is set to', () => {
  const none = documentOf({ activities: [['A', '1d']] });
  none.calendars.delete('five');
  expect(compareStatusLogic(none)).toBeUndefined();
  const plan = (statusLogic: string): PlanText => ({
    activities: [
      ['A', '10d', { ...began('02'), remaining: 2400 }],
      ['B', '4d', { ...began('05'), remaining: 1440 }],
    ],
    links: ['A > B'],
    options: { statusLogic },
    project: { dataDate: '2026-03-09T08:00' },
  });
  const doc = documentOf(plan('progressOverride'));
  const before = writeDocument(doc);
  expect(compareStatusLogic(doc)).toEqual(rowsOf(plan('retainedLogic')));
  expect(writeDocument(doc)).toBe(before);
});

/** Whether some predecessor of an activity has finished; a milestone has with its start. */
const afterFinished = (doc: Document, id: string): boolean =>
  [...doc.links.values()].some((l) => l.to === id && ((a) => a.actualFinish !== null || (isMilestone(a) && a.actualStart !== null))(sure(doc.activities.get(l.from))));

test('begun before the lag behind finished work is over: held in one way, free in the other, by its own link', () => {
  // A ended on Thursday the 5th; five days after it are over on Thursday the 12th. B began on the 6th and has a day left.
  const c = sure(
    rowsOf({
      activities: [
        ['A', '4d', { ...began('02'), actualFinish: '2026-03-05T17:00' }],
        ['B', '2d', { ...began('06'), remaining: 480 }],
      ],
      links: ['A FS+5d > B'],
      project: { dataDate: '2026-03-09T08:00' },
    }),
  );
  expect(c.rows.map((r) => [r.id, r.direct, formatInstant(r.retained.ahead), formatInstant(r.override.ahead), r.heldBy])).toEqual([
    ['B', true, '2026-03-13T08:00', '2026-03-09T08:00', ['A A, finish to start + 5d (Five)']],
  ]);
});

test('the rows are those that differ between two plans that are set the one way and the other', () => {
  let [some, direct, follows] = [0, 0, 0];
  for (let seed = 1; seed <= 150; seed++) {
    const file = planFile(smallPlan(seed, 8)) as { project: { options: Record<string, unknown> } };
    const doc = sure(readProjectFile(JSON.parse(JSON.stringify(file))).file).document;
    const c = compareStatusLogic(doc);
    const of = (statusLogic: string) => {
      const other = JSON.parse(JSON.stringify(file)) as typeof file;
      other.project.options['statusLogic'] = statusLogic;
      const d = sure(readProjectFile(other).file).document;
      const s = schedule(d);
      return s.computed && viewOf(d, s.computed, s.problems, undefined);
    };
    const [a, b] = [of('retainedLogic'), of('progressOverride')];
    if (!a || !b || !c) {
      expect([seed, a === undefined || b === undefined, c]).toEqual([seed, true, undefined]);
      continue;
    }
    const at = (v: typeof a, id: string) => ((i) => ({ ahead: v.aheadFrom[i]!, finish: v.finish[i]!, totalFloat: v.totalFloat[i]! }))(sure(v.ids.indexOf(id)));
    const expected = a.ids.filter((id) => JSON.stringify(at(a, id)) !== JSON.stringify(at(b, id)));
    expect([seed, [...c.rows].map((r) => r.id).sort()]).toEqual([seed, [...expected].sort()]);
    expect([c.retainedFinish, c.overrideFinish]).toEqual([a.projectFinish, b.projectFinish]);
    // Those that are out of sequence themselves first, each part in the order of the file.
    const place = (id: string): number => a.ids.indexOf(id) + (sure(c.rows.find((r) => r.id === id)).direct ? 0 : 1e6);
    expect(c.rows.map((r) => r.id)).toEqual([...c.rows.map((r) => r.id)].sort((x, y) => place(x) - place(y)));
    for (const r of c.rows) {
      expect([seed, r.id, r.retained, r.override]).toEqual([seed, r.id, at(a, r.id), at(b, r.id)]);
      const row = sure(doc.activities.get(r.id));
      // Begun and not done, or held by what has finished too early; levels of effort only follow.
      const moved = r.retained.ahead !== r.override.ahead || r.retained.finish !== r.override.finish;
      if (row.type === 'levelOfEffort' || !moved) expect([seed, r.id, r.direct]).toEqual([seed, r.id, false]);
      else if (row.actualStart !== null) expect([seed, r.id, r.direct]).toEqual([seed, r.id, true]);
      else if (r.direct) expect([seed, r.id, afterFinished(doc, r.id)]).toEqual([seed, r.id, true]);
      if (!r.direct) expect(r.heldBy).toEqual([]);
      if (r.direct) direct++;
      else follows++;
    }
    if (c.rows.length) some++;
  }
  expect(Math.min(some, direct, follows)).toBeGreaterThan(15);
});
