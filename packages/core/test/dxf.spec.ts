import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import DxfParser from 'dxf-parser';
import fc from 'fast-check';
import {
  type DisplayEntry,
  type Failure,
  allItems,
  areaOfPolyline,
  boxOfOutlines,
  circleOutline,
  flatten,
  lengthOfPolyline,
  recipeOf,
  resolveBoard,
} from '../src';
import { outlineOfSpline } from '../src/formats/dxf/spline';
import { COLOUR_OF_NUMBER, PALETTE, numberOfColour } from '../src/formats/dxf/colours';
import { plainMtext, plainText } from '../src/formats/dxf/text';
import { master } from './arbitrary';
import { board, filled, lined, masterWith, rectangle, text } from './build';
import { compare, deriveFlat, parseOptions, project, targetById } from './flat';
import { runs } from './depth';

const dxf = targetById('dxf');
const decode = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const encode = (words: string) => new TextEncoder().encode(words);
const fixture = readFileSync(join(__dirname, 'fixtures/gate.dxf'));
/** A DXF file from pairs, one `code value` each, inside ENTITIES unless it says otherwise. */
const file = (entities: string, before = '') =>
  encode(
    [...`${before}0 SECTION|2 ENTITIES|${entities}|0 ENDSEC|0 EOF`.split('|')]
      .filter(Boolean)
      .map((pair) => pair.replace(' ', '\n'))
      .join('\n') + '\n',
  );
const outlinesOf = (entry: DisplayEntry) => (entry.kind === 'path' ? entry.outlines : []);
const failureOf = (run: () => unknown): Failure => {
  try {
    run();
  } catch (error) {
    return error as Failure;
  }
  throw new Error('nothing was thrown');
};

