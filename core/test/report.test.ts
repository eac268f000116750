/** The plan on paper: what stands in each cell, which rows and columns are printed, what never overprints. Worked by hand on five days of eight hours. */
import type { Document } from '@yellowhammer/core/model/document';
import { usualSettings } from '@yellowhammer/core/model/view-schema';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { columnTitle, fitColumns, reportColumns, type ReportSettings, reportTable } from '@yellowhammer/core/report/plan-table';
import { type Paper, papers } from '@yellowhammer/core/report/scene';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { baselineViewOf, viewOf } from '@yellowhammer/core/schedule/view';
import { d, documentOf, sure } from './helpers';

/** Dig (A) and pour (B), a margin of 1,165 minutes, a milestone; a fence (C) in the yard that may wait. */
function plan(digging: string): Document {
  const doc = documentOf({
    activities: [
      ['A', digging, { cost: 1200 }],
      ['B', '2d'],
      ['R', 'margin 1165m'],
      ['M', 'finish'],
      ['C', '1d', { cost: 50 }],
    ],
    links: ['A > B', 'B > R', 'R > M'],
  });
  doc.wbs.set('yard', { id: 'yard', rank: 9, parentId: null, name: 'Yard', code: '', lane: false, notes: '', values: {} });
  doc.activities.set('C', { ...sure(doc.activities.get('C')), wbsId: 'yard' });
  return doc;
}
const settings: ReportSettings = { paper: 'a4', landscape: true, title: '', subtitle: '', columns: [...reportColumns], depth: 0, rows: 'all', legend: true, baseline: true };
const doc = plan('3d');
const before = plan('2d');
const input = {
  doc,
  view: viewOf(doc, sure(schedule(doc).computed), [], undefined),
  baseline: baselineViewOf('b', 'First', before, sure(schedule(before).computed)),
  settings,
};
const row = (code: string): string[] => sure(reportTable(input).rows.find((r) => r[0] === code));

test.each([
  // No., activity, duration, start, finish, float, done, baseline finish, moved, cost
  ['A', ['A', 'A', '3d', '2 Mar 26', '4 Mar 26', '0d', '0%', '3 Mar 26', '+1 d', '1,200']],
  ['B', ['B', 'B', '2d', '5 Mar 26', '6 Mar 26', '0d', '0%', '5 Mar 26', '+1 d', '']],
  // 1,165 minutes. What is left of a margin is told in days with one decimal, as on the screen.
  ['R', ['R', 'R', '2.4d', '9 Mar 26', '11 Mar 26', '0d', '', '10 Mar 26', '+1 d', '']],
  ['M', ['M', 'M', '', '11 Mar 26', '11 Mar 26', '0d', '0%', '10 Mar 26', '+1 d', '']],
  // Monday 2 March to 11:25 of the 11th are seven days and 205 minutes; the fence takes one day: 3,085 minutes.
  ['C', ['C', 'C', '1d', '2 Mar 26', '2 Mar 26', '6.4d', '0%', '2 Mar 26', '0 d', '50']],
  ['1', ['1', 'Yard', '1d', '2 Mar 26', '2 Mar 26', '6.4d', '0%', '2 Mar 26', '0 d', '50']],
])('the row of %s', (code, wanted) => expect(row(code)).toEqual(wanted));

test.each<[string, Partial<ReportSettings>, string[]]>([
  ['all rows', {}, ['A', 'B', 'R', 'M', '1', 'C']],
  ['one level', { depth: 1 }, ['A', 'B', 'R', 'M', '1']],
  ['critical ones', { rows: 'critical' }, ['A', 'B', 'R', 'M']],
  // The depth is a choice for all rows only.
  ['milestones', { rows: 'milestones', depth: 1 }, ['M']],
])('%s', (_, more, codes) => {
  const table = reportTable({ ...input, settings: { ...settings, ...more, columns: ['code'] } });
  expect([table.header, table.rows.flat()]).toEqual([['No.'], codes]);
});

test('a view of what is mine prints the rows of who prints it', () => {
  const mine = plan('3d');
  mine.activities.set('B', { ...sure(mine.activities.get('B')), responsible: 'Isa Morrow' });
  const printed = (me: string): string[] =>
    reportTable({ ...input, doc: mine, settings: { ...settings, me, view: { ...usualSettings, columns: ['code'], quick: ['mine'] } } }).rows.flat();
  expect([printed('isa morrow'), printed('Tam Reid'), printed('')]).toEqual([['B'], [], []]);
});

