/** Who may import whom: docs/architecture.md says the same in words. */
const test = '\\.(test|test-data)\\.tsx?$';

/** Rooms in their order: each may go by those before it, and by none behind it. */
const CORE = [
  'schema',
  'units',
  'numeric',
  'geometry',
  'raster',
  'fit',
  'calibration',
  'edge',
  'find',
  'read',
  'sketch',
  'proof',
  'outline',
  'solid',
  'job',
  'format',
  'tracing',
  'say',
  'findings',
  'handover',
  'script',
];
const CALIBRATION = ['model', 'reference', 'estimate', 'uncertainty', 'datum', 'turned', 'consistency', 'joint'];
const APP = ['kit', 'frames', 'compute', 'session', 'board', 'tool', 'part', 'door', 'step', 'steps', 'rack'];
const WINGS = ['ruler', 'disc', 'sheet', 'grid'];
const STEPS = ['picture', 'true', 'trace', 'size', 'solid', 'handover'];

/** One rule for each room of a street: nothing of it looks at what comes behind. */
const inOrder = (street, rooms) =>
  rooms.slice(0, -1).map((room, k) => ({
    name: `${street}/${room}-looks-back-only`,
    severity: 'error',
    from: { path: `^${street}/${room}/`, pathNot: test },
    to: { path: `^${street}/(${rooms.slice(k + 1).join('|')})/` },
  }));

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...inOrder('core/src', CORE),
    ...inOrder('core/src/calibration', CALIBRATION),
    ...inOrder('app/src', APP),
    ...STEPS.map((step) => ({
      name: `${step}-knows-no-other-step`,
      severity: 'error',
      from: { path: `^app/src/steps/${step}/` },
      to: { path: `^app/src/steps/(?!${step}/)` },
    })),
    ...WINGS.map((wing) => ({
      name: `${wing}-knows-no-other-wing`,
      severity: 'error',
      from: { path: `^core/src/find/${wing}/`, pathNot: test },
      to: { path: `^core/src/find/(?!(${wing}|shared)/)` },
    })),
    {
      name: 'shared-knows-no-wing',
      severity: 'error',
      from: { path: '^core/src/find/shared/', pathNot: test },
      to: { path: '^core/src/find/(?!shared/)' },
    },
    {
      name: 'document-knows-nothing-else-of-the-job',
      severity: 'error',
      from: { path: '^core/src/job/document/', pathNot: test },
      to: { path: '^core/src/job/(?!document/)' },
    },
    {
      name: 'measures-and-actions-know-nothing-of-each-other',
      severity: 'error',
      from: { path: '^core/src/job/(measures|actions)/', pathNot: test },
      to: { path: '^core/src/job/(calibrated|measures|actions)/', pathNot: '^core/src/job/$1/' },
    },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/', pathNot: test },
      to: { path: '^(app|server|rig|bench|e2e|scripts)/' },
    },
    {
      name: 'core-has-no-platform',
      severity: 'error',
      from: { path: '^core/', pathNot: test },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-has-no-interface',
      severity: 'error',
      from: { path: '^core/', pathNot: test },
      to: { path: 'node_modules/(react|react-dom|dexie|koa|zustand)/' },
    },
    {
      name: 'the-definition-of-the-document-knows-nothing',
      severity: 'error',
      from: { path: '^core/src/schema/', pathNot: test },
      to: { path: '^core/src/(?!schema/)' },
    },
    {
      name: 'definitions-are-not-loaded-where-a-document-is-used',
      severity: 'error',
      from: { path: '^(app|core)/', pathNot: `^core/src/schema/|${test}` },
      to: { path: '^core/src/schema/(define|sketch|calibration|job)', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'the-part-knows-no-pixels',
      severity: 'error',
      from: { path: '^core/src/(sketch|proof|solid|job|format(?!/picture)|say|handover)/', pathNot: test },
      to: { path: '^core/src/(edge|find|fit|raster|read)/' },
    },
    {
      name: 'the-simulated-camera-shares-only-vectors',
      severity: 'error',
      from: { path: '^rig/', pathNot: test },
      to: { path: '^(app|server|bench|e2e)/|^core/src/(?!geometry/)' },
    },
    {
      name: 'nothing-imports-the-app',
      severity: 'error',
      from: { path: '^(core|rig|server|bench|scripts)/' },
      to: { path: '^app/' },
    },
    {
      name: 'the-server-checks-bytes-only',
      severity: 'error',
      from: { path: '^server/', pathNot: test },
      to: { path: '^(app|rig)/|^core/src/(?!format/|job/)' },
    },
    {
      name: 'heavy-core-only-in-workers',
      comment: 'pixels and the estimate run in a worker; the interface sees their types only',
      severity: 'error',
      from: { path: '^app/src/(?!compute/)', pathNot: test },
      to: { path: '^core/src/(raster|edge|fit|find)/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'readers-and-writers-of-files-only-in-workers',
      comment: 'they bring a megabyte of packages, which no page should wait for',
      severity: 'error',
      from: { path: '^app/src/(?!compute/)', pathNot: test },
      to: { path: '^core/src/format/(index\\.ts|picture/|pdf/|dxf/|jobFile/)', dependencyTypesNot: ['type-only'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
    exclude: { path: 'dist/' },
  },
};
