import type { Deviation } from '../../base/geometry/farthest';
import type { MeshCarries } from './features';
import type { Mesh } from '../../contracts/mesh';
import { TriangleTree } from './tree';

/** Corners of the exact surface that are looked at; of more, every so-manieth. */
const MOST = 200_000;

/** What a target carries, its surfaces as exact as they are looked at; null where it holds them exactly. */
export const exactMesh = (carries: MeshCarries): MeshCarries | null =>
  typeof carries.shape === 'object' ? { ...carries, shape: 'kept' } : null;

/**
 * Where a copy's triangles are farthest from a solid's own surfaces: its corners lie on them, however round they are, so that
 * how far each is from the copy is how far its triangles cut off.
 */
export function farthestInMesh({ positions }: Mesh, copy: Mesh): Deviation | null {
  if (!positions.length || !copy.triangles.length) return null;
  const tree = new TriangleTree(copy);
  const step = 3 * Math.ceil(positions.length / 3 / MOST);
  let worst: Deviation = { amount: 0, at: [positions[0]!, positions[1]!, positions[2]!] };
  for (let i = 0; i < positions.length; i += step) {
    const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    // What is nearer than the worst so far need not be measured to its end.
    const amount = tree.distance(x, y, z, worst.amount);
    if (amount > worst.amount) worst = { amount, at: [x, y, z] };
  }
  return worst;
}
