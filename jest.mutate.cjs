/**
 * Tests that a mutation run of a part uses: those written for it, which are quick, with few runs of each property. Of the
 * comparison with the slow twin 60 plans are taken: all of them would be run for each of a thousand breaks.
 */
const base = require('./jest.config.cjs');
module.exports = {
  ...base,
  roots: ['<rootDir>/core'],
  setupFiles: [...base.setupFiles, '<rootDir>/tools/few-runs.cjs'],
  testMatch: [`**/core/test/mutate/${process.env.MUTATE_PART ?? 'rollup'}.suite.ts`],
};
