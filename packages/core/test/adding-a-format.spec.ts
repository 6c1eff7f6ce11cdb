import { cpSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type Drawing,
  addFormats,
  checkCopy,
  declarations,
  derive,
  optionFields,
  outlineAt,
  parseMark,
  recipeOf,
  recipeOfHow,
  recognise,
  targetsPage,
} from '../src';
import { lists } from '../../../scripts/lib/gather.mjs';
import { masterWith, rectangle, text } from './build';
import { services } from './flat';
import { codec, declaration } from './toys/outlinelist';

// docs/adding-a-format.md, in code: a toy format that lists outlines in plain words, on a grid of half a millimetre. Its
// folder could stand among the others; from outside it is added like this.
addFormats([{ declaration, codec }]);

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
      { name: 'note', kind: 'text', default: 'none' },
      { name: 'numbered', kind: 'yes or no', default: false },
      { name: 'indent', kind: 'number', min: 0, max: 8, whole: true, unit: 'blanks' },
    ]);
  });
  it('is derived, read back without a defect, checked and found behind', async () => {
    const recipe = recipeOf('outlinelist', { numbered: true });
    const { files, says, defects } = await derive({ master, rev: 1, time }, recipe, services);
    expect(defects).toEqual([]);
    const input = { files, says, recipe, baseline: master };
    expect(await checkCopy({ ...input, intact: true, current: master }, services)).toMatchObject({ verdict: 'in step' });
    const now = masterWith([...master.boards[0]!.items.slice(0, 2)]);
    expect(await checkCopy({ ...input, intact: true, current: now }, services)).toMatchObject({ verdict: 'behind' });
  });
  it('keeps arcs that it rounds: a circle stays one, and the report says by how much it moved', async () => {
    const { projection, report } = await derive({ master, rev: 1, time }, recipeOf('outlinelist', {}), services);
    const { paths } = projection.leaves[0]!.body as Drawing;
    const circle = outlineAt(paths, 0);
    expect(circle.segments).toMatchObject([{ kind: 'arc' }, { kind: 'arc' }]);
    for (const [x, y] of [circle.start, ...circle.segments.map(({ to }) => to)])
      expect([Math.round(x / 0.5) * 0.5, Math.round(y / 0.5) * 0.5]).toEqual([x, y]);
    const grid = report.lines.find(({ feature }) => feature === 'grid')!;
    expect(grid).toMatchObject({ outcome: 'approximated', objects: expect.arrayContaining(['c', 'r']) });
    expect(grid.deviation).toBeGreaterThan(0.05);
    expect(grid.deviation).toBeLessThanOrEqual(0.5 * Math.SQRT1_2);
    expect(report.lines.filter(({ feature, outcome }) => feature === 'arcs' && outcome !== 'kept')).toEqual([]);
  });
  it('has marks that hold any text in its options', async () => {
    const recipe = recipeOf('outlinelist', { note: 'gate #2 & more? = “yes”; 100%' }, 'Front');
    const { files } = await derive({ master, rev: 1, time }, recipe, services);
    const { mark } = await (await codec()).read(files, {}, services);
    expect(recipeOfHow(parseMark(mark)!.how, recipe.id)).toEqual({ ...recipe, writer: '1' });
  });
  it('is recognised though it came last, and others hold any text', async () => {
    const { files } = await derive({ master, rev: 1, time }, recipeOf('outlinelist', {}), services);
    expect(recognise(files[0]!.bytes)?.id).toBe('outlinelist');
    expect(declarations().at(-1)?.id).toBe('outlinelist');
    expect(recognise(new TextEncoder().encode('outlines are what we list, on Mondays.'))?.id).toBe('txt');
  });
  it('is on the page of targets', () => expect(targetsPage()).toContain('List of outlines'));
  it('is there as soon as its folder is, with the recipes that the laws are tried on', () => {
    const root = mkdtempSync(join(tmpdir(), 'inkwell-toy-'));
    try {
      const formats = join(root, 'packages/core/src/formats');
      cpSync(join(__dirname, '../src/formats'), formats, { recursive: true });
      cpSync(join(__dirname, 'toys/outlinelist'), join(formats, 'outlinelist'), { recursive: true });
      for (const one of ['render', 'web', 'core/src/content', 'core/src/document'])
        symlinkSync(join(__dirname, '../..', one), join(root, 'packages', one));
      const made = Object.entries(lists(root)).filter(([path]) => path.includes('/core/src/formats/'));
      expect(made).toHaveLength(3);
      for (const [, list] of made) expect(list).toMatch(/from '\.\.\/outlinelist(\/laws)?';/);
    } finally {
      rmSync(root, { recursive: true });
    }
  });
});
