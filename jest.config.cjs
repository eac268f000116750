/** @type {import('jest').Config} */
module.exports = {
  testEnvironment: 'node',
  // A busy machine may be ten times slower; a test that hangs is still ended.
  testTimeout: 120_000,
  roots: ['core', 'server', 'web', 'demo', 'tools'],
  setupFiles: ['<rootDir>/tools/fast-check-seed.cjs'],
  testMatch: ['**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^@yellowhammer/(core|server|demo)/(.*)$': '<rootDir>/$1/src/$2.ts' },
  transform: { '^.+\\.tsx?$': ['@swc/jest', { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2023' } }] },
};
