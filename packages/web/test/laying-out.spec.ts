// What a thing is laid to, and what a hand draws.
import fc from 'fast-check';
import { newMaster } from '@inkwell-twin/core/web';
import { drawingTools, drawnItem } from '../src/app/master/board/drawing';
import { DrawingHand } from '../src/app/master/stage/drawing-hand';
import { SnapLines, linesOfBox } from '../src/app/master/stage/snap';

const box = { minX: 10, minY: 20, maxX: 30, maxY: 60 };

describe('lines to lay things to', () => {
  const lines = new SnapLines([...linesOfBox(box, 'Post'), { axis: 'x', at: 100, words: 'guide' }], 5);

  it('say what something came to lie at', () => {
    expect(lines.point([30.4, 41], 1)).toEqual({
      at: [30, 40],
      lines: [
        { axis: 'x', at: 30, words: 'right of Post' },
        { axis: 'y', at: 40, words: 'middle of Post' },
      ],
    });
    expect(lines.point([99.2, 3.9], 1).lines.map(({ words }) => words)).toEqual(['guide']);
    expect(lines.point([99.2, 4.2], 1).at).toEqual([100, 5]);
    expect(lines.point([77, 77], 1)).toEqual({ at: [77, 77], lines: [] });
  });

  it('prefer what somebody put there to the grid, and take the edge or middle that is nearest', () => {
    // Its left edge is 0.3 from the grid, its right one 0.8 from the guide.
    const { dx, lines: laid } = lines.box({ minX: 79.7, minY: 1, maxX: 99.2, maxY: 2 }, 1);
    expect([Number(dx.toFixed(6)), laid[0]!.words]).toEqual([0.8, 'guide']);
  });

  it('leave a thing within the distance, whatever there is', () => {
    const line = fc.record({
      axis: fc.constantFrom('x' as const, 'y' as const),
      at: fc.double({ min: -500, max: 500, noNaN: true }),
      words: fc.constant('guide'),
    });
    fc.assert(
      fc.property(
        fc.array(line, { maxLength: 60 }),
        fc.option(fc.double({ min: 0.1, max: 50, noNaN: true }), { nil: undefined }),
        fc.double({ min: -500, max: 500, noNaN: true }),
        fc.double({ min: 0.01, max: 5, noNaN: true }),
        (all, step, at, within) => {
          const found = new SnapLines(all, step).along('x', [at], within);
          const nearest = Math.min(...all.filter(({ axis }) => axis === 'x').map((one) => Math.abs(one.at - at)), Infinity);
          if (found) expect(Math.abs(found.by)).toBeLessThanOrEqual(within);
          if (nearest <= within) expect(Math.abs(Math.abs(found!.by) - nearest)).toBeLessThan(1e-9);
        },
      ),
    );
  });
});

describe('a hand that draws', () => {
  it('pulls up a frame in any direction; a press alone is a place', () => {
    const hand = new DrawingHand('frame');
    hand.press([30, 40]);
    hand.move([10, 90]);
    expect(hand.shown).toEqual({ box: { minX: 10, minY: 40, maxX: 30, maxY: 90 } });
    expect(hand.lift([10, 90], 1)).toEqual({ box: { minX: 10, minY: 40, maxX: 30, maxY: 90 } });
    const still = new DrawingHand('frame');
    still.press([5, 5]);
    expect(still.lift([5.1, 5], 1)).toEqual({ at: [5, 5].map(() => expect.any(Number)) });
  });

  const click = (hand: DrawingHand, x: number, y: number) => {
    hand.press([x, y]);
    return hand.lift([x, y], 2);
  };
  it('draws a line point by point, ended by a second press or closed at the first point', () => {
    const hand = new DrawingHand('line');
    expect([click(hand, 0, 0), click(hand, 50, 0), click(hand, 50, 30)]).toEqual([null, null, null]);
    const line = {
      start: [0, 0],
      closed: false,
      segments: [
        { kind: 'line', to: [50, 0] },
        { kind: 'line', to: [50, 30] },
      ],
    };
    expect(click(hand, 50, 30)).toEqual({ outline: line });
    expect(hand.finish()).toEqual({ outline: line });
    const round = new DrawingHand('line');
    for (const [x, y] of [
      [0, 0],
      [50, 0],
      [50, 30],
    ] as const)
      click(round, x, y);
    expect(click(round, 1, 1)).toMatchObject({ outline: { closed: true, segments: [{}, {}, { to: [0, 0] }] } });
    expect(new DrawingHand('line').finish()).toBeNull();
  });

  it('bends a curve where it is pulled, the same on both sides of a point', () => {
    const hand = new DrawingHand('curve');
    hand.press([0, 0]);
    hand.move([10, 10]);
    hand.lift([10, 10], 1);
    hand.press([50, 0]);
    hand.move([60, -10]);
    hand.lift([60, -10], 1);
    expect(hand.finish()).toEqual({
      outline: { start: [0, 0], closed: false, segments: [{ kind: 'cubic', c1: [10, 10], c2: [40, 10], to: [50, 0] }] },
    });
  });

  it('makes an item of each kind that can be drawn', () => {
    const master = {
      ...newMaster('m', 'Sign', 'Ines', 'panel'),
      symbols: [{ id: 's', name: 'Reed', anchor: [0, 0] as [number, number], items: [] }],
    };
    const outline = { start: [0, 0] as const, closed: false, segments: [{ kind: 'line' as const, to: [9, 9] as const }] };
    const shapes = { frame: { box }, line: { outline }, curve: { outline }, spot: { at: [3, 4] as const } };
    const made = drawingTools().map((tool) => drawnItem(tool, shapes[tool.way], master, master.layers[0]!)!);
    expect(made.map(({ kind }) => kind)).toEqual(['rectangle', 'ellipse', 'path', 'path', 'text', 'motif-line', 'text-frame']);
    expect(made[0]).toMatchObject({ x: 10, y: 20, width: 20, height: 40, layer: 'layer-1' });
    expect(made[1]).toMatchObject({ cx: 20, cy: 40, rx: 10, ry: 20 });
    expect(made[5]).toMatchObject({ symbol: 's', outlines: [outline] });
    expect(drawnItem(drawingTools()[0]!, { at: [1, 1] }, master, master.layers[0]!)).toBeNull();
  });
});
