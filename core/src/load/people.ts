/** People on time: each resource with its work as bars, and how each day stands: off, free, room, just right, over. */
import { applyChanges, invertChanges } from '../change/change.ts';
import { reassign } from '../commands/assign.ts';
import { type Document, labelOf } from '../model/document.ts';
import { pack } from '../outline/lane.ts';
import type { Computed } from '../schedule/compute.ts';
import { State } from '../schedule/network.ts';
import { scheduleDates } from '../schedule/schedule.ts';
import { type Instant, MINUTES_PER_DAY } from '../time/instant.ts';
import { type Loads, loadsOf } from './load.ts';
import { spanOf } from './pieces.ts';

/** How a day of somebody stands. */
export type DayState = 'off' | 'free' | 'room' | 'full' | 'over';

export interface WorkBar {
  assignmentId: string;
  activityId: string;
  label: string;
  from: Instant;
  to: Instant;
  /** Thousandths of units. */
  units: number;
  done: boolean;
  critical: boolean;
  /** Which of the bars one above the other it is. */
  stack: number;
}

export interface PersonRow {
  resourceId: string;
  name: string;
  group: string | null;
  bars: WorkBar[];
  stacks: number;
  /** One for each day from the first on. */
  days: DayState[];
}

export interface PeopleOnTime {
  /** Day numbers. */
  first: number;
  rows: PersonRow[];
  /** Resources that are left out because there are too many. */
  more: number;
}

/** Rows that are told at once. */
const MOST_ROWS = 400;

/** Labour and equipment over a span of days. */
export function peopleOnTime(doc: Document, r: Computed, loads: Loads, from: Instant, to: Instant): PeopleOnTime {
  const first = Math.floor(from / MINUTES_PER_DAY);
  const last = Math.max(first + 1, Math.ceil(to / MINUTES_PER_DAY));
  const edges = Array.from({ length: last - first + 1 }, (_, n) => (first + n) * MINUTES_PER_DAY);
  const people = loads.subjects.filter((s) => s.kind === 'resource' && s.unit === undefined);
  const rows = people.slice(0, MOST_ROWS).map((s): PersonRow => {
    const bars = s.asks.flatMap((l): Omit<WorkBar, 'stack'>[] => {
      const spans = l.pieces.map(spanOf);
      if (spans.length === 0) return [];
      return [
        {
          assignmentId: l.assignment.id,
          activityId: l.activity.id,
          label: labelOf(l.activity),
          from: Math.min(...spans.map(([a]) => a)),
          to: Math.max(...spans.map(([, b]) => b)),
          units: Math.round(l.assignment.units * 1000),
          done: r.network.state[l.node] === State.finished,
          critical: r.critical[l.node] === 1,
        },
      ];
    });
    const { stackOf, stacks } = pack(bars.map((b) => ({ id: b.assignmentId, start: b.from, finish: b.to })));
    const days = s.curve.buckets(edges).map((b): DayState => {
      if (b.state === 'over' || b.state === 'away') return 'over';
      if (b.capacity === 0 && b.demand === 0) return 'off';
      return b.state === 'full' ? 'full' : b.demand === 0 ? 'free' : 'room';
    });
    const group = doc.resourceGroups.get(doc.resources.get(s.id)?.groupId ?? '');
    return { resourceId: s.id, name: s.name, group: group?.name ?? null, bars: bars.map((b) => ({ ...b, stack: stackOf.get(b.assignmentId) ?? 0 })), stacks, days };
  });
  return { first, rows, more: Math.max(0, people.length - MOST_ROWS) };
}

/** What giving an assignment to somebody else would do to both, and to dates. */
export interface Handover {
  refusal: string | null;
  /** Whose it is and whose it would be: thousandths of unit-minutes over the limit, and the most units over it, before and after. */
  both: { name: string; before: { over: number; peak: number }; after: { over: number; peak: number } }[];
  /** Finish of the activity and of the project, before and after. */
  finish: [Instant, Instant];
  projectFinish: [Instant, Instant];
}

/** Tries it and takes it back: the document is left as it is. */
export function tryHandover(doc: Document, r: Computed, loads: Loads, assignmentId: string, resourceId: string): Handover {
  const x = doc.assignments.get(assignmentId);
  const outcome = reassign(doc, [assignmentId], { resourceId, roleId: null });
  const finishOf = (c: Computed): Instant => {
    const place = x ? c.network.ids.indexOf(x.activityId) : -1;
    return place < 0 ? c.projectFinish : c.early.finish[c.network.nodeOf[place]!]!;
  };
  const told = (l: Loads, id: string): { over: number; peak: number } => {
    const runs = l.subjects.find((s) => s.kind === 'resource' && s.id === id)?.curve.runs() ?? [];
    return { over: runs.reduce((n, run) => n + run.over, 0), peak: runs.reduce((n, run) => Math.max(n, run.excess), 0) };
  };
  const ids = [x?.resourceId ?? null, resourceId].filter((id) => id !== null);
  const plain: Handover = {
    refusal: outcome.ok ? null : (outcome.problems[0]?.message ?? ''),
    both: [],
    finish: [finishOf(r), finishOf(r)],
    projectFinish: [r.projectFinish, r.projectFinish],
  };
  if (!outcome.ok) return plain;
  applyChanges(doc, outcome.changes);
  try {
    const { computed } = scheduleDates(doc);
    if (!computed) return { ...plain, refusal: 'With it the plan cannot be computed.' };
    const then = loadsOf(doc, computed);
    return {
      refusal: null,
      both: ids.map((id) => ({ name: doc.resources.get(id)?.name ?? '', before: told(loads, id), after: told(then, id) })),
      finish: [finishOf(r), finishOf(computed)],
      projectFinish: [r.projectFinish, computed.projectFinish],
    };
  } finally {
    applyChanges(doc, invertChanges(outcome.changes));
  }
}
