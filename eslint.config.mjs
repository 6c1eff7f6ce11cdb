import { existsSync, readdirSync } from 'node:fs';
import regexp from 'eslint-plugin-regexp';
import tseslint from 'typescript-eslint';

/** Which of our own packages each package may import (engineering.md, "Arrows point one way"). */
const arrows = {
  core: [],
  // Only the schemas that core, API and command line share: core/shapes.
  api: ['core'],
  render: ['core'],
  demo: ['core', 'render'],
  cli: ['core', 'render', 'standins'],
  standins: [],
  server: ['api', 'core', 'render', 'demo', 'standins'],
  web: ['api', 'core'],
};
const names = Object.keys(arrows);

/** The floors of core, lowest first: folders of packages/core/src, each of which imports only those below it. */
const floors = ['base', 'document', 'contracts', 'evaluate', 'content', 'formats', 'copies'];

const foldersWith = (folder, file) =>
  readdirSync(folder, { withFileTypes: true })
    .filter((one) => one.isDirectory() && existsSync(`${folder}/${one.name}/${file}`))
    .map(({ name }) => name);
const core = `${import.meta.dirname}/packages/core/src`;
// What is stitched is a process as well as a target.
const formatNames = foldersWith(`${core}/formats`, 'declare.ts').filter((name) => name !== 'stitch');
/** In code kinds are spelt without hyphens. */
const kindNames = foldersWith(`${core}/content`, 'kind.ts').map((name) =>
  name.replace(/-(.)/g, (_, letter) => letter.toUpperCase()),
);

const arrowRule = (name, allowed, within = '', more = []) => ({
  files: [`packages/${name}/src/${within}**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          ...more,
          {
            group: names
              .filter((other) => !allowed.includes(other) && other !== name)
              .flatMap((other) => [`@inkwell-twin/${other}`, `@inkwell-twin/${other}/*`, `**/packages/${other}/**`]),
            message: `${name} may import only: ${allowed.join(', ') || 'nothing of ours'}.`,
          },
          ...(name === 'core' || name === 'api' || name === 'web'
            ? [{ group: ['node:*'], message: `${name} has no Node API.` }]
            : []),
          ...(name === 'api'
            ? [{ regex: '^@inkwell-twin/core(?!/shapes$)', message: 'api shares schemas only: core/shapes.' }]
            : []),
          ...(name === 'web'
            ? [
                {
                  regex: '^@inkwell-twin/core(?!/(web|combine|impact|pictures|solids|tables|texts)$)',
                  message:
                    'web loads core/web; core/combine, core/tables, core/solids and core/texts where they are used; its workers core/impact and core/pictures.',
                },
              ]
            : []),
        ],
        paths: ['fs', 'path', 'crypto', 'os'].map((module) => ({
          name: module,
          message: `${name} has no Node API, or says node:.`,
        })),
      },
    ],
  },
});

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.data/**',
      '.tmp/**',
      '**/.angular/**',
      'packages/*/test/fixtures/**',
      '**/gathered/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    // A pattern that tries parts of a text against each other takes a minute for 500 bytes: files of others are read by these.
    files: ['packages/*/src/**/*.ts'],
    plugins: { regexp },
    rules: { 'regexp/no-super-linear-backtracking': ['error', { report: 'certain' }] },
  },
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
  ...floors.slice(0, -1).map((floor, at) => {
    const above = floors.slice(at + 1);
    const message = `${floor} stands below ${above.join(', ')}, and imports none of them.`;
    return arrowRule('core', [], `${floor}/`, [{ regex: `^(\\.\\./)+(${above.join('|')})(/|$)`, message }]);
  }),
  {
    // A declaration is small enough for a browser's first load: schemas and types, and what stands in its own folder.
    files: ['packages/*/src/formats/*/declare.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '^\\.\\./\\.\\./(?!document/native/origin$|base/)',
              allowTypeImports: true,
              message: 'A declaration imports zod, types and what knows nothing of masters.',
            },
          ],
        },
      ],
    },
  },
  {
    // One folder adds a format or a kind of content, one file a kind of item: nobody else asks for one by name. Formats name the
    // kinds that they say; engines speak the words of their libraries.
    files: ['packages/{core,api,render,cli,server,web}/src/**/*.ts'],
    ignores: [
      'packages/*/src/formats/**',
      'packages/render/src/engines/**',
      'packages/core/src/content/**',
      'packages/core/src/document/items/**',
      'packages/web/src/app/content/**',
    ],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: `Literal[value=/^(${formatNames.join('|')})$/]`,
          message: 'Ask the table of targets; only its folder names a format.',
        },
        {
          selector: `Literal[value=/^(${kindNames.join('|')})$/]`,
          message: 'Ask the table of kinds; only its folder names a kind of content.',
        },
        {
          selector: "BinaryExpression[left.property.name='kind'][left.object.name='item'] > Literal",
          message: 'Ask itemKind(item); only its file names a kind of item.',
        },
        {
          selector: "SwitchStatement[discriminant.property.name='kind'][discriminant.object.name='item']",
          message: 'Ask itemKind(item).',
        },
      ],
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    rules: { 'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'self'] },
  },
);
