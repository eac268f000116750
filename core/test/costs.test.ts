/** What each activity costs in all: by hand, and the same as the rows of money added up. */
import { costAt, costsOf } from '@yellowhammer/core/cost/costs';
import { moneyOf, moneyRows } from '@yellowhammer/core/cost/parts';
import { activityCell, builtIn } from '@yellowhammer/core/fields/list';
import { editField, type Field, type NodeCell, showField, valueOf } from '@yellowhammer/core/fields/field';
import { applyChanges } from '@yellowhammer/core/change/change';
import { copyDocument, type Document } from '@yellowhammer/core/model/document';
import { wbsDefaults } from '@yellowhammer/core/model/schema';
import { readProjectFile } from '@yellowhammer/core/model/read-file';
import { rollUp } from '@yellowhammer/core/rollup/rollup';
import { NetworkMemory } from '@yellowhammer/core/schedule/memory';
import { schedule, scheduleDates } from '@yellowhammer/core/schedule/schedule';
import { Sums } from '@yellowhammer/core/view/sums';
import { peopledPlan, sure, viewIn } from './helpers';
import { planFile, smallPlan, withPeople } from './twin/plans';

const f = (key: string): Field => sure(builtIn.find((x) => x.key === key));
const cell = (doc: Document, id = 'A') => activityCell({ doc, view: viewIn(doc), baseline: null, clock: false }, sure(doc.activities.get(id)));
const values = (doc: Document, keys: string[], id = 'A') => keys.map((k) => valueOf(f(k), cell(doc, id)));

/** Half done: two of four days; Ana 2 units at 30, rising to 36 on 1 January; materials; expenses of each kind. */
const half = (): Document =>
  peopledPlan(
    {
      activities: [
        ['A', '4d', { cost: 100, actualStart: '2026-12-30T08:00', remaining: 960 }],
        ['B', '2d', { cost: 40 }],
        ['M', 'finish', {}],
      ],
      project: { plannedStart: '2026-12-30T08:00', dataDate: '2027-01-01T08:00' },
    },
    {
      accounts: [
        { id: 'lab', name: 'Labour' },
        { id: 'fee', name: 'Fees' },
      ],
      resources: [
        {
          id: 'ana',
          accountId: 'lab',
          perUse: 50,
          rates: [
            { from: '2026-01-01', perHour: 30 },
            { from: '2027-01-01', perHour: 36 },
          ],
        },
      ],
      assignments: [{ activityId: 'A', resourceId: 'ana', units: 2, work: 4 * 480 * 2000 }],
      expenses: [
        { budget: 300, when: 'even', accountId: 'fee', committed: 250 },
        { budget: 70, when: 'finish', actual: 20 },
        { activityId: 'M', budget: 5000, income: true, when: 'finish' },
      ],
    },
  );

test('half done, crossing a year: each figure by hand', () => {
  // Assigned: 32 h at 30, 32 h at 36, 50 for the use. Spent: 300 + 70. Lump 100.
  expect(values(half(), ['assignedCost', 'expensesCost', 'cost'])).toEqual([960 + 1152 + 50, 370, 2162 + 370 + 100]);
  // Actual: 960 + 50; half of 300; 20 as entered; half of the lump.
  expect(values(half(), ['actualCost', 'remainingCost', 'committed'])).toEqual([1010 + 150 + 20 + 50, 2632 - 1230, 250]);
  expect(values(half(), ['budget', 'costVariance', 'costPercent', 'accounts'])).toEqual([2632, 0, 46.7, 'Fees, Labour']);
  expect(values(half(), ['income', 'incomeActual', 'cost'], 'M')).toEqual([5000, 0, 0]);
});

test('more than was planned is a variance below 0', () => {
  const doc = half();
  doc.expenses.set('e1', { ...sure(doc.expenses.get('e1')), actual: 90.5 });
  expect(values(doc, ['expensesCost', 'costVariance'])).toEqual([390.5, -20.5]);
});

