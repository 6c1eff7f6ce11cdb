import type { Mesh } from './mesh';
import { TriangleTree } from './tree';

/** What is off the other side's surface. */
export interface Off {
  readonly triangle: number;
  /** mm, and where. */
  readonly distance: number;
  readonly place: readonly [number, number, number];
}

/** Samples that are taken of all triangles together, at most. */
const MOST_SAMPLES = 3_000_000;
/** Steps along a side of a large triangle, at most. */
const MOST_STEPS = 24;

/**
 * The triangles that are farther from the other surface than the tolerance somewhere: sampled at corners, along sides and inside,
 * as densely as `spacing` says (as in Cignoni, Rocchini, Scopigno 1998).
 * @param spacing between samples, mm
 */
export function offSurface(of: Mesh, which: readonly number[], other: TriangleTree, tolerance: number, spacing: number): Off[] {
  const { positions: p, triangles } = of;
  const done = new Uint8Array(p.length / 3);
  const cornerOff = new Float64Array(p.length / 3);
  const found: Off[] = [];
  const stepsOf = (t: number, space: number): number => {
    let longest = 0;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [3 * triangles[3 * t + k]!, 3 * triangles[3 * t + ((k + 1) % 3)]!];
      longest = Math.max(longest, (p[a]! - p[b]!) ** 2 + (p[a + 1]! - p[b + 1]!) ** 2 + (p[a + 2]! - p[b + 2]!) ** 2);
    }
    return Math.max(2, Math.min(MOST_STEPS, Math.ceil(Math.sqrt(longest) / space)));
  };
  const samples = which.reduce((sum, t) => sum + (stepsOf(t, spacing) + 1) ** 2 / 2, 0);
  const space = samples > MOST_SAMPLES ? spacing * Math.sqrt(samples / MOST_SAMPLES) : spacing;
  for (const t of which) {
    const [ia, ib, ic] = [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!];
    const [a, b, c] = [3 * ia, 3 * ib, 3 * ic];
    const n = stepsOf(t, space);
    let worst = 0;
    let place: [number, number, number] = [0, 0, 0];
    const sample = (x: number, y: number, z: number): number => {
      const off = other.distance(x, y, z, tolerance / 2);
      if (off > worst) {
        worst = off;
        place = [x, y, z];
      }
      return off;
    };
    const corner = (i: number): void => {
      if (!done[i]) {
        done[i] = 1;
        cornerOff[i] = sample(p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!);
      } else if (cornerOff[i]! > worst) {
        worst = cornerOff[i]!;
        place = [p[3 * i]!, p[3 * i + 1]!, p[3 * i + 2]!];
      }
    };
    corner(ia);
    corner(ib);
    corner(ic);
    for (let i = 0; i <= n; i++)
      for (let j = 0; j <= n - i; j++) {
        const k = n - i - j;
        if (i === n || j === n || k === n) continue;
        sample(
          (i * p[a]! + j * p[b]! + k * p[c]!) / n,
          (i * p[a + 1]! + j * p[b + 1]! + k * p[c + 1]!) / n,
          (i * p[a + 2]! + j * p[b + 2]! + k * p[c + 2]!) / n,
        );
      }
    sample((p[a]! + p[b]! + p[c]!) / 3, (p[a + 1]! + p[b + 1]! + p[c + 1]!) / 3, (p[a + 2]! + p[b + 2]! + p[c + 2]!) / 3);
    if (worst > tolerance) found.push({ triangle: t, distance: worst, place });
  }
  return found;
}
