// Longer than most: one difference after the other, each told from all others.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import {
  type DisplayList,
  type Outline,
  type PathEntry,
  type Point,
  bringInAny,
  circleOutline,
  flatten,
  fromPoints,
  plainStyle,
  recipeOf,
} from '../src';
import { master, measure, outline } from './arbitrary';
import { entry, listOf, masterWith, square, text } from './build';
import { compare, deriveFlat, project, targetById } from './flat';
import { runs } from './depth';
import { cpuTime } from './cpu-time';

const settings = { tolerance: 0.01, order: 'none' as const };
const kinds = (a: DisplayList, b: DisplayList, more = {}) =>
  compare(a, b, { ...settings, ...more }).differences.map(({ kind }) => kind);
const polylineOf = (one: Outline, tolerance: number): Outline => {
  const flat = flatten(one, tolerance);
  const points = Array.from({ length: flat.length / 2 }, (_, i): Point => [flat[2 * i]!, flat[2 * i + 1]!]);
  return fromPoints(one.closed ? points.slice(0, -1) : points, one.closed);
};
const filledShape = (fill: string, ...outlines: Outline[]): PathEntry => ({
  kind: 'path',
  outlines,
  layer: 'cut',
  style: { ...plainStyle, fill },
});
const far = fc
  .array(fc.tuple(fc.nat(12), fc.nat(12)), { minLength: 1, maxLength: 14 })
  .map((cells) => [...new Set(cells.map(String))].map((cell) => cell.split(',').map(Number) as [number, number]));
/** Squares of different sizes that do not touch each other. */
const apart = far.map((cells) => cells.map(([x, y], i) => square(x * 30, y * 30, 8 + (i % 7))));

describe('lines of two looks over each other', () => {
  it('are told apart where one comes round and the other ends within a hair of its beginning, whatever meets them on the way', async () => {
    const { master: drawn } = await bringInAny(readFileSync(join(__dirname, 'fixtures/lines-along-lines.svg')), 'lines.svg', {});
    const { defects } = await deriveFlat(drawn, recipeOf('dxf', {}));
    expect(defects).toEqual([]);
  });
});

describe('a line there and back', () => {
  const line = (...points: Point[]): PathEntry => ({
    kind: 'path',
    outlines: [fromPoints(points, false)],
    layer: 'cut',
    style: { ...plainStyle, stroke: '#14213a' },
  });
  const [start, tip, corner, far]: [Point, Point, Point, Point] = [
    [10, 10],
    [10, 9.9717],
    [9.3, 8],
    [30, 2],
  ];
  const whole = (spike: Point) =>
    listOf([], {
      entries: [{ ...line(start), outlines: [fromPoints([start, corner, far, start, spike], true)] }],
    });
  const split = (spike: Point) =>
    listOf([], { entries: [line(start, corner, far), line(far, start), line(start, spike, start)] });
  it('along the beginning of a round is where lines meet as long as it is short, and is told where it is not', () => {
    expect(kinds(whole(tip), split(tip))).toEqual([]);
    expect(kinds(split(tip), whole(tip))).toEqual([]);
    const long: Point = [10.5, 9.2];
    expect(kinds(whole(long), listOf([], { entries: split(long).entries.slice(0, 2) }))).not.toEqual([]);
    expect(kinds(listOf([], { entries: split(long).entries.slice(0, 2) }), split(long))).not.toEqual([]);
  });
});

describe('a text', () => {
  const words = 'A line of letters that is long enough to end somewhere else when they are a hair smaller';
  const drawn = (size: number) =>
    listOf([], {
      entries: [
        {
          kind: 'text',
          text: words,
          frame: [1, 0, 0, 1, 10, 10],
          size,
          font: 'Commissioner',
          align: 'start',
          layer: 'cut',
          style: plainStyle,
        },
      ],
    });
  it('that ends elsewhere is another, although every letter is as large as it was within the tolerance', () => {
    expect(kinds(drawn(4), drawn(4))).toEqual([]);
    expect(kinds(drawn(4), drawn(4.0005))).toEqual([]);
    expect(kinds(drawn(4), drawn(4.008))).toEqual(['resized']);
    expect(compare(drawn(4), drawn(4.008), settings).differences[0]!.copy).toBe('4.0080 mm, ends about 0.42 mm elsewhere');
  });
});

