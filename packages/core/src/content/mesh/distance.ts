import type { Mesh } from '../../contracts/mesh';
import { NearSurface } from './near';
import { TriangleTree } from './tree';

// Looked up once: these run for every corner of a million.
const { sqrt, min, max, ceil, round } = Math;

/** What is off the other side's surface. */
export interface SurfaceDeviation {
  readonly triangle: number;
  /** mm, and where. */
  readonly distance: number;
  readonly place: readonly [number, number, number];
}

/** Samples that are taken inside of triangles together, at most. */
const MOST_SAMPLES = 400_000;
/** Steps along a side of a large triangle, at most. */
const MOST_STEPS = 24;

/** Places that are not near and whose distance is measured, about; of more, every so-manieth. */
const MEASURED = 60_000;

/** What is known of a surface that was asked before: many copies are held against one master. */
interface Known {
  readonly triangles: Mesh['triangles'];
  tree?: TriangleTree;
  near?: { readonly reach: number; readonly enough: number; readonly cells: NearSurface };
}
const surfaces = new WeakMap<Mesh['positions'], Known>();

function knownOf({ positions, triangles }: Mesh): Known {
  let known = surfaces.get(positions);
  if (known?.triangles !== triangles) surfaces.set(positions, (known = { triangles }));
  return known;
}
const treeOf = (mesh: Mesh): TriangleTree => (knownOf(mesh).tree ??= new TriangleTree(mesh));

function nearOf(mesh: Mesh, reach: number, enough: number): NearSurface {
  const known = knownOf(mesh);
  if (known.near?.reach !== reach || known.near.enough !== enough)
    known.near = { reach, enough, cells: new NearSurface(mesh, reach, enough) };
  return known.near.cells;
}

/** The worst place of a triangle so far. */
class Worst {
  distance = 0;
  readonly place: [number, number, number] = [0, 0, 0];

  constructor(
    private readonly other: TriangleTree,
    private readonly near: NearSurface | null,
    private readonly enough: number,
    /** Whether how far it is off is measured, or it is enough that it is. */
    private readonly measured = true,
  ) {}

  at(x: number, y: number, z: number): void {
    if (this.near?.has(x, y, z)) return;
    const off = this.measured || !this.near ? this.other.distance(x, y, z, this.enough / 2) : 1.01 * this.enough;
    if (off <= this.distance) return;
    this.distance = off;
    this.place[0] = x;
    this.place[1] = y;
    this.place[2] = z;
  }
}

/**
 * The triangles that are farther from the other surface than the tolerance somewhere (as in Cignoni, Rocchini, Scopigno 1998):
 * each is looked at in its corners and its middle, and where that tells nothing, along its sides and inside, as densely as
 * `spacing` says.
 * @param spacing between samples, mm
 */
export function offSurface(
  of: Mesh,
  which: readonly number[],
  other: Mesh,
  tolerance: number,
  spacing: number,
): SurfaceDeviation[] {
  const { positions: p, triangles } = of;
  const tree = treeOf(other);
  // Many places that are mostly near are asked of cells first.
  const near = which.length > 200 ? nearOf(other, 150 * spacing, tolerance) : null;
  const corners = new Map<number, Worst>();
  const found: SurfaceDeviation[] = [];
  const quiet: number[] = [];
  const report = (triangle: number, { distance, place }: Worst): void => {
    found.push({ triangle, distance, place: [...place] });
  };
  const every = ceil(which.length / MEASURED);
  which.forEach((t, i) => {
    const measured = i % every === 0;
    const worst = new Worst(tree, near, tolerance, measured);
    const middle = [0, 0, 0];
    for (let k = 0; k < 3; k++) {
      const corner = triangles[3 * t + k]!;
      let known = corners.get(corner);
      if (!known) {
        corners.set(corner, (known = new Worst(tree, near, tolerance, measured)));
        known.at(p[3 * corner]!, p[3 * corner + 1]!, p[3 * corner + 2]!);
      }
      if (known.distance > worst.distance) {
        worst.distance = known.distance;
        worst.place.splice(0, 3, ...known.place);
      }
      for (let d = 0; d < 3; d++) middle[d]! += p[3 * corner + d]! / 3;
    }
    worst.at(middle[0]!, middle[1]!, middle[2]!);
    if (worst.distance > tolerance) report(t, worst);
    else quiet.push(t);
  });
  const steps = quiet.map((t) => stepsOf(of, t, spacing));
  const samples = steps.reduce((sum, n) => sum + (n * n) / 2, 0);
  // More than can be looked at: every so-manieth step less.
  const share = min(1, sqrt(MOST_SAMPLES / max(1, samples)));
  quiet.forEach((t, i) => {
    const n = max(2, round(steps[i]! * share));
    const worst = new Worst(tree, near, tolerance);
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!];
    for (let u = 0; u <= n; u++)
      for (let v = 0; v <= n - u; v++) {
        const w = n - u - v;
        if (u === n || v === n || w === n) continue;
        worst.at(
          (u * p[a]! + v * p[b]! + w * p[c]!) / n,
          (u * p[a + 1]! + v * p[b + 1]! + w * p[c + 1]!) / n,
          (u * p[a + 2]! + v * p[b + 2]! + w * p[c + 2]!) / n,
        );
      }
    if (worst.distance > tolerance) report(t, worst);
  });
  return found;
}

/** Steps along the longest side of a triangle. */
function stepsOf({ positions: p, triangles }: Mesh, t: number, spacing: number): number {
  let longest = 0;
  for (let k = 0; k < 3; k++) {
    const [a, b] = [3 * triangles[3 * t + k]!, 3 * triangles[3 * t + ((k + 1) % 3)]!];
    longest = max(longest, (p[a]! - p[b]!) ** 2 + (p[a + 1]! - p[b + 1]!) ** 2 + (p[a + 2]! - p[b + 2]!) ** 2);
  }
  return max(2, min(MOST_STEPS, ceil(sqrt(longest) / spacing)));
}
