/** The assignments of activities as lines under them: who, how much, when and for how much money. */
import { assigneeOf, assignedTo } from '../model/assigned.ts';
import type { Document } from '../model/document.ts';
import { assignmentRows, moneyOf, type MoneyRow, tariffsOf } from '../cost/parts.ts';
import { parted } from '../schedule/bars.ts';
import type { Computed } from '../schedule/compute.ts';
import { placeOf } from '../schedule/view.ts';
import type { Instant } from '../time/instant.ts';
import { loadOne, spanOf, standingAt } from './pieces.ts';

export interface AssignmentLine {
  id: string;
  activityId: string;
  who: string;
  /** Material has an amount in its measure instead of units and work. */
  unit: string | null;
  units: number;
  /** Thousandths of unit-minutes, or of the measure: done, and left. */
  actual: number;
  remaining: number;
  /** Hundredths: what is booked, and what is still to come. */
  actualCost: number;
  remainingCost: number;
  colour: string | null;
  /** First and last instant of its work; null: it has none. */
  start: Instant | null;
  finish: Instant | null;
  /** Where its work lies, done and ahead. */
  parts: { from: Instant; to: Instant; done: boolean }[];
}

/** Lines of some activities, in the order of their assignments. Those that are not there have none. */
export function assignmentLines(doc: Document, r: Computed, ids: readonly string[]): AssignmentLine[] {
  const net = r.network;
  return ids.flatMap((id) => {
    const a = doc.activities.get(id);
    const i = placeOf(net, id);
    if (!a || i === undefined) return [];
    const node = net.nodeOf[i]!;
    const standing = standingAt(r, node);
    return assignedTo(doc, a).map((x): AssignmentLine => {
      const l = loadOne(doc, r, a, x, node, standing, false);
      const who = assigneeOf(doc, x);
      const material = x.resourceId === null ? undefined : doc.resources.get(x.resourceId);
      const money: MoneyRow[] = [];
      if (who) assignmentRows(l, who, tariffsOf(doc, who), money);
      const cost = (part: MoneyRow['part']): number => money.reduce((sum, row) => sum + (row.part === part ? moneyOf(row) : 0), 0);
      const parts = l.pieces.flatMap((p) => parted(p.calendar, ...spanOf(p), p.actual));
      return {
        id: x.id,
        activityId: id,
        who: who?.name ?? '',
        unit: material?.kind === 'material' ? material.unit : null,
        units: x.units,
        actual: l.figures.actual,
        remaining: l.figures.remaining,
        actualCost: cost('actual'),
        remainingCost: cost('remaining'),
        colour: who?.colour ?? null,
        start: parts.length ? Math.min(...parts.map((p) => p.from)) : null,
        finish: parts.length ? Math.max(...parts.map((p) => p.to)) : null,
        parts,
      };
    });
  });
}
