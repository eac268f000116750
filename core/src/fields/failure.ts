/** A value that could not be computed, and why. */
export class Failure {
  readonly reason: string;
  constructor(reason: string) {
    this.reason = reason;
  }
}
