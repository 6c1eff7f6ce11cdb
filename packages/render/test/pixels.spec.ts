import { type Correction, type Master, type Pixels, carriesOf, digest, parseMark, recipeOf, wholeOf } from '@inkwell-twin/core';
import { footprintHash } from '@inkwell-twin/core';
import { pictureEngine } from '../src';
import { copyOf, masterOf, sample, withPicture } from './workshop';
import { mutated } from './faults/pictures';
import { atDepth } from '../../core/test/depth';
import { formatsOf, lawRecipes } from '../../core/test/law-recipes';
import { judgedBy } from '../../core/test/judged-by';
import { python } from '../../core/test/python';

type Made = Awaited<ReturnType<typeof copyOf>>;
const RECIPES = lawRecipes('boards').filter((recipe) => 'raster' in carriesOf(recipe));

it('every format of pixels names recipes', () => {
  expect(new Set(RECIPES.map(({ target }) => target))).toEqual(
    new Set([...formatsOf('boards')].filter((target) => 'raster' in carriesOf(recipeOf(target, {})))),
  );
});

describe.each(RECIPES.map(({ target, options }) => [target, options] as const))('a copy as %s with %j', (target, options) => {
  it('reads back as it was written, says where it came from, and is made the same each time', async () => {
    const { master, services } = await masterOf(sample(300, 200, target !== 'jpeg'));
    const made = await copyOf(master, services, target, options);
    expect(made.defects).toEqual([]);
    expect((await made.check(made.bytes)).verdict).toBe('in step');
    const { xmp } = await pictureEngine.raster(made.bytes);
    expect(parseMark(xmp?.match(/inkwell-twin;[^<]*/)?.[0] ?? null)).toMatchObject({ master: master.id, says: made.says });
    expect(digest((await copyOf(master, services, target, options)).bytes)).toBe(digest(made.bytes));
  });
});

it.each([
  ['png', 'png', {}],
  ['jpeg', 'jpg', {}],
  ['tiff', 'tif', { depth: '8' }],
  ['webp', 'webp', {}],
  ['webp', 'webp', { packing: 'without loss' }],
])('the mark in a %s is found by a library that shares nothing with ours (%s, %j)', async (target, extension, options) => {
  const { master, services } = await masterOf(sample(120, 80));
  const { bytes, says } = await copyOf(master, services, target, options);
  const packet = Buffer.from(mutated('packet', bytes, extension)).toString('utf8');
  expect(parseMark(/inkwell-twin;[^<]*/.exec(packet)?.[0] ?? null)).toMatchObject({ master: master.id, says });
});

