/** The arrows between packages and features; the build fails where one points the wrong way. */
module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    // Features are folders, and run one way as their files do.
    { name: 'no-folder-circles', severity: 'error', scope: 'folder', from: { path: '^(core|api|server|web)/' }, to: { circular: true } },
    { name: 'core-knows-nothing-of-ours', severity: 'error', from: { path: '^core/' }, to: { path: '^(api|server|web|demo|bench|e2e)/' } },
    { name: 'api-knows-core-only', severity: 'error', from: { path: '^api/' }, to: { path: '^(server|web|demo|bench|e2e)/' } },
    { name: 'server-knows-no-pages', severity: 'error', from: { path: '^server/src' }, to: { path: '^(web|demo|bench|e2e)/' } },
    { name: 'web-knows-api-and-core', severity: 'error', from: { path: '^web/' }, to: { path: '^(server|demo|bench|e2e)/' } },
    {
      name: 'platform-imports-no-feature',
      severity: 'error',
      from: { path: '^server/src/platform/' },
      to: { path: '^server/src/(?!platform/)', dependencyTypesNot: ['type-only'] },
    },
    {
      // What a feature of the server gives to others stands in its index.ts; platform is no feature.
      name: 'by-the-door',
      severity: 'error',
      from: { path: '^server/src/([^/]+)/' },
      to: { path: '^server/src/(?!platform/)[^/]+/', pathNot: ['/index[.]ts$', '^server/src/$1/'] },
    },
    {
      name: 'by-the-door-from-above',
      severity: 'error',
      from: { path: '^server/src/[^/]+[.]ts$' },
      to: { path: '^server/src/(?!platform/)[^/]+/', pathNot: '/index[.]ts$' },
    },
    { name: 'standins-know-core-only', severity: 'error', from: { path: '^standins/' }, to: { path: '^(api|server|web|demo|bench|e2e)/' } },
    { name: 'one-way-in', severity: 'error', from: { path: '^(demo|bench)/' }, to: { path: '^server/src/(?!index.ts)' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|node_modules)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types'], extensions: ['.ts', '.mjs', '.js', '.vue'] },
  },
};
