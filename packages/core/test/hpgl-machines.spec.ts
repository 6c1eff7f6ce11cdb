import { BENCH } from '../../standins/src';
import {
  SHIPPED_MACHINES,
  derive,
  fitOf,
  machineFit,
  machineFrom,
  machineWord,
  recipeOf,
  type Item,
  type Master,
  type ToolPath,
} from '../src';
import { layer, lined, masterWith, rectangle } from './build';
import { services } from './flat';

const cutter = SHIPPED_MACHINES.find(({ id }) => id === 'cutter')!;
/** One whose tool is as wide as its beam. */
const laser = machineFrom({
  ...cutter,
  id: 'laser',
  name: 'Laser',
  tools: [{ ...cutter.tools[0]!, kind: 'laser', name: 'Beam', diameter: 0.2, feed: 1200 }],
});
const disc: Item = {
  kind: 'ellipse',
  id: 'hole',
  name: 'Hole',
  layer: 'cut',
  style: lined('#14213a'),
  cx: 30,
  cy: 20,
  rx: 4,
  ry: 4,
};
const card = (...items: Item[]): Master =>
  masterWith(items, { layers: [layer('cut'), layer('print', 'print'), layer('score', 'score')] });
const revision = (master: Master) => ({ master, rev: 1, time: '2026-11-20T10:00:00Z' });
const made = async (master: Master, options: Record<string, unknown>) =>
  derive(revision(master), recipeOf('hpgl', options), services);

describe('a cut file for a machine that is named', () => {
  it('runs on the bench, holes before what they are in, and reads back as it was meant', async () => {
    const { files, defects, projection } = await made(card(rectangle('card'), disc), { machine: 'cutter' });
    expect(defects).toEqual([]);
    expect(BENCH['cutter']!(files[0]!.bytes)).toMatchObject({ runs: true, tools: [1] });
    const path = projection.leaves[0]!.body as ToolPath;
    expect([...path.source].map((number) => path.sources[number])).toEqual(['hole', 'card']);
  });

  it('goes beside its outlines by half the width of the tool', async () => {
    const { projection } = await made(card(rectangle('card'), disc), { machine: machineWord(laser) });
    const { points, firstPoint } = projection.leaves[0]!.body as ToolPath;
    const across = (stroke: number): number => {
      const xs = [...points.subarray(2 * firstPoint[stroke]!, 2 * firstPoint[stroke + 1]!)].filter((_, i) => i % 2 === 0);
      return Math.max(...xs) - Math.min(...xs);
    };
    // A hole of 8 mm and a card of 40 mm, to the steps of the format.
    expect(across(0)).toBeCloseTo(7.8, 1);
    expect(across(1)).toBeCloseTo(40.2, 1);
  });

  it('is held against the machine first, and says how long it takes', async () => {
    const wide = card(rectangle('card', 580, 10));
    const asked = recipeOf('hpgl', { machine: 'cutter' });
    expect((await fitOf(wide, asked, services)).map(({ kind }) => kind)).toEqual(['off the bed']);
    await expect(made(wide, { machine: 'cutter' })).rejects.toMatchObject({ code: 'does-not-fit' });
    const { job } = await machineFit(card(rectangle('card')), asked, services);
    const { files } = await made(card(rectangle('card')), { machine: 'cutter' });
    const { seconds } = BENCH['cutter']!(files[0]!.bytes);
    expect(Math.abs(job!.seconds - seconds) / seconds).toBeLessThan(0.05);
  });

  it('is for any where none is named, as copies from before are', async () => {
    const wide = card(rectangle('card', 580, 10));
    expect(await fitOf(wide, recipeOf('hpgl', {}), services)).toEqual([]);
    expect((await made(wide, {})).defects).toEqual([]);
  });
});
