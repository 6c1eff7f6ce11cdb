import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { addFormats, bringInAny, derive, partWishes, recipeOf } from '@inkwell-twin/core';
import sharp from 'sharp';
import { nodeFormats, pictureEngine, shippedFonts } from '../src';
import { atDepth } from '../../core/test/depth';
import { judgedBy } from '../../core/test/judged-by';
import { type Corpus, corpusOf, seeds } from './elsewhere/corpus';

addFormats(nodeFormats);
/** Share of a page that may look otherwise, blurred by a pixel and a half: other letters of the same kind, and what their edges blend to. */
const OTHERWISE = 0.03;
/** Steps of 255 from which a pixel looks otherwise. */
const SEEN = 40;
/** Share of the words that may be read otherwise, of upright ones: of turned ones the judge makes something else each time. */
const LOST = 0.1;

const read = (...command: [string, ...string[]]): string => {
  const { stdout, stderr, status } = spawnSync(command[0], command.slice(1), { encoding: 'utf8', maxBuffer: 1 << 28 });
  if (status !== 0) throw new Error(stderr);
  return stdout;
};
/** Words of a page. Of letters that stand apart the judge makes words, or none: those are taken together, without blanks. */
function wordsIn(file: string): Set<string> {
  const words = read('pdftotext', '-layout', file, '-').split(/\s+/).filter(Boolean);
  return new Set(file.includes('letter spacing') ? [words.join('')] : words);
}

/** A page as poppler draws it, blurred. */
async function drawn(file: string): Promise<{ data: Buffer; width: number; height: number }> {
  read('pdftoppm', '-png', '-r', '60', '-singlefile', '-cropbox', file, file);
  const { data, info } = await sharp(`${file}.png`).removeAlpha().blur(1.5).raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

judgedBy('reportlab', 'cairo', 'pikepdf', 'numpy', 'PIL', 'pdftotext').describe.each(seeds())(
  'pages that other programs wrote, seed %i',
  (seed) => {
    let corpus: Corpus;
    beforeAll(() => {
      corpus = corpusOf('pages.py', seed);
    });
    afterAll(() => corpus.close());

    /** A page brought in and derived as a PDF: in how much it looks otherwise, and which share of its words is not there. */
    async function back(name: string, fonts: 'nearest' | 'as outlines') {
      const kept = new Map<string, Uint8Array>();
      const resource = (id: string): Promise<Uint8Array> => Promise.resolve(kept.get(id)!);
      const services = { pictures: pictureEngine, fonts: shippedFonts(), resource };
      const read = await bringInAny(corpus.bytes(name), name, services, partWishes({ fonts }));
      for (const one of read.kept) kept.set(one.resource.id, one.bytes);
      const recipe = recipeOf('pdf', {}, '', 'boards');
      const made = await derive({ master: read.master, rev: 1, time: '2026-11-30T10:00:00Z' }, recipe, services);
      const [theirs, ours] = [join(corpus.folder, name), join(corpus.folder, `${fonts} ${name}.ours`)];
      writeFileSync(ours, made.files[0]!.bytes);
      const [a, b] = [await drawn(theirs), await drawn(ours)];
      let other = 0;
      const isSized = Math.abs(a.width - b.width) <= 1 && Math.abs(a.height - b.height) <= 1;
      for (let y = 0; isSized && y < Math.min(a.height, b.height); y++)
        for (let x = 0; x < Math.min(a.width, b.width); x++) {
          const [i, k] = [3 * (y * a.width + x), 3 * (y * b.width + x)];
          if ([0, 1, 2].some((part) => Math.abs(a.data[i + part]! - b.data[k + part]!) > SEEN)) other++;
        }
      const isUpright = !/^shapes|seen through/.test(name);
      const [meant, found] = isUpright ? [wordsIn(theirs), wordsIn(ours)] : [new Set<string>(), new Set<string>()];
      const lost = [...meant].filter((word) => !found.has(word)).length / Math.max(1, meant.size);
      return {
        defects: made.defects.map(({ kind, what }) => `${kind} ${what}`),
        otherwise: isSized ? other / (a.width * a.height) : 1,
        lost,
        told: read.notUnderstood,
      };
    }

    const pages = (): string[] => corpus.names.filter((name) => name.endsWith('.pdf'));

    it.each(['stencils.pdf', 'shapes as letters.pdf'])('show all of %s', async (name) => {
      const { defects, otherwise, told } = await back(name, 'nearest');
      expect([defects, otherwise <= OTHERWISE, told]).toEqual([[], true, []]);
    });

    it('come in as they look, with their words, and can be derived again', async () => {
      const wrong: unknown[] = [];
      for (const name of pages().filter((_, i) => i % atDepth(2, 1) === 0)) {
        const { defects, otherwise, lost } = await back(name, 'nearest');
        if (defects.length || otherwise > OTHERWISE || lost > LOST) wrong.push({ name, defects, otherwise, lost });
      }
      expect(wrong).toEqual([]);
    });

    it('come in as they look where letters become outlines', async () => {
      const wrong: unknown[] = [];
      for (const name of pages().filter((_, i) => i % atDepth(8, 1) === 0)) {
        const { defects, otherwise } = await back(name, 'as outlines');
        if (defects.length || otherwise > OTHERWISE) wrong.push({ name, defects, otherwise });
      }
      expect(wrong).toEqual([]);
    });
  },
);
