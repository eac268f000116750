/** Assignments on paper: lines under their activity with what they say in each column, or strips under the bar. */
import { assignmentLines } from '@yellowhammer/core/load/lines';
import { usualSettings, type ViewSettings } from '@yellowhammer/core/model/view-schema';
import { PlanPages } from '@yellowhammer/core/report/plan-report';
import type { Page } from '@yellowhammer/core/report/scene';
import { schedule } from '@yellowhammer/core/schedule/schedule';
import { peopledPlan, sure, viewIn } from './helpers';

/** A (2 d) by two masons and a painter in colour, B (1 d) by nobody. */
const doc = () =>
  peopledPlan(
    {
      activities: [
        ['A', '2d'],
        ['B', '1d'],
      ],
      links: ['A > B'],
    },
    {
      resources: [
        { id: 'mason', name: 'Mason', rates: [{ from: '2026-01-01', perHour: 30, accountId: null }] },
        { id: 'painter', name: 'Painter', colour: '#2f6f83' },
      ],
      assignments: [
        { activityId: 'A', resourceId: 'mason', units: 2, work: 1_920_000 },
        { activityId: 'A', resourceId: 'painter', work: 480_000, delay: 480 },
      ],
    },
  );
function pagesOf(assignments: ViewSettings['assignments'], given = true): PlanPages {
  const d = doc();
  const computed = sure(schedule(d).computed);
  const view = { ...usualSettings, columns: ['code', 'name', 'start', 'finish', 'work', 'cost'], assignments };
  return new PlanPages({
    doc: d,
    view: viewIn(d),
    baseline: null,
    measure: (t, size) => t.length * size * 0.4,
    printed: '',
    settings: { paper: 'a4', landscape: true, title: '', subtitle: '', columns: [], depth: 0, rows: 'all', legend: false, baseline: false, view },
    ...(given ? { linesOf: (ids: readonly string[]) => assignmentLines(d, computed, ids) } : {}),
  });
}
/** Texts by line of the table, from top to bottom. */
function table(page: Page): string[] {
  const lines = new Map<number, { x: number; text: string }[]>();
  for (const s of page.shapes) if (s.kind === 'text' && s.y > 100 && s.x < 480) lines.set(s.y, [...(lines.get(s.y) ?? []), s]);
  return [...lines].sort(([a], [b]) => a - b).map(([, list]) => list.map((t) => t.text).join(' | '));
}

test('as lines: who with units, their days, work and cost; the activity keeps its own', () => {
  const pages = pagesOf('lines');
  expect(pages.rows).toBe(4);
  const told = table(pages.page(0)).filter((t) => /Mason|Painter|^A \||^B \|/.test(t));
  expect(told).toEqual([
    'A | A | 2 Mar 26 | 3 Mar 26 | 40 h | 960',
    'Mason 2 | 2 Mar 26 | 3 Mar 26 | 32 h | 960',
    // A day after the start of A.
    'Painter | 3 Mar 26 | 3 Mar 26 | 8 h',
    'B | B | 4 Mar 26 | 4 Mar 26',
  ]);
  // Of the painter the mark and the bar have its colour; the bar is that of a day, half as long as the mason's.
  const rects = pages.page(0).shapes.flatMap((s) => (s.kind === 'rect' && s.h === 4 ? [s] : []));
  expect(rects).toHaveLength(2);
  expect(sure(rects[1]).w / sure(rects[0]).w).toBeCloseTo(9 / 33, 2);
  expect(sure(rects[1]).stroke).toBe('#2f6f83');
});

test('as strips: nothing is longer, thin rectangles lie under the bar; hidden, or without anybody who knows, none', () => {
  const strips = (p: PlanPages): number => p.page(0).shapes.filter((s) => s.kind === 'rect' && s.h === 0.9).length;
  expect([pagesOf('strips').rows, strips(pagesOf('strips'))]).toEqual([2, 2]);
  expect([pagesOf('hidden').rows, strips(pagesOf('hidden'))]).toEqual([2, 0]);
  expect([pagesOf('lines', false).rows, strips(pagesOf('strips', false))]).toEqual([2, 0]);
});
