import { crc32, deflateSync } from 'node:zlib';
import { type PictureItem, bringInAny, codecOf, derive, recipeOf } from '@inkwell-twin/core';
import sharp from 'sharp';
import { pictureEngine } from '../src';
import { copyOf, masterOf, servicesWith, sample, withPicture } from './workshop';
import { cpuTime } from '../../core/test/cpu-time';

const services = { pictures: pictureEngine };
const raw = (width = 60, height = 40, alpha = false) => {
  const { data } = sample(width, height, alpha);
  return sharp(data as Uint8Array, { raw: { width, height, channels: 4 } });
};
const item = (master: { boards: readonly { items: readonly unknown[] }[] }) => master.boards[0]!.items[0] as PictureItem;

describe('a picture as a master', () => {
  it.each([
    ['PNG', () => raw().png().toBuffer(), 'image/png'],
    ['JPEG', () => raw().removeAlpha().jpeg().toBuffer(), 'image/jpeg'],
    ['GIF', () => raw().gif().toBuffer(), 'image/gif'],
    ['WebP', () => raw().webp().toBuffer(), 'image/webp'],
    ['TIFF', () => raw().tiff().toBuffer(), 'image/tiff'],
    ['TIFF of 16 bits', () => raw().toColourspace('rgb16').tiff().toBuffer(), 'image/tiff'],
    ['BMP', async () => bmp(60, 40), 'image/bmp'],
  ])('%s: is a board of its size with it on, and its bytes are kept', async (_, make, mediaType) => {
    const bytes = await make();
    const { master, kept } = await bringInAny(bytes, 'pool.x', services);
    expect(kept).toHaveLength(1);
    expect(Buffer.compare(kept[0]!.bytes, bytes)).toBe(0);
    expect(kept[0]!.resource).toMatchObject({ mediaType, role: 'picture', width: 60, height: 40 });
    expect(item(master)).toMatchObject({ x: 0, y: 0, width: master.boards[0]!.width, height: master.boards[0]!.height });
  });

  it('has the size that its density makes, and is turned as it asks for', async () => {
    const bytes = await raw(60, 40).withMetadata({ density: 300, orientation: 6 }).removeAlpha().jpeg().toBuffer();
    const { master } = await bringInAny(bytes, 'turned.jpg', services);
    expect(master.boards[0]!.width).toBeCloseTo((40 / 300) * 25.4, 6);
    expect(master.boards[0]!.height).toBeCloseTo((60 / 300) * 25.4, 6);
  });

  it('says what of it does not come along', async () => {
    const one = Buffer.from(sample(20, 10).data as Uint8Array);
    const frames = Buffer.concat([one, one.map((part) => 255 - part), one]);
    const bytes = await sharp(frames, { raw: { width: 20, height: 30, channels: 4, pageHeight: 10 } })
      .gif()
      .toBuffer();
    const { notUnderstood } = await bringInAny(bytes, 'moving.gif', services);
    expect(notUnderstood).toContainEqual({ kind: 'frame after the first', count: 2, shows: true });
  });

  it('in four inks is converted', async () => {
    const bytes = await raw().removeAlpha().toColourspace('cmyk').jpeg().toBuffer();
    const { master, kept } = await bringInAny(bytes, 'inks.jpg', services);
    const copy = await copyOf(master, servicesWith(new Map(kept.map((one) => [one.resource.id, one.bytes]))), 'png');
    expect(copy.defects).toEqual([]);
  });
});

describe('pictures that are damaged, or lie', () => {
  const png = (width: number, height: number, body: Buffer) => {
    const chunk = (type: string, data: Buffer) => {
      const out = Buffer.alloc(12 + data.length);
      out.writeUInt32BE(data.length, 0);
      out.write(type, 4, 'latin1');
      data.copy(out, 8);
      out.writeUInt32BE(crc32(out.subarray(4, 8 + data.length)), 8 + data.length);
      return out;
    };
    const head = Buffer.alloc(13);
    head.writeUInt32BE(width, 0);
    head.writeUInt32BE(height, 4);
    head.set([8, 6, 0, 0, 0], 8);
    const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]);
    return Buffer.concat([signature, chunk('IHDR', head), chunk('IDAT', body), chunk('IEND', Buffer.alloc(0))]);
  };
  it.each([
    ['a PNG that is cut off', async () => (await raw(200, 200).png().toBuffer()).subarray(0, 3000), 'picture-damaged'],
    ['a JPEG that is cut off', async () => (await raw(200, 200).jpeg().toBuffer()).subarray(0, 2000), 'picture-damaged'],
    ['a PNG with fewer pixels than it says', async () => png(500, 500, deflateSync(Buffer.alloc(1000))), 'picture-damaged'],
    [
      'a kilobyte that says it is 60,000 × 60,000',
      async () => png(60_000, 60_000, deflateSync(Buffer.alloc(900))),
      'picture-too-large',
    ],
    [
      'a small file that unpacks to much',
      async () => png(30_000, 30_000, deflateSync(Buffer.alloc(50_000_000))),
      'picture-too-large',
    ],
    ['a JPEG with a wrong length', async () => broken(await raw(80, 80).jpeg().toBuffer(), 4, 0xff), 'picture-damaged'],
    [
      'a TIFF whose strips lie outside',
      async () => strips(await raw(80, 80).tiff({ compression: 'none' }).toBuffer()),
      'picture-damaged',
    ],
    ['a BMP that ends early', async () => bmp(60, 40).subarray(0, 500), 'picture-damaged'],
    ['a BMP that says it is huge', async () => broken(bmp(60, 40), 20, 0x7f), 'picture-too-large'],
    ['a PNG of zero pixels', async () => png(0, 10, deflateSync(Buffer.alloc(10))), 'picture-damaged'],
  ])('%s is refused in words', async (_, make, code) => {
    const begun = cpuTime();
    await expect(bringInAny(await make(), 'bad.png', services)).rejects.toThrow(expect.objectContaining({ code }));
    expect(cpuTime() - begun).toBeLessThan(20_000);
  });
});

