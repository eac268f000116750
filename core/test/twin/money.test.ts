/**
 * What assignments cost, minute by minute: each minute's work at the rate that is in force in it; and where the parts of
 * expenses and income lie. It shares no code with
 * the fast computation, and compares every row's money before many instants to half a hundredth.
 */
import { moneyRows, moneyBefore } from '@yellowhammer/core/cost/parts';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { sure } from '../helpers';
import { planFile, smallPlan, withPeople } from './plans';
import { seeded } from '@yellowhammer/demo/generate';
import { minuteOf, peopleOf, resourceAxis, type SlowResult } from './slow';
import { denseSchedule, slowLoads } from './slow-load';

const ORIGIN = parseInstant('2025-01-01T00:00') as number;
const RUNS = Number(process.env['YELLOWHAMMER_RUNS'] ?? (process.env['YELLOWHAMMER_LONG'] ? 300 : 30));

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
    const s = denseSchedule(plan);
    if (!s) continue;
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

interface PlainExpense {
  when: 'start' | 'finish' | 'date' | 'even';
  date: string | null;
  budget: number;
  actual: number | null;
  remaining: number | null;
}
type Laid = { at: number; amount: number }[];

/** Where actual and remaining of an expense lie, in hundredths; what lies at a finish is put into the minute before it. */
function slowExpense(plan: ReturnType<typeof smallPlan>, s: SlowResult, n: number, e: PlainExpense): { actual: Laid; remaining: Laid } {
  const dataDate = plan.dataDate === null ? null : minuteOf(plan.dataDate);
  const a = plan.activities[n]!;
  const { axis, state, AS, AF, pos, d: left } = s.inner[n]!;
  const { start, finish } = s.activities[n]!;
  const half = (x: number): number => Math.floor(x + 0.5 + 1e-6);
  const begun = state !== 'no';
  const done = state === 'finished';
  const r = done ? 0 : left;
  const date = e.date === null ? start : minuteOf(`${e.date}T00:00`);
  const been = e.when === 'finish' ? done : e.when === 'date' ? dataDate !== null && date <= dataDate : begun;
  let share = been ? 1 : 0;
  if (e.when === 'even' && state === 'started') share = a.duration > 0 ? Math.min(Math.max((a.duration - r) / a.duration, 0), 1) : r === 0 ? 1 : 0;
  const budget = Math.round(e.budget * 100);
  const actual = e.actual === null ? half(budget * share) : Math.round(e.actual * 100);
  const remaining = e.remaining !== null ? Math.round(e.remaining * 100) : done && e.when !== 'date' ? 0 : Math.max(0, budget - actual);
  const at = (instant: number, amount: number): Laid => [{ at: instant, amount }];
  const event = (amount: number): Laid => at(e.when === 'start' ? start : e.when === 'finish' ? finish - 1 : date, amount);
  const now = (amount: number): Laid => at(dataDate ?? 0, amount);
  const over = (from: number, to: number, amount: number): Laid => {
    let minutes: number[] = [];
    for (let m = from; m < to; m++) if (axis.works[m]) minutes.push(m);
    if (minutes.length === 0) minutes = Array.from({ length: Math.max(0, to - from) }, (_, i) => from + i);
    return minutes.length ? minutes.map((m) => ({ at: m, amount: amount / minutes.length })) : at(to, amount);
  };
  const ahead = (amount: number): Laid => {
    const long = r;
    return long === 0 ? at(finish, amount) : Array.from({ length: long }, (_, i) => ({ at: axis.start(pos + i), amount: amount / long }));
  };
  return {
    actual: !been ? now(actual) : e.when === 'even' ? over(AS, done ? AF : (dataDate as number), actual) : event(actual),
    remaining: (e.when === 'even' ? done : been) ? now(remaining) : e.when === 'even' ? ahead(remaining) : event(remaining),
  };
}

test(`where expenses and income lie agrees with a slow twin on ${RUNS} random plans`, () => {
  const wrong: string[] = [];
  const seen = new Set<string>();
  for (let seed = 1; seed <= RUNS && wrong.length < 5; seed++) {
    const plan = smallPlan(seed, 6);
    const s = denseSchedule(plan);
    if (!s) continue;
    const next = seeded(seed + 77);
    const expenses = plan.activities.flatMap((a, n) =>
      // A level of effort has no length of its own: the examples by hand have it.
      a.type === 'levelOfEffort'
        ? []
        : (['start', 'finish', 'date', 'even'] as const).map((when, k) => {
            const entered = plan.dataDate !== null && next() < 0.4;
            const e: PlainExpense = {
              when,
              date:
                when !== 'date' ? null : plan.dataDate !== null && next() < 0.4 ? plan.dataDate.slice(0, 10) : `2025-03-${String(1 + Math.floor(next() * 28)).padStart(2, '0')}`,
              budget: Math.round(next() * 100_000) / 100,
              actual: entered && next() < 0.6 ? Math.round(next() * 50_000) / 100 : null,
              remaining: entered && next() < 0.6 ? Math.round(next() * 50_000) / 100 : null,
            };
            return { ...e, id: `e${n}-${k}`, n, income: next() < 0.3 };
          }),
    );
    const file = planFile(plan) as { activities: { id: string }[] };
    const read = readProjectFile(
      JSON.parse(JSON.stringify({ ...file, expenses: expenses.map(({ n, ...e }, rank) => ({ ...e, rank, name: e.id, activityId: file.activities[n]!.id })) })),
    );
    const doc = sure(read.file).document;
    const fast = moneyRows(doc, sure(schedule(doc).computed));
    const last = Math.max(...s.activities.map((a) => a.finish)) + 3000;
    for (const e of expenses) {
      const slow = slowExpense(plan, s, e.n, e);
      for (const part of ['actual', 'remaining'] as const) {
        const row = fast.find((x) => x.id === e.id && x.part === part);
        if (slow[part].some((p) => p.amount !== 0)) seen.add(`${e.when} ${part} ${s.inner[e.n]!.state} ${e[part] === null ? 'follows' : 'entered'}`);
        const marks = [...new Set(slow[part].flatMap((p) => [p.at, p.at + 1]))].slice(0, 40);
        for (const m of [...marks, ...Array.from({ length: 30 }, (_, i) => Math.floor((last * (i + 1)) / 30))]) {
          const told = row ? moneyBefore(row, m + ORIGIN) : 0;
          const exact = slow[part].reduce((sum, p) => sum + (p.at < m ? p.amount : 0), 0);
          if (Math.abs(told - exact) <= 0.5 + 1e-4) continue;
          wrong.push(`seed ${seed}, ${e.id} ${e.when} ${part} of ${s.inner[e.n]!.state}, before ${m}: ${told} for ${exact}`);
          break;
        }
      }
    }
  }
  expect(wrong).toEqual([]);
  // Every way of lying turns up, in every state that it can have.
  for (const when of ['start', 'finish', 'date', 'even'])
    for (const how of ['follows', 'entered'])
      for (const part of ['actual', 'remaining']) expect([...seen].filter((x) => x.startsWith(`${when} ${part}`) && x.endsWith(how)).length).toBeGreaterThan(0);
}, 3_600_000);
