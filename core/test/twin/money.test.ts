/**
 * What assignments cost, minute by minute: each minute's work at the rate that is in force in it. It shares no code with
 * the fast computation, and compares every row's money before many instants to half a hundredth.
 */
import { moneyRows, moneyBefore } from '@yellowhammer/core/cost/parts';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { sure } from '../helpers';
import { planFile, smallPlan, withPeople } from './plans';
import { minuteOf, peopleOf, resourceAxis, slowSchedule } from './slow';
import { dense, slowLoads } from './slow-load';

const ORIGIN = parseInstant('2025-01-01T00:00') as number;
const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? (process.env['YELLOWHAMMER_LONG'] ? 3_000 : 30));

interface Rate {
  from: string;
  amount: number;
  accountId: string | null;
}
/** The entry of a date: the last one from then or before; of one date the last of the list; before all of them the first date's. */
function of(rates: readonly Rate[], day: number): Rate | undefined {
  const dayOf = (r: Rate): number => minuteOf(`${r.from}T00:00`) / 1440;
  let best: Rate | undefined;
  for (const r of rates) if (dayOf(r) <= day && (!best || r.from >= best.from)) best = r;
  if (best) return best;
  const first = rates.reduce((a, b) => (b.from < a ? b.from : a), '9999-12-31');
  return rates.findLast((r) => r.from === first);
}

test(`what assignments cost agrees with a slow twin on ${RUNS} random plans`, () => {
  const wrong: string[] = [];
  let [rows, mixed, compared] = [0, 0, 0];
  for (let seed = 1; seed <= RUNS && wrong.length < 5; seed++) {
    const plan = withPeople(smallPlan(seed, 6), seed);
    const s = slowSchedule(plan);
    if (!dense(s)) continue;
    compared++;
    const slow = slowLoads(plan, s);
    const people = peopleOf(plan);
    const ratesOf = (n: number): Rate[] => [
      { from: '2025-02-01', amount: 33.37, accountId: null },
      ...(n % 2 ? [{ from: '2025-03-06', amount: 41.01, accountId: 'dear' }] : []),
      ...(n % 3 ? [{ from: '2025-03-19', amount: 18.6, accountId: null }] : []),
    ];
    const perUse = (n: number): number => (n % 2 ? 0 : 12.5);
    const file = planFile(plan) as { resources: Record<string, unknown>[]; assignments: Record<string, unknown>[] };
    const read = readProjectFile(
      JSON.parse(
        JSON.stringify({
          ...file,
          accounts: [{ id: 'dear', name: 'Dear' }],
          resources: file.resources.map((r, n) => ({
            ...r,
            perUse: perUse(n),
            rates: ratesOf(n).map((e) => ({ from: e.from, perHour: e.amount, accountId: e.accountId })),
            prices: ratesOf(n).map((e) => ({ from: e.from, price: e.amount, accountId: e.accountId })),
          })),
        }),
      ),
    );
    const doc = sure(read.file).document;
    const fast = moneyRows(doc, sure(schedule(doc).computed));
    const axes = people.resources.map((_, n) => resourceAxis(plan, n));
    people.assignments.forEach((x, n) => {
      if (x.resource < 0) return;
      const axis = axes[x.resource]!;
      const material = people.resources[x.resource]!.kind === 'material';
      const rates = ratesOf(x.resource);
      // A minute after midnight still belongs to the day before while that day's work goes on.
      const lates = new Map<number, number>();
      const rateAt = (m: number): Rate | undefined => {
        const day = Math.floor(m / 1440);
        let late = material ? 0 : lates.get(day);
        if (late === undefined) lates.set(day, (late = Math.max(0, ...axis.intervals(day - 1).map(([, b]) => (day - 1) * 1440 + b))));
        return of(rates, m < late ? day - 1 : day);
      };
      const sums = new Map<string, { at: number; amount: number }[]>();
      const put = (key: string, at: number, amount: number): void => {
        const list = sums.get(key) ?? [];
        list.push({ at, amount });
        sums.set(key, list);
      };
      for (const l of slow.laid[n]!) {
        const r = rateAt(l.at);
        // Hundredths: work is thousandths of unit-minutes, or of a measure.
        if (r) put(`${l.actual ? 'actual' : 'remaining'} ${r.accountId ?? ''}`, l.at, material ? (l.work / 1000) * r.amount * 100 : (l.work / 60_000) * r.amount * 100);
      }
      const { actual, remaining } = slow.assignments[n]!;
      if (perUse(x.resource) && actual + remaining > 0) put(`${actual > 0 ? 'actual' : 'remaining'} `, slow.begins[n]!, perUse(x.resource) * 100);
      if (sums.size > 2) mixed++;
      const own = fast.filter((row) => row.source === 'assignment' && row.id === `x${n}` && row.part !== 'budget');
      const last = Math.max(...s.activities.map((a) => a.finish)) + 3000;
      for (const key of new Set([...sums.keys(), ...own.map((r) => `${r.part} ${r.accountId ?? ''}`)])) {
        const row = own.find((r) => `${r.part} ${r.accountId ?? ''}` === key);
        rows++;
        for (let m = minuteOf('2025-02-20T00:00') + seed; m < last; m += 733) {
          const told = row ? moneyBefore(row, m + ORIGIN) : 0;
          let exact = 0;
          for (const p of sums.get(key) ?? []) if (p.at < m) exact += p.amount;
          if (Math.abs(told - exact) <= 0.5 + 1e-4) continue;
          wrong.push(`seed ${seed}, x${n} ${key}, before ${m}: ${told} for ${exact}`);
          break;
        }
      }
    });
  }
  expect(wrong).toEqual([]);
  expect([compared > RUNS / 4, rows > compared, mixed > 0]).toEqual([true, true, true]);
}, 3_600_000);
