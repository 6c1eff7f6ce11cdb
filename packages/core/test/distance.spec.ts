import { type Item, type Options, checkCopy, derive, recipeOf } from '../src';
import { shippedFonts } from '../../render/src';
import { lined, masterWith, rectangle } from './build';

const services = { fonts: shippedFonts() };
const circle = (id: string, cx: number, cy: number, rx: number, ry = rx): Item => ({
  kind: 'ellipse',
  id,
  layer: 'cut',
  style: lined('#14213a'),
  cx,
  cy,
  rx,
  ry,
});

/** How far a fresh copy is from its master, and its proof. */
async function offOf(items: Item[], target: string, options: Options) {
  const master = masterWith(items);
  const recipe = recipeOf(target, options);
  const { files } = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
  const input = { files, intact: true, says: '', recipe, current: master, baseline: master };
  const { verdict, off, proof } = await checkCopy(input, services, true);
  expect(verdict).toBe('in step');
  return { off, proof };
}

describe('how far a copy is from the master itself', () => {
  it.each([1, 0.3, 0.05])('a circle of short lines is as far off as its chords are: chord %f mm', async (chord) => {
    const [cx, cy, r] = [100, 50, 30];
    const { off, proof } = await offOf([rectangle('r', 5, 5), circle('c', cx, cy, r)], 'hpgl', { chord });
    const { amount, at } = off!;
    // Within the chord and the steps that a plotter goes in, and not far below: the arrow of equal parts of the circle.
    expect(amount).toBeLessThanOrEqual(chord + 0.02);
    expect(amount).toBeGreaterThan(chord / 3);
    expect(Math.abs(Math.hypot(at[0]! - cx, at[1]! - cy) - r)).toBeLessThan(0.002);
    expect(proof).toContain(`It is up to ${amount.toFixed(3)} mm from the master’s own lines, at x `);
  });

  it('the farthest of several is told, with its place', async () => {
    const { off } = await offOf([circle('a', 20, 20, 3), circle('b', 120, 60, 30, 12)], 'dxf', { version: 'R12', chord: 0.5 });
    expect(off!.at[0]).toBeGreaterThan(80);
    expect(off!.amount).toBeGreaterThan(0.01);
    expect(off!.amount).toBeLessThanOrEqual(0.5);
  });

  it('nothing is told where every line is as it is', async () => {
    const { off, proof } = await offOf([circle('a', 20, 20, 3)], 'svg', {});
    expect(off).toBeNull();
    expect(proof).not.toContain('up to');
  });
});
