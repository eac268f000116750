/** The problems of reading a file: listed one by one up to a limit, then counted; and the end of what is worth reading. */
import { limits } from './limits.ts';
import { type Place, type Problem, problem, warning } from './problem.ts';
import type { ProblemCode } from './problem-codes.ts';

/** Thrown inside the reader only, where so much is wrong that the rest is not worth reading. */
export class Unsound extends Error {}

export class ProblemList {
  private readonly list: Problem[] = [];
  private more = 0;
  private wrong = 0;
  /** Stands before every message, such as the name of a copy. */
  prefix = '';

  add(code: ProblemCode, message: string, where: Place): void {
    this.push(problem(code, this.prefix + message, where));
  }

  warn(code: ProblemCode, message: string, where: Place): void {
    this.push(warning(code, this.prefix + message, where));
  }

  /** A row that was set aside. */
  wrongRow(code: ProblemCode, message: string, where: Place): void {
    this.add(code, message, where);
    this.countWrong();
  }

  countWrong(): void {
    if (++this.wrong > limits.wrongRows) throw new Unsound();
  }

  private push(p: Problem): void {
    if (this.list.length < limits.problemsListed) this.list.push(p);
    else this.more++;
  }

  get all(): Problem[] {
    if (this.more === 0) return this.list;
    return [...this.list, problem('MORE_PROBLEMS', `and ${this.more} more like these, which are not listed.`)];
  }
}
