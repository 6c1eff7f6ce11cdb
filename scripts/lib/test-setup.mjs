// Before the first test of a worker: where the sources of a built file stand (tests.mjs), and which cases are drawn.
import fc from 'fast-check';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '../..');

globalThis.__projectFile = (path) => {
  const file = join(root, path);
  return { url: pathToFileURL(file).href, folder: dirname(file) };
};

// A worker that is let go of ends, whatever a test left open.
process.once('disconnect', () => process.exit());

// The same cases in every run, so that a red build is red again; INKWELL_SEED tries others.
fc.configureGlobal({ seed: Number(process.env.INKWELL_SEED ?? 20261124) });
