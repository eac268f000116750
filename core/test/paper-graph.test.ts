/** The graph under the plan on paper: what it is made of, and that it lies on the axis of the bars, inside the page. */
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import { drawGraph, type PaperGraph, paperGraph } from '@yellowhammer/core/report/paper-graph';
import type { ReportSettings } from '@yellowhammer/core/report/plan-table';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { formatInstant } from '@yellowhammer/core/time/instant';
import { peopledPlan, sure, viewIn } from './helpers';

const doc = peopledPlan(
  {
    activities: [
      ['A', '2d', {}],
      ['B', '1d', {}],
    ],
    links: ['A SS+1d > B'],
    project: { plannedStart: '2026-03-30T08:00', currency: 'SEK' },
  },
  {
    resources: [{ id: 'ana', rates: [{ from: '2026-01-01', perHour: 10 }] }],
    assignments: [
      { activityId: 'A', resourceId: 'ana', work: 2 * 480_000 },
      { activityId: 'B', resourceId: 'ana', work: 480_000 },
    ],
    expenses: [
      { budget: 50, income: true, when: 'finish' },
      { budget: 20, when: 'date', date: '2026-04-01' },
    ],
  },
);
const state = { doc, computed: sure(schedule(doc).computed) };
const view = viewIn(doc);
const graph = (choice: string, base = false): PaperGraph => sure(paperGraph(state, view, choice, base ? state : null));
const bars = (g: PaperGraph) => g.bars.map((b) => [formatInstant(b.from).slice(5, 13), b.low, b.high, b.fill]);

test('of one: what is asked for up to what is there, what is over it apart, and the limit', () => {
  expect(bars(graph('resource ana'))).toEqual([
    ['03-30T08', 0, 1000, 'slateLight'],
    ['03-30T13', 0, 1000, 'slateLight'],
    ['03-31T08', 0, 1000, 'slateLight'],
    ['03-31T08', 1000, 2000, 'chestnut'],
    ['03-31T13', 0, 1000, 'slateLight'],
    ['03-31T13', 1000, 2000, 'chestnut'],
  ]);
  expect([graph('resource ana').lines.length, graph('all').title, graph('resource ana').most]).toEqual([1, 'Everybody', '2 at once']);
  expect([paperGraph(state, view, 'role none', null), paperGraph(state, view, 'nonsense', null)]).toEqual([null, null]);
});
test('money by month, and up to each week with the baseline', () => {
  expect(bars(graph('flow'))).toEqual([
    ['03-01T00', 0, 5000, 'slateLight'],
    ['03-01T00', -24_000, 0, 'slate'],
    ['04-01T00', -2000, 0, 'slate'],
  ]);
  expect(graph('flow').lines[0]?.points.map(([, v]) => v)).toEqual([0, -19_000, -21_000]);
  expect(graph('curve').lines.map((l) => l.points.at(-1)?.[1])).toEqual([26_000, 26_000]);
  expect(graph('curve', true).lines.map((l) => [l.ink, l.points.at(-1)?.[1]])).toEqual([
    ['slateLight', 26_000],
    ['muted', 26_000],
    ['slate', 26_000],
  ]);
});
test('it is drawn between its edges, each value at its height', () => {
  const g = graph('flow');
  const shapes = drawGraph(g, (t) => 100 + (t - g.bars[0]!.from) / 1440, 100, 200, 10, 114);
  const rects = shapes.flatMap((s) => (s.kind === 'rect' ? [s] : []));
  // From 26 to 114 points: 5,000 above 0, 24,000 below it.
  const zero = 114 - (24_000 / 29_000) * 88;
  expect(rects.map((s) => [s.x, Math.round(s.w), Math.round(s.y * 10) / 10, Math.round(s.h * 10) / 10])).toEqual([
    [100, 31, 26, Math.round((zero - 26) * 10) / 10],
    [100, 31, Math.round(zero * 10) / 10, Math.round((114 - zero) * 10) / 10],
    [131, 30, Math.round(zero * 10) / 10, Math.round((2000 / 29_000) * 880) / 10],
  ]);
});
test('pages have room for it: fewer rows on each, and nothing below the foot', () => {
  const settings: ReportSettings = { paper: 'a4', landscape: true, title: '', subtitle: '', columns: ['code', 'name'], depth: 0, rows: 'all', legend: true, baseline: false };
  const many = peopledPlan({ activities: Array.from({ length: 25 }, (_, i): [string, string] => [`R${i}`, '1d']) }, {});
  const input = { doc: many, view: viewIn(many), baseline: null, settings, measure: (t: string, size: number) => t.length * size * 0.5, printed: '' };
  const [without, pages] = [new PlanPages(input), new PlanPages({ ...input, graph: graph('flow') })];
  expect([without.count, pages.count]).toEqual([1, 2]);
  const page = pages.page(0);
  for (const s of page.shapes) expect(s.kind === 'rect' ? s.y + s.h : s.kind === 'text' ? s.y : 0).toBeLessThan(page.height - 20);
  expect(page.shapes.some((s) => s.kind === 'text' && s.text === 'Money in and out by month')).toBe(true);
});
