import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { type Pixels, fitSize, heldRows, lossOf, recipeOf, forecastOf } from '@inkwell-twin/core';
import { pictureEngine } from '../src';
import { runs } from '../../core/test/depth';
import { judgedBy } from '../../core/test/judged-by';
import { copyOf, masterOf, sample, withPicture } from './workshop';

const TIME = '2026-11-20T10:00:00.000Z';

/** The pictures of a PDF as another program lists them. */
function pdfImages(bytes: Uint8Array): { type: string; width: number; height: number; enc: string; ppi: number }[] {
  const folder = mkdtempSync(join(tmpdir(), 'inkwell-smaller-'));
  try {
    writeFileSync(join(folder, 'a.pdf'), bytes);
    const { stdout } = spawnSync('pdfimages', ['-list', join(folder, 'a.pdf')], { encoding: 'utf8' });
    return stdout
      .trim()
      .split('\n')
      .slice(2)
      .map((line) => line.trim().split(/\s+/))
      .map((cell) => ({ type: cell[2]!, width: Number(cell[3]), height: Number(cell[4]), enc: cell[8]!, ppi: Number(cell[12]) }));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
const bytesOf = (files: readonly { readonly bytes: Uint8Array }[]): number =>
  files.reduce((sum, { bytes }) => sum + bytes.length, 0);

describe('pictures that are made smaller', () => {
  judgedBy('pdftotext').it('are no denser than asked where they are shown, as another program counts them', async () => {
    const { master, services } = await masterOf(sample(900, 600));
    const small = withPicture(master, { width: 45, height: 30 });
    for (const [ppi, width] of [
      [150, 266],
      [300, 531],
    ] as const) {
      const copy = await copyOf(small, services, 'pdf', { pictures: ppi });
      expect(copy.defects).toEqual([]);
      const [found, ...others] = pdfImages(copy.files[0]!.bytes);
      expect([found?.enc, found?.width, others]).toEqual(['jpeg', width, []]);
      expect(Math.abs(found!.ppi - ppi)).toBeLessThanOrEqual(1);
    }
  });

  it('are told with what is lost, are in step, and one that somebody exchanged is found', async () => {
    const { master, services } = await masterOf(sample(900, 600));
    const small = withPicture(master, { width: 45, height: 30 });
    for (const target of ['pdf', 'svg']) {
      const copy = await copyOf(small, services, target, { pictures: 120 });
      const [line] = copy.report.lines.filter(({ feature }) => feature === 'pictures');
      expect(line).toMatchObject({ outcome: 'approximated', count: 1 });
      expect(line!.becomes).toMatch(/^are made smaller: 0\.54 million pixels become 0\.0\d+; colours off by \d\.\d ΔE/);
      expect((await copy.check(copy.bytes)).verdict).toBe('in step');
      // The same sizes, another picture.
      const other = await masterOf({
        ...sample(900, 600),
        data: sample(900, 600).data.map((value, i) => (i % 4 === 3 ? value : 255 - value)) as Uint8Array,
      });
      const swapped = await copyOf(withPicture(other.master, { width: 45, height: 30 }), other.services, target, {
        pictures: 120,
      });
      const result = await copy.check(swapped.bytes);
      expect([result.verdict, result.differences.map(({ kind }) => kind)]).toEqual(['touched', ['picture changed']]);
    }
  });

  it('stay as they are where that would not make them smaller: too few pixels, or packed with loss already', async () => {
    const photo = await masterOf(sample(300, 200), 'photo.jpg', 'jpeg');
    const large = withPicture(photo.master, { width: 300, height: 200 });
    const [asked, plain] = [
      await copyOf(large, photo.services, 'svg', { pictures: 150 }),
      await copyOf(large, photo.services, 'svg', {}),
    ];
    expect(asked.report.lines.find(({ feature }) => feature === 'pictures')?.outcome).toBe('kept');
    expect(Math.abs(bytesOf(asked.files) - bytesOf(plain.files))).toBeLessThan(40);
  });

  it('keep what is seen through', async () => {
    const { master, services } = await masterOf(sample(600, 400, true));
    const copy = await copyOf(withPicture(master, { width: 30, height: 20 }), services, 'svg', { pictures: 100 });
    expect(copy.defects).toEqual([]);
    const svg = new TextDecoder().decode(copy.files[0]!.bytes);
    const [, type, packed] = /href="data:(image\/\w+);base64,([^"]+)"/.exec(svg)!;
    expect(type).toBe('image/png');
    const pixels = await pictureEngine.pixels(Buffer.from(packed!, 'base64'), 8);
    expect([pixels.width, pixels.height]).toEqual([118, 79]);
    expect(pixels.data[3]).toBe(0);
    expect(pixels.data[4 * (40 * 118 + 59) + 3]).toBe(255);
  });
});

