import { type Mesh, triangleCount } from '../../contracts/mesh';

// Looked up once: these run for every corner of a million.
const { floor, sqrt } = Math;

/** Triangles in a leaf. */
const LEAF = 6;

/**
 * Finds the nearest triangle of a mesh: a hierarchy of boxes over triangles sorted along the longest side of each box (as in
 * Wald, Boulos, Shirley 2007, with halves in the place of a cost).
 */
export class TriangleTree {
  private readonly order: Uint32Array;
  /** Six numbers a node; the children of node i are 2 i + 1 and 2 i + 2. */
  private readonly boxes: Float64Array;
  private readonly depth: number;
  private readonly leaves: number;

  constructor(private readonly mesh: Pick<Mesh, 'positions' | 'triangles'>) {
    const count = triangleCount(mesh);
    this.order = Uint32Array.from({ length: count }, (_, i) => i);
    this.depth = Math.max(0, Math.ceil(Math.log2(Math.max(1, count / LEAF))));
    this.leaves = 2 ** this.depth;
    this.boxes = new Float64Array(6 * (2 * this.leaves - 1));
    const middles = new Float64Array(3 * count);
    const { positions, triangles } = mesh;
    for (let t = 0; t < count; t++)
      for (let d = 0; d < 3; d++)
        middles[3 * t + d] =
          positions[3 * triangles[3 * t]! + d]! +
          positions[3 * triangles[3 * t + 1]! + d]! +
          positions[3 * triangles[3 * t + 2]! + d]!;
    this.build(0, 0, count, middles);
  }

  private bounds(leaf: number, count: number): [number, number] {
    return [floor((leaf * count) / this.leaves), floor(((leaf + 1) * count) / this.leaves)];
  }

  private build(node: number, from: number, to: number, middles: Float64Array): void {
    const { boxes, order } = this;
    const { positions, triangles } = this.mesh;
    const at = 6 * node;
    for (let d = 0; d < 3; d++) {
      let [low, high] = [Infinity, -Infinity];
      for (let i = from; i < to; i++)
        for (let k = 0; k < 3; k++) {
          const value = positions[3 * triangles[3 * order[i]! + k]! + d]!;
          if (value < low) low = value;
          if (value > high) high = value;
        }
      boxes[at + d] = low;
      boxes[at + 3 + d] = high;
    }
    if (2 * node + 2 >= 2 * this.leaves - 1) return;
    let axis = 0;
    for (let d = 1; d < 3; d++) if (boxes[at + 3 + d]! - boxes[at + d]! > boxes[at + 3 + axis]! - boxes[at + axis]!) axis = d;
    // The halves are those that the leaves below will count.
    const level = floor(Math.log2(node + 1));
    const inLevel = node + 1 - 2 ** level;
    const span = this.leaves / 2 ** level;
    const count = triangleCount(this.mesh);
    const middle = this.bounds(inLevel * span + span / 2, count)[0];
    select(order, middles, axis, from, to - 1, middle);
    this.build(2 * node + 1, from, middle, middles);
    this.build(2 * node + 2, middle, to, middles);
  }

  private squareTo(node: number, x: number, y: number, z: number): number {
    const boxes = this.boxes;
    const at = 6 * node;
    const dx = x < boxes[at]! ? boxes[at]! - x : x > boxes[at + 3]! ? x - boxes[at + 3]! : 0;
    const dy = y < boxes[at + 1]! ? boxes[at + 1]! - y : y > boxes[at + 4]! ? y - boxes[at + 4]! : 0;
    const dz = z < boxes[at + 2]! ? boxes[at + 2]! - z : z > boxes[at + 5]! ? z - boxes[at + 5]! : 0;
    return dx * dx + dy * dy + dz * dz;
  }

  private readonly stack = new Int32Array(128);
  private readonly squares = new Float64Array(128);

  private readonly box = new Float64Array(6);

  /** The longest side of the box of all. */
  get size(): number {
    const { boxes } = this;
    return Math.max(boxes[3]! - boxes[0]!, boxes[4]! - boxes[1]!, boxes[5]! - boxes[2]!);
  }

  /** Visits the triangles in boxes that reach into that of a triangle; some of them may lie beside it. */
  visitBox(t: number, visit: (triangle: number) => void): void {
    const { stack, boxes, order } = this;
    const { positions: p, triangles } = this.mesh;
    for (let d = 0; d < 3; d++) {
      const [x, y, z] = [p[3 * triangles[3 * t]! + d]!, p[3 * triangles[3 * t + 1]! + d]!, p[3 * triangles[3 * t + 2]! + d]!];
      this.box[d] = x < y ? (x < z ? x : z) : y < z ? y : z;
      this.box[3 + d] = x > y ? (x > z ? x : z) : y > z ? y : z;
    }
    const [x0, y0, z0, x1, y1, z1] = this.box as unknown as [number, number, number, number, number, number];
    let top = 1;
    stack[0] = 0;
    while (top) {
      const node = stack[--top]!;
      const at = 6 * node;
      if (x1 < boxes[at]! || y1 < boxes[at + 1]! || z1 < boxes[at + 2]!) continue;
      if (x0 > boxes[at + 3]! || y0 > boxes[at + 4]! || z0 > boxes[at + 5]!) continue;
      if (2 * node + 2 < 2 * this.leaves - 1) {
        stack[top++] = 2 * node + 1;
        stack[top++] = 2 * node + 2;
        continue;
      }
      const leaf = node - (this.leaves - 1);
      const to = floor(((leaf + 1) * order.length) / this.leaves);
      for (let i = floor((leaf * order.length) / this.leaves); i < to; i++) visit(order[i]!);
    }
  }

