// The import arrows of the project. They point one way:
//   core ← formats, documents ← web, server, agent, extension, cli, demo, bench, trials;  parts ← screens;  screens never import screens.
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  comment: `${from}/ may reach ${allowed.length ? allowed.join(', ') : 'nothing else of ours'}`,
  from: { path: `(^|/)${from}/` },
  to: {
    path: `(^|/)(core|formats|documents|web|server|agent|extension|cli|demo|bench|e2e|trials)/`,
    pathNot: [`(^|/)${from}/`, ...allowed.map((folder) => `(^|/)${folder}/`), 'node_modules/(?!@half-penny)'],
  },
});

// Inside core likewise, type imports included: each folder may reach those named, its own tests and what tests stand on more.
const layers = {
  faults: [],
  money: ['faults'],
  time: ['faults', 'money'],
  model: ['faults', 'money', 'time'],
  engine: ['faults', 'model', 'time'],
  rates: ['model', 'money', 'time'],
  costs: ['engine', 'faults', 'model', 'money', 'time'],
  billing: ['checking', 'costs', 'engine', 'faults', 'model', 'money', 'rates', 'time'],
  entries: ['billing', 'checking', 'engine', 'faults', 'model', 'money', 'rates', 'time'],
  checking: ['costs', 'engine', 'faults', 'model', 'money', 'time'],
  'e-invoice': ['billing', 'model', 'money', 'time'],
  quotes: ['billing', 'faults', 'rates', 'model', 'money', 'time'],
  repeats: ['faults', 'model', 'time'],
  'money-in': ['billing', 'e-invoice', 'rates', 'model', 'money', 'time'],
  'paying-out': ['billing', 'costs', 'e-invoice', 'engine', 'faults', 'model', 'money', 'money-in', 'time'],
  'client-page': ['billing', 'costing', 'engine', 'faults', 'model', 'money', 'time'],
  countries: ['model', 'money', 'time'],
  'cash-ahead': ['billing', 'model', 'money', 'repeats', 'time'],
  costing: ['billing', 'costs', 'faults', 'model', 'money', 'rates', 'time'],
  capture: ['entries', 'faults', 'model', 'time'],
  reports: ['billing', 'checking', 'costing', 'costs', 'engine', 'entries', 'faults', 'model', 'money', 'rates', 'time'],
  commands: [
    'billing',
    'checking',
    'costing',
    'costs',
    'engine',
    'entries',
    'faults',
    'model',
    'money',
    'paying-out',
    'quotes',
    'rates',
    'repeats',
    'time',
  ],
};
const inCore = Object.entries(layers).map(([folder, allowed]) => ({
  name: `core-${folder}`,
  severity: 'error',
  comment: `core/src/${folder} may reach ${allowed.length ? allowed.join(', ') : 'no other folder of core'}`,
  from: { path: `(^|/)core/src/${folder}/`, pathNot: '\\.test\\.ts$' },
  to: {
    path: '(^|/)core/src/',
    pathNot: [folder, ...allowed].map((name) => `(^|/)core/src/${name}/`),
  },
}));

module.exports = {
  forbidden: [
    ...inCore,
    {
      name: 'core-has-no-other-folder',
      severity: 'error',
      comment: 'a folder of core has its place among the layers above',
      from: { path: '.*' },
      to: {
        path: '(^|/)core/src/',
        pathNot: [...Object.keys(layers), 'testing'].map((name) => `(^|/)core/src/${name}/`),
      },
    },
    {
      name: 'core-has-no-circles',
      severity: 'error',
      from: { path: '(^|/)core/src/' },
      to: { circular: true },
    },
    only('agent-reaches-core', 'agent', ['core', 'formats', 'demo']),
    only('extension-reaches-libraries', 'extension', ['core', 'formats']),
    only('core-reaches-nothing', 'core', []),
    only('formats-reach-core', 'formats', ['core']),
    only('documents-reach-core', 'documents', ['core', 'formats']),
    only('server-reaches-stand-ins', 'server', ['core', 'formats', 'demo']),
    only('demo-reaches-core', 'demo', ['core', 'formats']),
    only('cli-reaches-libraries', 'cli', ['core', 'formats', 'documents', 'demo']),
    only('web-reaches-libraries', 'web', ['core', 'formats', 'documents', 'demo']),
    {
      name: 'core-is-pure',
      severity: 'error',
      comment: 'core has no interface, database, server or Node code',
      from: { path: '(^|/)core/src/', pathNot: '(\\.test\\.ts|core/src/testing/sql\\.ts)$' },
      to: {
        dependencyTypes: ['core', 'npm', 'npm-dev', 'npm-no-pkg', 'npm-unknown'],
        pathNot: 'node_modules/(zod|temporal-polyfill|temporal-spec|@noble/hashes|libphonenumber-js)/',
      },
    },
    {
      name: 'parts-never-import-screens',
      severity: 'error',
      from: { path: '(^|/)web/src/(parts|data|workers)/' },
      to: { path: '(^|/)web/src/(screens|app)/' },
    },
    {
      name: 'screens-never-import-screens',
      severity: 'error',
      from: { path: '(^|/)web/src/screens/([^/]+)/' },
      to: { path: '(^|/)web/src/screens/', pathNot: '(^|/)web/src/screens/$2/' },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules/(?!@half-penny)' },
    exclude: { path: '(^|/)dist/' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
