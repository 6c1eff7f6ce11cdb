import type { Mesh } from '../../contracts/mesh';

// Looked up once: these run for every corner of a million.
const { imul, round, abs, sign, max } = Math;

/** A table that finds equal triples of whole numbers: open addressing over typed arrays. */
export class Triples {
  private readonly slots: Int32Array;
  private readonly mask: number;

  /** @param values three numbers a triple, which grow while triples are added */
  constructor(
    private readonly values: Int32Array,
    most: number,
    private count = 0,
  ) {
    let size = 16;
    while (size < 2 * most) size *= 2;
    this.slots = new Int32Array(size).fill(-1);
    this.mask = size - 1;
  }

  private slot(a: number, b: number, c: number): number {
    let hash = imul(a, 0x9e3779b1) ^ imul(b, 0x85ebca77) ^ imul(c, 0xc2b2ae3d);
    hash = imul(hash ^ (hash >>> 15), 0x2c1b3c6d);
    let at = (hash ^ (hash >>> 13)) & this.mask;
    for (;;) {
      const found = this.slots[at]!;
      if (found < 0) return at;
      const k = 3 * found;
      if (this.values[k] === a && this.values[k + 1] === b && this.values[k + 2] === c) return at;
      at = (at + 1) & this.mask;
    }
  }

  /** The number of a triple; -1 where there is none such. */
  find(a: number, b: number, c: number): number {
    return this.slots[this.slot(a, b, c)]!;
  }

  /** The number of a triple, which is added where it is new. */
  add(a: number, b: number, c: number): number {
    const slot = this.slot(a, b, c);
    const found = this.slots[slot]!;
    if (found >= 0) return found;
    const k = 3 * this.count;
    this.values[k] = a;
    this.values[k + 1] = b;
    this.values[k + 2] = c;
    this.slots[slot] = this.count;
    return this.count++;
  }

  get size(): number {
    return this.count;
  }
}

/** Corners that are nearer than this are one, mm: what is left of a kernel's and of single precision's rounding. */
const SAME = 1e-5;

/**
 * Triangles whose equal corners are one, without those that have no area.
 * @param corners three numbers a corner, mm
 * @param triangles corners by number; those in order where it is not there
 */
export function welded(
  corners: Float64Array | Float32Array,
  triangles?: Uint32Array,
  same = SAME,
): Pick<Mesh, 'positions' | 'triangles'> {
  const count = corners.length / 3;
  const cells = new Int32Array(3 * count);
  const table = new Triples(cells, count);
  const positions = new Float64Array(3 * count);
  const of = new Uint32Array(count);
  // The grid is as coarse as single precision is at the size of the whole.
  let reach = 0;
  for (let i = 0; i < corners.length; i++) {
    const size = abs(corners[i]!);
    if (size > reach) reach = size;
  }
  const step = max(same, reach * 3e-7);
  const place = new Float64Array(3);
  for (let i = 0; i < count; i++) {
    let found = -1;
    for (let k = 0; k < 3; k++) place[k] = corners[3 * i + k]! / step;
    const [a, b, c] = [round(place[0]!), round(place[1]!), round(place[2]!)];
    found = table.find(a, b, c);
    if (found < 0) {
      // Near the border of a cell, the equal one may lie in the next.
      for (let near = 1; near < 8 && found < 0; near++) {
        const [da, db, dc] = [near & 1, (near >> 1) & 1, (near >> 2) & 1];
        const [fa, fb, fc] = [place[0]! - a, place[1]! - b, place[2]! - c];
        if ((da && abs(fa) < 0.25) || (db && abs(fb) < 0.25) || (dc && abs(fc) < 0.25)) continue;
        found = table.find(a + da * sign(fa), b + db * sign(fb), c + dc * sign(fc));
      }
    }
    if (found < 0) {
      found = table.add(a, b, c);
      for (let k = 0; k < 3; k++) positions[3 * found + k] = corners[3 * i + k]!;
    }
    of[i] = found;
  }
  const given = triangles?.length ?? count;
  const out = new Uint32Array(given);
  let n = 0;
  for (let t = 0; t + 2 < given; t += 3) {
    const a = of[triangles ? triangles[t]! : t]!;
    const b = of[triangles ? triangles[t + 1]! : t + 1]!;
    const c = of[triangles ? triangles[t + 2]! : t + 2]!;
    if (a === b || b === c || c === a) continue;
    out[n++] = a;
    out[n++] = b;
    out[n++] = c;
  }
  return { positions: positions.slice(0, 3 * table.size), triangles: out.slice(0, n) };
}
