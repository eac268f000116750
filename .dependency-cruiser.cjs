/** Arrows point one way: web, server, demo, bench, e2e -> core; never web <-> server; the core knows nobody. */
module.exports = {
  forbidden: [
    { name: 'core-knows-nobody', severity: 'error', from: { path: '^core/src' }, to: { path: '^(web|server|demo|e2e|bench|tools)/' } },
    { name: 'core-is-pure', severity: 'error', from: { path: '^core/src' }, to: { dependencyTypes: ['core'] } },
    { name: 'core-uses-only-zod', severity: 'error', from: { path: '^core/src' }, to: { path: 'node_modules', pathNot: 'node_modules/zod' } },
    { name: 'web-not-server', severity: 'error', from: { path: '^web/src' }, to: { path: '^(server|demo|e2e|bench)/' } },
    { name: 'server-not-web', severity: 'error', from: { path: '^server/src' }, to: { path: '^(web|demo|e2e|bench)/' } },
    { name: 'demo-not-web', severity: 'error', from: { path: '^demo/' }, to: { path: '^(web|e2e|bench)/' } },
    {
      name: 'tests-tools-only-in-tests',
      severity: 'error',
      from: { path: '^(core|server|web|demo)/src' },
      to: { dependencyTypes: ['npm-dev'], dependencyTypesNot: ['type-only'] },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)dist/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'], extensions: ['.ts', '.tsx', '.js'] },
  },
};
