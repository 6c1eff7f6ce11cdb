import fc from 'fast-check';
import { type Machining, codecOf, machineOf } from '../src';
import { runOf } from '../src/evaluate/machines/run';
import { Stock } from '../src/evaluate/machines/stock';
import { runs } from './depth';
import { services } from './flat';

const router = machineOf('router');
const jobOf = async (text: string) => {
  const { leaves } = await (
    await codecOf('gcode')
  ).read([{ part: '', bytes: new TextEncoder().encode(`G21 G90\n${text}M2\n`) }], {}, services);
  return runOf(leaves[0]!.body as Machining, router);
};
const all = (run: Awaited<ReturnType<typeof jobOf>>): Stock => {
  const stock = new Stock(run, router);
  if (run.moves.count) stock.to({ move: run.moves.count - 1, share: 1, place: [0, 0, 0] });
  return stock;
};
/** What is taken away, mm³. */
const taken = ({ heights, cell, thickness }: Stock): number =>
  heights.reduce((sum, z) => sum + Math.min(thickness, -z), 0) * cell * cell;
const near = (a: number, b: number, share: number) => expect(Math.abs(a - b)).toBeLessThan(share * b);

describe('what is left of the stock', () => {
  it('is a groove as wide as the tool and as deep as it went, with round ends', async () => {
    const stock = all(await jobOf('T1 M6\nG0 X20 Y20 Z5\nG1 Z-4 F400\nX80\nG0 Z5\n'));
    near(taken(stock), 4 * (60 * 6 + Math.PI * 9), 0.02);
    expect(stock.heightAt(50, 22.8)).toBe(-4);
    expect(stock.heightAt(50, 23.3)).toBe(0);
    expect(stock.heightAt(17.3, 20)).toBe(-4);
  });

  it('is a ring where an arc goes round, and slopes where the tool goes down along its way', async () => {
    near(
      taken(all(await jobOf('T2 M6\nG0 X60 Y50 Z5\nG1 Z-2 F400\nG3 X60 Y50 I-20 J0\nG0 Z5\n'))),
      2 * 2 * Math.PI * 20 * 3,
      0.03,
    );
    const sloping = all(await jobOf('T2 M6\nG0 X20 Y20 Z0\nG1 X80 Z-6 F400\nG0 Z5\n'));
    expect(sloping.heightAt(50, 20)).toBeCloseTo(-3 - 0.15, 1);
    near(taken(sloping), (60 * 3 * 6) / 2 + (Math.PI * 2.25 * 6) / 2, 0.06);
  });

  it('is there at every moment: forward step by step, and back again', async () => {
    const run = await jobOf('T1 M6\nG0 X20 Y20 Z5\nG1 Z-4 F400\nX80\nY60\nX20\nG0 Z5\n');
    const stock = new Stock(run, router);
    const at = (move: number, share: number): Float32Array => {
      stock.to({ move, share, place: [0, 0, 0] });
      return stock.heights.slice();
    };
    const steps = [at(2, 0.25), at(2, 0.75), at(3, 0.5), at(4, 1)];
    expect(stock.heightAt(35, 20)).toBe(-4);
    const back = [at(4, 1), at(3, 0.5), at(2, 0.75), at(2, 0.25)];
    back.reverse().forEach((heights, i) => expect([...heights]).toEqual([...steps[i]!]));
    expect(stock.heightAt(70, 20)).toBe(0);
  });

  it('is open where it is cut through, and its solid is as large as what is left', async () => {
    const stock = all(await jobOf('T1 M6\nG0 X40 Y40 Z5\nG1 Z-9.3 F400\nX50\nY50\nG0 Z5\n'));
    const { positions, triangles } = stock.mesh('#c8a878');
    // Six times the volume, from corners to the origin.
    let six = 0;
    for (let t = 0; t < triangles.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((axis) => positions[3 * triangles[t + k]! + axis]!));
      if (a![2] === b![2] && b![2] === c![2])
        six += 3 * a![2]! * ((b![0]! - a![0]!) * (c![1]! - a![1]!) - (c![0]! - a![0]!) * (b![1]! - a![1]!));
    }
    const whole = stock.across * stock.up * stock.cell ** 2 * stock.thickness;
    near(six / 6, whole - taken(stock), 1e-6);
    expect(Math.min(...positions.filter((_, i) => i % 3 === 2))).toBe(-9);
  });

  it('is never higher than any point of the way of the tool, and untouched beyond its reach', async () => {
    const place = fc.record({
      x: fc.integer({ min: 0, max: 90 }),
      y: fc.integer({ min: 0, max: 60 }),
      z: fc.integer({ min: -9, max: 3 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(place, { minLength: 2, maxLength: 6 }), async (way) => {
        const lines = way.map(({ x, y, z }, i) => `${i ? 'G1' : 'G0'} X${x} Y${y} Z${i ? z : 5} F600\n`).join('');
        const stock = all(await jobOf(`T1 M6\n${lines}`));
        const steps = way.slice(1).flatMap((to, i) => {
          const from = i ? way[i]! : { ...way[0]!, z: 5 };
          return Array.from({ length: 200 }, (_, k) => ({
            x: from.x + ((to.x - from.x) * k) / 199,
            y: from.y + ((to.y - from.y) * k) / 199,
            z: from.z + ((to.z - from.z) * k) / 199,
          }));
        });
        for (let k = 0; k < stock.heights.length; k += 97) {
          const x = stock.at[0] + ((k % stock.across) + 0.5) * stock.cell;
          const y = stock.at[1] + (Math.floor(k / stock.across) + 0.5) * stock.cell;
          const lowest = (radius: number) =>
            steps.reduce((low, one) => (Math.hypot(one.x - x, one.y - y) <= radius ? Math.min(low, one.z) : low), 0);
          expect(stock.heights[k]!).toBeLessThanOrEqual(lowest(2.9) + 1e-4);
          expect(stock.heights[k]!).toBeGreaterThanOrEqual(lowest(3.6) - 1e-4);
        }
      }),
      { numRuns: runs(25) },
    );
  });
});
