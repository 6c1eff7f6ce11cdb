import fc from 'fast-check';
import { BENCH } from '../../standins/src';
import { type Item, type Machining, type Master, type ToolPath, derive, fitOf, recipeOf } from '../src';
import { layer, lined, masterWith } from './build';
import { runs } from './depth';
import { services } from './flat';

const on = { layer: 'route', style: lined('#14213a') };
const disc = { kind: 'ellipse', ...on, name: 'Disc' } as const;
const plate = (width: number, height: number, x = 50, y = 40): Item[] => [
  { kind: 'rectangle', id: 'plate', name: 'Plate', ...on, x, y, width, height, radius: 3 },
  { kind: 'ellipse', id: 'hole', name: 'Hole', ...on, cx: x + 12, cy: y + 12, rx: 5, ry: 5 },
];
const made = (items: Item[]): Master =>
  masterWith(items, {
    layers: [
      layer('route', 'route'),
      layer('pocket', 'pocket'),
      layer('engrave', 'engrave'),
      layer('cut', 'cut'),
      layer('drill', 'drill'),
    ],
    boards: [{ id: 'b1', name: 'Sheet', width: 900, height: 600, background: null, items }],
  });
type Asked = Record<string, string | number>;
const write = (master: Master, options: Asked, target = 'gcode') =>
  derive({ master, rev: 1, time: '2026-11-20T10:00:00Z' }, recipeOf(target, options), services);
const findings = (master: Master, options: Asked) => fitOf(master, recipeOf('gcode', options), services);
/** What the bench says of a program. */
const bench = (bytes: Uint8Array) => BENCH['router']!(bytes);

type Box = [minX: number, minY: number, maxX: number, maxY: number];
/** The boxes of what is cut in one go, lowest pass and bridges alike, from the moves. */
function rounds({ ends, motion, count }: Machining): Box[] {
  const boxes: Box[] = [];
  let open = false;
  for (let i = 0; i < count; i++) {
    const [x, y, z] = [ends[3 * i]!, ends[3 * i + 1]!, ends[3 * i + 2]!];
    if (motion[i] === 0 || Number.isNaN(x) || z > 0) {
      open = false;
      continue;
    }
    if (!open) boxes.push([Infinity, Infinity, -Infinity, -Infinity]);
    open = true;
    const box = boxes.at(-1)!;
    box.splice(0, 4, Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y));
  }
  return boxes;
}
const apart = (a: Box, b: Box): number => Math.max(b[0] - a[2], a[0] - b[2], b[1] - a[3], a[1] - b[3]);

/** Where the third tool of a program goes down. */
function drilled(program: Uint8Array): [number, number][] {
  const text = new TextDecoder().decode(program).replace(/\(.*\)/g, '');
  const from = text.indexOf('T3');
  const to = /T[^3]/.exec(text.slice(from))?.index ?? Infinity;
  let [x, y] = [NaN, NaN];
  const all = new Map<string, [number, number]>();
  for (const line of text.slice(from, from + to).split('\n')) {
    x = Number(/X([\d.]+)/.exec(line)?.[1] ?? x);
    y = Number(/Y([\d.]+)/.exec(line)?.[1] ?? y);
    if (/Z-/.test(line)) all.set(`${x} ${y}`, [x, y]);
  }
  return [...all.values()];
}

