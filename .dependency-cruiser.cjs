// Arrows between files go one way. The rules are made from the folders: a folder that is new is guarded from its first day.
//
//   core ← contract ← server, web        core has no I/O and knows nobody
//   server: foundation ← catalogue ← middle ← subjects ← composition (the files beside the folders)
//   web:    foundation ← parts ← photos ← subjects ← frame

const { readdirSync } = require('node:fs');

const WORKSPACES = ['core', 'contract', 'server', 'web', 'demo', 'cli', 'bench', 'e2e'];
/** Layers from the bottom; every folder that is named in none is a subject and stands above them. */
const SERVER = {
  layers: [
    ['database', 'files', 'jobs', 'events', 'paper', 'threads'],
    ['catalogue'],
    ['ledger', 'search', 'accounts', 'drives'],
  ],
  // Files beside the folders that belong to the ground; all others put the subjects together.
  ground: ['config', 'errors', 'identity', 'repeating', 'requestOrigin', 'root', 'serve', 'standIn'],
};
const WEB = { layers: [['foundation'], ['parts'], ['photos']], top: 'frame' };

const foldersOf = (workspace) =>
  readdirSync(workspace, { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && !['node_modules', 'public', 'testing'].includes(entry.name))
    .map(({ name }) => name);
const oneOf = (names) => `(${names.join('|')})`;

/** Forbids what an arrow from a workspace may not reach. */
const knowsOnly = (workspace, known) => ({
  name: `${workspace}-knows-${known.join('-and-') || 'nobody'}`,
  severity: 'error',
  from: { path: `^${workspace}/` },
  to: { path: `^${oneOf(WORKSPACES.filter((each) => each !== workspace && !known.includes(each)))}/` },
});

/** Forbids arrows from each layer to those above it. */
function layersOf(workspace, layers) {
  const subjects = foldersOf(workspace).filter((name) => !layers.flat().includes(name));
  return [...layers, subjects].slice(0, -1).map((layer, i) => ({
    name: `${workspace}-layer-${layer.join('-')}`,
    severity: 'error',
    from: { path: `^${workspace}/${oneOf(layer)}/` },
    to: { path: `^${workspace}/${oneOf([...layers.slice(i + 1).flat(), ...subjects])}/` },
  }));
}

/** A subject of the server reaches another, or one of the middle layer, through its service alone. */
const byService = () => {
  const [, , middle] = SERVER.layers;
  const subjects = [...middle, ...foldersOf('server').filter((name) => !SERVER.layers.flat().includes(name))];
  return {
    name: 'subjects-meet-at-services',
    comment: 'What the ledger offers to all (kinds of what changes, recording) is meant to be used as it is.',
    severity: 'error',
    from: { path: `^server/${oneOf(subjects)}/` },
    to: {
      path: `^server/${oneOf(subjects)}/`,
      pathNot: '^server/($1/|[^/]+/service\\.ts$|ledger/(kinds|recordStore)\\.ts$)',
    },
  };
};

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'no-circles-of-folders',
      comment: 'Files beside the folders of server put them together, and are no room of their own.',
      severity: 'error',
      scope: 'folder',
      from: { path: '^(core|server|web|contract)/.+' },
      to: { circular: true },
    },
    knowsOnly('core', []),
    knowsOnly('contract', ['core']),
    knowsOnly('server', ['core', 'contract']),
    knowsOnly('web', ['core', 'contract']),
    {
      name: 'core-has-no-io',
      severity: 'error',
      from: { path: '^core/' },
      to: { dependencyTypes: ['core'] },
    },
    ...layersOf('server', SERVER.layers),
    ...layersOf('web', WEB.layers),
    byService(),
    {
      name: 'composition-stands-above',
      severity: 'error',
      from: { path: `^server/${oneOf(foldersOf('server'))}/` },
      to: { path: '^server/[^/]+\\.ts$', pathNot: `^server/${oneOf(SERVER.ground)}\\.ts$` },
    },
    {
      name: 'the-frame-stands-above',
      severity: 'error',
      from: { path: '^web/', pathNot: `^web/(${WEB.top}/|start\\.tsx$)` },
      to: { path: `^web/${WEB.top}/` },
    },
    {
      name: 'screens-are-separate',
      comment: 'What two screens need goes to web/parts or to a folder of its subject.',
      severity: 'error',
      from: { path: '^web/', pathNot: `^web/${WEB.top}/` },
      to: { path: 'Screen\\.tsx$' },
    },
    {
      name: 'only-files-opens-files',
      comment:
        'Files of drives are opened in server/files; the others named here work with markers, mounts, previews, models, street maps, fonts, backups and folders of handovers.',
      severity: 'error',
      from: {
        path: `^server/${oneOf(foldersOf('server').filter((name) => !['files', 'database', 'paper', 'threads'].includes(name)))}/`,
        pathNot:
          '^server/(drives/(bay|marker|mounted|service)|intake/(indexing|service|previews|routes)|people/(models|pictures)|places/(gazetteerFile|makeGazetteer|streetMaps|tileFile)|copying/proving|delivering/(original|standIns/\\w+)|handover/(files|looking|programs|standIns/\\w+)|incomingTables/(reading|tableFiles)|media/(routes|stretches)|backup/\\w+)\\.ts$',
      },
      to: { path: '^(node:)?fs' },
    },
    { name: 'nothing-undeclared', severity: 'error', from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    // Tests reach for whatever they are about.
    exclude: {
      path: '(^|/)(dist|portraits)/|node_modules/@stellin/[^/]+/node_modules|\\.test\\.tsx?$|/testing(/|\\.ts$)',
    },
    tsPreCompilationDeps: true,
    metrics: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.js', '.cjs', '.mjs', '.json', '.css'],
    },
  },
};
