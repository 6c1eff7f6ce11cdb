/**
 * What a bundle for Node.js holds: our own packages, from source, and packages of hundreds of small files with what they
 * ask for; so a process is there in a third of the time. What reads files of its own or has native parts stays in
 * node_modules, as does all that is small.
 */
const MANY_FILES = ['mathjs', 'echarts', 'culori', 'css-tree', 'zod', 'parse5', 'css-select', 'diff'];
const fromPackage = /node_modules[\\/]/;

/** For esbuild: options of a bundle that runs under Node.js. */
export const forNode = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  // Its entry for Node.js reads its data with require().
  alias: { 'css-tree': 'css-tree/dist/csstree.esm' },
  plugins: [
    {
      name: 'what-is-inside',
      setup: (at) =>
        at.onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) => {
          if (kind === 'entry-point' || path.startsWith('@inkwell-twin/')) return undefined;
          const many = MANY_FILES.some((name) => path === name || path.startsWith(`${name}/`));
          return many || (fromPackage.test(importer) && !path.startsWith('node:')) ? undefined : { path, external: true };
        }),
    },
  ],
};