describe('several of a part on one bed', () => {
  it('lie as far apart as asked and on the bed, however many there are, and the machine makes them', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          width: fc.integer({ min: 30, max: 260 }),
          height: fc.integer({ min: 30, max: 200 }),
          count: fc.integer({ min: 2, max: 9 }),
          spacing: fc.integer({ min: 7, max: 20 }),
          turns: fc.constantFrom('none', 'quarter turns'),
        }),
        async ({ width, height, ...options }) => {
          const master = made(plate(width, height));
          const [problem] = await findings(master, options);
          if (problem) {
            expect(problem).toMatchObject({ kind: 'off the bed', unit: 'parts' });
            // What mends it does.
            for (const mend of problem.mends)
              expect(await findings(master, { ...options, ...mend.options } as Asked)).toEqual([]);
            return;
          }
          const { files, defects, projection } = await write(master, options);
          expect(defects).toEqual([]);
          expect(bench(files[0]!.bytes).alarms).toEqual([]);
          const around = rounds(projection.leaves[0]!.body as Machining).filter(([a, , b]) => b - a > 20);
          expect(around).toHaveLength(options.count);
          // The way of the tool goes 3 mm around each.
          for (const [i, one] of around.entries()) {
            expect(one[0] >= -1e-6 && one[1] >= -1e-6 && one[2] <= 900 + 1e-6 && one[3] <= 600 + 1e-6).toBe(true);
            for (const other of around.slice(i + 1)) expect(apart(one, other)).toBeGreaterThanOrEqual(options.spacing - 6 - 0.01);
          }
        },
      ),
      { numRuns: runs(25) },
    );
  });

  it('more than there is room for is said with how many there is room for, and a turn that helps is offered', async () => {
    // 900 mm across: two of 400 by three of 180, or four of 180 by one of 400, or both together.
    const [problem] = await findings(made(plate(400, 180)), { count: 8 });
    expect(problem!.words).toMatch(/^Of 8, 6 have room on the Router \(900 × 600 mm\)/);
    expect(problem!.mends[0]).toEqual({ words: 'Make 6', options: { count: 6 } });
    const [narrow] = await findings(made(plate(560, 130)), { count: 6 });
    expect(narrow!.words).toMatch(/^Of 6, 4 have room/);
    expect(narrow!.mends[1]!.options).toEqual({ turns: 'quarter turns', count: 6 });
    expect(await findings(made(plate(560, 130)), { count: 6, turns: 'quarter turns' })).toEqual([]);
  });

  it('lie in as few rows as they need, so that the rest of the sheet is in one piece', async () => {
    for (const [count, rows] of [
      [3, 1],
      [5, 2],
      [8, 2],
      [9, 3],
    ] as const) {
      const { projection } = await write(made(plate(200, 120)), { count });
      const around = rounds(projection.leaves[0]!.body as Machining).filter(([a, , b]) => b - a > 20);
      expect([count, new Set(around.map(([, y]) => Math.round(y))).size]).toEqual([count, rows]);
    }
  });

  it('may be as thin as a line, and lie on each other where nothing is to be between them', async () => {
    const thin: Item = {
      kind: 'polyline',
      id: 'l',
      name: 'L',
      ...on,
      points: [
        [5, 5],
        [80, 5],
      ],
      closed: false,
    } as Item;
    // A pen has no width.
    const drawn = made([{ ...thin, layer: 'engrave' } as Item]);
    for (const turns of ['none', 'quarter turns'])
      expect(
        await fitOf(drawn, recipeOf('hpgl', { machine: 'cutter', count: 500, spacing: 0, turns, doubles: 'twice' }), services),
      ).toEqual([]);
  });

  it('are not let so near to each other, nor to marks, that a tool would cut into the next', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom<'none' | 'quarter turns'>('none', 'quarter turns'),
        fc.integer({ min: 0, max: 9 }),
        async (turns, spacing) => {
          const asked = { count: 4, turns, spacing };
          const found = await findings(made(plate(120, 80)), asked);
          if (spacing >= 6) return expect(found).toEqual([]);
          expect(found).toMatchObject([
            {
              kind: 'too near',
              words: `The parts lie ${spacing} mm apart, and the tool cuts 6 mm beyond a part: it would cut into the next one.`,
              amount: 6 - spacing,
              mends: [{ words: 'Lay them 6 mm apart', options: { spacing: 6 } }],
            },
          ]);
          expect(await findings(made(plate(120, 80)), { ...asked, ...(found[0]!.mends[0]!.options as Asked) })).toEqual([]);
        },
      ),
      { numRuns: runs(30) },
    );
    // A cut that only goes along inside leaves nothing free beside the part.
    const inside = plate(120, 80).map((item) => ({ ...item, work: { side: 'inside' } }) as Item);
    expect(await findings(made(inside), { count: 4, spacing: 0, corners: 'rounded', tabs: 0 })).toEqual([]);
    const [near] = await findings(made(plate(120, 80)), { marks: 'drilled', markAt: 4 });
    expect(near).toMatchObject({
      kind: 'too near',
      words: 'The marks lie 4 mm from the part, and the tool cuts 6 mm beyond it: it would cut into them.',
    });
    const mended: Asked = { marks: 'drilled', ...(near!.mends[0]!.options as Asked) };
    expect(mended['markAt']).toBeGreaterThanOrEqual(6);
    expect(await findings(made(plate(120, 80)), mended)).toEqual([]);
  });

  it('that are worked from the back lie as the mirror image of those of the front, so that the two sides meet', async () => {
    // Off the middle, so that neither a turn nor the mirror image of one part alone looks like it.
    const lopsided = [...plate(160, 90), { ...disc, id: 'peg', layer: 'drill', cx: 190, cy: 110, rx: 1.5, ry: 1.5 }] as Item[];
    for (const count of [2, 3, 5, 7])
      for (const turns of ['none', 'quarter turns']) {
        const pegs = async (mirrored: string) => {
          const { files, defects } = await write(made(lopsided), { count, turns, mirrored });
          expect(defects).toEqual([]);
          return drilled(files[0]!.bytes);
        };
        const bed = (await write(made(lopsided), { count, turns })).projection.leaves[0]!.body as Machining;
        const around = rounds(bed).filter(([a, , b]) => b - a > 20);
        const sum = Math.min(...around.map(([x]) => x)) + Math.max(...around.map(([, , x]) => x));
        const [front, back] = [await pegs('no'), await pegs('yes')];
        expect(front).toHaveLength(count);
        expect(back.sort()).toEqual(front.map(([x, y]) => [Math.round((sum - x) * 1000) / 1000, y]).sort());
      }
  });
});

