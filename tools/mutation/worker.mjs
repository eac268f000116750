/** One process of a quick mutation run: loads the bundle of a suite, and tells which places each test reaches, or whether one break is noticed. */
import { createRequire } from 'node:module';

const { bundle, order, mutant } = await new Promise((resolve) => process.once('message', resolve));
const broken = (globalThis.__stryker__ = {});
createRequire(bundle)(bundle);
const tests = globalThis.keptTests;
const failure = async (i) => {
  try {
    await tests[i].run();
    return null;
  } catch (e) {
    return String(e?.stack ?? e).slice(0, 500);
  }
};
if (mutant === undefined) {
  const list = [];
  for (let i = 0; i < tests.length; i++) {
    broken.currentTestId = String(i);
    const from = performance.now();
    const failed = await failure(i);
    list.push({ name: tests[i].name, ms: performance.now() - from, failed });
  }
  process.send({ tests: list, reached: broken.mutantCoverage.perTest, loading: broken.mutantCoverage.static });
} else {
  // Switched on once all is loaded: what runs while tests are collected belongs to none of them.
  broken.activeMutant = mutant;
  let noticed = null;
  for (const i of order) {
    Object.assign(broken, { hitCount: 0, hitLimit: 1e7 });
    process.send({ at: i });
    if (await failure(i)) {
      noticed = i;
      break;
    }
  }
  process.send({ noticed });
}
