/** Roll-ups travel from the worker as what has changed: an edit changes a handful, and a thousand objects take longer to send than all dates. */
import type { Rollup } from '@yellowhammer/core/rollup/rollup';

export interface RollupDelta {
  changed: Map<string, Rollup>;
  /** Nodes that are no more. */
  gone: string[];
}
type Rollups = ReadonlyMap<string, Rollup>;

const figures = Object.keys({
  start: 1,
  finish: 1,
  duration: 1,
  percent: 1,
  cost: 1,
  activities: 1,
  critical: 1,
  float: 1,
} satisfies Record<keyof Rollup, 1>) as (keyof Rollup)[];
const same = (a: Rollup, b: Rollup): boolean => figures.every((k) => a[k] === b[k]);

export function rollupDelta(last: Rollups, next: Rollups): RollupDelta {
  const delta: RollupDelta = { changed: new Map(), gone: [] };
  for (const [id, r] of next) {
    const before = last.get(id);
    if (!before || !same(before, r)) delta.changed.set(id, r);
  }
  for (const id of last.keys()) if (!next.has(id)) delta.gone.push(id);
  return delta;
}

/** The roll-ups after a delta; those that did not change are the same objects. */
export function withDelta(last: Rollups, { changed, gone }: RollupDelta): Map<string, Rollup> {
  const out = new Map(last);
  for (const id of gone) out.delete(id);
  for (const [id, r] of changed) out.set(id, r);
  return out;
}
