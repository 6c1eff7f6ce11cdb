import { type Master, checkCopy, codecOf, derive, isPattern, recipeOf, unpackDrawing } from '../src';
import { areaOfPolyline } from '../src/base/geometry/measure';
import { flatten } from '../src/base/geometry/flatten';
import { shippedFonts } from '../../render/src';
import { masterWith, rectangle } from './build';
import { python } from './python';
import { judgedBy } from './judged-by';

const services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';
const style = { fill: '#2b4181', stroke: '#c23b23', strokeWidth: 0.5 } as const;
const master: Master = masterWith([
  rectangle('plate', 10, 10, { style: { ...style, opacity: 0.5 } }),
  { kind: 'ellipse', id: 'hole', layer: 'cut', style: { ...style, stroke: null, strokeWidth: 0 }, cx: 30, cy: 70, rx: 8, ry: 8 },
  { kind: 'ellipse', id: 'pool', layer: 'cut', style, cx: 70, cy: 70, rx: 18, ry: 8 },
  rectangle('line', 120, 10, { style: { ...style, fill: null } }),
  rectangle('bare', 120, 60, { style: { fill: null, stroke: null, strokeWidth: 0 } }),
]);
const text = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const made = (options: object) => derive({ master, rev: 1, time }, recipeOf('dxf', { ...options }), services);
const judged = async (options: object, change: (words: string) => string) => {
  const { files, says } = await made(options);
  const bytes = new TextEncoder().encode(change(text(files[0]!.bytes)));
  const recipe = recipeOf('dxf', { ...options });
  return checkCopy({ files: [{ part: '', bytes }], intact: false, says, recipe, current: master, baseline: master }, services);
};

