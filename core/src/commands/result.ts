/** What a command gives back: changes with a label, or problems and nothing else. */
import { type Change, MOST_LABEL } from '../change/change.ts';
import type { Document } from '../model/document.ts';
import { changeProblems, standingOf } from '../rules/check.ts';
import { workFollows } from './work.ts';
import { type Problem, problem } from '../model/problem.ts';
import type { ProblemCode } from '../model/problem-codes.ts';

export type Outcome =
  | {
      ok: true;
      label: string;
      changes: Change[];
      /** Rows made, in order. */
      made?: string[];
      /** The kept copy whose rows come back: they are as they were, whatever the rules say of them. */
      restores?: string;
    }
  | { ok: false; problems: Problem[]; /** Where it was a question: what a person may answer. */ choices?: { label: string; outcome: Outcome }[] };

/** Long names are cut in the label, which the log takes only so long. */
export const done = (label: string, changes: Change[], made?: string[]): Outcome & { ok: true } => ({
  ok: true,
  label: label.slice(0, MOST_LABEL),
  changes,
  ...(made ? { made } : {}),
});

/** Changes that are taken only where no rule of rows is newly broken: what every command that sets fields ends with. */
export function settled(doc: Document, label: string, changes: Change[], made?: string[]): Outcome {
  const all = workFollows(doc, changes);
  if ('refusal' in all) return { ok: false, problems: [all.refusal] };
  const problems = changeProblems(all.changes, standingOf(doc));
  return problems.length ? { ok: false, problems } : done(label, all.changes, made);
}

export const refused = (code: ProblemCode, message: string, where: Problem['where'] = {}): Outcome & { ok: false } => ({ ok: false, problems: [problem(code, message, where)] });

/** Ids for new rows. Given from outside, so that commands stay pure. */
export type NewId = () => string;

export const count = (n: number, one: string, many = one === 'activity' ? 'activities' : `${one}s`): string => `${n} ${n === 1 ? one : many}`;
