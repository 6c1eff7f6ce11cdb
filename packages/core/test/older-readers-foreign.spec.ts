import fc from 'fast-check';
import { OLDER_READERS, type Seen } from '../../standins/src';
import { atDepth, runs } from './depth';
import { judgedBy } from './judged-by';
import { python } from './python';

const open = (version: string, file: string | Uint8Array): Seen =>
  OLDER_READERS[`dxf-${version.toLowerCase()}`]!(typeof file === 'string' ? new TextEncoder().encode(file) : file);
/** A file of groups, code and value in turn, in one line each. */
const groups = (words: string): string => words.split(' ').join('\n');
const layer = (name: string, more = '') => `0 LAYER 2 ${name} 70 0 62 7 ${more}`.trim();
/** A drawing of the oldest version. */
const file = (blocks: string, entities: string, layers = layer('0')): string =>
  `${groups(`0 SECTION 2 TABLES ${layers} 0 ENDSEC 0 SECTION 2 BLOCKS ${blocks} 0 ENDSEC 0 SECTION 2 ENTITIES ${entities} 0 ENDSEC 0 EOF`).replace(/\n+/g, '\n')}\n`;
/** A drawing of a version with handles and classes, of one entity. */
const newer = (type: string, words: string): string =>
  groups(
    `0 SECTION 2 HEADER 9 $ACADVER 1 AC1015 0 ENDSEC 0 SECTION 2 TABLES ${layer('0', '5 9')} 0 ENDSEC 0 SECTION 2 ENTITIES 0 ${type} 5 10 100 AcDbEntity 8 0 ${words} 0 ENDSEC 0 EOF`,
  );
const use = (name: string, more = '') => `0 INSERT 8 0 2 ${name} 10 0 20 0 ${more}`.trim();
const LINE = '0 LINE 8 0 10 0 20 0 11 1 21 1';
const block = (name: string, entities: string, more = '') => `0 BLOCK 2 ${name} ${more} ${entities} 0 ENDBLK`.replace(/ +/g, ' ');
/** Each block uses the next ten times: 10^11 lines. */
const laughing = Array.from({ length: 12 }, (_, i) =>
  block(
    `b${i}`,
    i < 11
      ? Array(10)
          .fill(use(`b${i + 1}`))
          .join(' ')
      : LINE,
  ),
).join(' ');
const controls = (count: number, x: (i: number) => string) =>
  Array.from({ length: count }, (_, i) => `10 ${x(i)} 20 0`).join(' ');
const knots = (...values: number[]) => values.map((value) => `40 ${value}`).join(' ');

