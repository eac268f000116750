/** What a proposal of levelling does to one resource, before and after in one picture; and who is served first by fields. */
import { takeDelays } from '../commands/level.ts';
import { applyChanges, invertChanges } from '../change/change.ts';
import type { FieldContext } from '../fields/field.ts';
import { type SortKey, sortRows } from '../fields/sort.ts';
import type { Curve } from '../load/curve.ts';
import { loadsOf } from '../load/load.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { scheduleDates } from '../schedule/schedule.ts';
import { type Instant, MINUTES_PER_DAY } from '../time/instant.ts';

/** Most stretches that the picture is parted into. */
const MOST_PARTS = 150;

/** One side of the picture: the most units at once in each part, and all that is over. */
export interface LevelSide {
  peak: number[];
  /** Unit-minutes above what is there, in thousandths, and in how many stretches. */
  over: number;
  runs: number;
}
export interface LevelPicture {
  /** Boundaries of the parts: whole days, or several of them. */
  edges: Instant[];
  /** Most units that are there in each part. */
  there: number[];
  before: LevelSide;
  after: LevelSide;
}

/** Demand of a resource as it is and with delays taken, from the data date on; undefined where nobody asks for it. The document is the same afterwards. */
export function levelPicture(doc: Document, r: Computed, resourceId: string, delays: ReadonlyMap<string, number>): LevelPicture | undefined {
  const taken = takeDelays(doc, delays);
  const changes = taken.ok ? taken.changes : [];
  const curveOf = (of: Computed): Curve | undefined => loadsOf(doc, of).subjects.find((s) => s.kind === 'resource' && s.id === resourceId)?.curve;
  const before = curveOf(r);
  applyChanges(doc, changes);
  try {
    const then = scheduleDates(doc).computed;
    const after = then && curveOf(then);
    const spans = [before, after].flatMap((c) => c?.span ?? []);
    if (!before || !after || spans.length === 0) return undefined;
    const first = Math.max(Math.min(...spans.map((s) => s.from)), r.network.dataDate ?? -Infinity);
    const from = Math.floor(first / MINUTES_PER_DAY);
    const days = Math.max(1, Math.ceil(Math.max(...spans.map((s) => s.to)) / MINUTES_PER_DAY) - from);
    const each = Math.ceil(days / MOST_PARTS);
    const edges = Array.from({ length: Math.ceil(days / each) + 1 }, (_, n) => (from + n * each) * MINUTES_PER_DAY);
    const side = (c: Curve): LevelSide => {
      const runs = c.runs().filter((run) => run.to > first);
      return { peak: c.buckets(edges).map((b) => b.peak), over: runs.reduce((sum, run) => sum + run.over, 0), runs: runs.length };
    };
    const there = edges.slice(1).map((to, n) => after.greatestCapacity(edges[n]!, to));
    return { edges, there, before: side(before), after: side(after) };
  } finally {
    applyChanges(doc, invertChanges(changes));
  }
}

/** Ranks of all activities by fields, the first that differs counts; what is alike keeps the order of the file. */
export function servedBy(context: FieldContext, sort: readonly SortKey[]): Map<string, number> {
  const rows = ordered(context.doc, 'activities').map((activity) => ({ kind: 'activity' as const, id: activity.id, depth: 0, activity }));
  return new Map(sortRows(rows, sort, context, true).map((row, n) => [row.id, n]));
}
