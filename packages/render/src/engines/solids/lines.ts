import type { Fineness, SolidLines, ViewName } from '@inkwell-twin/core';
import type { Edge, Shape3D } from 'replicad';
import type { Kernel } from './kernel';

/** Where the eye stands and what is to the right of it, for each view: the trade's first names of them. */
const EYES: Readonly<Record<ViewName, { from: [number, number, number]; right: [number, number, number] }>> = {
  front: { from: [0, -1, 0], right: [1, 0, 0] },
  back: { from: [0, 1, 0], right: [-1, 0, 0] },
  left: { from: [-1, 0, 0], right: [0, -1, 0] },
  right: { from: [1, 0, 0], right: [0, 1, 0] },
  top: { from: [0, 0, 1], right: [1, 0, 0] },
  bottom: { from: [0, 0, -1], right: [1, 0, 0] },
  isometric: { from: [1, -1, 1], right: [1, 1, 0] },
};

/** An edge as a run of points, finely enough that none is off by more than a chord. */
function runOf(edge: Edge, { chord, angle }: Fineness): number[] {
  const round = (value: number) => Math.round(value * 1e6) / 1e6;
  let parts = 1;
  if (edge.geomType !== 'LINE') {
    const length = edge.length;
    parts = Math.min(256, Math.max(8, Math.ceil(360 / angle / 2), Math.ceil(length / Math.max(0.2, 8 * chord))));
  }
  const run: number[] = [];
  for (let i = 0; i <= parts; i++) {
    const point = edge.pointAt(i / parts);
    run.push(round(point.x), round(point.y));
    point.delete();
  }
  return run;
}

/** A solid as it is seen, by the kernel's removal of hidden lines. */
export function linesOf({ r }: Kernel, shape: Shape3D, view: ViewName, how: Fineness): SolidLines {
  const { from, right } = EYES[view];
  const camera = new r.ProjectionCamera([0, 0, 0], from, right);
  const { visible, hidden } = r.makeProjectedEdges(shape, camera, true);
  return { visible: visible.map((edge) => runOf(edge, how)), hidden: hidden.map((edge) => runOf(edge, how)) };
}
