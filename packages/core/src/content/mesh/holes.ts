import { Triples } from './mesh';
import { type Hole, type Mesh, triangleCount } from '../../contracts/mesh';

// Looked up once: these run for every corner of a million.
const { min, max, hypot, abs } = Math;

/** Neighbours in a round wall turn by at most this, and are not flat from this on; as cosines. */
const [MOST_TURN, FLAT] = [Math.cos((40 * Math.PI) / 180), Math.cos((0.2 * Math.PI) / 180)];
/** The widest gap between corners that still goes all the way around, radians. */
const WIDEST = (75 * Math.PI) / 180;
/** A direction off by less is the same. */
const ALONG = 2e-3;

type Vector = [number, number, number];
const dot = (a: readonly number[], b: readonly number[]): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
const cross = (a: readonly number[], b: readonly number[]): Vector => [
  a[1]! * b[2]! - a[2]! * b[1]!,
  a[2]! * b[0]! - a[0]! * b[2]!,
  a[0]! * b[1]! - a[1]! * b[0]!,
];

/** An axis pointing the way that its largest part is positive. */
export function oneWay(axis: readonly number[]): Vector {
  const largest = axis.reduce((best, value, k) => (abs(value) > abs(axis[best]!) + 1e-9 ? k : best), 0);
  const sign = axis[largest]! < 0 ? -1 : 1;
  return [sign * axis[0]!, sign * axis[1]!, sign * axis[2]!];
}

/** The direction in which a symmetric matrix (xx, yy, zz, xy, xz, yz) is smallest, and by how much of all (Jacobi's rotations). */
function smallest([xx, yy, zz, xy, xz, yz]: readonly number[]): { axis: Vector; share: number } {
  const m = [
    [xx!, xy!, xz!],
    [xy!, yy!, yz!],
    [xz!, yz!, zz!],
  ];
  const v = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  for (let sweep = 0; sweep < 24; sweep++)
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ] as const) {
      if (abs(m[p]![q]!) < 1e-300) continue;
      const turn = 0.5 * Math.atan2(2 * m[p]![q]!, m[q]![q]! - m[p]![p]!);
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      for (let k = 0; k < 3; k++) {
        const [a, b] = [m[k]![p]!, m[k]![q]!];
        m[k]![p] = c * a - s * b;
        m[k]![q] = s * a + c * b;
      }
      for (let k = 0; k < 3; k++) {
        const [a, b] = [m[p]![k]!, m[q]![k]!];
        m[p]![k] = c * a - s * b;
        m[q]![k] = s * a + c * b;
        const [d, e] = [v[k]![p]!, v[k]![q]!];
        v[k]![p] = c * d - s * e;
        v[k]![q] = s * d + c * e;
      }
    }
  const values = [m[0]![0]!, m[1]![1]!, m[2]![2]!];
  const least = values.indexOf(min(...values));
  const whole = values[0]! + values[1]! + values[2]!;
  return { axis: [v[0]![least]!, v[1]![least]!, v[2]![least]!], share: whole > 0 ? max(0, values[least]!) / whole : 1 };
}

/** Centre and radius of the circle that fits points best (Kåsa 1976), and how far they are from it at most. */
function circleThrough(points: readonly (readonly [number, number])[]): { x: number; y: number; r: number; off: number } | null {
  const n = points.length;
  const [mx, my] = [0, 1].map((k) => points.reduce((sum, point) => sum + point[k as 0 | 1], 0) / n) as [number, number];
  let [uu, vv, uv, uuu, vvv, uvv, vuu] = [0, 0, 0, 0, 0, 0, 0];
  for (const [x, y] of points) {
    const [u, v] = [x - mx, y - my];
    uu += u * u;
    vv += v * v;
    uv += u * v;
    uuu += u * u * u;
    vvv += v * v * v;
    uvv += u * v * v;
    vuu += v * u * u;
  }
  const whole = uu * vv - uv * uv;
  if (!(whole > 1e-18)) return null;
  const cx = (0.5 * (uuu + uvv) * vv - 0.5 * (vvv + vuu) * uv) / whole;
  const cy = (0.5 * (vvv + vuu) * uu - 0.5 * (uuu + uvv) * uv) / whole;
  const r = Math.sqrt(cx * cx + cy * cy + (uu + vv) / n);
  const off = max(...points.map(([x, y]) => abs(hypot(x - mx - cx, y - my - cy) - r)));
  return { x: cx + mx, y: cy + my, r, off };
}