describe('marks to lay a sheet down by again', () => {
  it('are drilled at three corners before anything is cut, and lie mirrored for what is worked from the back', async () => {
    const holes = async (mirrored: string) => {
      const { files, defects } = await write(made(plate(100, 80)), { marks: 'drilled', markAt: 15, mirrored });
      expect(defects).toEqual([]);
      return new Set(drilled(files[0]!.bytes).map((place) => place.join(' ')));
    };
    expect(await holes('no')).toEqual(new Set(['35 25', '165 25', '35 135']));
    expect(await holes('yes')).toEqual(new Set(['35 25', '165 25', '165 135']));
  });

  it('are drawn with the pen, and kept on the bed where the job begins at its corner', async () => {
    const master = made(plate(90, 60).map((item) => ({ ...item, layer: 'cut' }) as Item));
    const options = { machine: 'cutter', marks: 'drawn', place: 'at the origin' };
    const { projection, defects } = await write(master, options, 'hpgl');
    expect(defects).toEqual([]);
    const { tools, tool, firstPoint, points, count } = projection.leaves[0]!.body as ToolPath;
    const pens = Array.from({ length: count }, (_, i) => tools[tool[i]!]!.number);
    expect(pens.filter((pen) => pen === 3)).toHaveLength(6);
    expect(pens.lastIndexOf(3)).toBeLessThan(pens.indexOf(1));
    expect(Math.min(...points.slice(2 * firstPoint[0]!))).toBeCloseTo(0, 3);
  });

  it('that have no tool or no room are told, with what mends it', async () => {
    const far = await findings(made(plate(100, 80)), { marks: 'drawn', markAt: 60 });
    expect(far).toMatchObject([
      { kind: 'off the bed', words: 'The marks go 24 mm beyond the bed of the Router (900 × 600 mm).' },
    ]);
    expect(await findings(made(plate(100, 80)), { marks: 'drawn', markAt: 60, ...(far[0]!.mends[0]!.options as Asked) })).toEqual(
      [],
    );
    const bare = await fitOf(
      made(plate(90, 60).map((item) => ({ ...item, layer: 'cut' }) as Item)),
      recipeOf('hpgl', { machine: 'cutter', marks: 'drilled' }),
      services,
    );
    expect(bare.map(({ words }) => words)).toEqual(['Marks are to be drilled, and the Plotter-cutter has no tool that drills.']);
  });
});

