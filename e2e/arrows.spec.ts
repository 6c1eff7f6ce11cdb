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
  ['api', '@inkwell-twin/core/shapes', true],
  ['web', '@inkwell-twin/core', false],
  ['web', '@inkwell-twin/server', false],
  ['web', '@inkwell-twin/core/web', true],
  ['cli', '@inkwell-twin/server', false],
  ['server', '@inkwell-twin/render', true],
] as const)
  test(`the linter ${allowed ? 'lets' : 'keeps'} ${name} ${allowed ? 'import' : 'from importing'} ${imported}`, () => {
    if (allowed) expect(lint(name, imported)).toBe('');
    else expect(lint(name, imported)).toContain('no-restricted-imports');
  });

/** What the linter says of a line of code somewhere. */
function says(file: string, code: string): string {
  const run = spawnSync(process.execPath, ['node_modules/eslint/bin/eslint.js', '--stdin', '--stdin-filename', file], {
    input: code,
    encoding: 'utf8',
  });
  return run.stdout;
}

test('the linter keeps formats and kinds in their folders, and declarations small', () => {
  const asks = "export const isOne = (target: string) => target === 'dxf';\n";
  expect(says('packages/server/src/copies/probe.ts', asks)).toContain('Ask the table of targets');
  expect(says('packages/core/src/copies/probe.ts', "export const kind = 'toolPath';\n")).toContain('Ask the table of kinds');
  const item = "export const isText = (item: { kind: string }) => item.kind === 'text';\n";
  expect(says('packages/web/src/app/probe.ts', item)).toContain('Ask itemKind(item)');
  const imports = "import { flatten } from '../../geometry/flatten';\nexport const y = flatten;\n";
  expect(says('packages/core/src/targets/svg/declare.ts', imports)).toContain('A declaration imports zod and types');
});
