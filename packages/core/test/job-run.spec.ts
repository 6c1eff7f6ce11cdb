import fc from 'fast-check';
import { BENCH } from '../../standins/src';
import { type Machining, codecOf, derive, machineOf, recipeOf } from '../src';
import { needleAt, runOf } from '../src/web';
import { sheet, ways } from './machine-sheets';
import { services } from './flat';
import { runs } from './depth';

const read = async (text: string): Promise<Machining> => {
  const codec = await codecOf('gcode');
  const { leaves } = await codec.read([{ part: '', bytes: new TextEncoder().encode(text) }], {}, services);
  return leaves[0]!.body as Machining;
};
const HEAD = ['G21 G90 G17', 'T1 M6', 'S12000 M3', 'G0 Z5'];
const program = (...lines: string[]): Promise<Machining> => read([...HEAD, ...lines, 'M5', 'M2', ''].join('\n'));
const router = machineOf('router');

describe('a job as it runs', () => {
  it('has its needle on the way of each move, a quarter turn half way along an arc', async () => {
    const run = runOf(await program('G0 X10 Y0', 'G1 Z-2 F300', 'G3 X-10 Y0 I-10 J0 F600', 'G0 Z5'), router);
    const arc = [...run.moves.motion].indexOf(3);
    const [from, to] = [run.times.begins[arc]!, run.times.ends[arc]!];
    const half = needleAt(run, (from + to) / 2)!;
    expect(half.move).toBe(arc);
    expect(half.place[0]).toBeCloseTo(0, 6);
    expect(half.place[1]).toBeCloseTo(10, 6);
    expect(half.place[2]).toBeCloseTo(-2, 6);
    expect(run.times.lengths[arc]).toBeCloseTo(10 * Math.PI, 6);
    // The arc reaches higher than any of its ends.
    expect(run.extents!.max[1]).toBeCloseTo(10, 1);
  });

  it('tells what is worked twice along the same way, in whichever direction, and not what lies deeper', async () => {
    const there = ['G0 X0 Y0', 'G1 Z-1 F300', 'G1 X50 F600'];
    expect(runOf(await program(...there, 'G1 X0'), router).twice).toBeCloseTo(50, 6);
    expect(runOf(await program(...there, 'G1 Z-2', 'G1 X0'), router).twice).toBe(0);
    const round = ['G0 X10 Y0', 'G1 Z-1 F300', 'G3 X-10 Y0 I-10 J0 F600'];
    expect(runOf(await program(...round, 'G2 X10 Y0 I10 J0'), router).twice).toBeCloseTo(10 * Math.PI, 6);
    expect(runOf(await program(...round, 'G3 X10 Y0 I10 J0'), router).twice).toBe(0);
  });

  it('has no needle where there is no move', async () => {
    const run = runOf(await read('G21 G90\nM2\n'), router);
    expect(needleAt(run, 0)).toBeNull();
    // One that never says where it is across.
    expect(runOf(await program('G1 X5 Z-1 F300'), router).extents).toBeNull();
    expect(run).toMatchObject({ seconds: 0, worked: 0, travelled: 0, extents: null, twice: 0 });
  });

  it('keeps time with the bench over sheets made by chance; its needle never jumps and ends where the last move does', async () => {
    await fc.assert(
      fc.asyncProperty(sheet, ways, async (master, options) => {
        const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00Z' }, recipeOf('gcode', options), services);
        const { bytes } = made.files[0]!;
        const run = runOf(await read(new TextDecoder().decode(bytes)), router);
        const report = BENCH['router']!(bytes);
        expect(Math.abs(run.seconds - report.seconds)).toBeLessThan(0.05 * report.seconds);
        const { count, ends } = run.moves;
        const last = needleAt(run, run.seconds)!;
        expect(last.move).toBe(count - 1);
        for (let axis = 0; axis < 3; axis++) expect(last.place[axis]).toBeCloseTo(ends[3 * count - 3 + axis]!, 6);
        // Between two moments it goes no further than the fastest way of the machine.
        const step = run.seconds / 97;
        const reach = (Math.max(router.rapid, ...run.moves.feed.filter((feed) => feed > 0)) / 60) * step + 1e-6;
        for (let i = 1; i < 97; i++) {
          const [a, b] = [needleAt(run, (i - 1) * step)!.place, needleAt(run, i * step)!.place];
          if (needleAt(run, (i - 1) * step)!.move > 0)
            expect(Math.hypot(...a.map((v, axis) => v - b[axis]!))).toBeLessThan(2 * reach);
        }
      }),
      { numRuns: runs(12) },
    );
  });
});
