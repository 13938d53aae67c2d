// Arrows point down only: studio and server → pages → core, and the areas of one floor form no ring. Stand-ins import nothing of ours.
module.exports = {
  forbidden: [
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^packages/core/src' },
      to: { path: ['^packages/pages', '^apps/', '^demo/', '^node_modules/(react|express|drizzle)'] },
    },
    { name: 'core-has-no-input-or-output', severity: 'error', from: { path: '^packages/core/src' }, to: { dependencyTypes: ['core'] } },
    { name: 'pages-knows-core-only', severity: 'error', from: { path: '^packages/pages/src' }, to: { path: ['^apps/', '^demo/'] } },
    { name: 'nobody-imports-an-app', severity: 'error', from: { path: '^apps/([^/]+)/' }, to: { path: '^apps/', pathNot: '^apps/$1/' } },
    { name: 'stand-ins-stand-alone', severity: 'error', from: { path: '^apps/standins' }, to: { path: '^packages/' } },
    { name: 'no-circles-of-files', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'no-circles-of-areas',
      severity: 'error',
      scope: 'folder',
      from: { path: '^(packages/(core|pages)|apps/(server|studio))/src/[^/]+$' },
      to: { circular: true },
    },
    // So that no ring hides behind a folder within an area; the outbox is there for every area of the server.
    {
      name: 'inner-folders-belong-to-their-area',
      severity: 'error',
      from: { path: '^(packages/(?:core|pages)|apps/(?:server|studio))/src/([^/]+)/' },
      to: { path: '^$1/src/[^/]+/[^/]+/', pathNot: '^$1/src/($2|base/outbox)/' },
    },
    { name: 'not-to-tests', severity: 'error', from: { pathNot: '(test/|e2e/)' }, to: { path: '/test/' } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|drizzle)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'node'] },
  },
};