describe('writing DXF', () => {
  const versions = ['R12', '2000'] as const;

  it.each(versions)('%s reads back as what was written, for any master', (version) => {
    fc.assert(
      fc.property(
        master,
        fc.constantFrom('text', 'outlines'),
        fc.constantFrom('as the version allows', 'arcs', 'short lines'),
        (one, textAs, curves) => {
          const given = { version, text: textAs, curves, chord: 0.02 };
          const { projection } = project(one, recipeOf('dxf', given));
          const { list, notUnderstood } = dxf.read(dxf.write(projection, parseOptions(dxf, given), 'a mark'));
          expect(compare(projection, list, { tolerance: 0.01, order: 'none' }).differences).toEqual([]);
          expect(notUnderstood).toEqual([]);
        },
      ),
      { numRuns: runs(40) },
    );
  });

  it.each(versions)('%s is understood by a reader that nobody here wrote', (version) => {
    const one = masterWith([
      rectangle('r', 10, 10, { radius: 4 }),
      { kind: 'ellipse', id: 'c', layer: 'print', style: lined('#ff0000'), cx: 100, cy: 50, rx: 8, ry: 8 },
      {
        kind: 'polyline',
        id: 'l',
        layer: 'cut',
        style: lined('#14213a'),
        points: [
          [0, 0],
          [50, 25],
        ],
        closed: false,
      },
      text('t', 'Sedge Loop'),
    ]);
    const options = parseOptions(dxf, { version });
    const { projection } = project(one, recipeOf('dxf', { version }));
    const parsed = new DxfParser().parseSync(decode(dxf.write(projection, options, 'mark')))!;
    expect(parsed.header['$ACADVER']).toBe(version === 'R12' ? 'AC1009' : 'AC1015'); // term-guard: standard (DXF reference, HEADER section)
    expect(parsed.entities.map(({ type }) => type)).toEqual([
      version === 'R12' ? 'POLYLINE' : 'LWPOLYLINE',
      'CIRCLE',
      'LINE',
      'TEXT',
    ]);
    const [outline, circle, line, words] = parsed.entities as unknown as [
      { vertices: { x: number; y: number; bulge?: number }[]; shape: boolean },
      { center: { x: number; y: number }; radius: number; layer: string },
      { vertices: { x: number; y: number }[] },
      { text: string; textHeight: number },
    ];
    expect(outline.vertices).toHaveLength(8);
    expect(outline.shape).toBe(true);
    expect(outline.vertices.filter(({ bulge }) => bulge).map(({ bulge }) => bulge)).toEqual(
      Array(4).fill(expect.closeTo(Math.tan(Math.PI / 8), 6)),
    );
    expect(circle).toMatchObject({ center: { x: 100, y: 50 }, radius: 8, layer: version === 'R12' ? 'PRINT' : 'print' });
    expect(line.vertices.map(({ x, y }) => [x, y])).toEqual([
      [0, 0],
      [50, 25],
    ]);
    expect(words).toMatchObject({ text: 'Sedge Loop', textHeight: expect.closeTo(12 * 0.713) });
    expect(Object.keys((parsed.tables as { layer: { layers: object } }).layer.layers)).toEqual(
      expect.arrayContaining(['0', version === 'R12' ? 'CUT' : 'cut']),
    );
  });

  it('gives every entity of 2000 a handle of its own, below the seed', () => {
    const one = masterWith(Array.from({ length: 40 }, (_, i) => rectangle(`r${i}`, i, i)));
    const words = decode(dxf.write(project(one, recipeOf('dxf', {})).projection, parseOptions(dxf, {}), ''));
    const lines = words.split('\n');
    const handles = lines.filter((_, i) => i % 2 === 1 && lines[i - 1] === '5');
    expect(new Set(handles).size).toBe(handles.length);
    expect(handles.length).toBeGreaterThan(50);
    expect(handles.every((handle) => parseInt(handle, 16) <= 0xffffff)).toBe(true);
  });

  it('writes a small R12 drawing that one can read', () => {
    const one = masterWith([{ kind: 'ellipse', id: 'c', layer: 'cut', style: lined('#ff0000'), cx: 5, cy: 6, rx: 2, ry: 2 }]);
    const words = decode(
      dxf.write(project(one, recipeOf('dxf', { version: 'R12' })).projection, parseOptions(dxf, { version: 'R12' }), 'the mark'),
    );
    expect(words.startsWith('999\nthe mark\n0\nSECTION\n2\nHEADER\n')).toBe(true);
    expect(
      words.endsWith('0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\nCUT\n62\n1\n10\n5\n20\n6\n30\n0\n40\n2\n0\nENDSEC\n0\nEOF\n'),
    ).toBe(true);
  });

  it('keeps a spline for a free curve in 2000, and arcs within the chord in R12', () => {
    const one = masterWith([{ kind: 'ellipse', id: 'e', layer: 'cut', style: lined('#14213a'), cx: 50, cy: 50, rx: 40, ry: 15 }]);
    const kinds = (version: string) =>
      [
        ...decode(dxf.write(project(one, recipeOf('dxf', { version })).projection, parseOptions(dxf, { version }), '')).matchAll(
          /\n0\n(SPLINE|POLYLINE|LWPOLYLINE)\n/g,
        ),
      ].map(([, kind]) => kind);
    expect(kinds('2000')).toEqual(['SPLINE']);
    expect(kinds('R12')).toEqual(['POLYLINE']);
    const { report } = project(one, recipeOf('dxf', { version: 'R12', chord: 0.005 }));
    const line = report.lines.find(({ feature }) => feature === 'curves')!;
    expect(line).toMatchObject({ outcome: 'approximated', count: 1 });
    expect(line.deviation).toBeGreaterThan(0);
    expect(line.deviation).toBeLessThanOrEqual(0.005);
  });

  it('spells layer names as R12 allows, and text beyond ASCII by its code', () => {
    const one = masterWith([text('t', 'Öl 5°')], {
      layers: [{ id: 'cut', name: 'Vinyl lettering, größer', colour: '#14213a', visible: true, locked: false, process: 'cut' }],
    });
    const words = decode(
      dxf.write(project(one, recipeOf('dxf', { version: 'R12' })).projection, parseOptions(dxf, { version: 'R12' }), ''),
    );
    expect(words).toContain('\n8\nVINYL_LETTERING_GROSSER\n');
    expect(words).toContain('\n1\n\\U+00D6l 5\\U+00B0\n');
  });
});

