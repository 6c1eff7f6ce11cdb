// Longer than most: one format, way out and way back.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import {
  type Outline,
  type PathEntry,
  type Failure,
  PathStore,
  outlineAt,
  type Item,
  type Master,
  boxOfOutlines,
  flatten,
  lengthOfPolyline,
  recipeOf,
  resolveBoard,
  allItems,
} from '../src';
import type { PathItem, ReadMaster } from '../src';
import { parsePathData } from '../src/formats/svg/path-data';
import { parseTransform } from '../src/formats/svg/transform';
import { parseColour } from '../src/formats/svg/style';
import { parseLength } from '../src/formats/svg/lengths';
import { master } from './arbitrary';
import { filled, masterWith, rectangle, text } from './build';
import { compare, deriveFlat, parseOptions, project, targetById } from './flat';
import { runs } from './depth';
import { cpuTime } from './cpu-time';

const svg = targetById('svg');
const encode = (words: string) => new TextEncoder().encode(words);
const bring = (body: string, attributes = 'width="100mm" height="50mm" viewBox="0 0 100 50"') =>
  svg.bringIn!(
    encode(`<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`),
    'a.svg',
  );
const itemsOf = (found: Master): Item[] => [...allItems(found.boards[0]!.items)];
const boxOf = (found: Master, index = 0) =>
  boxOfOutlines((resolveBoard(found, found.boards[0]!).entries[index] as PathEntry).outlines);
const failureOf = (run: () => unknown): Failure => {
  try {
    run();
  } catch (error) {
    return error as Failure;
  }
  throw new Error('nothing was thrown');
};

const outlinesOfData = (data: string): Outline[] => {
  const store = new PathStore();
  parsePathData(data, store);
  return Array.from({ length: store.count }, (_, i) => outlineAt(store, i));
};

describe('path data', () => {
  const points = (data: string) => outlinesOfData(data).map(({ start, segments }) => [start, ...segments.map(({ to }) => to)]);

  it.each<[string, string, [number, number][]]>([
    [
      'absolute lines',
      'M1 2L3 4H9V8',
      [
        [1, 2],
        [3, 4],
        [9, 4],
        [9, 8],
      ],
    ],
    [
      'relative lines',
      'm1 2l3 4h5v-1',
      [
        [1, 2],
        [4, 6],
        [9, 6],
        [9, 5],
      ],
    ],
    [
      'further pairs after a move',
      'M0 0 1 1 2 0',
      [
        [0, 0],
        [1, 1],
        [2, 0],
      ],
    ],
    [
      'further pairs after a relative move',
      'm1 1 1 1',
      [
        [1, 1],
        [2, 2],
      ],
    ],
    [
      'numbers without blanks',
      'M.5.5-1-1L1e1,2E-1',
      [
        [0.5, 0.5],
        [-1, -1],
        [10, 0.2],
      ],
    ],
    [
      'cubics and their smooth followers',
      'M0 0C0 1 1 1 1 0s1-1 1 0',
      [
        [0, 0],
        [1, 0],
        [2, 0],
      ],
    ],
    [
      'quadratics and their smooth followers',
      'M0 0Q1 1 2 0t2 0T6 0',
      [
        [0, 0],
        [2, 0],
        [4, 0],
        [6, 0],
      ],
    ],
    [
      'arc flags without blanks',
      'M0 0a5 5 0 0110 0',
      [
        [0, 0],
        [10, 0],
      ],
    ],
  ])('reads %s', (_, data, expected) => expect(points(data)[0]).toEqual(expected));

  it('starts a new outline with each move, and after closing goes on from the start', () => {
    const found = outlinesOfData('M0 0H5V5ZM10 10h1zl2 2');
    expect(found.map(({ closed }) => closed)).toEqual([true, true, false]);
    expect(found[2]!.start).toEqual([10, 10]);
  });
  it('mirrors the handle of the curve before, and only of the same kind', () => {
    const [smooth] = outlinesOfData('M0 0C0 5 5 5 5 0S10-5 10 0');
    expect(smooth!.segments[1]).toMatchObject({ c1: [5, -5] });
    const [after] = outlinesOfData('M0 0L5 0S10-5 10 0');
    expect(after!.segments[1]).toMatchObject({ c1: [5, 0] });
    const [mixed] = outlinesOfData('M0 0C0 5 5 5 5 0T10 0');
    expect(mixed!.segments[1]).toMatchObject({ kind: 'cubic', c1: [5, 0] });
  });
  it('draws a quarter of a circle where an arc says so', () => {
    const [quarter] = outlinesOfData('M10 0A10 10 0 0 1 0 10');
    expect(lengthOfPolyline(flatten(quarter!, 0.001))).toBeCloseTo(5 * Math.PI, 2);
  });
  it.each([
    ['M0 0 L NaN 4', 'character 8'],
    ['L1 1', 'a path starts with M'],
    ['M0 0 L 1', 'a number is missing at the end'],
    ['M0 0 A5 5 0 2 0 1 1', 'an arc flag must be 0 or 1'],
    ['M0 0 X 1 1', '“X” is not a path command'],
    ['M0 0Z 5', 'where a command should'],
    ['M0 0L1e999 0', 'is too large'],
  ])('says where %s goes wrong', (data, words) => expect(parsePathData(data, new PathStore())).toContain(words));
});

