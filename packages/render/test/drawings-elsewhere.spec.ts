import {
  type Brought,
  type Item,
  boxOfOutlines,
  bringInAny,
  endOf,
  lengthOfPolyline,
  areaOfPolyline,
  flatten,
  resolveBoard,
} from '@inkwell-twin/core';
import { pictureEngine, shippedFonts } from '../src';
import { judgedBy } from '../../core/test/judged-by';
import { python } from '../../core/test/python';

const fonts = shippedFonts();
const services = { pictures: pictureEngine, fonts };
/** A drawing that the other library writes, as a master. */
async function drawn(script: string): Promise<Brought> {
  const whole = `import ezdxf\nd = ezdxf.new('R2010', setup=True)\nd.units = 4\nm = d.modelspace()\n${script}\nd.saveas('a.dxf')`;
  return bringInAny(python(whole).written, 'a.dxf', services);
}
const items = ({ master }: Brought): readonly Item[] => master.boards[0]!.items;
/** Whether any of it is told to a person. */
const told = ({ notUnderstood }: Brought): string[] =>
  notUnderstood.filter(({ kind, shows }) => shows && !/^text style/.test(kind)).map(({ kind }) => kind);
const styleOf = (one: Item | undefined) => (one && 'style' in one ? one.style : undefined);
const outlinesOf = (one: Item) => (one.kind === 'path' ? one.outlines : []);