function holeOf(
  walls: readonly number[],
  { positions, triangles }: Pick<Mesh, 'positions' | 'triangles'>,
  normals: Float64Array,
): Hole | null {
  const sums = [0, 0, 0, 0, 0, 0];
  const corners = new Set<number>();
  for (const t of walls) {
    const [x, y, z, area] = [normals[4 * t]!, normals[4 * t + 1]!, normals[4 * t + 2]!, normals[4 * t + 3]!];
    [x * x, y * y, z * z, x * y, x * z, y * z].forEach((value, k) => (sums[k]! += area * value));
    for (let k = 0; k < 3; k++) corners.add(triangles[3 * t + k]!);
  }
  const { axis, share } = smallest(sums);
  if (share > ALONG) return null;
  const helper: Vector = abs(axis[0]) < 0.8 ? [1, 0, 0] : [0, 1, 0];
  const length = hypot(...cross(axis, helper));
  const u = cross(axis, helper).map((value) => value / length) as Vector;
  const v = cross(axis, u);
  const flat: [number, number][] = [];
  let [low, high] = [Infinity, -Infinity];
  for (const corner of corners) {
    const place = positions.subarray(3 * corner, 3 * corner + 3) as unknown as number[];
    flat.push([dot(place, u), dot(place, v)]);
    const along = dot(place, axis);
    low = min(low, along);
    high = max(high, along);
  }
  const circle = circleThrough(flat);
  if (!circle || circle.off > max(0.005 * circle.r, 0.002)) return null;
  const angles = flat.map(([x, y]) => Math.atan2(y - circle.y, x - circle.x)).sort((a, b) => a - b);
  const gaps = angles.map((angle, i) => (i ? angle - angles[i - 1]! : angle + 2 * Math.PI - angles.at(-1)!));
  if (max(...gaps) > WIDEST) return null;
  const middle = (low + high) / 2;
  const at = [0, 1, 2].map((k) => u[k]! * circle.x + v[k]! * circle.y + axis[k]! * middle) as Vector;
  return { at, axis: oneWay(axis), diameter: 2 * circle.r, depth: high - low };
}

/** Normals and areas of triangles, four numbers each. */
function normalsOf({ positions: p, triangles }: Pick<Mesh, 'positions' | 'triangles'>): Float64Array {
  const out = new Float64Array((4 * triangles.length) / 3);
  for (let t = 0; 3 * t < triangles.length; t++) {
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    const n = cross(
      [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!],
      [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!],
    );
    const length = hypot(...n) || 1;
    for (let k = 0; k < 3; k++) out[4 * t + k] = n[k]! / length;
    out[4 * t + 3] = length / 2;
  }
  return out;
}

/**
 * The round holes of a mesh: facets that turn inwards step by step about one axis, all the way around, on one circle.
 * @returns in order of their places
 */