describe('transforms, colours and lengths', () => {
  it('chains transforms from the left', () => expect(parseTransform('translate(10) scale(2,3)')).toEqual([2, 0, 0, 3, 10, 0]));
  it('turns about a point', () => {
    const [a, b, , , e, f] = parseTransform('rotate(90 5 5)');
    expect([a, b, e, f].map((value) => Math.round(value * 1e9) / 1e9)).toEqual([0, 1, 10, 0]);
  });
  it.each(['spin(3)', 'scale()', 'translate(1 2 3)', 'matrix(1 2)', 'scale(1) nonsense'])('refuses %s', (words) =>
    expect(failureOf(() => parseTransform(words)).code).toBe('svg-transform'),
  );
  it.each<[string, string | null | undefined]>([
    ['none', null],
    ['#abc', '#aabbcc'],
    ['#A1B2C3', '#a1b2c3'],
    ['rgb(255, 0, 300)', '#ff00ff'],
    ['rgb(10%,20%,30%)', '#1a334d'],
    ['rebeccapurple?', undefined],
    ['teal', '#008080'],
    ['currentColor', '#112233'],
    ['url(#a)', undefined],
  ])('reads the colour %s', (words, expected) => expect(parseColour(words, '#112233')).toBe(expected));
  it.each<[string, number]>([
    ['10', 10],
    ['1in', 96],
    ['2.54cm', 96],
    ['72pt', 96],
    ['50%', 40],
    ['2em', 32],
  ])('reads the length %s', (words, expected) => expect(parseLength(words, 80)).toBeCloseTo(expected));
  it('refuses what is no length', () => expect(failureOf(() => parseLength('wide', 1)).code).toBe('svg-length'));
});

