import tseslint from 'typescript-eslint';

/** Which of our own packages each package may import (engineering.md, "Arrows point one way"). */
const arrows = {
  core: [],
  api: [],
  render: ['core'],
  demo: ['core', 'render'],
  cli: ['core', 'render'],
  server: ['api', 'core', 'render', 'demo'],
  web: ['api', 'core'],
};
const names = Object.keys(arrows);

const arrowRule = (name, allowed) => ({
  files: [`packages/${name}/src/**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: names
              .filter((other) => !allowed.includes(other) && other !== name)
              .flatMap((other) => [`@inkwell-twin/${other}`, `@inkwell-twin/${other}/*`, `**/packages/${other}/**`]),
            message: `${name} may import only: ${allowed.join(', ') || 'nothing of ours'}.`,
          },
          ...(name === 'core' || name === 'api' || name === 'web'
            ? [{ group: ['node:*', 'fs', 'path', 'crypto', 'os'], message: `${name} has no Node API.` }]
            : []),
        ],
      },
    ],
  },
});

export default tseslint.config(
  {
    ignores: ['**/dist/**', '**/node_modules/**', '.data/**', '.tmp/**', '**/.angular/**', 'packages/*/test/fixtures/**'],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      'no-console': 'off',
      eqeqeq: 'error',
      'prefer-const': 'error',
    },
  },
  ...names.filter((name) => name !== 'core').map((name) => arrowRule(name, arrows[name])),
  arrowRule('core', []),
  {
    files: ['packages/core/src/**/*.ts'],
    rules: { 'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'self'] },
  },
);