describe('the same outline', () => {
  const same = (a: readonly Outline[], b: readonly Outline[]) => expect(kinds(listOf(a), listOf(b))).toEqual([]);

  it('is the same in pieces of which one is hardly longer than the tolerance', () => {
    const points: Point[] = [
      [10, 10],
      [40, 10],
      [40.0098, 10.0028],
      [40.01, 40],
    ];
    const pieces = [
      fromPoints(points.slice(0, 2), false),
      fromPoints(points.slice(1, 3), false),
      fromPoints(points.slice(2), false),
    ];
    same([fromPoints(points, false)], pieces);
    same(pieces, [fromPoints(points, false)]);
    // Elsewhere it is one too many.
    const [first, , last] = pieces as [Outline, Outline, Outline];
    const elsewhere = fromPoints(
      [
        [70, 10],
        [70.03, 10],
      ],
      false,
    );
    expect(kinds(listOf([first, last]), listOf([first, last, elsewhere]))).toEqual(['added']);
  });
  it('is the same started elsewhere', () => {
    same(
      [square(0, 0, 10)],
      [
        fromPoints(
          [
            [10, 10],
            [0, 10],
            [0, 0],
            [10, 0],
          ],
          true,
        ),
      ],
    );
  });
  it('is the same drawn the other way round, where direction means nothing', () => {
    same(
      [square(0, 0, 10)],
      [
        fromPoints(
          [
            [0, 0],
            [0, 10],
            [10, 10],
            [10, 0],
          ],
          true,
        ),
      ],
    );
  });
  it('is the same split in pieces', () => {
    const lines = [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ] as Point[];
    same(
      [square(0, 0, 10)],
      lines.map((from, i) => fromPoints([from, lines[(i + 1) % 4]!], false)),
    );
  });
  it('is the same with points added along its lines', () =>
    same(
      [square(0, 0, 10)],
      [
        fromPoints(
          [
            [0, 0],
            [5, 0],
            [10, 0],
            [10, 10],
            [3, 10],
            [0, 10],
          ],
          true,
        ),
      ],
    ));
  it('is the same with arcs turned into short lines within the tolerance', () =>
    same([circleOutline([5, 5], 20)], [polylineOf(circleOutline([5, 5], 20), 0.005)]));
  it('is the same where three lines meet and each side joins them otherwise', () => {
    const [hub, a, b, c]: Point[] = [
      [0, 0],
      [10, 0],
      [-10, 0],
      [0, 10],
    ] as Point[];
    same(
      [fromPoints([a!, hub!, b!], false), fromPoints([hub!, c!], false)],
      [fromPoints([a!, hub!, c!], false), fromPoints([hub!, b!], false)],
    );
  });
  it('is the same moved by less than the tolerance, for any outline', () => {
    fc.assert(
      fc.property(fc.array(outline, { minLength: 1, maxLength: 5 }), measure(-0.6, 0.6), (outlines, share) => {
        const shift = (p: Point): Point => [p[0] + share * 0.01, p[1]];
        const moved = outlines.map((one): Outline => ({
          ...one,
          start: shift(one.start),
          segments: one.segments.map((s) =>
            s.kind === 'cubic' ? { ...s, to: shift(s.to), c1: shift(s.c1), c2: shift(s.c2) } : { ...s, to: shift(s.to) },
          ) as Outline['segments'],
        }));
        same(outlines, moved);
      }),
      { numRuns: runs(80) },
    );
  });
});