describe('bringing in an SVG', () => {
  it('takes physical units and the viewBox together, y turned over', () => {
    const { master: found } = bring(
      '<rect x="10" y="5" width="20" height="10"/>',
      'width="4in" height="2in" viewBox="0 0 200 100"',
    );
    expect(found.boards[0]).toMatchObject({ width: 101.6, height: 50.8 });
    const scale = 101.6 / 200;
    expect(boxOf(found)).toMatchObject({
      minX: expect.closeTo(10 * scale),
      maxY: expect.closeTo(50.8 - 5 * scale),
      minY: expect.closeTo(50.8 - 15 * scale),
    });
  });
  it('takes pixels at 96 to the inch where no unit is given', () =>
    expect(bring('', 'width="96" height="48"').master.boards[0]).toMatchObject({ width: 25.4, height: 12.7 }));
  it('centres a viewBox of another shape', () => {
    const { master: found } = bring('<rect width="10" height="10"/>', 'width="40mm" height="20mm" viewBox="0 0 10 10"');
    expect(boxOf(found)).toMatchObject({ minX: expect.closeTo(10), maxX: expect.closeTo(30) });
  });
  it('keeps basic shapes as what they are', () => {
    const { master: found } = bring(
      '<rect width="4" height="2"/><circle r="3"/><line x2="5"/><polygon points="0,0 1,0 1,1"/><path d="M0 0h1"/>',
    );
    expect(itemsOf(found).map(({ kind }) => kind)).toEqual(['rectangle', 'ellipse', 'polyline', 'polyline', 'path']);
  });
  it('makes layers of groups where all that is drawn stands in groups', () => {
    const { master: found } = bring(
      '<g id="one"><rect width="1" height="1"/></g><g><title>two</title><rect width="1" height="1"/></g>',
    );
    expect(found.layers.map(({ name }) => name)).toEqual(['one', 'two']);
    const { master: loose } = bring('<g id="one"><rect width="1" height="1"/></g><rect width="1" height="1"/>');
    expect(loose.layers.map(({ name }) => name)).toEqual(['one', 'Drawing']);
    expect(loose.boards[0]!.items.map(({ kind, layer }) => [kind, layer])).toEqual([
      ['rectangle', 'layer-1'],
      ['rectangle', 'layer-2'],
    ]);
  });
  it('gives styles their order: attribute, sheet by weight, style attribute; children inherit', () => {
    const sheet = '<style>rect{fill:#000001} .b{fill:#000002} #c{fill:#000003} g > .d{fill:#000004}</style>';
    const { master: found } = bring(
      `${sheet}<g fill="#0000aa"><rect fill="red" width="1" height="1"/><rect class="b" width="1" height="1"/><rect id="c" class="b" width="1" height="1"/><rect class="d" width="1" height="1"/><rect id="c2" style="fill:#000005" width="1" height="1"/><circle r="1"/></g>`,
    );
    const fills = itemsOf(found).map((item) => ('style' in item ? item.style.fill : ''));
    expect(fills).toEqual(['#000001', '#000002', '#000003', '#000004', '#000005', '#0000aa']);
  });
  it('makes symbols of what is used, once for each look, and places them', () => {
    const { master: found } = bring(
      '<defs><rect id="r" width="2" height="2"/></defs><use href="#r" x="10" y="10"/><use xlink:href="#r" transform="translate(20 20)"/><use href="#r" fill="red"/>',
    );
    expect(found.symbols).toHaveLength(2);
    expect(boxOf(found, 0)).toMatchObject({ minX: expect.closeTo(10), maxY: expect.closeTo(40) });
    expect(boxOf(found, 1)).toMatchObject({ minX: expect.closeTo(20), maxY: expect.closeTo(30) });
  });
  it('reads text with its anchor, size and weight, piece by piece', () => {
    const { master: found, notUnderstood } = bring(
      '<text x="5" y="10" font-size="4" font-family="Commissioner" font-weight="700" text-anchor="end">Sedge <tspan x="5" dy="5">Loop</tspan></text>',
    );
    expect(itemsOf(found)).toMatchObject([
      { kind: 'text', text: 'Sedge', x: 5, y: 40, size: 4, font: 'Commissioner Bold', align: 'end' },
      { kind: 'text', text: 'Loop', x: 5, y: 35 },
    ]);
    expect(notUnderstood).toEqual([]);
  });
  it('counts by kind what it does not understand, and drops nothing in silence', () => {
    const { notUnderstood } = bring(
      '<image href="a.png"/><image href="b.png"/><foreignObject/><rect width="1" height="1" fill="url(#none)" filter="url(#f)"/><use href="#gone"/><g display="none"><rect width="1" height="1"/></g><text font-family="Unheard">x</text><path d="M0 0h1" stroke="red" stroke-dasharray="1 2"/>',
    );
    expect(Object.fromEntries(notUnderstood.map(({ kind, count }) => [kind, count]))).toEqual({
      'picture in another file': 2,
      'element foreignObject': 1,
      'fill of something missing': 1,
      filter: 1,
      'use of something missing': 1,
      'hidden element': 1,
      'font Unheard, shown in Commissioner': 1,
    });
  });

  it.each<[string, string]>([
    ['<path d="M0 0h9" stroke="red" style="stroke-linejoin:arcs"/>', 'line corners (arcs)'],
    ['<g style="mix-blend-mode: plus-lighter"><rect width="9" height="9"/></g>', 'blending'],
    ['<rect width="9" height="9" clip-path="circle(4px)"/>', 'clip-path in words'],
    ['<rect width="9" height="9" mask="url(#gone)"/>', 'mask of something missing'],
    ['<rect width="9" height="9" style="transform: rotate(20deg)"/>', 'transform by style'],
    ['<text font-style="italic">a</text>', 'font of no name italic, shown in Commissioner'],
    ['<text font-family="Commissioner" font-weight="300">a</text>', 'font Commissioner of weight 300, shown in Commissioner'],
    [
      '<text font-family="Commissioner" font-weight="900">a</text>',
      'font Commissioner of weight 900, shown in Commissioner Bold',
    ],
    ['<text word-spacing="2">a b</text>', 'word spacing'],
    ['<text text-decoration="underline">a</text>', 'text with a line (underline)'],
    ['<path d="M0 0h9v9" stroke="red" paint-order="stroke"/>', 'line under its fill'],
    [
      '<radialGradient id="g" fx="5"><stop stop-color="red"/><stop offset="1"/></radialGradient><rect width="9" height="9" fill="url(#g)"/>',
      'radial gradient from outside its circle',
    ],
  ])('names what it can’t keep of %s', (inner, kind) =>
    expect(bring(inner).notUnderstood).toEqual([{ kind, count: 1, shows: true }]),
  );
  it.each([
    'stroke-linecap="butt"',
    'letter-spacing="0"',
    'font-style="normal"',
    'font-family="Commissioner" font-weight="700"',
    'filter="none"',
    'style="writing-mode:horizontal-tb;text-decoration:none solid;dominant-baseline:alphabetic;paint-order:fill stroke"',
  ])('does not mind %s', (plain) =>
    expect(bring(`<text ${plain}>a</text><path d="M0 0h9" stroke="red" ${plain}/>`).notUnderstood).toEqual([]),
  );
  it('keeps a hidden layer as a hidden layer', () => {
    const { master: found, notUnderstood } = bring(
      '<g id="a"><rect width="5" height="5"/></g><g id="notes" display="none"><rect width="5" height="5"/></g>',
    );
    expect(found.layers.map(({ name, visible }) => [name, visible])).toEqual([
      ['a', true],
      ['notes', false],
    ]);
    expect(resolveBoard(found, found.boards[0]!).hidden).toHaveLength(1);
    expect(notUnderstood).toEqual([]);
  });
  it('keeps layers as they are when something loose is laid beside them', () => {
    const { master: found } = bring(
      '<g id="a"><rect width="5" height="5"/></g><circle r="3"/><g><circle r="2"/></g><g id="b" opacity=".5"><circle r="1"/></g>',
    );
    const layers = new Map(found.layers.map(({ id, name }) => [id, name]));
    expect(found.boards[0]!.items.map(({ kind, layer }) => [kind, layers.get(layer!)])).toEqual([
      ['rectangle', 'a'],
      ['ellipse', 'Drawing'],
      ['group', 'Drawing'],
      ['group', 'Drawing'],
    ]);
  });
  it('draws what is visible inside an invisible group, and one branch of a switch', () => {
    const { master: found } = bring(
      '<g visibility="hidden"><rect width="5" height="5"/><rect id="seen" width="5" height="5" visibility="visible"/></g>' +
        '<switch><text systemLanguage="de">Hallo</text><text systemLanguage="en">Hello</text><text>Ave</text></switch>',
    );
    expect(
      itemsOf(found).flatMap((item) => (item.kind === 'rectangle' ? [item.name] : item.kind === 'text' ? [item.text] : [])),
    ).toEqual(['seen', 'Hello']);
  });
  it.each<[string, number]>([
    ['rgba(255, 0, 0, 0.25)', 0.25],
    ['#ff000040', 64 / 255],
    ['#f008', 8 / 15],
    ['hsla(0, 100%, 50%, 50%)', 0.5],
  ])('takes the cover of %s for opacity', (fill, opacity) => {
    const [item] = itemsOf(bring(`<rect width="5" height="5" fill="${fill}"/>`).master);
    expect(item).toMatchObject({ style: { fill: '#ff0000', opacity: expect.closeTo(opacity) } });
  });
  it.each(['translate(10-5)', 'translate(10 -5)', 'matrix(1 0 0 1 10-5)', 'translate(1e1,-.5e1)'])(
    'reads the transform %s',
    (transform) =>
      expect(boxOf(bring(`<rect width="4" height="4" transform="${transform}"/>`).master, 0)).toMatchObject({
        minX: expect.closeTo(10),
      }),
  );

  it('reads a whole drawing that nobody here wrote with this program', () => {
    const {
      master: found,
      notUnderstood,
      mark,
    } = svg.bringIn!(readFileSync(join(__dirname, 'fixtures/weathervane.svg')), 'weathervane.svg');
    expect(mark).toBeNull();
    expect(found).toMatchObject({ title: 'Weathervane', boards: [{ width: expect.closeTo(120), height: expect.closeTo(80) }] });
    expect(found.symbols.map(({ name }) => name)).toEqual(['feather', 'knob']);
    expect(notUnderstood).toEqual([{ kind: 'picture in another file', count: 1, shows: true }]);
    const kinds = itemsOf(found).reduce<Record<string, number>>(
      (counts, { kind }) => ({ ...counts, [kind]: (counts[kind] ?? 0) + 1 }),
      {},
    );
    expect(kinds).toEqual({ group: 1, path: 6, use: 3, polyline: 3, ellipse: 1, text: 3 });
  });

  it.each<[string, string, string, number | undefined]>([
    ['no drawing', '<html/>', 'not-svg', 1],
    ['broken XML', '<svg xmlns="http://www.w3.org/2000/svg">\n<g>', 'xml-damaged', 2],
    [
      'an entity bomb',
      `<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">${[...'bcdefgh'].map((name, i) => `<!ENTITY ${name} "${`&${'abcdefg'[i]};`.repeat(10)}">`).join('')}]>\n<svg xmlns="http://www.w3.org/2000/svg">&h;</svg>`,
      'xml-entities',
      1,
    ],
    ['an unknown entity', '<svg xmlns="http://www.w3.org/2000/svg">\n&boom;</svg>', 'xml-damaged', 2],
    ['elements nested without end', `<svg xmlns="http://www.w3.org/2000/svg">${'<g>'.repeat(400)}`, 'xml-too-large', 1],
    ['a use of itself', '<svg xmlns="http://www.w3.org/2000/svg"><g id="a">\n<use href="#a"/></g></svg>', 'svg-use-cycle', 2],
    ['a sheet without size', '<svg xmlns="http://www.w3.org/2000/svg" width="0" height="5"/>', 'svg-size', 1],
    ['a viewBox of three', '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 5"/>', 'svg-viewbox', undefined],
    ['no text at all', '', 'xml-damaged', 1],
  ])('refuses %s and says where', (_, words, code, line) => {
    const failure = failureOf(() => svg.bringIn!(encode(words), 'x.svg'));
    expect({ code: failure.code, line: failure.where.line }).toEqual({ code, line });
  });

  it.each<[string, string, number, string]>([
    ['a path with NaN', '<path d="M0 0L5 5L NaN 2"/>', 1, 'path data that breaks off'],
    ['an arc without flags', '<path d="M0 0L5 5 9 2A 3 3 0 1 "/>', 2, 'path data that breaks off'],
    ['a command that is none', '<path d="M0 0H4V4K9 9"/>', 2, 'path data that breaks off'],
    ['corners of which one is half', '<polyline points="0,0 5,5 9,2 7"/>', 2, 'list of points that breaks off'],
    ['corners of which one is none', '<polyline points="0,0 5,5 x,2 7,7"/>', 1, 'list of points that breaks off'],
  ])('draws %s up to the error, and tells of it', (_, shape, segments, kind) => {
    const { master, notUnderstood } = bring(shape);
    const [item] = master.boards[0]!.items.flatMap((one) => ('items' in one ? one.items : [one]));
    const drawn = item!.kind === 'polyline' ? item!.points.length - 1 : (item as PathItem).outlines[0]!.segments.length;
    expect(drawn).toBe(segments);
    expect(notUnderstood).toContainEqual({ kind: `${kind}, first in line 1`, count: 1, shows: true });
    const third = svg.bringIn!(
      encode(`<svg xmlns="http://www.w3.org/2000/svg">\n\n${shape}${shape}</svg>`),
      'x.svg',
    ) as ReadMaster;
    expect(third.notUnderstood).toContainEqual({ kind: `${kind}, first in line 3`, count: 2, shows: true });
    // Nothing of it is a shape of its own, and nothing is refused.
    expect(
      bring('<path d="nothing"/><path d="M3 3"/>').master.boards[0]!.items.flatMap((one) => ('items' in one ? one.items : [one])),
    ).toEqual([]);
  });

  it('ends in bounded time on uses that multiply', () => {
    const rows = Array.from({ length: 20 }, (_, i) => `<g id="n${i + 1}">${`<use href="#n${i}"/>`.repeat(2)}</g>`).join('');
    const start = cpuTime();
    const used = (level: number) => () =>
      bring(`<defs><rect id="n0" width="1" height="1"/>${rows}</defs><use href="#n${level}"/>`);
    expect(used(17)().master.symbols.length).toBeLessThan(60);
    expect(failureOf(used(20)).code).toBe('too-many-objects');
    expect(cpuTime() - start).toBeLessThan(30_000);
  });
});

