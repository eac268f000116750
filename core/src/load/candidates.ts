/** Who could do an activity: resources by the room that they have in its time, and what assigning each would do. */
import { applyChanges, invertChanges } from '../change/change.ts';
import { assign, reassign } from '../commands/assign.ts';
import type { NewId, Outcome } from '../commands/result.ts';
import { type Document, ordered } from '../model/document.ts';
import type { Computed } from '../schedule/compute.ts';
import { scheduleDates } from '../schedule/schedule.ts';
import type { Instant } from '../time/instant.ts';
import { thousandths } from './figures.ts';
import type { Loads } from './load.ts';

export interface Candidate {
  resourceId: string;
  name: string;
  /** It has the role as its own, can fill it, or was not asked for a role. */
  fills: 'own' | 'other' | 'any';
  /** Thousandths of unit-minutes that are free in the activity's time, and that are there. */
  room: number;
  there: number;
  /** With the activity it would be over its limit somewhere in that time. */
  over: boolean;
  /** Finish of the activity and of the project with it. */
  finish: Instant;
  projectFinish: Instant;
}

/** Candidates whose effect on dates is computed; the others are told without. */
const MOST = 12;

/** What is wanted: a role that is to be filled by one of them (`assignmentId`), or somebody in addition. */
export interface Wanted {
  activityId: string;
  roleId: string | null;
  units: number;
  assignmentId?: string;
}

/** The outcome of taking a candidate. */
export const takeCandidate = (doc: Document, w: Wanted, resourceId: string, newId: NewId): Outcome =>
  w.assignmentId === undefined ? assign(doc, [w.activityId], [{ resourceId, roleId: null, units: w.units }], newId) : reassign(doc, [w.assignmentId], { resourceId, roleId: null });

/** Labour and equipment ranked by room: those who fit first, then own role before others, then the freest. The document is left as it is. */
export function candidatesFor(doc: Document, r: Computed, loads: Loads, w: Wanted, newId: NewId): Candidate[] {
  const place = r.network.ids.indexOf(w.activityId);
  if (place < 0) return [];
  const node = r.network.nodeOf[place]!;
  const [from, to] = [r.early.start[node]!, Math.max(r.early.finish[node]!, r.early.start[node]! + 1)];
  const milli = thousandths(w.units);
  const rows = ordered(doc, 'resources').flatMap((res) => {
    if (res.kind === 'material') return [];
    const fills = w.roleId === null ? ('any' as const) : res.roleId === w.roleId ? ('own' as const) : res.otherRoles.includes(w.roleId) ? ('other' as const) : undefined;
    const curve = loads.subjects.find((s) => s.kind === 'resource' && s.id === res.id)?.curve;
    if (!fills || !curve) return [];
    const steps = curve.within(from, to);
    let [room, there, over] = [0, 0, false];
    for (let n = 0; n + 1 < steps.at.length; n++) {
      const long = steps.at[n + 1]! - steps.at[n]!;
      const [d, c] = [steps.demand[n]!, steps.there[n]!];
      there += c * long;
      room += Math.max(0, c - d) * long;
      // Where nobody is there the activity waits, so that only working time counts.
      if (c > 0 && d + milli > c + 0.001) over = true;
    }
    return [{ resourceId: res.id, name: res.name, fills, room, there, over, finish: r.early.finish[node]!, projectFinish: r.projectFinish }];
  });
  const own = (c: Candidate): number => (c.fills === 'other' ? 1 : 0);
  rows.sort((a, b) => Number(a.over) - Number(b.over) || own(a) - own(b) || b.room - a.room);
  return rows.map((c, n) => (n < MOST ? { ...c, ...datesWith(doc, w, c.resourceId, newId, c) } : c));
}

function datesWith(doc: Document, w: Wanted, resourceId: string, newId: NewId, before: Candidate): Pick<Candidate, 'finish' | 'projectFinish'> {
  const outcome = takeCandidate(doc, w, resourceId, newId);
  if (!outcome.ok) return before;
  applyChanges(doc, outcome.changes);
  try {
    const { computed } = scheduleDates(doc);
    const place = computed?.network.ids.indexOf(w.activityId) ?? -1;
    return computed && place >= 0 ? { finish: computed.early.finish[computed.network.nodeOf[place]!]!, projectFinish: computed.projectFinish } : before;
  } finally {
    applyChanges(doc, invertChanges(outcome.changes));
  }
}
