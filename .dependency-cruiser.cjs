/** Files that import each other in a circle, through types alone as well, have no order in which they can be understood. */
module.exports = {
  forbidden: [{ name: 'no-circle', severity: 'error', from: {}, to: { circular: true } }],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: '(dist|built|node_modules)',
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.test.json' },
  },
};
