import { type Item, type Master, type PartWishes, allItems, bringInAny, partWishes } from '@inkwell-twin/core';
import { spawnSync } from 'node:child_process';
import sharp from 'sharp';
import { pictureEngine } from '../src';
import { copyOf, servicesWith } from './workshop';
import { judgedBy } from '../../core/test/judged-by';

const filters = `<filter id="soft" x="-20%" y="-20%" width="140%" height="140%"><feGaussianBlur stdDeviation="2"/></filter>
  <filter id="shade" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur in="SourceAlpha" stdDeviation="3"/><feOffset dx="4" dy="4" result="under"/><feMerge><feMergeNode in="under"/><feMergeNode in="SourceGraphic"/></feMerge></filter>`;
const drawing = (inside: string, style = '') =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="120mm" height="80mm" viewBox="0 0 120 80">
  ${style && `<style>${style}</style>`}<defs>${filters}<linearGradient id="sky"><stop offset="0" stop-color="#2b4180"/><stop offset="1" stop-color="#c23b22"/></linearGradient></defs>
  ${inside}</svg>`);
const bring = (bytes: Uint8Array, wishes?: PartWishes) => bringInAny(bytes, 'fen.svg', { pictures: pictureEngine }, wishes);
const itemsOf = (master: Master): Item[] => [...allItems(master.boards[0]!.items)];
const pictures = (master: Master) => itemsOf(master).flatMap((item) => (item.kind === 'picture' ? [item] : []));

/** Both sides as another program draws them. */
async function shareOff(svg: Uint8Array): Promise<number> {
  const { master, kept } = await bring(svg);
  const { bytes, defects } = await copyOf(master, servicesWith(new Map(kept.map((one) => [one.resource.id, one.bytes]))), 'svg');
  expect(defects).toEqual([]);
  const drawn = (input: Uint8Array) => {
    const png = spawnSync('rsvg-convert', ['-w', '480', '--background-color', 'white'], { input }).stdout;
    return sharp(png).removeAlpha().raw().toBuffer();
  };
  const [one, other] = await Promise.all([drawn(svg), drawn(bytes)]);
  return one.filter((value, i) => Math.abs(value - other[i]!) > 24).length / one.length;
}

describe('parts of a drawing under a filter', () => {
  const soft = drawing(`<rect x="5" y="5" width="20" height="20" fill="#17796a"/>
    <g transform="translate(60 40) rotate(20)" opacity="0.8" clip-path="none"><circle r="15" fill="url(#sky)" filter="url(#soft)"><title>Moon</title></circle></g>`);

  it('come in as pictures of themselves, where they were, at the density that is asked for', async () => {
    const { master, notUnderstood, asPictures } = await bring(soft);
    expect([asPictures, notUnderstood]).toEqual([1, []]);
    const [picture] = pictures(master);
    expect(picture).toMatchObject({ kind: 'picture', name: 'Moon' });
    const { width } = master.resources.find(({ role }) => role === 'picture')!;
    // 30 mm and what the blur adds, at 300 ppi.
    expect(width).toBeGreaterThan(380);
    expect(width).toBeLessThan(560);
    const fine = (await bring(soft, partWishes({ ppi: 600 }))).master.resources.find(({ role }) => role === 'picture')!;
    expect(fine.width! / width!).toBeCloseTo(2, 1);
  });

  it('stay away when that is asked for, said with their count', async () => {
    const { master, notUnderstood } = await bring(soft, partWishes({ parts: 'left out' }));
    expect(pictures(master)).toEqual([]);
    expect(itemsOf(master).map(({ kind }) => kind)).not.toContain('ellipse');
    expect(notUnderstood).toContainEqual({ kind: 'part with a filter, left out as asked', count: 1, shows: true });
  });

  it('are told where they look otherwise at every resolution: light falls on pixels, however large those are', async () => {
    const lit =
      drawing(`<filter id="light"><feSpecularLighting surfaceScale="5"><feDistantLight azimuth="45" elevation="50"/></feSpecularLighting></filter>
      <rect x="5" y="5" width="20" height="20" fill="#17796a" filter="url(#light)"/>`);
    const kind = 'part with light or a filter of pixels, which looks otherwise at every resolution';
    expect((await bring(lit)).notUnderstood).toEqual([{ kind, count: 1, shows: true }]);
  });

  it('are refused a density that makes no sense, in words', () =>
    expect(() => partWishes({ ppi: 5 })).toThrow(/How it comes in: ppi .*What can be said: ppi, parts, fonts/));

  judgedBy('rsvg-convert').it.each([
    ['turned in a group that is seen through', soft],
    [
      'by a style sheet',
      drawing(
        '<g class="lit"><rect x="20" y="20" width="40" height="30" fill="#f7f0e2"/><path d="M70 20h30v40z"/></g>',
        '.lit { filter: url(#shade) }',
      ),
    ],
    [
      'around others, with what they refer to',
      drawing(`<symbol id="reed"><path d="M0 0q5 10 0 20" stroke="#17796a" fill="none"/></symbol>
      <g filter="url(#soft)"><use xlink:href="#reed" x="30" y="30"/><g filter="url(#shade)"><circle cx="60" cy="40" r="10" fill="#c23b22"/></g></g>`),
    ],
    [
      'in a group with a clip of its own',
      drawing(`<clipPath id="half"><rect x="0" y="0" width="60" height="80"/></clipPath>
      <g clip-path="url(#half)"><circle cx="60" cy="40" r="25" fill="#2b4180" filter="url(#soft)"/></g>`),
    ],
    ['over the edge of the sheet', drawing('<circle cx="118" cy="5" r="15" fill="#2b4180" filter="url(#shade)"/>')],
  ])('look as they did: %s', async (_, svg) => expect(await shareOff(svg)).toBeLessThan(0.01));

  it('that show nothing are not there, and a filter that is missing does nothing', async () => {
    const none = await bring(
      drawing('<rect width="10" height="10" fill="none" filter="url(#soft)"/><rect x="20" width="10" height="10"/>'),
    );
    expect([none.asPictures, itemsOf(none.master).length]).toEqual([0, 1]);
    const missing = await bring(drawing('<rect width="10" height="10" filter="url(#nowhere)"/>'));
    expect([missing.asPictures, itemsOf(missing.master)[0]!.kind]).toEqual([0, 'rectangle']);
  });

  it('are no more than can be drawn, however many and large they are', async () => {
    const many = Array.from(
      { length: 70 },
      (_, i) => `<rect x="${i % 50}" y="${i % 40}" width="60" height="40" fill="#c23b22" filter="url(#soft)"/>`,
    );
    // How many pixels there are is what is asked: they need not be drawn.
    let asked = 0;
    const quick = {
      ...pictureEngine,
      drawSvg: async (_document: string, width: number, height: number) => {
        asked += width * height;
        return { width, height, data: new Uint8Array(4 * width * height).fill(255) };
      },
      png: async () => new Uint8Array(100),
    };
    const wishes = partWishes({ ppi: 1200 });
    const { asPictures, notUnderstood } = await bringInAny(drawing(many.join('')), 'fen.svg', { pictures: quick }, wishes);
    expect(asPictures).toBeGreaterThan(0);
    expect(asked).toBeLessThan(100_000_000);
    expect(notUnderstood).toContainEqual({ kind: 'filter', count: 70 - asPictures!, shows: true });
  });

  it('are drawn as finely as what their filters do allows, on every machine alike', async () => {
    const thick = drawing('<rect x="10" y="10" width="60" height="40" filter="url(#thick)"/>').toString();
    const sizes = [];
    for (const radius of [1, 8]) {
      const filter = `<filter id="thick"><feMorphology operator="dilate" radius="${radius}"/></filter>`;
      const { master } = await bring(Buffer.from(thick.replace('<defs>', `<defs>${filter}`)), partWishes({ ppi: 600 }));
      sizes.push(master.resources.find(({ role }) => role === 'picture')!.width!);
    }
    expect(sizes[1]!).toBeLessThan(sizes[0]! / 2);
  });
});

describe('a drawing with filters whose numbers run out', () => {
  const odd = (root: string, inside: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" ${root}><defs>${filters}</defs>${inside}</svg>`);
  const part = '<g filter="url(#soft)"><rect width="50" height="50" fill="#2b4180"/></g>';
  it.each([
    ['width="1e-200" height="1e-200"', part],
    ['width="1e200" height="1"', part],
    ['width="1e-300" height="1e300" viewBox="0 0 1e-300 1e300"', part],
    ['width="100" height="100" viewBox="0 0 1e308 1e308"', part],
    ['width="100" height="100" viewBox="0 0 1e9 1e-6"', part],
    ['width="100" height="100" viewBox="1e300 0 100 100"', part],
    ['width="100" height="100"', `<g transform="scale(1e200)">${part}</g>`],
    ['width="100" height="100"', `<g transform="scale(1e-200 1)">${part}</g>`],
    ['width="100" height="100"', '<g filter="url(#soft)">'.repeat(30) + part + '</g>'.repeat(30)],
    ['width="100" height="100"', '<g filter="url(#shade)" transform="scale(1e3)">'.repeat(20) + part + '</g>'.repeat(20)],
  ])('comes in, or is refused in words: %s', async (root, inside) => {
    const said = await bring(odd(root, inside)).then(
      ({ master }) => master.title,
      (error: { code?: string; message: string }) => `${error.code}: ${error.message}`,
    );
    expect(said).not.toMatch(/unexpected|undefined|NaN|received|Symbol/);
  });
});
