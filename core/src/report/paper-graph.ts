/** The graph under the plan on paper, on the axis of its bars: who is asked for against what is there, or money. */
import { moneySpan, rowsOf } from '../cost/money.ts';
import { moneyRows } from '../cost/parts.ts';
import { moneyTable } from '../cost/table.ts';
import { amountText } from '../fields/amounts.ts';
import { type GraphOf, loadGraph } from '../load/graph.ts';
import { loadsOf, type SubjectKind } from '../load/load.ts';
import { unitsText } from '../load/words.ts';
import { type Document, projectOf } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { type ScheduleView } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';
import type { Ink, Shape } from './scene.ts';

/** Points of its height, its heading included. */
export const GRAPH_HEIGHT = 104;

export interface PaperGraph {
  title: string;
  note: string;
  low: number;
  high: number;
  /** What the highest value is called. */
  most: string;
  bars: { from: Instant; to: Instant; low: number; high: number; fill: Ink }[];
  lines: { points: [Instant, number][]; ink: Ink; width: number; dash?: number[] }[];
}

export interface GraphState {
  doc: Document;
  computed: Computed;
}

/** What is drawn for a choice (`all`, `resource ID`, `role ID`, `group ID`, `flow`, `curve`); null where there is nothing of it. */
export function paperGraph({ doc, computed }: GraphState, view: ScheduleView, choice: string, baseline: GraphState | null): PaperGraph | null {
  if (choice === 'flow' || choice === 'curve') return moneyGraph({ doc, computed }, view, choice, baseline);
  const [kind, ...id] = choice.split(' ');
  const what: GraphOf = choice === 'all' ? { of: 'all' } : { of: 'subject', kind: kind as SubjectKind, id: id.join(' ') };
  const g = loadGraph(doc, loadsOf(doc, computed), what, new Set());
  if (!g || g.at.length === 0) return null;
  const bars: PaperGraph['bars'] = [];
  const limit: [Instant, number][] = [];
  for (let n = 0; n + 1 < g.at.length; n++) {
    const [from, to, asked] = [g.at[n]!, g.at[n + 1]!, g.demand[n]!];
    const there = g.there ? g.there[n]! : asked;
    if (asked > 0) bars.push({ from, to, low: 0, high: Math.min(asked, there), fill: 'slateLight' });
    if (asked > there) bars.push({ from, to, low: there, high: asked, fill: 'chestnut' });
    // Nights and weekends would make a fence of the limit.
    if (g.there && there > 0) limit.push([from, there], [to, there]);
  }
  const high = Math.max(...g.demand, ...(g.there ?? []), 1000);
  return {
    title: g.name,
    note: g.there ? 'asked for; over what is there: dark; line: what is there' : 'asked for',
    low: 0,
    high,
    most: `${unitsText(high)} at once`,
    bars,
    lines: limit.length ? [{ points: limit, ink: 'ink', width: 0.8 }] : [],
  };
}

function moneyGraph({ doc, computed }: GraphState, view: ScheduleView, choice: 'flow' | 'curve', baseline: GraphState | null): PaperGraph | null {
  const rows = rowsOf(doc, computed);
  if (!moneySpan(rows)) return null;
  const base = baseline && { early: moneyRows(baseline.doc, baseline.computed), late: [] };
  const context = { doc, view, baseline: null, clock: false };
  // Weeks where they are few enough, else months.
  const bucketing = (kind: 'week' | 'month') => moneyTable(context, computed, rows, 'account', { kind, weekStart: projectOf(doc).options.weekStart }, base);
  const weeks = choice === 'curve' ? bucketing('week') : '';
  const t = typeof weeks === 'string' ? bucketing('month') : weeks;
  if (typeof t === 'string') return null;
  const { edges, cells } = t;
  const running = (of: (f: (typeof cells)[number]) => number): [Instant, number][] => {
    let sum = 0;
    return [[edges[0]!, 0], ...cells.map((f, n): [Instant, number] => [edges[n + 1]!, (sum += of(f))])];
  };
  const currency = projectOf(doc).currency || 'the project’s currency';
  const bars: PaperGraph['bars'] = [];
  const lines: PaperGraph['lines'] = [];
  if (choice === 'flow') {
    cells.forEach((f, n) => {
      if (f.income > 0) bars.push({ from: edges[n]!, to: edges[n + 1]!, low: 0, high: f.income, fill: 'slateLight' });
      if (f.cost > 0) bars.push({ from: edges[n]!, to: edges[n + 1]!, low: -f.cost, high: 0, fill: 'slate' });
    });
    lines.push({ points: running((f) => f.income - f.cost), ink: 'ink', width: 0.9 });
  } else {
    lines.push({ points: running((f) => f.lateCost), ink: 'slateLight', width: 1 });
    if (t.baseline) {
      let sum = 0;
      lines.push({ points: [[edges[0]!, 0], ...t.baseline.map((b, n): [Instant, number] => [edges[n + 1]!, (sum += b.cost)])], ink: 'muted', width: 0.7, dash: [1, 2] });
    }
    lines.push({ points: running((f) => f.cost), ink: 'slate', width: 1.4 });
  }
  const values = [...bars.flatMap((b) => [b.low, b.high]), ...lines.flatMap((l) => l.points.map(([, v]) => v))];
  const [low, high] = [Math.min(0, ...values), Math.max(0, ...values, 1)];
  return {
    title: choice === 'flow' ? 'Money in and out by month' : 'Cost up to each week',
    note: `${choice === 'flow' ? 'light: in; dark: out; line: net up to then' : 'line: early; pale: late; dots: baseline'}; in ${currency}`,
    low,
    high,
    most: amountText(Math.round(high) / 100),
    bars,
    lines,
  };
}

/** Its shapes between two heights; `x` places an instant between left and right. */
export function drawGraph(g: PaperGraph, x: (t: Instant) => number, left: number, right: number, top: number, bottom: number): Shape[] {
  const out: Shape[] = [];
  const [high, low] = [top + 16, bottom];
  const y = (v: number): number => low - ((v - g.low) / (g.high - g.low)) * (low - high);
  out.push({ kind: 'line', x1: left, y1: y(0), x2: right, y2: y(0), stroke: 'hairline', line: 0.6 });
  for (const b of g.bars) {
    const [from, to] = [x(b.from), x(b.to)];
    // Outside of the time that is shown both ends meet at the edge.
    if (to - from < 0.05) continue;
    out.push({ kind: 'rect', x: from, y: y(b.high), w: Math.max(to - from, 0.2), h: Math.max(y(b.low) - y(b.high), 0.2), fill: b.fill });
  }
  for (const l of g.lines)
    for (let n = 0; n + 1 < l.points.length; n++) {
      const [[a, v], [b, w]] = [l.points[n]!, l.points[n + 1]!];
      if (x(b) > x(a) || (v !== w && x(a) > left + 1 && x(a) < right))
        out.push({ kind: 'line', x1: x(a), y1: y(v), x2: x(b), y2: y(w), stroke: l.ink, line: l.width, ...(l.dash ? { dash: l.dash } : {}) });
    }
  return out;
}
