/** Errors are values: a code, a sentence that a planner understands, and the place. */
import type { ProblemCode } from './problem-codes.ts';

export interface Place {
  table?: string;
  id?: string;
  /** What a person calls the row, such as its code and name. */
  label?: string;
  field?: string;
}

export interface Problem {
  code: ProblemCode;
  severity: 'error' | 'warning' | 'note';
  message: string;
  where: Place;
}

export const problem = (code: ProblemCode, message: string, where: Place = {}, severity: Problem['severity'] = 'error'): Problem => ({
  code,
  severity,
  message,
  where,
});

export const warning = (code: ProblemCode, message: string, where: Place = {}): Problem => problem(code, message, where, 'warning');
export const hasErrors = (problems: readonly Problem[]): boolean => problems.some((p) => p.severity === 'error');
