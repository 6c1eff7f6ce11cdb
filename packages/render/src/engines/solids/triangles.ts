import { type Fineness, type Mesh, welded } from '@inkwell-twin/core';
import type { AnyShape } from 'replicad';
import type { Kernel } from './kernel';

/** Whether the kernel found no triangles for some face of a shape that has been meshed: its edges do not meet as finely as it says. */
export function hasBareFace({ oc }: Kernel, shape: AnyShape): boolean {
  const nowhere = new oc.TopLoc_Location();
  const found = shape.faces.some(({ wrapped }) => !oc.BRep_Tool.Triangulation(wrapped, nowhere, 0));
  nowhere.delete();
  return found;
}

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
