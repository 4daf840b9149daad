/** The import rules of docs/architecture.md, enforced by `npm test`. */
module.exports = {
  forbidden: [
    {
      name: 'core-stands-alone',
      comment: 'core computes: it imports nothing of ours but itself',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(server|web|standins|scripts|bench|e2e)/' },
    },
    {
      name: 'core-has-no-node',
      comment: 'core runs in a page, a worker and the server: no Node API',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'standins-are-the-outside-world',
      severity: 'error',
      from: { path: '^standins/' },
      to: { path: '^(core|server|web)/' },
    },
    {
      name: 'nobody-imports-standins',
      severity: 'error',
      from: { path: '^(core|server|web)/', pathNot: '\\.test\\.ts$|/testing/' },
      to: { path: '^standins/' },
    },
    { name: 'web-and-server-meet-over-http', severity: 'error', from: { path: '^web/' }, to: { path: '^server/' } },
    { name: 'server-does-not-show', severity: 'error', from: { path: '^server/' }, to: { path: '^web/' } },
    {
      name: 'core-modules-meet-at-the-door',
      comment: 'another folder of core is entered through its index.ts',
      severity: 'error',
      from: { path: '^core/([^/]+)/' },
      to: { path: '^core/([^/]+)/', pathNot: '^core/$1/|/index\\.ts$|^core/testing/' },
    },
    {
      name: 'server-modules-meet-at-the-door',
      severity: 'error',
      from: { path: '^server/([^/]+)/' },
      to: { path: '^server/([^/]+)/', pathNot: '^server/$1/|/index\\.ts$|^server/testing/' },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(node_modules|/dist/|\\.data)' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs'],
    },
  },
};
