/** Which rows a view shows, in which order and under which headings: filter, focus, groups and sort together. */
import { type Cell, type FieldContext, showField } from '../fields/field.ts';
import { activityCell, fieldOf } from '../fields/list.ts';
import { type SortKey, sortRows } from '../fields/sort.ts';
import { assigneeOf } from '../model/assigned.ts';
import { indexOf } from '../model/doc-index.ts';
import type { Activity } from '../model/schema.ts';
import type { Filter, Level, Quick } from '../model/view-schema.ts';
import { focused, type OutlineRow, outlineRows } from '../outline/outline.ts';
import { progressAgainst } from '../fields/progress.ts';
import { filterTest, type Test } from './filter.ts';
import { groupRows, knownLevels } from './groups.ts';
import { Sums } from './sums.ts';

/** What of a view decides on its rows. */
export interface Organising {
  filter: Filter | null;
  quick: readonly Quick[];
  /** A text that one of the shown fields holds; empty: any. */
  text: string;
  columns: readonly string[];
  /** Who looks, for what is theirs; empty: nobody. */
  me: string;
  /** The instants of the window, for what lies in it. */
  window: { from: number; to: number } | null;
  /** Activities that are shown at all; null: all. */
  only: ReadonlySet<string> | null;
  focus: ReadonlySet<string> | null;
  groups: readonly Level[];
  sort: readonly SortKey[];
  /** Nodes and headings that are closed. */
  closed: ReadonlySet<string>;
  /** Without WBS nodes, where nothing is grouped. */
  flat: boolean;
}

export const everything: Organising = {
  filter: null,
  quick: [],
  text: '',
  columns: [],
  me: '',
  window: null,
  only: null,
  focus: null,
  groups: [],
  sort: [],
  closed: new Set(),
  flat: false,
};

export interface Organised {
  rows: OutlineRow[];
  /** Activities that the filters let through, and all that there are. */
  shown: number;
  all: number;
  /** All headings of groups with their depth, those in closed ones too. */
  headings: readonly { id: string; depth: number }[];
}

const quickTests: Record<Quick, (c: FieldContext, o: Pick<Organising, 'window' | 'me'>) => Test> = {
  critical: () => (cell) => cell.kind === 'activity' && cell.view !== null && cell.i !== undefined && cell.view.critical[cell.i] === 1,
  near: () => (cell) => cell.kind === 'activity' && cell.view !== null && cell.i !== undefined && (cell.view.critical[cell.i] === 1 || cell.view.nearCritical[cell.i] === 1),
  inWindow:
    (_, { window }) =>
    (cell) =>
      window === null ||
      (cell.kind === 'activity' && cell.view !== null && cell.i !== undefined && cell.view.start[cell.i]! <= window.to && cell.view.finish[cell.i]! >= window.from),
  behind: (c) => (cell) => cell.kind === 'activity' && (progressAgainst(c, cell.a)?.ahead ?? 0) < 0,
  // Who answers for it, or does it: by name, since people are resources of the plan and no accounts.
  mine: ({ doc }, { me }) => {
    const is = (name: string | undefined): boolean => me.trim() !== '' && name?.trim().toLowerCase() === me.trim().toLowerCase();
    return (cell) =>
      cell.kind === 'activity' &&
      (is(cell.a.responsible) ||
        indexOf(doc)
          .assignmentsOf(cell.a.id)
          .some((x) => is(assigneeOf(doc, x)?.name)));
  },
};
export const quickWords: Record<Quick, string> = {
  critical: 'critical',
  near: 'critical or near it',
  inWindow: 'in the window of time',
  behind: 'behind the baseline',
  mine: 'mine',
};

/** Whether one of some fields of a row shows a text, whatever the case. */
export function textIn(text: string, columns: readonly string[], context: FieldContext): Test {
  const low = text.trim().toLowerCase();
  const fields = columns.flatMap((k) => fieldOf(context.doc, k) ?? []);
  return (cell: Cell) => fields.some((f) => showField(f, cell).toLowerCase().includes(low));
}

/** All that filters ask of a row; null where nothing is asked. */
export function testOf(o: Organising, context: FieldContext): Test | null {
  const tests: Test[] = [];
  if (o.filter) tests.push(filterTest(o.filter, context));
  for (const q of o.quick) tests.push(quickTests[q](context, o));
  if (o.text.trim() !== '') tests.push(textIn(o.text, o.columns, context));
  const { only } = o;
  if (only) tests.push((cell) => cell.kind === 'activity' && only.has(cell.a.id));
  return tests.length ? (cell) => tests.every((t) => t(cell)) : null;
}

/** Rows of the outline with those that a test lets through, and the nodes that they are in. */
function filtered(rows: readonly OutlineRow[], keep: (a: Activity) => boolean): OutlineRow[] {
  const out: OutlineRow[] = [];
  // Depth of the last row that was kept: from there up, a node less deep is one that it lies in.
  let inside = 0;
  for (let i = rows.length - 1; i >= 0; i--) {
    const r = rows[i]!;
    if (r.kind === 'activity' ? keep(r.activity) : r.depth < inside) {
      out.push(r);
      inside = r.depth;
    }
  }
  return out.reverse();
}

/** Rows without what lies in closed nodes; closed lanes say that they are. */
function without(rows: readonly OutlineRow[], closed: ReadonlySet<string>): OutlineRow[] {
  const out: OutlineRow[] = [];
  let hidden = Infinity;
  for (const r of rows) {
    if (r.depth > hidden) continue;
    hidden = Infinity;
    if (r.kind === 'wbs' && closed.has(r.id)) hidden = r.depth;
    out.push(r.kind === 'wbs' && r.node.lane && closed.has(r.id) ? { ...r, lane: true } : r);
  }
  return out;
}

/** The rows that a view shows. */
export function organise(context: FieldContext, o: Organising): Organised {
  const { doc } = context;
  const all = doc.activities.size;
  const test = testOf(o, context);
  let shown = all;
  const levels = knownLevels(doc, o.groups);
  const whole = test !== null || levels.length > 0 || o.flat;
  let rows = outlineRows(doc, whole ? new Set() : o.closed);
  if (o.focus && levels.length === 0) rows = focused(rows, o.focus);
  if (test) {
    shown = 0;
    const keep = (a: Activity): boolean => {
      const yes = test(activityCell(context, a));
      if (yes) shown++;
      return yes;
    };
    rows = levels.length > 0 || o.flat ? rows.filter((r) => r.kind === 'activity' && keep(r.activity)) : filtered(rows, keep);
  }
  if (levels.length > 0) {
    let list: OutlineRow[] = rows.filter((r) => r.kind === 'activity');
    if (o.sort.length > 0) list = sortRows(list, o.sort, context, true);
    const headings: { id: string; depth: number }[] = [];
    rows = groupRows(
      list.flatMap((r) => (r.kind === 'activity' ? r.activity : [])),
      levels,
      context,
      o.closed,
      headings,
    );
    if (o.focus) rows = focused(rows, o.focus);
    return { rows, shown, all, headings };
  }
  if (o.flat) rows = rows.filter((r) => r.kind === 'activity');
  else if (whole) rows = without(rows, o.closed);
  if (o.sort.length > 0) rows = sortRows(rows, o.sort, context, o.flat);
  return { rows, shown, all, headings: [] };
}

/** The context of rows with what their fields sum up to. */
export function withSums(context: FieldContext, rows: readonly OutlineRow[]): FieldContext {
  const groups = new Map(rows.flatMap((r) => (r.kind === 'wbs' && r.group ? [[r.id, r.group.members] as const] : [])));
  return { ...context, sums: new Sums(context, groups) };
}
