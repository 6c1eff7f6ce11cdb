// Brings drawings from elsewhere in, derives copies of them, checks each, and has another program draw both sides of SVG or PDF.
// Use: npm run drawings -- [--seed N] [--count N] [--folder PATH] [--keep FOLDER] [--to svg|pdf|dxf|hpgl|dxf:version=R12 …, by commas];
// the drawings are those of Debian's openclipart-svg unless a folder is given. Prints what differs, by what was said about it,
// and the slowest. Where librsvg sees a difference, a second program is asked, and then a browser: what not all of them see is a
// matter among them, and said apart.
import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { parseArgs, promisify } from 'node:util';
import { chromium } from '@playwright/test';
import sharp from 'sharp';
import { addFormats, asFailure, checkCopy, codecOf, derive, recipeOf } from '@inkwell-twin/core';
import { nodeFormats, pictureEngine, shippedFonts } from '@inkwell-twin/render';

const { values } = parseArgs({
  options: {
    seed: { type: 'string', default: '1' },
    count: { type: 'string', default: '250' },
    folder: { type: 'string', default: '/usr/share/openclipart/svg' },
    keep: { type: 'string' },
    to: { type: 'string', default: 'svg,dxf,dxf:version=R12,hpgl' },
  },
});
const run = promisify(execFile);
addFormats(nodeFormats);
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

/** What is derived: a target, and after a colon what is set of it. */
const targets = values.to.split(',').map((name) => {
  const [target, ...sets] = name.split(':');
  return { name, target: target!, options: Object.fromEntries(sets.map((set) => set.split('=') as [string, string])) };
});

interface Outcome {
  readonly file: string;
  readonly to: string;
  readonly kind:
    | 'faithful'
    | 'in step'
    | 'underivable'
    | 'different, said'
    | 'different in silence'
    | 'different to some judges'
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
  svg: (file) => ['rsvg-convert', ['-w', String(4 * ACROSS), '--keep-aspect-ratio', '--background-color', 'white', file]],
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

/** As a browser draws it, who is asked where the other two see a difference: the boxes of gradients are a matter among the three. */
async function drawnByBrowser(file: string, height: number): Promise<{ data: Buffer; height: number } | null> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
  try {
    const page = await browser.newPage({ viewport: { width: 2 * ACROSS, height: 2 * height }, javaScriptEnabled: false });
    const source = `data:image/svg+xml;base64,${readFileSync(file).toString('base64')}`;
    await page.setContent(`<body style="margin:0;background:#fff"><img style="width:100%" src="${source}">`, {
      waitUntil: 'load',
    });
    const small = sharp(await page.screenshot()).resize(ACROSS, height, { fit: 'fill' });
    return { data: await small.removeAlpha().raw().toBuffer(), height };
  } catch {
    return null;
  } finally {
    await browser.close();
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

type Judged = Omit<Outcome, 'file' | 'to' | 'ms'>;
const words = (kind: Outcome['kind'], said: string): Judged => ({ kind, share: 0, words: said });

/** How another program sees a copy beside what it was made of. */
async function seen(
  file: string,
  theirs: { data: Buffer; height: number },
  copy: string,
  target: string,
  said: string,
): Promise<Judged> {
  const share = shareOff(theirs, await drawn(copy));
  if (share < LIMIT) return { kind: 'faithful', share, words: said };
  let alone = false;
  if (target === 'svg') {
    for (const draws of [drawnByAnother, drawnByBrowser]) {
      const [one, other] = [await draws(file, theirs.height), await draws(copy, theirs.height)];
      alone ||= (one && other ? shareOff(one, other) : 1) < LIMIT;
      if (alone) break;
    }
  }
  return { kind: said ? 'different, said' : alone ? 'different to some judges' : 'different in silence', share, words: said };
}

async function judge(file: string, at: number): Promise<Outcome[]> {
  const name = basename(file);
  const none = (kind: Outcome['kind'], said = ''): Outcome[] =>
    targets.map(({ name: to }) => ({ file, to, ms: 0, ...words(kind, said) }));
  const wanted = targets.some(({ target }) => JUDGES[target]);
  const theirs = wanted ? await drawn(file).catch(() => null) : null;
  if (wanted && !theirs) return none('not drawn by the judge');
  const start = performance.now();
  const engine = { pictures: pictureEngine };
  let brought;
  try {
    brought = await (await codecOf('svg')).bringIn!(readFileSync(file), name, engine);
  } catch (error) {
    return none('refused', asFailure(error).message);
  }
  const { master, notUnderstood, resources } = brought;
  const bringing = performance.now() - start;
  const said = notUnderstood.flatMap(({ kind, count, shows }) => (shows ? `${kind} (${count})` : [])).join(', ');
  const services = { ...engine, fonts: shippedFonts(), resource: (sha: string) => resources!.get(sha)! };
  const found: Outcome[] = [];
  for (const { name: to, target, options } of targets) {
    const begun = performance.now();
    const outcome = (judged: Judged, ms = bringing + performance.now() - begun) => found.push({ file, to, ms, ...judged });
    try {
      const recipe = recipeOf(target, options);
      const { files, says, defects } = await derive({ master, rev: 1, time }, recipe, services);
      const checked = await checkCopy({ files, intact: false, says, recipe, current: master, baseline: master }, services);
      const ms = bringing + performance.now() - begun;
      if (defects.length || checked.verdict !== 'in step') {
        const off = [checked.verdict, ...defects.slice(0, 3).map(({ kind, what }) => `${what}: ${kind}`)].join('; ');
        outcome(words('defect', off), ms);
        continue;
      }
      const copy = join(folder, `${at}-${name.replace(/svg$/, target)}`);
      writeFileSync(copy, files[0]!.bytes);
      outcome(theirs && JUDGES[target] ? await seen(file, theirs, copy, target, said) : words('in step', ''), ms);
      if (!values.keep) rmSync(copy);
    } catch (error) {
      outcome(words('underivable', asFailure(error).message));
    }
  }
  return found;
}

const outcomes: Outcome[] = [];
let next = 0;
// Two at a time: while one is drawn by the judge, the other is derived.
await Promise.all(
  [0, 1].map(async () => {
    for (let at = next++; at < sample.length; at = next++) outcomes.push(...(await judge(sample[at]!, at)));
  }),
);
if (!values.keep) rmSync(folder, { recursive: true });

const SILENT: readonly Outcome['kind'][] = ['faithful', 'in step', 'not drawn by the judge'];
for (const { kind, to, file, share, words: said } of outcomes.filter((one) => !SILENT.includes(one.kind)))
  console.log(`${kind}: ${to} of ${file} ${(100 * share).toFixed(1)} % ${said}`);
for (const { to, file, ms } of [...outcomes].sort((a, b) => b.ms - a.ms).slice(0, 6))
  console.log(`slow: ${to} of ${file} ${ms.toFixed(0)} ms`);
for (const { name } of targets) {
  const kinds = new Map<string, number>();
  for (const { to, kind } of outcomes) if (to === name) kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
  console.log(`${name}, seed ${values.seed}: ${[...kinds].map(([kind, many]) => `${kind} ${many}`).join(', ')}`);
}