describe('areas that are engraved or cleared by lines', () => {
  const plaque = (items: Item[]) => made(items);
  const ring = (layer: string, more: Partial<Item> = {}): Item =>
    ({
      kind: 'path',
      id: 'ring',
      name: 'Ring',
      layer,
      style: lined('#14213a'),
      outlines: [square(20, 20, 100), square(50, 50, 40)],
      ...more,
    }) as Item;
  const square = (x: number, y: number, size: number) => ({
    start: [x, y],
    segments: [
      { kind: 'line', to: [x + size, y] },
      { kind: 'line', to: [x + size, y + size] },
      { kind: 'line', to: [x, y + size] },
    ],
    closed: true,
  });
  /** How far a program's tool goes while it is in the stock, mm, and whether a middle ever lies in a square. */
  const worked = ({ ends, motion, count }: Machining, [low, high]: [number, number]) => {
    let [length, inside, last] = [0, 0, -1];
    for (let i = 0; i < count; i++) {
      const [x, y, z] = [ends[3 * i]!, ends[3 * i + 1]!, ends[3 * i + 2]!];
      if (last >= 0 && motion[i] && z < 0 && ends[3 * last + 2]! < 0) {
        const [px, py] = [ends[3 * last]!, ends[3 * last + 1]!];
        length += Math.hypot(x - px, y - py);
        const [mx, my] = [(x + px) / 2, (y + py) / 2];
        if (mx > low && mx < high && my > low && my < high) inside += Math.hypot(x - px, y - py);
      }
      last = i;
    }
    return { length, inside };
  };

  it.each([0, 30, -60, 90])(
    'an engraved area is filled by lines at %i° as far as its tool reaches, its hole left out',
    async (hatchAngle) => {
      const { files, defects, projection } = await write(plaque([ring('engrave')]), {
        engraving: 'filled',
        hatchStep: 1,
        hatchAngle,
      });
      expect(defects).toEqual([]);
      expect(bench(files[0]!.bytes).alarms).toEqual([]);
      const { length, inside } = worked(projection.leaves[0]!.body as Machining, [50.2, 89.8]);
      // 100² − 40² mm² in lines 1 mm apart, and a step at the end of each.
      expect(length).toBeGreaterThan(0.98 * 8400);
      expect(length).toBeLessThan(1.1 * 8400);
      expect(inside).toBe(0);
    },
  );

  it('a pocket cleared by lines takes away what one in rings does, and nothing else', async () => {
    const master = plaque([ring('pocket', { work: { depth: 3 } } as Partial<Item>)]);
    const options = { corners: 'rounded' };
    const lines = await write(master, { ...options, clearing: 'lines', hatchAngle: 20 });
    expect(lines.defects).toEqual([]);
    expect(bench(lines.files[0]!.bytes).alarms).toEqual([]);
    const rings = await write(master, { ...options, clearing: 'rings' });
    const [a, b] = [
      cleared(lines.projection.leaves[0]!.body as Machining),
      cleared(rings.projection.leaves[0]!.body as Machining),
    ];
    const only = (one: Set<string>, other: Set<string>) => [...one].filter((cell) => !other.has(cell)).length;
    // Cells of 0.5 mm: along the edge of either some fall the other way.
    expect(a.size).toBeGreaterThan(33_000);
    expect(only(a, b)).toBeLessThan(0.002 * a.size);
    expect(only(b, a)).toBeLessThan(0.002 * a.size);
  });
});

/** Cells of half a millimetre that a tool 6 mm wide takes away. */
function cleared({ ends, motion, count }: Machining): Set<string> {
  const cells = new Set<string>();
  for (let i = 1; i < count; i++) {
    if (!motion[i] || !(ends[3 * i + 2]! < -2.9) || !(ends[3 * i - 1]! < -2.9)) continue;
    const [x0, y0, x1, y1] = [ends[3 * i - 3]!, ends[3 * i - 2]!, ends[3 * i]!, ends[3 * i + 1]!];
    const [dx, dy] = [x1 - x0, y1 - y0];
    for (let cx = Math.floor(2 * (Math.min(x0, x1) - 3)); cx <= 2 * (Math.max(x0, x1) + 3); cx++)
      for (let cy = Math.floor(2 * (Math.min(y0, y1) - 3)); cy <= 2 * (Math.max(y0, y1) + 3); cy++) {
        const [x, y] = [cx / 2 + 0.25, cy / 2 + 0.25];
        const share = Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / (dx * dx + dy * dy || 1)));
        if (Math.hypot(x - x0 - share * dx, y - y0 - share * dy) <= 3) cells.add(`${cx} ${cy}`);
      }
  }
  return cells;
}
