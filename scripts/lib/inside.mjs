/**
 * What a bundle for Node.js holds: our own packages, from source, and packages of hundreds of small files or that every
 * process needs, with what they ask for; so a process is there in a fraction of the time. What reads files of its own or has
 * native parts stays in node_modules, as does what is loaded late.
 */
const INSIDE = [
  ...['mathjs', 'echarts', 'culori', 'css-tree', 'zod', 'parse5', 'css-select', 'css-what', 'diff', 'saxes', 'papaparse'],
  ...['@noble/hashes', 'clipper2-ts', 'fflate', 'flatbush', 'opentype.js'],
];
const fromPackage = /node_modules[\\/]/;

/** For esbuild: options of a bundle that runs under Node.js. */
export const forNode = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  minifyWhitespace: true,
  // The first's entry for Node.js reads its data with require(); that of the second is one for scripts of pages.
  alias: { 'css-tree': 'css-tree/dist/csstree.esm', 'opentype.js': 'opentype.js/dist/opentype.module.js' },
  plugins: [
    {
      name: 'no languages of messages that nobody sees',
      setup: (at) =>
        at.onLoad({ filter: /zod[\\/]v4[\\/]locales[\\/]index\.js$/ }, () => ({
          contents: "export { default as en } from './en.js';",
        })),
    },
    {
      name: 'what-is-inside',
      setup: (at) =>
        at.onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) => {
          if (kind === 'entry-point' || path.startsWith('@inkwell-twin/')) return undefined;
          const inside = INSIDE.some((name) => path === name || path.startsWith(`${name}/`));
          return inside || (fromPackage.test(importer) && !path.startsWith('node:')) ? undefined : { path, external: true };
        }),
    },
  ],
};
