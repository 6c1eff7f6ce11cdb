import { type Fineness, type Mesh, welded } from '@inkwell-twin/core';
import type { AnyShape } from 'replicad';
import type { Kernel } from './kernel';

/** The triangles of a shape. What it was meshed with before is forgotten: equal shapes give equal triangles. */
export function trianglesOf({ oc }: Kernel, shape: AnyShape, { chord, angle }: Fineness): Pick<Mesh, 'positions' | 'triangles'> {
  oc.BRepTools.Clean(shape.wrapped, true);
  const { vertices, triangles } = shape.mesh({ tolerance: chord, angularTolerance: (angle * Math.PI) / 180 });
  return welded(Float64Array.from(vertices), Uint32Array.from(triangles));
}
