/** What a suite of `core/test/mutate` asks of Jest, for a process without it: tests are kept in a list and run one by one. */
import { expect } from 'expect';
import fc from 'fast-check';
import { format } from 'node:util';

export interface Kept {
  name: string;
  run: () => unknown;
}
const tests: Kept[] = [];
let within = '';
const test = (name: string, run: () => unknown): void => void tests.push({ name: within + name, run });
const describe = (name: string, f: () => void): void => {
  const outer = within;
  within += `${name} > `;
  f();
  within = outer;
};
const each =
  (add: (name: string, run: () => unknown) => void) =>
  (table: readonly unknown[]) =>
  (name: string, f: (...row: unknown[]) => unknown): void => {
    for (const row of table) {
      const values: unknown[] = Array.isArray(row) ? row : [row];
      add(format(name, ...values).slice(0, 200), () => f(...values));
    }
  };
const asked = Object.assign(test, { each: each(test), skip: () => undefined });
// As in the run of the tool itself: the seed of `npm test`, few runs of each property.
fc.configureGlobal({ seed: 20270301, numRuns: 12 });
Object.assign(globalThis, {
  expect,
  test: asked,
  it: asked,
  describe: Object.assign(describe, { each: each(describe as (name: string, run: () => unknown) => void) }),
  keptTests: tests,
});
