// Writes the lists of what the folders of formats, kinds of content and kinds of item hold: one is there because its folder is, and nothing
// else names it.
// Building, testing and linting do it first; the lists are not kept in git.
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';

const HEAD = '// Written by scripts/gather.mjs from the folders beside this one.\n';

/**
 * @param folder of formats, or of kinds of content
 * @param file that the folder of one has for this list
 * @param name of what it exports
 * @param typed type of that, and the file that declares it; of its own type each where nothing is said
 */
function list(folder, file, name, typed) {
  const here = (one) => join(folder, one, file);
  const holds = (one) => existsSync(here(one)) && new RegExp(`\\b${name}\\b`).test(readFileSync(here(one), 'utf8'));
  const found = readdirSync(folder)
    .filter((name) => name !== 'gathered' && holds(name))
    .sort();
  const path = (one) => `../${one}${file === 'index.ts' ? '' : `/${file.replace(/\.ts$/, '')}`}`;
  return [
    HEAD,
    ...(typed ? [`import type { ${typed[0]} } from '${typed[1]}';\n`] : []),
    ...found.map((one, i) => `import { ${name} as one${i} } from '${path(one)}';\n`),
    `\nexport const gathered${typed ? `: Readonly<Record<string, ${typed[0]}>>` : ''} = {\n`,
    ...found.map((one, i) => `  ${/^[a-z]\w*$/.test(one) ? one : `'${one}'`}: one${i},\n`),
    '};\n',
  ].join('');
}

/** The same of files that lie side by side in a folder. @param name of what each exports */
function filesOf(folder, name) {
  const found = readdirSync(folder).sort();
  return [
    HEAD,
    ...found.map((one, i) => `import { ${name} as one${i} } from '../${basename(folder)}/${one.replace(/\.ts$/, '')}';\n`),
    '\nexport const gathered = {\n',
    ...found.map((one, i) => `  '${one.replace(/\.ts$/, '')}': one${i},\n`),
    '};\n',
  ].join('');
}

/** @returns the text of each list by where it belongs under the root */
export function lists(root) {
  const core = join(root, 'packages/core/src/formats');
  const content = join(root, 'packages/core/src/content');
  const faces = join(root, 'packages/web/src/app/content');
  const render = join(root, 'packages/render/src/formats');
  return {
    'packages/core/src/document/items/gathered/kinds.ts': filesOf(join(root, 'packages/core/src/document/items/kinds'), 'kind'),
    'packages/core/src/content/gathered/declarations.ts': list(content, 'index.ts', 'declaration', [
      'KindDeclaration',
      '../../contracts/kind',
    ]),
    'packages/core/src/content/gathered/kinds.ts': list(content, 'kind.ts', 'kind'),
    'packages/core/src/formats/gathered/declarations.ts': list(core, 'index.ts', 'declaration', [
      'Declaration',
      '../../contracts/declaration',
    ]),
    'packages/core/src/formats/gathered/codecs.ts': list(core, 'index.ts', 'codec', ['LazyCodec', '../../contracts/codec']),
    'packages/core/src/formats/gathered/laws.ts': list(core, 'laws.ts', 'laws', ['LawRecipes', '../../contracts/laws']),
    'packages/web/src/app/content/gathered/faces.ts': list(faces, 'index.ts', 'face', ['ContentFace', '../face']),
    'packages/web/src/app/content/gathered/parts.ts': list(faces, 'part.ts', 'part', ['PartFace', '../face']),
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
