const transform = {
  '^.+\\.(ts|mjs|js)$': [
    '<rootDir>/scripts/lib/jest-transform.mjs',
    { jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' }, module: { type: 'commonjs' } },
  ],
};
// Packages that ship ES modules only are transformed too; Jest's own loader is CommonJS.
const transformIgnorePatterns = [
  '/node_modules/(?!(@noble|clipper2-ts|pdfjs-dist|flatbush|flatqueue|css-tree|mdn-data|echarts|zrender|parse5|entities|@angular|replicad-opencascadejs)/)',
];
const moduleNameMapper = {
  // Its entry for this loader asks for the other kind of modules.
  '^replicad-opencascadejs$': '<rootDir>/node_modules/replicad-opencascadejs/dist/replicad_single.js',
  '^@inkwell-twin/core/(combine|web|shapes|impact|pictures|tables|solids|texts)$': '<rootDir>/packages/core/src/$1.ts',
  '^@inkwell-twin/([a-z]+)$': '<rootDir>/packages/$1/src/index.ts',
};
const setupFiles = ['<rootDir>/packages/core/test/seed.ts'];
const sandboxInjectedGlobals = ['Math', 'Infinity', 'Float64Array', 'Uint8Array', 'Uint32Array', 'Int32Array'];
const shared = {
  rootDir: '.',
  sandboxInjectedGlobals,
  setupFiles,
  transform,
  transformIgnorePatterns,
  moduleNameMapper,
  testEnvironment: 'node',
};

export default {
  testSequencer: '<rootDir>/scripts/lib/longest-first.mjs',
  projects: [
    {
      ...shared,
      displayName: 'unit',
      testMatch: ['<rootDir>/packages/{core,render,api,demo,cli,web}/test/**/*.spec.ts'],
    },
    { ...shared, displayName: 'integration', testMatch: ['<rootDir>/packages/server/test/**/*.spec.ts'] },
  ],
};
