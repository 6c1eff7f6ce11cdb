import { Triples } from './mesh';
import { type Box3, type Mesh, triangleCount } from '../../contracts/mesh';

// Looked up once: these run for every corner of a million.
const { min, max, hypot } = Math;

/** The box of all corners; null where there are none. */
export function boxOfMesh({ positions }: Pick<Mesh, 'positions'>): Box3 | null {
  if (!positions.length) return null;
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3)
    for (let k = 0; k < 3; k++) {
      const value = positions[i + k]!;
      if (value < min[k]!) min[k] = value;
      if (value > max[k]!) max[k] = value;
    }
  return { min, max };
}

export const sizesOf = ({ min, max }: Box3): [number, number, number] => [max[0] - min[0], max[1] - min[1], max[2] - min[2]];

/** Volume (mm³, by the divergence theorem) and area (mm²) of triangles. */
export function volumeAndArea({ positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>): {
  volume: number;
  area: number;
} {
  let [volume, area] = [0, 0];
  // About a corner of it: far from the origin, sums of large numbers would lose the small difference.
  const [ox, oy, oz] = [p[0] ?? 0, p[1] ?? 0, p[2] ?? 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!];
    const [ax, ay, az] = [p[a]! - ox, p[a + 1]! - oy, p[a + 2]! - oz];
    const [bx, by, bz] = [p[b]! - ox, p[b + 1]! - oy, p[b + 2]! - oz];
    const [cx, cy, cz] = [p[c]! - ox, p[c + 1]! - oy, p[c + 2]! - oz];
    volume += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    const [ux, uy, uz, vx, vy, vz] = [bx - ax, by - ay, bz - az, cx - ax, cy - ay, cz - az];
    area += hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx);
  }
  return { volume: volume / 6, area: area / 2 };
}

/** How the triangles of a mesh hang together. */
interface Seams {
  /** Edges with a triangle on one side only, or with two that face apart. */
  readonly open: number;
  /** Edges at which more than two triangles meet, or two say the same. */
  readonly crowded: number;
  /** A triangle at the first such edge; -1 where there is none. */
  readonly openAt: number;
  readonly crowdedAt: number;
  /** Of each triangle: the body that it belongs to. */
  readonly body: Int32Array;
  readonly bodies: number;
}

/** Which triangles meet at which edges, and which make one body. */
export function seamsOf(mesh: Pick<Mesh, 'triangles' | 'positions'>): Seams {
  const { triangles } = mesh;
  const count = triangleCount(mesh);
  const edges = new Int32Array(9 * count);
  const table = new Triples(edges, 3 * count);
  // Of each edge: how often it is run through forwards and backwards, and one of its triangles.
  const runs = new Int32Array(6 * count);
  const first = new Int32Array(3 * count).fill(-1);
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
    return at;
  };
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[3 * t + k]!, triangles[3 * t + ((k + 1) % 3)]!];
      const edge = table.add(min(a, b), max(a, b), 0);
      runs[2 * edge + (a < b ? 0 : 1)]!++;
      if (first[edge]! < 0) first[edge] = t;
      else parent[root(t)] = root(first[edge]!);
    }
  let [open, crowded, openAt, crowdedAt] = [0, 0, -1, -1];
  for (let e = 0; e < table.size; e++) {
    const [there, back] = [runs[2 * e]!, runs[2 * e + 1]!];
    if (there !== back) {
      open++;
      if (openAt < 0) openAt = first[e]!;
    } else if (there > 1) {
      crowded++;
      if (crowdedAt < 0) crowdedAt = first[e]!;
    }
  }
  const numbers = new Map<number, number>();
  const body = new Int32Array(count);
  for (let t = 0; t < count; t++) {
    const at = root(t);
    let number = numbers.get(at);
    if (number === undefined) numbers.set(at, (number = numbers.size));
    body[t] = number;
  }
  return { open, crowded, openAt, crowdedAt, body, bodies: numbers.size };
}

/** The middle of a triangle. */
export function middleOf({ positions, triangles }: Pick<Mesh, 'positions' | 'triangles'>, t: number): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  for (let k = 0; k < 3; k++) for (let d = 0; d < 3; d++) sum[d]! += positions[3 * triangles[3 * t + k]! + d]! / 3;
  return sum;
}
