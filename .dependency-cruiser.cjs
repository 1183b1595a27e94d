/** Who may import whom: docs/architecture.md says the same in words. */
const lower = '(units|numeric|geometry|raster)';
const middle = '(calibration|edge|fit|find)';
const upper = '(sketch|format|job|script)';
const test = '\\.(test|test-data)\\.tsx?$';

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
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
      name: 'lower-streets-first',
      severity: 'error',
      from: { path: `^core/src/${lower}/`, pathNot: test },
      to: { path: `^core/src/(${middle}|${upper})/` },
    },
    ...[
      ['model', 'reference|estimate|uncertainty|datum|turned|consistency|joint'],
      ['reference', 'estimate|uncertainty|datum|turned|consistency|joint'],
      ['estimate', 'uncertainty|datum|turned|consistency|joint'],
      ['uncertainty', 'datum|turned|consistency|joint'],
      ['datum', 'turned|consistency|joint'],
      ['turned', 'consistency|joint'],
      ['consistency', 'joint'],
    ].map(([from, later]) => ({
      name: `calibration-${from}-looks-back-only`,
      severity: 'error',
      from: { path: `^core/src/calibration/${from}/`, pathNot: test },
      to: { path: `^core/src/calibration/(${later})/` },
    })),
    {
      name: 'middle-streets-below-upper',
      severity: 'error',
      from: { path: `^core/src/${middle}/`, pathNot: test },
      to: { path: `^core/src/${upper}/` },
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
      name: 'sketch-below-job',
      severity: 'error',
      from: { path: '^core/src/sketch/', pathNot: test },
      to: { path: '^core/src/(format|job|script|edge|find|fit|raster)/' },
    },
    {
      name: 'sentences-and-hand-over-above-what-they-tell-of',
      severity: 'error',
      from: { path: '^core/src/(?!say/|handover/|script/)', pathNot: test },
      to: { path: '^core/src/(say|handover)/' },
    },
    {
      name: 'sentences-below-the-hand-over',
      severity: 'error',
      from: { path: '^core/src/say/', pathNot: test },
      to: { path: '^core/src/(handover|script)/' },
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
    ...[
      ['kit', 'frames|compute|session|board|step|steps|door|rack'],
      ['frames', 'compute|session|board|step|steps|door|rack'],
      ['compute', 'session|board|step|steps|door|rack'],
      ['session', 'board|step|steps|door|rack'],
      ['board', 'step|steps|door|rack'],
    ].map(([from, later]) => ({
      name: `app-${from}-looks-back-only`,
      severity: 'error',
      from: { path: `^app/src/${from}/`, pathNot: test },
      to: { path: `^app/src/(${later})/` },
    })),
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
