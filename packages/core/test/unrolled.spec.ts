import fc from 'fast-check';
import { type PlacedGradient, boxOfOutlines } from '../src';
import { colouring, unrolled } from '../src/evaluate/gradients/gradient';
import { shippedFonts } from '../../render/src';

const stops = [
  { offset: 0.1, colour: '#2b4180' },
  { offset: 0.6, colour: '#f7f0e2', opacity: 0.4 },
  { offset: 0.9, colour: '#c23b22' },
];
const box = { minX: -30, minY: -10, maxX: 70, maxY: 50 };
const gradient = fc
  .record({
    kind: fc.constantFrom('linear' as const, 'radial' as const),
    spread: fc.constantFrom('repeat' as const, 'reflect' as const),
    size: fc.double({ min: 12, max: 60, noNaN: true }),
    turn: fc.double({ min: 0, max: 6, noNaN: true }),
    focus: fc.constantFrom(undefined, [0.4, -0.3] as [number, number]),
  })
  .map(({ kind, spread, size, turn, focus }): PlacedGradient => {
    const [cos, sin] = [Math.cos(turn) * size, Math.sin(turn) * size];
    const own = kind === 'radial' && focus ? { focus } : {};
    return { kind, spread, at: [cos, sin, -sin, cos, 20, 15], stops, ...own };
  });

describe('a gradient that repeats, written out', () => {
  it('shows the same colours all over what it paints, and repeats no more', () =>
    fc.assert(
      fc.property(
        gradient,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (one, u, v) => {
          const whole = unrolled(one, box);
          expect(whole.spread).toBeUndefined();
          const [before, after] = [colouring(one), colouring(whole)];
          const at = (dx: number, dy: number) =>
            [box.minX + u * (box.maxX - box.minX) + dx, box.minY + v * (box.maxY - box.minY) + dy] as const;
          const near = (a: readonly number[], b: readonly number[]) =>
            a.every((value, i) => Math.abs(value - b[i]!) < (i < 3 ? 3 : 0.02));
          // Where a colour changes at once, a hair of place is the whole step.
          const found = after(at(0, 0));
          const around = [0, 0.05, -0.05].flatMap((dx) => [0, 0.05, -0.05].map((dy) => before(at(dx, dy))));
          expect(around.some((colour) => near(colour, found))).toBe(true);
        },
      ),
    ));

  it('is left alone where it does not repeat or has no extent', () => {
    const pad: PlacedGradient = { kind: 'linear', at: [10, 0, 0, 10, 0, 0], stops };
    expect(unrolled(pad, box)).toBe(pad);
    const flat: PlacedGradient = { kind: 'linear', spread: 'repeat', at: [0, 0, 0, 0, 0, 0], stops };
    expect(unrolled(flat, box)).toBe(flat);
  });

  it('has an end, however small it is', () =>
    expect(unrolled({ kind: 'linear', spread: 'repeat', at: [0.01, 0, 0, 0.01, 0, 0], stops }, box).stops.length).toBeLessThan(
      150,
    ));
});

describe('letters of the shipped fonts', () => {
  const fonts = shippedFonts();
  it('that are missing are named, one by one', () => {
    expect(fonts.missing('Commissioner', 'Łódka & Öl, 7 ½')).toEqual([]);
    expect(fonts.missing('Caveat', 'Fen 象 and 鳥')).toEqual(['象', '鳥']);
  });

  it('are found in files for parts of the alphabet, in the order of the text', () => {
    const pieces = fonts.pieces('Commissioner', 'Mere Łódka');
    expect(pieces.map(({ text }) => text).join('')).toBe('Mere Łódka');
    expect(new Set(pieces.map(({ file }) => file)).size).toBe(2);
  });

  it('run as far as a program sets them, kerning included: never further than without', () => {
    for (const font of ['Work Sans', 'Commissioner', 'Tinos'] as const) {
      const words = 'Tyre LT P. r, y.';
      const set = fonts.advance(font, words, 10);
      const loose = [...words].reduce((sum, letter) => sum + fonts.advance(font, letter, 10), 0);
      expect(set).toBeGreaterThan(0.8 * loose);
      expect(set).toBeLessThan(loose - 0.5);
    }
  });

  it('stand as outlines where they stand as text: kerned, joined where the font joins them, apart where they are spaced', () => {
    const frame = [1, 0, 0, 1, 0, 0] as const;
    const right = (text: string, more = {}) => {
      const { outlines } = fonts.outline({ text, font: 'Work Sans', size: 10, align: 'start', frame, ...more });
      return { count: outlines.length, to: boxOfOutlines(outlines).maxX };
    };
    expect(right('AVAVAVI').to).toBeLessThan(fonts.advance('Work Sans', 'AVAVAVI', 10));
    expect(right('AVAVAVI').to).toBeGreaterThan(fonts.advance('Work Sans', 'AVAVAVI', 10) - 1.5);
    expect(right('AVAVAVI', { spacing: 2 }).to).toBeCloseTo(right('AVAVAVI').to + 12, 6);
    const spaced = right('AVAVAVI', { spacing: 2, align: 'end' }).to;
    expect(spaced).toBeCloseTo(right('AVAVAVI', { spacing: 2 }).to - fonts.advance('Work Sans', 'AVAVAVI', 10, 2), 6);
  });
});
