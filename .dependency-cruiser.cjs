/** The arrows between the rooms. Type-only imports of a worker's messages are allowed, its code is started by path. */
const doors = Object.entries(require('./core/doors.json')).map(([room, files]) => `^core/${room}/(${files.join('|')})\\.ts$`);

module.exports = {
  forbidden: [
    {
      name: 'core-stands-alone',
      severity: 'error',
      comment: 'core imports nothing of ours',
      from: { path: '^core/', pathNot: '\\.(test|bench)\\.ts$' },
      to: { path: '^(app|ui|server|workers|headless|demo|db|tools|tests)/' },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      comment: 'no React, Next.js, database, DOM or file system in core',
      from: { path: '^core/', pathNot: '\\.(test|bench)\\.ts$' },
      to: { path: '(^|node_modules/)(react|react-dom|next|pg|fs|path|node:.*|radix-ui)($|/)' },
    },
    { name: 'core-no-node', severity: 'error', from: { path: '^core/', pathNot: '\\.(test|bench)\\.ts$' }, to: { dependencyTypes: ['core'] } },
    {
      name: 'test-helpers-in-tests',
      severity: 'error',
      from: { path: '^core/', pathNot: '(\\.(test|bench)\\.ts$|^core/testing/)' },
      to: { path: '^core/testing/' },
    },
    {
      name: 'workers-import-core',
      severity: 'error',
      from: { path: '^workers/', pathNot: '\\.test\\.ts$' },
      to: { path: '^(app|ui|server|headless|demo|tools|tests)/' },
    },
    { name: 'server-imports-core', severity: 'error', from: { path: '^server/' }, to: { path: '^(app|ui|headless|tools|tests)/' } },
    { name: 'server-starts-workers-by-path', severity: 'error', from: { path: '^server/' }, to: { path: '^workers/', dependencyTypesNot: ['type-only'] } },
    { name: 'ui-never-server', severity: 'error', from: { path: '^ui/', pathNot: '\\.test\\.ts$' }, to: { path: '^(app|server|headless|demo|tools|tests)/' } },
    {
      name: 'ui-starts-workers-by-path',
      severity: 'error',
      from: { path: '^ui/', pathNot: '\\.test\\.ts$' },
      to: { path: '^workers/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'app-not-workers',
      severity: 'error',
      from: { path: '^app/' },
      to: { path: '^(workers|headless|tools|tests)/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'headless-only-core',
      severity: 'error',
      from: { path: '^headless/', pathNot: '\\.test\\.ts$' },
      // What draws on paper is what the server's workers have for it.
      to: { path: '^(app|ui|server|workers|demo|tools|tests)/', pathNot: '^workers/server/paper\\.ts$' },
    },
    {
      name: 'core-by-its-doors',
      comment: 'core/doors.json says which files of each of its rooms others may import; the rest are for the room itself',
      severity: 'error',
      from: { path: '^(app|ui|server|workers|headless|tools)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/', pathNot: doors },
    },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] },
  },
};
