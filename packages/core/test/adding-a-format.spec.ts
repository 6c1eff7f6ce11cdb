import * as z from 'zod';
import {
  type Codec,
  type Declaration,
  type Drawing,
  DrawingBuilder,
  addFormats,
  checkCopy,
  declarations,
  derive,
  optionFields,
  outlineAt,
  parseMark,
  plainStyle,
  recipeOf,
  recipeOfHow,
  sealText,
} from '../src';
import { masterWith, rectangle, text } from './build';
import { means } from './flat';

// docs/adding-a-format.md, in code: a toy format that lists outlines in plain words, on a grid of half a millimetre.

const STEP = 0.5;
const declaration: Declaration = {
  id: 'outlinelist',
  label: 'List of outlines',
  standard: 'none, it is a toy',
  mediaType: 'text/plain',
  writer: '1',
  options: z.strictObject({
    note: z.string().max(80).default('none').describe('Words for the head of the list'),
    numbered: z.boolean().default(false).describe('Outlines are numbered'),
    indent: z.coerce.number().int().min(0).max(8).default(0).describe('Blanks before each outline').meta({ unit: 'blanks' }),
  }),
  versions: null,
  use: () => 'data',
  extension: () => 'txt',
  carries: () => ({
    drawing: {
      outlines: { outcome: 'approximated', words: `are rounded to steps of ${STEP} mm`, step: STEP },
      arcs: 'kept',
      curves: { outcome: 'approximated', words: 'become arcs and lines', by: 'arcs', within: 0.1 },
      text: { outcome: 'restated', words: 'becomes outlines', when: 'always' },
      fills: 'left out',
      gradients: 'left out',
      patterns: 'left out',
      pictures: 'left out',
      dashes: 'left out',
      'line ends': 'left out',
      pens: 'left out',
      'line colours': 'left out',
      'line widths': 'left out',
      opacity: 'left out',
      blending: 'left out',
      clips: 'left out',
      masks: 'left out',
      symbols: { outcome: 'restated', words: 'arrive as separate shapes' },
      'layer names': 'kept',
      'layer colours': 'left out',
      'board size': 'left out',
      'board names': 'left out',
      background: 'left out',
      order: 'left out',
    },
  }),
  tolerance: { drawing: 0.01 },
  holds: { leaves: 'one', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: (head) => new TextDecoder('latin1').decode(head).startsWith('outlines, '),
};

const codec: Codec = {
  declaration,
  write: ({ leaves }, { note, numbered, indent }, mark) => {
    const { layers, layer, count, firstOutline, paths } = leaves[0]!.body as Drawing;
    const lines = [`outlines, ${note}`, mark];
    for (let i = 0; i < count; i++)
      for (let o = firstOutline[i]!; o < firstOutline[i + 1]!; o++) {
        const number = numbered ? `${o + 1} ` : '';
        lines.push(`${' '.repeat(Number(indent))}${number}${JSON.stringify([layers[layer[i]!]!.name, outlineAt(paths, o)])}`);
      }
    return [{ part: '', bytes: new TextEncoder().encode(lines.join('\n')) }];
  },
  seal: sealText,
  read: (files) => {
    const [, mark, ...lines] = new TextDecoder().decode(files[0]!.bytes).split('\n');
    const builder = new DrawingBuilder();
    for (const line of lines) {
      const [name, outline] = JSON.parse(line.replace(/^\s*(\d+ )?/, '')) as [string, ReturnType<typeof outlineAt>];
      builder.paths.add(outline);
      builder.path(builder.layer(name), builder.look(plainStyle));
    }
    return {
      leaves: [{ kind: 'drawing', key: '', label: '', body: builder.finish(null, null) }],
      mark: mark!,
      notUnderstood: [],
    };
  },
};
addFormats([{ declaration: codec.declaration, codec: () => codec }]);

const master = masterWith([
  {
    kind: 'ellipse',
    id: 'c',
    layer: 'cut',
    style: { fill: null, stroke: '#14213a', strokeWidth: 1 },
    cx: 30.1,
    cy: 30.2,
    rx: 8.3,
    ry: 8.3,
  },
  rectangle('r', 60.2, 10.1, { radius: 3 }),
  text('t', 'Sedge'),
]);
const time = '2026-11-20T10:00:00.000Z';

describe('a format that was added from outside', () => {
  it('is offered like any other, its form described by its schema', () => {
    expect(declarations().map(({ id }) => id)).toContain('outlinelist');
    expect(optionFields(declaration)).toMatchObject([
      { name: 'note', kind: 'text', standard: 'none' },
      { name: 'numbered', kind: 'yes or no', standard: false },
      { name: 'indent', kind: 'number', least: 0, most: 8, whole: true, unit: 'blanks' },
    ]);
  });
  it('is derived, read back without a defect, checked and found behind', async () => {
    const recipe = recipeOf('outlinelist', { numbered: true });
    const { files, says, defects } = await derive({ master, rev: 1, time }, recipe, means);
    expect(defects).toEqual([]);
    const input = { files, says, recipe, then: master };
    expect(await checkCopy({ ...input, whole: true, now: master }, means)).toMatchObject({ verdict: 'in step' });
    const now = masterWith([...master.boards[0]!.items.slice(0, 2)]);
    expect(await checkCopy({ ...input, whole: true, now }, means)).toMatchObject({ verdict: 'behind' });
  });
  it('keeps arcs that it rounds: a circle stays one, and the report says by how much it moved', async () => {
    const { projection, report } = await derive({ master, rev: 1, time }, recipeOf('outlinelist', {}), means);
    const { paths } = projection.leaves[0]!.body as Drawing;
    const circle = outlineAt(paths, 0);
    expect(circle.segments).toMatchObject([{ kind: 'arc' }, { kind: 'arc' }]);
    for (const [x, y] of [circle.start, ...circle.segments.map(({ to }) => to)])
      expect([Math.round(x / STEP) * STEP, Math.round(y / STEP) * STEP]).toEqual([x, y]);
    const grid = report.lines.find(({ feature }) => feature === 'grid')!;
    expect(grid).toMatchObject({ outcome: 'approximated', objects: expect.arrayContaining(['c', 'r']) });
    expect(grid.deviation).toBeGreaterThan(0.05);
    expect(grid.deviation).toBeLessThanOrEqual(STEP * Math.SQRT1_2);
    expect(report.lines.filter(({ feature, outcome }) => feature === 'arcs' && outcome !== 'kept')).toEqual([]);
  });
  it('has marks that hold any text in its options', async () => {
    const recipe = recipeOf('outlinelist', { note: 'gate #2 & more? = “yes”; 100%' }, 'Front');
    const { files } = await derive({ master, rev: 1, time }, recipe, means);
    const { mark } = await codec.read(files, {}, means);
    expect(recipeOfHow(parseMark(mark)!.how, recipe.id)).toEqual({ ...recipe, writer: '1' });
  });
});
