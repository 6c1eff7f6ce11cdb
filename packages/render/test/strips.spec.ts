import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import {
  type Correction,
  type Master,
  type Pixels,
  type Rows,
  banding,
  bringInAny,
  digest,
  heldRows,
  wholeOf,
} from '@inkwell-twin/core';
import { smallDisk, whereDisksAreMade } from '../../core/test/small-disk';
import { pictureEngine, pictureLimits } from '../src';
import { copyOf, masterOf, servicesWith, sample, withPicture } from './workshop';
import { atDepth } from '../../core/test/depth';

// A folder of its own: what others lay down meanwhile is none of ours.
const usualFolder = pictureLimits.folder;
beforeAll(() => void (pictureLimits.folder = mkdtempSync(join(tmpdir(), 'inkwell-strips-'))));
afterAll(() => {
  rmSync(pictureLimits.folder, { recursive: true });
  pictureLimits.folder = usualFolder;
});

const usual = pictureLimits.held;
const usualBand = banding.pixels;
/** What is done with pictures as if they were too large to be held. */
async function inBands<T>(work: () => Promise<T>): Promise<T> {
  pictureLimits.held = 1000;
  banding.pixels = 5000;
  try {
    return await work();
  } finally {
    pictureLimits.held = usual;
    banding.pixels = usualBand;
  }
}

const bytesOf = (rows: Rows): Buffer => {
  const { data } = wholeOf(rows);
  return Buffer.from(data.buffer, data.byteOffset, data.byteLength);
};

const SOFT: Correction[] = [
  { kind: 'levels', black: 0.1, white: 0.9, gamma: 1.2 },
  { kind: 'blur', radius: 3 },
  { kind: 'saturation', amount: 0.4 },
  { kind: 'sharpen', radius: 2, amount: 0.8 },
];
const CORRECTED = (master: Master) => withPicture(master, { corrections: SOFT });
const AS_IT_IS = (master: Master) => master;
/** Beside other things, so that the board is drawn. */
const DRAWN = (master: Master) => withPicture(master, { x: 3, width: 10, height: 9 });

