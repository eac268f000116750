/** Costs and income with figures worked by hand, and laws that hold for any plan (resource rules, section 7). */
import { moneyJson } from '@yellowhammer/core/cost/money-json';
import { moneyBy, moneySpan, rowsOf } from '@yellowhammer/core/cost/money';
import { moneyBefore, moneyOf } from '@yellowhammer/core/cost/parts';
import { edgesOf } from '@yellowhammer/core/load/buckets';
import { bucketingOf } from '@yellowhammer/core/load/load-json';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import type { Document } from '@yellowhammer/core/model/document';
import { NONE } from '@yellowhammer/core/schedule/network';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { peopledPlan, type PlanText, sure } from './helpers';
import { planFile, smallPlan, withPeople } from './twin/plans';

type Row = Record<string, unknown>;
const docOf = peopledPlan;
interface Told {
  accounts: { id: string | null; total: Record<string, number>; buckets: Record<string, number | string>[] }[];
  buckets: Record<string, number | string>[];
  total: Record<string, number>;
}
function money(doc: Document, bucket = 'month'): Told {
  const b = bucketingOf(doc, bucket);
  if (typeof b === 'string') throw new Error(b);
  return moneyJson(doc, sure(schedule(doc).computed), b, undefined, undefined) as unknown as Told;
}
const by = (t: Told, field: string): (number | string)[] => t.buckets.map((b) => b[field]!);

test('a rate that rises in January is paid by the day on which the work lies; each use once, at the start', () => {
  const doc = docOf(
    { activities: [['A', '4d', {}]], project: { plannedStart: '2026-12-30T08:00' } },
    {
      resources: [
        {
          id: 'ana',
          rates: [
            { from: '2026-01-01', perHour: 30 },
            { from: '2027-01-01', perHour: 36 },
          ],
          perUse: 50,
        },
      ],
      assignments: [{ activityId: 'A', resourceId: 'ana', units: 2, work: 4 * 480 * 2000 }],
    },
  );
  // Wednesday, Thursday; then Friday 1 January and Monday: 32 hours at 30, 32 at 36.
  expect(by(money(doc), 'cost')).toEqual([32 * 30 + 50, 32 * 36]);
  expect(money(doc).total).toMatchObject({ cost: 2162, budget: 2162, actual: 0 });
});

test('a night that begins in December is paid as December', () => {
  const doc = docOf(
    { activities: [['A', '8m @nights', { duration: 480 }]], project: { plannedStart: '2026-12-31T20:00', calendarId: 'nights' } },
    {
      resources: [
        {
          id: 'ana',
          calendarId: 'nights',
          rates: [
            { from: '2026-01-01', perHour: 10 },
            { from: '2027-01-01', perHour: 20 },
          ],
        },
      ],
      assignments: [{ activityId: 'A', resourceId: 'ana', work: 480_000 }],
    },
  );
  expect(by(money(doc), 'cost')).toEqual([40, 40]);
});

test('material by quantity and price; accounts of assignment, rate and resource in this order', () => {
  const doc = docOf(
    {
      activities: [
        ['A', '2d', {}],
        ['B', '2d', {}],
      ],
    },
    {
      accounts: [
        { id: 'lab', name: 'Labour' },
        { id: 'mat', name: 'Material' },
        { id: 'own', name: 'Own' },
      ],
      resources: [
        { id: 'ana', accountId: 'lab', perUse: 5, rates: [{ from: '2026-01-01', perHour: 10, accountId: 'mat' }] },
        { id: 'lime', kind: 'material', unit: 't', accountId: 'mat', prices: [{ from: '2026-01-01', price: 310.5 }] },
      ],
      assignments: [
        { activityId: 'A', resourceId: 'ana', work: 960_000 },
        { activityId: 'A', resourceId: 'lime', quantity: 2.5 },
        { activityId: 'B', resourceId: 'ana', work: 960_000, accountId: 'own' },
      ],
    },
  );
  const t = money(doc);
  expect(Object.fromEntries(t.accounts.map((a) => [a.id, a.total['cost']]))).toEqual({ lab: 5, mat: 160 + 776.25, own: 165 });
});

