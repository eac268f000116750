/** Rules of one activity beyond the shapes of its fields: what cannot stand together in it. */
import { isMilestone, isSpanning, typeNames } from '../model/activity-kinds.ts';
import type { ProblemCode } from '../model/problem-codes.ts';
import type { Activity, Constraint, ConstraintKind } from '../model/schema.ts';
import { progressError } from '../progress/rules.ts';
import { constraintNames, settle } from '../schedule/constraints.ts';
import { parseInstant } from '../time/instant.ts';

/** Why a row cannot stand as it is: the rule, where, and the sentence after the row's name. */
export interface Objection {
  code: ProblemCode;
  field: string;
  text: string;
}

/** The refusal of constraints that cannot stand together; undefined where they can. */
export function constraintObjection(constraints: readonly Constraint[]): string | undefined {
  const { dropped } = settle(constraints);
  if (dropped.length === 0) return undefined;
  const kind: ConstraintKind = constraints[dropped[0]!]!.kind;
  return `${constraintNames[kind]} cannot stand beside the other constraint: one bounds from below, one from above, and a pinned date stands alone.`;
}

/** What is wrong with an activity in a project of this data date; empty where nothing is. */
export function activityObjections(a: Activity, dataDate: string | null): Objection[] {
  const out: Objection[] = [];
  const say = (field: string, text: string): void => void out.push({ code: 'WRONG_VALUE', field, text });
  if (isMilestone(a) && a.duration > 0) say('duration', 'a milestone has no duration. Make it a task first.');
  const word = typeNames[a.type].toLowerCase();
  if (isSpanning(a) && a.constraints.length > 0) say('constraints', `a ${word} takes no constraints; its dates follow from the work around it.`);
  else {
    const clash = constraintObjection(a.constraints);
    if (clash) say('constraints', clash);
  }
  if (isSpanning(a) && (a.actualStart !== null || a.actualFinish !== null)) say('actualStart', `a ${word} takes no progress; it follows the work around it.`);
  else {
    const progress = progressError(a, dataDate);
    if (progress) say('actualStart', progress);
  }
  if (a.suspend !== null && a.resume !== null && (parseInstant(a.resume) ?? 0) < (parseInstant(a.suspend) ?? 0))
    say('resume', 'it would resume before it is suspended. Type a later date.');
  return out;
}
