import * as fc from 'fast-check';
import { flatten, fromPoints } from '../src';
import { drawnAsOften } from '../src/evaluate/matching/visits';
import { pieceOf } from '../src/evaluate/matching/pieces';
import { plainStyle } from '../src/contracts/display-list';
import { runs } from './depth';
import { cpuTime } from './cpu-time';

const piece = (points: readonly number[]) =>
  pieceOf(points, { entry: 0, layer: 'cut', style: plainStyle, look: '', source: null });
const TOLERANCE = 0.01;
const line = [0, 0, 30, 0, 30, 20, 80, 20];
const box = [0, 0, 40, 0, 40, 20, 0, 20, 0, 0];

describe('lines that lie on each other', () => {
  it.each<[string, number[][], number[][]]>([
    ['there and back', [line], [[...line, 30, 20, 80, 20]]],
    ['a side six times', [box], [[...box, 40, 0, 0, 0, 40, 0, 0, 0]]],
    ['a stretch again', [line], [line, [5, 0, 6, 0]]],
    ['backing up within a side', [line], [[0, 0, 20, 0, 10, 0, 30, 0, 30, 20, 80, 20]]],
    ['run on over its beginning', [box], [[...box, 0.5, 0]]],
    ['both twice, of one only part', [line, line], [line, [0, 0, 30, 0, 30, 20]]],
  ])('%s is drawn more often, whichever side it is on', (_, a, b) => {
    expect(drawnAsOften(a.map(piece), b.map(piece), TOLERANCE)).toBe(false);
    expect(drawnAsOften(b.map(piece), a.map(piece), TOLERANCE)).toBe(false);
  });

  it('is drawn as often where it is cut, begun or turned otherwise, or trembles within the tolerance', () => {
    expect(drawnAsOften([piece(line)], [piece(line.slice(0, 4)), piece(line.slice(2))], TOLERANCE)).toBe(true);
    expect(drawnAsOften([piece(box)], [piece([40, 20, 0, 20, 0, 0, 40, 0, 40, 20])], TOLERANCE)).toBe(true);
    fc.assert(
      fc.property(fc.array(fc.double({ min: -0.004, max: 0.004, noNaN: true }), { minLength: 400, maxLength: 400 }), (off) => {
        const trembling = off.flatMap((by, i) => [i / 5, by]);
        const straight = [0, 0, 79.8, 0];
        for (const other of [straight, [79.8, 0, 0, 0]])
          expect(drawnAsOften([piece(trembling)], [piece(other)], TOLERANCE)).toBe(true);
      }),
      { numRuns: runs(30) },
    );
  });

  it('takes long curves that were cut into other chords without looking at them place by place', () => {
    const wave = fromPoints([[0, 0]], false);
    const curve = {
      ...wave,
      segments: Array.from({ length: 300 }, (_, i) => ({
        kind: 'cubic' as const,
        c1: [10 * i + 3, 9] as [number, number],
        c2: [10 * i + 7, -9] as [number, number],
        to: [10 * i + 10, 0] as [number, number],
      })),
    };
    const [fine, coarse] = [piece(flatten(curve, 0.0005)), piece(flatten(curve, 0.009))];
    expect(Math.abs(fine.length - coarse.length)).toBeGreaterThan(4 * TOLERANCE);
    const begun = cpuTime();
    for (let i = 0; i < 3; i++) expect(drawnAsOften([fine], [coarse], TOLERANCE)).toBe(true);
    expect(cpuTime() - begun).toBeLessThan(30_000);
  });
});
