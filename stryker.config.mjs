/**
 * A mutation run over one part of the core: `npm run mutate -- rollup`. The code is broken on purpose, place by place, and
 * the tests must notice; figures and what is left are in docs/testing.md. Outside of `npm test`, since it takes long.
 */
const part = process.env.MUTATE_PART ?? 'rollup';
/** @type {import('@stryker-mutator/api/core').PartialStrykerOptions} */
export default {
  // MUTATE_FILES: names of files of the part, where only some are to be broken.
  mutate: process.env.MUTATE_FILES ? process.env.MUTATE_FILES.split(',').map((f) => `core/src/${part}/${f}.ts`) : [`core/src/${part}/**/*.ts`],
  testRunner: 'jest',
  jest: { configFile: 'jest.mutate.cjs', enableFindRelatedTests: false },
  coverageAnalysis: 'perTest',
  ignoreStatic: true,
  concurrency: Number(process.env.MUTATE_WORKERS ?? 2),
  timeoutMS: 10000,
  reporters: ['clear-text', 'json', 'progress-append-only'],
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false, reportMutants: true },
  jsonReporter: { fileName: `reports/mutation-${part}.json` },
  tempDirName: 'reports/.stryker',
  ignorePatterns: ['web', 'server', 'e2e', 'bench', 'docs', 'reports', 'tools/zz*'],
  disableTypeChecks: false,
};