describe('colour numbers', () => {
  it('name each colour of the palette by a number that means it', () => {
    for (const colour of PALETTE) expect(COLOUR_OF_NUMBER[numberOfColour(colour)]).toBe(colour);
  });
  it('start with the named ones', () =>
    expect([1, 2, 3, 5].map((number) => COLOUR_OF_NUMBER[number])).toEqual(['#ff0000', '#ffff00', '#00ff00', '#0000ff']));
});

describe('splines', () => {
  it('of one span are the cubic of their four points', () => {
    const points = [
      [0, 0],
      [1, 2],
      [3, 2],
      [4, 0],
    ] as [number, number][];
    const { outline, exact } = outlineOfSpline({ degree: 3, knots: [0, 0, 0, 0, 1, 1, 1, 1], points, weights: [] }, false)!;
    expect(exact).toBe(true);
    expect(outline).toMatchObject({ start: [0, 0], segments: [{ kind: 'cubic', c1: [1, 2], c2: [3, 2], to: [4, 0] }] });
  });
  it('with single inner knots become as many cubics as spans, through the same points', () => {
    const points = [
      [0, 0],
      [1, 3],
      [4, 3],
      [6, 0],
      [8, -2],
      [9, 1],
    ] as [number, number][];
    const { outline } = outlineOfSpline({ degree: 3, knots: [0, 0, 0, 0, 1, 2, 3, 3, 3, 3], points, weights: [] }, false)!;
    expect(outline.segments).toHaveLength(3);
    expect(outline.segments.at(-1)!.to).toEqual([9, 1]);
    // At the knot 1 the curve is (P1 + 4·…)/… by hand: de Boor of the same knots gives 2.916…, 2.583….
    expect(outline.segments[0]!.to[0]).toBeCloseTo((1 / 2) * (0.5 * 1 + 0.5 * 4) + (1 / 2) * ((2 / 3) * 4 + (1 / 3) * 6), 6);
  });
  it('of degree two are raised, of degree one are lines, with weights are short lines', () => {
    const points = [
      [0, 0],
      [5, 5],
      [10, 0],
    ] as [number, number][];
    expect(
      outlineOfSpline({ degree: 2, knots: [0, 0, 0, 1, 1, 1], points, weights: [] }, false)!.outline.segments[0],
    ).toMatchObject({ kind: 'cubic', to: [10, 0] });
    expect(
      outlineOfSpline({ degree: 1, knots: [0, 0, 1, 2, 2], points, weights: [] }, false)!.outline.segments.map(
        ({ kind }) => kind,
      ),
    ).toEqual(['line', 'line']);
    const quarter = outlineOfSpline(
      {
        degree: 2,
        knots: [0, 0, 0, 1, 1, 1],
        points: [
          [1, 0],
          [1, 1],
          [0, 1],
        ],
        weights: [1, Math.SQRT1_2, 1],
      },
      false,
    )!;
    expect(quarter.exact).toBe(false);
    for (const { to } of quarter.outline.segments) expect(Math.hypot(...to)).toBeCloseTo(1, 5);
  });
  it('whose numbers do not fit are refused', () =>
    expect(outlineOfSpline({ degree: 3, knots: [0, 1], points: [[0, 0]], weights: [] }, false)).toBeUndefined());
});

describe('text codes', () => {
  it('of TEXT become characters', () => expect(plainText('%%c12 %%p0.1 45%%d \\U+00D6 %%uold%%u')).toBe('⌀12 ±0.1 45° Ö old'));
  it('of MTEXT go, and leave the words', () => {
    expect(plainMtext('{\\fArial|b1;Gate} \\H2.5;post\\Pleft \\S1/2; \\\\ \\{x\\}')).toEqual({
      text: 'Gate post\nleft 1/2 \\ {x}',
      formatted: true,
    });
  });
});

