/** Arrows point down only: core ← words ← formats ← shared ← server, app; no file and no folder in a circle. */
const CORE = ['catalog', 'grades', 'record', 'prerequisites', 'requirements', 'planning', 'weeks', 'registration', 'money', 'advising',
  'next', 'find']

/** What each folder of the core may rest on, besides itself. */
const BELOW = {
  catalog: [],
  grades: ['catalog'],
  record: ['catalog', 'grades'],
  prerequisites: ['catalog', 'grades', 'record'],
  requirements: ['catalog', 'grades', 'record', 'prerequisites'],
  weeks: ['catalog'],
  planning: ['catalog', 'grades', 'record', 'prerequisites', 'requirements'],
  registration: ['catalog', 'grades', 'record', 'prerequisites', 'weeks'],
  money: ['catalog'],
  advising: ['catalog', 'record', 'requirements', 'planning', 'weeks', 'registration'],
  next: ['catalog', 'grades', 'record', 'prerequisites', 'requirements', 'planning', 'weeks', 'registration', 'advising'],
  find: ['catalog', 'grades', 'record', 'prerequisites', 'requirements', 'planning', 'weeks', 'registration', 'next'],
}

const only = (name, from, allowed, comment) => ({
  name,
  comment,
  severity: 'error',
  from: { path: from },
  to: { path: '^(packages|shared|server|app|demo|tools|tests)/', pathNot: allowed },
})

export default {
  forbidden: [
    { name: 'no-circle', comment: 'Files that need each other are one subject, or hide a third.', severity: 'error', from: {},
      to: { circular: true } },
    {
      name: 'no-circle-of-folders',
      comment: 'A folder rests on others, not on each other.',
      severity: 'error',
      scope: 'folder',
      from: { path: '^packages/' },
      to: { circular: true },
    },
    ...CORE.map(folder =>
      only(`core-${folder}`, `^packages/core/src/${folder}/`, `^packages/core/src/(${[folder, ...BELOW[folder]].join('|')})/`,
        'The folders of the core stand on each other in one order.'),
    ),
    only('core', '^packages/core/', '^packages/core/', 'The core rests on nothing of ours.'),
    only('words', '^packages/words/', '^packages/(core|words)/', 'Words say what the core finds.'),
    only('formats', '^packages/formats/', '^packages/', 'Formats know the rules and the words.'),
    only('shared', '^shared/', '^(packages|shared)/', 'What passes between browser and server knows neither.'),
    only('app', '^app/', '^(packages|shared|app)/', 'The app knows the contract, not the server.'),
    only('server', '^server/', '^(packages|shared|server)/', 'The server knows nothing of the app.'),
    only('server-db', '^server/db/', '^(packages|shared)/|^server/db/', 'The store rests on nothing of the server.'),
    only('server-college', '^server/college/', '^(packages|shared)/|^server/(db|college)/', 'What acts and views share.'),
    only('server-acts', '^server/acts/', '^(packages|shared)/|^server/(db|college|acts)/', 'Acts know neither HTTP nor views.'),
    only('server-views', '^server/views/', '^(packages|shared)/|^server/(db|college|views)/', 'Views know neither HTTP nor acts.'),
    { name: 'core-is-pure', severity: 'error', from: { path: '^packages/(core|words)/' }, to: { dependencyTypes: ['core'] } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.tools.json' },
    exclude: { path: '^(\\.nuxt|\\.output|\\.ridgeway|docs|tests)/|\\.test\\.ts$' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'], mainFields: ['main'] },
  },
}
