// Who may know whom. Folders of a list depend on those before them, never on those behind; nothing goes round in a circle.
const LAYERS = {
  core: [
    ['words'],
    ['units', 'numerics', 'filters'],
    ['model', 'verdict'],
    ['stage'],
    ['detect'],
    ['stages', 'figures'],
    ['line'],
    ['reading'],
    ['references', 'formats', 'alarm'],
    ['calibrate'],
    ['prove'],
    ['study', 'trial'],
    ['plan', 'procedure', 'simulate', 'face'],
  ],
  server: [
    ['http', 'files'],
    ['db'],
    ['recordings'],
    ['readings'],
    ['capture', 'imports'],
    ['services'],
    ['routes'],
  ],
  web: [['api'], ['live', 'workers'], ['parts'], ['pages']],
};

const upward = Object.entries(LAYERS).flatMap(([workspace, layers]) =>
  layers.flatMap((layer, k) => {
    const above = layers.slice(k + 1).flat();
    return above.length === 0
      ? []
      : [
          {
            name: `${workspace}: ${layer.join(', ')} know none of ${above.join(', ')}`,
            severity: 'error',
            from: { path: `^${workspace}/src/(${layer.join('|')})/` },
            to: { path: `^${workspace}/src/(${above.join('|')})/` },
          },
        ];
  }),
);

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    {
      name: 'no circle',
      comment: 'Files that need each other cannot be understood, tested or moved by themselves.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    ...upward,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|test|data[^/]*)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: `${__dirname}/tsconfig.base.json` },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
    },
  },
};