describe('bringing in a DXF', () => {
  const { master: gate, notUnderstood } = dxf.bringIn!(fixture, 'gate.dxf');
  const resolved = resolveBoard(gate, board(gate));
  const on = (name: string) => resolved.entries.filter((one) => one.layer === name);

  it('takes layers with their colours and what is off', () => {
    expect(gate.layers.map(({ name, colour, visible }) => [name, colour, visible])).toEqual([
      ['0', '#000000', true],
      ['FRAME', '#ff0000', true],
      ['NOTES', '#00ff00', true],
      ['OLD', '#808080', false],
    ]);
  });
  it('takes inches to millimetres and lays a board around what is drawn', () => {
    const frame = on('FRAME')[0]!;
    expect(boxOfOutlines(outlinesOf(frame))).toMatchObject({ minX: expect.closeTo(10), maxX: expect.closeTo(10 + 25 * 25.4) });
    expect(board(gate).width).toBeGreaterThan(25 * 25.4);
  });
  it('makes symbols of blocks and uses of inserts, rows and columns included', () => {
    // A line is as wide in an insert that is twice as large: what is used at both sizes is two symbols.
    expect(gate.symbols.map(({ name }) => name)).toEqual(['HINGE', 'PAIR', 'HINGE × 1']);
    const widths = gate.symbols.map(({ items: [one] }) => (one as { style?: { strokeWidth: number } }).style?.strokeWidth);
    expect(widths[0]).toBeCloseTo(widths[2]! / 2, 9);
    const uses = board(gate).items.filter(({ kind }) => kind === 'use');
    expect(uses).toHaveLength(1 + 6);
    const hinge = resolved.entries.filter(({ within }) => within.some(({ kind }) => kind === 'use'));
    expect(hinge.length).toBe(2 + 6);
    expect(hinge[0]!.layer).toBe('FRAME');
  });
  it('reads each kind of entity in its place', () => {
    const kinds = board(gate).items.reduce<Record<string, number>>(
      (counts, { kind }) => ({ ...counts, [kind]: (counts[kind] ?? 0) + 1 }),
      {},
    );
    expect(kinds).toEqual({ path: 8, text: 2, use: 7 });
    const [bulged] = on('FRAME').filter((one) => outlinesOf(one)[0]?.segments.some(({ kind }) => kind === 'arc'));
    expect(areaOfPolyline(flatten(outlinesOf(bulged!)[0]!, 0.001)) / 25.4 ** 2).toBeCloseTo(20 * 10 + Math.PI * 12.5, 0);
    const words = resolved.entries.flatMap((one) => (one.kind === 'text' ? [one.text] : []));
    expect(words).toEqual(['Gate ⌀2', 'hang left', 'of the post']);
  });
  it('calls things what they are until someone names them, and inserts by their block', () => {
    const names = [...allItems(board(gate).items)].map(({ name }) => name);
    expect(names).toEqual(expect.arrayContaining(['line', 'circle', 'arc', 'polyline', 'spline', 'ellipse']));
    const blocks = gate.symbols.map(({ name }) => name);
    expect(names.filter((name) => blocks.includes(name ?? ''))).toHaveLength(
      [...allItems(board(gate).items)].filter(({ kind }) => kind === 'use').length,
    );
  });
  it('counts what it does not understand', () => {
    expect(notUnderstood).toEqual(
      expect.arrayContaining([
        { kind: 'hatch without an edge', count: 2, shows: true },
        { kind: 'object on a sheet layout', count: 1, shows: false },
        { kind: 'insert of a missing block', count: 1, shows: true },
      ]),
    );
  });
  it('derives into every target and is in step there', async () => {
    for (const target of ['svg', 'dxf', 'hpgl']) expect((await deriveFlat(gate, recipeOf(target, {}))).defects).toEqual([]);
    expect([...allItems(board(gate).items)].length).toBe(17);
  });
  it('mirrors what is drawn from behind', () => {
    const { list } = dxf.read(file('0 CIRCLE|8 0|10 5|20 1|40 2|230 -1'));
    expect(boxOfOutlines(outlinesOf(list.entries[0]!))).toMatchObject({
      minX: expect.closeTo(-7, 1),
      maxX: expect.closeTo(-3, 1),
    });
  });
  it('draws with the line width of the layer where an entity has none of its own', () => {
    const layers =
      '0 SECTION|2 TABLES|0 TABLE|2 LAYER|0 LAYER|2 A|62 1|370 50|6 CONTINUOUS|0 LAYER|2 B|62 1|420 1193046|6 DASHED|0 ENDTAB|0 ENDSEC|';
    const { list, notUnderstood } = dxf.read(
      file('0 LINE|8 A|10 0|20 0|11 5|21 0|0 LINE|8 A|370 13|10 0|20 1|11 5|21 1|0 LINE|8 B|10 0|20 2|11 5|21 2', layers),
    );
    expect(list.entries.map(({ style }) => [style.strokeWidth, style.stroke])).toEqual([
      [0.5, '#ff0000'],
      [0.13, '#ff0000'],
      [0, '#123456'],
    ]);
    expect(notUnderstood).toEqual([{ kind: 'line type DASHED', count: 1, shows: true }]);
  });
  it.each<[string, string]>([
    ['0 LINE|8 0|10 0|20 0|30 0|11 5|21 0|31 7', 'height above the board'],
    ['0 LWPOLYLINE|8 0|38 4|70 0|10 0|20 0|10 5|20 5', 'height above the board'],
    ['0 CIRCLE|8 0|10 0|20 0|40 5|39 2', 'thickness'],
    ['0 CIRCLE|8 0|10 0|20 0|40 5|210 1|220 0|230 0', 'entity in a tilted plane'],
  ])('says what of %s does not lie on the board', (entities, kind) =>
    expect(dxf.read(file(entities)).notUnderstood).toEqual([{ kind, count: 1, shows: true }]),
  );
  it('reads the words on a block, hidden ones aside', () => {
    const block = '0 SECTION|2 BLOCKS|0 BLOCK|8 0|2 TAG|10 0|20 0|0 CIRCLE|8 0|10 0|20 0|40 3|0 ENDBLK|0 ENDSEC|';
    const attribute = (words: string, flags: number) => `0 ATTRIB|8 0|10 4|20 5|40 2|1 ${words}|2 NO|70 ${flags}|`;
    const { list } = dxf.read(
      file(`0 INSERT|8 0|66 1|2 TAG|10 4|20 5|${attribute('P-7', 0)}${attribute('secret', 1)}0 SEQEND|8 0`, block),
    );
    expect(list.entries.map((one) => (one.kind === 'text' ? one.text : one.kind))).toEqual(['path', 'P-7']);
  });
  it('mirrors a block in one direction when only that scale is given', () => {
    const block = '0 SECTION|2 BLOCKS|0 BLOCK|8 0|2 A|10 0|20 0|0 LINE|8 0|10 1|20 2|11 4|21 6|0 ENDBLK|0 ENDSEC|';
    const { list } = dxf.read(file('0 INSERT|8 0|2 A|10 10|20 0|41 -1', block));
    expect(outlinesOf(list.entries[0]!)[0]).toMatchObject({ start: [9, 2], segments: [{ to: [6, 6] }] });
  });
  it('closes an arc of a whole turn', () => {
    const { list } = dxf.read(file('0 ARC|8 0|10 0|20 0|40 3|50 0|51 360'));
    const [circle] = outlinesOf(list.entries[0]!);
    expect(lengthOfPolyline(flatten(circle!, 0.001))).toBeCloseTo(lengthOfPolyline(flatten(circleOutline([0, 0], 3), 0.001)), 2);
  });

  const whole = decode(fixture);
  it.each<[string, string, string]>([
    ['cut off in the middle', whole.slice(0, 900), 'dxf-damaged'],
    ['without its end', whole.slice(0, whole.lastIndexOf('0\nEOF')), 'dxf-damaged'],
    ['with a word for a number', whole.replace('\n40\n1.5\n', '\n40\nwide\n'), 'dxf-damaged'],
    ['with a code that is none', whole.replace('\nENTITIES\n', '\nENTITIES\nhello\n'), 'dxf-damaged'],
    ['without entities', decode(file('')).replace('ENTITIES', 'OTHERS'), 'dxf-damaged'],
    ['that draws nothing', decode(file('0 POINT|8 DEFPOINTS|10 1|20 1')), 'dxf-empty'],
  ])('refuses a file %s and says which line', (_, words, code) => {
    expect(words).not.toBe(whole);
    const failure = failureOf(() => dxf.bringIn!(encode(words), 'x.dxf'));
    expect(failure.code).toBe(code);
    if (code === 'dxf-damaged') expect(failure.where.line).toBeGreaterThan(0);
  });
  it('draws no net that is larger than its corners', () => {
    const net = '0 POLYLINE|8 0|70 16|71 100000|72 100000|0 VERTEX|8 0|10 1|20 1|0 SEQEND|8 0|0 LINE|8 0|10 0|20 0|11 5|21 5';
    const { master: found, notUnderstood } = dxf.bringIn!(file(net), 'x.dxf');
    expect(found.boards[0]!.items).toHaveLength(1);
    expect(notUnderstood).toContainEqual({ kind: 'net whose size does not fit its corners', count: 1, shows: true });
  });
  it('ends on blocks that hold each other', () => {
    const block = (name: string, inner: string) =>
      `0 BLOCK|8 0|2 ${name}|10 0|20 0|0 INSERT|8 0|2 ${inner}|10 0|20 0|0 LINE|8 0|10 0|20 0|11 1|21 1|0 ENDBLK|`;
    const bytes = file('0 INSERT|8 0|2 A|10 0|20 0', `0 SECTION|2 BLOCKS|${block('A', 'B')}${block('B', 'A')}0 ENDSEC|`);
    const { master: found } = dxf.bringIn!(bytes, 'x.dxf');
    expect(resolveBoard(found, board(found)).entries.length).toBeGreaterThan(0);
  });
});

