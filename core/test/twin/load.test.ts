import { readProjectFile } from '@yellowhammer/core/model/read-file';
import type { Document } from '@yellowhammer/core/model/document';
import { loadsOf, type Subject } from '@yellowhammer/core/load/load';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { sure } from '../helpers';
import { planFile, smallPlan, type SmallPlan, withPeople } from './plans';
import { minuteOf } from './slow';
import { denseSchedule, type SlowSubject, slowLoads } from './slow-load';
import { fast as fastDates, slow as slowDates } from './compare';

const ORIGIN = parseInstant('2025-01-01T00:00') as number;
const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? (process.env['YELLOWHAMMER_LONG'] ? 300 : 30));

function documentOf(plan: SmallPlan): Document {
  const read = readProjectFile(JSON.parse(JSON.stringify(planFile(plan))));
  if (!read.file) throw new Error(JSON.stringify(read.problems));
  return read.file.document;
}

/** What a bucket of minutes comes to, in plain sums. */
function bucket(x: SlowSubject, a: number, b: number): { demand: number; capacity: number | null; over: number; peak: number; overByPeak: boolean } {
  let [demand, capacity, over, peak, overByPeak] = [0, 0, 0, 0, false];
  const there = x.capacity;
  for (let m = a; m < b; m++) {
    const d = x.demand[m]!;
    demand += d;
    if (d > peak + 1e-9) peak = d;
    if (!there) continue;
    const c = there[m]!;
    capacity += c;
    if (d > c) over += d - c;
    if (d > c + 0.001 + 1e-9) overByPeak = true;
  }
  for (const j of x.jumps) if (j.at >= a && j.at < b) demand += j.work;
  return { demand, capacity: x.capacity ? capacity : null, over, peak, overByPeak };
}

/** Differences between a fast subject and its slow twin. */
function differences(fast: Subject, slow: SlowSubject, edges: number[]): string[] {
  const end = edges[edges.length - 1]!;
  const out: string[] = [];
  const told = fast.curve.buckets(edges.map((e) => e + ORIGIN));
  told.forEach((f, n) => {
    const s = bucket(slow, edges[n]!, edges[n + 1]!);
    const near = (x: number, y: number, by: number): boolean => Math.abs(x - y) <= by;
    const at = `${fast.kind} ${fast.id} bucket ${n}`;
    if (!near(f.demand, s.demand, 1.01)) out.push(`${at}: demand ${f.demand} for ${s.demand}`);
    if ((f.capacity === null) !== (s.capacity === null) || !near(f.capacity ?? 0, s.capacity ?? 0, 1e-6)) out.push(`${at}: capacity ${f.capacity} for ${s.capacity}`);
    if (!near(f.over, s.over, 1.01)) out.push(`${at}: over ${f.over} for ${s.over}`);
    if (!near(f.peak, s.peak, 1e-5)) out.push(`${at}: peak ${f.peak} for ${s.peak}`);
    if (f.overByPeak !== s.overByPeak) out.push(`${at}: over by peak ${String(f.overByPeak)}`);
  });
  // Runs, minute by minute: a stretch without demand and without capacity does not end one.
  const runs: [number, number][] = [];
  let open = false;
  for (let m = edges[0]!; m < end && slow.capacity; m++) {
    const d = slow.demand[m]!;
    const c = slow.capacity[m]!;
    if (d > c + 0.001 + 1e-9) {
      if (open) runs[runs.length - 1]![1] = m + 1;
      else runs.push([m, m + 1]);
      open = true;
    } else if (d > 1e-9 || c > 0) open = false;
  }
  const fastRuns = fast.curve.runs().map((r) => [r.from - ORIGIN, r.to - ORIGIN]);
  if (JSON.stringify(runs) !== JSON.stringify(fastRuns)) out.push(`${fast.kind} ${fast.id} runs ${JSON.stringify(fastRuns)} for ${JSON.stringify(runs)}`);
  return out;
}

test(`dates and loads agree with the slow twins on ${RUNS} random plans with people`, () => {
  const wrong: unknown[] = [];
  let compared = 0;
  for (let seed = 1; seed <= RUNS && wrong.length < 3; seed++) {
    const plan = withPeople(smallPlan(seed, 6), seed);
    const s = denseSchedule(plan);
    if (!s) continue;
    compared++;
    if (JSON.stringify(fastDates(plan)) !== JSON.stringify(slowDates(plan, s))) wrong.push({ seed, dates: true });
    const doc = documentOf(plan);
    const { computed } = schedule(doc);
    const loads = loadsOf(doc, sure(computed));
    const slow = slowLoads(plan, s);
    const found: string[] = [];
    loads.loaded
      .map((l) => ({ n: Number(l.assignment.id.slice(1)), f: l.figures }))
      .forEach(({ n, f }) => {
        const told = { length: f.length, work: f.whole, actual: f.actual, remaining: f.remaining };
        if (JSON.stringify(told) !== JSON.stringify(slow.assignments[n])) found.push(`x${n} ${JSON.stringify(told)} for ${JSON.stringify(slow.assignments[n])}`);
      });
    // Buckets that begin anywhere, of very different lengths.
    const from = minuteOf('2025-02-10T00:00');
    const edges = [from];
    const last = Math.max(...s.activities.map((a) => a.finish)) + 4_000;
    for (let n = 1; edges[edges.length - 1]! < last; n++) edges.push(edges[edges.length - 1]! + [61, 1440, 517, 10_080, 3][(n + seed) % 5]!);
    for (const x of loads.subjects) {
      const twin = x.kind === 'resource' ? slow.resources[Number(x.id.slice(1))] : x.kind === 'role' ? slow.roles[Number(x.id.slice(1))] : slow.groups[Number(x.id.slice(1))];
      found.push(...differences(x, sure(twin), edges));
    }
    if (found.length) wrong.push({ seed, found: found.slice(0, 4) });
  }
  expect(wrong).toEqual([]);
  expect(compared).toBeGreaterThan(RUNS / 4);
}, 3_600_000);
