// Writes packages/api/src/routes.ts: method and path of every contract, for the first view of the browser, which loads no schema.
// Use: node scripts/routes.mjs (a test says when it is to be run again)
import { writeFileSync } from 'node:fs';
import { build } from 'esbuild';

const { outputFiles } = await build({
  stdin: { contents: "export { CONTRACTS } from './packages/api/src/contracts';", resolveDir: process.cwd(), loader: 'ts' },
  bundle: true,
  write: false,
  format: 'esm',
  platform: 'node',
});
const { CONTRACTS } = await import(`data:text/javascript;base64,${Buffer.from(outputFiles[0].contents).toString('base64')}`);
const rows = Object.entries(CONTRACTS).map(([id, { method, path }]) => `  ${id}: { method: '${method}', path: '${path}' },\n`);
writeFileSync(
  'packages/api/src/routes.ts',
  `// Written by scripts/routes.mjs from the contracts.\n\n/** Where each route is. */\nexport const ROUTES = {\n${rows.join('')}} as const;\n`,
);
