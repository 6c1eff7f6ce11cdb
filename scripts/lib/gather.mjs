// Writes the lists of what a folder of formats holds: a format is there because its folder is, and nothing else names it.
// Building, testing and linting do it first; the lists are not kept in git.
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

const HEAD = '// Written by scripts/gather.mjs from the folders beside this one.\n';

/**
 * @param folder of formats
 * @param file that a format's folder has for this list
 * @param name of what it exports
 * @param type of that, and the file that declares it
 */
function list(folder, file, name, [type, from]) {
  const here = (format) => join(folder, format, file);
  const holds = (format) => existsSync(here(format)) && new RegExp(`\\b${name}\\b`).test(readFileSync(here(format), 'utf8'));
  const formats = readdirSync(folder)
    .filter((name) => name !== 'gathered' && holds(name))
    .sort();
  const path = (format) => `../${format}${file === 'index.ts' ? '' : `/${file.replace(/\.ts$/, '')}`}`;
  return [
    HEAD,
    `import type { ${type} } from '${from}';\n`,
    ...formats.map((format, i) => `import { ${name} as one${i} } from '${path(format)}';\n`),
    `\nexport const gathered: Readonly<Record<string, ${type}>> = {\n`,
    ...formats.map((format, i) => `  ${/^[a-z]\w*$/.test(format) ? format : `'${format}'`}: one${i},\n`),
    '};\n',
  ].join('');
}

/** @returns the text of each list by where it belongs under the root */
export function lists(root) {
  const core = join(root, 'packages/core/src/formats');
  const render = join(root, 'packages/render/src/formats');
  return {
    'packages/core/src/formats/gathered/declarations.ts': list(core, 'index.ts', 'declaration', [
      'Declaration',
      '../../contracts/declaration',
    ]),
    'packages/core/src/formats/gathered/codecs.ts': list(core, 'index.ts', 'codec', ['LazyCodec', '../../contracts/codec']),
    'packages/core/src/formats/gathered/laws.ts': list(core, 'laws.ts', 'laws', ['LawRecipes', '../../contracts/laws']),
    'packages/render/src/formats/gathered/codecs.ts': list(render, 'index.ts', 'codec', ['LazyCodec', '@inkwell-twin/core']),
  };
}

/** Writes what has changed. */
export function gather(root) {
  for (const [path, text] of Object.entries(lists(root))) {
    const file = join(root, path);
    if (existsSync(file) && readFileSync(file, 'utf8') === text) continue;
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, text);
  }
}
