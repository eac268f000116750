/** The two schemes that place work, and the backward pass between them: worked examples, and laws for random plans. */
import { latestStarts } from '@yellowhammer/core/level/back';
import { level } from '@yellowhammer/core/level/level';
import { asksAt, idOf, type LevelOptions, place, type Setting, settingOf, shifted } from '@yellowhammer/core/level/scheme';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { computeNetwork } from '@yellowhammer/core/schedule/compute';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { instanceOf } from '../../bench/exact';
import { documentOf } from '../../bench/levelling';
import { peopledPlan, type PlanText, sure } from './helpers';
import { planFile, smallPlan, withPeople } from './twin/plans';

const options: LevelOptions = { resources: ['ana'], scope: null, withinFloat: false, steps: 0 };
/** Two units of Ana; each activity asks for so many of them over its days. */
const setting = (p: PlanText, units: Record<string, number>, more: Partial<LevelOptions> = {}): Setting =>
  sure(
    settingOf(
      peopledPlan(p, {
        resources: [{ id: 'ana', availability: [{ from: '2026-01-01', units: 2 }] }],
        assignments: Object.entries(units).map(([activityId, n]) => {
          const days = Number(/\d+/.exec(sure(p.activities.find(([id]) => id === activityId))[1])?.[0]);
          return { activityId, resourceId: 'ana', units: n, work: n * days * 480_000 };
        }),
      }),
      { ...options, ...more },
    ),
  );
const inOrder = (s: Setting, ids: string): Float64Array => Float64Array.from({ length: s.net.size }, (_, k) => ids.indexOf(idOf(s.net, k)));
const starts = (s: Setting, at: ArrayLike<number>): string =>
  [...s.net.ids]
    .sort()
    .map((id) => `${id} ${formatInstant(at[s.net.nodeOf[s.net.ids.indexOf(id)]!]!).slice(8, 10)}`)
    .join(', ');

// Monday 2 March 2026 to Friday the 13th.
const two: PlanText = {
  activities: [
    ['P', '2d'],
    ['A', '3d'],
    ['B', '4d'],
  ],
  links: ['P > A'],
};
test('serial: who is first in the order is placed as soon as all before it are; parallel: nobody waits who could begin', () => {
  const s = setting(two, { A: 2, B: 1 });
  expect(starts(s, place(s, inOrder(s, 'PAB'), 'serial').early.start)).toBe('A 04, B 09, P 02');
  expect(starts(s, place(s, inOrder(s, 'PAB'), 'parallel').early.start)).toBe('A 06, B 02, P 02');
  // C is thought to begin on Monday until A has it; D can begin before it by then.
  const u = setting(
    {
      activities: [
        ['A', '2d'],
        ['C', '1d'],
        ['P', '1d'],
        ['D', '3d'],
      ],
      links: ['P > D'],
    },
    { A: 1, C: 2, D: 1 },
  );
  expect(starts(u, place(u, inOrder(u, 'PACD'), 'parallel').early.start)).toBe('A 02, C 06, D 03, P 02');
  // The order parts those that can begin at once.
  const t = setting({ activities: two.activities.slice(1), links: [] }, { A: 2, B: 1 });
  expect(starts(t, place(t, inOrder(t, 'AB'), 'parallel').early.start)).toBe('A 02, B 05');
  expect(starts(t, place(t, inOrder(t, 'BA'), 'parallel').early.start)).toBe('A 06, B 02');
});

test('backward: as late as successors, the end and what is taken already let it; work that cannot move stays', () => {
  const p: PlanText = {
    activities: [
      ['X', '1d'],
      ['Y', '1d'],
      ['L', '8d'],
      ['F', '1d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-11' }] }],
    ],
    links: ['X > Y'],
  };
  // L ends on Wednesday the 11th, where F has both units: Y must end the day before, X before it.
  const s = setting(p, { X: 1, Y: 1, F: 2 });
  const trial = place(s, inOrder(s, 'XYLF'));
  expect(starts(s, trial.early.start)).toBe('F 11, L 02, X 02, Y 03');
  expect(starts(s, latestStarts(s, trial))).toBe('F 11, L 02, X 09, Y 10');
  const free = setting(p, { X: 1, Y: 1, F: 1 });
  expect(starts(free, latestStarts(free, place(free, inOrder(free, 'XYLF'))))).toBe('F 11, L 02, X 10, Y 11');
  // Within float not behind its late finish: here that of a deadline-like bound on Y.
  const bound = {
    ...p,
    activities: p.activities.map(([id, size, more]) => [id, size, id === 'Y' ? { constraints: [{ kind: 'finishNotAfter', date: '2026-03-06' }] } : more]),
  } as PlanText;
  const within = setting(bound, { X: 1, Y: 1, F: 1 }, { withinFloat: true });
  expect(starts(within, latestStarts(within, place(within, inOrder(within, 'XYLF'))))).toBe('F 11, L 02, X 05, Y 06');
});