export function holesOf(mesh: Pick<Mesh, 'positions' | 'triangles'>): Hole[] {
  const { positions, triangles } = mesh;
  const count = triangleCount(mesh);
  const normals = normalsOf(mesh);
  const table = new Triples(new Int32Array(9 * count), 3 * count);
  const sides = new Int32Array(6 * count).fill(-1);
  for (let t = 0; t < count; t++)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [triangles[3 * t + k]!, triangles[3 * t + ((k + 1) % 3)]!];
      const edge = table.add(min(a, b), max(a, b), 0);
      sides[2 * edge + (sides[2 * edge]! < 0 ? 0 : 1)] = t;
    }
  // Of each edge: 2 where the wall turns inwards, 1 where it is flat, 0 else.
  const turns = new Uint8Array(table.size);
  const round = new Uint8Array(count);
  for (let e = 0; e < table.size; e++) {
    const [s, t] = [sides[2 * e]!, sides[2 * e + 1]!];
    if (t < 0) continue;
    let cosine = 0;
    let inwards = 0;
    for (let k = 0; k < 3; k++) {
      cosine += normals[4 * s + k]! * normals[4 * t + k]!;
      let [from, to] = [0, 0];
      for (let j = 0; j < 3; j++) {
        from += positions[3 * triangles[3 * s + j]! + k]!;
        to += positions[3 * triangles[3 * t + j]! + k]!;
      }
      inwards += normals[4 * s + k]! * (to - from);
    }
    if (cosine >= FLAT) turns[e] = 1;
    else if (cosine > MOST_TURN && inwards > 0) {
      turns[e] = 2;
      round[s] = round[t] = 1;
    }
  }
  const parent = Int32Array.from({ length: count }, (_, i) => i);
  const root = (i: number): number => {
    let at = i;
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!;
    return at;
  };
  for (let e = 0; e < table.size; e++) {
    const [s, t] = [sides[2 * e]!, sides[2 * e + 1]!];
    if (turns[e] === 2 || (turns[e] === 1 && round[s] && round[t])) parent[root(s)] = root(t);
  }
  const walls = new Map<number, number[]>();
  for (let t = 0; t < count; t++) {
    if (!round[t]) continue;
    const at = root(t);
    const list = walls.get(at);
    if (list) list.push(t);
    else walls.set(at, [t]);
  }
  return inOrder([...walls.values()].flatMap((list) => (list.length < 6 ? [] : (holeOf(list, mesh, normals) ?? []))));
}

/** Holes in the order in which a person would count them: from above, along x, then up. */
export const inOrder = (holes: readonly Hole[]): Hole[] =>
  [...holes].sort(
    (a, b) => Math.round(a.at[2] - b.at[2]) || Math.round(a.at[1] - b.at[1]) || a.at[0] - b.at[0] || a.diameter - b.diameter,
  );

interface HolePair {
  /** The number of the master's hole, or null where the copy alone has it. */
  readonly master: number | null;
  readonly copy: number | null;
  /** How far the axes are apart, mm. */
  readonly apart: number;
}

/** How far the axes of two holes are apart, mm; infinite where they point elsewhere. */
export function apartBy(a: Hole, b: Hole): number {
  if (abs(dot(a.axis, b.axis)) < 1 - 1e-3) return Infinity;
  const between = [0, 1, 2].map((k) => b.at[k]! - a.at[k]!);
  const along = dot(between, a.axis);
  // Two holes one behind the other are two.
  const gap = max(0, abs(along) - (a.depth + b.depth) / 2);
  return hypot(...between.map((value, k) => value - along * a.axis[k]!)) + gap;
}

/** Which hole of the copy is which of the master's: those that overlap first, nearest first, then those of one size that moved. */
export function pairHoles(master: readonly Hole[], copy: readonly Hole[]): HolePair[] {
  const free = new Set(copy.keys());
  const found = new Map<number, { copy: number; apart: number }>();
  const take = (near: (a: Hole, b: Hole, apart: number) => boolean): void => {
    const all = master
      .flatMap((a, i) =>
        found.has(i)
          ? []
          : [...free].map((j) => ({ i, j, apart: apartBy(a, copy[j]!), weight: abs(a.diameter - copy[j]!.diameter) })),
      )
      .filter(({ i, j, apart }) => near(master[i]!, copy[j]!, apart))
      .sort((a, b) => a.apart + a.weight - b.apart - b.weight);
    for (const { i, j, apart } of all)
      if (!found.has(i) && free.has(j)) {
        found.set(i, { copy: j, apart });
        free.delete(j);
      }
  };
  take((a, b, apart) => apart <= max(a.diameter, b.diameter) / 2);
  take((a, b, apart) => Number.isFinite(apart) && abs(a.diameter - b.diameter) <= 0.02 * a.diameter);
  return [
    ...master.map((_, i): HolePair => ({ master: i, copy: found.get(i)?.copy ?? null, apart: found.get(i)?.apart ?? 0 })),
    ...[...free].map((j): HolePair => ({ master: null, copy: j, apart: 0 })),
  ];
}