describe('what other programs do to a copy', () => {
  let png: Made;
  let jpeg: Made;
  let tiff: Made;
  let through: Made;
  beforeAll(async () => {
    const whole = await masterOf(sample(360, 240));
    png = await copyOf(whole.master, whole.services, 'png');
    jpeg = await copyOf(whole.master, whole.services, 'jpeg', { quality: 95 });
    tiff = await copyOf(whole.master, whole.services, 'tiff', { depth: '8' });
    const partly = await masterOf(sample(360, 240, true));
    through = await copyOf(partly.master, partly.services, 'png');
  });
  const copies = (): Record<string, [Made, string]> => ({
    png: [png, 'png'],
    jpeg: [jpeg, 'jpg'],
    tiff: [tiff, 'tif'],
    through: [through, 'png'],
  });

  it.each([
    ['png', 'line', ['region changed']],
    ['png', 'dot', ['region changed']],
    ['png', 'recolour', ['region changed']],
    ['png', 'shift', ['shifted']],
    ['png', 'crop', ['cropped']],
    ['png', 'resample', ['resampled']],
    ['png', 'brighter', ['recoloured overall']],
    ['png', 'profile', ['profile dropped']],
    ['png', 'flip', ['picture changed']],
    ['jpeg', 'line', ['region changed']],
    ['jpeg', 'recolour', ['region changed']],
    ['jpeg', 'shift', ['shifted']],
    ['jpeg', 'crop', ['cropped']],
    ['jpeg', 'quality', ['re-compressed', 'region changed']],
    ['jpeg', 'profile', ['profile dropped']],
    ['tiff', 'line', ['region changed']],
    ['tiff', 'brighter', ['recoloured overall']],
    ['through', 'flatten', ['transparency lost']],
    ['through', 'dot', ['region changed']],
  ] as const)('%s: %s is found and told', async (which, op, kinds) => {
    const [copy, extension] = copies()[which]!;
    const { verdict, differences } = await copy.check(mutated(op, copy.bytes, extension));
    expect(verdict).toBe('touched');
    expect(kinds).toContain(differences[0]!.kind);
  });

  it.each([
    ['png', 'again'],
    ['png', 'plain'],
    ['tiff', 'again'],
    ['through', 'plain'],
  ] as const)('%s: %s changes nothing that one sees', async (which, op) => {
    const [copy, extension] = copies()[which]!;
    expect(await copy.check(mutated(op, copy.bytes, extension))).toMatchObject({ verdict: 'in step', differences: [] });
  });

  judgedBy('PIL').describe('a JPEG that another program wrote again', () => {
    const again = (lines: string) =>
      python(
        `from PIL import Image, ImageDraw\nim = Image.open('a.jpg')\nkept = dict(dpi=im.info['dpi'], icc_profile=im.info.get('icc_profile'))\n${lines}`,
        jpeg.bytes,
        'a.jpg',
      ).written;

    it.each([
      ["im.save('a.jpg', quality=95, subsampling=0, **kept)", 'written again with loss: quality 95'],
      ["im.save('a.jpg', quality=80, **kept)", 'written again with loss: quality 80, colours at half the size'],
      ["im.save('a.jpg', quality=60, progressive=True, **kept)", 'written again with loss: quality 60, colours at half the size'],
    ])('%s: one difference, which says how', async (lines, words) => {
      const { verdict, differences } = await jpeg.check(again(lines));
      expect(verdict).toBe('touched');
      expect(differences.map(({ kind, copy }) => [kind, copy])).toEqual([['re-compressed', words]]);
    });

    it('and painted on besides: the place is told, and the loss', async () => {
      const { differences } = await jpeg.check(
        again("ImageDraw.Draw(im).rectangle((200, 60, 207, 67), fill=(250, 20, 20))\nim.save('a.jpg', quality=80, **kept)"),
      );
      const regions = differences.filter(({ kind }) => kind === 'region changed');
      const mm = 25.4 / 200;
      expect(regions).toHaveLength(1);
      expect(Math.abs(regions[0]!.place!.minX - 200 * mm)).toBeLessThan(16 * mm);
      expect(differences.map(({ kind }) => kind)).toContain('re-compressed');
    });
  });

  it('says where a region is, in millimetres, and how much of it differs', async () => {
    const { differences } = await png.check(mutated('recolour', png.bytes, 'png'));
    const mm = 25.4 / 200;
    expect(differences).toHaveLength(1);
    const { place, amount, unit } = differences[0]!;
    expect(place!.minX).toBeCloseTo(120 * mm, 6);
    expect(place!.maxX).toBeCloseTo(170 * mm, 6);
    expect(place!.maxY).toBeCloseTo(120 * mm, 6);
    expect(unit).toBe('ΔE');
    expect(amount).toBeGreaterThan(2);
  });
});

