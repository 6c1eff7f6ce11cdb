// Programs and libraries that come from Debian's packages: what the product needs, and what judges its copies in the tests.
// Use, as root: node scripts/lib/debian.mjs (installs all that is missing)
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export class SetupError extends Error {}

const isRoot = process.getuid?.() === 0;

/** The folder of the newest installed server's programs, or undefined. */
export function findPostgres() {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions.map((version) => join(base, version, 'bin')).find((bin) => existsSync(join(bin, 'postgres')));
  if (found) return found;
  const which = spawnSync('sh', ['-c', 'command -v postgres'], { encoding: 'utf8' });
  return which.status === 0 ? resolve(which.stdout.trim(), '..') : undefined;
}

const program = (name) => () => existsSync(`/usr/bin/${name}`);
const python = (module) => () => existsSync(`/usr/lib/python3/dist-packages/${module}`);

/** What the product runs on, by its Debian package. */
const NEEDED = { postgresql: () => findPostgres() !== undefined };

/** What runs the journeys. */
const BROWSER = { chromium: program('chromium') };

/**
 * Programs and libraries that nobody here wrote, which judge the copies in the tests: by the name that tests ask for, the Debian
 * package, and whether it is here. A look at the file system: starting each would take longer than the tests that ask.
 */
export const JUDGES = {
  ezdxf: ['python3-ezdxf', python('ezdxf')],
  PIL: ['python3-pil', python('PIL')],
  numpy: ['python3-numpy', python('numpy')],
  openpyxl: ['python3-openpyxl', python('openpyxl')],
  stl: ['python3-stl', python('stl')],
  docx: ['python3-docx', python('docx')],
  odf: ['python3-odf', python('odf')],
  lxml: ['python3-lxml', python('lxml')],
  html5lib: ['python3-html5lib', python('html5lib')],
  admesh: ['admesh', program('admesh')],
  gmsh: ['gmsh', program('gmsh')],
  assimp: ['assimp-utils', program('assimp')],
  'rsvg-convert': ['librsvg2-bin', program('rsvg-convert')],
  pdftotext: ['poppler-utils', program('pdftotext')],
  pikepdf: ['python3-pikepdf', python('pikepdf')],
  reportlab: ['python3-reportlab', python('reportlab')],
  cairo: ['python3-cairo', python('cairo')],
  fontTools: ['python3-fonttools', python('fontTools')],
  qpdf: ['qpdf', program('qpdf')],
  xmllint: ['libxml2-utils', program('xmllint')],
};

/** What can be asked for at once: each a table of packages and whether they are here. */
const SETS = {
  needed: NEEDED,
  browser: BROWSER,
  judges: Object.fromEntries(Object.values(JUDGES)),
};

const missingIn = (set) =>
  Object.entries(SETS[set])
    .filter(([, isHere]) => !isHere())
    .map(([name]) => name);

/** One command of apt. Where another one holds its lock, it waits: at most five minutes. */
async function apt(...args) {
  for (let tries = 0; ; tries++) {
    const child = spawn('apt-get', ['-o', 'DPkg::Lock::Timeout=300', ...args], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive', LC_ALL: 'C' },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let words = '';
    child.stderr.on('data', (chunk) => (words += chunk));
    const code = await new Promise((done) => child.once('error', () => done(-1)).once('close', done));
    if (code === 0) return '';
    // The lists have a lock of their own, which apt itself does not wait for.
    if (!/could not get lock|unable to (acquire|lock)/i.test(words) || tries === 100)
      return words.trim().split('\n').slice(-2).join(' ') || `apt-get ended with ${code}`;
    await new Promise((done) => setTimeout(done, 3000));
  }
}

/**
 * Installs what is missing of a set when root; otherwise says which command to run.
 * @throws SetupError
 */
export async function ensureDebian(set, say) {
  const names = missingIn(set);
  if (!names.length) return;
  const command = `apt-get install ${names.join(' ')}`;
  if (!isRoot) throw new SetupError(`Missing: ${names.join(', ')}. To install:  sudo ${command}`);
  say(`installing Debian's ${names.join(', ')}`);
  await apt('-qq', 'update');
  const why = await apt('-y', '-qq', '--no-install-recommends', 'install', ...names);
  if (missingIn(set).length)
    throw new SetupError(`${missingIn(set).join(', ')} could not be installed (${why}). To install by hand:  ${command}`);
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  try {
    for (const set of Object.keys(SETS)) await ensureDebian(set, (line) => console.log(`· ${line}`));
  } catch (error) {
    console.error(error.message);
    process.exitCode = 1;
  }
