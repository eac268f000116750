/** What loads, money and levelling cost, against the full computation of dates in the same run (resource rules, section 9). */
import { moneyByAccount, rowsOf } from '@yellowhammer/core/cost/money';
import { largePlan } from '@yellowhammer/demo/generate';
import { levelSteps } from '@yellowhammer/core/level/level';
import { edgesOf } from '@yellowhammer/core/load/buckets';
import { loadsOf } from '@yellowhammer/core/load/load';
import { loadTable } from '@yellowhammer/core/load/table';
import { forgetIndex } from '@yellowhammer/core/model/doc-index';
import type { Document } from '@yellowhammer/core/model/document';
import { expenseDefaults } from '@yellowhammer/core/model/money-schema';
import { type Assignment, assignmentDefaults, type Resource, resourceDefaults } from '@yellowhammer/core/model/resource-schema';
import { scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { inTurn, median } from './yardstick.ts';

const PEOPLE = 100;

/** A generated plan with a hundred resources, half of them with a holiday, two assignments and an expense for each activity. */
export function peopledPlan(size: number, units: number): Document {
  const doc = largePlan(size, 7);
  const calendars = [...doc.calendars.keys()];
  for (let n = 0; n < PEOPLE; n++) {
    const month = String(1 + (n % 8)).padStart(2, '0');
    const row: Resource = {
      ...resourceDefaults,
      otherRoles: [],
      prices: [],
      values: {},
      kind: 'labour',
      id: `r${n}`,
      rank: n,
      name: `Person ${n}`,
      calendarId: calendars[n % calendars.length] ?? null,
      availability: [{ from: '2026-01-01', units }],
      rates: [
        { from: '2026-01-01', perHour: 30, accountId: null },
        { from: '2027-01-01', perHour: 33, accountId: null },
      ],
      daysOff: n % 2 ? [{ name: 'leave', from: `2026-${month}-03`, to: `2026-${month}-14`, yearly: true, work: [] }] : [],
    };
    doc.resources.set(row.id, row);
  }
  let n = 0;
  for (const a of doc.activities.values()) {
    doc.expenses.set(`e${a.id}`, { ...expenseDefaults, id: `e${a.id}`, rank: n, activityId: a.id, budget: 100, when: 'even' });
    if (a.type !== 'task') continue;
    for (const step of [1, 37]) {
      // Everybody works on activities of their own calendar.
      const calendar = Math.max(calendars.indexOf(a.calendarId ?? ''), 0);
      const resourceId = `r${calendar + calendars.length * ((++n * step) % Math.floor(PEOPLE / calendars.length))}`;
      const row: Assignment = {
        ...assignmentDefaults,
        ownSpread: [],
        spread: 'even',
        id: `x${n}`,
        rank: n,
        activityId: a.id,
        resourceId,
        units: 1,
        work: a.duration * 1000,
      };
      doc.assignments.set(row.id, row);
    }
  }
  forgetIndex(doc);
  return doc;
}

const show = (n: number, digits = 1): string => n.toFixed(digits);

export function loading(): void {
  const doc = peopledPlan(10_000, 20);
  const first = scheduleDates(doc).computed;
  if (!first) throw new Error('the generated plan cannot be computed');
  console.log(`Loads and money, 10,000 activities, ${doc.assignments.size} assignments, ${doc.expenses.size} expenses, against the full computation of dates`);
  const dates = (): void => void scheduleDates(doc);
  const load = inTurn(dates, () => void loadsOf(doc, first), 7, 2);
  const loads = loadsOf(doc, first);
  const span = loads.span ?? { from: 0, to: 1 };
  const edges = edgesOf({ kind: 'month', weekStart: 0 }, span.from, span.to) ?? [];
  const money = inTurn(dates, () => void moneyByAccount(doc, rowsOf(doc, first), edges), 7, 1);
  const bucket = median(() => void loadTable(doc, loads, { kind: 'month', weekStart: 0 }, span.from, span.to), 7);
  console.log(`  all loads ${show(load.g)} ms = ${show(load.ratio)} x (limit 10); another bucket ${show(bucket)} ms (limit 50)`);
  console.log(`  money by month ${show(money.g)} ms = ${show(money.ratio)} x (limit 10)`);
  const scope = new Set([...doc.activities.keys()].slice(0, 1_000));
  const began = performance.now();
  const steps = levelSteps(doc, { resources: [...doc.resources.keys()], scope, withinFloat: false, steps: 10 });
  for (;;) {
    const next = steps.next();
    if (!next.done) continue;
    const told = next.value;
    console.log(
      `  levelling 1,000 of them: ${show((performance.now() - began) / 1000)} s (limit 10), ${told?.tried ?? 0} schedules, ${[...(told?.delays.values() ?? [])].filter((d) => d > 0).length} held back`,
    );
    break;
  }
}
