/** Levelling: worked examples, and laws for random plans (resource rules, section 8). */
import { clearDelays, holdBack, takeDelays } from '@yellowhammer/core/commands/level';
import { applyChanges } from '@yellowhammer/core/change/change';
import { level, type Levelled } from '@yellowhammer/core/level/level';
import { levelPicture, servedBy } from '@yellowhammer/core/level/picture';
import type { LevelOptions } from '@yellowhammer/core/level/scheme';
import { loadsOf } from '@yellowhammer/core/load/load';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { mustBack, peopledPlan, type PlanText, says, sure, viewIn } from './helpers';
import { planFile, smallPlan, withPeople } from './twin/plans';

const docOf = (p: PlanText, resources: Record<string, unknown>[], assignments: Record<string, unknown>[]): Document => peopledPlan(p, { resources, assignments });
const options = (more: Partial<LevelOptions> = {}): LevelOptions => ({ resources: ['ana'], scope: null, withinFloat: false, steps: 40, ...more });
const told = (l: Levelled | undefined): string => [...sure(l).delays].map(([id, d]) => `${id} ${d / 480}`).join(', ');
const three = (): Document =>
  docOf(
    {
      activities: [
        ['A', '2d', {}],
        ['B', '3d', {}],
        ['C', '1d', {}],
        ['Z', '4d', {}],
      ],
      links: ['A > Z'],
    },
    [{ id: 'ana' }],
    [
      { activityId: 'A', resourceId: 'ana', work: 960_000 },
      { activityId: 'B', resourceId: 'ana', work: 1_440_000 },
      { activityId: 'C', resourceId: 'ana', work: 480_000 },
    ],
  );

test('one person does one thing after the other, what has no float first; the reason names who was served', () => {
  const doc = three();
  const found = level(doc, options());
  // A has no float; C (float 5) comes before B (float 3) where that ends all early finishes sooner.
  expect(told(found)).toMatch(/A 0, B [23], C [25]/);
  expect(sure(found).finish).toEqual({ before: sure(found).finish.before, after: sure(found).finish.before });
  const b = sure(sure(found).moves.find((m) => m.id === 'B'));
  expect(b.reason).toMatchObject({ resourceId: 'ana' });
  expect(sure(b.reason).first.length).toBeGreaterThan(0);
  mustBack(doc, takeDelays(doc, sure(found).delays));
  expect(sure(loadsOf(doc, sure(schedule(doc).computed)).subjects.find((s) => s.id === 'ana')).curve.runs()).toEqual([]);
  expect(says(takeDelays(doc, sure(found).delays))).toMatch(/there already/);
  mustBack(doc, clearDelays(doc));
  expect([...doc.activities.values()].every((a) => a.levellingDelay === null)).toBe(true);
});

test('within float nobody ends later than the late finish from before; the rest is left over', () => {
  const doc = three();
  doc.activities.set('D', { ...sure(doc.activities.get('B')), id: 'D', code: 'D', duration: 6 * 480 });
  doc.assignments.set('y', { ...sure(doc.assignments.get('x1')), id: 'y', activityId: 'D', work: 6 * 480_000 });
  const found = sure(level(doc, options({ withinFloat: true })));
  expect(found.leftOver.length).toBeGreaterThan(0);
  expect(found.finish.after).toBe(found.finish.before);
  expect(sure(level(doc, options())).finish.after).toBeGreaterThan(found.finish.before);
});

test('what alone is over at every start cannot fit, and stays; what is pinned or begun never moves', () => {
  const doc = docOf(
    {
      activities: [
        ['A', '1d', {}],
        ['P', '1d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-02' }] }],
        ['B', '1d', {}],
      ],
    },
    [{ id: 'ana' }],
    [
      { activityId: 'A', resourceId: 'ana', units: 2, work: 960_000 },
      { activityId: 'P', resourceId: 'ana', work: 480_000 },
      { activityId: 'B', resourceId: 'ana', work: 480_000 },
    ],
  );
  const found = sure(level(doc, options()));
  expect(found.cantFit).toEqual([{ id: 'A', resourceId: 'ana' }]);
  expect(told(found)).toBe('B 1');
  expect(found.stillOver).toEqual(['ana']);
});

test('higher priority is held back less', () => {
  const plan = (first: number, second: number): Document =>
    docOf(
      {
        activities: [
          ['A', '2d', { priority: first }],
          ['B', '2d', { priority: second }],
          ['E', '9d', {}],
        ],
      },
      [{ id: 'ana' }],
      [
        { activityId: 'A', resourceId: 'ana', work: 960_000 },
        { activityId: 'B', resourceId: 'ana', work: 960_000 },
      ],
    );
  expect(told(level(plan(5, 9), options()))).toBe('A 2, B 0');
  expect(told(level(plan(9, 5), options()))).toBe('A 0, B 2');
});

test('holding one back until an instant', () => {
  const doc = three();
  mustBack(doc, holdBack(doc, viewIn(doc), 'C', sure(viewIn(doc).finish[1])));
  expect(formatInstant(sure(viewIn(doc).start[2]))).toBe('2026-03-05T08:00');
  expect(says(holdBack(doc, viewIn(doc), 'C', 0))).toMatch(/begins later already/);
});

