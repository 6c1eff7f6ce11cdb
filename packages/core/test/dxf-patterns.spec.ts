import {
  type Item,
  type Master,
  type Matrix,
  type Pattern,
  type Point,
  type ReadCopy,
  apply,
  checkCopy,
  codecOf,
  derive,
  isPattern,
  recipeOf,
  unpackDrawing,
} from '../src';
import { shippedFonts } from '../../render/src';
import { masterWith, rectangle } from './build';
import { python } from './python';
import { judgedBy } from './judged-by';

const services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';
const recipe = recipeOf('dxf', { version: '2004', fills: 'hatches' });

type Line = readonly [from: Point, to: Point];
interface Cell {
  readonly size: readonly [width: number, height: number];
  readonly lines: readonly Line[];
  readonly at: Matrix;
}
/** Cells of straight lines, each laid in a way of its own. */
const CELLS: Readonly<Record<string, Cell>> = {
  crossed: {
    size: [4, 3],
    lines: [
      [
        [0, 1],
        [4, 1],
      ],
      [
        [2, 0],
        [2, 3],
      ],
    ],
    at: [1, 0, 0, 1, 1, 2],
  },
  slanted: {
    size: [5, 5],
    lines: [
      [
        [0, 0],
        [5, 5],
      ],
    ],
    at: [1, 0, 0, 1, 0, 0],
  },
  steep: {
    size: [3, 2],
    lines: [
      [
        [0, 0],
        [1.5, 2],
      ],
      [
        [1.5, 0],
        [3, 2],
      ],
    ],
    at: [0.8, 0.6, -0.6, 0.8, 3, 1],
  },
  dashed: {
    size: [6, 4],
    lines: [
      [
        [1, 2],
        [3, 2],
      ],
    ],
    at: [0.8, 0.6, -0.6, 0.8, 3, 1],
  },
  bricks: {
    size: [8, 4],
    lines: [
      [
        [0, 0],
        [8, 0],
      ],
      [
        [0, 2],
        [8, 2],
      ],
      [
        [0, 0],
        [0, 2],
      ],
      [
        [4, 2],
        [4, 4],
      ],
    ],
    at: [1, 0, 0, 1, 0.5, 0.25],
  },
  'over the edge': {
    size: [6, 4],
    lines: [
      [
        [-1, 2],
        [2, 2],
      ],
      [
        [5, 2],
        [9, 2],
      ],
    ],
    at: [1, 0, 0, 1, 0, 0],
  },
  leaning: {
    size: [4, 4],
    lines: [
      [
        [0, 2],
        [2.5, 2],
      ],
    ],
    at: [1, 0, 0.4, 1, 0, 0],
  },
};
const FRAME = { x: 10, y: 20, width: 16, height: 12 };

const line = (id: string, [[x1, y1], [x2, y2]]: Line, stroke = '#2f6b3c'): Item =>
  ({
    kind: 'path',
    id,
    layer: 'cut',
    style: { fill: null, stroke, strokeWidth: 0.25 },
    outlines: [{ start: [x1, y1], segments: [{ kind: 'line', to: [x2, y2] }], closed: false }],
  }) as unknown as Item;

function filledWith({ size, lines, at }: Cell, more: readonly Item[] = []): Master {
  const fill: Pattern = { kind: 'pattern', symbol: 'cell', width: size[0], height: size[1], at };
  const master = masterWith([
    rectangle('field', FRAME.x, FRAME.y, { ...FRAME, style: { fill, stroke: null, strokeWidth: 0 } } as never),
  ]);
  const items = [...lines.map((one, i) => line(`l${i}`, one)), ...more];
  return { ...master, symbols: [{ id: 'cell', name: 'Cell', anchor: [0, 0], items }] } as unknown as Master;
}
const made = (master: Master) => derive({ master, rev: 1, time }, recipe, services);
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const dxf = await codecOf('dxf');
const read = (bytes: Uint8Array) => dxf.read([{ part: '', bytes }], {}, services) as ReadCopy;

/** The lines that another library draws for the hatches of a file. */
const LINES = `
import json, ezdxf
from ezdxf.render import hatching
doc = ezdxf.readfile("a.dxf")
audit = doc.audit()
found = [[[round(s.x, 6), round(s.y, 6)], [round(e.x, 6), round(e.y, 6)]] for h in doc.modelspace().query("HATCH") for s, e in hatching.hatch_entity(h)]
print(json.dumps([len(audit.errors) + len(audit.fixes), found]))
`;

