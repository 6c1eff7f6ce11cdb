import { Triples } from './mesh';
import { type Mesh, triangleCount } from '../../contracts/mesh';

// Looked up once: these run for every corner of a million.
const { floor } = Math;

/** Which triangles of two meshes are the same, corner by corner. */
interface MatchedTriangles {
  /** Triangles of each side that the other has not got in the same place, facing the same way. */
  readonly master: readonly number[];
  readonly copy: readonly number[];
}

/** Numbers for the corners of both sides in which those are equal that are nearer to each other than the tolerance. */
function commonCorners(master: Mesh, copy: Mesh, tolerance: number): { master: Int32Array; copy: Int32Array } {
  const [m, c] = [master.positions, copy.positions];
  const count = m.length / 3;
  const cells = new Int32Array(m.length);
  const table = new Triples(cells, count + 1);
  // The corners of the master in each cell, as a list: the first of a cell, and the next of each.
  const first = new Int32Array(count).fill(-1);
  const next = new Int32Array(count).fill(-1);
  const own = new Int32Array(count);
  const cell = (value: number): number => floor(value / tolerance);
  for (let i = 0; i < count; i++) {
    own[i] = i;
    const at = table.add(cell(m[3 * i]!), cell(m[3 * i + 1]!), cell(m[3 * i + 2]!));
    next[i] = first[at]!;
    first[at] = i;
  }
  const others = new Int32Array(c.length / 3);
  const most = tolerance * tolerance;
  for (let j = 0; j < others.length; j++) {
    const x = c[3 * j]!;
    const y = c[3 * j + 1]!;
    const z = c[3 * j + 2]!;
    let best = most;
    let found = -1;
    const [cx, cy, cz] = [cell(x), cell(y), cell(z)];
    for (let dx = -1; dx <= 1; dx++)
      for (let dy = -1; dy <= 1; dy++)
        for (let dz = -1; dz <= 1; dz++) {
          const at = table.find(cx + dx, cy + dy, cz + dz);
          if (at < 0) continue;
          for (let i = first[at]!; i >= 0; i = next[i]!) {
            const square = (m[3 * i]! - x) ** 2 + (m[3 * i + 1]! - y) ** 2 + (m[3 * i + 2]! - z) ** 2;
            if (square < best || (square === best && found < 0)) {
              best = square;
              found = i;
            }
          }
        }
    others[j] = found >= 0 ? found : count + j;
  }
  return { master: own, copy: others };
}

/**
 * Finds equal triangles, however they are ordered, in time proportional to their number.
 * @param tolerance how far corners may be apart, mm
 */
export function matchTriangles(master: Mesh, copy: Mesh, tolerance: number): MatchedTriangles {
  const corners = commonCorners(master, copy, tolerance);
  const [m, c] = [triangleCount(master), triangleCount(copy)];
  const values = new Int32Array(3 * (m + 1));
  const table = new Triples(values, m + 1);
  // Of each different triangle: those of the master, as a list.
  const first = new Int32Array(m + 1).fill(-1);
  const next = new Int32Array(m).fill(-1);
  // Corners are named from the smallest on, so that the way it faces stays in the name.
  const named = <T>(triangles: Uint32Array, of: Int32Array, t: number, use: (a: number, b: number, c: number) => T): T => {
    const [x, y, z] = [of[triangles[3 * t]!]!, of[triangles[3 * t + 1]!]!, of[triangles[3 * t + 2]!]!];
    if (x <= y && x <= z) return use(x, y, z);
    return y <= x && y <= z ? use(y, z, x) : use(z, x, y);
  };
  for (let t = 0; t < m; t++) {
    const at = named(master.triangles, corners.master, t, (a, b, d) => table.add(a, b, d));
    next[t] = first[at]!;
    first[at] = t;
  }
  const matched = new Uint8Array(m);
  const left: number[] = [];
  for (let t = 0; t < c; t++) {
    const at = named(copy.triangles, corners.copy, t, (a, b, d) => table.find(a, b, d));
    const found = at < 0 ? -1 : first[at]!;
    if (found < 0) left.push(t);
    else {
      matched[found] = 1;
      first[at] = next[found]!;
    }
  }
  const missing: number[] = [];
  for (let t = 0; t < m; t++) if (!matched[t]) missing.push(t);
  return { master: missing, copy: left };
}
