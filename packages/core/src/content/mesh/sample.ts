import type { Sketch } from '../../base/bytes/sketch';
import type { Mesh } from '../../contracts/mesh';

/** Steps of a length that are told apart, mm. */
const STEP = 0.02;

/** Triangles by their sides, wherever they are and however they are turned. */
export function sampleMesh({ positions, triangles }: Mesh, into: Sketch): void {
  const side = (a: number, b: number): number =>
    Math.round(
      Math.hypot(
        positions[3 * a]! - positions[3 * b]!,
        positions[3 * a + 1]! - positions[3 * b + 1]!,
        positions[3 * a + 2]! - positions[3 * b + 2]!,
      ) / STEP,
    );
  for (let i = 0; i + 2 < triangles.length; i += 3) {
    const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!];
    into.add(...[side(a, b), side(b, c), side(c, a)].sort((x, y) => x - y));
  }
}