judgedBy('ezdxf').describe('drawings of other programs', () => {
  it('have polylines as wide as they say: an even width as a line, a changing one as the area that it covers', async () => {
    const read = await drawn(`m.add_lwpolyline([(0, 0), (60, 0), (60, 40)], dxfattribs={'const_width': 5})
m.add_lwpolyline([(0, 60, 4, 2), (50, 60, 0, 0)], format='xyse')
m.add_polyline2d([(0, 90), (50, 90)], dxfattribs={'default_start_width': 3, 'default_end_width': 3})`);
    const [even, tapered, old] = items(read);
    expect(told(read)).toEqual([]);
    expect([styleOf(even)!.strokeWidth, styleOf(old)!.strokeWidth]).toEqual([5, 3]);
    const area = outlinesOf(tapered!).reduce((sum, one) => sum + Math.abs(areaOfPolyline(flatten(one, 0.01))), 0);
    expect(area).toBeCloseTo(((4 + 2) / 2) * 50, 3);
    expect(styleOf(tapered)).toMatchObject({ stroke: null });
  });

  it('have points, lines beside each other, and surfaces by their edges', async () => {
    const read = await drawn(`m.add_point((10, 10))
s = d.mline_styles.new('three')
for offset in (0.5, 0, -0.5): s.elements.append(offset, 1)
m.add_mline([(0, 30), (40, 30)], dxfattribs={'style_name': 'three', 'scale_factor': 8})
mesh = m.add_mesh()
with mesh.edit_data() as e:
    e.vertices = [(0, 50, 0), (20, 50, 0), (20, 70, 0), (0, 70, 0), (10, 60, 9)]
    e.faces = [(0, 1, 4), (1, 2, 4), (2, 3, 4), (3, 0, 4)]
m.add_polyface().append_faces([[(40, 50, 0), (60, 50, 0), (60, 70, 0), (40, 70, 0)]])
net = getattr(m, 'add_poly' + 'mesh')((3, 4))
for i in range(3):
    for k in range(4): net.set_mesh_vertex((i, k), (80 + 10 * i, 50 + 5 * k, i))`);
    const [point, beside, mesh, face, net] = items(read);
    expect(told(read)).toEqual([]);
    expect(styleOf(point)).toMatchObject({ stroke: null });
    const heights = outlinesOf(beside!).map(({ start }) => start[1]);
    expect(heights.map((one) => Math.round((one - heights[1]!) * 1e6) / 1e6)).toEqual([4, 0, -4]);
    expect([mesh, face, net].map((one) => outlinesOf(one!).length)).toEqual([8, 4, 3 * 3 + 2 * 4]);
  });

  it('have what covers what lies under it, and curves through the points that they were made by', async () => {
    const read = await drawn(`m.add_wipeout([(10, 10), (50, 30)])
m.add_spline(fit_points=[(0, 50), (20, 80), (50, 50), (90, 70)])`);
    const [cover, curve] = items(read);
    expect(told(read)).toEqual([]);
    const { minX, maxX, minY, maxY } = boxOfOutlines(outlinesOf(cover!));
    expect(
      [styleOf(cover)!.fill, maxX - minX, maxY - minY].map((one) => (typeof one === 'number' ? Math.round(one) : one)),
    ).toEqual(['#ffffff', 40, 20]);
    const [outline] = outlinesOf(curve!);
    const through = [outline!.start, ...outline!.segments.map(({ to }) => to)].map(([x, y]) => [
      x - outline!.start[0],
      y - outline!.start[1],
    ]);
    expect(through.map(([x, y]) => [Math.round(x!), Math.round(y!)])).toEqual([
      [0, 0],
      [20, 30],
      [50, 0],
      [90, 20],
    ]);
    // It has no corner.
    outline!.segments.slice(1).forEach((segment, i) => {
      const before = outline!.segments[i]!;
      if (segment.kind !== 'cubic' || before.kind !== 'cubic') throw new Error('no curve');
      const turn = (from: readonly number[], to: readonly number[]) => Math.atan2(to[1]! - from[1]!, to[0]! - from[0]!);
      expect(turn(before.c2, before.to)).toBeCloseTo(turn(before.to, segment.c1), 6);
    });
    expect(endOf(outline!)).toEqual(outline!.segments.at(-1)!.to);
  });

  it('have what lies in a tilted plane as it is seen from above', async () => {
    const read = await drawn(`m.add_circle((0, 0, 0), 20, dxfattribs={'extrusion': (0, 1, 1)})
m.add_text('behind', dxfattribs={'height': 8, 'extrusion': (0, 0, -1)}).set_pos((-100, 0))`);
    expect(told(read)).toEqual([]);
    const [circle] = resolveBoard(read.master, read.master.boards[0]!).entries;
    const { minX, maxX, minY, maxY } = boxOfOutlines(circle!.kind === 'path' ? circle!.outlines : []);
    expect(maxX - minX).toBeCloseTo(40, 3);
    expect(maxY - minY).toBeCloseTo(40 * Math.SQRT1_2, 3);
    const behind = items(read).find(({ kind }) => kind === 'text')! as Item & { kind: 'text' };
    const [a, b, c, d] = behind.transform!;
    expect([a, b, c, d]).toEqual([-1, 0, 0, 1].map((one) => expect.closeTo(one, 9) as number));
  });

  it('have texts that are fitted, mirrored, slanted and broken as they are meant', async () => {
    const read = await drawn(`m.add_text('fitted', dxfattribs={'height': 8}).set_pos((0, 0), (80, 0), align='FIT')
m.add_text('mirrored', dxfattribs={'height': 8, 'text_generation_flag': 2}).set_pos((0, 20))
m.add_text('slanted', dxfattribs={'height': 8, 'oblique': 15}).set_pos((0, 40))
m.add_mtext('a column of words that is wider than it may be', dxfattribs={'char_height': 5, 'width': 60, 'insert': (0, 90)})`);
    expect(told(read)).toEqual([]);
    const { entries } = resolveBoard(read.master, read.master.boards[0]!);
    const texts = entries.flatMap((one) => (one.kind === 'text' ? [one] : []));
    const boxes = texts.map((one) => boxOfOutlines(fonts.outline(one).outlines));
    expect(boxes[0]!.maxX - boxes[0]!.minX).toBeGreaterThan(75);
    expect(boxes[0]!.maxX - boxes[0]!.minX).toBeLessThan(81);
    expect(texts[1]!.frame[0]).toBeLessThan(0);
    expect(texts[2]!.frame[2] / texts[2]!.frame[3]).toBeCloseTo(Math.tan((15 * Math.PI) / 180), 6);
    expect(texts.length).toBeGreaterThan(5);
    for (const box of boxes.slice(3)) expect(box.maxX - box.minX).toBeLessThanOrEqual(61);
  });

  it('have leaders with their arrows and notes, one line or several, and endless lines as far as the board goes', async () => {
    const read = await drawn(`from ezdxf.render import mleader
from ezdxf.math import Vec2
m.add_leader([(0, 0), (20, 20), (40, 20)])
note = m.add_multileader_mtext('Standard')
note.set_content('two lines', char_height=3)
note.add_leader_line(mleader.ConnectionSide.left, [Vec2(-30, -20)])
note.add_leader_line(mleader.ConnectionSide.right, [Vec2(70, -20)])
note.build(insert=Vec2(10, 10))
m.add_ray((0, 0), (1, 1))
m.add_xline((0, 10), (1, 0))`);
    expect(told(read)).toEqual([]);
    const { entries } = resolveBoard(read.master, read.master.boards[0]!);
    expect(entries.filter(({ kind }) => kind === 'text')).toHaveLength(1);
    const paths = items(read).filter(({ kind }) => kind === 'path');
    const isArrow = (one: Item) => styleOf(one)!.stroke === null;
    expect([paths.filter(isArrow).length, paths.filter((one) => !isArrow(one)).length]).toEqual([3, 5]);
    const { width } = read.master.boards[0]!;
    const lengths = paths.flatMap((one) => outlinesOf(one).map((outline) => lengthOfPolyline(flatten(outline, 1))));
    expect(Math.max(...lengths)).toBeCloseTo(width, 3);
  });

  it('have lines that are seen on a board of metres, which is said', async () => {
    const read = await drawn(`d.units = 6\nm.add_lwpolyline([(0, 0), (20, 0), (20, 12)])`);
    expect(styleOf(items(read)[0])!.strokeWidth).toBe(5);
    expect(read.notUnderstood).toContainEqual({ kind: 'lines of a drawing of metres, 20 times as wide', count: 1, shows: false });
    expect(lengthOfPolyline(flatten(outlinesOf(items(read)[0]!)[0]!, 1))).toBeCloseTo(32_000, 3);
  });
});