describe('expenses', () => {
  const plan: PlanText = { activities: [['A', '10d', {}]], project: { plannedStart: '2026-03-23T08:00' } };
  test.each([
    ['at start', { when: 'start', budget: 100 }, [100, 0]],
    ['at finish, on the last of the month', { when: 'finish', budget: 100 }, [0, 100]],
    ['on a date', { when: 'date', date: '2026-04-01', budget: 100 }, [0, 100]],
    ['even', { when: 'even', budget: 1000 }, [700, 300]],
  ])('%s', (_, e, expected) => {
    const told = money(docOf(plan, { expenses: [e] })).buckets;
    const of = (month: string): unknown => told.find((b) => String(b['from']).startsWith(month))?.['cost'] ?? 0;
    expect([of('2026-03'), of('2026-04')]).toEqual(expected);
  });
  test('what lies at a finish counts before that instant', () => {
    const doc = docOf(
      { activities: [['A', '2d @clock', { duration: 1440 }]], project: { plannedStart: '2026-03-31T00:00', calendarId: 'clock' } },
      { expenses: [{ when: 'finish', budget: 7 }] },
    );
    expect(by(money(doc), 'cost')).toEqual([7]);
  });
  const begun: PlanText = { activities: [['A', '10d', { actualStart: '2026-03-02T08:00', remaining: 3600 }]], project: { dataDate: '2026-03-06T08:00' } };
  test.each([
    ['even: the share that is done', { when: 'even', budget: 100 }, { actual: 25, cost: 100 }],
    ['at start: all of it', { when: 'start', budget: 100 }, { actual: 100, cost: 100 }],
    ['at finish: nothing yet', { when: 'finish', budget: 100 }, { actual: 0, cost: 100 }],
    ['on a date that is past', { when: 'date', date: '2026-03-05', budget: 100 }, { actual: 100, cost: 100 }],
    ['entered: what is left of the budget', { when: 'even', budget: 100, actual: 80 }, { actual: 80, cost: 100 }],
    ['entered over the budget', { when: 'even', budget: 100, actual: 130 }, { actual: 130, cost: 130 }],
    ['income counts apart', { when: 'start', budget: 100, income: true }, { actual: 0, cost: 0, income: 100, incomeActual: 100 }],
  ])('progress, %s', (_, e, expected) => {
    expect(money(docOf(begun, { expenses: [e] })).total).toMatchObject(expected);
  });
  test('without a data date no date has been', () => {
    expect(money(docOf(plan, { expenses: [{ when: 'date', date: '2026-01-01', budget: 100 }] })).total).toMatchObject({ actual: 0, cost: 100 });
  });
  test('an actual before its event lies at the data date', () => {
    const doc = docOf(
      { activities: [['A', '2d', { constraints: [{ kind: 'startNotBefore', date: '2026-05-04' }] }]], project: { dataDate: '2026-03-06T08:00' } },
      { expenses: [{ when: 'start', budget: 100, actual: 40 }] },
    );
    expect(by(money(doc), 'cost')).toEqual([40, 0, 60]);
  });
  test('an entered actual cost of an assignment includes each use, and what is left costs its rate', () => {
    const doc = docOf(begun, {
      resources: [{ id: 'ana', perUse: 50, rates: [{ from: '2026-01-01', perHour: 10 }] }],
      assignments: [{ activityId: 'A', resourceId: 'ana', work: 4_800_000, actualCost: 300 }],
    });
    expect(money(doc).total).toMatchObject({ actual: 300, cost: 300 + 600 });
  });
});

test('every bucket and every grouping adds up to the hundredth; nothing is later early than late', () => {
  let rowsSeen = 0;
  let differ = 0;
  for (let seed = 1; seed <= 30; seed++) {
    const plan = withPeople(smallPlan(seed, 6), seed);
    const file = planFile(plan) as { resources: Row[]; activities: { id: string; type: string }[] };
    const priced = {
      ...file,
      resources: file.resources.map((r, n) => ({
        ...r,
        perUse: n * 7.33,
        rates: [
          { from: '2025-03-01', perHour: 33.37 },
          { from: '2025-03-14', perHour: 41.01 },
        ],
        prices: [{ from: '2025-03-01', price: 3.333 }],
      })),
      expenses: file.activities.map((a, n) => ({
        id: `e${n}`,
        activityId: a.id,
        when: ['start', 'finish', 'even', 'date'][(n + seed) % 4],
        date: '2025-03-10',
        budget: 100.01 * n,
        income: n % 3 === 2,
      })),
    };
    const doc = sure(readProjectFile(JSON.parse(JSON.stringify(priced))).file).document;
    const { computed } = schedule(doc);
    const rows = rowsOf(doc, sure(computed));
    const span = moneySpan(rows);
    if (!span) continue;
    rowsSeen += rows.early.length;
    for (const kind of ['day', 'week', 'month'] as const) {
      const edges = sure(edgesOf({ kind, weekStart: 0 }, span.from, span.to));
      const all = [...moneyBy(rows, edges, () => 'all').values()][0]!;
      for (const field of ['cost', 'income', 'actual', 'budget', 'lateCost'] as const)
        expect([seed, kind, all.buckets.reduce((n, b) => n + b[field], 0)]).toEqual([seed, kind, all.total[field]]);
      const grouped = [...moneyBy(rows, edges, (r) => r.activityId).values()];
      expect(grouped.reduce((n, g) => n + g.total.cost, 0)).toBe(all.total.cost);
    }
    // Nothing costs less than nothing here: by any instant as much is spent early as late, where rates do not change in between.
    const plain = sure(readProjectFile(JSON.parse(JSON.stringify({ ...priced, resources: priced.resources.map((x) => ({ ...x, rates: x.rates.slice(0, 1) })) }))).file).document;
    const of = rowsOf(plain, sure(schedule(plain).computed));
    // What ought to be earlier than it can be has late dates before its early ones.
    const float = sure(schedule(plain).computed).late.totalFloat;
    const weeks = sure(edgesOf({ kind: 'week', weekStart: 0 }, span.from - 100_000, span.to + 100_000));
    let [early, late] = [0, 0];
    if (float.every((f) => f === NONE || f >= 0))
      for (const b of [...moneyBy(of, weeks, () => 0).values()][0]!.buckets) {
        early += b.cost;
        late += b.lateCost;
        if (early !== late) differ++;
        expect([seed, early >= late - of.early.length]).toEqual([seed, true]);
      }
    // Half of a row and the rest of it are all of it.
    for (const row of rows.early) {
      const middle = Math.round((span.from + span.to) / 2);
      expect(Math.abs(moneyBefore(row, middle))).toBeLessThanOrEqual(Math.abs(moneyOf(row)));
    }
  }
  expect([rowsSeen > 250, differ > 2]).toEqual([true, true]);
});
