import { type Exact, type Hole, inOrder, oneWay } from '@inkwell-twin/core';
import type { Face, Shape3D } from 'replicad';
import type { Kernel } from './kernel';

type Spot = [number, number, number];

/** A part of a round wall that faces its axis. */
interface Wall {
  readonly axis: Spot;
  /** Where the axis comes nearest to the origin. */
  readonly foot: Spot;
  readonly radius: number;
  readonly sweep: number;
  /** Along the axis, from its foot. */
  readonly low: number;
  readonly high: number;
}

const dot = (a: readonly number[], b: readonly number[]): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;

interface Cylinder {
  Axis(): { Location(): { X(): number; Y(): number; Z(): number }; Direction(): { X(): number; Y(): number; Z(): number } };
  Radius(): number;
}

function wallOf(face: Face): Wall | null {
  if (face.geomType !== 'CYLINDRE') return null;
  const cylinder = (face.surface.wrapped as { Cylinder(): Cylinder }).Cylinder();
  const [place, direction] = [cylinder.Axis().Location(), cylinder.Axis().Direction()];
  const axis = oneWay([direction.X(), direction.Y(), direction.Z()]);
  const at: Spot = [place.X(), place.Y(), place.Z()];
  const { uMin, uMax } = face.UVBounds;
  const middle = face.pointOnSurface(0.5, 0.5);
  const normal = face.normalAt(middle.toTuple());
  const [point, facing] = [middle.toTuple(), normal.toTuple()];
  const out = point.map((value, k) => value - at[k]!);
  const along = dot(out, axis);
  const radial = out.map((value, k) => value - along * axis[k]!);
  if (dot(radial, facing) > 0) return null;
  const [low, high] = [0, 1].map((v) => dot(face.pointOnSurface(0, v).toTuple(), axis)) as [number, number];
  const foot = dot(at, axis);
  return {
    axis,
    foot: at.map((value, k) => value - foot * axis[k]!) as Spot,
    radius: cylinder.Radius(),
    sweep: uMax - uMin,
    low: Math.min(low, high),
    high: Math.max(low, high),
  };
}

/** Round walls about one axis, put together where they follow each other. */
function holesIn(faces: readonly Face[]): Hole[] {
  const walls = faces.flatMap((face) => wallOf(face) ?? []);
  const groups: Wall[][] = [];
  for (const wall of walls) {
    const group = groups.find(
      ([first]) =>
        Math.abs(first!.radius - wall.radius) < 1e-5 &&
        dot(first!.axis, wall.axis) > 1 - 1e-9 &&
        Math.hypot(...first!.foot.map((value, k) => value - wall.foot[k]!)) < 1e-5,
    );
    if (group) group.push(wall);
    else groups.push([wall]);
  }
  return groups.flatMap((group) => {
    const sorted = [...group].sort((a, b) => a.low - b.low);
    const runs: Wall[][] = [];
    let end = -Infinity;
    for (const wall of sorted) {
      if (wall.low > end + 1e-4) runs.push([]);
      runs.at(-1)!.push(wall);
      end = Math.max(end, wall.high);
    }
    return runs.flatMap((run): Hole[] => {
      const { axis, foot, radius } = run[0]!;
      const [low, high] = [run[0]!.low, Math.max(...run.map((wall) => wall.high))];
      // Its walls cover the whole way round over all of its depth, as far as faces say by their bounds.
      const covered = run.reduce((sum, wall) => sum + wall.sweep * (wall.high - wall.low), 0);
      if (covered < 0.98 * 2 * Math.PI * (high - low)) return [];
      return [
        {
          axis,
          diameter: 2 * radius,
          depth: high - low,
          at: foot.map((value, k) => value + ((low + high) / 2) * axis[k]!) as Spot,
        },
      ];
    });
  });
}

/** What the kernel measures of a shape. */
export function factsOf({ r }: Kernel, shape: Shape3D): Exact {
  const faces = shape.faces;
  return {
    volume: r.measureVolume(shape),
    area: r.measureArea(shape),
    bodies: shape.solids.length,
    faces: faces.length,
    holes: inOrder(holesIn(faces)),
  };
}
