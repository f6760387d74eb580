/** No circles between files, not even of types: what two files need of each other lives in a third. */
const config = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '\\.json$' },
  },
};
export default config;
