import { type Mesh, triangleCount } from '../../contracts/mesh';
import { seamsOf } from './measure';

/**
 * A mesh whose bodies face outwards. A body that is inside out has a volume below nothing and is no hollow of another one.
 * @returns the mesh itself where all is well, and how many bodies were turned
 */
export function facingOutwards(mesh: Mesh): { readonly mesh: Mesh; readonly turned: number } {
  const { positions: p, triangles } = mesh;
  const { open, body, bodies } = seamsOf(mesh);
  // What is open has no inside.
  if (open || !triangles.length) return { mesh, turned: 0 };
  const volumes = new Float64Array(bodies);
  const boxes = Array.from({ length: bodies }, () => [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);
  const origin = [p[0]!, p[1]!, p[2]!];
  for (let t = 0; t < triangleCount(mesh); t++) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((d) => p[3 * triangles[3 * t + k]! + d]! - origin[d]!)) as number[][];
    const box = boxes[body[t]!]!;
    for (const corner of [a!, b!, c!])
      for (let d = 0; d < 3; d++) {
        box[d] = Math.min(box[d]!, corner[d]!);
        box[3 + d] = Math.max(box[3 + d]!, corner[d]!);
      }
    volumes[body[t]!]! +=
      a![0]! * (b![1]! * c![2]! - b![2]! * c![1]!) +
      a![1]! * (b![2]! * c![0]! - b![0]! * c![2]!) +
      a![2]! * (b![0]! * c![1]! - b![1]! * c![0]!);
  }
  const isWithin = (inner: readonly number[], outer: readonly number[]): boolean =>
    [0, 1, 2].every((d) => outer[d]! <= inner[d]! && inner[3 + d]! <= outer[3 + d]!);
  // What lies within another body may be a hollow of it, which faces inwards.
  const outer = boxes.map((box, i) => !boxes.some((other, k) => k !== i && isWithin(box, other)));
  const isTurned = outer.map((isOuter, i) => isOuter && volumes[i]! < 0);
  const turned = isTurned.filter(Boolean).length;
  if (!turned) return { mesh, turned };
  // Where nothing faces outwards, hollows are as wrong as their bodies.
  const isWhole = outer.every((isOuter, i) => !isOuter || isTurned[i]);
  const back = triangles.slice();
  for (let t = 0; t < triangleCount(mesh); t++)
    if (isWhole || isTurned[body[t]!]) [back[3 * t], back[3 * t + 1]] = [back[3 * t + 1]!, back[3 * t]!];
  return { mesh: { ...mesh, triangles: back }, turned };
}
