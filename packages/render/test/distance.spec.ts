import { addFormats, checkCopy, derive, recipeOf } from '@inkwell-twin/core';
import { nodeFormats } from '../src';
import { masterOf, services, plate, time } from './part';

addFormats(nodeFormats);
const master = masterOf(plate());

/** How far a fresh copy of the solids is from them, and its proof. */
async function offOf(target: string, options: Record<string, number | string>) {
  const recipe = recipeOf(target, options);
  const { files } = await derive({ master, rev: 1, time }, recipe, services);
  const input = { files, intact: true, says: '', recipe, current: master, baseline: master };
  const { verdict, off, proof } = await checkCopy(input, services, true);
  expect(verdict).toBe('in step');
  return { off, proof };
}

describe('how far triangles are from the solid itself', () => {
  it.each([0.5, 0.1])('by no more than the chord, and not far below: %f mm', async (chord) => {
    const { off, proof } = await offOf('obj', { chord, angle: 45 });
    const { amount, at } = off!;
    expect(amount).toBeLessThanOrEqual(chord * 1.05);
    expect(amount).toBeGreaterThan(chord / 5);
    expect(at).toHaveLength(3);
    const [x, y, z] = at.map((value) => value.toFixed(2));
    expect(proof).toContain(`It is up to ${amount.toFixed(3)} mm from the master’s own surfaces, at x ${x}, y ${y}, z ${z} mm.`);
  });

  it('nothing is told where surfaces are held exactly', async () => {
    const { off, proof } = await offOf('step', {});
    expect(off).toBeNull();
    expect(proof).not.toContain('up to');
  });
});
