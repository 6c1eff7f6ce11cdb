// What a build was made from, so that it is made again only when one of those files has changed. Paths are relative to the
// project: a clone that was moved has nothing to build.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';

/** Whatever is built depends on these. */
const ALWAYS = ['package-lock.json', 'scripts/build.mjs', 'scripts/lib/inside.mjs', 'scripts/lib/tests.mjs'];
const LEFT_OUT = /^(node_modules|dist|test|\.angular)$/;

/** All files below folders of the project, but for what is built or tested there. */
export function filesIn(root, folders) {
  const walk = (folder) =>
    readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) return LEFT_OUT.test(entry.name) ? [] : walk(path);
      return [relative(root, path).split(sep).join('/')];
    });
  return folders.flatMap((folder) => walk(join(root, folder)));
}

const stampFile = (root, name) => join(root, 'dist', `.${name}.json`);

function hashOf(root, files) {
  const hash = createHash('sha256');
  for (const file of [...ALWAYS, ...files])
    hash.update(`${file}:`).update(existsSync(join(root, file)) ? readFileSync(join(root, file)) : 'gone');
  return hash.digest('hex');
}

/** @param all  what belongs to it today, where that can be more than was there when it was made */
export function isFresh(root, name, all = []) {
  const file = stampFile(root, name);
  if (!existsSync(file)) return false;
  const { files, hash } = JSON.parse(readFileSync(file, 'utf8'));
  const known = new Set(files);
  return all.every((one) => known.has(one)) && hashOf(root, files) === hash;
}

/** @param made  the files that it was made from; those of installed packages are told by the lock file */
export function keepStamp(root, name, made) {
  const files = [...new Set(made)].filter((file) => !file.includes('node_modules/') && existsSync(join(root, file))).sort();
  writeFileSync(stampFile(root, name), JSON.stringify({ files, hash: hashOf(root, files) }));
}

const isAlive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** Does one thing after another, whichever process wants it: a folder of the name stands while one is at it. */
export async function turn(root, name, work) {
  mkdirSync(join(root, 'dist'), { recursive: true });
  const lock = join(root, 'dist', `.${name}.lock`);
  for (;;) {
    try {
      writeFileSync(lock, String(process.pid), { flag: 'wx' });
      break;
    } catch {
      const owner = existsSync(lock) ? Number(readFileSync(lock, 'utf8')) : 0;
      // Whoever was killed at it left it there.
      if (owner && !isAlive(owner)) rmSync(lock, { force: true });
      else await new Promise((done) => setTimeout(done, 200));
    }
  }
  try {
    return await work();
  } finally {
    rmSync(lock, { force: true });
  }
}