describe('a picture that is too large to be held', () => {
  it.each([
    ['png', {}, AS_IT_IS],
    ['png', { depth: '16' }, CORRECTED],
    ['png', { depth: '16', profile: 'Display P3' }, AS_IT_IS],
    ['png', { width: 97 }, AS_IT_IS],
    ['png', {}, DRAWN],
    ['jpeg', { quality: 80 }, AS_IT_IS],
    ['jpeg', { quality: 80, background: '#ffcc00' }, CORRECTED],
    ['tiff', { depth: '8' }, CORRECTED],
    ['tiff', { depth: '16', compression: 'lzw' }, AS_IT_IS],
    ['webp', { packing: 'without loss' }, AS_IT_IS],
    ['webp', {}, CORRECTED],
  ] as const)('becomes the same %s with %j band by band as at once', async (target, options, change) => {
    const { master, services } = await masterOf(sample(300, 200, true));
    const now = change(master);
    const atOnce = await copyOf(now, services, target, options);
    const banded = await inBands(() => copyOf(now, services, target, options));
    expect(banded.defects).toEqual([]);
    expect(banded.says).toBe(atOnce.says);
    expect(digest(banded.bytes)).toBe(digest(atOnce.bytes));
    expect((await inBands(() => banded.check(atOnce.bytes))).verdict).toBe('in step');
  });

  it.each<[string, (pixels: Pixels) => Pixels | Promise<Pixels>]>([
    [
      'region changed',
      ({ width, height, data }) => {
        for (let y = 120; y < 126; y++) data.fill(0, 4 * (width * y + 40), 4 * (width * y + 60));
        for (let i = 3; i < data.length; i += 4) data[i] = 255;
        return { width, height, data };
      },
    ],
    [
      'shifted',
      ({ width, height, data }) => ({ width, height, data: data.map((_, i) => data[Math.max(0, i - 4 * (2 * width + 3))]!) }),
    ],
    [
      'recoloured overall',
      ({ width, height, data }) => ({
        width,
        height,
        data: data.map((value, i) => (i % 4 === 3 ? value : Math.min(255, value * 0.8 + 40))),
      }),
    ],
    ['resampled', async (pixels) => wholeOf(await pictureEngine.resize(heldRows(pixels), 150, 100))],
  ])('is compared band by band: %s', async (kind, change) => {
    const { master, services } = await masterOf(sample(300, 200));
    const copy = await copyOf(master, services, 'png');
    const pixels = wholeOf((await pictureEngine.raster(copy.bytes)).rows);
    const changed = await change({ ...pixels, data: Uint8Array.from(pixels.data) });
    const bytes = await pictureEngine.encode(heldRows(changed), {
      format: 'png',
      depth: 8,
      alpha: false,
      profile: 'sRGB',
      quality: null,
      ppi: 200,
    });
    const kinds = (found: Awaited<ReturnType<typeof copy.check>>) => found.differences.map(({ kind: one }) => one);
    const atOnce = await copy.check(bytes);
    expect(kinds(atOnce)).toContain(kind);
    const banded = await inBands(() => copy.check(bytes));
    expect(banded.differences.filter((one) => one.kind === kind)).toEqual(atOnce.differences.filter((one) => one.kind === kind));
  });

  it('that is turned by its file, of 16 bits or with a profile comes in as it does at once', async () => {
    const raw = (depth: 8 | 16) => {
      const { width, height, data } = sample(60, 44, true);
      return depth === 8
        ? sharp(data, { raw: { width, height, channels: 4 } })
        : sharp(
            Uint16Array.from(data, (value) => value * 257),
            { raw: { width, height, channels: 4 } },
          ).toColourspace('rgb16');
    };
    const files = await Promise.all([
      raw(8).removeAlpha().withMetadata({ orientation: 6 }).jpeg({ quality: 95 }).toBuffer(),
      raw(16).png().toBuffer(),
      raw(8).withIccProfile('p3').png().toBuffer(),
      raw(16).removeAlpha().withIccProfile('p3').tiff({ compression: 'lzw' }).toBuffer(),
      raw(8).toColourspace('b-w').png().toBuffer(),
    ]);
    for (const bytes of files)
      for (const depth of [8, 16] as const) {
        const [whole, banded] = [await pictureEngine.rows(bytes, depth), await inBands(() => pictureEngine.rows(bytes, depth))];
        expect([whole.held !== null, banded.held]).toEqual([true, null]);
        expect(bytesOf(banded).equals(bytesOf(whole))).toBe(true);
      }
  });

  it('is not cut out or straightened, which is said, and is damaged like any other', async () => {
    const { master, services } = await masterOf(sample(300, 200));
    const cut = withPicture(master, { corrections: [{ kind: 'straighten', angle: 2 }] });
    await expect(inBands(() => copyOf(cut, services, 'png'))).rejects.toMatchObject({ code: 'picture-too-large' });
    const bytes = await sharp(sample(200, 200).data, { raw: { width: 200, height: 200, channels: 4 } })
      .png()
      .toBuffer();
    const short = bytes.subarray(0, bytes.length - 400);
    await expect(inBands(() => pictureEngine.rows(short, 8))).rejects.toMatchObject({ code: 'picture-damaged' });
  });

  whereDisksAreMade.it('says so where there is no room to lay it down', async () => {
    const { master, services } = await masterOf(sample(300, 200));
    const disk = smallDisk('100k');
    const before = pictureLimits.folder;
    try {
      pictureLimits.folder = disk.folder;
      for (const target of ['png', 'jpeg'])
        await expect(inBands(() => copyOf(CORRECTED(master), services, target))).rejects.toMatchObject({ code: 'no-room' });
    } finally {
      pictureLimits.folder = before;
      disk.remove();
    }
  });

  it('leaves no file behind', async () => {
    const { master, services } = await masterOf(sample(300, 200));
    await inBands(() => copyOf(CORRECTED(master), services, 'png', { depth: '16' }));
    expect(readdirSync(pictureLimits.folder)).toEqual([]);
  });
});

const [WIDE, HIGH] = [atDepth(4100, 8200), atDepth(2500, 5000)];

it(`a picture of ${WIDE} × ${HIGH} pixels is worked on in bands, and its copy is in step`, async () => {
  const bytes = await sharp({ create: { width: WIDE, height: HIGH, channels: 3, background: '#3a7d5c' } })
    .png()
    .toBuffer();
  const { master, kept } = await bringInAny(bytes, 'large.png', { pictures: pictureEngine });
  const services = servicesWith(new Map(kept.map((one) => [one.resource.id, one.bytes])));
  const { bytes: made, check, defects } = await copyOf(master, services, 'png');
  expect(defects).toEqual([]);
  expect((await check(made)).verdict).toBe('in step');
});