/** Points along lines, well inside the frame and inside their cells. */
function dotted(lines: readonly Line[], within: (point: Point) => boolean): Point[] {
  return lines.flatMap(([a, b]) => {
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const count = Math.max(1, Math.round(long / 0.5));
    return Array.from({ length: count }, (_, i): Point => {
      const share = (i + 0.5) / count;
      return [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])];
    }).filter(within);
  });
}
const inFrame = ([x, y]: Point) =>
  x > FRAME.x + 0.1 && x < FRAME.x + FRAME.width - 0.1 && y > FRAME.y + 0.1 && y < FRAME.y + FRAME.height - 0.1;
const distance = ([x, y]: Point, [[ax, ay], [bx, by]]: Line): number => {
  const [dx, dy] = [bx - ax, by - ay];
  const share = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(x - ax - share * dx, y - ay - share * dy);
};
const covered = (points: readonly Point[], by: readonly Line[]) =>
  points.filter((point) => !by.some((one) => distance(point, one) < 0.01)).length;

/** A cell's lines laid out over the frame, each cut off at its cell, the long way. */
function laidOut({ size: [w, h], lines, at }: Cell): Line[] {
  const found: Line[] = [];
  for (let i = -20; i <= 20; i++)
    for (let j = -20; j <= 20; j++)
      for (const [a, b] of lines) {
        const inside = dotted([[a, b]], ([x, y]) => x >= -1e-9 && x <= w + 1e-9 && y >= -1e-9 && y <= h + 1e-9);
        if (!inside.length) continue;
        const half = [0.5, 0.5].map(
          (_, k) => ((b[k]! - a[k]!) / Math.max(1, Math.round(Math.hypot(b[0] - a[0], b[1] - a[1]) / 0.5))) * 0.5,
        );
        const [p, q] = [inside[0]!, inside.at(-1)!];
        // The master was made before the board's axes: items lie as they are.
        const place = ([x, y]: Point): Point => apply(at, [x + i * w, y + j * h]);
        found.push([place([p[0] - half[0]!, p[1] - half[1]!]), place([q[0] + half[0]!, q[1] + half[1]!])]);
      }
  return found;
}