describe('seeded faults', () => {
  it('finds one outline moved, with how far, whichever it is', () => {
    fc.assert(
      fc.property(apart, fc.nat(), measure(0.03, 9), (squares, pick, by) => {
        const index = pick % squares.length;
        const next = squares.map((one, i) =>
          i === index
            ? fromPoints(
                [one.start, ...one.segments.map(({ to }) => to)].map(([x, y]): Point => [x + by, y]),
                true,
              )
            : one,
        );
        const { differences } = compare(listOf(squares), listOf(next), settings);
        expect(differences).toHaveLength(1);
        expect(differences[0]).toMatchObject({ kind: 'moved', unit: 'mm', masterEntries: [index], copyEntries: [index] });
        expect(differences[0]!.amount).toBeCloseTo(by, 2);
      }),
    );
  });
  it('finds one outline missing or added, and nothing else', () => {
    fc.assert(
      fc.property(apart, fc.nat(), (squares, pick) => {
        fc.pre(squares.length > 1);
        const less = squares.filter((_, i) => i !== pick % squares.length);
        expect(kinds(listOf(squares), listOf(less))).toEqual(['missing']);
        expect(kinds(listOf(less), listOf(squares))).toEqual(['added']);
      }),
    );
  });
  it('finds one outline resized, with the share', () => {
    fc.assert(
      fc.property(apart, fc.nat(), fc.constantFrom(0.8, 0.95, 1.05, 1.2), (squares, pick, by) => {
        fc.pre(squares.length > 1);
        const index = pick % squares.length;
        const next = squares.map((one, i) =>
          i === index ? square(...one.start, (one.segments[0]!.to[0] - one.start[0]) * by) : one,
        );
        const { differences } = compare(listOf(squares), listOf(next), settings);
        expect(differences.map(({ kind }) => kind)).toEqual(['resized']);
        expect(differences[0]!.amount).toBeCloseTo(Math.abs(by - 1) * 100, 3);
      }),
    );
  });
  it('finds one point pulled out of line, with how far', () => {
    const bent = fromPoints(
      [
        [0, 0],
        [10, 0],
        [10, 10.4],
        [0, 10],
      ],
      true,
    );
    const { differences } = compare(listOf([square(0, 0, 10)]), listOf([bent]), settings);
    expect(differences).toMatchObject([{ kind: 'reshaped', amount: expect.closeTo(0.4, 2) }]);
  });
  it('finds a line drawn twice, which covers nothing new', () => {
    const line = fromPoints(
      [
        [0, 0],
        [50, 0],
      ],
      false,
    );
    expect(kinds(listOf([line]), listOf([line, line]))).toEqual(['added']);
    const half = fromPoints(
      [
        [0, 0],
        [25, 0],
      ],
      false,
    );
    expect(kinds(listOf([line]), listOf([line, half]))).toEqual(['added']);
  });
  it('finds an outline left open, and a gap in the middle of a line', () => {
    expect(
      kinds(
        listOf([square(0, 0, 10)]),
        listOf([
          fromPoints(
            [
              [0, 0],
              [10, 0],
              [10, 10],
              [0, 10],
            ],
            false,
          ),
        ]),
      ),
    ).not.toEqual([]);
    const gap = [
      fromPoints(
        [
          [0, 0],
          [20, 0],
        ],
        false,
      ),
      fromPoints(
        [
          [24, 0],
          [50, 0],
        ],
        false,
      ),
    ];
    expect(
      kinds(
        listOf([
          fromPoints(
            [
              [0, 0],
              [50, 0],
            ],
            false,
          ),
        ]),
        listOf(gap),
      ),
    ).not.toEqual([]);
  });
  it('says of a drawing in the wrong unit just that', () => {
    const squares = [square(0, 0, 10), square(40, 5, 20), square(100, 50, 7)];
    const inches = squares.map((one) =>
      square(one.start[0] / 25.4, one.start[1] / 25.4, (one.segments[0]!.to[0] - one.start[0]) / 25.4),
    );
    const { differences } = compare(listOf(squares), listOf(inches), settings);
    expect(differences).toMatchObject([{ kind: 'unit changed', amount: expect.closeTo(1 / 25.4), unit: '×' }]);
  });
  it('finds another layer, colour, width or fill at the same place', () => {
    const one = square(0, 0, 10);
    const looks: [Partial<PathEntry>, string][] = [
      [{ layer: 'other' }, 're-layered'],
      [{ style: { ...plainStyle, stroke: '#ff0000' } }, 'recoloured'],
      [{ style: { ...plainStyle, fill: '#ff0000' } }, 'recoloured'],
      [{ style: { ...plainStyle, opacity: 0.5 } }, 'restyled'],
    ];
    for (const [more, kind] of looks) expect(kinds(listOf([one]), listOf([entry(one, more)]))).toEqual([kind]);
    const wide = (strokeWidth: number) => entry(one, { style: { ...plainStyle, stroke: '#000000', strokeWidth } });
    expect(kinds(listOf([wide(0.5)]), listOf([wide(0.7)]))).toEqual(['restyled']);
    expect(kinds(listOf([wide(0.5)]), listOf([wide(0.501)]))).toEqual([]);
  });
  it('gathers one change of look over many objects into one difference', () => {
    const squares = Array.from({ length: 30 }, (_, i) => square(i * 20, 0, 10));
    const red = squares.map((one) => entry(one, { style: { ...plainStyle, stroke: '#ff0000' } }));
    expect(compare(listOf(squares), listOf(red), settings).differences).toMatchObject([
      { kind: 'recoloured', count: 30, what: '30 objects on cut' },
    ]);
  });
  it('finds another sheet and another ground', () => {
    const sheet = (width: number, background: string | null) =>
      listOf([square(0, 0, 10)], { sheet: { width, height: 50 }, background });
    expect(kinds(sheet(100, null), sheet(102, null))).toEqual(['sheet resized']);
    expect(kinds(sheet(100, null), sheet(100, '#ffffff'))).toEqual(['recoloured']);
  });
});