describe('fills as hatches', () => {
  it.each(['2000', '2004'])('of version %s come back as they went, by themselves, and are said', async (version) => {
    const { defects, report, projection } = await made({ version, fills: 'hatches' });
    expect(defects).toEqual([]);
    expect(report.lines.find(({ feature }) => feature === 'fills')).toMatchObject({ outcome: 'restated', count: 3 });
    const { entries } = unpackDrawing(projection.leaves[0]!.body as never);
    // Plate and pool with their lines, the hole without one, a line, and what has neither in its layer's colour.
    expect(entries.map(({ style: { fill, stroke } }) => [fill !== null, stroke !== null])).toEqual([
      [true, false],
      [false, true],
      [true, false],
      [true, false],
      [false, true],
      [false, true],
      [false, true],
    ]);
    const [plate] = entries;
    expect(plate!.style.fill).toBe(version === '2004' ? '#2b4181' : '#404080');
    // One of 255 steps.
    expect(plate!.style.opacity).toBeCloseTo(version === '2004' ? 0.5 : 1, 2);
  });

  it('are not there where they are not asked for, nor in R12', async () => {
    for (const options of [{ version: '2004' }, { version: 'R12', fills: 'hatches' }]) {
      const { files, report } = await made(options);
      expect(text(files[0]!.bytes)).not.toContain('HATCH');
      expect(report.lines.find(({ feature }) => feature === 'fills')).toMatchObject({ outcome: 'left out' });
    }
  });

  it.each([
    ['nothing at all', (words: string) => words, 'in step'],
    ['another colour', (words: string) => words.replace(`420\n${0x2b4181}\n`, `420\n${0x2b41c1}\n`), 'touched'],
    ['a line’s true colour', (words: string) => words.replace(`420\n${0xc23b23}\n`, `420\n${0xff3b23}\n`), 'touched'],
    ['how much shows through', (words: string) => words.replace(/440\n\d+\n/, '440\n33554482\n'), 'touched'],
    [
      'a corner moved',
      (words: string) => words.replace(/(AcDbHatch[\s\S]*?93\n4\n10\n)(\d+)/, (_, head: string) => `${head}9.9`),
      'touched',
    ],
    ['a hatch gone', (words: string) => words.replace(/0\nHATCH\n[\s\S]*?98\n1\n10\n0\n20\n0\n/, ''), 'touched'],
  ])('are judged after %s', async (_, change, verdict) =>
    expect((await judged({ version: '2004', fills: 'hatches' }, change)).verdict).toBe(verdict),
  );

  judgedBy('ezdxf').it.each(['2000', '2004'])(
    'of version %s are hatches to a library that nobody here wrote',
    async (version) => {
      const { files } = await made({ version, fills: 'hatches' });
      const script = `
import ezdxf, json
doc = ezdxf.readfile("a.dxf")
audit = doc.audit()
hatches = doc.modelspace().query("HATCH")
print(json.dumps([doc.dxfversion, len(audit.errors) + len(audit.fixes), [[h.rgb, round(h.transparency, 2), h.dxf.solid_fill, [type(p).__name__ for p in h.paths]] for h in hatches],
  [l.rgb for l in doc.layers if l.dxf.name != "0" and l.dxf.name != "Defpoints"]]))
`;
      const [is, repairs, hatches, layers] = JSON.parse(python(script, files[0]!.bytes).out) as [
        string,
        number,
        unknown[][],
        unknown[],
      ];
      expect([is, repairs]).toEqual([version === '2004' ? 'AC1018' : 'AC1015', 0]);
      const colour = version === '2004' ? [43, 65, 129] : null;
      expect(hatches).toEqual([
        [colour, version === '2004' ? 0.5 : 0, 1, ['PolylinePath']],
        [colour, 0, 1, ['PolylinePath']],
        [colour, 0, 1, ['EdgePath']],
      ]);
      expect(layers.every((rgb) => (rgb === null) === (version !== '2004'))).toBe(true);
    },
  );

  judgedBy('ezdxf').it('that another library made come in, whichever way their edges run', async () => {
    const { written } = python(`
import ezdxf
doc = ezdxf.new("R2004", setup=False)
doc.header["$INSUNITS"] = 4
space = doc.modelspace()
half = space.add_hatch(color=1)
edge = half.paths.add_edge_path()
edge.add_line((0, 0), (20, 0))
edge.add_arc((10, 0), radius=10, start_angle=0, end_angle=180, ccw=True)
other = space.add_hatch(color=3)
edge = other.paths.add_edge_path()
edge.add_arc((50, 0), radius=10, start_angle=0, end_angle=180, ccw=False)
edge.add_line((40, 0), (60, 0))
oval = space.add_hatch(color=5)
oval.paths.add_edge_path().add_ellipse((90, 0), major_axis=(12, 0), ratio=0.5, start_angle=0, end_angle=360, ccw=True)
ring = space.add_hatch(color=2)
ring.paths.add_polyline_path([(0, 30), (20, 30), (20, 50), (0, 50)])
ring.paths.add_polyline_path([(5, 35, 1), (15, 35, 1)])
lines = space.add_hatch(color=4)
lines.set_pattern_fill("ANSI31", scale=1)
lines.paths.add_polyline_path([(60, 30), (80, 30), (80, 50)])
doc.saveas("a.dxf")
`);
    const read = await (await codecOf('dxf')).read([{ part: '', bytes: written }], {}, services);
    expect(read.notUnderstood).toEqual([]);
    const { entries } = unpackDrawing(read.leaves[0]!.body as never);
    const areas = entries.map((entry) =>
      entry.kind === 'path' ? entry.outlines.map((outline) => Math.abs(areaOfPolyline(flatten(outline, 0.001)))) : [],
    );
    const half = (Math.PI * 100) / 2;
    const expected = [[half], [half], [Math.PI * 12 * 6], [400, Math.PI * 25], [200]];
    areas.forEach((own, i) => own.forEach((area, k) => expect(Math.abs(area - expected[i]![k]!)).toBeLessThan(0.5)));
    expect(areas).toHaveLength(5);
    expect(isPattern(entries[4]!.style.fill)).toBe(true);
    expect(entries.every(({ style: one }) => one.stroke === null && one.fillRule === 'evenodd')).toBe(true);
  });
});
