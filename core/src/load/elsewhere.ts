/** What other projects ask of shared resources and roles (resource rules, sections 1 and 6): their demand counts beside that of the open one. */
import { type Document, labelOf } from '../model/document.ts';
import type { Stage } from '../model/schema.ts';
import type { Computed } from '../schedule/compute.ts';
import { NONE } from '../schedule/network.ts';
import type { Instant } from '../time/instant.ts';
import { demandOf } from './demand.ts';
import { loadedOf } from './pieces.ts';
import { type Steps, sumOfAll } from './steps.ts';

export const stageNames: Record<Stage, string> = { live: 'live project', idea: 'idea', whatIf: 'what-if', closed: 'closed' };

/** A project beside the open one. */
export interface OtherProject {
  id: string;
  code: string;
  name: string;
  stage: Stage;
  archived: boolean;
}

/** What one assignment of another project asks for. */
export interface ElsewhereAsk {
  /** Shared id of the resource, or of the role that nobody fills yet. */
  sharedId: string;
  table: 'resources' | 'roles';
  /** Its place in the list of projects. */
  project: number;
  activityId: string;
  label: string;
  /** Working minutes, and what a day is in them; null: it has none. */
  float: number | null;
  minutesPerDay: number;
  steps: Steps;
  jumps: { at: Instant; work: number }[];
}

export interface Elsewhere {
  projects: OtherProject[];
  asks: ElsewhereAsk[];
}

export const nothingElsewhere: Elsewhere = { projects: [], asks: [] };

/** What a computed project asks of shared resources and roles. */
export function asksOfShared(doc: Document, r: Computed): Omit<ElsewhereAsk, 'project'>[] {
  return loadedOf(doc, r).flatMap((l): Omit<ElsewhereAsk, 'project'>[] => {
    const { resourceId, roleId } = l.assignment;
    const table = resourceId !== null ? 'resources' : 'roles';
    const sharedId = doc[table].get(resourceId ?? roleId ?? '')?.sharedId ?? null;
    if (sharedId === null || l.pieces.length === 0) return [];
    const float = r.late.totalFloat[l.node]!;
    const c = r.network.calendars[r.network.calendar[l.node]!]!;
    return [{ sharedId, table, activityId: l.activity.id, label: labelOf(l.activity), float: float === NONE ? null : float, minutesPerDay: c.minutesPerDay, ...demandOf([l]) }];
  });
}

/** Asks of elsewhere by what they ask for: `resources 17`, with the id in the open project. */
export function asksByRow(doc: Document, elsewhere: Elsewhere): Map<string, ElsewhereAsk[]> {
  const ids = new Map<string, string>();
  for (const table of ['resources', 'roles'] as const) for (const row of doc[table].values()) if (row.sharedId !== null) ids.set(`${table} ${row.sharedId}`, row.id);
  const out = new Map<string, ElsewhereAsk[]>();
  for (const a of elsewhere.asks) {
    const id = ids.get(`${a.table} ${a.sharedId}`);
    if (id === undefined) continue;
    const key = `${a.table} ${id}`;
    const list = out.get(key);
    if (list) list.push(a);
    else out.set(key, [a]);
  }
  return out;
}

/** Demand with what others ask for on top. */
export function withElsewhere(
  own: { steps: Steps; jumps: { at: Instant; work: number }[] },
  asks: readonly ElsewhereAsk[],
): { steps: Steps; jumps: { at: Instant; work: number }[] } {
  if (asks.length === 0) return own;
  const steps = sumOfAll([own.steps, ...asks.map((a) => a.steps)]);
  return { steps, jumps: [...own.jumps, ...asks.flatMap((a) => a.jumps)].sort((a, b) => a.at - b.at) };
}

/** Thousandths of unit-minutes of an ask between two instants. */
export function workElsewhere(a: Pick<ElsewhereAsk, 'steps' | 'jumps'>, from: Instant, to: Instant): number {
  let work = 0;
  for (let n = 0; n + 1 < a.steps.at.length; n++) work += Math.max(0, Math.min(to, a.steps.at[n + 1]!) - Math.max(from, a.steps.at[n]!)) * a.steps.value[n]!;
  for (const j of a.jumps) if (j.at >= from && j.at < to) work += j.work;
  return work;
}