describe('what is lost', () => {
  it('is nothing between a picture and itself, and the more the coarser it was packed', async () => {
    const whole = sample(320, 240);
    expect(lossOf(whole, whole)).toEqual({ deltaE: 0, ssim: 1 });
    const packed = async (quality: number): Promise<Pixels> => {
      const encoding = { format: 'jpeg', depth: 8, alpha: false, profile: 'sRGB', quality, ppi: 96 } as const;
      return pictureEngine.pixels(await pictureEngine.encode(heldRows(whole), encoding), 8);
    };
    const losses = [];
    for (const quality of [95, 70, 30, 5]) losses.push(lossOf(whole, await packed(quality)));
    for (let i = 1; i < losses.length; i++) {
      expect(losses[i]!.deltaE).toBeGreaterThan(losses[i - 1]!.deltaE);
      expect(losses[i]!.ssim).toBeLessThan(losses[i - 1]!.ssim);
    }
  });

  it('lies between nothing and all, whatever the pictures', () => {
    const one = fc.uint8Array({ minLength: 4 * 64, maxLength: 4 * 64 });
    fc.assert(
      fc.property(one, one, (a, b) => {
        const { deltaE, ssim } = lossOf({ width: 8, height: 8, data: a }, { width: 8, height: 8, data: b });
        expect(deltaE).toBeGreaterThanOrEqual(0);
        expect(Math.abs(ssim)).toBeLessThanOrEqual(1 + 1e-9);
      }),
      { numRuns: runs(40) },
    );
  });
});

describe('a size to fit', () => {
  it.each([
    ['pdf', 40_000],
    ['svg', 60_000],
    ['jpeg', 30_000],
  ])('is kept by %s with the least loss that does', async (target, most) => {
    const { master, services } = await masterOf(sample(900, 600));
    const small = withPicture(master, { width: 90, height: 60 });
    const at = { master: small, rev: 1, time: TIME };
    const recipe = recipeOf(target, {});
    const { recipe: fitted, bytes, tried } = await fitSize(at, recipe, most, services);
    expect(bytes).toBeLessThanOrEqual(most);
    expect(await forecastOf(at, fitted, services)).toMatchObject({ bytes });
    // Nothing that was tried and fits is larger: that would have lost less.
    expect(Math.max(...tried.filter((one) => one.bytes <= most).map((one) => one.bytes))).toBe(bytes);
    expect(tried[0]!.bytes).toBeGreaterThan(most);
    expect(bytes).toBeGreaterThan(0.7 * most);
    expect(tried.length).toBeLessThanOrEqual(14);
    // What is small enough stays as it was asked for.
    expect((await fitSize(at, recipe, 1e9, services)).recipe).toBe(recipe);
    await expect(fitSize(at, recipe, 300, services)).rejects.toThrow(/at its smallest it has \d+ bytes, \d+ too many/);
  });

  it('is out of reach where nothing makes a copy smaller, which is said with its size', async () => {
    const { master, services } = await masterOf(sample(90, 60));
    const at = { master, rev: 1, time: TIME };
    await expect(fitSize(at, recipeOf('dxf', {}), 100, services)).rejects.toThrow('nothing makes such a copy smaller');
  });
});