test('links of other types and lags hold backwards, too', () => {
  const p: PlanText = {
    activities: [
      ['A', '2d'],
      ['B', '2d'],
      ['L', '8d'],
    ],
    links: ['A SS+3d > B'],
  };
  const s = setting(p, { A: 1, B: 1 });
  // B begins on Tuesday the 10th at the latest, A three days before it.
  expect(starts(s, latestStarts(s, place(s, inOrder(s, 'ABL'))))).toBe('A 05, B 10, L 02');
  const f = setting({ ...p, links: ['A FF-1d > B'] }, { A: 1, B: 1 });
  expect(starts(f, latestStarts(f, place(f, inOrder(f, 'ABL'))))).toBe('A 10, B 10, L 02');
});

test('nobody has to wait: one schedule is tried', () => {
  const doc = peopledPlan(two, {
    resources: [{ id: 'ana', availability: [{ from: '2026-01-01', units: 9 }] }],
    assignments: [{ activityId: 'B', resourceId: 'ana', work: 4 * 480_000 }],
  });
  expect(sure(level(doc, { ...options, steps: 50 })).tried).toBe(1);
});

test('of generated instances both schemes are valid; backwards nothing begins earlier or ends behind the end, and nobody is asked for too much', () => {
  let later = 0;
  for (let seed = 1; seed <= 15; seed++) {
    const p = instanceOf(seed, 20);
    const s = sure(settingOf(documentOf(p), { ...options, resources: p.there.map((_, r) => `r${r}`) }));
    const order = Float64Array.from({ length: s.net.size }, (_, k) => (k * 7) % 5);
    const [serial, parallel] = [place(s, order, 'serial'), place(s, order, 'parallel')];
    expect([seed, serial.valid, parallel.valid]).toEqual([seed, true, true]);
    const back = latestStarts(s, serial);
    const days = p.days.map((d, i) => {
      const k = sure(s.net.nodeOf[s.net.ids.indexOf(`a${i}`)]);
      expect([seed, i, back[k]! >= serial.early.start[k]!, back[k]! + d * 1440 <= serial.finish]).toEqual([seed, i, true, true]);
      if (back[k]! > serial.early.start[k]!) later++;
      return { from: back[k]!, to: back[k]! + d * 1440 };
    });
    for (const [i, list] of p.preds.entries()) for (const k of list) expect([seed, i, k, days[k]!.to <= days[i]!.from]).toEqual([seed, i, k, true]);
    for (const { from } of days)
      p.there.forEach((there, r) => {
        const asked = days.reduce((sum, d, i) => (d.from <= from && d.to > from ? sum + p.asks[i]![r]! : sum), 0);
        expect([seed, r, asked <= there]).toEqual([seed, r, true]);
      });
  }
  expect(later).toBeGreaterThan(50);
});

test('what lies later asks for the same later: as when it is reckoned anew, on random plans with days off, delays, spreads and progress', () => {
  let compared = 0;
  for (let seed = 1; seed <= 30; seed++) {
    const read = readProjectFile(planFile(withPeople(smallPlan(seed), seed)));
    const doc = sure(read.file).document;
    const s = settingOf(doc, { ...options, resources: [...doc.resources.keys()] });
    if (!s) continue;
    // Each lies later by a number of working minutes of its own.
    const delayed = Int32Array.from({ length: s.net.size }, (_, k) => (s.movable[k] ? ((k * 7919 + seed * 104_729) % 5_000) + 1 : s.net.delay[k]!));
    const kept = s.net.delay.slice();
    s.net.delay.set(delayed);
    const { early } = computeNetwork(s.net);
    s.net.delay.set(kept);
    for (let k = 0; k < s.net.size; k++) {
      const quick = shifted(s, early, k);
      if (!quick) continue;
      const plain = (list: typeof quick): unknown =>
        list.map(({ resourceId, piece: { calendar, ...rest } }) => ({ resourceId, own: calendar === s.net.calendars[s.net.calendar[k]!], ...rest }));
      expect([seed, k, plain(quick)]).toEqual([seed, k, plain(asksAt(s, early, k))]);
      if (quick.length > 0 && early.startPos[k] !== s.base.early.startPos[k]) compared++;
    }
  }
  expect(compared).toBeGreaterThan(20);
});
