/**
 * Tests that a mutation run of a part uses: those written for it, which are quick. The comparison with the slow twin and the
 * property tests notice more, and are left out, since every one of a thousand breaks would run them.
 */
const base = require('./jest.config.cjs');
const parts = {
  rollup: ['rollup', 'report'],
  compare: ['rollup', 'status-logic'],
  change: ['change', 'synced', 'rules-of-rows', 'copy-rows'],
  commands: ['commands', 'change', 'copy-rows', 'exceptions', 'rules-of-rows', 'report'],
  schedule: ['rules', 'rules-answers', 'rules-float', 'rules-settled', 'drag', 'rollup'],
};
const chosen = parts[process.env.MUTATE_PART ?? 'rollup'] ?? [];
module.exports = { ...base, roots: ['<rootDir>/core'], testMatch: chosen.map((name) => `**/core/test/${name}.test.ts`) };