test('the whole project as a row: what is rolled up to it, and what that was in the baseline', () => {
  const columns = [
    'code',
    'name',
    'duration',
    'start',
    'finish',
    'float',
    'percent',
    'cost',
    'baselineStart',
    'baselineFinish',
    'baselineDuration',
    'baselineCost',
    'baselineFloat',
    'baselinePercent',
    'finishVariance',
  ];
  const table = reportTable({ ...input, settings: { ...settings, columns, project: true } });
  // Monday 2 to Wednesday 11 March, 11:25: 3,565 minutes are seven days and a half; a day less in the baseline. The least float is that of the path.
  expect(table.rows[0]).toEqual(['T', 'Test', '7d', '2 Mar 26', '11 Mar 26', '0d', '0%', '1,250', '2 Mar 26', '10 Mar 26', '6d', '1,250', '0d', '0%', '+1 d']);
  expect(sure(table.rows.find((r) => r[0] === 'C')).slice(8)).toEqual(['2 Mar 26', '2 Mar 26', '1d', '50', '5.4d', '0%', '0 d']);
  expect(sure(table.rows.find((r) => r[0] === 'M')).slice(10, 11)).toEqual(['']);
  expect(table.rows.length).toBe(7);
});

/** Widths by hand: all columns with the least name take 474; cost, moved, baseline finish and done take 52, 38, 62 and 34. */
test.each<[number, string[], number]>([
  [668, [], 168],
  [584, [], 84],
  [583, ['cost'], 135],
  [532, ['cost'], 84],
  [531, ['finishVariance', 'cost'], 121],
  [400, ['percent', 'baselineFinish', 'finishVariance', 'cost'], 86],
])('of a width of %d columns are left out: %j, with a name of %d', (width, leftOut, name) => {
  const fitted = fitColumns(doc, reportColumns, width);
  expect(fitted.leftOut).toEqual(leftOut);
  expect(fitted.columns.map(([c]) => c)).toEqual(reportColumns.filter((c) => !leftOut.includes(c)));
  expect(sure(fitted.columns.find(([c]) => c === 'name'))[1]).toBe(name);
});

test('on every paper each chosen column is printed or named as left out, and no texts of the foot lie over each other', () => {
  const measure = (t: string, size: number): number => t.length * size * 0.5;
  const places = (Object.keys(papers) as Paper[]).flatMap((paper) => [true, false].map((landscape) => ({ paper, landscape })));
  expect(places.length).toBeGreaterThanOrEqual(4);
  for (const place of places) {
    const pages = new PlanPages({ ...input, settings: { ...settings, ...place }, measure, printed: '25 Nov 26' });
    const texts = pages.page(0).shapes.flatMap((s) => (s.kind === 'text' ? [s] : []));
    for (const c of reportColumns) expect([c, texts.some((t) => t.text === columnTitle(doc, c)) !== pages.leftOut.includes(columnTitle(doc, c))]).toEqual([c, true]);
    const stamp = sure(texts.find((t) => t.text.startsWith('printed')));
    const foot = texts.filter((t) => t.y >= stamp.y - 60 && t.size === stamp.size);
    expect(foot.length).toBeGreaterThan(3);
    const spans = foot.map((t) => ({ y: t.y, from: t.align === 'right' ? t.x - measure(t.text, t.size) : t.x, to: t.align === 'right' ? t.x : t.x + measure(t.text, t.size) }));
    for (const [i, a] of spans.entries()) for (const b of spans.slice(i + 1)) if (Math.abs(a.y - b.y) < 6) expect(a.to <= b.from || b.to <= a.from).toBe(true);
  }
});

test('a hundred rows go over as many pages as they need, each row once', () => {
  const many = documentOf({ activities: Array.from({ length: 100 }, (_, i) => [`X${i}`, `${d(1)}m`]) });
  const view = viewOf(many, sure(schedule(many).computed), [], undefined);
  const pages = new PlanPages({ doc: many, view, baseline: null, settings, measure: (t, size) => t.length * size * 0.5, printed: '' });
  const printed = Array.from({ length: pages.count }, (_, n) => pages.page(n).shapes.flatMap((s) => (s.kind === 'text' && /^X\d+$/.test(s.text) ? [s.text] : [])));
  expect(pages.count).toBeGreaterThan(1);
  for (let i = 0; i < 100; i++) expect(printed.filter((texts) => texts.includes(`X${i}`))).toHaveLength(1);
});
