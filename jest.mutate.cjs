/**
 * Tests that a mutation run of a part uses: those written for it, which are quick, with few runs of each property. Of the
 * comparison with the slow twin 60 plans are taken: all of them would be run for each of a thousand breaks.
 */
const base = require('./jest.config.cjs');
module.exports = {
  ...base,
  roots: ['<rootDir>/core'],
  setupFiles: [...base.setupFiles, '<rootDir>/tools/few-runs.cjs'],
  testMatch: [
    `**/core/test/mutate/${process.env.MUTATE_PART ?? 'rollup'}.suite.ts`,
    // The network that is kept has a property test of its own, too slow to be asked of all other files.
    ...(process.env.MUTATE_FILES === 'memory' ? ['**/core/test/memory.test.ts'] : []),
  ],
};