describe('the reader of an age, of a file that is none or means harm', () => {
  it.each([
    ['nothing at all', '', 'the file has no end'],
    ['a code that is none', '0\nSECTION\nx\nENTITIES\n', '“x” is no group code'],
    ['a layer in no table', file('', '0 LINE 8 lost 10 0 20 0 11 1 21 1'), 'layer lost is in no table'],
    ['blocks in each other', file(block('a', use('a')), use('a')), 'blocks lie in each other without end'],
    ['blocks that become 10^11 lines', file(laughing, use('b0')), 'there are more than 500000 things to draw'],
    [
      'a block in 30,000 rows and columns',
      file(block('a', ''), use('a', '70 30000 71 30000 44 1 45 1')),
      'there are more than 500000 things to draw',
    ],
    [
      'circles that become too many points',
      file(block('a', Array(100).fill('0 CIRCLE 8 0 10 0 20 0 40 1e12').join(' ')), use('a')),
      'there are more than 4000000 points to draw',
    ],
    ['a radius that is no number', file('', '0 CIRCLE 8 0 10 0 20 0 40 inf'), 'group 40 is no number: “inf”'],
  ])('gives up %s', (_what, words, why) => {
    expect(open('R12', words)).toMatchObject({ opens: false, refused: { words: why }, lines: [] });
  });

  it.each([
    ['of degree 500', `71 500 ${knots(...Array<number>(1001).fill(0))} ${controls(500, String)}`, /a spline of degree 500/],
    ['of fewer points than its degree', `71 3 ${knots(0, 0, 1, 1)} ${controls(2, String)}`, /has 2 control points/],
    ['of too few knots', `71 3 ${knots(0, 0, 0, 1)} ${controls(4, String)}`, /4 knots for 4 control points of degree 3/],
    [
      'with a point that is no number',
      `71 3 ${knots(0, 0, 0, 0, 1, 1, 1, 1)} ${controls(4, () => '1e999')}`,
      /group 10 is no number/,
    ],
  ])('gives up a spline %s', (_what, words, why) => {
    const { opens, refused } = open('2000', newer('SPLINE', words));
    expect([opens, refused!.words]).toEqual([false, expect.stringMatching(why)]);
  });

  it.each([
    ['a circle of radius 1e300', open('R12', file('', '0 CIRCLE 8 0 10 0 20 0 40 1e300'))],
    ['a line to 1e300', open('R12', file('', '0 LINE 8 0 10 0 20 0 11 1e300 21 0'))],
    [
      'a spline out to 3e200',
      open('2000', newer('SPLINE', `71 3 ${knots(0, 0, 0, 0, 1, 1, 1, 1)} ${controls(4, (i) => `${i}e200`)}`)),
    ],
  ])('passes over %s, and says so', (_what, { opens, dropped, lines }) => {
    expect([opens, dropped, lines]).toEqual([true, [{ what: 'lines that lie too far off', count: 1 }], []]);
  });

  it('sees no line that is hidden', () => {
    const words = '100 AcDbLine 10 0 20 0 11 1 21 1';
    expect(open('2000', newer('LINE', words)).lines).toHaveLength(1);
    expect(open('2000', newer('LINE', `60 1 ${words}`))).toMatchObject({ opens: true, lines: [], dropped: [] });
  });

  it('opens or says why not, whatever stands in it', () => {
    const lines = file(
      block('a', `${LINE} ${use('b', '70 2 44 5')}`) + ' ' + block('b', '0 ARC 8 0 10 1 20 2 40 3 50 0 51 90'),
      use('a'),
    ).split('\n');
    const odd = fc.constantFrom('-1', '0', '3', '1e308', 'nan', '', '99999999999', 'INSERT', 'POLYLINE', 'VERTEX', 'ENDSEC');
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: lines.length - 1 }), odd), { minLength: 1, maxLength: 6 }),
        fc.constantFrom(...Object.keys(OLDER_READERS)),
        (changes, reader) => {
          const spoilt = [...lines];
          for (const [at, value] of changes) spoilt[at] = value;
          const seen = OLDER_READERS[reader]!(new TextEncoder().encode(spoilt.join('\n')));
          expect(seen.opens).toBe(seen.refused === null);
          if (!seen.opens) expect(seen.refused!.words).not.toBe('');
        },
      ),
      { numRuns: runs(900) },
    );
  });

  it('reads on where it does not know the code page', () => {
    const words = `0\nSECTION\n2\nHEADER\n9\n$DWGCODEPAGE\n3\nANSI_9999\n0\nENDSEC\n${file('', LINE)}`;
    expect(open('R12', words)).toMatchObject({ opens: true, lines: [{ layer: '0' }] });
  });
});

/** Where lines lie: the box of each, to a tenth, sorted. */
const boxes = (lines: readonly (readonly (readonly [number, number])[])[]): string[] =>
  lines
    .map((points) => {
      const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
      return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)]
        .map((n) => (Math.round(n * 10) / 10 + 0).toFixed(1))
        .join(' ');
    })
    .sort();

