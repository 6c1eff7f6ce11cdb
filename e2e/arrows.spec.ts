import { spawnSync } from 'node:child_process';
import { expect, test } from '@playwright/test';

/** What the linter says of a file of a package that holds just this import. */
function lint(name: string, imported: string): string {
  const run = spawnSync(
    process.execPath,
    ['node_modules/eslint/bin/eslint.js', '--stdin', '--stdin-filename', `packages/${name}/src/probe.ts`],
    {
      input: `import { x } from '${imported}';\nexport const y = x;\n`,
      encoding: 'utf8',
    },
  );
  return run.stdout;
}

for (const [name, imported, allowed] of [
  ['core', '@inkwell-twin/render', false],
  ['core', 'node:fs', false],
  ['api', '@inkwell-twin/core', false],
  ['web', '@inkwell-twin/server', false],
  ['web', '@inkwell-twin/core/web', true],
  ['cli', '@inkwell-twin/server', false],
  ['server', '@inkwell-twin/render', true],
] as const)
  test(`the linter ${allowed ? 'lets' : 'keeps'} ${name} ${allowed ? 'import' : 'from importing'} ${imported}`, () => {
    if (allowed) expect(lint(name, imported)).toBe('');
    else expect(lint(name, imported)).toContain('no-restricted-imports');
  });
