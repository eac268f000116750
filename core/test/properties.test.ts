/** What must hold of every plan, on random small networks; and calendars against a walk over minutes. */
import fc from 'fast-check';
import type { Interval, Link } from '@yellowhammer/core/model/schema';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { CompiledCalendar, mergeIntervals } from '@yellowhammer/core/time/calendar';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { linkInstant } from '@yellowhammer/core/schedule/forward';
import { NONE, Pin, State, Type } from '@yellowhammer/core/schedule/network';
import type { Computed } from '@yellowhammer/core/schedule/compute';
import { LinkPlan } from '@yellowhammer/core/commands/link-plan';
import { documentOf, reaches } from './helpers';
import { planFile, smallPlan, type SmallPlan } from './twin/plans';
import { isSpanning } from '@yellowhammer/core/model/activity-kinds';

function computed(plan: SmallPlan): Computed {
  const file = readProjectFile(JSON.parse(JSON.stringify(planFile(plan)))).file;
  const r = file && schedule(file.document).computed;
  if (!r) throw new Error('not computed');
  return r;
}

const plans = fc.integer({ min: 1, max: 1_000_000 }).map((seed) => smallPlan(seed, 12));

test('no early date breaks a live link', () => {
  fc.assert(
    fc.property(plans, (plan) => {
      const r = computed(plan);
      const net = r.network;
      for (let l = 0; l < net.links; l++) {
        const s = net.to[l]!;
        if (r.slack.link[l] === NONE || net.pin[s] !== Pin.none) continue;
        expect(r.slack.link[l]).toBeGreaterThanOrEqual(0);
        if (r.early.length[s] === 0) expect(linkInstant(net, r.early, l)).toBeLessThanOrEqual(r.early.finish[s]!);
      }
    }),
    { numRuns: 80 },
  );
});

test('finish less start is the duration in working time, and shown dates lie on work', () => {
  fc.assert(
    fc.property(plans, (plan) => {
      const r = computed(plan);
      const net = r.network;
      for (let k = 0; k < net.size; k++) {
        if (net.state[k] !== State.unstarted || net.type[k] === Type.levelOfEffort) continue;
        const c = net.calendars[net.calendar[k]!]!;
        expect(c.position(r.early.finish[k]!) - c.position(r.early.start[k]!)).toBe(r.early.length[k]);
        if (r.early.length[k]! > 0) {
          expect(c.isWorking(r.early.start[k]!)).toBe(true);
          expect(c.isWorking(r.early.finish[k]! - 1)).toBe(true);
        }
      }
    }),
    { numRuns: 80 },
  );
});

test('the result does not depend on the order of the rows', () => {
  fc.assert(
    fc.property(plans, fc.integer(), (plan, seed) => {
      const file = planFile(plan) as { activities: { id: string }[]; links: unknown[] };
      const turn = <T>(list: T[]): T[] =>
        list
          .map((x, i) => [x, ((i + 1) * 7919 + seed) % 104_729] as const)
          .sort((a, b) => a[1] - b[1])
          .map(([x]) => x);
      const facts = (f: unknown): unknown => {
        const doc = readProjectFile(JSON.parse(JSON.stringify(f))).file?.document;
        const r = doc && schedule(doc).computed;
        if (!r) throw new Error('not computed');
        const net = r.network;
        return net.ids
          .map((id, i) => [
            id,
            r.early.start[net.nodeOf[i]!],
            r.early.finish[net.nodeOf[i]!],
            r.late.totalFloat[net.nodeOf[i]!],
            r.late.freeFloat[net.nodeOf[i]!],
            r.onLongestPath[net.nodeOf[i]!],
          ])
          .sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1));
      };
      expect(facts({ ...file, activities: turn(file.activities), links: turn(file.links) })).toEqual(facts(file));
    }),
    { numRuns: 50 },
  );
});

// Untrue with leads out of a start, with margins (they shrink) and with finish-bound links (FF and SF let a longer
// successor begin earlier, which moves what hangs on its start): so plans here have plain links only.
test('lengthening an activity never makes the finish earlier in retained logic with FS and SS links', () => {
  fc.assert(
    fc.property(plans, fc.nat(), (plan, n) => {
      const plain: SmallPlan = {
        ...plan,
        override: false,
        activities: plan.activities.map((a) => ({
          ...a,
          type: isSpanning(a) ? 'task' : a.type,
          constraints: a.constraints.filter((c) => c.kind === 'startNotBefore'),
        })),
        links: plan.links.filter((l) => l.type === 'FS' || l.type === 'SS'),
      };
      const which = n % plain.activities.length;
      const longer = {
        ...plain,
        activities: plain.activities.map((a, i) => (i === which ? { ...a, duration: a.duration + 480, remaining: a.remaining === null ? null : a.remaining + 480 } : a)),
      };
      expect(computed(longer).projectFinish).toBeGreaterThanOrEqual(computed(plain).projectFinish);
    }),
    { numRuns: 80 },
  );
});