judgedBy('ezdxf').describe('the reader of an age, of files that another library wrote', () => {
  it('sees what that library put in', () => {
    const { written } = python(`
import ezdxf
doc = ezdxf.new('R12')
doc.layers.add('Reed', color=3)
space = doc.modelspace()
block = doc.blocks.new('stem')
block.add_line((0, 0), (0, 10), dxfattribs={'layer': 'Reed'})
for i in range(5): space.add_blockref('stem', (10 * i, 0), dxfattribs={'rotation': 90})
space.add_circle((50, 50), 7, dxfattribs={'layer': 'Reed'})
space.add_text('Sedge Loop', dxfattribs={'height': 5, 'layer': 'Reed'})
doc.saveas('a.dxf')
`);
    const seen = open('R12', written);
    expect(seen.refused).toBeNull();
    expect(seen.lines.map(({ layer: on, colour }) => `${on} ${colour}`)).toEqual(Array(6).fill('Reed 3'));
    expect(seen.lines[1]!.points.map(([x, y]) => [Math.round(x), Math.round(y)])).toEqual([
      [10, 0],
      [0, 0],
    ]);
    expect(seen.texts).toMatchObject([{ words: 'Sedge Loop', height: 5 }]);
  });

  it.each(atDepth(['R12', 'R2010'], ['R12', 'R2000', 'R2004', 'R2010', 'R2018']))(
    '%s: sees symbols with a base, in rows and columns, from behind and in each other where that library sees them',
    (version) => {
      const { written, out } = python(`
import ezdxf, random, json, sys
from ezdxf import disassemble
random.seed(${process.env['INKWELL_SEED'] ?? 20_261_202})
r = lambda a, b: random.uniform(a, b)
doc = ezdxf.new('${version}')
space = doc.modelspace()
names = []
for n in range(4):
    block = doc.blocks.new('b%d' % n, base_point=(r(-5, 5), r(-5, 5)))
    block.add_line((r(-9, 9), r(-9, 9)), (r(-9, 9), r(-9, 9)))
    block.add_circle((r(-9, 9), r(-9, 9)), r(1, 5), dxfattribs={'extrusion': random.choice([(0, 0, 1), (0, 0, -1)])})
    block.add_arc((r(-9, 9), r(-9, 9)), r(1, 5), r(0, 360), r(0, 360), dxfattribs={'extrusion': random.choice([(0, 0, 1), (0, 0, -1)])})
    block.add_solid([(0, 0), (r(1, 9), 0), (0, r(1, 9)), (r(5, 9), r(5, 9))])
    if '${version}' != 'R12':
        block.add_lwpolyline([(r(-9, 9), r(-9, 9)) for _ in range(4)], close=True, dxfattribs={'extrusion': (0, 0, -1)})
        block.add_ellipse((1, 2), (r(2, 6), r(-3, 3)), r(.2, .9), r(0, 3), r(3, 6), dxfattribs={'extrusion': random.choice([(0, 0, 1), (0, 0, -1)])})
        block.add_open_spline([(r(-9, 9), r(-9, 9), 0) for _ in range(6)])
    for name in names[-1:]:
        scale = r(.5, 2)
        block.add_blockref(name, (r(-20, 20), r(-20, 20)), dxfattribs={'rotation': r(0, 360), 'xscale': scale, 'yscale': random.choice([-1, 1]) * (scale if n > 1 else r(.5, 2))})
    names.append('b%d' % n)
if '${version}' != 'R12':
    for z in (-1, 1): space.add_lwpolyline([(r(-9, 9), r(-9, 9), 0, 0, r(-1, 1)) for _ in range(4)], close=True, dxfattribs={'extrusion': (0, 0, z)})
# A use that is stretched can't be opened exactly by that library where it holds another one.
for name in names * 3:
    scale = r(.5, 2)
    space.add_blockref(name, (r(-200, 200), r(-200, 200)), dxfattribs={
        'rotation': r(0, 360), 'xscale': scale, 'yscale': random.choice([-1, 1]) * scale if name != 'b0' else r(.5, 2), 'zscale': 1,
        'extrusion': random.choice([(0, 0, 1), (0, 0, -1)]),
        'column_count': random.choice([1, 2, 3]), 'row_count': random.choice([1, 2]), 'column_spacing': r(5, 30), 'row_spacing': r(-30, 30)})
doc.saveas('a.dxf')
def opened(entities):
    for one in entities:
        if one.dxftype() != 'INSERT': yield one
        else:
            for use in one.multi_insert() if one.mcount > 1 else [one]: yield from opened(use.virtual_entities())
paths = []
for primitive in disassemble.to_primitives(opened(space), max_flattening_distance=0.01):
    points = [(p.x, p.y) for p in primitive.vertices()]
    xs, ys = zip(*points)
    paths.append([[min(xs), min(ys)], [max(xs), max(ys)]])
print(json.dumps(paths))
`);
      const seen = open(version.replace('R2', '2'), written);
      expect([seen.refused, seen.dropped]).toEqual([null, []]);
      const near = (box: string, other: string) =>
        box.split(' ').every((n, i) => Math.abs(Number(n) - Number(other.split(' ')[i])) < 0.15);
      const [mine, theirs] = [boxes(seen.lines.map(({ points }) => points)), boxes(JSON.parse(out) as [number, number][][])];
      expect(mine).toHaveLength(theirs.length);
      expect(mine.filter((box) => !theirs.some((other) => near(box, other)))).toEqual([]);
      expect(theirs.filter((box) => !mine.some((other) => near(box, other)))).toEqual([]);
    },
  );

  it('sees nothing of what is switched off, frozen, on paper or hidden; a symbol on layer 0 lies where it is used', () => {
    const { written } = python(`
import ezdxf
doc = ezdxf.new('R2010')
for name, act in [('Off', 'off'), ('Frozen', 'freeze'), ('Reed', 'on')]: getattr(doc.layers.add(name, color=3), act)()
space = doc.modelspace()
stem = doc.blocks.new('stem')
stem.add_line((0, 0), (0, 10))
stem.add_line((0, 0), (0, 20), dxfattribs={'color': 0})
stem.add_line((0, 0), (0, 30), dxfattribs={'layer': 'Reed'})
stem.add_attdef('NAME', (1, 1), 'unseen')
for name in ('Off', 'Frozen', 'Reed'):
    space.add_line((0, 0), (9, 0), dxfattribs={'layer': name})
    space.add_blockref('stem', (50, 0), dxfattribs={'layer': name, 'color': 5}).add_attrib('NAME', 'Stem ' + name, (50, 5), dxfattribs={'layer': name})
doc.layout('Layout1').add_line((0, 0), (88, 0))
space.add_attdef('LOOSE', (3, 3), 'loose', dxfattribs={'height': 2})
doc.saveas('a.dxf')
`);
    const seen = open('2010', written);
    expect([seen.refused, seen.dropped]).toEqual([null, []]);
    expect(seen.lines.map(({ layer: on, colour, points }) => `${on} ${colour} ${points[1]}`).sort()).toEqual([
      'Reed 3 50,10',
      'Reed 3 50,30',
      'Reed 3 50,30',
      'Reed 3 9,0',
      'Reed 5 50,20',
    ]);
    expect(seen.texts.map(({ words }) => words)).toEqual(['Stem Reed', 'loose']);
  });

  it('sees a dimension as its drawing, and hatches whose edges are arcs', () => {
    const { written } = python(`
import ezdxf
doc = ezdxf.new('R2000', setup=True)
space = doc.modelspace()
space.add_linear_dim(base=(0, 20), p1=(0, 0), p2=(40, 0)).render()
hatch = space.add_hatch(color=2)
edge = hatch.paths.add_edge_path()
edge.add_arc((100, 0), radius=10, start_angle=0, end_angle=180)
edge.add_ellipse((100, 0), major_axis=(10, 0), ratio=.5, start_angle=180, end_angle=360)
back = hatch.paths.add_edge_path()
back.add_arc((200, 0), radius=10, start_angle=0, end_angle=90, ccw=False)
back.add_line((200, 0), (210, 0))
doc.saveas('a.dxf')
`);
    const seen = open('2000', written);
    expect(seen.refused).toBeNull();
    expect(seen.texts.map(({ words }) => words)).toEqual(['4000']);
    const filled = seen.lines.filter((line) => line.filled);
    expect(boxes(filled.map(({ points }) => points))).toContain('90.0 -5.0 110.0 10.0');
    expect(filled.some(({ colour }) => colour === 2)).toBe(true);
    expect(seen.lines.filter((line) => !line.filled).length).toBeGreaterThanOrEqual(3);
  });
});