test('nodes and the project: sums, and the percent of all that they cost', () => {
  const doc = half();
  const view = viewIn(doc);
  const context = { doc, view, baseline: null, clock: false };
  const whole: NodeCell = { ...context, kind: 'wbs', node: { ...wbsDefaults, id: '', rank: 0, name: '' }, code: '', rollup: view.rollups.get(''), sums: new Sums(context) };
  expect([rollUp(doc, sure(schedule(doc).computed)).get('')?.cost, view.summary.cost]).toEqual([2672, 2672]);
  // 1,230 of 2,672.
  expect(['cost', 'actualCost', 'income', 'costPercent'].map((k) => showField(f(k), whole))).toEqual(['2,672', '1,230', '5,000', '46%']);
});

test.each([
  ['the whole: the rest is the lump sum', '3,000', { fields: { cost: 468 } }],
  ['just what is there', '2532', { fields: { cost: 0 } }],
  ['empty: no lump sum', '', { fields: { cost: 0 } }],
  ['hundredths', '2532.37', { fields: { cost: 0.37 } }],
])('typing the cost of an activity with assignments, %s', (_, text, expected) => {
  expect(f('cost').read?.(text, cell(half()), () => 'x')).toEqual(expected);
});
test('less than its assignments and expenses cost is refused, and what is no amount', () => {
  const read = (text: string) => f('cost').read?.(text, cell(half()), () => 'x') as { error: string };
  expect(read('2,531.99').error).toContain('2,532 by its assignments and expenses');
  expect(read('12 apples').error).toContain('cannot be read');
  expect([editField(f('cost'), cell(half())), editField(f('cost'), cell(half(), 'B')), editField(f('cost'), cell(half(), 'M'))]).toEqual(['2632', '40', '']);
});

test('what is kept from one computation to the next is what a fresh one finds', () => {
  const doc = half();
  const edit = (table: 'activities' | 'assignments' | 'expenses' | 'resources' | 'project', id: string, fields: object): void => {
    const before = sure(doc[table].get(id));
    applyChanges(doc, [{ table, id, before, after: { ...before, ...fields } as never }]);
  };
  const edits: (() => void)[] = [
    () => edit('activities', 'B', { cost: 41 }),
    () => edit('activities', 'B', { cost: 0 }),
    () => edit('activities', 'B', { cost: 12 }),
    () => edit('activities', 'A', { remaining: 480 }),
    () => edit('activities', 'A', { actualStart: '2026-12-29T08:00' }),
    () => edit('activities', 'A', { duration: 2400, remaining: 1440 }),
    () => edit('expenses', 'e0', { when: 'date', date: null }),
    () => edit('activities', 'A', { actualStart: null, remaining: null, constraints: [{ kind: 'startNotBefore', date: '2027-02-01' }] }),
    () => edit('activities', 'A', { constraints: [] }),
    () => edit('expenses', 'e0', { when: 'even', date: null }),
    // Before the rate rises, then over the day on which it does.
    () =>
      edit('resources', 'ana', {
        rates: [
          { from: '2026-01-01', perHour: 20, accountId: null },
          { from: '2027-03-01', perHour: 50, accountId: null },
        ],
      }),
    // Moved by what lies before it alone: its own row stays.
    () => applyChanges(doc, [{ table: 'links', id: 'l', before: null, after: { id: 'l', rank: 0, from: 'B', to: 'A', type: 'FS', lag: 0, lagCalendar: null } }]),
    () => edit('activities', 'B', { duration: 41 * 480 }),
    () => edit('activities', 'B', { duration: 60 * 480 }),
    () => edit('activities', 'B', { duration: 41 * 480 }),
    () => edit('activities', 'B', { duration: 480 }),
    () => edit('resources', 'ana', { rates: [{ from: '2026-01-01', perHour: 20, accountId: null }] }),
    () => edit('resources', 'ana', { perUse: 0 }),
    () => edit('assignments', 'x0', { delay: 480 }),
    () => edit('project', 'project', { dataDate: '2027-01-08T08:00' }),
    () => edit('expenses', 'e1', { activityId: 'B' }),
    // Others come to stand where these stood.
    () => edit('activities', 'M', { rank: -1 }),
    () => edit('activities', 'B', { cost: 13 }),
    () => applyChanges(doc, [{ table: 'assignments', id: 'x0', before: sure(doc.assignments.get('x0')), after: null }]),
  ];
  // The worker remembers the network, so that places stay the same ones.
  const memory = new NetworkMemory();
  const told = (d: Document) => {
    const c = costsOf(d, sure(scheduleDates(d, d === doc ? memory : undefined).computed));
    return Object.values(c).map((list) => [...list]);
  };
  told(doc);
  let seen = new Set<string>();
  for (const [n, e] of edits.entries()) {
    e();
    expect([n, ...told(doc)]).toEqual([n, ...told(copyDocument(doc))]);
    seen = seen.add(JSON.stringify(told(doc)));
  }
  expect(seen.size).toBeGreaterThan(7);
});

