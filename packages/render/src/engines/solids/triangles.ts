import { type Fineness, type Mesh, welded } from '@inkwell-twin/core';
import type { AnyShape } from 'replicad';
import type { Kernel } from './kernel';

/** The triangles of a shape. What it was meshed with before is forgotten: equal shapes give equal triangles. */
export function trianglesOf(
  { oc }: Kernel,
  shape: AnyShape,
  { chord: least, angle, share = 0 }: Fineness,
): Pick<Mesh, 'positions' | 'triangles' | 'chord'> {
  const [low, high] = shape.boundingBox.bounds;
  const chord = Math.max(least, share * Math.hypot(...[0, 1, 2].map((k) => high[k as 0] - low[k as 0])));
  oc.BRepTools.Clean(shape.wrapped, true);
  const { vertices, triangles } = shape.mesh({ tolerance: chord, angularTolerance: (angle * Math.PI) / 180 });
  return { ...welded(Float64Array.from(vertices), Uint32Array.from(triangles)), chord };
}
