import {
  type Gradient,
  type Item,
  type Master,
  type Outline,
  type Point,
  type ReadCopy,
  checkCopy,
  codecOf,
  derive,
  isGradient,
  recipeOf,
  unpackDrawing,
} from '../src';
import { shippedFonts } from '../../render/src';
import { lined, masterWith, rectangle } from './build';
import { python } from './python';
import { judgedBy } from './judged-by';

type Segment = Outline['segments'][number];

const services = { fonts: shippedFonts() };
const time = '2026-11-20T10:00:00.000Z';
const recipe = recipeOf('dxf', { version: '2004', fills: 'hatches' });

const gradient = (kind: Gradient['kind'], more: Partial<Gradient> = {}): Gradient => ({
  kind,
  within: 'box',
  at: kind === 'linear' ? [1, 0, 0, 1, 0, 0] : [0.5, 0, 0, 0.5, 0.5, 0.5],
  stops: [
    { offset: 0, colour: '#204080' },
    { offset: 1, colour: '#f0e0a0' },
  ],
  ...more,
});
const filled = (fill: Gradient): Master =>
  masterWith([rectangle('sky', 10, 20, { style: { fill, stroke: null, strokeWidth: 0 } })]);
const made = (master: Master) => derive({ master, rev: 1, time }, recipe, services);
const textOf = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const dxf = await codecOf('dxf');
const read = (bytes: Uint8Array) => dxf.read([{ part: '', bytes }], {}, services) as ReadCopy;

describe('gradients as hatches of version 2004', () => {
  it.each<[string, Gradient]>([
    ['along', gradient('linear')],
    ['slanted', gradient('linear', { at: [0.6, 0.3, -0.3, 0.6, 0.1, 0.2] })],
    ['repeated', gradient('linear', { at: [0.2, 0, 0, 1, 0, 0], spread: 'reflect' })],
    ['out from the middle', gradient('radial')],
    ['out from elsewhere', gradient('radial', { at: [0.3, 0, 0, 0.3, 0.2, 0.7], focus: [0.2, 0] })],
  ])('one that runs %s comes back as it went, and is said', async (_way, fill) => {
    const { defects, report, files } = await made(filled(fill));
    expect(defects).toEqual([]);
    expect(report.lines.find(({ feature }) => feature === 'gradients')).toMatchObject({ outcome: 'approximated', count: 1 });
    const [entry] = unpackDrawing(read(files[0]!.bytes).leaves[0]!.body as never).entries;
    expect(isGradient(entry!.style.fill) && entry!.style.fill.kind).toBe(fill.kind);
  });

  it('under a line of its own comes back as it went where what came before reads back in more pieces', async () => {
    const path = (id: string, start: Point, segments: Segment[], fill: Gradient | null): Item => ({
      kind: 'path',
      id,
      layer: 'cut',
      outlines: [{ start, segments, closed: true }],
      style: { ...lined('#14213a', 0.25), fill },
    });
    const bent = (to: Point): Segment => ({ kind: 'cubic', c1: [1.58, 0], c2: [0, 44.39], to });
    const sky = path(
      'sky',
      [88.07, 26.19],
      [bent([0.35, 0]), { kind: 'line', to: [59.76, 99.73] }],
      gradient('linear', { at: [0.6, 0.8, -0.8, 0.6, 0.1, 0] }),
    );
    const master = masterWith([
      path('before', [0, 0], [{ kind: 'cubic', c1: [0, 0], c2: [0, 0], to: [0, 0.51] }], null),
      { kind: 'group', id: 'turned', layer: 'cut', transform: [0.8, 0.6, -0.6, 0.8, 5, 5], items: [sky] },
    ]);
    expect((await made(master)).defects).toEqual([]);
  });

  it('shows at both ends what the gradient shows there', async () => {
    const { files } = await made(filled(gradient('linear', { at: [0.5, 0, 0, 1, 0.25, 0] })));
    const words = textOf(files[0]!.bytes);
    expect(words).toContain(`421\n${0x204080}\n`);
    expect(words).toContain(`421\n${0xf0e0a0}\n`);
    expect(words).toContain('470\nLINEAR\n');
  });

  it.each([
    ['another colour', (words: string) => words.replace(`421\n${0x204080}\n`, `421\n${0x206080}\n`)],
    ['another way', (words: string) => words.replace('460\n0\n', '460\n0.3\n')],
    ['its colours the other way round', (words: string) => words.replace('470\nLINEAR', '470\nINVLINEAR')],
    ['as another kind', (words: string) => words.replace('470\nLINEAR', '470\nCYLINDER')],
    ['as one colour', (words: string) => words.replace('450\n1\n', '450\n0\n')],
  ])('a file that states it with %s is touched', async (_what, change) => {
    const master = filled(gradient('linear'));
    const { files, says } = await made(master);
    const bytes = new TextEncoder().encode(change(textOf(files[0]!.bytes)));
    expect(bytes).not.toEqual(files[0]!.bytes);
    const { verdict } = await checkCopy(
      { files: [{ part: '', bytes }], intact: false, says, recipe, current: master, baseline: master },
      services,
    );
    expect(verdict).toBe('touched');
  });

  judgedBy('ezdxf').it('is what another library reads, with nothing to repair', async () => {
    const { files } = await made(filled(gradient('linear', { at: [0, 1, -1, 0, 1, 0] })));
    const { out } = python(
      `
import json, ezdxf
doc = ezdxf.readfile("a.dxf")
audit = doc.audit()
h = next(iter(doc.modelspace().query("HATCH")))
g = h.gradient
print(json.dumps([len(audit.errors) + len(audit.fixes), g.name, round(g.rotation), list(g.color1), list(g.color2)]))
`,
      files[0]!.bytes,
    );
    expect(JSON.parse(out)).toEqual([0, 'LINEAR', 90, [0x20, 0x40, 0x80], [0xf0, 0xe0, 0xa0]]);
  });

  judgedBy('ezdxf').it('comes in from a file of another library', () => {
    const { written } = python(`
import ezdxf
doc = ezdxf.new("R2004", setup=False)
space = doc.modelspace()
h = space.add_hatch()
h.set_gradient(color1=(10, 20, 30), color2=(200, 210, 220), rotation=90, name="LINEAR")
h.paths.add_polyline_path([(0, 0), (40, 0), (40, 20), (0, 20)])
r = space.add_hatch()
r.set_gradient(color1=(10, 20, 30), color2=(200, 210, 220), name="INVSPHERICAL")
r.paths.add_polyline_path([(50, 0), (90, 0), (90, 20), (50, 20)])
c = space.add_hatch()
c.set_gradient(color1=(10, 20, 30), color2=(200, 210, 220), name="CURVED")
c.paths.add_polyline_path([(100, 0), (140, 0), (140, 20), (100, 20)])
doc.saveas("a.dxf")
`);
    const { leaves, notUnderstood } = read(written);
    const [upward, outward] = unpackDrawing(leaves[0]!.body as never).entries;
    expect(upward!.style.fill).toMatchObject({ kind: 'linear', stops: [{ colour: '#0a141e' }, { colour: '#c8d2dc' }] });
    expect(outward!.style.fill).toMatchObject({ kind: 'radial', stops: [{ colour: '#c8d2dc' }, { colour: '#0a141e' }] });
    expect(notUnderstood).toEqual([{ kind: 'hatch by gradient CURVED, taken as one colour', count: 1, shows: true }]);
    const { master } = dxf.bringIn!(written, 'a.dxf') as { master: Master };
    expect(master.boards[0]!.items[0]).toMatchObject({ style: { fill: { kind: 'linear' } } });
  });
});