test('where no figure changes the list is the same one, and one that somebody holds stays as it was', () => {
  const doc = half();
  const memory = new NetworkMemory();
  const now = () => costsOf(doc, sure(scheduleDates(doc, memory).computed));
  const edit = (id: string, fields: object) => {
    const before = sure(doc.activities.get(id));
    applyChanges(doc, [{ table: 'activities', id, before, after: { ...before, ...fields } }]);
  };
  const first = now();
  const told = JSON.stringify(first);
  edit('B', { duration: 3 * 480, notes: 'A word' });
  expect(now()).toBe(first);
  edit('A', { cost: 200 });
  // Half of 100 more is done.
  expect(now().actual[0]).toBe(sure(first.actual[0]) + 5000);
  expect(JSON.stringify(first)).toBe(told);
});

test('on random plans each figure is what the rows of money come to', () => {
  let [seen, crossing] = [0, 0];
  for (let seed = 1; seed <= 50; seed++) {
    const plan = withPeople(smallPlan(seed, 6), seed);
    const file = planFile(plan) as { resources: Record<string, unknown>[]; activities: { id: string }[]; assignments: Record<string, unknown>[] };
    const read = readProjectFile(
      JSON.parse(
        JSON.stringify({
          ...file,
          activities: file.activities.map((a, n) => ({ ...a, cost: n % 3 === 0 ? 12.34 * (n + 1) : 0 })),
          resources: file.resources.map((r, n) => ({
            ...r,
            perUse: n % 2 ? 7.33 : 0,
            rates: n % 4 === 3 ? [] : [{ from: '2025-03-01', perHour: 33.37 }, ...(n % 2 ? [{ from: '2025-03-12', perHour: 41.01 }] : [])],
            prices: [{ from: '2025-03-01', price: 3.333 }],
          })),
          assignments: file.assignments.map((x, n) => ({ ...x, actualCost: (n + seed) % 5 === 0 ? 99.99 : null })),
          expenses: file.activities.map((a, n) => ({
            id: `e${n}`,
            activityId: a.id,
            when: ['start', 'finish', 'even', 'date'][(n + seed) % 4],
            date: n % 2 ? '2025-03-10' : null,
            budget: 100.01 * n - 50,
            actual: n % 5 === 1 ? 33.33 : null,
            remaining: n % 7 === 2 ? 11.11 : null,
            committed: n,
            income: n % 3 === 2,
          })),
        }),
      ),
    );
    const doc = sure(read.file).document;
    const r = sure(schedule(doc).computed);
    const c = costsOf(doc, r);
    const all = moneyRows(doc, r);
    r.network.rows.forEach((a, i) => {
      const told = [costAt(c, i, a) * 100, c.actual[i]!, Math.round(a.cost * 100) + c.budget[i]!, c.income[i]!, c.incomeActual[i]!, c.incomeBudget[i]!].map(Math.round);
      const rows = all.filter((row) => row.activityId === a.id);
      const sum = (of: (row: (typeof rows)[number]) => boolean): number => rows.filter(of).reduce((n, row) => n + moneyOf(row), 0);
      expect([seed, a.id, ...told]).toEqual([
        seed,
        a.id,
        sum((x) => !x.income && x.part !== 'budget'),
        sum((x) => !x.income && x.part === 'actual'),
        sum((x) => !x.income && x.part === 'budget'),
        sum((x) => x.income && x.part !== 'budget'),
        sum((x) => x.income && x.part === 'actual'),
        sum((x) => x.income && x.part === 'budget'),
      ]);
      seen++;
      if (new Set(rows.filter((x) => x.source === 'assignment').flatMap((x) => x.flows.flatMap((w) => (w.kind === 'piece' ? w.perWork : [])))).size > 1) crossing++;
    });
  }
  expect([seen > 150, crossing > 12]).toEqual([true, true]);
});