describe('order', () => {
  const squares = [square(0, 0, 10), square(30, 0, 9), square(60, 0, 8)];
  const swapped = [squares[0]!, squares[2]!, squares[1]!];
  it('means nothing in an interchange drawing', () => expect(kinds(listOf(squares), listOf(swapped))).toEqual([]));
  it('is the order of work on a machine', () =>
    expect(kinds(listOf(squares), listOf(swapped), { order: 'sequence' })).toEqual(['re-ordered']));
  it('counts in a picture only where one thing covers another', () => {
    expect(kinds(listOf(squares), listOf(swapped), { order: 'paint' })).toEqual([]);
    const drawnIn = (stroke: string, at: number) => entry(square(at, at, 10), { style: { ...plainStyle, stroke } });
    const covering = [drawnIn('#14213a', 0), drawnIn('#c23b22', 5)];
    expect(kinds(listOf(covering), listOf([...covering].reverse()), { order: 'paint' })).toEqual(['re-ordered']);
  });
  it('counts for text and outlines together: a line of text that went under a filled shape is found', () => {
    const sheet = filledShape('#f7f0e2', square(0, 0, 100));
    const words = project(masterWith([text('t', 'Sedge')]), recipeOf('svg', {})).projection.entries[0]!;
    const list = (...entries: DisplayList['entries'][number][]): DisplayList => ({ ...listOf([]), entries });
    const { differences } = compare(list(sheet, words), list(words, sheet), { ...settings, order: 'paint' });
    expect(differences.map(({ kind }) => kind)).toEqual(['re-ordered']);
    expect(
      kinds(list(sheet, words), list(words, filledShape('#f7f0e2', square(300, 0, 9)), sheet), { order: 'paint' }),
    ).toContain('re-ordered');
  });
  it('takes a cut that runs the other way for another cut', () => {
    const line = fromPoints(
      [
        [0, 0],
        [10, 0],
      ],
      false,
    );
    expect(
      kinds(
        listOf([line]),
        listOf([
          fromPoints(
            [
              [10, 0],
              [0, 0],
            ],
            false,
          ),
        ]),
        { order: 'sequence' },
      ),
    ).toEqual(['re-ordered']);
  });
});

