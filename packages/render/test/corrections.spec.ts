import { type Correction, type Pixels, correct, deltaE } from '@inkwell-twin/core';
import fc from 'fast-check';
import { sample } from './workshop';
import { runs } from '../../core/test/depth';

const dots = (...colours: readonly (readonly [number, number, number, number?])[]): Pixels => ({
  width: colours.length,
  height: 1,
  data: Uint8Array.from(colours.flatMap(([r, g, b, a = 255]) => [r, g, b, a])),
});
const of = (pixels: Pixels, ...corrections: Correction[]): number[] => [...correct(pixels, corrections).data];

describe('corrections', () => {
  it('levels stretch what lies between black and white, and bend it', () => {
    const grey = dots([51, 51, 51], [204, 204, 204], [128, 128, 128]);
    expect(of(grey, { kind: 'levels', black: 0.2, white: 0.8, gamma: 1 }).filter((_, i) => i % 4 === 0)).toEqual([0, 255, 128]);
    expect(of(dots([64, 64, 64]), { kind: 'levels', black: 0, white: 1, gamma: 2 })[0]).toBe(128);
  });

  it('a stop of exposure is twice the light', () => {
    const light = (part: number) => ((part / 255 + 0.055) / 1.055) ** 2.4;
    const [after] = of(dots([100, 100, 100]), { kind: 'exposure', stops: 1 });
    expect(light(after!) / light(100)).toBeCloseTo(2, 1);
  });

  it('contrast turns about the middle; saturation about grey; a single ink runs from it to white', () => {
    expect(of(dots([128, 64, 192]), { kind: 'contrast', amount: -1 }).slice(0, 3)).toEqual([128, 128, 128]);
    const [r, g, b] = of(dots([200, 100, 50]), { kind: 'saturation', amount: 0 });
    expect([g, b]).toEqual([r, r]);
    expect(of(dots([0, 0, 0], [255, 255, 255]), { kind: 'single ink', colour: '#1f3a5f' })).toEqual([
      31, 58, 95, 255, 255, 255, 255, 255,
    ]);
  });

  it('the white point makes its colour neutral and leaves light as it is', () => {
    const [r, g, b] = of(dots([255, 242, 221]), { kind: 'white point', colour: '#fff2dd' });
    expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThanOrEqual(1);
  });

  it('a cut-out takes what is near a colour, everywhere or where it grows, and what is outside an outline', () => {
    const row = dots([255, 255, 255], [250, 250, 250], [10, 10, 10], [255, 255, 255]);
    const cut = { kind: 'cut-out', by: 'colour', colour: '#ffffff', distance: 5, soft: 0 } as const;
    const seen = (points: [number, number][]) => of(row, { ...cut, points }).filter((_, i) => i % 4 === 3);
    expect(seen([])).toEqual([0, 0, 255, 0]);
    expect(seen([[0.1, 0.5]])).toEqual([0, 0, 255, 255]);
    const outline: [number, number][] = [
      [0, 0],
      [0.5, 0],
      [0.5, 1],
      [0, 1],
    ];
    const outside = of(row, { ...cut, by: 'outline', points: outline });
    expect(outside.filter((_, i) => i % 4 === 3)).toEqual([255, 255, 0, 0]);
  });

  it('a soft edge runs from seen to not seen', () => {
    const half: Pixels = { width: 40, height: 4, data: new Uint8Array(640).fill(255) };
    for (let y = 0; y < 4; y++) for (let x = 20; x < 40; x++) half.data.set([0, 0, 0, 255], 4 * (40 * y + x));
    const out = of(half, { kind: 'cut-out', by: 'colour', colour: '#ffffff', distance: 5, points: [], soft: 8 });
    const row = out.slice(0, 160).filter((_, i) => i % 4 === 3);
    expect([row[0], row[39]]).toEqual([0, 255]);
    expect(row.filter((alpha) => alpha > 10 && alpha < 245).length).toBeGreaterThanOrEqual(5);
    expect([...row].sort((a, b) => a - b)).toEqual(row);
  });

  it('blur keeps flat what is flat, and light where it was', () => {
    const flat: Pixels = { width: 30, height: 20, data: new Uint8Array(2400).fill(90) };
    for (let i = 3; i < 2400; i += 4) flat.data[i] = 255;
    expect(of(flat, { kind: 'blur', radius: 4 })).toEqual([...flat.data]);
    const source = sample(60, 40);
    const sum = (data: ArrayLike<number>) => Array.from(data).reduce((total, value) => total + value, 0);
    expect(sum(of(source, { kind: 'blur', radius: 3 })) / sum(source.data)).toBeCloseTo(1, 2);
  });

  it('what is turned one way and back again is nearly as it was in the middle', () => {
    const source = sample(80, 60);
    const turned = correct(source, [
      { kind: 'blur', radius: 2 },
      { kind: 'straighten', angle: 0 },
    ]);
    expect(turned.data).toEqual(correct(source, [{ kind: 'blur', radius: 2 }]).data);
    const middle = 4 * (30 * 80 + 40);
    const far = correct(source, [{ kind: 'straighten', angle: 12 }]);
    expect([...far.data.slice(middle + 3, middle + 4)]).toEqual([255]);
    expect(far.data.every((value, i) => i % 4 !== 3 || value === 255)).toBe(true);
  });

  const one: fc.Arbitrary<Correction> = fc.oneof(
    fc.record({
      kind: fc.constant('levels' as const),
      black: fc.double({ min: 0, max: 0.4, noNaN: true }),
      white: fc.double({ min: 0.6, max: 1, noNaN: true }),
      gamma: fc.double({ min: 0.5, max: 2, noNaN: true }),
    }),
    fc.record({ kind: fc.constant('exposure' as const), stops: fc.double({ min: -1, max: 1, noNaN: true }) }),
    fc.record({ kind: fc.constant('saturation' as const), amount: fc.double({ min: 0, max: 2, noNaN: true }) }),
    fc.record({ kind: fc.constant('contrast' as const), amount: fc.double({ min: -0.8, max: 0.5, noNaN: true }) }),
    fc.record({ kind: fc.constant('blur' as const), radius: fc.double({ min: 0.5, max: 4, noNaN: true }) }),
    fc.record({
      kind: fc.constant('sharpen' as const),
      radius: fc.double({ min: 0.5, max: 3, noNaN: true }),
      amount: fc.double({ min: 0, max: 2, noNaN: true }),
    }),
    fc.record({ kind: fc.constant('straighten' as const), angle: fc.double({ min: -20, max: 20, noNaN: true }) }),
  );
  it('leave the picture as it came, do nothing when switched off, and act the same at 8 and at 16 bits', () => {
    const source = sample(32, 24);
    const deep: Pixels = { ...source, data: Uint16Array.from(source.data, (part) => part * 257) };
    fc.assert(
      fc.property(fc.array(one, { maxLength: 3 }), (corrections) => {
        const before = source.data.slice();
        const shallow = correct(source, corrections);
        expect(source.data).toEqual(before);
        expect(
          correct(
            source,
            corrections.map((each) => ({ ...each, off: true as const })),
          ),
        ).toBe(source);
        const fine = correct(deep, corrections);
        let worst = 0;
        for (let i = 0; i < shallow.data.length; i++) worst = Math.max(worst, Math.abs(shallow.data[i]! - fine.data[i]! / 257));
        // Each step rounds, and a steep one carries what the one before rounded farther.
        expect(worst).toBeLessThan(14);
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('how different colours look', () => {
  // Pairs of the published test data (Sharma, Wu and Dalal, 2005, table 1).
  it.each([
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, 3.1571, -77.2803], [50, 0, -82.7485], 2.8615],
    [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1.0],
    [[50, 0, 0], [50, -1, 2], 2.3669],
    [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
    [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
    [[2.0776, 0.0795, -1.135], [0.9033, -0.0636, -0.5514], 0.9082],
  ] as const)('%j and %j differ by %d', (one, other, expected) => {
    expect(deltaE(one, other)).toBeCloseTo(expected, 4);
    expect(deltaE(other, one)).toBeCloseTo(expected, 4);
  });
});