const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? 40);
test(`${RUNS} random plans: valid, never worse than the serial scheme, the same again`, () => {
  const wrong: unknown[] = [];
  let [moved, solved] = [0, 0];
  for (let seed = 1; seed <= RUNS; seed++) {
    const doc = sure(readProjectFile(JSON.parse(JSON.stringify(planFile(withPeople(smallPlan(seed, 8), seed))))).file).document;
    const resources = [...doc.resources.values()].filter((r) => r.kind !== 'material').map((r) => r.id);
    for (const withinFloat of [false, true]) {
      const with_ = { ...options({ resources, withinFloat }), steps: 12 };
      const found = level(doc, with_);
      const again = level(copyDocument(doc), with_);
      const serial = level(doc, { ...with_, steps: 0 });
      if (!found || !serial) continue;
      if (JSON.stringify([...found.delays]) !== JSON.stringify([...sure(again).delays])) wrong.push([seed, 'another result']);
      if (found.finish.after > serial.finish.after) wrong.push([seed, 'worse than serial']);
      const after = copyDocument(doc);
      const take = takeDelays(after, found.delays);
      if (take.ok) applyChanges(after, take.changes);
      const before = copyDocument(doc);
      const zero = takeDelays(before, new Map([...found.delays.keys()].map((id) => [id, 0])));
      if (zero.ok) applyChanges(before, zero.changes);
      const [x, y] = [sure(schedule(before).computed), sure(schedule(after).computed)];
      moved += found.moves.length;
      if (y.projectFinish !== found.finish.after) wrong.push([seed, 'another finish']);
      if (withinFloat)
        for (const m of found.moves) {
          const k = sure(x.network.nodeOf[x.network.ids.indexOf(m.id)]);
          if (m.delay > 0 && y.early.finishPos[k]! > x.late.finishPos[k]!) wrong.push([seed, 'later than its float', m.id]);
        }
      // Work as late as possible moves after levelling; it is looked at in the loads alone where there is none.
      if ([...doc.activities.values()].some((a) => a.constraints.some((c) => c.kind === 'asLateAsPossible') || a.type === 'levelOfEffort')) continue;
      const aside = new Set(found.leftOver);
      for (const subject of loadsOf(after, y).subjects) {
        if (subject.kind !== 'resource' || !resources.includes(subject.id)) continue;
        for (const run of subject.curve.runs()) {
          const asking = subject.asks.filter((l) => found.delays.has(l.activity.id) && !aside.has(l.activity.id) && l.pieces.some((p) => !p.actual && spans(p, run)));
          if (asking.length) wrong.push([seed, withinFloat, 'over', subject.id, formatInstant(run.from), asking.map((l) => l.activity.id)]);
          else solved++;
        }
      }
    }
  }
  expect(wrong).toEqual([]);
  expect([moved > 5, solved > 10]).toEqual([true, true]);
});

/** True where a piece works within a run at all. */
function spans(p: { from: number; to: number; calendar: { position: (t: number) => number } }, run: { from: number; to: number }): boolean {
  return p.to > p.from && p.calendar.position(run.to) > p.from && p.calendar.position(run.from) < p.to;
}

test('served in the order that is asked for: it is kept, though another would be better; in scope only what may move moves', () => {
  const doc = three();
  for (const [id, priority] of [
    ['A', 1],
    ['B', 5],
    ['C', 9],
  ] as const)
    doc.activities.set(id, { ...sure(doc.activities.get(id)), priority });
  const context = { doc, view: viewIn(doc), baseline: null, clock: false };
  const served = servedBy(context, [{ key: 'priority', descending: true }]);
  expect([...served].sort((a, b) => a[1] - b[1]).map(([id]) => id)).toEqual(['C', 'B', 'Z', 'A']);
  const asked = level(doc, options({ served }));
  // C one day, B three after it, A two after that: the project ends four days later than in the best order.
  expect([told(asked), sure(asked).tried]).toEqual(['A 4, B 1, C 0', 1]);
  expect(sure(asked).finish.after).toBeGreaterThan(sure(asked).finish.before);
  expect([...sure(level(doc, options({ scope: new Set(['B', 'C']) }))).delays.keys()]).toEqual(['B', 'C']);
});

test('the picture of a proposal: demand before and after on one axis, with what is taken of it; the plan is as it was', () => {
  const doc = three();
  const before = JSON.stringify([...doc.activities]);
  const computed = sure(schedule(doc).computed);
  const found = sure(level(doc, options()));
  const picture = sure(levelPicture(doc, computed, 'ana', found.delays));
  // Three at once on the first day, two on the second, one on the third; afterwards one on six days, with a weekend in between.
  expect(picture.before).toEqual({ peak: [3000, 2000, 1000, 0, 0, 0, 0, 0], over: 3 * 480_000, runs: 1 });
  expect(picture.after).toEqual({ peak: [1000, 1000, 1000, 1000, 1000, 0, 0, 1000], over: 0, runs: 0 });
  expect([picture.there, picture.edges.length, formatInstant(sure(picture.edges[0]))]).toEqual([new Array(8).fill(1000), 9, '2026-03-02T00:00']);
  const some = sure(levelPicture(doc, computed, 'ana', new Map([...found.delays].filter(([id]) => id !== 'B'))));
  expect(some.after.runs).toBe(1);
  expect(levelPicture(doc, computed, 'nobody', found.delays)).toBeUndefined();
  expect(JSON.stringify([...doc.activities])).toBe(before);
});
