// Brings drawings from elsewhere in, derives a copy (SVG, or PDF), checks it, and has another program draw both sides.
// Use: npm run drawings -- [--seed N] [--count N] [--folder PATH] [--keep FOLDER] [--to svg|pdf]; the drawings are those of Debian's
// openclipart-svg unless a folder is given. Prints what differs, by what was said about it, and the slowest. Where librsvg sees
// a difference, a second program is asked: what only one of them sees is a matter between the two, and said apart.
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { parseArgs, promisify } from 'node:util';
import sharp from 'sharp';
import { addCodecs, asFailure, checkCopy, codecOf, derive, recipeOf } from '@inkwell-twin/core';
import { nodeCodecs, pictureEngine, shippedFonts } from '@inkwell-twin/render';

const { values } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    count: { type: 'string', default: '250' },
    folder: { type: 'string', default: '/usr/share/openclipart/svg' },
    keep: { type: 'string' },
    to: { type: 'string', default: 'svg' },
  },
});
const run = promisify(execFile);
addCodecs(nodeCodecs);
const time = '2026-11-20T10:00:00.000Z';
/** Pixels across that both sides are drawn at. */
const ACROSS = 400;
/** Parts of red, green or blue (of 255) from which a pixel counts as off. */
const OFF = 24;
const LIMIT = 0.01;

/** Whole numbers from a seed (mulberry32). */
function dice(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return (mixed ^ (mixed >>> 14)) >>> 0;
  };
}

const all = readdirSync(values.folder, { recursive: true, withFileTypes: true })
  .filter((entry) => entry.isFile() && entry.name.endsWith('.svg'))
  .map((entry) => join(entry.parentPath, entry.name))
  .sort();
const throwDice = dice(Number(values.seed));
const sample: string[] = [];
for (const left = [...all]; sample.length < Number(values.count) && left.length;)
  sample.push(left.splice(throwDice() % left.length, 1)[0]!);

interface Outcome {
  readonly file: string;
  readonly kind:
    | 'faithful'
    | 'different, said'
    | 'different in silence'
    | 'different to one judge'
    | 'refused'
    | 'defect'
    | 'not drawn by the judge';
  readonly share: number;
  readonly ms: number;
  readonly words: string;
}

const folder = values.keep ?? mkdtempSync(join(tmpdir(), 'inkwell-drawings-'));
mkdirSync(folder, { recursive: true });

/** Programs that draw a file, by its ending. */
const JUDGES: Readonly<Record<string, (file: string) => [program: string, args: string[]]>> = {
  svg: (file) => [
    'rsvg-convert',
    ['-w', String(values.to === 'pdf' ? 4 * ACROSS : ACROSS), '--keep-aspect-ratio', '--background-color', 'white', file],
  ],
  // Drawn larger and made smaller: it widens what is thinner than a pixel.
  pdf: (file) => ['pdftocairo', ['-png', '-singlefile', '-scale-to-x', String(4 * ACROSS), '-scale-to-y', '-1', file, '-']],
};

