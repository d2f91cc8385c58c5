/** Arrows between the rooms of the server. Those between the folders of the project are in eslint.config.js. */
export default {
  forbidden: [
    {
      name: 'no-circle',
      comment: 'What imports each other cannot be understood or changed apart. Types alone may.',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'ground-knows-no-room',
      comment:
        'commands, http, jobs, search and db carry every capability and import none (docs/decisions/0008).',
      severity: 'error',
      from: { path: '^server/(commands|http|jobs|search|db)/', pathNot: '\\.test\\.ts$' },
      to: {
        path: '^server/',
        pathNot: '^server/(commands|http|jobs|search|db|outside|reading|testing)/|^server/[^/]+\\.ts$',
      },
    },
    {
      name: 'rooms-use-commands-not-routes',
      comment: 'A capability uses the commands and queries of another, never its routes.',
      severity: 'error',
      from: { path: '^server/([^/]+)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^server/[^/]+/(routes|room)\\.ts$', pathNot: '^server/$1/|^server/http/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    exclude: { path: '/dist/' },
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
