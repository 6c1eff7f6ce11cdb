import { Triples } from './mesh';
import { type Mesh, triangleCount } from '../../contracts/mesh';
import { squareToTriangle } from './tree';

// Looked up once: these run for every corner of a million.
const { floor, min, max, sqrt } = Math;

/** Cells along the longest side, at most, and fewer for few triangles: large ones would be listed in thousands of them. */
const ACROSS = 96;
const across = (triangles: number): number => min(ACROSS, max(16, floor(2 * sqrt(triangles))));
/** Cells of the box of one triangle from which on it is looked at for every place instead. */
const MOST_CELLS = 60_000;

/**
 * Tells whether a surface is near a place. Long thin triangles, of which flat faces are made, make a hierarchy of boxes slow;
 * cells that list the triangles in them do not mind.
 */
export class NearSurface {
  private readonly step: number;
  private readonly table: Triples;
  private first: Int32Array;
  private next = new Int32Array(1 << 12);
  private triangle = new Int32Array(1 << 12);
  private count = 0;
  private readonly large: number[] = [];

  /** @param enough how near is near, mm */
  constructor(
    private readonly mesh: Pick<Mesh, 'positions' | 'triangles'>,
    reach: number,
    private readonly enough: number,
  ) {
    this.step = max(reach / across(triangleCount(mesh)), 4 * enough);
    const most = min(8_000_000, 64 * triangleCount(mesh) + 65_536);
    this.table = new Triples(new Int32Array(3 * most), most);
    this.first = new Int32Array(most).fill(-1);
    for (let t = 0; t < triangleCount(mesh); t++) this.enter(t, most);
  }

  private enter(t: number, most: number): void {
    const { positions: p, triangles } = this.mesh;
    const { step, enough } = this;
    const low = [0, 0, 0];
    const high = [0, 0, 0];
    for (let d = 0; d < 3; d++) {
      const a = p[3 * triangles[3 * t]! + d]!;
      const b = p[3 * triangles[3 * t + 1]! + d]!;
      const c = p[3 * triangles[3 * t + 2]! + d]!;
      low[d] = floor((min(a, b, c) - enough) / step);
      high[d] = floor((max(a, b, c) + enough) / step);
    }
    const cells = (high[0]! - low[0]! + 1) * (high[1]! - low[1]! + 1) * (high[2]! - low[2]! + 1);
    if (cells > MOST_CELLS || this.table.size + cells > most - 1) {
      this.large.push(t);
      return;
    }
    // A triangle that reaches into a cell is no farther from its middle than its corners are, and then as near as is enough.
    const reach = (step * sqrt(3)) / 2 + enough;
    for (let i = low[0]!; i <= high[0]!; i++)
      for (let j = low[1]!; j <= high[1]!; j++)
        for (let k = low[2]!; k <= high[2]!; k++)
          if (cells < 9 || squareToTriangle(this.mesh, t, (i + 0.5) * step, (j + 0.5) * step, (k + 0.5) * step) <= reach * reach)
            this.list(this.table.add(i, j, k), t);
  }

  private list(cell: number, t: number): void {
    if (this.count === this.next.length) {
      const [next, triangle] = [new Int32Array(2 * this.count), new Int32Array(2 * this.count)];
      next.set(this.next);
      triangle.set(this.triangle);
      this.next = next;
      this.triangle = triangle;
    }
    this.next[this.count] = this.first[cell]!;
    this.triangle[this.count] = t;
    this.first[cell] = this.count++;
  }

  /** Whether the surface is as near as is enough. */
  has(x: number, y: number, z: number): boolean {
    const most = this.enough * this.enough;
    const { step, mesh } = this;
    const cell = this.table.find(floor(x / step), floor(y / step), floor(z / step));
    if (cell >= 0)
      for (let at = this.first[cell]!; at >= 0; at = this.next[at]!)
        if (squareToTriangle(mesh, this.triangle[at]!, x, y, z) <= most) return true;
    for (const t of this.large) if (squareToTriangle(mesh, t, x, y, z) <= most) return true;
    return false;
  }
}
