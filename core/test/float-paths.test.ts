/** Float paths (scheduling rules, section 6): a slow twin that looks at all links for each step, and ties by hand. */
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { type Computed, drivingChain } from '@yellowhammer/core/schedule/compute';
import { NONE, State, Type } from '@yellowhammer/core/schedule/network';
import { type FloatPath, floatPaths } from '@yellowhammer/core/schedule/paths';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { compute, type PlanText, sure } from './helpers';
import { planFile, smallPlan } from './twin/plans';

const computedOf = (file: unknown): Computed | undefined => {
  const read = readProjectFile(JSON.parse(JSON.stringify(file)));
  return schedule(sure(read.file).document).computed;
};

/** The same by scanning everything: no heap, no list by successor. */
function slowPaths(r: Computed, count: number, to?: number): FloatPath[] {
  const net = r.network;
  const all = [
    ...Array.from({ length: net.links }, (_, l) => ({ from: net.from[l]!, to: net.to[l]!, slack: r.slack.link[l]!, order: net.linkRank[l]! })).filter(
      (e) => e.slack !== NONE && net.type[e.from] !== Type.levelOfEffort,
    ),
    ...r.slack.carried.map((c, i) => ({ from: c.from, to: c.to, slack: c.slack, order: 1_000_000 + i })),
  ].map((e) => ({ ...e, days: e.slack / sure(net.calendars[sure(net.calendar[e.to])]).minutesPerDay }));
  const least = (list: typeof all): (typeof all)[number] | undefined => [...list].sort((a, b) => a.days - b.days || a.order - b.order)[0];
  const finished = (k: number): boolean => net.state[k] === State.finished;
  const chain = drivingChain(net, r.slack, to === undefined ? (k) => r.early.finish[k] === r.projectFinish : (k) => k === to);
  const first = [...chain.keys()].filter((k) => chain[k] === 1);
  const on = new Set(first);
  const paths: FloatPath[] = [{ nodes: first, slackDays: 0, joins: -1 }];
  while (paths.length < count) {
    const joining = least(all.filter((e) => on.has(e.to) && !on.has(e.from) && !finished(e.from)));
    if (!joining) break;
    const nodes = [joining.from];
    on.add(joining.from);
    for (;;) {
      const back = least(all.filter((e) => e.to === nodes[0]));
      if (!back || on.has(back.from) || finished(back.from)) break;
      nodes.unshift(back.from);
      on.add(back.from);
    }
    paths.push({ nodes, slackDays: joining.days, joins: joining.to });
  }
  return paths;
}

test('120 random networks, to their finish and to each activity: as a walk over all links finds them', () => {
  let several = 0;
  for (let seed = 1; seed <= 120; seed++) {
    const r = computedOf(planFile(smallPlan(seed, 14)));
    if (!r) continue;
    expect(floatPaths(r, 20)).toEqual(slowPaths(r, 20));
    several = Math.max(several, floatPaths(r, 20).length);
    for (let k = 0; k < r.network.size; k++) expect(floatPaths(r, 6, k)).toEqual(slowPaths(r, 6, k));
  }
  expect(several).toBeGreaterThan(5);
});

test('twenty ways into one end come by their slack, whatever the order of their links; as many as are asked for', () => {
  // Durations of 1 to 20 days in a mixed order; the longest is on path 1, and each of the others has a day more of slack than the one before.
  const days = [7, 13, 2, 20, 5, 18, 11, 1, 16, 9, 14, 3, 19, 6, 12, 17, 4, 10, 15, 8];
  const p: PlanText = { activities: [...days.map((n): [string, string] => [`A${n}`, `${n}d`]), ['Z', '1d']], links: days.map((n) => `A${n} > Z`) };
  const paths = (n: number) => compute(p, { paths: n }).json['paths'] as { slackDays: number; activities: string[] }[];
  expect(paths(30).map((x) => [x.slackDays, x.activities.join(' ')])).toEqual([[0, 'A20 Z'], ...Array.from({ length: 19 }, (_, i) => [i + 1, `A${19 - i}`])]);
  expect(paths(4)).toHaveLength(4);
});

test('alike in slack, the link that comes first in the file goes first; slack counts in days of the successor’s calendar', () => {
  const p: PlanText = {
    activities: [
      ['A', '1d'],
      ['B', '1d'],
      ['C', '4d'],
      ['M', '1d'],
      ['N', '60m @clock'],
      ['Z', '1d'],
    ],
    links: ['B > M', 'A > M', 'C > Z', 'M > Z', 'N > Z'],
  };
  const paths = compute(p, { paths: 9 }).json['paths'] as { slackDays: number; joins: string | null; activities: string[] }[];
  // M lasts to Tuesday 17:00, C to Thursday 17:00: two days. N ends on Monday at 09:00: 31 hours of work before Z may begin, eight of them a day in the calendar of Z.
  expect(paths.map((x) => [x.slackDays, x.joins, x.activities.join(' ')])).toEqual([
    [0, null, 'C Z'],
    [2, 'Z', 'B M'],
    [0, 'M', 'A'],
    [3.875, 'Z', 'N'],
  ]);
});
