import { type Drawing, codecOf, entryAt } from '../src';
import { python } from './python';
import { judgedBy } from './judged-by';

/** What is read of a drawing that another library made. */
async function read(script: string) {
  const { written } = python(`
import ezdxf
doc = ezdxf.new('R2000', setup=True)
doc.units = 4
space = doc.modelspace()
${script}
doc.saveas('a.dxf')
`);
  const { leaves, notUnderstood } = await (await codecOf('dxf')).read([{ part: '', bytes: written }], {}, {} as never);
  const drawing = leaves[0]!.body as Drawing;
  const entries = Array.from({ length: drawing.count }, (_, i) => entryAt(drawing, i));
  const shows = notUnderstood.flatMap(({ kind, shows }) => (shows && !kind.startsWith('text style') ? [kind] : []));
  return { entries, shows, written };
}
const corners = (entry: ReturnType<typeof entryAt>) =>
  entry.kind === 'path'
    ? entry.outlines.map(({ start, segments }) => [start, ...segments.map(({ to }) => to)].map(([x, y]) => [x, y]))
    : [];

judgedBy('ezdxf').describe('entities of a DXF that another library wrote', () => {
  it('areas of four corners are filled in their order, crosswise', async () => {
    const { entries, shows } = await read(
      "space.add_solid([(0, 0), (10, 0), (0, 8), (10, 8)], dxfattribs={'color': 1})\nspace.add_trace([(20, 0), (30, 0), (25, 8)])",
    );
    expect(shows).toEqual([]);
    expect(corners(entries[0]!)[0]!.slice(0, 4)).toEqual([
      [0, 0],
      [10, 0],
      [10, 8],
      [0, 8],
    ]);
    expect(entries[0]!.style).toMatchObject({ fill: '#ff0000', stroke: null });
    expect(corners(entries[1]!)[0]!.slice(0, 3)).toEqual([
      [20, 0],
      [30, 0],
      [25, 8],
    ]);
  });

  it('faces are their edges, those that are hidden left out', async () => {
    const { entries, shows } = await read(
      "space.add_3dface([(0, 0), (10, 0), (10, 8), (0, 8)])\nspace.add_3dface([(0, 0), (10, 0), (10, 8), (0, 8)], dxfattribs={'invisible': 2})",
    );
    expect(shows).toEqual([]);
    expect(corners(entries[0]!)).toHaveLength(1);
    expect(corners(entries[1]!)).toEqual([
      [
        [0, 0],
        [10, 0],
      ],
      [
        [10, 8],
        [0, 8],
      ],
      [
        [0, 8],
        [0, 0],
      ],
    ]);
  });

  it('a dimension is what its block draws, in place: lines, and the words that it measures', async () => {
    const { entries, shows, written } = await read(
      'space.add_line((5, 5), (45, 5))\nspace.add_linear_dim(base=(5, 15), p1=(5, 5), p2=(45, 5)).render()',
    );
    // Its arrows are tapering lines.
    expect(shows).toEqual(['polyline width']);
    // That library's standard style measures a drawing at 1 : 100 in centimetres.
    expect(entries.flatMap((one) => (one.kind === 'text' ? [one.text] : []))).toEqual(['4000']);
    expect(entries.length).toBeGreaterThan(4);
    const { master } = await (await codecOf('dxf')).bringIn!(written, 'a.dxf');
    expect(master.boards[0]!.items).toHaveLength(2);
  });

  it('a leader is its line; its arrow is told', async () => {
    const { entries, shows } = await read("space.add_leader([(0, 0), (10, 10), (20, 10)], dxfattribs={'has_arrowhead': 1})");
    expect(shows).toEqual(['arrow of a LEADER']);
    expect(corners(entries[0]!)).toEqual([
      [
        [0, 0],
        [10, 10],
        [20, 10],
      ],
    ]);
  });

  it('lines of a text that its width breaks are told, and others are not', async () => {
    const words = 'A long line of words that another program would break into several';
    expect((await read(`space.add_mtext('${words}', dxfattribs={'width': 30, 'char_height': 2.5})`)).shows).toEqual([
      'lines of MTEXT that its width breaks',
    ]);
    expect((await read(`space.add_mtext('${words}', dxfattribs={'width': 300, 'char_height': 2.5})`)).shows).toEqual([]);
  });

  it('words of an insert stand as their own groups say', async () => {
    const { entries } = await read(`
block = doc.blocks.new('TAG')
block.add_circle((0, 0), 4)
use = space.add_blockref('TAG', (20, 20))
mark = use.add_attrib('NO', '17', (20, 20), dxfattribs={'height': 3, 'field_length': 3})
`);
    const [words] = entries.filter(({ kind }) => kind === 'text');
    expect(words).toMatchObject({ text: '17', frame: [1, 0, 0, 1, 20, 20] });
  });

  it('a file that only has sheet layouts comes in as the one that shows, or as the first that has something', async () => {
    const drawn = "space.add_circle((30, 20), 10)\nspace.add_text('Sedge', height=3).set_placement((5, 5))";
    const first = await read(`space = doc.layout('Layout1')\n${drawn}`);
    const second = await read(`doc.layouts.new('Other')\nspace = doc.layout('Other')\n${drawn}`);
    const both = await read(`doc.layouts.new('Other').add_line((0, 0), (9, 9))\nspace = doc.layout('Layout1')\n${drawn}`);
    for (const [written, more] of [
      [first.written, 0],
      [second.written, 0],
      [both.written, 1],
    ] as const) {
      const { master, notUnderstood } = await (await codecOf('dxf')).bringIn!(written, 'a.dxf');
      expect(master.boards[0]!.items.map(({ kind }) => kind)).toEqual(['path', 'text']);
      expect(notUnderstood.filter(({ shows, kind }) => shows && /entity/.test(kind))).toEqual([]);
      const told = notUnderstood.filter(({ kind }) => kind === 'sheet layout beside the one that is read');
      expect(told.map(({ count }) => count)).toEqual(more ? [more] : []);
    }
    // In a copy, what lies on a layout is not in the drawing, and machines do not see it.
    expect(first.entries).toEqual([]);
  });

  it('lines as thin as can be come in thin, and it is told', async () => {
    const { written } = await read(
      "space.add_line((0, 0), (9, 9), dxfattribs={'lineweight': 0})\nspace.add_line((0, 5), (9, 9))",
    );
    const { master, notUnderstood } = await (await codecOf('dxf')).bringIn!(written, 'a.dxf');
    expect(master.boards[0]!.items).toMatchObject([{ style: { strokeWidth: 0.05 } }, { style: { strokeWidth: 0.25 } }]);
    expect(notUnderstood.map(({ kind }) => kind)).toContain('line as thin as can be, taken as 0.05 mm');
  });
});
