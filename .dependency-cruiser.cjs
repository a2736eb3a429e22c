// Arrows go one way: core ← contract ← server, core ← contract ← web. Subjects of the server talk through services.

const SUBJECTS = 'accounts|drives|intake|photos|vocabulary|search|writeback|ledger|jobs|events';

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { path: '^(contract|server|web|demo|cli|bench|e2e)/' },
    },
    {
      name: 'core-has-no-io',
      severity: 'error',
      from: { path: '^core/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'contract-knows-core-only',
      severity: 'error',
      from: { path: '^contract/' },
      to: { path: '^(server|web|demo|cli|bench|e2e)/' },
    },
    {
      name: 'web-knows-core-and-contract',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^(server|demo|cli|bench|e2e)/' },
    },
    {
      name: 'server-knows-core-and-contract',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(web|demo|cli|bench|e2e)/' },
    },
    {
      name: 'stores-are-private',
      comment: 'A subject reaches another through its service, never through its store.',
      severity: 'error',
      from: { path: `^server/(${SUBJECTS})/` },
      to: { path: `^server/(${SUBJECTS})/(store|models)\\.ts$`, pathNot: '^server/$1/' },
    },
    {
      name: 'only-files-opens-files',
      comment:
        'Files of drives are opened in server/files; the others named here work with markers, mounts and previews.',
      severity: 'error',
      from: {
        path: `^server/(${SUBJECTS})/`,
        pathNot:
          '^server/(drives/(bay|marker|service)|intake/(indexing|service|previews|routes)|writeback/writeFile)\\.ts$|\\.test\\.ts$',
      },
      to: { path: '^(node:)?fs' },
    },
    {
      name: 'screens-are-separate',
      severity: 'error',
      from: { path: '^web/parts/' },
      to: { path: '^web/(desk|intake|vocabulary|writeback|ledger|signin)/' },
    },
    { name: 'nothing-undeclared', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|portraits)/|node_modules/@stellin/[^/]+/node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.cjs', '.mjs', '.json', '.css'],
    },
  },
};
