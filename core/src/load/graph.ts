/** Demand against what is there as one graph on a time axis: of somebody, of chosen activities together, or of all. */
import { type Document, labelOf } from '../model/document.ts';
import { isMaterial } from '../model/assigned.ts';
import type { Instant } from '../time/instant.ts';
import { demandOf } from './demand.ts';
import type { Loads, SubjectKind } from './load.ts';
import { type Steps, sumOfAll } from './steps.ts';

/** What a graph is of. Of activities: what they ask for together, of whomever. */
export type GraphOf = { of: 'subject'; kind: SubjectKind; id: string } | { of: 'activities'; ids: readonly string[] } | { of: 'all' };

export interface LoadGraph {
  name: string;
  unit: string | null;
  /** Thousandths of units from each instant on. */
  at: Instant[];
  demand: number[];
  /** What is there; null: without a limit. */
  there: number[] | null;
  /** Of the demand, what the chosen activities ask for. */
  part: number[];
}

const valuesAt = (s: Steps, at: readonly Instant[]): number[] => {
  let n = -1;
  return at.map((t) => {
    while (n + 1 < s.at.length && s.at[n + 1]! <= t) n++;
    return n < 0 ? 0 : s.value[n]!;
  });
};

/** The graph over all of the work; undefined where there is nothing to draw. `chosen`: activities whose part is told apart. */
export function loadGraph(doc: Document, loads: Loads, what: GraphOf, chosen: ReadonlySet<string>): LoadGraph | undefined {
  if (!loads.span) return undefined;
  const { from, to } = loads.span;
  if (what.of === 'activities') {
    const ids = new Set(what.ids);
    const own = loads.loaded.filter((l) => ids.has(l.activity.id) && !isMaterial(doc, l.assignment));
    const { steps } = demandOf(own);
    const [first] = what.ids;
    const a = first === undefined ? undefined : doc.activities.get(first);
    const name = what.ids.length === 1 && a ? labelOf(a) : `${what.ids.length} activities`;
    return { name, unit: null, at: steps.at, demand: steps.value, there: null, part: steps.value };
  }
  const subjects =
    what.of === 'all' ? loads.subjects.filter((s) => s.kind === 'resource' && s.unit === undefined) : loads.subjects.filter((s) => s.kind === what.kind && s.id === what.id);
  const [one] = subjects;
  if (!one) return undefined;
  const parts = subjects.map((s) => s.curve.within(from, to));
  const demand = sumOfAll(parts.map((p) => ({ at: p.at, value: p.demand })));
  const limited = subjects.every((s) => s.curve.limited);
  const there = limited ? sumOfAll(parts.map((p) => ({ at: p.at, value: p.there }))) : null;
  const part = demandOf(subjects.flatMap((s) => s.asks.filter((l) => chosen.has(l.activity.id)))).steps;
  // All of them on common instants.
  const at = [...new Set([...demand.at, ...(there?.at ?? []), ...part.at])].sort((x, y) => x - y);
  return {
    name: what.of === 'all' ? 'Everybody' : one.name,
    unit: one.unit ?? null,
    at,
    demand: valuesAt(demand, at),
    there: there && valuesAt(there, at),
    part: valuesAt(part, at),
  };
}