describe('pictures in drawings', () => {
  const svg = async (inner: (data: string) => string) => {
    const data = `data:image/png;base64,${(await raw().png().toBuffer()).toString('base64')}`;
    return Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="100mm" height="80mm" viewBox="0 0 100 80">${inner(data)}</svg>`,
    );
  };
  it.each([
    ['upright', (data: string) => `<image x="10" y="5" width="60" height="40" xlink:href="${data}"/>`, {}],
    [
      'turned and see-through',
      (data: string) => `<image width="30" height="20" opacity=".5" transform="rotate(20 40 40)" href="${data}"/>`,
      {},
    ],
    [
      'cropped',
      (data: string) =>
        `<svg x="10" y="10" width="30" height="30" viewBox="15 0 30 30" preserveAspectRatio="none"><image width="60" height="40" href="${data}"/></svg>`,
      { crop: { left: 0.25, right: 0.75, bottom: 0.25, top: 1 } },
    ],
    ['fitted', (data: string) => `<image x="0" y="0" width="40" height="40" href="${data}"/>`, { height: 40 / 1.5 }],
    [
      'sliced',
      (data: string) => `<image width="40" height="40" preserveAspectRatio="xMinYMid slice" href="${data}"/>`,
      { crop: { left: 0, right: 1 / 1.5, bottom: 0, top: 1 } },
    ],
    [
      'in a pattern',
      (data: string) =>
        `<pattern id="p" width="20" height="20" patternUnits="userSpaceOnUse"><image width="20" height="20" href="${data}"/></pattern><rect width="80" height="60" fill="url(#p)"/>`,
      null,
    ],
    [
      'clipped',
      (data: string) =>
        `<clipPath id="c"><circle cx="30" cy="20" r="15"/></clipPath><image width="60" height="40" clip-path="url(#c)" href="${data}"/>`,
      null,
    ],
  ])('%s: comes in, and a copy of it reads back the same and looks the same', async (_, inner, expected) => {
    const bytes = await svg(inner);
    const { master, notUnderstood, kept } = await bringInAny(bytes, 'with.svg', services);
    expect(notUnderstood.filter(({ shows }) => shows)).toEqual([]);
    if (expected) {
      const { crop, ...rest } = expected as { crop?: Record<string, number> };
      expect(item(master)).toMatchObject({ kind: 'picture' });
      for (const [name, value] of Object.entries(crop ?? {})) expect(item(master).crop![name as 'left']).toBeCloseTo(value, 5);
      for (const [name, value] of Object.entries(rest)) expect(item(master)[name as 'height']).toBeCloseTo(value as number, 5);
    }
    const own = servicesWith(new Map(kept.map((one) => [one.resource.id, one.bytes])));
    const copy = await copyOf(master, own, 'svg');
    expect(copy.defects).toEqual([]);
    expect((await copy.check(copy.bytes)).verdict).toBe('in step');
    const [a, b] = await Promise.all(
      [bytes, copy.bytes].map((one) => sharp(one, { density: 96 }).flatten({ background: '#fff' }).raw().toBuffer()),
    );
    const off = a!.reduce((count, value, i) => count + Number(Math.abs(value - b![i]!) > 24), 0);
    expect(off / a!.length).toBeLessThan(0.01);
  });

  it('that lie in another file, or are drawings themselves, are told of and not read', async () => {
    const bytes = await svg(
      () =>
        '<image width="10" height="10" href="/etc/hostname"/><image width="5" height="5" href="data:image/svg+xml;base64,PHN2Zy8+"/>',
    );
    const { notUnderstood } = await bringInAny(bytes, 'with.svg', services);
    expect(notUnderstood).toContainEqual({ kind: 'picture in another file', count: 1, shows: true });
    expect(notUnderstood).toContainEqual({ kind: 'drawing inside the drawing', count: 1, shows: true });
  });

  it('that were changed, moved or cropped otherwise in a copy are found', async () => {
    const { master, services: own } = await masterOf(sample(60, 40));
    const copy = await copyOf(master, own, 'svg');
    const text = Buffer.from(copy.bytes).toString();
    const other = `data:image/png;base64,${(await raw(60, 40).negate({ alpha: false }).png().toBuffer()).toString('base64')}`;
    const kinds = async (words: string) => (await copy.check(Buffer.from(words))).differences.map(({ kind }) => kind);
    expect(await kinds(text.replace(/data:image[^"]*/, other))).toEqual(['recoloured overall']);
    expect(await kinds(text.replace('<image x="0"', '<image x="0.4"'))).toEqual(['moved']);
    expect(await kinds(text.replace(/<image [^>]*href/, '<image width="1" height="1" href'))).not.toEqual([]);
  });

  it('that were painted on are told where and by how much, on the board, in a drawing and in a PDF alike', async () => {
    const { master, services: own } = await masterOf(sample(240, 160));
    const turned = withPicture(master, { transform: [0, 1, -1, 0, 40, 0] });
    const copy = await copyOf(turned, own, 'svg');
    const spot = await sharp({ create: { width: 6, height: 4, channels: 3, background: '#ff0000' } })
      .png()
      .toBuffer();
    const text = Buffer.from(copy.bytes).toString();
    const [, data] = /base64,([^"]*)/.exec(text)!;
    const painted = await sharp(Buffer.from(data!, 'base64'))
      .composite([{ input: spot, left: 30, top: 20 }])
      .png()
      .toBuffer();
    const { verdict, differences } = await copy.check(Buffer.from(text.replace(data!, painted.toString('base64'))));
    expect([verdict, differences.map(({ kind, unit }) => [kind, unit])]).toEqual(['touched', [['region changed', 'ΔE']]]);
    // 240 pixels are 30.48 mm here; the picture stands on its side, its foot at 40 mm from the left.
    const pixel = 30.48 / 240;
    const { minX, maxX, minY, maxY } = differences[0]!.place!;
    const expected = [40 - 140 * pixel, 40 - 136 * pixel, 30 * pixel, 36 * pixel];
    [minX, maxX, minY, maxY].forEach((value, i) => expect(Math.abs(value - expected[i]!)).toBeLessThan(0.02));
  });

  it('are left out, in words, where a target has none', async () => {
    const { master, services: own } = await masterOf(sample(30, 20));
    for (const target of ['dxf']) {
      const { report, defects } = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipeOf(target, {}), own);
      expect(report.lines).toContainEqual(expect.objectContaining({ feature: 'pictures', outcome: 'left out', count: 1 }));
      expect(defects).toEqual([]);
    }
    expect((await codecOf('png')).declaration.holds.leaves).toBe('one');
  });
});

function broken(bytes: Buffer, at: number, value: number): Buffer {
  const out = Buffer.from(bytes);
  out[at] = value;
  if (value === 0xff) out[at + 1] = 0xff;
  if (value === 0x7f) out.writeInt32LE(0x7fffff, at - 2);
  return out;
}

/** All strips of a TIFF moved out of the file. */
function strips(bytes: Buffer): Buffer {
  const out = Buffer.from(bytes);
  const at = out.readUInt32LE(4);
  for (let i = 0; i < out.readUInt16LE(at); i++) {
    const field = at + 2 + 12 * i;
    if (out.readUInt16LE(field) !== 273) continue;
    const [count, place] = [out.readUInt32LE(field + 4), out.readUInt32LE(field + 8)];
    if (count === 1) out.writeUInt32LE(0x7fffff00, field + 8);
    else for (let k = 0; k < count; k++) out.writeUInt32LE(0x7fffff00, place + 4 * k);
  }
  return out;
}

/** A BMP of 24 bits. */
function bmp(width: number, height: number): Buffer {
  const row = Math.ceil((width * 3) / 4) * 4;
  const out = Buffer.alloc(54 + row * height, 120);
  out.fill(0, 0, 54);
  out.write('BM');
  out.writeUInt32LE(out.length, 2);
  out.writeUInt32LE(54, 10);
  out.writeUInt32LE(40, 14);
  out.writeInt32LE(width, 18);
  out.writeInt32LE(height, 22);
  out.writeUInt16LE(1, 26);
  out.writeUInt16LE(24, 28);
  return out;
}
