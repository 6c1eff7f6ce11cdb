import fc from 'fast-check';
import {
  type CarryLine,
  type Item,
  digest,
  recipeOf,
  changedParts,
  footprintOf,
  applyPatches,
  moveItems,
  setAttribute,
  resolveBoard,
  boardOf,
} from '../src';
import { shippedFonts } from '../../render/src';
import { master } from './arbitrary';
import { filled, layer, lined, masterWith, rectangle, text } from './build';
import { project } from './flat';
import { runs } from './depth';

const fonts = shippedFonts();
const linesOf = (items: Item[], target: string, options = {}, more = {}): CarryLine[] => [
  ...project(masterWith(items, more), recipeOf(target, options)).report.lines,
];
const outcomes = (lines: CarryLine[]) => Object.fromEntries(lines.map(({ feature, outcome }) => [feature, outcome]));

describe('the carry-over report', () => {
  const curve: Item = {
    kind: 'path',
    id: 'curve',
    layer: 'cut',
    style: lined('#2b4180', 0.7),
    outlines: [{ start: [10, 10], segments: [{ kind: 'cubic', c1: [30, 60], c2: [60, 60], to: [90, 10] }], closed: false }],
  };

  it('says of one document what becomes of each feature, target by target', () => {
    const items = [
      curve,
      rectangle('r', 0, 0, { radius: 3, style: { fill: '#17796a', stroke: '#14213a', strokeWidth: 0.5, opacity: 0.5 } }),
      text('t', 'Sedge'),
    ];
    expect(outcomes(linesOf(items, 'svg'))).toEqual({ outlines: 'kept', curves: 'kept', text: 'kept' });
    expect(outcomes(linesOf(items, 'dxf'))).toEqual({
      outlines: 'kept',
      curves: 'kept',
      text: 'kept',
      fills: 'left out',
      opacity: 'left out',
      'line colours': 'approximated',
    });
    expect(outcomes(linesOf(items, 'dxf', { version: 'R12' }))).toMatchObject({
      curves: 'approximated',
      'line widths': 'left out',
      'layer names': 'restated',
    });
    expect(outcomes(linesOf(items, 'hpgl'))).toMatchObject({
      curves: 'approximated',
      arcs: 'approximated',
      text: 'restated',
      fills: 'left out',
      'line colours': 'left out',
      grid: 'approximated',
    });
  });

  it('measures how far a curve is off, never more than asked, and less with a finer chord', () => {
    const off = (chord: number) => linesOf([curve], 'hpgl', { chord }).find(({ feature }) => feature === 'curves')!.deviation!;
    expect(off(0.2)).toBeLessThanOrEqual(0.2);
    expect(off(0.2)).toBeGreaterThan(off(0.02));
    expect(off(0.02)).toBeGreaterThan(0);
  });

  it('says how far line widths and colours are from the nearest that there is', () => {
    const [width] = linesOf([{ ...curve, style: lined('#ff0000', 0.72) }], 'dxf').filter(
      ({ feature }) => feature === 'line widths',
    );
    expect(width).toMatchObject({ outcome: 'approximated', deviation: expect.closeTo(0.02) });
    expect(linesOf([{ ...curve, style: lined('#ff0000', 0.7) }], 'dxf').map(({ feature }) => feature)).not.toContain(
      'line widths',
    );
  });

  it('counts symbol uses and groups, and lines of text, as what they were', () => {
    const symbols = [
      {
        id: 's',
        name: 'S',
        anchor: [0, 0] as const,
        items: [rectangle('in', 0, 0, { layer: null }), rectangle('in2', 0, 0, { layer: null })],
      },
    ];
    const use = (id: string): Item => ({ kind: 'use', id, layer: 'cut', symbol: 's' });
    const items = [use('u1'), use('u2'), text('t', 'a\nb')];
    const lines = linesOf(items, 'svg', { symbols: 'opened' }, { symbols });
    expect(lines.find(({ feature }) => feature === 'symbols')).toMatchObject({ outcome: 'restated', count: 2 });
    expect(linesOf(items, 'svg', {}, { symbols }).filter(({ feature }) => feature === 'symbols')).toMatchObject([
      { outcome: 'kept', count: 2 },
    ]);
    expect(lines.find(({ feature }) => feature === 'lines')).toMatchObject({ outcome: 'restated', count: 1 });
  });

  it('names objects on layers that a target does not take, and on hidden ones', () => {
    const layers = [layer('cut'), layer('print', 'print'), layer('off', 'cut', { visible: false })];
    const lines = linesOf(
      [rectangle('a'), rectangle('b', 0, 0, { layer: 'print' }), rectangle('c', 0, 0, { layer: 'off' })],
      'hpgl',
      {},
      { layers },
    );
    expect(lines.filter(({ outcome }) => outcome === 'left out').map(({ feature, objects }) => [feature, objects])).toEqual(
      expect.arrayContaining([
        ['layer:print', ['b']],
        ['hidden', ['c']],
      ]),
    );
  });

  it('says in one sentence how many arrive as they are', () => {
    const sentence = (items: Item[], target: string) => project(masterWith(items), recipeOf(target, {})).report.sentence;
    expect(sentence([], 'svg')).toBe('There is nothing on this board yet.');
    expect(sentence([rectangle('a')], 'svg')).toBe('The one object arrives as it is.');
    expect(sentence([rectangle('a'), rectangle('b')], 'svg')).toBe('All 2 objects arrive as they are.');
    expect(sentence([rectangle('a', 0, 0, { style: filled('#17796a') }), rectangle('b')], 'hpgl')).toBe(
      'None of 2 objects arrives quite as it is; left out: fills, line colours, line widths; restated: layer names.',
    );
    expect(sentence([text('t', 'Sedge'), text('u', 'Mere'), rectangle('b')], 'hpgl')).toMatch(/restated: text \(2\), /);
  });

  it('accounts for every object, whatever the master and the target', () => {
    fc.assert(
      fc.property(master, fc.constantFrom('svg', 'dxf', 'hpgl'), (one, target) => {
        const { report, projection } = project(one, recipeOf(target, {}));
        const named = new Set(report.lines.flatMap(({ objects }) => objects));
        const { entries, hidden } = resolveBoard(one, boardOf(one));
        for (const id of [...entries.map(({ source }) => source), ...hidden]) expect(named.has(id)).toBe(true);
        const drawn = new Set(projection.entries.map(({ source }) => source));
        const out = new Set(
          report.lines
            .filter(({ outcome, feature }) => outcome === 'left out' && (feature.startsWith('layer:') || feature === 'hidden'))
            .flatMap(({ objects }) => objects),
        );
        for (const { source, kind } of entries) if (kind === 'path') expect(drawn.has(source) || out.has(source)).toBe(true);
        expect(report.asTheyAre).toBeLessThanOrEqual(report.objects);
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('what ended a span', () => {
  const recipe = recipeOf('hpgl', {});
  const printOf = (one: Parameters<typeof footprintOf>[0]) => footprintOf(one, recipe);
  const start = masterWith([
    rectangle('a'),
    { kind: 'group', id: 'g', layer: 'cut', items: [rectangle('in', 0, 0, { layer: null })] },
    rectangle('p', 0, 0, { layer: 'print' }),
  ]);
  const after = (...commands: { patches: Parameters<typeof applyPatches>[1] }[]) =>
    commands.reduce((now, { patches }) => applyPatches(now, patches).master, start);

  it('names the objects whose carried attributes changed, groups opened', () => {
    expect([...changedParts(printOf(start), printOf(after(moveItems(start, ['a'], 1, 0)))).keys()]).toEqual(['a']);
    expect([...changedParts(printOf(start), printOf(after(moveItems(start, ['g'], 1, 0)))).keys()]).toEqual(['in']);
    expect([...changedParts(printOf(start), printOf(after(setAttribute(start, 'p', 'x', 5)))).keys()]).toEqual([]);
  });
  it('names objects that came and went with their layer', () => {
    const hidden = after(setAttribute(start, 'print', 'process', 'cut'));
    expect([...changedParts(printOf(start), printOf(hidden)).keys()]).toEqual(['p']);
    expect([...changedParts(printOf(hidden), printOf(start)).keys()]).toEqual(['p']);
  });
});

describe('fonts', () => {
  it('set the same words to the same outlines, aligned as asked', () => {
    const outline = (align: 'start' | 'middle' | 'end') =>
      fonts.outline({ text: 'Sedge', font: 'Commissioner', size: 10, align, frame: [1, 0, 0, 1, 50, 20] }).outlines;
    const left = (align: 'start' | 'middle' | 'end') =>
      Math.min(...outline(align).flatMap(({ start, segments }) => [start[0], ...segments.map(({ to }) => to[0])]));
    const width = fonts.advance('Commissioner', 'Sedge', 10);
    expect(left('start') - left('middle')).toBeCloseTo(width / 2);
    expect(left('start') - left('end')).toBeCloseTo(width);
    expect(digest(JSON.stringify(outline('start')))).toBe(digest(JSON.stringify(outline('start'))));
  });
  it('have every letter of the languages around, and say which they have not', () => {
    for (const font of ['Commissioner', 'Commissioner Bold'] as const)
      expect(
        fonts.outline({ text: 'ÄÖÜß åøæ łężć ğş čřž Ελλ Жё', font, size: 5, align: 'start', frame: [1, 0, 0, 1, 0, 0] }).missing,
      ).toEqual([]);
    expect(
      fonts.outline({ text: 'a鷺b', font: 'Spline Sans Mono', size: 5, align: 'start', frame: [1, 0, 0, 1, 0, 0] }).missing,
    ).toEqual(['鷺']);
  });
});
