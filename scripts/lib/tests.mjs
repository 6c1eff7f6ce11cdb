// Builds all test files at once, so that what they share is loaded once by a process that runs many of them.
import { build } from 'esbuild';
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import { forNode } from './inside.mjs';

/** What changes the tables that all others read: each of these is built with a world of its own. */
const OF_ITS_OWN = /\/adding-an?-[a-z]+\.spec\.ts$/;

const inProject = (root, path) => relative(root, path).split(sep).join('/');

/** All test files that Jest runs, as paths in the project. */
export const specsIn = (root) =>
  readdirSync(join(root, 'packages')).flatMap((name) =>
    readdirSync(join(root, 'packages', name, 'test'), { withFileTypes: true, recursive: true })
      .filter((entry) => entry.isFile() && entry.name.endsWith('.spec.ts'))
      .map((entry) => inProject(root, join(entry.parentPath ?? entry.path, entry.name))),
  );

/** A built file stands elsewhere: where its source stands it asks of test-setup.mjs, so that it may be moved with the project. */
const whereItStands = (root) => ({
  name: 'where-it-stands',
  setup: (at) =>
    at.onLoad({ filter: /[\\/]packages[\\/].*\.ts$/ }, ({ path }) => {
      const source = readFileSync(path, 'utf8');
      const asks = source.includes('import.meta.url') || source.includes('__dirname');
      if (!asks || path.includes('node_modules')) return undefined;
      const place = JSON.stringify(inProject(root, path));
      const head = `const __source = globalThis.__projectFile(${place}), __dirname = __source.folder;`;
      return { contents: head + source.replaceAll('import.meta.url', '__source.url'), loader: 'ts' };
    }),
});

/** Builds the tests into dist/tests, as they stand in packages/. @returns the files that they were made from */
export async function buildTests(root) {
  const outdir = join(root, 'dist/tests');
  rmSync(outdir, { recursive: true, force: true });
  const all = specsIn(root);
  const options = {
    ...forNode,
    absWorkingDir: root,
    plugins: [whereItStands(root), ...forNode.plugins],
    outdir,
    outbase: 'packages',
    outExtension: { '.js': '.mjs' },
    chunkNames: 'shared/[name]-[hash]',
    sourcemap: 'linked',
    sourcesContent: false,
    metafile: true,
    tsconfig: 'packages/web/tsconfig.json',
    logLevel: 'warning',
  };
  const made = await Promise.all([
    build({ ...options, entryPoints: all.filter((path) => !OF_ITS_OWN.test(path)), splitting: true }),
    ...all.filter((path) => OF_ITS_OWN.test(path)).map((path) => build({ ...options, entryPoints: [path] })),
  ]);
  writeFileSync(join(outdir, 'made'), '');
  return [...all, ...made.flatMap(({ metafile }) => Object.keys(metafile.inputs))];
}
