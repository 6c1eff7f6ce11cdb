import { type Mesh, triangleCount } from '../../contracts/mesh';
import { TriangleTree } from './tree';

/** Pairs that are looked at: thousands of triangles around one corner all lie in each other's boxes. */
const MOST_LOOKS = 1e8;
/** Crossings after which nothing more is counted. */
const MOST = 1000;

/**
 * Whether an edge pierces a triangle: its ends lie on both sides, farther from it than `near`, and it goes through its inside
 * (Möller, Trumbore 1997, for the three edges of a triangle).
 */
function pierces(
  { positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>,
  from: number,
  to: number,
  t: number,
  near: number,
): boolean {
  const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
  const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
  const [ux, uy, uz] = [p[b]! - ax, p[b + 1]! - ay, p[b + 2]! - az];
  const [vx, vy, vz] = [p[c]! - ax, p[c + 1]! - ay, p[c + 2]! - az];
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const size = Math.hypot(nx, ny, nz);
  if (!size) return false;
  const [sx, sy, sz] = [p[from]! - ax, p[from + 1]! - ay, p[from + 2]! - az];
  const [ex, ey, ez] = [p[to]! - ax, p[to + 1]! - ay, p[to + 2]! - az];
  const [start, end] = [(nx * sx + ny * sy + nz * sz) / size, (nx * ex + ny * ey + nz * ez) / size];
  if (start * end >= 0 || Math.abs(start) < near || Math.abs(end) < near) return false;
  const share = start / (start - end);
  const [x, y, z] = [sx + share * (ex - sx), sy + share * (ey - sy), sz + share * (ez - sz)];
  // The place within the triangle, by shares of its two sides.
  const along = (px: number, py: number, pz: number, qx: number, qy: number, qz: number): number =>
    (nx * (py * qz - pz * qy) + ny * (pz * qx - px * qz) + nz * (px * qy - py * qx)) / (size * size);
  const [s, r] = [along(x, y, z, vx, vy, vz), along(ux, uy, uz, x, y, z)];
  const edge = near / Math.sqrt(size);
  return s > edge && r > edge && s + r < 1 - edge;
}

/** On which sides of the plane of a triangle others lie. */
class Plane {
  private readonly place = new Float64Array(6);

  constructor(private readonly positions: Float64Array) {}

  /** @returns whether it has a plane */
  set(a: number, b: number, c: number): boolean {
    const { positions: p, place } = this;
    const [ux, uy, uz] = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!];
    const [vx, vy, vz] = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!];
    place[0] = uy * vz - uz * vy;
    place[1] = uz * vx - ux * vz;
    place[2] = ux * vy - uy * vx;
    const size = Math.sqrt(place[0] * place[0] + place[1] * place[1] + place[2] * place[2]);
    if (!size) return false;
    for (let d = 0; d < 3; d++) {
      place[d]! /= size;
      place[3 + d] = p[a + d]!;
    }
    return true;
  }

  /** The distance of a corner, mm; below nothing on the other side. */
  side(at: number): number {
    const { positions: p, place: n } = this;
    return n[0]! * (p[at]! - n[3]!) + n[1]! * (p[at + 1]! - n[4]!) + n[2]! * (p[at + 2]! - n[5]!);
  }
}

/**
 * Triangles that go through others of the same mesh, at most 1,000 pairs, and one of them. Those that share a corner, touch, or lie
 * on each other are none.
 * @returns whether all were looked at, besides
 * @param near what is nearer than this share of the whole size is a touch
 * @param most pairs that are looked at
 */
export function crossingsOf(
  mesh: Mesh,
  near = 1e-6,
  most = MOST_LOOKS,
): { readonly count: number; readonly at: number; readonly isWhole: boolean } {
  const { triangles } = mesh;
  const tree = new TriangleTree(mesh);
  const touch = near * tree.size;
  const plane = new Plane(mesh.positions);
  let [count, at, t, a, b, c, looks] = [0, -1, 0, 0, 0, 0, 0];
  const meet = (other: number): void => {
    looks++;
    if (other <= t) return;
    const [d, e, f] = [triangles[3 * other]!, triangles[3 * other + 1]!, triangles[3 * other + 2]!];
    if (d === a || d === b || d === c || e === a || e === b || e === c || f === a || f === b || f === c) return;
    const [sd, se, sf] = [plane.side(3 * d), plane.side(3 * e), plane.side(3 * f)];
    // What lies on one side of its plane does not cross it.
    if ((sd > -touch && se > -touch && sf > -touch) || (sd < touch && se < touch && sf < touch)) return;
    const [own, others] = [
      [a, b, c],
      [d, e, f],
    ];
    for (let k = 0; k < 3; k++)
      if (
        pierces(mesh, 3 * own[k]!, 3 * own[(k + 1) % 3]!, other, touch) ||
        pierces(mesh, 3 * others[k]!, 3 * others[(k + 1) % 3]!, t, touch)
      ) {
        count++;
        if (at < 0) at = t;
        return;
      }
  };
  for (; t < triangleCount(mesh) && count < MOST && looks < most; t++) {
    a = triangles[3 * t]!;
    b = triangles[3 * t + 1]!;
    c = triangles[3 * t + 2]!;
    if (plane.set(3 * a, 3 * b, 3 * c)) tree.visitBox(t, meet);
  }
  return { count, at, isWhole: looks < most };
}
