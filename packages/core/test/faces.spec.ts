import {
  FACES,
  FONTS,
  type Master,
  boxOfOutlines,
  checkCopy,
  codecOf,
  declarations,
  derive,
  faceOf,
  listsOf,
  parseOptions,
  recipeOf,
} from '../src';
import { nearestFace } from '../src/document/faces';
import { nodeFormats, shippedFonts } from '../../render/src';
import { filled, masterWith, text } from './build';

const elsewhere = new Set(nodeFormats.map(({ declaration }) => declaration.id));
const ofBoards = declarations().flatMap((one) =>
  !elsewhere.has(one.id) && listsOf(one, parseOptions(one, {})).includes('boards') ? [one.id] : [],
);
const services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';
const lettered: Master = masterWith(
  FONTS.map((font, i) =>
    text(`t${i}`, 'Sedge', { font, style: filled('#14213a'), x: 4 + 38 * (i % 5), y: 4 + 8 * Math.floor(i / 5), size: 5 }),
  ),
);

describe('the shipped fonts', () => {
  it('are at least twelve families in two weights, most of them slanted too', () => {
    const families = [...new Set(FACES.map(({ family }) => family))];
    expect(families.length).toBeGreaterThanOrEqual(12);
    for (const family of families) {
      const own = FACES.filter((face) => face.family === family);
      expect([family, own.some(({ bold }) => bold), own.some(({ bold }) => !bold)]).toEqual([family, true, true]);
    }
    expect(families.filter((family) => FACES.some((face) => face.family === family && face.italic)).length).toBeGreaterThan(10);
  });

  it.each(FONTS)('have letters, and capitals as high as their table says: %s', (font) => {
    const { outlines, missing } = services.fonts.outline({
      text: 'H',
      font,
      size: 10,
      align: 'start',
      frame: [1, 0, 0, 1, 0, 0],
    });
    expect(missing).toEqual([]);
    const { minY, maxY } = boxOfOutlines(outlines);
    expect((maxY - Math.max(0, minY)) / 10).toBeCloseTo(faceOf(font).capHeight, 2);
    expect(services.fonts.outline({ text: 'Łódź', font, size: 10, align: 'start', frame: [1, 0, 0, 1, 0, 0] }).missing).toEqual(
      [],
    );
  });

  it.each(ofBoards)('come back from %s as they went', async (target) => {
    const cut = { ...lettered, layers: lettered.layers.map((layer) => ({ ...layer, process: 'cut' as const })) };
    const recipe = recipeOf(target, {});
    const { files, says, defects } = await derive({ master: cut, rev: 1, time }, recipe, services);
    expect(defects).toEqual([]);
    const found = await checkCopy({ files, intact: false, says, recipe, current: cut, baseline: cut }, services);
    expect(found).toMatchObject({ verdict: 'in step', differences: [] });
  });

  it('come in from SVG by family, weight and slant', async () => {
    const words = `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90">${FACES.map(
      ({ family, bold, italic }) =>
        `<text font-family="'${family}'" font-weight="${bold ? 'bold' : 400}" font-style="${italic ? 'oblique' : 'normal'}">a</text>`,
    ).join('')}</svg>`;
    const read = await (await codecOf('svg')).bringIn!(new TextEncoder().encode(words), 'x.svg');
    expect(read.notUnderstood).toEqual([]);
    expect(read.master.boards[0]!.items.map((item) => (item.kind === 'text' ? item.font : ''))).toEqual(FONTS);
  });

  it.each([
    ['Helvetica Neue, sans-serif', false, false, 'Arimo'],
    ['Nobody’s Own, serif', true, false, 'Tinos Bold'],
    ['Courier New', false, true, 'Cousine Italic'],
    ['Bitstream Vera Sans Mono', true, false, 'Spline Sans Mono Bold'],
    ['Arial Narrow', false, false, 'Archivo Narrow'],
    ['Comic Something, cursive', false, true, 'Caveat'],
    ['Rockwell', false, false, 'Zilla Slab'],
    ['Nobody’s Own', false, false, 'Commissioner'],
  ])('stand for “%s” (bold %s, slanted %s) by %s, and say so', (families, bold, italic, font) =>
    expect(nearestFace(families.split(','), bold, italic)).toEqual({ font, exact: false }),
  );
});