describe('writing SVG', () => {
  it('says what is drawn small and used large as finely as it is seen, use in use in use', async () => {
    const inside = `<defs><path id="a" d="M0 0q.0004 .0012 .001 .0003t.0007 .0009z" fill="#17796a"/>
      <g id="b"><use href="#a" transform="scale(20)"/></g><g id="c"><use href="#b" transform="scale(20)"/></g></defs>
      <use href="#c" transform="translate(5 5) scale(20)"/><use href="#c" transform="translate(40 5) scale(25 19)"/>`;
    const made = await deriveFlat(bring(inside).master, recipeOf('svg', {}));
    expect(made.defects).toEqual([]);
    expect(new TextDecoder().decode(made.bytes)).toMatch(/d="M[^"]*\.\d{7}/);
  });

  it('reads back as what was written, for any master and either way of text', () => {
    fc.assert(
      fc.property(master, fc.constantFrom('text', 'outlines'), (one, textAs) => {
        const options = parseOptions(svg, { text: textAs });
        const { projection } = project(one, recipeOf('svg', { text: textAs }));
        const { list, notUnderstood } = svg.read(svg.write(projection, options, 'a mark'));
        expect(compare(projection, list, { tolerance: 0.01, order: 'paint' }).differences).toEqual([]);
        expect(notUnderstood).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });
  it('is small enough to read', () => {
    const one = masterWith([
      rectangle('r', 10, 10, { radius: 2 }),
      { kind: 'ellipse', id: 'e', layer: 'print', style: filled('#17796a'), cx: 100, cy: 50, rx: 8, ry: 8 },
      text('t', 'Öl & “Sedge” <b>'),
    ]);
    const { projection } = project(one, recipeOf('svg', {}));
    expect(new TextDecoder().decode(svg.write(projection, parseOptions(svg, {}), 'mark < here'))).toBe(
      [
        '<?xml version="1.0" encoding="UTF-8"?>',
        '<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="200mm" height="100mm" viewBox="0 0 200 100" data-inkwell-twin="mark &lt; here">',
        '<metadata>mark &lt; here</metadata>',
        '<g><title>cut</title>',
        '<path d="M12 90L48 90A2 2 0 0 0 50 88L50 72A2 2 0 0 0 48 70L12 70A2 2 0 0 0 10 72L10 88A2 2 0 0 0 12 90Z" fill="none" stroke="#14213a" stroke-width="0.5"/>',
        '</g>',
        '<g><title>print</title>',
        '<circle cx="100" cy="50" r="8" fill="#17796a"/>',
        '</g>',
        '<g><title>cut</title>',
        '<text xml:space="preserve" x="20" y="50" font-family="Commissioner, sans-serif" font-size="12" fill="#14213a">Öl &amp; “Sedge” &lt;b&gt;</text>',
        '</g>',
        '</svg>',
        '',
      ].join('\n'),
    );
  });
});

describe('texts that were turned, scaled or outlined in another program', () => {
  const six = (values: readonly number[]) => values.map((value) => value.toFixed(6)).join(' ');
  const drawing = (matrix: string, extra: string) =>
    new TextEncoder().encode(
      `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="100mm" viewBox="0 0 200 100"><g transform="${extra}"><text font-family="Commissioner" font-size="7" stroke="#c23b22" stroke-width="0.4" transform="matrix(${matrix})">Reed bed</text></g></svg>`,
    );
  it('come in, are derived into every format, and read back as what was written', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.double({ min: -3.2, max: 3.2, noNaN: true }),
        fc.double({ min: 0.02, max: 40, noNaN: true }),
        fc.constantFrom('', 'scale(0.352778)', 'rotate(31)', 'scale(1 -1)', 'scale(3 1)', 'skewX(12)'),
        fc.constantFrom('svg', 'dxf'),
        async (turn, size, extra, target) => {
          const [cos, sin] = [Math.cos(turn) * size, Math.sin(turn) * size];
          const { master } = targetById('svg').bringIn!(drawing(six([cos, sin, -sin, cos, 40, 30]), extra), 'a.svg');
          const made = await deriveFlat(master, recipeOf(target, {}));
          expect(made.defects).toEqual([]);
        },
      ),
      { numRuns: runs(40) },
    );
  });
  it('have a line as wide as it was drawn, once scaled and not twice', () => {
    const { master } = targetById('svg').bringIn!(drawing('0 3 -3 0 40 30', ''), 'a.svg');
    const [entry] = resolveBoard(master, master.boards[0]!).entries;
    expect(entry!.style.strokeWidth).toBeCloseTo(1.2, 6);
    expect(entry).toMatchObject({ kind: 'text', size: expect.closeTo(21, 6) });
  });
  it('stay texts in DXF when only six written decimals stand between them and upright letters', async () => {
    const { master } = targetById('svg').bringIn!(drawing('0.866025 0.500000 -0.500000 0.866026 40 30', ''), 'a.svg');
    const made = await deriveFlat(master, recipeOf('dxf', {}));
    expect(made.projection.entries).toMatchObject([{ kind: 'text', text: 'Reed bed' }]);
  });
});