describe('patterns of straight lines as hatches', () => {
  it.each(Object.keys(CELLS))('%s: come back as they went, and are said', async (name) => {
    const master = filledWith(CELLS[name]!);
    const { defects, report, files } = await made(master);
    expect(defects).toEqual([]);
    expect(report.lines.find(({ feature }) => feature === 'patterns')).toMatchObject({ outcome: 'restated' });
    const { leaves, notUnderstood } = read(files[0]!.bytes);
    expect(notUnderstood).toEqual([]);
    expect(unpackDrawing(leaves[0]!.body as never).entries.every(({ style }) => isPattern(style.fill))).toBe(true);
  });

  judgedBy('ezdxf').it.each(Object.keys(CELLS))('%s: another library draws the same lines', async (name) => {
    const cell = CELLS[name]!;
    const { files } = await made(filledWith(cell));
    const [repairs, theirs] = JSON.parse(python(LINES, files[0]!.bytes).out) as [number, Line[]];
    const ours = laidOut(cell);
    expect([repairs, theirs.length > 3]).toEqual([0, true]);
    expect(covered(dotted(ours, inFrame), theirs)).toBe(0);
    expect(covered(dotted(theirs, inFrame), ours)).toBe(0);
  });

  it.each([
    [
      'an arc',
      {
        kind: 'ellipse',
        id: 'e',
        layer: 'cut',
        style: { fill: null, stroke: '#2f6b3c', strokeWidth: 0.25 },
        cx: 2,
        cy: 1,
        rx: 1,
        ry: 1,
      },
    ],
    [
      'a filled shape',
      {
        kind: 'rectangle',
        id: 'r',
        layer: 'cut',
        style: { fill: '#2f6b3c', stroke: null, strokeWidth: 0 },
        x: 1,
        y: 1,
        width: 1,
        height: 1,
        radius: 0,
      },
    ],
    [
      'a line that never meets itself again',
      line('z', [
        [0, 0],
        [4, 1.2345],
      ]),
    ],
  ])('with %s are left out, and that is said', async (_what, item) => {
    const { files, report, defects } = await made(filledWith(CELLS['crossed']!, [item as Item]));
    expect(defects).toEqual([]);
    expect(textOf(files[0]!.bytes)).not.toContain('HATCH');
    expect(report.lines.find(({ feature }) => feature === 'patterns')).toMatchObject({ outcome: 'left out' });
  });

  it.each([
    ['turned', (words: string) => words.replace(/\n53\n0\n/, '\n53\n5\n')],
    ['wider apart', (words: string) => words.replace(/\n46\n4\n/, '\n46\n4.3\n')],
    ['with longer dashes', (words: string) => words.replace(/\n49\n2\n/, '\n49\n2.4\n')],
    ['elsewhere', (words: string) => words.replace('\n43\n1\n', '\n43\n2\n')],
    ['in another colour', (words: string) => words.replace(`420\n${0x2f6b3c}\n`, `420\n${0xff6b3c}\n`)],
    ['filled all over', (words: string) => words.replace('2\nLINES\n70\n0\n', '2\nSOLID\n70\n1\n')],
  ])('a file that states them %s is touched', async (_what, change) => {
    const master = filledWith({ ...CELLS['dashed']!, at: [1, 0, 0, 1, 0, 0] });
    const { files, says } = await made(master);
    const bytes = new TextEncoder().encode(change(textOf(files[0]!.bytes)));
    expect(bytes).not.toEqual(files[0]!.bytes);
    const { verdict } = await checkCopy(
      { files: [{ part: '', bytes }], intact: false, says, recipe, current: master, baseline: master },
      services,
    );
    expect(verdict).toBe('touched');
  });

  judgedBy('ezdxf').it.each(['ANSI31', 'ANSI37', 'BRICK', 'ESCHER', 'NET3'])(
    'of another library come in as that library draws them: %s',
    async (name) => {
      const { written } = python(`
import ezdxf
doc = ezdxf.new("R2004", setup=False)
doc.header["$INSUNITS"] = 4
h = doc.modelspace().add_hatch(color=3)
h.set_pattern_fill("${name}", scale=0.5, angle=15)
h.paths.add_polyline_path([(${FRAME.x}, ${FRAME.y}), (${FRAME.x + FRAME.width}, ${FRAME.y}), (${FRAME.x + FRAME.width}, ${FRAME.y + FRAME.height}), (${FRAME.x}, ${FRAME.y + FRAME.height})])
doc.saveas("a.dxf")
`);
      const theirs = (JSON.parse(python(LINES, written).out) as [number, Line[]])[1];
      const { leaves, notUnderstood } = read(written);
      expect(notUnderstood).toEqual([]);
      const { entries } = unpackDrawing(leaves[0]!.body as never);
      const { cells } = leaves[0]!.body as { cells: Record<string, never> };
      const ours = entries.flatMap(({ style: { fill } }) => {
        if (!isPattern(fill)) return [];
        const lines = unpackDrawing(cells[fill.cell]!).entries.flatMap((one) =>
          one.kind === 'path' ? one.outlines.map(({ start, segments }): Line => [start, segments[0]!.to]) : [],
        );
        return tiled(fill.width, fill.height, lines, fill.at);
      });
      expect(covered(dotted(theirs, inFrame), ours)).toBe(0);
      expect(covered(dotted(ours, inFrame), theirs)).toBe(0);
      // As a master it is kept with a pattern that a copy can say again.
      const { master } = dxf.bringIn!(written, 'a.dxf') as { master: Master };
      const again = await made(master);
      expect(again.defects).toEqual([]);
      expect(again.report.lines.find(({ feature }) => feature === 'patterns')).toMatchObject({ outcome: 'restated' });
    },
  );
});

/** Lines of a cell wherever it is repeated near the frame. */
function tiled(width: number, height: number, lines: readonly Line[], at: Matrix): Line[] {
  const reach = Math.ceil(60 / Math.min(width, height));
  const found: Line[] = [];
  for (let i = -reach; i <= reach; i++)
    for (let j = -reach; j <= reach; j++)
      for (const [a, b] of lines) {
        const [p, q] = [a, b].map(([x, y]) => apply(at, [x + i * width, y + j * height])) as [Point, Point];
        if ([p, q].some(([x, y]) => x > 0 && x < 40 && y > 10 && y < 44)) found.push([p, q]);
      }
  return found;
}
