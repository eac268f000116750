/** Tests that a mutation run uses: those of the core, without the comparison with the slow twin, which takes long and notices everything. */
const base = require('./jest.config.cjs');
module.exports = { ...base, roots: ['core'], testPathIgnorePatterns: ['/twin/', 'calc.test'], moduleNameMapper: { '^@yellowhammer/(core|demo|server)/(.*)$': '<rootDir>/$1/src/$2.ts' } };