describe('fills', () => {
  it('are left out, and the report says of how many', () => {
    const { report } = project(
      masterWith([rectangle('a', 0, 0, { style: filled('#c23b22') }), rectangle('b')]),
      recipeOf('dxf', {}),
    );
    expect(report.lines[0]).toMatchObject({ outcome: 'left out', feature: 'fills', count: 1, objects: ['a'] });
    expect(report.sentence).toContain('left out: fills');
  });
});

describe('bringing in blocks', () => {
  it('leaves every insert where it stands: a rectangle with two inserts a hundred to the right', () => {
    const block = '0 SECTION|2 BLOCKS|0 BLOCK|2 KNOB|10 5|20 5|0 CIRCLE|8 0|10 5|20 5|40 2|0 ENDBLK|0 ENDSEC|';
    const drawing = file(
      '0 LWPOLYLINE|8 0|90 4|70 1|10 0|20 0|10 100|20 0|10 100|20 50|10 0|20 50|0 INSERT|8 0|2 KNOB|10 100|20 0|0 INSERT|8 0|2 KNOB|10 100|20 50|41 2|42 2|50 90',
      block,
    );
    const { master: brought } = dxf.bringIn!(drawing, 'gate.dxf');
    const places = resolveBoard(brought, brought.boards[0]!).entries.map((entry) => boxOfOutlines(outlinesOf(entry)));
    // All is laid 10 mm from the corner of its board: the lower knob starts at -2, so the rectangle's corner comes to (10, 12).
    expect(places.map(({ minX, minY }) => [Math.round(minX * 10) / 10, Math.round(minY * 10) / 10])).toEqual([
      [10, 12],
      [108, 10],
      [106, 58],
    ]);
    expect(brought.boards[0]).toMatchObject({ width: expect.closeTo(124, 1), height: expect.closeTo(76, 1) });
  });
});