  /**
   * Distance from a place to the surface, mm; what is nearer than `enough` is as good as the nearest.
   */
  distance(x: number, y: number, z: number, enough = 0): number {
    const { stack, squares, order } = this;
    const nodes = 2 * this.leaves - 1;
    const goal = enough * enough;
    let best = Infinity;
    let top = 0;
    stack[0] = 0;
    squares[0] = this.squareTo(0, x, y, z);
    top = 1;
    while (top) {
      top--;
      if (squares[top]! >= best) continue;
      const node = stack[top]!;
      if (2 * node + 2 >= nodes) {
        const leaf = node - (this.leaves - 1);
        const to = floor(((leaf + 1) * order.length) / this.leaves);
        for (let i = floor((leaf * order.length) / this.leaves); i < to; i++) {
          const square = squareToTriangle(this.mesh, order[i]!, x, y, z);
          if (square < best) {
            best = square;
            if (best <= goal) return sqrt(best);
          }
        }
        continue;
      }
      const left = 2 * node + 1;
      const a = this.squareTo(left, x, y, z);
      const b = this.squareTo(left + 1, x, y, z);
      // The nearer one is looked at first.
      const first = a < b ? 0 : 1;
      const far = first ? a : b;
      const near = first ? b : a;
      if (far < best) {
        stack[top] = left + 1 - first;
        squares[top++] = far;
      }
      if (near < best) {
        stack[top] = left + first;
        squares[top++] = near;
      }
    }
    return sqrt(best);
  }
}

/** The square of the distance from a place to a triangle (Ericson 2004, 5.1.5). */
export function squareToTriangle(
  mesh: Pick<Mesh, 'positions' | 'triangles'>,
  t: number,
  x: number,
  y: number,
  z: number,
): number {
  const p = mesh.positions;
  const triangles = mesh.triangles;
  const a = 3 * triangles[3 * t]!;
  const b = 3 * triangles[3 * t + 1]!;
  const c = 3 * triangles[3 * t + 2]!;
  const ax = p[a]!;
  const ay = p[a + 1]!;
  const az = p[a + 2]!;
  const ux = p[b]! - ax;
  const uy = p[b + 1]! - ay;
  const uz = p[b + 2]! - az;
  const vx = p[c]! - ax;
  const vy = p[c + 1]! - ay;
  const vz = p[c + 2]! - az;
  const wx = x - ax;
  const wy = y - ay;
  const wz = z - az;
  const d1 = ux * wx + uy * wy + uz * wz;
  const d2 = vx * wx + vy * wy + vz * wz;
  let s = 0;
  let r = 0;
  if (d1 > 0 || d2 > 0) {
    const uu = ux * ux + uy * uy + uz * uz;
    const uv = ux * vx + uy * vy + uz * vz;
    const vv = vx * vx + vy * vy + vz * vz;
    const d3 = d1 - uu;
    const d4 = d2 - uv;
    const d5 = d1 - uv;
    const d6 = d2 - vv;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    if (d3 >= 0 && d4 <= d3) s = 1;
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) s = d1 / (d1 - d3);
    else if (d6 >= 0 && d5 <= d6) r = 1;
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) r = d2 / (d2 - d6);
    else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      r = (d4 - d3) / (d4 - d3 + (d5 - d6));
      s = 1 - r;
    } else {
      const whole = va + vb + vc;
      if (whole > 0) {
        s = vb / whole;
        r = vc / whole;
      }
    }
  }
  const px = ax + s * ux + r * vx;
  const py = ay + s * uy + r * vy;
  const pz = az + s * uz + r * vz;
  const square = (px - x) * (px - x) + (py - y) * (py - y) + (pz - z) * (pz - z);
  return square;
}

/** Puts the k-th along an axis where it would be if they were sorted, smaller ones before it (Hoare's selection). */
function select(order: Uint32Array, middles: Float64Array, axis: number, from: number, to: number, k: number): void {
  let [low, high] = [from, to];
  while (low < high) {
    const pivot = middles[3 * order[(low + high) >> 1]! + axis]!;
    let [i, j] = [low, high];
    while (i <= j) {
      while (middles[3 * order[i]! + axis]! < pivot) i++;
      while (middles[3 * order[j]! + axis]! > pivot) j--;
      if (i <= j) {
        const swap = order[i]!;
        order[i++] = order[j]!;
        order[j--] = swap;
      }
    }
    if (k <= j) high = j;
    else if (k >= i) low = i;
    else return;
  }
}