async function drawn(file: string): Promise<{ data: Buffer; width: number; height: number }> {
  const { stdout } = await run(...JUDGES[file.split('.').at(-1)!]!(file), {
    encoding: 'buffer',
    maxBuffer: 1 << 28,
    timeout: 60_000,
  });
  const { data, info } = await sharp(stdout)
    .resize(ACROSS, undefined, { kernel: 'mitchell' })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

/** In a process of its own: this one ends on some drawings. */
const ANOTHER = `
  import { Resvg } from '@resvg/resvg-js';
  import { readFileSync } from 'node:fs';
  const fitTo = { mode: 'width', value: ${4 * ACROSS} };
  process.stdout.write(new Resvg(readFileSync(process.argv[1], 'utf8'), { fitTo, background: 'white' }).render().asPng());
`;

/** Drawn larger and made smaller, so that a row more or less does not shift it. */
async function drawnByAnother(file: string, height: number): Promise<{ data: Buffer; height: number } | null> {
  try {
    const { stdout } = await run(process.execPath, ['--input-type=module', '-e', ANOTHER, file], {
      encoding: 'buffer',
      maxBuffer: 1 << 28,
      timeout: 60_000,
    });
    const small = sharp(stdout).resize(ACROSS, height, { fit: 'fill' });
    return { data: await small.removeAlpha().raw().toBuffer(), height };
  } catch {
    return null;
  }
}

/** The share of pixels that are off. Heights that come out of the same aspect may differ by a row. */
function shareOff(a: { data: Buffer; height: number }, b: { data: Buffer; height: number }): number {
  if (Math.abs(a.height - b.height) > 1) return 1;
  const size = Math.min(a.data.length, b.data.length);
  let off = 0;
  for (let i = 0; i < size; i += 3) if ([0, 1, 2].some((k) => Math.abs(a.data[i + k]! - b.data[i + k]!) > OFF)) off++;
  return off / (size / 3);
}

async function judge(file: string, at: number): Promise<Outcome> {
  const name = basename(file);
  let theirs;
  try {
    theirs = await drawn(file);
  } catch {
    return { file, kind: 'not drawn by the judge', share: 0, ms: 0, words: '' };
  }
  const start = performance.now();
  const took = () => performance.now() - start;
  try {
    const engine = { pictures: pictureEngine };
    const { master, notUnderstood, resources } = await codecOf('svg').bringIn!(readFileSync(file), name, engine);
    const means = { ...engine, fonts: shippedFonts(), resource: (sha: string) => resources!.get(sha)! };
    const recipe = recipeOf(values.to, {});
    const { files, says, defects } = await derive({ master, rev: 1, time }, recipe, means);
    const checked = await checkCopy({ files, whole: false, says, recipe, now: master, then: master }, means, true);
    const ms = took();
    if (defects.length || checked.verdict !== 'in step') {
      const words = [checked.verdict, ...defects.slice(0, 3).map(({ kind, what }) => `${what}: ${kind}`)].join('; ');
      return { file, kind: 'defect', share: 0, ms, words };
    }
    const copy = join(folder, `${at}-${name.replace(/svg$/, values.to)}`);
    writeFileSync(copy, files[0]!.bytes);
    const ours = await drawn(copy);
    const share = shareOff(theirs, ours);
    let alone = false;
    if (share >= LIMIT && values.to === 'svg') {
      const [one, other] = [await drawnByAnother(file, theirs.height), await drawnByAnother(copy, theirs.height)];
      const second = one && other ? shareOff(one, other) : 1;
      alone = second < LIMIT;
    }
    if (!values.keep) rmSync(copy);
    const said = notUnderstood.filter(({ shows }) => shows).map(({ kind, count }) => `${kind} (${count})`);
    const kind =
      share < LIMIT
        ? 'faithful'
        : alone && !said.length
          ? 'different to one judge'
          : said.length
            ? 'different, said'
            : 'different in silence';
    return { file, kind, share, ms, words: said.join(', ') };
  } catch (error) {
    return { file, kind: 'refused', share: 0, ms: took(), words: asFailure(error).message };
  }
}

const outcomes: Outcome[] = [];
let next = 0;
// Two at a time: while one is drawn by the judge, the other is derived.
await Promise.all(
  [0, 1].map(async () => {
    for (let at = next++; at < sample.length; at = next++) outcomes.push(await judge(sample[at]!, at));
  }),
);
if (!values.keep) rmSync(folder, { recursive: true });

const count = (kind: Outcome['kind']) => outcomes.filter((one) => one.kind === kind).length;
const judged = outcomes.length - count('not drawn by the judge');
for (const one of outcomes.filter(({ kind }) => kind !== 'faithful' && kind !== 'not drawn by the judge'))
  console.log(`${one.kind}: ${one.file} ${(100 * one.share).toFixed(1)} % ${one.words}`);
for (const { file, ms } of [...outcomes].sort((a, b) => b.ms - a.ms).slice(0, 5))
  console.log(`slow: ${file} ${ms.toFixed(0)} ms`);
console.log(
  `${judged} drawings of seed ${values.seed}: faithful ${count('faithful')} (${((100 * count('faithful')) / judged).toFixed(1)} %), ` +
    (['different, said', 'different to one judge', 'different in silence', 'refused', 'defect'] as const)
      .map((kind) => `${kind} ${count(kind)}`)
      .join(', '),
);
