import { planSolid } from '@inkwell-twin/core';
import { solidEngine } from '../src';
import { knob, masterOf, means, plate } from './part';

it('makes a solid', async () => {
  const master = masterOf(plate(), knob());
  const mesh = await solidEngine.mesh(planSolid(master, plate(), means.fonts), { chord: 0.05, angle: 12 });
  expect(mesh.exact!.holes.map(({ diameter }) => Number(diameter.toFixed(6))).sort()).toEqual([4, 5, 6.5, 7]);
});