describe('texts', () => {
  const listWith = (more: object, words = 'Sedge Loop') =>
    project(masterWith([text('t', words, more)]), recipeOf('svg', {})).projection;
  it.each<[string, object, string, string]>([
    ['another wording', {}, 'Sedge Lopp', 'retyped'],
    ['another place', { x: 23 }, 'Sedge Loop', 'moved'],
    ['another size', { size: 13 }, 'Sedge Loop', 'resized'],
    ['another font', { font: 'Commissioner Bold' }, 'Sedge Loop', 'font changed'],
    [
      'another turn',
      {
        transform: [
          Math.cos(0.1),
          Math.sin(0.1),
          -Math.sin(0.1),
          Math.cos(0.1),
          20 - 20 * Math.cos(0.1) + 50 * Math.sin(0.1),
          50 - 20 * Math.sin(0.1) - 50 * Math.cos(0.1),
        ],
      },
      'Sedge Loop',
      'turned',
    ],
    ['another colour', { style: { fill: '#c23b22', stroke: null, strokeWidth: 0 } }, 'Sedge Loop', 'recoloured'],
  ])('differ by %s', (_, more, words, kind) => expect(kinds(listWith({}), listWith(more, words))).toEqual([kind]));
  it('that are gone or new are said so', () => {
    const empty = listOf([], { sheet: { width: 200, height: 100 } });
    expect(kinds(listWith({}), empty)).toEqual(['missing']);
    expect(kinds(empty, listWith({}))).toEqual(['added']);
  });
  it('are called by their object’s name where it has one', () => {
    const called = (nameOf?: (source: string) => string | undefined) =>
      compare(listWith({}), listWith({}, 'Sedge Lopp'), { ...settings, ...(nameOf && { nameOf }) }).differences.map(
        ({ what }) => what,
      );
    expect([called((id) => (id === 't' ? 'Trail name' : undefined)), called()]).toEqual([['Trail name'], ['“Sedge Loop”']]);
  });
  it('made outlines are compared as outlines', () => {
    const outlined = (words: string) => project(masterWith([text('t', words)]), recipeOf('svg', { text: 'outlines' })).projection;
    expect(kinds(outlined('Sedge'), outlined('Sedge'))).toEqual([]);
    expect(
      compare(outlined('Sedge'), outlined('Sedgy'), { ...settings, nameOf: () => 'Trail name' }).differences.every(({ what }) =>
        /Trail name|Outline on cut/.test(what),
      ),
    ).toBe(true);
  });
});

describe('laws', () => {
  it('nothing differs from itself, for any master and target', () => {
    fc.assert(
      fc.property(master, fc.constantFrom('svg', 'dxf', 'hpgl'), (one, target) => {
        const recipe = recipeOf(target, {});
        const { projection } = project(one, recipe);
        const order = targetById(target).order(recipe.options);
        const { differences, outlines, equal } = compare(projection, projection, { ...settings, order });
        expect(differences).toEqual([]);
        expect(equal).toBe(outlines);
      }),
      { numRuns: runs(60) },
    );
  });
  it('is quick on a hundred thousand segments that are equal', () => {
    const many = Array.from({ length: 25_000 }, (_, i) => square((i % 250) * 5, Math.floor(i / 250) * 5, 3));
    const start = cpuTime();
    expect(kinds(listOf(many), listOf([...many].reverse()))).toEqual([]);
    expect(cpuTime() - start).toBeLessThan(20_000);
  });
  it('ends in bounded time on thousands that all differ', () => {
    const many = Array.from({ length: 3000 }, (_, i) => rectangleAt(i, 0));
    const other = Array.from({ length: 3000 }, (_, i) => rectangleAt(i, 0.7));
    const start = cpuTime();
    expect(kinds(listOf(many), listOf(other))).toHaveLength(3000);
    expect(cpuTime() - start).toBeLessThan(20_000);
  });
});
const rectangleAt = (i: number, by: number): Outline => square((i % 60) * 20 + by, Math.floor(i / 60) * 20, 5 + (i % 11));

describe('a speck about as long as the tolerance', () => {
  it('is not missed because rounding made it a hair shorter on the other side', () => {
    const speck = (length: number): DisplayList =>
      listOf([{ start: [20, 20], segments: [{ kind: 'line', to: [20 + length, 20] }], closed: false }]);
    const options = { tolerance: 0.01, order: 'paint' as const };
    for (const [a, b] of [
      [0.0101, 0.0099],
      [0.0099, 0.0101],
      [0.0104, 0.0088],
    ] as const)
      expect(compare(speck(a), speck(b), options).differences).toEqual([]);
    expect(compare(speck(0.03), listOf([]), options).differences).toMatchObject([{ kind: 'missing' }]);
    expect(compare(speck(0.009), listOf([]), options).differences).toEqual([]);
  });
});
