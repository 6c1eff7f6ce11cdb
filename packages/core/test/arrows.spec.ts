import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ESLint } from 'eslint';

const root = join(__dirname, '../../..');
const linter = new ESLint({ cwd: root });

/** What the linter says of code in a file that need not be there. */
async function says(file: string, code: string): Promise<string> {
  const [result] = await linter.lintText(code, { filePath: join(root, file) });
  return result!.messages.map(({ ruleId, message }) => `${ruleId} ${message}`).join('\n');
}

describe('the linter', () => {
  it.each([
    ['core', '@inkwell-twin/render', false],
    ['core', 'node:fs', false],
    ['api', '@inkwell-twin/core', false],
    ['api', '@inkwell-twin/core/shapes', true],
    ['web', '@inkwell-twin/core', false],
    ['web', '@inkwell-twin/server', false],
    ['web', '@inkwell-twin/core/web', true],
    ['cli', '@inkwell-twin/server', false],
    ['server', '@inkwell-twin/render', true],
  ] as const)('knows whether %s may import %s: %s', async (name, imported, allowed) => {
    const said = await says(`packages/${name}/src/probe.ts`, `import { x } from '${imported}';\nexport const y = x;\n`);
    if (allowed) expect(said).toBe('');
    else expect(said).toContain('no-restricted-imports');
  });

  it.each([
    ['base/bytes', '../../document/schema', false],
    ['document/items', '../../contracts/kind', false],
    ['contracts', '../evaluate/resolve', false],
    ['evaluate/placed', '../../content/kinds', false],
    ['content/grid', '../../formats/registry', false],
    ['formats/svg', '../../copies/derive', false],
    ['formats/svg', '../../content/kinds', true],
    ['copies', '../formats/registry', true],
  ] as const)('knows whether the floor of core/%s may import %s: %s', async (folder, imported, allowed) => {
    const said = await says(`packages/core/src/${folder}/probe.ts`, `import { x } from '${imported}';\nexport const y = x;\n`);
    if (allowed) expect(said).toBe('');
    else expect(said).toContain('stands below');
  });

  it('knows each format and each kind of content by the name of its folder', async () => {
    const named = (floor: string, file: string) =>
      readdirSync(join(root, 'packages/core/src', floor)).filter((name) =>
        existsSync(join(root, 'packages/core/src', floor, name, file)),
      );
    const [formats, kinds] = [named('formats', 'declare.ts'), named('content', 'kind.ts')];
    expect([formats.length > 20, kinds.length > 7]).toEqual([true, true]);
    // What is stitched is a process as well as a target: its word is everybody’s.
    const own = formats.filter((name) => name !== 'stitch');
    const names = [...own, ...kinds.map((name) => name.replace(/-(.)/g, (_, letter: string) => letter.toUpperCase()))];
    const code = names.map((name, i) => `export const name${i} = '${name}';\n`).join('');
    expect((await says('packages/core/src/copies/probe.ts', code)).match(/only its folder names/g)).toHaveLength(names.length);
  });

  it('keeps formats and kinds in their folders, and declarations small', async () => {
    const asks = "export const isOne = (target: string) => target === 'dxf';\n";
    expect(await says('packages/server/src/copies/probe.ts', asks)).toContain('Ask the table of targets');
    expect(await says('packages/core/src/copies/probe.ts', "export const kind = 'toolPath';\n")).toContain(
      'Ask the table of kinds',
    );
    const item = "export const isText = (item: { kind: string }) => item.kind === 'text';\n";
    expect(await says('packages/web/src/app/probe.ts', item)).toContain('Ask itemKind(item)');
    const imports = "import { flatten } from '../../geometry/flatten';\nexport const y = flatten;\n";
    expect(await says('packages/core/src/formats/svg/declare.ts', imports)).toContain('A declaration imports zod, types');
  });
});
