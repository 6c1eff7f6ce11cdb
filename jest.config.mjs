// Tests are built before they run (scripts/lib/tests.mjs): a worker loads what they share once, and runs it as the product does.
const shared = {
  rootDir: '.',
  roots: ['<rootDir>/dist/tests'],
  runner: 'jest-light-runner/child-process',
  transform: {},
  moduleFileExtensions: ['mjs', 'js', 'json'],
  setupFiles: ['<rootDir>/scripts/lib/test-setup.mjs'],
};
const tests = (packages) => [`<rootDir>/dist/tests/${packages}/test/**/*.spec.mjs`];

export default {
  projects: [
    { ...shared, displayName: 'unit', testMatch: tests('{core,render,api,demo,cli,web}') },
    { ...shared, displayName: 'integration', testMatch: tests('server') },
  ],
};
