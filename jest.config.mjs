// Tests are built before they run (scripts/lib/tests.mjs): a worker loads what they share once, and runs it as the product does.
export default {
  rootDir: '.',
  roots: ['<rootDir>/dist/tests'],
  testMatch: ['**/*.spec.mjs'],
  // Whole files that are asked in the long run alone.
  testPathIgnorePatterns: process.env.INKWELL_DEPTH === 'long' ? [] : ['\\.long\\.spec\\.mjs$'],
  moduleFileExtensions: ['mjs', 'js', 'json'],
  runner: '<rootDir>/scripts/lib/runner.mjs',
  transform: {},
  setupFiles: ['<rootDir>/scripts/lib/test-setup.mjs'],
  reporters: ['<rootDir>/scripts/lib/reporter.mjs'],
};
