/**
 * Tests that a mutation run of a part uses: those written for it, which are quick, with few runs of each property. The
 * comparison with the slow twin notices more, and is left out, since every one of a thousand breaks would run it.
 */
const base = require('./jest.config.cjs');
module.exports = {
  ...base,
  roots: ['<rootDir>/core'],
  setupFiles: [...base.setupFiles, '<rootDir>/tools/few-runs.cjs'],
  testMatch: [`**/core/test/mutate/${process.env.MUTATE_PART ?? 'rollup'}.suite.ts`],
};