describe('pixels of a master', () => {
  const set = async (corrections: Correction[], target = 'png', options: Record<string, unknown> = {}) => {
    const { master, services } = await masterOf(sample(200, 120));
    return { copy: await copyOf(withPicture(master, { corrections }), services, target, options), master, services };
  };

  it('follow its corrections, and a copy from before is behind', async () => {
    const { master, services } = await masterOf(sample(200, 120));
    const before = await copyOf(master, services, 'png');
    const after = withPicture(master, { corrections: [{ kind: 'exposure', stops: 0.4 }] });
    expect((await before.check(before.bytes, after)).verdict).toBe('behind');
    const off = withPicture(master, { corrections: [{ kind: 'exposure', stops: 0.4, off: true }] });
    expect((await before.check(before.bytes, off)).differences).toEqual([]);
  });

  it('of which one says no more what it is are not the same', async () => {
    const { master, services } = await masterOf(sample(60, 40, true));
    const made = await copyOf(master, services, 'tiff', {});
    const view = new DataView(made.bytes.buffer, made.bytes.byteOffset, made.bytes.byteLength);
    const little = made.bytes[0] === 0x49;
    const directory = view.getUint32(4, little);
    const fields = Array.from({ length: view.getUint16(directory, little) }, (_, i) => directory + 2 + 12 * i);
    // What the fourth number of a pixel means (TIFF 6.0, ExtraSamples): nothing is said of it.
    const field = fields.find((at) => view.getUint16(at, little) === 338)!;
    const bytes = made.bytes.slice();
    new DataView(bytes.buffer).setUint16(field + 8, 0, little);
    const { verdict, differences } = await made.check(bytes);
    expect([verdict, differences.map(({ kind }) => kind)]).toEqual(['touched', ['not understood']]);
  });

  it('are computed at 16 bits: what is pressed together and pulled apart again has no steps', async () => {
    const press: Correction[] = [
      { kind: 'levels', black: 0, white: 1, gamma: 0.4 },
      { kind: 'levels', black: 0, white: 1, gamma: 2.5 },
    ];
    const { copy } = await set(press, 'tiff', { depth: '16' });
    const { master, services } = await masterOf(sample(200, 120));
    const plain = await copyOf(master, services, 'tiff', { depth: '16' });
    const [a, b] = (await Promise.all([copy, plain].map(({ bytes }) => pictureEngine.raster(bytes)))).map(({ rows }) =>
      wholeOf(rows),
    ) as [Pixels, Pixels];
    let worst = 0;
    for (let i = 0; i < a.data.length; i++) worst = Math.max(worst, Math.abs(a.data[i]! - b.data[i]!));
    expect(worst / 65535).toBeLessThan(0.012);
  });

  it('over a colour say how much of the area that touches', async () => {
    const { master, services } = await masterOf(sample(200, 120, true));
    const { report } = await copyOf(master, services, 'jpeg', { background: '#ff0000' });
    expect(report.lines.find(({ feature }) => feature === 'transparency')).toMatchObject({
      outcome: 'approximated',
      becomes: expect.stringMatching(/^becomes #ff0000 on \d+ % of the area$/),
    });
  });

  it('are as many as asked for, or as the picture has', async () => {
    const { master, services } = await masterOf(sample(200, 120));
    const sizes = async (options: Record<string, unknown>) => {
      const { rows, facts } = await pictureEngine.raster((await copyOf(master, services, 'png', options)).bytes);
      const { width, height } = rows;
      return [width, height, Math.round(facts.ppi!)];
    };
    expect(await sizes({})).toEqual([200, 120, 200]);
    expect(await sizes({ ppi: 100 })).toEqual([100, 60, 100]);
    expect(await sizes({ width: 50 })).toEqual([50, 30, 50]);
    await expect(sizes({ ppi: 2400, width: 30_000 })).rejects.toThrow(expect.objectContaining({ code: 'picture-too-large' }));
  });

  it('of a board with more than a picture on it are drawn as finely as asked for', async () => {
    const WIDE = atDepth(3500, 7000);
    const { master, services } = await masterOf(sample(200, 120));
    const board = withPicture(master, { x: 2, y: 2, width: 10, height: 6 });
    const { defects, files } = await copyOf(board, services, 'png', { width: WIDE });
    expect(defects).toEqual([]);
    const { rows } = await pictureEngine.raster(files[0]!.bytes);
    expect([rows.width, rows.height]).toEqual([WIDE, 0.6 * WIDE]);
    // The picture's edge lies at 2 of 25.4 mm: it is as sharp as a pixel.
    const { data } = rows.rows(rows.height >> 1, 1);
    const edge = (2 / 25.4) * WIDE;
    const alpha = (x: number) => data[4 * Math.round(x) + 3]!;
    expect([alpha(edge - 3), alpha(edge + 3)]).toEqual([0, 255]);
  });

  it('depend on all that is seen, and on nothing else', async () => {
    const { master } = await masterOf(sample(40, 30));
    const print = (one: Master) => footprintHash(one, recipeOf('png', {}));
    const named = withPicture(master, { name: 'Another name' });
    expect(print(named)).toBe(print(master));
    for (const change of [
      { crop: { left: 0, bottom: 0, right: 0.5, top: 1 } },
      { x: 1 },
      { style: { fill: null, stroke: null, strokeWidth: 0, opacity: 0.5 } },
      { corrections: [{ kind: 'blur', radius: 2 } as const] },
    ])
      expect(print(withPicture(master, change))).not.toBe(print(master));
    expect(print({ ...master, boards: [{ ...master.boards[0]!, background: '#ffffff' }] })).not.toBe(print(master));
  });
});