const interval = fc.tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 1440 })).map(([a, n]): Interval => [a, a + Math.min(n, 1440)]);
const week = fc.array(fc.array(interval, { maxLength: 3 }), { minLength: 7, maxLength: 7 });
const day = fc.integer({ min: 1, max: 28 }).chain((n) => fc.integer({ min: 0, max: 5 }).map((more) => ({ n, more })));

test('positions and their inverses agree with a walk over minutes', () => {
  const start = Date.UTC(2026, 1, 1) / 60000;
  fc.assert(
    fc.property(week, fc.array(fc.record({ at: day, work: fc.array(interval, { maxLength: 2 }) }), { maxLength: 3 }), (pattern, list) => {
      fc.pre(pattern.some((w) => w.length > 0));
      const pad = (n: number): string => String(n).padStart(2, '0');
      const exceptions = list.map((e) => ({ name: '', yearly: false, from: `2026-02-${pad(e.at.n)}`, to: `2026-02-${pad(Math.min(28, e.at.n + e.at.more))}`, work: e.work }));
      const c = new CompiledCalendar({ id: 'c', name: 'c', week: pattern, exceptions, hoursPerDay: null, daysPerWeek: null });
      const works = new Set<number>();
      for (let i = -2; i < 35; i++) {
        const date = new Date((start + i * 1440) * 60000).toISOString().slice(0, 10);
        const e = exceptions.filter((x) => date >= x.from && date <= x.to).pop();
        for (const [a, b] of e ? e.work : pattern[(new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7]!) for (let m = a; m < b; m++) works.add(start + i * 1440 + m);
      }
      // Compared as one list of what is wrong: an expectation for each minute would take minutes itself.
      const wrong: number[] = [];
      let p = c.position(start);
      for (let t = start; t < start + 30 * 1440; t++) {
        if (c.position(t) !== p) wrong.push(t);
        if (!works.has(t)) continue;
        // The minute [t, t + 1) is worked: it begins at position p and ends at p + 1.
        if (c.startInstant(p) !== t || c.finishInstant(p + 1) !== t + 1) wrong.push(t);
        p++;
      }
      expect(wrong).toEqual([]);
    }),
    { numRuns: 25 },
  );
});

test('merging intervals keeps the minutes and parts them', () => {
  fc.assert(
    fc.property(fc.array(interval, { maxLength: 6 }), (list) => {
      const merged = mergeIntervals(list);
      const minutes = (l: readonly Interval[]): Set<number> => new Set(l.flatMap(([a, b]) => Array.from({ length: b - a }, (_, i) => a + i)));
      expect(minutes(merged)).toEqual(minutes(list));
      for (let i = 1; i < merged.length; i++) expect(merged[i]![0]).toBeGreaterThan(merged[i - 1]![1]);
    }),
    { numRuns: 60 },
  );
});

test('a way between two activities is found where a walk finds one, and every step of it is a link', () => {
  const edges = fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 24 });
  fc.assert(
    fc.property(edges, edges, fc.nat(9), fc.nat(9), (there, pending, from, to) => {
      const doc = documentOf({ activities: Array.from({ length: 10 }, (_, i) => [`N${i}`, '1d']) });
      there.forEach(([a, b], i) => doc.links.set(`l${i}`, { id: `l${i}`, rank: i, from: `N${a}`, to: `N${b}`, type: 'FS', lag: 0, lagCalendar: null }));
      const gone = new Set(there.flatMap((_, i) => (i % 5 === 0 ? [`l${i}`] : [])));
      const made = pending.map(([a, b], i): Link => ({ id: `p${i}`, rank: i, from: `N${a}`, to: `N${b}`, type: 'FS', lag: 0, lagCalendar: null }));
      const all = [...there.filter((_, i) => i % 5 !== 0), ...pending];
      const plan = new LinkPlan(doc, gone);
      for (const l of made) plan.add(l);
      const path = plan.path(`N${from}`, `N${to}`);
      expect(path !== undefined).toBe(reaches(all, from, to));
      if (!path) return;
      expect([path[0], path[path.length - 1]]).toEqual([`N${from}`, `N${to}`]);
      for (let i = 1; i < path.length; i++) expect(all.some(([a, b]) => `N${a}` === path[i - 1] && `N${b}` === path[i])).toBe(true);
    }),
    { numRuns: 300 },
  );
});
